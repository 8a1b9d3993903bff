"""Overhangs over gables that neither a ladder nor lookouts are made for, or that wind lifts too hard."""

from collections.abc import Iterable

from balken.catalog.straps import MADE_UP
from balken.derived.finding import Finding
from balken.derived.model import Model
from balken.design.frame_lookouts import tail_under_wind
from balken.design.lookouts import under_wind
from balken.findings.names import all_of
from balken.framing.gable_ladders import FARTHEST, NEAREST, rakes
from balken.framing.past_heads import around_of, passed_over
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.roof_edges import runs_up
from balken.model.lookup import wall_label
from balken.standards.checks import used_text
from balken.units import format_force, say_length


def gable_overhangs(c: Model) -> Iterable[Finding]:
    """Overhangs over gables that reach farther than a ladder does, or that turn aside from their eaves and have none."""
    for plan in c.surfaces:
        if plan.problem or plan.roof.id in c.dormers or not (plan.trussed or plan.roof.id in c.planes):
            continue
        made = {rake.gable for rake in rakes(plan)}
        carried = _by_trusses(c, plan.roof.id)
        made |= carried
        planes = ((face.edge, tuple((x, y) for x, y, _ in face.ring)) for face in plan.surface.faces)
        passed = {k for edge, ring in planes for k in passed_over(around_of(plan), edge, ring)}
        over = {
            k: plan.overhangs[k]
            for k, edge in enumerate(plan.edges)
            if plan.overhangs[k] >= NEAREST and (edge.kind == "gable" or _beside_raised(plan, k))
        }
        askew = [plan.outline.walls[k] for k in over if k not in made and (k not in passed or plan.trussed)]
        far = [k for k in over if k in made - carried and over[k] > FARTHEST + 1.0]
        at = (*plan.outline.core[0], plan.bearing)
        for why, sides in _without(c, plan, far).items():
            walls = [plan.outline.walls[k] for k in sides]
            yield Finding(
                "gable overhang",
                "roof",
                f"{plan.roof.name}: its overhang over {all_of([wall_label(c.project, w) for w in walls])} reaches too far for a ladder",
                f"A ladder of fly rafter and blocks under the deck reaches {say_length(FARTHEST, c.units)} (common practice), and there are no "
                f"lookouts: {why}. Make the overhang smaller there, or have it designed.",
                (plan.roof.id, *walls),
                at,
                grave=False,
            )
        yield from _lifted(c, plan)
        if askew:
            yield Finding(
                "gable overhang",
                "roof",
                f"{plan.roof.name}: nothing carries its overhang over {all_of([wall_label(c.project, w) for w in askew])}",
                "Fly rafters and ladders are made at gables square to their eaves alone. Set the overhang there to 0, or have it designed.",
                (plan.roof.id, *askew),
                at,
                grave=False,
            )


def _beside_raised(plan: SurfacePlan, k: int) -> bool:
    """Whether planes end over the wall of a raised eave."""
    n = len(plan.edges)
    return any(plan.edges[j].kind == "eave" and runs_up(plan.edges, j, k) for j in ((k - 1) % n, (k + 1) % n))


def _without(c: Model, plan: SurfacePlan, far: list[int]) -> dict[str, list[int]]:
    """Return the sides where lookouts are wanted and are not, by why."""
    problems, found = dict(c.lookouts(plan.roof.id).problems), dict[str, list[int]]()
    for k in far:
        why = problems.get(k)
        if why is not None:
            found.setdefault(why, []).append(k)
    return found


def _lifted(c: Model, plan: SurfacePlan) -> Iterable[Finding]:
    """Lookouts that wind bends too far, or lifts more than any tie holds."""
    wind = c.uplift.wind.get(plan.roof.id)
    if wind is None:
        return
    for made in c.lookouts(plan.roof.id).rows:
        rows = [("lookouts", under_wind(plan, made, c.project.loads, wind, c.standard))]
        if made.tail is not None:
            rows.append(("tails beside lookouts", tail_under_wind(plan, made, c.project.loads, wind, c.standard)))
        wall = plan.outline.walls[made.row.gable]
        for what, (used, tie, lifts) in rows:
            if used <= 1.0 and (tie or lifts <= 0.0):
                continue
            yield Finding(
                "gable overhang",
                "roof",
                f"{plan.roof.name}: wind lifts its {what} over {wall_label(c.project, wall)} with {format_force(lifts, c.units)} each",
                f"They are used {used_text(used)} then, and the strongest tie of the list holds {format_force(MADE_UP[-1].up, c.units)}. Make the "
                "overhang smaller there.",
                (plan.roof.id, wall),
                (*plan.outline.core[made.row.gable], plan.bearing),
            )


def _by_trusses(c: Model, roof: str) -> set[int]:
    """Return the sides of a roof at which top chords of trusses run on."""
    trusses = c.trusses.get(roof)
    return set(trusses.eaves) if trusses is not None else set()


OVERHANG_RULES = (gable_overhangs,)
