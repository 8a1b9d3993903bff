"""Struts: boards that lean from a bearing wall's plates up to a purlin, square to it, no flatter than 45 degrees (IRC R802.4.5, from memory)."""

import math
from collections.abc import Iterable, Mapping, Sequence

from msgspec.structs import replace

from balken.catalog.sections import section
from balken.framing.bands import WallLine
from balken.framing.pieces import Piece
from balken.framing.purlins import Purlin, purlin_line
from balken.framing.surface_members import SurfaceMember
from balken.framing.surface_roofs import SurfacePlan, eave
from balken.geometry.plane import Point, add, cross, distance, dot, sub, unit
from balken.geometry.prism import Prism
from balken.model.naming import Places, piece_name, place_at
from balken.units.system import INCH
from balken.value import Value

FLATTEST = 1.0
"""Rise over run at least."""
LOW = 600.0
"""A wall whose head lies no farther than this below what the roof bears on may carry them, mm."""
UPRIGHT = 40.0
"""Nearer to the line of a wall they stand upright, mm."""
FROM_RAFTER = 4.1 * INCH
"""They keep so far from the middles of rafters, beside which ties lie on either side."""
ASIDE = 12.0 * INCH
"""So far they are moved along a purlin for that, at most."""
HALF = 1.75 * INCH
"""Half as thick as the thickest of them, mm: so far they stand from the end of their purlin."""
BESIDE = 3.55 * INCH
"""Those of both slopes stand beside one another on a wall, their middles so far apart."""
STEP = 0.1 * INCH
DEEPEST = 10.0 * INCH
"""Purlins are taken to be no deeper where it is judged how steep struts are."""


class Strut(Value, frozen=True):
    """A strut: its name; where its middle meets the purlin and where it stands, in plan; on which wall, how high that is, mm; under which
    plane it stands.
    """

    key: str
    at: Point
    foot: Point
    wall: str
    level: float
    edge: int

    @property
    def run(self) -> float:
        """How far it leans, mm."""
        return distance(self.at, self.foot)


def laid_struts(
    plan: SurfacePlan, purlins: Iterable[Purlin], members: Sequence[SurfaceMember], lines: Mapping[str, WallLine]
) -> tuple[tuple[Strut, ...], tuple[Purlin, ...]]:
    """Return the struts under purlins: at their ends, and between so that none is farther from the next than the roof says, none where no
    bearing wall is near enough; and the purlins with their ends where the outermost of these hold them.
    """
    if plan.roof.purlins_on != "struts":
        return (), tuple(purlins)
    places, found, kept = Places(), list[Strut](), list[Purlin]()
    for one in purlins:
        corner, along, _ = eave(plan, one.edge)
        rafters = [
            dot(along, sub(m.member.start[:2], corner)) for m in members if m.wall and m.member.edges[0] == one.edge
        ]
        low, high = one.ends
        bays = max(math.ceil((high - low) / (plan.roof.struts_apart - 2.0 * FROM_RAFTER) - 1e-6), 1)
        mine = list[tuple[float, Strut]]()
        for k in range(bays + 1):
            # Inward from its ends, to both sides between them.
            ways = {0: (1.0,), bays: (-1.0,)}.get(k, (1.0, -1.0))
            begin = {0: one.wood[0] + HALF, bays: one.wood[1] - HALF}.get(k, low + (high - low) * k / bays)
            tried = [begin + way * n * STEP for n in range(int(ASIDE / STEP) + 1) for way in ways]
            made = next((x for s in tried if (x := _at(plan, one, s, rafters, lines, found)) is not None), None)
            if made is not None:
                s, strut = made
                name = piece_name(
                    plan.roof.id, "strut", places.text("strut", place_at(plan.outline.walls[one.edge], s))
                )
                found.append(replace(strut, key=name))
                mine.append((s, found[-1]))
        at = [s for s, _ in mine]
        ends = tuple(next((s for s in at if abs(s - end) <= ASIDE), end) for end in one.ends)
        kept.append(replace(one, ends=(ends[0], ends[1])))
    return tuple(found), tuple(kept)


