"""Typical details of floors: one for each different bearing, keyed on the plans, cut from the model; the sheets of beams."""

import pytest
import shapely

from balken.demo import orchard_road
from balken.derive import derive
from balken.documents.beam_sheets import beam_drawings, beam_sheets
from balken.documents.display import Area, Circle, Text
from balken.documents.floor_details import SCALE, SIDE, draw_detail, floor_details
from balken.documents.plan_sheets import plan_drawings
from balken.documents.sheet_set import sheet_set
from balken.model import edits
from balken.units import Units


@pytest.fixture(scope="module")
def model():
    return derive(orchard_road())


def test_every_kind_of_bearing_has_one(model):
    titles = [d.title for d in floor_details(model)]
    for part in (
        "on a sill plate",
        "on a wall",
        "on a beam",
        "hung on a header",
        "hung on a ledger",
        "on a post",
        "in a pocket",
    ):
        assert any(title.endswith(part) for title in titles), part
    assert [d.number for d in floor_details(model)] == list(range(1, len(titles) + 1))
    flush = derive(edits.change(model.project, "beam-1", flush=True))
    assert any(d.title.endswith("hung on a beam") for d in floor_details(flush))


def test_what_a_detail_shows(model):
    """The joist behind the cut is as deep as it is, and its plate, wall or beam lies right under it where it bears."""
    for detail in floor_details(model):
        drawing = draw_detail(model, detail, 12.0)
        areas = [i for i in drawing.items if isinstance(i, Area)]
        assert areas
        a, b = (SIDE + x for x in detail.bears)
        under = shapely.box(a + 1.0, detail.height - 20.0, b - 1.0, detail.height - 2.0)
        below = shapely.union_all([shapely.Polygon(i.rings[0], i.rings[1:]) for i in areas])
        if "hung" not in detail.title and "in a pocket" not in detail.title:
            assert below.intersection(under).area > 0.95 * under.area, detail.title
        for area in areas:
            xs = [x for x, _ in area.rings[0]]
            assert min(xs) >= -1e-6
            assert max(xs) <= 2.0 * SIDE + 1e-6
        said = [i.text for i in drawing.items if isinstance(i, Text)]
        assert set(detail.notes) <= set(said)


def test_they_are_keyed_on_the_plans(model):
    details = floor_details(model)
    keyed = []
    for drawing in plan_drawings(model, 96.0):
        circles = {i.centre for i in drawing.items if isinstance(i, Circle) and i.layer == "floors"}
        keyed += [i.text for i in drawing.items if isinstance(i, Text) and i.at in circles]
    assert {str(d.number) for d in details if d.level in {"level-1", "level-6"}} <= set(keyed)


def test_the_sheets_of_beams(model):
    pages = [page for page in sheet_set(model) if page.kind == "beams"]
    assert pages
    marks = [mark for mark, _ in beam_drawings(model)]
    assert marks == ["B1", "B2", "B3"]
    (sheet,) = beam_sheets(model)
    texts = [i.text for i in sheet.items if isinstance(i, Text)]
    assert "not to scale" in texts
    assert '1" = 1\'-0"' in texts
    for detail in floor_details(model):
        assert any(text.lower() == detail.title.lower() for text in texts)
    metric = derive(edits.set_project(model.project, units=Units.METRIC))
    assert any(i.text == "1:10" for s in beam_sheets(metric) for i in s.items if isinstance(i, Text))
    assert SCALE[Units.METRIC] == 10.0
    assert beam_sheets(derive(edits.new_project("nothing"))) == []
