"""Findings where several roofs end at one wall: planes above and below a knee wall that do not meet, gables over one stretch."""

from collections.abc import Iterable

from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.framing.gable_tops import over_one_stretch
from balken.framing.surface_roofs import SurfacePlan, surface_gables
from balken.framing.walls import GableTop
from balken.geometry.plane import dot, left, sub, unit
from balken.model.lookup import wall_label
from balken.units import say_inches

NEAR = 1000.0
"""Planes farther apart are no two parts of one slope."""
MEET = 1.5
"""Planes that are nearer meet, mm."""


def broken_slopes(c: Model) -> Iterable[Finding]:
    """Tell where an eave over a wall, and what stands against the outside of that wall, end at unlike heights."""
    heads = {
        wall: (plan, k)
        for plan in c.surfaces
        if not plan.problem and not plan.trussed
        for k, (wall, edge) in enumerate(zip(plan.outline.walls, plan.edges, strict=True))
        if edge.kind == "eave" and plan.overhangs[k] < 1.0
    }
    for plan in c.surfaces:
        if plan.problem or plan.trussed:
            continue
        for k, (wall, edge) in enumerate(zip(plan.outline.walls, plan.edges, strict=True)):
            if edge.kind != "wall" or wall not in heads or wall not in c.lines:
                continue
            upper, j = heads[wall]
            low = _height(plan, k)
            if low is None:
                continue
            by = low - upper.level(j)
            if not MEET < abs(by) < NEAR:
                continue
            line = c.lines[wall]
            where = "higher" if by < 0.0 else "lower"
            yield Finding(
                "broken slope",
                "roof",
                f"{upper.roof.name} lies {say_inches(abs(by), c.units)} {where} over {wall_label(c.project, wall)} than {plan.roof.name} that ends there",
                "The tops of their rafters should meet over the wall, so that one deck runs on. It comes of pitches, of sections or of the "
                "wall's place changed since.",
                (wall, upper.roof.id, plan.roof.id),
                (*line.band.at(line.band.length / 2.0, 0.0), line.band.top),
                grave=False,
                fix=Fix("Let them meet", "meet_slopes", (upper.roof.id, wall, by)),
            )


def over_one_stretch_of_a_wall(c: Model) -> Iterable[Finding]:
    """Tell where gables of two roofs end over one stretch of a wall, which follows one of them."""
    known: dict[str, list[tuple[SurfacePlan, GableTop]]] = {}
    for plan in c.surfaces:
        if plan.problem or plan.roof.id in c.dormers:
            continue
        for wall, top in surface_gables(plan, c.lines)[0].items():
            for other, was in known.get(wall, ()):
                if over_one_stretch(top, was):
                    line = c.lines[wall]
                    yield Finding(
                        "gables",
                        "roof",
                        f"{other.roof.name} and {plan.roof.name} both end over one stretch of {wall_label(c.project, wall)}",
                        f"The wall runs up to {plan.roof.name}; under {other.roof.name} it leaves a gap or stands out. Let one of them end "
                        "at another wall, or switch its edge there.",
                        (wall, other.roof.id, plan.roof.id),
                        (*line.band.at(line.band.length / 2.0, 0.0), line.band.top),
                    )
            known.setdefault(wall, []).append((plan, top))


def _height(plan: SurfacePlan, k: int) -> float | None:
    """Return how high the planes of a roof end at a wall beside them, over most of its length; None where they do not end level."""
    lines = [line for line in plan.surface.lines if line.kind == "wall" and line.edges[1] == k]
    if not lines:
        return None
    longest = max(lines, key=lambda line: line.length)
    core, edge = plan.outline.core, longest.edges[0]
    corner, far = core[edge], core[(edge + 1) % len(core)]
    ends = [dot(left(unit(corner, far)), sub(p[:2], corner)) for p in (longest.start, longest.end)]
    high, low = (plan.level(edge) + plan.edges[edge].pitch * s for s in ends)
    return high if abs(high - low) < 1.0 else None


BREAK_RULES = (broken_slopes, over_one_stretch_of_a_wall)
