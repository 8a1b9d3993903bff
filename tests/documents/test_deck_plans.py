"""Decks of roofs and floors as panels: areas agree with the planes and floors, panels and drawings with the lists."""

import pytest
import shapely
from tests.houses import house

from balken.demo import orchard_road
from balken.derive import derive
from balken.documents.deck_plans import deck_plan_sheets
from balken.documents.deck_sheets import PANEL, deck_layouts
from balken.documents.display import Area, Text
from balken.documents.quantity_lists import quantity_rows
from balken.documents.sheet_set import sheet_set
from balken.model import edits


@pytest.fixture(scope="module")
def model():
    return derive(orchard_road())


def test_decks_are_as_large_as_what_they_lie_on(model):
    layouts = {d.ref: d for d in deck_layouts(model)}
    for plan in model.surfaces:
        steep = sum(face.area for face in (*plan.whole.faces, *plan.under_decks))
        holes = sum(
            (h.along[1] - h.along[0]) * (h.inward[1] - h.inward[0]) * (1.0 + plan.edges[h.edge].pitch ** 2) ** 0.5
            for h in plan.holes
        )
        assert layouts[plan.roof.id].area == pytest.approx(steep - holes, rel=1e-3)
        # In plan the panels lie where the roof does, none over another.
        rings = [shapely.Polygon(r) for r in layouts[plan.roof.id].rings]
        twice = sum(face.plan_area for face in plan.under_decks)  # under the wing's own
        assert sum(r.area for r in rings) == pytest.approx(shapely.union_all(rings).area + twice, rel=1e-6)
        assert shapely.union_all(rings).difference(shapely.Polygon(plan.ring).buffer(2.0)).area < 1.0
    for plan in model.floors:
        left_out = sum(shapely.Polygon(h.ring).area for h in plan.holes)
        assert layouts[plan.floor.id].area == pytest.approx(
            shapely.Polygon(plan.outline.core).area - left_out, rel=1e-3
        )
    for d in layouts.values():
        assert d.area <= d.panels * PANEL.long * PANEL.wide
        assert d.whole <= d.panels <= len(d.pieces)


def test_a_gable_roof_of_planes_and_the_older_one_take_about_as_many():
    p = house()
    old = {d.ref: d for d in deck_layouts(derive(p))}
    new = {d.ref: d for d in deck_layouts(derive(edits.change(p, "roof-1", shape="planes")))}
    assert old.keys() == new.keys()
    assert abs(old["roof-1"].panels - new["roof-1"].panels) <= 0.4 * old["roof-1"].panels


def test_decks_stand_in_the_list_and_on_sheets(model):
    rows = [row for row in quantity_rows(model) if row.item == "Decks"]
    layouts = deck_layouts(model)
    assert [row.count for row in rows] == [str(d.panels) for d in layouts]
    sheets = deck_plan_sheets(model)
    drawings = [d for sheet in sheets for d in sheet.drawings]
    assert [d.title for d in drawings] == [f"{d.name}: deck" for d in layouts]
    for drawing, layout in zip(drawings, layouts, strict=True):
        assert sum(isinstance(i, Area) and i.ref == layout.ref for i in drawing.items) == len(layout.pieces)
        (said,) = [i.text for i in drawing.items if isinstance(i, Text)]
        assert said.startswith(f"{layout.panels} panels")
    assert "decks" in {page.kind for page in sheet_set(model)}
