"""The card of a wall."""

from balken.app.card_parts import Button, Card, Entry, Fact, Part, Used, entries, select_action
from balken.app.cards_layouts import design_parts, line_parts, used_parts
from balken.app.fields import (
    FIELDS,
    FRAMING_FIELDS,
    layer_field,
)
from balken.app.session import Edit, Session
from balken.model import edits, wall_edits
from balken.model.buildups import display_name
from balken.model.lookup import by_id
from balken.model.records import Opening, Project, Wall
from balken.model.rules import wall_label
from balken.units import (
    UnitError,
    Units,
    format_force,
    format_inches,
    format_length,
    parse_length,
)


def wall_card(session: Session, wall: Wall) -> Card:
    p, line = session.project, session.model.lines[wall.id]

    def set_length(typed: str) -> Edit:
        value = parse_length(typed, p.units)
        return lambda q: edits.set_wall_length(q, wall.id, value)

    parts: list[Part] = [Entry("Length", format_length(line.band.length, p.units), set_length)]
    parts += entries(session, [wall], FIELDS[Wall])
    parts.append(Fact("Thickness", format_inches(line.thickness, p.units)))
    parts.append(Button("Flip outside and inside", edit=lambda q: edits.flip_wall(q, wall.id)))
    parts.append("Layers, outside to inside")
    buildup = line.buildup
    layers = [layer_field(buildup, i) for i in range(len(buildup.layers))]
    parts += entries(session, [buildup], layers)
    users = sum(1 for w in p.walls if w.buildup == buildup.id)
    if users > 1:
        parts.append(Fact("Changes", f"all {users} walls of this build-up"))
    parts.append(Button("Copy the build-up for this wall alone", edit=lambda q: edits.copy_buildup(q, wall.buildup, (wall.id,))))
    framed = session.model.framed.get(wall.id)
    if framed is not None:
        parts.append("Framing")
        parts += entries(session, [wall], FRAMING_FIELDS)
        parts += design_parts(session, framed.design, "", wall.id, "studs")
        parts.append(Fact("Pieces", str(len(framed.pieces))))
    total = session.model.path.walls.get(wall.id)
    if total is not None:
        parts.append("Load path")
        parts += line_parts(total.foot, total.per_length, session)
        parts.append(Fact("of which its own weight", format_force(total.own.all, p.units)))
        runs = [r for r in session.model.runs if r.wall == wall.id]
        parts.append(Fact("Stands on", runs[0].foundation.name if runs else "nothing"))
    openings = [o for o in p.openings if o.wall == wall.id]
    if openings:
        parts.append("Openings")
        for o in openings:
            text = f"{o.kind} {format_length(o.width, p.units)} at {format_length(o.offset, p.units)}"
            parts.append(Button(text, action=select_action(session, o.id)))
    parts.append(Button("Remove wall", edit=lambda q: edits.remove(q, wall.id)))
    name = display_name(buildup, p.units)
    return Card(wall_label(p, wall.id), name, parts)


def opening_card(session: Session, opening: Opening) -> Card:
    p = session.project
    parts = entries(session, [opening], FIELDS[Opening])

    def centred(typed: str) -> Edit:
        low, high = parse_between(typed, p.units)
        return lambda q: wall_edits.centre_opening(q, opening.id, low, high)

    parts.append(Entry("Centre between", "", centred, hint="two distances from the start corner: 4', 12'6\""))
    framed = session.model.framed.get(opening.wall)
    design = framed.headers.get(opening.id) if framed is not None else None
    if design is not None:
        parts.append("Framing")
        how = f"{design.size}  (chosen)" if design.auto else design.size
        parts.append(Fact("Header", how))
        parts.append(Fact("At each side", f"{design.jacks} jack and {design.kings} king studs"))
        parts += used_parts(design.header, session)
        for noun, result in (("Jack studs", design.jack), ("King studs", design.king)):
            g = result.governs
            parts.append(Used(noun, result.used, f"{g.name}: {g.clause}, {g.combination}"))
    parts.append(Button("Select its wall", action=select_action(session, opening.wall)))
    parts.append(Button("Remove opening", edit=lambda q: edits.remove(q, opening.id)))
    return Card(f"{opening.kind.capitalize()} opening", f"in {wall_label(p, opening.wall)}", parts)


def parse_between(typed: str, units: Units) -> tuple[float, float]:
    """Return the two lengths of a text such as 4', 12'6"; raises UnitError."""
    found = [parse_length(part, units) for part in typed.replace(" to ", ",").replace(";", ",").split(",")]
    if len(found) != 2:
        raise UnitError(f"'{typed}' is not two distances; type such as 4', 12'6\".")
    return min(found), max(found)
