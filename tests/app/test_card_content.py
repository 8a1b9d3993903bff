"""What the card says, as data: titles, values, used ratios, for everything that can be selected."""

import pytest
from PySide6.QtCore import QCoreApplication
from PySide6.QtWidgets import QComboBox, QLabel, QLineEdit, QWidget
from tests.names import named
from tests.shop import shop

from balken.app.picture import PictureView
from balken.demo.orchard_road import orchard_road
from balken.model import edits
from balken.panel.card_content import card
from balken.panel.card_parts import Button, Entry, Fact, Note, Rows, Used
from balken.panel.cards_layouts import piece_card
from balken.panel.cards_set_out import spacings_text
from balken.session.session import Session
from balken.units import Units


@pytest.fixture
def session(qapp: QCoreApplication) -> Session:
    return Session(shop())


def labels(content, kind):
    return [p.label for p in content.parts if isinstance(p, kind)]


def value(content, label):
    return next(p.value for p in content.parts if isinstance(p, Entry | Fact) and p.label == label)


def show(session, *refs):
    session.select(refs)
    return card(session, "set out")


@pytest.mark.parametrize(
    ("ref", "title", "wants"),
    [
        ("level-2", "Plate", {"Name", "Height", "Role"}),
        ("grid-1", "Grid", {"Spacings along x", "Turned by", "Bubbles"}),
        ("grid-1/y2", "Axis B", {"Label", "From axis A"}),
        ("wall-1", "Wall 1", {"Length", "Build-up", "Set-out line", "Head on"}),
        ("opening-2", "Door opening", {"Width", "Height", "Sill above foot"}),
        ("foundation-1", "House foundation", {"Footing width", "Sill plate"}),
        ("floor-1", "Shop floor", {"Section", "Spacing", "Span direction"}),
        ("roof-1", "Main roof", {"Pitch", "Overhang", "Ridge"}),
        ("floor-1/joist/003a", "2x10 joist", {"Section", "Spacing"}),
        ("roof-1/rafter/003a", "2x8 rafter", {"Section", "Grade"}),
        ("foundation-1/wall-1/footing", "Strip footing", {"Footing width"}),
        ("foundation-1/wall-1/sill/0", "2x6 sill plate", {"Sill plate"}),
    ],
)
def test_each_kind_has_its_card(session, ref, title, wants):
    content = show(session, named(session.model, ref))
    assert content.title == title
    assert wants <= set(labels(content, Entry))


def test_values_are_shown_in_the_project_units(session):
    assert value(show(session, "wall-1"), "Length") == "40'-0\""
    session.apply("x", lambda p: edits.set_project(p, units=Units.METRIC))
    assert value(show(session, "wall-1"), "Length") == "12192"
    assert value(show(session, "level-2"), "Height") == "2467"


def test_an_entry_makes_an_edit(session):
    entry = next(p for p in show(session, "roof-1").parts if isinstance(p, Entry) and p.label == "Pitch")
    assert session.apply("Change pitch", entry.commit("9:12"))
    assert session.project.roofs[0].pitch == 0.75


def test_a_member_says_where_it_bears_and_why_it_works(session):
    joist = named(session.model, "floor-1/joist/003a")
    content = show(session, joist)
    bears = [p for p in content.parts if isinstance(p, Fact) and "under Wall" in p.label]
    assert len(bears) == 2
    used = next(p for p in content.parts if isinstance(p, Used))
    assert used.used == pytest.approx(session.model.results[joist].used)
    checks = next(p for p in content.parts if isinstance(p, Rows))
    assert [r[0] for r in checks.rows] == ["bending", "deflection L/360", "shear", "bearing"]


def test_every_joist_says_all_it_bears_on():
    """On a girder, on walls, and cut off at an opening on its header: never on nothing, and twice each."""
    session = Session(orchard_road())
    joists = [key for key in session.model.pieces if key.startswith("floor-") and "/joist/" in key]
    bears = {joist: _bears_on(piece_card(session, session.model.pieces[joist])) for joist in joists}
    assert all(len(on) == 2 for on in bears.values())
    on = {name for names in bears.values() for name in names}
    assert {"Beam 1", "Wall 8", "Basement walls under Wall 2"} <= on
    assert {name for name in on if name.startswith("header")} == {"header of Shop floor", "header of Flat floor"}
    assert "nothing" not in on


def _bears_on(content):
    start = content.parts.index("Bears on") + 1
    found = []
    for part in content.parts[start:]:
        if not isinstance(part, Fact):
            break
        found.append(part.label)
    return found


