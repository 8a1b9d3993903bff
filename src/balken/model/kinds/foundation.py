"""Foundations: walls on strip footings under the walls named, with steps and slopes."""

import math
from typing import TYPE_CHECKING, Annotated, Literal

from balken.catalog.blocks import block_names, block_of
from balken.catalog.sections import lumber_section, sawn_section
from balken.geometry.plane import distance
from balken.model.base import Hang, Record, To, WallIds
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind
from balken.model.places import by_id, height, locate, wall_label
from balken.model.rule_parts import (
    named,
    off_its_wall,
    upright,
    walls_there,
)
from balken.units import say_inches, say_length
from balken.units.system import FOOT, INCH

if TYPE_CHECKING:
    from balken.model.records import Project


SHORTEST_SLOPE = 100.0
DEEPEST_SLOPE = 3000.0
FoundationKind = Literal["wall on footing", "basement", "slab on ground", "thickened edge"]
WallMaterial = Literal["concrete", "hollow block", "grouted block"]
STEEPEST = 0.1
"""IRC R403.1.5: the underside of a footing slopes at most 1 in 10."""


class Slope(Record, frozen=True, kw_only=True):
    """A stretch of a footing whose underside slopes: from ``start`` to ``end`` mm along a wall (from its start corner).

    ``deeper_start``, ``deeper_end``: how much deeper than level it is there, mm; its top stays level.
    """

    wall: Annotated[str, To(("walls",), "with")]
    start: float
    end: float
    deeper_start: float = 0.0
    deeper_end: float = 0.0


class Step(Record, frozen=True, kw_only=True):
    """A step of a foundation: from ``at`` mm along a wall on (from its start corner) it lies ``drop`` mm lower.

    A step at 0 says how much lower than the foundation's foot the run begins; a drop below zero goes up.
    """

    wall: Annotated[str, To(("walls",), "with")]
    at: float
    drop: float


NO_SILL = "none"
"""What a foundation wall has in place of a sill plate where concrete lies on it."""


class Foundation(Record, frozen=True, kw_only=True):
    """Foundation walls on strip footings under the walls named.

    ``kind`` "thickened edge": the wall is the edge of a slab and its own footing.  ``inset``: how far its
    outside face lies inside the sheathing line.  ``ledge``: how far it stands out below ``ledge_drop``
    under its top, to carry a veneer.  ``upper_height``, ``upper_thickness``: the wall's upper part where that
    is thinner (0: it is not).  ``footing_offset``: of the footing's middle outward from the wall's.
    ``footing_width``, ``footing_depth`` None: Balken chooses.  ``steps``: where it steps down.
    ``lap``: how far the lower footing runs on under the upper one.  ``bolt_spacing``: of the anchor bolts.
    ``blinding``: lean concrete under the footings, thick, stepping with them.  ``made_of``: what the walls are;
    bars in hollow block stand in cells that are grouted for them.  ``slopes``: where its footing is deeper on a slope.
    ``boundary``: the face of the wall beyond which its footing must not go; it then grows to the other side alone.
    ``inside_ground``: how far the earth inside lies below that outside, as in a crawl space, mm; None: it is dug down
    to the top of the footing.  ``lining``: thickness of rigid insulation on the inside face of its outside walls (0: none).
    """

    id: str
    name: str
    walls: WallIds
    foot: Hang
    head: Hang
    thickness: float = 8.0 * INCH
    footing_width: float | None = None
    footing_depth: float | None = 10.0 * INCH
    sill_size: str = "2x6"
    kind: FoundationKind = "wall on footing"
    inset: float = 0.0
    ledge: float = 0.0
    ledge_drop: float = 8.0 * INCH
    upper_height: float = 0.0
    upper_thickness: float = 0.0
    footing_offset: float = 0.0
    steps: tuple[Step, ...] = ()
    lap: float = 24.0 * INCH
    bolt_spacing: float = 6.0 * FOOT
    blinding: float = 0.0
    made_of: WallMaterial = "concrete"
    slopes: tuple[Slope, ...] = ()
    boundary: Literal["none", "outside", "inside"] = "none"
    inside_ground: float | None = None
    lining: float = 0.0

    @property
    def plate(self) -> tuple[float, float]:
        """Thickness and width of its sill plate, mm; where there is none, nothing, and as wide as the wall."""
        if self.sill_size == NO_SILL:
            return 0.0, self.thickness
        board = sawn_section(self.sill_size)
        return board.breadth, board.depth


def check_foundation(project: "Project", foundation: Foundation) -> None:
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
    if foundation.sill_size != NO_SILL:
        named(lumber_section, foundation.sill_size, where)
    if foundation.lining != 0.0 and not 10.0 <= foundation.lining <= 300.0:
        raise EditError("its lining must be 1/2 in to 12 in (10 to 300 mm) thick, or 0.", where)
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


def _of_block(project: "Project", foundation: Foundation) -> None:
    """Walls of block are as thick as a block; ledges and thickened edges are cast."""
    names = block_names(project.steps)
    parts = [foundation.thickness, *([foundation.upper_thickness] if foundation.upper_height else [])]
    for thickness in parts:
        if block_of(thickness) is None:
            raise EditError(
                f"there is no block {say_inches(thickness, project.units)} thick.",
                foundation.name,
                f"Type the thickness of a block ({names}; 3/8 in or 10 mm less than its module).",
            )
    if foundation.kind == "thickened edge":
        raise EditError("a thickened edge is cast with its slab.", foundation.name, "Make it of concrete.")
    if foundation.ledge:
        raise EditError(
            "a ledge is cast.", foundation.name, "Use a thinner upper part instead, or make the wall of concrete."
        )


def _slopes(project: "Project", foundation: Foundation) -> None:
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
            if not -0.01 <= s.start < s.end - SHORTEST_SLOPE or s.end > length + 0.01:
                off = off_its_wall(s.start, s.end, length, units)
                if s.start >= -0.01 and s.end <= length + 0.01:
                    off = f"it would be {say_length(max(s.end - s.start, 0.0), units)} long."
                raise EditError(off, where, "Type distances within the wall, 4 in (100 mm) apart or more.")
            if s.start < reached - 0.01:
                raise EditError("two overlap.", where, "Type distances that leave them apart.")
            reached = s.end
            if min(s.deeper_start, s.deeper_end) < 0.0 or max(s.deeper_start, s.deeper_end) > DEEPEST_SLOPE:
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


def _steps(project: "Project", foundation: Foundation) -> None:
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
                at = f"{say_length(-step.at, units)} before its start"
                if step.at > 0.0:
                    at = f"{say_length(step.at - length, units)} past its end; it is {say_length(length, units)} long"
                raise EditError(f"one lies off the wall, {at}.", where, "Type a distance within the wall.")
            if not math.isfinite(step.drop) or abs(step.drop) > 6000.0:
                raise EditError("a step of more than 20 ft (6 m) makes no sense.", where)
            if before is not None and step.at - before < max(foundation.lap, 100.0) - 0.01:
                raise EditError(
                    f"two lie {say_length(step.at - before, units)} apart, less than the lap of "
                    f"{say_length(foundation.lap, units)}.",
                    where,
                    "Move them apart, or make one of them.",
                )
            before = step.at if step.at > 0.0 else None
            down += step.drop
            if tall + down < 50.0:
                raise EditError("the wall would have no height left.", where, "Type a smaller step up.")


KIND = Kind(Foundation, "foundations", "foundation", "foundation", "foundations", check_foundation)
