"""Moments and shears along a beam: against closed formulas, against each other, and against what its checks say."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.design.test_girders import evenly, girder

from balken.loads.cases import Cases
from balken.standards.us.girders import check_girder, girder_curves
from balken.units.system import FOOT, PLF, POUND_FORCE


def arrays(case):
    curves = girder_curves(case)
    return tuple(np.array(row) for row in (curves.at, curves.sag, curves.hog, curves.up, curves.down))


def test_one_span_evenly_loaded():
    """w l / 2 - w x and w x (l - x) / 2, with D + L governing all along (statics)."""
    span, w = 10 * FOOT, 400 * PLF
    at, sag, hog, up, down = arrays(girder("3-2x10", (0.0, span), patches=[evenly(span, dead=60, live=340)]))
    assert sag == pytest.approx(w * at * (span - at) / 2.0, rel=1e-9, abs=1.0)
    assert hog == pytest.approx(60 * PLF * at * (span - at) / 2.0, rel=1e-9, abs=1.0)  # bare of live load
    inner = (at > 0.0) & (at < span)
    most, least = w * (span / 2.0 - at), 60 * PLF * (span / 2.0 - at)
    assert up[inner] == pytest.approx(np.maximum(most, least)[inner], rel=1e-9, abs=1e-3)
    assert down[inner] == pytest.approx(np.minimum(most, least)[inner], rel=1e-9, abs=1e-3)
    assert (up[1], down[-2]) == pytest.approx((w * span / 2.0, -w * span / 2.0))
    assert (up[0], down[0], up[-1], down[-1]) == (0.0, 0.0, 0.0, 0.0)


def test_two_unlike_spans_with_live_load_on_either():
    """Over the middle support w1 a^3 and w2 b^3 over 8 (a + b), by the equation of three moments."""
    a, b, live = 9 * FOOT, 14 * FOOT, 300 * PLF
    case = girder("LVL 2-1.75x11.875", (0.0, a, a + b), patches=[evenly(a + b, live=300)])
    at, sag, hog, _, _ = arrays(case)
    over = int(np.argmin(abs(at - a)))
    assert hog[over] == pytest.approx(-live * (a**3 + b**3) / (8.0 * (a + b)), rel=1e-9)
    # Each span sags most with the other one bare: l^2/8 less the moment over the support, shared by the lever.
    m = live * b**3 / (8.0 * (a + b))
    x = at[at >= a] - a
    assert sag[at >= a] == pytest.approx(
        np.maximum(live * x * (b - x) / 2.0 - m * (b - x) / b, 0.0), rel=1e-6, abs=50.0
    )


def test_an_overhang_with_a_load_at_its_end():
    """Hogs by P a over the support, evenly falling to nothing at the tip; the shear there is P."""
    span, reach, force = 12 * FOOT, 3 * FOOT, 900 * POUND_FORCE
    case = girder("3-2x10", (0.0, span), length=span + reach, points=[(span + reach, Cases(dead=force))], skip=False)
    at, sag, hog, up, _ = arrays(case)
    beyond = at >= span
    assert hog[beyond] == pytest.approx(-force * (span + reach - at[beyond]), rel=1e-9, abs=1.0)
    assert sag.max() <= 1e-6
    assert up[(at > span) & (at < span + reach - 1.0)] == pytest.approx(force)


@settings(max_examples=40, deadline=None)
@given(
    spans=st.lists(st.floats(4.0, 16.0), min_size=1, max_size=4),
    over=st.floats(0.0, 3.0),
    dead=st.floats(10.0, 200.0),
    live=st.floats(0.0, 800.0),
    point=st.floats(0.0, 3000.0),
    part=st.floats(0.05, 0.95),
)
def test_greatest_values_are_those_of_the_checks(spans, over, dead, live, point, part):
    """Whatever lies on it: the curves reach what is checked, the ends are free, the most is never below the least."""
    supports = np.concatenate([[0.0], np.cumsum(spans)]) * FOOT + over * FOOT
    length = float(supports[-1])
    case = girder(
        "LVL 3-1.75x11.875", tuple(supports.tolist()), patches=[evenly(length, dead=dead, live=live)],
        points=[(part * length, Cases(dead=point, live=point))],
    )  # fmt: skip
    made = check_girder(case)
    at, sag, hog, up, down = arrays(case)
    assert (np.diff(at) >= 0.0).all()
    assert (sag >= hog - 1e-6).all()
    assert (up >= down - 1e-6).all()
    assert max(sag.max(), 0.0) == pytest.approx(made.moments[0], abs=1e-3)
    assert min(hog.min(), 0.0) == pytest.approx(made.moments[1], abs=1e-3)
    assert max(up.max(), -down.min()) == pytest.approx(made.shear, rel=1e-9)
    for ends in (sag, hog):
        assert (ends[0], ends[-1]) == pytest.approx((0.0, 0.0), abs=1.0)


def test_without_loads_that_move_the_moment_is_the_sum_of_the_shear():
    """One combination alone: M' = V, places with leaps and kinks included."""
    supports = (2 * FOOT, 11 * FOOT, 25 * FOOT)
    case = girder(
        "3-2x12", supports, length=28 * FOOT, patches=[evenly(28 * FOOT, dead=120)],
        points=[(7 * FOOT, Cases(dead=2000.0)), (20 * FOOT, Cases(dead=900.0))],
    )  # fmt: skip
    at, sag, hog, up, down = arrays(case)
    assert up[2:-2] == pytest.approx(down[2:-2])
    moment = np.where(abs(sag) > abs(hog), sag, hog)
    area = np.concatenate([[0.0], np.cumsum((up[1:] + up[:-1]) / 2.0 * np.diff(at))])
    assert moment == pytest.approx(area, abs=abs(moment).max() * 1e-9)
