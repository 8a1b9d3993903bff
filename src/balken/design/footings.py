"""The footings of a project: each run's worst stretch and each pad go to the design of ``footing_design``."""

import math
from dataclasses import dataclass, replace

from balken.design.combined_footings import CombinedCase, design_combined
from balken.design.footing_case import FootingCase, FootingDesign, FootingError
from balken.design.footing_checks import LEAST_PROJECTION, check_footing
from balken.design.footing_design import design_footing
from balken.framing.foundations import FoundationRun
from balken.framing.slopes import deepest
from balken.loads.along import Diagram
from balken.loads.cases import COMBINATIONS, Cases, worst
from balken.model.materials import weight
from balken.model.records import Concrete, Foundation, Pad
from balken.units import Units
from balken.units.system import INCH

FALLBACK = 40.0 * INCH
"""Width drawn where no width is enough, so that the rest can still be looked at, mm."""

__all__ = ["LEAST_PROJECTION", "PadResult", "RunFooting", "check_uplift", "design_pad", "design_run", "design_two"]


@dataclass(frozen=True)
class RunFooting:
    """The footing under one foundation wall: its design for the worst stretch, and where that is.

    ``problem``: why nothing is enough, or "".
    """

    id: str
    design: FootingDesign
    line: Cases
    at: float
    auto_width: bool
    auto_thickness: bool
    problem: str = ""

    @property
    def width(self) -> float:
        """Width, mm."""
        return self.design.width

    @property
    def depth(self) -> float:
        """Thickness, mm."""
        return self.design.thickness

    @property
    def pressure(self) -> float:
        """Soil pressure, kN/m2."""
        return self.design.pressure

    @property
    def used(self) -> float:
        """How far it is used, soil and concrete."""
        return self.design.used

    @property
    def soil_used(self) -> float:
        """Soil pressure over its bearing value."""
        return self.design.soil.used

    @property
    def load(self) -> float:
        """Service load of the worst combination, N/mm."""
        return worst(self.line)[0]

    @property
    def combination(self) -> str:
        """The combination that presses hardest on the soil."""
        return self.design.soil.combination


def run_case(foundation: Foundation, line: Cases, bearing: float, concrete: Concrete) -> FootingCase:
    """Return what a strip footing carries: the line load on it (N/mm) off its middle by the footing's offset."""
    return FootingCase(
        "strip",
        line,
        foundation.thickness,
        bearing,
        concrete.fc,
        concrete.fy if concrete.bars else None,
        abs(foundation.footing_offset),
        support="concrete" if foundation.made_of == "concrete" else "masonry",
    )


def design_run(run: FoundationRun, diagram: Diagram, bearing: float, concrete: Concrete, units: Units) -> RunFooting:
    """Design the footing of a run for the worst stretch, the load spread at 45 degrees by the wall above it."""
    f = run.foundation
    tall = run.band.top - run.band.bottom
    line, at = diagram.peak(max(2.0 * tall, 600.0))
    line = Cases(*(round(c, 3) for c in line))
    if max(line) <= 0.0:
        line = Cases(dead=0.01)  # nothing stands on it yet: the least that can be designed for
    case = run_case(f, line, bearing, concrete)
    # Where its underside slopes, the footing is heavier by what lies below the level part.
    case = replace(case, overburden=weight("concrete") * deepest(run) / 1000.0)
    if not run.footing:  # a thickened edge stands on its own width
        made = check_footing(replace(case, size=f.thickness * 0.5), f.thickness, max(tall, 150.0), False)
        kept = tuple(c for c in made.checks if c.name in ("soil pressure", "width, least", "thickness, least"))
        return RunFooting(run.id, replace(made, checks=kept), line, at, False, False)
    try:
        # A thickness that was typed is plain concrete, as most are; a thicker one or bars come with "auto".
        plain = False if f.footing_depth is not None else None
        made = design_footing(case, units, f.footing_width, f.footing_depth, plain)
        problem = ""
    except FootingError as error:
        made, problem = check_footing(case, FALLBACK, f.footing_depth or 10.0 * INCH, False), str(error)
    return RunFooting(run.id, made, line, at, f.footing_width is None, f.footing_depth is None, problem)


