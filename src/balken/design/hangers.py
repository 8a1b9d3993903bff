"""Hangers chosen from a list for joists, headers and beams that hang: the cheapest that fits their section and carries what comes."""

from collections.abc import Iterable, Mapping

from msgspec.structs import replace

from balken.catalog.hangers import HangerRow, made_up, made_up_of_rafters, made_up_of_trusses
from balken.catalog.sections import framed_of, section, side_by_side
from balken.design.built_trusses import HangingTruss
from balken.design.load_duration import normal_duration
from balken.design.roof_trusses import TrussRoof
from balken.framing.beams import face_of
from balken.framing.floors import FloorPlan
from balken.framing.joist_lines import HANGER, I_HANGER
from balken.framing.pieces import MadeOf
from balken.framing.truss_layout import SEAT
from balken.geometry.plane import Point, distance, off_square, unit
from balken.geometry.prism import Vec
from balken.loads.area_loads import Reaction
from balken.loads.beam_law import Beamed, Extremes, hung_seats
from balken.loads.cases import Cases, total
from balken.loads.decks import HeaderLoad
from balken.loads.roof_hung import RoofHung
from balken.model.kinds.hanger import Hanger
from balken.model.naming import beam_name, piece_name
from balken.standards.standard import Standard
from balken.value import Value

FITS = 1.6
"""A hanger as wide as this more than its joist fits it, mm (1/16 in; common practice, no source)."""
SQUARE = 3.0
"""What is turned by no more hangs square (common practice, no source), degrees."""


NO_WAYS: Mapping[str, Point] = {}


class Hung(Value, frozen=True):
    """One end of a joist, header or beam that hangs: which, on what, where; its section, what comes to it by case, N.

    ``hanger``: the name of the one chosen, "" where none of the list does; ``used``: how far; ``most``: N at normal duration,
    ``lifts``: N upward; ``why``: what is wrong where there is none; ``turned``: from square to what it hangs on, degrees, above 0 where
    it comes from the right as one sees the face it hangs on.
    """

    member: str
    on: str
    at: Vec
    size: str
    load: Cases
    hanger: str
    used: float
    most: float
    lifts: float
    price: float = 0.0
    why: str = ""
    turned: float = 0.0

    @property
    def called(self) -> str:
        """The hanger's name, and how what hangs in it is turned."""
        return f"{self.hanger}{turned_text(self.turned)}"


def turned_text(turned: float) -> str:
    """Return how something that hangs is turned, as it follows the name of its hanger; "" where it hangs square."""
    if abs(turned) <= SQUARE:
        return ""
    return f", {abs(turned):.0f}\u00b0 from the {'right' if turned > 0.0 else 'left'}"


def listed(own: tuple[Hanger, ...]) -> tuple[HangerRow, ...]:
    """Return the hangers to choose from: the project's own list, else the made-up one."""
    if not own:
        return made_up()
    return tuple(HangerRow(*(getattr(h, field) for field in HangerRow._fields)) for h in own)


