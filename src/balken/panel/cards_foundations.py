"""The cards of foundations, steps, recesses, pads and slabs: what they carry, how far they are used, and why."""

from collections.abc import Callable
from functools import partial
from typing import Literal

from balken.documents.calculation_lines import check_value
from balken.documents.load_tree import Branch, flat, pad_tree, run_tree
from balken.documents.slope_marks import slope_text
from balken.findings.fixes import FIXES
from balken.framing.foundations import FoundationRun
from balken.geometry.plane import Point
from balken.model import edits, foundation_edits
from balken.model.lookup import locate, wall_label
from balken.model.naming import slope_name, step_name
from balken.model.records import Foundation, Pad, Project, Recess, Slab
from balken.model.ties import described
from balken.panel.card_parts import Button, Card, Entry, Fact, Part, Rows, Used, entries, select_action
from balken.panel.fields import FIELDS
from balken.session.session import Edit, Session
from balken.standards.checks import Check, used_text
from balken.standards.ground import FootingDesign
from balken.units import (
    UnitError,
    Units,
    format_force,
    format_inches,
    format_length,
    format_line_load,
    parse_length,
)

Show = Callable[[str], None]
"""Shows the calculation sheet of a thing."""
INDENT = "\u2003"


def foundation_card(session: Session, foundation: Foundation) -> Card:
    runs = [r for r in session.model.runs if r.foundation.id == foundation.id]
    parts = entries(session, [foundation], FIELDS[Foundation])
    parts += _carried_parts(session, runs)
    parts += _stepping_parts(session, foundation, runs)
    parts += _standing_parts(session.project, foundation)
    parts.append(Button("Remove foundation", edit=lambda q: edits.remove(q, foundation.id)))
    return Card(foundation.name, f"{foundation.kind}, under {len(foundation.walls)} walls", parts)


def _carried_parts(session: Session, runs: list[FoundationRun]) -> list[Part]:
    """Return the footings of a foundation, and how far soil and walls are used at the worst."""
    p, model = session.project, session.model
    rows = []
    for run in runs:
        result = model.footings[run.id]
        size = f"{format_inches(result.width, p.units)} x {format_inches(result.depth, p.units)}"
        load = format_line_load(result.load, p.units)
        rows.append((wall_label(p, run.wall), size, load, used_text(result.soil_used)))
    parts: list[Part] = ["Footings", Rows(("Under", "Footing", "Worst load", "Soil used"), rows)]
    if runs:
        soil = max((model.footings[r.id] for r in runs), key=lambda f: f.soil_used)
        parts.append(Used("Soil", soil.soil_used, f"{soil.combination}, bearing value of the soil (IRC R401.4.1)"))
    earth = [model.earth_walls[r.id] for r in runs if r.id in model.earth_walls]
    if earth:
        worst_wall = max(earth, key=lambda w: w.used)
        check = worst_wall.checks[0]
        parts.append(Used("Earth", worst_wall.used, f"{check.name}: {check.clause}"))
    return parts


def _stepping_parts(session: Session, foundation: Foundation, runs: list[FoundationRun]) -> list[Part]:
    """Return steps and slopes of a foundation, and what steps it with the ground."""
    p, model = session.project, session.model
    parts: list[Part] = ["Steps and slopes"]
    for i, step in enumerate(foundation.steps):
        if step.at > 0.0:
            drop, at = format_length(abs(step.drop), p.units), format_length(step.at, p.units)
            text = f"{wall_label(p, step.wall)}: {drop} {'down' if step.drop > 0 else 'up'} at {at}"
            parts.append(Button(text, action=select_action(session, step_name(foundation.id, i))))
    for i, slope in enumerate(foundation.slopes):
        text = f"{wall_label(p, slope.wall)}: slopes {slope_text(slope, p.units)}"
        parts.append(Button(text, action=select_action(session, slope_name(foundation.id, i))))
    if model.ground is not None and runs and foundation.kind != "thickened edge":
        depth = min(model.footings[r.id].depth for r in runs)
        parts.append(Button("Step it down with the ground", edit=lambda q: FIXES["step_down"](q, foundation.id, depth)))

        def on_module(typed: str) -> Edit:
            drop, place = parse_module(typed, p.units)
            return lambda q: FIXES["step_down"](q, foundation.id, depth, drop, place)

        hint = 'drop, distance: 8", 16"' if p.units is Units.IMPERIAL else "drop, distance: 200, 400"
        parts.append(Entry("  on a module of", "", on_module, hint=hint))
    if foundation.steps:
        parts.append(Button("Remove all steps", edit=lambda q: edits.change(q, foundation.id, steps=())))
    return parts


