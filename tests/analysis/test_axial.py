"""Axial force along lines: against PyNiteFEA on random lines, and statics."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from Pynite import FEModel3D

from balken.analysis.axial import Pulled

PART = st.floats(0.02, 0.98)
FORCE = st.floats(-9000.0, 9000.0)


@settings(max_examples=40)
@given(PART, st.tuples(PART, PART, st.floats(-4.0, 4.0)), st.lists(st.tuples(PART, FORCE), min_size=1, max_size=3))
def test_random_lines_against_pynite(held, patch, points):
    long, (a, b, q) = 5000.0, patch
    low, high = sorted((a * long, b * long))
    anchor = held * long
    model = FEModel3D()
    model.add_material("wood", 11_000.0, 700.0, 0.3, 0.0)
    model.add_section("s", 1e4, 1e7, 1e7, 1e7)
    for name, x in (("A", 0.0), ("B", anchor), ("C", long)):
        model.add_node(name, x, 0, 0)
        model.def_support(name, name == "B", True, True, True, True, True)
    model.add_member("AB", "A", "B", "wood", "s")
    model.add_member("BC", "B", "C", "wood", "s")
    for member, start, end in (("AB", 0.0, anchor), ("BC", anchor, long)):
        if min(high, end) - max(low, start) > 1e-6:
            model.add_member_dist_load(member, "Fx", q, q, max(low, start) - start, min(high, end) - start)
    for part, force in points:
        x = part * long
        model.add_member_pt_load("AB" if x < anchor else "BC", "Fx", force, x if x < anchor else x - anchor)
    model.analyze(check_statics=False)
    pulled = Pulled(
        np.array([anchor]), np.array([[[low, high]]]), np.array([[[q]]]),
        np.array([[part * long for part, _ in points]]), np.array([[[force] for _, force in points]]),
    )  # fmt: skip
    assert pulled.holding[0, 0] == pytest.approx(model.nodes["B"].RxnFX["Combo 1"], abs=1e-3)
    for x in np.linspace(60.0, long - 60.0, 23):
        if min(abs(x - anchor), *(abs(x - part * long) for part, _ in points)) < 5.0:
            continue
        member, start = ("AB", 0.0) if x < anchor else ("BC", anchor)
        # PyNiteFEA counts compression as positive.
        told = -model.members[member].axial(x - start)
        assert pulled.axial(np.array([[x]]))[0, 0, 0] == pytest.approx(told, abs=0.05)


def test_many_lines_at_once_as_one_by_one():
    rng = np.random.default_rng(3)
    m, k, p, c = 7, 3, 2, 4
    pulled = Pulled(
        rng.uniform(0, 4000, m), np.sort(rng.uniform(0, 4000, (m, k, 2)), axis=2), rng.normal(size=(m, k, c)),
        rng.uniform(0, 4000, (m, p)), rng.normal(size=(m, p, c)) * 1000,
    )  # fmt: skip
    at = np.sort(rng.uniform(0, 4000, (m, 9)), axis=1)
    whole = pulled.axial(at)
    assert whole.shape == (m, 9, c)
    for i in range(m):
        one = Pulled(*(getattr(pulled, name)[i : i + 1] for name in Pulled.__struct_fields__))
        assert np.allclose(one.axial(at[i : i + 1])[0], whole[i])
    # Before the start and at the end nothing pulls any more.
    assert np.allclose(pulled.axial(np.full((m, 1), -1.0)), 0.0)
    assert np.allclose(pulled.axial(np.full((m, 1), 4001.0)), 0.0)
