"""Footings of a given size checked: soil, plain and reinforced concrete by ACI 318-19, least sizes of the IRC."""

import math
from dataclasses import replace

from balken.design import aci
from balken.design.checks import Check
from balken.design.footing_case import (
    BarSet,
    FootingCase,
    FootingDesign,
    FootingError,
    Pressure,
    pressure,
    soil_pressure,
)
from balken.loads.cases import Combination
from balken.model.materials import weight
from balken.units.system import INCH, PSI

LEAST_PROJECTION = 2.0 * INCH
"""IRC R403.1.1: footing projection at least 2 in and not more than the footing's thickness."""
LEAST_WIDTH = 12.0 * INCH
"""IRC Table R403.1(1): no footing narrower than 12 in."""
LEAST_THICKNESS = 6.0 * INCH
"""IRC R403.1.1: spread footings at least 6 in thick."""
BAR_NUMBERS = (4, 5, 6, 7, 8, 9)
CLOSEST_BARS = 4.0 * INCH
"""Common practice, no source: bars nearer than this are hard to place."""


def check_footing(case: FootingCase, width: float, thickness: float, reinforced: bool) -> FootingDesign:
    """Check a footing of given size; with ``reinforced`` its bars are chosen.

    Raises FootingError for sizes or strengths that make no sense.
    """
    check_sane(case)
    q, e, combo = soil_pressure(case, width, thickness)
    own = weight("concrete") * thickness / 1000.0 + case.overburden
    out = (width - case.size) / 2.0 - abs(case.eccentricity)
    checks = [
        Check(
            "soil pressure",
            "IRC R401.4.1, statics",
            q,
            case.bearing,
            "pressure",
            combo.name,
            (
                f"own weight and soil on it: {own:.2f} kN/m2",
                f"load {_load(case, combo.of(case.load))}, eccentricity of all load {e:.0f} mm, width {width:.0f} mm",
                f"q = {q:.1f} kN/m2 against {case.bearing:.1f} kN/m2",
            ),
        ),
        Check(
            "load within the kern",
            "no tension under the footing: e <= B/6",
            abs(e),
            width / 6.0,
            "length",
            combo.name,
            (f"e = {abs(e):.0f} mm, B/6 = {width / 6.0:.0f} mm",),
        ),
        Check("projection, least", "IRC R403.1.1", LEAST_PROJECTION, max(out, 1e-6), "length", ""),
        Check("width, least", "IRC Table R403.1(1)", LEAST_WIDTH, width, "length", ""),
    ]
    bars: tuple[BarSet, ...] = ()
    if reinforced:
        strength, bars = _reinforced(case, width, thickness)
        checks += strength
    else:
        checks += _plain(case, width, thickness)
    checks.sort(key=lambda c: (kept_limit(c), -c.used))
    length = 1000.0 if case.kind == "strip" else width
    return FootingDesign(case, width, length, thickness, reinforced, bars, q, tuple(checks))


def kept_limit(check: Check) -> bool:
    """A least or greatest size that is kept says nothing about how far the footing is used."""
    return (
        check.name.endswith(("least", "greatest")) or check.name == "tension-controlled"
    ) and check.used <= 1.0 + 1e-9


def check_sane(case: FootingCase) -> None:
    if not 1000.0 * PSI <= case.fc <= 15_000.0 * PSI:
        raise FootingError(
            f"concrete of {case.fc / PSI:,.0f} psi ({case.fc:.1f} N/mm2) is out of bounds; type 2500 to 10,000 psi."
        )
    if case.fy is not None and not 30_000.0 * PSI <= case.fy <= 100_000.0 * PSI:
        raise FootingError(f"steel of {case.fy / PSI:,.0f} psi is out of bounds; type such as 60 ksi.")
    if case.bearing <= 0.0:
        raise FootingError("the soil bearing value must be more than zero; type one such as 1500 psf.")
    if not 20.0 <= case.size <= 3000.0:
        raise FootingError(f"a wall or column of {case.size:.0f} mm is out of bounds; type such as 8in.")


def _load(case: FootingCase, load: float) -> str:
    return f"{load:.2f} kN/m" if case.kind == "strip" else f"{load / 1000.0:.2f} kN"


