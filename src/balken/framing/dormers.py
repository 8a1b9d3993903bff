"""Dormers on a plane of a roof: where they stand, their own roof as one of planes that runs on onto it, the opening below them.

In the plane over a wall, s runs along that wall from its corner, t inward of the bearing line in plan; heights are true ones.
"""

import math
from collections.abc import Callable

from msgspec.structs import replace

from balken.catalog.sections import section
from balken.framing.outlines import Outline
from balken.framing.rafter_stations import THICK
from balken.framing.roof_layout import RoofMember
from balken.framing.roof_openings import TRIMMER, RoofHole, fits_in, in_plane
from balken.framing.surface_members import SurfaceMember
from balken.framing.surface_roofs import VALLEY_BOARD, SurfacePlan, rafter_shape
from balken.geometry.plane import Point, add, distance, left, to_segment, unit
from balken.model.kinds.roof import RoofSide
from balken.model.naming import piece_name
from balken.model.records import Dormer, Hang, Roof
from balken.value import Value

FRONT, RIGHT, BACK, LEFT = range(4)
NAMES = ("front", "right", "back", "left")
SPARE = 1.0
MEET = 5.0
"""Rafters whose heads lie no farther apart meet, mm."""
HEADS = 250.0
"""The opening ends so far before the rafters of a lean-to dormer come down on the roof, mm in plan."""
LEAST = 600.0
"""A dormer that dies into the roof nearer than this to its face is none, mm."""


class DormerPlace(Value, frozen=True):
    """A dormer on its roof: the number of the edge under its plane, from where to where it stands along that and in of it (to where its
    cheeks die), the thickness of its walls, the height of its plates; its own roof and outline; the opening below it, mm.

    ``problem``: why it cannot stand there, and then nothing of it.
    """

    dormer: Dormer
    edge: int
    s: tuple[float, float] = (0.0, 0.0)
    t: tuple[float, float] = (0.0, 0.0)
    thick: float = 0.0
    bearing: float = 0.0
    roof: Roof | None = None
    outline: Outline | None = None
    hole: RoofHole | None = None
    problem: str = ""

    @property
    def trimmers(self) -> tuple[float, float]:
        """Where along the edge the rafters under its cheeks stand, mm."""
        return self.s[0] + self.thick / 2.0, self.s[1] - self.thick / 2.0


def wall_name(dormer: str, side: int) -> str:
    """Return the name of a wall of a dormer."""
    return f"{dormer}.{NAMES[side]}"


def deck_at(host: SurfacePlan, edge: int, t: float) -> float:
    """Return how high the top of a roof's deck lies, t in of an edge, mm."""
    pitch = host.edges[edge].pitch
    return host.level(edge) + pitch * t + host.roof.deck * math.hypot(1.0, pitch)


def in_plan(host: SurfacePlan, edge: int, s: float, t: float) -> Point:
    """Return a place by how far along an edge and in of it it lies."""
    core = host.outline.core
    way = unit(core[edge], core[(edge + 1) % len(core)])
    return add(add(core[edge], way, s), left(way), t)


def place_dormer(dormer: Dormer, host: SurfacePlan) -> DormerPlace:
    """Place a dormer on a roof of planes."""
    edge = host.outline.walls.index(dormer.wall) if dormer.wall in host.outline.walls else -1
    nothing = DormerPlace(dormer, edge)
    if host.problem or edge < 0 or host.edges[edge].kind != "eave":
        return replace_place(nothing, "there is no plane over its wall")
    steep, thick = host.edges[edge].pitch, section(dormer.studs).depth
    s = dormer.along - dormer.width / 2.0, dormer.along + dormer.width / 2.0
    plates = deck_at(host, edge, dormer.front) + dormer.height
    roof = _roof(dormer, host, plates)
    lift = rafter_shape(roof, 1000.0, dormer.pitch).top(0.0)
    boards = VALLEY_BOARD * math.hypot(1.0, steep)
    rises = dormer.pitch if dormer.shape == "lean-to" else 0.0
    if steep - rises < 0.02:
        return replace_place(nothing, "its roof is as steep as the one it stands on: make it flatter")
    # Cheeks end where the deck is as high as their plates; the rafters of a lean-to come down where it is as high as they are.
    deep = (dormer.height + (lift - boards if rises else 0.0)) / (steep - rises)
    if deep < LEAST:
        return replace_place(nothing, "it dies into the roof right behind its face: make it higher")
    far = dormer.front + deep
    # A lean-to's own outline ends before its rafters come down; they run on from there.
    back = dormer.front + 0.95 * deep if rises else far
    corners = tuple(
        in_plan(host, edge, a, b) for a, b in ((s[0], dormer.front), (s[1], dormer.front), (s[1], back), (s[0], back))
    )
    outline = Outline(tuple(wall_name(dormer.id, side) for side in range(4)), corners)
    inner = s[0] + thick / 2.0 + TRIMMER + SPARE, s[1] - thick / 2.0 - TRIMMER - SPARE
    end = far - HEADS if rises else far - 2.0 * THICK
    hole = RoofHole(dormer.id, "dormer", edge, inner, (dormer.front + thick, end))
    if inner[1] - inner[0] < 300.0 or hole.inward[1] - hole.inward[0] < 300.0:
        return replace_place(nothing, "there is no room between its cheeks for an opening: make it wider or higher")
    return DormerPlace(dormer, edge, s, (dormer.front, far), thick, plates, roof, outline, hole)


