"""Rafters of single slopes that run on past the wall at their heads: how long, what bears where, how they lie on its plates."""

import math

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.framing.solids import apart
from tests.framing.test_roof_trim import roofed
from tests.loads.test_beams import balanced

from balken.catalog.sections import section
from balken.derive import derive
from balken.documents.rafter_templates import rafter_templates
from balken.loads.cases import total
from balken.model import edits
from balken.model.records import Choice, Hang, Roof, RoofSide
from balken.model.roof_edits import add_roof_opening, set_side
from balken.units.system import FOOT, INCH

LONG, WIDE = 40.0 * FOOT, 28.0 * FOOT


def sloped(pitch=0.25, high=1.0 * FOOT, aside=0.0, **fields):
    """40 x 28 ft under one slope that rises from its first long wall to the other."""
    p = roofed(pitch, **fields)
    for wall, kind, over in (
        ("wall-1", "eave", 1.0 * FOOT),
        ("wall-2", "gable", aside),
        ("wall-3", "gable", high),
        ("wall-4", "gable", aside),
    ):
        p = set_side(p, "roof-1", wall, kind=kind, overhang=over)
    return p


def rafters(model):
    return [x for x in model.pieces.values() if x.role == "rafter"]


def test_rafters_cut_for_an_opening_run_past_the_wall_above_it_alone():
    """What is left below ends at the header; what is left above is as long as to its plumb cut past the wall."""
    model = derive(add_roof_opening(sloped(high=2.0 * FOOT), "roof-1", "wall-1", LONG / 2.0, 9.0 * FOOT, width=1200.0))
    headers = sorted(
        (x.solid.extent for x in model.pieces.values() if x.role == "rafter header"), key=lambda e: e[0][1]
    )
    parts = [x for x in rafters(model) if x.key.endswith(("/a", "/b"))]
    assert parts
    steep, depth = math.hypot(1.0, 0.25), section(model.designs[("roof-1", "rafters")].size).depth
    for one in parts:
        (_, y0, _), (_, y1, _) = one.solid.extent
        if one.key.endswith("/a"):
            assert (y0, y1) == (pytest.approx(-FOOT), pytest.approx(headers[0][0][1]))
        else:
            assert (y0, y1) == (pytest.approx(headers[1][1][1]), pytest.approx(WIDE + 2.0 * FOOT))
        assert one.length == pytest.approx((y1 - y0) * steep + depth * 0.25)
    apart(parts, [x for x in model.pieces.values() if x.role in ("rafter header", "rafter", "top plate")], 1e3)
    balanced(model)


@pytest.mark.parametrize("high", [0.0, 6.0 * INCH, 2.0 * FOOT])
def test_they_are_as_long_as_they_reach(high):
    """From 1 ft before the one wall to past the other, along the slope, with the plumb cut at their lower end."""
    model = derive(sloped(high=high))
    size = section(model.designs[("roof-1", "rafters")].size)
    steep = math.hypot(1.0, 0.25)
    assert {round(x.length, 3) for x in rafters(model)} == {round((29.0 * FOOT + high) * steep + size.depth * 0.25, 3)}
    assert max(x.solid.extent[1][1] for x in rafters(model)) == pytest.approx(WIDE + high, abs=0.1)
    assert not [f for f in model.findings if f.code == "gable overhang"]
    balanced(model)


def test_what_overhangs_bears_by_the_lever():
    """2 ft past the higher wall: its middle lies 1 ft beyond that wall's outer face, which bears in the middle of its core."""
    plain, longer = derive(sloped(high=0.0)), derive(sloped(high=2.0 * FOOT))
    core = longer.lines["wall-3"].core
    deep = (core[1] - core[0]) / 2.0
    lies = longer.snow["roof-1"].planes[0].laid * 2.0 * FOOT * LONG / 1000.0
    off = (1.0 * FOOT + deep) / (WIDE - 2.0 * deep)
    for wall, part in (("wall-3", 1.0 + off), ("wall-1", -off)):
        before, after = (total(r.force for r in m.path.reactions if r.bearer == wall) for m in (plain, longer))
        assert after.snow - before.snow == pytest.approx(lies * part, rel=1e-6)
    # And the rafters are bent there as tails are.
    key = next(one.key for one in longer.planes["roof-1"].members if one.wall)
    assert longer.results[key].case.over == pytest.approx(2.0 * FOOT)
    assert plain.results[key].case.over == pytest.approx(1.0 * FOOT)


