"""Struts under purlins designed: what presses on each, of what it is made, what it brings to its wall and pushes it sideways with."""

import math
from collections.abc import Iterable, Mapping, Sequence

from msgspec.structs import replace

from balken.catalog.post_shapes import post_shape
from balken.design.surface_lines import CarriedLines
from balken.framing.struts import Strut
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.plane import Point, sub
from balken.loads.area_loads import Reaction
from balken.loads.cases import Cases, total
from balken.standards.checks import MemberResult
from balken.standards.demands import PostCase
from balken.standards.standard import Standard
from balken.value import Value

SIZES = ("2-2x4", "4x4", "2-2x6", "4x6")
"""Of what struts are made, the least first."""


class HeldStrut(Value, frozen=True):
    """A strut designed: its section, its check, what its purlin brings to it, N, how much it pushes sideways for each N of that."""

    strut: Strut
    size: str
    result: MemberResult
    force: Cases
    sideways: float

    @property
    def push(self) -> Point:
        """The way in which it pushes its wall, in plan, for each N of its load."""
        x, y = sub(self.strut.foot, self.strut.at)
        run = math.hypot(x, y)
        return (x / run * self.sideways, y / run * self.sideways) if run > 1.0 else (0.0, 0.0)


def on_struts(
    plan: SurfacePlan, struts: Sequence[Strut], carried: CarriedLines, standard: Standard
) -> tuple[CarriedLines, tuple[HeldStrut, ...]]:
    """Return what lines bring with that which struts take brought to their walls; the struts designed."""
    held = held_struts(plan, struts, carried, standard)
    return brought_down(carried, held), held


def held_struts(
    plan: SurfacePlan, struts: Sequence[Strut], carried: CarriedLines, standard: Standard
) -> tuple[HeldStrut, ...]:
    """Return the struts that purlins lie on, each of the least section that works, else of the largest."""
    found, wood = list[HeldStrut](), plan.roof.rafters
    for one in struts:
        force = total(r.force for r in carried.settled.points if r.bearer == one.key)
        head = carried.undersides.get(one.key)
        if head is None:
            continue
        rise = head - one.level
        long, steep = math.hypot(rise, one.run), rise / math.hypot(rise, one.run)
        axial = Cases(*(round(v / steep, 3) for v in force))
        plates = (wood.species, wood.species)
        for size in SIZES:
            case = PostCase("post", post_shape(size), wood.species, wood.grade, round(long, 3), axial, plates)
            result = standard.check_post(case)
            if result.used <= 1.0:
                break
        found.append(HeldStrut(one, size, result, force, one.run / rise))
    return tuple(found)


def brought_down(carried: CarriedLines, held: Iterable[HeldStrut]) -> CarriedLines:
    """Return what lines bring with that which struts take brought to the walls these stand on."""
    below: Mapping[str, Strut] = {one.strut.key: one.strut for one in held}
    points = tuple(
        Reaction(r.piece, below[r.bearer].wall, below[r.bearer].foot, r.force) if r.bearer in below else r
        for r in carried.settled.points
    )
    return replace(carried, settled=carried.settled.__class__(points, carried.settled.unheld, carried.settled.onto))


def pushed(some: Iterable[HeldStrut], standard: Standard) -> float:
    """Return with how much struts push a wall sideways at most, N: what lean on it from both sides hold one another as far as they push alike."""
    rows = [(one.push, one.force) for one in some]
    along = [Cases(*(sum(push[k] * force[c] for push, force in rows) for c in range(len(Cases())))) for k in (0, 1)]
    return max((math.hypot(*(combo.of(way) for way in along)) for combo in standard.combinations.rows), default=0.0)
