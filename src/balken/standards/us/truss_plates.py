"""Joints of toothed plates after the method of ANSI/TPI 1 chapter 8, each equation a function of its own (written from memory).

Forces in N, lengths in mm, angles in degrees between 0 and 90; strengths as their maker lists them.
"""

import math
from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from balken.catalog.sections import section
from balken.catalog.truss_plates import Steel, Teeth, steel, teeth
from balken.standards.truss_demands import PlateDemand, Point
from balken.standards.us.values import reference_values, size_factors
from balken.units.system import INCH, POUND_FORCE

Array = NDArray[np.float64]
END_DISTANCE, EDGE_DISTANCE = 0.5 * INCH, 0.25 * INCH
"""What of a stick's ends, along the grain, and edges counts for nothing under a plate (8.3.3, net area method)."""
LEAST_FORCE = 375.0 * POUND_FORCE
"""Every stick's hold is made for so much at least (8.2)."""
LEAST_BITE = 1.5 * INCH
"""A plate reaches so far over each stick at least."""


def between(along: float, across: float, angle: Array) -> Array:
    """Return a strength at an angle from those along and across: along across / (along sin2 + across cos2) (8.3.2.1, Hankinson)."""
    s = np.sin(np.radians(angle)) ** 2
    found: Array = along * across / (along * s + across * (1.0 - s))
    return found


def lateral_resistance(teeth: Teeth, grain: Array, plate: Array | float) -> Array:
    """Return what teeth hold where force runs at ``grain`` to the grain and at ``plate`` to the plate's length: by the angle to the grain
    with the plate along and across the force, straight between both (8.3.2.2), N/mm2.
    """
    along, across = between(teeth.aa, teeth.ae, grain), between(teeth.ea, teeth.ee, grain)
    return along + (across - along) * plate / 90.0


def heel_factor(pitch: float) -> float:
    """Return the reduction at heels for the moment there: 0.85 - 0.05 (12 tan slope - 2), between 0.65 and 0.85 (8.3.2.3)."""
    return min(max(0.85 - 0.05 * (12.0 * pitch - 2.0), 0.65), 0.85)


def teeth_used(force: Array | float, duration: Array | float, resistance: Array, contact: float) -> Array:
    """Return force over what teeth of both plates hold on a contact area of one plate, mm2 (8.3.1)."""
    return force / (2.0 * resistance * duration * max(contact, 1e-6))


def steel_used(pull: Array, shear: Array, line: float, angle: float, steel: Steel) -> Array:
    """Return how far the steel of a pair is used along a line of a joint that it covers for ``line`` mm at ``angle`` to its length: pulled
    apart (8.4.1) and sheared (8.4.2), both together taken straight (8.4.3).
    """
    pulls = steel.pull_along + (steel.pull_across - steel.pull_along) * (90.0 - angle) / 90.0
    shears = steel.shear_along + (steel.shear_across - steel.shear_along) * angle / 90.0
    found: Array = (np.maximum(pull, 0.0) / pulls + shear / shears) / max(line, 1e-6)
    return found


def net_section_used(pull: Array, ft: Array, breadth: float, covered: float) -> Array:
    """Return how far the wood between both plates is used by what pulls: on the depth they cover alone (8.5, taken safely)."""
    found: Array = np.maximum(pull, 0.0) / (ft * breadth * max(covered, 1e-6))
    return found


def least_contact(species: str, force: Array, duration: Array, grain: Array, heel: float | None) -> float:
    """Return the contact with one plate below which teeth cannot hold a stick, however the plate is turned, mm2."""
    values = teeth(species)
    holds = np.maximum(*(lateral_resistance(values, grain, plate) for plate in (0.0, 90.0)))
    holds *= heel_factor(heel) if heel is not None else 1.0
    return float(np.maximum(teeth_used(force, duration, holds, 1.0), teeth_used(LEAST_FORCE, 1.0, holds, 1.0)).max())


