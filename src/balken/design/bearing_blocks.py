"""Blocks beside a bottom chord that is crushed on its bearing: how many, how long, how nailed."""

from collections.abc import Sequence

from balken.catalog.sections import section
from balken.design.truss_demands import EVEN
from balken.design.truss_job import Combined, TrussJob
from balken.framing.bearing_blocks import BlockPlace
from balken.framing.truss_outline import Bearing, slope_on
from balken.framing.trusses import TrussFrame
from balken.standards.checks import Check
from balken.standards.demands import HeelNails
from balken.standards.standard import Standard
from balken.units.system import INCH
from balken.value import Value

LENGTHS = (12.0 * INCH, 18.0 * INCH, 24.0 * INCH)
"""Tried, the shortest first (common practice, no source)."""
CLEAR = 3.0 * INCH
"""What hangs on a truss leaves so much beside it free."""


class BearingBlocks(Value, frozen=True):
    """Blocks at a bearing: at which joint, where; how each is nailed to the chord; the check of all that presses on the plate."""

    joint: str
    place: BlockPlace
    nails: HeelNails
    check: Check


def bearing_blocks(
    job: TrussJob,
    frame: TrussFrame,
    joint: str,
    bearing: Bearing,
    forces: Sequence[float],
    combos: Sequence[Combined],
    standard: Standard,
) -> BearingBlocks | None:
    """Return the fewest blocks with which a seat that is crushed works; None where none do, or none can be there.

    ``forces``: on the seat in each combination, N.  Each block takes its part of them by what of the plate it covers, and its nails bring it there.
    """
    sizes, wood = frame.sizes, job.wood
    lumber, outline = section(sizes.bottom), frame.outline
    if not bearing.widens or outline.on_top or abs(slope_on(outline.bottom, bearing.middle)) > EVEN:
        return None
    which = max(range(len(forces)), key=lambda k: forces[k])
    for count in (1, 2):
        wide = lumber.breadth * count / sizes.plies
        check = standard.check_seat(
            sizes.bottom, wood.species, sizes.grade("bottom chord", wood.grade), forces[which] / sizes.plies, bearing.high - bearing.low, combos[which].name, wide
        )  # fmt: skip
        if check.used > 1.0 + EVEN:
            continue
        part = 1.0 / (sizes.plies + count)
        most = max(force * part / combo.duration for force, combo in zip(forces, combos, strict=True))
        for long in LENGTHS:
            place = _place(frame, bearing, long, count)
            nails = standard.block_nails(wood.species, lumber.breadth, lumber.depth, long, most)
            if place is not None and nails.fits and _free(job, place):
                return BearingBlocks(joint, place, nails, check)
    return None


def _place(frame: TrussFrame, bearing: Bearing, long: float, count: int) -> BlockPlace | None:
    """Return where blocks lie: from the end of the truss inward, over a bearing between its ends to both sides; None where that is not within it."""
    outline = frame.outline
    if bearing == outline.bearings[0]:
        low, high = bearing.low, bearing.low + long
    elif bearing == outline.bearings[-1]:
        low, high = bearing.high - long, bearing.high
    else:
        low, high = bearing.middle - long / 2.0, bearing.middle + long / 2.0
    inside = outline.start - EVEN <= low and high <= outline.end + EVEN and low <= bearing.low and bearing.high <= high
    return BlockPlace(round(low, 6), round(high, 6), count) if inside else None


def _free(job: TrussJob, place: BlockPlace) -> bool:
    """Whether nothing hangs there."""
    return all(not place.low - CLEAR < hung.x < place.high + CLEAR for hung in job.loads.hung)
