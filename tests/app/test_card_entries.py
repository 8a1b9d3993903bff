"""Every entry of every card and every field of every dialog: typed back, chosen, and fed with nonsense."""

import math

import msgspec
import pytest
from PySide6.QtWidgets import QLineEdit
from tests.shop import shop

from balken.app.card import TABLE, _show_rows, _table
from balken.app.dialogs import LevelDialog
from balken.app.pads_dialog import PadsDialog
from balken.app.set_out_dialogs import ColumnsDialog, GridDialog
from balken.app.slope_dialog import SlopeDialog
from balken.app.wall_dialogs import (
    CopyToLevelDialog,
    MirrorDialog,
    MoveDialog,
    NextStoreyDialog,
    OffsetDialog,
    SplitDialog,
    TurnDialog,
)
from balken.demo import orchard_road
from balken.model import edits, wall_edits
from balken.model.errors import EditError
from balken.panel.card_content import card
from balken.panel.card_parts import Entry, Rows
from balken.panel.stages import STAGES
from balken.session.session import Session
from balken.units import UnitError, Units
from balken.units.system import FOOT

KINDS = ("walls", "openings", "foundations", "floors", "roofs", "levels", "grids", "pads", "slabs", "recesses", "spots")
NONSENSE = ("", "x'", "-1e9", "nan", "0", "1e400", "12'-13 1/0\"", "@2,5", "\u221e", "7 and 8", "1" * 400, "=1+1")
OF_WALLS = (MoveDialog, TurnDialog, MirrorDialog, OffsetDialog, SplitDialog, CopyToLevelDialog)
"""Offered with walls selected."""
OF_ALL = (LevelDialog, GridDialog, ColumnsDialog, PadsDialog, SlopeDialog, NextStoreyDialog)


def things(project):
    """Return the ids of the first and last of each kind, of an axis, a step and a slope."""
    found = []
    for kind in KINDS:
        records = getattr(project, kind)
        found += [records[0].id, records[-1].id] if records else []
    grid = project.grids[0]
    found += [f"{grid.id}/{grid.x_axes[0].id}", f"{grid.id}/{grid.y_axes[-1].id}"]
    found += [f"{f.id}/step/0" for f in project.foundations if f.steps][:1]
    found += [f"{f.id}/slope/0" for f in project.foundations if f.slopes][:1]
    return list(dict.fromkeys(found))


PROJECT = orchard_road()
CASES = [("", stage.name) for stage in STAGES] + [(ref, "check") for ref in things(PROJECT)]


def entries_of(session, ref, stage):
    session.select([ref] if ref else [])
    return [part for part in card(session, stage).parts if isinstance(part, Entry)]


def made(entry, typed, project):
    """Return the project with a value typed, or None and why it cannot be; any other error is a fault."""
    try:
        return entry.commit(typed)(project), ""
    except (EditError, UnitError) as error:
        return None, str(error)


def figures(value):
    """Yield every number in a record made of plain values."""
    if isinstance(value, float):
        yield value
    elif isinstance(value, dict):
        yield from figures(list(value.values()))
    elif isinstance(value, (list, tuple)):
        for item in value:
            yield from figures(item)


@pytest.fixture(scope="module", params=list(Units), ids=lambda units: units.name.lower())
def session(request, qapp):
    return Session(edits.set_project(PROJECT, units=request.param))


@pytest.mark.parametrize(("ref", "stage"), CASES, ids=lambda v: v or "none")
def test_what_a_field_shows_can_be_typed_back(session, ref, stage):
    """Every field of the card then shows what it showed."""
    shown = [(e.label, e.value) for e in entries_of(session, ref, stage)]
    for entry in entries_of(session, ref, stage):
        if entry.value and entry.choices is None:
            after, why = made(entry, entry.value, session.project)
            assert after is not None, (entry.label, why)
            if after != session.project:  # by less than is shown
                assert session.apply("Type", lambda p, after=after: after)
                assert [(e.label, e.value) for e in entries_of(session, ref, stage)] == shown, entry.label
                session.undo()


@pytest.mark.parametrize(("ref", "stage"), CASES, ids=lambda v: v or "none")
def test_every_choice_can_be_chosen_or_says_why_not(session, ref, stage):
    before = entries_of(session, ref, stage)
    for i, entry in enumerate(before):
        for value, _ in (entry.choices or [])[:6]:
            after, why = made(entry, value, session.project)
            if after is None:
                assert len(why) > 15
                continue
            assert session.apply("Choose", lambda p, after=after: after)
            now = entries_of(session, ref, stage)
            if entry.value is not None and [e.label for e in now] == [e.label for e in before]:
                assert now[i].value == value, (entry.label, value)
            session.undo()
            assert not session.undo_label


