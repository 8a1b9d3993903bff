"""Where rain runs off roofs of planes."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.framing.test_surface_roofs import L_HOUSE, roofed

from balken.demo import orchard_road
from balken.derive import derive
from balken.framing.roof_drains import drains
from balken.model.roof_edits import set_side
from balken.units.system import FOOT


def test_a_hip_roof_by_hand():
    """20 x 32 ft, equal pitches, no overhang: ends drain a triangle 10 ft deep, sides the rest by halves."""
    (plan,) = derive(roofed(((0, 0), (32, 0), (32, 20), (0, 20)), overhang=0.0)).surfaces
    found = drains(plan)
    assert not found.valleys
    sides = sorted(size / FOOT**2 for size in found.eaves.values())
    assert sides == pytest.approx([100.0, 100.0, 220.0, 220.0], rel=0.01)


def test_a_valley_by_hand():
    """An L of two wings 20 ft wide meeting square: into the valley runs a square of 10 ft, a half of it from each plane."""
    ring = ((0, 0), (50, 0), (50, 20), (20, 20), (20, 50), (0, 50))
    (plan,) = derive(roofed(ring, overhang=0.0)).surfaces
    found = drains(plan)
    ((number, size),) = found.valleys.items()
    line = plan.whole.lines[number]
    assert line.kind == "valley"
    low = min(line.start, line.end, key=lambda p: p[2])
    assert low[:2] == pytest.approx((20 * FOOT, 20 * FOOT), abs=200.0)
    assert size / FOOT**2 == pytest.approx(100.0, rel=0.02)


@settings(max_examples=15, deadline=None)
@given(
    st.lists(st.floats(0.2, 1.0), min_size=8, max_size=8), st.floats(0.0, 2.5), st.sampled_from([None, "wall-1", "wall-3", "wall-5"])
)  # fmt: skip
def test_all_of_it_runs_off_somewhere(pitches, overhang, gable):
    p = roofed(L_HOUSE, overhang=overhang * FOOT)
    for wall, pitch in zip(p.roofs[0].walls, pitches, strict=False):
        p = set_side(p, "roof-1", wall, pitch=pitch)
    if gable is not None:
        p = set_side(p, "roof-1", gable, kind="gable")
    (plan,) = derive(p).surfaces
    if plan.problem:
        return
    found = drains(plan)
    whole = sum(face.plan_area for face in plan.whole.faces)
    assert sum((*found.eaves.values(), *found.valleys.values(), found.below)) == pytest.approx(whole, rel=1e-3)
    assert all(size > 0.0 for size in (*found.eaves.values(), *found.valleys.values()))


def test_a_wing_drains_onto_the_roof_it_runs_onto():
    surfaces = {plan.roof.id: plan for plan in derive(orchard_road()).surfaces if plan.laid_on}
    assert surfaces
    for plan in surfaces.values():
        found = drains(plan)
        assert found.below > 0.0
        assert sum((*found.eaves.values(), *found.valleys.values(), found.below)) == pytest.approx(
            sum(f.plan_area for f in plan.whole.faces), rel=1e-3
        )
