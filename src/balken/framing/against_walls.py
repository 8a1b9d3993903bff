"""Where roofs stand against walls: the face at which such a side ends, and what of the wall's layers is let out for it.

A side lies on the core of its wall: on the sheathing where that faces the roof, whose cladding stops round it; on the inner face of the core
where the wall is one of those that the roof covers, since rafters do not run through taller walls.
"""

import math
from collections.abc import Iterable, Mapping
from typing import NamedTuple

import shapely
from msgspec.structs import replace

from balken.framing.bands import WallLine
from balken.framing.outlines import Outline
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.walls import LetOut
from balken.geometry.plane import add, area, cross, dot, left, meet, sub, unit
from balken.model.records import Roof
from balken.model.roof_edits import side_of

IN_LINE = 1e-4
"""Sides that turn by less than this lie in line, rad."""
AT_FACE = 2.0
"""What lies no farther than this from a face lies on it, mm."""


def ends_at_wall(roof: Roof, around: Outline, side: int) -> bool:
    """Whether a roof ends along a side at the face of its wall: where it stands against that, and at a gable without an overhang on the
    outside of a wall.
    """
    made = side_of(roof, around.walls[side])
    over = roof.overhang if made.overhang is None else made.overhang
    outside = bool(around.shared) and around.shared[side]
    return made.kind == "wall" or (made.kind == "gable" and outside and over < 1.0)


def on_faces(around: Outline, roof: Roof, lines: Mapping[str, WallLine]) -> Outline:
    """Return an outline whose sides that stand against walls lie on the faces of these; beside one in line they stay as they are."""
    core, n = around.core, len(around.core)
    if roof.shape != "planes" or not around.shared:
        return around
    moved = dict[int, float]()
    for i, wall in enumerate(around.walls):
        line = lines.get(wall)
        if line is None or line.is_beam or not ends_at_wall(roof, around, i):
            continue
        # Inward of the outline, from the outer face of the core.
        by = line.core[0] - line.sheathing if around.shared[i] else line.core[1] - line.core[0]
        if abs(by) > 1e-6:
            moved[i] = by
    if not moved:
        return around
    rows = []
    for i, p in enumerate(core):
        way = unit(p, core[(i + 1) % n])
        rows.append((add(p, left(way), moved.get(i, 0.0)), way))
    corners = []
    for i, (p, way) in enumerate(rows):
        before, ahead = rows[i - 1]
        met = None if abs(cross(ahead, way)) < IN_LINE else meet(before, ahead, p, way)
        if met is None:
            return around
        corners.append(met)
    ring = tuple(corners)
    if area(ring) <= 0.0 or not shapely.LinearRing(ring).is_simple:
        return around
    return replace(around, core=ring)


class Against(NamedTuple):
    """A roof that may stand against walls: how deep its rafters are, square to their slope, and how far its deepest ledger reaches below
    the deck, mm.
    """

    plan: SurfacePlan
    rafter: float
    ledger: float


def let_out(roofs: Iterable[Against], lines: Mapping[str, WallLine]) -> dict[str, tuple[LetOut, ...]]:
    """Return by wall what roofs of planes that stand against it let out of its layers: what lies between the undersides of rafters and
    ledgers (of trusses: what they bear on) and the top of the deck, before the face at which they end.
    """
    found: dict[str, list[LetOut]] = {}
    for plan, rafter, ledger in roofs:
        for i in range(len(plan.edges)):
            if plan.outline.walls[i] not in lines or not ends_at_wall(plan.roof, plan.outline, i):
                continue
            for a, b, rise in _at_side(plan, i):
                steep = math.hypot(1.0, rise)
                for wall, near, far in _there(plan, i, lines):
                    band = lines[wall].band
                    s = [dot(band.direction, sub(p[:2], band.start)) for p in (a, b)]
                    deep = max(rafter * steep, ledger)
                    top = [p[2] + plan.roof.deck * steep - band.bottom for p in (a, b)]
                    # Trusses reach down to what they bear on; tails beyond it no deeper than a rafter would.
                    low = [p[2] - deep - band.bottom for p in (a, b)]
                    if plan.trussed:
                        low = [min(z, plan.bearing - band.bottom) for z in low]
                    if abs(s[1] - s[0]) > 1.0 and max(top) > 0.0 and min(low) < band.top - band.bottom + 2e4:
                        ring = ((s[0], low[0]), (s[1], low[1]), (s[1], top[1]), (s[0], top[0]))
                        found.setdefault(wall, []).append(LetOut(near, far, ring))
    return {wall: tuple(rows) for wall, rows in found.items()}


Spot = tuple[float, float, float]


def _at_side(plan: SurfacePlan, side: int) -> list[tuple[Spot, Spot, float]]:
    """Return where planes end at a side, overhangs with them: from where to where, at the underside of their decks; how steep the plane is."""
    core = plan.outline.core
    p, q = core[side], core[(side + 1) % len(core)]
    across, lift, found = left(unit(p, q)), plan.bearing + plan.plate_to_top, []
    for face in plan.whole.faces:
        ring = face.ring
        for a, b in zip(ring, (*ring[1:], ring[0]), strict=True):
            if all(abs(dot(across, sub(x[:2], p))) < AT_FACE for x in (a, b)):
                ends = tuple((x, y, z + lift) for x, y, z in (a, b))
                found.append((ends[0], ends[1], face.pitch))
    return found


def _there(plan: SurfacePlan, side: int, lines: Mapping[str, WallLine]) -> list[tuple[str, float, float]]:
    """Return the walls, one over another, on whose faces a side lies, with the depths between which their layers stop there, mm."""
    core = plan.outline.core
    p, q = core[side], core[(side + 1) % len(core)]
    way, found = unit(p, q), []
    own = lines[plan.outline.walls[side]]
    for wall, line in lines.items():
        if line.is_beam or abs(cross(line.band.direction, way)) > IN_LINE:
            continue
        depth = dot(line.band.inward, sub(p, line.band.at(0.0, 0.0)))
        outside = dot(line.band.inward, left(way)) < 0.0
        near, far = (0.0, line.sheathing) if outside else (line.core[1], line.thickness)
        face = far if outside else near
        if (wall == own.wall.id or abs(depth - face) < AT_FACE) and far - near > 0.5:
            found.append((wall, near, far))
    return found
