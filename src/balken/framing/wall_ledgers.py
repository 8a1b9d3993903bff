"""Ledgers of roofs: boards on the face of a taller wall, as long as a plane ends there, in whose hangers its rafters' heads lie."""

import math
from collections.abc import Iterable, Sequence

from balken.catalog.sections import section
from balken.framing.pieces import Piece, split_run
from balken.framing.roof_layout import SQUARE, RoofMember
from balken.framing.surface_members import LEDGER, SurfaceMember, deep_enough, wall_side
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_layout import TrussRow
from balken.geometry.leaning import Leaning
from balken.geometry.plane import Point, Ring, add, area, cross, distance, dot, left, sub, to_segment, unit
from balken.geometry.roof_edges import Place
from balken.geometry.roof_surface import RoofFace, RoofLine
from balken.model.naming import Places, piece_name, place_at
from balken.units.system import INCH
from balken.value import Value

BOARDS = ("2x8", "2x10", "2x12")
"""Of ledgers of trusses."""
LEAST_OVER = 2.0 * INCH
"""So much higher than the bottom chords that hang on it a ledger is at least: nails keep clear of hangers, mm (common practice, no source)."""
RIGHT = 0.999
"""Sine of the angle from which walls meet squarely."""
ON = 1.0
"""Heads no farther than this from a line end there, mm."""


class WallLedger(Value, frozen=True):
    """A ledger: the wall and the edge of the plane that ends there, its ends on the face of the wall at the height of the deck's underside
    (x, y, z), how that rises along it and from it toward the eave (rise over run), its board, the rafters that hang on it.
    """

    key: str
    wall: str
    edge: int
    start: Place
    end: Place
    rise: float
    falls: float
    size: str
    heads: tuple[str, ...]
    lower: float = 0.0
    """How far its upper edge lies below the plane there, under tapered strips, mm."""

    @property
    def way(self) -> Point:
        """From its start to its end in plan."""
        return unit(self.start[:2], self.end[:2])

    @property
    def length(self) -> float:
        """In plan, mm."""
        return distance(self.start[:2], self.end[:2])

    def top(self, along: float) -> float:
        """Return how high its upper edge lies, which meets the plane at its front, mm."""
        return self.start[2] + self.rise * along - LEDGER * self.falls

    @property
    def below(self) -> float:
        """How far it reaches below the underside of the deck at the wall, mm."""
        return self.plumb + LEDGER * self.falls + self.lower

    @property
    def plumb(self) -> float:
        """How deep it is, plumb, mm."""
        return section(self.size).depth * math.hypot(1.0, self.rise)


def ledgers(plan: SurfacePlan, members: Sequence[SurfaceMember], rafter: str) -> tuple[WallLedger, ...]:
    """Return the ledgers of a roof whose rafters are laid; ``rafter``: their section."""
    found, places = [], Places()
    heads = [one for one in members if one.wall and one.member.head.kind == "wall"]
    faces = {face.edge: face for face in plan.surface.faces}
    for line in plan.surface.lines if heads else ():
        side, edge = wall_side(plan, line), line.edges[0]
        if side is None or edge not in faces or distance(line.start[:2], line.end[:2]) < LEDGER:
            continue
        mine = [one for one in heads if one.member.edges[0] == edge and _ends_on(one.member, line)]
        if mine:
            found.append(_ledger(plan, line, faces[edge], side, rafter, mine, places))
    # One over a gable wall alone carries nothing: what ends there lies on that.
    return tuple(one for one in found if one.heads)


def _ends_on(m: RoofMember, line: RoofLine) -> bool:
    return to_segment(m.end[:2], line.start[:2], line.end[:2]) < ON


def _ledger(
    plan: SurfacePlan,
    line: RoofLine,
    face: RoofFace,
    side: int,
    rafter: str,
    heads: list[SurfaceMember],
    places: Places,
) -> WallLedger:
    core, n, lift = plan.outline.core, len(plan.outline.core), plan.bearing + plan.plate_to_top
    p, q = core[side], core[(side + 1) % n]
    way = unit(p, q)
    start, end = _between_gables(plan, side, *sorted((line.start, line.end), key=lambda x: dot(way, x[:2])))
    long = distance(start[:2], end[:2])
    up = left(unit(core[face.edge], core[(face.edge + 1) % n]))
    steep = 0.0 if plan.tapered else face.pitch
    size = plan.roof.ledger_size or deep_enough(rafter, (end[2] - start[2]) / long, steep)[0]
    wall = plan.outline.walls[side]
    name = places.text("plane-ledger", place_at(wall, dot(way, sub(start[:2], p)), (plan.outline.walls[face.edge],)))
    lower = plan.tapered + start[2] if plan.tapered else 0.0
    ends = [(x, y, z + lift - lower) for x, y, z in (start, end)]
    falls = -face.pitch * dot(up, left(way)) if not plan.tapered else 0.0
    return WallLedger(
        piece_name(plan.roof.id, "plane-ledger", name), wall, face.edge, ends[0], ends[1],
        (end[2] - start[2]) / long, max(falls, 0.0), size,
        tuple(one.key for one in heads if to_segment(one.member.end[:2], start[:2], end[:2]) < ON), lower,
    )  # fmt: skip


