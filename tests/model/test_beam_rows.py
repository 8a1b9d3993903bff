"""Rows of beams: where they lie, what stays when a bay changes, single ones; the bay round a place."""

import math
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.houses import house

from balken.derive import derive
from balken.exchange.project_file import from_bytes, to_bytes
from balken.loads.cases import total
from balken.model import edits
from balken.model.beam_rows import (
    all_beams,
    bay_around,
    beams_of,
    fill_bay,
    grid_corners,
    row_of,
    set_single,
    turned,
    without_singles,
)
from balken.model.errors import EditError
from balken.model.grid_edits import move_axis
from balken.model.lookup import label_of, locate
from balken.model.records import Axis, Choice, FreePoint, Grid, Hang
from balken.units.system import FOOT

FLOOR = Hang(level="level-1")


def on_grid(angle=0.0):
    """A house 36 x 28 ft on a grid with an axis in between."""
    p = house(long=36 * FOOT, wide=28 * FOOT, joists=Choice(size="2x10"))
    axes = {
        "x_axes": (Axis(id="x1", label="1"), Axis(id="x2", label="2", gap=20 * FOOT), Axis(id="x3", label="3", gap=16 * FOOT)),
        "y_axes": (Axis(id="y1", label="A"), Axis(id="y2", label="B", gap=28 * FOOT)),
    }  # fmt: skip
    return edits.add(p, Grid(id="grid-1", angle=angle, **axes))


def filled(**fields):
    p = on_grid()
    bay = bay_around(p, (5 * FOOT, 9 * FOOT), "level-1")
    return fill_bay(p, bay, FLOOR, "floor-1", **fields)


def stations(p):
    """Where the beams of the first row lie along x, and their ends across it, ft."""
    rows = [(locate(b.start, p.grids), locate(b.end, p.grids)) for b in beams_of(p.beam_rows[0], p.grids)]
    return [round(a[0] / FOOT, 4) for a, _ in rows], rows


def test_the_bay_round_a_place():
    """Between axes 1 and 2, A and B; with a bearing wall along the middle, up to that."""
    p = on_grid()
    ring = bay_around(p, (5 * FOOT, 9 * FOOT), "level-1")
    assert [(round(x / FOOT, 3), round(y / FOOT, 3)) for x, y in ring] == [(0, 0), (20, 0), (20, 28), (0, 28)]
    walled = edits.add_wall(
        p, (0.0, 14 * FOOT), (36 * FOOT, 14 * FOOT), "inside-2x6", Hang(level="level-1"), Hang(level="level-2"), "centre",
        role="bearing",
    )  # fmt: skip
    ring = bay_around(walled, (5 * FOOT, 9 * FOOT), "level-1")
    assert max(y for _, y in ring) == pytest.approx(14 * FOOT)
    with pytest.raises(EditError, match="no axis, wall or beam"):
        bay_around(p, (-90 * FOOT, -90 * FOOT), "level-1")


@pytest.mark.parametrize(
    ("fields", "feet"),
    [
        ({"by": "spacing at most", "spacing": 6 * FOOT}, [5, 10, 15]),
        ({"by": "spacing at most", "spacing": 5 * FOOT}, [5, 10, 15]),
        ({"by": "number", "number": 4}, [4, 8, 12, 16]),
        ({"by": "spacing", "spacing": 6 * FOOT}, [6, 12, 18]),
        ({"by": "spacing", "spacing": 6 * FOOT, "begin": "the other side"}, [2, 8, 14]),
        ({"by": "spacing", "spacing": 6 * FOOT, "begin": "the middle"}, [4, 10, 16]),
        ({"by": "spacing", "spacing": 6 * FOOT, "begin": "both ends alike"}, [4, 10, 16]),
    ],
)
def test_a_bay_of_twenty_feet(fields, feet):
    """By hand.  Beams run the long way here: 28 ft from A to B would be the longer side, so they span 20 ft along x."""
    p = turned(filled(**fields), "beams-1")
    assert sorted(stations(p)[0]) == pytest.approx(feet)


def test_they_span_the_shorter_way_and_turn():
    p = filled(by="number", number=3)
    rows = stations(p)[1]
    assert all(abs(a[1] - b[1]) < 1e-6 and abs(a[0] - b[0]) == pytest.approx(20 * FOOT) for a, b in rows)
    rows = stations(turned(p, "beams-1"))[1]
    assert all(abs(a[0] - b[0]) < 1e-6 and abs(a[1] - b[1]) == pytest.approx(28 * FOOT) for a, b in rows)


def test_they_follow_the_axes():
    """Axis 2 moves 6 ft out: as many as it takes then, evenly."""
    p = turned(filled(by="spacing at most", spacing=5 * FOOT), "beams-1")
    wider = move_axis(p, "grid-1", "x2", 6 * FOOT)
    at, _ = stations(wider)
    wide = locate(wider.beam_rows[0].b, wider.grids)[0] - locate(wider.beam_rows[0].a, wider.grids)[0]
    assert len(at) == math.ceil(max(wide, 26 * FOOT) / (5 * FOOT) - 1e-9) - 1
    assert {round(b - a, 3) for a, b in pairwise(at)} == {round(26.0 / 6.0, 3)}


