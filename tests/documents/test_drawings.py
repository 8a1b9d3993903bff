"""Drawings as lists of items: what is on them, where, and that marks and figures do not collide."""

import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from tests.names import named

from balken.demo import orchard_road
from balken.derive import derive
from balken.documents.cross_section import cross_section, cut_view, effective_cut
from balken.documents.dimensions import dimension_string, level_marks, spread
from balken.documents.display import Area, Drawing, Path, Text, placed
from balken.documents.elevation import elevation_sheets
from balken.documents.hatch import hatch
from balken.documents.lettering import text_width
from balken.documents.plan import PlanOf, plan
from balken.documents.plan_sheets import FLOORS, FOUNDATIONS, ROOF, framing_plans
from balken.documents.style import FILLS, MUTED, PENS, SHEET
from balken.geometry.plane import area, bounds
from balken.geometry.prism import cut_by as cut_through
from balken.model import edits
from balken.model.records import CutLine
from balken.units import Units
from balken.units.system import FOOT, INCH


@given(st.lists(st.floats(-5000, 5000), min_size=1, max_size=12), st.floats(1, 600))
def test_spread_keeps_order_and_distance(values, gap):
    values = sorted(values)
    places = spread(values, gap)
    assert all(b - a >= gap - 1e-6 for a, b in itertools.pairwise(places))
    if all(b - a >= gap for a, b in itertools.pairwise(values)):
        assert places == pytest.approx(values)


def test_level_marks_never_overprint(demo_model):
    rows = [(v.id, v.name, v.height) for v in demo_model.project.levels]
    rows.append(("near", "Slab", -20.5 * INCH))
    texts = [i for i in level_marks(rows, 0.0, 5000.0, Units.IMPERIAL, 50.0) if isinstance(i, Text)]
    heights = sorted(t.at[1] for t in texts)
    assert all(b - a >= texts[0].size for a, b in itertools.pairwise(heights))


def test_dimension_chain_figures(demo_model):
    items = dimension_string([0.0, 3000.0, 3100.0, 7000.0], (0, 0), (1.0, 0.0), 500.0, Units.METRIC, 50.0)
    texts = [i for i in items if isinstance(i, Text)]
    assert [t.text for t in texts] == ["3000", "100", "3900"]
    assert texts[1].at[1] > texts[0].at[1]  # too narrow for its figure: raised
    upright = dimension_string([0.0, 3000.0], (0, 0), (0.0, 1.0), 500.0, Units.METRIC, 50.0)
    assert next(i for i in upright if isinstance(i, Text)).angle == pytest.approx(90.0)


@pytest.mark.parametrize("what", [FOUNDATIONS, FLOORS, ROOF], ids=lambda w: w.title)
def test_plans_show_their_members_and_the_grid(demo_model, what):
    drawing = plan(demo_model, what, 48.0)
    refs = {i.ref for i in drawing.items}
    labels = {i.text for i in drawing.items if isinstance(i, Text)}
    assert {"1", "2", "3", "4", "A", "B", "C", "13'-0\"", "40'-0\"", "28'-0\""} <= labels
    want = {
        "Foundation plan": "foundation-1/wall-1/wall",
        "Floor framing plan": "floor-1/joist/000a",
        "Roof framing plan": "roof-1/rafter/000a",
    }
    assert named(demo_model, want[what.title]) in refs
    for item in drawing.items:
        assert item.pen in PENS or (isinstance(item, Area) and not item.pen)
        if isinstance(item, Area):
            assert item.fill in FILLS


def test_a_wall_plan_is_cut_through_openings(demo_model):
    drawing = plan(demo_model, PlanOf("x", frozenset({"walls"})), 48.0)
    studs = [i for i in drawing.items if isinstance(i, Area) and i.ref == "wall-1" and i.fill == "studs"]
    assert len(studs) == 5  # four openings leave five stretches
    length = sum(abs(area(s.rings[0])) for s in studs) / (5.5 * INCH)
    # Wall 1 starts inside wall 4, which runs through at their corner.
    assert length == pytest.approx((40 - 6 - 3.5 - 8 - 6) * FOOT - 5.5 * INCH, rel=1e-6)


def test_section_cuts_what_lies_under_the_line(demo_model):
    cut = effective_cut(demo_model)
    drawing = cross_section(demo_model, cut, 48.0)
    refs = {i.ref for i in drawing.items if isinstance(i, Area) and i.pen == "cut"}
    assert {"foundation-1/wall-1/wall", "foundation-1/wall-5/footing", "roof-1/ridge/0"} <= refs
    assert not any("joist" in r for r in refs)  # the line runs between two joists
    texts = {i.text for i in drawing.items if isinstance(i, Text)}
    assert any("Top of footing" in t for t in texts)
    whole = sum(
        abs(area(r[0]))
        for p in demo_model.pieces.values()
        if p.role == "strip footing"
        for r in cut_through(p.solid, cut_view(cut))
    )
    widths = [demo_model.footings[f"foundation-1/wall-{i}"].width for i in (1, 3, 5)]
    assert whole == pytest.approx(sum(widths) * 10 * INCH)


