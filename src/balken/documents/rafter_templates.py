"""Templates of rafters: each different rafter, jack, hip and valley once, lying flat, with all its lengths and angles.

Seen from its side, and, where its ends have cheeks, square down on its top edge; what is the other hand is counted by itself.
"""

import math
from collections.abc import Iterable
from typing import NamedTuple

from balken.catalog.sections import made_text, section
from balken.derived.model import Model
from balken.documents.dimensions import TEXT, dimension_string
from balken.documents.display import Area, Drawing, Item, Strokes, Text
from balken.documents.schedule import by_number
from balken.framing.laid_valleys import LaidFoot, laid_foot
from balken.framing.line_levels import backing, is_backed, line_drop
from balken.framing.lookouts import LookoutRow
from balken.framing.pieces import Piece
from balken.framing.purlins import TOUCH, Purlin, crossing, notch_depth
from balken.framing.ridge_seats import bears_on
from balken.framing.roles import ROLES
from balken.framing.roof_layout import RoofMember, top_edge
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.tails import tail_cut
from balken.geometry.plane import Point, Ring, area, cross, distance, sub, turn
from balken.geometry.prism import View, cross3, unit3
from balken.geometry.trimmed import leaning_of
from balken.units import Units, format_inches, format_length

SHOWN = ("rafter", "hip rafter", "valley rafter")
SCALE = {Units.IMPERIAL: 16.0, Units.METRIC: 20.0}
APART = 7.0
"""Between the side of a rafter and its top edge, paper mm."""
LINE = 4.2
"""From one line of notes to the next, paper mm."""


class PurlinNotch(NamedTuple):
    """A notch for a purlin: its section, how deep and wide it is, how far up the rafter its lower side lies from the bearing line, mm."""

    size: str
    deep: float
    wide: float
    low: float


class Template(NamedTuple):
    """A template: its mark, the member that is drawn, how many of it there are, how many more of the other hand;
    how it was laid, None under a gable; ``foot``: how its foot is sawn where that stands on a roof below.
    """

    mark: str
    piece: Piece
    times: int
    mirrored: int
    member: RoofMember | None
    foot: LaidFoot | None = None
    lookouts: LookoutRow | None = None
    """What is let into it."""
    tail: str = ""
    """How its tail is cut, where that is not plumb: square, level below, or cut back."""
    drop: float = 0.0
    """How far a hip lies below the line of its planes, mm."""
    backing: tuple[float, ...] = ()
    """By how much its top edge is bevelled at both sides where it is backed, or would be, degrees."""
    backed: bool = False
    purlin: PurlinNotch | None = None
    """What is let into its underside."""
    hip_on_beam: bool = False
    """Whether it is a hip whose head lies on a ridge beam."""

    @property
    def on_beam(self) -> bool:
        """Whether its head lies on a ridge beam under it."""
        return self.hip_on_beam or (self.member is not None and self.member.on_beam)

    @property
    def notch(self) -> float:
        """How deep it is notched for lookouts, mm."""
        return section(self.lookouts.size).depth if self.lookouts is not None else 0.0