def test_single_ones_stay_as_they_are():
    p = turned(filled(by="spacing", spacing=6 * FOOT, made_of="GLB"), "beams-1")
    out = set_single(p, "beams-1.2", removed=True)
    assert [b.id for b in all_beams(out)] == ["beams-1.1", "beams-1.3"]
    own = set_single(out, "beams-1.3", size="GLB 5.125x18")
    assert all_beams(own)[1].size == "GLB 5.125x18"
    # The bay grows: the second stays out, the third keeps its section, a fourth comes.
    wider = move_axis(own, "grid-1", "x2", 6 * FOOT)
    assert [(b.id, b.size) for b in all_beams(wider)] == [
        ("beams-1.1", None), ("beams-1.3", "GLB 5.125x18"), ("beams-1.4", None),
    ]  # fmt: skip
    assert not set_single(set_single(own, "beams-1.3", size=None), "beams-1.2", removed=False).beam_rows[0].singles
    assert len(all_beams(without_singles(p, ["beams-1.1", "beams-1.3"]))) == 1
    with pytest.raises(EditError):
        set_single(p, "beams-1.9", removed=True)
    assert row_of(p, "beam-1") is None
    assert label_of(p, "beams-1.2") == "Beam 2 of row of beams 1"


def test_they_carry_joists_and_bear_on_walls():
    p = turned(filled(by="spacing at most", spacing=7 * FOOT, made_of="GLB"), "beams-1")
    model = derive(p)
    assert all(model.girders[b.id].works for b in all_beams(p))
    live = total(r.force for r in model.path.reactions if r.piece.startswith("floor")).live
    on_beams = sum(made.load.live for made in model.path.beams.values())
    assert 0.4 * live < on_beams < 0.8 * live
    assert from_bytes(to_bytes(p)) == p
    assert not edits.remove(p, "beams-1").beam_rows


def test_rules():
    p = filled()
    for wrong in ({"spacing": 1.0}, {"number": 0}, {"size": "2x10"}, {"flush": True, "floor": ""}, {"angle": math.nan}):
        with pytest.raises(EditError):
            edits.change(p, "beams-1", **({"made_of": "GLB"} if "size" in wrong else {}), **wrong)
    with pytest.raises(EditError, match="crosses itself"):
        edits.change(p, "beams-1", b=p.beam_rows[0].c, c=p.beam_rows[0].b)
    with pytest.raises(EditError, match="1 ft"):
        edits.change(p, "beams-1", b=p.beam_rows[0].a)


@given(
    corners=st.lists(st.tuples(st.floats(-20e3, 20e3), st.floats(-20e3, 20e3)), min_size=4, max_size=4),
    angle=st.one_of(st.none(), st.floats(0.0, 360.0)),
    spacing=st.floats(300.0, 5000.0),
    by=st.sampled_from(["spacing", "spacing at most"]),
)
def test_any_bay(corners, angle, spacing, by):
    """Every beam begins and ends on a side of the bay, parallel to the others, no farther apart than asked."""
    p = edits.new_project("x")
    a, b, c, d = (FreePoint(x=x, y=y) for x, y in corners)
    try:
        p = fill_bay(p, corners, Hang(level=p.levels[0].id), by=by, spacing=spacing, angle=angle)
    except EditError:
        return
    row = p.beam_rows[0]
    kept, drawn = (sorted((q.x, q.y) for q in four) for four in ((row.a, row.b, row.c, row.d), (a, b, c, d)))
    assert kept == [pytest.approx(q, abs=1e-5) for q in drawn]
    ways = set()
    for beam in beams_of(row, ()):
        ends = [(beam.start.x, beam.start.y), (beam.end.x, beam.end.y)]
        dx, dy = ends[1][0] - ends[0][0], ends[1][1] - ends[0][1]
        ways.add(round(math.degrees(math.atan2(dy, dx)) % 180.0, 2) % 180.0)
        assert math.hypot(dx, dy) > 149.0
    assert len(ways) <= 2


def test_a_rectangle_along_a_turned_grid():
    p = on_grid(angle=30.0)
    ring = grid_corners(p, (0.0, 0.0), (5000.0, 4000.0))
    (ax, ay), (bx, by), (cx, cy), (dx, dy) = ring
    assert (ax, ay) == (0.0, 0.0)
    assert (bx - ax) * (dx - ax) + (by - ay) * (dy - ay) == pytest.approx(0.0, abs=1e-3)
    assert (cx, cy) == (5000.0, 4000.0)
    assert math.degrees(math.atan2(by, bx)) == pytest.approx(30.0)
