"""The schedule of slabs above ground: thickness, bars, how far they are used; their bars one by one for lists."""

import math

from balken.catalog.bars import BARS
from balken.derived.model import Model
from balken.documents.paper_table import PaperTable
from balken.framing.floors import FloorPlan
from balken.standards.checks import used_text
from balken.standards.demands import SlabBars
from balken.units import Units, format_inches, format_length

HEADINGS = ("Slab", "Thickness", "Below, along the span", "Above, over bearings", "Across", "Used", "Governs", "Notes")
COVER = 19.05
"""Bars end this far from the edge of a slab, mm (3/4 in; common practice, no source)."""


def slab_bar_text(bars: SlabBars, units: Units) -> str:
    """Return the bars along the span below: #4 at 12 in."""
    return f"{BARS[bars.number].name} at {format_inches(bars.below, units)}"


def above_text(bars: SlabBars, units: Units) -> str:
    """Return the bars above over bearings, "" where there are none."""
    if not bars.above:
        return ""
    far = format_length(bars.reach, units)
    return f"{BARS[bars.number].name} at {format_inches(bars.above, units)}, {far} to each side"


def across_text(bars: SlabBars, units: Units) -> str:
    """Return the bars across the span."""
    return f"{BARS[bars.across_number].name} at {format_inches(bars.across, units)}"


def slab_schedule(model: Model) -> PaperTable:
    """Return the schedule; it has no rows where there is no slab above ground."""
    rows = []
    for plan in model.floors:
        slab = model.raised.get(plan.floor.id)
        if slab is None:
            continue
        name, size, units = plan.floor.name, model.designs[(plan.floor.id, "joists")].size, model.units
        if plan.floor.carries == "both ways":
            rows.append((name, size, "", "", "", "", "", "carries both ways: bars not designed"))
            continue
        worst = slab.results.get(slab.worst)
        notes = f"more below in {len(slab.more)} strips, see its calculation" if slab.more else ""
        rows.append(
            (
                name, size, slab_bar_text(slab.bars, units), above_text(slab.bars, units), across_text(slab.bars, units),
                used_text(worst.used) if worst is not None else "", worst.governs.name if worst is not None else "", notes,
            )
        )  # fmt: skip
    return PaperTable("Schedule of slabs above ground", HEADINGS, rows)


SlabBarRow = tuple[str, int, int, float]
"""Use, number of the bar, how many, length of each, mm."""


def bars_of(model: Model, plan: FloorPlan) -> list[SlabBarRow]:
    """Return the bars of a slab, counted on its strips; those that are longer than the stock are to be spliced."""
    slab = model.raised[plan.floor.id]
    if plan.floor.carries == "both ways" or not plan.lines:
        return []
    rows: dict[tuple[str, int, float], float] = {}

    def put(use: str, number: int, length: float, count: float) -> None:
        key = (use, number, round(length, 1))
        rows[key] = rows.get(key, 0.0) + count

    for line in plan.lines:
        name = next((n for n in slab.more if n.endswith(f"/{line.place}")), "")
        bars = slab.more.get(name, slab.bars)
        put("below", bars.number, line.high - line.low - 2.0 * COVER, line.width / bars.below)
        if bars.above:
            for at, over in _tops(line.stops, line.overhangs, (line.low, line.high)):
                length = min(at + bars.reach, line.high - COVER) - max(at - bars.reach, line.low + COVER)
                if over:
                    put("above", bars.number, length, line.width / bars.above)
    ts = [p[1] for p in plan.frame.ring(plan.outline.core)]
    ss = [p[0] for p in plan.frame.ring(plan.outline.core)]
    count = (max(ss) - min(ss)) / slab.bars.across
    put("across", slab.bars.across_number, max(ts) - min(ts) - 2.0 * COVER, count)
    return [(use, number, math.ceil(n - 1e-6), length) for (use, number, length), n in rows.items()]


def _tops(
    stops: tuple[tuple[str, float, float], ...], overhangs: tuple[float, float], ends: tuple[float, float]
) -> list[tuple[float, bool]]:
    """Return the bearings of a strip, and whether it hogs there: where it runs on."""
    last = len(stops) - 1
    return [
        (at, 0 < k < last or (k == 0 and overhangs[0] > 0.0) or (k == last and overhangs[1] > 0.0))
        for k, (_, at, _) in enumerate(stops)
    ]
