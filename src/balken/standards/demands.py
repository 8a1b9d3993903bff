"""What is asked of a standard: members, studs, beams and posts with all that decides whether they work.

Records of dimensions and loads alone; no value and no clause of any standard stands here, but for the limits that a
standard gave, which carry their clause.
"""

import itertools
from functools import cached_property
from typing import Literal, NamedTuple

from msgspec.structs import replace

from balken.catalog.beams import BeamSection, cut_section
from balken.catalog.post_shapes import PostShape
from balken.catalog.section_record import Section
from balken.catalog.sections import section
from balken.framing.pieces import MadeOf
from balken.loads.cases import Cases, Combination, total
from balken.loads.roof_wind import Lifting
from balken.units.system import INCH
from balken.value import Lazy, Value

NO_LOAD = Cases()
NOTHING_LIFTS = Lifting()
Kind = Literal["joist", "rafter", "ceiling tie"]


class Limit(NamedTuple):
    """A limit of sag: n of span/n, and the clause that asks for it."""

    n: float
    clause: str


class DeckPanel(NamedTuple):
    """A panel of a floor deck: the greatest spacing of joists under it, mm; how it is stamped and nailed, by which clauses."""

    span: float
    rating: str
    nails: str
    clause: str


class RoofPanel(NamedTuple):
    """A panel of a roof deck over rafters: how it is stamped, the greatest spacing of these, mm; the snow or live load that it carries at
    theirs, kN/m2; whether its edges between them are to be held (by clips, blocks or tongues); how it is nailed, by which clauses.
    """

    rating: str
    span: float
    carries: float
    clips: bool
    nails: str
    clause: str


class Ledger(NamedTuple):
    """How a ledger outdoors is fastened: how far apart its bolts are, mm (0: no table covers it), in words, by which clause;
    what holds it sideways, by which.
    """

    spacing: float
    text: str
    clause: str
    ties: str
    ties_clause: str


class PlyNails(NamedTuple):
    """How plies are nailed together: in words, by which clause, what goes from one to the next, N/mm; whether they can be."""

    text: str
    clause: str
    flow: float
    works: bool


class HeelNails(NamedTuple):
    """Nails of a joint that holds a push: in words, by which clause; the push at normal load duration and what one nail holds, N;
    how many; whether there is room for them.
    """

    text: str
    clause: str
    force: float
    value: float
    number: int
    fits: bool


class LedgerNails(NamedTuple):
    """Nails of a ledger at each stud behind it: in words, by which clause; what comes to them at normal load duration and what one holds, N;
    how many, and for how many there is room.
    """

    text: str
    clause: str
    force: float
    value: float
    number: int
    room: int

    @property
    def used(self) -> float:
        """How far those that find room are used."""
        holds = self.value * self.room
        return self.force / holds if holds > 0.0 else 99.0


NOT_LIMITED = Limit(1.0, "")
"""Where nothing bends it."""


