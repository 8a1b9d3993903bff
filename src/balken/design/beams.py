"""Sections of beams chosen: what is tried, what each costs, which is the cheapest that works."""

from collections.abc import Iterable, Iterator

from msgspec.structs import replace

from balken.catalog.beams import TRIED, BeamSection, beam_section
from balken.catalog.joists import series_of
from balken.catalog.prices import board_price, price_of
from balken.standards.checks import GirderResult
from balken.standards.demands import GirderCase
from balken.standards.standard import Standard
from balken.units.system import FOOT

_BY_VOLUME = {
    "laminated veneer": "laminated veneer lumber, a m3",
    "glulam": "glulam, a m3",
    "rim board": "laminated strand lumber, a m3",
}


def cost_per_length(section: BeamSection, species: str) -> float:
    """Return what a beam costs along it, dollars a metre, by the price lists that ship with Balken (made up)."""
    if section.own is not None:
        return section.plies * section.own.price
    if section.board is not None:
        thick, deep = section.board.nominal
        feet = section.plies * thick * deep / 12.0 / FOOT * 1000.0
        return feet * board_price(species, f"{thick}x{deep}") / 1000.0
    if section.shape is not None:
        return section.shape.mass * price_of("steel, a kg")
    if section.kind == "I-joist":
        assert section.made is not None
        series, depth = series_of(section.made)
        return section.plies * price_of(f"{series} {depth:g}, a m")
    return section.area * 1e-6 * price_of(_BY_VOLUME[section.kind])


def by_cost(names: Iterable[str], species: str) -> list[str]:
    """Return sections from the cheapest on; of those that cost the same, the shallower first."""
    rows = [(round(cost_per_length(s := beam_section(name), species), 6), s.depth, s.breadth, name) for name in names]
    return [name for *_, name in sorted(rows)]


def cheapest(
    case: GirderCase, kind: str, standard: Standard, own_weight: bool, names: Iterable[str] = ()
) -> GirderResult:
    """Return the cheapest beam of a kind (sawn, LVL, GLB, W) that works, else the one used least."""
    best: GirderResult | None = None
    for made in _tried(case, names or by_cost(TRIED[kind], case.species), standard, own_weight):
        if made.used <= 1.0:
            return made
        if best is None or made.used < best.used:
            best = made
    assert best is not None
    return best


def _tried(case: GirderCase, names: Iterable[str], standard: Standard, own_weight: bool) -> Iterator[GirderResult]:
    for name in names:
        one = replace(case, size=name)
        yield standard.check_girder(with_own_weight(one) if own_weight else one)


def with_own_weight(case: GirderCase) -> GirderCase:
    """Return a case with the weight of its section along it."""
    return replace(case, own=round(case.section.own_line, 6))
