"""What must hold in every project: each rule raises EditError with what, where and what to do."""

import math
from collections.abc import Callable, Iterable
from typing import Any, TypeVar

import msgspec

from balken.geometry.plane import distance, segments_cross
from balken.model.blocks import block_names, block_of
from balken.model.lookup import by_id, hanging_on, height, locate, numbers
from balken.model.materials import material
from balken.model.records import (
    Choice,
    Column,
    Floor,
    Foundation,
    Grid,
    Hang,
    Opening,
    Pad,
    Place,
    Project,
    Recess,
    Record,
    Roof,
    Slab,
    SpotHeight,
    Underlay,
    Wall,
)
from balken.model.sections import section
from balken.model.species import grade_name
from balken.units import format_inches, format_length

SHORTEST_WALL = 100.0
CLOSEST_SPACING = 50.0
MOST_AXES = 300
FARTHEST = 1e6
"""1 km: nothing of a building lies farther from its origin, mm."""
WIDEST_SPACING = 3000.0


class EditError(ValueError):
    """An edit that cannot be done: what is wrong, where, and what to do instead."""

    def __init__(self, what: str, where: str = "", do: str = "") -> None:
        super().__init__(" ".join(part for part in (f"{where}: {what}" if where else what, do) if part))
        self.what, self.where, self.do = what, where, do


R = TypeVar("R", bound=Record)


def there(records: tuple[R, ...], record_id: str) -> R:
    """Return the record with that id; raises EditError when it is gone."""
    found = by_id(records).get(record_id)
    if found is None:
        raise EditError(f"there is nothing with the id '{record_id}' any more.")
    return found


def check(project: Project) -> Project:
    """Return the project, without removed levels that nothing hangs on any more; raises EditError at a broken rule.

    A rule that read the same records when it last held is not asked again.
    """
    project = _swept(project)
    _ids(project)
    for rule, fields in RULES:
        read = tuple([getattr(project, field) for field in fields])
        key = (rule, *map(id, read))
        if key not in _held:
            rule(project)
            if len(_held) > 2_000:
                _held.clear()
            _held[key] = read
    return project


_held: dict[tuple[Any, ...], tuple[Any, ...]] = {}
"""What each rule read when it held; the records are kept here, so that no others can come to have their identity."""


def _each(field: str, rule: Callable[[Project, Any], None]) -> Callable[[Project], None]:
    """Return the rule that a rule holds for each record of a collection."""

    def of_all(project: Project) -> None:
        for record in getattr(project, field):
            rule(project, record)

    return of_all


def _swept(project: Project) -> Project:
    """Let go of removed levels once nothing hangs on them."""
    gone = {level.id for level in project.levels if level.removed and not hanging_on(project, level.id)}
    if not gone:
        return project
    levels = tuple(level for level in project.levels if level.id not in gone)
    grids = tuple(
        msgspec.structs.replace(g, levels=tuple(v for v in g.levels if v not in gone)) if gone & set(g.levels) else g
        for g in project.grids
    )
    return msgspec.structs.replace(project, levels=levels, grids=grids)


def _ids(project: Project) -> None:
    seen: set[str] = set()
    records: tuple[Any, ...] = (
        *project.levels,
        *project.grids,
        *project.buildups,
        *project.walls,
        *project.openings,
        *project.foundations,
        *project.floors,
        *project.roofs,
        *project.columns,
        *project.spots,
        *project.underlays,
        *project.references,
        *project.recesses,
        *project.pads,
        *project.slabs,
    )
    for record in records:
        if not record.id or record.id in seen:
            raise EditError(f"the id '{record.id}' is used twice or empty.", type(record).__name__)
        seen.add(record.id)


