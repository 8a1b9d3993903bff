"""What is tried out before it is made: shown while it is typed or dragged, and not worked out twice."""

import pytest
from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QEnterEvent, QMouseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from tests.shop import shop

from balken.app.drawing_view import AHEAD
from balken.derive import derive
from balken.documents.display import Area
from balken.model import edits
from balken.model.records import Grid
from balken.session import recent
from balken.session.recent import MOST
from balken.session.session import Session

CTRL, NONE = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.NoModifier


@pytest.fixture
def derived(monkeypatch):
    """Collects the projects that are derived."""
    found = []

    def note(project, memo):
        found.append(project)
        return derive(project, memo)

    monkeypatch.setattr(recent, "derive", note)
    return found


def grid(user) -> Grid:
    return user.project.grids[0]


def gaps(user) -> list[float]:
    return [round(axis.gap, 3) for axis in grid(user).x_axes]


def select_axis(user, axis) -> str:
    """Select an axis; return how it is referred to."""
    ref = f"{grid(user).id}/{axis.id}"
    user.session.select([ref])
    return ref


def of_axis(user, ref) -> QPoint:
    """Return where on the canvas an axis can be taken."""
    canvas = user.canvas
    for x in range(4, canvas.width(), 2):
        for y in range(4, canvas.height(), 5):
            if canvas.hit(QPointF(x, y)) == ref:
                return QPoint(x, y)
    raise AssertionError(f"{ref} is not in sight")


def pull(user, start: QPoint, by: QPoint, modifiers: Qt.KeyboardModifier = NONE) -> None:
    """Press, drag in three moves, let go."""
    QTest.mousePress(user.canvas, Qt.MouseButton.LeftButton, modifiers, start)
    for part in (0.4, 0.8, 1.0):
        at = QPointF(start) + QPointF(by) * part
        kind, button = QEvent.Type.MouseMove, Qt.MouseButton.LeftButton
        QApplication.sendEvent(user.canvas, QMouseEvent(kind, at, at, Qt.MouseButton.NoButton, button, modifiers))
    user.window.repaint()
    QTest.mouseRelease(user.canvas, Qt.MouseButton.LeftButton, modifiers, start + by)


# The session ---------------------------------------------------------------------------------------


def test_what_was_tried_out_is_not_derived_again(shop_session, derived):
    session = shop_session
    edit = lambda p: edits.set_level(p, "level-2", 3000.0)  # noqa: E731
    assert session.try_out(edit) == ""
    trial = session.trial
    assert trial is not None
    session.try_out(None)
    assert session.apply("Raise", edit)
    assert session.model is trial
    assert session.project is trial.project
    assert len(derived) == 1
    cold = derive(session.project)
    assert session.model.results == cold.results
    assert session.model.pieces == cold.pieces
    assert session.model.findings == cold.findings


def test_undo_and_redo_bring_back_the_models_of_late(shop_session, derived):
    session = shop_session
    models = [session.model]
    for i in range(MOST + 2):
        assert session.apply("Raise", lambda p, i=i: edits.set_level(p, "level-2", 2600.0 + 10.0 * i))
        models.append(session.model)
    derived.clear()
    for known in models[-2 : -MOST - 2 : -1]:
        session.undo()
        assert session.model is known
    assert derived == []
    session.undo()  # longer ago than is kept
    assert len(derived) == 1
    assert session.model is not models[1]
    assert session.model.pieces == models[1].pieces
    for _ in range(MOST):
        session.redo()
    assert session.project == models[-2].project
    assert session.model.pieces == models[-2].pieces


def test_a_trial_leaves_alone_what_it_does_not_change(shop_session):
    """Its untouched parts are the same objects as those of the model, so that views know them again."""
    session = shop_session
    session.try_out(lambda p: edits.change(p, p.openings[0].id, offset=p.openings[0].offset + 25.4))
    wall = session.project.openings[0].wall
    others = [w for w in session.model.layers if w != wall]
    assert others
    assert all(session.trial.layers[w] is session.model.layers[w] for w in others)
    assert session.trial.layers[wall] is not session.model.layers[wall]


def test_findings_are_foretold(shop_session):
    session = shop_session
    assert session.foretold() == ""
    session.try_out(lambda p: edits.set_loads(p, frost_depth=9000.0))
    assert "This would bring: " in session.foretold()
    assert "footing above frost depth" in session.foretold()
    session.apply("Frost", lambda p: edits.set_loads(p, frost_depth=9000.0))
    session.try_out(lambda p: edits.set_loads(p, frost_depth=300.0))
    assert "It would settle" in session.foretold()


@pytest.fixture
def shop_session(qapp):
    return Session(shop())


# Typed in the card ---------------------------------------------------------------------------------


def wait_for_trial(user) -> None:
    """Wait until what is typed has been tried out, however slow the machine."""
    while user.window.card._typed is not None:
        QTest.qWait(10)


