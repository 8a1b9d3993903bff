"""Slabs above ground: thickness chosen by their area loads, bars by all that lies on them; strips one by one.

A slab is laid as a floor is, in strips that carry one way from bearing to bearing; what stands on it lies on the strips
under it.  Thickness comes before loads in one place, bars after them.  Strips under those that need more than the rest have
bars of their own, as at openings and under walls.
"""

from collections.abc import Iterable, Mapping

from msgspec.structs import replace

from balken.catalog.joists import SLAB_MM, STRIP, TRIED
from balken.design.layouts import LayoutDesign
from balken.design.running_joists import running_case
from balken.framing.floor_openings import Corners
from balken.framing.floors import FloorPlan, at_height, floor_plan
from balken.framing.outlines import Outline
from balken.framing.pieces import Bearer, MemberLine
from balken.framing.tributary import tributary
from balken.loads.area_loads import floor_cases
from balken.loads.cases import Cases
from balken.loads.decks import Floored, HeaderLoad, JoistLoad
from balken.model.naming import piece_name
from balken.model.records import Concrete, Floor, Loads
from balken.standards.checks import MemberResult
from balken.standards.demands import SlabBars, SlabCase
from balken.standards.standard import Standard
from balken.units import Units
from balken.value import Value


class RaisedSlab(Value, frozen=True):
    """A slab designed: the bars of all of it, those of single strips that need more, the checks of every strip by its name.

    ``unstood``: strips that have fewer than two bearings and are not checked.
    """

    bars: SlabBars
    more: Mapping[str, SlabBars]
    results: dict[str, MemberResult]
    unstood: tuple[str, ...] = ()

    @property
    def worst(self) -> str:
        """The name of the strip that is used most, "" where there is none."""
        return max(self.results, key=lambda name: self.results[name].used, default="")


def strip_case(
    plan: FloorPlan,
    line: MemberLine,
    size: str,
    loads: Loads,
    standard: Standard,
    concrete: Concrete,
    rows: Iterable[JoistLoad] = (),
) -> SlabCase | None:
    """Return the case of a strip with what stands on it; None where fewer than two bearings carry it."""  # fmt: skip
    if sum(1 for name, _, _ in line.stops if name) < 2:
        return None
    alike = replace(line, edited=True)  # it carries what it does, not a whole spacing
    g = running_case(plan.floor, alike, plan.spacing, loads, size, standard, rows=rows)
    return SlabCase(
        size, round(max(line.width, 1.0), 3), g.length, g.supports, g.bearings, g.patches, g.points,
        concrete.fc, concrete.fy, plan.floor.outdoors,
    )  # fmt: skip


def _kinds(plan: FloorPlan, size: str, loads: Loads, standard: Standard, concrete: Concrete) -> list[SlabCase]:
    """Return the cases of a slab's strips under their area loads, one of those alike."""
    rows = (strip_case(plan, line, size, loads, standard, concrete) for line in plan.lines)
    return list(dict.fromkeys(row for row in rows if row is not None))


