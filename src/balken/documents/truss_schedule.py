"""The schedule of trusses: each make, how many, what it is made of, what it brings to its bearings, its plates with their price."""

from balken.derived.model import Model
from balken.documents.paper_table import PaperTable
from balken.documents.truss_drawing import count_of, marked
from balken.units import format_force, format_inches, format_length

HEADINGS = (
    "Mark", "Roof", "Number", "Webs", "Span", "Heel", "Chords above / below, webs", "Plies", "On a bearing", "Lifted", "Plates", "$ for them"
)  # fmt: skip


def truss_schedule(model: Model) -> PaperTable:
    """Return the schedule of all trusses; it has no rows where there are none."""
    names, units = {roof.id: roof.name for roof in model.project.roofs}, model.units
    rows = []
    for mark, roof, made, plates in marked(model):
        trusses, sizes = model.trusses[roof], made.frame.sizes
        count = count_of(trusses, made)
        most, least = made.on_bearings
        rows.append(
            (
                mark,
                names[roof],
                str(count),
                made.shape,
                format_length(made.frame.outline.span, units),
                format_inches(made.heel, units),
                f"{sizes.top} / {sizes.bottom}, {sizes.webs}",
                str(sizes.plies),
                format_force(most, units) if made.shape != "gable-end" else "all along",
                format_force(-least, units) if least < 0.0 else "",
                f"{len(plates) * sizes.plies} pairs" + (" of gussets" if made.job.joined == "gussets" else ""),
                f"{2.0 * sum(p.price for p in plates) * sizes.plies * count:,.2f}",
            )
        )
    return PaperTable(
        "Schedule of trusses (plates and gussets by made-up lists)" if rows else "Schedule of trusses", HEADINGS, rows
    )
