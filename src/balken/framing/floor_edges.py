"""Edges of joist floors: half bays beside walls along the joists, which no joist carries, and what bears under them."""

from collections.abc import Iterator

from balken.framing.frames import Frame
from balken.framing.joist_cuts import Patch
from balken.framing.outlines import Outline
from balken.framing.pieces import Bearer, Snag
from balken.geometry.plane import Point, Ring, bare, cross, dot, left, sub, to_segment, unit
from balken.model.records import Floor
from balken.units.system import INCH
from balken.value import Value

LEAST_EDGE = 1e4
"""What of a floor goes to its edges is told where nothing bears there, mm2."""
UNDER_SIDE = 1.5 * INCH
"""How thick the edge joist within a floor's side is, mm: what bears under it has it on it."""
REACHES = 610.0
"""So far an edge joist reaches over nothing from one thing that bears to the next, mm: a bay of studs (common practice, no source)."""


class EdgeStrip(Value, frozen=True):
    """A strip of floor beside a wall parallel to the joists; the edge joist hands it to the wall."""

    bearer: str
    at: Point
    area: float


def edge_strips(
    ring: Ring, outline: Outline, frame: Frame, bearers: tuple[Bearer, ...], patches: list[Patch]
) -> tuple[EdgeStrip, ...]:
    """Return the floor that no joist carries (half bays beside walls along the joists), handed to those walls, or to what bears under them."""
    by_side: dict[int, list[Patch]] = {}
    for s0, s1, a, b in patches:
        middle = ((s0 + s1) / 2.0, (a + b) / 2.0)
        side = min(range(len(ring)), key=lambda i: _apart_from(ring, i, middle))
        by_side.setdefault(side, []).append((s0, s1, a, b))
    found: list[EdgeStrip] = []
    for side, mine in sorted(by_side.items()):
        sizes = [(s1 - s0) * (b - a) for s0, s1, a, b in mine]
        size = sum(sizes)
        if size < 1.0:
            continue
        wall = outline.walls[side]
        bearer = next((b.id for b in bearers if wall and b.wall == wall), "")
        p, q = ring[side], ring[(side + 1) % len(ring)]
        under = _under_side(outline.core, side, bearers) if not bearer else []
        if under:
            found += _shared_out(mine, frame, under, (p, q))
            continue
        moment = sum(part * (s0 + s1) / 2.0 for part, (s0, s1, _, _) in zip(sizes, mine, strict=True))
        s = min(max(moment / size, min(p[0], q[0])), max(p[0], q[0]))
        t = p[1] + (q[1] - p[1]) * ((s - p[0]) / (q[0] - p[0]) if abs(q[0] - p[0]) > 1.0 else 0.5)
        found.append(EdgeStrip(bearer, frame.back(s, t), size))
    return tuple(found)


def _under_side(core: Ring, side: int, bearers: tuple[Bearer, ...]) -> list[Bearer]:
    """Return what bears under a side whose own wall stands on the floor, or that has none: along it, in its line."""
    p, q = core[side], core[(side + 1) % len(core)]
    way, found = unit(p, q), list[Bearer]()
    for one in bearers:
        if abs(cross(way, one.direction)) > 0.02:
            continue
        # The joist lies within the floor's side, so thick.
        joist = UNDER_SIDE * dot(one.inward, left(way))
        ends = [dot(one.inward, sub(at, one.start)) for at in (p, q)]
        if all(min(off, off + joist) < one.far and max(off, off + joist) > one.near for off in ends):
            found.append(one)
    return found


def _shared_out(
    patches: list[Patch], frame: Frame, under: list[Bearer], side: tuple[Point, Point]
) -> Iterator[EdgeStrip]:
    """Yield the strips of floor along a side (its ends), each part to what lies under it; short gaps go to those beside them, longer ones bear
    on nothing.
    """
    (p0, t0), (p1, t1) = side
    spans = [sorted(frame.to(at)[0] for at in one.middle()) for one in under]
    for s0, s1, a, b in patches:
        rows = [(max(s0, low), min(s1, high), one.id) for (low, high), one in zip(spans, under, strict=True)]
        kept = [row for row in rows if row[1] - row[0] > 1.0]
        gaps = bare([(low - s0, high - s0) for low, high, _ in kept], s1 - s0)
        gaps = [gap for gap in gaps if not kept or gap[1] - gap[0] > REACHES]
        long, rest = sum(high - low for low, high, _ in kept), s1 - s0 - sum(high - low for low, high in gaps)
        shares = [(low, high, name, rest * (high - low) / long) for low, high, name in kept]
        shares += [(s0 + low, s0 + high, "", high - low) for low, high in gaps]
        for low, high, name, length in shares:
            s = (low + high) / 2.0
            t = t0 + (t1 - t0) * ((s - p0) / (p1 - p0) if abs(p1 - p0) > 1.0 else 0.5)
            yield EdgeStrip(name, frame.back(s, t), length * (b - a))


def _apart_from(ring: Ring, side: int, point: Point) -> float:
    """Return how far a point is from a side; sides square to the joists count as farther."""
    p, q = ring[side], ring[(side + 1) % len(ring)]
    steep = abs(q[1] - p[1]) > abs(q[0] - p[0])
    return to_segment(point, p, q) + (1e5 if steep else 0.0)


def bare_edges(floor: Floor, edges: tuple[EdgeStrip, ...], level: float) -> Iterator[Snag]:
    """Tell of edges of a floor under which nothing bears."""
    what = "an edge strip" if floor.is_slab else "an edge joist"
    for strip in edges:
        if not strip.bearer and strip.area > LEAST_EDGE:
            yield Snag("no bearing", f"{what} has nothing to bear on", floor.id, (*strip.at, level))
