"""From where joists are set out: one side, the other, the middle, both ends alike."""

import math
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.houses import house
from tests.shop import shop

from balken.catalog.sections import section
from balken.derive import derive
from balken.loads.cases import total
from balken.model import edits, wall_edits
from balken.model.member_edits import set_member
from balken.model.naming import owner_of, piece_name
from balken.model.records import Choice
from balken.model.spread import positions
from balken.units.system import FOOT, INCH

EDGE, LEAST = 1.5 * INCH, 1.75 * INCH
STARTS = ("one side", "the other side", "the middle", "both ends alike")


@pytest.mark.parametrize(
    ("start", "inches"),
    [
        ("one side", [16, 32, 48, 64, 80, 96]),
        ("the other side", [12, 28, 44, 60, 76, 92]),
        ("the middle", [6, 22, 38, 54, 70, 86, 102]),
        ("both ends alike", [14, 30, 46, 62, 78, 94]),
    ],
)
def test_a_width_of_nine_feet_at_16_inches(start, inches):
    """By hand: 108 in is six bays of 16 and 12 in over, or 14 in at both ends, or 6 in at both with one in the middle."""
    assert positions(9 * FOOT, 16 * INCH, EDGE, LEAST, start) == pytest.approx([i * INCH for i in inches])


@given(width=st.floats(100.0, 20_000.0), spacing=st.floats(200.0, 900.0))
def test_whatever_the_width(width, spacing):
    """On centre everywhere, clear of both edges, and both ends alike where that is asked, with as few as will do."""
    rows = {start: positions(width, spacing, EDGE, LEAST, start) for start in STARTS}
    for row in rows.values():
        assert all(b - a == pytest.approx(spacing) for a, b in pairwise(row))
        assert all(EDGE + LEAST - 1e-6 <= at <= width - EDGE - LEAST + 1e-6 for at in row)
        ends = (row[0], width - row[-1]) if row else (width,)
        assert max(ends) <= spacing + 2.0 * (EDGE + LEAST) + 1e-6
    assert [width - at for at in reversed(rows["one side"])] == pytest.approx(rows["the other side"])
    for start in ("the middle", "both ends alike"):
        row = rows[start]
        assert [width - at for at in reversed(row)] == pytest.approx(row)
    alike = rows["both ends alike"]
    assert len(alike) == max(math.ceil(width / spacing - 1e-9) - 1, 0)
    if alike:
        assert alike[0] <= spacing + 1e-6
    assert not rows["the middle"] or any(at == pytest.approx(width / 2.0) for at in rows["the middle"])


@pytest.mark.parametrize("start", STARTS)
def test_every_start_carries_the_whole_floor(start):
    """A floor with notches, whose bays differ: whatever the start, all its live load goes down, and nothing is found wrong."""
    p = edits.change(shop(), "floor-1", joists__spacing=14 * INCH)  # 40 ft are no whole number of bays
    plain, made = derive(p), derive(edits.change(p, "floor-1", start=start))
    live = [total(r.force for r in m.path.reactions if owner_of(r.piece) == "floor-1").live for m in (plain, made)]
    assert live[0] == pytest.approx(live[1], rel=1e-9)
    assert made.path.arrived.all == pytest.approx(made.path.applied.all, rel=1e-9)
    assert made.findings == plain.findings
    places = [[line.place for line in m.floors[0].lines] for m in (plain, made)]
    assert (places[0] == places[1]) == (start == "one side")


def test_from_the_other_side_they_go_with_their_wall():
    """31 ft long, joists counted from wall 4: where wall 2 moves none of them does, and what was changed by hand stays so."""
    p = edits.change(house(31 * FOOT, 14 * FOOT), "floor-1", start="the other side")
    plan = derive(p).floors[0]
    assert {line.place.partition("+")[0] for line in plan.lines} == {"wall-4"}
    last = max(line.t for line in plan.lines)
    off = sorted({abs(line.t) for line in plan.lines})  # 31 ft are 23 bays of 16 in and 4 in over
    assert (off[0], off[-1], len(off)) == pytest.approx((16 * INCH, 23 * 16 * INCH, 23))
    name = piece_name("floor-1", "joist", next(line.place for line in plan.lines if line.t == last))
    double = set_member(p, name, plies=2)
    moved = derive(wall_edits.drag_walls(double, ("wall-2",), 2.5 * FOOT, 0.0))
    assert name in moved.pieces
    assert moved.pieces[name].section == derive(double).pieces[name].section != derive(p).pieces[name].section
    kept = {line.place for line in plan.lines}
    assert kept < {line.place for line in moved.floors[0].lines}
    assert not [f for f in moved.findings if "hand" in f.code]


def test_the_way_with_the_least_timber():
    """24 x 20 ft with a bearing wall along the long middle: 10 ft spans of small joists against 24 ft of deep ones; both laid."""
    p = edits.change(house(long=24 * FOOT, middle=True, joists=Choice(size=None)), "floor-1", way="least timber")
    design = derive(p).designs[("floor-1", "joists")]
    taken, other = design.ways
    assert taken.works
    assert not other.works or taken.volume <= other.volume
    for way in design.ways:
        one = derive(edits.change(p, "floor-1", direction=way.angle))
        joists = [m for m in one.of_layouts("joist") if m.owner == "floor-1"]
        assert way.volume == pytest.approx(sum(m.length for m in joists) * section(joists[0].section).area, rel=1e-6)
        assert way.works == one.designs[("floor-1", "joists")].works
    assert not derive(edits.change(p, "floor-1", way="shorter")).designs[("floor-1", "joists")].ways
