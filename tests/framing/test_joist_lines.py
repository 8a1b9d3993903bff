"""Joists that are alike are made once and repeated: that must never show."""

import itertools
import math

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from balken.framing.floors import floor_area, floor_plan
from balken.framing.frames import Frame
from balken.framing.joist_lines import JoistLines
from balken.framing.outlines import Outline
from balken.framing.pieces import Bearer
from balken.model.naming import place_of
from balken.model.records import Floor

METRE = 1000.0
lengths = st.integers(2, 9).map(lambda n: n * METRE / 2.0)


@st.composite
def rings(draw):
    """An L, T or plain rectangle with a side that may slant, anticlockwise."""
    long, wide = draw(lengths) + 4.0 * METRE, draw(lengths) + 4.0 * METRE
    notch, deep = draw(lengths) / 3.0, draw(lengths) / 3.0
    slant = draw(st.sampled_from((0.0, 0.0, 600.0)))
    shapes = {
        "rectangle": ((0.0, 0.0), (long, 0.0), (long - slant, wide), (0.0, wide)),
        "L": (
            (0.0, 0.0),
            (long, 0.0),
            (long, wide - deep),
            (long - notch, wide - deep),
            (long - notch, wide),
            (0.0, wide),
        ),
        "T": (
            (0.0, 0.0),
            (long, 0.0),
            (long - slant, wide - deep),
            (long - notch, wide - deep),
            (long - notch, wide),
            (notch, wide),
            (notch, wide - deep),
            (0.0, wide - deep),
        ),
    }
    return shapes[draw(st.sampled_from(sorted(shapes)))]


def bearer(name, start, end, near, far):
    length = math.dist(start, end)
    d = ((end[0] - start[0]) / length, (end[1] - start[1]) / length)
    return Bearer(name, name, start, end, d, (-d[1], d[0]), near, far, 0.0)


@st.composite
def floors(draw):
    """An outline with a bearer along each side, and some inside, whole or in part, straight or askew."""
    ring = draw(rings())
    walls = tuple(f"side-{i}" for i in range(len(ring)))
    bearers = [bearer(w, ring[i], ring[(i + 1) % len(ring)], 0.0, 140.0) for i, w in enumerate(walls)]
    x1, y1 = max(p[0] for p in ring), max(p[1] for p in ring)
    for k in range(draw(st.integers(0, 3))):
        at, low, high = draw(st.floats(0.2, 0.8)), draw(st.floats(0.0, 0.4)), draw(st.floats(0.5, 1.0))
        lean = draw(st.sampled_from((0.0, 0.0, 0.1)))
        if draw(st.booleans()):
            ends = (at * x1, low * y1), ((at + lean) * x1, high * y1)
        else:
            ends = (low * x1, at * y1), (high * x1, (at + lean) * y1)
        bearers.append(bearer(f"inside-{k}", *ends, -70.0, 70.0))
    shared = tuple(draw(st.booleans()) for _ in ring)
    return Outline(walls, ring, shared), tuple(bearers), draw(st.sampled_from((0.0, 90.0, 33.0)))


def alike(a, b):
    assert (a.place, a.supports, a.t) == (b.place, b.supports, b.t)
    for name in ("width", "low", "high", "load_low", "load_high", "centres", "bearings", "clear"):
        assert getattr(a, name) == pytest.approx(getattr(b, name), abs=1e-5), name
    assert len(a.patches) == len(b.patches)
    for p, q in zip(a.patches, b.patches, strict=True):
        assert p == pytest.approx(q, abs=1e-5)


@given(floors(), st.sampled_from((300.0, 406.4, 610.0)))
def test_repeated_joists_are_as_those_made_one_by_one(made, spacing):
    outline, bearers, angle = made
    frame = Frame(angle)
    ring = frame.ring(outline.core)
    low, high = min(p[1] for p in ring), max(p[1] for p in ring)
    together = JoistLines(ring, outline, bearers, frame)
    for k in range(int((high - low) / spacing) - 1):
        t = low + (k + 1) * spacing
        bay = (t - spacing / 2.0, t + spacing / 2.0)
        lines, rest = together.at(t, bay)
        alone, alone_rest = JoistLines(ring, outline, bearers, frame).at(t, bay)
        assert len(lines) == len(alone)
        for one, other in zip(lines, alone, strict=True):
            alike(one, other)
        assert rest == alone_rest


@given(floors(), st.sampled_from((300.0, 406.4, 610.0)))
def test_joists_and_edges_carry_the_whole_floor_once(made, spacing):
    """The strips of the joists and those handed to walls beside them add up to the floor, measured by shapely."""
    outline, bearers, angle = made
    floor = Floor(id="f", name="F", level="l", walls=outline.walls, direction=angle, deck=0.0)
    plan = floor_plan(floor, outline, 0.0, bearers, spacing)
    carried = sum((b - a) * w for line in plan.lines for a, b, w in line.loaded)
    carried += sum(edge.area for edge in plan.edges)
    whole = shapely.Polygon(outline.core).area
    assert floor_area(plan) == pytest.approx(whole)
    assert carried == pytest.approx(whole, rel=2e-6)


def test_joists_of_one_plain_floor_are_all_alike():
    ring = ((0.0, 0.0), (4.0 * METRE, 0.0), (4.0 * METRE, 8.0 * METRE), (0.0, 8.0 * METRE))
    walls = ("a", "b", "c", "d")
    bearers = tuple(bearer(w, ring[i], ring[(i + 1) % 4], 0.0, 140.0) for i, w in enumerate(walls))
    floor = Floor(id="f", name="F", level="l", walls=walls, deck=0.0)
    plan = floor_plan(floor, Outline(walls, ring, (False,) * 4), 0.0, bearers, 400.0)
    ends = {(round(line.low, 6), round(line.high, 6)) for line in plan.lines}
    assert ends == {(-4.0 * METRE + 38.1, -38.1)} or ends == {(38.1, 4.0 * METRE - 38.1)}
    assert {frozenset(line.supports) for line in plan.lines} == {frozenset(("b", "d"))}
    places = [place_of(line.place) for line in plan.lines]
    assert [place.at for place in places] == [400 * k for k in range(1, len(places) + 1)]
    assert {(place.datum, place.which) for place in places} <= {("a", 0), ("c", 0)}
    ts = [line.t for line in plan.lines]
    assert [b - a for a, b in itertools.pairwise(ts)] == pytest.approx([400.0] * (len(ts) - 1))
