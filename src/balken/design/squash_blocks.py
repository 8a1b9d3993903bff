"""What presses through floors of I-joists at walls that stand over a bearing: rim boards and blocks, else pairs of squash blocks.

Boards that stand along the bearing take it with their edge on the plate (NDS 3.10.2); where there are none, or they are not
enough, a pair of blocks beside each joist takes all of it.
"""

from collections.abc import Mapping

from balken.catalog.sections import section
from balken.framing.joist_blocks import BLOCK, Over
from balken.framing.joist_lines import RIM
from balken.loads.along import Diagram
from balken.standards.standard import Standard
from balken.units.system import FOOT, POUND_FORCE
from balken.value import Value

RIM_MOST = 4850.0 * POUND_FORCE / FOOT
"""A rim board bears no more along its edge, N/mm (APA rim boards of 1 1/8 in and up to 16 in deep, from memory)."""
SPREAD = 400.0
"""What a wall above brings is spread over so much of it to both sides, mm: its plates lie across the joists."""


class Squashed(Value, frozen=True):
    """How far what stands under one wall is used: what comes to a joist's width of it, and what bears it, N; on which bearer.

    ``blocks``: pairs of squash blocks, 0 where the boards along the bearing are enough.
    """

    floor: str
    wall: str
    bearer: str
    blocks: int
    force: float
    capacity: float
    combination: str
    clause: str = "NDS 3.10.2"

    @property
    def used(self) -> float:
        """How far it is used."""
        return self.force / self.capacity if self.capacity > 0.0 else 99.0


def squashed(
    floor: str,
    spacing: float,
    blocked: bool,
    wood: tuple[str, str],
    over: tuple[Over, ...],
    along: Mapping[str, Diagram],
    standard: Standard,
) -> tuple[Squashed, ...]:
    """Check what stands under each wall on plates no softer than ``wood``; ``blocked``: blocks stand over inner bearings."""  # fmt: skip
    block = section(BLOCK)
    across = standard.across_grain(*wood, block)
    rows: dict[tuple[str, str, bool], int] = {}
    for one in over:
        rows[(one.wall, one.bearer, one.outer)] = rows.get((one.wall, one.bearer, one.outer), 0) + 1
    found = []
    for (wall, bearer, outer), count in rows.items():
        if wall not in along:
            continue
        line, combo = standard.combinations.worst(along[wall].peak(SPREAD, standard.combinations)[0])
        force = max(line, 0.0) * spacing
        boards = min(RIM * across, RIM_MOST) * spacing if outer or blocked else 0.0
        pair = 2.0 * block.area * across
        enough = force <= boards
        found.append(
            Squashed(floor, wall, bearer, 0 if enough else count, force, boards if enough else pair, combo.name)
        )
    return tuple(found)
