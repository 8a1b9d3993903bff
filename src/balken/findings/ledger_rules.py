"""Roofs that stand against walls that are not there, and ledgers that nothing holds."""

from collections.abc import Iterable

from balken.catalog.sections import section
from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.design.wall_ledgers import HeldLedger, backings
from balken.framing.against_walls import ends_at_wall
from balken.framing.surface_members import LEDGER, RIDGES
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.plane import dot, unit
from balken.geometry.roof_edges import Place
from balken.geometry.roof_surface import RoofLine
from balken.model.lookup import wall_label
from balken.model.naming import owner_of
from balken.standards.checks import used_text
from balken.units import format_force, say_inches, say_length

LEAST_BEHIND = 0.5
"""So much of a ledger's depth has something behind it at least (common practice, no source)."""


def ledgers(c: Model) -> Iterable[Finding]:
    """Ledgers behind which there is nothing, into which no nails are counted, or that are nailed too weakly."""
    plans = {plan.roof.id: plan for plan in c.surfaces}
    for held in c.ledgers:
        roof = owner_of(held.ledger.key)
        plan = plans[roof]
        if held.bare > (1.0 - LEAST_BEHIND) * held.ledger.plumb:
            yield _nothing_behind(c, plan, held)
        elif held.nails is None:
            yield Finding(
                "ledger",
                "roof",
                f"{plan.roof.name}: how its ledger is held at {wall_label(c.project, held.ledger.wall)} is not designed",
                "Nails into studs and into the rims of floors are counted. Anchors in other walls are not: have them designed.",
                (roof, held.ledger.key, held.ledger.wall),
                held.ledger.start,
            )
        elif held.used > 1.0:
            come = format_force(held.nails.force, c.units)
            yield Finding(
                "ledger",
                "roof",
                f"{plan.roof.name}: nails of its ledger at {wall_label(c.project, held.ledger.wall)} used {used_text(held.used)}",
                f"{come} come to each group {say_inches(held.apart, c.units)} apart at normal load duration; {held.nails.room} 16d common nails "
                f"find room there and hold {format_force(held.nails.value, c.units)} each ({held.nails.clause}). Take a deeper ledger, carry "
                "what hangs on it by a beam before the wall, or have bolts designed.",
                (roof, held.ledger.key, held.ledger.wall),
                held.ledger.start,
                fix=_deeper(c, plan, held),
            )
        if held.shallow > 1.0:
            yield Finding(
                "ledger depth",
                "roof",
                f"{plan.roof.name}: its ledger ends {say_inches(held.shallow, c.units)} above the cuts of its rafters",
                "No board is as deep as their plumb cuts. Hangers must reach below it: choose such, or take shallower rafters.",
                (roof, held.ledger.key),
                held.ledger.start,
                grave=False,
            )


def _deeper(c: Model, plan: SurfacePlan, held: HeldLedger) -> Fix | None:
    """Return the fix that takes the first board deep enough for all nails; none where no board is."""
    back, nails, wood = held.backing, held.nails, plan.roof.rafters.species
    if back is None or nails is None:
        return None
    # Ledgers of rafters hang down from the deck, those of trusses stand up from what these bear on.
    top = held.ledger.top(0.0)
    for name in RIDGES:
        deep = section(name).depth
        low, high = (
            (top - deep, top) if held.ledger.falls > 0.0 else (top - held.ledger.plumb, top - held.ledger.plumb + deep)
        )
        room = min(back.high, high) - max(back.low, low)
        made = c.standard.ledger_nails((wood, back.species or wood), LEDGER, back.gap, back.thick, room, nails.force)
        if made.used <= 1.0 and section(name).depth > section(held.ledger.size).depth:
            return Fix(f"Take a {name} ledger", "change", (plan.roof.id,), (("ledger_size", name),))
    return None


