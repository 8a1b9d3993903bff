"""The card of an opening in floors."""

from balken.design.stairs import headroom
from balken.findings.stair_rules import thicknesses
from balken.model import edits
from balken.model.lookup import by_id, label_of
from balken.model.records import FloorOpening
from balken.panel.card_parts import Button, Card, Fact, Note, Part, Rows, entries, used_parts
from balken.panel.fields import FIELDS
from balken.session.session import Edit, Session
from balken.standards.checks import used_text
from balken.units import format_inches, format_length


def floor_opening_card(session: Session, opening: FloorOpening) -> Card:
    """Return what can be typed of an opening, through which floors it goes, its headers and trimmers."""
    p, model = session.project, session.model
    hidden = {"width", "depth", "angle"} if opening.corners else set[str]()
    hidden |= {"lands"} if opening.kind != "stair" or opening.corners else set()
    stair = opening.kind == "stair" and opening.lands != "nothing" and not opening.corners
    hidden |= set() if stair else {"flight"}
    hidden |= set(OF_FLIGHT) if not stair or opening.flight != "stringers" else set()
    fields = [f for f in FIELDS[FloorOpening] if f.key not in hidden]
    parts: list[Part] = entries(session, [opening], fields)
    if opening.corners:
        parts.append(Fact("Shape", f"of {len(opening.corners)} corners; drag them on the plan"))
        parts.append(
            Note("Headers and trimmers frame the rectangle about it; what is left of that is filled in and carried.")
        )
    if opening.kind == "stair" and opening.lands == "nothing" and not opening.corners:
        parts.append(Note("What the stair weighs and carries comes to no floor until it is said where it lands."))
    parts += flight_parts(session, opening)
    parts.append("Goes through")
    for floor in p.floors:
        if floor.id in opening.floors:
            rest = tuple(f for f in opening.floors if f != floor.id)
            whole = Button(f"{floor.name}: leave it whole", edit=_through(opening, rest))
            parts.append(whole if rest else Fact(floor.name, "alone"))
        else:
            parts.append(Button(f"Through {floor.name}, too", edit=_through(opening, (*opening.floors, floor.id))))
    rows = []
    for plan in model.floors:
        for hole in plan.holes:
            if hole.opening != opening.id:
                continue
            loaded = model.loaded.get(plan.floor.id)
            for end in (0, 1):
                piece = model.piece(hole.header(end))
                result = loaded.results.get(hole.header(end)) if loaded is not None else None
                size = piece.section if piece is not None else ""
                long = format_inches(hole.t1 - hole.t0, p.units)
                rows.append((plan.floor.name, f"{size}, {long}", used_text(result.used) if result else "no load"))
    if rows:
        parts += ["Headers", Rows(("Floor", "Header", "Used"), rows)]
        parts.append(Fact("Trimmers", "doubled" if any("2-" in size for _, size, _ in rows) else "single"))
    parts.append(Button("Remove opening", edit=lambda q: edits.remove(q, opening.id)))
    names = ", ".join(by_id(p.floors)[f].name for f in opening.floors if f in by_id(p.floors))
    return Card(label_of(p, opening.id), f"left out of {names}" if names else "left out of no floor yet", parts)


OF_FLIGHT = ("stringers__size", "stringers__spacing", "stringers__species", "stringers__grade", "tread")


def flight_parts(session: Session, opening: FloorOpening) -> list[Part]:
    """Return the flights in an opening: risers, treads, run, and how far their stringers are used."""
    p, model = session.project, session.model
    parts: list[Part] = []
    under = thicknesses(model)
    for made in model.flights:
        flight = made.flight
        if flight.opening != opening.id:
            continue
        high, deep = format_inches(flight.riser, p.units), format_inches(flight.tread, p.units)
        parts += [
            f"Up to {by_id(p.floors)[flight.upper].name}",
            Fact("From", label_of(p, flight.below) if flight.below else "nothing below its foot"),
            Fact("Risers", f"{flight.risers} of {high}, treads {deep}"),
            Fact("Rise, run", f"{format_length(flight.rise, p.units)}, {format_length(flight.run, p.units)}"),
            Fact("Stringers", f"{len(made.places)} x {made.size}" + ("  (chosen)" if made.auto else "")),
        ]
        over = headroom(flight, under)
        parts.append(Fact("Headroom", format_length(over, p.units) if over is not None else "open above"))
        parts += used_parts(made.result, session)
        if made.others:
            parts.append(Rows(("Neighbours", "Used"), [(name, used_text(used)) for name, used in made.others]))
    return parts


def _through(opening: FloorOpening, floors: tuple[str, ...]) -> Edit:
    """Return the edit that lets an opening go through these floors."""
    return lambda p: edits.change(p, opening.id, floors=floors)