class MemberCase(Lazy, frozen=True):
    """One member with all that decides whether it works (mm, kN/m2 on plan, N).

    ``clear``: horizontal clear span. ``limit``: of the sag under the live part.
    ``bearing``: length of the shorter bearing. ``over``: overhang beyond the support, in plan.
    ``notch``: depth lost at the bird's mouth. ``tension``: axial force along it.  ``thrust``: sideways force with
    which a rafter leans on its eave and its ridge.  ``bears``: what it brings to its most loaded bearing (none: half
    its load).  ``tables``: the span is the clear one, as the span tables take it.  ``outdoors``: treated lumber that gets wet.
    ``lifts``: what wind sucks at it, square to its slope.
    ``tied_at``: how high the tie that takes the thrust meets a rafter, as a part of its rise (0: at its foot).  ``nailed``: hung by
    nails alone, which are counted apart.  ``propped``: how far in of its lower bearing a purlin holds it, in plan (0: none), and the
    breadth of that; ``let_in``: how deep a purlin is let into its underside; ``ice``: what may lie on its
    overhang with dead load alone, kN/m2.
    """

    kind: Kind
    size: str
    species: str
    grade: str
    clear: float
    spacing: float
    load: Cases
    limit: Limit
    bearing: float = 1.5 * INCH
    pitch: float = 0.0
    over: float = 0.0
    notch: float = 0.0
    tension: Cases = NO_LOAD
    thrust: Cases = NO_LOAD
    bears: Cases = NO_LOAD
    tables: bool = False
    outdoors: bool = False
    tied_at: float = 0.0
    nailed: bool = False
    propped: float = 0.0
    prop_breadth: float = 0.0
    let_in: float = 0.0
    ice: float = 0.0
    lifts: Lifting = NOTHING_LIFTS

    @cached_property
    def section(self) -> Section:
        """Its section."""
        return section(self.size)

    @cached_property
    def line(self) -> Cases:
        """Line load on plan by case, N/mm."""
        return self.load.scaled(self.spacing / 1000.0)


class StudCase(Lazy, frozen=True):
    """A stud with all that decides whether it works (mm, N, kN/m2).

    ``clear``: height between its plates. ``axial``: force by case. ``pressure``: wind on the wall at
    strength level over a width of ``spacing``. ``plate``: species of the plate it bears on; ``stands``: on the
    plate's inner part, or (at a door, at a corner) within 3 in of its end.
    """

    kind: Literal["stud", "king stud", "jack stud", "built-up post"]
    size: str
    species: str
    grade: str
    clear: float
    spacing: float
    axial: Cases
    pressure: float = 0.0
    plate: str = "DF-L"
    limit: Limit = NOT_LIMITED
    stands: Literal["inner", "end"] = "inner"

    @cached_property
    def section(self) -> Section:
        """Its section."""
        return section(self.size)

    @cached_property
    def line(self) -> Cases:
        """Line load square to the wall by case, N/mm."""
        return Cases(wind=self.pressure * self.spacing / 1000.0)


class BeamCase(Value, frozen=True):
    """A beam with all that decides whether it works (mm).

    ``clear``: between the faces of its supports. ``span``: NDS 3.2.1. ``unbraced``: length over which nothing holds its top edge.
    ``pressure``: wind on the wall, kN/m2, over ``tall`` mm of wall.
    """

    kind: Literal["header", "joist under load"]
    size: str
    species: str
    grade: str
    clear: float
    span: float
    load: Cases
    bearing: float
    unbraced: float
    pressure: float
    tall: float
    outdoors: bool = False

    @property
    def section(self) -> Section:
        """Its section."""
        return section(self.size)

    @property
    def line(self) -> Cases:
        """Its load as if it lay evenly, by case, N/mm."""
        return self.load.scaled(1.0 / self.span)


class BeamForces(Value, frozen=True):
    """What a header's line brings, by combination: greatest moment (N mm), shear and reaction, least reaction (N).

    ``sag``: E I times the greatest under live load, N mm3; ``live_moment``: the greatest under it, N mm.
    """

    combos: tuple[Combination, ...]
    moments: list[float]
    shears: list[float]
    most: list[float]
    least: list[float]
    sag: float
    live_moment: float = 0.0


NO_OVERHANG = 50.0
"""A beam that ends no farther than this beyond its last seat does not overhang, mm."""
CutKind = Literal["notch above", "notch below", "hole"]


class CutCase(Value, frozen=True):
    """A notch or hole in a member, with all that decides whether it may be there (mm, N).

    ``deep``: depth of a notch, diameter of a hole; ``long``: of a notch along the member; ``up``: the middle of a hole above
    its underside.  ``at_end``: a notch reaches its bearing there, ``beyond`` so far past the bearing's inner face;
    ``middle_third``: of its span; ``nearest``: distance to the next cut.  ``moment``, ``shear``: the greatest there, at normal
    load duration.
    """

    kind: CutKind
    size: str
    species: str
    grade: str
    deep: float
    long: float
    up: float
    at_end: bool
    beyond: float
    middle_third: bool
    nearest: float
    moment: float
    shear: float

    @property
    def section(self) -> Section:
        """The section of the member."""
        return section(self.size)


