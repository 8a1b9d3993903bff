"""Overhangs: skirts of planes are what the outline moved out and roofed anew gives, and hold where that cannot be made."""

import json
import random
from pathlib import Path

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.geometry.test_roof_surface import outline as random_outline

from balken.geometry.plane import area
from balken.geometry.roof_edges import RoofEdge, RoofError
from balken.geometry.roof_overhangs import _skirted, overhung, with_overhangs
from balken.geometry.roof_surface import roof_surface
from balken.units.system import FOOT

OUTLINES = json.loads((Path(__file__).parents[1] / "data" / "roof-outlines.json").read_text())["outlines"]


def plain(ring, pitch=0.5):
    return [RoofEdge("eave", pitch)] * len(ring)


def shapes_of(surface):
    return [shapely.Polygon([p[:2] for p in face.ring]) for face in surface.faces]


def apart_and_whole(surface, outer):
    """Planes do not overlap, and together they are the outline with overhangs."""
    shapes = shapes_of(surface)
    union = shapely.union_all([s.buffer(0.05, join_style="mitre") for s in shapes])
    assert sum(s.area for s in shapes) == pytest.approx(outer.area, rel=1e-4)
    assert union.symmetric_difference(outer).area < 1e-4 * outer.area


@pytest.mark.parametrize("number", range(len(OUTLINES)))
@pytest.mark.parametrize("over", [300.0, 450.0, 600.0])
def test_large_houses_have_their_overhangs(number, over):
    """Moved out with mitred corners by shapely: the same area; where bays are narrower than the overhang an edge is lost."""
    ring = [(x * FOOT, y * FOOT) for x, y in OUTLINES[number]]
    surface = roof_surface(ring, plain(ring))
    if over == 600.0 and number in (0, 3):  # bays 539 and 381 mm wide
        with pytest.raises(RoofError, match="crosses another part"):
            overhung(surface, ring, plain(ring), [over] * len(ring))
        return
    made = overhung(surface, ring, plain(ring), [over] * len(ring))
    apart_and_whole(made.surface, shapely.Polygon(ring).buffer(over, join_style="mitre", mitre_limit=50.0))
    assert {face.edge for face in made.surface.faces} == {face.edge for face in surface.faces}
    for face in made.surface.faces:  # one plane each: as high at the wall as it was
        base = next(f for f in surface.faces if f.edge == face.edge)
        a, b = ring[face.edge], ring[(face.edge + 1) % len(ring)]
        out = ((b[1] - a[1]), -(b[0] - a[0]))
        long = (out[0] ** 2 + out[1] ** 2) ** 0.5
        for x, y, z in face.ring:
            assert z == pytest.approx(-base.pitch * ((x - a[0]) * out[0] + (y - a[1]) * out[1]) / long, abs=0.05)
    fascias = sum(line.length for line in made.surface.lines if line.kind == "eave")
    outer = shapely.Polygon(ring).buffer(over, join_style="mitre", mitre_limit=50.0)
    assert fascias == pytest.approx(outer.length, rel=2e-3)


@given(seed=st.integers(0, 10**6), alike=st.booleans())
@settings(max_examples=80, deadline=None)
def test_skirts_are_the_roof_of_the_outline_moved_out(seed, alike):
    rng = random.Random(seed)
    ring = random_outline(rng, rng.randint(1, 4), rng.random() < 0.5)
    if ring is None:
        return
    edges = plain(ring) if alike else [RoofEdge("eave", rng.choice([0.333, 0.5, 0.75])) for _ in ring]
    by = [400.0 if alike else rng.choice([200.0, 400.0, 600.0]) for _ in ring]
    try:
        surface = roof_surface(ring, edges)
        whole = roof_surface(*with_overhangs(ring, edges, by)[:2])
        made = _skirted(surface, ring, edges, by).surface
    except RoofError:
        return
    # Fascias at unlike heights that end at a short wall may be taken either way there.
    close = 1e-4 if alike else 1e-2
    assert sum(f.area for f in made.faces) == pytest.approx(sum(f.area for f in whole.faces), rel=close)
    if alike:
        hips = [sum(line.length for line in s.lines if line.kind == "hip") for s in (made, whole)]
        assert hips[0] == pytest.approx(hips[1], rel=1e-3, abs=20.0)


@pytest.mark.parametrize("turned", [False, True])
def test_planes_keep_the_numbers_of_their_walls(turned):
    """A rectangle with one eave farther out, either way round."""
    ring = [(0.0, 0.0), (12_000.0, 0.0), (12_000.0, 8_000.0), (0.0, 8_000.0)]
    ring = ring[::-1] if turned else ring
    by = [600.0, 300.0, 300.0, 300.0]
    edges = plain(ring)
    for made in (
        overhung(roof_surface(ring, edges), ring, edges, by),
        _skirted(roof_surface(ring, edges), ring, edges, by),
    ):
        assert area(made.ring) > 0.0
        lowest = {face.edge: min(z for _, _, z in face.ring) for face in made.surface.faces}
        assert lowest == pytest.approx({0: -300.0, 1: -150.0, 2: -150.0, 3: -150.0}, abs=0.1)


def test_a_bay_narrower_than_its_eaves():
    """By hand: a bay 500 wide and 2 m deep under eaves of 400: those meet in its middle, 250 out; its back has a triangle of them."""
    ring = [(0.0, 0.0), (4_000.0, 0.0), (4_000.0, 2_000.0), (4_500.0, 2_000.0), (4_500.0, 0.0), (9_000.0, 0.0), (9_000.0, 7_000.0), (0.0, 7_000.0)]  # fmt: skip
    edges, by = plain(ring), [400.0] * 8
    made = overhung(roof_surface(ring, edges), ring, edges, by)
    inside = {face.edge: face.plan_area for face in roof_surface(ring, edges).faces}
    back = next(face for face in made.surface.faces if face.edge == 2)
    assert back.plan_area - inside[2] == pytest.approx(250.0 * 250.0, rel=1e-3)
    valleys = [line for line in made.surface.lines if line.kind == "valley" and set(line.edges) == {1, 3}]
    assert sum(line.length for line in valleys) == pytest.approx(
        1_750.0 + 250.0, abs=5.0
    )  # in front the eaves of both sides lie lower


def test_a_side_that_vanishes_to_nothing():
    """A bay as wide as both its eaves: its back, moved out, has no length at all."""
    ring = [(0.0, 0.0), (4_000.0, 0.0), (4_000.0, 2_000.0), (4_800.0, 2_000.0), (4_800.0, 0.0), (9_000.0, 0.0), (9_000.0, 7_000.0), (0.0, 7_000.0)]  # fmt: skip
    edges = plain(ring)
    made = overhung(roof_surface(ring, edges), ring, edges, [400.0] * 8)
    whole = shapely.Polygon(ring).buffer(399.99, join_style="mitre", mitre_limit=50.0)
    assert sum(face.plan_area for face in made.surface.faces) == pytest.approx(whole.area, rel=1e-3)


def test_a_gable_whose_overhang_reaches_another_part_is_refused():
    ring = [(0.0, 0.0), (4_000.0, 0.0), (4_000.0, 2_000.0), (4_500.0, 2_000.0), (4_500.0, 0.0), (9_000.0, 0.0), (9_000.0, 7_000.0), (0.0, 7_000.0)]  # fmt: skip
    edges = [*plain(ring)[:5], RoofEdge("gable"), *plain(ring)[6:]]
    with pytest.raises(RoofError, match="crosses another part"):
        overhung(roof_surface(ring, edges), ring, edges, [400.0] * 8)
