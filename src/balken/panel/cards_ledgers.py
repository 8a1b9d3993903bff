"""What the card of a ledger on a taller wall says: what is behind it, the nails that hold it, what hangs on it."""

from balken.framing.pieces import Piece
from balken.loads.cases import total
from balken.model.lookup import wall_label
from balken.panel.card_parts import Fact, Part
from balken.session.session import Session
from balken.standards.checks import used_text
from balken.units import format_force, say_inches


def ledger_parts(session: Session, piece: Piece) -> list[Part]:
    """Return how a ledger is held; nothing for other pieces."""
    model = session.model
    held = next((one for one in model.ledgers if piece.key.startswith(one.ledger.key)), None)
    if piece.role != "ledger" or held is None:
        return []
    heads = [one for one in model.hangers if one.on == held.ledger.key]
    load, combo = model.standard.combinations.worst(total(head.load for head in heads))
    what = "Trusses" if any(head.size.endswith("truss") for head in heads) else "Rafters"
    parts: list[Part] = [
        "On the wall",
        Fact(
            f"{what} hung on it",
            f"{len(held.ledger.heads)}, {format_force(load, session.project.units)} ({combo.name})",
        ),
    ]
    if held.backing is None or held.nails is None:
        return [*parts, Fact("Nails", "not designed: no studs and no rim behind it")]
    units = session.project.units
    for back, nails in ((held.backing, held.nails), *held.more):
        what = "rim of the floor over" if back.rim else "studs of"
        many = f"{nails.room} 16d common nails" if held.more else nails.text
        parts += [
            Fact("Behind it", f"{what} {wall_label(session.project, back.wall)}"),
            Fact("Nails", f"{many} every {say_inches(back.apart, units)}"),
        ]
    parts += [
        Fact("Used", f"{used_text(held.used)} ({held.nails.clause})"),
    ]
    if held.backing.gap > 1.0:
        parts.append(Fact("Between", f"{say_inches(held.backing.gap, units)} of sheathing"))
    return parts