def design_raised_slab(
    floor: Floor,
    closed: Outline,
    level: float,
    bearers: tuple[Bearer, ...],
    loads: Loads,
    units: Units,
    standard: Standard,
    openings: tuple[Corners, ...],
    stock: float,
    concrete: Concrete,
) -> tuple[FloorPlan, LayoutDesign]:
    """Lay a slab in strips and choose its thickness, where that is left open: the least that works."""  # fmt: skip
    plan = floor_plan(floor, closed, level, bearers, STRIP, openings, stock)
    every = TRIED["slab"] if units is Units.IMPERIAL else tuple(f"slab {t} mm" for t in SLAB_MM)
    tried = every if floor.joists.size is None else (floor.joists.size,)

    def cases_of(size: str) -> list[SlabCase]:
        sized = replace(plan, floor=replace(floor, joists=replace(floor.joists, size=size)))
        return _kinds(sized, size, loads, standard, concrete) or [_no_case(sized, size, loads, concrete)]

    def worst(size: str) -> tuple[MemberResult, SlabCase]:
        cases = cases_of(size)
        bars = standard.slab_bars(cases)
        return max(((standard.check_slab(case, bars), case) for case in cases), key=lambda row: row[0].used)

    works = True
    for size in tried:
        result, _ = worst(size)
        if result.used <= 1.0:
            break
    else:
        works = False
    at = every.index(size) if size in every else 0
    near = [*every[max(at - 1, 0) : at], *every[at + 1 : at + 2]]
    others = tuple((name, STRIP, (worst(name)[1],)) for name in near)
    stronger = "" if works or floor.joists.size is None else next((n for n in every if worst(n)[0].used <= 1.0), "")
    design = LayoutDesign(size, STRIP, floor.joists.size is None, False, works, result, others, standard, stronger)
    sized = replace(floor, joists=replace(floor.joists, size=size))
    if floor.carries == "both ways":
        holes = tuple(tuple(plan.frame.back(s, t) for s, t in hole.ring) for hole in plan.holes)
        shares = tributary(closed, at_height(bearers, level), holes)
        plan = replace(plan, tributary=shares, bears_on=plan.bears_on | {name for name, _, _ in shares})
    return replace(plan, floor=sized), design


def _no_case(plan: FloorPlan, size: str, loads: Loads, concrete: Concrete) -> SlabCase:
    """Return the case of a slab that nothing carries: a strip a span of a foot."""
    q = floor_cases(loads, plan.floor).scaled(STRIP / 1000.0)
    return SlabCase(
        size, STRIP, STRIP, (0.0, STRIP), (1.0, 1.0), ((0.0, STRIP, q, q),), (), concrete.fc, concrete.fy
    )  # fmt: skip


def design_slab_bars(
    plan: FloorPlan, size: str, loads: Loads, floored: Floored | None, standard: Standard, concrete: Concrete
) -> RaisedSlab:
    """Choose the bars of a slab with all that stands on it, and check every strip; those that need more have more."""
    bars = standard.slab_bars(_kinds(plan, size, loads, standard, concrete) or [_no_case(plan, size, loads, concrete)])
    if plan.floor.carries == "both ways":  # carried, not designed
        return RaisedSlab(bars, {}, {})
    results: dict[str, MemberResult] = {}
    more: dict[str, SlabBars] = {}
    unstood: list[str] = []

    def take(name: str, case: SlabCase | None) -> None:
        if case is None:
            unstood.append(name)
            return
        results[name] = standard.check_slab(case, bars)
        if results[name].used > 1.0:
            stronger = standard.slab_bars((case,))
            again = standard.check_slab(case, stronger)
            if again.used < results[name].used:
                results[name], more[name] = again, stronger

    on = floored.joists if floored is not None else {}
    for line in plan.lines:
        name = piece_name(plan.floor.id, "joist", line.place)
        take(name, strip_case(plan, line, size, loads, standard, concrete, on.get(name, ())))
    for hole in plan.holes:
        for end in (0, 1):
            header = hole.header(end)
            take(header, _header_case(plan, hole.t1 - hole.t0, hole.thick, size, floored, header, hole.t0, concrete))
    return RaisedSlab(bars, more, results, tuple(unstood))


def _header_case(
    plan: FloorPlan,
    span: float,
    width: float,
    size: str,
    floored: Floored | None,
    header: str,
    t0: float,
    concrete: Concrete,
) -> SlabCase:
    """Return the case of the strip beside an opening across the others, which those cut off there hang on."""
    rows: Iterable[HeaderLoad] = floored.headers.get(header, ()) if floored is not None else ()
    long = round(span + width, 3)
    points = tuple(
        (round(min(max(row.t - t0 + width / 2.0, 0.0), long), 3), Cases(*(round(v, 3) for v in row.force)))
        for row in rows
    )
    return SlabCase(
        size, width, long, (0.0, long), (width, width), (), points, concrete.fc, concrete.fy, plan.floor.outdoors
    )  # fmt: skip
