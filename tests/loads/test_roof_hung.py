"""What hangs in roofs: rafters at ridge beams, tails on headers, headers on trimmers, each with a hanger; as much as the load path has it."""

import pytest
from tests.framing.test_roof_openings import house
from tests.framing.test_surface_roofs import roofed
from tests.loads.test_beams import balanced

from balken.catalog.sections import section
from balken.demo import orchard_road
from balken.derive import derive
from balken.loads.cases import total
from balken.model import edits
from balken.model.naming import kind_of
from balken.model.roof_edits import add_roof_opening, set_side
from balken.panel.card_parts import Fact
from balken.panel.cards_layouts import piece_card
from balken.session.session import Session
from balken.units.system import FOOT

RECTANGLE = [(0, 0), (40, 0), (40, 28), (0, 28)]


def gabled(**fields):
    p = edits.change(roofed(RECTANGLE, **fields), "roof-1", ridge_made="beam")
    for wall in ("wall-2", "wall-4"):
        p = set_side(p, "roof-1", wall, kind="gable")
    return p


def test_rafters_hang_at_a_ridge_beam_and_bring_what_it_carries():
    model = derive(gabled(overhang=0.0))
    framing = model.planes["roof-1"]
    ridge = next(m for m in framing.members if m.member.role == "ridge")
    hung = [h for h in model.hangers if h.on == ridge.key]
    rafters = [m for m in framing.members if m.wall and m.member.head.kind == "ridge"]
    assert {h.member for h in hung} == {m.key for m in rafters}
    assert all(h.hanger and h.used <= 1.0 for h in hung)
    # By hand: each brings half of its strip from eave to ridge, 14 ft at 16 in.
    spacing = model.designs[("roof-1", "rafters")].spacing
    snow = model.project.loads.ground_snow * spacing * 14.0 * FOOT / 2.0 / 1000.0
    assert hung[5].load.snow == pytest.approx(snow, rel=0.01)
    # Boards on which rafters lean, and beams under them, have no hangers.
    for made in ("board", "under"):
        other = derive(edits.change(gabled(), "roof-1", ridge_made=made))
        assert not [h for h in other.hangers if kind_of(h.member) == "plane-rafter"]


@pytest.mark.parametrize("made", ["beam", "board"])
def test_tails_and_headers_of_an_opening_hang(made):
    model = derive(house(made=made))
    framing = model.planes["roof-1"]
    low, high = framing.headers
    tails = {m.key: m.member for m in framing.members if m.member.role == "tail rafter"}
    for header in (low, high):
        mine = [h for h in model.hangers if h.on == header.key]
        assert {h.member for h in mine} == {
            key for key, m in tails.items() if (m.head if header is low else m.foot).kind == "header"
        }
        assert all(h.hanger for h in mine)
        ends = [h for h in model.hangers if h.member == header.key]
        assert {h.on for h in ends} == {*header.trimmers}
        # A header is made for the heaviest of its tails side by side: no less than these bring.
        assert total(h.load for h in ends).snow >= total(h.load for h in mine).snow * 0.98
        assert ends[0].load.snow == pytest.approx(ends[1].load.snow)
    # What lies above an opening leans on a ridge board, or hangs half at a beam.
    above = next(h for h in model.hangers if h.on == high.key)
    run = abs(tails[above.member].end[1] - tails[above.member].start[1])
    spacing = model.designs[("roof-1", "rafters")].spacing
    part = 1.0 if made == "board" else 0.5
    assert above.load.snow == pytest.approx(model.project.loads.ground_snow * spacing * run * part / 1000.0, rel=0.02)
    balanced(model)


def test_the_demo_hangs_what_its_openings_cut_and_a_card_says_on_what():
    session = Session(orchard_road())
    model = session.model
    headers = [h for framing in model.planes.values() for h in framing.headers if h.key.startswith("roof-1/")]
    assert headers
    for header in headers:
        ends = [h for h in model.hangers if h.member == header.key]
        assert len(ends) == 2
        assert all(h.hanger and section(h.size).breadth > 0.0 for h in ends)
    card = piece_card(session, model.pieces[headers[0].key])
    labels = [part.label for part in card.parts if isinstance(part, Fact)]
    assert labels.count("Hanger at rafter of Main roof") == 2


def test_what_no_hanger_of_the_list_fits_is_told():
    p = add_roof_opening(gabled(), "roof-1", "wall-1", 10.0 * FOOT, 3.0 * FOOT, width=10.0 * FOOT, length=4.0 * FOOT)
    p = edits.set_loads(p, ground_snow=12.0, roof_live=12.0)
    model = derive(p)
    told = [f for f in model.findings if f.code == "hanger"]
    assert told
    assert {f.stage for f in told} == {"roof"}
