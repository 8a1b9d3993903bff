"""The demo project: whole, in equilibrium, without findings, every opening framed."""

import pytest

from balken.demo import orchard_road
from balken.derive import derive
from balken.model.records import AxisPoint
from balken.units.system import FOOT


@pytest.fixture(scope="module")
def model():
    return derive(orchard_road())


def test_it_is_set_out_in_full(model):
    p = model.project
    assert len(p.walls) == 23
    assert len(p.openings) == 33
    assert {v.role for v in p.levels} >= {
        "top of footing",
        "top of foundation",
        "slab",
        "floor",
        "plate",
        "ridge",
        "ground",
    }
    assert sum(v.role == "top of footing" for v in p.levels) == 3
    xs = [b for line in model.lines.values() for b in (line.band.start[0], line.band.end[0])]
    ys = [b for line in model.lines.values() for b in (line.band.start[1], line.band.end[1])]
    assert (min(xs), max(xs)) == pytest.approx((-12 * FOOT, 40 * FOOT))
    assert (min(ys), max(ys)) == pytest.approx((0.0, 48 * FOOT))


def test_nothing_is_found_and_everything_is_framed(model):
    assert model.findings == ()
    assert len(model.outlines) == 8
    for framed in model.framed.values():
        assert framed.wall.troubles == ()
        assert framed.design.result.used <= 1.0
        assert all(h.used <= 1.0 for h in framed.headers.values())


def test_all_loads_arrive_at_the_footings(model):
    for put_on, arrived in zip(model.path.applied, model.path.arrived, strict=True):
        assert arrived == pytest.approx(put_on, rel=1e-7, abs=1e-3)
    assert model.path.lost == ()


def test_the_ground_falls_four_feet_along_the_long_side(model):
    high, low = model.ground.height((0.0, -3 * FOOT)), model.ground.height((40 * FOOT, -3 * FOOT))
    assert high - low == pytest.approx(4 * FOOT)
    assert model.ground.height((20 * FOOT, 10 * FOOT)) == pytest.approx((high + low) / 2.0)


def test_the_upper_storey_stands_over_the_lower_one_on_the_axes(model):
    upper = [w for w in model.project.walls if w.foot.level == "level-6"]
    assert len(upper) == 5  # walls in one line became one
    assert sum(isinstance(p, AxisPoint) for w in upper if w.role == "outside" for p in (w.start, w.end)) == 8
    assert all(w.cover > 0.0 for w in upper if w.role == "outside")
