"""The card of a wall."""

from balken.app.card_parts import Button, Card, Entry, Fact, Part, entries, select_action
from balken.app.cards_layouts import line_parts
from balken.app.fields import (
    FIELDS,
    layer_field,
)
from balken.app.session import Edit, Session
from balken.model import edits
from balken.model.buildups import display_name
from balken.model.lookup import by_id
from balken.model.records import Project, Wall
from balken.model.rules import wall_label
from balken.units import (
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
    parts.append(Button("Copy the build-up for this wall alone", edit=lambda q: copy_buildup(q, wall.id)))
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


def copy_buildup(project: Project, wall_id: str) -> Project:
    """Give a wall a build-up of its own, copied from the one it has."""
    from msgspec.structs import replace

    from balken.model.lookup import next_id
    from balken.model.records import BuildUp

    wall = by_id(project.walls)[wall_id]
    old = by_id(project.buildups)[wall.buildup]
    new_id = next_id(project, BuildUp)
    project = edits.add(project, replace(old, id=new_id))
    return edits.change(project, wall_id, buildup=new_id)