Patch = tuple[float, float, Cases, Cases]
"""A load along a beam: from where to where from its left end, mm; N/mm by case at both ends of it."""
Spot = tuple[float, Cases]
"""A load at a place of a beam: how far from its left end, mm; N by case."""


class GirderCase(Lazy, frozen=True):
    """A beam on two supports or more, with overhangs or without: all that decides whether it works (mm, N).

    ``supports``: middles from its left end, ``bearings``: length of each along it.  ``held``: how far apart its top edge
    is held, 0 all along, None at the supports alone; its bottom edge is held at the supports.  ``repetitive``: it is one of
    three or more that share their load.  ``skip``: live loads lie on any spans.  ``limit``, ``total_limit``: of the sag
    under the greatest single load that comes and goes, and of that with one and a half times the dead load.
    ``own``: its weight along it, N/mm, beside what lies on it.  ``nailed``: where joists hang at its sides, how far below its top
    their hangers' uppermost nails are.  ``push``: with what it is pressed along itself, N by case; what hangs at its sides holds it
    against buckling sideways.
    """

    kind: Literal["beam"]
    size: str
    species: str
    grade: str
    length: float
    supports: tuple[float, ...]
    bearings: tuple[float, ...]
    patches: tuple[Patch, ...]
    points: tuple[Spot, ...]
    held: float | None
    repetitive: bool
    skip: bool
    limit: Limit
    total_limit: Limit
    own: float = 0.0
    outdoors: bool = False
    nailed: float | None = None
    push: Cases = NO_LOAD

    @cached_property
    def section(self) -> BeamSection:
        """Its section."""
        return cut_section(self.size)

    @property
    def load(self) -> Cases:
        """All that lies on it and itself, N by case."""
        along = [a.plus(b).scaled((high - low) / 2.0) for low, high, a, b in self.patches]
        return total((*along, *(force for _, force in self.points), Cases(dead=self.own * self.length)))

    @cached_property
    def line(self) -> Cases:
        """Its load as if it lay evenly, by case, N/mm."""
        return self.load.scaled(1.0 / self.length)

    @property
    def clear(self) -> float:
        """Its greatest span, mm."""
        return max((b - a for a, b, over in self.stretches if not over), default=self.length)

    @property
    def stretches(self) -> tuple[tuple[float, float, bool], ...]:
        """Its overhangs and spans from left to right: from, to, whether it is an overhang."""
        return stretches(self.length, self.supports, self.bearings)


class SlabCase(Value, frozen=True):
    """A strip of a slab on its bearings, with all that decides whether it works (mm, N; ``fc``, ``fy`` N/mm2).

    ``width``: of the strip.  ``supports``, ``bearings``, ``patches``, ``points``: as of a beam; its own weight is among them.
    ``outdoors``: the concrete is exposed to weather.
    """

    size: str
    width: float
    length: float
    supports: tuple[float, ...]
    bearings: tuple[float, ...]
    patches: tuple[Patch, ...]
    points: tuple[Spot, ...]
    fc: float
    fy: float
    outdoors: bool = False
    kind: Literal["slab"] = "slab"
    species: str = "concrete"
    grade: str = ""

    @property
    def section(self) -> Section:
        """Its section, of a strip of 12 in."""
        return section(self.size)

    @property
    def load(self) -> Cases:
        """All that lies on the strip and itself, N by case."""
        along = [a.plus(b).scaled((high - low) / 2.0) for low, high, a, b in self.patches]
        return total((*along, *(force for _, force in self.points)))

    @property
    def line(self) -> Cases:
        """Its load as if it lay evenly, by case, N/mm."""
        return self.load.scaled(1.0 / self.length)

    @property
    def clear(self) -> float:
        """Its greatest clear span, mm."""
        half = [b / 2.0 for b in self.bearings]
        spans = zip(itertools.pairwise(self.supports), itertools.pairwise(half), strict=True)
        return max((b - a - p - q for (a, b), (p, q) in spans), default=self.length)

    @property
    def stretches(self) -> tuple[tuple[float, float, bool], ...]:
        """Its overhangs and spans from left to right: from, to, whether it is an overhang."""
        return stretches(self.length, self.supports, self.bearings)


