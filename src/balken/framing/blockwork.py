"""The blocks of a foundation wall, course by course: whole, half and cut ones, round openings and over steps.

Courses are counted up and down from the foot of the wall's longest stretch, in running bond: every other course
begins with a half block.  A block is cut where the wall ends off the half module, where its course meets a foot or the top in
between, and beside or round an opening or pocket.
"""

import math
from typing import Literal

from balken.catalog.blocks import Bond
from balken.framing.foundations import FoundationRun
from balken.model.records import Recess
from balken.value import Value

CutKind = Literal["whole", "half", "cut"]
NEAR = 3.0
"""A length this near to a whole or half block is one: the joints take it up, mm."""


class Laid(Value, frozen=True):
    """One block: from where to where along the wall's line and in height (joints left out), and how it was cut."""

    course: int
    low: float
    high: float
    bottom: float
    top: float
    thickness: float
    kind: CutKind


class Blockwork(Value, frozen=True):
    """The blocks of one run; ``off``: by how much its top course is lower than a whole one (0: it fits), mm."""

    blocks: tuple[Laid, ...]
    courses: int
    off: float

    def count(self, kind: CutKind, thickness: float) -> int:
        """Return how many blocks of a thickness there are of a kind."""
        return sum(1 for b in self.blocks if b.kind == kind and b.thickness == thickness)

    @property
    def thicknesses(self) -> tuple[float, ...]:
        """The thicknesses of block in it, thickest first."""
        return tuple(sorted({b.thickness for b in self.blocks}, reverse=True))


def blockwork(run: FoundationRun, recesses: tuple[Recess, ...], bond: Bond) -> Blockwork:
    """Lay the blocks of one run; ``recesses``: the openings and pockets in it."""
    f, top = run.foundation, run.band.top
    main = max(run.segments, key=lambda s: s.high - s.low)
    base = run.band.bottom - main.drop
    below = math.ceil((base - run.lowest) / bond.height - 1e-6)
    found: list[Laid] = []
    k, z = 0, base - below * bond.height
    while top - z > 1.0:
        over = min(z + bond.height, top)
        low_part = f.upper_height <= 0.0 or z + bond.height / 2.0 < top - f.upper_height
        thickness = f.thickness if low_part else f.upper_thickness
        for low, high, foot in _stretches(run, z, over):
            height = (foot, min(over, top))
            for a, b, notched in _free(low, high, height, run, recesses):
                found += _course(k, a, b, height, thickness, bond, notched)
        k, z = k + 1, over
    off = bond.height * (k - below) - (top - base)
    return Blockwork(tuple(found), k, off if off > 1.0 else 0.0)


def _stretches(run: FoundationRun, z: float, over: float) -> list[tuple[float, float, float]]:
    """Return (low, high, foot) of the wall in one course; stretches whose foot is at or below it are one."""
    begin, finish = run.span
    found: list[tuple[float, float, float]] = []
    for i, s in enumerate(run.segments):
        low = begin if i == 0 else s.low
        high = finish if i == len(run.segments) - 1 else s.high
        foot = max(run.band.bottom - s.drop, z)
        if over - foot <= 1.0:
            continue
        if found and abs(found[-1][1] - low) < 1.0 and abs(found[-1][2] - foot) < 1.0:
            found[-1] = (found[-1][0], high, foot)
        else:
            found.append((low, high, foot))
    return found


def _free(
    low: float, high: float, height: tuple[float, float], run: FoundationRun, recesses: tuple[Recess, ...]
) -> list[tuple[float, float, tuple[tuple[float, float], ...]]]:
    """Return what openings leave of a stretch, each with where blocks in it are cut round openings and pockets."""
    gaps: list[tuple[float, float]] = []
    notches: list[tuple[float, float]] = []
    for r in recesses:
        top = run.band.top - r.top
        bottom = top - r.height
        if min(top, height[1]) - max(bottom, height[0]) <= 1.0:
            continue
        span = (max(r.offset, low), min(r.offset + r.width, high))
        if span[1] - span[0] <= 1.0:
            continue
        whole = r.kind == "opening" and bottom <= height[0] + 1.0 and top >= height[1] - 1.0
        (gaps if whole else notches).append(span)
    parts, at = [], low
    for a, b in sorted(gaps):
        if a - at > 1.0:
            parts.append((at, a))
        at = max(at, b)
    if high - at > 1.0:
        parts.append((at, high))
    return [(a, b, tuple(n for n in notches if min(b, n[1]) - max(a, n[0]) > 1.0)) for a, b in parts]


def _course(
    course: int,
    low: float,
    high: float,
    height: tuple[float, float],
    thickness: float,
    bond: Bond,
    notched: tuple[tuple[float, float], ...],
) -> list[Laid]:
    """Lay one stretch of a course from its start; the last block fills what is left."""
    full = abs(height[1] - height[0] - bond.height) < NEAR
    top = height[1] - bond.joint if full else height[1]
    found: list[Laid] = []
    at, first = low, True
    while high - at > 1.0:
        wanted = bond.half if first and course % 2 else bond.length
        end = min(at + wanted - bond.joint, high)
        if high - end <= bond.joint + NEAR:
            end = high
        long = end - at
        kind: CutKind = "cut"
        if full and not any(min(end, b) - max(at, a) > 1.0 for a, b in notched):
            if abs(long - (bond.length - bond.joint)) <= NEAR:
                kind = "whole"
            elif abs(long - (bond.half - bond.joint)) <= NEAR:
                kind = "half"
        found.append(Laid(course, at, end, height[0], top, thickness, kind))
        at, first = end + bond.joint, False
    return found
