"""The schedule of caps and bases of posts on the sheets of plans: alike ones in a row."""

from balken.derived.model import Model
from balken.design.post_fittings import Fitted
from balken.documents.paper_table import PaperTable
from balken.standards.checks import used_text
from balken.units import format_force

HEADINGS = ("Cap or base", "No.", "Post", "Beam", "Most on one, normal duration", "Lifts", "Used")


def fitting_schedule(model: Model) -> PaperTable:
    """Return the schedule; it has no rows where no timber post has a beam or a pad."""
    alike: dict[tuple[str, str, str, str], list[Fitted]] = {}
    for one in model.fittings:
        alike.setdefault((one.use, one.fitting or f"{one.use}: none fits", one.post, one.beam), []).append(one)
    rows = []
    for (_, name, post, beam), fitted in sorted(alike.items()):
        worst = max(fitted, key=lambda one: one.used)
        lifts = max(one.lifts for one in fitted)
        rows.append(
            (
                name,
                str(len(fitted)),
                post,
                beam,
                format_force(worst.most, model.units),
                format_force(lifts, model.units) if lifts > 1.0 else "",
                used_text(worst.used),
            )
        )
    made_up = "" if model.project.post_fittings else ", of a made-up list"
    return PaperTable(f"Schedule of caps and bases{made_up}", HEADINGS, rows)
