"""The footings of a project: each run's worst stretch and each pad go to the design of ``footing_design``."""

import numpy as np
from msgspec.structs import replace

from balken.catalog.materials import weight
from balken.design.combined_footings import design_combined
from balken.design.footing_design import design_footing
from balken.framing.foundations import FoundationRun
from balken.framing.slopes import deepest
from balken.loads.along import Diagram, Laid
from balken.loads.cases import Cases
from balken.model.records import Concrete, Pad
from balken.standards.checks import Check
from balken.standards.ground import CombinedCase, FootingCase, FootingDesign, FootingError, Sideways
from balken.standards.standard import Standard
from balken.units import Units
from balken.units.system import INCH
from balken.value import Value

NO_LINE = Cases()
FALLBACK = 40.0 * INCH
"""Width drawn where no width is enough, so that the rest can still be looked at, mm."""

__all__ = ["PadResult", "RunFooting", "design_pad", "design_run", "design_two"]


class RunFooting(Value, frozen=True):
    """The footing under one foundation wall: its design for the worst stretch, and where that is.

    ``problem``: why nothing is enough, or "".
    """

    id: str
    design: FootingDesign
    line: Cases
    at: float
    auto_width: bool
    auto_thickness: bool
    load: float
    """Service load of the worst combination, N/mm."""
    problem: str = ""
    more: Cases = NO_LINE
    """What of ``line`` comes only when live load lies on some spans of what stands there, N/mm."""

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
    def combination(self) -> str:
        """The combination that presses hardest on the soil."""
        return self.design.soil.combination


def run_case(run: FoundationRun, line: Cases, bearing: float, concrete: Concrete, sideways: Sideways) -> FootingCase:
    """Return what a strip footing carries: the line load on it (N/mm) off its middle, and what pushes its wall."""
    f = run.foundation
    return FootingCase(
        "strip",
        line,
        f.thickness,
        bearing,
        concrete.fc,
        concrete.fy if concrete.bars else None,
        # Earth turns the wall inward; a footing off to the outside has its load inward of its middle.
        f.footing_offset,
        "concrete" if f.made_of == "concrete" else "masonry",
        # Where its underside slopes, the footing is heavier by what lies below the level part.
        weight("concrete") * deepest(run) / 1000.0,
        sideways,
        run.boundary,
    )


def densest(laid: Laid, long: float, span: tuple[float, float]) -> Cases:
    """Return the most that lies on any stretch so long, by length, of each case by itself, N/mm; at the ends of a wall only
    what of a stretch lies within it bears.
    """
    if not len(laid.low):  # a stretch to which nothing of it comes
        return Cases()
    middles = np.clip((laid.low + laid.high) / 2.0, *span)
    low, high = np.maximum(middles - long / 2.0, span[0]), np.minimum(middles + long / 2.0, span[1])
    return Cases(*(laid.total_in(low, high) / (high - low)[:, None]).max(axis=0).tolist())


def design_run(
    run: FoundationRun,
    diagram: Diagram,
    bearing: float,
    concrete: Concrete,
    units: Units,
    sideways: Sideways,
    standard: Standard,
    more: Cases = NO_LINE,
    beyond: Laid | None = None,
) -> RunFooting:
    """Design the footing of a run for the worst stretch, the load spread at 45 degrees by the wall above it.

    ``sideways``: what a wall that is free at its top brings down of the earth against it.  ``more``: what arrangements of
    live load bring down at one place beyond all of it at once, N; it counts where the load is greatest.  ``beyond``: what joists that run on bring beyond their full load; the most of it counts there.
    """
    f = run.foundation
    tall = run.band.top - run.band.bottom
    line, at = diagram.peak(max(tall, 300.0), standard.combinations)
    more = more.scaled(0.5 / max(tall, 300.0))
    if beyond is not None:
        more = more.plus(densest(beyond, 2.0 * max(tall, 300.0), run.span))
    line, more = line.plus(more), Cases(*(round(c, 3) for c in more))
    line = Cases(*(round(c, 3) for c in line))
    if max(line) <= 0.0:
        line = Cases(dead=0.01)  # nothing stands on it yet: the least that can be designed for
    load = standard.combinations.worst(line)[0]
    case = run_case(run, line, bearing, concrete, sideways)
    if not run.footing:  # a thickened edge stands on its own width
        # It is counted with what stands on it already; as a footing it weighs once.
        deep = max(tall, 150.0)
        own = min(weight("concrete") * f.thickness * deep * 1e-6, line.dead)
        case = replace(case, size=f.thickness * 0.5, load=line.plus(Cases(dead=0.001 - own)))
        made = standard.check_footing(case, f.thickness, deep, False)
        kept = tuple(c for c in made.checks if c.name in ("soil pressure", "width, least", "thickness, least"))
        return RunFooting(run.id, replace(made, checks=kept), line, at, False, False, load, more=more)
    try:
        # A thickness that was typed is plain concrete, as most are; a thicker one or bars come with "auto".
        plain = False if f.footing_depth is not None else None
        made = design_footing(standard, case, units, f.footing_width, f.footing_depth, plain)
        problem = ""
    except FootingError as error:
        case = replace(case, sideways=Sideways(), flush=0, eccentricity=0.0) if run.boundary else case
        made, problem = standard.check_footing(case, FALLBACK, f.footing_depth or 10.0 * INCH, False), str(error)
    return RunFooting(run.id, made, line, at, f.footing_width is None, f.footing_depth is None, load, problem, more)


