"""Checks of single members by hand calculation, and what must hold for every member."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from balken.catalog.sections import JOIST_SIZES
from balken.design.layouts import design_layout, spacings
from balken.loads.cases import Cases
from balken.model.records import Choice
from balken.standards.demands import Limit, MemberCase
from balken.standards.us.asce7 import ASD
from balken.standards.us.members import check_member, greatest_span, repetitive
from balken.standards.us.standard import US
from balken.units import Units
from balken.units.system import FOOT, INCH, PSF, PSI


def joist(size: str = "2x10", clear: float = 13 * FOOT, **more) -> MemberCase:
    case = MemberCase(
        "joist", size, "DF-L", "No. 2", clear, 16 * INCH, Cases(10 * PSF, 40 * PSF), US.joist_limit, tables=True
    )
    return replace(case, **more)


def check(case: MemberCase, name: str):
    return next(c for c in check_member(case).checks if c.name.startswith(name))


def test_a_joist_by_hand():
    """2x10 DF-L No. 2 at 16 in, 13 ft clear, 40 + 10 psf: hand calculation in inches and pounds (NDS 2018)."""
    w = 50 * 16 / 12 / 12  # lb/in
    span = 13 * 12
    fb = w * span**2 / 8 / (1.5 * 9.25**2 / 6)
    assert check(joist(), "bending").demand / PSI == pytest.approx(fb)
    assert check(joist(), "bending").capacity / PSI == pytest.approx(900 * 1.1 * 1.15)
    fv = 1.5 * w * (span / 2 - 9.25) / (1.5 * 9.25)
    assert check(joist(), "shear").demand / PSI == pytest.approx(fv)
    assert check(joist(), "shear").capacity / PSI == pytest.approx(180)
    assert check(joist(), "bearing").demand / PSI == pytest.approx(w * span / 2 / (1.5 * 1.5))
    sag = 5 * (0.8 * w) * span**4 / (384 * 1.6e6 * (1.5 * 9.25**3 / 12))
    assert check(joist(), "deflection").demand / INCH == pytest.approx(sag)
    assert check(joist(), "deflection").capacity / INCH == pytest.approx(span / 360)


def test_dead_load_alone_takes_the_permanent_duration():
    """NDS Table 2.3.2: dead 0.9, occupancy 1.0, snow 1.15, construction 1.25."""
    assert {c.name: c.duration for c in ASD.rows}["D"] == 0.9
    heavy = joist(load=Cases(dead=100 * PSF, live=1 * PSF))
    assert check(heavy, "bending").combination == "D"
    assert [c.name for c in ASD.true_of(Cases(1.0, 0.0, 0.0, 2.0))] == ["D", "D + S"]


def test_spacing_over_24_inches_loses_the_repetitive_factor():
    assert repetitive(joist(spacing=24 * INCH)) == 1.15
    assert repetitive(joist(spacing=25 * INCH)) == 1.0


def test_deflection_limits_of_rafters():
    """IRC R301.7."""
    assert US.rafter_limit(6 / 12).n == 180.0
    assert US.rafter_limit(3 / 12).n == 240.0


def test_tension_lowers_a_tie():
    """NDS 3.9.1: ft/Ft' + fb/Fb* by hand for a 2x6 DF-L No. 2 under dead load and thrust."""
    tie = MemberCase(
        "ceiling tie",
        "2x6",
        "DF-L",
        "No. 2",
        10 * FOOT,
        16 * INCH,
        Cases(5 * PSF),
        US.tie_limit,
        tension=Cases(dead=1000 * 4.4482216),
        tables=True,
    )
    w, span = 5 * 16 / 12 / 12, 120
    ft = 1000 / (1.5 * 5.5) / (575 * 0.9 * 1.3)
    fb = w * span**2 / 8 / (1.5 * 5.5**2 / 6) / (900 * 0.9 * 1.3 * 1.15)
    assert check(tie, "bending and tension").demand == pytest.approx(ft + fb, rel=1e-6)


@given(
    st.sampled_from(JOIST_SIZES),
    st.floats(8 * INCH, 30 * INCH),
    st.floats(0.2, 6.0),
    st.floats(0.2, 3.0),
    st.floats(0.0, 1.5),
)
def test_at_the_greatest_span_something_is_used_to_the_full(size, spacing, live, dead, pitch):
    case = MemberCase(
        "rafter",
        size,
        "Hem-Fir",
        "No. 2",
        1.0,
        spacing,
        Cases(dead, 0.0, 0.0, live),
        Limit(180.0, ""),
        pitch=pitch,
        tables=True,
    )
    span = greatest_span(case)
    assert check_member(replace(case, clear=span.length)).used == pytest.approx(1.0, abs=1e-6)
    assert check_member(replace(case, clear=span.length * 1.01)).used > 1.0
    assert check_member(replace(case, clear=span.length * 0.99)).used < 1.0


def case_for(clear: float):
    return lambda size, spacing: (joist(size, clear, spacing=spacing),)


def test_auto_size_is_the_smallest_that_works():
    for clear, want in ((9 * FOOT, "2x6"), (12 * FOOT, "2x8"), (15 * FOOT, "2x10"), (18 * FOOT, "2x12")):
        made = design_layout(Choice(size=None, spacing=16 * INCH), JOIST_SIZES, Units.IMPERIAL, case_for(clear), US)
        assert made.size == want  # IRC Table R502.3.1(2): 9-9, 12-9, 15-7, 18-1
        assert made.works
        smaller = [
            n
            for n in made.neighbours
            if n.spacing == made.spacing and n.size < made.size and len(n.size) <= len(made.size)
        ]
        assert all(n.used > 1.0 for n in smaller)


def test_auto_spacing_is_the_widest_that_works():
    """2x10 DF-L No. 2 spans 14-3 at 19.2 in and 12-9 at 24 in (IRC Table R502.3.1(2))."""
    made = design_layout(Choice(size="2x10", spacing=None), JOIST_SIZES, Units.IMPERIAL, case_for(13 * FOOT), US)
    assert made.spacing == pytest.approx(19.2 * INCH)
    made = design_layout(Choice(size="2x10", spacing=None), JOIST_SIZES, Units.IMPERIAL, case_for(12 * FOOT), US)
    assert made.spacing == pytest.approx(24 * INCH)


def test_both_auto_takes_the_least_timber_and_nothing_working_is_said():
    made = design_layout(Choice(size=None, spacing=None), JOIST_SIZES, Units.IMPERIAL, case_for(12 * FOOT), US)
    assert made.works
    assert made.result.used <= 1.0
    hopeless = design_layout(Choice(size=None, spacing=None), JOIST_SIZES, Units.IMPERIAL, case_for(40 * FOOT), US)
    assert not hopeless.works
    assert hopeless.size == "2x12"
    assert hopeless.spacing == pytest.approx(min(spacings(Units.IMPERIAL)))


@given(st.tuples(*[st.floats(0, 1e4)] * 4))
def test_the_worst_combination_is_one_of_them(values):
    load, combo = ASD.worst(Cases(*values))
    assert load == combo.of(Cases(*values)) == max(c.of(Cases(*values)) for c in ASD.rows)
