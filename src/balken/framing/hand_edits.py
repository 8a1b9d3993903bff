"""Hand edits laid over a layout: which member each is meant for, and what becomes of joists and studs.

What a joist that is taken out carried goes to those beside it, stretch by stretch; one that is moved takes floor from one
neighbour and leaves it to the other; several beside one another share.
"""

import itertools
from collections.abc import Iterable, Sequence
from typing import Any, Generic, TypeVar

from msgspec import Struct, field
from msgspec.structs import replace

from balken.catalog.sections import rim_of, section, side_by_side
from balken.framing.floor_edges import EdgeStrip
from balken.framing.floors import FloorPlan, rim_boards
from balken.framing.pieces import MadeOf, MemberLine, Snag
from balken.framing.studs import Stick, StudWall
from balken.geometry.plane import distance
from balken.model.kinds.member_edit import MemberEdit
from balken.model.naming import MemberPlace, piece_name, place_of
from balken.value import Value

NEAR = 19.0
"""An edit whose member is not there any more goes to one of the same datum nearer than this, mm."""
LEAST_APART = 38.0
"""A joist is moved no nearer to the next than this, middle to middle, mm: a board's thickness."""


def made_of(edit: MemberEdit, layout: str) -> MadeOf:
    """Return what an edited member is made of; ``layout``: the section of its layout."""
    board = edit.size or layout
    plies = side_by_side(board, edit.plies)
    return MadeOf("" if plies == layout else plies, edit.species, edit.grade, cuts=edit.cuts)


class Matched(Value, frozen=True):
    """Edits by the place (as part of a name) of the member each is for, and those that have none."""

    by_place: dict[str, MemberEdit]
    lost: tuple[tuple[MemberEdit, str], ...]
    """With the place of the nearest member of the same sort, or ""."""


def match(edits: Iterable[MemberEdit], places: Sequence[str]) -> Matched:
    """Find the member of each edit: the one of that place, else the nearest of the same datum, each given once."""
    known = {text: place for text in places if (place := place_of(text)) is not None}
    found: dict[str, MemberEdit] = {}
    left: list[MemberEdit] = []
    for edit in edits:
        if edit.place.text in known:
            found[edit.place.text] = edit
        else:
            left.append(edit)
    pairs = sorted(
        (abs(place.at - edit.at), text, i)
        for i, edit in enumerate(left)
        for text, place in known.items()
        if place.datum == edit.datum and abs(place.at - edit.at) <= NEAR
    )
    given: set[int] = set()
    for _, text, i in pairs:
        if i not in given and text not in found:
            found[text] = left[i]
            given.add(i)
    lost = [(edit, _nearest(edit, known)) for i, edit in enumerate(left) if i not in given]
    return Matched(found, tuple(lost))


def _nearest(edit: MemberEdit, known: dict[str, MemberPlace]) -> str:
    same = [(place.datum != edit.datum, abs(place.at - edit.at), text) for text, place in known.items()]
    return min(same)[2] if same else ""


# Joists ---------------------------------------------------------------------------------------------


P = TypeVar("P")


class Edited(Value, Generic[P], frozen=True):
    """A layout with hand edits in it: its plan, what single members are made of and which are edited, by their names.

    ``lost``: edits without a member, each with the name of the nearest one, or "".
    """

    plan: P
    made: dict[str, MadeOf]
    names: frozenset[str]
    lost: tuple[tuple[MemberEdit, str], ...]


def both_edited(a: Edited[Any], b: Edited[Any]) -> Edited[Any]:
    """Return hand edits of two parts of one layout as one, its plan the first's."""
    return Edited(a.plan, a.made | b.made, a.names | b.names, (*a.lost, *b.lost))


def named(owner: str, sort: str, found: Matched) -> tuple[tuple[MemberEdit, str], ...]:
    """Return the lost edits with names in place of places."""
    return tuple((edit, piece_name(owner, sort, place) if place else "") for edit, place in found.lost)