def _standing_parts(p: Project, foundation: Foundation) -> list[Part]:
    """Return what takes walls into a foundation and out of it."""
    parts: list[Part] = []
    more = foundation_edits.could_stand_on(p, foundation)
    if more:
        names = ", ".join(wall_label(p, w) for w in more) if len(more) <= 3 else f"{len(more)} more walls of its storey"
        walls = (*foundation.walls, *more)
        parts.append(Button(f"Also under {names}", edit=lambda q: edits.change(q, foundation.id, walls=walls)))
    if len(foundation.walls) > 1:
        parts.append(
            Entry(
                "Take out from under it",
                None,
                lambda wall: lambda q: foundation_edits.take_wall_out(q, foundation.id, wall),
                [(w, wall_label(p, w)) for w in foundation.walls],
            )
        )
    return parts


def parse_module(typed: str, units: Units) -> tuple[float, float]:
    """Return drop and distance of a text such as 8", 16"; one length is both.  Raises UnitError."""
    found = [parse_length(part, units, "in") for part in typed.replace(";", ",").split(",")]
    if len(found) not in (1, 2) or min(found) <= 0.0:
        raise UnitError(f"'{typed}' is no module of steps; type drop and distance, such as 8\", 16\".")
    return found[0], found[-1]


def step_card(session: Session, foundation: Foundation, index: int) -> Card:
    """The card of one step: where it is and how deep; both can be typed."""
    p, step = session.project, foundation.steps[index]

    def put(field: str, typed: str) -> Edit:
        value = parse_length(typed, p.units)
        return lambda q: foundation_edits.change_step(q, foundation.id, index, **{field: value})

    parts: list[Part] = [
        Entry("From the start corner", format_length(step.at, p.units), lambda typed: put("at", typed)),
        Entry("Drop", format_length(step.drop, p.units), lambda typed: put("drop", typed), hint="below zero: up"),
        Fact("Under", wall_label(p, step.wall)),
        Button("Remove step", edit=lambda q: foundation_edits.remove_step(q, foundation.id, index)),
        Button(f"Select {foundation.name}", action=select_action(session, foundation.id)),
    ]
    return Card("Step", "Wall and footing step here; the lower footing runs on under the upper one.", parts)


def slope_card(session: Session, foundation: Foundation, index: int) -> Card:
    """The card of one slope: its ends and how deep it is there; all can be typed."""
    p, slope = session.project, foundation.slopes[index]

    def put(field: str, unit: Literal["ft", "in"], typed: str) -> Edit:
        value = parse_length(typed, p.units, unit)
        return lambda q: foundation_edits.change_slope(q, foundation.id, index, **{field: value})

    def entry(label: str, field: str) -> Entry:
        value, deep = getattr(slope, field), field.startswith("deeper")
        shown = format_inches(value, p.units) if deep else format_length(value, p.units)
        return Entry(label, shown, lambda typed: put(field, "in" if deep else "ft", typed))

    parts: list[Part] = [
        entry("Starts, from the corner", "start"),
        entry("Ends, from the corner", "end"),
        entry("Deeper at its start", "deeper_start"),
        entry("Deeper at its end", "deeper_end"),
        Fact("Slope", slope_text(slope, p.units)),
        Fact("Under", wall_label(p, slope.wall)),
        Button("Remove slope", edit=lambda q: foundation_edits.remove_slope(q, foundation.id, index)),
        Button(f"Select {foundation.name}", action=select_action(session, foundation.id)),
    ]
    return Card("Sloping footing", "Level on top; its underside falls by 1 in 10 at most (IRC R403.1.5).", parts)


def recess_card(session: Session, recess: Recess) -> Card:
    parts = entries(session, [recess], FIELDS[Recess])
    parts.append(Button("Remove it", edit=lambda q: edits.remove(q, recess.id)))
    return Card(recess.kind.capitalize(), "in a foundation wall", parts)


