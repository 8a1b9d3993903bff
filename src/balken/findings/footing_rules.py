"""Rules that look for faults of strip footings and thickened edges, and the sizes that mend them."""

import math
from collections.abc import Iterable

from msgspec.structs import replace

from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.design.footing_design import design_footing
from balken.design.footings import RunFooting
from balken.framing.foundations import FoundationRun
from balken.model.foundation_edits import edge_width
from balken.model.lookup import wall_label
from balken.model.naming import footing_of, wall_of
from balken.model.records import Foundation
from balken.standards.checks import Check, used_text
from balken.standards.ground import STABILITY, FootingError
from balken.standards.measures import quantity_text
from balken.units import Units, say_inches
from balken.units.system import INCH


def footings(c: Model) -> Iterable[Finding]:
    """Soil over its bearing value, concrete too weak, footings projecting too little or too far (IRC R403.1.1)."""
    seen: set[tuple[str, str]] = set()
    for run in c.runs:
        for finding in _faults(c, run):
            # One of a kind for each foundation: a fix goes to all of it.
            if (run.foundation.id, finding.code) not in seen:
                seen.add((run.foundation.id, finding.code))
                yield finding


def _faults(c: Model, run: FoundationRun) -> Iterable[Finding]:
    f, result = run.foundation, c.footings[run.id]
    place = (*run.band.at(result.at, 0.0), run.band.bottom - run.drop_at(result.at))
    if not run.footing:
        narrow = _narrow_edge(c, run, result, place)
        if narrow is not None:
            yield narrow
        return
    if result.problem:
        what = f"{f.name}: no footing is enough under {wall_label(c.project, run.wall)}"
        why = f"{result.problem[0].upper()}{result.problem[1:]}"
        yield Finding("no footing", "foundations", what, why, (f.id, footing_of(run.id)), place)
        return
    if result.soil_used > 1.0001:
        yield _soil(c, run, result, place)
    bad = _projection(c, run, result, place)
    if bad is not None:
        yield bad
    loose = [k for k in result.design.stable if k.used > 1.0001]
    if loose:
        yield _loose(c, run, result, max(loose, key=lambda k: k.used), place)
    others = ("soil pressure", *STABILITY, "projection, greatest", "projection, least")
    strength = [k for k in result.design.checks if k.used > 1.0001 and k.name not in others]
    if strength and bad is None:
        yield _too_weak(c, run, strength[0], place)


def _soil(c: Model, run: FoundationRun, result: RunFooting, place: tuple[float, float, float]) -> Finding:
    f = run.foundation
    return Finding(
        "soil",
        "foundations",
        f"{f.name}: soil used {used_text(result.soil_used)}",
        f"Under {wall_label(c.project, run.wall)} the footing {say_inches(result.width, c.units)} wide presses harder "
        f"than the bearing value ({result.combination}).",
        (f.id, footing_of(run.id)),
        place,
        fix=_left_to_balken(c, f, True, False, ("soil pressure",)),
    )


def _projection(c: Model, run: FoundationRun, result: RunFooting, place: tuple[float, float, float]) -> Finding | None:
    """Return the finding of a footing that projects too little, or of plain concrete too far."""
    f = run.foundation
    off = abs(run.footing_off(result.width))
    out, far = (result.width - f.thickness) / 2.0 - off, (result.width - f.thickness) / 2.0 + off
    least = c.standard.least_footing.projection
    short = out < least - 0.5 and not run.boundary
    thin = far > result.depth + 0.5
    if not (short or (thin and not result.design.reinforced)):
        return None
    shown = out if short else far
    return Finding(
        "projection",
        "foundations",
        f"{f.name}: footing projects {say_inches(shown, c.units)} beside its wall",
        f"Under {wall_label(c.project, run.wall)} it should project at least {say_inches(least, c.units)} "
        f"and, of plain concrete, at most its thickness, {say_inches(result.depth, c.units)} (IRC R403.1.1).",
        (f.id, footing_of(run.id)),
        place,
        fix=_left_to_balken(c, f, bool(short), thin, ("projection, least", "projection, greatest")),
    )


def _too_weak(c: Model, run: FoundationRun, check: Check, place: tuple[float, float, float]) -> Finding:
    f = run.foundation
    return Finding(
        "footing strength",
        "foundations",
        f"{f.name}: footing used {used_text(check.used)}",
        f"Under {wall_label(c.project, run.wall)}: {check.name} governs ({check.clause}).",
        (f.id, footing_of(run.id)),
        place,
        fix=_left_to_balken(c, f, False, True, ()),
    )