def plate_used(case: PlateDemand) -> tuple[float, str]:
    """Return how far a pair of plates is used by a stick at a joint, and by what: the most of all checks in all combinations."""
    if min(case.bite) < LEAST_BITE - 0.5 or case.contact <= 0.0:
        return NO_BITE, "bite"
    values, own = teeth(case.species), steel()
    lumber = section(case.size)
    ft = reference_values(case.species, case.grade, lumber).ft * size_factors(case.species, case.grade, lumber)[1]
    factor = heel_factor(case.heel) if case.heel is not None else 1.0
    force, ways = ways_of(case.forces, case.axis)
    grain, plate = angles_between(ways, case.axis), angles_between(ways, along_of(case.angle))
    holds = lateral_resistance(values, grain, plate) * factor
    rows = [
        (teeth_used(force, case.durations, holds, case.contact), "teeth"),
        (teeth_used(LEAST_FORCE, 1.0, holds, case.contact), "least force"),
        (net_section_used(pulls_of(case), ft * case.durations, case.breadth, case.covered), "wood between plates"),
        *((steel_used(*line, own), "steel") for line in along_lines(case)),
    ]
    best = max((float(row.max()), name) for row, name in rows)
    return max(best, (NO_BITE, "bite")) if nothing_covered(case) else best


def nothing_covered(case: PlateDemand) -> bool:
    """Whether a stick parts from others along lines of which nothing is covered."""
    return bool(case.lines) and sum(covered for _, _, covered in case.lines) <= 1.0


def along_lines(case: PlateDemand) -> Iterator[tuple[Array, Array, float, float]]:
    """Yield for each line along which a stick parts from others what of its force pulls it apart there and what shears it in each combination, N,
    how much of the line is covered, mm, and its angle to the plate's length.
    """
    pulled, whole = pulls_of(case) > 0.0, sum(covered for _, _, covered in case.lines)
    fx, fy = case.forces[:, 0], case.forces[:, 1]
    for a, b, covered in case.lines:
        if covered <= 1.0:
            continue
        line = ((b[0] - a[0]) / math.dist(a, b), (b[1] - a[1]) / math.dist(a, b))
        shear = np.abs(fx * line[0] + fy * line[1]) * covered / whole
        apart = np.where(pulled, np.abs(fx * line[1] - fy * line[0]) * covered / whole, 0.0)
        yield apart, shear, covered, angle_between(line, along_of(case.angle))


NO_BITE = 1e3
"""Used where a plate does not reach over a stick."""


def along_of(angle: float) -> tuple[float, float]:
    """Return the direction at an angle from level, degrees."""
    return math.cos(math.radians(angle)), math.sin(math.radians(angle))


def angle_between(a: tuple[float, float], b: tuple[float, float]) -> float:
    """Return the angle between two directions, whichever way they point, degrees (0 to 90)."""
    return math.degrees(math.acos(min(abs(a[0] * b[0] + a[1] * b[1]), 1.0)))


def ways_of(forces: Array, axis: Point) -> tuple[Array, Array]:
    """Return the sizes of forces (c) and their directions (c, 2): along an axis where they are nothing."""
    size = np.hypot(forces[:, 0], forces[:, 1])
    some = size > 1e-6
    return size, np.where(some[:, None], forces / np.where(some, size, 1.0)[:, None], np.array(axis))


def angles_between(ways: Array, b: Point) -> Array:
    """Return the angles between directions (c, 2) and another, whichever way they point, degrees (0 to 90)."""
    found: Array = np.degrees(np.arccos(np.minimum(np.abs(ways[:, 0] * b[0] + ways[:, 1] * b[1]), 1.0)))
    return found


def pulls_of(case: PlateDemand) -> Array:
    """Return with how much a stick pulls at a joint along its grain in each combination, N: what it gives to the joint points toward the stick
    itself.

    Of a chord that runs on through the joint nothing is parted by a pull along it.
    """
    if case.toward is None:
        return np.zeros(len(case.forces))
    pulls: Array = case.forces[:, 0] * case.toward[0] + case.forces[:, 1] * case.toward[1]
    return pulls
