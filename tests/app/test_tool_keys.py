"""Keys and clicks of the tools: taking back, ending, typing angles, regions, adding and taking from the selection."""

import math

import pytest
from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QPainterPath
from PySide6.QtTest import QTest

from balken.documents.display import Area, Circle
from balken.model import edits, grid_edits
from balken.model.errors import EditError
from balken.model.lookup import locate
from balken.model.records import Column, FreePoint, Hang, Pad
from balken.units.system import FOOT

CTRL = Qt.KeyboardModifier.ControlModifier


def ends(user, number):
    wall = user.project.walls[number]
    return [tuple(v / FOOT for v in locate(p, user.project.grids)) for p in (wall.start, wall.end)]


@pytest.fixture
def drawing(user):
    """A user drawing walls on an empty storey, with the snaps silenced."""
    user.stage(2)
    user.press("Draw walls")
    return user


def typed(user, length, angle):
    user.keys(length)
    user.key(Qt.Key.Key_Tab)
    user.keys(angle)
    user.key(Qt.Key.Key_Return)


def test_typed_lengths_and_angles_make_a_chain(drawing):
    drawing.click(0.0, 0.0)
    start = ends_start(drawing)
    typed(drawing, "20'", "0")
    typed(drawing, "12'", "90")
    typed(drawing, "10'", "180")
    rows = [ends(drawing, i) for i in range(3)]
    x, y = start
    assert rows[0][1] == pytest.approx((x + 20, y), abs=0.01)
    assert rows[1][1] == pytest.approx((x + 20, y + 12), abs=0.01)
    assert rows[2][1] == pytest.approx((x + 10, y + 12), abs=0.01)


def ends_start(user):
    return tuple(v / FOOT for v in user.canvas.tool.start)


def test_backspace_takes_the_last_wall_back_and_the_chain_goes_on_from_there(drawing):
    drawing.click(0.0, 0.0)
    typed(drawing, "20'", "0")
    typed(drawing, "12'", "90")
    corner = ends(drawing, 0)[1]
    drawing.key(Qt.Key.Key_Backspace)
    assert len(drawing.project.walls) == 1
    typed(drawing, "8'", "270")
    assert len(drawing.project.walls) == 2
    assert ends(drawing, 1)[0] == pytest.approx(corner)
    assert ends(drawing, 1)[1] == pytest.approx((corner[0], corner[1] - 8), abs=0.01)


def test_escape_ends_the_chain_then_the_tool(drawing):
    drawing.click(0.0, 0.0)
    typed(drawing, "20'", "0")
    drawing.key(Qt.Key.Key_Escape)
    assert drawing.canvas.tool.name == "walls"
    assert drawing.canvas.tool.start is None
    drawing.key(Qt.Key.Key_Escape)
    assert drawing.canvas.tool.name == "select"
    assert len(drawing.project.walls) == 1


def test_a_length_of_nothing_is_refused_and_the_entry_stays(drawing):
    drawing.click(0.0, 0.0)
    drawing.keys("0")
    drawing.key(Qt.Key.Key_Return)
    assert drawing.canvas.entry.isVisible()
    assert not drawing.project.walls


def test_a_rectangle_is_given_up_and_typed(user):
    user.stage(2)
    user.press("Draw rectangle")
    user.click(0.0, 0.0)
    user.key(Qt.Key.Key_Escape)
    assert user.canvas.tool.start is None
    user.click(0.0, 0.0)
    user.keys("24'")
    user.key(Qt.Key.Key_Tab)
    user.keys("16'")
    user.key(Qt.Key.Key_Return)
    assert len(user.project.walls) == 4
    xs = [p[0] for i in range(4) for p in ends(user, i)]
    ys = [p[1] for i in range(4) for p in ends(user, i)]
    assert (max(xs) - min(xs), max(ys) - min(ys)) == (pytest.approx(24, abs=0.01), pytest.approx(16, abs=0.01))


def test_a_rectangle_in_a_turned_grid_lies_along_it(user):
    user.dialog("Lay grid", {"x_spacings": "40'", "y_spacings": "30'"})
    grid = user.project.grids[0].id
    user.session.apply("Turn grid", lambda p: grid_edits.change(p, grid, angle=20.0))
    user.window.views.fit()
    user.stage(2)
    user.press("Draw rectangle")
    user.click(5 * FOOT, 10 * FOOT)
    user.keys("20'")
    user.key(Qt.Key.Key_Tab)
    user.keys("12'")
    user.key(Qt.Key.Key_Return)
    lines = user.session.model.lines
    assert [lines[w.id].band.length / FOOT for w in user.project.walls] == pytest.approx([20, 12, 20, 12])
    (x, y), (xe, ye) = ends(user, 0)
    assert math.degrees(math.atan2(ye - y, xe - x)) == pytest.approx(20.0)
    assert len({w.outside for w in user.project.walls}) == 1
    user.menu("undo")
    user.click(5 * FOOT, 10 * FOOT)
    turned = (5 + 16 * math.cos(math.radians(20)), 10 + 16 * math.sin(math.radians(20)))
    turned = (turned[0] - 8 * math.sin(math.radians(20)), turned[1] + 8 * math.cos(math.radians(20)))
    user.click(turned[0] * FOOT, turned[1] * FOOT)
    lengths = [user.session.model.lines[w.id].band.length / FOOT for w in user.project.walls]
    assert lengths == pytest.approx([16, 8, 16, 8], abs=0.3)