def test_wind_lifts_what_overhangs_the_higher_wall_too():
    """Moments about the middle of the lower wall's core, a rafter at a time: more lifts overhangs (ASCE 7-16, chapter 28) than the plane between."""
    model = derive(edits.set_loads(sloped(high=2.0 * FOOT), wind_speed=60.0))
    wind, deep = model.uplift.wind["roof-1"], model.surfaces[0].deep[2]
    wide = model.designs[("roof-1", "rafters")].spacing / 1e6
    for end, on, under in ((False, wind.inner, wind.inner_over), (True, wind.end, wind.end_over)):
        moment = on * WIDE * (WIDE / 2.0 - deep) + under * 2.0 * FOOT * (WIDE + 1.0 * FOOT - deep)
        moment -= under * 1.0 * FOOT * (0.5 * FOOT + deep)
        by_hand = 0.6 * wide * 1000.0 * moment / (WIDE - 2.0 * deep)
        (row,) = (x for x in model.uplift.lifted if (x.bearer, x.what, x.end) == ("wall-3", "rafter", end))
        # A safe reading: what lifts the other overhang, and so presses here, is taken as on the plane.
        assert by_hand <= row.gross <= by_hand * 1.005
        assert row.tie
        assert row.net < row.gross


@given(
    st.sampled_from([1.0 / 48.0, 0.1, 0.25, 0.5, 0.9]), st.sampled_from([0.0, 150.0, 304.8, 700.0]), st.sampled_from([0.0, 304.8]),
    st.sampled_from(["2x8", "2x12"]), st.booleans(),
)  # fmt: skip
@settings(max_examples=8, deadline=None)
def test_any_of_them_lies_on_its_plates_and_all_comes_down(pitch, high, aside, size, snow):
    p = edits.change(sloped(pitch, high, aside), "roof-1", rafters__size=size)
    model = derive(edits.set_loads(p, snow_by="roof") if snow else p)
    balanced(model)
    deep = section(size).depth
    top = model.gables["wall-3"].slopes[0]
    plan = model.surfaces[0]
    under = plan.bearing + plan.plate_to_top + pitch * WIDE - deep * math.hypot(1.0, pitch)
    # Its plates end as high as rafters are cut out for them, by a quarter of their depth at most, square to them.
    wide = 2.0 * plan.deep[2]
    seat = min(wide, 0.25 * deep * math.hypot(1.0, pitch) / pitch)
    assert top[2] == pytest.approx(under - pitch * (wide - seat), abs=1e-6)
    plates = [x for x in model.pieces.values() if x.owner == "wall-3" and x.role in ("top plate", "stud")]
    assert plates
    apart(rafters(model), plates, 1e3)
    lowest = min(x.solid.extent[0][2] for x in rafters(model))
    assert lowest < top[2] < max(x.solid.extent[1][2] for x in rafters(model))


def test_where_they_pass_over_it_sheathing_ends_at_their_seats():
    with_, without = derive(sloped(high=1.0 * FOOT)), derive(sloped(high=0.0))
    assert with_.gables["wall-3"].slopes[0][1] == with_.gables["wall-3"].slopes[0][2]
    plan = without.surfaces[0]
    assert without.gables["wall-3"].slopes[0][1] == pytest.approx(plan.bearing + plan.plate_to_top + 0.25 * WIDE)


def test_they_are_drawn_with_both_cuts():
    model = derive(sloped(high=1.0 * FOOT))
    (one,) = rafter_templates(model)
    assert one.piece.length == pytest.approx(rafters(model)[0].length)


def test_heads_of_two_planes_over_one_wall():
    """An entry stands out before a single slope: over the wall at its head end planes of both parts of its eave, and one that rakes."""
    corners = ((0, 0), (10, 0), (10, -16), (13, -16), (13, 0), (30, 0), (30, 29), (0, 29))
    p = edits.new_project("Entry")
    p = edits.add_level(p, "level-1", 8.0 * FOOT, "Plate", "plate")
    ring = [(x * FOOT, y * FOOT) for x, y in corners]
    for start, end in zip(ring, (*ring[1:], ring[0]), strict=True):
        p = edits.add_wall(p, start, end, "framed-2x6", Hang(level="level-1"), Hang(level="level-2"))
    sides = (
        RoofSide(wall="wall-6", pitch=0.75), RoofSide(wall="wall-7", kind="gable"), RoofSide(wall="wall-8", kind="gable"),
    )  # fmt: skip
    roof = Roof(
        id="roof-1", name="Roof", walls=tuple(w.id for w in p.walls), bearing=Hang(level="level-2"), shape="planes", pitch=0.25,
        overhang=0.0, sides=sides, rafters=Choice(size="2x8", spacing=24.0 * INCH),
    )  # fmt: skip
    model = derive(edits.add(p, roof))
    top, plan = model.gables["wall-7"], model.surfaces[0]
    assert [round(rise, 6) for rise, *_ in top.slopes] == [0.75, 0.0, 0.0]
    # What rakes lies right under the rafters, what is level under their seats.
    (rise, over, low), (_, _, level), *_ = top.slopes
    assert over - low == pytest.approx(7.25 * INCH * math.hypot(1.0, rise), abs=0.01)
    assert top.breaks[0] == pytest.approx((level - low) / rise, abs=0.01)
    assert not plan.problem
    studs = [piece for framed in model.framed.values() for piece in framed.pieces]
    apart(rafters(model), studs, 400.0)
    balanced(model)


