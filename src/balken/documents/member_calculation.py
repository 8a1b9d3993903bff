"""Calculations of members: joists, rafters, ties, studs, headers and columns, each as its governing member is checked."""

from balken.catalog.sections import made_text
from balken.derived.model import Model
from balken.design.heel_joints import heel_joints
from balken.design.layouts import LayoutDesign
from balken.design.ply_nailing import nailing_of
from balken.documents.beam_diagram import beam_diagram
from balken.documents.calculation_lines import Line, case_texts, check_lines
from balken.documents.lowered_frames import tail_text
from balken.documents.roof_schedule import straps_text
from balken.documents.slab_schedule import above_text, across_text, slab_bar_text
from balken.documents.table_spans import rafter_table_text
from balken.documents.truss_calculation import truss_lines
from balken.loads.cases import Cases
from balken.model.lookup import by_id, label_of, labels_of, wall_label
from balken.model.naming import owner_of
from balken.model.records import Floor, Roof
from balken.standards.checks import MemberResult, used_text
from balken.standards.demands import BeamCase, GirderCase, MemberCase, PostCase, SlabCase, StringerCase, StudCase
from balken.standards.measures import quantity_text
from balken.units import Units, format_area_load, format_force, format_inches, format_length, format_pitch

DRAWN, LETTERS = 178.0, 1.8
"""Width of a beam's diagrams and height of their capitals, mm."""
NOUNS = {"joists": "Joists", "rafters": "Rafters", "ties": "Ceiling ties"}


def layout_ids(model: Model) -> list[str]:
    """Return the floors, roofs, dormers, framed walls and columns that have a calculation, in their order."""
    p = model.project
    designed = {owner for owner, _ in model.designs} | {
        roof for roof, made in model.trusses.items() if not made.problem
    }
    layouts = (*(f.id for f in p.floors), *(r.id for r in p.roofs), *(d.id for d in p.dormers))
    found = [layout for layout in layouts if layout in designed]
    girders = [b for b, made in model.girders.items() if made.made]
    flights = list(dict.fromkeys(made.flight.opening for made in model.flights))
    return [*found, *flights, *(w.id for w in p.walls if w.id in model.framed), *model.posts, *girders]


def member_calculation(model: Model, ref: str) -> tuple[Line, ...] | None:
    """Return the calculation of a floor, a roof, a dormer, a framed wall, one of its openings, a column; None for anything else."""
    p = model.project
    dormers = (plan.roof for plan in model.surfaces if plan.roof.id in model.dormers)
    layouts: tuple[Floor | Roof, ...] = (*p.floors, *p.roofs, *dormers)
    layout = next((r for r in layouts if r.id == ref), None)
    if layout is not None:
        return _layout_lines(model, layout)
    if ref in model.framed:
        return _wall_lines(model, ref)
    if any(made.flight.opening == ref for made in model.flights):
        return _stair_lines(model, ref)
    column = owner_of(ref)
    if column in model.posts:
        return _column_lines(model, column)
    if column in model.girders:
        return _beam_lines(model, column)
    opening = by_id(p.openings).get(ref)
    if opening is not None and opening.wall in model.framed:
        return (
            Line("title", f"Opening in {wall_label(p, opening.wall)}"),
            *_opening_lines(model, opening.wall, opening.id),
        )
    return None


def _layout_lines(model: Model, layout: Floor | Roof) -> tuple[Line, ...] | None:
    designs = [(name, model.designs[(layout.id, name)]) for name in NOUNS if (layout.id, name) in model.designs]
    trussed = truss_lines(model, layout) if isinstance(layout, Roof) else []
    if trussed and not model.raftered(layout.id):
        return (*trussed, *_lookout_lines(model, layout.id))
    if not designs:
        return None
    if layout.id in model.raised:
        return _slab_lines(model, layout.id, layout.name, designs[0][1])
    nouns = NOUNS if not trussed else NOUNS | {"ties": "Ceiling joists"}
    where = " of hip ends" if trussed else ""
    lines = [Line("title", f"{layout.name}: {' and '.join(nouns[n].lower() for n, _ in designs)}{where}")]
    for name, design in designs:
        lines += _design_lines(model, nouns[name], design)
        said = rafter_table_text(model, design)
        lines += [Line("text", "For information, by span tables", said)] if said else []
        if name == "ties" and isinstance(layout, Roof):
            lines += _heel_lines(model, layout, design)
    lines += [*_collar_lines(model, layout), *_jack_lines(model, layout)] if isinstance(layout, Roof) else []
    lines += _lookout_lines(model, layout.id)
    dormer = model.dormers.get(layout.id)
    if dormer is not None and dormer.result is not None:
        lines += [
            Line("heading", f"Header over the window: {dormer.header}"),
            *_case_lines(model, dormer.result.case),
            *_checked(dormer.result, model.units),
        ]
    return (*trussed, *lines)


