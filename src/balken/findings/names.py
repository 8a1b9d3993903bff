"""How things are called in findings."""

from balken.findings.context import Context
from balken.model.lookup import numbers
from balken.model.rules import wall_label


def pad_label(c: Context, pad_id: str) -> str:
    """Return how a pad is called: 'Pad 3'."""
    return f"Pad {numbers(c.project.pads).get(pad_id, 0)}"


def footing_label(c: Context, thing: str) -> str:
    """Return how a pad or the footing of a run (by its id) is called."""
    run = next((r for r in c.runs if r.id == thing), None)
    return pad_label(c, thing) if run is None else f"{run.foundation.name}, {wall_label(c.project, run.wall)}"