def _levels(project: Project) -> None:
    names: set[str] = set()
    for level in project.levels:
        if not level.name.strip():
            raise EditError("A level needs a name.", do="Type one, such as Floor 1.")
        if level.name.strip().lower() in names and not level.removed:
            raise EditError(f"There is already a level named '{level.name}'.", do="Type another name.")
        names.update(() if level.removed else (level.name.strip().lower(),))
        if not math.isfinite(level.height) or abs(level.height) > 1e6:
            raise EditError("its height is out of all bounds.", f"Level '{level.name}'", "Type a height within 1 km.")


def _grid(project: Project, grid: Grid) -> None:
    radial = grid.kind == "radial"
    for axes, degrees in ((grid.x_axes, radial), (grid.y_axes, False)):
        if len(axes) > MOST_AXES:
            raise EditError(
                f"{len(axes)} axes one way are more than a drawing can hold.", grid.name, f"Type at most {MOST_AXES}."
            )
        if degrees and any(axis.gap < 0.5 for axis in axes[1:]):
            raise EditError("two rays are less than half a degree apart.", grid.name, "Type larger angles.")
        if degrees and sum(axis.gap for axis in axes) >= 360.0:
            raise EditError("its rays go round more than once.", grid.name, "Type angles of less than 360 in all.")
        if radial and not degrees and axes and axes[0].gap < CLOSEST_SPACING:
            raise EditError("its first arc has no radius.", grid.name, "Type a radius of at least 2 in (50 mm).")
        labels: set[str] = set()
        for i, axis in enumerate(axes):
            if not math.isfinite(axis.gap) or abs(axis.gap) > FARTHEST:
                raise EditError(f"axis {axis.label} is out of all bounds.", grid.name, "Type spacings within 1 km.")
            if i and not degrees and axis.gap < CLOSEST_SPACING:
                raise EditError(
                    f"axis {axis.label} is {axis.gap:.0f} mm from the one before it.",
                    grid.name,
                    "Type a spacing of at least 2 in (50 mm).",
                )
            if not axis.label.strip() or axis.label in labels:
                raise EditError(f"the label '{axis.label}' is empty or used twice.", grid.name, "Type another label.")
            labels.add(axis.label)


def _buildups(project: Project) -> None:
    for buildup in project.buildups:
        where = f"Build-up {buildup.name or buildup.id}"
        if not any(layer.function == "core" for layer in buildup.layers):
            raise EditError("it has no core layer.", where, "Make one layer the core.")
        for layer in buildup.layers:
            if not 1.0 <= layer.thickness <= 2000.0:
                raise EditError(f"{layer.material} is {layer.thickness:g} mm thick.", where, "Type 1 to 2000 mm.")
            _named(material, layer.material, where)


def _named(find: object, name: str, where: str) -> None:
    try:
        find(name)  # type: ignore[operator]
    except KeyError as error:
        raise EditError(str(error.args[0]), where) from None


def wall_label(project: Project, wall_id: str) -> str:
    """Return how a wall is called in messages: 'Wall 3'."""
    number = numbers(project.walls).get(wall_id)
    return f"Wall {number}" if number is not None else f"Wall '{wall_id}'"


def _place(project: Project, place: Place, where: str) -> tuple[float, float]:
    try:
        return locate(place, project.grids)
    except KeyError as error:
        raise EditError(f"it is tied to {error.args[0]}, which is not there.", where, "Place it again.") from None


def _hang(project: Project, hang: Hang, where: str) -> float:
    try:
        return height(hang, project.levels)
    except KeyError:
        raise EditError(f"it hangs on the level '{hang.level}', which is not there.", where) from None


def _upright(project: Project, foot: Hang, head: Hang, where: str) -> float:
    low, high = _hang(project, foot, where), _hang(project, head, where)
    if high - low < 50.0:
        names = by_id(project.levels)
        raise EditError(
            f"its head ({names[head.level].name}, {format_length(high, project.units)}) would not be above "
            f"its foot ({names[foot.level].name}, {format_length(low, project.units)}).",
            where,
            "Choose a higher head or a lower foot.",
        )
    return high - low