def _lookout_lines(model: Model, roof: str) -> list[Line]:
    """Return the checks of lookouts over gables, and their nails."""
    lines, units = list[Line](), model.units
    plan = next((plan for plan in model.surfaces if plan.roof.id == roof), None)
    for made in model.lookouts(roof).rows if plan is not None else ():
        assert plan is not None
        wall, inside = (
            wall_label(model.project, plan.outline.walls[made.row.gable]),
            "truss" if plan.trussed else "rafter",
        )
        force, value = format_force(made.nails.force, units), format_force(made.nails.value, units)
        lines += [
            Line("heading", f"Lookouts over {wall}: {made.row.size} @ {format_inches(made.apart, units)}"),
            *_case_lines(model, made.result.case),
            *_checked(made.result, units),
            Line("text", f"Nails through the {inside} inside", made.nails.text),
            *(
                [Line("text", "Lifts the foot of that rafter", f"{format_force(made.lifted, units)}: {made.tie}")]
                if made.tie
                else []
            ),
            Line("text", "Lifts there at normal duration / one nail", f"{force} / {value} ({made.nails.clause})"),
        ]
        if made.tail is not None:
            lines += [
                Line("heading", f"Tail beside them: {made.row.size}"),
                *_case_lines(model, made.tail.result.case),
                *_checked(made.tail.result, units),
                *(Line("text", what, how) for what, how in tail_text(model, plan, made)),
            ]
    return lines


def _heel_lines(model: Model, roof: Roof, ties: LayoutDesign) -> list[Line]:
    """Return the nails between rafters and ties, and where ties lap."""
    lines, rafters = [], model.designs[(roof.id, "rafters")]
    for where, nails in heel_joints(roof, rafters, ties, model.planes.get(roof.id), model.standard):
        force, value = format_force(nails.force, model.units), format_force(nails.value, model.units)
        lines += [
            Line("text", f"Heel joints and laps of ties{', ' if where else ''}{where}", nails.text),
            Line("text", "Push at normal duration / one nail", f"{force} / {value} ({nails.clause})"),
        ]
    return lines


def _collar_lines(model: Model, roof: Roof) -> list[Line]:
    """Return the nails of collar ties, and what pulls where there is none."""
    framing, lines = model.planes.get(roof.id), list[Line]()
    worst = framing.collared.worst if framing is not None else None
    if worst is not None:
        force, value = (format_force(x, model.units) for x in (worst.nails.force, worst.nails.value))
        lines += [
            Line("text", "Collar ties, under wind that would part rafters at the ridge", worst.nails.text),
            Line("text", "Most pull at normal duration / one nail", f"{force} / {value} ({worst.nails.clause})"),
        ]
    if framing is not None and framing.collared.loose:
        lines.append(Line("text", "Straps over the ridge where no collar tie stands near", straps_text(model, roof)))
    return lines


def _jack_lines(model: Model, roof: Roof) -> list[Line]:
    """Return the nails of jacks at hips and valleys."""
    framing, lines = model.planes.get(roof.id), list[Line]()
    for where, nails in framing.jacks.nailed if framing is not None else ():
        force, value = format_force(nails.force, model.units), format_force(nails.value, model.units)
        lines += [
            Line("text", f"Jacks {where}", nails.text),
            Line("text", "Most at an end at normal duration / one nail", f"{force} / {value} ({nails.clause})"),
        ]
    return lines


