"""The ground outside: sloping evenly from spot height to spot height."""

import itertools
import math
from functools import cached_property

import shapely

from balken.geometry.plane import Point, off_line
from balken.model.lookup import ground as ground_level
from balken.model.records import Level, SpotHeight
from balken.value import Lazy

Corner = tuple[float, float, float]


class Ground(Lazy, frozen=True):
    """Heights of the ground: triangles between spot heights, level beyond them; ``level`` without any."""

    level: float
    spots: tuple[tuple[float, float, float], ...] = ()

    @property
    def sloping(self) -> bool:
        """Whether it is not all of one height."""
        return len({z for _, _, z in self.spots}) > 1

    @cached_property
    def _net(self) -> tuple[tuple[Corner, Corner, Corner], ...]:
        """The triangles between the spots (Delaunay); none when they lie on one line."""
        heights = {(x, y): z for x, y, z in self.spots}
        made = shapely.delaunay_triangles(shapely.MultiPoint(list(heights)))
        return tuple(
            tuple((x, y, heights[(x, y)]) for x, y in triangle.exterior.coords[:3])  # type: ignore[misc]
            for triangle in made.geoms
        )

    @cached_property
    def _rim(self) -> list[tuple[Corner, Corner]]:
        """The outermost sides of the triangles."""
        sides: dict[frozenset[Corner], int] = {}
        for triangle in self._net:
            for i in range(3):
                side = frozenset((triangle[i - 1], triangle[i]))
                sides[side] = sides.get(side, 0) + 1
        return [tuple(sorted(side)) for side, count in sides.items() if count == 1]  # type: ignore[misc]

    def height(self, point: Point) -> float:
        """Return the height of the ground at a plan point, mm."""
        if not self.spots:
            return self.level
        for triangle in self._net:
            inside = _within(triangle, point)
            if inside is not None:
                return inside
        if self._net:
            return self._beside(self._rim, point)
        ordered = sorted(self.spots)
        return self._beside(list(itertools.pairwise(ordered)), point)

    def _beside(self, edges: list[tuple[Corner, Corner]], point: Point) -> float:
        """Return the height at the nearest point of these edges."""
        best: tuple[float, float] | None = None
        for (x0, y0, z0), (x1, y1, z1) in edges:
            length = math.hypot(x1 - x0, y1 - y0)
            if length == 0.0:
                continue
            along, aside = off_line(point, (x0, y0), (x1, y1))
            held = min(max(along, 0.0), length)
            away = math.hypot(along - held, aside)
            if best is None or away < best[0] - 1e-9:
                best = (away, z0 + (z1 - z0) * held / length)
        return best[1] if best is not None else self.spots[0][2]

    def breaks(self, a: Point, b: Point) -> list[float]:
        """Return where along a line, mm from ``a``, the slope of the ground may change: at the sides of its triangles."""
        long, found = math.dist(a, b), []
        if long <= 0.0:
            return []
        for triangle in self._net:
            for i in range(3):
                (x0, y0, _), (x1, y1, _) = triangle[i - 1], triangle[i]
                (s0, off0), (s1, off1) = off_line((x0, y0), a, b), off_line((x1, y1), a, b)
                if (off0 < 0.0) != (off1 < 0.0):
                    s = s0 + (s1 - s0) * off0 / (off0 - off1)
                    if 0.0 < s < long:
                        found.append(s)
        return sorted(set(found))

    @cached_property
    def _known(self) -> dict[tuple[Point, Point, int], list[tuple[float, float]]]:
        """Profiles asked for before: walls that have not moved ask again at every edit."""
        return {}

    def profile(self, a: Point, b: Point, steps: int = 24) -> list[tuple[float, float]]:
        """Return (distance from ``a``, height) along a line, mm."""
        known = self._known.get((a, b, steps))
        if known is None:
            if len(self._known) > 2000:
                self._known.clear()
            known = self._known[(a, b, steps)] = self._profile(a, b, steps)
        return known

    def _profile(self, a: Point, b: Point, steps: int) -> list[tuple[float, float]]:
        length = ((b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2) ** 0.5
        count = steps if self.sloping else 1
        found = []
        for k in range(count + 1):
            t = k / count
            found.append((t * length, self.height((a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])))))
        return found


def _within(triangle: tuple[Corner, Corner, Corner], point: Point) -> float | None:
    """Return the height of a point inside a triangle (barycentric), None outside."""
    (x0, y0, z0), (x1, y1, z1), (x2, y2, z2) = triangle
    twice = (x1 - x0) * (y2 - y0) - (x2 - x0) * (y1 - y0)
    if abs(twice) < 1e-6:
        return None
    b = ((point[0] - x0) * (y2 - y0) - (x2 - x0) * (point[1] - y0)) / twice
    c = ((x1 - x0) * (point[1] - y0) - (point[0] - x0) * (y1 - y0)) / twice
    if b < -1e-9 or c < -1e-9 or b + c > 1.0 + 1e-9:
        return None
    return z0 + b * (z1 - z0) + c * (z2 - z0)


def ground_of(spots: tuple[SpotHeight, ...], levels: tuple[Level, ...]) -> Ground | None:
    """Return the ground, None when neither a ground level nor spot heights say where it is."""
    level = ground_level(levels)
    if level is None and not spots:
        return None
    base = level.height if level is not None else min(s.height for s in spots)
    return Ground(base, tuple((s.x, s.y, s.height) for s in spots))
