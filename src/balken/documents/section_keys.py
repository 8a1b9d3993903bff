"""Typical sections keyed on the plan: one at every different condition of the foundations, and its mark."""

from balken.derived.model import Model
from balken.documents.display import Circle, Item, Path, Text
from balken.framing.foundations import FoundationRun
from balken.geometry.plane import off_line
from balken.value import Value


class Keyed(Value, frozen=True):
    """A typical section: its letter, the run it is cut through and where along it."""

    letter: str
    run: str
    along: float


def keyed_sections(model: Model) -> tuple[Keyed, ...]:
    """Return one section for each different condition: wall, footing, ledge, slab, earth held or not."""
    seen: dict[object, Keyed] = {}
    for run in model.runs:
        f, result = run.foundation, model.footings[run.id]
        slab = tuple(sorted(p.slab.id for p in model.slabs if run.wall in p.slab.walls))
        condition = (
            f.kind,
            f.made_of,
            f.thickness,
            f.ledge,
            f.upper_height and f.upper_thickness,
            round(run.footing_off(result.width)),
            (e := model.earth_walls.get(run.id)) is not None and (e.case.held, e.bars),
            round(result.width),
            round(result.depth),
            result.design.reinforced,
            slab,
            run.band.outside,
            round(run.band.top),
        )
        if condition not in seen:
            letter = chr(ord("A") + len(seen) % 26) + ("" if len(seen) < 26 else str(len(seen) // 26))
            seen[condition] = Keyed(letter, run.id, _clear_place(model, run))
    return tuple(seen.values())


def _clear_place(model: Model, run: FoundationRun) -> float:
    """Return a place along a run, near its middle, clear of openings above, of steps and of walls that join it."""
    low, high = run.span
    middle = (low + high) / 2.0
    taken = [(o.offset - 100.0, o.offset + o.width + 100.0) for o in model.project.openings if o.wall == run.wall]
    taken += [(s.high - CLEAR, s.high + CLEAR) for s in run.segments[:-1]]
    for other in model.runs:
        wide = model.footings[other.id].width / 2.0 + 100.0
        for point in (other.band.start, other.band.end):
            along, aside = off_line(point, run.band.start, run.band.end)
            if other is not run and abs(aside) < wide + model.footings[run.id].width and low < along < high:
                taken.append((along - wide, along + wide))
    for k in range(90):
        at = middle + (k // 2 + 1) * 0.01 * (high - low) * (-1) ** k
        if all(not a < at < b for a, b in taken):
            return float(at)
    return middle


CLEAR = 900.0
"""Sections keep this far from steps, mm."""


def section_keys(model: Model, scale: float) -> list[Item]:
    """Return the marks of the typical sections on the plan: a line across the wall, its letter at the outside."""
    items: list[Item] = []
    runs = {run.id: run for run in model.runs}
    for keyed in keyed_sections(model):
        run = runs[keyed.run]
        b = run.band
        half = model.footings[run.id].width / 2.0
        middle = sum(run.faces) / 2.0
        out, inner = b.at(keyed.along, middle - half - 5.0 * scale), b.at(keyed.along, middle + half + 2.0 * scale)
        items.append(Path((out, inner), "cut line", "foundations"))
        at = b.at(keyed.along, middle - half - 8.0 * scale)
        items.append(Circle(at, 3.0 * scale, "bubble", "sheet", "foundations"))
        items.append(Text(at, keyed.letter, 2.6 * scale, layer="foundations", bold=True))
    return items