def test_a_region_is_closed_by_a_click_on_its_first_corner(demo_user):
    demo_user.stage(2)
    demo_user.window.use_tool("region")
    for x, y in ((-3, -3), (45, -3), (60, 60), (45, 3)):
        demo_user.click(x * FOOT, y * FOOT)
    demo_user.key(Qt.Key.Key_Backspace)  # the last two corners were wrong
    demo_user.key(Qt.Key.Key_Backspace)
    demo_user.click(45 * FOOT, 3 * FOOT)
    demo_user.click(-3 * FOOT, 3 * FOOT)
    demo_user.click(-3 * FOOT, -3 * FOOT)
    assert demo_user.canvas.tool.name == "select"
    assert "wall-1" in demo_user.session.selection
    assert "wall-3" not in demo_user.session.selection


def test_a_region_of_two_corners_selects_nothing_and_escape_leaves_it(demo_user):
    demo_user.stage(2)
    for leave in (Qt.Key.Key_Return, Qt.Key.Key_Escape):
        demo_user.window.use_tool("region")
        demo_user.click(-3 * FOOT, -3 * FOOT)
        demo_user.click(5 * FOOT, -3 * FOOT)
        demo_user.key(leave)
        assert demo_user.canvas.tool.name == "select"
        assert not demo_user.session.selection


def test_ctrl_adds_to_the_selection_and_takes_from_it(demo_user):
    demo_user.stage(2)
    demo_user.click(1.5 * FOOT, 0.2 * FOOT)
    (first,) = demo_user.session.selection
    demo_user.click(40 * FOOT - 60.0, 1.5 * FOOT, CTRL)
    assert len(demo_user.session.selection) == 2
    demo_user.click(1.5 * FOOT, 0.2 * FOOT, CTRL)
    assert first not in demo_user.session.selection
    assert len(demo_user.session.selection) == 1
    demo_user.key(Qt.Key.Key_Escape)
    assert not demo_user.session.selection


def test_members_are_picked_in_the_framing_elevation(demo_user):
    demo_user.stage(2)
    demo_user.session.select(["wall-1"])
    demo_user.window.views.show_view("framing")
    view = demo_user.window.framing
    QTest.qWait(50)
    boxes = {made.ref: made.box for made in view.prepared if "/stud/" in made.ref and isinstance(made.item, Area)}
    refs = list(boxes)[3:5]  # clear of the axes at the ends
    at = []
    for ref in refs:
        x0, y0, x1, y1 = boxes[ref]
        at.append(view.to_widget(((x0 + x1) / 2.0, y0 + 0.3 * (y1 - y0))).toPoint())
    QTest.mouseClick(view, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, at[0])
    assert demo_user.session.selection == (refs[0],)
    QTest.mouseClick(view, Qt.MouseButton.LeftButton, CTRL, at[1])
    assert set(demo_user.session.selection) == set(refs)
    QTest.mouseClick(view, Qt.MouseButton.LeftButton, CTRL, at[0])
    assert demo_user.session.selection == (refs[1],)
    QTest.mouseClick(view, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, QPointF(3, 3).toPoint())
    assert not demo_user.session.selection


def test_the_cut_line_is_dragged(demo_user):
    demo_user.stage(1)
    before = demo_user.canvas.cut()
    x, y0 = before.start
    middle = (before.start[1] + before.end[1]) / 2.0
    demo_user.drag(demo_user.canvas, demo_user.at(x, middle + 900.0), demo_user.at(x + 1500.0, middle + 900.0))
    after = demo_user.canvas.cut()
    assert after.start[0] - x == pytest.approx(1500.0, abs=60.0)
    assert after.start[1] == pytest.approx(y0)
    demo_user.menu("undo")
    assert demo_user.canvas.cut() == before


