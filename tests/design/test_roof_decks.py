"""Decks of roofs: spans and loads of IRC Table R503.2.1.1(1) (from memory), what is told, what is chosen."""

import pytest
from tests.framing.test_roof_trim import roofed
from tests.framing.test_roof_trusses import trussed

from balken.derive import derive
from balken.derived.roof_decks import roof_deck_of
from balken.documents.roof_schedule import HEADINGS, roof_schedule
from balken.mending import run_fix
from balken.model import edits
from balken.model.kinds.trusses import Trusses
from balken.standards.known import USUAL
from balken.units.system import INCH, PSF


@pytest.mark.parametrize(
    ("thick", "spacing", "rating", "carries", "clips"),
    [  # in, in; 24/0 panels reach 24 in with edges held, 20 without; 24/16 need no clips there; 40/20 of 19/32 in carry 30 psf at 40 in
        (0.375, 24.0, "24/0", 30.0, True), (0.375, 16.0, "24/0", 67.5, False), (0.4375, 24.0, "24/16", 40.0, False),
        (0.5, 24.0, "32/16", 53.333, False), (0.5, 32.0, "32/16", 30.0, True), (0.625, 24.0, "40/20", 83.333, False),
        (0.75, 48.0, "48/24", 35.0, True), (0.375, 32.0, "24/0", 0.0, True),
    ],
)  # fmt: skip
def test_spans_and_loads_of_the_table(thick, spacing, rating, carries, clips):
    panel = USUAL.roof_panel(thick * INCH, spacing * INCH)
    assert panel.rating == rating
    assert panel.carries == pytest.approx(carries * PSF, rel=1e-4)
    assert panel.clips is clips


@pytest.mark.parametrize(
    ("thick", "spacing", "published"), [(0.4375, 16.0, 100.0), (0.5, 24.0, 70.0), (0.625, 24.0, 130.0)]
)
def test_closer_rafters_count_no_more_than_makers_publish(thick, spacing, published):
    """Uniform live loads of makers' tables, from memory: ours stay below them."""
    assert USUAL.roof_panel(thick * INCH, spacing * INCH).carries < published * PSF


def test_too_thin_is_none():
    assert USUAL.roof_panel(0.3 * INCH, 400.0) is None


def codes(model):
    return [f for f in model.findings if f.code == "roof deck"]


@pytest.mark.parametrize("deck", [0.25, 0.375])
def test_a_deck_that_does_not_reach_or_is_too_weak_is_told_and_its_fix_works(deck):
    p = edits.set_loads(trussed(trusses=Trusses(spacing=24.0 * INCH)), ground_snow=45.0 * PSF)
    model = derive(edits.change(p, "roof-1", deck=deck * INCH))
    (finding,) = codes(model)
    mended = derive(run_fix(model.project, finding.fix))
    assert not codes(mended)
    made = roof_deck_of(mended, mended.project.roofs[0])
    assert made.works
    # 45 psf over 24 in: 24/16 panels carry 40, 32/16 ones 30 x (32 / 24)^2 = 53.
    assert mended.project.roofs[0].deck == pytest.approx(15.0 / 32.0 * INCH)


def test_what_works_is_not_told_and_stands_in_the_schedule():
    model = derive(roofed())
    assert not codes(model)
    table = roof_schedule(model)
    (cell,) = [row[HEADINGS.index("Deck")] for row in table.rows]
    deck = roof_deck_of(model, model.project.roofs[0])
    assert deck.panel.rating in cell
    assert "8d" in cell
    assert all(len(row) == len(HEADINGS) for row in table.rows)