def slab_card(session: Session, slab: Slab) -> Card:
    p, model = session.project, session.model
    parts = entries(session, [slab], FIELDS[Slab])
    volume = sum(v.volume for v in model.of_foundations("slab", "slab edge") if v.owner == slab.id)
    cubic = f"{volume * 1e-9 * 35.3147:.0f} ft\u00b3" if p.units.value == "ft-in" else f"{volume * 1e-9:.2f} m\u00b3"
    parts.append(Fact("Concrete", cubic))

    def hole(typed: str) -> Edit:
        values = _lengths(typed, p.units)
        return lambda q: foundation_edits.add_hole(q, slab.id, values)

    parts.append(Entry("Add a hole", "", hole, hint="x, y, sides or diameter"))
    for i, made in enumerate(slab.holes):
        sizes = () if made.outline else (made.diameter,) if made.diameter > 0.0 else (made.width, made.depth)
        at, tied = locate(made.place, p.grids), described(p, made.place)
        told = [", ".join(format_length(v, p.units) for v in row) for row in (at, sizes)]
        parts.append(Entry(f"Hole {i + 1}, place", told[0], partial(_hole_at, slab.id, i, sizes, p.units), hint="x, y"))
        if sizes:
            parts.append(
                Entry(
                    f"Hole {i + 1}, size",
                    told[1],
                    partial(_hole_of, slab.id, i, at, p.units),
                    hint="sides, or diameter",
                )
            )
        if tied is not None:
            parts.append(Fact("Goes along with", f"axes {tied[0]}"))
        parts.append(Button(f"Remove hole {i + 1}", edit=partial(_without_hole, slab.id, i)))
    plan = next((v for v in model.slabs if v.slab.id == slab.id), None)
    if plan is not None:
        parts.append("Edges bow out by")
        rises = {bow.wall: bow.rise for bow in slab.bows}
        for wall in dict.fromkeys(plan.sides):
            rise = format_length(rises.get(wall, 0.0), p.units)
            parts.append(
                Entry(wall_label(p, wall), rise, partial(_bowed, slab.id, wall, p.units), hint="below zero: in")
            )
    parts.append(Button("Remove slab", edit=lambda q: edits.remove(q, slab.id)))
    return Card(slab.name, f"slab on ground within {len(slab.walls)} walls", parts)


def _bowed(slab_id: str, wall: str, units: Units, typed: str) -> Edit:
    rise = parse_length(typed, units)
    return lambda q: foundation_edits.set_bow(q, slab_id, wall, rise)


def _lengths(typed: str, units: Units) -> list[float]:
    return [parse_length(t, units) for t in typed.replace(";", ",").split(",")]


def _hole_at(slab_id: str, index: int, sizes: tuple[float, ...], units: Units, typed: str) -> Edit:
    at = _lengths(typed, units)
    return lambda q: foundation_edits.change_hole(q, slab_id, index, [*at, *sizes])


def _hole_of(slab_id: str, index: int, at: Point, units: Units, typed: str) -> Edit:
    sizes = _lengths(typed, units)
    return lambda q: foundation_edits.change_hole(q, slab_id, index, [*at, *sizes])


def _without_hole(slab_id: str, index: int, project: Project) -> Project:
    return foundation_edits.remove_hole(project, slab_id, index)


def pad_card(session: Session, pad: Pad, show: Show) -> Card:
    model = session.model
    parts = entries(session, [pad], FIELDS[Pad])
    holder = next((p.id for p in session.project.pads if p.joined == pad.id), pad.id)
    result = model.pads.get(holder)
    if pad.joined:
        parts.append(Button("Part it from the other pad", edit=lambda q: edits.change(q, pad.id, joined="")))
    elif pad.with_strip:
        parts.append(Button("Part it from the strip", edit=lambda q: edits.change(q, pad.id, with_strip=False)))
    elif holder != pad.id:
        parts.append(Button("Select the pad it is joined with", action=select_action(session, holder)))
    if result is not None:
        parts += footing_parts(session, result.design)
        if not result.problem and not result.combined:
            parts += _neighbours(session, result.design)
        for name in ("uplift", "sliding", "overturning"):
            check = result.check(name)
            if check is not None:
                parts.append(Used(name.capitalize(), check.used, f"{check.combination}: {check.clause}"))
        parts += tree_parts(session, pad_tree(model, pad.id))
        parts.append(Button("Calculation sheet", action=lambda: show(pad.id)))
    parts.append(Button("Remove pad", edit=lambda q: edits.remove(q, pad.id)))
    return Card("Pad", "a pier stands on it where its side is above zero", parts)


