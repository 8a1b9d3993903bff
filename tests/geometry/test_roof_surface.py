"""Roof surfaces: textbook roofs by hand, and what must hold of any: planes add up, hold their eaves, meet one another's heights.

The checks of heights use shapely's buffers and the planes themselves; none knows how the surface was found.
"""

import itertools
import json
import math
import random
from pathlib import Path

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import affinity

from balken.geometry.plane import area, distance, dot, left, sub, unit
from balken.geometry.roof_edges import RoofEdge, RoofError
from balken.geometry.roof_overhangs import with_overhangs
from balken.geometry.roof_surface import roof_surface
from balken.units.system import FOOT

RECTANGLE = [(0.0, 0.0), (40.0 * FOOT, 0.0), (40.0 * FOOT, 28.0 * FOOT), (0.0, 28.0 * FOOT)]
HIP, GABLE, WALL = RoofEdge(), RoofEdge("gable"), RoofEdge("wall")
OUTLINES = Path(__file__).parent.parent / "data" / "roof-outlines.json"


def feet(*corners):
    return [(x * FOOT, y * FOOT) for x, y in corners]


def lengths_of(surface, kind):
    return sorted(line.length / FOOT for line in surface.lines if line.kind == kind)


def outline(rng, wings, right):
    """Wings laid over one another at random; None where no plain outline comes of it."""
    shape = None
    for _ in range(wings):
        box = shapely.box(0, 0, rng.randint(8, 40), rng.randint(8, 40))
        if not right:
            box = affinity.rotate(box, rng.choice([0, 15, 30, 45, rng.uniform(0, 90)]))
        box = affinity.translate(box, rng.randint(-25, 25), rng.randint(-25, 25))
        both = box if shape is None else shape.union(box)
        shape = both if isinstance(both, shapely.Polygon) else shape
    points = [
        (round(x * 4) / 4, round(y * 4) / 4)
        for x, y in shapely.Polygon(shape.exterior).simplify(0.05).exterior.coords[:-1]
    ]
    points = [p for i, p in enumerate(points) if math.dist(p, points[i - 1]) > 0.5]
    if not 3 <= len(points) <= 40 or not shapely.LinearRing(points).is_simple or shapely.Polygon(points).area < 20:
        return None
    return feet(*points)


def height(face, ring, edges, p):
    """The height of a plane at a place."""
    a, b = ring[face.edge], ring[(face.edge + 1) % len(ring)]
    sign = 1.0 if area(ring) > 0.0 else -1.0
    return edges[face.edge].start + sign * dot(left(unit(a, b)), sub(p, a)) * face.pitch


def sound(surface, ring, edges):
    """What must hold of any roof."""
    assert sum(face.plan_area for face in surface.faces) == pytest.approx(abs(area(ring)), rel=1e-5)
    shapes = [shapely.Polygon([(x, y) for x, y, _ in face.ring]) for face in surface.faces]
    for face, shape in zip(surface.faces, shapes, strict=True):
        assert shape.is_valid
        eave = shapely.LineString([ring[face.edge], ring[(face.edge + 1) % len(ring)]])
        assert shape.distance(eave.centroid) < 1.0 or shape.boundary.intersection(eave.buffer(1.0)).length > 0.0
        for x, y, z in face.ring:
            assert z == pytest.approx(height(face, ring, edges, (x, y)), abs=0.5)
            assert z > min(e.start for e in edges) - 0.5
    by_edge = {face.edge: face for face in surface.faces}
    for line in surface.lines:  # both planes have one height all along
        for end in (line.start, line.end):
            for number in line.edges if line.kind in ("ridge", "hip", "valley") else line.edges[:1]:
                if number in by_edge:
                    assert height(by_edge[number], ring, edges, end[:2]) == pytest.approx(end[2], abs=1.0)
    whole = shapely.union_all([s.buffer(0.5) for s in shapes])
    assert shapely.Polygon(ring).difference(whole).area < 1e-4 * abs(area(ring)) + 1e3


def test_a_hip_roof():
    """Published roof (any estimator's handbook): 40 x 28 ft at 6:12: 1,120 ft2 in plan, 1,252.2 on the slope, ridge 12 ft, 7 ft up."""
    made = roof_surface(RECTANGLE, [HIP] * 4)
    sound(made, RECTANGLE, [HIP] * 4)
    assert sum(f.area for f in made.faces) / FOOT**2 == pytest.approx(1252.2, abs=0.05)
    assert made.top == pytest.approx(7 * FOOT)
    assert lengths_of(made, "ridge") == pytest.approx([12.0])
    assert lengths_of(made, "hip") == pytest.approx([21.0] * 4)  # 18.00 in a foot of run, framing square


