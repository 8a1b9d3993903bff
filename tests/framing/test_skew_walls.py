"""Walls that meet and cross askew: nothing twice and nothing left open, in plan (areas by shapely)."""

import itertools
import math

import pytest
import shapely
from hypothesis import example, given
from hypothesis import strategies as st
from tests.framing.test_in_line import BUILDUPS, FOOT_HANG, HEAD_HANG, footprint

from balken.derive import derive
from balken.documents.display import Area
from balken.documents.plan import PlanOf, plan
from balken.geometry.prism import volume
from balken.model import edits
from balken.model.records import Hang
from balken.units.system import FOOT

INSIDE = ("inside-2x4", "inside-2x6", "block-190")
ANGLES = st.floats(25.0, 155.0)
TURNS = st.integers(0, 359)
"""Whole degrees: a wall turned by a millionth of one leaves shapely's overlay with edges it takes for one line."""
FEW = 10.0
"""Most overlap and void allowed, mm2 in plan."""


def walls(first, second, angle, past, outside="right", turn=0.0, head=HEAD_HANG):
    """Return an outside wall and one that meets it ``angle`` degrees off it, ``past`` mm beyond its set-out line (0: a tee)."""

    def at(x, y):
        c, s = math.cos(math.radians(turn)), math.sin(math.radians(turn))
        return (c * x - s * y, s * x + c * y)

    p = edits.add_level(edits.new_project(), "level-1", 8 * FOOT, "Plate", "plate")
    p = edits.add_wall(p, at(0.0, 0.0), at(20_000.0, 0.0), first, FOOT_HANG, HEAD_HANG, outside=outside)
    dx, dy = math.cos(math.radians(angle)), math.sin(math.radians(angle)) * (1.0 if outside == "right" else -1.0)
    a = at(10_000.0 + 4000.0 * dx, 4000.0 * dy)
    b = at(10_000.0 - past * dx, -past * dy)
    return edits.add_wall(p, a, b, second, FOOT_HANG, head, "centre", role="bearing")


def strip(band, low, high, near, far):
    return shapely.Polygon([band.at(low, near), band.at(high, near), band.at(high, far), band.at(low, far)])


def overlap_and_void(model, expected):
    """Return the area in plan covered twice, and how much of what is expected is not covered, mm2."""
    shapes = {w: [footprint(piece) for piece in model.layers[w]] for w in model.lines}
    every = list(itertools.chain(*shapes.values()))
    twice = sum(a.intersection(b).area for a, b in itertools.combinations(every, 2))
    return twice, expected.difference(shapely.union_all(every).buffer(0.001)).area


@given(st.sampled_from(BUILDUPS), st.sampled_from(INSIDE), ANGLES, st.sampled_from(("left", "right")), TURNS)
@example("framed-2x6", "inside-2x4", 37.0, "right", 0.0)
def test_a_skew_tee_is_closed_and_nothing_is_twice(first, second, angle, outside, turn):
    model = derive(walls(first, second, angle, 0.0, outside, turn))
    other, band = model.lines["wall-1"].band, model.lines["wall-2"].band
    whole = strip(other, 0.0, other.length, other.layers[0][0], other.layers[-1][1])
    side = strip(other, -9000.0, other.length + 9000.0, other.layers[0][0], 99_000.0)
    own = strip(band, 0.0, band.length + 3000.0, band.layers[0][0], band.layers[-1][1])
    twice, void = overlap_and_void(model, whole.union(own.intersection(side)))
    assert twice <= FEW
    assert void <= FEW


@given(st.sampled_from(BUILDUPS), st.sampled_from(INSIDE), ANGLES, TURNS)
@example("framed-2x6", "inside-2x4", 37.0, 0.0)
def test_a_skew_crossing_is_closed_and_nothing_is_twice(first, second, angle, turn):
    model = derive(walls(first, second, angle, 3000.0, "right", turn))
    bands = [model.lines[w].band for w in ("wall-1", "wall-2")]
    both = [strip(b, 0.0, b.length, b.layers[0][0], b.layers[-1][1]) for b in bands]
    twice, void = overlap_and_void(model, both[0].union(both[1]))
    assert twice <= FEW
    assert void <= FEW


@pytest.mark.parametrize("past", [0.0, 3000.0])
def test_a_lower_wall_cuts_the_lining_only_as_high_as_it_is(past):
    """Checked by volume: what the lower one takes out of the higher one is its own section in that one's lining (by hand)."""
    low = Hang(level="level-2", offset=-2 * FOOT)
    model, free = (derive(walls("framed-2x6", "inside-2x4", 37.0, past, head=h)) for h in (low, HEAD_HANG))
    for made, height in ((model, 6 * FOOT), (free, 8 * FOOT)):
        band = made.lines["wall-1"].band
        lining = band.core[1] + 1
        near, far = band.layers[lining]
        alone = (band.length) * (far - near) * (band.top - band.bottom)
        core = made.lines["wall-2"].band
        wide = core.layers[core.core[1]][1] - core.layers[core.core[0]][0]
        taken = wide / math.sin(math.radians(37.0)) * (far - near) * height
        got = sum(volume(p.solid) for p in made.layers["wall-1"] if f"/layer/{lining}" in p.key)
        assert got == pytest.approx(alone - taken, rel=1e-9)


@pytest.mark.parametrize("past", [0.0, 3000.0])
def test_on_the_plan_each_layer_is_one_outline_up_to_the_skew_face(past):
    model = derive(walls("framed-2x6", "inside-2x4", 37.0, past))
    items = plan(model, PlanOf("Walls", frozenset({"walls"})), 50.0).items
    drawn = [i for i in items if isinstance(i, Area) and i.ref == "wall-2" and i.layer == "walls"]
    assert len(drawn) == 3 * (2 if past else 1)
    solids = [footprint(piece).area for piece in model.layers["wall-2"]]
    assert sum(shapely.Polygon(i.rings[0]).area for i in drawn) == pytest.approx(sum(solids), rel=1e-6)