def type_slowly(user, label: str, text: str):
    """Type into a field of the card without Enter, and pause."""
    field = user.window.card.entries[label]
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, text)
    wait_for_trial(user)
    return field


def test_a_value_is_shown_while_it_is_typed_and_made_by_enter(demo_user, derived):
    demo_user.stage(3)
    select_axis(demo_user, grid(demo_user).x_axes[1])
    before, label = gaps(demo_user), f"From axis {grid(demo_user).x_axes[0].label}"
    field = type_slowly(demo_user, label, "17'")
    assert demo_user.session.trial is not None
    assert demo_user.canvas.trial_lines
    assert gaps(demo_user) == before
    count = len(derived)
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert gaps(demo_user)[1] == pytest.approx(17 * 304.8)
    assert len(derived) == count
    assert demo_user.session.trial is None
    assert not demo_user.canvas.trial_lines


def test_in_a_pause_what_is_typed_is_drawn_ahead(demo_user, monkeypatch):
    """What it draws is what is shown after Enter."""
    demo_user.stage(3)
    select_axis(demo_user, grid(demo_user).x_axes[1])
    ahead = {}
    for view in (demo_user.canvas, demo_user.window.strip):
        kind, drawn = type(view), type(view).drawn

        def note(self, model, kind=kind, drawn=drawn):
            ahead.setdefault(kind, {})[id(model)] = items = drawn(self, model)
            return items

        monkeypatch.setattr(kind, "drawn", note)
    field = type_slowly(demo_user, f"From axis {grid(demo_user).x_axes[0].label}", "17'")
    trial = demo_user.session.trial
    QTest.qWait(3 * AHEAD)
    assert [id(trial) in known for known in ahead.values()] == [True, True]
    before = {kind: known.pop(id(trial)) for kind, known in ahead.items()}
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert demo_user.session.model is trial
    for view in (demo_user.canvas, demo_user.window.strip):
        assert [p.item for p in view.prepared] == before[type(view)]


def test_escape_brings_back_what_a_field_showed(demo_user):
    demo_user.stage(3)
    select_axis(demo_user, grid(demo_user).x_axes[1])
    label = f"From axis {grid(demo_user).x_axes[0].label}"
    shown, before = demo_user.card_text(label), demo_user.project
    field = type_slowly(demo_user, label, "17'")
    QTest.keyClick(field, Qt.Key.Key_Escape)
    assert field.text() == shown
    assert demo_user.session.trial is None
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert demo_user.project is before


def test_what_is_typed_is_forgotten_when_something_else_is_selected(demo_user):
    demo_user.stage(3)
    select_axis(demo_user, grid(demo_user).x_axes[1])
    type_slowly(demo_user, f"From axis {grid(demo_user).x_axes[0].label}", "17'")
    assert demo_user.canvas.trial_lines
    demo_user.session.select(["wall-1"])
    assert demo_user.session.trial is None
    assert not demo_user.canvas.trial_lines


def test_what_makes_no_sense_yet_shows_nothing_and_tells_nothing(demo_user):
    demo_user.stage(3)
    select_axis(demo_user, grid(demo_user).x_axes[1])
    label = f"From axis {grid(demo_user).x_axes[0].label}"
    type_slowly(demo_user, label, "17'")
    type_slowly(demo_user, label, "17' and")
    assert demo_user.session.trial is None
    assert not demo_user.canvas.trial_lines
    assert demo_user.window.card.problem.isHidden()


def test_the_form_of_a_tool_is_not_tried_out(demo_user):
    demo_user.stage(2)
    demo_user.press("Place opening")
    before = demo_user.window.settings.opening
    type_slowly(demo_user, "Width", "7'")
    assert demo_user.window.settings.opening == before
    assert demo_user.session.trial is None


# Axes dragged --------------------------------------------------------------------------------------


def test_an_axis_is_dragged_alone(demo_user):
    demo_user.stage(1)
    axis = grid(demo_user).x_axes[1]
    ref = select_axis(demo_user, axis)
    before = gaps(demo_user)
    start = of_axis(demo_user, ref)
    QTest.mousePress(demo_user.canvas, Qt.MouseButton.LeftButton, NONE, start)
    QTest.mouseMove(demo_user.canvas, start + QPoint(24, 3))
    assert f"from axis {grid(demo_user).x_axes[0].label}" in demo_user.canvas.tool.told
    assert demo_user.session.trial is not None
    assert any(line.item.pen == "thin" for line in demo_user.canvas.trial_lines)
    QTest.mouseRelease(demo_user.canvas, Qt.MouseButton.LeftButton, NONE, start + QPoint(24, 3))
    after = gaps(demo_user)
    assert after[1] == pytest.approx(before[1] + 24 / demo_user.canvas.zoom, abs=26.0)
    assert after[1] / 25.4 == pytest.approx(round(after[1] / 25.4))  # whole inches
    assert sum(after[:3]) == pytest.approx(sum(before[:3]))
    assert demo_user.session.undo_label == "Move axis"