def hung_ends(
    plan: FloorPlan,
    size: str,
    height: float,
    on: frozenset[str],
    reactions: tuple[Reaction, ...],
    on_headers: Mapping[str, tuple[HeaderLoad, ...]],
    made: Mapping[str, MadeOf],
    own: tuple[Hanger, ...],
    standard: Standard,
    beyond: tuple[Reaction, ...] = (),
    short: tuple[Reaction, ...] = (),
    ways: Mapping[str, Point] = NO_WAYS,
) -> tuple[Hung, ...]:
    """Choose the hangers of a floor whose deck top is at ``height``; ``on``: bearers at whose faces or ledgers joists hang.

    ``reactions``: what its joists hand down, ``on_headers``: what those cut off at openings bring to the headers there;
    ``beyond``: what live load on some spans of joists that run on brings beyond the whole,
    ``short``: what it then leaves out of it, below zero; ``ways``: how bearers lie in plan.
    """
    brought: dict[tuple[str, str], list[Cases]] = {}
    for r in reactions:
        brought.setdefault((r.piece, r.bearer), []).append(r.force)
    for header, rows in on_headers.items():
        for row in rows:
            brought.setdefault((row.joist, header), []).append(row.force)
    more, less = ({(r.piece, r.bearer): r.force for r in rows} for rows in (beyond, short))
    rows_ = listed(own)
    headers, top = plan.headers, height - plan.floor.deck
    found: list[Hung] = []
    for line in plan.lines:
        name = piece_name(plan.floor.id, "joist", line.place)
        made_as = made[name].sized(size) if name in made else size
        for bearer, s, gap in zip(
            line.supports, (line.low, line.high), (line.low - line.load_low, line.load_high - line.high), strict=True
        ):
            if bearer not in headers and not (bearer in on and gap > 1.0):
                continue
            load = total(brought.get((name, bearer), [Cases()]))
            extremes = Extremes(*(part.get((name, bearer), Cases()) for part in (more, less)))
            at = (*plan.frame.back(s, line.t), top)
            end = 1.0 if s == line.high else -1.0
            way = plan.frame.s[0] * end, plan.frame.s[1] * end
            turned = off_square(way, ways[bearer]) if bearer in ways else 0.0
            found.append(_of_joist(name, bearer, at, made_as, load, extremes, rows_, standard, turned))
    for hole in plan.holes:
        board = side_by_side(framed_of(size), hole.plies)
        for end in (0, 1):
            name = hole.header(end)
            made_as = made[name].sized(board) if name in made else board
            s, long = hole.header_at(end), hole.t1 - hole.t0
            loads = on_headers.get(name, ())
            for t, part in ((hole.t0, 0.0), (hole.t1, 1.0)):
                shares = [_share(row, hole.t0, long, part) for row in loads]
                at = (*plan.frame.back(s, t), top)
                load = total(shares or [Cases()])
                found.append(_of_joist(name, hole.opening, at, made_as, load, Extremes(), rows_, standard))
    return tuple(found)


def hung_beams(beamed: Mapping[str, Beamed], own: tuple[Hanger, ...], standard: Standard) -> tuple[Hung, ...]:
    """Choose the hangers of beams that end at the sides of other ones; those of steel are not hung by a list.

    Each is made for what any arrangement of live load brings, and bears as long as the beam was checked for.
    """
    rows, found = listed(own), list[Hung]()
    for made in beamed.values():
        design = made.design
        if not design.made or design.section.shape is not None:
            continue
        section = design.section
        for k, piece, on in hung_seats(beamed, made.line.id):
            seat, name = made.seats[k], beam_name(made.line.id, piece)
            face = face_of(made.line, on.line, seat.along, section.breadth, on.design.section.breadth)
            sides, at = (section.breadth, section.depth, seat.bearing), (*made.line.at(face), made.line.top)
            load, beyond = design.reactions[k], design.extremes[k]
            (dx, dy), end = made.line.direction, 1.0 if k == len(made.seats) - 1 else -1.0
            turned = off_square((dx * end, dy * end), on.line.direction)
            hung = _chosen(name, seat.on, at, section.name, sides, load, beyond, rows, standard, turned)
            lower = on.line.top - on.design.section.depth - (made.line.top - section.depth)
            if lower > 1.0:
                hung = replace(hung, hanger="", price=0.0, why="it reaches below the beam it hangs on")
            found.append(hung)
    return tuple(found)


def _of_joist(
    member: str,
    on: str,
    at: Vec,
    size: str,
    load: Cases,
    beyond: Extremes,
    rows: Iterable[HangerRow],
    standard: Standard,
    turned: float = 0.0,
) -> Hung:
    lumber = section(size)
    seat = I_HANGER if lumber.kind == "I-joist" else HANGER
    return _chosen(member, on, at, size, (lumber.breadth, lumber.depth, seat), load, beyond, rows, standard, turned)


def hung_trusses(
    roof: str, trusses: TrussRoof, bearing: float, own: tuple[Hanger, ...], standard: Standard
) -> tuple[Hung, ...]:
    """Choose the hangers of trusses that hang on others of a roof, by their bottom chords; ``bearing``: how high these bear, mm."""
    rows, found = listed(own) if own else made_up_of_trusses(), list[Hung]()
    for one in trusses.hung:
        design = trusses.of(one.number)
        assert design is not None
        chord = section(design.frame.sizes.bottom)
        sides = (chord.breadth * one.plies[0], chord.depth, SEAT)
        name, on = (piece_name(roof, "truss", k) for k in (one.number, one.on))
        size = f"{side_by_side(chord.name, one.plies[0])} truss"
        turned = off_square(_toward(trusses, one), unit(*(trusses.places[one.on].at(x) for x in (0.0, 1000.0))))
        found.append(_chosen(name, on, (*one.at, bearing), size, sides, one.force, Extremes(), rows, standard, turned))
    return tuple(found)