def test_a_skew_l_is_drawn_by_turns(drawing):
    """At 37 degrees 30 ft, then twice a turn to the left by 90: the third wall runs back the way the first came."""
    drawing.click(0.0, 0.0)
    drawing.keys("30'")
    assert len(drawing.canvas.entry.fields) == 2  # before the first wall there is nothing to turn from
    drawing.key(Qt.Key.Key_Tab)
    drawing.keys("37")
    drawing.key(Qt.Key.Key_Return)
    for text in ("20'", "10'"):
        drawing.keys(text)
        drawing.key(Qt.Key.Key_Tab)
        drawing.key(Qt.Key.Key_Tab)
        drawing.keys("90")
        drawing.key(Qt.Key.Key_Return)
    ways = []
    for number, long in enumerate((30.0, 20.0, 10.0)):
        a, b = ends(drawing, number)
        assert math.dist(a, b) == pytest.approx(long)
        ways.append(math.degrees(math.atan2(b[1] - a[1], b[0] - a[0])) % 360.0)
    assert ways == pytest.approx([37.0, 127.0, 217.0], abs=1e-6)


def test_a_turn_and_an_angle_at_once_are_refused_and_nothing_is_lost(drawing):
    drawing.click(0.0, 0.0)
    tool = drawing.canvas.tool
    assert tool.typed([3000.0, 0.0]) == ""
    assert "not both" in tool.typed([3000.0, 45.0, 90.0])
    assert len(drawing.project.walls) == 1
    assert tool.typed([3000.0, None, -45.0]) == ""
    assert len(drawing.project.walls) == 2


def test_a_grid_is_laid_along_a_wall(demo_user):
    p = demo_user.project
    grid = p.grids[0]
    tied = {w.id for w in p.walls} - set(grid_edits.lies_along(p, grid))
    assert tied
    with pytest.raises(EditError, match="hangs on this grid"):
        grid_edits.lay_along(p, grid.id, min(tied))
    free = edits.add_wall(p, (50_000.0, 0.0), (56_000.0, 4_000.0), p.walls[0].buildup, p.walls[0].foot, p.walls[0].head)
    wall = free.walls[-1].id
    laid = next(g for g in grid_edits.lay_along(free, grid.id, wall).grids if g.id == grid.id)
    assert laid.origin == pytest.approx((50_000.0, 0.0))
    assert laid.angle == pytest.approx(math.degrees(math.atan2(4.0, 6.0)))


# Regions and kinds -----------------------------------------------------------------------------------


def spread_pads(user, count=20):
    """A project with so many pads in two rows, columns on half of them, and two walls beside."""
    p = user.project
    level = p.levels[0]
    for k in range(count):
        pad = Pad(
            id=f"pad-{k + 1}",
            place=FreePoint(x=3000.0 * (k % 10), y=3000.0 * (k // 10)),
            top=Hang(level=level.id),
            head=Hang(level=level.id, offset=600.0),
            width=900.0,
            thickness=300.0,
        )
        p = edits.add(p, pad)
    user.session.apply("Pads", lambda q: p)


def test_one_size_for_twenty_pads_picked_by_a_box(user):
    spread_pads(user)
    user.stage(3)
    user.window.canvas.fit()
    user.drag(user.canvas, user.at(-2000.0, 6000.0), user.at(30_000.0, -2000.0))
    assert "20 pads" in user.window.card.shown.title
    user.type_in_card("Side", "3'-6\"")
    assert {round(pad.width, 3) for pad in user.project.pads} == {round(3.5 * FOOT, 3)}
    user.menu("undo")
    assert {pad.width for pad in user.project.pads} == {900.0}


def test_a_region_names_kinds_with_counts_and_narrows_to_one(demo_user):
    user, p = demo_user, demo_user.project
    refs = [*(w.id for w in p.walls[:3]), *(o.id for o in p.openings[:2]), p.grids[0].id + "/x1"]
    user.session.select(refs)
    buttons = user.window.card.buttons
    assert {"Only the 3 walls", "Only the 2 openings", "Only the 1 axis"} <= set(buttons)
    user.card_button("Only the 2 openings")
    assert user.session.selection == tuple(o.id for o in p.openings[:2])
    assert user.window.card.shown.title == "2 openings"


def test_a_region_takes_axes_by_their_bubbles_and_columns_where_they_are_set_out(demo_user):
    user = demo_user
    user.stage(1)
    level = next(v for v in user.project.levels if v.role == "floor")
    column = Column(
        id="column-9",
        place=FreePoint(x=-3000.0, y=-3000.0),
        foot=Hang(level=level.id),
        head=Hang(level=level.id, offset=2500.0),
    )
    user.session.apply("Column", lambda q: edits.add(q, column))
    bubbles = [i.item for i in user.canvas.prepared if isinstance(i.item, Circle) and "/" in i.item.ref]
    one = bubbles[0]
    far = 1.2 * one.radius
    region = QPainterPath()
    region.addRect(one.centre[0] - far, one.centre[1] - far, 2.0 * far, 2.0 * far)
    assert user.canvas.within(region, False) == [one.ref]
    near = QPainterPath()
    near.addRect(-3500.0, -3500.0, 1000.0, 1000.0)
    assert user.canvas.within(near, False) == ["column-9"]
