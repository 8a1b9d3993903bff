"""What framing makes: pieces (members, footings, wall layers) and the bearers they sit on."""

import itertools
from collections.abc import Mapping

from balken.framing.roles import Role
from balken.geometry.plane import Point, add
from balken.geometry.prism import Vec
from balken.geometry.solids import Solid
from balken.model.kinds.member_edit import MemberCut
from balken.units import Units
from balken.units.system import INCH
from balken.value import Value


class Piece(Value, frozen=True):
    """One solid thing made from an authored record.

    ``key`` is stable from one derivation to the next: owner, role, place in the layout.
    ``owner`` is the id of the authored record, ``wall`` that of the wall it belongs to (or "").
    ``length`` is the cut length, end to end at the longest point, mm.
    """

    key: str
    role: Role
    owner: str
    level: str
    solid: Solid
    material: str
    start: Vec
    end: Vec
    length: float
    section: str = ""
    species: str = ""
    grade: str = ""
    wall: str = ""

    @property
    def volume(self) -> float:
        """Volume, mm3."""
        return self.solid.volume


class Bearer(Value, frozen=True):
    """A line on which members can bear: the sill on a foundation wall, or a wall's top plate.

    The band lies between ``near`` and ``far`` (mm, along ``inward`` from the line start-end).  ``hung``: members end at
    its faces and hang there.
    """

    id: str
    wall: str
    start: Point
    end: Point
    direction: Point
    inward: Point
    near: float
    far: float
    top: float
    hung: bool = False

    def middle(self) -> tuple[Point, Point]:
        """Return the ends of the centre line of the band."""
        half = (self.near + self.far) / 2.0
        return add(self.start, self.inward, half), add(self.end, self.inward, half)


ENDS = 60.0
"""A joist that ends no farther than this past its bearing ends on it, mm."""


class MemberLine(Value, frozen=True):
    """One joist or tie between two bearings, before it has a size; s and t in its layout's frame, mm.

    ``low``/``high``: ends of the board. ``load_low``/``load_high``: the stretch it carries, ``width``
    wide; ``patches`` (low, high, width) instead where the width changes along it. ``supports``: bearer
    ids at the two ends ("" where there is none), ``centres`` their middles, ``bearings`` the lengths
    of bearing there, ``clear`` the clear span (the greatest of several).  ``inner``: what it runs on over between those two:
    bearer, middle, length of bearing.
    """

    place: str
    t: float
    width: float
    low: float
    high: float
    load_low: float
    load_high: float
    supports: tuple[str, str]
    centres: tuple[float, float]
    bearings: tuple[float, float]
    clear: float
    patches: tuple[tuple[float, float, float], ...] = ()
    edited: bool = False
    """Whether a hand edit changed what it carries."""
    inner: tuple[tuple[str, float, float], ...] = ()

    @property
    def loaded(self) -> tuple[tuple[float, float, float], ...]:
        """The stretches it carries: (low, high, width)."""
        return self.patches or ((self.load_low, self.load_high, self.width),)

    @property
    def stops(self) -> tuple[tuple[str, float, float], ...]:
        """All it bears on, in order: bearer, middle, length of bearing."""
        low, high = zip(self.supports, self.centres, self.bearings, strict=True)
        return (low, *self.inner, high)

    @property
    def overhangs(self) -> tuple[float, float]:
        """How far it reaches past what it bears on at its two ends, mm; 0 where it ends there."""
        past = (
            self.centres[0] - self.bearings[0] / 2.0 - self.low,
            self.high - self.centres[1] - self.bearings[1] / 2.0,
        )
        return past[0] if past[0] > ENDS else 0.0, past[1] if past[1] > ENDS else 0.0

    @property
    def simple(self) -> bool:
        """Whether it is a simple span: two bearings, none passed."""
        return not self.inner and self.overhangs == (0.0, 0.0)


class MadeOf(Value, frozen=True):
    """What one member is made of where it is not as its layout; "" as that.

    ``longer``: cut so much longer at its tail, mm.  ``gone``: taken out, nothing in its place.  ``cuts``: its notches and holes.
    """

    size: str = ""
    species: str = ""
    grade: str = ""
    longer: float = 0.0
    gone: bool = False
    cuts: tuple[MemberCut, ...] = ()

    def sized(self, layout: str) -> str:
        """Return its section, given that of its layout."""
        return self.size or layout


NOTHING_EDITED: Mapping[str, MadeOf] = {}


class Snag(Value, frozen=True):
    """Something the framing could not make as authored: what, which record, where."""

    kind: str
    text: str
    owner: str
    at: Vec


def cut_length(length: float, units: Units) -> float:
    """Return the length to saw: up to the next quarter inch (common practice), or whole mm."""
    step = INCH / 4.0 if units is Units.IMPERIAL else 1.0
    return -(-(length - 0.02 * step) // step) * step


EVEN = 0.05
"""What is longer than the stock by no more than this is as long, mm: sums of floats."""


def split_run(length: float, longest: float) -> list[tuple[float, float]]:
    """Return the stretches into which a run is cut so that none is longer than the stock.

    Full stock lengths first and the rest last, as a carpenter lays them, but a rest under 2 ft is
    shared with the piece before it.
    """
    if length <= longest + EVEN:
        return [(0.0, length)]
    cuts = [0.0]
    while length - cuts[-1] > longest + EVEN:
        cuts.append(cuts[-1] + longest)
    if length - cuts[-1] < 610.0:
        cuts[-1] = (cuts[-2] + length) / 2.0
    cuts.append(length)
    return list(itertools.pairwise(cuts))
