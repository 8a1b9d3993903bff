"""What hangs in a roof: heads of rafters on ledgers and ridge beams, tails on the headers of openings, these on their trimmers; and what of a
ledger's comes to one group of its nails.
"""

from collections.abc import Callable, Mapping, Sequence
from typing import NamedTuple

from balken.framing.roof_layout import RoofMember
from balken.framing.roof_openings import in_plane
from balken.framing.surface_framing import RafterHeader
from balken.framing.surface_members import SurfaceMember
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.wall_ledgers import WallLedger
from balken.geometry.plane import Point, distance, dot, off_square, sub, to_segment, unit
from balken.geometry.prism import Vec
from balken.geometry.roof_edges import Place
from balken.loads.cases import Cases, total
from balken.loads.roof_feet import Pressed
from balken.value import Value

AT_HEADER = 120.0
"""A tail that ends no farther than this from a header's line hangs on it, mm."""
ON = 1.0


class RoofHung(Value, frozen=True):
    """What hangs in a hanger: an end of a rafter, a header or a truss; on what, where; its section, N by case."""

    member: str
    on: str
    at: Vec
    size: str
    force: Cases
    sides: tuple[float, float, float] | None = None
    """Of a truss: how wide and deep what hangs is, how long its hanger's seat, mm."""
    lifted: Cases = Cases()
    """What the overhang at its other end takes off that by the lever, N; with what roof live load may be missing in its span."""
    turned: float = 0.0
    """From square to what it hangs on, degrees, as ``design.hangers.Hung`` has it."""


class Rafters(NamedTuple):
    """The rafters of a roof with what lies on them: kN/m2 of plan on each, how wide a strip each carries, mm, what stands on some, by their
    names; their sections.
    """

    plan: SurfacePlan
    carries: Sequence[SurfaceMember]
    lies: Mapping[RoofMember, Cases]
    widths: Mapping[str, float]
    standing: Mapping[str, Sequence[Pressed]]
    size_of: Callable[[str], str]

    def brings(self, one: SurfaceMember, head: bool) -> Cases:
        """Return what comes to an end of one, N: half of what lies on it, all of it where it leans on a ridge board; overhangs, which lift a
        head, and purlins, which take of it, are left out.
        """
        m, run = one.member, distance(*one.member.ends)
        leans = not head and m.head.kind == "ridge" and self.plan.roof.ridge_made == "board"
        even = self.lies[m].scaled(self.widths[one.key] * run * (1.0 if leans else 0.5) / 1000.0)
        parts = [(min(max(p.x / run, 0.0), 1.0), p.force) for p in self.standing.get(one.key, ())]
        return total([even, *(force.scaled(x if head else 1.0 if leans else 1.0 - x) for x, force in parts)])

    def hung(self, one: SurfaceMember, on: str, head: bool, turned: float = 0.0) -> RoofHung:
        """Return an end of one as it hangs; ``turned``: from square to what it hangs on, degrees."""
        x, y, z = one.member.end if head else one.member.start
        at = (x, y, z + self.plan.bearing + self.plan.plate_to_top)
        lifted = self.lifted(one) if head else Cases()
        return RoofHung(one.key, on, at, self.size_of(one.key), self.brings(one, head), None, lifted, turned)

    def lifted(self, one: SurfaceMember) -> Cases:
        """Return what the tail of one takes off its head, N: all that lies on it by the lever; roof live load may lie on it alone."""
        m, run = one.member, distance(*one.member.ends)
        if not m.at_eave or m.over <= 0.0:
            return Cases()
        q, wide = self.lies[m], self.widths[one.key] / 1000.0
        tail = q.scaled(m.over**2 / (2.0 * run) * wide)
        return tail._replace(roof_live=tail.roof_live + q.roof_live * run / 2.0 * wide)