class _Out(Struct):
    """What comes of edits beside the joists."""

    strips: list[EdgeStrip]
    snags: list[Snag]


def edited_floor(plan: FloorPlan, edits: tuple[MemberEdit, ...], size: str, stock: float) -> Edited[FloorPlan]:
    """Lay the hand edits of a floor over its plan; ``size``: of its joists."""
    owner = plan.floor.id
    if not edits:
        return Edited(plan, {}, frozenset(), ())
    joists = match((e for e in edits if e.sort == "joist"), [line.place for line in plan.lines])
    rims = match((e for e in edits if e.sort == "rim"), [rim.place for rim in rim_boards(plan, stock)])
    lines, out = list(plan.lines), _Out(list(plan.edges), list(plan.snags))
    made: dict[str, MadeOf] = {}
    for place, edit in joists.by_place.items():
        line = next(line for line in lines if line.place == place)
        own = made_of(edit, size)
        if edit.removed:
            lines.remove(line)
            out.strips += _handed_on(plan, lines, line)
            continue
        if edit.moved:
            line = _moved(plan, lines, line, edit.moved, out)
        if edit.longer:
            line = _swap(lines, line, _longer(plan, line, edit.longer, out))
        for alike in (line.place, *laid_beside(lines, line, edit.more, section(own.sized(size)).breadth)):
            made[piece_name(owner, "joist", alike)] = own
    for place, edit in rims.by_place.items():
        made[piece_name(owner, "rim", place)] = replace(made_of(edit, rim_of(size)), gone=edit.removed)
        if edit.removed:
            at = next((*rim.start, 0.0) for rim in rim_boards(plan, stock) if rim.place == place)
            out.snags.append(Snag("no rim", "a rim board is taken out", owner, at))
    headers = plan.headers
    bears_on = frozenset(s for line in lines for s, _, _ in line.stops if s and s not in headers)
    after = FloorPlan(
        plan.floor,
        plan.frame,
        plan.outline,
        plan.spacing,
        tuple(lines),
        tuple(out.strips),
        bears_on,
        tuple(out.snags),
        plan.holes,
    )
    lost = (*named(owner, "joist", joists), *named(owner, "rim", rims))
    return Edited(after, made, frozenset(made), lost)


def _swap(lines: list[MemberLine], old: MemberLine, new: MemberLine) -> MemberLine:
    lines[lines.index(old)] = new
    return new


def laid_beside(lines: list[MemberLine], line: MemberLine, count: int, breadth: float) -> list[str]:
    """Lay more of a member beside it; all share what it carried.  Returns the places of the new ones."""
    if not count:
        return []
    share = tuple((low, high, width / (count + 1)) for low, high, width in line.loaded)
    alike = replace(line, patches=share, width=line.width / (count + 1), edited=True)
    lines[lines.index(line)] = alike
    base = place_of(line.place)
    assert base is not None
    places = [MemberPlace(base.datum, base.at, base.between, base.which + k).text for k in range(1, count + 1)]
    lines += [replace(alike, place=place, t=line.t + k * breadth) for k, place in enumerate(places, 1)]
    return places


def made_longer(line: MemberLine, by: float) -> MemberLine:
    """Lengthen a member at its far end (or shorten it), and what it bears on there with it; cut too short, it bears on nothing."""
    bears = max(line.bearings[1] + min(by + line.overhangs[1], 0.0), 0.0)
    supports = line.supports if bears > 0.0 else (line.supports[0], "")
    return replace(line, high=line.high + by, bearings=(line.bearings[0], bears), supports=supports, edited=True)


