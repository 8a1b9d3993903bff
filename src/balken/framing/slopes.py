"""Strip footings whose underside slopes: level on top, deeper toward one end (IRC R403.1.5: 1 in 10 at most).

What lies below the level underside is a prism of its own, seen from the side a triangle or a wedge with a
blunt end.  Where other concrete lies in its way it is left out over the whole width of the footing.
"""

from collections.abc import Iterable

import shapely

from balken.framing.foundations import FoundationRun
from balken.framing.pieces import Piece
from balken.framing.roles import Role
from balken.framing.uprights import SLIVER, Upright
from balken.geometry.prism import Prism
from balken.model.naming import piece_name, sloping
from balken.model.records import Slope
from balken.value import Value

AT_CORNER = 1.0
"""Nearer to a wall's corner than this is at it, mm."""


class Wedge(Value, frozen=True):
    """A stretch of a footing's underside that slopes: from where to where along the wall, how much deeper there."""

    low: float
    high: float
    deep_low: float
    deep_high: float

    def at(self, along: float) -> float:
        """Return how much deeper the underside is at a place within it, mm."""
        part = (along - self.low) / (self.high - self.low)
        return self.deep_low + part * (self.deep_high - self.deep_low)

    def part(self, low: float, high: float) -> "Wedge":
        """Return the stretch of it between two places."""
        return Wedge(low, high, self.at(low), self.at(high))


def slopes_of(run: FoundationRun) -> tuple[Slope, ...]:
    """Return the slopes authored for a run."""
    return tuple(s for s in run.foundation.slopes if s.wall == run.wall) if run.footing else ()


def wedges(run: FoundationRun, reach: tuple[float, float] | None = None) -> list[Wedge]:
    """Return the sloping stretches of a run as authored; ``reach``: from where to where its footing runs."""
    low, high = reach or run.span
    found = []
    for s in slopes_of(run):
        # One that begins or ends at the wall's corner goes on to the footing's own end.
        start = min(s.start, low) if s.start <= AT_CORNER else s.start
        end = max(s.end, high) if s.end >= run.band.length - AT_CORNER else s.end
        a, b = max(start, low), min(end, high)
        if b - a > 1.0:
            found.append(Wedge(start, end, s.deeper_start, s.deeper_end).part(a, b))
    return found


def deeper_at(run: FoundationRun, along: float) -> float:
    """Return how much deeper than its level underside the footing of a run is at a place along it, mm."""
    return max((w.at(along) for w in wedges(run) if w.low <= along <= w.high), default=0.0)


def deepest(run: FoundationRun) -> float:
    """Return the most by which a run's footing is deeper anywhere, mm."""
    return max((max(w.deep_low, w.deep_high) for w in wedges(run)), default=0.0)


def free_wedges(
    run: FoundationRun, width: float, depth: float, own: Iterable[Upright], filled: Iterable[Upright]
) -> list[Wedge]:
    """Return the sloping stretches under a run's ``own`` level footing that no other concrete is in the way of."""
    found: list[Wedge] = []
    solids = list(filled)
    ends = [run.along(point) for solid in own for point in solid.outline]
    for wedge in wedges(run, (min(ends), max(ends))) if ends else ():
        under = run.band.bottom - run.drop_at((wedge.low + wedge.high) / 2.0) - depth
        bottom = under - max(wedge.deep_low, wedge.deep_high) - run.foundation.blinding
        shape = shapely.Polygon(run.footing_ring(wedge.low, wedge.high, width))
        taken: list[tuple[float, float]] = []
        for solid in solids:
            if min(solid.top, under) - max(solid.bottom, bottom) <= 0.5:
                continue
            shared = shape.intersection(solid.polygon)
            if shared.area > SLIVER:
                along = [run.along((x, y)) for x, y in shapely.get_coordinates(shared).tolist()]
                taken.append((min(along), max(along)))
        at = wedge.low
        for a, b in sorted(taken):
            if a - at > 1.0:
                found.append(wedge.part(at, a))
            at = max(at, b)
        if wedge.high - at > 1.0:
            found.append(wedge.part(at, wedge.high))
    return [w for w in found if max(w.deep_low, w.deep_high) > 0.5]


def _faces(run: FoundationRun, width: float) -> tuple[float, float]:
    middle = sum(run.faces) / 2.0 - run.footing_off(width)
    return middle - width / 2.0, middle + width / 2.0


def wedge_prism(run: FoundationRun, width: float, depth: float, wedge: Wedge, below: float = 0.0) -> Prism:
    """Return the solid of a wedge, or of a layer ``below`` mm thick under it."""
    b = run.band
    near, far = _faces(run, width)
    # Extruded square to the plane of along and up: to the right hand of the wall's direction.
    right_hand = b.direction[1] * b.inward[0] - b.direction[0] * b.inward[1] > 0.0
    x, y = b.at(wedge.low, near if right_hand else far)
    under = b.bottom - run.drop_at((wedge.low + wedge.high) / 2.0) - depth
    long = wedge.high - wedge.low
    upper = (-wedge.deep_low, -wedge.deep_high) if below else (0.0, 0.0)
    corners = (
        (0.0, -wedge.deep_low - below),
        (long, -wedge.deep_high - below),
        (long, upper[1]),
        (0.0, upper[0]),
    )
    ring = tuple(
        p for i, p in enumerate(corners) if abs(p[0] - corners[i - 1][0]) + abs(p[1] - corners[i - 1][1]) > 0.01
    )
    return Prism((x, y, under), (*b.direction, 0.0), (0.0, 0.0, 1.0), (ring,), width)


def wedge_pieces(run: FoundationRun, width: float, depth: float, found: list[Wedge]) -> list[Piece]:
    """Return the sloping parts of a run's footing, and of the blinding under them."""
    pieces = []
    parts: list[tuple[str, Role, float]] = [("footing", "strip footing", 0.0)]
    if run.foundation.blinding > 0.0:
        parts.append(("blinding", "blinding", run.foundation.blinding))
    for name, role, below in parts:
        for i, wedge in enumerate(found):
            solid = wedge_prism(run, width, depth, wedge, below)
            middle = sum(_faces(run, width)) / 2.0
            low = solid.heights[0]
            pieces.append(
                Piece(
                    sloping(piece_name(run.id, name), i),
                    role,
                    run.foundation.id,
                    run.foundation.foot.level,
                    solid,
                    "concrete",
                    (*run.band.at(wedge.low, middle), low),
                    (*run.band.at(wedge.high, middle), low),
                    wedge.high - wedge.low,
                    wall=run.wall,
                )
            )
    return pieces


def blinding_clear_of(run: FoundationRun, width: float, found: list[Wedge]) -> list[Upright]:
    """Return upright solids over the sloping stretches, to take the level blinding away there."""
    return [Upright(run.footing_ring(w.low, w.high, width), -1e6, 1e6) for w in found]
