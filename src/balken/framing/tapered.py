"""Flat roofs whose rafters lie level: strips on them, ever thicker from the eave up, make the fall of the deck."""

import math
from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING

from balken.catalog.section_record import Section
from balken.catalog.sections import section
from balken.framing.past_heads import Around, alongside
from balken.framing.pieces import Piece, split_run
from balken.framing.roof_layout import RoofMember
from balken.geometry.plane import Point, Ring, add, distance, dot, left, sub, unit
from balken.geometry.prism import Prism
from balken.geometry.roof_surface import RoofSurface
from balken.model.kinds.roof import Roof
from balken.model.naming import SLASH, piece_name
from balken.units import say_both
from balken.units.system import INCH

if TYPE_CHECKING:
    from balken.framing.surface_framing import RafterHeader
    from balken.framing.surface_members import Boards, SurfaceMember
    from balken.framing.surface_roofs import SurfacePlan

STEEPEST = 1.0 / 12.0
"""Steeper roofs have rafters that slope (common practice, no source)."""
THINNEST = 0.75 * INCH
"""Strips are no thinner at their lower ends (common practice, no source)."""
BOARDS = ("2x4", "2x6", "2x8", "2x10", "2x12")
"""Of what strips are ripped."""
ROLE = "tapered strip"


def why_not_tapered(roof: Roof, around: Around, surface: RoofSurface) -> str:
    """Return why the rafters of a roof cannot lie level under tapered strips; "" where they can."""
    eaves = [k for k, edge in enumerate(around.edges) if edge.kind == "eave"]
    if roof.framed != "rafters":
        return "trusses carry it"
    if len(eaves) != 1 or len(surface.faces) != 1 or len(around.core) != 4:
        return "such are made on single slopes over rectangles: make one of its edges an eave and the others gables"
    high = alongside(around, eaves[0], ("gable", "wall"))
    pitch = around.edges[eaves[0]].pitch
    if len(high) != 1:
        return "its rafters lie on a wall at their upper ends, or hang on one: make the edge there a gable, or let it stand against the wall"
    if pitch > STEEPEST + 1e-6:
        return "it is steeper than 1:12"
    if any(around.overhangs[k] > 1.0 for k in range(4) if k not in (eaves[0], high[0])):
        return "ladders of overhangs beside its rafters would have to taper, too: set the overhangs there to 0"
    run = _run(around, eaves[0], high[0])
    thick = thinnest(pitch, around.overhangs[eaves[0]]) + pitch * (run + around.overhangs[high[0]])
    if thick > section(BOARDS[-1]).depth:
        return f"its strips would be {say_both(thick)} thick at their upper ends, more than a {BOARDS[-1]} has"
    return ""


def _run(around: Around, eave: int, high: int) -> float:
    """Return how far apart an eave and the wall alongside it are, mm."""
    a, out = around.core[high], around.out(high)
    b = around.core[eave]
    return abs(out[0] * (a[0] - b[0]) + out[1] * (a[1] - b[1]))


def thinnest(pitch: float, overhang: float) -> float:
    """Return how thick strips are over the wall under their eave, mm."""
    return THINNEST + pitch * overhang


def level_members(plan: "SurfacePlan", members: Sequence[RoofMember]) -> list[RoofMember]:
    """Return the rafters of a roof with tapered strips as they lie: level."""
    if not plan.tapered:
        return list(members)
    found = []
    for m in members:
        run = distance(*m.ends)
        found.append(
            m._replace(
                end=(*m.end[:2], m.start[2]),
                theoretical=run,
                length=run + m.over + m.past,
                slope=0.0,
                bevel=0.0,
                top_edge=0.0,
            )
        )
    return found