def with_patches(line: MemberLine, *more: tuple[float, float, float]) -> MemberLine:
    """Return a joist that carries more stretches (low, high, width); a width below zero takes floor from it."""
    wide: dict[tuple[float, float], float] = {}
    for low, high, width in (*line.loaded, *more):
        key = (round(low, 6), round(high, 6))
        wide[key] = wide.get(key, 0.0) + width
    patches = tuple((low, high, round(width, 6)) for (low, high), width in wide.items() if abs(width) > 1e-9)
    marks = sorted({x for low, high, _ in patches for x in (low, high)})
    stacked = [
        sum(w for low, high, w in patches if low <= a + 1e-6 and high >= b - 1e-6) for a, b in itertools.pairwise(marks)
    ]
    return replace(line, patches=patches, width=max(stacked, default=0.0), edited=True)


def beside(lines: list[MemberLine], t: float, low: float, high: float, side: int) -> list[tuple[float, float, int]]:
    """Return the stretches (from, to, number of the nearest joist on that side) between two places along it."""
    near = sorted(
        ((abs(line.t - t), i) for i, line in enumerate(lines) if (line.t - t) * side > 1e-6), key=lambda row: row[0]
    )
    found: list[tuple[float, float, int]] = []
    left = [(low, high)]
    for _, i in near:
        rest: list[tuple[float, float]] = []
        for a, b in left:
            p, q = max(a, lines[i].load_low), min(b, lines[i].load_high)
            if q - p < 1.0:
                rest.append((a, b))
                continue
            found.append((p, q, i))
            rest += [(u, v) for u, v in ((a, p), (q, b)) if v - u > 1.0]
        left = rest
        if not left:
            break
    return found


def _give(
    plan: FloorPlan, lines: list[MemberLine], t: float, low: float, high: float, side: int, width: float
) -> list[EdgeStrip]:
    """Give a strip of floor beside a place to the joists on one side, and to the wall there where there is none.

    A width below zero takes it from them.
    """
    covered = beside(lines, t, low, high, side)
    for a, b, i in covered:
        lines[i] = with_patches(lines[i], (a, b, width))
    marks = sorted({low, high, *(x for a, b, _ in covered for x in (a, b))})
    bare = [
        (a, b) for a, b in itertools.pairwise(marks) if not any(p <= a + 1e-6 and q >= b - 1e-6 for p, q, _ in covered)
    ]
    return [_to_wall(plan, a, b, t, side, width) for a, b in bare if b - a > 1e-6]


def _to_wall(plan: FloorPlan, low: float, high: float, t: float, side: int, width: float) -> EdgeStrip:
    """Return a strip handed to the wall on one side, as the half bay there is."""
    middle = plan.frame.back((low + high) / 2.0, t)

    def far(strip: EdgeStrip) -> tuple[bool, float]:
        beyond = (plan.frame.ring((strip.at,))[0][1] - t) * side
        return beyond < -1e-6, distance(strip.at, middle)

    nearest = min(plan.edges, key=far, default=None)
    return EdgeStrip(nearest.bearer if nearest is not None else "", middle, (high - low) * width)


def _handed_on(plan: FloorPlan, lines: list[MemberLine], gone: MemberLine) -> list[EdgeStrip]:
    """Give what a joist carried to those beside it, half to each side."""
    strips: list[EdgeStrip] = []
    for low, high, width in gone.loaded:
        for side in (-1, 1):
            strips += _give(plan, lines, gone.t, low, high, side, width / 2.0)
    return strips


def _moved(plan: FloorPlan, lines: list[MemberLine], line: MemberLine, by: float, out: _Out) -> MemberLine:
    """Move a joist along its layout; where the next one is in the way it stays, and a snag says so.

    Its own strip stays as wide: from the middle of one bay to that of the other.
    """
    side = 1 if by > 0.0 else -1
    ahead = beside(lines, line.t, line.load_low, line.load_high, side)
    room = min((abs(lines[i].t - line.t) for _, _, i in ahead), default=_to_edge(plan, line, side))
    if abs(by) > room - LEAST_APART:
        at = (*plan.frame.back((line.low + line.high) / 2.0, line.t), 0.0)
        out.snags.append(Snag("hand edit", "a joist cannot be moved past the next one", plan.floor.id, at))
        return line
    span = line.load_low, line.load_high
    out.strips += _give(plan, lines, line.t, *span, side, -abs(by) / 2.0)
    out.strips += _give(plan, lines, line.t, *span, -side, abs(by) / 2.0)
    return _swap(lines, line, replace(line, t=line.t + by, edited=True))