def _wall(project: Project, wall: Wall) -> None:
    where = wall_label(project, wall.id)
    if wall.buildup not in by_id(project.buildups):
        raise EditError(f"its build-up '{wall.buildup}' is not there.", where, "Choose a build-up.")
    ends = (_place(project, wall.start, where), _place(project, wall.end, where))
    if any(not math.isfinite(c) or abs(c) > 10.0 * FARTHEST for end in ends for c in end):
        raise EditError("it is out of all bounds.", where, "Draw it within 10 km of the origin.")
    length = distance(*ends)
    if length < SHORTEST_WALL:
        raise EditError(
            f"it would be {format_length(length, project.units)} long.", where, "Draw at least 4 in (100 mm)."
        )
    _upright(project, wall.foot, wall.head, where)
    check_spacing(wall.framing.spacing, where)
    _grade(wall.framing.species, wall.framing.grade, where)
    _grade(wall.framing.header_species, wall.framing.header_grade, where)
    if wall.head_under and not (wall.head_under in by_id(project.floors) or wall.head_under in by_id(project.roofs)):
        raise EditError(f"its head is fitted to '{wall.head_under}', which is not there.", where)
    if not 0.0 <= wall.cover <= 2000.0:
        raise EditError("its outer layers can reach 0 to 6 ft (2 m) below its foot.", where)


def _grade(species: str, grade: str, where: str) -> None:
    try:
        grade_name(species, grade)
    except KeyError as error:
        raise EditError(str(error.args[0]), where) from None


def _column(project: Project, column: Column) -> None:
    where = "Column"
    _place(project, column.place, where)
    _upright(project, column.foot, column.head, where)
    if not (50.0 <= column.width <= 3000.0 and 50.0 <= column.depth <= 3000.0):
        raise EditError("its sides must be 2 in to 10 ft (50 to 3000 mm).", where, 'Type a width such as 5 1/2".')


def _underlay(project: Project, underlay: Underlay) -> None:
    where = f"Underlay '{underlay.name}'"
    _hang(project, Hang(level=underlay.level), where)
    if not (math.isfinite(underlay.scale) and 1e-6 < underlay.scale < 1e6):
        raise EditError("its scale must be more than zero.", where, "Set it by two points a known length apart.")


def _crossings(project: Project) -> None:
    for first, second in crossing_walls(project):
        raise EditError(
            f"it crosses {wall_label(project, second)}.",
            wall_label(project, first),
            "Outside walls meet at corners; end it at the wall it meets.",
        )


def crossing_walls(project: Project) -> Iterable[tuple[str, str]]:
    """Yield pairs of outside walls of one storey that cross, the one drawn later first.

    Looked for by sweeping along x, so that many walls stay quick.
    """
    rows = []
    for number, wall in enumerate(project.walls):
        if wall.role == "outside":
            a, b = locate(wall.start, project.grids), locate(wall.end, project.grids)
            low, high = height(wall.foot, project.levels), height(wall.head, project.levels)
            rows.append((min(a[0], b[0]), max(a[0], b[0]), a, b, low, high, number))
    rows.sort(key=lambda row: row[0])
    near: list[Any] = []
    for row in rows:
        x, _, a, b, low, high, number = row
        near = [other for other in near if other[1] >= x]
        for _, _, c, d, other_low, other_high, other in near:
            apart = max(a[1], b[1]) < min(c[1], d[1]) or max(c[1], d[1]) < min(a[1], b[1])
            if apart or min(high, other_high) - max(low, other_low) <= 1.0:
                continue
            if segments_cross(a, b, c, d):
                yield project.walls[max(number, other)].id, project.walls[min(number, other)].id
        near.append(row)