def _slab_lines(model: Model, floor: str, name: str, design: LayoutDesign) -> tuple[Line, ...]:
    """Return the calculation of a slab above ground: its bars, the strip that governs, strips with bars of their own."""
    slab, units = model.raised[floor], model.units
    lines = [
        Line("title", f"{name}: slab above ground"),
        Line("text", "Thickness", design.size + ("  (chosen)" if design.size_auto else "")),
    ]
    if not slab.results:
        return (*lines, Line("text", "Not designed", "it carries both ways, or nothing carries it"))
    lines += [
        Line("text", "Bars below, along the span", slab_bar_text(slab.bars, units)),
        Line("text", "Bars above, over bearings", above_text(slab.bars, units) or "none needed"),
        Line("text", "Bars across (24.4.3)", across_text(slab.bars, units)),
        Line("heading", "The strip that governs, with all that lies on it"),
        *_case_lines(model, slab.results[slab.worst].case),
        *_checked(slab.results[slab.worst], units),
    ]
    if slab.more:
        lines.append(Line("heading", "Strips with more bars, under walls and beside openings"))
    for strip, bars in slab.more.items():
        on = model.path.decks.get(floor)
        under = {row.source for row in on.joists.get(strip, ())} if on is not None else set()
        where = ", ".join(label_of(model.project, s) for s in sorted(under)) or "beside an opening"
        above = f", above {above_text(bars, units)}" if bars.above else ""
        lines.append(
            Line(
                "text", where, f"below {slab_bar_text(bars, units)}{above}, used {used_text(slab.results[strip].used)}"
            )
        )
    lines += [Line("text", n.size, f"used {used_text(n.used)}, {n.governs}", 1) for n in design.neighbours]
    return (*lines, Line("result", design.size, f"used {used_text(slab.results[slab.worst].used)}"))


def _design_lines(model: Model, noun: str, design: LayoutDesign) -> list[Line]:
    case, units = design.result.case, model.units
    how = [w for w, auto in (("section", design.size_auto), ("spacing", design.spacing_auto)) if auto]
    chosen = f"{made_text(design.size, case.species, case.grade)} @ {format_inches(design.spacing, units)}"
    return [
        Line("heading", f"{noun}, the governing one"),
        Line("text", "Made of", chosen + (f"  ({' and '.join(how)} chosen)" if how else "")),
        *_case_lines(model, case),
        *_checked(design.result, units),
        *[
            Line("text", f"{n.size} @ {format_inches(n.spacing, units)}", f"used {used_text(n.used)}, {n.governs}", 1)
            for n in design.neighbours
        ],
        Line("result", chosen, f"used {used_text(design.result.used)}"),
    ]


def _case_lines(
    model: Model, case: MemberCase | StudCase | BeamCase | PostCase | GirderCase | SlabCase | StringerCase
) -> list[Line]:
    """Return what a check read: values of the lumber, spans, loads."""
    units = model.units
    lines = [
        Line("formula", f"{source}: {row.shown(units)}" if source else row.shown(units), indent=1)
        for source, row in model.standard.values_read(case)
    ]
    if isinstance(case, PostCase):
        lines.append(Line("text", "Height, nothing holds it between foot and head", format_length(case.clear, units)))
        lines.append(Line("text", "Load on it with its own weight, in its middle", case_texts(case.axial, units)))
        return lines
    if isinstance(case, GirderCase):
        held = {0.0: "all along", None: "at its supports alone"}.get(case.held, "")
        lines.append(Line("text", "Spans, middle to middle of supports", _spans_text(case, units)))
        lines.append(Line("text", "Load on it, all of it", case_texts(case.load, units)))
        lines.append(Line("text", "Top edge held", held or f"every {format_length(case.held or 0.0, units)}"))
        lines.append(Line("text", "Live load", "on any spans" if case.skip else "on all spans"))
        return lines
    if isinstance(case, (SlabCase, StringerCase)):
        return [*lines, *_given(case, units)]
    if isinstance(case, StudCase):
        lines.append(Line("text", "Height between plates", format_length(case.clear, units)))
        lines.append(Line("text", "Load on it", case_texts(case.axial, units)))
        if case.pressure > 0.0:
            lines.append(Line("text", "Wind at strength level", format_area_load(case.pressure, units)))
            lines.append(Line("text", "Width of wall that leans on it", format_inches(case.spacing, units)))
        return lines
    lines.append(Line("text", "Clear span between bearings", format_length(case.clear, units)))
    if isinstance(case, BeamCase):
        on = "jack studs" if case.kind == "header" else "its support"
        lines.append(Line("text", "Load over it, all of it", case_texts(case.load, units)))
        lines.append(Line("text", f"Bearing on {on}", format_inches(case.bearing, units)))
        if case.unbraced > 0.0:
            lines.append(Line("text", "Top edge held at its ends alone", format_length(case.unbraced, units)))
        return lines
    lines.append(Line("text", "Loads on plan", _area_texts(case.load, units)))
    lines.append(Line("text", "Line load", case_texts(case.line, units, per_length=True)))
    lines.append(Line("text", "Bearing", format_inches(case.bearing, units)))
    if case.pitch > 0.0:
        lines.append(
            Line("text", "Pitch, overhang", f"{format_pitch(case.pitch, units)}, {format_length(case.over, units)}")
        )
    if case.propped > 0.0:
        where = f"{format_length(case.propped, units)} in of the lower bearing, {format_inches(case.prop_breadth, units)} wide"
        lines.append(Line("text", "A purlin holds it", where))
    if case.let_in > 0.0:
        lines.append(Line("text", "A purlin is let into it by", format_inches(case.let_in, units)))
    if any(case.thrust):
        lines.append(Line("text", "Thrust of the pair, sideways at eave and ridge", case_texts(case.thrust, units)))
    if any(case.tension):
        lines.append(Line("text", "Pull of the rafters along it", case_texts(case.tension, units)))
    return lines


