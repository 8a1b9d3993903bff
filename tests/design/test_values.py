"""Design values and factors as tabulated (NDS Supplement, Tables 4A and 4B; written from memory)."""

import pytest

from balken.catalog.sections import section
from balken.catalog.species import MACHINE_RATED, SPECIES
from balken.standards.us.values import reference_values, size_factors
from balken.units.system import PSI

# species, grade, size: Fb, Ft, Fv, Fc perp, Fc, E, Emin in psi
TABLE = [
    ("DF-L", "Select Structural", "2x8", 1500, 1000, 180, 625, 1700, 1_900_000, 690_000),
    ("DF-L", "No. 2", "2x8", 900, 575, 180, 625, 1350, 1_600_000, 580_000),
    ("DF-L", "No. 3", "2x8", 525, 325, 180, 625, 775, 1_400_000, 510_000),
    ("DF-L", "Stud", "2x4", 700, 450, 180, 625, 850, 1_400_000, 510_000),
    ("Hem-Fir", "No. 1", "2x8", 975, 625, 150, 405, 1350, 1_500_000, 550_000),
    ("Hem-Fir", "No. 2", "2x8", 850, 525, 150, 405, 1300, 1_300_000, 470_000),
    ("S-P-F", "No. 2", "2x8", 875, 450, 135, 425, 1150, 1_400_000, 510_000),
    ("S-P-F", "Stud", "2x6", 675, 350, 135, 425, 725, 1_200_000, 440_000),
    ("Southern Pine", "No. 2", "2x4", 1100, 675, 175, 565, 1450, 1_400_000, 510_000),
    ("Southern Pine", "No. 2", "2x12", 750, 450, 175, 565, 1250, 1_400_000, 510_000),
    ("Southern Pine", "No. 1", "2x10", 1050, 700, 175, 565, 1450, 1_600_000, 580_000),
]


@pytest.mark.parametrize("row", TABLE, ids=lambda r: " ".join(r[:3]))
def test_reference_values(row):
    species, grade, size, *psi = row
    v = reference_values(species, grade, section(size))
    assert [x / PSI for x in (v.fb, v.ft, v.fv, v.fc_perp, v.fc, v.e, v.e_min)] == pytest.approx(psi)


@pytest.mark.parametrize(
    ("size", "fb", "ft", "fc"),
    [
        ("2x4", 1.5, 1.5, 1.15),
        ("2x6", 1.3, 1.3, 1.1),
        ("2x8", 1.2, 1.2, 1.05),
        ("2x10", 1.1, 1.1, 1.0),
        ("2x12", 1.0, 1.0, 1.0),
        ("2x14", 0.9, 0.9, 0.9),
        ("4x8", 1.3, 1.2, 1.05),
        ("4x10", 1.2, 1.1, 1.0),
    ],
)
def test_size_factors(size, fb, ft, fc):
    assert size_factors("DF-L", "No. 2", section(size)) == (fb, ft, fc)


def test_southern_pine_carries_its_size_factor_in_the_table():
    assert size_factors("Southern Pine", "No. 2", section("2x8")) == (1.0, 1.0, 1.0)
    assert size_factors("Southern Pine", "No. 2", section("2x14")) == (0.9, 0.9, 0.9)


def test_stud_grade_deeper_than_six_takes_no_3():
    assert reference_values("DF-L", "Stud", section("2x8")) == reference_values("DF-L", "No. 3", section("2x8"))


def test_every_species_and_grade_named_has_values():
    for species, grades in SPECIES.items():
        for grade in grades:
            assert reference_values(species, grade, section("2x8")).e > 0


@pytest.mark.parametrize(
    ("size", "b", "d"),
    [("2x4", 1.5, 3.5), ("2x6", 1.5, 5.5), ("2x8", 1.5, 7.25), ("2x10", 1.5, 9.25), ("2x12", 1.5, 11.25)],
)
def test_dressed_sizes(size, b, d):
    """American Softwood Lumber Standard PS 20, dry."""
    assert section(size).breadth / 25.4 == pytest.approx(b)
    assert section(size).depth / 25.4 == pytest.approx(d)


@pytest.mark.parametrize(
    ("call", "names"),
    [(lambda: section("2x9"), "2x10"), (lambda: reference_values("Oak", "No. 2", section("2x8")), "DF-L")],
)
def test_unknown_names_say_what_there_is(call, names):
    with pytest.raises(KeyError, match=names):
        call()


@pytest.mark.parametrize("grade", MACHINE_RATED)
def test_machine_rated_lumber(grade):
    """Named by Fb and E; Emin = E (1 - 1.645 x 0.11) 1.03 / 1.66 (NDS appendix D); no size factor; thicker lumber is No. 2."""
    values = reference_values("S-P-F", grade, section("2x6"))
    fb, e = (float(part.rstrip("fE")) for part in grade.split("-"))
    assert values.fb == pytest.approx(fb * PSI)
    assert values.e == pytest.approx(e * 1e6 * PSI)
    assert values.e_min == pytest.approx(values.e * (1.0 - 1.645 * 0.11) * 1.03 / 1.66, rel=0.01)
    assert values.fv == reference_values("S-P-F", "No. 2", section("2x6")).fv
    assert size_factors("S-P-F", grade, section("2x4")) == (1.0, 1.0, 1.0)
    assert reference_values("DF-L", grade, section("4x6")) == reference_values("DF-L", "No. 2", section("4x6"))