def _at(
    plan: SurfacePlan,
    one: Purlin,
    s: float,
    rafters: Sequence[float],
    lines: Mapping[str, WallLine],
    others: Sequence[Strut],
) -> tuple[float, Strut] | None:
    """Return a strut under a place of a purlin, as yet without a name; None where rafters, other struts or no wall are there."""
    corner, along, inward = eave(plan, one.edge)
    if any(abs(s - r) < FROM_RAFTER for r in rafters):
        return None
    at = add(add(corner, along, s), inward, one.inward)
    rise = plan.bearing + plan.plate_to_top + purlin_line(plan, one).start[2] - _deep(plan, one)
    foot = _foot(plan, at, inward, rise, lines)
    if foot is None:
        return None
    made = Strut("", at, foot[0], foot[1], foot[2], one.edge)
    near = (x for x in others if x.wall == made.wall and abs(dot(along, sub(x.foot, made.foot))) < BESIDE)
    return None if any(near) else (s, made)


def _deep(plan: SurfacePlan, one: Purlin) -> float:
    """Return how far below the deck the underside of a purlin is taken to lie, plumb, mm."""
    steep = math.hypot(1.0, plan.edges[one.edge].pitch)
    return (section(plan.roof.rafters.size or "2x8").depth + DEEPEST) * steep


def _foot(
    plan: SurfacePlan, at: Point, inward: Point, high: float, lines: Mapping[str, WallLine]
) -> tuple[Point, str, float] | None:
    """Return where a strut from a place stands, on which wall, how high that is: the nearest that it reaches steeply enough."""
    found = []
    for name, line in lines.items():
        below = plan.bearing - line.band.top
        if line.wall.role == "divides" or not -1.0 < below <= LOW:
            continue
        middle = sum(line.core) / 2.0
        a, b = line.band.at(0.0, middle), line.band.at(line.band.length, middle)
        way = unit(a, b)
        across = cross(inward, way)
        if abs(across) < 0.2:
            continue
        t = cross(sub(a, at), way) / across
        foot = add(at, inward, t)
        along = dot(way, sub(foot, a))
        if 0.0 <= along <= line.band.length and (high - line.band.top) >= FLATTEST * abs(t):
            found.append((abs(t), foot, name, line.band.top))
    if not found:
        return None
    off, foot, name, level = min(found)
    return (at if off < UPRIGHT else foot), name, level


def strut_pieces(
    plan: SurfacePlan, struts: Sequence[Strut], sizes: Mapping[str, str], heads: Mapping[str, float]
) -> list[Piece]:
    """Return struts as solids; ``sizes``: their sections by name, ``heads``: how high the undersides of their purlins lie, mm."""
    found, roof = list[Piece](), plan.roof
    for one in struts:
        if one.key not in sizes or one.key not in heads:
            continue
        lumber, top = section(sizes[one.key]), heads[one.key]
        _, _, inward = eave(plan, one.edge)
        way = unit(one.at, one.foot) if one.run > 1.0 else inward
        rise, run = top - one.level, one.run
        long = math.hypot(rise, run)
        half = lumber.depth / 2.0 * long / rise
        ring = ((run - half, 0.0), (run + half, 0.0), (half, rise), (-half, rise))
        # Extruded along u x v: square to the way it leans.
        out = (way[1], -way[0])
        x, y = add(one.at, out, -lumber.breadth / 2.0)
        solid = Prism((x, y, one.level), (*way, 0.0), (0.0, 0.0, 1.0), (ring,), lumber.breadth)
        cut = lumber.depth * run / rise
        found.append(
            Piece(
                one.key, "strut", roof.id, roof.bearing.level, solid, "timber", (*one.at, top), (*one.foot, one.level), long + cut,
                sizes[one.key], roof.rafters.species, roof.rafters.grade,
            )
        )  # fmt: skip
    return found
