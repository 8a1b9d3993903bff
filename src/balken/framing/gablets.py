"""Gablets: small gables on hips.  Both planes beside a hip run on over it, up to an upright face that stands on its deck.

A gablet is laid over the whole hip as another roof that runs onto it is: short rafters on valley boards, what they carry on the hip's
own rafters.  Its planes lie in those of the roof, so that width and height follow from how far in of the eave its face stands.
"""

import math
from typing import NamedTuple

from balken.catalog.sections import section
from balken.framing.dormer_walls import APART, BOARD, SHORTEST, DormerWall, DormerWalls, Seen, Stick
from balken.framing.dormers import DormerPlace, deck_at, in_plan, replace_place, wall_name
from balken.framing.outlines import Outline
from balken.framing.rafter_stations import THICK
from balken.framing.roof_openings import in_plane
from balken.framing.surface_roofs import VALLEY_BOARD, SurfacePlan, rafter_shape
from balken.geometry.plane import Ring, dot, left, unit
from balken.geometry.prism import Prism
from balken.geometry.roof_joins import OVER
from balken.model.kinds.dormer import FLATTEST_GABLE, NARROWEST
from balken.model.kinds.roof import RoofSide
from balken.model.records import Dormer, Hang, Roof
from balken.units.system import INCH

FRONT, RIGHT, BACK, LEFT = range(4)
SQUARE = 1.0 - 1e-6
"""Cosine from which on the planes beside a hip run square to it."""
NO_HIP = "it needs a hip at either side of its face: set it in the plane over the end of a roof, below its ridge"
SKEW = "the planes beside it do not run square to its face: gablets are laid out over square corners alone"
FLAT = "beside it the roof rises less than 3:12, too flat for its ridge, which is a board (IRC R802.4.4)"
SHALLOW = "the hip is too flat for rafters as deep as its own: give it shallower ones"
NARROW = "so near to the ridge it would be too narrow: set its face nearer to the eave"

HANGS = OVER - 10.0
"""Its eaves may hang so far over the hip behind its face, mm."""
LEAST = 4.0 * THICK
"""Its outline is no less deep, so that its first pair of rafters stands over its face, mm."""
CLOSEST = 12.0 * INCH
"""Its rafters stand no closer than this where no spacing is typed, mm."""
UNMET = "the planes beside it do not meet over the hip: a gablet stands over the end of a roof"


class Beside(NamedTuple):
    """A plane beside a hip: its edge, its pitch, and where along the hip's eave its own bearing line lies, mm."""

    edge: int
    pitch: float
    at: float


def place_gablet(dormer: Dormer, host: SurfacePlan) -> DormerPlace:
    """Place a gablet on a hip of a roof of planes."""
    edge = host.outline.walls.index(dormer.wall) if dormer.wall in host.outline.walls else -1
    nothing = DormerPlace(dormer, edge)
    if host.problem or edge < 0 or host.edges[edge].kind != "eave":
        return replace_place(nothing, "there is no plane over its wall")
    sides = _beside(host, edge, dormer.front)
    if isinstance(sides, str):
        return replace_place(nothing, sides)
    steep, thick = host.edges[edge].pitch, section(dormer.studs).depth
    slope = math.hypot(1.0, steep)
    plates = deck_at(host, edge, dormer.front + thick) + THICK * slope
    roof = _roof(dormer, host, plates, sides)
    lift = rafter_shape(roof, 1000.0, roof.pitch).top(0.0)
    # Where the underside of its deck, which is that of the planes beside, is as high as its plates hold it.
    s0, s1 = (
        side.at + turn * (plates + lift - host.level(side.edge)) / side.pitch
        for side, turn in zip(sides, (1.0, -1.0), strict=True)
    )
    if s1 - s0 < NARROWEST:
        return replace_place(nothing, NARROW)
    # Its eaves come down on the hip's valley boards so far behind its face.
    deep = (plates + lift - deck_at(host, edge, dormer.front) - VALLEY_BOARD * slope) / steep
    # Behind those that stand on its sole no rafter stands at its eaves: these hang over the hip from there on.
    back = max(LEAST, deep - HANGS / steep)
    if back > (dormer.rafters.spacing or CLOSEST) - THICK:
        return replace_place(nothing, SHALLOW)
    back += dormer.front
    corners = tuple(
        in_plan(host, edge, a, b) for a, b in ((s0, dormer.front), (s1, dormer.front), (s1, back), (s0, back))
    )
    outline = Outline(tuple(wall_name(dormer.id, side) for side in range(4)), corners)
    return DormerPlace(dormer, edge, (s0, s1), (dormer.front, dormer.front + deep), thick, plates, roof, outline)


