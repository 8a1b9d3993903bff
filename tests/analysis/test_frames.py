"""Plane frames against PyNiteFEA and anastruct, closed forms, equilibrium; stacked as one by one."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from Pynite import FEModel3D

from balken.analysis.frames import FrameError, Loaded, Made, solve_frames

E = 1e4


def made(ends, hinges, held):
    return Made(np.array(ends), np.array(hinges, dtype=bool), np.array(held, dtype=bool))


def one(frame, nodes, area, inertia, on_nodes, along):
    e = len(frame.ends)
    return solve_frames(
        frame, np.array([nodes], dtype=float), np.full((1, e), E), np.array([area], dtype=float), np.array([inertia], dtype=float),
        Loaded(np.array(on_nodes, dtype=float)[None, :, :, None], np.array(along, dtype=float)[None, :, :, None]),
    )  # fmt: skip


def test_a_simple_beam_as_in_tables():
    frame = made([(0, 1)], [(True, True)], [(True, True), (False, True)])
    solved = one(frame, [(0, 0), (4000, 0)], [1e3], [1e7], np.zeros((2, 2)), [(0, -2.0)])
    assert solved.reactions[0, :, 1, 0] == pytest.approx([4000.0, 4000.0])
    assert solved.moment(0.5)[0, 0, 0] == pytest.approx(2.0 * 4000**2 / 8)
    assert solved.sag(0.5)[0, 0, 0] == pytest.approx(-5 * 2.0 * 4000**4 / (384 * E * 1e7))


@pytest.mark.parametrize("hinges", [(False, False), (True, False), (False, True)])
def test_propped_and_held_beams_as_in_tables(hinges):
    """Two short stiff stubs hold the ends that are held; a load along it goes to the end that is."""
    frame = made(
        [(0, 1), (1, 2), (2, 3)],
        [(False, False), hinges, (False, False)],
        [(True, True), (True, True), (False, True), (False, True)],
    )
    solved = one(
        frame,
        [(-1, 0), (0, 0), (3000, 0), (3001, 0)],
        [1e3] * 3,
        [1e12, 1e6, 1e12],
        np.zeros((4, 2)),
        [(0, 0), (0.5, -3.0), (0, 0)],
    )
    w, long = 3.0, 3000.0
    ends = solved.moment(0.0)[0, 1, 0], solved.moment(1.0)[0, 1, 0]
    if hinges == (False, False):
        assert ends == pytest.approx([-w * long**2 / 12] * 2, rel=1e-3)
        assert solved.sag(0.5)[0, 1, 0] == pytest.approx(-w * long**4 / 384 / E / 1e6, rel=2e-3)
    else:
        held = -w * long**2 / 8
        assert ends == pytest.approx([0.0 if h else held for h in hinges], rel=1e-3, abs=1e-3 * -held)
    assert solved.reactions[0, :, 0, 0].sum() == pytest.approx(-0.5 * long)
    assert solved.axial(1.0)[0, 1, 0] == pytest.approx(0.0, abs=1e-6)


def test_what_moves_is_told():
    square = made(
        [(0, 1), (1, 2), (2, 3)], [(True, True)] * 3, [(True, True), (False, False), (False, False), (True, True)]
    )
    with pytest.raises(FrameError, match="moves"):
        one(square, [(0, 0), (0, 9), (9, 9), (9, 0)], [1] * 3, [1] * 3, np.ones((4, 2)), np.zeros((3, 2)))
    with pytest.raises(FrameError, match="one place"):
        one(square, [(0, 0), (0, 0), (9, 9), (9, 0)], [1] * 3, [1] * 3, np.ones((4, 2)), np.zeros((3, 2)))


def pynite(nodes, ends, hinges, held, area, inertia, on_nodes, along):
    model = FEModel3D()
    model.add_material("wood", E, 4e3, 0.3, 1e-9)
    turning = {i for (i, j), (a, b) in zip(ends, hinges, strict=True) for i, h in ((i, a), (j, b)) if not h}
    for i, (x, y) in enumerate(nodes):
        model.add_node(str(i), x, y, 0)
        model.def_support(str(i), held[i][0], held[i][1], True, True, True, i not in turning)
        model.add_node_load(str(i), "FX", on_nodes[i][0])
        model.add_node_load(str(i), "FY", on_nodes[i][1])
    for k, (i, j) in enumerate(ends):
        model.add_section(str(k), area[k], 1e6, inertia[k], 1e6)
        model.add_member(str(k), str(i), str(j), "wood", str(k))
        model.def_releases(str(k), Rzi=hinges[k][0], Rzj=hinges[k][1])
        model.add_member_dist_load(str(k), "FX", along[k][0], along[k][0])
        model.add_member_dist_load(str(k), "FY", along[k][1], along[k][1])
    model.analyze_linear()
    return model


@given(st.integers(0, 10_000))
@settings(max_examples=25, deadline=None)
def test_frames_anyhow_as_pynite_solves_them(seed):
    """A chord of four panels and a crooked one over it, joined by webs; hinges, loads and measures at random."""
    rng = np.random.default_rng(seed)
    nodes = [(1000.0 * i + rng.uniform(-200, 200), rng.uniform(-100, 100)) for i in range(5)]
    nodes += [(1000.0 * i + rng.uniform(-200, 200), 900.0 + rng.uniform(-200, 200)) for i in range(5)]
    ends = [(i, i + 1) for i in range(4)] + [(i, i + 1) for i in range(5, 9)]
    ends += [(i, i + 5) for i in range(5)] + [(i + 5, i + 1) for i in range(4)]
    hinges = [(i == 2 and bool(rng.integers(2)), bool(rng.integers(2)) and i in (1, 5)) for i in range(8)] + [
        (True, True)
    ] * 9
    held = [(i == 0, i in (0, 4)) for i in range(10)]
    area, inertia = rng.uniform(2e3, 6e3, 17), rng.uniform(1e6, 1e7, 17)
    on_nodes, along = rng.uniform(-1e3, 1e3, (10, 2)), rng.uniform(-2, 2, (17, 2))
    solved = one(made(ends, hinges, held), nodes, area, inertia, on_nodes, along)
    model = pynite(nodes, ends, hinges, held, area, inertia, on_nodes, along)
    for i in range(10):
        node = model.nodes[str(i)]
        assert solved.moves[0, i, :, 0] == pytest.approx([node.DX["Combo 1"], node.DY["Combo 1"]], rel=1e-6, abs=1e-7)
        got = [node.RxnFX["Combo 1"], node.RxnFY["Combo 1"]]
        assert solved.reactions[0, i, :, 0] == pytest.approx(
            [r if h else 0.0 for r, h in zip(got, held[i], strict=True)], rel=1e-6, abs=1e-3
        )
    for k in range(17):
        member = model.members[str(k)]
        own = solved.greatest_moments[0, k, 0]
        most = max(member.max_moment("Mz"), -member.min_moment("Mz"))
        assert abs(own) == pytest.approx(most, rel=2e-3, abs=50.0)
        axial = [solved.axial(x)[0, k, 0] for x in (0.0, 1.0)]
        assert sorted(axial) == pytest.approx(sorted([-member.max_axial(), -member.min_axial()]), rel=1e-6, abs=1e-3)
        deep = [solved.sag(x)[0, k, 0] for x in np.linspace(0, 1, 21)]
        theirs = [member.deflection("dy", x * member.L()) for x in np.linspace(0, 1, 21)]
        upright = abs(nodes[ends[k][0]][0] - nodes[ends[k][1]][0]) < 1e-9 or nodes[ends[k][1]][0] < nodes[ends[k][0]][0]
        assert np.multiply(deep, -1.0 if upright else 1.0) == pytest.approx(theirs, rel=1e-5, abs=1e-6)
    # Everything that is laid on comes down.
    long = np.array([math.dist(nodes[i], nodes[j]) for i, j in ends])
    laid = on_nodes.sum(axis=0) + (along * long[:, None]).sum(axis=0)
    assert solved.reactions[0, :, :, 0].sum(axis=0) == pytest.approx(-laid, abs=1e-6 * np.abs(along).max() * long.sum())


def test_stacked_as_one_by_one():
    rng = np.random.default_rng(3)
    frame = made(
        [(0, 1), (1, 2), (0, 2)],
        [(False, True), (True, False), (False, False)],
        [(True, True), (False, False), (False, True)],
    )
    nodes = np.array([[(0, 0), (2000, 900 + 80 * k), (4000 + 30 * k, 0)] for k in range(7)], dtype=float)
    area, inertia, e = rng.uniform(2e3, 6e3, (7, 3)), rng.uniform(1e6, 1e7, (7, 3)), np.full((7, 3), E)
    on_nodes, along = rng.uniform(-1e3, 1e3, (7, 3, 2, 4)), rng.uniform(-2, 2, (7, 3, 2, 4))
    every = solve_frames(frame, nodes, e, area, inertia, Loaded(on_nodes, along))
    for k in range(7):
        s = slice(k, k + 1)
        single = solve_frames(frame, nodes[s], e[s], area[s], inertia[s], Loaded(on_nodes[s], along[s]))
        assert every.first[s] == pytest.approx(single.first, rel=1e-9, abs=1e-6)
        assert every.moves[s] == pytest.approx(single.moves, rel=1e-9, abs=1e-9)
