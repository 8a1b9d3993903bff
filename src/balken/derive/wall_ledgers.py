"""Ledgers of roofs on taller walls, held by what is behind them when the walls are framed."""

import math

from balken.catalog.sections import rim_of, section, wood_of
from balken.derive.laying import Laid
from balken.derive.walling import Built
from balken.design.stud_walls import FramedWall
from balken.design.wall_ledgers import HeldLedger, backings, hold_ledger
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.wall_ledgers import WallLedger
from balken.memo import Memo
from balken.model.lookup import by_id
from balken.model.records import Project
from balken.standards.known import STANDARDS


def held_ledgers(
    memo: Memo, p: Project, laid: Laid, built: Built, framed: dict[str, FramedWall]
) -> tuple[HeldLedger, ...]:
    """Hold every ledger of every roof."""
    found: list[HeldLedger] = []
    roofs = [(plan, laid.on_ledgers[plan.roof.id]) for plan in laid.surfaces if plan.roof.id in laid.on_ledgers]
    if not any(hung.ledgers for _, hung in roofs):
        return ()
    studs = memo.keep(
        "studs behind ledgers",
        {w: (made.design.spacing, made.line.wall.framing.species) for w, made in framed.items()},
    )
    rims = memo.keep("rims behind ledgers", tuple(_rims(p, laid)))
    tops = memo.keep("tops behind ledgers", {w: top for w, top in built.gables.items() if top is not None})
    for plan, hung in roofs:
        for ledger in hung.ledgers:
            behind = memo.step(
                f"behind {ledger.key}", backings, ledger.start, ledger.end, laid.lines, tops, studs, rims
            )
            found.append(
                memo.step(
                    f"held {ledger.key}",
                    hold_ledger,
                    ledger,
                    hung.heads,
                    memo.keep(f"backings {ledger.key}", behind),
                    plan.roof.rafters.species,
                    _cut(laid, plan, ledger),
                    STANDARDS[p.standard],
                )
            )
    return tuple(found)


def _rims(p: Project, laid: Laid) -> list[tuple[float, float, float, str]]:
    """Return the rims of floors on joists: between which heights, how thick, of which species."""
    rows = []
    for plan in laid.floors:
        design = laid.designs.get((plan.floor.id, "joists"))
        if plan.floor.is_slab or design is None:
            continue
        rim = rim_of(design.size)
        top = by_id(p.levels)[plan.floor.level].height - plan.floor.deck
        species = wood_of(rim, plan.floor.joists.species, plan.floor.joists.grade)[0]
        rows.append((top - section(rim).depth, top, section(rim).breadth, species))
    return rows


def _cut(laid: Laid, plan: SurfacePlan, ledger: WallLedger) -> float:
    """Return how deep the plumb cuts of rafters on a ledger are, mm; nothing of trusses, whose chords it is chosen for."""
    framing = laid.planes.get(plan.roof.id)
    if framing is None:
        return 0.0
    return section(framing.boards.rafter).depth * math.hypot(1.0, plan.edges[ledger.edge].pitch)