def _beside(host: SurfacePlan, edge: int, front: float) -> tuple[Beside, Beside] | str:
    """Return the planes left and right of a hip's plane where a face stands in it; or why no gablet can stand there."""
    core, found = host.outline.core, list[tuple[float, Beside]]()
    way = unit(core[edge], core[(edge + 1) % len(core)])
    for line in host.surface.lines:
        if line.kind != "hip" or edge not in line.edges:
            continue
        (s0, t0), (s1, t1) = sorted(in_plane(core, edge, [line.start[:2], line.end[:2]]), key=lambda p: p[1])
        if not t0 <= front < t1:
            continue
        other = line.edges[0] if line.edges[1] == edge else line.edges[1]
        inward = left(unit(core[other], core[(other + 1) % len(core)]))
        ((at, _),) = in_plane(core, edge, [core[other]])
        if abs(dot(inward, way)) < SQUARE:
            return SKEW
        found.append((s0 + (s1 - s0) * (front - t0) / (t1 - t0), Beside(other, host.edges[other].pitch, at)))
    if len(found) != 2:
        return NO_HIP
    if min(side.pitch for _, side in found) < FLATTEST_GABLE - 1e-9:
        return FLAT
    (_, first), (_, second) = sorted(found)
    return first, second


def _roof(dormer: Dormer, host: SurfacePlan, plates: float, sides: tuple[Beside, Beside]) -> Roof:
    """Return a gablet's own roof: a gable over its face, as steep at each side as the plane there; behind it runs on."""
    names = tuple(wall_name(dormer.id, side) for side in range(4))
    flattest = min(side.pitch for side in sides)
    rows = (
        RoofSide(wall=names[FRONT], kind="gable"),
        RoofSide(wall=names[RIGHT], pitch=sides[1].pitch, overhang=0.0),
        RoofSide(wall=names[BACK], kind="roof"),
        RoofSide(wall=names[LEFT], pitch=sides[0].pitch, overhang=0.0),
    )
    level = host.roof.bearing
    return Roof(
        id=dormer.id, name=dormer.name, walls=names, bearing=Hang(level=level.level, offset=level.offset + plates - host.bearing),
        pitch=flattest, overhang=dormer.overhang, rafters=dormer.rafters, ties=dormer.ties, deck=host.roof.deck, shape="planes", collar="none",
        sides=rows,
    )  # fmt: skip


def gablet_walls(place: DormerPlace, host: SurfacePlan, plan: SurfacePlan) -> DormerWalls:
    """Frame the face of a gablet: a sole on the deck, studs up to the rafters, sheathing."""
    return DormerWalls((_Face(place, host, plan).wall(),), None)


class _Face(Seen):
    """The face of a gablet as it is seen from the front."""

    def __init__(self, place: DormerPlace, host: SurfacePlan, plan: SurfacePlan) -> None:
        super().__init__(place, host, plan)
        self.depth = section(plan.roof.rafters.size or "2x6").depth
        right, left_one = plan.edges[RIGHT].pitch, plan.edges[LEFT].pitch
        self.pitches = left_one, right
        (s0, s1) = place.s
        self.peak = (left_one * s0 + right * s1) / (left_one + right)

    def under(self, s: float) -> float:
        """Return how high the undersides of its rafters lie over a place of its face."""
        (s0, s1), (one, other) = self.place.s, self.pitches
        run, pitch = (s - s0, one) if s <= self.peak else (s1 - s, other)
        return self.plan.bearing + self.plan.plate_to_top + pitch * run - self.depth * math.hypot(1.0, pitch)

    def wall(self) -> DormerWall:
        """Frame it."""
        (s0, s1), (t0, _), size = self.place.s, self.place.t, self.dormer.studs
        t1 = t0 + self.thick
        low, high = self.low(t0), self.low(t1)
        sole: Ring = ((t0, low), (t1, high), (t1, high + self.sole), (t0, low + self.sole))
        made = [Stick("dormer plate", self.across(sole, s0, s1 - s0), size, s1 - s0)]
        s = s0 + APART
        while s < s1 - THICK:
            top = min(self.under(s), self.under(s + THICK))
            # None stands where the ridge runs out over the face.
            if top - high - self.sole > SHORTEST and not s - THICK < self.peak < s + 2.0 * THICK:
                stud: Ring = ((t0, low + self.sole), (t1, high + self.sole), (t1, top), (t0, top))
                made.append(Stick("dormer stud", self.across(stud, s, THICK), size, top - low - self.sole))
            s += APART
        made.append(self._sheathing(t0, low))
        return DormerWall(FRONT, tuple(made), self._parts(t0 + self.thick / 2.0))

    def _sheathing(self, front: float, low: float) -> Stick:
        (s0, s1) = self.place.s
        ring: Ring = (
            (s0, low),
            (s1, low),
            (s1, max(self.under(s1), low + 1.0)),
            (self.peak, self.under(self.peak)),
            (s0, max(self.under(s0), low + 1.0)),
        )
        x, y = in_plan(self.host, self.place.edge, 0.0, front)
        return Stick("dormer sheathing", Prism((x, y, 0.0), self.way, (0.0, 0.0, 1.0), (ring,), BOARD), "", s1 - s0)

    def _parts(self, t: float, count: int = 6) -> tuple[tuple[float, float, float], ...]:
        """Return stretches of the face up to the undersides of its deck, for its weight."""
        (s0, s1), rows = self.place.s, []
        step = (s1 - s0) / count
        for k in range(count):
            s = s0 + (k + 0.5) * step
            pitch = self.pitches[0 if s <= self.peak else 1]
            top = self.under(s) + self.depth * math.hypot(1.0, pitch)
            rows.append((s, t, max(top - self.low(t), 0.0) * step))
        return tuple(rows)