def _sides(case: FootingCase, width: float, per_mm: float) -> tuple[Pressure, tuple[tuple[float, float], ...]]:
    """Return the net factored pressure and the parts beside the support as (edge, face) from the high edge.

    The face is that of concrete; under masonry half-way to the middle, under a steel base plate half-way
    to its edge counts alike (Table 13.2.7.1).
    """
    half = case.size / 2.0
    if case.support == "masonry":
        half = case.size / 4.0
    elif case.support == "plate":
        half = case.size * 0.375
    e = abs(case.eccentricity)
    near, far = width / 2.0 - half - e, width / 2.0 - half + e
    return pressure(per_mm, width, e), ((0.0, max(near, 0.0)), (width, width - max(far, 0.0)))


def _shear(p: Pressure, edge: float, section: float) -> float:
    """Return the upward force per mm between an edge and a section."""
    return p.between(min(edge, section), max(edge, section))[0]


def _beyond(edge: float, face: float, distance: float) -> float | None:
    """Return the section ``distance`` out from the face toward the edge; None when it lies beyond the edge."""
    section = face - distance if edge < face else face + distance
    inside = section > edge if edge < face else section < edge
    return section if inside else None


def _moment(p: Pressure, edge: float, face: float) -> float:
    force, at = p.between(min(edge, face), max(edge, face))
    return force * abs(face - at)


def _demands(case: FootingCase, width: float, shear_at: float) -> tuple[float, float, float, Combination]:
    """Return (Mu, Vu) per footing, N mm and N, the factored load and its combination; strips per metre."""
    load, combo = aci.factored(case.load)
    per_mm = load if case.kind == "strip" else load / width
    wide = 1000.0 if case.kind == "strip" else width
    p, sides = _sides(case, width, per_mm)
    moment = max(_moment(p, edge, face) for edge, face in sides) * wide
    shears = [0.0]
    for edge, face in _sides(_as_concrete(case), width, per_mm)[
        1
    ]:  # for shear the true face counts (14.4.3.2, 7.4.3.2)
        section = _beyond(edge, face, shear_at)
        if section is not None:
            shears.append(_shear(p, edge, section))
    return moment, max(shears) * wide, load, combo


def _as_concrete(case: FootingCase) -> FootingCase:
    return replace(case, support="concrete")


def _plain(case: FootingCase, width: float, thickness: float) -> list[Check]:
    h = thickness - aci.ROUGH_BOTTOM
    out = (width - case.size) / 2.0 + abs(case.eccentricity)
    if h <= 0.0:
        return [Check("thickness, least", "ACI 318-19 14.3.2.1", aci.LEAST_PLAIN_FOOTING, thickness, "length", "")]
    wide = 1000.0 if case.kind == "strip" else width
    moment, shear, load, combo = _demands(case, width, h)
    m_cap = aci.PHI_PLAIN * aci.plain_moment(case.fc, wide, h)
    v_cap = aci.PHI_PLAIN * aci.plain_shear(case.fc, wide, h)
    root = f"sqrt f'c = {aci.root_fc(case.fc):.3f} N/mm2"
    checks = [
        Check("thickness, least", "ACI 318-19 14.3.2.1", aci.LEAST_PLAIN_FOOTING, thickness, "length", ""),
        Check("projection, greatest", "IRC R403.1.1", out, thickness, "length", ""),
        Check(
            "bending",
            "ACI 318-19 14.5.2.1",
            moment * 1e-6,
            m_cap * 1e-6,
            "moment",
            combo.name,
            (
                f"h = {thickness:.0f} - {aci.ROUGH_BOTTOM:.0f} = {h:.0f} mm (14.5.1.7); {root}",
                f"Mu at the face = {moment * 1e-6:.2f} kN m on {wide:.0f} mm",
                f"phi Mn = 0.60 x 5 sqrt f'c b h^2/6 = {m_cap * 1e-6:.2f} kN m",
            ),
        ),
        Check(
            "one-way shear",
            "ACI 318-19 14.5.5.1",
            shear / 1000.0,
            v_cap / 1000.0,
            "force",
            combo.name,
            (
                f"at h from the face: Vu = {shear / 1000.0:.2f} kN",
                f"phi Vn = 0.60 x 4/3 sqrt f'c b h = {v_cap / 1000.0:.2f} kN",
            ),
        ),
    ]
    if case.kind == "pad":
        side = case.size + h
        perimeter = 4.0 * side
        inside = load - load / width**2 * min(side, width) ** 2
        cap = aci.PHI_PLAIN * aci.plain_punching(case.fc, perimeter, h, 1.0)
        checks.append(
            Check(
                "punching shear",
                "ACI 318-19 14.5.5.1",
                max(inside, 0.0) / 1000.0,
                cap / 1000.0,
                "force",
                combo.name,
                (f"at h/2: bo = {perimeter:.0f} mm, Vu = {inside / 1000.0:.2f} kN", f"phi Vn = {cap / 1000.0:.2f} kN"),
            )
        )
        loaded = case.size**2
        bearing = aci.PHI_PLAIN * aci.bearing_strength(case.fc, loaded, min(case.size + 4.0 * thickness, width) ** 2)
        checks.append(
            Check(
                "bearing under the column", "ACI 318-19 14.5.6.1", load / 1000.0, bearing / 1000.0, "force", combo.name
            )
        )
    return checks


