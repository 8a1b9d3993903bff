"""The card of a wall."""

from collections.abc import Callable

from balken.catalog.materials import MATERIALS
from balken.choosing import choose_studs
from balken.model import column_edits, edits, ties, wall_edits
from balken.model.buildups import display_name
from balken.model.lookup import wall_label
from balken.model.records import AxisPoint, BuildUp, FreePoint, Layer, Opening, Project, Wall
from balken.panel.card_parts import Button, Card, Entry, Fact, Part, Used, entries, select_action, used_parts
from balken.panel.cards_layouts import design_parts, line_parts
from balken.panel.fields import FIELDS, FRAMING_FIELDS, layer_field
from balken.session.session import Edit, Session
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
    if session.model.ground is not None:
        heights = [session.model.ground.height(p) for p in (line.band.start, line.band.end)]
        shown = ", ".join(format_length(z, p.units).replace("\u2212", "-") for z in heights)
        parts.append(
            Entry(
                "Ground along it", shown, lambda typed: _ground_along(p.units, wall.id, typed), hint="at start, at end"
            )
        )
    parts += _tie_parts(p, wall)
    parts.append(Button("Flip outside and inside", edit=lambda q: edits.flip_wall(q, wall.id)))
    parts.append("Layers, outside to inside")
    buildup = line.buildup
    layers = [layer_field(buildup, i) for i in range(len(buildup.layers))]
    parts += entries(session, [buildup], layers)
    parts += _layer_deeds(buildup)
    users = sum(1 for w in p.walls if w.buildup == buildup.id)
    if users > 1:
        parts.append(Fact("Changes", f"all {users} walls of this build-up"))
    parts.append(
        Button("Copy the build-up for this wall alone", edit=lambda q: edits.copy_buildup(q, wall.buildup, (wall.id,)))
    )
    framed = session.model.framed.get(wall.id)
    if framed is not None:
        parts.append("Framing")
        parts += entries(session, [wall], FRAMING_FIELDS)
        parts.append(Button("Choose the smallest studs that hold", edit=lambda q: choose_studs(q, (wall.id,))))
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


def _tie_parts(p: Project, wall: Wall) -> list[Part]:
    """Return to which axes the wall's ends are tied, and what ties and frees them."""
    if not p.grids:
        return []
    parts: list[Part] = []
    for label, place in (("Start set out from", wall.start), ("End set out from", wall.end)):
        tied = ties.described(p, place)
        off = (
            ""
            if tied is None
            else "".join(
                f" {'+' if d > 0.0 else '-'} {format_length(abs(d), p.units)} in {way}"
                for d, way in zip(tied[1:], "xy", strict=True)
                if abs(d) > 0.5
            )
        )
        parts.append(Fact(label, "no axis" if tied is None else f"axes {tied[0]}{off}"))
    kinds = {type(place) for place in (wall.start, wall.end)}
    if FreePoint in kinds:
        parts.append(Button("Tie to the nearest axes", edit=lambda q: ties.tie_to_axes(q, (wall.id,))))
    if AxisPoint in kinds:
        parts.append(Button("Let go of the axes", edit=lambda q: ties.let_go_of_axes(q, (wall.id,))))
    return parts


def _layer_deeds(buildup: BuildUp) -> list[Part]:
    """Return what adds, changes and removes layers, and names the build-up."""
    place = [("0", "outermost"), *((str(i + 1), f"inside {v.material}") for i, v in enumerate(buildup.layers))]
    makes = [(f"{i}|{m}", f"{m}, {where}") for i, where in place for m in sorted(MATERIALS)]
    layers = [(str(i), f"{v.material} ({v.function})") for i, v in enumerate(buildup.layers)]
    functions = [
        (f"{i}|{f}", f"{v.material} is {f}")
        for i, v in enumerate(buildup.layers)
        for f in ("cladding", "sheathing", "core", "lining")
        if f != v.function
    ]

    def add(typed: str) -> Edit:
        i, _, material = typed.partition("|")
        function = DEFAULT_FUNCTION.get(MATERIALS[material].fill, "cladding" if i == "0" else "lining")
        layer = Layer(material=material, thickness=DEFAULT_THICKNESS.get(material, 12.7), function=function)  # type: ignore[arg-type]
        return lambda q: edits.add_layer(q, buildup.id, int(i), layer)

    def function_of(typed: str) -> Edit:
        i, _, function = typed.partition("|")
        return lambda q: edits.change_layer(q, buildup.id, int(i), function=function)

    return [
        Entry("Add a layer", None, add, makes, prompt="choose a material"),
        Entry("Change a function", None, function_of, functions, prompt="choose a layer"),
        Entry(
            "Remove a layer",
            None,
            lambda i: lambda q: edits.remove_layer(q, buildup.id, int(i)),
            layers,
            prompt="choose a layer",
        ),
        Entry(
            "Build-up's name",
            buildup.name,
            lambda typed: lambda q: edits.change(q, buildup.id, name=typed.strip()),
            hint="empty: follows from the layers",
        ),
    ]


DEFAULT_FUNCTION = {
    "masonry": "core",
    "studs": "core",
    "concrete": "core",
    "sheathing": "sheathing",
    "lining": "lining",
}
DEFAULT_THICKNESS = {
    "2x4 studs": 88.9,
    "2x6 studs": 139.7,
    "2x8 studs": 184.15,
    "concrete block": 190.0,
    "brick": 102.0,
    "concrete": 203.2,
    "stone": 150.0,
    "air gap": 25.4,
    "mineral wool": 100.0,
    "rigid insulation": 50.8,
    "timber": 100.0,
    "stucco": 22.0,
}
"""Thickness a new layer of a material begins with, mm (common sizes)."""


def _ground_along(units: Units, wall_id: str, typed: str) -> Edit:
    parts = typed.replace(";", ",").split(",")
    heights = [parse_length(part, units) for part in parts]
    if len(heights) not in (1, 2):
        raise UnitError(f"'{typed}' is not one or two heights; type such as -1'8\", -3'.")
    return lambda q: column_edits.slope_along_wall(q, wall_id, heights[0], heights[-1])


def opening_card(session: Session, opening: Opening) -> Card:
    p = session.project
    parts = entries(session, [opening], FIELDS[Opening])

    def centred(typed: str) -> Edit:
        low, high = parse_between(typed, p.units)
        return lambda q: wall_edits.centre_opening(q, opening.id, low, high)

    band = session.model.lines[opening.wall].band

    def placed(shown: str, end: bool, middle: bool) -> Callable[[str], Edit]:
        def commit(typed: str) -> Edit:
            if typed.strip() == shown:
                return lambda q: q  # what is shown rounded stays what it is
            at = parse_length(typed, p.units)
            return lambda q: wall_edits.place_opening(q, opening.id, at, end, middle)

        return commit

    half = opening.width / 2.0
    for label, at, end, middle in (
        ("From end corner", band.length - opening.offset - opening.width, True, False),
        ("Middle from start", opening.offset + half, False, True),
        ("Middle from end", band.length - opening.offset - half, True, True),
    ):
        shown = format_length(at, p.units)
        parts.append(Entry(label, shown, placed(shown, end, middle)))
    low, high = wall_edits.beside_opening(p, opening.id)
    parts.append(
        Button(
            "Centre it between what is beside it",
            edit=lambda q: wall_edits.centre_opening(q, opening.id, *wall_edits.beside_opening(q, opening.id)),
        )
        if abs(low + high - 2.0 * opening.offset - opening.width) > 1.0
        else Fact("Centred", "between what is beside it")
    )
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
