"""A roof truss laid out: its joints, its sticks with the middle lines that carry, and the frame these make.

Middle lines of webs meet those of chords at joints.  At a heel where the top chord lies on the bottom chord their middle lines
cross a little beside the middle of the bearing; they are stiff there, and what that brings is shared between both (centres as
they are, no joint made to fit).  Where the top chord lies higher, an upright stands over the bearing and a web (a strut) runs up from it.
Chords run on over their joints; webs, peaks and splices turn freely.
"""

import itertools
import math
from typing import Literal

import msgspec
import numpy as np

from balken.analysis.frames import Made
from balken.catalog.sections import section
from balken.framing.truss_outline import STEEP, Bearing, TrussError, TrussOutline, height_on, moved, slope_on
from balken.framing.truss_webs import Pattern
from balken.geometry.plane import Point
from balken.units import say_both
from balken.units.system import FOOT, INCH
from balken.value import Value

Role = Literal["top chord", "bottom chord", "web"]
ROLES: tuple[Role, ...] = ("top chord", "bottom chord", "web")
FARTHEST_HEEL = 18.0 * INCH
"""Where the chords' middle lines cross farther outside the outer face, they do not lie on one another well enough."""
LEAST_UPRIGHT = 2.5 * INCH
"""An upright stands at a heel where it is as long at least between the chords; else the top chord lies on the bottom chord."""
LEAST_PANEL = 15.0 * INCH
"""No splice lies in a shorter panel, mm."""
SHORTEST = 12.0 * INCH
"""A truss spans so much at least, mm."""
HUNG = "hung"
"""Joints of the bottom chord where something hangs between webs begin so."""
RESTS = "rest"
STOOD = "stand"
"""Joints of the top chord where something rests between webs begin so."""
NEAR_JOINT = 50.0
"""What rests nearer to another joint of the top chord rests on that, mm."""
CLEAR_OF_HANGERS = 4.0 * INCH
"""No splice lies nearer to what hangs or rests on a chord, mm."""
FREE = 3.5 * INCH
"""A heel past its bearing is laid out as if it bore on so much."""
SAME = 1.0
"""Joints no farther apart are one, mm."""
STEEP_UNDER_DEEP = 0.75
"""Tangent of the least angle between such a web and a deep top chord no steeper than 6:12: 37 degrees, less under steeper ones, where that would
bring both too near to the upright (common practice, no source)."""
SHORT_OF_NEXT, SHORT_OF_END = 0.7, 0.9
"""The web of a raised heel ends at a joint of its own no farther on the way to the next one, to a jack's end."""
HIGH_JACK = 0.5
"""A jack whose heel is higher for its length has a web that falls to its higher end, where none that rises finds room."""
LEAST_LAP = 0.25 * INCH
"""Chords that lie on one another at a heel do so by this at least at its outer face, plumb, mm."""
STOCK, DEEP_STOCK = 20.0 * FOOT, 24.0 * FOOT
"""Lengths in which boards up to 2x6, and deeper ones, are bought (common practice, no source)."""


class Sizes(Value, frozen=True):
    """Sections of a truss's top chords, bottom chords and webs; of how many plies all of it is; grades of the three ("": that of all its wood)."""

    top: str = "2x4"
    bottom: str = "2x4"
    webs: str = "2x4"
    plies: int = 1
    grades: tuple[str, str, str] = ("", "", "")

    def grade(self, role: Role, usual: str) -> str:
        """Return the grade of sticks of a role; ``usual``: of all its wood."""
        return self.grades[ROLES.index(role)] or usual

    def called(self, role: Role) -> str:
        """Return the section of sticks of a role with their grade, where that is one of their own."""
        return f"{self.of(role)} {self.grades[ROLES.index(role)]}".rstrip()

    def of(self, role: Role) -> str:
        """Return the section of sticks of a role."""
        return {"top chord": self.top, "bottom chord": self.bottom, "web": self.webs}[role]