def _opening(project: Project, opening: Opening) -> None:
    wall = by_id(project.walls).get(opening.wall)
    if wall is None:
        raise EditError(f"its wall '{opening.wall}' is not there.", f"Opening {opening.id}")
    units = project.units
    where = f"{opening.kind.capitalize()} opening in {wall_label(project, wall.id)}"
    if opening.header is not None:
        _named(section, opening.header, where)
    if opening.width < 50.0 or opening.height < 50.0:
        raise EditError("its width and height must be at least 2 in (50 mm).", where)
    length = distance(locate(wall.start, project.grids), locate(wall.end, project.grids))
    if opening.offset < 0.0 or opening.offset + opening.width > length + 0.01:
        raise EditError(
            f"it would run from {format_length(opening.offset, units)} to "
            f"{format_length(opening.offset + opening.width, units)}, "
            f"but the wall is {format_length(length, units)} long.",
            where,
            "Type a smaller width or offset.",
        )
    tall = height(wall.head, project.levels) - height(wall.foot, project.levels)
    if opening.sill < 0.0 or opening.sill + opening.height > tall + 0.01:
        raise EditError(
            f"its head would be {format_length(opening.sill + opening.height, units)} above the foot of the wall, "
            f"which is {format_length(tall, units)} tall.",
            where,
            "Type a lower sill or a smaller height.",
        )


def _spot(project: Project, spot: SpotHeight) -> None:
    if not all(math.isfinite(v) and abs(v) < FARTHEST for v in (spot.x, spot.y, spot.height)):
        raise EditError("it is out of all bounds.", "Spot height", "Type a height within 1 km.")


def _overlaps(project: Project) -> None:
    by_wall: dict[str, list[Opening]] = {}
    for opening in project.openings:
        by_wall.setdefault(opening.wall, []).append(opening)
    for group in by_wall.values():
        for i, opening in enumerate(group):
            for other in group[:i]:
                _beside(project, opening, other)


def _beside(project: Project, opening: Opening, other: Opening) -> None:
    beside = (
        other.offset >= opening.offset + opening.width
        or opening.offset >= other.offset + other.width
        or other.sill >= opening.sill + opening.height
        or opening.sill >= other.sill + other.height
    )
    if not beside:
        raise EditError(
            f"it overlaps the {other.kind} opening at {format_length(other.offset, project.units)}.",
            f"{opening.kind.capitalize()} opening in {wall_label(project, opening.wall)}",
            "Move or narrow one of them.",
        )


def _walls_there(project: Project, walls: Iterable[str], where: str) -> None:
    known = by_id(project.walls)
    for wall_id in walls:
        if wall_id not in known:
            raise EditError(f"its wall '{wall_id}' is not there.", where)


def _foundation(project: Project, foundation: Foundation) -> None:
    where = foundation.name
    _walls_there(project, foundation.walls, where)
    _upright(project, foundation.foot, foundation.head, where)
    for hang, end, role in (
        (foundation.foot, "foot", "top of footing"),
        (foundation.head, "head", "top of foundation"),
    ):
        level = by_id(project.levels)[hang.level]
        if level.role == "slab":
            raise EditError(
                f"its {end} would hang on '{level.name}', which is the top of a slab.",
                where,
                "A foundation wall runs from the top of foundation down to the top of footing; "
                f"choose the {role} level.",
            )
    _named(section, foundation.sill_size, where)
    if not 100.0 <= foundation.thickness <= 1500.0:
        raise EditError("the wall must be 4 in to 5 ft (100 to 1500 mm) thick.", where)
    depth, width = foundation.footing_depth, foundation.footing_width
    if depth is not None and not 100.0 <= depth <= 1500.0:
        raise EditError("the footing must be 4 in to 5 ft (100 to 1500 mm) thick.", where, "Type a thickness or auto.")
    if width is not None and not foundation.thickness <= width <= 6000.0:
        raise EditError(
            "the footing must be at least as wide as its wall and at most 20 ft (6 m).", where, "Type a width or auto."
        )
    if not -1000.0 <= foundation.inset <= 1000.0 or abs(foundation.footing_offset) > 1500.0:
        raise EditError("it can be set in or out by 3 ft (1 m), its footing by 5 ft (1.5 m).", where)
    if foundation.ledge and not (0.0 < foundation.ledge < foundation.thickness):
        raise EditError("the ledge must be narrower than the wall.", where)
    if foundation.upper_height < 0.0 or (
        foundation.upper_height and not (50.0 <= foundation.upper_thickness <= foundation.thickness)
    ):
        raise EditError("its upper part must be 2 in thick or more, and no thicker than the wall.", where)
    if not 0.0 <= foundation.lap <= 3000.0 or not 150.0 <= foundation.bolt_spacing <= 3000.0:
        raise EditError("the lap must be 0 to 10 ft, the bolts 6 in to 10 ft apart.", where)
    if not 0.0 <= foundation.blinding <= 500.0:
        raise EditError("the blinding must be 0 to 20 in (500 mm) thick.", where)
    if foundation.made_of != "concrete":
        _of_block(project, foundation)
    _steps(project, foundation)
    _slopes(project, foundation)


