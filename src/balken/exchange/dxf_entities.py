"""What is drawn as entities of a DXF file (R2010), written as text: a set of sheets has some fifty thousand, most of them strokes of hatching.

Tags as in the DXF reference: a group code on a line, its value on the next.
"""

from collections.abc import Callable, Iterator

from balken.documents.display import Area, Circle, Item, Strokes, Text
from balken.documents.style import FILLS
from balken.geometry.plane import Point, Ring

LayerOf = Callable[[str, str], str]
"""The name of the layer of a stage and a pen ("" for fills)."""
FONT = "Balken"
GREY = 9
"""What a reader without true colours fills with."""
_ALIGNED = {"left": 0, "center": 1, "right": 2}
MIDDLE = 2
OUTER, INNER = 3, 18
"""Rings of a hatch: polylines, the outermost and what is cut out of it."""


def rgb(colour: str) -> tuple[int, int, int]:
    """Return red, green and blue of "#rrggbb"."""
    return int(colour[1:3], 16), int(colour[3:5], 16), int(colour[5:7], 16)


def entities(item: Item, scale: float, layer: LayerOf) -> Iterator[tuple[str, str]]:
    """Yield the entities of an item of a drawing, each as its kind and the tags after its handle and owner; ``scale``: of dashes."""
    if isinstance(item, Text):
        yield "TEXT", _text(item, layer(item.layer, item.pen))
        return
    on = f"100\nAcDbEntity\n8\n{layer(item.layer, item.pen)}\n48\n{scale:g}\n"
    if isinstance(item, Circle):
        x, y = item.centre
        yield "CIRCLE", f"{on}100\nAcDbCircle\n10\n{x:.6f}\n20\n{y:.6f}\n30\n0.0\n40\n{item.radius:.6f}\n"
    elif isinstance(item, Strokes):
        begin = f"{on}100\nAcDbLine\n10\n"
        for (x0, y0), (x1, y1) in item.segments:
            yield "LINE", f"{begin}{x0:.6f}\n20\n{y0:.6f}\n30\n0.0\n11\n{x1:.6f}\n21\n{y1:.6f}\n31\n0.0\n"
    elif isinstance(item, Area):
        yield "HATCH", _hatch(item, layer(item.layer, ""))
        if item.pen:
            for ring in item.rings:
                yield "LWPOLYLINE", on + _polyline(ring, closed=True)
    else:
        yield "LWPOLYLINE", on + _polyline(item.points, item.closed)


def _points(points: tuple[Point, ...]) -> str:
    return "".join(f"10\n{x:.6f}\n20\n{y:.6f}\n" for x, y in points)


def _polyline(points: tuple[Point, ...], closed: bool) -> str:
    return f"100\nAcDbPolyline\n90\n{len(points)}\n70\n{int(closed)}\n{_points(points)}"


def _text(item: Text, layer: str) -> str:
    x, y = item.at
    said = " ".join(item.text.split("\n"))
    return (
        f"100\nAcDbEntity\n8\n{layer}\n100\nAcDbText\n10\n{x:.6f}\n20\n{y:.6f}\n30\n0.0\n40\n{item.size:.6f}\n1\n{said}\n"
        f"50\n{item.angle:.6f}\n7\n{FONT}\n72\n{_ALIGNED[item.anchor]}\n11\n{x:.6f}\n21\n{y:.6f}\n31\n0.0\n100\nAcDbText\n73\n{MIDDLE}\n"
    )


def _hatch(item: Area, layer: str) -> str:
    """Return a solid hatch; its rings as polylines without sources, no seed points."""
    red, green, blue = rgb(FILLS[item.fill])
    rings = "".join(_hatched(ring, OUTER if k == 0 else INNER) for k, ring in enumerate(item.rings))
    return (
        f"100\nAcDbEntity\n8\n{layer}\n62\n{GREY}\n420\n{red << 16 | green << 8 | blue}\n100\nAcDbHatch\n10\n0.0\n20\n0.0\n30\n0.0\n"
        f"210\n0.0\n220\n0.0\n230\n1.0\n2\nSOLID\n70\n1\n71\n0\n91\n{len(item.rings)}\n{rings}75\n1\n76\n1\n98\n0\n"
    )


def _hatched(ring: Ring, kind: int) -> str:
    return f"92\n{kind}\n72\n0\n73\n1\n93\n{len(ring)}\n{_points(ring)}97\n0\n"