def _reinforced(case: FootingCase, width: float, thickness: float) -> tuple[list[Check], tuple[BarSet, ...]]:
    """Return the checks and the bars; the lightest bar that fits and can be anchored."""
    if case.fy is None:
        raise FootingError("reinforced concrete needs the strength of its steel; type such as 60 ksi.")
    tried = [_with_bar(case, width, thickness, number) for number in BAR_NUMBERS]
    good = [row for row in tried if max(c.used for c in row[0]) <= 1.0 + 1e-9]
    return min(
        good or tried,
        key=lambda row: (max(c.used for c in row[0]) > 1.0 + 1e-9, max(c.used for c in row[0]) if not good else 0.0),
    )


def _with_bar(case: FootingCase, width: float, thickness: float, number: int) -> tuple[list[Check], tuple[BarSet, ...]]:
    assert case.fy is not None
    bar, fy, fc = aci.BARS[number], case.fy, case.fc
    pad = case.kind == "pad"
    layers = bar.diameter if pad else bar.diameter / 2.0
    d = thickness - aci.COVER_EARTH - layers
    depth_check = Check(
        "depth above the bars, least", "ACI 318-19 13.3.1.2", aci.LEAST_BELOW_BARS, max(d, 1.0), "length", ""
    )
    if d < 20.0:
        return [depth_check], ()
    wide = width if pad else 1000.0
    moment, shear, load, combo = _demands(case, width, d)
    least = aci.least_steel(wide, thickness)
    need = max(aci.steel_for(moment, fc, fy, wide, d), least)
    spacing, count = _spaced(need, bar.area, wide, thickness, pad)
    steel = count * bar.area if pad else bar.area * 1000.0 / spacing
    m_cap = aci.PHI_FLEXURE * aci.bending_strength(steel, fc, fy, wide, d)
    v_cap = aci.PHI_SHEAR * aci.one_way_shear(fc, wide, d, steel)
    strain, limit = aci.net_strain(steel, fc, fy, wide, d), fy / aci.STEEL_MODULUS + 0.003
    out = (width - case.size) / 2.0 - abs(case.eccentricity)
    room = out - aci.COVER_EARTH
    straight, hooked = aci.development(bar.diameter, fc, fy), aci.hooked_development(bar.diameter, fc, fy)
    use_hooks = straight > room and hooked <= max(room, 1.0)
    anchored = hooked if use_hooks else straight
    # What the bars must carry may be less than what they can (25.4.10.1).
    anchored = max(anchored * min(need / steel, 1.0), min(anchored, 6.0 * INCH))
    checks = [
        depth_check,
        Check(
            "bending",
            "ACI 318-19 22.3",
            moment * 1e-6,
            m_cap * 1e-6,
            "moment",
            combo.name,
            (
                f"d = {d:.0f} mm; Mu at the face = {moment * 1e-6:.2f} kN m on {wide:.0f} mm",
                f"As for it = {aci.steel_for(moment, fc, fy, wide, d):.0f} mm2, least 0.0018 b h = {least:.0f} mm2",
                f"As = {steel:.0f} mm2: phi Mn = 0.90 As fy (d - a/2) = {m_cap * 1e-6:.2f} kN m",
            ),
        ),
        Check("steel, least", "ACI 318-19 7.6.1.1, 8.6.1.1", least, steel, "steel", "", ("0.0018 b h",)),
        Check("tension-controlled", "ACI 318-19 21.2.2", limit, strain, "ratio", "", (f"strain {strain:.4f}",)),
        Check(
            "one-way shear",
            "ACI 318-19 22.5.5.1",
            shear / 1000.0,
            v_cap / 1000.0,
            "force",
            combo.name,
            (
                f"at d from the face: Vu = {shear / 1000.0:.2f} kN",
                f"phi Vc = 0.75 x 8 rho^(1/3) sqrt f'c b d = {v_cap / 1000.0:.2f} kN, rho = {steel / (wide * d):.4f}",
            ),
        ),
        Check(
            "anchorage of the bars",
            "ACI 318-19 25.4.3" if use_hooks else "ACI 318-19 25.4.2",
            anchored,
            max(room, 1e-6),
            "length",
            "",
            (f"{'hooked' if use_hooks else 'straight'}: {anchored:.0f} mm from the face, {room:.0f} mm there",),
        ),
    ]
    if pad:
        checks.append(_punching(case, width, d, load, combo))
        bearing = aci.PHI_BEARING * aci.bearing_strength(fc, case.size**2, min(case.size + 4.0 * thickness, width) ** 2)
        checks.append(
            Check("bearing under the column", "ACI 318-19 22.8.3", load / 1000.0, bearing / 1000.0, "force", combo.name)
        )
    return checks, _bar_sets(case, width, thickness, number, spacing, count, use_hooks)