def test_a_section_along_the_building_shows_the_gable_and_a_skew_one_works(demo_model):
    for start, end in (((-FOOT, 5 * FOOT), (41 * FOOT, 5 * FOOT)), ((0.0, -FOOT), (40 * FOOT, 29 * FOOT))):
        drawing = cross_section(demo_model, CutLine(start=start, end=end), 48.0)
        assert len(drawing.items) > 30


def test_an_empty_project_has_a_cut_and_draws_nothing_wrong():
    model = derive(edits.new_project())
    assert cross_section(model, effective_cut(model), 48.0).items
    assert plan(model, FOUNDATIONS, 48.0).items == ()


def test_hatches_stay_inside():
    ring = ((0.0, 0.0), (900.0, 0.0), (900.0, 200.0), (0.0, 200.0))
    for kind in ("concrete", "masonry", "earth", "timber"):
        strokes = hatch((ring,), kind, 20.0)
        assert strokes
        x0, y0, x1, y1 = bounds([p for s in strokes for p in s])
        assert x0 >= -10
        assert x1 <= 910
        assert y0 >= -10
        assert y1 <= 215


def test_placed_scales_about_a_point():
    (line,) = placed([Path(((10.0, 10.0), (20.0, 10.0)), "thin")], 0.5, (10.0, 10.0), (100.0, 0.0))
    assert line.points == ((100.0, 0.0), (105.0, 0.0))


def test_text_is_as_wide_as_its_letters():
    assert text_width("iii", 10.0) < text_width("WWW", 10.0)
    assert text_width("12'-6 1/2\"", 20.0) == pytest.approx(2 * text_width("12'-6 1/2\"", 10.0))


def luminance(colour: str) -> float:
    parts = [int(colour[i : i + 2], 16) / 255 for i in (1, 3, 5)]
    r, g, b = (p / 12.92 if p <= 0.04045 else ((p + 0.055) / 1.055) ** 2.4 for p in parts)
    return 0.2126 * r + 0.7152 * g + 0.0722 * b


@pytest.mark.parametrize("name", ["text", "note", "dimension", "level"])
def test_text_has_contrast_on_the_sheet(name):
    """WCAG 2.1, 1.4.3: at least 4.5 to 1."""
    light, dark = luminance(SHEET), luminance(PENS[name].colour)
    assert (light + 0.05) / (dark + 0.05) >= 4.5


def test_muted_text_has_contrast_on_panels_and_sheet():
    """WCAG 2.1, 1.4.3."""
    for ground in (SHEET, "#F3EEE3"):
        assert (luminance(ground) + 0.05) / (luminance(MUTED) + 0.05) >= 4.5


def test_framing_elevations_go_on_a_sheet_each_within_its_frame(demo_model):
    walls = tuple(demo_model.framed)
    made = elevation_sheets(demo_model, walls)
    assert len(made) == len(walls)
    numbers = set()
    for sheet in made:
        box = Drawing("", 1.0, sheet.items).box()
        assert box[0] >= -0.1
        assert box[1] >= -0.1
        assert box[2] <= sheet.width + 0.1
        assert box[3] <= sheet.height + 0.1
        texts = [i.text for i in sheet.items if isinstance(i, Text)]
        assert {"Mark", "Member", "No."} <= set(texts)
        numbers.update(t for t in texts if t.startswith("W-"))
    assert len(numbers) == len(walls)


# Floors by level -----------------------------------------------------------------------------------


def test_each_level_has_a_floor_plan_of_its_own():
    """Its joists and what they lie on, none of another level; every joist stands on one plan."""
    model = derive(orchard_road())
    plans = framing_plans(model)
    assert [what.title for what in plans] == [
        "Foundation plan",
        "Floor 1 framing plan",
        "Floor 2 framing plan",
        "Roof framing plan",
    ]
    drawn = [{i.ref for i in plan(model, what, 48.0).items if "/joist/" in i.ref} for what in plans[1:3]]
    assert not drawn[0] & drawn[1]
    assert drawn[0] | drawn[1] == {p.key for p in model.of_layouts("joist")}
    upper = next(made for made in model.floors if made.floor.name == "Flat floor")
    assert {ref.split("/")[0] for ref in drawn[1]} == {upper.floor.id}


def test_a_plan_of_one_storey_keeps_its_plain_name(demo_model):
    assert [what.title for what in framing_plans(demo_model)][1] == "Floor framing plan"
    assert framing_plans(derive(edits.new_project()))[1] == FLOORS


def test_what_a_floor_lies_on_is_dashed_below_it():
    """For the upper floor that is the walls under it, not the foundations; for none, the walls there are."""
    model = derive(orchard_road())
    for what, layer_below in zip(framing_plans(model)[1:3], ("foundation", "wall"), strict=True):
        dashed = [i for i in plan(model, what, 48.0).items if isinstance(i, Path) and i.pen == "hidden"]
        assert dashed
        xs = [p[0] for item in dashed for p in item.points]
        shed = min(min(line.band.start[0], line.band.end[0]) for line in model.lines.values())
        assert min(xs) > shed + 1000.0, layer_below  # the shed has no floor of joists
    bare = edits.remove(model.project, "floor-2")
    bare = derive(bare)
    level = next(v.id for v in bare.project.levels if v.name == "Floor 2")
    without = plan(bare, replace(FLOORS, storey=level), 48.0)
    assert any(isinstance(i, Path) and i.pen == "hidden" for i in without.items)
    assert not any("/joist/" in i.ref for i in without.items)
