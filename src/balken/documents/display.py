"""The display list: what a drawing consists of, in model mm (or paper mm on a sheet).

Every item has a pen (a name of ``style.PENS``), the layer it belongs to (a stage of the work or
"notes") and the id of the thing it draws, "" for none.
"""

from collections.abc import Iterable, Sequence
from typing import Literal, NamedTuple

import msgspec

from balken.geometry.plane import Point, Ring, bounds, turn
from balken.remembered import remembered
from balken.value import Value

Layer = Literal["set out", "walls", "foundations", "floors", "roof", "ground", "notes"]
Anchor = Literal["left", "center", "right"]


class Path(Value, frozen=True):
    """A line through points."""

    points: Ring
    pen: str
    layer: Layer = "notes"
    ref: str = ""
    closed: bool = False


class Area(Value, frozen=True):
    """A filled outline with holes; ``pen`` empty for none."""

    rings: tuple[Ring, ...]
    fill: str
    pen: str = ""
    layer: Layer = "notes"
    ref: str = ""


class Strokes(Value, frozen=True):
    """Many short segments with one pen: hatching."""

    segments: tuple[tuple[Point, Point], ...]
    pen: str
    layer: Layer = "notes"
    ref: str = ""


class Circle(Value, frozen=True):
    """A circle."""

    centre: Point
    radius: float
    pen: str
    fill: str = ""
    layer: Layer = "notes"
    ref: str = ""


class Text(Value, frozen=True):
    """A line of text; ``at`` is its anchor at half height, ``size`` the height of capitals."""

    at: Point
    text: str
    size: float
    anchor: Anchor = "center"
    angle: float = 0.0
    pen: str = "text"
    layer: Layer = "notes"
    ref: str = ""
    bold: bool = False


Item = Path | Area | Strokes | Circle | Text


class Diagram(NamedTuple):
    """Items of a drawing whose top left corner is at (0, 0), and how wide and tall it is, paper mm; what it tells in words."""

    items: tuple[Item, ...]
    width: float
    height: float
    says: str


class Drawing(Value, frozen=True):
    """A titled display list made to be read at 1:``scale``."""

    title: str
    scale: float
    items: tuple[Item, ...]

    def box(self) -> tuple[float, float, float, float]:
        """Return the bounds of everything, texts by a rough width; raises ValueError when empty."""
        return _box(self.items)


@remembered(1_000)
def _box(items: tuple[Item, ...]) -> tuple[float, float, float, float]:
    return bounds([p for item in items for p in _points(item)])


def _points(item: Item) -> Iterable[Point]:
    if isinstance(item, Path):
        return item.points
    if isinstance(item, Area):
        return item.rings[0]
    if isinstance(item, Strokes):
        return [p for segment in item.segments for p in segment]
    if isinstance(item, Circle):
        (x, y), r = item.centre, item.radius
        return ((x - r, y - r), (x + r, y + r))
    return text_corners(item)


def text_corners(item: Text) -> list[Point]:
    """Return corners that hold a text, by a rough width of its letters."""
    wide = 0.7 * item.size * len(item.text)
    shift = {"left": 0.0, "center": -0.5, "right": -1.0}[item.anchor] * wide
    ends: list[Point] = []
    for dx in (shift, shift + wide):
        for dy in (-item.size / 2.0, item.size / 2.0):
            x, y = turn((dx, dy), item.angle)
            ends.append((item.at[0] + x, item.at[1] + y))
    return ends


def placed(items: Iterable[Item], factor: float, origin: Point, to: Point) -> list[Item]:
    """Return items scaled by ``factor`` about ``origin``, which comes to lie at ``to``."""

    def move(p: Point) -> Point:
        return ((p[0] - origin[0]) * factor + to[0], (p[1] - origin[1]) * factor + to[1])

    moved: list[Item] = []
    for item in items:
        if isinstance(item, Path):
            moved.append(msgspec.structs.replace(item, points=tuple(move(p) for p in item.points)))
        elif isinstance(item, Area):
            moved.append(
                msgspec.structs.replace(item, rings=tuple(tuple(move(p) for p in ring) for ring in item.rings))
            )
        elif isinstance(item, Strokes):
            moved.append(msgspec.structs.replace(item, segments=tuple((move(a), move(b)) for a, b in item.segments)))
        elif isinstance(item, Circle):
            moved.append(msgspec.structs.replace(item, centre=move(item.centre), radius=item.radius * factor))
        else:
            moved.append(msgspec.structs.replace(item, at=move(item.at), size=item.size * factor))
    return moved


Bounds = tuple[float, float, float, float]


def meets(label: Sequence[Item], taken: Sequence[Bounds]) -> bool:
    """Whether an area of a label lies over a place that is taken."""
    boxes = [bounds(item.rings[0]) for item in label if isinstance(item, Area)]
    return any(a[0] < b[2] and b[0] < a[2] and a[1] < b[3] and b[1] < a[3] for a in boxes for b in taken)
