"""Slabs above ground: strips that are too weak or bear on too little, those that carry both ways, beams flush with them."""

from collections.abc import Iterable

from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.findings.names import all_of
from balken.framing.floors import FloorPlan
from balken.model.kinds.foundation import NO_SILL
from balken.model.lookup import by_id, label_of
from balken.standards.checks import used_text
from balken.units import say_length


def weak_slabs(c: Model) -> Iterable[Finding]:
    """Slabs with a strip that is used over 100 %, with all that lies on it."""
    for plan in c.floors:
        slab = c.raised.get(plan.floor.id)
        if slab is None or not slab.results or slab.results[slab.worst].used <= 1.0:
            continue
        worst, design = slab.results[slab.worst], c.designs[(plan.floor.id, "joists")]
        check, over = worst.governs, sum(1 for r in slab.results.values() if r.used > 1.0)
        on = c.path.decks.get(plan.floor.id)
        sources = {row.source for row in on.joists.get(slab.worst, ())} if on is not None else set()
        under = f", under {all_of([label_of(c.project, s) for s in sorted(sources)])}" if sources else ""
        yield Finding(
            "used",
            "floors",
            f"{plan.floor.name}: {design.size} used {used_text(worst.used)}",
            f"{check.name[0].upper()}{check.name[1:]} governs ({check.clause}) over a clear span of "
            f"{say_length(worst.case.clear, c.units)}{under}; {over} strips of {len(slab.results)} are over.",
            (plan.floor.id,),
            c.place(slab.worst),
            fix=_thicker(c, plan),
        )


def _thicker(c: Model, plan: FloorPlan) -> Fix | None:
    floor, design = plan.floor, c.designs[(plan.floor.id, "joists")]
    if not design.size_auto:
        better = design.would_work or next((n.size for n in design.neighbours if n.used <= 1.0), "")
        if better:
            return Fix(f"Make it a {better}", "set_choice", (floor.id, "joists"), (("size", better),))
    deeper = next((n.size for n in design.neighbours if n.size != design.size and n.used < design.result.used), "")
    return Fix(f"Make it a {deeper}", "set_choice", (floor.id, "joists"), (("size", deeper),)) if deeper else None


def without_bearing(c: Model) -> Iterable[Finding]:
    """Slabs of which some strips have fewer than two bearings and are not checked."""
    for plan in c.floors:
        slab = c.raised.get(plan.floor.id)
        if slab is not None and slab.unstood and plan.floor.carries == "one way":
            yield Finding(
                "no bearing",
                "floors",
                f"{plan.floor.name}: {len(slab.unstood)} strips bear on fewer than two walls or beams",
                "They are not checked. Turn its span, or put a wall or beam under their free end.",
                (plan.floor.id,),
                c.place(slab.unstood[0]),
            )


def both_ways(c: Model) -> Iterable[Finding]:
    """Slabs that carry both ways: their loads go to the walls, their bars are not designed."""
    for plan in c.floors:
        if plan.floor.is_slab and plan.floor.carries == "both ways":
            yield Finding(
                "not designed",
                "floors",
                f"{plan.floor.name} carries both ways and is not designed",
                "Its loads go to the walls and beams nearest to them; its bars are for someone else to design, its thickness "
                "is that of strips one way.",
                (plan.floor.id,),
                (*plan.outline.core[0], c.level_height(plan.floor.level)),
                fix=Fix("Let it carry one way", "change", (plan.floor.id,), (("carries", "one way"),)),
            )
            if not plan.tributary:
                yield Finding(
                    "not shared",
                    "floors",
                    f"{plan.floor.name}: its loads go one way",
                    "Between its walls and beams it is no convex field, so that it cannot be shared out both ways. Draw one "
                    "slab a field.",
                    (plan.floor.id,),
                    (*plan.outline.core[0], c.level_height(plan.floor.level)),
                )


def flush_beams(c: Model) -> Iterable[Finding]:
    """Beams flush with a slab: nothing of it can hang on them."""
    slabs = {plan.floor.id: plan.floor for plan in c.floors if plan.floor.is_slab}
    for made in c.path.beams.values():
        beam = made.line.beam
        if beam.flush and beam.floor in slabs:
            yield Finding(
                "flush beam",
                "floors",
                f"{label_of(c.project, beam.id)} is flush with {slabs[beam.floor].name}, a slab",
                "Nothing hangs a slab on a beam of wood or steel; it lies on one.",
                (beam.id, beam.floor),
                c.place(beam.id),
                fix=Fix("Put it under the slab", "change", (beam.id,), (("flush", False),))
                if beam.id in by_id(c.project.beams)
                else None,
            )


def on_sills(c: Model) -> Iterable[Finding]:
    """Slabs that would lie on the wooden sill plate of a foundation."""
    for plan in c.floors:
        if not plan.floor.is_slab:
            continue
        under = [run.foundation for run in c.runs if run.id in plan.bears_on and run.foundation.sill_size != NO_SILL]
        for foundation in dict.fromkeys(under):
            yield Finding(
                "sill under a slab",
                "floors",
                f"{plan.floor.name} lies on the sill plate of {foundation.name}",
                "Concrete is cast on concrete or block, not on a wooden plate.",
                (plan.floor.id, foundation.id),
                (*plan.outline.core[0], c.level_height(plan.floor.level)),
                fix=Fix("Leave the sill plate out", "change", (foundation.id,), (("sill_size", NO_SILL),)),
            )


SLAB_RULES = (on_sills, weak_slabs, without_bearing, both_ways, flush_beams)
