"""Calculation sheets: every number is read back with its unit and compared with the model, in both unit systems."""

import re

import pytest
from pypdf import PdfReader

from balken.cli import main
from balken.demo import orchard_road
from balken.derive import derive
from balken.documents.calculation import all_calculations, calculation, calculation_pages
from balken.documents.display import Text
from balken.exchange import project_file
from balken.model import edits
from balken.standards.measures import SI_UNITS, quantity_text
from balken.units import Units

FOOT, INCH, POUND = 0.3048, 0.0254, 4.4482216152605
READ = {
    "psf": ("pressure", POUND / FOOT**2 / 1000),
    "psi": ("stress", POUND / INCH**2 / 1e6),
    '"': ("length", 25.4),
    "lb": ("force", POUND / 1000),
    "lb ft": ("moment", POUND * FOOT / 1000),
    "in\u00b2": ("steel", 645.16),
    "lb/ft": ("line force", POUND / FOOT / 1000),
    "lb ft/ft": ("line moment", POUND / 1000),
    "in\u00b2/ft": ("line steel", 645.16 / FOOT),
    "in\u00b3": ("modulus", 16387.064),
    "in\u00b3/ft": ("line modulus", 16387.064 / FOOT),
    "pcf": ("density", POUND / FOOT**3 / 1000),
    "kN/m\u00b2": ("pressure", 1.0),
    "N/mm\u00b2": ("stress", 1.0),
    "mm": ("length", 1.0),
    "kN": ("force", 1.0),
    "kN m": ("moment", 1.0),
    "mm\u00b2": ("steel", 1.0),
    "kN/m": ("line force", 1.0),
    "kN m/m": ("line moment", 1.0),
    "mm\u00b2/m": ("line steel", 1.0),
    "cm\u00b3": ("modulus", 1000.0),
    "cm\u00b3/m": ("line modulus", 1000.0),
    "kN/m\u00b3": ("density", 1.0),
    "\u00b0": ("angle", 1.0),
    "": ("", 1.0),
}
PLAIN = {"ratio", "factor", "strain", "count", "slenderness"}


def read(text):
    """Return (value in SI, what its unit says it is, half of its last printed digit)."""
    match = re.fullmatch(r"(\u2212?-?[\d,]+(?:\.\d+)?)\s*(.*)", text)
    assert match, text
    number = match[1].replace(",", "").replace("\u2212", "-")
    kind, factor = READ[match[2]]
    digits = len(number.partition(".")[2])
    return float(number) * factor, kind, 0.5 * 10.0**-digits * abs(factor)


def every_check(model):
    for result in {id(r): r for r in model.results.values()}.values():
        yield from result.checks
    for footing in model.footings.values():
        yield from footing.design.checks
    for pad in model.pads.values():
        yield from pad.design.checks
    for wall in model.earth_walls.values():
        yield from wall.checks


@pytest.fixture(scope="module")
def loaded():
    """The demo with bars, block and a free wall among its walls, so that every kind of check is there."""
    p = orchard_road()
    p = edits.change(p, "foundation-1", thickness=8 * 25.4)
    p = edits.set_soil(p, pressure="active", water_below=2000.0)
    p = edits.change(p, "foundation-2", made_of="hollow block", thickness=7.625 * 25.4, inside_ground=None)
    return edits.change(p, "pad-1", push=6000.0)


@pytest.mark.parametrize("units", list(Units))
def test_every_number_of_every_check_reads_back(loaded, units):
    model = derive(edits.set_project(loaded, units=units))
    seen = set()
    for check in every_check(model):
        rows = [(check.demand, check.quantity), (check.capacity, check.quantity)]
        for line in check.working:
            assert line.text.count("{}") == len(line.values)
            shown = line.shown(units)
            for value, quantity in line.values:
                assert quantity_text(value, quantity, units) in shown
            rows += line.values
        for value, quantity in rows:
            got, kind, half = read(quantity_text(value, quantity, units))
            assert kind == ("" if quantity in PLAIN else quantity), (check.name, quantity)
            assert got == pytest.approx(value, abs=half * 1.01, rel=1e-9), (check.name, quantity, value)
            seen.add(quantity)
    assert {"line moment", "line force", "stress", "length", "pressure", "ratio"} <= seen


@pytest.mark.parametrize("units", list(Units))
def test_the_sheets_print_those_numbers_whole(loaded, units):
    model = derive(edits.set_project(loaded, units=units))
    refs = all_calculations(model)
    stairs = {made.flight.opening for made in model.flights}
    roofs = (*model.roofs, *model.surfaces)
    kinds = (model.footings, model.pads, model.framed, model.floors, roofs, model.posts, model.girders, stairs)
    assert len(refs) == sum(len(kind) for kind in kinds)
    for ref in refs:
        printed = [item.text for page in calculation_pages(model, ref) for item in page.items if isinstance(item, Text)]
        rights = {line.right for line in calculation(model, ref) if line.right}
        assert rights <= set(printed)
        assert any("shear walls" in text for text in printed)


def test_strips_are_per_length_and_pads_are_not(loaded):
    model = derive(loaded)
    for footing in model.footings.values():
        bending = [c for c in footing.design.checks if c.name == "bending"]
        assert all(c.quantity == "line moment" for c in bending)
        assert all(SI_UNITS[c.quantity].endswith("/m") for c in bending)
    for pad in model.pads.values():
        assert all(c.quantity == "moment" for c in pad.design.checks if c.name == "bending")


def test_a_held_wall_says_that_it_feels_the_earth_at_rest(loaded):
    model = derive(loaded)
    run = next(r for r, w in model.earth_walls.items() if w.case.held)
    text = "\n".join(line.text + " " + line.right for line in calculation(model, run))
    assert "K0 = 1 - sin 30\u00b0 = 0.500" in text
    assert "active pressure cannot come about" in text
    assert "Ka" not in text
    assert "Ground water 6'-6 3/4\" below ground" in text


def test_the_command_writes_all_of_them(tmp_path):
    file, out, both, plain = (tmp_path / n for n in ("a.balken", "calc.pdf", "both.pdf", "plain.pdf"))
    p = orchard_road()
    project_file.save(p, file)
    assert main(["export", str(file), "--calc", str(out)]) == 0
    text = "\n".join(page.extract_text() for page in PdfReader(out).pages)
    for word in (
        "joists",
        "Rafters",
        "Ceiling ties",
        "Studs",
        "Header",
        "Jack studs",
        "King studs",
        "Footing",
        "Pad 1",
    ):
        assert word in text
    assert main(["export", str(file), "--pdf", str(both), "--with-calc"]) == 0
    assert main(["export", str(file), "--pdf", str(plain)]) == 0
    pages = [len(PdfReader(f).pages) for f in (out, both, plain)]
    assert pages[1] == pages[0] + pages[2]
    assert main(["export", str(file), "--with-calc", "--csv", str(plain)]) == 2
