"""Trusses with their plates: where no plate of the list finds room at a joint, of deeper chords or webs, as far as those are chosen by Balken."""

from collections.abc import Iterator
from functools import lru_cache

from msgspec.structs import replace

from balken.catalog.sections import section
from balken.design.truss_demands import EVEN
from balken.design.truss_groups import CHORD_SIZES, WEB_SIZES
from balken.design.truss_makes import known_design
from balken.design.truss_plates import Plate, plates_of
from balken.design.trusses import TrussDesign
from balken.framing.truss_outline import TrussError
from balken.standards.standard import Standard

Plated = tuple[TrussDesign, tuple[Plate, ...]]
STEPS = 2
"""So many sections deeper are tried of each."""


@lru_cache(maxsize=1000)
def known_plates(made: TrussDesign, standard: Standard) -> tuple[Plate, ...]:
    """Return the plates of a truss, placed once."""
    return plates_of(made, standard)


@lru_cache(maxsize=1000)
def plated(made: TrussDesign, typed: tuple[str, str, str], standard: Standard) -> Plated:
    """Return a truss with its plates: itself where they hold; else, of what carries no worse, the first whose plates do; else itself.
    ``typed``: sections of top chords, bottom chords and webs that are not to be changed ("": chosen).
    """
    plates = known_plates(made, standard)
    if _hold(plates):
        return made, plates
    for top, bottom, webs in _others(made, typed):
        job = replace(made.job, top=top, bottom=bottom, webs=webs, grades=None)
        try:
            tried = known_design(job, made.frame.outline, standard)
        except TrussError:
            continue
        if tried.used <= max(1.0, made.used) + EVEN and _hold(known_plates(tried, standard)):
            return replace(tried, job=made.job), known_plates(tried, standard)
    return made, plates


def _hold(plates: tuple[Plate, ...]) -> bool:
    return all(plate.used <= 1.0 + EVEN for plate in plates)


def _others(made: TrussDesign, typed: tuple[str, str, str]) -> Iterator[tuple[str, str, str]]:
    """Yield sections of top chords, bottom chords and webs, none shallower than they are, the least change first."""
    sizes, known = made.frame.sizes, (CHORD_SIZES, CHORD_SIZES, WEB_SIZES)
    rows = [_deeper(*row) for row in zip((sizes.top, sizes.bottom, sizes.webs), typed, known, strict=True)]
    steps = [(a, b, c) for a in range(len(rows[0])) for b in range(len(rows[1])) for c in range(len(rows[2]))]
    for a, b, c in sorted(steps, key=lambda row: (sum(row), row))[1:]:
        yield rows[0][a], rows[1][b], rows[2][c]


def _deeper(size: str, typed: str, known: tuple[str, ...]) -> tuple[str, ...]:
    """Return a section and the next deeper ones; itself alone where it is typed."""
    if typed:
        return (size,)
    deeper = [one for one in known if section(one).depth > section(size).depth]
    return (size, *deeper[:STEPS])