def hung_in_roof(
    rafters: Rafters,
    ledgers: Sequence[WallLedger],
    members: Sequence[SurfaceMember],
    headers: Sequence[RafterHeader],
    brought: Mapping[str, tuple[Cases, Cases]],
) -> tuple[RoofHung, ...]:
    """Return all that hangs in a roof; ``brought``: by headers, by their names, to both their trimmers, N."""
    return (
        *heads_on(rafters, ledgers),
        *_on_ridges(rafters, members),
        *(one for header in headers for one in _on_header(rafters, header)),
        *(one for header in headers for one in _on_trimmers(rafters.plan, header, brought[header.key])),
    )


def heads_on(rafters: Rafters, found: Sequence[WallLedger]) -> tuple[RoofHung, ...]:
    """Return what the heads of rafters bring to ledgers."""
    by_key = {one.key: one for one in rafters.carries}
    return tuple(
        rafters.hung(one, ledger.key, head=True, turned=off_square(unit(*one.member.ends), ledger.way))
        for ledger in found
        for one in (by_key[key] for key in ledger.heads if key in by_key)
    )


def _on_ridges(rafters: Rafters, members: Sequence[SurfaceMember]) -> list[RoofHung]:
    """Return the heads of rafters at the faces of ridge beams between them."""
    if rafters.plan.roof.ridge_made != "beam":
        return []
    ridges = [(one.key, one.member.ends) for one in members if one.member.role == "ridge"]
    found = []
    for one in rafters.carries:
        m = one.member
        if m.head.kind == "ridge" and m.head.half > 0.0 and m.head.between > 89.9:
            on = next((key for key, ends in ridges if to_segment(m.end[:2], *ends) < ON), "")
            if on:
                found.append(rafters.hung(one, on, head=True))
    return found


def _on_header(rafters: Rafters, header: RafterHeader) -> list[RoofHung]:
    """Return the tails that hang on a header of an opening."""
    core, head = rafters.plan.outline.core, header.end == 0
    found = []
    for one in rafters.carries:
        m = one.member
        if m.edges[0] != header.edge or (m.head if head else m.foot).kind != "header":
            continue
        ((s, t),) = in_plane(core, header.edge, [(m.end if head else m.start)[:2]])
        if header.between[0] < s < header.between[1] and abs(t - header.inward) < AT_HEADER:
            found.append(rafters.hung(one, header.key, head))
    return found


def _on_trimmers(plan: SurfacePlan, header: RafterHeader, brought: tuple[Cases, Cases]) -> list[RoofHung]:
    """Return both ends of a header, on its trimmers."""
    return [
        RoofHung(header.key, trimmer, _place(plan, header, along), header.size, force)
        for trimmer, along, force in zip(header.trimmers, header.between, brought, strict=True)
    ]


def _place(plan: SurfacePlan, header: RafterHeader, along: float) -> Place:
    """Return a place on a header, at the underside of the deck."""
    core = plan.outline.core
    a, b = core[header.edge], core[(header.edge + 1) % len(core)]
    long = distance(a, b)
    way: Point = ((b[0] - a[0]) / long, (b[1] - a[1]) / long)
    x, y = a[0] + way[0] * along - way[1] * header.inward, a[1] + way[1] * along + way[0] * header.inward
    rise = 0.0 if plan.tapered else plan.edges[header.edge].pitch * header.inward
    return x, y, plan.level(header.edge) - plan.tapered + rise


def most_at(heads: Sequence[RoofHung], ledger: WallLedger, apart: float) -> Cases:
    """Return the most that comes to one of the groups of nails that stand so far apart, N: with one right behind a rafter, of each near it by
    the lever to the next group.
    """
    mine = [(dot(ledger.way, sub(h.at[:2], ledger.start[:2])), h.force) for h in heads if h.on == ledger.key]
    rows = [
        total(force.scaled(1.0 - abs(s - at) / apart) for s, force in mine if abs(s - at) < apart) for at, _ in mine
    ]
    return max(rows, key=lambda row: row.all, default=Cases())
