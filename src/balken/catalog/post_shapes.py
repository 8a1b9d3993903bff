"""What posts are made of: solid timbers, boards built up, steel pipes and square tubes, or a rectangle as typed.

Timbers dress 1/2 in under their nominal size from 5 in on (American Softwood Lumber Standard PS 20); pipes are those of
ASTM A53, standard weight, tubes those of ASTM A500; the wall counted is 0.93 of the nominal one (AISC 360-16, B4.2).
"""

import math
import re
from functools import lru_cache
from typing import Literal

from msgspec.structs import replace

from balken.catalog.sections import SECTIONS
from balken.geometry.plane import Point, Ring
from balken.units.system import INCH
from balken.value import Value

PostKind = Literal["timber", "built-up", "pipe", "tube", "as typed"]
SIDES = 24
"""Sides of the polygon that a pipe is drawn with."""


class PostShape(Value, frozen=True):
    """The section of a post, mm: ``breadth`` along its first direction, ``depth`` square to it.

    ``plies``: boards side by side along ``breadth``.  ``wall``: thickness of a pipe's or tube's wall, as it counts.
    ``timber``: 5 in and thicker, so that values of posts and timbers hold and not those of dimension lumber.
    """

    name: str
    kind: PostKind
    breadth: float
    depth: float
    plies: int = 1
    wall: float = 0.0

    @property
    def timber(self) -> bool:
        """Whether it is sawn as a post or timber."""
        return self.kind == "timber" and min(self.breadth, self.depth) > 4.25 * INCH

    @property
    def area(self) -> float:
        """Area, mm2; corners of tubes rounded to twice the wall."""
        b, d, t = self.breadth, self.depth, self.wall
        if self.kind == "pipe":
            return math.pi * t * (b - t)
        if self.kind == "tube":
            return _rounded(b, d, 2.0 * t)[0] - _rounded(b - 2.0 * t, d - 2.0 * t, t)[0]
        return b * d

    @property
    def gyration(self) -> float:
        """Radius of gyration about its weaker axis, mm."""
        b, d, t = self.breadth, self.depth, self.wall
        if self.kind == "pipe":
            return math.hypot(b, b - 2.0 * t) / 4.0
        if self.kind == "tube":
            inertia = _rounded(d, b, 2.0 * t)[1] - _rounded(d - 2.0 * t, b - 2.0 * t, t)[1]
            return math.sqrt(inertia / self.area)
        return min(b, d) / math.sqrt(12.0)

    @property
    def rings(self) -> tuple[Ring, ...]:
        """Its outline about its middle, and the hole within it."""
        b, d, t = self.breadth, self.depth, self.wall
        if self.kind == "pipe":
            return _circle(b / 2.0), _circle(b / 2.0 - t)
        outline = _rectangle(b, d)
        return (outline, _rectangle(b - 2.0 * t, d - 2.0 * t)) if self.kind == "tube" else (outline,)


def _rectangle(b: float, d: float) -> Ring:
    return tuple((sx * b / 2.0, sy * d / 2.0) for sx, sy in ((-1, -1), (1, -1), (1, 1), (-1, 1)))


def _circle(radius: float) -> Ring:
    def at(k: int) -> Point:
        return radius * math.cos(2.0 * math.pi * k / SIDES), radius * math.sin(2.0 * math.pi * k / SIDES)

    return tuple(at(k) for k in range(SIDES))


def _rounded(b: float, d: float, r: float) -> tuple[float, float]:
    """Return area and second moment, about the axis along ``b``, of a rectangle with corners of radius ``r``."""
    # Each corner lacks a square less a quarter circle; its own second moment is too small to count.
    lacks = r * r * (1.0 - math.pi / 4.0)
    from_edge = r * (5.0 / 6.0 - math.pi / 4.0) / (1.0 - math.pi / 4.0)
    return b * d - 4.0 * lacks, b * d**3 / 12.0 - 4.0 * lacks * (d / 2.0 - from_edge) ** 2