class Stick(Value, frozen=True):
    """A stick: its name, what it is, the joints along it."""

    name: str
    role: Role
    joints: tuple[str, ...]


class Element(Value, frozen=True):
    """A part of a stick between two joints; whether its ends turn freely; which stretch of roof or ceiling lies on it (x, mm)."""

    name: str
    stick: str
    i: str
    j: str
    hinge_i: bool
    hinge_j: bool
    lies: tuple[float, float] | None


class TrussFrame(Value, frozen=True):
    """A truss laid out: joints by name, sticks, elements, joints that bear (with whether they are held sideways too)."""

    outline: TrussOutline
    sizes: Sizes
    joints: dict[str, Point]
    sticks: tuple[Stick, ...]
    elements: tuple[Element, ...]
    held: dict[str, bool]
    splices: tuple[str, ...]

    def stick(self, name: str) -> Stick:
        """Return a stick by its name."""
        return next(one for one in self.sticks if one.name == name)

    def hung_at(self, x: float) -> str:
        """Return the joint of the bottom chord where something hangs at x."""
        names = {name for one in self.sticks if one.role == "bottom chord" for name in one.joints}
        return min(names, key=lambda name: (abs(self.joints[name][0] - x), name))

    def rested_at(self, x: float) -> str:
        """Return the joint of the top chord where something rests at x."""
        names = {name for one in self.sticks if one.role == "top chord" for name in one.joints}
        return min(names, key=lambda name: (abs(self.joints[name][0] - x), name))

    @property
    def parted(self) -> bool:
        """Whether its chords are to lie on one another at a heel and do not touch there: plates reach over no gap."""
        outline = self.outline
        if outline.on_top:
            return False
        upright = {frozenset(one.joints) for one in self.sticks if one.role == "web"}
        for left in (True, False):
            name, x = f"heel {'left' if left else 'right'}", (outline.start + 1e-6 if left else outline.end - 1e-6)
            if name not in self.joints or frozenset((_seat_name(outline, left), name)) in upright:
                continue
            sizes = ((self.sizes.top, outline.top), (self.sizes.bottom, outline.bottom))
            deep = sum(section(size).depth * math.hypot(1.0, slope_on(line, x)) for size, line in sizes)
            if height_on(outline.top, x) - height_on(outline.bottom, x) > deep - LEAST_LAP:
                return True
        return False

    @property
    def walked(self) -> tuple[tuple[str, str], ...]:
        """The joints of its chords on which someone may stand, from left to right, each with its chord; none that bears."""
        found: list[tuple[str, str]] = []
        for chord in ("top", "bottom"):
            names = {name for one in self.sticks if one.role == f"{chord} chord" for name in one.joints}
            free = names - {*self.held} - {name for name, _ in found}
            found += [(name, chord) for name in sorted(free, key=lambda name: (self.joints[name][0], name))]
        return tuple(found)

    def made(self) -> Made:
        """Return what trusses of its make have in common, for the solver."""
        number = {name: k for k, name in enumerate(self.joints)}
        return Made(
            np.array([(number[one.i], number[one.j]) for one in self.elements]),
            np.array([(one.hinge_i, one.hinge_j) for one in self.elements]),
            np.array([(self.held.get(name, False), name in self.held) for name in self.joints]),
        )

    def length(self, one: Element) -> float:
        """Return an element's length, mm."""
        return math.dist(self.joints[one.i], self.joints[one.j])