def strip_pieces(
    plan: "SurfacePlan",
    members: "Sequence[SurfaceMember]",
    headers: "Sequence[RafterHeader]",
    boards: "Boards",
    stock: float,
) -> tuple[Piece, ...]:
    """Return the strips on the rafters of a roof, and on headers of openings, none longer than ``stock``, mm; none of a roof without."""
    if not plan.tapered:
        return ()
    found = []
    for one in members:
        m, lumber = one.member, section(boards.own.get(one.key, boards.rafter))
        way = unit(*m.ends)
        first = _inward(plan, m.edges[0], m.start[:2])
        before = m.head.half if m.head.kind == "header" else 0.0
        behind = m.foot.half if m.foot.kind == "header" else 0.0
        long = m.over + distance(*m.ends) - before - behind + m.past
        steep = math.hypot(1.0, plan.edges[m.edges[0]].pitch)
        name = one.key.split(SLASH, 2)[2]
        for k, (a, b) in enumerate(split_run(long, stock / steep)):
            between = first + behind + a - m.over, first + behind + b - m.over
            rows = _plies(m.start[:2], way, lumber)
            for ply, side in enumerate(rows):
                begin = add(side, way, -first)
                found.append(
                    _strip(
                        plan, boards, m.edges[0], begin, lumber.breadth / len(rows), between, f"{name}{_number(k, ply)}"
                    )
                )
    for header in headers:
        found += _on_header(plan, header, boards)
    return tuple(found)


def _number(piece: int, ply: int) -> str:
    return "".join(f"{SLASH}{k}" for k in ((piece, ply) if ply else (piece,) if piece else ()))


def _inward(plan: "SurfacePlan", edge: int, at: Point) -> float:
    """Return how far in of an edge a place lies, mm."""
    core = plan.outline.core
    return dot(left(unit(core[edge], core[(edge + 1) % len(core)])), sub(at, core[edge]))


def _plies(at: Point, way: Point, lumber: Section) -> list[Point]:
    """Return the left sides of the plies of a rafter whose middle runs through a place."""
    thick = lumber.breadth / lumber.plies
    return [add(at, left(way), lumber.breadth / 2.0 - k * thick) for k in range(lumber.plies)]


def _on_header(plan: "SurfacePlan", header: "RafterHeader", boards: "Boards") -> "Iterator[Piece]":
    """Yield the strips on a header between its trimmers, one on each ply: alike from end to end, their upper edges in the slope."""
    core, lumber = plan.outline.core, section(header.size)
    a, b = core[header.edge], core[(header.edge + 1) % len(core)]
    way, halves = unit(a, b), [section(boards.own.get(key, boards.rafter)).breadth / 2.0 for key in header.trimmers]
    low, high = header.between[0] + halves[0], header.between[1] - halves[1]
    thick = lumber.breadth / lumber.plies
    begin = header.inward - lumber.breadth * (1 - header.end)
    for k in range(lumber.plies):
        between = begin + k * thick, begin + (k + 1) * thick
        # Extruded across, from its upper end to its lower one as seen along the edge.
        yield _strip(
            plan, boards, header.edge, add(a, way, low), high - low, between,
            f"{header.opening}{header.end}{_number(k, 0)}", across=True,
        )  # fmt: skip


def _strip(
    plan: "SurfacePlan",
    boards: "Boards",
    edge: int,
    side: Point,
    wide: float,
    between: tuple[float, float],
    name: str,
    across: bool = False,
) -> Piece:
    """Return a piece of a strip from where to where in of the bearing line, mm, ripped from the least board; ``side``: the place on that line at
    the left of it; ``across``: it runs along the eave, from there on.
    """
    roof, core, (low, high) = plan.roof, plan.outline.core, between
    along = unit(core[edge], core[(edge + 1) % len(core)])
    way, pitch = left(along), plan.edges[edge].pitch
    thick = [plan.tapered + pitch * at for at in between]
    profile: Ring = ((low, 0.0), (high, 0.0), (high, thick[1]), (low, thick[0]))
    z = plan.bearing + plan.edges[edge].start + section(boards.rafter).depth
    board = next((n for n in BOARDS if section(n).depth >= thick[1]), BOARDS[-1])
    solid = Prism((*side, z), (*way, 0.0), (0.0, 0.0, 1.0), (profile,), wide)
    if across:
        middle = add(side, way, (low + high) / 2.0)
        start, end, long = (*middle, z + thick[0]), (*add(middle, along, wide), z + thick[0]), wide
    else:
        middle = add(side, along, wide / 2.0)
        start, end = ((*add(middle, way, at), z + t) for at, t in zip(between, thick, strict=True))
        long = (high - low) * math.hypot(1.0, pitch)
    return Piece(
        piece_name(roof.id, "strip", name), ROLE, roof.id, roof.bearing.level, solid, "timber", start, end, long, board,
        roof.rafters.species, roof.rafters.grade,
    )  # fmt: skip