def _of_block(project: Project, foundation: Foundation) -> None:
    """Walls of block are as thick as a block; ledges and thickened edges are cast."""
    names = block_names(project.steps)
    parts = [foundation.thickness, *([foundation.upper_thickness] if foundation.upper_height else [])]
    for thickness in parts:
        if block_of(thickness) is None:
            raise EditError(
                f"there is no block {format_inches(thickness, project.units)} thick.",
                foundation.name,
                f"Type the thickness of a block ({names}; 3/8 in or 10 mm less than its module).",
            )
    if foundation.kind == "thickened edge":
        raise EditError("a thickened edge is cast with its slab.", foundation.name, "Make it of concrete.")
    if foundation.ledge:
        raise EditError(
            "a ledge is cast.", foundation.name, "Use a thinner upper part instead, or make the wall of concrete."
        )


STEEPEST = 0.1
"""IRC R403.1.5: the underside of a footing slopes at most 1 in 10."""


def _slopes(project: Project, foundation: Foundation) -> None:
    """Sloping stretches lie on their walls, apart from one another, with no step in them, 1 in 10 at most."""
    units = project.units
    for wall_id in dict.fromkeys(slope.wall for slope in foundation.slopes):
        where = f"{foundation.name}, slope under {wall_label(project, wall_id)}"
        if wall_id not in foundation.walls:
            raise EditError("the wall does not stand on this foundation.", where, "Remove the slope.")
        wall, reached = by_id(project.walls)[wall_id], -1.0
        length = distance(locate(wall.start, project.grids), locate(wall.end, project.grids))
        for s in sorted((s for s in foundation.slopes if s.wall == wall_id), key=lambda s: s.start):
            if not all(math.isfinite(v) for v in (s.start, s.end, s.deeper_start, s.deeper_end)):
                raise EditError("it has no place.", where, "Type distances within the wall.")
            if not -0.01 <= s.start < s.end - 100.0 or s.end > length + 0.01:
                raise EditError(
                    f"it would run from {format_length(s.start, units)} to {format_length(s.end, units)}, "
                    f"but the wall is {format_length(length, units)} long.",
                    where,
                    "Type distances within the wall, 4 in (100 mm) apart or more.",
                )
            if s.start < reached - 0.01:
                raise EditError("two overlap.", where, "Type distances that leave them apart.")
            reached = s.end
            if min(s.deeper_start, s.deeper_end) < 0.0 or max(s.deeper_start, s.deeper_end) > 3000.0:
                raise EditError("it can be up to 10 ft (3 m) deeper, never higher.", where)
            steep = abs(s.deeper_end - s.deeper_start) / (s.end - s.start)
            if steep > STEEPEST + 1e-6:
                raise EditError(
                    f"it slopes 1 in {1.0 / steep:.1f}; 1 in 10 is the most (IRC R403.1.5).",
                    where,
                    "Make it longer or less deep, or step the footing.",
                )
            if any(t.wall == wall_id and s.start < t.at < s.end for t in foundation.steps):
                raise EditError("there is a step in it.", where, "End it at the step.")


