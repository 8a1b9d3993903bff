"""Lines on any supports under any loads: against PyNiteFEA on random lines, closed forms, and statics itself."""

import itertools

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from Pynite import FEModel3D

from balken.analysis.lines import LineError, line, solve, solve_alike

E, I = 11_000.0, 4.0e7  # noqa: E741


def pynite(one, held=()):
    """The same line in PyNiteFEA, whose members run between supports and ends."""
    nodes = sorted({0.0, one.length, *one.supports})
    model = FEModel3D()
    model.add_material("wood", E, E / 16, 0.3, 0.0)
    model.add_section("s", 1e5, I, I, 1e8)
    for i, x in enumerate(nodes):
        model.add_node(f"N{i}", x, 0, 0)
        held_here = dict(zip(one.supports, one.held or (False,) * len(one.supports), strict=True)).get(x)
        model.def_support(f"N{i}", i == 0, x in one.supports, True, True, True, bool(held_here))
    for i in range(len(nodes) - 1):
        model.add_member(f"M{i}", f"N{i}", f"N{i + 1}", "wood", "s")
    for (a, b), (qa, qb) in zip(one.patches, one.loads[:, :, 0], strict=True):
        for i in range(len(nodes) - 1):
            low, high = max(a, nodes[i]), min(b, nodes[i + 1])
            if high - low > 1e-6:
                at = [qa + (qb - qa) * (x - a) / (b - a) for x in (low, high)]
                model.add_member_dist_load(f"M{i}", "FY", -at[0], -at[1], low - nodes[i], high - nodes[i])
    for x, force in zip(one.points, one.forces[:, 0], strict=True):
        i = max(k for k in range(len(nodes) - 1) if nodes[k] <= x)
        model.add_member_pt_load(f"M{i}", "FY", -force, x - nodes[i])
    model.analyze(check_statics=False)
    return model, nodes


@st.composite
def lines_(draw):
    length = draw(st.floats(2000.0, 12_000.0))
    count = draw(st.integers(1, 5))
    cuts = sorted(draw(st.lists(st.floats(0.02, 0.98), min_size=count, max_size=count, unique=True)))
    if any(b - a < 0.05 for a, b in itertools.pairwise(cuts)):
        cuts = [0.1 + 0.8 * i / max(count - 1, 1) for i in range(count)]
    held = [draw(st.booleans()) for _ in cuts]
    if count == 1:
        held = [True]
    spot = st.floats(0.0, 1.0)
    q = st.floats(-3.0, 9.0)
    patches = []
    for a, b, qa, qb in draw(st.lists(st.tuples(spot, spot, q, q), max_size=5)):
        if abs(a - b) > 0.01:
            patches.append((min(a, b) * length, max(a, b) * length, (qa,), (qb,)))
    points = [(x * length, (f,)) for x, f in draw(st.lists(st.tuples(spot, st.floats(-8000, 20_000)), max_size=3))]
    return line(length, [x * length for x in cuts], patches, points, held)


@settings(max_examples=40)
@given(lines_())
def test_random_lines_against_pynite(one):
    if not len(one.patches) and not len(one.points):
        return
    ours = solve([one])[0]
    model, nodes = pynite(one)
    size = np.abs(one.forces).sum() + (np.abs(one.loads).mean(axis=1)[:, 0] * np.diff(one.patches)[:, 0]).sum() + 1.0
    for k, x in enumerate(one.supports):
        node = model.nodes[f"N{nodes.index(x)}"]
        assert ours.reactions[0, k, 0] == pytest.approx(node.RxnFY["Combo 1"], abs=1e-5 * size)
    for i in range(len(nodes) - 1):
        member = model.members[f"M{i}"]
        at = np.linspace(nodes[i], nodes[i + 1], 9)[1:-1][None, :]
        moments, sags = ours.moment(at)[0, :, 0], ours.sag(at)[0, :, 0] / (E * I)
        for x, moment, sag in zip(at[0], moments, sags, strict=True):
            # PyNiteFEA counts moments that hog as positive.
            assert moment == pytest.approx(-member.moment("Mz", x - nodes[i]), abs=2e-5 * size * one.length)
            assert sag == pytest.approx(
                -member.deflection("dy", x - nodes[i]), abs=1e-4 * size * one.length**3 / (E * I) + 1e-7
            )


@given(lines_())
def test_loads_in_are_reactions_out(one):
    s = solve([one])[0]
    size = float(np.abs(s.forces).sum() + np.abs(s.q_begin).sum() * one.length + 1.0)
    assert s.reactions.sum(axis=1) == pytest.approx(s.total, abs=1e-7 * size)
    assert s.moment(s.length[:, None]) == pytest.approx(0.0, abs=1e-6 * size * one.length)
    assert s.sag(s.supports) == pytest.approx(0.0, abs=1e-7 * size * one.length**3)