def footing_parts(session: Session, design: FootingDesign) -> list[Part]:
    """Return what a footing is, its bars, and all its checks with the governing one as a bar."""
    units = session.project.units
    wide = format_inches(design.width, units)
    size = f"{wide} wide"
    if design.case.kind == "pad":
        square = abs(design.length - design.width) < 1.0
        size = f"{wide} square" if square else f"{wide} x {format_length(design.length, units)}"
    kind = "reinforced" if design.reinforced else "plain concrete"
    parts: list[Part] = ["Footing", Fact("Made", f"{size}, {format_inches(design.thickness, units)} thick, {kind}")]
    for bars in design.bars[: 1 if design.case.kind == "pad" else 2]:
        hooks = ", hooked" if bars.hooked else ""
        parts.append(Fact("Bars", f"#{bars.number} {bars.use} @ {format_inches(bars.spacing, units)}{hooks}"))
    g = design.checks[0]
    parts.append(Used("Used", design.used, f"{g.name} governs: {g.clause}"))
    parts.append(Rows(("Check", "Demand / capacity", "Used"), [_row(c, session) for c in design.checks]))
    return parts


def _row(check: Check, session: Session) -> tuple[str, str, str]:
    units = session.project.units
    demand, capacity = (check_value(check, v, units) for v in (check.demand, check.capacity))
    return check.name, f"{demand} / {capacity}", used_text(check.used)


def tree_parts(session: Session, tree: Branch) -> list[Part]:
    """Return the load tree as rows, from the footing up to the areas that feed it."""
    units = session.project.units
    rows = [
        (INDENT * depth + branch.label, format_force(branch.load.all, units) if branch.load.all else "")
        for depth, branch in flat(tree)
    ]
    return ["Load path (all cases)", Rows(("From", "Load"), rows)]


def run_parts(session: Session, run_id: str, show: Show) -> list[Part]:
    """Return footing, earth pressure and load path of a foundation run, for the cards of its pieces."""
    model, units = session.model, session.project.units
    result = model.footings[run_id]
    parts = footing_parts(session, result.design)
    if any(result.more):
        more = model.standard.combinations.worst(result.more)[0]
        parts.append(Fact("Live on some spans adds", format_line_load(more, units)))
    if result.problem:
        parts.append(Fact("Problem", result.problem))
    else:
        parts += _neighbours(session, model.footings[run_id].design)
    wall = model.earth_walls.get(run_id)
    if wall is not None:
        held = "held at the floor" if wall.case.held else "free at the top"
        check = wall.checks[0]
        parts += [
            "Wall against earth",
            Fact("Earth outside", f"{format_length(wall.case.fill, units)} above the base, {held}"),
            Used("Used", wall.used, f"{check.name} governs: {check.clause}"),
            Fact("In tension", wall.face),
            Rows(("Check", "Demand / capacity", "Used"), [_row(c, session) for c in wall.checks]),
            Fact("Without calculation", wall.prescriptive),
        ]
        parts += [Fact("Bars", f"#{b.number} {b.use} @ {format_inches(b.spacing, units)}") for b in wall.bars]
    parts += tree_parts(session, run_tree(model, run_id))
    parts.append(Button("Calculation sheet", action=lambda: show(run_id)))
    return parts


def _neighbours(session: Session, made: FootingDesign) -> list[Part]:
    """Return how far the next widths down and up would be used."""
    p = session.project
    step = 50.8 if p.steps.value == "ft-in" else 50.0
    rows = []
    for width in (made.width - step, made.width + step):
        if width > made.case.size:
            other = session.model.standard.check_footing(made.case, width, made.thickness, made.reinforced)
            rows.append((format_inches(width, p.units), used_text(other.used), other.checks[0].name))
    return ["Neighbours", Rows(("Width", "Used", "Governs"), rows)]