def _stair_lines(model: Model, opening: str) -> tuple[Line, ...]:
    """Return the calculation of the flights in an opening: steps and stringers."""
    p, units = model.project, model.units
    lines = [Line("title", f"{label_of(p, opening)}: stair")]
    for made in model.flights:
        flight = made.flight
        if flight.opening != opening:
            continue
        steps = f"{flight.risers} of {format_inches(flight.riser, units)}, treads {format_inches(flight.tread, units)}"
        lines += [
            Line("heading", f"Up to {by_id(p.floors)[flight.upper].name}"),
            Line("text", "Rise, run", f"{format_length(flight.rise, units)}, {format_length(flight.run, units)}"),
            Line("text", "Risers", steps),
            *_result_lines(model, f"{len(made.places)} stringers", made.result),
        ]
    return tuple(lines)


def _given(case: SlabCase | StringerCase, units: Units) -> list[Line]:
    """Return spans and loads of a strip of a slab, or of a stringer."""
    if isinstance(case, SlabCase):
        return [
            Line("text", "Strip", f"{format_inches(case.width, units)} wide"),
            Line("text", "Spans, middle to middle of bearings", _spans_text(case, units)),
            Line("text", "Load on it with its own weight, all of it", case_texts(case.load, units)),
            Line("text", "Live load", "on any spans (ACI 318-19, 6.4.2)"),
        ]
    ends = f"{format_length(case.run, units)}, {format_length(case.rise, units)}"
    return [
        Line("text", "Run and rise between head and foot", ends),
        Line("text", "Throat below the notches", format_inches(case.throat, units)),
        Line("text", "Loads on plan", _area_texts(case.load, units)),
        Line("text", "Load on one tread alone", case_texts(case.point, units)),
        Line("text", f"Width it carries, one of {case.count}", format_inches(case.width, units)),
    ]


def _column_lines(model: Model, column_id: str) -> tuple[Line, ...]:
    p, post = model.project, model.posts[column_id]
    lines = [Line("title", label_of(p, column_id))]
    if post.result is None:
        return (
            *lines,
            Line("text", "Load on it with its own weight", case_texts(post.load, p.units)),
            Line("text", post.unchecked),
        )
    case = post.result.case
    made = f"{case.size} {case.species} {case.grade}" if post.material == "timber" else case.size
    lines += [
        Line("text", "Made of", made + ("  (section chosen)" if post.auto else "")),
        *_case_lines(model, case),
        *_checked(post.result, p.units),
        *[Line("text", n.size, f"used {used_text(n.used)}, {n.governs}", 1) for n in post.neighbours],
        Line("result", made, f"used {used_text(post.result.used)}"),
    ]
    return tuple(lines)


