"""Pens and fills of every drawing: line widths in paper mm (ISO 128 series), colours as #rrggbb."""

from balken.value import Value

SHEET = "#FBF8F1"
INK = "#22303C"
SELECTED = "#D8401F"
MUTED = "#55616C"


class Pen(Value, frozen=True):
    """Width in paper mm, colour, and dashes in paper mm (none: continuous)."""

    width: float
    colour: str = INK
    dashes: tuple[float, ...] = ()


PENS: dict[str, Pen] = {
    "cut": Pen(0.5),
    "outline": Pen(0.35),
    "thin": Pen(0.18),
    "fine": Pen(0.13, "#5A6873"),
    "beyond": Pen(0.13, "#8A949C"),
    "hidden": Pen(0.18, INK, (2.0, 1.0)),
    "above": Pen(0.18, INK, (6.0, 1.2, 0.6, 1.2, 0.6, 1.2)),
    "axis": Pen(0.18, "#4A5A66", (8.0, 1.2, 0.6, 1.2)),
    "bubble": Pen(0.25, "#4A5A66"),
    "dimension": Pen(0.18, "#4A5A66"),
    "tick": Pen(0.35, "#4A5A66"),
    "level": Pen(0.18, "#2E6A6A"),
    "cut line": Pen(0.5, "#2E6A6A", (9.0, 1.5, 1.5, 1.5)),
    "ground": Pen(0.5, "#6E5136"),
    "base drawing": Pen(0.13, "#8896A8"),
    "reference": Pen(0.18, "#6C7A89", (3.0, 1.2)),
    "hatch": Pen(0.09, "#7A7468"),
    "earth": Pen(0.13, "#8B6B4A"),
    "timber": Pen(0.13, "#94702C"),
    "bar": Pen(0.5, "#1F4E79"),
    "by hand": Pen(0.5, "#5B3A8C", (3.0, 1.0)),
    "text": Pen(0.0, INK),
    "note": Pen(0.0, "#41505C"),
    "border": Pen(0.7),
    "used low": Pen(0.35, "#2F7485"),
    "used medium": Pen(0.35, "#55872F"),
    "used high": Pen(0.35, "#C2571F"),
    "used over": Pen(0.5, "#A82A10"),
}

FILLS: dict[str, str] = {
    "sheet": SHEET,
    "timber": "#E9C987",
    "timber light": "#F5E6C4",
    "steel": "#B5C0CA",
    "concrete": "#E3E1DC",
    "concrete light": "#EFEDE8",
    "masonry": "#DDAF9A",
    "cladding": "#C9D3D2",
    "sheathing": "#D9B679",
    "studs": "#F2DDAE",
    "lining": "#E8E8E4",
    "gap": "#F7F5EF",
    "gravel": "#E2D8C6",
    "slab": "#F1EFEA",
    "insulation": "#F3E7D8",
    "deck": "#DCC08C",
    "paper": "#FFFFFF",
    "beyond": "#F6F2E8",
    "low": "#CBE2E6",
    "medium": "#D3E6B4",
    "high": "#F0B48A",
    "over": "#E5735A",
}


def used_fill(used: float) -> str:
    """Return the fill that shows how far a member is used (the figure always stands beside it)."""
    if used > 1.0:
        return "over"
    return "high" if used > 0.85 else "medium" if used > 0.5 else "low"
