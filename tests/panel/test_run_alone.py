"""What is typed on the card of one footing or foundation wall changes that run alone; the concrete at its corners stays whole."""

import pytest

from balken.demo import orchard_road
from balken.derive import derive
from balken.model.foundation_edits import run_apart
from balken.model.naming import footing_of
from balken.panel.card_parts import Entry, Note
from balken.panel.cards_layouts import piece_card
from balken.session.session import Session
from balken.units.system import INCH


def concrete(model):
    return sum(p.volume for p in model.of_foundations("foundation wall", "strip footing"))


@pytest.mark.parametrize("which", range(4))
def test_a_run_apart_is_the_same_concrete(which):
    p = orchard_road()
    foundation = p.foundations[0]
    wall = foundation.walls[which]
    apart, own = run_apart(p, foundation.id, wall)
    assert own != foundation.id
    assert [f.walls for f in apart.foundations if f.id == own] == [(wall,)]
    assert wall not in next(f for f in apart.foundations if f.id == foundation.id).walls
    before, after = derive(p), derive(apart)
    assert concrete(after) == pytest.approx(concrete(before), rel=1e-9)
    assert not after.findings
    assert {r.wall for r in apart.recesses} == {r.wall for r in p.recesses}
    assert run_apart(apart, own, wall) == (apart, own)


def test_the_card_says_whose_it_is_and_changes_that_alone():
    session = Session(orchard_road())
    foundation = session.project.foundations[0]
    wall = foundation.walls[1]
    name = footing_of(f"{foundation.id}/{wall}")
    session.select([name])
    card = piece_card(session, session.model.piece(name))
    (note,) = [part for part in card.parts if isinstance(part, Note) and "alone" in part.text]
    assert "Wall 3" in note.text
    assert foundation.name in note.text
    width = next(part for part in card.parts if isinstance(part, Entry) and part.label == "Footing width")
    others = {r.id: session.model.footings[r.id].width for r in session.model.runs}
    assert session.apply("Footing width", width.commit("2'-6\""))
    made = {r.wall: session.model.footings[r.id].width for r in session.model.runs}
    assert made[wall] == pytest.approx(30.0 * INCH)
    for run, was in others.items():
        if not run.endswith(f"/{wall}"):
            assert made[run.split("/")[1]] == pytest.approx(was)
    # It stays selected, on the foundation it has now; one step of undo takes all of it back.
    (now,) = session.selection
    assert now != name
    assert now.split("/")[1:] == name.split("/")[1:]
    session.undo()
    assert session.project.foundations[0].walls == foundation.walls
    assert session.selection == (name,)
