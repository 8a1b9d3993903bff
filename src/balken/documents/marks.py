"""Marks that things alike share on plans, sections and schedules."""

from balken.derive import Model


def footing_marks(model: Model) -> dict[str, str]:
    """Return the mark of each run's footing and each pad: F1, F2 for strips alike, P1, P2 for pads alike."""
    marks: dict[str, str] = {}
    for letter, rows in (
        ("F", [(r, (round(f.width), round(f.depth), f.design.bars)) for r, f in model.footings.items()]),
        ("P", [(v, (round(r.design.width), round(r.design.thickness), r.design.bars)) for v, r in model.pads.items()]),
    ):
        kinds: dict[object, str] = {}
        for key, kind in rows:
            kinds.setdefault(kind, f"{letter}{len(kinds) + 1}")
            marks[key] = kinds[kind]
    return marks
