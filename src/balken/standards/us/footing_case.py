"""Which loads press on the soil under a footing, and how hard.

The footing's own weight presses on the soil and is counted there; for the strength of the concrete only
the net pressure of the factored load counts, since the weight is carried straight down.
"""

from balken.analysis.linear_pressure import pressure
from balken.catalog.materials import weight
from balken.loads.cases import Cases, Combination
from balken.standards.ground import FootingCase, FootingError, OnSoil
from balken.standards.us.asce7 import ASD

EARTH_FACTOR = 1.6
"""ACI 318-19 5.3.8: earth pressure adding to the other loads, strength; in service it counts as it is (ASCE 7-16, 2.4.1)."""


def pressed_by(case: FootingCase) -> tuple[tuple[Cases, Combination, str], ...]:
    """Return loads and combinations under which the soil is looked at, each with its name."""
    earth = " + H" if case.sideways.earth or case.sideways.moment else ""
    side = case.sideways
    wind = bool(case.load.wind or side.wind or side.wind_moment)
    rows = [(case.load, c, c.name + earth) for c in ASD.rows if wind or not c.factors.wind]
    if side.light is not None and earth:
        rows.append((Cases(dead=side.light), ASD.rows[0], "D + H, lightest stretch"))
    return tuple(rows)


def support_half(case: FootingCase) -> float:
    """Return half of what counts as support for moment and shear (ACI 318-19, Table 13.2.7.1), mm.

    Concrete: its face; masonry: half-way from its middle to its face; a steel plate: half-way from its edge to
    the face of the column, taken as half as wide as the plate.
    """
    return case.size * {"concrete": 0.5, "masonry": 0.25, "plate": 0.375}[case.support]


def own_weight(case: FootingCase, thickness: float) -> float:
    """Return what the footing and what lies on it weigh, N/mm2 of its plan."""
    return (weight("concrete") * thickness / 1000.0 + case.overburden) / 1000.0


def on_soil(case: FootingCase, width: float, thickness: float) -> list[OnSoil]:
    """Return what presses on the soil under each combination in which anything does.

    The footing's weight and what lies on it act in the middle.
    """
    own = own_weight(case, thickness)
    per = 1.0 if case.kind == "strip" else width
    off, found = case.off(width), []
    for load, combo, name in pressed_by(case):
        per_mm = combo.of(load) / per
        whole = per_mm + own * width * (combo.factors.dead or 1.0)
        if whole <= 0.0:
            continue
        standing = per_mm * off
        turned = case.sideways.turning(thickness, 1.0, combo.factors.wind) / per
        by_wind = combo.factors.wind * abs(case.sideways.wind_moment + case.sideways.wind * thickness) / per
        # Wind comes from either side.
        e = max(standing + turned, standing + turned - 2.0 * by_wind, key=abs) / whole
        q = pressure(whole, width, e).high * 1000.0
        found.append(OnSoil(whole, e, q, name, by_wind > 0.0))
    return found


def soil_pressure(case: FootingCase, width: float, thickness: float) -> OnSoil:
    """Return what presses hardest on the soil; raises FootingError when nothing presses."""
    found = on_soil(case, width, thickness)
    if not found or not any(case.load):
        raise FootingError("no load presses on the footing; type a load above zero.")
    return max(found, key=lambda row: row.pressure)
