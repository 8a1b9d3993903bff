"""What a floor is made of beside its joists: panels that span too far, no ceiling where one is asked for, too light a dead load."""

from collections.abc import Iterable

import shapely

from balken.catalog.materials import weight
from balken.catalog.sections import section
from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.framing.floors import FloorPlan
from balken.loads.area_loads import floor_cases
from balken.loads.guards import free_edges
from balken.loads.typed import ring_of
from balken.model.lookup import by_id, label_of, locate, wall_label
from balken.model.records import Floor, Foundation
from balken.standards.checks import used_text
from balken.standards.demands import DeckPanel, Ledger
from balken.units import format_area_load, format_force, say_inches

PANELS = (11.91, 15.08, 18.26, 22.23, 28.58)
BOARDS = (25.4, 38.1)
"""Thicknesses of panels, and of boards outdoors, mm."""
GYPSUM = 12.7
"""Thickness of a ceiling of gypsum board, mm (1/2 in)."""


def build_up(floor: Floor, size: str, spacing: float) -> float:
    """Return what deck, joists and ceiling of a floor weigh, kN/m2; its finish is not known."""
    lumber = section(size)
    joists = weight("timber") * lumber.area * 1e-6 / (spacing / 1000.0)
    ceiling = weight("gypsum board") * GYPSUM / 1000.0 if floor.ceiling == "gypsum board" else 0.0
    return weight("wood sheathing") * floor.deck / 1000.0 + joists + ceiling


def decks(c: Model) -> Iterable[Finding]:
    """Panels that do not span from joist to joist."""
    for plan in c.floors:
        floor, design = plan.floor, c.designs[(plan.floor.id, "joists")]
        if floor.deck <= 0.0:
            continue
        panel = _deck_of(c, floor, floor.deck)
        spaced = say_inches(design.spacing, c.units)
        if panel is not None and design.spacing <= panel.span + 1.0:
            continue
        thick = say_inches(floor.deck, c.units)
        spans = f"spans {say_inches(panel.span, c.units)} at most" if panel is not None else "is too thin for a deck"
        offered = BOARDS if floor.outdoors else PANELS
        thicker = next((t for t in offered if _spans(c, floor, t, design.spacing)), None)
        yield Finding(
            "deck span",
            "floors",
            f"{floor.name}: its deck of {thick} {spans}",
            f"Its joists lie {spaced} apart ({panel.clause if panel is not None else 'IRC R503.2'}).",
            (floor.id,),
            (*plan.outline.core[0], c.level_height(floor.level)),
            grave=False,
            fix=Fix(f"Make it {say_inches(thicker, c.units)}", "change", (floor.id,), (("deck", thicker),))
            if thicker
            else None,
        )


def _deck_of(c: Model, floor: Floor, thickness: float) -> DeckPanel | None:
    return c.standard.deck_boards(thickness) if floor.outdoors else c.standard.deck_panel(thickness)


def _spans(c: Model, floor: Floor, thickness: float, spacing: float) -> bool:
    panel = _deck_of(c, floor, thickness)
    return panel is not None and spacing <= panel.span + 1.0


def ledger_of(c: Model, plan: FloorPlan) -> Ledger | None:
    """Return how a deck's ledger is fastened; None for floors that are not outdoors, or hang on none."""
    if not plan.floor.outdoors or not any(plan.outline.shared):
        return None
    q = floor_cases(c.project.loads, plan.floor)
    return c.standard.ledger(plan.clear, q.dead + max(q.live, q.snow))


def ledgers(c: Model) -> Iterable[Finding]:
    """Ledgers of decks that no table covers; posts and beams outdoors that are taken as dry."""
    for plan in c.floors:
        made = ledger_of(c, plan)
        if made is not None and not made.spacing:
            yield Finding(
                "ledger",
                "floors",
                f"{plan.floor.name}: its ledger is not designed",
                f"{made.text}. Lay a beam on posts beside the wall, or shorten the joists.",
                (plan.floor.id,),
                (*plan.outline.core[0], c.level_height(plan.floor.level)),
            )
        if not plan.floor.outdoors:
            continue
        for name in sorted(plan.bears_on & c.path.beams.keys()):
            if not c.path.beams[name].line.beam.outdoors and c.path.beams[name].design.section.shape is None:
                yield _dry(
                    c, name, f"{label_of(c.project, name)} carries {plan.floor.name} outdoors and is taken as dry"
                )
                for seat in c.path.beams[name].seats:
                    column = by_id(c.project.columns).get(seat.on)
                    if column is not None and column.material == "timber" and not column.outdoors:
                        yield _dry(
                            c, column.id, f"{label_of(c.project, column.id)} stands outdoors and is taken as dry"
                        )


def _dry(c: Model, thing: str, what: str) -> Finding:
    return Finding(
        "outdoors",
        "floors",
        what,
        "Lumber that gets wet, treated and incised, bears less (CM, Ci; NDS 4.3).",
        (thing,),
        c.place(thing),
        fix=Fix("It stands outdoors", "change", (thing,), (("outdoors", True),)) if "." not in thing else None,
    )


