"""Marks that things alike share on plans, sections and schedules."""

from balken.derived.model import Model
from balken.design.footing_case import FootingDesign
from balken.units import Units, format_inches, format_length


def footing_marks(model: Model) -> dict[str, str]:
    """Return the mark of each run's footing and each pad: F1, F2 for strips alike, P1, P2 for pads alike."""
    marks: dict[str, str] = {}
    for letter, rows in (
        ("F", [(r, (round(f.width), round(f.depth), f.design.bars)) for r, f in model.footings.items()]),
        (
            "P",
            [
                (v, (round(r.design.width), round(r.design.length), round(r.design.thickness), r.design.bars))
                for v, r in model.pads.items()
            ],
        ),
    ):
        kinds: dict[object, str] = {}
        for key, kind in rows:
            kinds.setdefault(kind, f"{letter}{len(kinds) + 1}")
            marks[key] = kinds[kind]
    return marks


def pad_size(design: FootingDesign, units: Units) -> str:
    """Return how the size of a pad is written: 30" sq. x 10", or 48" x 9'-6" x 20" of a combined one."""
    thick = format_inches(design.thickness, units)
    if abs(design.length - design.width) < 1.0:
        return f"{format_inches(design.width, units)} sq. x {thick}"
    return f"{format_inches(design.width, units)} x {format_length(design.length, units)} x {thick}"