class _Laying:
    """Joints and sticks as they are laid."""

    def __init__(self, outline: TrussOutline, sizes: Sizes, whole: tuple[tuple[str, float, float], ...]) -> None:
        self.outline, self.sizes, self.whole = outline, sizes, whole
        self.top = moved(outline.top, -section(sizes.top).depth / 2.0)
        self.bottom = moved(outline.bottom, section(sizes.bottom).depth / 2.0)
        self.joints: dict[str, Point] = {}
        self.chords: dict[str, list[str]] = {"top": [], "bottom": []}
        self.webs: list[tuple[str, str]] = []
        self.held: dict[str, bool] = {}

    def at_bend(self, x: float, chord: str, both: bool = True) -> float:
        """Return where the middle line of a chord bends whose outline bends at x: a little aside where it is not alike on both sides;
        ``both``: where it does not bend itself, as the other does.
        """
        lines = [(self.outline.top, self.top), (self.outline.bottom, self.bottom)][:: 1 if chord == "top" else -1]
        lines = lines if both else lines[:1]
        bends = [(p[0], q[0]) for edge, middle in lines for p, q in zip(edge[1:-1], middle[1:-1], strict=True)]
        return next((moved for bend, moved in bends if abs(bend - x) < SAME), x)

    def put(self, chord: str, x: float, name: str) -> str:
        """Put a joint on a chord's middle line at x; where one is there already, return that."""
        line = self.top if chord == "top" else self.bottom
        at = (x, height_on(line, x))
        for known in self.chords[chord]:
            if math.dist(self.joints[known], at) < SAME:
                return known
        self.joints[name] = at
        self.chords[chord].append(name)
        return name

    def share(self, name: str) -> None:
        """Let a joint of the bottom chord be one of the top chord too."""
        if name not in self.chords["top"]:
            self.chords["top"].append(name)

    def in_order(self, chord: str) -> list[str]:
        """Return the joints of a chord from left to right."""
        return sorted(self.chords[chord], key=lambda name: self.joints[name][0])


def _crossing(laying: _Laying, left: bool) -> Point | None:
    """Return where the middle lines of both chords cross at a heel; None where they do not."""
    x = laying.outline.start if left else laying.outline.end
    # Just within, so that the slopes are those of the parts that end here.
    inside = x + (1.0 if left else -1.0) * 1e-6
    p, q = slope_on(laying.top, max(inside, laying.top[0][0])), slope_on(laying.bottom, inside)
    if abs(p - q) < 1e-9:
        return None
    gap = height_on(laying.top, inside) - height_on(laying.bottom, inside)
    at = inside - gap / (p - q)
    return at, height_on(laying.bottom, inside) + q * (at - inside)


def _between(laying: _Laying, x: float) -> float:
    """Return the plumb gap between the chords at x, mm."""
    sizes = laying.sizes
    deep = [
        section(size).depth / 2.0 * math.hypot(1.0, slope_on(line, x))
        for size, line in ((sizes.top, laying.top), (sizes.bottom, laying.bottom))
    ]
    return height_on(laying.top, x) - height_on(laying.bottom, x) - sum(deep)


def _seat_name(outline: TrussOutline, left: bool) -> str:
    """Return the name of the joint of the bottom chord at a heel: it bears, stands out past what bears, or hangs inside of that."""
    if outline.on_top:
        return f"foot {'left' if left else 'right'}"
    return f"{'free' if outline.past[0 if left else 1] > SAME else 'bearing'} {'left' if left else 'right'}"


