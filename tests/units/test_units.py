"""Lengths, loads and slopes as typed and printed."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from balken.units import (
    UnitError,
    Units,
    format_angle,
    format_area_load,
    format_inches,
    format_length,
    format_pitch,
    parse_angle,
    parse_area_load,
    parse_length,
    parse_pitch,
    parse_spacings,
)
from balken.units.system import PSF


@pytest.mark.parametrize(
    ("text", "mm"),
    [
        ("12'-6 1/2\"", 3822.7),
        ("12' 6", 3810.0),
        ("12'6\"", 3810.0),
        ("12'", 3657.6),
        ("16in", 406.4),
        ('6 1/2"', 165.1),
        ('1/2"', 12.7),
        ('11/16"', 17.4625),
        ("3'-11/16\"", 931.8625),
        ('2-1/2"', 63.5),
        ("3800 mm", 3800.0),
        ("3.8 m", 3800.0),
        ("3,8 m", 3800.0),
        ("-3'-6\"", -1066.8),
        ("\u22123'-6\"", -1066.8),
        ("12.5", 3810.0),
        ("8'-1 1/8\"", 2466.975),
    ],
)
def test_lengths_as_people_type_them(text, mm):
    assert parse_length(text) == pytest.approx(mm, abs=1e-6)


def test_a_bare_number_takes_the_unit_of_its_field():
    assert parse_length("3800", Units.METRIC) == 3800.0
    assert parse_length("16", bare="in") == pytest.approx(406.4)
    assert parse_length("16") == pytest.approx(16 * 304.8)


@pytest.mark.parametrize("text", ["", "abc", "12'-x", '1/0"', "9 1/4", "12 apples", "1e9 m", "--3'"])
def test_what_is_no_length_says_so(text):
    with pytest.raises(UnitError, match=r"."):
        parse_length(text)


@given(st.integers(-20_000, 20_000))
def test_printed_imperial_lengths_read_back(sixteenths):
    mm = sixteenths * 25.4 / 16
    assert parse_length(format_length(mm)) == pytest.approx(mm, abs=1e-6)
    if mm >= 0:
        assert parse_length(format_inches(mm), bare="in") == pytest.approx(mm, abs=1e-6)


@given(st.integers(-1_000_000, 1_000_000))
def test_printed_metric_lengths_read_back(mm):
    assert parse_length(format_length(mm, Units.METRIC), Units.METRIC) == mm


def test_spacing_lists():
    assert parse_spacings("4x6000, 5200, 3x6000", Units.METRIC) == (6000.0,) * 4 + (5200.0,) + (6000.0,) * 3
    assert parse_spacings("4 x 12', 10'6") == pytest.approx((3657.6,) * 4 + (3200.4,))


@pytest.mark.parametrize("text", ["", "0", "-4'", "2 x 0'", "9999 x 4'", "4x"])
def test_wrong_spacing_lists_are_refused(text):
    with pytest.raises(UnitError):
        parse_spacings(text)


def test_area_loads():
    assert parse_area_load("40psf") == pytest.approx(1.9152, abs=1e-4)  # 1 psf = 0.04788 kN/m2
    assert parse_area_load("1.9 kN/m\u00b2") == 1.9
    assert parse_area_load("2", Units.METRIC) == 2.0
    assert format_area_load(parse_area_load("1,500 psf")) == "1,500 psf"
    for wrong in ("-5 psf", "psf", "4 apples"):
        with pytest.raises(UnitError):
            parse_area_load(wrong)


def test_pitches():
    assert parse_pitch("6:12") == 0.5
    assert parse_pitch("1/4:12") * 12.0 == pytest.approx(0.25)
    assert parse_pitch("4 1/2:12") * 12.0 == pytest.approx(4.5)
    assert parse_pitch("6") == 0.5
    assert parse_pitch("30 deg") == pytest.approx(math.tan(math.radians(30)))
    assert parse_pitch("30", Units.METRIC) == pytest.approx(math.tan(math.radians(30)))
    assert format_pitch(0.5) == "6:12"
    assert format_pitch(0.5, Units.METRIC) == "26.6\u00b0"
    for wrong in ("80 deg", "steep", "6:0", "60:1"):
        with pytest.raises(UnitError):
            parse_pitch(wrong)


@pytest.mark.parametrize(("text", "degrees"), [("30", 30.0), (" 12.5\u00b0", 12.5), ("-90 deg", -90.0), ("0", 0.0)])
def test_angles(text, degrees):
    assert parse_angle(text) == degrees
    assert parse_angle(format_angle(degrees)) == degrees


@pytest.mark.parametrize("text", ["", "north", "nan", "inf", "1e400", "1e9", "30 ft"])
def test_what_is_no_angle_says_so(text):
    with pytest.raises(UnitError, match="not an angle"):
        parse_angle(text)


@pytest.mark.parametrize("text", ["24000/4", "1/4", "12 1/2", "24,000", "1,234", "5/4 mm"])
def test_what_could_mean_two_things_in_millimetres_is_refused(text):
    with pytest.raises(UnitError):
        parse_length(text, Units.METRIC)


@pytest.mark.parametrize("text", ["24000/4", "5/4", "12' 9/4\"", "1,200'"])
def test_no_fraction_of_an_inch_is_refused(text):
    with pytest.raises(UnitError):
        parse_length(text, Units.IMPERIAL, "in")


def test_commas_part_thousands_or_decimals():
    assert parse_length("3,8 m", Units.METRIC) == pytest.approx(3800.0)
    assert parse_area_load("1,500 psf") == pytest.approx(1500 * PSF)
    assert parse_area_load("1,5 kN/m2") == pytest.approx(1.5)
    with pytest.raises(UnitError):
        parse_area_load("1,500 kN/m2")
    with pytest.raises(UnitError):
        parse_area_load("1,50,0 psf")


@given(st.floats(0.01, 5000.0), st.sampled_from(list(Units)))
def test_what_is_printed_is_read_as_it_was_meant(value, units):
    shown = format_area_load(value, units)
    assert parse_area_load(shown, units) == pytest.approx(
        value, abs=0.01 if units is Units.METRIC else 0.06 * PSF, rel=1e-3
    )
