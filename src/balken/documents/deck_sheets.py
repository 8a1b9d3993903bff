"""Sheets of the decks of roofs and floors: how each is laid over what carries it, how many are bought.

Long sides across rafters, trusses or joists (the stronger way of a panel), end joints on them and staggered by about half a sheet
(IRC Figure R503.2.1.1 and common practice).
"""

import itertools
import math

import shapely

from balken.derived.model import Model
from balken.design.roof_trusses import TrussRoof
from balken.design.surface_design import SurfaceDesign
from balken.framing.floors import FloorPlan
from balken.framing.roof_decks import deck_faces
from balken.framing.roof_openings import in_plane
from balken.framing.roofs import RoofPlan
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.plane import Point, Ring, add, dot, left, unit
from balken.geometry.sheets import Sheet, SheetPiece, laid_best, sheets_needed
from balken.remembered import remembered
from balken.units.system import FOOT
from balken.value import Value

PANEL = Sheet(8.0 * FOOT, 4.0 * FOOT, 2.0 * FOOT)
"""Panels are 4 ft by 8 ft, in millimetres too (common practice); pieces shorter than 2 ft are laid only where nothing else will do."""
WHOLE = 0.998
"""What takes up this part of a panel is a whole one."""
AT_LEAST = 300.0
"""Trusses under less of a plane than this carry nothing of it, mm."""
SQUARE = 0.02
"""What runs within this cosine square to an edge carries its plane's deck."""


class DeckLayout(Value, frozen=True):
    """A deck: of which thing, what it is called and how thick it is; its pieces, each in plan; how many panels are bought, how many pieces
    are whole, how much it covers (mm2 on the slope), how many pieces end on nothing.
    """

    ref: str
    name: str
    thick: float
    pieces: tuple[SheetPiece, ...]
    rings: tuple[Ring, ...]
    panels: int
    area: float
    carriers: tuple[Ring, ...] = ()
    """Lines of what carries it, in plan."""

    @property
    def whole(self) -> int:
        """Pieces that are whole panels."""
        return sum(self.is_whole(p) for p in self.pieces)

    @staticmethod
    def is_whole(piece: SheetPiece) -> bool:
        """Whether a piece is a whole panel."""
        return _area(piece.ring) >= WHOLE * PANEL.long * PANEL.wide

    @property
    def single(self) -> int:
        """Pieces over one bay alone, where span ratings take panels to run on over two or more (IRC Table R503.2.1.1(1))."""
        return sum(p.bays < 2 for p in self.pieces)

    @property
    def loose(self) -> int:
        """Pieces an end of which lies on nothing: blocks are put under it."""
        return sum(not p.held for p in self.pieces)


