"""Strip and pad footings chosen: width from soil pressure, thickness and bars by what the standard checks."""

import math
from functools import lru_cache

from balken.catalog.materials import weight
from balken.standards.ground import STABILITY, FootingCase, FootingDesign, FootingError
from balken.standards.standard import Standard
from balken.units import Units
from balken.units.system import INCH, PSF

WIDEST, THICKEST = 7600.0, 1530.0


def width_for(standard: Standard, case: FootingCase, thickness: float, units: Units) -> float:
    """Return the least width (2 in or 50 mm steps) at which the soil is not overloaded and the footing stays in place.

    Sliding alone may stay unsolved, for wider footings hardly help it: then the least width that does all else.
    Raises FootingError when no width up to 25 ft (7.6 m) is enough.
    """
    standard.check_sane(case)
    step = 2.0 * INCH if units is Units.IMPERIAL else 50.0
    own = weight("concrete") * thickness / 1000.0 + case.overburden
    if own >= case.bearing:
        raise FootingError(
            f"the soil's bearing value of {case.bearing / PSF:,.0f} psf does not even carry the footing itself "
            f"({own / PSF:,.0f} psf); type a greater one."
        )
    beside = 0.0 if case.flush else 2.0 * (standard.least_footing.projection + abs(case.eccentricity))
    least = max(standard.least_footing.width, case.size + beside)
    slides: float | None = None
    for k in range(math.ceil(least / step - 1e-6), math.floor(WIDEST / step) + 1):
        wide = round(k * step, 6)
        if standard.soil_pressure(case, wide, thickness) > case.bearing * (1.0 + 1e-9):
            continue
        over = [c.name for c in standard.place_checks(case, wide, thickness) if c.used > 1.0 + 1e-9]
        if not over:
            return wide
        if over == ["sliding"] and slides is None:
            slides = wide
        if slides is not None and wide > 2.0 * slides:
            return slides
    if slides is not None:
        return slides
    if case.flush:
        raise FootingError(
            "a footing that must not go beyond the wall's face tips over under it, however wide; let it go beyond, or "
            "tie it to a footing inside with a beam (not designed here)."
        )
    raise FootingError(
        "no footing up to 25 ft (7.6 m) wide is enough for that load on that soil; check both, or use piles."
    )


@lru_cache(maxsize=4_096)
def design_footing(
    standard: Standard,
    case: FootingCase,
    units: Units = Units.IMPERIAL,
    width: float | None = None,
    thickness: float | None = None,
    reinforced: bool | None = None,
) -> FootingDesign:
    """Choose what is left open (None): width, thickness, plain or reinforced.

    Plain concrete is taken unless bars save at least one step of thickness.  What nothing tried makes work
    is returned at the strongest tried.  Raises FootingError.
    """
    if reinforced is not None or case.fy is None:
        return _thick_enough(standard, case, units, width, thickness, bool(reinforced), THICKEST)
    plain = _thick_enough(standard, case, units, width, thickness, False, THICKEST)
    if thickness is None and plain.works and plain.thickness <= standard.least_footing.reinforced:
        return plain  # bars need at least that much concrete round them
    thickest = plain.thickness - 1.0 if plain.works and thickness is None else THICKEST
    try:
        barred = _thick_enough(standard, case, units, width, thickness, True, thickest)
    except FootingError:
        return plain
    found = [plain, barred]
    good = [f for f in found if f.works]
    if not good:
        return min(found, key=lambda f: f.used)
    return min(good, key=lambda f: (f.thickness * f.width ** (1 if case.kind == "strip" else 2), f.reinforced))


def _thick_enough(
    standard: Standard,
    case: FootingCase,
    units: Units,
    width: float | None,
    thickness: float | None,
    reinforced: bool,
    thickest: float,
) -> FootingDesign:
    step = 2.0 * INCH if units is Units.IMPERIAL else 50.0
    if thickness is not None:
        return standard.check_footing(case, width or width_for(standard, case, thickness, units), thickness, reinforced)
    least = standard.least_footing.reinforced if reinforced else standard.least_footing.plain
    made: FootingDesign | None = None
    for k in range(math.ceil(least / step - 1e-6), math.floor(thickest / step) + 1):
        thickness = round(k * step, 6)
        try:
            wide = width or width_for(standard, case, thickness, units)
        except FootingError:
            if made is None:
                raise
            break
        made = standard.check_footing(case, wide, thickness, reinforced)
        strength = [c for c in made.checks if c.name not in ("soil pressure", *STABILITY, "width, least")]
        if max(c.used for c in strength) <= 1.0 + 1e-9:
            break
    if made is None:
        raise FootingError("bars would not make it thinner.")
    return made