def _narrow_edge(c: Model, run: FoundationRun, result: RunFooting, place: tuple[float, float, float]) -> Finding | None:
    """A thickened edge is its own footing: as wide as one, and wide enough for the soil."""
    f, over = run.foundation, [k for k in result.design.checks if k.used > 1.0001]
    if not over:
        return None
    wide = _wide_enough(c, f)
    return Finding(
        "narrow edge",
        "foundations",
        f"{f.name}: its thickened edge is {say_inches(f.thickness, c.units)} wide",
        f"Under {wall_label(c.project, run.wall)} it is its own footing; {over[0].name} governs ({over[0].clause}). Where "
        f"{say_inches(WIDEST_EDGE, c.units)} is not enough, use a wall on a footing.",
        (f.id, wall_of(run.id)),
        place,
        fix=Fix(
            f"Make it {say_inches(wide, c.units)} wide",
            "change",
            (f.id,),
            (("thickness", wide), ("footing_width", None)),
        )
        if wide is not None
        else None,
    )


WIDEST_EDGE = 18.0 * INCH
"""Wider than this a thickened edge is better a wall on a footing (common practice, no source)."""


def _wide_enough(c: Model, f: Foundation) -> float | None:
    """Return the least thickness at which all thickened edges of a foundation carry what stands on them, mm."""
    step = 2.0 * INCH if c.project.steps is Units.IMPERIAL else 50.0
    runs = [r for r in c.runs if r.foundation.id == f.id]
    edges = [c.footings[r.id] for r in runs]
    first = math.ceil(max(f.thickness, edge_width(c.project)) / step - 1e-6)
    for k in range(first, math.floor(WIDEST_EDGE / step + 1e-6) + 1):
        wide = k * step
        made = []
        for e, run in zip(edges, runs, strict=True):
            # A wider edge makes its runs shorter at the corners: what stood there comes on the stretch at the end.
            spread = min(e.depth, run.length)
            load = e.design.case.load.scaled(1.0 + 1.05 * (wide - f.thickness) / spread)
            made.append(
                c.standard.check_footing(replace(e.design.case, size=wide * 0.5, load=load), wide, e.depth, False)
            )
        names = {check.name for e in edges for check in e.design.checks}
        # Some is kept in hand: where exactly the load comes down is known once the edge is that wide.
        if all(
            check.used <= (0.92 if check.name == "soil pressure" else 1.0)
            for design in made
            for check in design.checks
            if check.name in names
        ):
            return wide
    return None


def _left_to_balken(c: Model, f: Foundation, width: bool, depth: bool, names: tuple[str, ...]) -> Fix | None:
    """Return the fix that leaves width or thickness of a footing to Balken, where that keeps the checks named.

    No name: those of strength.  Nothing is offered that would not help under every wall of the foundation.
    """
    fields = [("footing_width", None)] if width and f.footing_width is not None else []
    fields += [("footing_depth", None)] if depth and f.footing_depth is not None else []
    if not fields:
        return None
    given = {"footing_width": f.footing_width, "footing_depth": f.footing_depth} | dict(fields)
    plain = False if given["footing_depth"] is not None else None
    for run in c.runs:
        if run.foundation.id != f.id:
            continue
        case = c.footings[run.id].design.case
        if given["footing_width"] is None and not case.flush and abs(f.footing_offset) > f.thickness / 2.0:
            case = replace(case, flush=1 if f.footing_offset > 0.0 else -1)
        try:
            made = design_footing(
                c.standard, case, c.project.steps, given["footing_width"], given["footing_depth"], plain
            )
        except FootingError:
            return None
        for k in made.checks:
            asked = k.name in names if names else k.name not in ("soil pressure", *STABILITY)
            if asked and k.used > 1.0001:
                return None
    what = " and ".join(name.removeprefix("footing_").replace("depth", "thickness") for name, _ in fields)
    return Fix(f"Let Balken choose the {what}", "change", (f.id,), tuple(fields))


_LOOSE = {
    "load within the kern": "its load stands too near the edge: part of it would lift",
    "sliding": "earth would push it inward",
    "overturning": "earth would tip it over",
}


def _loose(
    c: Model, run: FoundationRun, result: RunFooting, check: Check, place: tuple[float, float, float]
) -> Finding:
    f = run.foundation
    values = [quantity_text(v, check.quantity, c.units) for v in (check.demand, check.capacity)]
    where = wall_label(c.project, run.wall)
    return Finding(
        "footing stability",
        "foundations",
        f"{f.name}: footing under {where}: {_LOOSE.get(check.name, check.name)}",
        f"{check.name[0].upper()}{check.name[1:]}: {values[0]} against {values[1]} ({check.clause}, {check.combination}). "
        "Hold the wall at its top with a floor, or widen the footing.",
        (f.id, footing_of(run.id)),
        place,
        fix=_left_to_balken(c, f, True, False, STABILITY),
    )
