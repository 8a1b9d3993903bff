"""Sections through roofs: each roof is met by one, square to its ridge; the plan of roofs shows where."""

import shapely
from tests.framing.test_joined_roofs import joined

from balken.demo import orchard_road
from balken.derive import derive
from balken.documents.cross_section import effective_cut
from balken.documents.display import Text
from balken.documents.plan_sheets import plan_drawings
from balken.documents.roof_cuts import roof_cuts
from balken.geometry.plane import dot, unit
from balken.model import edits
from balken.units.system import FOOT


def test_every_roof_of_the_demo_is_cut():
    model = derive(orchard_road())
    cuts = [effective_cut(model), *(cut for _, _, cut in roof_cuts(model))]
    for plan in model.surfaces:
        if plan.roof.id not in model.dormers:
            core = shapely.Polygon(plan.outline.core)
            assert any(core.intersection(shapely.LineString([c.start, c.end])).length > 600.0 for c in cuts)
    ((letter, name, cut),) = roof_cuts(model)
    assert (letter, name) == ("T", "Shed roof")
    shed = next(plan for plan in model.surfaces if plan.roof.name == name)
    ridge = next(line for line in shed.surface.lines if line.kind == "ridge")
    assert abs(dot(unit(cut.start, cut.end), unit(ridge.start[:2], ridge.end[:2]))) < 1e-6
    drawings = plan_drawings(model, 96.0)
    assert "Section T-T through Shed roof" in [d.title for d in drawings]
    (roofs,) = [d for d in drawings if d.title == "Roof framing plan"]
    assert [i.text for i in roofs.items if isinstance(i, Text)].count("T") == 2


def test_what_the_section_meets_has_none_of_its_own():
    p = edits.set_cut(joined(), (17.0 * FOOT, -20.0 * FOOT), (17.0 * FOOT, 40.0 * FOOT))
    assert roof_cuts(derive(p)) == []
    apart = edits.set_cut(joined(), (36.0 * FOOT, -20.0 * FOOT), (36.0 * FOOT, 40.0 * FOOT))
    assert [(c.letter, c.roof) for c in roof_cuts(derive(apart))] == [("T", "Wing roof")]
    older = edits.change(edits.remove(joined(), "roof-2"), "roof-1", shape="gable", sides=())
    beside = edits.set_cut(older, (60.0 * FOOT, -20.0 * FOOT), (60.0 * FOOT, 40.0 * FOOT))
    ((_, _, cut),) = roof_cuts(derive(beside))
    assert cut.start[0] == cut.end[0]  # its ridge runs along x