@given(lines_())
def test_the_greatest_are_not_passed_anywhere(one):
    s = solve([one])[0]
    most = s.greatest()
    at = np.linspace(0.0, one.length, 777)[None, :]
    size = float(np.abs(s.forces).sum() + np.abs(s.q_begin).sum() * one.length + 1.0) * one.length
    moments = s.moment(at)
    assert moments.max() <= most.sagging.max() + 1e-7 * size
    assert moments.min() >= most.hogging.min() - 1e-7 * size
    assert np.abs(s.shear(at)).max() <= most.shear.max() + 1e-7 * size / one.length
    assert np.abs(s.sag(at)).max() <= np.abs(most.sag).max() * (1.0 + 1e-4) + 1e-9 * size * one.length**2
    # What is called the greatest is there.
    assert s.moment(most.sagging_at)[0, 0, 0] == pytest.approx(most.sagging[0, 0], abs=1e-7 * size) or len(
        s.holding.nonzero()[0]
    )


def test_two_and_three_equal_spans():
    """Any handbook: 3/8, 10/8, 3/8 w L and w L2/8 over the middle; three: 0.4, 1.1, 1.1, 0.4 and 0.1 w L2."""
    w, span = 2.0, 4000.0
    two = solve([line(2 * span, (0.0, span, 2 * span), [(0.0, 2 * span, (w,), (w,))])])[0]
    assert two.reactions[0, :, 0] / (w * span) == pytest.approx([0.375, 1.25, 0.375])
    assert two.greatest().hogging[0, 0] == pytest.approx(-w * span**2 / 8.0)
    assert two.greatest().sagging[0, 0] == pytest.approx(9.0 / 128.0 * w * span**2)
    three = solve([line(3 * span, (0.0, span, 2 * span, 3 * span), [(0.0, 3 * span, (w,), (w,))])])[0]
    assert three.reactions[0, :, 0] / (w * span) == pytest.approx([0.4, 1.1, 1.1, 0.4])
    assert three.greatest().hogging[0, 0] == pytest.approx(-0.1 * w * span**2)


def test_load_rising_to_one_end():
    """Any handbook: reactions W/3 and 2 W/3, greatest moment 2 W L/(9 sqrt 3) at L/sqrt 3 from the light end."""
    span, whole = 5000.0, 12_000.0
    s = solve([line(span, (0.0, span), [(0.0, span, (0.0,), (2.0 * whole / span,))])])[0]
    assert s.reactions[0, :, 0] == pytest.approx([whole / 3.0, 2.0 * whole / 3.0])
    most = s.greatest()
    assert most.sagging[0, 0] == pytest.approx(2.0 * whole * span / (9.0 * 3.0**0.5), rel=1e-9)
    assert most.sagging_at[0, 0] == pytest.approx(span / 3.0**0.5, rel=1e-9)


def test_held_beams():
    """Both ends held: w L2/12 at the ends, w L4/(384 E I) in the middle; a cantilever: P L3/(3 E I)."""
    w, span = 3.0, 3600.0
    both = solve([line(span, (0.0, span), [(0.0, span, (w,), (w,))], held=(True, True))])[0]
    assert both.greatest().hogging[0, 0] == pytest.approx(-w * span**2 / 12.0)
    assert both.greatest().sag[0, 0] == pytest.approx(w * span**4 / 384.0, rel=1e-6)
    out = solve([line(span, (0.0,), points=[(span, (900.0,))], held=(True,))])[0]
    assert out.greatest().hogging[0, 0] == pytest.approx(-900.0 * span)
    assert out.greatest().sag[0, 0] == pytest.approx(900.0 * span**3 / 3.0, rel=1e-9)


def test_a_batch_gives_what_each_gives_by_itself():
    ones = [
        line(4000.0 + 100 * i, (0.0, 2000.0, 3900.0), [(100.0, 900.0 + 50 * i, (1.0, 2.0), (3.0, 0.5))],
             [(500.0 * i, (800.0, -300.0))], cases=2)
        for i in range(1, 7)
    ]  # fmt: skip
    together = solve_alike(ones)
    for i, one in enumerate(ones):
        alone = solve([one])[0]
        assert together.reactions[i] == pytest.approx(alone.reactions[0])
        combos = np.array([[1.0, 0.0], [1.0, 1.0], [0.6, -0.6]])
        mixed, single = together.combined(combos).greatest(), alone.combined(combos).greatest()
        assert mixed.sagging[i] == pytest.approx(single.sagging[0])
        assert mixed.sag[i] == pytest.approx(single.sag[0])


@pytest.mark.parametrize(
    ("supports", "held", "says"),
    [
        ((0.0,), (), "two supports"),
        ((0.0, 0.0), (), "one place"),
        ((0.0, 5000.0), (), "beyond"),
        ((9.0, 1.0), (), "order"),
    ],
)
def test_lines_that_cannot_be_solved_say_why(supports, held, says):
    with pytest.raises(LineError, match=says):
        line(4000.0, supports, held=held)