def test_many_members_are_summed_and_the_most_used_is_shown(session):
    keys = [k for k in session.model.pieces if "/joist/" in k][:5]
    content = show(session, *keys)
    assert content.title == "5 things"
    assert "5 x joist" in labels(content, Fact)
    assert any(isinstance(p, Used) for p in content.parts)


def test_several_of_a_kind_are_called_as_people_call_them(qapp):
    session = Session(orchard_road())
    assert show(session, "floor-opening-1", "floor-opening-2").title == "2 openings in floors"
    assert {"Opening in a floor", "Beam"} <= set(labels(show(session, "floor-opening-1", "beam-1"), Fact))


def test_a_wall_lists_its_openings_and_load(session):
    content = show(session, "wall-1")
    assert sum("at" in b for b in labels(content, Button)) >= 4
    assert value(content, "Stands on") == "House foundation"


@pytest.mark.parametrize("stage", ["set out", "walls", "foundations", "floors", "roof", "check", "sheets"])
def test_each_stage_has_a_card_with_nothing_selected(session, stage):
    session.select([])
    content = card(session, stage)
    assert content.title
    assert content.parts


def test_spacings_as_typed(session):
    grid = session.project.grids[0]
    assert spacings_text(grid, "x_axes", session.project) == "13'-0\", 14'-0\", 13'-0\""
    assert spacings_text(grid, "y_axes", session.project) == "2 x 14'-0\""


def test_what_is_gone_is_no_longer_selected(session):
    session.select(["wall-5", "opening-11"])
    session.apply("x", lambda p: edits.remove(p, "wall-5"))
    assert session.selection == ()


def test_a_fault_while_deriving_keeps_the_project(session, monkeypatch):
    told = []
    session.message.connect(lambda text, wrong: told.append((text, wrong)))
    before, model = session.project, session.model

    def fall(*_):
        raise ZeroDivisionError("made up")

    monkeypatch.setattr("balken.session.recent.derive", fall)
    assert not session.apply("x", lambda p: edits.set_level(p, "level-2", 3000.0))
    assert session.project is before
    assert session.model is model
    assert session.undo_label == ""
    assert told[-1][1]
    assert "nothing was changed" in told[-1][0]
    assert "ZeroDivisionError" in session.try_out(lambda p: edits.set_level(p, "level-2", 3000.0))


def test_a_card_of_the_same_form_is_filled_anew_and_not_rebuilt(demo_user):
    """What is shown after an edit is what a card built from nothing shows."""
    session, card = demo_user.session, demo_user.window.card

    def texts():
        shown = QLabel | QLineEdit | QComboBox
        widgets = [w for w in card.widget().findChildren(QWidget) if isinstance(w, shown) and w.parent() is not None]
        return [w.currentText() if isinstance(w, QComboBox) else w.text() for w in widgets]

    session.select(["foundation-1/wall-1/footing"])
    body = card.widget()
    session.apply("x", lambda p: edits.set_loads(p, soil_bearing=60.0))
    assert card.widget() is body
    filled = texts()
    card.shown = None
    card.rebuild()
    assert card.widget() is not body
    assert texts() == filled
    demo_user.type_in_card("Wall thickness", "10")
    alone = next(f for f in demo_user.project.foundations if f.walls == ("wall-1",))
    assert alone.thickness == pytest.approx(254.0)


def test_the_check_says_by_which_standards():
    session = Session(shop())
    notes = [p.text for p in card(session, "check", lambda *a: None, lambda *a: None).parts if isinstance(p, Note)]
    assert any("NDS 2018" in text and "ACI 318-19" in text for text in notes)


def test_the_diagrams_of_a_beam_follow_its_edits(demo_user):
    """The same small drawing shows the new moments; nothing of the card is built anew, and it is as tall as it has to be."""
    session, card = demo_user.session, demo_user.window.card
    session.replace(orchard_road(), None, saved=False)
    session.select(["beam-1"])
    (view,) = card.findChildren(PictureView)
    before = view.drawn
    assert "moment" in view.accessibleName()
    session.apply("x", lambda p: edits.change(p, "beam-1", size="LVL 4-1.75x7.25"))
    (after,) = card.findChildren(PictureView)
    assert after is view
    assert view.drawn != before
    assert view.drawn.says == view.accessibleName() != before.says
    drawn = view.grab().toImage()
    assert view.height() >= view.width() / view.drawn.width * view.drawn.height
    assert len({drawn.pixel(x, y) for x in range(0, drawn.width(), 3) for y in range(0, drawn.height(), 3)}) > 10
