"""The pressure of earth and water on a wall, and what it does to a wall held at its top or free.

Earth by Rankine (active) or Jaky (at rest), or a typed equivalent fluid.  All per metre of wall.
"""

import math

import numpy as np
from numpy.typing import NDArray

from balken.model.records import Soil
from balken.standards.measures import Working, working
from balken.value import Value

WATER = 9.807
"""Unit weight of water, kN/m3."""
POINTS = 241


class Pressing(Value, frozen=True):
    """Earth and water on one metre of wall: heights above its base (mm), pressure there (kN/m2)."""

    z: tuple[float, ...]
    p: tuple[float, ...]

    @property
    def total(self) -> float:
        """Resultant, kN/m."""
        return float(np.trapezoid(self.p, self.z)) / 1000.0


def coefficient(soil: Soil, restrained: bool) -> float:
    """Return K: Ka = tan2(45 - phi/2) where the wall can move, K0 = 1 - sin phi where it is held (Jaky).

    Earth against a wall that is held cannot come to its active pressure, whatever was chosen.
    """
    phi = math.radians(soil.friction)
    if soil.pressure == "active" and not restrained:
        return math.tan(math.pi / 4.0 - phi / 2.0) ** 2
    return 1.0 - math.sin(phi)


def earth_pressure(soil: Soil, depth: NDArray[np.float64], restrained: bool) -> NDArray[np.float64]:
    """Return the sideways pressure (kN/m2) at depths below ground (mm); none above it."""
    below = np.maximum(depth, 0.0) / 1000.0
    if soil.pressure == "equivalent fluid":
        k = soil.fluid / soil.weight
        dry = soil.fluid * below
    else:
        k = coefficient(soil, restrained)
        dry = k * soil.weight * below
    p = dry + k * soil.surcharge
    if soil.water_below is not None:
        wet = np.maximum(below - soil.water_below / 1000.0, 0.0)
        p = p + wet * WATER * (1.0 - k)
    result: NDArray[np.float64] = np.where(depth >= 0.0, p, 0.0)
    return result


def pressing_on(soil: Soil, fill: float, span: float, restrained: bool) -> Pressing:
    """Return the pressure over the height of a wall ``span`` mm tall with ``fill`` mm of earth above its base."""
    z = np.linspace(0.0, span, POINTS)
    p = earth_pressure(soil, fill - z, restrained)
    return Pressing(tuple(z.tolist()), tuple(p.tolist()))


class Forces(Value, frozen=True):
    """Reactions at top and base (kN/m), greatest moment (kN m/m) and where (mm above the base), shear near it."""

    top: float
    base: float
    moment: float
    at: float
    shear: float


def forces(pressing: Pressing, restrained: bool, depth: float) -> Forces:
    """Return the forces of a simple span held at base and top, or of a cantilever from its base.

    ``shear`` is at ``depth`` mm from the support.
    """
    z, p = np.array(pressing.z), np.array(pressing.p)
    span = float(z[-1])
    force = float(np.trapezoid(p, z)) / 1000.0
    first = float(np.trapezoid(p * z, z)) / 1000.0  # kN/m x mm
    load = np.concatenate([[0.0], np.cumsum((p[1:] + p[:-1]) / 2.0 * np.diff(z))]) / 1000.0
    if not restrained:
        shear = force - float(np.interp(depth, z, load))
        return Forces(0.0, force, first / 1000.0, 0.0, shear)
    top = first / span
    base = force - top
    shear_line = base - load
    moment = np.concatenate([[0.0], np.cumsum((shear_line[1:] + shear_line[:-1]) / 2.0 * np.diff(z))]) / 1000.0
    best = int(moment.argmax())
    near_base, near_top = np.interp(depth, z, shear_line), np.interp(span - depth, z, shear_line)
    return Forces(top, base, float(moment[best]), float(z[best]), max(abs(float(near_base)), abs(float(near_top))))


def fluid_weight(soil: Soil, restrained: bool = True) -> float:
    """Return the weight of the fluid that presses as the soil does, kN/m3."""
    return soil.fluid if soil.pressure == "equivalent fluid" else soil.weight * coefficient(soil, restrained)


def how_it_presses(soil: Soil, held: bool) -> Working:
    """Return the line that says by which coefficient the earth presses; a held wall feels it at rest."""
    k = coefficient(soil, held)
    if soil.pressure == "equivalent fluid":
        return working("equivalent fluid {}", (soil.fluid, "density"))
    if soil.pressure == "active" and not held:
        return working(
            f"Ka = tan\u00b2(45\u00b0 - {soil.friction:g}\u00b0/2) = {k:.3f}, soil {{}}", (soil.weight, "density")
        )
    note = " (held: active pressure cannot come about)" if soil.pressure == "active" else ""
    return working(f"K0 = 1 - sin {soil.friction:g}\u00b0 = {k:.3f}{note}, soil {{}}", (soil.weight, "density"))
