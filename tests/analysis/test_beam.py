"""Closed forms against a general frame program (PyNiteFEA) and against statics itself."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from Pynite import FEModel3D

from balken.analysis import beam

E, I = 11_000.0, 4.0e7  # noqa: E741


def pynite(span: float, w: float, reach: float = 0.0) -> FEModel3D:
    model = FEModel3D()
    model.add_node("A", -reach, 0, 0)
    model.add_node("B", 0, 0, 0)
    model.add_node("C", span, 0, 0)
    model.add_material("wood", E, E / 16, 0.3, 0.0)
    model.add_section("s", 1e4, I, I, 1e8)
    if reach:
        model.add_member("over", "A", "B", "wood", "s")
        model.add_member_dist_load("over", "FY", -w, -w)
    model.add_member("main", "B", "C", "wood", "s")
    model.def_support("B", True, True, True, True, False, False)
    model.def_support("C", False, True, True, False, False, False)
    if not reach:
        model.def_support("A", True, True, True, True, True, True)
    model.add_member_dist_load("main", "FY", -w, -w)
    model.analyze()
    return model


@pytest.mark.parametrize(("span", "w"), [(3000.0, 1.2), (4756.6, 0.973)])
def test_simple_beam_against_pynite(span, w):
    main = pynite(span, w).members["main"]
    assert beam.simple_moment(w, span) == pytest.approx(
        max(abs(main.max_moment("Mz")), abs(main.min_moment("Mz"))), rel=1e-4
    )
    assert beam.simple_deflection(w, span, E, I) == pytest.approx(abs(main.min_deflection("dy")), rel=1e-3)
    assert beam.simple_shear(w, span) == pytest.approx(abs(main.max_shear("Fy")), rel=1e-4)


@pytest.mark.parametrize(("span", "reach", "w"), [(3600.0, 600.0, 0.8), (2500.0, 900.0, 1.5)])
def test_the_end_of_an_overhang_against_pynite(span, reach, w):
    main = pynite(span, w, reach).members["main"]
    moments = (abs(main.max_moment("Mz")), abs(main.min_moment("Mz")))
    assert min(abs(m - beam.cantilever_moment(w, reach)) / m for m in moments) < 2e-3


@given(st.floats(500, 9000), st.floats(0, 3.0))
def test_a_sloped_beam_sags_as_its_flat_equal_under_the_square_load(run, pitch):
    cos2 = 1 / (1 + pitch**2)
    slope_length = run / cos2**0.5
    assert beam.sloped_deflection(1.0, run, pitch, E, I) == pytest.approx(
        beam.simple_deflection(cos2, slope_length, E, I)
    )
