"""Choosing section and spacing of a layout, and its neighbours: what the next sizes would do."""

from collections.abc import Callable, Sequence
from functools import cached_property
from typing import NamedTuple

from balken.catalog.sections import section
from balken.model.records import Choice
from balken.standards.checks import MemberResult
from balken.standards.demands import GirderCase, MemberCase, SlabCase, StudCase
from balken.standards.standard import Standard
from balken.units import Units
from balken.units.system import INCH
from balken.value import Lazy, Value

Case = MemberCase | StudCase | GirderCase | SlabCase
CasesFor = Callable[[str, float], Sequence[Case]]
"""Makes the cases of members of which one governs, for a size and a spacing."""

PLANNING_SPACING = 16.0 * INCH
"""Spacing at which a layout is laid to learn its spans before its own is chosen."""


def check_case(standard: Standard, case: Case) -> MemberResult:
    """Check a bending member, one that runs on, or a column."""
    if isinstance(case, SlabCase):
        return standard.check_slab(case, standard.slab_bars((case,)))
    if isinstance(case, GirderCase):
        return standard.check_running(case)
    return standard.check_stud(case) if isinstance(case, StudCase) else standard.check_member(case)


_SPACINGS = {
    Units.IMPERIAL: (24.0 * INCH, 19.2 * INCH, 16.0 * INCH, 12.0 * INCH),
    Units.METRIC: (600.0, 480.0, 400.0, 300.0),
}


def spacings(units: Units) -> tuple[float, ...]:
    """Return the usual spacings, widest first, mm (sheet goods of 8 ft or 2400 mm divide by them)."""
    return _SPACINGS[units]


class Neighbour(Value, frozen=True):
    """Another size or spacing and how far the governing member would be used."""

    size: str
    spacing: float
    used: float
    governs: str


class Way(NamedTuple):
    """A way in which joists may lie: the angle from x, the volume of their timber, mm3, whether all bear and work."""

    angle: float
    volume: float
    works: bool


class LayoutDesign(Lazy, frozen=True):
    """The size and spacing a layout has, and why.

    ``works`` is False when nothing tried is strong enough (that used least is then taken).  ``others``: the next
    sizes and spacings, each with the cases of which one governs there.
    """

    size: str
    spacing: float
    size_auto: bool
    spacing_auto: bool
    works: bool
    result: MemberResult
    others: tuple[tuple[str, float, tuple[Case, ...]], ...]
    standard: Standard
    would_work: str = ""
    """The smallest size tried that works at this spacing where the one typed does not; "" when none does."""
    ways: tuple[Way, ...] = ()
    """Both ways that were laid where the one with the least timber was asked for, that taken first."""

    @cached_property
    def neighbours(self) -> tuple[Neighbour, ...]:
        """The next sizes and spacings and how far they would be used; checked when first asked for."""
        results = [(size, spacing, _worst(self.standard, cases)) for size, spacing, cases in self.others]
        return tuple(Neighbour(size, spacing, r.used, r.governs.name) for size, spacing, r in results)


def design_layout(
    choice: Choice, sizes: tuple[str, ...], units: Units, cases_for: CasesFor, standard: Standard
) -> LayoutDesign:
    """Choose what the user left to auto.

    Size auto: the smallest that works. Spacing auto: the widest that works. Both: the pair with
    the least timber an area; the shallower of two alike.
    """
    tried_sizes = sizes if choice.size is None else (choice.size,)
    tried_spacings = spacings(units) if choice.spacing is None else (choice.spacing,)
    ranked = sorted(
        (
            (section(size).area / spacing, section(size).depth, size, spacing)
            for size in tried_sizes
            for spacing in tried_spacings
        ),
        key=lambda row: (
            (round(row[0], 6), row[1])
            if choice.size is None and choice.spacing is None
            else (row[1], section(row[2]).area, -row[3])
        ),
    )
    works, weak = True, list[tuple[float, str, float, MemberResult]]()
    for _, _, size, spacing in ranked:
        result = _worst(standard, cases_for(size, spacing))
        if result.used <= 1.0:
            break
        weak.append((result.used, size, spacing, result))
    else:
        # The deepest as a rule, but not where deep boards turn over; of those alike the last.
        works = False
        _, size, spacing, result = min(reversed(weak), key=lambda row: row[0])
    return LayoutDesign(
        size,
        spacing,
        choice.size is None,
        choice.spacing is None,
        works,
        result,
        _others(size, spacing, sizes, units, cases_for),
        standard,
        "" if works or choice.size is None else _smallest(spacing, sizes, cases_for, standard),
    )


def _worst(standard: Standard, cases: Sequence[Case]) -> MemberResult:
    """Return the result of the case that is used most."""
    return max((check_case(standard, case) for case in cases), key=lambda result: result.used)


def _smallest(spacing: float, sizes: tuple[str, ...], cases_for: CasesFor, standard: Standard) -> str:
    return next((s for s in sizes if _worst(standard, cases_for(s, spacing)).used <= 1.0), "")


def _others(
    size: str, spacing: float, sizes: tuple[str, ...], units: Units, cases_for: CasesFor
) -> tuple[tuple[str, float, tuple[Case, ...]], ...]:
    """Return the next sizes down and up, and the next spacings closer and wider."""
    lumber = section(size)
    if lumber.kind == "sawn":
        thick = lumber.nominal[0]
        same = [s for s in (f"{thick}x{d}" for d in (4, 6, 8, 10, 12, 14)) if thick in (2, 3, 4)]
        below = [s for s in same if section(s).depth < lumber.depth][-1:]
        above = [s for s in same if section(s).depth > lumber.depth][:1]
    else:
        at = sizes.index(size) if size in sizes else 0
        below, above = list(sizes[max(at - 1, 0) : at]), list(sizes[at + 1 : at + 3])
    closer = [s for s in spacings(units) if s < spacing - 1.0][:1]
    wider = [s for s in reversed(spacings(units)) if s > spacing + 1.0][:1]
    pairs = [(s, spacing) for s in below + above] + [(size, s) for s in closer + wider]
    return tuple((s, at, tuple(cases_for(s, at))) for s, at in pairs)