def _lay_heel(laying: _Laying, left: bool, stands: bool) -> str:
    """Lay the joints of a heel; return the one where webs of a raised heel end on the top chord ("" where the chords meet)."""
    outline, side, name = laying.outline, "left" if left else "right", _seat_name(laying.outline, left)
    if outline.on_top:
        return _lay_inside(laying, left)
    bearing = outline.bearings[0 if left else -1]
    if name.startswith("free"):
        if _between(laying, bearing.middle) < LEAST_UPRIGHT:
            raise TrussError(
                "over the wall past which its heel stands there is no room for an upright: let it stand out farther, or type a higher heel"
            )
        bearing = Bearing(outline.start, outline.start + FREE) if left else Bearing(outline.end - FREE, outline.end)
    seat = laying.put("bottom", bearing.middle, name)
    if not name.startswith("free"):
        laying.held[seat] = left
    crossing = None if stands else _crossing(laying, left)
    out = 0.0 if crossing is None else (outline.start - crossing[0] if left else crossing[0] - outline.end)
    clear = _between(laying, bearing.middle)
    if crossing is not None and out <= FARTHEST_HEEL and clear < LEAST_UPRIGHT:
        if math.dist(crossing, laying.joints[seat]) < SAME:
            laying.share(seat)
        else:
            heel = f"heel {side}"
            laying.joints[heel] = crossing
            laying.chords["bottom"].append(heel)
            laying.share(heel)
        return ""
    if clear < LEAST_UPRIGHT and not stands:
        more = (LEAST_UPRIGHT - clear) / INCH
        raise TrussError(
            f"its heel is too high for its chords to lie on one another, and {more:.1f} in too low for an upright between them: type a lower "
            "or a higher heel"
        )
    upper = laying.put("top", bearing.middle, f"heel {side}")
    if laying.joints[upper][1] - laying.joints[seat][1] < SAME:
        raise TrussError("its heel is too low: the top chord would lie below the bottom chord over the bearing")
    laying.webs.append((seat, upper))
    return upper


def _lay_inside(laying: _Laying, left: bool) -> str:
    """Lay the joints of an end that bears on its top chord: over the bearing, and an upright just inside; return the latter's upper one."""
    outline, side = laying.outline, "left" if left else "right"
    half = section(laying.sizes.webs).depth / 2.0
    x = outline.start + half if left else outline.end - half
    if _between(laying, x) < LEAST_UPRIGHT:
        raise TrussError(
            "inside its walls there is no room for an upright between its chords: let its bottom chord lie lower"
        )
    seat = laying.put("bottom", x, f"foot {side}")
    upper = laying.put("top", x, f"heel {side}")
    laying.held[laying.put("top", outline.bearings[0 if left else -1].middle, f"bearing {side}")] = left
    laying.webs.append((seat, upper))
    return upper


def _lay_open_end(laying: _Laying) -> str:
    """Lay the right end of a jack whose chords are held one over the other, with nothing between them."""
    at = laying.outline.bearings[-1].middle
    for chord, name in (("bottom", "bearing right"), ("top", "held right")):
        laying.held[laying.put(chord, at, name)] = False
    return ""


def truss_frame(outline: TrussOutline, pattern: Pattern, sizes: Sizes, stock: float | None = None) -> TrussFrame:
    """Lay out a truss; ``stock``: the longest board, mm (None: as bought).  Raises TrussError with what cannot be laid so."""
    laying = _Laying(outline, sizes, pattern.whole)
    _check_room(laying)
    heels = [_lay_heel(laying, True, pattern.stands[0])]
    heels.append(_lay_open_end(laying) if pattern.opens else _lay_heel(laying, False, pattern.stands[1]))
    tops = [laying.put("top", laying.at_bend(x, "top"), f"T{k + 1}") for k, x in enumerate(pattern.top)]
    # What is seated stays over the middle of its bearing, though the top chord bends just there.
    bottoms = [
        laying.put("bottom", laying.at_bend(x, "bottom", k not in pattern.seated), f"B{k + 1}")
        for k, x in enumerate(pattern.bottom)
    ]
    ends = {
        ("T", -1): heels[0], ("T", len(tops)): heels[1], ("B", -1): _seat_name(outline, True), ("B", len(bottoms)): _seat_name(outline, False)
    }  # fmt: skip
    for k, x in enumerate(pattern.hung):
        laying.put("bottom", x, f"{HUNG} {k + 1}")
    named = {("T", k): name for k, name in enumerate(tops)} | {("B", k): name for k, name in enumerate(bottoms)} | ends
    laying.webs += [(named[web.one], named[web.other]) for web in pattern.webs]
    for heel, stands, side, first in zip(heels, pattern.stands, ("left", "right"), (0, -1), strict=True):
        if heel and not stands:
            # A raised heel: a web runs up from the bearing to the top chord, steep enough beside it to be plated; of a jack too short for
            # that to its higher end.
            seat = _seat_name(outline, side == "left")
            if tops:
                laying.webs.append((seat, _strut_end(laying, side, seat, heel, tops[first])))
            else:
                laying.webs.append(_web_of_jack(laying, seat, heel, "held right" if pattern.opens else heels[1]))
    for k, x in enumerate(pattern.rested):
        if all(abs(laying.joints[name][0] - x) > NEAR_JOINT for name in laying.chords["top"]):
            laying.put("top", x, f"{RESTS} {k + 1}")
    for k, (chord, x) in enumerate(pattern.stood):
        laying.put(chord, x, f"{STOOD} {k + 1}")
    if pattern.all_along:
        low, high = outline.bearings[0].low, outline.bearings[-1].high
        laying.held |= dict.fromkeys((name for name in bottoms if low < laying.joints[name][0] < high), False)
    laying.held |= {bottoms[k]: False for k in pattern.seated}
    if not any(laying.held.values()):  # one bearing holds it along, too
        laying.held[min(laying.held, key=lambda name: laying.joints[name][0])] = True
    _tips(laying)
    return _framed(laying, stock)


