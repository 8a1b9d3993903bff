"""Foundation walls of block: sections of published tables, checks by hand, bars chosen with least steel."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from balken.catalog.blocks import BLOCKS, block_of, net_section
from balken.model.records import Masonry
from balken.standards.us.block_walls import (
    BlockForces,
    axial_stress,
    barred_block,
    cracked,
    design_block,
    plain_block,
    prescriptive_block,
)
from balken.units import Units
from balken.units.system import FOOT, INCH, PSI

EIGHT = block_of(7.625 * INCH)


@pytest.mark.parametrize(
    ("nominal", "area", "inertia", "modulus"),
    [(6, 24.0, 130.3, 46.3), (8, 30.0, 308.7, 81.0), (10, 30.0, 530.0, 110.1), (12, 30.0, 811.2, 139.6)],
)
def test_sections_of_hollow_walls(nominal, area, inertia, modulus):
    """NCMA TEK 14-1B, hollow units, face shell mortar bedding, per foot (from memory)."""
    net = net_section(block_of((nominal - 0.375) * INCH), False)
    foot = FOOT / 1000.0
    assert net.area * foot / INCH**2 == pytest.approx(area, abs=0.05)
    assert net.inertia * foot / INCH**4 == pytest.approx(inertia, abs=0.05)
    assert net.modulus * foot / INCH**3 == pytest.approx(modulus, abs=0.1)


def test_radius_of_gyration_of_the_average_section():
    """NCMA TEK 14-1B: r = 2.84 in for 8 in hollow units (from memory)."""
    assert net_section(EIGHT, False).radius / INCH == pytest.approx(2.84, abs=0.005)
    assert net_section(EIGHT, True).radius / INCH == pytest.approx(2.20, abs=0.005)


def test_allowable_axial_stress_meets_itself_where_the_formulas_change():
    """TMS 402-16, equations 8-13 and 8-14."""
    assert axial_stress(10.0, 99.0) == pytest.approx(axial_stress(10.0, 99.0001), rel=2e-3)
    assert axial_stress(2000.0, 40.0) == pytest.approx(500.0 * (1.0 - (40.0 / 140.0) ** 2))


def test_a_plain_wall_by_hand():
    """8 in hollow wall, 8 ft high, moment 500 lb ft/ft, 1000 lb/ft dead: tension 500 x 12/81 - 600/30 psi."""
    to_kn = 4.448222 / 1000.0
    moment = 500.0 * to_kn * 0.3048 / 0.3048
    f = BlockForces(8 * FOOT, 8 * FOOT, moment, 5.0, 1000.0 * to_kn / 0.3048, 1000.0 * to_kn / 0.3048, "D")
    tension, axial, _, shear = plain_block(EIGHT, False, Masonry(), f)
    assert tension.demand / PSI == pytest.approx(500.0 * 12.0 / 80.97 - 20.0, abs=0.1)
    assert tension.capacity / PSI == pytest.approx(33.0)
    fa = 500.0 * (1.0 - (96.0 / 2.836 / 140.0) ** 2)
    assert axial.used == pytest.approx(1000.0 / 30.0 / fa + 74.1 / 666.7, abs=2e-3)
    assert shear.capacity / PSI == pytest.approx(min(1.5 * math.sqrt(2000.0), 37.0 + 0.45 * 20.0), abs=0.05)


def test_a_cracked_rectangle_by_hand():
    """k = sqrt(2 n rho + (n rho)^2) - n rho, fs = M / (As j d), while the pressed part is a rectangle."""
    steel, d, ratio = 400.0, 135.0, 16.1
    rho = steel / (1000.0 * d)
    k = math.sqrt(2 * ratio * rho + (ratio * rho) ** 2) - ratio * rho
    made = cracked(steel, d, 1000.0, 1000.0, 200.0, ratio)
    assert made.depth == pytest.approx(k * d, rel=1e-6)
    assert made.steel == pytest.approx(1.0 / (steel * (1.0 - k / 3.0) * d), rel=1e-6)
    assert made.masonry == pytest.approx(2.0 / (k * (1.0 - k / 3.0) * 1000.0 * d**2), rel=1e-6)


@given(st.floats(100.0, 3000.0), st.floats(80.0, 250.0), st.floats(50.0, 1000.0), st.floats(20.0, 60.0))
def test_a_cracked_section_is_in_balance(steel, d, stem, shell):
    made = cracked(steel, d, 1000.0, stem, shell, 16.1)
    over = max(made.depth - shell, 0.0)
    top, inside = made.masonry, made.masonry * over / made.depth
    pressed = top * made.depth * 1000.0 / 2.0 - inside * over * (1000.0 - stem) / 2.0
    assert pressed == pytest.approx(made.steel * steel, rel=1e-6)


@given(st.floats(0.5, 12.0), st.sampled_from(BLOCKS[Units.IMPERIAL][1:]), st.booleans())
def test_bars_are_the_least_that_hold(moment, block, grouted):
    f = BlockForces(2400.0, 2400.0, moment, 4.0 * moment / 2.4, 10.0, 5.0, "D + L")
    checks, bars = design_block(block, grouted, Masonry(), f, True)
    if max(c.used for c in checks) <= 1.0 and bars:
        thinner = barred_block(block, grouted, Masonry(), f, bars[0].number, bars[0].spacing + 8.0 * INCH)
        assert bars[0].spacing >= 71.9 * INCH or max(c.used for c in thinner[0]) > 1.0
    if not bars:
        assert max(c.used for c in plain_block(block, grouted, Masonry(), f)) <= 1.0


def test_prescriptive_walls():
    """IRC Table R404.1.1(1) (from memory)."""
    assert "10 in" in prescriptive_block(8 * FOOT, 5 * FOOT, 45.0)
    assert "8 in" in prescriptive_block(7 * FOOT, 3 * FOOT, 60.0)
    assert "plain ones do not hold" in prescriptive_block(8 * FOOT, 8 * FOOT, 60.0)
    assert "or 8 in or more with #6 at 32 in" in prescriptive_block(8 * FOOT, 8 * FOOT, 60.0)
    assert "#6 at 24 in" in prescriptive_block(9.5 * FOOT, 9 * FOOT, 45.0)
    assert "beyond" in prescriptive_block(12 * FOOT, 8 * FOOT, 60.0)
