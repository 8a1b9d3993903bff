"""The schedule of roofs on the sheet of plans: areas, lengths of edges, what they are made of, how they are nailed and tied down."""

import math

from balken.derived.model import Model
from balken.derived.roof_decks import roof_deck_of
from balken.design.heel_joints import heel_joints
from balken.documents.paper_table import PaperTable
from balken.framing.roof_decks import deck_area
from balken.framing.roof_layout import lengths
from balken.framing.roofs import RoofPlan
from balken.model.naming import owner_of
from balken.model.records import Roof
from balken.units import format_area, format_force, format_inches, format_length

HEADINGS = (
    "Roof",
    "On the slope",
    "Eaves",
    "Ridges",
    "Hips",
    "Valleys",
    "Rakes",
    "Deck",
    "Rafters",
    "Ceiling ties",
    "Heel joints, laps, ledgers",
    "Against wind",
)


def roof_schedule(model: Model) -> PaperTable:
    """Return the schedule of all roofs; it has no rows where there are none."""
    measured: dict[str, tuple[float, dict[str, float]]] = {
        plan.roof.id: (deck_area(plan), lengths(plan.whole.lines)) for plan in model.surfaces if not plan.problem
    }
    measured |= {plan.roof.id: _gable(plan) for plan in model.roofs}
    dormers = (plan.roof for plan in model.surfaces if plan.roof.id in model.dormers)
    rows = [_row(model, roof, *measured[roof.id]) for roof in (*model.project.roofs, *dormers) if roof.id in measured]
    return PaperTable("Schedule of roofs", HEADINGS, rows)


def _gable(plan: RoofPlan) -> tuple[float, dict[str, float]]:
    """Return the area of a gable roof on the slope, mm2, and the lengths of its edges, mm."""
    along, steep = plan.t_high - plan.t_low, math.hypot(1.0, plan.roof.pitch)
    up = (plan.half + plan.roof.overhang) * steep
    return 2.0 * up * along, {"eave": 2.0 * along, "ridge": along, "rake": 4.0 * up}


def _row(model: Model, roof: Roof, area: float, edges: dict[str, float]) -> tuple[str, ...]:
    units = model.units
    slope = format_area(area, units)
    lines = [format_length(edges[kind], units) if edges.get(kind) else "" for kind in EDGES]
    rafters, ties = (model.designs.get((roof.id, name)) for name in ("rafters", "ties"))
    made = [f"{d.size} @ {format_inches(d.spacing, units)}" if d is not None else "" for d in (rafters, ties)]
    trusses = model.trusses.get(roof.id)
    if trusses is not None and trusses.row is not None:
        beside = f", {made[0]} at hip ends" if made[0] and model.raftered(roof.id) else ""
        made[0] = f"{len(trusses.places)} trusses @ {format_inches(trusses.row.spacing, units)}{beside}"
    nails = ""
    if rafters is not None and ties is not None:
        joints = heel_joints(roof, rafters, ties, model.planes.get(roof.id), model.standard)
        nails = ", ".join(f"{joint.number} 16d{' ' if where else ''}{where}" for where, joint in joints)
    nails = ", ".join(filter(None, (nails, *_nailed_besides(model, roof))))
    names = sorted({row.tie for row in model.uplift.lifted if row.roof == roof.id and row.tie}, key=len)
    return (roof.name, slope, *lines, deck_text(model, roof), *made, nails, ", ".join(names))


def _nailed_besides(model: Model, roof: Roof) -> list[str]:
    """Return the nails of a ring of plates under its hips, of its jacks, and of its ledgers on taller walls."""
    framing, units = model.planes.get(roof.id), model.units
    ring = framing.ring if framing is not None else None
    found = [f"{max(one.number for one in ring.nails.values())} 16d where plates lap"] if ring and ring.works else []
    if framing is not None:
        worst = framing.collared.worst
        found += [f"collar ties {worst.nails.number} 16d at each end"] if worst is not None else []
        found += [f"ridge straps {straps_text(model, roof)}"] if framing.collared.loose else []
        found += [f"jacks {nails.number} 16d toe nails {where}" for where, nails in framing.jacks.nailed]
    for held in model.ledgers:
        if owner_of(held.ledger.key) == roof.id and held.nails is not None and held.used <= 1.0:
            rows = ((held.backing, held.nails), *held.more)
            for back, nails in rows:
                if back is not None:
                    many = nails.room if held.more else nails.number
                    found.append(f"ledger {many} 16d every {format_inches(back.apart, units)}")
    return list(dict.fromkeys(found))


def straps_text(model: Model, roof: Roof) -> str:
    """Return how many pairs of rafters want straps over the ridge, and for what pull."""
    held = model.planes[roof.id].collared
    where = f"at {held.loose} pair{'s' * (held.loose > 1)}"
    if held.strap <= 0.0:
        return f"{where}, or every 4 ft (IRC R802.3.1)"
    return f"{where}, for {format_force(held.strap, model.units)} each"


def deck_text(model: Model, roof: Roof) -> str:
    """Return how a roof's deck is stamped, whether its edges are held, how it is nailed; "" of one that nothing carries."""
    deck = roof_deck_of(model, roof)
    if deck is None or deck.panel is None:
        return ""
    clips = ", edges held by clips" if deck.panel.clips else ""
    return f"{format_inches(roof.deck, model.units)} {deck.panel.rating}{clips}, {deck.panel.nails}"


EDGES = ("eave", "ridge", "hip", "valley", "rake")
