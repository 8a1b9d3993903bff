"""A beam's elevation with what lies on it, and under it the moments and shears along it: in paper mm, for card and sheet."""

from collections.abc import Iterator
from itertools import pairwise
from typing import NamedTuple

from balken.derived.model import Model
from balken.documents.display import Area, Diagram, Item, Path, Text
from balken.documents.lettering import MINUS, text_width
from balken.loads.beam_law import Beamed
from balken.loads.cases import Cases, total
from balken.standards.demands import GirderCase
from balken.standards.measures import quantity_text
from balken.units import Units, format_force, format_length, format_line_load

GAP = 12.0
"""Where loads lie this close to each other, mm, no gap is drawn between them."""
POINT = 150.0
"""What lies on less than this is drawn as an arrow, mm: a post, a wall across."""
SMALL = 0.02
"""What is less than this part of all its load is no arrow, but a part of what lies around it."""
TALL = 9.0
BEAM = 1.8
SEAT = 2.4
ARROW = 0.9


class Step(NamedTuple):
    """A stretch of a beam, from and to, mm, with what lies on it, N/mm, in the worst combination there."""

    low: float
    high: float
    load: float


def beam_diagram(model: Model, beam_id: str, width: float, letters: float) -> Diagram:
    """Draw a beam that is worked out: ``letters``: height of capitals; raises KeyError for one that is not there."""
    made = model.path.beams[beam_id]
    paper = _Paper(made, model.units, width, letters)
    paper.elevation(model)
    says = [paper.strip(*row) for row in _strips(model, made)]
    return Diagram(tuple(paper.items), width, -paper.y, "; ".join(says))


def steps_of(model: Model, made: Beamed) -> tuple[list[Step], list[tuple[float, float]]]:
    """Return what lies on a beam: stretch by stretch, and in single places as (along, N); by the combination that brings
    most of all of it together.
    """
    combination = model.standard.combinations.worst(made.load)[1]
    wide: list[tuple[float, float, Cases]] = []
    points = []
    whole = combination.of(made.load)
    for low, high, load in _laid(made):
        if high - low < POINT and combination.of(load.scaled(high - low)) > SMALL * whole:
            points.append(((low + high) / 2.0, combination.of(load.scaled(high - low))))
        else:
            wide.append((low, high, load))
    marks = [0.0, made.line.length]
    for mark in sorted({x for low, high, _ in wide for x in (low, high)}):
        if all(abs(mark - known) > GAP for known in marks):
            marks.append(mark)
    steps = []
    for a, b in pairwise(sorted(marks)):
        middle = (a + b) / 2.0
        steps.append(Step(a, b, combination.of(total(q for low, high, q in wide if low <= middle <= high))))
    return steps, points


def _laid(made: Beamed) -> Iterator[tuple[float, float, Cases]]:
    for part, result in zip(made.design.parts, made.design.made, strict=True):
        case = result.result.case
        assert isinstance(case, GirderCase)
        for low, high, a, b in case.patches:
            yield part.low + low, part.low + high, a.plus(b).scaled(0.5)
        yield part.low, part.high, Cases(dead=case.own)


Curve = tuple[list[float], list[float], list[float]]
"""Places, the most and the least there."""


def _strips(model: Model, made: Beamed) -> Iterator[tuple[str, Curve, str]]:
    """Return title, curve and quantity of the strips under a beam."""
    moments: Curve = ([], [], [])
    shears: Curve = ([], [], [])
    for part, result in zip(made.design.parts, made.design.made, strict=True):
        case = result.result.case
        assert isinstance(case, GirderCase)
        found = model.standard.girder_curves(case)
        for curve, most, least in ((moments, found.sag, found.hog), (shears, found.up, found.down)):
            curve[0].extend(part.low + x for x in found.at)
            curve[1].extend(max(v, 0.0) for v in most)
            curve[2].extend(min(v, 0.0) for v in least)
    yield "Moment", moments, "moment"
    yield "Shear", shears, "force"


def _value(value: float, quantity: str, units: Units) -> str:
    if quantity == "moment":
        return quantity_text(value / 1e6, "moment", units).replace("-", MINUS)
    return format_force(value, units).replace("-", MINUS)


