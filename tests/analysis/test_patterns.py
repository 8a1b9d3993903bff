"""Live load on some spans only: every arrangement tried one by one, and against published coefficients."""

import itertools

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from balken.analysis.lines import line, solve
from balken.analysis.patterns import envelope, spans_of

FACTORS = np.array([[1.0, 0.0], [1.0, 1.0], [0.6, 1.0]])


@st.composite
def loaded_lines(draw):
    """Two to five supports, maybe ends beyond them; dead (case 0) and live (case 1) patches, triangles and points."""
    spans = draw(st.lists(st.floats(800, 6000), min_size=1, max_size=4))
    before, beyond = draw(st.sampled_from((0.0, 600.0))), draw(st.sampled_from((0.0, 900.0)))
    supports = [before, *(before + x for x in itertools.accumulate(spans))]
    length = supports[-1] + beyond
    q = st.floats(0.0, 20.0)
    patches = [(0.0, length, (draw(q), draw(q)), (draw(q), draw(q)))]
    for _ in range(draw(st.integers(0, 2))):
        a, b = sorted((draw(st.floats(0, 1)) * length, draw(st.floats(0, 1)) * length))
        if b - a > 50.0:
            patches.append((a, b, (draw(q), draw(q)), (draw(q), draw(q))))
    points = [(draw(st.floats(0, 1)) * length, (0.0, draw(st.floats(0, 2e4)))) for _ in range(draw(st.integers(0, 2)))]
    return length, supports, patches, points


def arranged(length, supports, patches, points, loaded):
    """The same line with live load on these stretches alone, made by hand: each patch cut at every mark."""
    rows, spots = [], []
    for a, b, qa, qb in patches:
        rows.append((a, b, (qa[0], 0.0), (qb[0], 0.0)))
        for low, high in loaded:
            lo, hi = max(a, low), min(b, high)
            if hi - lo > 1e-9:
                at = [qa[1] + (qb[1] - qa[1]) * (x - a) / (b - a) for x in (lo, hi)]
                rows.append((lo, hi, (0.0, at[0]), (0.0, at[1])))
    for x, (dead, live) in points:
        on = any(low <= x < high or (high == length and x == high) for low, high in loaded)
        spots.append((x, (dead, live if on else 0.0)))
    return solve([line(length, supports, rows, spots, cases=2)])[0].combined(FACTORS)


@given(loaded_lines())
def test_it_is_the_worst_of_every_arrangement(made):
    one = line(*made, cases=2)
    found = envelope(one, FACTORS, moving=[1])
    stretches = spans_of(one)
    every = [
        arranged(*made, loaded) for n in range(len(stretches) + 1) for loaded in itertools.combinations(stretches, n)
    ]
    at = found.at[None, :]
    size = max(1.0, max(float(np.abs(s.reactions).sum()) for s in every))
    for k, pick in ((0, np.max), (1, np.min)):
        reactions = pick(np.stack([s.reactions[0] for s in every]), axis=0)
        assert found.reactions[k] == pytest.approx(reactions, abs=1e-6 * size)
        moments = pick(np.stack([s.moment(at)[0] for s in every]), axis=0)
        assert found.moments[k] == pytest.approx(moments, abs=1e-6 * size * made[0])
        shears = pick(np.stack([s.shear(at)[0] for s in every]), axis=0)
        assert found.shears[k] == pytest.approx(shears, abs=1e-6 * size)


def test_two_and_three_equal_spans_by_published_coefficients():
    """Even live load on some spans, moments in parts of q L^2 (tables for continuous beams, e.g. Schneider, Bautabellen,
    "Durchlauftraeger"; from memory, and the test above works them out anew): two spans 0.096 and -0.125, end support
    0.4375 q L; three spans 0.101 in the first, 0.075 in the middle, support -0.1167."""
    span, q = 4000.0, 5.0
    for count, field, middle, support in ((2, 0.0957, None, 0.125), (3, 0.1013, 0.075, 0.1167)):
        supports = [span * i for i in range(count + 1)]
        one = line(supports[-1], supports, [(0.0, supports[-1], (0.0, q), (0.0, q))], cases=2)
        found = envelope(one, np.array([[1.0, 1.0]]), moving=[1], places=400)
        in_first = found.at < span
        assert found.moments[0][in_first].max() / (q * span**2) == pytest.approx(field, abs=2e-4)
        assert -found.moments[1].min() / (q * span**2) == pytest.approx(support, abs=2e-4)
        if middle:
            inside = (found.at > span) & (found.at < 2 * span)
            assert found.moments[0][inside].max() / (q * span**2) == pytest.approx(middle, abs=2e-4)
        if count == 2:
            assert found.reactions[0, 0, 0] / (q * span) == pytest.approx(0.4375, abs=1e-4)
            assert found.reactions[1, 0, 0] / (q * span) == pytest.approx(-0.0625, abs=1e-4)


def test_what_is_always_there_stays():
    one = line(6000.0, [0.0, 6000.0], [(0.0, 6000.0, (2.0, 3.0), (2.0, 3.0))], cases=2)
    found = envelope(one, FACTORS, moving=[1])
    assert found.reactions[0, 0].tolist() == pytest.approx([6000.0, 15000.0, 3600.0 + 9000.0])
    assert found.reactions[1, 0].tolist() == pytest.approx([6000.0, 6000.0, 3600.0])