class StringerCase(Value, frozen=True):
    """A stringer sawn out for its treads, with all that decides whether it works (mm, N, kN/m2 on plan).

    ``run``, ``rise``: of the part that nothing carries between head and foot; ``throat``: what is left of its depth below the
    notches; ``width``: of flight it carries, ``count``: how many there are; ``point``: a load on one tread, N.
    ``bearing``: length of that at its head.
    """

    size: str
    species: str
    grade: str
    run: float
    rise: float
    throat: float
    width: float
    count: int
    load: Cases
    point: Cases
    limit: Limit
    bearing: float
    kind: Literal["stringer"] = "stringer"

    @property
    def section(self) -> Section:
        """The section of the board it is sawn from."""
        return section(self.size)

    @property
    def clear(self) -> float:
        """Its span in plan."""
        return self.run

    @property
    def line(self) -> Cases:
        """Line load on plan by case, N/mm."""
        return self.load.scaled(self.width / 1000.0)


class GuardRules(NamedTuple):
    """Of guards: the load at their top, N; their least height, and how high over the ground an edge needs one, mm; clauses."""

    load: float
    load_clause: str
    height: float
    height_clause: str
    above: float
    above_clause: str


class StairRules(NamedTuple):
    """What a flight must keep: the highest riser, the shallowest tread, the least width and headroom, mm, each with its clause;
    the load that stands on one tread, N.
    """

    riser: float
    riser_clause: str
    tread: float
    tread_clause: str
    width: float
    width_clause: str
    headroom: float
    headroom_clause: str
    point: Cases


class SlabBars(NamedTuple):
    """The bars of a slab: their number, how far apart below along the strips, above over bearings (0: none), across; mm.

    ``reach``: how far those above run on to each side of a bearing's middle.
    """

    number: int
    below: float
    above: float
    across_number: int
    across: float
    reach: float = 0.0


def stretches(
    length: float, supports: tuple[float, ...], bearings: tuple[float, ...]
) -> tuple[tuple[float, float, bool], ...]:
    """Return the overhangs and spans of a line from left to right; what lies on its last seat, or hardly beyond, is none."""
    first, last = bearings[0] / 2.0 + NO_OVERHANG, bearings[-1] / 2.0 + NO_OVERHANG
    found = [(a, b, False) for a, b in itertools.pairwise(supports)]
    if supports[0] > first:
        found.insert(0, (0.0, supports[0], True))
    if length - supports[-1] > last:
        found.append((supports[-1], length, True))
    return tuple(found)


class PostCase(Value, frozen=True):
    """A post with all that decides whether it works (mm, N): its section, the height between head and foot, its load.

    ``plates``: species of the wooden plates that its foot stands on and its head carries, "" where there is none.
    """

    kind: Literal["post"]
    shape: PostShape
    species: str
    grade: str
    clear: float
    axial: Cases
    plates: tuple[str, str] = ("", "")
    outdoors: bool = False

    @property
    def size(self) -> str:
        """The name of its section."""
        return self.shape.name

    @property
    def line(self) -> Cases:
        """Nothing lies along it."""
        return Cases()


def with_wood(case: MemberCase, own: MadeOf) -> MemberCase:
    """Return a case of the species and grade of a hand edit, where it says any."""
    return replace(case, species=own.species or case.species, grade=own.grade or case.grade)