def _laid(shape: shapely.Geometry, stops: list[float]) -> list[SheetPiece]:
    """Lay panels over a shape, none of them over one bay alone where that can be."""
    apart = sorted(b - a for a, b in itertools.pairwise(sorted(stops)))
    bay = apart[len(apart) // 2] if apart else 0.0
    return laid_best(shape, stops, PANEL._replace(least=min(max(PANEL.least, 2.0 * bay), PANEL.long / 2.0)))


def _area(ring: Ring) -> float:
    return float(shapely.Polygon(ring).area)


def deck_layouts(model: Model) -> tuple[DeckLayout, ...]:
    """Return the decks of all roofs and floors that have one, roofs first."""
    planes, trusses = model.planes, model.trusses
    found = [
        _of_planes(plan, planes.get(plan.roof.id), trusses.get(plan.roof.id))
        for plan in model.surfaces
        if plan.roof.deck > 0.0 and not plan.problem
    ]
    found += [_of_gable(plan) for plan in model.roofs if plan.roof.deck > 0.0]
    found += [_of_floor(plan) for plan in model.floors if plan.floor.deck > 0.0 and not plan.floor.is_slab]
    return tuple(layout for layout in found if layout.pieces)


def _made(
    ref: str, name: str, thick: float, rows: list[tuple[SheetPiece, Ring]], carriers: tuple[Ring, ...]
) -> DeckLayout:
    pieces = tuple(piece for piece, _ in rows)
    size = sum(_area(p.ring) for p in pieces)
    return DeckLayout(
        ref, name, thick, pieces, tuple(ring for _, ring in rows), sheets_needed(pieces, PANEL), size, carriers
    )


@remembered(200)
def _of_planes(plan: SurfacePlan, framing: SurfaceDesign | None, trusses: TrussRoof | None) -> DeckLayout:
    """Lay the deck of a roof of planes, plane by plane from its eave up."""
    rows: list[tuple[SheetPiece, Ring]] = []
    core = plan.outline.core
    for _, face in deck_faces(plan):
        steep = math.hypot(1.0, face.pitch)
        flat = in_plane(core, face.edge, [p[:2] for p in face.ring])
        shape = shapely.Polygon([(s, t * steep) for s, t in flat])
        for hole in plan.holes:
            if hole.edge == face.edge and not hole.problem:
                (s0, s1), (t0, t1) = hole.along, hole.inward
                shape = shape.difference(shapely.box(s0, t0 * steep, s1, t1 * steep))
        a, b = core[face.edge], core[(face.edge + 1) % len(core)]
        way = unit(a, b)
        for piece in _laid(shape, _carriers(plan, framing, trusses, face.edge)):
            ring = tuple(add(add(a, way, s), left(way), t / steep) for s, t in piece.ring)
            rows.append((piece, ring))
    lines: tuple[Ring, ...] = ()
    if trusses is not None and trusses.row is not None:
        lines = tuple(
            (
                trusses.places[number].at(make.design.frame.outline.heels[0]),
                trusses.places[number].at(make.design.frame.outline.heels[1]),
            )
            for number, make in sorted(trusses.made_at.items())
            if trusses.places[number].edge < 0
        )
    if framing is not None:
        lines = (*lines, *(m.member.ends for m in framing.members))
    return _made(plan.roof.id, plan.roof.name, plan.roof.deck, rows, lines)


def _carriers(plan: SurfacePlan, framing: SurfaceDesign | None, trusses: TrussRoof | None, edge: int) -> list[float]:
    """Return where rafters or trusses under a plane stand along its edge."""
    core = plan.outline.core
    way = unit(core[edge], core[(edge + 1) % len(core)])
    lines: list[tuple[Point, Point]] = []
    if trusses is not None and trusses.row is not None:
        lines = [
            (place.at(0.0), place.at(1000.0))
            for number, place in enumerate(trusses.places)
            if _over(plan, trusses, number, edge)
        ]
    if framing is not None:
        lines += [m.member.ends for m in framing.members if edge in m.member.edges and m.role == "rafter"]
    square = [(p, q) for p, q in lines if p != q and abs(dot(unit(p, q), way)) < SQUARE]
    return [s for s, _ in in_plane(core, edge, [p for p, _ in square])]


def _over(plan: SurfacePlan, trusses: TrussRoof, number: int, edge: int) -> bool:
    """Whether a truss lies under a plane, or under what of it runs on under a wing's."""
    made = trusses.of(number)
    if made is None or len(trusses.rows) < 2:
        return True
    place, top = trusses.places[number], made.frame.outline.top
    line = shapely.LineString([place.at(top[0][0]), place.at(top[-1][0])])
    rings = [[p[:2] for p in face.ring] for face in (*plan.whole.faces, *plan.under) if face.edge == edge]
    return any(shapely.Polygon(ring).intersection(line).length > AT_LEAST for ring in rings)


@remembered(200)
def _of_gable(plan: RoofPlan) -> DeckLayout:
    """Lay the deck of a gable over a rectangle."""
    steep, rows = math.hypot(1.0, plan.roof.pitch), list[tuple[SheetPiece, Ring]]()
    up, middle = plan.half + plan.roof.overhang, (plan.low + plan.high) / 2.0
    stops = [station.t for station in plan.stations]
    for sign in (-1.0, 1.0):
        for piece in _laid(shapely.box(plan.t_low, 0.0, plan.t_high, up * steep), stops):
            ring = tuple(plan.frame.back(middle + sign * (up - t / steep), s) for s, t in piece.ring)
            rows.append((piece, ring))
    reach = up, -up
    lines = tuple(tuple(plan.frame.back(middle + s, t) for s in reach) for t in stops)
    return _made(plan.roof.id, plan.roof.name, plan.roof.deck, rows, lines)


@remembered(200)
def _of_floor(plan: FloorPlan) -> DeckLayout:
    """Lay the deck of a floor across its joists."""
    flat = [plan.frame.to(p) for p in plan.outline.core]
    shape: shapely.Geometry = shapely.Polygon([(t, s) for s, t in flat])
    for hole in plan.holes:
        shape = shape.difference(shapely.Polygon([(t, s) for s, t in hole.ring]))
    rows = [
        (piece, tuple(plan.frame.back(s, t) for t, s in piece.ring))
        for piece in _laid(shape, [line.t for line in plan.lines])
    ]
    lines = tuple((plan.frame.back(line.low, line.t), plan.frame.back(line.high, line.t)) for line in plan.lines)
    return _made(plan.floor.id, plan.floor.name, plan.floor.deck, rows, lines)