@dataclass(frozen=True)
class PadResult:
    """A pad: its design, what it carries (N), and how far uplift is held by its weight."""

    id: str
    design: FootingDesign
    load: Cases
    uplift: float
    held: float
    problem: str = ""
    before: float = 0.0
    """How far a combined footing reaches beyond this pad's middle, mm."""
    push: float = 0.0
    grip: float = 0.0
    """0.6 W sideways, and the friction under the pad that holds it, N."""

    @property
    def combined(self) -> bool:
        """Whether it lies under two columns."""
        return self.before > 0.0

    @property
    def used(self) -> float:
        """How far it is used, uplift included."""
        return max(self.design.used, self.lifted, self.slid)

    @property
    def lifted(self) -> float:
        """Uplift over the weight that holds it."""
        return _over(self.uplift, self.held)

    @property
    def slid(self) -> float:
        """Push sideways over the friction that holds it."""
        return _over(self.push, self.grip)


def _over(demand: float, capacity: float) -> float:
    return demand / capacity if capacity > 0.0 else math.inf if demand > 0.0 else 0.0


def design_pad(
    pad: Pad, load: Cases, bearing: float, concrete: Concrete, units: Units, column: float, friction: float = 0.35
) -> PadResult:
    """Design a pad; ``column``: side of what stands on it, mm (its pier where it has one).

    ``friction``: between its underside and the soil.
    """
    size = pad.pier if pad.pier > 0.0 else column
    case = FootingCase("pad", load, size, bearing, concrete.fc, concrete.fy if concrete.bars else None)
    if max(load) <= 0.0:
        case = replace(case, load=Cases(dead=1.0))
    problem = ""
    try:
        made = design_footing(case, units, pad.width, pad.thickness)
    except FootingError as error:
        made, problem = check_footing(case, max(FALLBACK, size * 1.5), pad.thickness or 12.0 * INCH, False), str(error)
    own = weight("concrete") * made.width**2 * made.thickness * 1e-6
    up, down = check_uplift(load, pad.uplift, own)
    return PadResult(pad.id, made, load, up, down, problem, 0.0, *check_sliding(pad.push, up, down, friction))


def design_two(
    pads: tuple[Pad, Pad],
    loads: tuple[Cases, Cases],
    apart: float,
    bearing: float,
    concrete: Concrete,
    units: Units,
    columns: tuple[float, float],
    friction: float = 0.35,
) -> PadResult:
    """Design the combined footing of two pads, the first of which holds it."""
    first, _ = pads
    sizes = tuple(p.pier if p.pier > 0.0 else c for p, c in zip(pads, columns, strict=True))
    some = tuple(c if max(c) > 0.0 else Cases(dead=1.0) for c in loads)
    case = CombinedCase(some, sizes, apart, bearing, concrete.fc, concrete.fy)  # type: ignore[arg-type]
    both = Cases(*(a + b for a, b in zip(*loads, strict=True)))
    try:
        made = design_combined(case, units, first.width, first.thickness)
        problem = ""
    except FootingError as error:
        made, problem = design_combined(case, units, 2.0 * FALLBACK, 24.0 * INCH), str(error)
    own = weight("concrete") * made.design.width * made.length * made.design.thickness * 1e-6
    up, down = check_uplift(both, sum(p.uplift for p in pads), own)
    sliding = check_sliding(sum(p.push for p in pads), up, down, friction)
    return PadResult(first.id, made.design, both, up, down, problem, made.before, *sliding)


def check_sliding(push: float, up: float, down: float, friction: float) -> tuple[float, float]:
    """Return (0.6 W sideways, friction under what 0.6 D leaves after uplift), N (ASCE 7-16, 2.4.1, combination 7)."""
    combo = next(c for c in COMBINATIONS if c.name == "0.6 D + 0.6 W")
    return combo.factors.wind * push, friction * max(down - up, 0.0)


def check_uplift(load: Cases, uplift: float, own: float) -> tuple[float, float]:
    """Return (0.6 W upward, 0.6 D downward), N (ASCE 7-16, 2.4.1, combination 7)."""
    combo = next(c for c in COMBINATIONS if c.name == "0.6 D + 0.6 W")
    return combo.factors.wind * uplift, combo.factors.dead * (load.dead + own)
