"""What rafters' heads bring to ledgers on taller walls; what is behind these, and the nails that hold them there.

A ledger is nailed to the studs behind it, through sheathing where that lies between, or to the rim of a floor that meets the wall there.
"""

import itertools
from collections.abc import Mapping, Sequence

from msgspec.structs import replace

from balken.design.load_duration import normal_duration
from balken.framing.bands import WallLine
from balken.framing.surface_members import LEDGER
from balken.framing.wall_ledgers import WallLedger
from balken.framing.walls import GableTop
from balken.geometry.plane import cross, dot, left, sub, unit
from balken.geometry.roof_edges import Place
from balken.loads.beam_law import Extremes
from balken.loads.roof_hung import RoofHung, most_at
from balken.standards.demands import LedgerNails
from balken.standards.standard import Standard
from balken.units.system import FOOT, INCH
from balken.value import Value

RIM_APART = 16.0 * INCH
"""Nails into the rim of a floor stand in groups so far apart, mm (common practice, no source)."""
ASKEW = 1e-3
"""Walls that turn by less than this run along a ledger, rad."""
BEHIND = 60.0
"""What is farther behind the face of a ledger than this is not behind it, mm."""
NEAR_ENDS = 50.0
"""A wall that stops so much short of a ledger's end still stands behind it, mm."""
DEEPEST_RIM = 2.0 * FOOT
"""Between a wall and the one over it no floor is deeper, mm."""


class Backing(Value, frozen=True):
    """What is behind a ledger: a wall's studs (``apart`` mm) or a floor's rim (0: other things, into which no nails are counted), between
    which heights; how thick what lies between is, how thick it is itself, mm; its species.
    """

    wall: str
    rim: bool
    apart: float
    low: float
    high: float
    gap: float
    thick: float
    species: str


class HeldLedger(Value, frozen=True):
    """A ledger as it is held: by which nails at each stud (or 16 in along a rim), how far these are used; over how much of its depth there is
    nothing behind it, from which height, mm; ``shallow``: by how much less it is deep than the cuts of its rafters; ``more``: what else it is nailed into where one backing has
    no room for all.
    """

    ledger: WallLedger
    backing: Backing | None
    nails: LedgerNails | None
    apart: float
    used: float
    bare: float
    bare_from: float
    shallow: float
    more: tuple[tuple[Backing, LedgerNails], ...] = ()


def backings(
    start: Place,
    end: Place,
    lines: Mapping[str, WallLine],
    tops: Mapping[str, GableTop | None],
    studs: Mapping[str, tuple[float, str]],
    rims: Sequence[tuple[float, float, float, str]],
) -> list[Backing]:
    """Return what stands behind a ledger from its start to its end (to the right of that way), over all of its length, from below up; ``studs``: of framed walls how far apart they stand, mm,
    and their species; ``rims``: of floors, from which height to which, how thick, and of which species.
    """
    way, found = unit(start[:2], end[:2]), list[Backing]()
    for wall, line in lines.items():
        band = line.band
        if line.is_beam or abs(cross(band.direction, way)) > ASKEW:
            continue
        s = sorted(dot(band.direction, sub(p[:2], band.start)) for p in (start, end))
        if s[0] < -line.thickness - NEAR_ENDS or s[1] > band.length + line.thickness + NEAR_ENDS:
            continue
        # Ledgers lie to the left of their way.
        outside = dot(band.inward, left(way)) < 0.0
        depth = dot(band.inward, sub(start[:2], band.at(0.0, 0.0)))
        gap = line.core[0] - depth if outside else depth - line.core[1]
        if not -1.0 <= gap <= BEHIND:
            continue
        apart, species = studs.get(wall, (0.0, ""))
        top = tops.get(wall)
        high = band.top if top is None else min(max(top.height(x, False), band.top) for x in s)
        found.append(
            Backing(wall, False, apart, band.bottom, high, max(gap, 0.0), line.core[1] - line.core[0], species)
        )
    found.sort(key=lambda one: one.low)
    between = [
        Backing(lower.wall, True, RIM_APART, low, high, lower.gap, thick, species)
        for lower, upper in itertools.pairwise(found)
        for low, high, thick, species in rims
        if 1.0 < upper.low - lower.high < DEEPEST_RIM
        and abs(low - lower.high) < 2.0 * INCH and upper.low - 2.0 * INCH < high < upper.low + 2.0 * INCH
    ]  # fmt: skip
    return sorted([*found, *between], key=lambda one: one.low)


def hold_ledger(
    ledger: WallLedger,
    heads: Sequence[RoofHung],
    behind: Sequence[Backing],
    species: str,
    cut: float,
    standard: Standard,
) -> HeldLedger:
    """Return how a ledger is held; ``species``: its own; ``cut``: how deep the plumb cuts of its rafters are, mm."""
    at = ledger.rise * ledger.length
    low, high = ledger.top(0.0) - ledger.plumb + min(at, 0.0), ledger.top(0.0) + max(at, 0.0)
    reached, bare, bare_from = low, 0.0, low
    for one in behind:
        if one.high < low or one.low > high:
            continue
        gap = one.low - reached
        if gap > bare:
            bare, bare_from = gap, reached
        reached = max(reached, one.high)
    if high - reached > bare:
        bare, bare_from = high - reached, reached
    shallow = max(cut - ledger.plumb, 0.0)
    usable = [one for one in behind if one.apart > 0.0 and min(one.high, high) > max(one.low, low)]
    if not usable:
        return HeldLedger(ledger, None, None, 0.0, 99.0, bare, bare_from, shallow)
    best = max(usable, key=lambda one: min(one.high, high) - max(one.low, low))
    load = most_at(heads, ledger, best.apart)
    away = most_at([replace(h, force=h.lifted) for h in heads], ledger, best.apart)
    most = max(normal_duration(load, Extremes(less=away.scaled(-1.0)), standard))

    def nailed(one: Backing) -> LedgerNails:
        top = ledger.top(0.0)
        room = min(one.high, top) - max(one.low, top - ledger.plumb)
        return standard.ledger_nails((species, one.species or species), LEDGER, one.gap, one.thick, room, most)

    nails = nailed(best)
    if nails.used <= 1.0:
        return HeldLedger(ledger, best, nails, best.apart, nails.used, bare, bare_from, shallow)
    # Where it lies before a floor and a wall: into both, as many as find room, what stands closer holding the more.
    rows = [(one, nailed(one)) for one in usable if one is not best]
    more = tuple((one, made) for one, made in rows if made.room > 0 and made.value > 0.0)
    holds = [made.value * made.room * best.apart / one.apart for one, made in ((best, nails), *more)]
    used = most / sum(holds) if sum(holds) > 0.0 else 99.0
    return HeldLedger(ledger, best, nails, best.apart, used, bare, bare_from, shallow, more)
