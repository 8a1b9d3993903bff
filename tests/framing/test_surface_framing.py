"""The members under roofs of planes: their top edges lie in the planes, nothing stands in anything else, all that bears is checked."""

import math
import random
import tempfile
from pathlib import Path

import ifcopenshell
import pytest
import shapely
from hypothesis import example, given, settings
from hypothesis import strategies as st
from tests.framing.test_surface_roofs import roofed
from tests.geometry.test_roof_surface import outline as random_outline
from tests.loads.test_beams import balanced

from balken.catalog.sections import section
from balken.derive import derive
from balken.exchange.ifc import write_ifc
from balken.framing.line_levels import hip_drop
from balken.geometry.leaning import Leaning
from balken.geometry.plane import dot, left, sub, unit
from balken.model.errors import EditError
from balken.model.roof_edits import set_side
from balken.units.system import FOOT, INCH

RECTANGLE = [(0, 0), (40, 0), (40, 28), (0, 28)]
MEMBERS = ("rafter", "hip rafter", "valley rafter", "ridge board")


def height_at(plan, edge, p):
    core = plan.outline.core
    a, b = core[edge], core[(edge + 1) % len(core)]
    return plan.bearing + plan.plate_to_top + dot(left(unit(a, b)), sub(p, a)) * plan.edges[edge].pitch


def overlaps(model):
    """Pairs of members that stand in one another, with the area in plan."""
    pieces = model.of_layouts(*MEMBERS)
    shapes = [shapely.Polygon(p.solid.plan[0]).buffer(-0.5) for p in pieces]
    tree, found = shapely.STRtree(shapes), []
    for i, j in tree.query(shapes, predicate="intersects").T.tolist():
        if i < j:
            size = shapes[i].intersection(shapes[j]).area
            if size > 100.0:
                found.append((pieces[i].key, pieces[j].key, size))
    return found


def in_their_planes(model):
    for plan in model.surfaces:
        framing = model.planes.get(plan.roof.id)
        for one in framing.members if framing is not None else ():
            piece = model.piece(one.key)
            if not one.wall or piece is None:
                continue
            edge = one.member.edges[0]
            corners = piece.solid.corners()
            if isinstance(piece.solid, Leaning):
                for x, y, z in corners[len(corners) // 2 :]:
                    assert z == pytest.approx(height_at(plan, edge, (x, y)), abs=0.1)
            else:
                assert max(z - height_at(plan, edge, (x, y)) for x, y, z in corners) == pytest.approx(0.0, abs=0.1)


def test_a_hip_roof_member_by_member():
    """40 x 28 ft (less the wall's outer layers), at 16 in: what a carpenter counts, and what the framing square says."""
    model = derive(roofed(RECTANGLE, overhang=0.0))
    framing, plan = model.planes["roof-1"], model.surfaces[0]
    _x0, y0, _x1, y1 = shapely.Polygon(plan.outline.core).bounds
    half = (y1 - y0) / 2.0
    counts = {role: sum(1 for m in framing.members if m.member.role == role) for role in ("hip", "ridge", "valley")}
    assert counts == {"hip": 4, "ridge": 1, "valley": 0}
    jacks = [m for m in framing.members if m.member.role == "hip jack"]
    # On each long side those that reach no farther than the hip from both ends; on each short side from both corners.
    long_side = math.floor(half / (16 * INCH))
    assert len([m for m in jacks if m.wall == "wall-1"]) in (2 * long_side, 2 * long_side + 1, 2 * long_side - 1)
    commons = {round(m.member.theoretical, 1) for m in framing.members if m.member.role == "common rafter"}
    assert commons == {round(half * math.hypot(1, 0.5), 1)}
    in_their_planes(model)
    assert overlaps(model) == []
    for m in framing.members:
        if m.member.role == "hip":
            one_board = hip_drop(plan, m.member, 1.5 * INCH)
            assert one_board / INCH == pytest.approx(0.75 * 0.5 / math.sqrt(2), abs=1e-6)  # 0.265 in, published
    ties = {tie.key for tie in framing.ties}
    assert {one.key for one in framing.members if one.member.role != "ridge"} | ties == set(framing.results)
    assert all(key in model.results for key in framing.results)


def test_a_house_with_a_wing_and_a_gable():
    model = derive(set_side(roofed(), "roof-1", "wall-5", kind="gable"))
    in_their_planes(model)
    assert overlaps(model) == []
    roles = {m.member.role for m in model.planes["roof-1"].members}
    assert {"common rafter", "hip jack", "valley jack", "hip", "valley", "ridge"} <= roles
    balanced(model)
    marks = {model.marks[m.key] for m in model.planes["roof-1"].members if model.piece(m.key) is not None}
    assert any(mark.startswith("HR") for mark in marks)


def test_in_ifc_they_are_their_outlines_extruded_plumb():
    model = derive(roofed())
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "roof.ifc"
        write_ifc(model, path)
        file = ifcopenshell.open(str(path))
    members = [m for m in file.by_type("IfcMember") if m.PredefinedType == "RAFTER"]
    assert len(members) == len(model.of_layouts("rafter", "hip rafter", "valley rafter"))
    slanted = [
        s for s in file.by_type("IfcExtrudedAreaSolid") if abs(s.ExtrudedDirection.DirectionRatios[2] - 1.0) > 1e-6
    ]
    assert slanted


def test_section_and_views_cut_them():
    from balken.documents.cross_section import cross_section, effective_cut

    model = derive(roofed())
    made = cross_section(model, effective_cut(model), 64.0)
    refs = {getattr(item, "ref", "") for item in made.items}
    assert any("plane-rafter" in ref for ref in refs)


@given(seed=st.integers(0, 10**6))
@settings(max_examples=15, deadline=None)
@example(seed=223987)
def test_over_any_outline_they_lie_in_their_planes(seed):
    rng = random.Random(seed)
    ring = random_outline(rng, rng.randint(1, 3), True)
    if ring is None:
        return
    try:
        p = roofed([(x / FOOT, y / FOOT) for x, y in ring], overhang=0.0)
    except EditError:
        return
    model = derive(p)
    in_their_planes(model)
    assert overlaps(model) == []
    for plan in model.surfaces:
        framing = model.planes.get(plan.roof.id)
        if framing is None:
            continue
        for one in framing.members:
            piece = model.piece(one.key)
            if piece is not None and piece.section:
                assert section(piece.section).depth > 0.0
                assert piece.volume > 0.0
