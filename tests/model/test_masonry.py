"""The masonry module: n x 200 - 10 outside, n x 200 + 10 openings (common practice, no source)."""

import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st

from balken.geometry.plane import distance
from balken.model import edits, grid_edits
from balken.model.errors import EditError
from balken.model.lookup import locate
from balken.model.masonry import Module, fit, measure
from balken.model.records import Hang
from balken.units import Units

M = Module()


def house(corners, openings=(), grid=False):
    p = edits.new_project("Block house", Units.METRIC)
    if grid:
        p = grid_edits.add_grid(p, (corners[1][0],), (corners[2][1],))
    foot, head = Hang(level="level-1"), Hang(level="level-1", offset=2600.0)
    for a, b in itertools.pairwise([*corners, corners[0]]):
        p = edits.add_wall(p, a, b, "block-190", foot, head)
    for wall, offset, width in openings:
        p = edits.add_opening(p, wall, "window", offset, width, 1200.0, 800.0)
    return p


def lengths(p):
    return [distance(locate(w.start, p.grids), locate(w.end, p.grids)) for w in p.walls]


def test_what_lengths_are_on_the_module():
    assert M.off(5990.0, -1) == 0.0
    assert M.off(1210.0, 1) == 0.0
    assert M.off(6000.0, -1) == pytest.approx(-10.0)
    assert M.next(6000.0, -1) == 6190.0
    assert M.next(6000.0, -1, shorten=10.0) == 5990.0
    assert Module(225.0, 10.0).off(890.0, -1) == 0.0  # four bricks of 215 with their joints


def test_a_rectangle_is_lengthened_to_the_next_module_and_stays_closed():
    p = house([(0, 0), (6000, 0), (6000, 4100), (0, 4100)], [("wall-1", 1000.0, 1200.0)], grid=True)
    assert sum(not row.fits for row in measure(p, M)) >= 4
    q = fit(p, M)
    assert lengths(q) == pytest.approx([6190.0, 4190.0, 6190.0, 4190.0])
    assert all(row.fits for row in measure(q, M))
    assert q.openings[0].width == 1210.0
    assert q.openings[0].offset == pytest.approx(990.0)
    assert q.grids[0].x_axes[1].gap == pytest.approx(6190.0)  # axes went along and hold the walls
    for a, b in itertools.pairwise([*q.walls, q.walls[0]]):
        assert distance(locate(a.end, q.grids), locate(b.start, q.grids)) < 1e-6
    assert fit(q, M) == q


def test_an_outside_to_inside_corner_is_a_whole_number_of_modules():
    p = house([(0, 0), (8000, 0), (8000, 3000), (5000, 3000), (5000, 6000), (0, 6000)])
    q = fit(p, M)
    a, b, c, d, e, f = lengths(q)
    assert a == pytest.approx(8190.0)
    assert e == pytest.approx(5190.0)
    assert c == pytest.approx(3000.0)
    assert c + e == pytest.approx(a)
    assert b + d == pytest.approx(f)
    assert all(row.fits for row in measure(q, M))


def test_shortening_is_used_only_within_its_limit():
    p = house([(0, 0), (6000, 0), (6000, 4005), (0, 4005)])
    assert lengths(fit(p, M, shorten=20.0)) == pytest.approx([5990.0, 3990.0] * 2)
    assert lengths(fit(p, M, shorten=12.0)) == pytest.approx([5990.0, 4190.0] * 2)


def test_what_cannot_be_fitted_is_refused_with_the_wall():
    p = house([(0, 0), (6000, 0), (7000, 4000), (0, 4000)])
    with pytest.raises(EditError, match=r"Wall 2.*not square"):
        fit(p, M)
    with pytest.raises(EditError, match="no wall has a core"):
        fit(edits.new_project(), M)
    with pytest.raises(EditError, match="module must be"):
        fit(p, Module(5.0, 10.0))


@given(
    st.integers(1500, 12000),
    st.integers(1500, 9000),
    st.integers(1300, 6000),
    st.integers(1300, 6000),
    st.sampled_from([Module(), Module(225.0, 10.0), Module(203.2, 9.525)]),
    st.integers(300, 900),
)
def test_any_l_shape_fits_closed_and_never_shorter(a, b, c, d, module, width):
    corners = [(0, 0), (a + c, 0), (a + c, b), (a, b), (a, b + d), (0, b + d)]
    p = house(corners, [("wall-1", 500.0, float(width))])
    q = fit(p, module)
    for before, after in zip(lengths(p), lengths(q), strict=True):
        assert before - 1e-6 <= after < before + 2 * module.size + 4 * module.joint
    assert all(row.fits for row in measure(q, module))
    for one, two in itertools.pairwise([*q.walls, q.walls[0]]):
        assert distance(locate(one.end, q.grids), locate(two.start, q.grids)) < 1e-6


@pytest.mark.parametrize("module", [Module(0.0, 10.0), Module(-200.0, 10.0), Module(10.0, 10.0), Module(200.0, 400.0)])
def test_what_is_no_module_is_refused_in_words(module):
    p = house([(0, 0), (6000, 0), (6000, 4000), (0, 4000)])
    for work in (measure, fit):
        with pytest.raises(EditError, match="the module must be 20 to 2000 mm"):
            work(p, module)
