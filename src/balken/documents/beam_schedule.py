"""The schedule of beams on the sheet of plans: alike ones in a row, by their marks."""

from itertools import pairwise

from balken.derived.model import Model
from balken.design.ply_nailing import nailing_of
from balken.documents.paper_table import PaperTable
from balken.documents.schedule import by_number
from balken.loads.beam_law import Beamed
from balken.model.naming import beam_name
from balken.standards.checks import used_text
from balken.units import format_force, format_length

HEADINGS = (
    "Mark",
    "No.",
    "Made of",
    "Length",
    "Spans, middle to middle of seats",
    "Most on a seat",
    "Used",
    "Governs",
    "Plies",
)


def beam_schedule(model: Model) -> PaperTable:
    """Return the schedule of all beams; it has no rows where there are none."""
    alike: dict[tuple[str, str], list[Beamed]] = {}
    for name, made in model.path.beams.items():
        spans = ", ".join(format_length(b - a, model.units) for a, b in pairwise(seat.along for seat in made.seats))
        alike.setdefault((model.marks[beam_name(name)], spans), []).append(made)
    rows = [_row(model, *key, alike[key]) for key in sorted(alike, key=lambda key: (by_number(key[0]), key[1]))]
    return PaperTable("Schedule of beams", HEADINGS, rows)


def _row(model: Model, mark: str, spans: str, beams: list[Beamed]) -> tuple[str, ...]:
    """Return the row of beams with one mark and alike spans: its loads and checks are those of the one used most."""
    units = model.units
    worst = max(beams, key=lambda made: made.design.used)
    design = worst.design
    pieces = f", {len(design.parts)} pieces" if len(design.parts) > 1 else ""
    said = (design.section.name, format_length(worst.line.length, units) + pieces, spans)
    if not design.made:
        return (mark, str(len(beams)), *said, "", "", f"not checked: {design.unchecked}", "")
    kept = model.standard.combinations.worst
    nails = nailing_of(worst.line, design, model.hangers, model.standard)
    most = max(
        kept(whole.plus(beyond.more))[0] for whole, beyond in zip(design.reactions, design.extremes, strict=True)
    )
    return (
        mark,
        str(len(beams)),
        *said,
        format_force(most, units),
        used_text(design.used),
        design.result.governs.name if design.result else "",
        nails.text if nails is not None else "",
    )