def _toward(trusses: TrussRoof, one: HangingTruss) -> Point:
    """Return the way in plan in which a truss comes to what it hangs on."""
    place, design = trusses.places[one.number], trusses.of(one.number)
    ends = place.at(0.0), place.at(design.frame.outline.span if design is not None else 1000.0)
    first, last = sorted(ends, key=lambda p: -distance(p, one.at))
    return unit(first, last)


def hung_rafters(heads: Iterable[RoofHung], own: tuple[Hanger, ...], standard: Standard) -> tuple[Hung, ...]:
    """Choose the hangers of rafters and headers of roofs, and of trusses on ledgers."""
    found = list[Hung]()
    for head in heads:
        sides, rows = head.sides, listed(own) if own else made_up_of_trusses()
        if sides is None:
            lumber = section(head.size)
            sides, rows = (lumber.breadth, lumber.depth, HANGER), listed(own) if own else made_up_of_rafters()
        found.append(
            _chosen(
                head.member,
                head.on,
                head.at,
                head.size,
                sides,
                head.force,
                _less(head.lifted),
                rows,
                standard,
                head.turned,
            )
        )
    return tuple(found)


def _less(lifted: Cases) -> Extremes:
    return Extremes(less=lifted.scaled(-1.0))


def _share(row: HeaderLoad, t0: float, long: float, part: float) -> Cases:
    """Return what of a load on a header goes to its first (0) or second (1) end, by the lever."""
    far = min(max((row.t - t0) / long, 0.0), 1.0)
    return row.force.scaled(far if part else 1.0 - far)


def _chosen(
    member: str,
    on: str,
    at: Vec,
    size: str,
    sides: tuple[float, float, float],
    load: Cases,
    beyond: Extremes,
    rows: Iterable[HangerRow],
    standard: Standard,
    turned: float = 0.0,
) -> Hung:
    """Choose for a member so wide and deep that bears so long, mm, and is turned so from square, degrees."""
    most, lifts = normal_duration(load, beyond, standard)
    square = [row for row in rows if _fits(row, *sides)]
    fitting = sorted((row for row in square if _turns(row, turned)), key=lambda row: (row.price, -row.down))
    strong = [row for row in fitting if row.down >= most and row.up >= lifts]
    if strong:
        row = strong[0]
        return Hung(
            member, on, at, size, load, row.name, _used(row, most, lifts), most, lifts, row.price, turned=turned
        )
    why = "that fits carries as much" if fitting else "is as wide and deep as it"
    if square and not fitting:
        why = (
            f"is made for what hangs {abs(turned):.0f}\u00b0 from square"
            if abs(turned) > SQUARE
            else "is made for what hangs square"
        )
    used = min((_used(row, most, lifts) for row in fitting), default=99.0)
    return Hung(member, on, at, size, load, "", used, most, lifts, 0.0, f"no hanger of the list {why}", turned)


def _used(row: HangerRow, most: float, lifts: float) -> float:
    """Return how far a hanger is used by what presses and by what lifts; 99 where it holds nothing down."""
    by_lift = (lifts / row.up if row.up > 0.0 else 99.0) if lifts > 0.0 else 0.0
    return max(most / row.down, by_lift, 0.0)


def _turns(row: HangerRow, turned: float) -> bool:
    """Whether a hanger is for what is turned so."""
    if abs(turned) <= SQUARE:
        return row.turned_from == 0.0
    return row.turned_from - 0.5 <= abs(turned) <= row.turned_to + 0.5


def _fits(row: HangerRow, breadth: float, depth: float, seat: float) -> bool:
    return (
        -0.1 <= row.width - breadth <= FITS
        and row.least_depth - 1.0 <= depth <= row.most_depth + 1.0
        and row.seat >= seat - 0.1
    )
