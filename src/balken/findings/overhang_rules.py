"""Overhangs over gables that no ladder is made for."""

from collections.abc import Iterable

from balken.derived.finding import Finding
from balken.derived.model import Model
from balken.findings.names import all_of
from balken.framing.gable_ladders import FARTHEST, NEAREST, rakes
from balken.model.lookup import wall_label
from balken.units import say_length


def gable_overhangs(c: Model) -> Iterable[Finding]:
    """Overhangs over gables that reach farther than a ladder does, or that turn aside from their eaves and have none."""
    for plan in c.surfaces:
        if plan.problem or plan.roof.id in c.dormers or not (plan.trussed or plan.roof.id in c.planes):
            continue
        made = {rake.gable for rake in rakes(plan)}
        carried = _by_trusses(c, plan.roof.id)
        made |= carried
        over = {
            k: plan.overhangs[k]
            for k, edge in enumerate(plan.edges)
            if edge.kind == "gable" and plan.overhangs[k] >= NEAREST
        }
        askew = [plan.outline.walls[k] for k in over if k not in made]
        far = [plan.outline.walls[k] for k in over if k in made - carried and over[k] > FARTHEST + 1.0]
        at = (*plan.outline.core[0], plan.bearing)
        if far:
            yield Finding(
                "gable overhang",
                "roof",
                f"{plan.roof.name}: its overhang over {all_of([wall_label(c.project, w) for w in far])} reaches too far for a ladder",
                f"A ladder of fly rafter and blocks under the deck reaches {say_length(FARTHEST, c.units)} (common practice); lookouts "
                "over the gable wall are not made yet. Make the overhang smaller there, or have them designed.",
                (plan.roof.id, *far),
                at,
                grave=False,
            )
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


def _by_trusses(c: Model, roof: str) -> set[int]:
    """Return the sides of a roof at which top chords of trusses run on."""
    trusses = c.trusses.get(roof)
    return set(trusses.eaves) if trusses is not None else set()


OVERHANG_RULES = (gable_overhangs,)