class PadResult(Value, frozen=True):
    """A pad: its design and what it carries (N).

    ``problem``: why nothing is enough, or "".  ``before``: how far a combined footing reaches beyond this pad's middle,
    mm.
    """

    id: str
    design: FootingDesign
    load: Cases
    problem: str = ""
    before: float = 0.0

    @property
    def combined(self) -> bool:
        """Whether it lies under two columns."""
        return self.before > 0.0

    @property
    def used(self) -> float:
        """How far it is used."""
        return self.design.used

    def check(self, name: str) -> Check | None:
        """Return one of its checks, such as "uplift"."""
        return next((c for c in self.design.checks if c.name == name), None)


def pad_sideways(pads: tuple[Pad, ...], arms: tuple[float, ...], friction: float) -> Sideways:
    """Return what wind pushes at the heads of pads; ``arms``: height of each above the top of its pad, mm."""
    push = sum(p.push for p in pads)
    return Sideways(wind=push, wind_moment=sum(p.push * a for p, a in zip(pads, arms, strict=True)), friction=friction)


def design_pad(
    pad: Pad,
    load: Cases,
    bearing: float,
    concrete: Concrete,
    units: Units,
    column: float,
    friction: float = 0.35,
    arm: float = 0.0,
    along: Cases = NO_LINE,
    *,
    standard: Standard,
) -> PadResult:
    """Design a pad; ``column``: side of what stands on it, mm (its pier where it has one).

    ``friction``: between its underside and the soil; ``arm``: how high above its top wind pushes, mm.  ``along``: line
    load of walls whose strips it is cast with, N/mm; it carries them over its width.
    """
    if any(along):
        return _with_walls(pad, load, bearing, concrete, units, column, friction, arm, along, standard)
    size = pad.pier if pad.pier > 0.0 else column
    load = load.plus(Cases(wind=-pad.uplift))
    case = FootingCase(
        "pad", load, size, bearing, concrete.fc, concrete.fy if concrete.bars else None,
        sideways=pad_sideways((pad,), (arm,), friction),
    )  # fmt: skip
    problem = ""
    if standard.combinations.worst(load)[0] <= 0.0:
        # Nothing presses: the least footing, with what wind lifts; what stands on it lifting it by itself is named.
        case = replace(case, load=Cases(dead=1.0, wind=load.wind))
        problem = "what stands on it lifts it more than it presses" if load.dead + load.live + load.snow < -1.0 else ""
    try:
        made = design_footing(standard, case, units, pad.width, pad.thickness)
    except FootingError as error:
        made, problem = (
            standard.check_footing(case, max(FALLBACK, size * 1.5), pad.thickness or 12.0 * INCH, False),
            str(error),
        )
    return PadResult(pad.id, made, load, problem)


def _with_walls(
    pad: Pad, load: Cases, bearing: float, concrete: Concrete, units: Units, column: float, friction: float, arm: float,
    along: Cases, standard: Standard,
) -> PadResult:  # fmt: skip
    """Design a pad that carries walls over its width, too: until its width is that for which it was loaded."""
    made = design_pad(pad, load, bearing, concrete, units, column, friction, arm, standard=standard)
    for _ in range(12):
        width = made.design.width
        made = design_pad(
            pad, load.plus(along.scaled(width)), bearing, concrete, units, column, friction, arm, standard=standard
        )
        if made.design.width <= width + 0.5:
            break
    return made


def design_two(
    pads: tuple[Pad, Pad],
    loads: tuple[Cases, Cases],
    apart: float,
    bearing: float,
    concrete: Concrete,
    units: Units,
    columns: tuple[float, float],
    friction: float = 0.35,
    arms: tuple[float, float] = (0.0, 0.0),
    *,
    standard: Standard,
) -> PadResult:
    """Design the combined footing of two pads, the first of which holds it."""
    first, _ = pads
    sizes = tuple(p.pier if p.pier > 0.0 else c for p, c in zip(pads, columns, strict=True))
    with_wind = tuple(load.plus(Cases(wind=-p.uplift)) for load, p in zip(loads, pads, strict=True))
    some = tuple(c if max(c) > 0.0 else c.plus(Cases(dead=1.0)) for c in with_wind)
    sideways = pad_sideways(pads, arms, friction)
    case = CombinedCase(some, sizes, apart, bearing, concrete.fc, concrete.fy, sideways)  # type: ignore[arg-type]
    both = with_wind[0].plus(with_wind[1])
    try:
        made = design_combined(standard, case, units, first.width, first.thickness)
        problem = ""
    except FootingError as error:
        made, problem = design_combined(standard, case, units, 2.0 * FALLBACK, 24.0 * INCH), str(error)
    return PadResult(first.id, made.design, both, problem, made.before)
