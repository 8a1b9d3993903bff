"""Joints of toothed plates after the method of ANSI/TPI 1 chapter 8, each equation a function of its own (written from memory).

Forces in N, lengths in mm, angles in degrees between 0 and 90; strengths as their maker lists them.
"""

import math
from collections.abc import Iterator

from balken.catalog.sections import section
from balken.catalog.truss_plates import Steel, Teeth, steel, teeth
from balken.standards.truss_demands import PlateDemand
from balken.standards.us.values import reference_values, size_factors
from balken.units.system import INCH, POUND_FORCE

END_DISTANCE, EDGE_DISTANCE = 0.5 * INCH, 0.25 * INCH
"""What of a stick's ends, along the grain, and edges counts for nothing under a plate (8.3.3, net area method)."""
LEAST_FORCE = 375.0 * POUND_FORCE
"""Every stick's hold is made for so much at least (8.2)."""
LEAST_BITE = 1.5 * INCH
"""A plate reaches so far over each stick at least."""


def between(along: float, across: float, angle: float) -> float:
    """Return a strength at an angle from those along and across: along across / (along sin2 + across cos2) (8.3.2.1, Hankinson)."""
    s, c = math.sin(math.radians(angle)) ** 2, math.cos(math.radians(angle)) ** 2
    return along * across / (along * s + across * c)


def lateral_resistance(teeth: Teeth, grain: float, plate: float) -> float:
    """Return what teeth hold where force runs at ``grain`` to the grain and at ``plate`` to the plate's length: by the angle to the grain
    with the plate along and across the force, straight between both (8.3.2.2), N/mm2.
    """
    along, across = between(teeth.aa, teeth.ae, grain), between(teeth.ea, teeth.ee, grain)
    return along + (across - along) * plate / 90.0


def heel_factor(pitch: float) -> float:
    """Return the reduction at heels for the moment there: 0.85 - 0.05 (12 tan slope - 2), between 0.65 and 0.85 (8.3.2.3)."""
    return min(max(0.85 - 0.05 * (12.0 * pitch - 2.0), 0.65), 0.85)


def teeth_used(force: float, duration: float, resistance: float, contact: float) -> float:
    """Return force over what teeth of both plates hold on a contact area of one plate, mm2 (8.3.1)."""
    return force / (2.0 * resistance * duration * max(contact, 1e-6))


def steel_used(pull: float, shear: float, line: float, angle: float, steel: Steel) -> float:
    """Return how far the steel of a pair is used along a line of a joint that it covers for ``line`` mm at ``angle`` to its length: pulled
    apart (8.4.1) and sheared (8.4.2), both together taken straight (8.4.3).
    """
    pulls = steel.pull_along + (steel.pull_across - steel.pull_along) * (90.0 - angle) / 90.0
    shears = steel.shear_along + (steel.shear_across - steel.shear_along) * angle / 90.0
    return (max(pull, 0.0) / pulls + shear / shears) / max(line, 1e-6)


def net_section_used(pull: float, ft: float, breadth: float, covered: float) -> float:
    """Return how far the wood between both plates is used by what pulls: on the depth they cover alone (8.5, taken safely)."""
    return max(pull, 0.0) / (ft * breadth * max(covered, 1e-6))


def least_contact(species: str, force: float, duration: float, grain: float, heel: float | None) -> float:
    """Return the contact with one plate below which teeth cannot hold a stick, however the plate is turned, mm2."""
    values = teeth(species)
    holds = max(lateral_resistance(values, grain, plate) for plate in (0.0, 90.0))
    holds *= heel_factor(heel) if heel is not None else 1.0
    return max(teeth_used(force, duration, holds, 1.0), teeth_used(LEAST_FORCE, 1.0, holds, 1.0))


def plate_used(case: PlateDemand) -> tuple[float, str]:
    """Return how far a pair of plates is used by a stick at a joint, and by what: the most of all checks in all combinations."""
    if min(case.bite) < LEAST_BITE - 0.5 or case.contact <= 0.0:
        return NO_BITE, "bite"
    values, own = teeth(case.species), steel()
    lumber = section(case.size)
    ft = reference_values(case.species, case.grade, lumber).ft * size_factors(case.species, case.grade, lumber)[1]
    factor = heel_factor(case.heel) if case.heel is not None else 1.0
    best = (0.0, "")
    for (fx, fy), duration in zip(case.forces.tolist(), case.durations.tolist(), strict=True):
        force = math.hypot(fx, fy)
        way = (fx / force, fy / force) if force > 1e-6 else case.axis
        grain, plate = angle_between(way, case.axis), angle_between(way, along_of(case.angle))
        holds = lateral_resistance(values, grain, plate) * factor
        rows = [(teeth_used(force, duration, holds, case.contact), "teeth")]
        rows.append((teeth_used(LEAST_FORCE, 1.0, holds, case.contact), "least force"))
        pull = pull_of(case, (fx, fy))
        rows.append((net_section_used(pull, ft * duration, case.breadth, case.covered), "wood between plates"))
        rows += [
            (steel_used(apart, shear, covered, angle, own), "steel")
            for apart, shear, covered, angle in along_lines(case, (fx, fy))
        ]
        if nothing_covered(case):
            rows.append((NO_BITE, "bite"))
        best = max(best, *rows)
    return best


def nothing_covered(case: PlateDemand) -> bool:
    """Whether a stick parts from others along lines of which nothing is covered."""
    return bool(case.lines) and sum(covered for _, _, covered in case.lines) <= 1.0


def along_lines(case: PlateDemand, force: tuple[float, float]) -> Iterator[tuple[float, float, float, float]]:
    """Yield for each line along which a stick parts from others what of its force pulls it apart there and what shears it, N, how much of the
    line is covered, mm, and its angle to the plate's length.
    """
    pull, whole = pull_of(case, force), sum(covered for _, _, covered in case.lines)
    for a, b, covered in case.lines:
        if covered <= 1.0:
            continue
        line = ((b[0] - a[0]) / math.dist(a, b), (b[1] - a[1]) / math.dist(a, b))
        shear = abs(force[0] * line[0] + force[1] * line[1]) * covered / whole
        apart = abs(force[0] * line[1] - force[1] * line[0]) * covered / whole if pull > 0.0 else 0.0
        yield apart, shear, covered, angle_between(line, along_of(case.angle))


NO_BITE = 1e3
"""Used where a plate does not reach over a stick."""


def along_of(angle: float) -> tuple[float, float]:
    """Return the direction at an angle from level, degrees."""
    return math.cos(math.radians(angle)), math.sin(math.radians(angle))


def angle_between(a: tuple[float, float], b: tuple[float, float]) -> float:
    """Return the angle between two directions, whichever way they point, degrees (0 to 90)."""
    return math.degrees(math.acos(min(abs(a[0] * b[0] + a[1] * b[1]), 1.0)))


def pull_of(case: PlateDemand, force: tuple[float, float]) -> float:
    """Return with how much a stick pulls at a joint along its grain, N: what it gives to the joint points toward the stick itself.

    Of a chord that runs on through the joint nothing is parted by a pull along it.
    """
    if case.toward is None:
        return 0.0
    return force[0] * case.toward[0] + force[1] * case.toward[1]
