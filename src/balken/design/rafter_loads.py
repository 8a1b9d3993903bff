"""What lies on the rafters of a roof of planes: area loads, uneven snow, what other roofs cover and bring down, each as an even load."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from balken.framing.roof_layout import RoofMember
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.plane import dot, left, sub, unit
from balken.loads.area_loads import roof_cases
from balken.loads.cases import Cases
from balken.loads.roof_feet import NOTHING, Pressed, UnderRoofs, open_parts, pressed_as_even, pressed_rafters
from balken.loads.roof_snow import RoofSnow, on_rafters
from balken.model.records import Loads


@dataclass(frozen=True)
class OnRafters:
    """What lies on a roof: area loads, snow, what is over it; its rafters stand ``spacing`` mm apart."""

    plan: SurfacePlan
    loads: Loads
    snow: RoofSnow
    over: UnderRoofs = NOTHING
    spacing: float = 1.0

    def pressed(self, members: Sequence[RoofMember]) -> dict[int, list[Pressed]]:
        """Return what stands on single ones of all rafters of the roof, by their numbers."""
        if not self.over.feet:
            return {}
        return pressed_rafters(self.plan, members, self.over.feet, self.spacing, every=True)

    def of(self, members: Sequence[RoofMember], every: bool = False) -> dict[RoofMember, Cases]:
        """Return what lies on a m2 of the strips of rafters in plan, kN/m2; uneven snow, and what roofs over it bring down, as the even
        load that bends and presses no less; ``every``: these are all rafters of the roof.
        """
        if not members:
            return {}
        plan, core, begins = self.plan, self.plan.outline.core, []
        for m in members:
            edge = m.edges[0]
            inward = left(unit(core[edge], core[(edge + 1) % len(core)]))
            begins.append(dot(inward, sub(m.start[:2], core[edge])) + plan.overhangs[edge])
        feet, heads = (np.array([m.ends[k] for m in members]) for k in (0, 1))
        snow = [self.snow.planes[m.edges[0]] for m in members]
        lies = on_rafters(snow, self.snow.bands, feet, heads, np.array(begins))
        found = [
            roof_cases(self.loads, plan.edges[m.edges[0]].pitch, round(q, 6))
            for m, q in zip(members, lies, strict=True)
        ]
        if self.over is not NOTHING:
            open_to_sky = open_parts(self.over.covered, feet, heads)
            found = [
                q._replace(roof_live=q.roof_live * part, snow=q.snow * part)
                for q, part in zip(found, open_to_sky, strict=True)
            ]
            for i, rows in pressed_rafters(plan, members, self.over.feet, self.spacing, every).items():
                run = float(np.hypot(*(heads[i] - feet[i])))
                more = pressed_as_even(rows, run).scaled(1000.0 / self.spacing)
                found[i] = Cases(*(round(a + b, 6) for a, b in zip(found[i], more, strict=True)))
        return dict(zip(members, found, strict=True))