def test_gables_a_lean_to_and_a_square():
    gable = roof_surface(RECTANGLE, [HIP, GABLE, HIP, GABLE])
    assert lengths_of(gable, "ridge") == pytest.approx([40.0])
    assert lengths_of(gable, "rake") == pytest.approx([math.hypot(14.0, 7.0)] * 4)
    lean = roof_surface(RECTANGLE, [HIP, GABLE, WALL, GABLE])
    assert (len(lean.faces), lean.top) == (1, pytest.approx(14 * FOOT))
    assert lengths_of(lean, "wall") == pytest.approx([40.0])
    square = feet((0, 0), (20, 0), (20, 20), (0, 20))
    pyramid = roof_surface(square, [HIP] * 4)
    assert lengths_of(pyramid, "ridge") == []
    assert lengths_of(pyramid, "hip") == pytest.approx([15.0] * 4)


def test_an_l_has_a_valley():
    ring = feet((0, 0), (40, 0), (40, 20), (20, 20), (20, 40), (0, 40))
    made = roof_surface(ring, [HIP] * 6)
    sound(made, ring, [HIP] * 6)
    assert lengths_of(made, "valley") == pytest.approx([15.0])
    assert lengths_of(made, "ridge") == pytest.approx([20.0, 20.0])
    narrow = feet((0, 0), (40, 0), (40, 24), (16, 24), (16, 40), (0, 40))
    uneven = roof_surface(narrow, [HIP] * 6)
    sound(uneven, narrow, [HIP] * 6)
    assert uneven.top == pytest.approx(6 * FOOT)  # half of the wider wing


def test_unlike_pitches():
    """A hip between eaves at a right angle with pitches a and b runs so that its distances from them are as b to a."""
    edges = [RoofEdge("eave", 0.5), RoofEdge("eave", 1.0), RoofEdge("eave", 0.5), RoofEdge("eave", 1.0)]
    made = roof_surface(RECTANGLE, edges)
    sound(made, RECTANGLE, edges)
    (ridge,) = [line for line in made.lines if line.kind == "ridge"]
    assert sorted(round(p[0] / FOOT, 6) for p in (ridge.start, ridge.end)) == [7.0, 33.0]
    two = [RoofEdge("eave", 0.5), GABLE, RoofEdge("eave", 1.0), GABLE]
    saltbox = roof_surface(RECTANGLE, two)
    assert saltbox.top == pytest.approx(28 * FOOT / 3.0)


def test_eaves_in_line_with_unlike_pitches_have_a_step_between():
    ring = feet((0, 0), (20, 0), (40, 0), (40, 20), (0, 20))
    edges = [RoofEdge("eave", 0.5), RoofEdge("eave", 1.0), GABLE, HIP, GABLE]
    made = roof_surface(ring, edges)
    sound(made, ring, edges)
    assert any(-1 in line.edges for line in made.lines)


def test_eaves_that_begin_higher():
    """A rectangle whose long sides bear 2 ft higher than its hips: those planes begin there."""
    edges = [RoofEdge("eave", 0.5, 2 * FOOT), HIP, RoofEdge("eave", 0.5, 2 * FOOT), HIP]
    made = roof_surface(RECTANGLE, edges)
    sound(made, RECTANGLE, edges)
    assert made.top == pytest.approx(9 * FOOT)


def test_overhangs_go_on_in_the_same_planes():
    out, rows, _ = with_overhangs(RECTANGLE, [HIP] * 4, [FOOT] * 4)
    made = roof_surface(out, rows)
    assert abs(area(out)) / FOOT**2 == pytest.approx(42 * 30)
    assert made.top == pytest.approx(7 * FOOT)
    assert min(z for f in made.faces for _, _, z in f.ring) == pytest.approx(-FOOT / 2)
    notch = feet((0, 0), (40, 0), (40, 20), (22, 20), (22, 14), (20, 14), (20, 20), (0, 20))
    with pytest.raises(RoofError, match="crosses"):
        with_overhangs(notch, [HIP] * 8, [2 * FOOT] * 8)


def test_either_way_round():
    back = RECTANGLE[::-1]
    made = roof_surface(back, [HIP, GABLE, HIP, GABLE])
    assert {f.edge for f in made.faces} == {0, 2}
    sound(made, back, [HIP, GABLE, HIP, GABLE])


@pytest.mark.parametrize(
    ("ring", "edges", "says"),
    [
        (RECTANGLE, [GABLE] * 4, "no edge is an eave"),
        (RECTANGLE[:2], [HIP] * 2, "three corners"),
        (feet((0, 0), (10, 10), (10, 0), (0, 10)), [HIP] * 4, "crosses itself"),
        (RECTANGLE, [RoofEdge("eave", 0.0), *[HIP] * 3], "pitch"),
        (RECTANGLE, [RoofEdge("eave", math.inf), *[HIP] * 3], "pitch"),
        ([(0.0, 0.0), *RECTANGLE], [HIP] * 5, "one place"),
        ([(math.nan, 0.0), *RECTANGLE[1:]], [HIP] * 4, "no place"),
    ],
)
def test_what_cannot_be_roofed_is_refused_in_words(ring, edges, says):
    with pytest.raises(RoofError, match=says):
        roof_surface(ring, edges)