def _web_of_jack(laying: _Laying, seat: str, heel: str, last: str) -> tuple[str, str]:
    """Return the web of a jack with a raised heel that has no other: up from the bearing, or, of one that is high for its length, down to its
    higher end; ``last``: the end of its top chord.
    """
    (x0, y0), (_, y1), (x2, _) = (laying.joints[name] for name in (seat, heel, last))
    end = _strut_end(laying, "left", seat, heel, last, SHORT_OF_END)
    if end == last and y1 - y0 > HIGH_JACK * (x2 - x0):
        return heel, "bearing right"
    return seat, end


def _strut_end(laying: _Laying, side: str, seat: str, heel: str, next_one: str, most: float = SHORT_OF_NEXT) -> str:
    """Return the joint of the top chord where the web of a raised heel ends: the next one, or one of its own nearer by, at so much of the way
    to that at most.
    """
    (x0, y0), (x1, y1), (x2, _) = (laying.joints[name] for name in (seat, heel, next_one))
    pitch = abs(slope_on(laying.top, x1 + (1.0 if side == "left" else -1.0)))
    # Top chords that bear are deep: a flat web would meet their underside far beside the joint.
    steep = (
        min(max(STEEP_UNDER_DEEP - 0.8 * (pitch - 0.5), STEEP), STEEP_UNDER_DEEP) if laying.outline.on_top else STEEP
    )
    reach = max((y1 - y0) * (1.0 - pitch * steep) / (steep * (1.0 + pitch**2)), 6.0 * INCH)
    if reach > most * abs(x2 - x0):
        return next_one
    return laying.put("top", x0 + (reach if side == "left" else -reach), f"strut {side}")


def _check_room(laying: _Laying) -> None:
    outline, sizes = laying.outline, laying.sizes
    deep = section(sizes.top).depth
    for k, x in enumerate((outline.start, outline.end)):
        inside = x + (1e-6, -1e-6)[k]
        plumb = deep * math.hypot(1.0, slope_on(laying.top, inside))
        heel = height_on(outline.top, inside) - outline.bearings[-k].level
        if heel < plumb - 0.5:
            raise TrussError(
                f"its heel of {say_both(heel)} is less than the plumb depth of its top chord {sizes.top}, {say_both(plumb)}: "
                "the top chord would hang below the bearing"
            )
    if outline.span < SHORTEST:
        raise TrussError(f"its span is less than {say_both(SHORTEST)}")
    middle = outline.top[1][0] if len(outline.top) > 2 else outline.end
    if height_on(laying.top, middle) - height_on(laying.bottom, middle) < section(sizes.bottom).depth:
        raise TrussError("its chords lie too close: it needs to be steeper, wider or deeper")