def replace_place(place: DormerPlace, problem: str) -> DormerPlace:
    """Return a place at which no dormer can stand, and why."""
    return DormerPlace(place.dormer, place.edge, problem=problem)


def _roof(dormer: Dormer, host: SurfacePlan, plates: float) -> Roof:
    """Return a dormer's own roof: over its face a gable or an eave, at its back it runs on."""
    names = tuple(wall_name(dormer.id, side) for side in range(4))
    kinds = ("gable", "eave", "roof", "eave") if dormer.shape == "gable" else ("eave", "gable", "roof", "gable")
    sides = tuple(RoofSide(wall=w, kind=kind) for w, kind in zip(names, kinds, strict=True))  # type: ignore[arg-type]
    level = host.roof.bearing
    return Roof(
        id=dormer.id, name=dormer.name, walls=names, bearing=Hang(level=level.level, offset=level.offset + plates - host.bearing),
        pitch=dormer.pitch, overhang=dormer.overhang, rafters=dormer.rafters, ties=dormer.ties, deck=host.roof.deck, shape="planes", collar="none",
        sides=sides,
    )  # fmt: skip


def sized(dormer: Dormer, size: str) -> Dormer:
    """Return a dormer whose rafters are of a section."""
    return replace(dormer, rafters=replace(dormer.rafters, size=size))


def with_dormers(plan: SurfacePlan, dormers: tuple[DormerPlace, ...]) -> SurfacePlan:
    """Return a roof with the openings below its dormers."""
    made = list(plan.holes)
    for place in dormers:
        if place.hole is not None:
            made.append(fits_in(place.hole, plan.surface, plan.outline.core, made))
    return replace(plan, holes=tuple(made)) if dormers else plan


LayAt = Callable[[int, float], list[RoofMember]]


def with_trimmers(
    plan: SurfacePlan, members: tuple[SurfaceMember, ...], dormers: tuple[DormerPlace, ...], lay_at: LayAt
) -> tuple[SurfaceMember, ...]:
    """Return the rafters of a roof with one below each cheek of its dormers, and one opposite where that leans on a ridge board, in
    place of those that stand too near to it.
    """
    found = members
    for place in dormers:
        hole = next((h for h in plan.holes if h.opening == place.dormer.id and not h.problem), None)
        for k, s in enumerate(place.trimmers if hole is not None else ()):
            for m in lay_at(place.edge, s):
                (_, t0), (_, t1) = in_plane(plan.outline.core, place.edge, [m.start[:2], m.end[:2]])
                if hole is None or t0 > hole.inward[0] or t1 < hole.inward[1]:
                    continue
                found = _put(plan, found, m, piece_name(plan.roof.id, "dormer-trimmer", place.dormer.id, "ab"[k]))
                mate = _opposite(plan, m, lay_at) if plan.roof.ridge_made == "board" else None
                if mate is not None:
                    found = _put(plan, found, mate, piece_name(plan.roof.id, "dormer-mate", place.dormer.id, "ab"[k]))
                break
    return found


def _put(plan: SurfacePlan, members: tuple[SurfaceMember, ...], m: RoofMember, key: str) -> tuple[SurfaceMember, ...]:
    """Return members with one more, those beside which it finds no place left out."""
    core, edge = plan.outline.core, m.edges[0]
    (s, t0), (_, t1) = in_plane(core, edge, [m.start[:2], m.end[:2]])
    kept = []
    for one in members:
        if one.wall and one.member.edges[0] == edge:
            (at, u0), (_, u1) = in_plane(core, edge, [one.member.start[:2], one.member.end[:2]])
            if abs(at - s) < TRIMMER + THICK and min(u1, t1) - max(u0, t0) > 1.0:
                continue
        kept.append(one)
    return (*kept, SurfaceMember(key, m, plan.outline.walls[edge]))


def _opposite(plan: SurfacePlan, m: RoofMember, lay_at: LayAt) -> RoofMember | None:
    """Return the rafter that would meet one at its ridge."""
    for line in plan.surface.lines:
        if (
            line.kind != "ridge"
            or m.edges[0] not in line.edges
            or to_segment(m.end[:2], line.start[:2], line.end[:2]) > MEET
        ):
            continue
        for edge in line.edges:
            if edge != m.edges[0]:
                ((s, _),) = in_plane(plan.outline.core, edge, [m.end[:2]])
                return next((x for x in lay_at(edge, s) if distance(x.end[:2], m.end[:2]) < MEET), None)
    return None