class _Paper:
    """Drawn from the top down; ``y`` is where the next strip begins."""

    def __init__(self, made: Beamed, units: Units, width: float, letters: float) -> None:
        self.made, self.width, self.letters = made, width, letters
        self.items: list[Item] = []
        self.y = 0.0
        self.side = 2.5
        self.scale = (width - 2.0 * self.side) / made.line.length
        self.row = letters * 1.7
        self.units = units

    def x(self, along: float) -> float:
        return self.side + along * self.scale

    def write(self, x: float, y: float, text: str, bold: bool = False, title: bool = False) -> None:
        """Write in the middle of x, or from the left edge; never beyond the edges."""
        half = text_width(text, self.letters, bold) / 2.0
        at = half if title else min(max(x, half), self.width - half)
        self.items.append(Text((at - half, y), text, self.letters, "left", bold=bold))

    def elevation(self, model: Model) -> None:
        """Draw the beam on its seats with its load."""
        steps, points = steps_of(model, self.made)
        most = max((abs(s.load) for s in steps), default=0.0)
        self.title("Load", "worst combination at each place")
        if most > 0.0:
            peak = max(steps, key=lambda s: abs(s.load))
            self.write(self.x((peak.low + peak.high) / 2.0), self.y - self.row / 2.0,
                       format_line_load(peak.load, self.units))  # fmt: skip
        self.y -= self.row
        self._arrows(points)
        foot = self.y - TALL
        if most > 0.0:
            ring = [(self.x(0.0), foot)]
            for step in steps:
                top = foot + max(step.load, 0.0) / most * TALL
                ring += [(self.x(step.low), top), (self.x(step.high), top)]
            ring.append((self.x(self.made.line.length), foot))
            self.items.append(Area((tuple(ring),), "timber light", "timber"))
        self.y = foot
        self._beam()

    def _arrows(self, points: list[tuple[float, float]]) -> None:
        if not points:
            return
        last = -1e9
        for along, force in sorted(points):
            x, text = self.x(along), format_force(force, self.units)
            half = text_width(text, self.letters) / 2.0
            if x - half > last:
                self.write(x, self.y - self.row / 2.0, text)
                last = x + half + 1.0
        self.y -= self.row
        for along, _ in points:
            x, foot = self.x(along), self.y - TALL
            self.items.append(Path(((x, self.y), (x, foot)), "outline"))
            self.items.append(
                Path(((x - ARROW, foot + 2.0 * ARROW), (x, foot), (x + ARROW, foot + 2.0 * ARROW)), "outline")
            )

    def _beam(self) -> None:
        for part in self.made.design.parts:
            a, b, top = self.x(part.low), self.x(part.high), self.y
            self.items.append(Area((((a, top), (b, top), (b, top - BEAM), (a, top - BEAM)),), "timber", "outline"))
        self.y -= BEAM
        for seat in self.made.seats:
            x = self.x(seat.along)
            foot = self.y - SEAT
            self.items.append(Path(((x, self.y), (x - SEAT / 2.0, foot), (x + SEAT / 2.0, foot)), "thin", closed=True))
        self.y -= SEAT
        for a, b in pairwise(seat.along for seat in self.made.seats):
            text = format_length(b - a, self.units)
            if text_width(text, self.letters) < (b - a) * self.scale:
                self.write((self.x(a) + self.x(b)) / 2.0, self.y - self.row / 2.0, text)
        self.y -= 1.3 * self.row

    def title(self, title: str, note: str = "") -> None:
        self.write(0.0, self.y - self.row / 2.0, title, bold=True, title=True)
        if note:
            at = text_width(title, self.letters, True) + 2.0
            self.items.append(Text((at, self.y - self.row / 2.0), note, self.letters, "left", pen="note"))
        self.y -= self.row

    def strip(self, title: str, curve: Curve, quantity: str) -> str:
        """Draw a curve, upward what sags or turns up, and return its greatest and least in words."""
        places, high, low = curve
        span = max(max(high) - min(low), 1e-9)
        factor = 1.6 * TALL / span
        most, least = max(high), min(low)
        self.title(title)
        if most > 1e-6:
            self.write(self.x(places[high.index(most)]), self.y - self.row / 2.0, _value(most, quantity, self.units))
            self.y -= self.row
        axis = self.y - most * factor
        foot = axis + least * factor
        for values, fill in ((high, "low"), (low, "low")):
            line = tuple((self.x(s), axis + v * factor) for s, v in zip(places, values, strict=True))
            ends = ((self.x(places[0]), axis), *line, (self.x(places[-1]), axis))
            self.items.append(Area((ends,), fill, "used low"))
        for seat in self.made.seats:
            x = self.x(seat.along)
            self.items.append(Path(((x, self.y), (x, foot)), "beyond"))
        self.items.append(Path(((self.x(0.0), axis), (self.x(self.made.line.length), axis)), "thin"))
        self.y = foot
        if least < -1e-6:
            self.write(self.x(places[low.index(least)]), self.y - self.row / 2.0, _value(least, quantity, self.units))
            self.y -= self.row
        self.y -= 0.5 * self.row
        return f"{title.lower()} {_value(most, quantity, self.units)} to {_value(least, quantity, self.units)}"