@pytest.mark.parametrize("number", range(len(json.loads(OUTLINES.read_text())["outlines"])))
def test_large_houses_are_roofed(number):
    """Made-up outlines of 33 to 41 corners, wings at several angles; with one pitch, and with gables and pitches mixed."""
    ring = feet(*json.loads(OUTLINES.read_text())["outlines"][number])
    edges = [HIP] * len(ring)
    sound(roof_surface(ring, edges), ring, edges)
    rng = random.Random(number)
    for _ in range(5):
        mixed = [RoofEdge("eave", rng.choice([4, 6, 8, 12]) / 12.0) for _ in ring]
        sound(roof_surface(ring, mixed), ring, mixed)


@given(
    seed=st.integers(0, 10**6),
    wings=st.integers(1, 6),
    right=st.booleans(),
    kind=st.sampled_from(["one pitch", "pitches", "gables"]),
)
@settings(max_examples=150, deadline=None)
def test_any_outline_is_roofed_soundly_or_refused(seed, wings, right, kind):
    rng = random.Random(seed)
    ring = outline(rng, wings, right)
    if ring is None:
        return
    edges = [HIP] * len(ring)
    if kind == "pitches":
        edges = [RoofEdge("eave", rng.choice([4, 5, 6, 8, 9, 12]) / 12.0) for _ in ring]
    elif kind == "gables":
        edges = [GABLE if rng.random() < 0.25 else HIP for _ in ring]
    try:
        made = roof_surface(ring, edges)
    except RoofError:
        assert kind != "one pitch"
        return
    sound(made, ring, edges)


def test_hardly_any_is_refused():
    """Fewer than 1 in 100 with one pitch, 1 in 20 with pitches and gables at random."""
    rng, refused, tried = random.Random(7), {"one": 0, "pitches": 0, "gables": 0}, 0
    while tried < 150:
        ring = outline(rng, rng.randint(1, 6), rng.random() < 0.5)
        if ring is None:
            continue
        tried += 1
        for kind, edges in (
            ("one", [HIP] * len(ring)),
            ("pitches", [RoofEdge("eave", rng.choice([4, 6, 8, 12]) / 12.0) for _ in ring]),
            ("gables", [HIP, *(GABLE if rng.random() < 0.2 else HIP for _ in ring[1:])]),
        ):
            try:
                roof_surface(ring, edges)
            except RoofError:
                refused[kind] += 1
    assert refused["one"] <= 1
    assert refused["pitches"] <= 7
    assert refused["gables"] <= 7


@given(seed=st.integers(0, 10**6), part=st.floats(0.05, 0.9))
@settings(max_examples=60, deadline=None)
def test_above_any_height_lies_the_outline_moved_in(seed, part):
    """With one pitch: no less than the outline moved in with mitred corners, no more than with round ones."""
    ring = outline(random.Random(seed), random.Random(seed).randint(1, 4), True)
    if ring is None:
        return
    made = roof_surface(ring, [HIP] * len(ring))
    h = part * made.top
    above = sum(_above(face, h) for face in made.faces)
    shape = shapely.Polygon(ring)
    mitred = shape.buffer(-h / 0.5, join_style="mitre", mitre_limit=100.0).area
    round_ones = shape.buffer(-h / 0.5, quad_segs=64).area
    assert mitred - 1e-3 * shape.area <= above <= round_ones + 1e-3 * shape.area


def _above(face, h):
    """The plan area of a face above a height."""
    kept = []
    for (ax, ay, az), (bx, by, bz) in itertools.pairwise([face.ring[-1], *face.ring]):
        if (az >= h) != (bz >= h):
            t = (h - az) / (bz - az)
            kept.append((ax + (bx - ax) * t, ay + (by - ay) * t))
        if bz >= h:
            kept.append((bx, by))
    return abs(area(kept)) if len(kept) > 2 else 0.0


@given(st.lists(st.floats(-1.0, 1.0), min_size=4, max_size=9), st.floats(3.0, 20.0))
@settings(max_examples=60, deadline=None)
def test_over_a_convex_outline_it_is_the_lowest_of_its_planes(turns, radius):
    points = shapely.MultiPoint(
        [
            (
                radius * math.cos(k * 2 * math.pi / len(turns) + 0.3 * t),
                radius * (1 + 0.2 * t) * math.sin(k * 2 * math.pi / len(turns) + 0.3 * t),
            )
            for k, t in enumerate(turns)
        ]
    ).convex_hull
    if not isinstance(points, shapely.Polygon):
        return
    ring = [(float(x) * FOOT, float(y) * FOOT) for x, y in points.exterior.coords[:-1]]
    if min(distance(ring[i - 1], ring[i]) for i in range(len(ring))) < 100.0:
        return
    edges = [RoofEdge("eave", 0.3 + 0.1 * (k % 4)) for k in range(len(ring))]
    made = roof_surface(ring, edges)
    for face in made.faces:
        p = shapely.Polygon([(x, y) for x, y, _ in face.ring]).representative_point()
        mine = height(face, ring, edges, (p.x, p.y))
        assert mine == pytest.approx(min(height(f, ring, edges, (p.x, p.y)) for f in made.faces), abs=0.5)