def _between_gables(plan: SurfacePlan, side: int, start: Place, end: Place) -> tuple[Place, Place]:
    """Return the ends of a ledger clear of gable walls: on their raking plates lie end rafters, which they carry; and of the ledger that it
    meets at an inner corner; round an outer one it reaches over that one's end.
    """
    core, n, long = plan.outline.core, len(plan.outline.core), distance(start[:2], end[:2])
    way, cuts = unit(core[side], core[(side + 1) % n]), []
    for at, corner, beside in ((start, core[side], side - 1), (end, core[(side + 1) % n], side + 1)):
        k = beside % n
        across = abs(cross(way, unit(core[k], core[(k + 1) % n])))
        there, kind = across > 0.1 and distance(at[:2], corner) < ON, plan.edges[k].kind
        # Two that meet at a sharp corner lie side by side over more of their length; round a square outer corner one laps the other's end.
        sharp = max(-dot(way, unit(core[k], core[(k + 1) % n])), 0.0)
        before = cross(unit(core[k], core[(k + 1) % n]), way)
        lapped = LEDGER * (1.0 + sharp) if kind == "wall" and beside == side - 1 else 0.0
        if before < 0.0 and lapped:
            lapped = -LEDGER if across > RIGHT else 0.0
        wide = 2.0 * plan.deep[k] if kind == "gable" else lapped
        cuts.append(wide / across / long if there else 0.0)
    if sum(cuts) > 0.9:
        return start, end
    first, last = ((a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t)
                   for a, b, t in ((start, end, cuts[0]), (end, start, cuts[1])))  # fmt: skip
    return first, last


def truss_ledger(plan: SurfacePlan, side: int, chord: float, heads: tuple[str, ...]) -> WallLedger:
    """Return the ledger along a side on which trusses hang by their bottom chords, so deep (mm): its lower edge as low as these."""
    core, n = plan.outline.core, len(plan.outline.core)
    start, end = _between_gables(plan, side, (*core[side], 0.0), (*core[(side + 1) % n], 0.0))
    size = next((name for name in BOARDS if section(name).depth >= chord + LEAST_OVER), BOARDS[-1])
    size = plan.roof.ledger_size or size
    top = plan.bearing + section(size).depth
    wall = plan.outline.walls[side]
    along = distance(core[side], start[:2])
    name = piece_name(plan.roof.id, "plane-ledger", place_at(wall, along, ("trusses",)).text)
    return WallLedger(name, wall, plan.surface.faces[0].edge, (*start[:2], top), (*end[:2], top), 0.0, 0.0, size, heads)


def ledger_ring(plan: SurfacePlan, row: TrussRow) -> Ring:
    """Return where a ledger of trusses may stand, as a truss's plane cuts it: what lies beside the truss's end stays off it."""
    deep = max(section(name).depth for name in (BOARDS[-1], plan.roof.ledger_size or BOARDS[-1]))
    return (row.wide, 0.0), (row.wide + LEDGER, 0.0), (row.wide + LEDGER, deep), (row.wide, deep)


def ledger_pieces(plan: SurfacePlan, found: Iterable[WallLedger], stock: float) -> tuple[Piece, ...]:
    """Return ledgers as boards, in lengths of stock, mm."""
    roof, pieces = plan.roof, []
    for one in found:
        way, lumber = one.way, section(one.size)
        aside = left(way)
        for k, (a, b) in enumerate(split_run(one.length, stock)):
            ends = [add(one.start[:2], way, s) for s in (a, b)]
            ring: Ring = (*ends, add(ends[1], aside, LEDGER), add(ends[0], aside, LEDGER))
            low = one.top(a) - one.plumb
            solid = Leaning(
                ring if area(ring) > 0.0 else ring[::-1],
                (*ends[0], low),
                (way[0] * one.rise, way[1] * one.rise),
                one.plumb,
            )
            key = one.key if k == 0 else piece_name(one.key, f"{k}")
            long = (b - a) * math.hypot(1.0, one.rise) + lumber.depth * abs(one.rise)
            pieces.append(
                Piece(
                    key, "ledger", roof.id, roof.bearing.level, solid, "timber", (*ends[0], one.top(a)), (*ends[1], one.top(b)), long,
                    one.size, roof.rafters.species, roof.rafters.grade, one.wall,
                )
            )  # fmt: skip
    return tuple(pieces)


def as_lines(plan: SurfacePlan, members: Sequence[SurfaceMember]) -> list[tuple[RoofMember, float]]:
    """Return the lines where planes end against walls as members in plan, for what is cut before them, and how far before them the faces of
    ledgers lie, mm: nothing where no rafter hangs.
    """
    heads = [one.member for one in members if one.wall and one.member.head.kind == "wall"]
    found = []
    core, n = plan.outline.core, len(plan.outline.core)
    for line in plan.surface.lines:
        side = wall_side(plan, line)
        if side is None:
            continue
        way = unit(core[side], core[(side + 1) % n])
        start, end = sorted((line.start, line.end), key=lambda p, way=way: dot(way, p[:2]))  # type: ignore[misc]
        # Round an outer corner it runs on over the end of the next one.
        over = max(-dot(way, sub(_between_gables(plan, side, start, end)[0][:2], start[:2])), 0.0)
        m = RoofMember(
            "ledger", start, end, line.edges[:1], line.length, line.length, 0.0, 0.0, 0.0, SQUARE, SQUARE, over
        )
        hangs = any(head.edges[0] == line.edges[0] and _ends_on(head, line) for head in heads)
        found.append((m, LEDGER if hangs else 0.0))
    return found