@pytest.mark.parametrize(("ref", "stage"), CASES, ids=lambda v: v or "none")
def test_nonsense_is_refused_or_taken_for_what_it_says(session, ref, stage):
    """What is refused says why; what is taken can be derived, and an endless number never is."""
    for entry in entries_of(session, ref, stage):
        for typed in NONSENSE if entry.choices is None else ():
            after, why = made(entry, typed, session.project)
            if after is None:
                assert len(why) > 10, (entry.label, typed)
            elif after != session.project:
                assert all(map(math.isfinite, figures(msgspec.to_builtins(after)))), (entry.label, typed)
                assert session.apply("Type", lambda p, after=after: after)
                session.undo()


@pytest.mark.parametrize(
    ("dialog", "selected"),
    [
        *((dialog, ids) for dialog in (*OF_WALLS, *OF_ALL) for ids in (("wall-1",), ("wall-1", "wall-2", "wall-5"))),
        *((dialog, ()) for dialog in OF_ALL),
    ],
    ids=lambda v: v.__name__ if isinstance(v, type) else "+".join(v) or "none",
)
def test_a_dialog_fed_with_nonsense_says_why_or_does_what_it_says(qtbot, dialog, selected):
    """It stays open with a reason, or closes and what it made can be derived."""
    session = Session(shop())
    told: list[str] = []
    session.message.connect(lambda text, wrong: told.append(text) if wrong else None)
    for typed in NONSENSE:
        session.select([r for r in selected if r in session.model.lines])
        box = dialog(None, session)
        qtbot.addWidget(box)
        for field in box.findChildren(QLineEdit):
            if not field.isReadOnly() and field.parent() is box:
                field.setText(typed)
        told.clear()
        before = session.project
        box.try_accept()
        assert box.problem.text() or told or box.result() == 1, typed
        if box.problem.text():
            assert session.project is before
        assert not any("could not work this out" in text for text in told), (typed, told)
        while session.undo_label:
            session.undo()


def test_openings_are_placed_from_either_corner_and_by_their_middles(demo_user):
    session = demo_user.session
    alone = [o for o in session.project.openings if sum(x.wall == o.wall for x in session.project.openings) == 1]
    opening = alone[0]
    wall = session.model.lines[opening.wall].band
    session.select([opening.id])

    def now():
        return next(o for o in session.project.openings if o.id == opening.id)

    demo_user.type_in_card("From end corner", "3'")
    assert wall.length - now().offset - now().width == pytest.approx(3 * FOOT)
    demo_user.type_in_card("Middle from start", "10'")
    assert now().offset + now().width / 2.0 == pytest.approx(10 * FOOT)
    demo_user.type_in_card("Middle from end", "12'")
    assert wall.length - now().offset - now().width / 2.0 == pytest.approx(12 * FOOT)
    was = now().offset
    demo_user.type_in_card("From end corner", "-1'")
    assert now().offset == was


def test_an_opening_is_centred_between_what_is_beside_it_by_one_action(demo_user):
    session = demo_user.session
    wall = next(w for w in session.project.walls if sum(o.wall == w.id for o in session.project.openings) > 1)
    mine = sorted((o for o in session.project.openings if o.wall == wall.id), key=lambda o: o.offset)
    first, second = mine[0], mine[1]
    session.apply("x", lambda p: wall_edits.place_opening(p, first.id, 200.0))
    session.select([first.id])
    demo_user.card_button("Centre it between what is beside it")
    moved = next(o for o in session.project.openings if o.id == first.id)
    assert moved.offset == pytest.approx((second.offset - moved.width) / 2.0)
    assert "Centre it between what is beside it" not in demo_user.window.card.buttons


def test_a_table_of_long_words_is_no_wider_than_its_card(qtbot, qapp):
    """A wide table made all of a card wider than its place, so that fields were cut off at the right."""
    headings = ("Section", "Spacing", "Used", "Governs")
    long = Rows(
        headings, [("2x4", '19 3/16"', "over 1000%", "compression and bending"), ("2x6", '16"', "84%", "shear")]
    )
    body, cells = _table(long)
    assert body.minimumSizeHint().width() <= TABLE
    assert cells[0][-1].wordWrap()
    short = Rows(headings, [("2x4", '16"', "84%", "shear"), ("2x6", '16"', "84%", "shear")])
    _show_rows(cells, short)
    assert not cells[0][-1].wordWrap()
    _show_rows(cells, long)
    assert cells[0][-1].wordWrap()