def _to_edge(plan: FloorPlan, line: MemberLine, side: int) -> float:
    """Return how far it is to the edge of the floor on one side."""
    ts = [t for _, t in plan.frame.ring(plan.outline.core)]
    return (max(ts) - line.t) if side > 0 else (line.t - min(ts))


def _longer(plan: FloorPlan, line: MemberLine, by: float, out: _Out) -> MemberLine:
    longer = made_longer(line, by)
    if longer.bearings[1] <= 0.0 < line.bearings[1]:
        at = (*plan.frame.back(line.high + by, line.t), 0.0)
        out.snags.append(Snag("no bearing", "a joist is cut too short to bear at its end", plan.floor.id, at))
    return longer


# Studs ----------------------------------------------------------------------------------------------


class EditedWall(Edited[StudWall], frozen=True):
    """A wall's framing with hand edits in it; ``carries``: how wide a strip studs beside edits carry, by name, mm."""

    carries: dict[str, float] = field(default_factory=dict)


def edited_wall(wall: StudWall, edits: tuple[MemberEdit, ...], size: str, spacing: float) -> EditedWall:
    """Lay the hand edits of a wall's studs over its framing."""
    if not edits:
        return EditedWall(wall, {}, frozenset(), ())
    found = match(edits, [stick.place for stick in wall.sticks if stick.role == "stud"])
    sticks: list[Stick] = []
    made: dict[str, MadeOf] = {}
    for stick in wall.sticks:
        edit = found.by_place.get(stick.place) if stick.role == "stud" else None
        if edit is None:
            sticks.append(stick)
            continue
        if edit.removed:
            continue
        own = made_of(edit, size)
        moved = _shifted(replace(stick, size=own.sized(stick.size)), edit.moved)
        first = replace(moved, length=stick.length + edit.longer) if edit.longer else moved
        for one in (first, *_more_studs(first, edit.more)):
            made[one.key(wall.wall)] = own
            sticks.append(one)
    after = StudWall(wall.wall, tuple(sticks), wall.troubles, wall.module)
    carries = _carried_by(after, made, spacing) if found.by_place else {}
    return EditedWall(after, made, frozenset(made), named(wall.wall, "stud", found), carries)


def _more_studs(stick: Stick, count: int) -> list[Stick]:
    base = place_of(stick.place)
    assert base is not None
    return [
        replace(
            _shifted(stick, k * section(stick.size).breadth),
            place=MemberPlace(base.datum, base.at, base.between, base.which + k).text,
        )
        for k in range(1, count + 1)
    ]


def _shifted(stick: Stick, by: float) -> Stick:
    return replace(stick, ring=tuple((x + by, z) for x, z in stick.ring)) if by else stick


def _carried_by(wall: StudWall, made: dict[str, MadeOf], spacing: float) -> dict[str, float]:
    """Return how wide a strip each stud carries that is edited or stands beside a gap: half-way to its neighbours."""
    upright = [s for s in wall.sticks if s.role in ("stud", "king stud")]
    rows = sorted(((s.ring[0][0] + s.ring[1][0]) / 2.0, s.key(wall.wall), s.role) for s in upright)
    carries: dict[str, float] = {}
    for i, (x, name, role) in enumerate(rows):
        left = x - rows[i - 1][0] if i else 0.0
        right = rows[i + 1][0] - x if i + 1 < len(rows) else 0.0
        strip = (left + right) / 2.0
        if role == "stud" and (strip > spacing + 1.0 or name in made):
            carries[name] = max(strip, spacing / 2.0)
    return carries