def _tips(laying: _Laying) -> None:
    """Lay the ends of the chords where they reach past the outermost joints: loads lie on them."""
    for chord, line in (("top", laying.top), ("bottom", laying.bottom)):
        order = laying.in_order(chord)
        for left, end in ((True, line[0]), (False, line[-1])):
            last = laying.joints[order[0 if left else -1]]
            if (last[0] - end[0] if left else end[0] - last[0]) > SAME:
                side = "left" if left else "right"
                laying.put(chord, end[0], f"{'tip' if chord == 'top' else 'end'} {side}")


def _framed(laying: _Laying, stock: float | None) -> TrussFrame:
    sticks: list[Stick] = []
    elements: list[Element] = []
    splices: list[str] = []
    for chord, role, mark in (("top", "top chord", "TC"), ("bottom", "bottom chord", "BC")):
        number = 0
        for run in _runs(laying, chord):
            deep = section(laying.sizes.of(role)).depth > 6.0 * INCH  # type: ignore[arg-type]
            long = stock or (DEEP_STOCK if deep else STOCK)
            for piece in _spliced(laying, chord, run, long, splices):
                number += 1
                sticks.append(Stick(f"{mark}{number}", role, tuple(piece)))  # type: ignore[arg-type]
    for number, (i, j) in enumerate(sorted(laying.webs, key=lambda web: _middle(laying, web)), start=1):
        sticks.append(Stick(f"W{number}", "web", (i, j)))
    for stick in sticks:
        pairs = list(itertools.pairwise(stick.joints))
        for k, (i, j) in enumerate(pairs):
            free = stick.role == "web"
            ends = (
                free or (k == 0 and _loose(laying, i, splices)),
                free or (k == len(pairs) - 1 and _loose(laying, j, splices)),
            )
            name = f"{stick.name}.{k + 1}" if len(pairs) > 1 else stick.name
            elements.append(Element(name, stick.name, i, j, *ends, None))
    order = tuple(sorted(laying.joints, key=lambda name: (laying.joints[name][0], laying.joints[name][1])))
    joints = {name: laying.joints[name] for name in order}
    made = tuple(_lying(laying, one) for one in elements)
    return TrussFrame(laying.outline, laying.sizes, joints, tuple(sticks), made, dict(laying.held), tuple(splices))


def _middle(laying: _Laying, web: tuple[str, str]) -> tuple[float, float]:
    (x0, y0), (x1, y1) = (laying.joints[name] for name in web)
    return (round((x0 + x1) / 2.0, 3), (y0 + y1) / 2.0)


def _loose(laying: _Laying, name: str, splices: list[str]) -> bool:
    """Whether chords turn freely where they end: at peaks and splices; not at heels, nor at their own tips."""
    if name in splices:
        return True
    return not name.startswith(("heel", "tip", "end", "bearing", "held", "free"))


def _runs(laying: _Laying, chord: str) -> list[list[str]]:
    """Return the straight runs of a chord as rows of joints: it ends and begins where it bends."""
    line = laying.top if chord == "top" else laying.bottom
    order, bends = laying.in_order(chord), [x for x, _ in line[1:-1]]
    if any(all(abs(laying.joints[name][0] - x) >= SAME for name in order) for x in bends):
        raise TrussError(f"its {chord} chord bends where no web of this pattern meets it: choose other webs")
    runs, run = [], [order[0]]
    for name in order[1:]:
        run.append(name)
        if any(abs(laying.joints[name][0] - x) < SAME for x in bends) and name != order[-1]:
            runs.append(run)
            run = [name]
    return [*runs, run]