def _beam_lines(model: Model, beam_id: str) -> tuple[Line, ...]:
    """Return the calculation of a beam: what lies on it, its seats, and each of its pieces."""
    p, made = model.project, model.path.beams[beam_id]
    design, units = made.design, p.units
    lines = [
        Line("title", label_of(p, beam_id)),
        Line("text", "Made of", design.section.name + ("  (section chosen)" if design.auto else "")),
    ]
    if not design.made:
        return (*lines, Line("text", "Not checked", design.unchecked))
    lines.append(
        Line("heading", "Seats: service loads with every span loaded; what some spans alone bring beyond that")
    )
    for seat, whole, beyond in zip(made.seats, design.reactions, design.extremes, strict=True):
        more = f"   beyond {case_texts(beyond.more, units)}" if any(beyond.more) else ""
        where = f"{format_length(seat.along, units)} from its start, bearing {format_inches(seat.bearing, units)}"
        lines.append(Line("text", where, case_texts(whole, units) + more))
    nails = nailing_of(made.line, design, model.hangers, model.standard)
    if nails is not None:
        flow = f"{quantity_text(nails.flow, 'line force', units)} from ply to ply: " if nails.flow else ""
        lines.append(Line("text", f"Plies nailed together ({nails.clause})", flow + nails.text))
    lines.append(Line("heading", "What lies on it, moments and shears over all combinations"))
    lines.append(Line("drawing", "", drawn=beam_diagram(model, beam_id, DRAWN, LETTERS)))
    for k, one in enumerate(design.made, 1):
        noun = "The beam" if len(design.made) == 1 else f"Piece {k} of {len(design.made)}, spliced over its seats"
        lines += _result_lines(model, noun, one.result)
    lines += [Line("text", n.size, f"used {used_text(n.used)}, {n.governs}", 1) for n in design.neighbours]
    return (*lines, Line("result", design.section.name, f"used {used_text(design.used)}"))


def _spans_text(case: GirderCase | SlabCase, units: Units) -> str:
    """Return the lengths of a beam's overhangs and spans from the left."""
    return ", ".join(f"{'overhang ' if over else ''}{format_length(b - a, units)}" for a, b, over in case.stretches)


def _area_texts(load: Cases, units: Units) -> str:
    names = (("D", load.dead), ("L", load.live), ("Lr", load.roof_live), ("S", load.snow), ("W", load.wind))
    return "   ".join(f"{n} {quantity_text(v, 'pressure', units)}" for n, v in names if abs(v) > 1e-9)


def _checked(result: MemberResult, units: Units) -> list[Line]:
    return [line for check in result.checks for line in check_lines(check, units)]


def _wall_lines(model: Model, wall_id: str) -> tuple[Line, ...]:
    p, framed = model.project, model.framed[wall_id]
    lines = [
        Line("title", f"{wall_label(p, wall_id)}: studs and headers"),
        *_design_lines(model, "Studs", framed.design),
    ]
    for post in framed.posts:
        over = labels_of(p, post.sources)
        lines += [
            Line("heading", f"Built-up post under {over}, {format_length(post.at, p.units)} from the start"),
            *_result_lines(model, f"{post.plies} studs side by side", post.result),
        ]
    for opening_id in framed.headers:
        lines += _opening_lines(model, wall_id, opening_id)
    return tuple(lines)


def _opening_lines(model: Model, wall_id: str, opening_id: str) -> list[Line]:
    p = model.project
    o, made = by_id(p.openings)[opening_id], model.framed[wall_id].headers[opening_id]
    where = f"{o.kind} {format_length(o.width, p.units)} wide, {format_length(o.offset, p.units)} from the start corner"
    lines = [Line("heading", f"Header over the {where}")]
    for noun, result in (
        (f"Header {made.size}", made.header),
        (f"Jack studs, {made.jacks} at each side", made.jack),
        (f"King studs, {made.kings} at each side", made.king),
    ):
        lines += _result_lines(model, noun, result)
    return lines


def _result_lines(model: Model, noun: str, result: MemberResult) -> list[Line]:
    made = result.case.size
    if not isinstance(result.case, GirderCase):
        made = made_text(made, result.case.species, result.case.grade)
    elif result.case.section.kind == "sawn":
        made = f"{made} {result.case.species} {result.case.grade}"
    case, checked = _case_lines(model, result.case), _checked(result, model.units)
    return [Line("text", noun, made), *case, *checked, Line("result", noun, f"used {used_text(result.used)}")]
