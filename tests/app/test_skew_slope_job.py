"""An L-shaped house, askew, on ground that falls 70 in along it: from an empty project to files, by the window's own commands."""

import math

import numpy as np
import pytest
import shapely
from PySide6.QtCore import Qt
from tests.framing.solids import apart

from balken.model.lookup import locate
from balken.units.system import FOOT, INCH

ANGLE = 23.0
OUTLINE = ((0, 0), (40, 0), (40, 16), (18, 16), (18, 30), (0, 30))


def at(x, y):
    """A place in feet along the house's own directions, in plan, mm."""
    c, s = math.cos(math.radians(ANGLE)), math.sin(math.radians(ANGLE))
    return FOOT * (x * c - y * s), FOOT * (x * s + y * c)


def earth(x):
    """Height of the ground, mm: it falls evenly along the house (``x`` in feet)."""
    return (-20.0 - 70.0 * (x + 3.0) / 46.0) * INCH


def leg(user, length, angle="", turned=""):
    """The next wall by its length, and its angle in plan or its turn from the last one."""
    x, y = user.canvas.tool.start
    user.move(x + 3000, y + 500)
    user.keys(length)
    user.key(Qt.Key.Key_Tab)
    if turned:
        user.key(Qt.Key.Key_Tab)
    user.keys(turned or angle)
    user.key(Qt.Key.Key_Return)


def draw(user):
    user.type_in_card("Begin with", "crawl space")
    user.window.views.fit()
    user.stage(2)
    user.press("Draw walls")
    user.click(0, 0)
    leg(user, "40'", angle="23")
    user.window.views.fit()
    for length, turned in (("16'", "90"), ("22'", "90"), ("14'", "-90"), ("18'", "90")):
        leg(user, length, turned=turned)
    user.window.views.fit()
    user.click(0, 0)
    user.type_in_card("Role", "bearing")
    user.click(*at(18, 16))
    leg(user, "18'", angle="203")
    user.key(Qt.Key.Key_Escape)
    user.click(*at(0, 8.5))
    leg(user, "40'", angle="23")
    user.key(Qt.Key.Key_Escape)
    user.press("Place opening")
    user.move(*at(20, 0))
    user.keys("6'")
    user.key(Qt.Key.Key_Return)
    for place in ((30, 0), (0, 24), (30, 16)):
        user.click(*at(*place))
    user.type_in_card("Kind", "door")
    for place in ((18, 23), (9, 16), (30, 8.5)):
        user.click(*at(*place))
    user.key(Qt.Key.Key_Escape)


def spot(user, x, y):
    user.click(*at(x, y))
    height = earth(x) / INCH
    user.keys(f"{height:.4f}in")
    user.key(Qt.Key.Key_Return)


def build(user):
    """Ground, foundation, floor, roof with two gables."""
    user.stage(1)
    user.press("Ground")
    user.window.views.fit()
    for place in ((-3, -3), (43, -3), (-3, 33), (43, 20)):
        spot(user, *place)
    user.key(Qt.Key.Key_Escape)
    user.stage(3)
    user.press("Lay foundation")
    user.card_button("Place foundation")
    user.stage(4)
    user.press("Lay floor")
    user.card_button("Place floor")
    user.stage(5)
    user.press("Make roof")
    user.card_button("Place roof")
    user.window.views.fit()
    user.press("Switch edge")
    user.click(*at(41, 8))
    user.click(*at(9, 31))
    user.key(Qt.Key.Key_Escape)


def mended(user):
    """Take every fix offered; each must do away with its finding."""
    for _ in range(20):
        found = next((f for f in user.session.model.findings if f.fix), None)
        if found is None:
            return
        user.session.run_fix(found.fix)
        assert (found.what, found.things) not in [(f.what, f.things) for f in user.session.model.findings], found.what
    raise AssertionError("fixes go on and on")


def test_walls_askew_are_what_was_typed(user):
    draw(user)
    p = user.project
    ends = [tuple(locate(place, p.grids) for place in (w.start, w.end)) for w in p.walls]
    for k, (start, end) in enumerate(ends[:6]):
        assert math.dist(start, at(*OUTLINE[k])) < 0.01
        assert math.dist(end, at(*OUTLINE[(k + 1) % 6])) < 0.01
    assert {w.outside for w in p.walls[:6]} == {"right"}
    assert [o.wall for o in p.openings] == ["wall-1", "wall-1", "wall-6", "wall-3", "wall-4", "wall-7", "wall-8"]


def test_an_l_shaped_house_askew_on_a_slope(user, written, warned):
    draw(user)
    build(user)
    assert {"frost", "end of hip"} <= {f.code for f in user.session.model.findings}
    mended(user)
    model = user.session.model
    assert not [f for f in model.findings if f.grave]

    # Footings lie below frost and 12 in deep, by the ground's own plane, all along outside walls
    need = max(user.project.loads.frost_depth, 12.0 * INCH)
    c, s = math.cos(math.radians(ANGLE)), math.sin(math.radians(ANGLE))
    for run in model.runs:
        if not run.band.outside:
            continue
        for along in np.linspace(run.span[0] + 1.0, run.span[1] - 1.0, 60):
            x, y = run.band.at(float(along), run.faces[0])
            under = run.band.bottom - run.drop_at(float(along)) - model.footings[run.id].depth
            assert under <= earth((x * c + y * s) / FOOT) - need + 0.5, (run.wall, along)
    drops = {run.wall: {round(seg.drop) for seg in run.segments} for run in model.runs}
    assert len(drops["wall-1"]) >= 3  # it steps down along the slope
    assert max(drops["wall-8"]) == max(drops["wall-2"])  # the inside wall goes down to the lower footing that it meets

    # Snow on the roof comes down to the soil: plan area with 1 ft of overhang all round, worked out by shapely
    outline = shapely.Polygon([at(*p) for p in OUTLINE]).buffer(FOOT, join_style="mitre")
    down = np.array([list(line.foot) for line in model.path.runs.values()]).sum(axis=0)
    assert not model.path.pads
    snow = user.project.loads.ground_snow * outline.area / 1e3
    assert down[3] == pytest.approx(snow, rel=0.02)

    # Nothing of the foundation stands in anything else of it, nor rafters in one another
    solid = [
        v for v in model.pieces.values() if v.role in ("foundation wall", "strip footing", "sill plate", "pad footing")
    ]
    apart(solid, solid, 2000.0)
    roof = [
        v
        for v in model.pieces.values()
        if v.role in ("rafter", "hip rafter", "valley rafter", "ridge beam", "jack rafter")
    ]
    assert len(roof) > 40
    apart(roof, roof, 2000.0)

    user.stage(7)
    written(user)
    assert warned == []
    # One undo a step, back to nothing
    while user.session.undo_label:
        user.menu("undo")
    assert not user.project.walls
