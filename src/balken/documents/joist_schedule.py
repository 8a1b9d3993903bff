"""The schedules of joists and of hangers on the sheets of plans: alike ones in a row, by their marks."""

from balken.catalog.sections import made_text
from balken.derived.model import Model
from balken.design.hangers import Hung
from balken.documents.paper_table import PaperTable
from balken.documents.schedule import by_number
from balken.framing.pieces import Piece, cut_length
from balken.framing.roles import ROLES
from balken.model.lookup import by_id
from balken.model.naming import owner_of
from balken.standards.checks import used_text
from balken.units import format_force, format_inches, format_length

JOISTS = ("Mark", "No.", "What", "Made of", "Cut length", "At", "Used", "Governs", "Notes")
HANGERS = ("Hanger", "No.", "For", "Most on one, normal duration", "Lifts", "Used")
ROLES_SHOWN = ("joist", "floor header", "rim board", "blocking", "squash block", "stringer")


def joist_schedule(model: Model) -> PaperTable:
    """Return the schedule of what floors are framed of; it has no rows where there are none."""
    alike: dict[str, list[Piece]] = {}
    for piece in model.of_layouts(*ROLES_SHOWN):
        alike.setdefault(model.marks[piece.key], []).append(piece)
    order = {role: k for k, role in enumerate(ROLES_SHOWN)}
    rows = sorted(alike.items(), key=lambda row: (order[row[1][0].role], by_number(row[0])))
    return PaperTable("Schedule of floor framing", JOISTS, [_row(model, mark, pieces) for mark, pieces in rows])


def _row(model: Model, mark: str, pieces: list[Piece]) -> tuple[str, ...]:
    one, units = pieces[0], model.units
    results = [model.results[p.key] for p in pieces if p.key in model.results]
    worst = max(results, key=lambda result: result.used, default=None)
    spaced = ""
    if one.role == "joist":
        apart = {model.designs[(p.owner, "joists")].spacing for p in pieces if (p.owner, "joists") in model.designs}
        spaced = " / ".join(format_inches(x, units) for x in sorted(apart))
    return (
        mark,
        str(len(pieces)),
        ROLES[one.role].noun,
        made_text(one.section, one.species, one.grade),
        format_length(cut_length(one.length, units), units),
        spaced,
        used_text(worst.used) if worst is not None else "",
        worst.governs.name if worst is not None else "",
        ", ".join(dict.fromkeys([*(note for result in results for note in result.notes), *_over(model, one)])),
    )


def _over(model: Model, piece: Piece) -> list[str]:
    """Return what a joist does over its bearings, where it does not end on them."""
    floor = by_id(model.project.floors).get(owner_of(piece.key))
    if piece.role != "joist" or floor is None:
        return []
    plan = next(plan for plan in model.floors if plan.floor.id == floor.id)
    line = next((x for x in plan.lines if piece.key.endswith(f"/{x.place}")), None)
    if line is None or line.simple:
        return []
    past = max(line.overhangs)
    said = [f"reaches {format_length(past, model.units)} past its bearing"] if past else []
    return [*said, *(["runs on over its bearings"] if line.inner else [])]


def hanger_schedule(model: Model) -> PaperTable:
    """Return the schedule of hangers; it has no rows where nothing hangs."""
    alike: dict[tuple[str, str], list[Hung]] = {}
    for one in model.hangers:
        alike.setdefault((one.called if one.hanger else "", one.size), []).append(one)
    rows = []
    for (name, size), hung in sorted(alike.items()):
        worst = max(hung, key=lambda one: one.used)
        lifts = max(one.lifts for one in hung)
        rows.append(
            (
                name or "none fits",
                str(len(hung)),
                size,
                format_force(worst.most, model.units),
                format_force(lifts, model.units) if lifts > 1.0 else "",
                used_text(worst.used),
            )
        )
    made_up = "" if model.project.hangers else ", of a made-up list"
    return PaperTable(f"Schedule of hangers{made_up}", HANGERS, rows)
