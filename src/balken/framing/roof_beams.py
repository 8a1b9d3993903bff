"""Beams as sides of roofs: on them roofs bear as on the heads of walls, along their outer faces."""

from collections.abc import Iterable, Mapping

from msgspec.structs import replace as replace_struct

from balken.framing.bands import BEAM, Band, WallLine
from balken.framing.beams import BeamLine
from balken.framing.outlines import OutlineError, outline
from balken.geometry.plane import Point, add, distance, dot, left, meet, off_line, sub, unit
from balken.model.kinds.buildup import BuildUp, Layer
from balken.model.kinds.wall import Wall
from balken.model.records import FreePoint
from balken.units.system import INCH

REACH = 12.0 * INCH
"""A beam that ends no farther from a wall or another beam of its roof's outline meets it there, mm."""
Lines = dict[str, WallLine]


def beam_sides(walls: tuple[str, ...], lines: Mapping[str, WallLine], beams: Iterable[BeamLine]) -> Lines:
    """Return the beams among the sides of a roof as lines like those of walls, outside where the roof's outside is.

    ``walls``: walls and beams in the roof's outline.  What does not close comes back as well as it can be told.
    """
    own = [line for line in beams if line.id in walls]
    if not own:
        return {}
    others = {w: lines[w] for w in walls if w in lines}
    ends = [p for line in others.values() for p in (line.band.start, line.band.end)]
    ends += [p for line in own for p in (line.start, line.end)]
    middle = sum(p[0] for p in ends) / len(ends), sum(p[1] for p in ends) / len(ends)
    right = {line.id: dot(left(line.direction), sub(middle, line.start)) > 0.0 for line in own}
    made = _met({line.id: _side(line, right[line.id]) for line in own}, others)
    try:
        around = outline(walls, others | made)
    except OutlineError:
        return made
    turned = {w for w, inside_out in zip(around.walls, around.shared, strict=True) if inside_out and w in made}
    if not turned:
        return made
    right |= {w: not right[w] for w in turned}
    return _met({line.id: _side(line, right[line.id]) for line in own}, others)


def _side(line: BeamLine, right: bool) -> WallLine:
    """Return a beam as the line of a wall of one layer; ``right``: its outside lies to the right of its way."""
    inward = left(line.direction) if right else (-left(line.direction)[0], -left(line.direction)[1])
    start, end = (add(p, inward, -line.breadth / 2.0) for p in (line.start, line.end))
    wall = Wall(
        id=line.id, start=FreePoint(x=start[0], y=start[1]), end=FreePoint(x=end[0], y=end[1]), buildup=BEAM, foot=line.beam.top,
        head=line.beam.top, outside="right" if right else "left",
    )  # fmt: skip
    core = Layer(material="timber", thickness=line.breadth, function="core")
    band = Band(
        line.id, start, end, line.direction, inward, 0.0, ((0.0, line.breadth),), line.top, line.top, True, (0, 0)
    )
    return WallLine(wall, BuildUp(id=BEAM, layers=(core,)), band, (0.0, line.breadth), 0.0)


def _met(sides: Lines, walls: Lines) -> Lines:
    """Return beams run on, or cut off, to where they meet what is next to their ends."""
    every = sides | walls
    found = {}
    for name, side in sides.items():
        ends = [
            _end(p, side, [line for other, line in every.items() if other != name])
            for p in (side.band.start, side.band.end)
        ]
        band = side.band
        made = Band(
            band.id,
            ends[0],
            ends[1],
            unit(ends[0], ends[1]),
            band.inward,
            0.0,
            band.layers,
            band.bottom,
            band.top,
            True,
            (0, 0),
        )
        wall = replace_struct(
            side.wall, start=FreePoint(x=ends[0][0], y=ends[0][1]), end=FreePoint(x=ends[1][0], y=ends[1][1])
        )
        found[name] = WallLine(wall, side.buildup, made, side.core, side.sheathing)
    return found


def _end(at: Point, side: WallLine, others: list[WallLine]) -> Point:
    near: list[tuple[float, Point]] = []
    for line in others:
        band = line.band
        met = meet(at, side.band.direction, band.start, band.direction)
        if met is None or distance(met, at) > REACH:
            continue
        along = off_line(met, band.start, band.end)[0]
        if -REACH <= along <= band.length + REACH:
            near.append((distance(met, at), met))
    return min(near)[1] if near else at
