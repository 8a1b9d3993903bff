"""I-joists of a list that the user read in, known by their names beside those that ship with Balken.

A name never changes what it means: one that is known with other figures is taken under a name of its own.
"""

import math
import re
from collections.abc import Iterable
from typing import NamedTuple

from balken.catalog.joists import MADE, VENEER_DEPTHS
from balken.catalog.list_rows import Headings, rows_of
from balken.catalog.section_record import Section
from balken.units.system import FOOT, INCH, POUND_FORCE


class OwnJoist(NamedTuple):
    """An I-joist: mm; E I N mm2, moment N mm, forces N at normal load duration, without and with web stiffeners; ``k`` of the
    sag from shear, N (w L2/k of an even load).
    """

    name: str
    depth: float
    width: float
    flange: float
    web: float
    ei: float
    moment: float
    shear: float
    end: float
    end_stiffened: float
    inner: float
    inner_stiffened: float
    k: float


HEADINGS = (
    "i_joist", "depth_in", "flange_width_in", "flange_thickness_in", "web_in", "ei_million_lb_in2", "moment_lb_ft", "shear_lb",
    "end_reaction_lb", "end_reaction_stiffened_lb", "inner_reaction_lb", "inner_reaction_stiffened_lb", "k_million_lb",
)  # fmt: skip
"""Of a list in inches and pounds."""
METRIC = (
    "i_joist", "depth_mm", "flange_width_mm", "flange_thickness_mm", "web_mm", "ei_kn_m2", "moment_kn_m", "shear_kn",
    "end_reaction_kn", "end_reaction_stiffened_kn", "inner_reaction_kn", "inner_reaction_stiffened_kn", "k_kn",
)  # fmt: skip
"""Of one in mm and kN."""
_LB = POUND_FORCE
_SCALES: dict[Headings, tuple[float, ...]] = {
    HEADINGS: (INCH, INCH, INCH, INCH, 1e6 * _LB * INCH**2, _LB * FOOT, _LB, _LB, _LB, _LB, _LB, 1e6 * _LB),
    METRIC: (1.0, 1.0, 1.0, 1.0, 1e9, 1e6, 1e3, 1e3, 1e3, 1e3, 1e3, 1e3),
}
_KNOWN: dict[str, OwnJoist] = {}
"""By the key of their names."""


def key_of(name: str) -> str:
    """Return a name as it is looked up: small letters, nothing between."""
    return re.sub(r"\s+", "", name.lower())


def know(joist: OwnJoist) -> str:
    """Make an I-joist known and return the name under which it is: its own, or one with a number where that means another."""
    for n in range(1, 1000):
        name = joist.name if n == 1 else f"{joist.name} ({n})"
        known = _KNOWN.get(key_of(name))
        if known is None and key_of(name) not in _TAKEN:
            _KNOWN[key_of(name)] = joist._replace(name=name)
            return name
        if known is not None and all(
            math.isclose(a, b, rel_tol=1e-6) for a, b in zip(known[1:], joist[1:], strict=True)
        ):
            return name
    raise ValueError(f"there are too many I-joists called {joist.name}.")


_TAKEN = {key_of(name) for name in MADE}


def own_joist(name: str) -> tuple[OwnJoist, int] | None:
    """Return an I-joist of a list and how many of it lie side by side; None for what is of none."""
    key = key_of(name)
    if key in _KNOWN:
        return _KNOWN[key], 1
    plies, dash, one = key.partition("-")
    if dash and plies in ("2", "3") and one in _KNOWN:
        return _KNOWN[one], int(plies)
    return None


def own_section(name: str) -> Section | None:
    """Return the section of an I-joist of a list, or None."""
    found = own_joist(name)
    if found is None:
        return None
    joist, n = found
    whole = f"{n}-{joist.name}" if n > 1 else joist.name
    sides = round(joist.width / INCH), round(joist.depth / INCH)
    return Section(whole, sides, n * joist.width, joist.depth, n, "I-joist", joist.flange, joist.web)


def in_order(joists: Iterable[OwnJoist]) -> tuple[str, ...]:
    """Return the names of I-joists in rising order: by depth, then by stiffness."""
    return tuple(joist.name for joist in sorted(joists, key=lambda j: (j.depth, j.ei)))


def fault_of(joist: OwnJoist) -> str:
    """Return what is wrong with an I-joist of a list, "" where nothing is."""
    if not joist.name or joist.name[:1].isdigit() or len(joist.name) > 60:
        return "needs a name that does not begin with a figure"
    if not any(abs(joist.depth - d * INCH) < 0.2 for d in VENEER_DEPTHS):
        return (
            f"has a depth for which there is no rim board; depths are {', '.join(f'{d:g}' for d in VENEER_DEPTHS)} in"
        )
    if not 20.0 <= joist.width <= 200.0 or not 10.0 <= joist.flange < joist.depth / 3.0 or not 3.0 <= joist.web <= 40.0:
        return "has a flange or web out of bounds"
    if not all(0.0 < v < 1e16 for v in joist[5:]):
        return "has a strength or stiffness that is not above zero"
    if joist.end_stiffened < joist.end or joist.inner_stiffened < joist.inner:
        return "carries less with web stiffeners than without"
    return ""


def read_rows(lines: Iterable[str]) -> tuple[OwnJoist, ...]:
    """Return the I-joists of a list as CSV; raises ValueError that says which line and what is wrong with it."""
    found = []
    for n, (name,), figures in rows_of(lines, _SCALES):
        joist = OwnJoist(name, *figures)
        if fault := fault_of(joist):
            raise ValueError(f"line {n}: {joist.name or 'it'} {fault}.")
        found.append(joist)
    if not found:
        raise ValueError("it holds no I-joist.")
    return tuple(found)