def _steps(project: Project, foundation: Foundation) -> None:
    """Steps lie on their walls, apart by more than the lap, and leave a wall above the footing."""
    units = project.units
    tall = height(foundation.head, project.levels) - height(foundation.foot, project.levels)
    for wall_id in dict.fromkeys(step.wall for step in foundation.steps):
        where = f"{foundation.name}, steps under {wall_label(project, wall_id)}"
        if wall_id not in foundation.walls:
            raise EditError("the wall does not stand on this foundation.", where, "Remove the step.")
        wall = by_id(project.walls)[wall_id]
        length = distance(locate(wall.start, project.grids), locate(wall.end, project.grids))
        down, before = 0.0, None
        for step in sorted((s for s in foundation.steps if s.wall == wall_id), key=lambda s: s.at):
            if not math.isfinite(step.at):
                raise EditError("one has no place.", where, "Type a distance within the wall.")
            if not -0.01 <= step.at <= length:
                raise EditError(
                    f"one lies {format_length(step.at, units)} along, but the wall is {format_length(length, units)} long.",
                    where,
                    "Type a distance within the wall.",
                )
            if not math.isfinite(step.drop) or abs(step.drop) > 6000.0:
                raise EditError("a step of more than 20 ft (6 m) makes no sense.", where)
            if before is not None and step.at - before < max(foundation.lap, 100.0) - 0.01:
                raise EditError(
                    f"two lie {format_length(step.at - before, units)} apart, less than the lap of "
                    f"{format_length(foundation.lap, units)}.",
                    where,
                    "Move them apart, or make one of them.",
                )
            before = step.at if step.at > 0.0 else None
            down += step.drop
            if tall + down < 50.0:
                raise EditError("the wall would have no height left.", where, "Type a smaller step up.")


def _recess(project: Project, recess: Recess) -> None:
    where = f"{recess.kind.capitalize()} in a foundation wall"
    foundation = by_id(project.foundations).get(recess.foundation)
    if foundation is None or recess.wall not in foundation.walls:
        raise EditError("its foundation wall is not there.", where)
    wall = by_id(project.walls)[recess.wall]
    length = distance(locate(wall.start, project.grids), locate(wall.end, project.grids))
    if recess.width < 20.0 or recess.height < 20.0 or recess.offset < 0.0 or recess.offset + recess.width > length:
        raise EditError(
            f"it would run from {format_length(recess.offset, project.units)} to "
            f"{format_length(recess.offset + recess.width, project.units)} along a wall "
            f"{format_length(length, project.units)} long.",
            where,
            "Type a place within the wall, at least 1 in wide and high.",
        )
    if recess.top < 0.0 or (recess.kind == "pocket" and not 10.0 <= recess.depth < foundation.thickness):
        raise EditError("a pocket must be shallower than the wall is thick.", where)


def _pad(project: Project, pad: Pad) -> None:
    where = f"Pad {pad.id.rpartition('-')[2]}"
    _place(project, pad.place, where)
    top, head = _hang(project, pad.top, where), _hang(project, pad.head, where)
    if pad.pier > 0.0 and head - top < 10.0:
        raise EditError(
            "the head of its pier would not be above the pad.", where, "Choose a higher head, or a pier of 0."
        )
    if pad.pier and not 100.0 <= pad.pier <= 3000.0:
        raise EditError("the pier must be 4 in to 10 ft (100 mm to 3 m) wide, or 0 for none.", where)
    if pad.width is not None and not max(200.0, pad.pier) <= pad.width <= 7600.0:
        raise EditError("it must be 8 in to 25 ft wide and not narrower than its pier.", where, "Type a width or auto.")
    if pad.thickness is not None and not 100.0 <= pad.thickness <= 1530.0:
        raise EditError("it must be 4 in to 5 ft (100 to 1530 mm) thick.", where, "Type a thickness or auto.")
    if pad.joined:
        other = by_id(project.pads).get(pad.joined)
        if other is None or other is pad or other.joined or any(p.joined == pad.id for p in project.pads):
            raise EditError(
                "it can be joined with one other pad that is not joined already.", where, "Part the other one first."
            )
        if sum(p.joined == pad.joined for p in project.pads) > 1:
            raise EditError("the other pad is joined with another one.", where, "Part that one first.")
        if distance(locate(pad.place, project.grids), locate(other.place, project.grids)) < 200.0:
            raise EditError("the two pads stand in the same place.", where, "Remove one of them.")
    if any(not 0.0 <= v < 1e8 or not math.isfinite(v) for v in (pad.dead, pad.live, pad.snow, pad.uplift, pad.push)):
        raise EditError("its loads must be zero or more.", where)


