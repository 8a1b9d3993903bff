"""Elevations and sections of walls of block and of sloping footings."""

import pytest
import shapely
from tests.shop import shop

from balken.catalog.blocks import BONDS
from balken.derive import derive
from balken.documents.cross_section import cross_section
from balken.documents.display import Area, Path, Strokes, Text
from balken.documents.foundation_elevation import foundation_elevation
from balken.documents.foundation_sections import typical_section
from balken.documents.plan import PlanOf, plan
from balken.documents.section_keys import keyed_sections
from balken.findings.fixes import FIXES
from balken.framing.blockwork import blockwork
from balken.model import column_edits, edits, foundation_edits
from balken.model.records import CutLine, Slope
from balken.units.system import INCH

RUN = "foundation-1/wall-1"


def block_shop(**fields):
    return edits.change(shop(), "foundation-1", made_of="hollow block", thickness=7.625 * INCH, **fields)


def test_every_block_is_drawn_and_counted():
    p = block_shop()
    model = derive(p)
    drawing = foundation_elevation(model, RUN, 50.0)
    run = next(r for r in model.runs if r.id == RUN)
    made = blockwork(run, (), BONDS[p.steps])
    joints = next(i for i in drawing.items if isinstance(i, Strokes) and i.layer == "foundations")
    assert len(joints.segments) == 4 * len(made.blocks)
    (note,) = [i.text for i in drawing.items if isinstance(i, Text) and "courses of block" in i.text]
    whole = made.count("whole", p.foundations[0].thickness)
    assert f"{made.courses} courses of block: {whole} whole" in note
    crossed = [
        i
        for i in drawing.items
        if isinstance(i, Strokes) and len(i.segments) == made.count("cut", p.foundations[0].thickness)
    ]
    assert crossed


def test_sections_tell_block_from_concrete():
    letters = {k.letter for k in keyed_sections(derive(shop()))}
    assert letters
    model = derive(block_shop())
    keyed = keyed_sections(model)[0]
    drawing = typical_section(model, keyed, 20.0)
    assert any(isinstance(i, Text) and "of hollow block" in i.text for i in drawing.items)
    assert {i.fill for i in drawing.items if isinstance(i, Area)} >= {"masonry"}


@pytest.fixture
def sloped():
    slope = Slope(wall="wall-1", start=3000.0, end=9000.0, deeper_start=50.0, deeper_end=350.0)
    return derive(foundation_edits.add_slope(shop(), "foundation-1", slope))


def test_an_elevation_shows_the_footing_as_one_with_its_slope(sloped):
    drawing = foundation_elevation(sloped, RUN, 50.0)
    (footing,) = [i for i in drawing.items if isinstance(i, Area) and i.ref == f"{RUN}/footing"]
    made = sloped.footings[RUN]
    run = next(r for r in sloped.runs if r.id == RUN)
    lowest = min(z for _, z in footing.rings[0])
    assert lowest == pytest.approx(run.band.bottom - made.depth - 350.0, abs=0.2)
    beneath = 6000.0 * 200.0
    level = sum(
        shapely.Polygon([(0.0, 0.0), (p.length, 0.0), (p.length, made.depth), (0.0, made.depth)]).area
        for k, p in sloped.pieces.items()
        if k.startswith(f"{RUN}/footing") and "/slope/" not in k
    )
    assert shapely.Polygon(footing.rings[0]).area == pytest.approx(level + beneath, rel=0.01)


def test_sections_show_level_and_sloping_parts_as_one(sloped):
    line = sloped.lines["wall-1"].band
    a, b = line.at(6000.0, -1500.0), line.at(6000.0, 2500.0)
    drawing = cross_section(sloped, CutLine(start=a, end=b), 20.0)
    cut = [i for i in drawing.items if isinstance(i, Area) and i.ref.startswith(f"{RUN}/footing") and i.pen == "cut"]
    assert len(cut) == 1
    heights = [z for _, z in cut[0].rings[0]]
    depth = sloped.footings[RUN].depth
    assert max(heights) - min(heights) == pytest.approx(depth + 200.0, abs=1.0)


def test_plans_mark_the_slope(sloped):
    what = PlanOf("x", frozenset({"foundations"}))
    items = plan(sloped, what, 50.0).items
    marked = [i for i in items if i.ref == "foundation-1/slope/0"]
    assert [i.text for i in marked if isinstance(i, Text)] == ['1 in 20, to 13 3/4" deeper']
    assert len([i for i in marked if isinstance(i, Path)]) == 2


def test_a_pad_that_slides_is_found():
    p = shop()
    foundation = p.foundations[0]
    place = derive(p).lines["wall-5"].band.at(3000.0, 2000.0)
    p = foundation_edits.add_pads(p, (place,), foundation.foot, foundation.head, 300.0, dead=5_000.0, push=20_000.0)
    # Left to Balken it is made heavy enough; a typed size is not, and says so.
    assert not [f for f in derive(p).findings if f.things == ("pad-1",)]
    p = edits.change(p, "pad-1", width=900.0, thickness=300.0)
    assert {"sliding"} <= {f.code for f in derive(p).findings if f.things == ("pad-1",)}


def test_a_wall_too_thin_gets_the_next_block():
    p = edits.set_soil(block_shop(), pressure="equivalent fluid", fluid=9.42)
    p = edits.set_concrete(p, bars=False)
    p = edits.change(p, "foundation-1", inside_ground=None)
    p = edits.set_level(p, "level-5", -8 * 12 * INCH)
    p = column_edits.add_spot(p, (0.0, 0.0), -4.5 * 12 * INCH)
    found = [f for f in derive(p).findings if f.code == "earth"]
    for finding in found[:1]:
        assert "TMS 402-16" in finding.why
        thicker = FIXES[finding.fix.command](p, *finding.fix.args, **dict(finding.fix.fields))
        assert thicker.foundations[0].thickness == pytest.approx(9.625 * INCH)
    assert found