def _nothing_behind(c: Model, plan: SurfacePlan, held: HeldLedger) -> Finding:
    """Return what is told of a ledger behind which there is nothing."""
    roof, wall = plan.roof, held.ledger.wall
    side = plan.outline.walls.index(wall)
    own = not plan.outline.shared[side]
    fix = Fix("Run the wall up under the rafters", "set_side", (roof.id, wall), (("kind", "gable"),)) if own else None
    # Over a knee wall the upper part of a slope bears, its rafters as deep as these.
    broken = any(
        other is not plan and name == wall and edge.kind == "eave" and over < 1.0
        for other in c.surfaces
        if not other.problem
        for name, edge, over in zip(other.outline.walls, other.edges, other.overhangs, strict=True)
    )
    how = (
        "make that edge a gable, so that the wall runs up under the rafters"
        if own
        else "take shallower rafters above and below"
        if broken
        else "run the roof on over the other one"
    )
    return Finding(
        "ledger",
        "roof",
        f"{roof.name}: nothing is behind its ledger at {wall_label(c.project, wall)}",
        f"Its rafters' heads stand against that wall, but over {say_length(held.bare, c.units)} of the ledger's depth no wall and no floor's rim is "
        f"there. Raise the wall, lower the pitch, or {how}.",
        (roof.id, held.ledger.key, wall),
        (*held.ledger.start[:2], held.bare_from),
        fix=fix,
    )


PARTS = 4
"""In so many parts of its length it is looked what is behind the edge of a plane."""
SHORT = 10.0
"""A wall that ends no lower than this below a deck stands up to it, mm."""


def open_against(c: Model) -> Iterable[Finding]:
    """Sides of roofs that stand against walls along their slope, gables without overhang on the outside of walls among them, where these end
    below the deck: a gap stays open.
    """
    for plan in c.surfaces:
        if plan.problem or plan.roof.id in c.dormers:
            continue
        for side, edge in enumerate(plan.edges):
            wall = plan.outline.walls[side]
            lies = [x for x in plan.surface.lines if x.kind in ("wall", "rake") and x.edges[-1] == side]
            if edge.kind not in ("wall", "gable") or not ends_at_wall(plan.roof, plan.outline, side):
                continue
            if not lies or any(
                held.ledger.wall == wall for held in c.ledgers if owner_of(held.ledger.key) == plan.roof.id
            ):
                continue
            gaps = [gap for line in lies for gap in _gaps(c, plan, side, line)]
            if max(gaps, default=0.0) > SHORT:
                yield _gap(c, plan, side, max(gaps))


def _gaps(c: Model, plan: SurfacePlan, side: int, line: RoofLine) -> list[float]:
    """Return by how much what is behind the edge of a plane ends below the underside of its deck, part by part, mm."""
    core, lift = plan.outline.core, plan.bearing + plan.plate_to_top
    way = unit(core[side], core[(side + 1) % len(core)])
    a, b = sorted((line.start, line.end), key=lambda p: dot(way, p[:2]))
    found = []
    for k in range(PARTS):
        start, end = (tuple(x + (y - x) * t / PARTS for x, y in zip(a, b, strict=True)) for t in (k, k + 1))
        ends: list[Place] = [(x, y, z + lift) for x, y, z in (start, end)]
        behind = backings(ends[0], ends[1], c.lines, c.gables, {}, ())
        top = max((one.high for one in behind), default=plan.bearing)
        found.append(max(ends[0][2], ends[1][2]) - top)
    return found


def _gap(c: Model, plan: SurfacePlan, side: int, gap: float) -> Finding:
    """Return what is told of a side that stands against a wall that ends below it."""
    roof, wall = plan.roof, plan.outline.walls[side]
    beside = [
        other for other in c.project.roofs if other.id != roof.id and wall in other.walls and other.shape == "planes"
    ]
    fix = Fix("Run it on over the roof there", "set_side", (roof.id, wall), (("kind", "roof"),)) if beside else None
    return Finding(
        "against a wall",
        "roof",
        f"{roof.name}: {wall_label(c.project, wall)} ends {say_length(gap, c.units)} below the roof that stands against it",
        "Above it a gap stays open. Raise the wall, or run the roof on over the one there.",
        (roof.id, wall),
        (*plan.outline.core[side], plan.bearing),
        fix=fix,
    )


LEDGER_RULES = (ledgers, open_against)
