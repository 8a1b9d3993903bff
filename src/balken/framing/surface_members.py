"""The members under a roof of planes, each with its name: rafters by their wall and how far along it, lines by the walls that meet."""

import math
from collections.abc import Callable, Mapping
from typing import NamedTuple

from balken.catalog.sections import section
from balken.framing.joined_roofs import without_tails
from balken.framing.past_heads import with_past
from balken.framing.pieces import MadeOf
from balken.framing.rafter_stations import THICK, RafterSpacing
from balken.framing.ridge_seats import under_edges
from balken.framing.roof_layout import RoofMember, roof_members
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.tapered import level_members
from balken.geometry.plane import Point, Ring, add, cross, distance, dot, off_line, sub, unit
from balken.geometry.roof_surface import RoofLine
from balken.model.kinds.roof import RafterSetOut
from balken.model.naming import Places, oldest, piece_name, place_at
from balken.value import Value

RIDGES = ("2x6", "2x8", "2x10", "2x12", "2x14")
"""Boards tried for ridges, hips and valleys, in rising order."""
SORTS = {"ridge": "plane-ridge", "hip": "plane-hip", "valley": "plane-valley"}
ALIKE = 1e-6
"""Edges that turn by less run alike, rad."""
ROLES = {"ridge": "ridge board", "hip": "hip rafter", "valley": "valley rafter"}


CLEAR_OF_TRUSS = 2.0 * THICK
"""No rafter stands nearer to the face of a truss beside it, mm."""
LEDGER = THICK
"""How thick ledgers on walls are, mm."""
AS_OTHERS = MadeOf()
USUAL: Mapping[tuple[str, frozenset[int]], float] = {}


class SurfaceMember(Value, frozen=True):
    """A member under a roof of planes: its name, what it is, the wall from which its place is counted ("" for lines)."""

    key: str
    member: RoofMember
    wall: str

    @property
    def role(self) -> str:
        """What lists call it."""
        return ROLES.get(self.member.role, "rafter")


class Boards(NamedTuple):
    """Of what a roof of planes is made: rafters, ridges; hips and valleys, and trimmers, by their names."""

    rafter: str
    ridge: str
    lines: dict[str, str]
    own: dict[str, str] = {}  # noqa: RUF012 (never written on)
    """Of rafters that are not as the others."""
    wood: dict[str, MadeOf] = {}  # noqa: RUF012
    """Of rafters with a hand edit: species and grade, where they are others."""


def surface_members(
    plan: SurfacePlan, spacing: float, thick: Mapping[tuple[str, frozenset[int]], float] = USUAL
) -> tuple[SurfaceMember, ...]:
    """Lay the members of a roof of planes, each with its name: by its wall and how far along it, or by the walls that meet.

    ``thick``: of hips and valleys that are no single board, by their kind and edges, mm.
    """
    core, walls, places = plan.outline.core, plan.outline.walls, Places()
    found, wide = [], thickness(plan, thick)
    roof, begins = plan.roof, opposed(core, spacing, plan.roof.set_out)
    how = RafterSpacing(spacing, begins, roof.full_rafters, roof.jacks, min(roof.least_gap, spacing / 2.0))
    laid = roof_members(plan.surface, core, plan.edges, plan.overhangs, how, wide)
    for member in level_members(plan, with_past(plan, without_tails(plan, laid))):
        if member.role in SORTS:
            sides = [walls[e] for e in member.edges if e >= 0]
            at = place_at(oldest(sides), distance(core[member.edges[0]], member.start[:2]), tuple(sorted(sides)))
            found.append(
                SurfaceMember(piece_name(plan.roof.id, SORTS[member.role], places.text(member.role, at)), member, "")
            )
            continue
        if _at_truss(plan, member):
            continue
        edge = member.edges[0]
        way = unit(core[edge], core[(edge + 1) % len(core)])
        along = dot(way, sub(member.start[:2], core[edge]))
        name = places.text("plane-rafter", place_at(walls[edge], along))
        found.append(SurfaceMember(piece_name(plan.roof.id, "plane-rafter", name), member, walls[edge]))
    return tuple(found)


def _at_truss(plan: SurfacePlan, m: RoofMember) -> bool:
    """Whether a rafter would stand where a truss at a hip end does, or right before it."""
    faces = ((at.face[0], at.face[2]) for at in plan.ends_at if at.edge != m.edges[0])
    return any(abs(off_line(m.start[:2], *face)[1]) < CLEAR_OF_TRUSS for face in faces)


def wall_side(plan: SurfacePlan, line: RoofLine) -> int | None:
    """Return the side at which a line lies where a plane ends against its wall; None for other lines."""
    if line.kind != "wall":
        return None
    return next((e for e in line.edges if e >= 0 and plan.edges[e].kind == "wall"), None)


def thickness(
    plan: SurfacePlan, thick: Mapping[tuple[str, frozenset[int]], float] = USUAL
) -> Callable[[RoofLine], float]:
    """Return what tells how thick the board along a line of a roof is between rafters, mm: nothing of beams under them, twice a ledger where
    they end on its face.
    """
    under = under_edges(plan)

    def wide(line: RoofLine) -> float:
        edges = frozenset(line.edges)
        if line.kind == "wall":
            return 0.0 if wall_side(plan, line) is None else 2.0 * LEDGER
        return 0.0 if line.kind == "ridge" and edges in under else thick.get((line.kind, edges), THICK)

    return wide


def opposed(core: Ring, spacing: float, set_out: RafterSetOut = "corner") -> tuple[float, ...]:
    """Return how far from the first corner of each edge its rafters are set out so that those of opposite eaves meet at their ridge
    (IRC R802.3): all edges that run alike count from the first corner of the first of them, or its last; or from its middle, on a rafter or
    between two, whichever leaves the wider gap at its ends.
    """
    first: list[tuple[Point, Point]] = []
    found = []
    for k, corner in enumerate(core):
        way = unit(corner, core[(k + 1) % len(core)])
        origin = next((at for at, other in first if abs(cross(way, other)) < ALIKE), None)
        if origin is None:
            origin = core[(k + 1) % len(core)] if set_out == "end" else corner
            if set_out == "middle":
                half = distance(corner, core[(k + 1) % len(core)]) / 2.0
                on, between = half % spacing, (half + spacing / 2.0) % spacing
                origin = add(corner, way, on if on >= between else between)
            first.append((origin, way))
        found.append(round(dot(way, sub(origin, corner)), 6) % spacing)
    return tuple(found)


def deep_enough(rafter: str, slope: float, pitch: float) -> tuple[str, ...]:
    """Return the boards, in rising order, whose plumb cut is no less than that of a rafter (IRC R802.3); slopes as rise over run."""
    need = section(rafter).depth * math.hypot(1.0, pitch)
    boards = tuple(name for name in RIDGES if section(name).depth * math.hypot(1.0, slope) >= need - 0.5)
    return boards or RIDGES[-1:]
