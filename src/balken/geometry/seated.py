"""Leaning solids with a bird's mouth: a level seat in their underside and a plumb cut before it, as rafters bear on plates."""

import itertools
import math
from functools import lru_cache
from typing import NamedTuple

import numpy as np
import shapely
from msgspec.structs import replace
from numpy.typing import NDArray

from balken.geometry.leaning import Leaning
from balken.geometry.plane import Point, Ring, area, clipped, dot
from balken.geometry.prism import Prism, Vec, View, cross3, depths_of, dot3, extent_of, sub3
from balken.geometry.solids import Swept
from balken.geometry.trimmed import Trimmed, trimmed
from balken.value import Value

Array = NDArray[np.float64]
SAME = 1e-6
FAR = 1e9
SLIVER = 1.0
"""Parts no larger in plan are none, mm2."""
GRID = 1e-4
"""Outlines of both parts are joined on a grid so fine, mm."""


Off = tuple[Vec, float]
"""A plane along which a tail is cut off: what lies beyond it stays, normal . p >= least, mm."""


class Seated(Value, frozen=True):
    """A leaning solid of which all is taken away that lies below ``level`` beyond a plumb plane: way . p >= start in plan, mm.

    It is a tail before that plane and the rest behind it; where there is no tail the seat runs out at its foot.  ``off``: how the tail is
    cut off, a plane that the rest lies wholly beyond.  ``head``: a second seat, from where on along its way and how high, up to its end.
    ``tops``: planes along which its upper edges are bevelled.
    """

    whole: Leaning
    way: Point
    start: float
    level: float
    off: Off | None = None
    head: tuple[float, float] | None = None
    tops: tuple[Off, ...] = ()

    @property
    def seats(self) -> tuple[tuple[float, float], ...]:
        """From where on along its way its seats lie, and how high."""
        found = [(self.start, self.level)] if self.level > -FAR else []
        return (*found, *([self.head] if self.head is not None else []))

    @property
    def parts(self) -> tuple[Leaning | Trimmed, ...]:
        """The tail and the rest, which meet along the plumb planes."""
        return tuple(part.solid for part in _parts(self))

    @property
    def volume(self) -> float:
        """Its volume, mm3."""
        return sum(part.volume for part in self.parts)

    @property
    def extent(self) -> tuple[Vec, Vec]:
        """Its least and greatest x, y, z."""
        return extent_of(self.corners())

    @property
    def heights(self) -> tuple[float, float]:
        """The heights of its lowest and highest point."""
        low, high = self.extent
        return low[2], high[2]

    @property
    def stands_upright(self) -> bool:
        """Whether it is a plan outline between two heights: it never is."""
        return False

    @property
    def plan(self) -> tuple[Ring, ...]:
        """Its outline seen from above."""
        return (self.whole.ring,)

    def corners(self) -> list[Vec]:
        """Return its corners."""
        return list(dict.fromkeys(p for face in self.faces() for p in face))

    def faces(self) -> list[tuple[Vec, ...]]:
        """Return its faces as outlines, turning to the left seen from outside; those of both parts that go on in one another are one."""
        return list(_faces(self))

    def cut(self, view: View) -> tuple[tuple[Ring, ...], ...]:
        """Return where a picture plane cuts it: polygons."""
        return tuple((ring,) for ring in _joined([rings[0] for part in self.parts for rings in part.cut(view)]))

    def outline(self, view: View) -> tuple[Ring, ...]:
        """Return what is seen of it."""
        return tuple(_joined([part.outline(view)[0] for part in self.parts]))

    def depths(self, view: View) -> tuple[float, float]:
        """Return its least and greatest height toward the viewer."""
        return depths_of(self.corners(), view)

    def mesh(self) -> tuple[Array, Array]:
        """Return triangles (n, 3, 3) and edges (m, 2, 3)."""
        triangles = [t for faces in _small_faces(self) for face in faces for t in _fan(face)]
        edges = {
            (min(p, q), max(p, q)): (p, q)
            for face in _faces(self)
            for p, q in zip(face, (*face[1:], face[0]), strict=True)
        }
        return np.array(triangles), np.array(list(edges.values()))

    def swept(self) -> Swept:
        """Return it before its seat is cut, as a profile that is extruded."""
        return self.whole.swept()


def seated(solid: Leaning, way: Point, start: float, level: float, off: Off | None = None) -> Leaning | Seated:
    """Return a leaning solid with a bird's mouth; itself where nothing of it lies there, or nothing would stay behind the plumb plane."""
    made = Seated(solid, way, start, level, off)
    return made if _cuts(solid, way, start, level) else solid


