"""Marks of sloping footings on plans: an arrow down the slope beside the footing, with how steep and how deep."""

from balken.derived.model import Model
from balken.documents.dimensions import TEXT, reading
from balken.documents.display import Item, Path, Text
from balken.framing.foundations import FoundationRun
from balken.framing.slopes import slopes_of
from balken.model.naming import slope_name
from balken.model.records import Slope
from balken.units import Units, format_inches


def slope_ref(run: FoundationRun, slope: Slope) -> str:
    """Return how a slope is referred to: foundation/slope/number."""
    return slope_name(run.foundation.id, run.foundation.slopes.index(slope))


def slope_text(slope: Slope, units: Units) -> str:
    """Return a slope in words: 1 in 12, to 6" deeper."""
    rise = abs(slope.deeper_end - slope.deeper_start)
    steep = f"1 in {(slope.end - slope.start) / rise:.0f}, " if rise > 0.5 else ""
    return f"{steep}to {format_inches(max(slope.deeper_start, slope.deeper_end), units)} deeper"


def slope_marks(model: Model, scale: float) -> list[Item]:
    """Return the marks of all slopes."""
    items: list[Item] = []
    for run in model.runs:
        width = model.footings[run.id].width
        for slope in slopes_of(run):
            out = sum(run.faces) / 2.0 - run.footing_off(width) - width / 2.0 - 2.0 * scale
            ref, b = slope_ref(run, slope), run.band
            low, high = slope.start + 0.1 * (slope.end - slope.start), slope.end - 0.1 * (slope.end - slope.start)
            tail, tip = (low, high) if slope.deeper_end >= slope.deeper_start else (high, low)
            way = 1.0 if tip > tail else -1.0
            items.append(Path((b.at(tail, out), b.at(tip, out)), "outline", "foundations", ref))
            barbs = (
                b.at(tip - way * 2.0 * scale, out - 0.8 * scale),
                b.at(tip, out),
                b.at(tip - way * 2.0 * scale, out + 0.8 * scale),
            )
            items.append(Path(barbs, "outline", "foundations", ref))
            at = b.at((slope.start + slope.end) / 2.0, out - 2.4 * scale)
            text = slope_text(slope, model.project.units)
            items.append(
                Text(
                    at,
                    text,
                    TEXT * scale,
                    angle=reading(b.direction)[0],
                    pen="note",
                    layer="foundations",
                    ref=ref,
                    bold=True,
                )
            )
    return items
