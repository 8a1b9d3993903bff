"""What lies on the rafters of a roof of planes: area loads, uneven snow, what other roofs cover and bring down, each as an even load."""

from collections.abc import Container, Mapping, Sequence

import numpy as np

from balken.framing.roof_layout import RoofMember
from balken.framing.surface_members import SurfaceMember
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.surface_ties import Leaning
from balken.geometry.plane import distance, dot, left, sub, unit
from balken.loads.area_loads import roof_cases
from balken.loads.cases import Cases, total
from balken.loads.roof_feet import (
    NOTHING,
    Pressed,
    Pressing,
    UnderRoofs,
    leaning_pressure,
    open_parts,
    pressed_as_even,
    pressed_rafters,
)
from balken.loads.roof_snow import RoofSnow, most_on_rafters, on_rafters
from balken.model.records import Loads
from balken.value import Value


class OnRafters(Value, frozen=True):
    """What lies on a roof: area loads, snow, what is over it."""

    plan: SurfacePlan
    loads: Loads
    snow: RoofSnow
    over: UnderRoofs = NOTHING

    def bare(self, members: Sequence[RoofMember], propped: Container[RoofMember] = ()) -> dict[RoofMember, Cases]:
        """Return what lies on a m2 of the strips of rafters in plan, kN/m2; uneven snow as the even load that bends and presses no less,
        on those over purlins (``propped``) the most of it all over.
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
        if propped:
            most = most_on_rafters(snow, self.snow.bands, feet, heads)
            lies = [m if one in propped else q for one, q, m in zip(members, lies, most, strict=True)]
        parts = open_parts(self.over.covered, feet, heads)
        found = {}
        for m, q, part in zip(members, lies, parts, strict=True):
            row = roof_cases(self.loads, plan.edges[m.edges[0]].pitch, round(q, 6))
            found[m] = row if part == 1.0 else row._replace(roof_live=row.roof_live * part, snow=row.snow * part)
        return found

    def standing(self, members: Sequence[SurfaceMember]) -> dict[str, list[Pressed]]:
        """Return what stands on rafters, by their names; all rafters of the roof are given."""
        rows = pressed_rafters(self.plan, [one.member for one in members], self.over.feet)
        return {members[i].key: pressed for i, pressed in rows.items()}

    def pressings(
        self, members: Sequence[SurfaceMember], lean: Leaning, brought: Mapping[str, list[Pressed]]
    ) -> dict[str, Pressing]:
        """Return what stands on rafters, by their names, and on those that lean against such; all rafters of the roof are given;
        ``brought``: to trimmers by headers.
        """
        standing = self.standing(members)
        standing |= {key: [*standing.get(key, []), *more] for key, more in brought.items()}
        by_key = {one.key: one for one in members}
        mates = {a.key: b.key for pair in lean.pairs for a, b in (pair, pair[::-1])}
        found = {
            key: Pressing(pressed_as_even(row, distance(*by_key[key].member.ends)), Cases(), Cases())
            for key, row in standing.items()
        }
        for key, row in standing.items():
            m = by_key[key].member
            run = distance(*m.ends)
            if m.head.kind != "ridge" or self.plan.roof.ridge_beams:
                foot = total(p.force.scaled(1.0 - min(max(p.x, 0.0), run) / run) for p in row)
                found[key] = found[key]._replace(foot=foot)
                continue
            mate = by_key.get(mates.get(key, ""))
            pitch = self.plan.edges[m.edges[0]].pitch
            other = self.plan.edges[mate.member.edges[0]].pitch if mate is not None else pitch
            own, far, thrust = leaning_pressure(row, run, pitch, other)
            for name, foot in ((key, own), (mate.key if mate is not None else "", far)):
                if name:
                    was = found.get(name, Pressing(Cases(), Cases(), Cases()))
                    found[name] = Pressing(was.even, was.thrust.plus(thrust), was.foot.plus(foot))
        return found