def _cuts(solid: Leaning, way: Point, start: float, level: float) -> bool:
    """Whether a level seat from a plumb plane on takes something of a leaning solid there, and leaves something."""
    behind = clipped(solid.ring, way, start)
    if len(behind) < 3 or abs(area(behind)) <= SLIVER:
        return False
    lows = [solid.low(p) for p in behind]
    return min(lows) < level - SAME and max(lows) + solid.tall > level + SAME


def on_head(solid: Leaning | Seated | Trimmed, way: Point, start: float, level: float) -> Leaning | Seated | Trimmed:
    """Return a leaning solid with a level seat at its upper end, from ``start`` along its way on; itself where none of it lies there so low,
    or it is cut off otherwise than at its foot.
    """
    if isinstance(solid, Seated):
        made: Seated = replace(solid, head=(start, level))
    elif isinstance(solid, Leaning):
        made = Seated(solid, way, start, level)
    elif isinstance(solid.whole, Leaning):
        made = Seated(solid.whole, way, start, level, (solid.normal, solid.least))
    else:
        return solid
    return made if _cuts(made.whole, way, start, level) else solid


def bevelled(solid: Leaning | Seated | Trimmed, way: Point, tops: tuple[Off, ...]) -> Seated:
    """Return a leaning solid with its upper edges cut off along planes (what lies beyond each stays).

    Raises TypeError for what is no leaning solid, or one cut off already.
    """
    if isinstance(solid, Seated):
        made: Seated = replace(solid, tops=tops)
        return made
    whole = solid.whole if isinstance(solid, Trimmed) else solid
    if not isinstance(whole, Leaning):
        raise TypeError("no leaning solid")
    off = (solid.normal, solid.least) if isinstance(solid, Trimmed) else None
    far = max(dot(way, p) for p in whole.ring) + 1.0  # no seat: all of it lies before that
    return Seated(whole, way, far, -FAR, off, None, tops)


class _Part(NamedTuple):
    """A part of a seated solid, and where along its way the next one begins, inf for the last."""

    solid: Leaning | Trimmed
    ends: float


@lru_cache(maxsize=4_096)
def _parts(solid: Seated) -> tuple[_Part, ...]:
    whole, way = solid.whole, solid.way
    seats = [(solid.start, solid.level), *([solid.head] if solid.head is not None else [])]
    starts = [-math.inf, *(start for start, _ in seats), math.inf]
    cuts: list[Off | None] = [solid.off, *(((0.0, 0.0, 1.0), level) for _, level in seats)]
    found: list[_Part] = []
    for (low, high), off in zip(itertools.pairwise(starts), cuts, strict=True):
        ring = whole.ring if low == -math.inf else clipped(whole.ring, way, low)
        if high < math.inf and len(ring) > 2:
            ring = clipped(ring, (-way[0], -way[1]), -high)
        ring = tuple(p for k, p in enumerate(ring) if math.dist(p, ring[k - 1]) > SAME)
        if len(ring) < 3 or abs(area(ring)) <= SLIVER:
            continue
        part: Leaning | Prism | Trimmed | None = Leaning(ring, whole.base, whole.slope, whole.tall)
        for cut in (off, *solid.tops):
            if cut is not None and isinstance(part, Leaning | Trimmed):
                part = trimmed(part, *cut)
        found += [_Part(part, high)] if isinstance(part, Leaning | Trimmed) else []
    return tuple(found)


def _on_plane(solid: Seated, at: float, p: Vec) -> bool:
    return abs(dot(solid.way, p[:2]) - at) < 1e-3


def _small_faces(solid: Seated) -> list[list[tuple[Vec, ...]]]:
    """Return the faces of each part but for where two meet: of the plumb cuts alone what is seen, the lower part's below the seat."""
    parts, found = _parts(solid), []
    begins = -math.inf
    for k, part in enumerate(parts):
        last = k == len(parts) - 1
        seat = -math.inf if last else _bottom(solid, parts[k + 1], part.ends)
        faces: list[tuple[Vec, ...]] = []
        for face in part.solid.faces():
            if all(_on_plane(solid, begins, p) for p in face):
                continue
            if last:
                faces.append(face)
            elif all(_on_plane(solid, part.ends, p) for p in face):
                below = _straight([(x, y, min(z, seat)) for x, y, z in face])
                faces += [below] if len(below) > 2 else []
            else:
                faces.append(_with_level(solid, part.ends, seat, face))
        found.append(faces)
        begins = part.ends
    return found


def _bottom(solid: Seated, part: _Part, at: float) -> float:
    """Return how low a part reaches where it meets the one before it."""
    return min(p[2] for p in part.solid.corners() if _on_plane(solid, at, p))


