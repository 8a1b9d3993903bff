"""Flat roofs whose rafters lie level: strips on them, ever thicker from the eave up, make the fall of the deck."""

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING

from balken.catalog.sections import section
from balken.framing.past_heads import Around, alongside
from balken.framing.pieces import Piece, split_run
from balken.framing.roof_layout import RoofMember
from balken.geometry.plane import Ring, add, distance, left, unit
from balken.geometry.prism import Prism
from balken.geometry.roof_surface import RoofSurface
from balken.model.kinds.roof import Roof
from balken.model.naming import SLASH, piece_name
from balken.units import say_both
from balken.units.system import INCH

if TYPE_CHECKING:
    from balken.framing.surface_members import Boards, SurfaceMember
    from balken.framing.surface_roofs import SurfacePlan

STEEPEST = 1.0 / 12.0
"""Steeper roofs have rafters that slope (common practice, no source)."""
THINNEST = 0.75 * INCH
"""Strips are no thinner at their lower ends (common practice, no source)."""
BOARDS = ("2x4", "2x6", "2x8", "2x10", "2x12")
"""Of what strips are ripped."""
ROLE = "tapered strip"


def why_not_tapered(roof: Roof, around: Around, surface: RoofSurface, holes: int) -> str:
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
    if holes:
        return "windows, chimneys and shafts are framed between sloping rafters"
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
    plan: "SurfacePlan", members: "Sequence[SurfaceMember]", boards: "Boards", stock: float
) -> tuple[Piece, ...]:
    """Return the strips on the rafters of a roof, none longer than ``stock``, mm; none of a roof without."""
    if not plan.tapered:
        return ()
    found = []
    for one in members:
        long = one.member.over + distance(*one.member.ends) + one.member.past
        steep = math.hypot(1.0, plan.edges[one.member.edges[0]].pitch)
        for k, (a, b) in enumerate(split_run(long, stock / steep)):
            found.append(_strip(plan, one, boards, (a - one.member.over, b - one.member.over), k))
    return tuple(found)


def _strip(
    plan: "SurfacePlan", one: "SurfaceMember", boards: "Boards", between: tuple[float, float], number: int
) -> Piece:
    """Return a piece of a strip from where to where along its rafter, mm in of the bearing line; ripped from the least board."""
    m, roof, (low, high) = one.member, plan.roof, between
    lumber = section(boards.own.get(one.key, boards.rafter))
    way, pitch = unit(*m.ends), plan.edges[m.edges[0]].pitch
    thick = [plan.tapered + pitch * at for at in between]
    profile: Ring = ((low, 0.0), (high, 0.0), (high, thick[1]), (low, thick[0]))
    z = plan.bearing + m.start[2] + section(boards.rafter).depth
    x, y = add(m.start[:2], left(way), lumber.breadth / 2.0)
    board = next((name for name in BOARDS if section(name).depth >= thick[1]), BOARDS[-1])
    solid = Prism((x, y, z), (*way, 0.0), (0.0, 0.0, 1.0), (profile,), lumber.breadth)
    start, end = ((*add(m.start[:2], way, at), z + t) for at, t in zip(between, thick, strict=True))
    name = piece_name(roof.id, "strip", one.key.split(SLASH, 2)[2], *((f"{number}",) if number else ()))
    return Piece(
        name, ROLE, roof.id, roof.bearing.level, solid, "timber", start, end, (high - low) * math.hypot(1.0, pitch), board,
        roof.rafters.species, roof.rafters.grade,
    )  # fmt: skip
