"""Blocks beside the bearings of trusses: what presses on the plate by hand, nails, where they lie and where they cannot be."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.design.test_trusses import truss
from tests.framing.test_roof_trim import of
from tests.framing.test_roof_trusses import trussed
from tests.framing.test_truss_wings import _apart, winged
from tests.loads.test_beams import balanced

from balken.catalog.sections import section
from balken.commands.truss import truss_report
from balken.derive import derive
from balken.documents.truss_drawing import shop_notes
from balken.model import edits
from balken.model.kinds.trusses import Trusses
from balken.panel.card_content import card
from balken.session.session import Session
from balken.standards.us.ply_nails import nail_value
from balken.units import Units
from balken.units.system import INCH, POUND_FORCE, PSF

FC = 425.0 * 0.00689475729
"""Of S-P-F across the grain, N/mm2 (NDS Supplement 2018, Table 4A, from memory)."""


def test_one_block_doubles_the_width_by_hand():
    """32 ft on 3 1/2 in of plate under 60 psf of snow: crushed alone; a block beside it carries half, by its nails."""
    made = truss("fink", "--snow 60psf --top 2x6 --bottom 2x6", span=32)
    plain = max(max(row.values()) for row in made.reactions().values())
    assert plain / (1.5 * 3.5 * INCH**2) > FC
    assert [one.joint for one in made.blocks] == ["bearing left", "bearing right"]
    for one, check in zip(made.blocks, made.bearing, strict=True):
        assert one.place.count == 1
        assert check.demand == pytest.approx(plain / 2.0 / (1.5 * 3.5 * INCH**2), rel=1e-6)
        assert check.capacity == pytest.approx(FC, rel=1e-6)
        # Snow lies two months: 1.15 (NDS Table 2.3.2).
        assert one.nails.force == pytest.approx(plain / 2.0 / 1.15, rel=1e-6)
        assert one.nails.number == math.ceil(one.nails.force / nail_value("S-P-F", 1.5 * INCH))
        assert one.place.high - one.place.low == pytest.approx(12.0 * INCH)
    assert (made.blocks[0].place.low, made.blocks[1].place.high) == (0.0, pytest.approx(made.frame.outline.span))
    assert made.used == pytest.approx(
        max(max(row[0] for row in made.sticks.values()), made.bearing[0].used, made.sag.used, made.between.used)
    )
    report = truss_report(made, plates=False)
    assert [row["joint"] for row in report["bearing_blocks"]] == ["bearing left", "bearing right"]
    assert any("a block 2x6" in text for text in shop_notes(made, Units.IMPERIAL))


def test_where_one_is_enough_there_are_none():
    assert not truss("fink", "", span=20).blocks


def test_a_seat_beyond_all_blocks_is_told():
    """Three times as wide is not enough, or the nails find no room."""
    made = truss("howe", "--snow 80psf --spacing 8ft --top 2x12 --bottom 2x4", span=40)
    assert not made.blocks
    assert made.bearing[0].used > 1.0


def test_they_stand_beside_every_truss_of_a_roof():
    """28 ft under 120 psf: one at each end of each truss, in nothing; listed, on the card."""
    p = edits.set_loads(trussed(0.5, Trusses(spacing=24.0 * INCH)), ground_snow=120.0 * PSF)
    session = Session(p)
    model = session.model
    made = model.trusses["roof-1"]
    blocks = of(model, "bearing block")
    commons = sum(len(make.numbers) for make in made.makes if make.key == "common")
    assert commons > 0
    assert len(blocks) == 2 * commons
    assert all(x.section == made.common.frame.sizes.bottom for x in blocks)
    lumber = section(made.common.frame.sizes.bottom)
    assert blocks[0].solid.volume == pytest.approx(lumber.breadth * lumber.depth * 12.0 * INCH)
    assert {round(x.solid.heights[0], 3) for x in blocks} == {round(model.surfaces[0].bearing, 3)}
    assert made.common.used <= 1.0
    balanced(model)
    _apart(model)
    session.select(["roof-1"])
    assert "tight on the plate" in str(card(session, lambda *_: None, lambda *_: None))


def test_hangers_are_widened_by_none():
    """What hangs on a girder bears in a hanger there: no block helps."""
    model = derive(edits.set_loads(winged(gables=("wall-1", "wall-4")), ground_snow=70.0 * PSF))
    made = model.trusses["roof-1"]
    hung = 0
    for make in made.makes:
        for number in make.numbers:
            place, outline = made.places[number], make.design.frame.outline
            for one in make.design.blocks:
                end = 0 if one.place.low < outline.span / 2.0 else 1
                assert place.walls[end] or place.gable
            if make.key in ("common", "flat", "jack") and not all(place.walls):
                ends = [
                    b
                    for b, wall in zip((outline.bearings[0], outline.bearings[-1]), place.walls, strict=True)
                    if not wall
                ]
                assert not any(b.widens for b in ends)
                hung += 1
    assert hung > 0
    _apart(model)


@given(st.sampled_from(["fink", "howe", "fan"]), st.integers(20, 40), st.integers(20, 90), st.sampled_from([1, 2]))
@settings(max_examples=12, deadline=None)
def test_with_blocks_no_seat_is_crushed_and_nails_hold(shape, span, snow, plies):
    made = truss(shape, f"--plies {plies} --snow {snow}psf", span=span)
    for one in made.blocks:
        check = next(c for c in made.bearing if c is one.check)
        assert check.used <= 1.0 + 1e-6
        wide = 1.5 * INCH * (plies + one.place.count) * 3.5 * INCH
        most = max(made.reactions()[one.joint].values())
        assert most / wide == pytest.approx(check.demand, rel=1e-6)
        assert one.nails.fits
        assert (
            one.nails.number * one.nails.value
            >= most * one.place.count / (plies + one.place.count) / 1.6 / one.place.count - POUND_FORCE
        )
