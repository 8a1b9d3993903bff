"""Trusses of a single slope that hang on a ledger on the taller wall at its high side: the ledger, and what they bring to it."""

from balken.catalog.sections import section, side_by_side
from balken.design.roof_trusses import TrussRoof
from balken.design.truss_bearings import bearing_forces
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_layout import SEAT, at_wall
from balken.framing.wall_ledgers import WallLedger, truss_ledger
from balken.loads.cases import Cases, total
from balken.loads.roof_hung import RoofHung
from balken.model.naming import piece_name
from balken.value import Value


class OnLedger(Value, frozen=True):
    """Ledgers of a roof on taller walls, and all that hangs in it: rafters or trusses on these, of rafters what else hangs."""

    ledgers: tuple[WallLedger, ...] = ()
    heads: tuple[RoofHung, ...] = ()


def on_ledgers(plan: SurfacePlan, trusses: TrussRoof) -> OnLedger:
    """Return the ledger of a roof's trusses; nothing where both their ends bear on walls.

    Frames of gables lie on their walls all along, and hang on none.
    """
    row = trusses.row
    if row is None or trusses.problem or not at_wall(plan, row.eaves[1]):
        return OnLedger()
    rows, deep = list[RoofHung](), 0.0
    for number, place in enumerate(trusses.places):
        design = trusses.of(number)
        if design is None or place.gable:
            continue
        forces = bearing_forces(design, design.job.loads)
        end = max(x for x, _ in forces)
        force = total(part for x, part in forces if abs(end - x) < 1.0)
        chord, plies = section(design.frame.sizes.bottom), design.frame.sizes.plies
        deep = max(deep, chord.depth)
        size = f"{side_by_side(chord.name, plies)} truss"
        at = (*place.at(row.wide), plan.bearing)
        rounded = Cases(*(round(v, 6) for v in force))
        sides = (chord.breadth * plies, chord.depth, SEAT)
        rows.append(RoofHung(piece_name(plan.roof.id, "truss", number), "", at, size, rounded, sides))
    if not rows:
        return OnLedger()
    ledger = truss_ledger(plan, row.eaves[1], deep, tuple(head.member for head in rows))
    heads = tuple(RoofHung(head.member, ledger.key, head.at, head.size, head.force, head.sides) for head in rows)
    return OnLedger((ledger,), heads)
