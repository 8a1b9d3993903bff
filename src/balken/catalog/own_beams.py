"""Beams of lists that the user read in (veneer lumber, glued timber, W shapes), known by their names beside those that ship with Balken.

A name never changes what it means: one that is known with other figures is taken under a name of its own.
"""

import re
from collections.abc import Iterable
from typing import Literal, NamedTuple

import numpy as np
from msgspec.structs import astuple

from balken.catalog.list_rows import Headings, rows_of
from balken.units.system import FOOT, INCH, POUND_FORCE, PSI
from balken.value import Value

OwnWord = Literal["LVL", "GLB", "W"]
"""What a listed beam is made of, by the word that asks for it."""


class WoodValues(Value, frozen=True):
    """Reference design values of a product, N/mm2: bending sagging and hogging, shear, bearing across the grain, E, E that counts
    against turning over; ``depth_exponent``: of (12 in/d) on Fb (0: none; glued timber has CV instead).
    """

    fb: float
    fb_hogging: float
    fv: float
    fc_perp: float
    e: float
    e_turning: float
    depth_exponent: float


class WShape(Value, frozen=True):
    """A steel W shape, mm: depth, thickness of web, width and thickness of flange, the distance ``k`` from its outer face
    to the web's end of the fillet; second moment, moduli, radii (rts as AISC 360-16, F2-7), torsion constant; kg/m.
    """

    depth: float
    web: float
    width: float
    flange: float
    k: float
    area: float
    inertia: float
    modulus: float
    plastic: float
    gyration: float
    rts: float
    torsion: float
    mass: float

    @property
    def between(self) -> float:
        """Distance between the middles of the flanges, mm."""
        return self.depth - self.flange


class OwnBeam(NamedTuple):
    """A beam of a list: mm, its price in dollars a metre; of wood or a shape of ASTM A992 steel."""

    name: str
    made_of: OwnWord
    breadth: float
    depth: float
    price: float
    wood: WoodValues | None = None
    shape: WShape | None = None

    @property
    def figures(self) -> tuple[float, ...]:
        """All that it measures and carries."""
        more = astuple(self.wood) if self.wood is not None else astuple(self.shape)  # type: ignore[arg-type]
        return (self.breadth, self.depth, self.price, *more)


HEADINGS = (
    "beam", "made_of", "width_in", "depth_in", "fb_psi", "fb_hogging_psi", "fv_psi", "fc_perp_psi", "e_psi", "e_min_psi",
    "depth_exponent", "dollars_ft",
)  # fmt: skip
"""Of a list of wooden beams in inches and pounds."""
METRIC = (
    "beam", "made_of", "width_mm", "depth_mm", "fb_n_mm2", "fb_hogging_n_mm2", "fv_n_mm2", "fc_perp_n_mm2", "e_n_mm2",
    "e_min_n_mm2", "depth_exponent", "dollars_m",
)  # fmt: skip
"""Of one in mm and N."""
STEEL = (
    "w_shape", "d_in", "tw_in", "bf_in", "tf_in", "k_in", "a_in2", "ix_in4", "sx_in3", "zx_in3", "ry_in", "rts_in", "j_in4",
    "lb_ft", "dollars_ft",
)  # fmt: skip
"""Of a list of W shapes in inches and pounds."""
STEEL_METRIC = (
    "w_shape", "d_mm", "tw_mm", "bf_mm", "tf_mm", "k_mm", "a_mm2", "ix_mm4", "sx_mm3", "zx_mm3", "ry_mm", "rts_mm", "j_mm4",
    "kg_m", "dollars_m",
)  # fmt: skip
"""Of one in mm."""
_IN, _METRE = INCH, 1000.0 / FOOT
_LB_FT = POUND_FORCE / 9.80665 / FOOT * 1000.0
_WOOD_SCALES: dict[Headings, tuple[float, ...]] = {
    HEADINGS: (_IN, _IN, PSI, PSI, PSI, PSI, PSI, PSI, 1.0, _METRE),
    METRIC: (1.0,) * 10,
}
_STEEL_SCALES: dict[Headings, tuple[float, ...]] = {
    STEEL: (
        _IN, _IN, _IN, _IN, _IN, _IN**2, _IN**4, _IN**3, _IN**3, _IN, _IN, _IN**4, _LB_FT, _METRE,
    ),
    STEEL_METRIC: (1.0,) * 14,
}  # fmt: skip
_KNOWN: dict[str, OwnBeam] = {}
"""By the key of their names."""
MOST_PLIES = 4
PLACES = 6
"""Figures are kept to so many places, as files hold them."""


def key_of(name: str) -> str:
    """Return a name as it is looked up: small letters, nothing between."""
    return re.sub(r"\s+", "", name.lower().replace("\u00d7", "x"))