def _with_level(solid: Seated, at: float, level: float, face: tuple[Vec, ...]) -> tuple[Vec, ...]:
    """Return a face of a part with a corner where the seat of the next meets its edge along the plumb plane."""
    found: list[Vec] = []
    for p, q in zip(face, (*face[1:], face[0]), strict=True):
        found.append(p)
        if _on_plane(solid, at, p) and _on_plane(solid, at, q) and (p[2] - level) * (q[2] - level) < 0.0:
            found.append((p[0], p[1], level))
    return tuple(found)


def _fan(face: tuple[Vec, ...]) -> list[tuple[Vec, Vec, Vec]]:
    """Return triangles of a face that bulges everywhere, none of them without an area."""
    for k in range(len(face)):
        turned = (*face[k:], *face[:k])
        made = [(turned[0], turned[i], turned[i + 1]) for i in range(1, len(turned) - 1)]
        areas = [cross3(sub3(b, a), sub3(c, a)) for a, b, c in made]
        if all(dot3(n, n) > SAME for n in areas):
            return made
    return made


@lru_cache(maxsize=4_096)
def _faces(solid: Seated) -> tuple[tuple[Vec, ...], ...]:
    """Return its faces: the top and the long sides of all parts as one each."""
    small = [[(face, _normal(face)) for face in faces] for faces in _small_faces(solid)]
    first, others = small[0], small[1:]
    for part, rest in zip(_parts(solid), others, strict=False):
        found = []
        for one in first:
            mate = next((other for other in rest if _go_on(solid, part.ends, one, other)), None)
            if mate is None:
                found.append(one)
            else:
                rest.remove(mate)
                found.append((_merged(one[0], mate[0]), one[1]))
        first = [*found, *rest]
    return tuple(face for face, _ in first)


Facing = tuple[tuple[Vec, ...], Vec]
"""A face as an outline, and its normal."""


def _go_on(solid: Seated, at: float, one: Facing, other: Facing) -> bool:
    """Whether two faces lie in one plane and share an edge along a plumb plane."""
    (a, m), (b, n) = one, other
    if dot3(m, n) <= 1.0 - 1e-9:
        return False
    shared = [p for p in a if _on_plane(solid, at, p) and any(max(map(abs, sub3(p, q))) < 1e-3 for q in b)]
    return len(shared) > 1


def _normal(face: tuple[Vec, ...]) -> Vec:
    x = y = z = 0.0
    for p, q in zip(face, (*face[1:], face[0]), strict=True):
        n = cross3(p, q)
        x, y, z = x + n[0], y + n[1], z + n[2]
    size = max((x * x + y * y + z * z) ** 0.5, 1e-30)
    return x / size, y / size, z / size


def _merged(a: tuple[Vec, ...], b: tuple[Vec, ...]) -> tuple[Vec, ...]:
    """Return two faces that share an edge as one outline."""

    def near(p: Vec, face: tuple[Vec, ...]) -> int | None:
        return next((k for k, q in enumerate(face) if max(map(abs, sub3(p, q))) < 1e-3), None)

    for i, (p, q) in enumerate(zip(a, (*a[1:], a[0]), strict=True)):
        j, k = near(q, b), near(p, b)
        if j is not None and k is not None and (j + 1) % len(b) == k:
            rest = [b[(k + 1 + n) % len(b)] for n in range(len(b) - 2)]
            ring = [*a[: i + 1], *rest, *a[i + 1 :]]
            return _straight(ring)
    return a


def _straight(ring: list[Vec]) -> tuple[Vec, ...]:
    """Return an outline without corners in the middle of straight edges."""
    return tuple(
        x
        for before, x, after in zip([ring[-1], *ring[:-1]], ring, [*ring[1:], ring[0]], strict=True)
        if _turns(before, x, after)
    )


def _turns(a: Vec, b: Vec, c: Vec) -> bool:
    n = cross3(sub3(b, a), sub3(c, b))
    return dot3(n, n) > 1e-3


def _joined(rings: list[Ring]) -> list[Ring]:
    """Return the outlines of what both parts cover."""
    if len(rings) < 2:
        return rings
    shape = shapely.union_all([shapely.Polygon(ring) for ring in rings if len(ring) > 2], grid_size=GRID)
    shape = shape.simplify(GRID)
    shapes = [
        part for part in getattr(shape, "geoms", [shape]) if isinstance(part, shapely.Polygon) and part.area > SAME
    ]
    return [
        tuple((float(x), float(y)) for x, y in shapely.orient_polygons(part).exterior.coords[:-1]) for part in shapes
    ]
