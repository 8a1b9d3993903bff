"""Rafters by the span tables of IRC R802.4.1, beside what is worked out."""

import math

import pytest

from balken.documents.member_calculation import member_calculation
from balken.documents.table_spans import rafter_table_text
from balken.loads.cases import Cases
from balken.standards.demands import Limit, MemberCase
from balken.standards.known import USUAL
from balken.units.system import FOOT, INCH, PSF


def case(size="2x8", limit=180.0, **more):
    return MemberCase("rafter", size, "DF-L", "No. 2", 4000.0, 400.0, Cases(1.0, snow=1.0), Limit(limit, "x"), **more)


def table(size="2x8", spacing=16.0, dead=10.0, live=20.0, snow=30.0, **more):
    return USUAL.rafter_table(case(size, **more), spacing * INCH, dead * PSF, live * PSF, snow * PSF)


def by_bending(depth, load, duration, cf, spacing=16.0):
    """Fb' S = w L^2 / 8 in pounds and inches, feet."""
    return math.sqrt(8.0 * 900.0 * cf * duration * 1.15 * 1.5 * depth**2 / 6.0 / (load * spacing / 12.0) / 12.0)


@pytest.mark.parametrize(
    ("given", "number", "load", "duration"),
    [
        ({}, 3, 40.0, 1.15),
        ({"snow": 31.0}, 4, 60.0, 1.15),
        ({"snow": 60.0, "dead": 12.0}, 7, 90.0, 1.15),
        ({"snow": 0.0}, 1, 30.0, 1.25),
    ],
)
def test_the_table_met_next_is_read(given, number, load, duration):
    """First principles: bending governs 2x8 of Douglas fir-larch No. 2 (900 psi, CF 1.2) there."""
    found = table(**given)
    assert found.table == f"IRC Table R802.4.1({number})"
    assert found.length / FOOT == pytest.approx(by_bending(7.25, load, duration, 1.2), rel=1e-3)


def test_wider_spacings_read_the_next_column_and_raised_ties_shorten():
    assert table(spacing=14.0).length == table(spacing=16.0).length
    assert table(spacing=20.0).spacing == 24.0 * INCH
    # Note a of the tables: a third of the rise: 0.67, a quarter: 0.76, a fifth: 0.83, a sixth: 0.90 (check-values).
    for part, factor in ((1 / 3, 0.67), (1 / 4, 0.76), (1 / 5, 0.83), (1 / 6, 0.90)):
        assert table(tied_at=part).factor == pytest.approx(factor, abs=0.012)
    assert table(tied_at=1 / 8).factor == 1.0


@pytest.mark.parametrize(
    "given", [{"snow": 71.0}, {"dead": 21.0}, {"live": 30.0}, {"spacing": 30.0}, {"size": "2-2x8"}, {"limit": 360.0}]
)
def test_no_row_is_no_answer(given):
    assert table(**given) is None


def test_it_is_said_on_card_and_calculation(demo_model):
    roof = demo_model.project.roofs[0]
    said = rafter_table_text(demo_model, demo_model.designs[(roof.id, "rafters")])
    assert "R802.4.1(3)" in said
    lines = [line for line in member_calculation(demo_model, roof.id) if line.text == "For information, by span tables"]
    assert [line.right for line in lines] == [said]
