"""Footings of plain concrete: bending, shear and bearing by ACI 318-19, chapter 14."""

from balken.standards.checks import Check
from balken.standards.ground import FootingCase
from balken.standards.measures import Quantity, working
from balken.standards.us import aci
from balken.standards.us.footing_case import support_half
from balken.standards.us.footing_demands import Demands, demands


def plain_checks(case: FootingCase, width: float, thickness: float) -> list[Check]:
    """Return the checks of a footing without bars, of a strip per metre."""
    h = thickness - aci.ROUGH_BOTTOM
    least = Check("thickness, least", "ACI 318-19 14.3.2.1", aci.LEAST_PLAIN_FOOTING, thickness, "length", "")
    if h <= 0.0:
        return [least]
    strip = case.kind == "strip"
    wide = 1000.0 if strip else width
    made = demands(case, width, thickness, h)
    moment_unit: Quantity = "line moment" if strip else "moment"
    force_unit: Quantity = "line force" if strip else "force"
    m, v = made.moment, made.shear
    m_cap = aci.PHI_PLAIN * aci.plain_moment(case.fc, wide, h)
    v_cap = aci.PHI_PLAIN * aci.plain_shear(case.fc, wide, h)
    out = (width - case.size) / 2.0 + abs(case.off(width))
    checks = [
        least,
        Check("projection, greatest", "IRC R403.1.1", out, thickness, "length", ""),
        Check(
            "bending", "ACI 318-19 14.5.2.1", m.moment * 1e-6, m_cap * 1e-6, moment_unit, m.moment_by,
            (
                working("h = {} - {} = {} (14.5.1.7), sqrt f'c = {}", (thickness, "length"),
                        (aci.ROUGH_BOTTOM, "length"), (h, "length"), (aci.root_fc(case.fc), "stress")),
                working("Mu at the critical section (13.2.7.1) {}", (m.moment * 1e-6, moment_unit)),
                working("phi Mn = 0.60 x 5 sqrt f'c b h\u00b2/6 = {}", (m_cap * 1e-6, moment_unit)),
            ),
        ),
        Check(
            "one-way shear", "ACI 318-19 14.5.5.1", v.shear / 1000.0, v_cap / 1000.0, force_unit, v.shear_by,
            (
                working("at h from the critical section: Vu = {}", (v.shear / 1000.0, force_unit)),
                working("phi Vn = 0.60 x 4/3 sqrt f'c b h = {}", (v_cap / 1000.0, force_unit)),
            ),
        ),
    ]  # fmt: skip
    return checks if strip else [*checks, *_of_pad(case, width, thickness, h, made)]


def _of_pad(case: FootingCase, width: float, thickness: float, h: float, made: Demands) -> list[Check]:
    side = 2.0 * support_half(case) + h
    perimeter = 4.0 * side
    inside = punching_force(made, width, side, h)
    cap = aci.PHI_PLAIN * aci.plain_punching(case.fc, perimeter, h, 1.0)
    below = min(case.size + 4.0 * thickness, width) ** 2
    bearing = aci.PHI_PLAIN * aci.bearing_strength(case.fc, case.size**2, below)
    return [
        Check(
            "punching shear", "ACI 318-19 14.5.5.1", inside / 1000.0, cap / 1000.0, "force", made.load_by,
            (
                working("at h/2: bo = {}, Vu = {}", (perimeter, "length"), (inside / 1000.0, "force")),
                working("phi Vn = {}", (cap / 1000.0, "force")),
            ),
        ),
        Check(
            "bearing under the column", "ACI 318-19 14.5.6.1", made.load / 1000.0, bearing / 1000.0, "force", made.load_by
        ),
    ]  # fmt: skip


def punching_force(made: Demands, width: float, side: float, d: float) -> float:
    """Return the force that would punch a square of ``side`` through, N, with what the column's moment adds (8.4.4.2).

    gamma_v = 0.4 of a square column's moment is shear round it: v = gamma_v M c / J.
    """
    side = min(side, width)
    straight = max(made.load - made.load / width**2 * side**2, 0.0)
    if made.turned <= 0.0:
        return straight
    polar = side * d**3 / 6.0 + d * side**3 / 6.0 + d * side**3 / 2.0
    return straight + 0.4 * made.turned * (side / 2.0) / polar * 4.0 * side * d