def rafter_templates(model: Model) -> tuple[Template, ...]:
    """Return one template for each mark of rafters, hips and valleys."""
    alike: dict[str, list[Piece]] = {}
    for piece in model.of_layouts(*SHOWN):
        alike.setdefault(model.marks[piece.key], []).append(piece)
    laid = {one.key: one.member for framing in model.planes.values() for one in framing.members}
    plans = {plan.roof.id: plan for plan in model.surfaces}
    let_in = {x.row.rafters[0]: x.row for framing in model.planes.values() for x in framing.lookouts.rows}
    crossed: dict[str, Purlin] = {}
    for owner, framing in model.planes.items():
        if owner in plans:
            crossed |= crossing(plans[owner], framing.members, framing.purlins)
    found = []
    for mark in sorted(alike, key=by_number):
        pieces = alike[mark]
        first = pieces[0]
        same = sum(1 for p in pieces if _hand(p) == _hand(first))
        member = laid.get(first.key)
        foot = laid_foot(plans[first.owner], member) if member is not None else None
        lies, tail = let_in.get(first.key), ""
        if member is not None and tail_cut(plans[first.owner], member, first.section) is not None:
            tail = plans[first.owner].roof.tails
        one = Template(mark, first, same, len(pieces) - same, member, foot, lies, tail)
        if member is not None and member.role == "hip":
            plan = plans[first.owner]
            one = one._replace(drop=line_drop(plan, member, section(first.section)), backing=backing(plan, member))
            one = one._replace(
                backed=is_backed(plan, member, section(first.section)), hip_on_beam=bool(bears_on(plan, member))
            )
        if first.key in crossed:
            notch = _purlin_notch(plans[first.owner], crossed[first.key], model, first)
            one = one._replace(purlin=notch if notch.deep > TOUCH else None)
        found.append(one)
    return tuple(found)


def _purlin_notch(plan: SurfacePlan, purlin: Purlin, model: Model, piece: Piece) -> PurlinNotch:
    """Return the notch of a rafter for a purlin: its middle lies plumb under the plane over the middle of the purlin."""
    boards, pitch = model.planes[plan.roof.id].boards, plan.edges[purlin.edge].pitch
    size, deep = boards.lines[purlin.key], notch_depth(plan, boards.rafter, piece.section)
    middle = purlin.inward * math.hypot(1.0, pitch) - (section(piece.section).depth - deep) * pitch
    wide = section(size).breadth
    return PurlinNotch(size, deep, wide, middle - wide / 2.0)


def _hand(piece: Piece) -> bool:
    """Return whether a member is the hand that is counted first; one that is its own mirror always is."""
    leans = leaning_of(piece.solid)
    if leans is None:
        return True
    own, other = leans.hands
    return own <= other


def draw_template(model: Model, one: Template, scale: float) -> Drawing:
    """Draw a template to be read at 1:``scale``, the lowest corner of its top edge at (0, 0)."""
    piece, units = one.piece, model.units
    along = unit3(piece.start, piece.end)
    level = math.hypot(along[0], along[1])
    aside = (-along[1] / level, along[0] / level, 0.0)
    view = View(piece.start, along, cross3(along, aside))
    shift = _shift(piece, view)
    (outline, *_) = piece.solid.outline(view)
    ring = tuple((x + shift[0], y + shift[1]) for x, y in outline)
    slope = math.degrees(math.asin(along[2]))
    layer = ROLES[piece.role].layer
    items: list[Item] = [Area((ring,), "timber", "cut", layer, piece.key)]
    items.append(Strokes(_edges(piece, view, shift), "thin", layer, piece.key))
    x0, y0 = min(x for x, _ in ring), min(y for _, y in ring)
    leans = leaning_of(piece.solid)
    stations = _stations(ring, slope, shift[0] if leans is not None else None, one)
    right = (1.0, 0.0)
    if len(stations) > 2:
        items += dimension_string(stations, (0.0, 0.0), right, 5.0 * scale, units, scale, "notes", 3.0)
    ends = [stations[0], stations[-1]]
    items += dimension_string(
        ends, (0.0, 0.0), right, (5.0 if len(stations) < 3 else 11.0) * scale, units, scale, "notes", 3.0
    )
    low = y0
    cheeks = leans.cheeks() if leans is not None else ((), ())
    if leans is not None and any(cheeks):
        flat: list[Point] = list(leans.lying)
        wide = max(t for _, t in flat)
        off = low - APART * scale - wide
        items.append(Area((tuple((s, t + off) for s, t in flat),), "timber light", "cut", layer, piece.key))
        low = off - wide
    for k, note in enumerate(_notes(one, slope, cheeks, ring, units)):
        items.append(Text((x0, low - (4.0 + LINE * k) * scale), note, TEXT * 0.9 * scale, "left", pen="note"))
    made = made_text(piece.section, piece.species, piece.grade)
    notched = (
        " notched for lookouts"
        if one.lookouts is not None
        else " notched for a purlin"
        if one.purlin is not None
        else ""
    )
    title = f"{ROLES[piece.role].noun}{notched} {format_length(stations[-1], units)}, {made}"
    return Drawing(title[0].upper() + title[1:], scale, tuple(items))


