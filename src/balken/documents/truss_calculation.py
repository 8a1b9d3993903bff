"""The calculation of trusses: what lies on them, every stick with its forces and checks, bearings, sag, plates."""

from balken.derived.model import Model
from balken.design.truss_neighbours import timber_cost, truss_neighbours
from balken.design.trusses import TrussDesign
from balken.documents.calculation_lines import Line, check_lines
from balken.documents.truss_drawing import count_of, truss_diagram
from balken.documents.truss_given import truss_given
from balken.documents.truss_tables import plate_table
from balken.model.records import Roof
from balken.standards.checks import used_text
from balken.units import format_force

WIDE = 150.0
HEADED = {
    "plates": "Plates (ANSI/TPI 1 chapter 8, from memory; a made-up list)",
    "gussets": "Gussets of plywood (nails by NDS 12.3, from memory; plywood by a made-up list)",
}


def truss_lines(model: Model, roof: Roof) -> list[Line]:
    """Return the calculation of a roof's trusses; of a roof without them none."""
    trusses = model.trusses.get(roof.id)
    if trusses is None or trusses.problem:
        return []
    lines = [Line("title", f"{roof.name}: trusses")]
    for make in trusses.makes:
        name, made, plates = make.name, make.design, make.plates
        lines += [Line("heading", f"{name}: {count_of(trusses, made)}, {made.shape}"), *_given(model, made)]
        diagram = truss_diagram(made, plates, WIDE)
        lines.append(Line("drawing", diagram.says, drawn=diagram))
        lines += _sticks(model, made)
        lines += [Line("heading", "Bearings and sag")]
        for check in made.others:
            lines += check_lines(check, model.units)
        for joint, row in made.reactions().items():
            if made.shape == "gable-end" and not joint.startswith("bearing"):
                continue
            most = max(row, key=lambda combo: row[combo])
            lines.append(Line("text", f"On the {joint}", f"{format_force(row[most], model.units)} ({most})"))
        if make.studs:
            lines.append(Line("heading", "Studs under wind square to the frame"))
            worst = max(make.studs, key=lambda stud: stud.check.used)
            how = "stiffened by a board nailed square to its edge" if worst.braced else "lying flat"
            lines += [Line("text", f"{worst.name}, {how}", ""), *check_lines(worst.check, model.units)]
        if made.shape != "gable-end":
            lines += _neighbours(model, made)
        lines.append(Line("heading", HEADED[made.job.joined]))
        for size, pairs, at, used, governs in (row[:5] for row in plate_table(made, plates, model.units)[1]):
            lines.append(Line("text", f"{size}, {pairs}: {at}", f"used {used}, {governs}"))
    return lines


def _given(model: Model, made: TrussDesign) -> list[Line]:
    return [Line("text", what, much) for what, much in truss_given(made, model.units)]


def _neighbours(model: Model, made: TrussDesign) -> list[Line]:
    """Return what the next sections would do, and what the timber of a truss would cost."""
    lines = [
        Line(
            "heading",
            "Next sections, the webs as they are (timber by a made-up price list, plates chosen anew if taken)",
        ),
        Line("text", "As it is", f"{used_text(made.used)}, $ {timber_cost(made):,.2f}"),
    ]
    for row in truss_neighbours(made, model.standard):
        if row.problem:
            lines.append(Line("text", f"{row.group} {row.size}: {row.problem}", "cannot be"))
        else:
            lines.append(Line("text", f"{row.group} {row.size}", f"{used_text(row.used)}, $ {row.dollars:,.2f}"))
    return lines


def _sticks(model: Model, made: TrussDesign) -> list[Line]:
    """Return every stick: its governing check, and the axial force that goes with it."""
    lines = [Line("heading", "Sticks: plane frame, chords continuous, webs, peaks and splices pinned")]
    studs = [s for s in made.frame.sticks if made.shape == "gable-end" and s.role == "web"]
    worst = max(studs, key=lambda s: made.sticks[s.name][0], default=None)
    for stick in made.frame.sticks:
        if stick in studs and stick is not worst:
            continue
        used, name, clause, combo = made.sticks[stick.name]
        force = made.axial(stick.name)[combo]
        kind = "pulls" if force > 0.0 else "presses"
        lines.append(
            Line(
                "check",
                f"{stick.name}, {stick.role} {made.frame.sizes.called(stick.role)}: {name}  ({clause}, {combo})",
                f"{kind} {format_force(abs(force), model.units)}, {used_text(used)}",
                used=used,
            )
        )
    return lines