def _spliced(laying: _Laying, chord: str, run: list[str], stock: float, splices: list[str]) -> list[list[str]]:
    """Cut a run into pieces no longer than the stock, at quarters of panels (there its moments are small)."""
    at = {name: laying.joints[name] for name in run}
    whole = math.dist(at[run[0]], at[run[-1]])
    if whole <= stock + 1e-6:
        return [run]
    (x0, y0), (x1, y1) = at[run[0]], at[run[-1]]
    along = [math.dist(at[run[0]], at[name]) for name in run if not name.startswith((HUNG, RESTS, STOOD))]
    panels = [(a, b) for a, b in itertools.pairwise(along) if b - a > LEAST_PANEL]
    barred = [tuple(whole * (x - x0) / (x1 - x0) for x in (low, high)) for of, low, high in laying.whole if of == chord]
    places = [
        place for a, b in panels for place in _quarters(a, b) if not any(low < place < high for low, high in barred)
    ]
    hung = [math.dist(at[run[0]], at[name]) for name in run if name.startswith((HUNG, RESTS))]
    free = [place for place in places if all(abs(place - x) > CLEAR_OF_HANGERS for x in hung)]
    for cut in _cuts(whole, free, stock):
        number = 1 + sum(name.startswith(f"splice {chord}") for name in splices)
        name, part = f"splice {chord} {number}", cut / whole
        laying.joints[name] = (x0 + (x1 - x0) * part, y0 + (y1 - y0) * part)
        laying.chords[chord].append(name)
        splices.append(name)
        run = [*run, name]
    order = sorted(run, key=lambda name: laying.joints[name][0])
    found, piece = [], [order[0]]
    for name in order[1:]:
        piece.append(name)
        if name in splices:
            found.append(piece)
            piece = [name]
    return [*found, piece]


def _quarters(a: float, b: float) -> tuple[float, ...]:
    """Return where a panel may be spliced: at its quarters; a short one in its middle, clear of the plates at its joints."""
    if b - a < 4.0 * FOOT:
        return ((a + b) / 2.0,)
    return a + 0.25 * (b - a), a + 0.75 * (b - a)


def _cuts(whole: float, places: list[float], stock: float) -> list[float]:
    """Return where a run is cut, nearest to pieces alike."""
    cuts: list[float] = []
    last = 0.0
    while whole - last > stock + 1e-6:
        left = math.ceil((whole - last) / stock - 1e-9)
        near = [p for p in places if last + 1.0 < p <= last + stock + 1e-6]
        within = [p for p in near if whole - p <= stock * (left - 1) + 1e-6] or near[-1:]
        if not within:
            raise TrussError(
                "no quarter of a panel lies within the length of the stock: its chords cannot be spliced. Take longer stock, or other webs"
            )
        last = min(within, key=lambda p: abs(p - last - (whole - last) / left))
        cuts.append(last)
    return cuts


def _lying(laying: _Laying, one: Element) -> Element:
    """Say what of the roof or the ceiling lies on an element of a chord: its stretch, cut at the ends of what is covered.

    Where the outermost joint lies outside the chord's end, or a chord reaches a little past it, the outermost element takes what is there.
    """
    chord = {"T": "top", "B": "bottom"}.get(one.stick[0])
    if chord is None:
        return one
    line = laying.top if chord == "top" else laying.bottom
    order = laying.in_order(chord)
    a, b = laying.joints[one.i][0], laying.joints[one.j][0]
    low = line[0][0] if one.i == order[0] else a
    high = line[-1][0] if one.j == order[-1] else b
    low, high = max(low, line[0][0]), min(high, line[-1][0])
    if laying.outline.covers is not None:
        reach = laying.outline.covers[0 if chord == "top" else 1]
        low = reach[0] if one.i == order[0] else max(low, reach[0])
        high = reach[1] if one.j == order[-1] else min(high, reach[1])
        return msgspec.structs.replace(one, lies=(low, max(high, low)))
    first, last = laying.outline.bearings[0], laying.outline.bearings[-1]
    if chord == "bottom" and laying.outline.on_top:  # what lies on the ceiling over the walls hangs on it, too
        low = first.low if one.i == order[0] else low
        high = last.high if one.j == order[-1] else high
    elif chord == "bottom":  # the ceiling ends at the walls
        low, high = max(low, first.low), min(high, last.high)
    return msgspec.structs.replace(one, lies=(low, max(high, low)))