def _shift(piece: Piece, view: View) -> Point:
    """Return how a side view is moved so that the lowest corner of the top edge lies at (0, 0)."""
    (ring, *_) = piece.solid.outline(view)
    top = max(y for _, y in ring)
    return -min(x for x, y in ring if y > top - 1.0), -top


def _edges(piece: Piece, view: View, shift: Point) -> tuple[tuple[Point, Point], ...]:
    """Return the edges of the faces that are seen."""
    found = []
    for face in piece.solid.faces():
        rows = [(x + shift[0], y + shift[1]) for x, y, _ in (view.project(p) for p in face)]
        if area(rows) > 1.0:  # it turns to the left for this viewer
            found += [(rows[k - 1], rows[k]) for k in range(len(rows)) if distance(rows[k - 1], rows[k]) > 1.0]
    return tuple(found)


def _stations(ring: Ring, slope: float, bearing: float | None, one: Template) -> list[float]:
    """Return along the top edge: its lowest corner, the bearing line (plumb over the heel of the bird's mouth), its highest."""
    heel = _heel(ring, one)
    if heel is not None:
        (x, y), _ = heel
        bearing = x - y * math.tan(math.radians(slope))
    last = max(x for x, y in ring if y > -1.0)
    inner = [bearing] if bearing is not None and 1.0 < bearing < last - 1.0 else []
    return [0.0, *inner, last]


def _inner(ring: Ring, one: Template) -> list[tuple[Point, int]]:
    """Return the corners that lie on neither edge of the board, nor at the bottom of notches for lookouts or a purlin."""
    low = min(y for _, y in ring)
    rows = [(p, k) for k, p in enumerate(ring) if low + 1.0 < p[1] < -1.0 and abs(p[1] + one.notch) > 1.0]
    if one.purlin is None:
        return rows
    level, wide = one.purlin.deep - section(one.piece.section).depth, one.purlin.wide
    mates = ((ring[k - 1], ring[(k + 1) % len(ring)]) for _, k in rows)
    return [
        (p, k)
        for (p, k), pair in zip(rows, mates, strict=True)
        if abs(p[1] - level) > 1.0
        or not any(abs(q[1] - level) < 1.0 and abs(abs(q[0] - p[0]) - wide) < 1.0 for q in pair)
    ]


def _heel(ring: Ring, one: Template) -> tuple[Point, int] | None:
    """Return the heel of a bird's mouth: an inner corner, turned inward but where there is no tail."""
    cut, rows = bool(one.tail), _inner(ring, one)
    turned = [row for row in rows if _inward(ring, row[1])]
    if one.on_beam and turned:  # the seat at the head is no bird's mouth
        at = max(p[0] for p, _ in turned)
        rows, turned = ([row for row in some if row[0][0] < at - 1.0] for some in (rows, turned))
    return next(iter(turned), None if cut else next(iter(rows), None))


def _inward(ring: Ring, k: int) -> bool:
    """Whether an outline turns inward at a corner."""
    return cross(sub(ring[k], ring[k - 1]), sub(ring[(k + 1) % len(ring)], ring[k])) * area(ring) < 0.0


def _on_beam(ring: Ring, slope: float, one: Template, units: Units) -> str:
    """Return in words how a rafter is cut out at its head for a beam under it."""
    rows = [row for row in _inner(ring, one) if _inward(ring, row[1])]
    if not rows:
        return ""
    at, k = max(rows)
    sides = [turn(sub(p, at), slope) for p in (ring[k - 1], ring[(k + 1) % len(ring)])]
    seat, cut = max(abs(x) for x, _ in sides), max(abs(y) for _, y in sides)
    return f"at the head, on the ridge beam: seat {format_inches(seat, units)}, plumb {format_inches(cut, units)}"


