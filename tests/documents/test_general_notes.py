"""General notes: what the project is designed for, read from it."""

import msgspec
import pytest
from tests.houses import house

from balken.demo import orchard_road
from balken.derive import derive
from balken.documents.general_notes import WIDE, general_notes
from balken.documents.lettering import text_width
from balken.documents.paper_table import LETTERS
from balken.documents.sheet_set import drawn, sheet_set
from balken.model import edits
from balken.units import Units
from balken.units.system import PSF


def said(model):
    return " ".join(f"{about} {note}".strip() for about, note in general_notes(model).rows)


@pytest.fixture(scope="module")
def demo():
    return derive(orchard_road())


def test_they_follow_the_project():
    p = house()
    loads = msgspec.structs.replace(p.loads, soil_bearing=2000.0 * PSF, wind_speed=0.0)
    words = said(derive(msgspec.structs.replace(p, loads=loads)))
    assert "soil 2,000 psf" in words
    assert "bears 2,000 psf at least" in words
    assert "uplift of roofs is not looked at" in words
    metric = said(derive(msgspec.structs.replace(p, units=Units.METRIC)))
    assert "Lengths are in mm" in metric
    assert "kN/m" in metric
    assert "Lengths are in feet and inches" in words


def test_every_wood_in_use_is_named_with_what_is_made_of_it(demo):
    words = said(demo)
    for piece in demo.pieces.values():
        if piece.material == "timber" and piece.species:
            assert f"{piece.species} {piece.grade}:" in words
            assert piece.role in words
    assert "sideways resistance" in words


def test_lines_keep_their_width_and_they_stand_on_one_sheet(demo):
    table = general_notes(demo)
    assert all(text_width(note, LETTERS) <= WIDE for _, note in table.rows)
    first = table.rows[0][1]
    sheets = [made for made in drawn(sheet_set(demo)) if any(getattr(i, "text", "") == first for i in made.items)]
    assert len(sheets) == 1


def test_an_empty_project_has_none():
    assert general_notes(derive(edits.new_project("Empty"))).rows == []