Z = ((0, 0), (20, 0), (20, 12), (44, 12), (44, 40), (24, 40), (24, 20), (0, 20))
"""Two parts of a house joined at a corner, ft; the gable over wall 2 faces east, and east of it lies a plane whose eave faces west."""


def joined_at_a_corner(over):
    p = edits.new_project("Z")
    p = edits.add_level(p, "level-1", 8.0 * FOOT, "Plate", "plate")
    ring = [(x * FOOT, y * FOOT) for x, y in Z]
    for start, end in zip(ring, (*ring[1:], ring[0]), strict=True):
        p = edits.add_wall(p, start, end, "framed-2x6", Hang(level="level-1"), Hang(level="level-2"))
    roof = Roof(
        id="roof-1", name="Roof", walls=tuple(w.id for w in p.walls), bearing=Hang(level="level-2"), shape="planes", pitch=0.5,
        overhang=over, sides=(RoofSide(wall="wall-2", kind="gable"),), rafters=Choice(size="2x8", spacing=24.0 * INCH),
    )  # fmt: skip
    return edits.set_loads(edits.add(p, roof), ground_snow=1.0, roof_live=0.0)


def test_a_gable_in_line_elsewhere_takes_nothing_of_a_plane_that_it_does_not_bound():
    """By hand: what hangs out of a plane lies on the wall under its own eave, over the gable too; nothing comes to the gable's wall."""
    bare, over = (derive(joined_at_a_corner(x)) for x in (0.0, FOOT))
    snow = {wall: (bare.path.walls[wall].members.snow, made.members.snow) for wall, made in over.path.walls.items()}
    assert snow["wall-2"] == (0.0, 0.0)
    # What hangs out lies on the wall under its own eave.
    plan = over.surfaces[0]
    inside = {face.edge: face.plan_area for face in plan.surface.faces}
    for face in plan.whole.faces:
        wall = plan.outline.walls[face.edge]
        more = (face.plan_area - inside[face.edge]) / 1000.0
        assert snow[wall][1] - snow[wall][0] == pytest.approx(more, rel=1e-6), wall
    for face in plan.whole.faces:
        rows = [(wall, size) for wall, _, size, edge in plan.shares if edge == face.edge]
        assert sum(size for _, size in rows) == pytest.approx(face.plan_area, rel=1e-9)
        assert {wall for wall, _ in rows} == {plan.outline.walls[face.edge]}
    balanced(over)


@given(gables=st.sets(st.integers(0, 7), max_size=3), over=st.floats(0.0, 3.0), pitches=st.lists(st.sampled_from([0.25, 0.5, 0.75]), min_size=8, max_size=8))  # fmt: skip
@settings(max_examples=15, deadline=None)
def test_what_comes_of_a_plane_comes_down_where_it_lies(gables, over, pitches):
    """Whatever its gables, all of a plane with its overhang comes to walls under it, at corners within the overhang, and no more."""
    p = joined_at_a_corner(over * FOOT)
    for k, pitch in enumerate(pitches):
        p = set_side(p, "roof-1", f"wall-{k + 1}", **({"kind": "gable"} if k in gables else {"kind": "eave", "pitch": pitch}))  # fmt: skip
    model = derive(p)
    plan = model.surfaces[0]
    for face in plan.whole.faces:
        rows = [(wall, at, size) for wall, at, size, edge in plan.shares if edge == face.edge]
        assert sum(size for _, _, size in rows) == pytest.approx(face.plan_area, rel=1e-6)
        shape = shapely.Polygon([place[:2] for place in face.ring])
        for wall, at, size in rows:
            assert wall == plan.outline.walls[face.edge] or (
                size > 0.0 and shape.distance(shapely.Point(at)) < (over + 1.0) * FOOT
            )
    balanced(model)