def ceilings(c: Model) -> Iterable[Finding]:
    """Light floors over a basement without a ceiling under them."""
    for plan in c.floors:
        floor, size = plan.floor, c.designs[(plan.floor.id, "joists")].size
        if floor.ceiling != "none" or not c.standard.needs_ceiling(section(size)):
            continue
        under = next((f for f in c.project.foundations if f.kind == "basement" and _over(c, plan, f)), None)
        if under is not None:
            yield Finding(
                "ceiling",
                "floors",
                f"{floor.name}: joists of {size} over {under.name} have no ceiling under them",
                f"Over a basement such joists ask for gypsum board of 1/2 in on their underside ({c.standard.ceiling_clause}).",
                (floor.id, under.id),
                (*plan.outline.core[0], c.level_height(floor.level)),
                grave=False,
                fix=Fix("Put one of gypsum board", "change", (floor.id,), (("ceiling", "gypsum board"),)),
            )


def _over(c: Model, plan: FloorPlan, foundation: Foundation) -> bool:
    """Whether a floor bears on a basement, not only on a ledger at its side."""
    ledgers = {w for w, shared in zip(plan.outline.walls, plan.outline.shared, strict=True) if shared}
    mine = (run for run in c.runs if run.foundation.id == foundation.id and run.wall not in ledgers)
    return any(run.id in plan.bears_on for run in mine)


def light_dead_loads(c: Model) -> Iterable[Finding]:
    """Floors whose dead load is less than what their deck, joists and ceiling weigh."""
    for plan in c.floors:
        floor, design = plan.floor, c.designs[(plan.floor.id, "joists")]
        if floor.is_slab:
            continue
        weighs, taken = build_up(floor, design.size, design.spacing), floor_cases(c.project.loads, floor).dead
        if weighs > taken + 0.005:
            yield Finding(
                "dead load",
                "floors",
                f"{floor.name} weighs more than its dead load",
                f"Deck, joists and ceiling weigh {format_area_load(weighs, c.units)} without a finish; taken are "
                f"{format_area_load(taken, c.units)}.",
                (floor.id,),
                (*plan.outline.core[0], c.level_height(floor.level)),
                fix=Fix(
                    f"Take {format_area_load(weighs, c.units)}", "change", (floor.id,), (("dead", round(weighs, 4)),)
                ),
            )


def loads_beside(c: Model) -> Iterable[Finding]:
    """Loads typed where their floor is not."""
    plans = {plan.floor.id: plan for plan in c.floors}
    for load in c.project.floor_loads:
        plan = plans.get(load.floor)
        if plan is None:
            continue
        shape = shapely.Polygon(
            plan.outline.core, [tuple(plan.frame.back(s, t) for s, t in h.ring) for h in plan.holes]
        )
        if not shape.buffer(1.0).contains(shapely.MultiPoint(ring_of(load, c.project.grids))):
            yield Finding(
                "load beside",
                "floors",
                f"{load.name or 'A load'} lies beside {plan.floor.name}, or over an opening in it",
                "What lies there goes to the joist or wall nearest to it, as if it stood on its edge. Move it, or make it smaller.",
                (load.id, plan.floor.id),
                (*locate(load.place, c.project.grids), c.level_height(plan.floor.level)),
            )


def crushed(c: Model) -> Iterable[Finding]:
    """Squash blocks that bear less than the wall above brings to a joist."""
    for one in c.squashed:
        if one.used > 1.0:
            yield Finding(
                "squash blocks",
                "floors",
                f"{by_id(c.project.floors)[one.floor].name}: what stands under {wall_label(c.project, one.wall)} used {used_text(one.used)}",
                f"{format_force(one.force, c.units)} come to each joist ({one.combination}), they bear "
                f"{format_force(one.capacity, c.units)} ({one.clause}). Set the joists closer, or put a wall or beam of its own under it.",
                (one.floor, one.wall),
                c.place(one.wall),
                grave=True,
            )


def guards(c: Model) -> Iterable[Finding]:
    """Free edges outdoors high over the ground without a guard, guards that are too low."""
    rules = c.standard.guard_rules
    for plan in c.floors:
        floor, edges = plan.floor, free_edges(plan)
        if not floor.outdoors or not edges:
            continue
        top = c.level_height(floor.level)
        high = (
            max((top - c.ground.height(p) for edge in edges for p in edge), default=0.0)
            if c.ground is not None
            else 0.0
        )
        least = say_inches(rules.height, c.units)
        fix = Fix(f"Give it one of {least}", "change", (floor.id,), (("guard", rules.height),))
        if floor.guard <= 0.0 and high > rules.above + 0.5:
            yield Finding(
                "guard",
                "floors",
                f"{floor.name} has no guard at its free edges",
                f"They lie {say_inches(high, c.units)} over the ground, more than {say_inches(rules.above, c.units)} "
                f"({rules.above_clause}).",
                (floor.id,),
                (*edges[0][0], top),
                fix=fix,
            )
        elif 0.0 < floor.guard < rules.height - 0.5:
            yield Finding(
                "guard",
                "floors",
                f"{floor.name}: its guard is only {say_inches(floor.guard, c.units)} high",
                f"It must be {least} ({rules.height_clause}).",
                (floor.id,),
                (*edges[0][0], top),
                fix=fix,
            )


FLOOR_RULES = (guards, crushed, decks, ledgers, ceilings, light_dead_loads, loads_beside)
