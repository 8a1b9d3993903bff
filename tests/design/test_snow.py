"""Snow on roofs: values of ASCE 7-16, chapter 7, as published or worked out by hand; how it lies on a house."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from tests.framing.test_surface_roofs import roofed
from tests.loads.test_beams import balanced

from balken.derive import derive
from balken.loads.roof_snow import PLACES, Band, as_even, heaped
from balken.model import edits
from balken.model.errors import EditError
from balken.model.records import Hang, Loads, Roof
from balken.model.roof_edits import add_roof_opening, set_side
from balken.standards.us import snow
from balken.units.system import FOOT, PSF

BY_ROOF = Loads(ground_snow=30.0 * PSF, snow_by="roof", snow_thermal=1.0)
RECTANGLE = [(0, 0), (40, 0), (40, 28), (0, 28)]


def psf(value):
    return value / PSF


def test_flat_roof_density_drift():
    """For pg = 30 psf, all factors 1 (worked example, see ASCE 7-16 equations 7.3-1, 7.7-1, Figure 7.6-1)."""
    assert psf(snow.flat_roof(BY_ROOF)) == pytest.approx(21.0)
    assert psf(snow.flat_roof(replace(BY_ROOF, snow_thermal=1.1))) == pytest.approx(23.1)
    assert psf(snow.density(30.0 * PSF)) * FOOT == pytest.approx(17.9)
    assert psf(snow.density(300.0 * PSF)) * FOOT == pytest.approx(30.0)  # at most
    assert snow.drift_height(28.0 * FOOT, 30.0 * PSF, 1.0) / FOOT == pytest.approx(1.78, abs=0.005)
    # A high wall: all of the drift fits, 4 hd wide.
    peak, wide = snow.drift(BY_ROOF, 28.0 * FOOT, 10.0 * FOOT, 10.0 * FOOT, 21.0 * PSF)
    assert psf(peak) == pytest.approx(31.9, abs=0.1)
    assert wide / FOOT == pytest.approx(7.1, abs=0.05)


def test_a_low_wall_holds_less_of_a_wider_drift():
    """By hand: balanced 21/17.9 = 1.173 ft; 2.5 ft of wall leave hc = 1.327 ft < hd = 1.78: 23.8 psf, 4 hd2/hc = 9.5 ft."""
    peak, wide = snow.drift(BY_ROOF, 28.0 * FOOT, 10.0 * FOOT, 2.5 * FOOT, 21.0 * PSF)
    high = 0.43 * 28 ** (1 / 3) * 40**0.25 - 1.5
    free = 2.5 - 21.0 / 17.9
    assert psf(peak) == pytest.approx(free * 17.9, rel=1e-6)
    assert wide / FOOT == pytest.approx(min(4 * high**2 / free, 8 * free), rel=1e-6)
    # Less than a fifth of the balanced depth free: none.
    assert snow.drift(BY_ROOF, 28.0 * FOOT, 10.0 * FOOT, 1.3 * FOOT, 21.0 * PSF) == (0.0, 0.0)
    # Windward: a long lower roof drifts three quarters of its own.
    assert snow.drift(BY_ROOF, 20.0 * FOOT, 200.0 * FOOT, 20.0 * FOOT, 21.0 * PSF)[1] == pytest.approx(
        0.75 * 4.0 * snow.drift_height(200.0 * FOOT, 30.0 * PSF, 1.0)
    )


def test_unbalanced_on_a_wide_roof():
    """Ridge to eave 25 ft at 6:12, pg 30: 21.0 + 21.0 psf over the 6.3 ft next to the ridge (worked example)."""
    plane = snow.on_plane(BY_ROOF, 0.5, 25.0 * FOOT, False)
    assert psf(plane.even) == pytest.approx(21.0)
    assert psf(plane.band) == pytest.approx(21.0, abs=0.1)
    assert plane.deep / FOOT == pytest.approx(6.3, abs=0.05)
    assert psf(plane.most) == pytest.approx(42.0, abs=0.2)
    assert plane.even < plane.laid < plane.most


def test_unbalanced_on_a_narrow_roof_is_all_ground_snow():
    plane = snow.on_plane(BY_ROOF, 0.5, 20.0 * FOOT, False)
    assert psf(plane.laid) == pytest.approx(30.0)
    assert psf(plane.balanced) == pytest.approx(21.0)
    # Steeper than 7:12, or alone: balanced only.
    assert psf(snow.on_plane(BY_ROOF, 8 / 12, 20.0 * FOOT, False).laid) < 21.0
    assert psf(snow.on_plane(BY_ROOF, 0.5, 20.0 * FOOT, True).laid) == pytest.approx(21.0)


@pytest.mark.parametrize(
    ("slope", "thermal", "slippery", "factor"),
    [
        (29.9, 1.0, False, 1.0), (30.0, 1.0, False, 1.0), (50.0, 1.0, False, 0.5), (70.0, 1.0, False, 0.0),
        (5.0, 1.0, True, 1.0), (37.5, 1.0, True, 0.5), (37.5, 1.1, False, 1.0), (53.75, 1.1, False, 0.5),
        (45.0, 1.2, False, 1.0), (80.0, 1.2, True, 0.0), (40.0, 1.1, True, 0.5),
    ],
)  # fmt: skip
def test_slope_factor(slope, thermal, slippery, factor):
    """Figure 7.4-1 (from memory where its lines begin): straight from there to nothing at 70 degrees."""
    assert snow.slope_factor(slope, thermal, slippery) == pytest.approx(factor)


def test_least_load_and_rain():
    """7.3.4: Is pg up to 20 psf on low slopes; 7.10: 5 psf on flat ones (slope below W/50) where pg is 20 psf or less."""
    light = replace(BY_ROOF, ground_snow=15.0 * PSF)
    assert psf(snow.on_plane(light, 2 / 12, 20.0 * FOOT, True).laid) == pytest.approx(15.0)
    assert psf(snow.on_plane(light, 0.25 / 12, 80.0 * FOOT, True).laid) == pytest.approx(15.5)  # 0.7 x 15 + 5
    assert psf(snow.on_plane(BY_ROOF, 2 / 12, 20.0 * FOOT, True).laid) == pytest.approx(21.0)


def test_sliding():
    """7.9: 0.4 pf W over 15 ft: 0.4 x 21 x 20/15 = 11.2 psf; none from flat roofs."""
    assert psf(snow.sliding(BY_ROOF, 20.0 * FOOT, 0.5)) == pytest.approx(11.2)
    assert snow.sliding(BY_ROOF, 20.0 * FOOT, 1 / 12) == 0.0
    assert snow.sliding(replace(BY_ROOF, snow_slippery=True), 20.0 * FOOT, 1 / 12) > 0.0


@given(st.floats(500.0, 9000.0), st.floats(0.0, 1.0), st.floats(0.0, 1.0))
def test_the_even_load_is_no_less_than_the_field(length, a, b):
    """Of a triangle on a simple span: reactions qL/6 and qL/3, moment qL2 / (9 sqrt 3); of an even load itself."""
    fields = np.array([np.full(PLACES, a), b * np.linspace(0.0, 1.0, PLACES)])
    even, triangle = as_even(fields, np.array([length, length]))
    assert even == pytest.approx(a, rel=2e-3, abs=1e-9)
    assert triangle == pytest.approx(max(2.0 * b / 3.0, 8.0 * b / (9.0 * math.sqrt(3.0))), rel=0.02, abs=1e-9)


def test_what_is_heaped_on_a_line():
    band = Band((0.0, 0.0), (5000.0, 0.0), (0.0, 1.0), 2.0, 1500.0, True)
    whole, middle = heaped((band,), (1000.0, 3000.0), (1000.0, 0.0))
    assert whole == pytest.approx(2.0 * 1500.0 / 2.0, rel=0.01)
    assert middle * 3000.0 == pytest.approx(2500.0, rel=0.01)


def by_roof(p, **factors):
    return edits.set_loads(p, snow_by="roof", **factors)


def test_a_house_carries_it_down():
    p = by_roof(roofed(RECTANGLE, overhang=0.0))
    model = derive(p)
    balanced(model)
    planes = model.snow["roof-1"].planes
    assert {round(psf(plane.laid), 3) for plane in planes} == {30.0}  # 14 ft from ridge to eave
    assert {round(psf(plane.balanced), 3) for plane in planes} == {23.1}
    gabled = derive(set_side(p, "roof-1", "wall-2", kind="gable"))
    assert [plane.run > 0.0 for plane in gabled.snow["roof-1"].planes] == [
        True,
        False,
        True,
        True,
    ]  # a gable is no plane
    steep = derive(by_roof(edits.change(p, "roof-1", pitch=1.0)))
    balanced(steep)
    come = [sum(r.force.snow for r in m.path.reactions if "roof" in r.piece) for m in (model, steep)]
    # 45 degrees over a cold attic: Cs = (70 - 45) / (70 - 37.5), and no unbalanced snow.
    assert come[1] / come[0] == pytest.approx(23.1 * 25.0 / 32.5 / 30.0, rel=1e-3)


def test_factors_out_of_bounds_are_refused():
    with pytest.raises(EditError, match="exposure"):
        by_roof(roofed(RECTANGLE), snow_exposure=3.0)


def with_lean_to():
    """A house two storeys high, its long side along y = 24 ft, and a lean-to of 10 ft against that."""
    p = by_roof(roofed([(0, 0), (30, 0), (30, 24), (0, 24)], overhang=0.0), snow_thermal=1.0)
    p = edits.add_level(p, "level-2", 8.0 * FOOT, "Upper plate", "plate")
    upper = Hang(level=p.levels[-1].id)
    for wall in p.walls:
        p = edits.change(p, wall.id, head__level=upper.level)
    p = edits.change(p, "roof-1", bearing=upper)
    first = p.walls[0]
    for a, b in (((30, 24), (30, 34)), ((30, 34), (0, 34)), ((0, 34), (0, 24))):
        p = edits.add_wall(
            p, (a[0] * FOOT, a[1] * FOOT), (b[0] * FOOT, b[1] * FOOT), first.buildup, first.foot, Hang(level="level-2")
        )
    walls = (p.walls[2].id, *(w.id for w in p.walls[-3:]))
    p = edits.add(
        p,
        Roof(
            id="roof-2",
            name="Lean-to",
            walls=walls,
            bearing=Hang(level="level-2"),
            pitch=0.25,
            shape="planes",
            overhang=0.0,
        ),
    )
    for wall, kind in zip(walls, ("wall", "gable", "eave", "gable"), strict=True):
        p = set_side(p, "roof-2", wall, kind=kind)
    return p


def test_snow_drifts_and_slides_onto_a_lean_to():
    model = derive(with_lean_to())
    balanced(model)
    drift, slide = model.snow["roof-2"].bands
    assert (drift.told, slide.told) == ("drift", "sliding")
    plan = next(plan for plan in model.surfaces if plan.roof.id == "roof-2")
    balanced_snow = model.snow["roof-2"].planes[plan.surface.faces[0].edge].balanced
    assert psf(balanced_snow) == pytest.approx(21.0)
    # Leeward over the 24 ft of the upper roof; what is free of the wall is more than the drift is high.
    depth = shapely.Polygon(model.surfaces[0].outline.core).bounds
    assert drift.peak == pytest.approx(
        snow.drift_height(depth[3] - depth[1], 30.0 * PSF, 1.0) * snow.density(30.0 * PSF), rel=1e-6
    )
    # What lies on it by shapely: the roof's area, and the greater of both bands: of a triangle and an even strip.
    box, long = shapely.Polygon(plan.outline.core), drift.wide
    wide, deep = (box.bounds[2] - box.bounds[0]), (box.bounds[3] - box.bounds[1])
    cross = max((1.0 - slide.peak / drift.peak) * long, 0.0)
    heap = (drift.peak + slide.peak) / 2.0 * cross + slide.peak * (min(deep, slide.wide) - cross)
    told = model.planes["roof-2"].carried.heaps.snow
    assert told == pytest.approx(heap * wide / 1000.0, rel=0.02)
    # The rafters feel it: none of them would without.
    case = next(r.case for key, r in model.planes["roof-2"].results.items() if "plane-rafter" in key)
    assert case.load.snow > balanced_snow * 1.2
    wall = plan.outline.walls[next(k for k, e in enumerate(plan.edges) if e.kind == "wall")]
    high = sum(r.force.snow for r in model.path.reactions if r.bearer == wall and r.piece == "roof-2/plane")
    low = sum(r.force.snow for r in model.path.reactions if r.bearer != wall and r.piece == "roof-2/plane")
    assert high > low  # the drift lies at the wall


def test_ground_snow_stays_as_it_was():
    p = with_lean_to()
    model = derive(edits.set_loads(p, snow_by="ground"))
    assert model.snow["roof-2"].bands == ()
    assert {round(psf(plane.laid), 3) for s in model.snow.values() for plane in s.planes} == {30.0}
    balanced(model)


def test_a_header_in_a_drift_takes_the_snow_that_lies_there():
    """Off-centre: the short tails above an opening lie wholly in the drift, where a whole rafter has little of it in the mean."""
    p = with_lean_to()
    eave = p.roofs[1].walls[2]
    p = add_roof_opening(p, "roof-2", eave, 15.0 * FOOT, 4.5 * FOOT, length=3.0 * FOOT)
    model = derive(p)
    framing, snow_on = model.planes["roof-2"], model.snow["roof-2"]
    plan = next(plan for plan in model.surfaces if plan.roof.id == "roof-2")
    low, high = (framing.results[h.key].case for h in framing.headers)
    drift = next(b for b in snow_on.bands if b.told == "drift")
    (hole,) = plan.holes
    deep = shapely.Polygon(plan.outline.core).bounds[3] - shapely.Polygon(plan.outline.core).bounds[1]
    balanced_snow = snow_on.planes[hole.edge].balanced
    # By hand: the drift over the middle of the tails above the opening, half of them on the header.
    above = deep - hole.inward[1]
    least = (balanced_snow + drift.peak * (1.0 - above / 2.0 / drift.wide)) * above / 2.0 / 1000.0
    span = high.supports[1]
    assert high.load.snow >= least * span * 0.98
    assert low.load.snow < balanced_snow * 1.6 * hole.inward[0] / 2.0 * span / 1000.0
    balanced(model)


def test_a_gable_end_stands_up_to_its_ridge():
    """A porch a little below the plate of a gable end: the drift may be as high as the gable, not as what is left below its plate."""
    p = with_lean_to()
    p = edits.change(p, "roof-1", bearing=Hang(level="level-2", offset=1.0 * FOOT))
    eave = derive(p).snow["roof-2"].bands
    gabled = derive(set_side(p, "roof-1", p.walls[2].id, kind="gable", overhang=0.0)).snow["roof-2"].bands
    assert max((b.peak for b in eave if b.tapers), default=0.0) == 0.0
    assert max(b.peak for b in gabled if b.tapers) > 20.0 * PSF


def test_a_lean_to_that_cannot_be_made_beside_a_taller_part_is_said():
    p = with_lean_to()
    for wall in p.roofs[1].walls:
        p = set_side(p, "roof-2", wall, kind="gable")
    model = derive(p)
    assert any("cannot be made" in f.what for f in model.findings)
