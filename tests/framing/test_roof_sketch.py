"""What a drag of a slope shows before it is derived."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.framing.test_surface_roofs import roofed

from balken.derive import derive
from balken.derive.roof_sketch import cut_faces, handle_at, pitch_at, sketched, with_pitch
from balken.documents.cross_section import cut_view, effective_cut
from balken.model.records import Choice
from balken.model.roof_edits import set_side
from balken.units.system import FOOT, INCH

MODEL = derive(roofed(rafters=Choice(size="2x10", spacing=16 * INCH)))
(PLAN,) = MODEL.surfaces
VIEW = cut_view(effective_cut(MODEL))


@settings(max_examples=12, deadline=None)
@given(st.integers(2, 18))
def test_it_is_what_is_derived_after(rise):
    shown = sketched(MODEL.project, PLAN, 0, rise / 12.0)
    (made,) = derive(with_pitch(MODEL.project, PLAN, 0, rise / 12.0)).surfaces
    assert (shown.plan.surface, shown.plan.whole, shown.plan.ring) == (made.surface, made.whole, made.ring)
    assert shown.ridge == pytest.approx(made.bearing + made.plate_to_top + made.surface.top)


@pytest.mark.parametrize("inward", [2.0, 5.5, 9.0])
def test_a_plane_passes_by_the_pointer(inward):
    """By hand: so far in of its bearing line a plane has risen by its pitch times that."""
    _, ((ax, az), (bx, bz)) = next(row for row in cut_faces(PLAN, VIEW) if row[0].edge == 0)
    slope = (bz - az) / (bx - ax)
    # The cut runs square to the first wall, whose core's outer face it meets where the overhang ends.
    x = ax + 1.5 * FOOT + inward * FOOT
    z = az + slope * (x - ax)
    handle = handle_at(PLAN, VIEW, (x, z + 10.0), 20.0)
    assert handle is not None
    assert handle.edge == 0
    assert handle.run == pytest.approx(inward * FOOT)
    assert pitch_at(handle, z) == pytest.approx(PLAN.edges[0].pitch)
    up = pitch_at(handle, z + 6.0 * INCH)
    assert up - PLAN.edges[0].pitch == pytest.approx(0.5 / inward)
    rows = cut_faces(sketched(MODEL.project, PLAN, 0, up).plan, VIEW)
    (cx, cz), (dx, dz) = next(ends for face, ends in rows if face.edge == 0)
    # Where it is taken hold of it lies 6 in higher, but for how much higher steeper rafters lie on their seats.
    higher = sketched(MODEL.project, PLAN, 0, up).plan.plate_to_top - PLAN.plate_to_top
    assert cz + (dz - cz) * (x - cx) / (dx - cx) == pytest.approx(z + 6.0 * INCH + higher)


def test_nothing_is_taken_beside_a_slope_nor_at_its_foot():
    _, ((ax, az), (bx, bz)) = next(row for row in cut_faces(PLAN, VIEW) if row[0].edge == 0)
    middle = (ax + bx) / 2.0, (az + bz) / 2.0
    assert handle_at(PLAN, VIEW, middle, 5.0) is not None
    assert handle_at(PLAN, VIEW, (middle[0], middle[1] + 100.0), 5.0) is None
    assert handle_at(PLAN, VIEW, (ax + 1.5 * FOOT + 50.0, az + 0.5 * (1.5 * FOOT + 50.0)), 50.0) is None


def test_an_edge_with_a_pitch_of_its_own_keeps_the_others():
    project = set_side(MODEL.project, "roof-1", PLAN.outline.walls[0], pitch=0.75)
    after = with_pitch(project, PLAN, 0, 1.0)
    assert after.roofs[0].pitch == MODEL.project.roofs[0].pitch
    assert derive(after).surfaces[0].edges[0].pitch == 1.0
    assert derive(with_pitch(project, PLAN, 2, 1.0)).surfaces[0].edges[0].pitch == 0.75


@pytest.mark.parametrize("pitch", [0.0, math.tan(math.radians(80.0))])
def test_what_cannot_be_is_said(pitch):
    shown = sketched(MODEL.project, PLAN, 0, pitch)
    assert shown.problem
    assert shown.plan is PLAN
