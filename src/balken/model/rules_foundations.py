"""Rules of foundations: walls, steps, slopes, recesses, pads, slabs; soil and concrete."""

import math

from balken.geometry.plane import distance
from balken.model.blocks import block_names, block_of
from balken.model.errors import EditError
from balken.model.lookup import by_id, height, locate, wall_label
from balken.model.records import Foundation, Hang, Pad, Project, Recess, Slab
from balken.model.rule_parts import hung, named, placed, upright, walls_there
from balken.model.sections import section
from balken.units import format_inches, format_length

STEEPEST = 0.1
"""IRC R403.1.5: the underside of a footing slopes at most 1 in 10."""


def check_foundation(project: Project, foundation: Foundation) -> None:
    """Raise EditError unless a foundation's parts are within bounds and its walls are there."""
    where = foundation.name
    walls_there(project, foundation.walls, where)
    upright(project, foundation.foot, foundation.head, where)
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
    named(section, foundation.sill_size, where)
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
    if foundation.inside_ground is not None and not 0.0 <= foundation.inside_ground <= 6000.0:
        raise EditError(
            "the earth inside lies 0 to 20 ft (6 m) below that outside.", where, "Type a depth, or leave it empty."
        )
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


def check_recess(project: Project, recess: Recess) -> None:
    """Raise EditError unless a pocket or opening lies within its foundation wall."""
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


def check_pad(project: Project, pad: Pad) -> None:
    """Raise EditError unless a pad and its pier are within bounds."""
    where = f"Pad {pad.id.rpartition('-')[2]}"
    placed(project, pad.place, where)
    top, head = hung(project, pad.top, where), hung(project, pad.head, where)
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


def check_slab(project: Project, slab: Slab) -> None:
    """Raise EditError unless a slab, its edges, holes and layers are within bounds."""
    where = slab.name
    walls_there(project, slab.walls, where)
    hung(project, Hang(level=slab.level), where)
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


def check_ground_and_concrete(project: Project) -> None:
    """Raise EditError unless soil, concrete and block are within bounds."""
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