def _slab(project: Project, slab: Slab) -> None:
    where = slab.name
    _walls_there(project, slab.walls, where)
    _hang(project, Hang(level=slab.level), where)
    if not 50.0 <= slab.thickness <= 1500.0:
        raise EditError("the slab must be 2 in to 5 ft (50 to 1500 mm) thick.", where)
    for value in (slab.insulation, slab.subbase, slab.blinding, slab.edge_depth, slab.haunch):
        if not 0.0 <= value <= 2000.0:
            raise EditError("layers, edges and haunches must be 0 to 6 ft (2 m).", where)
    if (
        not 0.0 <= slab.seat <= 1000.0
        or not 50.0 <= slab.edge_width <= 3000.0
        or not 50.0 <= slab.haunch_width <= 3000.0
    ):
        raise EditError("its seat, edge or haunch is out of bounds.", where)
    for hole in slab.holes:
        if len(hole) < 3 or any(not math.isfinite(c) for p in hole for c in p):
            raise EditError("a hole needs three corners or more.", where)
    if any(not abs(bow.rise) <= 30_000.0 for bow in slab.bows):
        raise EditError("an edge can bow out or in by at most 100 ft (30 m).", where)


def _ground_and_concrete(project: Project) -> None:
    soil, concrete = project.soil, project.concrete
    if not 5.0 <= soil.weight <= 30.0 or not 0.0 <= soil.fluid <= 40.0:
        raise EditError("soil weighs 5 to 30 kN/m3 (30 to 190 pcf).", "Soil", "Type such as 120 pcf.")
    if not 0.0 < soil.friction < 60.0:
        raise EditError("the angle of friction must be between 0 and 60 degrees.", "Soil", "Type such as 30.")
    if not 0.0 <= soil.surcharge <= 500.0 or not 0.0 <= soil.base_friction <= 2.0 or not 0.1 <= soil.spread <= 10.0:
        raise EditError("surcharge, friction under the footing or spread is out of bounds.", "Soil")
    if not 6.8 <= concrete.fc <= 104.0 or not 200.0 <= concrete.fy <= 700.0:
        raise EditError(
            "concrete must be 1000 to 15,000 psi, steel 30 to 100 ksi.", "Concrete", "Type such as 2500 psi and 60 ksi."
        )
    if not 5.0 <= project.masonry.strength <= 35.0:
        raise EditError("walls of block have 750 to 5000 psi (5 to 35 MPa).", "Block", "Type such as 2000 psi.")


def check_spacing(spacing: float | None, where: str) -> None:
    """Raise EditError unless the spacing is None (auto) or between 2 in and 10 ft."""
    if spacing is not None and not CLOSEST_SPACING <= spacing <= WIDEST_SPACING:
        raise EditError(
            "the spacing must be more than 2 in (50 mm) and less than 10 ft (3 m).",
            where,
            "Type one such as 16in, 400 mm or auto.",
        )