def test_with_ctrl_the_axes_after_it_move_along(demo_user):
    demo_user.stage(1)
    axis = grid(demo_user).x_axes[1]
    ref = select_axis(demo_user, axis)
    before = gaps(demo_user)
    pull(demo_user, of_axis(demo_user, ref), QPoint(24, 0), CTRL)
    after = gaps(demo_user)
    assert after[1] > before[1] + 100.0
    assert after[2:] == before[2:]


def test_an_axis_across_is_dragged_up_and_not_over_its_neighbour(demo_user):
    demo_user.stage(1)
    axis = grid(demo_user).y_axes[1]
    ref = select_axis(demo_user, axis)
    before = axis.gap
    pull(demo_user, of_axis(demo_user, ref), QPoint(0, -20))
    assert grid(demo_user).y_axes[1].gap > before + 100.0
    kept = demo_user.project
    pull(demo_user, of_axis(demo_user, ref), QPoint(0, 400))
    assert demo_user.project is kept
    assert demo_user.window.hint_label.text()


def test_the_first_axis_and_axes_not_selected_stay(demo_user):
    demo_user.stage(1)
    first = f"{grid(demo_user).id}/{grid(demo_user).x_axes[0].id}"
    before = demo_user.project
    demo_user.session.select([first])
    pull(demo_user, of_axis(demo_user, first), QPoint(30, 0))
    second = f"{grid(demo_user).id}/{grid(demo_user).x_axes[1].id}"
    demo_user.session.select([])
    pull(demo_user, of_axis(demo_user, second), QPoint(30, 0))
    assert demo_user.project is before


# Buttons -------------------------------------------------------------------------------------------


def rest_on(button) -> None:
    """Let the pointer rest on a button until what it would do has been tried out."""
    at = QPointF(5.0, 5.0)
    QApplication.sendEvent(button, QEnterEvent(at, at, at))
    while button._rest.isActive():
        QTest.qWait(10)


def test_a_button_shows_what_it_would_do_while_the_pointer_rests_on_it(demo_user, derived):
    demo_user.stage(2)
    demo_user.session.select(["wall-2"])
    before = demo_user.project
    button = demo_user.window.card.buttons["Flip outside and inside"]
    rest_on(button)
    assert demo_user.session.trial is not None
    assert demo_user.canvas.trial_lines
    assert demo_user.project is before
    QApplication.sendEvent(button, QEvent(QEvent.Type.Leave))
    assert demo_user.session.trial is None
    assert not demo_user.canvas.trial_lines
    rest_on(button)
    count = len(derived)
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    assert demo_user.session.undo_label == "Flip outside and inside"
    assert len(derived) == count
    assert not demo_user.canvas.trial_lines


def test_a_fix_shows_what_it_would_do(demo_user):
    demo_user.session.apply("Frost", lambda p: edits.set_loads(p, frost_depth=2000.0))
    panel = demo_user.window.bottom.findings
    row = next(i for i, f in enumerate(panel.findings) if f.fix is not None)
    panel.table.selectRow(panel.table.sorting.mapFromSource(panel.table.rows_model.index(row, 0)).row())
    rest_on(panel.fix)
    assert demo_user.session.trial is not None
    assert "It would settle" in demo_user.window.hint_label.text()
    QTest.mouseClick(panel.fix, Qt.MouseButton.LeftButton)
    assert demo_user.session.trial is None
    assert demo_user.session.undo_label != "Frost"


def test_a_card_that_goes_takes_what_its_button_showed_along(demo_user):
    demo_user.stage(2)
    demo_user.session.select(["wall-2"])
    rest_on(demo_user.window.card.buttons["Flip outside and inside"])
    assert demo_user.session.trial is not None
    demo_user.session.select([])
    assert demo_user.session.trial is None


def test_what_would_go_is_shown_filled(demo_user):
    demo_user.stage(2)
    demo_user.session.select(["wall-5"])
    rest_on(demo_user.window.card.buttons["Remove wall"])
    filled = [line for line in demo_user.canvas.trial_lines if isinstance(line.item, Area)]
    box = [
        f(values) for f, values in zip((min, min, max, max), zip(*(g.box for g in filled), strict=True), strict=True)
    ]
    band = demo_user.session.model.lines["wall-5"].band
    middle = ((band.start[0] + band.end[0]) / 2.0, (band.start[1] + band.end[1]) / 2.0)
    assert box[0] < middle[0] < box[2]
    assert box[1] < middle[1] < box[3]
    assert box[3] - box[1] < 500.0  # the wall alone, and not what changes with it
    assert demo_user.session.foretold()