def _punching(case: FootingCase, width: float, d: float, load: float, combo: Combination) -> Check:
    side = case.size + d
    perimeter = 4.0 * side
    inside = max(load - load / width**2 * min(side, width) ** 2, 0.0)
    cap = aci.PHI_SHEAR * aci.two_way_shear(case.fc, perimeter, d, 1.0)
    return Check(
        "punching shear",
        "ACI 318-19 22.6.5.2",
        inside / 1000.0,
        cap / 1000.0,
        "force",
        combo.name,
        (
            f"at d/2: bo = 4 ({case.size:.0f} + {d:.0f}) = {perimeter:.0f} mm, Vu = {inside / 1000.0:.2f} kN",
            f"phi Vc = {cap / 1000.0:.2f} kN",
        ),
    )


def _spaced(need: float, area: float, wide: float, thickness: float, pad: bool) -> tuple[float, int]:
    """Return spacing (whole inches, mm) and number of bars across ``wide``."""
    widest = aci.widest_spacing(thickness)
    if not math.isfinite(need):
        return CLOSEST_BARS, math.ceil(wide / CLOSEST_BARS)
    if pad:
        free = max(wide - 2.0 * aci.COVER_EARTH, 1.0)
        count = max(math.ceil(need / area - 1e-9), math.ceil(free / widest) + 1, 2)
        return free / (count - 1), count
    spacing = min(widest, area * 1000.0 / need)
    spacing = max(math.floor(spacing / INCH + 1e-9) * INCH, INCH)
    return spacing, math.ceil(1000.0 / spacing)


def _bar_sets(
    case: FootingCase, width: float, thickness: float, number: int, spacing: float, count: int, hooked: bool
) -> tuple[BarSet, ...]:
    length = width - 2.0 * aci.COVER_EARTH
    if case.kind == "pad":
        return (
            BarSet("each way", number, spacing, count, length, hooked),
            BarSet("each way", number, spacing, count, length, hooked),
        )
    along = aci.least_steel(width, thickness)
    number_along = 4 if along / aci.BARS[4].area <= 8 else 5
    free = max(length, 1.0)
    n = max(
        math.ceil(along / aci.BARS[number_along].area - 1e-9), math.ceil(free / aci.widest_spacing(thickness)) + 1, 2
    )
    return (
        BarSet("across", number, spacing, count, length, hooked),
        BarSet("along", number_along, free / (n - 1), n, 1000.0),
    )