def _choice(choice: Choice, where: str) -> None:
    if choice.size is not None:
        _named(section, choice.size, where)
        if section(choice.size).nominal[0] < 2 or section(choice.size).plies > 1:
            raise EditError(f"{choice.size} is not a size for it.", where, "Choose one such as 2x8.")
    _grade(choice.species, choice.grade, where)
    check_spacing(choice.spacing, where)


def _floor(project: Project, floor: Floor) -> None:
    _walls_there(project, floor.walls, floor.name)
    _hang(project, Hang(level=floor.level), floor.name)
    _choice(floor.joists, floor.name)
    if not 0.0 <= floor.deck <= 500.0:
        raise EditError("the deck must be 0 to 20 in (500 mm) thick.", floor.name)


def _roof(project: Project, roof: Roof) -> None:
    _walls_there(project, roof.walls, roof.name)
    _hang(project, roof.bearing, roof.name)
    _choice(roof.rafters, roof.name)
    _choice(roof.ties, roof.name)
    if roof.ridge_size is not None:
        _named(section, roof.ridge_size, roof.name)
    if not 0.05 <= roof.pitch <= 3.8:
        raise EditError("a gable roof needs a pitch between 1:12 and 75 degrees.", roof.name, "Type one such as 6:12.")
    if not 0.0 <= roof.overhang <= 3000.0:
        raise EditError("the overhang must be 0 to 10 ft (3 m).", roof.name)
    if not 0.0 <= roof.deck <= 500.0:
        raise EditError("the roof deck must be 0 to 20 in (500 mm) thick.", roof.name)


def _strings(project: Project) -> None:
    for field in ("first", "between", "elevation"):
        value = getattr(project.strings, field)
        if not 10.0 <= value <= 20_000.0:
            raise EditError(
                "the distances of dimension strings must be 1/2 in to 65 ft (10 mm to 20 m).",
                "Dimension strings",
                'Type one such as 12".',
            )


def _loads(project: Project) -> None:
    for field in project.loads.__struct_fields__:
        value = getattr(project.loads, field)
        if not (math.isfinite(value) and 0.0 <= value < 1e5):
            raise EditError(f"{field.replace('_', ' ')} must be zero or more.", "Loads")
    if project.loads.soil_bearing <= 0.0:
        raise EditError("the soil bearing value must be more than zero.", "Loads", "Type one such as 1500 psf.")
    if not 1000.0 <= project.stock_length <= 30_000.0:
        raise EditError("the longest stock must be 3 to 100 ft (1 to 30 m).", "Loads")
    if project.cut is not None and distance(project.cut.start, project.cut.end) < SHORTEST_WALL:
        raise EditError("the cut line has no length.", do="Draw it across the building.")


RULES: tuple[tuple[Callable[[Project], None], tuple[str, ...]], ...] = (
    (_levels, ("levels",)),
    (_each("grids", _grid), ("grids",)),
    (_buildups, ("buildups",)),
    (_each("walls", _wall), ("walls", "buildups", "grids", "levels")),
    (_crossings, ("walls", "grids", "levels")),
    (_each("openings", _opening), ("openings", "walls", "grids", "levels")),
    (_overlaps, ("openings",)),
    (_each("foundations", _foundation), ("foundations", "walls", "grids", "levels")),
    (_each("recesses", _recess), ("recesses", "foundations", "walls", "grids")),
    (_each("pads", _pad), ("pads", "grids", "levels")),
    (_each("slabs", _slab), ("slabs", "walls", "levels")),
    (_ground_and_concrete, ("soil", "concrete", "masonry")),
    (_each("columns", _column), ("columns", "grids", "levels")),
    (_each("underlays", _underlay), ("underlays", "levels")),
    (_each("spots", _spot), ("spots",)),
    (_each("floors", _floor), ("floors", "walls", "levels")),
    (_strings, ("strings",)),
    (_each("roofs", _roof), ("roofs", "walls", "levels")),
    (_loads, ("loads", "stock_length", "cut")),
)
"""Each rule with the fields of the project that it reads (beside the units and numbers in its message)."""
