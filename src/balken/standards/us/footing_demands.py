"""What the factored loads ask of a footing's concrete: moments and shears at both sides of its wall or column."""

from balken.analysis.linear_pressure import Pressure, pressure
from balken.loads.cases import Combination
from balken.standards.ground import FootingCase
from balken.standards.us import aci
from balken.standards.us.footing_case import EARTH_FACTOR, support_half
from balken.value import Value


class Side(Value, frozen=True):
    """One side of a footing: how far it projects from the critical section, greatest moment and shear there.

    Per footing (N mm, N), of a strip per metre.
    """

    projection: float
    moment: float
    shear: float
    moment_by: str
    shear_by: str


class Demands(Value, frozen=True):
    """Both sides, and the greatest load on the footing's top (N, N/mm) with the moment it brings (N mm) for punching."""

    sides: tuple[Side, Side]
    load: float
    load_by: str
    turned: float

    @property
    def moment(self) -> Side:
        """The side with the greater moment."""
        return max(self.sides, key=lambda side: side.moment)

    @property
    def shear(self) -> Side:
        """The side with the greater shear."""
        return max(self.sides, key=lambda side: side.shear)


def demands(case: FootingCase, width: float, thickness: float, shear_at: float) -> Demands:
    """Return the greatest of all strength combinations (ACI 318-19, 5.3.1); shear ``shear_at`` mm from the section."""
    wide = 1000.0 if case.kind == "strip" else width
    off, best = case.off(width), [[(0.0, ""), (0.0, "")], [(0.0, ""), (0.0, "")]]
    projections = (width / 2.0 - off - support_half(case), width / 2.0 + off - support_half(case))
    most = (0.0, "", 0.0)
    for combo, name, load, turned in factored(case, thickness):
        per = 1.0 if case.kind == "strip" else width
        per_mm = load / per
        e = off + turned / per / per_mm
        p = pressure(per_mm, width, e)
        wall = width / 2.0 - off if e >= 0.0 else width / 2.0 + off
        # Numbered from the side toward which it is turned.
        for k, edge, face in ((0, 0.0, wall - support_half(case)), (1, width, wall + support_half(case))):
            side = k if e >= 0.0 else 1 - k
            face = min(max(face, 0.0), width)
            best[side][0] = max(best[side][0], (_moment(p, edge, face) * wide, name))
            section = face - shear_at if k == 0 else face + shear_at
            if 0.0 < section < width:
                best[side][1] = max(best[side][1], (_force(p, edge, section) * wide, name))
        at_top = case.sideways.turning(0.0, EARTH_FACTOR, combo.factors.wind)
        most = max(most, (load, name, abs(at_top)))
    sides = tuple(
        Side(max(projections[k], 0.0), best[k][0][0], best[k][1][0], best[k][0][1], best[k][1][1]) for k in (0, 1)
    )
    return Demands((sides[0], sides[1]), *most)


def factored(case: FootingCase, thickness: float) -> list[tuple[Combination, str, float, float]]:
    """Return (combination, its name, load, moment about the underside) of those that press; wind from both sides."""
    earth = bool(case.sideways.earth or case.sideways.moment)
    found = []
    for combo in aci.STRENGTH:
        load = combo.of(case.load)
        if load <= 0.0:
            continue
        name = combo.name + (f" + {EARTH_FACTOR:g} H" if earth else "")
        ways = (1.0, -1.0) if case.sideways.wind or case.sideways.wind_moment else (1.0,)
        for way in ways:
            turned = case.sideways.turning(thickness, EARTH_FACTOR if earth else 0.0, way * combo.factors.wind)
            found.append((combo, name, load, turned))
    return found


def _force(p: Pressure, edge: float, section: float) -> float:
    """Return the upward force per mm between an edge and a section."""
    return p.between(min(edge, section), max(edge, section))[0]


def _moment(p: Pressure, edge: float, face: float) -> float:
    force, at = p.between(min(edge, face), max(edge, face))
    return force * abs(face - at)
