"""Bars in a typical section: those of the wall, its dowels, those of the footing, as lines where they lie."""

from balken.catalog.bars import BARS
from balken.derived.model import Model
from balken.documents.display import Circle, Item, Layer, Path
from balken.framing.foundations import FoundationRun
from balken.standards.ground import BarSet

LAYER: Layer = "foundations"


def bar_items(model: Model, run: FoundationRun, centre: float, foot: float, ref: str) -> list[Item]:
    """Return the bars of a run in its section; ``centre``: the wall's middle, ``foot``: top of its footing, mm."""
    items: list[Item] = []
    wall, result = model.earth_walls.get(run.id), model.footings[run.id]
    depth = result.depth if run.footing else 0.0
    cover, below = model.standard.cover, model.standard.cover_below
    if wall is not None and wall.bars:
        thick = wall.case.thickness
        for bars in wall.bars:
            if bars.use.startswith("upright"):
                x = _face(bars, centre, thick, cover(wall.case.made_of, _diameter(bars)))
                items.append(Path(((x, foot + 40.0), (x, run.band.top - 50.0)), "bar", LAYER, ref))
                items += _lying(wall.bars, x, foot, run.band.top, ref)
            elif bars.use.startswith("dowels"):
                x = _face(bars, centre, thick, cover(wall.case.made_of, _diameter(bars))) + 1.5 * _diameter(bars)
                low = foot - max(depth - below, 50.0)
                lap = bars.length - (foot - low)
                hook = 12.0 * _diameter(bars)
                items.append(Path(((x + hook, low), (x, low), (x, foot + max(lap, 100.0))), "bar", LAYER, ref))
    if result.design.reinforced and run.footing:
        middle = centre - run.footing_off(result.width)
        z = foot - depth + below
        half = result.width / 2.0 - below
        items.append(Path(((middle - half, z), (middle + half, z)), "bar", LAYER, ref))
        for bars in result.design.bars:
            if bars.use == "along":
                d = _diameter(bars)
                items += [
                    Circle((middle - half + k * bars.spacing, z + d), d / 2.0, "bar", layer=LAYER, ref=ref)
                    for k in range(bars.count)
                ]
    return items


def _diameter(bars: BarSet) -> float:
    return BARS[bars.number].diameter


def _face(bars: BarSet, centre: float, thick: float, cover: float) -> float:
    """Return where the bars stand: behind the cover of the earth side (to the left) or of the inside."""
    behind = cover + _diameter(bars) / 2.0
    return centre - thick / 2.0 + behind if "earth side" in bars.use else centre + thick / 2.0 - behind


def _lying(sets: tuple[BarSet, ...], x: float, foot: float, top: float, ref: str) -> list[Item]:
    items: list[Item] = []
    for bars in sets:
        if bars.use == "lying":
            d, z = _diameter(bars), foot + bars.spacing / 2.0
            while z < top - 40.0:
                items.append(Circle((x - d, z), d / 2.0, "bar", layer=LAYER, ref=ref))
                z += bars.spacing
    return items