def _tail_left(ring: Ring, slope: float) -> float:
    """Return how deep the plumb cut of a tail is left, from the lowest corner of its top edge down, mm."""
    rows = [turn(p, slope) for p in ring]
    return max((-y for x, y in rows if abs(x) < 1.0), default=0.0)


def _notes(
    one: Template,
    slope: float,
    cheeks: tuple[tuple[float, ...], tuple[float, ...]],
    ring: Ring,
    units: Units,
) -> Iterable[str]:
    """Yield what stands under a template."""
    yield f"{one.times} of them" if not one.mirrored else f"{one.times} as drawn, {one.mirrored} the other hand"
    yield f"plumb cuts {slope:.1f}\u00b0 from square"
    for end, bevels in zip(("foot", "head"), cheeks, strict=True):
        if bevels:
            said = ", ".join(f"{b:.1f}\u00b0 (across the top edge {top_edge(b, slope):.1f}\u00b0)" for b in bevels)
            yield f"{end}: saw set to {said}"
    if one.tail == "square":
        yield "tail: square to its edges"
    elif one.tail == "cut back":
        yield f"tail: cut back from the wall to {format_inches(_tail_left(ring, slope), units)} plumb"
    elif one.tail:
        yield f"tail: plumb {format_inches(_tail_left(ring, slope), units)}, level below"
    if one.foot is not None:
        seat, blade = one.foot.seat, one.foot.bevel
        yield f"foot on the valley board: {seat:.1f}\u00b0 to the top edge, saw set to {blade:.1f}\u00b0"
    heel = _heel(ring, one) if one.foot is None else None
    if heel is not None:
        at, k = heel
        seat, cut = 0.0, ""
        for p in (ring[k - 1], ring[(k + 1) % len(ring)]):
            x, y = turn((p[0] - at[0], p[1] - at[1]), slope)
            if abs(y) < 1.0:
                seat = abs(x)
            elif p[1] < -1.0:  # else it has no tail: that is the plumb cut of its end
                cut = f", plumb {format_inches(abs(y), units)}"
        above = -at[1] / math.cos(math.radians(slope))
        yield f"bird's mouth: seat {format_inches(seat, units)}{cut}; above the plate {format_inches(above, units)}"
    if one.on_beam:
        yield from filter(None, (_on_beam(ring, slope, one, units),))
    if one.lookouts is not None:
        steep = 1.0 / math.cos(math.radians(slope))
        sides = ", ".join(format_length(t * steep, units) for t in one.lookouts.places)
        yield f"notches for {one.lookouts.size} on edge, from the bearing line to the lower side of each {sides}"
    if one.purlin is not None:
        cut = f"{format_inches(one.purlin.deep, units)} deep and {format_inches(one.purlin.wide, units)} wide"
        low = format_length(one.purlin.low, units)
        yield f"notch below for a purlin {one.purlin.size}: {cut}, from the bearing line to its lower side {low}"
    turned = " and ".join(f"{b:.1f}\u00b0" for b in sorted({round(b, 1) for b in one.backing}))
    if one.backed:
        yield f"backed: its top edge is bevelled {turned} from its middle to both sides"
    elif one.drop > 0.0:
        yield f"lies {format_inches(one.drop, units)} below the line of its planes; backed instead, its top edge is bevelled {turned}"
    member = one.member
    if member is not None:
        start = "roof below" if member.laid else "bearing line" if member.at_eave else "valley's middle"
        met = f"{member.head.kind}'s middle" if member.head.kind in ("ridge", "hip", "valley") else "end of its plane"
        yield f"from the {start} to the {met} {format_length(member.theoretical, units)}"
