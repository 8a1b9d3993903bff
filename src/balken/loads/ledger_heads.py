"""What the heads of rafters bring to ledgers on taller walls, and what of that comes to one group of a ledger's nails."""

from collections.abc import Callable, Mapping, Sequence

from balken.framing.roof_layout import RoofMember
from balken.framing.surface_members import SurfaceMember
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.wall_ledgers import WallLedger
from balken.geometry.plane import distance, dot, sub
from balken.geometry.prism import Vec
from balken.loads.cases import Cases, total
from balken.loads.roof_feet import Pressed
from balken.value import Value


class HeadOnWall(Value, frozen=True):
    """The head of a rafter, or the end of a truss, in its hanger: which, on which ledger, where; its section, N by case."""

    member: str
    ledger: str
    at: Vec
    size: str
    force: Cases
    sides: tuple[float, float, float] | None = None
    """Of a truss: how wide and deep what hangs is, how long its hanger's seat, mm."""


def heads_on(
    plan: SurfacePlan,
    found: Sequence[WallLedger],
    carries: Sequence[SurfaceMember],
    lies: Mapping[RoofMember, Cases],
    widths: Mapping[str, float],
    standing: Mapping[str, Sequence[Pressed]],
    size_of: Callable[[str], str],
) -> tuple[HeadOnWall, ...]:
    """Return what the heads of rafters bring to ledgers; ``lies``: kN/m2 of plan on each, ``widths``: of their strips, mm, ``standing``: what
    stands on some, by their names.

    Overhangs, which lift a head, and purlins, which take of it, are left out.
    """
    by_key, lift = {one.key: one.member for one in carries}, plan.bearing + plan.plate_to_top
    rows = []
    for ledger in found:
        for key in ledger.heads:
            m = by_key.get(key)
            if m is None:
                continue
            run = distance(*m.ends)
            even = lies[m].scaled(widths[key] * run / 2.0 / 1000.0)
            points = [p.force.scaled(min(max(p.x / run, 0.0), 1.0)) for p in standing.get(key, ())]
            x, y, z = m.end
            rows.append(HeadOnWall(key, ledger.key, (x, y, z + lift), size_of(key), total([even, *points])))
    return tuple(rows)


def most_at(heads: Sequence[HeadOnWall], ledger: WallLedger, apart: float) -> Cases:
    """Return the most that comes to one of the groups of nails that stand so far apart, N: with one right behind a rafter, of each near it by
    the lever to the next group.
    """
    mine = [(dot(ledger.way, sub(h.at[:2], ledger.start[:2])), h.force) for h in heads if h.ledger == ledger.key]
    rows = [
        total(force.scaled(1.0 - abs(s - at) / apart) for s, force in mine if abs(s - at) < apart) for at, _ in mine
    ]
    return max(rows, key=lambda row: row.all, default=Cases())