def know(beam: OwnBeam) -> str:
    """Make a beam known and return the name under which it is: its own, or one with a number where that means another."""
    for n in range(1, 1000):
        name = beam.name if n == 1 else f"{beam.name} ({n})"
        known = _KNOWN.get(key_of(name))
        if known is None:
            _KNOWN[key_of(name)] = beam._replace(name=name)
            return name
        if known.made_of == beam.made_of and np.allclose(known.figures, beam.figures, rtol=1e-6, atol=0.0):
            return name
    raise ValueError(f"there are too many beams called {beam.name}.")


def own_beam(name: str) -> tuple[OwnBeam, int] | None:
    """Return a beam of a list and how many of it lie side by side (of veneer lumber alone more than one); None for others."""
    key = key_of(name)
    if key in _KNOWN:
        return _KNOWN[key], 1
    plies, dash, one = key.partition("-")
    known = _KNOWN.get(one) if dash else None
    if known is not None and known.made_of == "LVL" and plies in ("2", "3", "4"):
        return known, int(plies)
    return None


def tried(beams: Iterable[OwnBeam], word: str) -> tuple[str, ...]:
    """Return the names of those of a kind, veneer lumber also two, three and four side by side."""
    plies = range(1, MOST_PLIES + 1) if word == "LVL" else (1,)
    return tuple(f"{n}-{b.name}" if n > 1 else b.name for b in beams if b.made_of == word for n in plies)


def fault_of(beam: OwnBeam) -> str:
    """Return what is wrong with a beam of a list, "" where nothing is."""
    if not beam.name or beam.name[:1].isdigit() or len(beam.name) > 60:
        return "needs a name that does not begin with a figure"
    if re.match(r"(lvl|glb|w)\d", key_of(beam.name)):
        return "has a name as those that ship with Balken have: put its maker's before it"
    if beam.made_of not in ("LVL", "GLB", "W"):
        return f"is made of {beam.made_of}, which must be LVL, GLB or W"
    if not 20.0 <= beam.breadth <= 600.0 or not 75.0 <= beam.depth <= 2000.0 or not 0.0 <= beam.price < 1e6:
        return "has a width, a depth or a price out of bounds"
    if beam.shape is not None:
        s = beam.shape
        if not all(0.0 < v < 1e12 for v in astuple(s)):
            return "has a figure that is not above zero"
        # What a shape of two flanges and a web holds, fillets left out: figures in other units, or typed askew, do not.
        plain = 2.0 * s.width * s.flange + (s.depth - 2.0 * s.flange) * s.web
        if not 0.9 * plain <= s.area <= 1.25 * plain or not s.modulus < s.plastic < 1.5 * s.modulus:
            return "has an area or moduli that do not go with its sides"
        if abs(2.0 * s.inertia / s.depth / s.modulus - 1.0) > 0.05:
            return "has a modulus that is not its second moment over half its depth"
        return ""
    w = beam.wood
    if w is None or not all(0.0 < v < 1e6 for v in astuple(w)[:-1]) or not 0.0 <= w.depth_exponent <= 0.5:
        return "has a strength or stiffness that is not above zero, or an exponent above a half"
    if w.e_turning > w.e or w.fb_hogging > w.fb or w.fb > w.e / 100.0:
        return "has figures that cannot be: E min above E, hogging above sagging, or Fb above E/100"
    return ""


def read_wood(lines: Iterable[str]) -> tuple[OwnBeam, ...]:
    """Return wooden beams of a list as CSV; raises ValueError that says which line and what is wrong with it."""
    found = []
    for n, (name, word), (breadth, depth, *values, price) in rows_of(lines, _WOOD_SCALES, 2):
        made_of: OwnWord = "LVL" if word == "LVL" else "GLB"
        if word not in ("LVL", "GLB"):
            raise ValueError(f"line {n}: {name or 'it'} is made of {word}, which must be LVL or GLB.")
        wood = WoodValues(*(round(v, PLACES) for v in values))
        wide, deep, cost = (round(v, PLACES) for v in (breadth, depth, price))
        found.append(_checked(n, OwnBeam(name, made_of, wide, deep, cost, wood)))
    return _some(found)


def read_steel(lines: Iterable[str]) -> tuple[OwnBeam, ...]:
    """Return W shapes of a list as CSV; raises ValueError that says which line and what is wrong with it."""
    found = []
    for n, (name,), (*figures, price) in rows_of(lines, _STEEL_SCALES):
        shape = WShape(*(round(v, PLACES) for v in figures))
        found.append(_checked(n, OwnBeam(name, "W", shape.width, shape.depth, round(price, PLACES), shape=shape)))
    return _some(found)


def _checked(line: int, beam: OwnBeam) -> OwnBeam:
    if fault := fault_of(beam):
        raise ValueError(f"line {line}: {beam.name or 'it'} {fault}.")
    return beam


def _some(found: list[OwnBeam]) -> tuple[OwnBeam, ...]:
    if not found:
        raise ValueError("it holds no beam.")
    return tuple(found)