WALL_THAT_COUNTS = 0.93
"""Part of the nominal wall of pipes and tubes that counts (AISC 360-16, B4.2)."""
TIMBERS = {(4, 4): (3.5, 3.5), (4, 6): (3.5, 5.5), (6, 6): (5.5, 5.5), (6, 8): (5.5, 7.5), (8, 8): (7.5, 7.5)}
_PIPES = {"3": (3.5, 0.216), "3 1/2": (4.0, 0.226), "4": (4.5, 0.237), "5": (5.563, 0.258), "6": (6.625, 0.28)}
_TUBES = {(3, "1/4"): 0.25, (4, "1/4"): 0.25, (5, "1/4"): 0.25, (6, "1/4"): 0.25, (6, "3/8"): 0.375}

SHAPES: dict[str, PostShape] = {
    **{
        f"{b}x{d}": PostShape(f"{b}x{d}", "timber", tb * INCH, td * INCH)
        for (b, d), (tb, td) in TIMBERS.items()
    },
    **{
        f"{n}-2x{d}": PostShape(f"{n}-2x{d}", "built-up", n * 1.5 * INCH, SECTIONS[f"2x{d}"].depth, n)
        for d in (4, 6)
        for n in (2, 3, 4, 5)
    },
    **{
        f"Pipe {name}": PostShape(f"Pipe {name}", "pipe", od * INCH, od * INCH, wall=WALL_THAT_COUNTS * t * INCH)
        for name, (od, t) in _PIPES.items()
    },
    **{
        f"HSS {b}x{b}x{name}": PostShape(
            f"HSS {b}x{b}x{name}", "tube", b * INCH, b * INCH, wall=WALL_THAT_COUNTS * t * INCH
        )
        for (b, name), t in _TUBES.items()
    },
}  # fmt: skip
"""Posts by name, each kind in rising order."""
KINDS_OF: dict[str, tuple[PostKind, ...]] = {
    "timber": ("timber", "built-up"),
    "steel": ("pipe", "tube"),
    "concrete": (),
}
"""The kinds of post there are of each material."""
SIZES_OF: dict[str, tuple[str, ...]] = {
    material: tuple(name for name, shape in SHAPES.items() if shape.kind in kinds)
    for material, kinds in KINDS_OF.items()
}
"""The sizes there are of each material."""
TRIED: dict[str, tuple[str, ...]] = {
    "timber": tuple(f"{b}x{d}" for b, d in TIMBERS),
    "steel": tuple(f"Pipe {name}" for name in _PIPES),
    "concrete": (),
}
"""What is tried for columns left to auto, in rising order."""


_CARRIED: dict[str, PostShape] = {}
"""Entries of project files that measure otherwise than those above; a name never changes its meaning."""


def carry_shape(name: str, breadth: float, depth: float, wall: float) -> str:
    """Make known a post of a name as a project has it (mm), and return the name under which it is known."""
    base = post_shape(name)
    own = f"{base.name} of {breadth:.6g} x {depth:.6g}{f' x {wall:.6g}' if wall else ''} mm"
    _CARRIED.setdefault(_key(own), replace(base, name=own, breadth=breadth, depth=depth, wall=wall))
    return own


def _key(name: str) -> str:
    return re.sub(r"\s+", "", name.lower().replace("\u00d7", "x"))


@lru_cache(maxsize=500)
def post_shape(name: str) -> PostShape:
    """Return the shape of a name such as 6x6, 3-2x6, Pipe 4; raises KeyError with the names there are."""
    plain = _key(name)
    if plain in _CARRIED:
        return _CARRIED[plain]
    for known, shape in SHAPES.items():
        if known.lower().replace(" ", "") == plain:
            return shape
    raise KeyError(f"There is no post '{name}'; posts are {', '.join(SHAPES)}.")


def typed_shape(material: str, width: float, depth: float) -> PostShape:
    """Return the shape of a column whose sides (mm) were typed: one of the list where it has that section."""
    if material == "timber":
        for shape in SHAPES.values():
            sides = sorted((shape.breadth, shape.depth)), sorted((width, depth))
            if shape.kind == "timber" and all(abs(a - b) < 1.0 for a, b in zip(*sides, strict=True)):
                return PostShape(shape.name, "timber", width, depth)
    return PostShape("", "as typed", width, depth)
