"""Sheets over decks: they cover all of it once, none is larger than it comes, joints lie on supports; counted by hand where that is easy."""

import pytest
import shapely
from hypothesis import example, given
from hypothesis import strategies as st

from balken.geometry.sheets import Sheet, SheetPiece, laid_best, lay_sheets, sheets_needed
from balken.units.system import FOOT, INCH

PANEL = Sheet(8.0 * FOOT, 4.0 * FOOT, 2.0 * FOOT)


def area(pieces):
    return sum(shapely.Polygon(p.ring).area for p in pieces)


def test_a_deck_of_24_by_16_ft_takes_twelve_panels():
    """By hand: four rows of three; two rows begin and end with half a panel, of which two make one."""
    pieces = lay_sheets(shapely.box(0, 0, 24 * FOOT, 16 * FOOT), [k * 16.0 * INCH for k in range(19)], PANEL)
    assert [sum(p.row == k for p in pieces) for k in range(4)] == [3, 4, 3, 4]
    assert sheets_needed(pieces, PANEL) == 12
    assert all(p.held for p in pieces)


def test_pieces_over_one_bay_are_known():
    """By hand: at 24 in a deck of 12 ft begins its rows with 8 and 4 ft in turn, so over four and two bays; one of 10 ft ends on one of 2 ft."""
    supports = [k * 24.0 * INCH for k in range(8)]
    even = lay_sheets(shapely.box(0, 0, 12 * FOOT, 8 * FOOT), supports, PANEL)
    assert [p.bays for p in even] == [4, 2, 2, 4]
    short = lay_sheets(shapely.box(0, 0, 10 * FOOT, 4 * FOOT), supports, PANEL)
    assert [p.bays for p in short] == [4, 1]
    assert lay_sheets(shapely.box(0, 0, 1 * FOOT, 4 * FOOT), supports, PANEL)[0].bays == 0


def test_offcuts_are_used_the_way_they_lie():
    def piece(long, wide):
        return SheetPiece((), 0, (long * FOOT, wide * FOOT), True)

    assert sheets_needed([piece(4, 2)] * 4, PANEL) == 1  # two beside one another, two above
    assert sheets_needed([piece(4.1, 2)] * 4, PANEL) == 2
    assert sheets_needed([piece(3, 4), piece(3, 4), piece(3, 4)], PANEL) == 2
    assert sheets_needed([piece(2, 6)], PANEL) == 1  # never turned: it would be too wide, and counts as one
    assert sheets_needed([], PANEL) == 0


def test_rows_begin_where_the_supports_are_set_out_from():
    """22 ft 8 in with supports every 16 in from the far end: from there two whole panels a row, from the near one none."""
    wide = 272.0 * INCH
    supports = [wide - k * 16.0 * INCH for k in range(18)]
    shape = shapely.box(0, 0, wide + 8.0 * INCH, 8 * FOOT)
    best = laid_best(shape, supports, PANEL)
    assert sheets_needed(best, PANEL) <= sheets_needed(lay_sheets(shape, supports, PANEL), PANEL)
    assert area(best) == pytest.approx(shape.area)


@given(
    corners=st.lists(st.tuples(st.floats(0.0, 12_000.0), st.floats(0.0, 8000.0)), min_size=4, max_size=7),
    spacing=st.sampled_from([304.8, 400.0, 406.4, 600.0, 609.6]),
    first=st.floats(0.0, 600.0),
    hole=st.tuples(st.floats(500.0, 9000.0), st.floats(500.0, 6000.0)),
)
@example(
    corners=[(0.0, 0.0), (0.0, 0.0), (0.0, 7628.0), (5835.0, 4.0)], spacing=304.8, first=0.0, hole=(1220.0, 3658.0)
)
def test_any_deck_is_covered_once(corners, spacing, first, hole):
    shape = shapely.MultiPoint(corners).convex_hull.difference(shapely.box(*hole, hole[0] + 900.0, hole[1] + 1200.0))
    if shape.area < 1e6:
        return
    supports = [first + k * spacing for k in range(-2, int(13_000 / spacing))]
    for pieces in (lay_sheets(shape, supports, PANEL), laid_best(shape, supports, PANEL)):
        whole = [shapely.Polygon(p.ring) for p in pieces]
        # What is no piece is less than a hand's breadth each.
        assert sum(p.area for p in whole) == pytest.approx(shape.area, abs=2500.0 * (len(whole) + 40))
        assert shapely.union_all(whole).area == pytest.approx(sum(p.area for p in whole), abs=10.0)
        assert all(p.size[0] <= PANEL.long + 1.0 and p.size[1] <= PANEL.wide + 1.0 for p in pieces)
        needed = sheets_needed(pieces, PANEL)
        assert shape.area / (PANEL.long * PANEL.wide) - 0.02 * len(pieces) <= needed <= len(pieces)
        for p in pieces:
            if p.held:
                continue
            assert spacing > PANEL.long  # supports are always within reach


def test_joints_of_rows_beside_one_another_are_staggered():
    pieces = lay_sheets(shapely.box(0, 0, 40 * FOOT, 20 * FOOT), [k * 16.0 * INCH for k in range(31)], PANEL)
    joints = {
        row: {round(x) for p in pieces if p.row == row for x, _ in p.ring} - {0, round(40 * FOOT)} for row in range(5)
    }
    assert all(not joints[k] & joints[k + 1] for k in range(4))
