"""Templates of rafters: what they say is what is built, what the framing square says, and every member has one."""

import math
import re

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.framing.test_surface_roofs import roofed

from balken.catalog.sections import section
from balken.demo import orchard_road
from balken.derive import derive
from balken.documents.display import Area, Text
from balken.documents.rafter_templates import draw_template, rafter_templates
from balken.documents.roof_sheets import roof_sheets
from balken.framing.line_levels import backing
from balken.geometry.leaning import Leaning
from balken.geometry.plane import left, unit
from balken.geometry.prism import Prism
from balken.model import edits
from balken.model.roof_edits import set_side
from balken.units import format_inches, format_length, parse_length
from balken.units.system import INCH

RECTANGLE = [(0, 0), (40, 0), (40, 28), (0, 28)]


@pytest.fixture(scope="module")
def model():
    return derive(set_side(roofed(), "roof-1", "wall-5", kind="gable"))


def said(drawing):
    return [item.text for item in drawing.items if isinstance(item, Text)]


def longest(drawing, units):
    return max(parse_length(text, units) for text in said(drawing) if re.fullmatch(r"\d+'-[\d /]+\"", text))


def test_every_member_has_one_and_is_counted_once(model):
    found = rafter_templates(model)
    assert len({one.mark for one in found}) == len(found)
    pieces = model.of_layouts("rafter", "hip rafter", "valley rafter")
    assert sum(one.times + one.mirrored for one in found) == len(pieces)
    assert any(one.mirrored for one in found)
    for one in found:
        for piece in pieces:
            if model.marks[piece.key] == one.mark:  # alike: as long, as much wood
                assert piece.solid.volume == pytest.approx(one.piece.solid.volume, rel=0.003)


def test_figures_are_those_of_what_is_built(model):
    """The length written is that of the list of members, and that of the solid's top edge."""
    members = {m.key: m.member for framing in model.planes.values() for m in framing.members}
    for one in rafter_templates(model):
        drawing = draw_template(model, one, 16.0)
        written = longest(drawing, model.units)
        m = members[one.piece.key]
        ends_at_two = len(one.piece.solid.lying) > 4 if isinstance(one.piece.solid, Leaning) else False
        if m.role not in ("hip", "valley") and not ends_at_two:
            assert written == pytest.approx(m.length, abs=1.0), one.mark
        if isinstance(one.piece.solid, Leaning):
            assert written == pytest.approx(max(s for s, _ in one.piece.solid.lying), abs=1.0)
        side = next(item for item in drawing.items if isinstance(item, Area))
        depth = section(one.piece.section).depth
        flat = shapely.Polygon(side.rings[0])
        assert flat.bounds[3] - flat.bounds[1] == pytest.approx(depth, abs=0.5)
        assert flat.area <= depth * (written + 1.0)


def test_what_the_framing_square_says():
    """6:12: cheeks of jacks 45 degrees, 41.8 across the top edge (published); a run of 14 ft: 15.652 ft; seat by hand 3 1/2 in
    long and 1 3/4 in deep."""
    model = derive(roofed(RECTANGLE, overhang=0.0))
    found = {one.mark: (one, said(draw_template(model, one, 16.0))) for one in rafter_templates(model)}
    common = next(rows for one, rows in found.values() if isinstance(one.piece.solid, Prism))
    assert "plumb cuts 26.6\u00b0 from square" in common
    above = format_inches(section("2x8").depth * math.hypot(1.0, 0.5) - 1.75 * INCH)
    assert f"bird's mouth: seat 3 1/2\"; above the plate {above}" in common
    plan = model.surfaces[0]
    y0, y1 = shapely.Polygon(plan.outline.core).bounds[1::2]
    run = (y1 - y0) / 2.0 * math.hypot(1.0, 0.5)
    assert f"from the bearing line to the ridge's middle {format_length(run)}" in common
    jacks = [
        rows for one, rows in found.values() if one.piece.role == "rafter" and isinstance(one.piece.solid, Leaning)
    ]
    assert all(any("45.0\u00b0 (across the top edge 41.8\u00b0)" in row for row in rows) for rows in jacks)
    hips = [rows for one, rows in found.values() if one.piece.role == "hip rafter"]
    assert all("plumb cuts 19.5\u00b0 from square" in rows for rows in hips)  # atan(6/17)
    # Backing: its planes turn from level by atan(sin 45 x 6/12 x cos 19.5), by hand.
    assert all(any(row.endswith("bevelled 18.4\u00b0") for row in rows) for rows in hips)


@given(st.floats(0.1, 1.5), st.floats(0.1, 1.5))
@settings(max_examples=10, deadline=None)
def test_the_bevel_of_a_backed_hip_is_that_of_its_planes(pitch, other):
    """Between the normals of both planes, seen along the hip, by vectors."""
    model = derive(set_side(roofed(RECTANGLE, pitch=pitch, overhang=0.0), "roof-1", "wall-2", pitch=other))
    hip = next(
        x.member for x in model.planes["roof-1"].members if x.member.role == "hip" and set(x.member.edges) == {0, 1}
    )
    run = np.array(hip.end) - np.array(hip.start)
    axis = run / np.linalg.norm(run)
    aside = np.cross(axis, (0.0, 0.0, 1.0))
    aside /= np.linalg.norm(aside)
    up = np.cross(aside, axis)
    found = backing(model.surfaces[0], hip)
    for edge, angle in zip(hip.edges, found, strict=True):
        core = model.surfaces[0].outline.core
        way = unit(core[edge], core[(edge + 1) % len(core)])
        p = pitch if edge == 0 else other
        normal = np.array((-left(way)[0] * p, -left(way)[1] * p, 1.0))
        # A plane's line across the hip: square to its normal and to the axis.
        line = np.cross(normal, axis)
        assert abs(math.degrees(math.atan2(abs(line @ up), abs(line @ aside)))) == pytest.approx(angle, abs=1e-3)


def test_tail_and_bearing_line_are_told_apart():
    """The dimension to the plumb line over the plate is that of the overhang along the slope."""
    model = derive(roofed(RECTANGLE, overhang=18 * INCH))
    tails = set()
    for one in rafter_templates(model):
        if one.piece.role == "rafter":
            rows = said(draw_template(model, one, 16.0))
            tails |= {row for row in rows if row == "1'-8 1/8\""}  # 18 x 1.118 = 20.12 in
            if not isinstance(one.piece.solid, Leaning):
                assert any('seat 3 1/2", plumb 1 3/4"; above' in row for row in rows)  # 3 1/2 x 6/12
    assert tails


def test_sheets_of_a_gable_and_of_none():
    model = derive(orchard_road())
    sheets = roof_sheets(model)
    assert sheets
    assert {s.kind for s in sheets} == {"roof"}
    assert any("bird's mouth" in item.text for item in sheets[0].items if isinstance(item, Text))
    assert roof_sheets(derive(edits.new_project("nothing"))) == []
