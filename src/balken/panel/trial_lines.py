"""What a trial would make, move or take away, as outlines over the drawing."""

from collections.abc import Iterable, Iterator, Sequence

from balken.derive.roof_sketch import RoofSketch, cut_faces
from balken.derived.model import Model
from balken.documents.display import Area, Circle, Item, Path
from balken.framing.pieces import Piece
from balken.geometry.plane import Point, add, turn
from balken.geometry.prism import TOP, View
from balken.model.lookup import axis_positions, by_id, find
from balken.model.naming import axis_name
from balken.model.records import Project
from balken.remembered import remembered

MOST = 400
"""More outlines than this say no more."""
PEN = "thin"


def plan_trial_lines(trial: Model, model: Model, shown: Sequence[Item]) -> list[Item]:
    """Return what a trial makes, seen from above; when it makes nothing, what it takes away and moves on the plan."""
    refs = {item.ref for item in shown if item.ref}
    pieces = _made(trial, model)
    if pieces:
        return _outlines(pieces, TOP, filled=True)
    moved = (
        p
        for p in _changed(trial, model)
        if p.key in refs or p.owner in refs or (p.role == "wall layer" and p.wall in refs)
    )
    gone = _outlines(_made(model, trial), TOP, filled=True)
    return gone + _outlines(moved, TOP) + _moved_axes(trial.project, model.project, shown)


def section_trial_lines(trial: Model, model: Model, view: View) -> list[Item]:
    """Return what a trial makes, seen across the cut; when it makes nothing, what it takes away and moves there."""
    pieces = _made(trial, model)
    if pieces:
        return _outlines(pieces, view, filled=True)
    gone = _outlines((p for p in _made(model, trial) if _meets(p, view)), view, filled=True)
    return gone + _outlines((p for p in _changed(trial, model) if _meets(p, view)), view)


def trial_pieces(trial: Model, model: Model) -> list[Piece]:
    """Return the pieces that a trial makes; when it makes nothing, those that it changes, as they would be."""
    return _made(trial, model) or list(_changed(trial, model))


def plan_sketch_lines(sketch: RoofSketch) -> list[Item]:
    """Return the ridges, hips and valleys of a roof being dragged, and its outline with overhangs, seen from above."""
    if sketch.problem:
        return []
    lines = (line for line in sketch.plan.surface.lines if line.kind in ("ridge", "hip", "valley"))
    return [Path(sketch.plan.ring, PEN, closed=True), *(Path((line.start[:2], line.end[:2]), PEN) for line in lines)]


def section_sketch_lines(sketch: RoofSketch, view: View) -> list[Item]:
    """Return the planes of a roof being dragged where the cut meets them."""
    return [] if sketch.problem else [Path(ends, PEN) for _, ends in cut_faces(sketch.plan, view)]


def _meets(piece: Piece, view: View) -> bool:
    low, high = piece.solid.depths(view)
    return low <= 0.0 <= high


def _outlines(pieces: Iterable[Piece], view: View, filled: bool = False) -> list[Item]:
    """Return the outlines of pieces, each place once; at most ``MOST``.  What comes or goes is filled."""
    found: dict[object, Item] = {}
    for piece in pieces:
        ring = piece.solid.outline(view)[0]
        mark = tuple([(round(x), round(y)) for x, y in ring])
        if mark not in found and len(ring) > 2:
            found[mark] = Area((ring,), "", PEN) if filled else Path(ring, PEN, closed=True)
            if len(found) == MOST:
                break
    return list(found.values())


def _made(trial: Model, model: Model) -> list[Piece]:
    """Return the pieces of what is new in the first: of a wall, a layout that the other's project does not have."""
    new = {owner for owner in _owners(trial) - _owners(model) if find(model.project, owner) is None}
    return [piece for piece in _changed(trial, model) if piece.owner in new] if new else []


def _moved_axes(after: Project, before: Project, shown: Sequence[Item]) -> list[Item]:
    """Return the axes of square grids that move in theirs, as they are drawn, where they will be."""
    known = by_id(before.grids)
    by: dict[str, Point] = {}
    for grid in after.grids:
        old = known.get(grid.id)
        if old is None or grid.kind != "square" or (grid.origin, grid.angle) != (old.origin, old.angle):
            continue
        for axes, olds, way in ((grid.x_axes, old.x_axes, (1.0, 0.0)), (grid.y_axes, old.y_axes, (0.0, 1.0))):
            places = dict(zip((axis.id for axis in olds), axis_positions(olds), strict=True))
            for axis, at in zip(axes, axis_positions(axes), strict=True):
                if abs(at - places.get(axis.id, at)) > 1e-6:
                    by[axis_name(grid.id, axis.id)] = add((0.0, 0.0), turn(way, grid.angle), at - places[axis.id])
    found: list[Item] = []
    for item in shown:
        if item.ref in by:
            if isinstance(item, Path):
                found.append(Path(tuple(add(p, by[item.ref]) for p in item.points), PEN))
            elif isinstance(item, Circle):
                found.append(Circle(add(item.centre, by[item.ref]), item.radius, PEN))
    return found


def _changed(trial: Model, model: Model) -> Iterator[Piece]:
    """Go through the pieces that stand elsewhere, or not at all, in the model.

    The sticks of a wall are hidden in its layers: they are gone through only where nothing but they change.
    """
    same = {id(group) for group in model.groups}
    groups = [group for group in trial.groups if id(group) not in same]
    kept = {id(group) for group in trial.groups}
    known = {key: p for group in model.groups if id(group) not in kept for key, p in _by_key(group).items()}
    for group in groups:
        yield from (p for p in group if p.key not in known or known[p.key].solid != p.solid)
    for wall, framed in trial.framed.items():
        before = model.framed.get(wall)
        if before is not None and framed is not before and trial.layers[wall] is model.layers[wall]:
            sticks = _by_key(before.pieces)
            yield from (p for p in framed.pieces if p.key not in sticks or sticks[p.key].solid != p.solid)


def _owners(model: Model) -> set[str]:
    return {owner for group in model.groups for owner in _owners_of(group)}


@remembered(4_000)
def _owners_of(group: tuple[Piece, ...]) -> set[str]:
    return {piece.owner for piece in group}


@remembered(4_000)
def _by_key(group: tuple[Piece, ...]) -> dict[str, Piece]:
    return {piece.key: piece for piece in group}
