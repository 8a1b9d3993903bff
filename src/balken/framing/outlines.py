"""Closed outlines from walls drawn corner to corner."""

from dataclasses import dataclass

import shapely

from balken.framing.bands import WallLine
from balken.geometry.plane import TOUCH, Point, Ring, anticlockwise, area, distance, meet


class OutlineError(ValueError):
    """The walls named do not close an outline; the message says where it is open or crosses."""


@dataclass(frozen=True, slots=True)
class Outline:
    """Walls in order round a building, anticlockwise; ``edges`` pairs each ring side with its wall."""

    walls: tuple[str, ...]
    core: Ring
    """Ring through the outer core faces, mm; side i runs from corner i to i + 1 on wall i."""


def outline(wall_ids: tuple[str, ...], lines: dict[str, WallLine]) -> Outline:
    """Order walls into a closed outline on their outer core faces.

    Interior walls among them are passed over.  Raises OutlineError when it is open or crosses itself.
    """
    chosen = [lines[w] for w in wall_ids if w in lines and lines[w].wall.role == "outside"]
    if len(chosen) < 3:
        raise OutlineError(f"{len(chosen)} outside walls cannot close an outline; at least three are needed")
    chain, left_over = [chosen[0]], chosen[1:]
    points = [chosen[0].band.start]
    end = chosen[0].band.end
    while left_over:
        points.append(end)
        for line in left_over:
            if distance(line.band.start, end) < TOUCH:
                following, end = line, line.band.end
                break
            if distance(line.band.end, end) < TOUCH:
                following, end = line, line.band.start
                break
        else:
            raise OutlineError("the outline is open where a wall ends without another starting there")
        chain.append(following)
        left_over.remove(following)
    if distance(end, points[0]) > TOUCH:
        raise OutlineError("the outline does not come back to where it starts")
    if not shapely.LinearRing(points).is_simple:
        raise OutlineError("the outline crosses itself")
    if area(points) < 0.0:
        chain.reverse()
    ring = _offset_ring(chain)
    if area(ring) < 0.0 or not shapely.LinearRing(ring).is_simple:
        raise OutlineError("the outline is too narrow for its walls")
    return Outline(tuple(line.wall.id for line in chain), ring)


def _offset_ring(chain: list[WallLine]) -> Ring:
    corners: list[Point] = []
    for i, line in enumerate(chain):
        before = chain[i - 1]
        p, q = before.band.at(0.0, before.core[0]), line.band.at(0.0, line.core[0])
        corner = meet(p, before.band.direction, q, line.band.direction)
        if corner is None:
            shared = min(
                ((a, b) for a in (line.band.start, line.band.end) for b in (before.band.start, before.band.end)),
                key=lambda pair: distance(*pair),
            )[0]
            along = 0.0 if shared == line.band.start else line.band.length
            corner = line.band.at(along, line.core[0])
        corners.append(corner)
    return tuple(corners)


def outline_of_all(lines: dict[str, WallLine], foot: float | None = None) -> tuple[str, ...]:
    """Return the outside walls (of one storey when ``foot`` is given) that a new layout would take."""
    return tuple(
        w
        for w, line in lines.items()
        if line.wall.role == "outside" and (foot is None or abs(line.band.bottom - foot) < 1.0)
    )


__all__ = ["Outline", "OutlineError", "anticlockwise", "outline", "outline_of_all"]
