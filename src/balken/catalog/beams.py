"""What beams are made of: sawn boards side by side, laminated veneer lumber, glued laminated timber, steel W shapes.

Sawn boards measure as American Softwood Lumber Standard PS 20 says.  Veneer lumber comes 1 3/4 in thick, glued timber in
the widths of western species, deep by laminations of 1 1/2 in (common practice).  W shapes: AISC Manual, Table 1-1, from
memory.
"""

import re
from functools import lru_cache
from typing import Literal

from balken.catalog.joists import MADE, VENEER, VENEER_DEPTHS
from balken.catalog.materials import weight
from balken.catalog.own_beams import OwnBeam, WShape, own_beam
from balken.catalog.own_joists import own_section
from balken.catalog.section_record import Section
from balken.catalog.sections import BOARDS, SECTIONS, sawn_section
from balken.units.system import FOOT, INCH, POUND_FORCE
from balken.value import Value

BeamKind = Literal["sawn", "laminated veneer", "glulam", "steel"]
CutKind = BeamKind | Literal["I-joist", "rim board"]
LAMINATION = 1.5 * INCH
GLULAM_WIDTHS = (3.125, 3.5, 5.125, 5.5, 6.75, 8.75, 10.75)


class BeamSection(Value, frozen=True):
    """The section of a beam: its name, kind, sides (mm), of how many pieces side by side."""

    name: str
    kind: CutKind
    breadth: float
    depth: float
    plies: int = 1
    board: Section | None = None
    shape: WShape | None = None
    made: Section | None = None
    """That of an I-joist or a rim board, which are no beams but cut to length like them."""
    own: OwnBeam | None = None
    """What the project's own list says of it."""

    @property
    def area(self) -> float:
        """Area, mm2."""
        if self.made is not None:
            return self.made.area
        return self.breadth * self.depth if self.shape is None else self.shape.area

    @property
    def modulus(self) -> float:
        """Elastic section modulus about the strong axis, mm3."""
        return self.breadth * self.depth**2 / 6.0 if self.shape is None else self.shape.modulus

    @property
    def inertia(self) -> float:
        """Second moment about the strong axis, mm4."""
        return self.breadth * self.depth**3 / 12.0 if self.shape is None else self.shape.inertia

    @property
    def own_line(self) -> float:
        """Its weight along it, N/mm."""
        if self.shape is not None:
            return self.shape.mass * 9.80665 / 1000.0
        return weight("timber") * self.area * 1e-6

    @property
    def material(self) -> str:
        """What it is made of, as weights and drawings know it."""
        return "steel" if self.shape is not None else "timber"


# name: d, tw, bf, tf, k (in), A (in2), Ix (in4), Sx, Zx (in3), ry, rts (in), J (in4)
_W = {
    "W8x10": (7.89, 0.170, 3.94, 0.205, 0.505, 2.96, 30.8, 7.81, 8.87, 0.841, 1.01, 0.0426),
    "W8x13": (7.99, 0.230, 4.00, 0.255, 0.555, 3.84, 39.6, 9.91, 11.4, 0.843, 1.03, 0.0871),
    "W8x15": (8.11, 0.245, 4.02, 0.315, 0.615, 4.44, 48.0, 11.8, 13.6, 0.876, 1.06, 0.137),
    "W8x18": (8.14, 0.230, 5.25, 0.330, 0.630, 5.26, 61.9, 15.2, 17.0, 1.23, 1.43, 0.172),
    "W8x21": (8.28, 0.250, 5.27, 0.400, 0.700, 6.16, 75.3, 18.2, 20.4, 1.26, 1.46, 0.282),
    "W8x24": (7.93, 0.245, 6.50, 0.400, 0.794, 7.08, 82.7, 20.9, 23.1, 1.61, 1.81, 0.346),
    "W8x28": (8.06, 0.285, 6.54, 0.465, 0.859, 8.25, 98.0, 24.3, 27.2, 1.62, 1.84, 0.537),
    "W8x31": (8.00, 0.285, 8.00, 0.435, 0.829, 9.13, 110.0, 27.5, 30.4, 2.02, 2.26, 0.536),
    "W10x12": (9.87, 0.190, 3.96, 0.210, 0.510, 3.54, 53.8, 10.9, 12.6, 0.785, 0.983, 0.0547),
    "W10x15": (9.99, 0.230, 4.00, 0.270, 0.570, 4.41, 68.9, 13.8, 16.0, 0.810, 1.01, 0.104),
    "W10x17": (10.1, 0.240, 4.01, 0.330, 0.630, 4.99, 81.9, 16.2, 18.7, 0.845, 1.04, 0.156),
    "W10x19": (10.2, 0.250, 4.02, 0.395, 0.695, 5.62, 96.3, 18.8, 21.6, 0.874, 1.06, 0.233),
    "W10x22": (10.2, 0.240, 5.75, 0.360, 0.660, 6.49, 118.0, 23.2, 26.0, 1.33, 1.55, 0.239),
    "W10x26": (10.3, 0.260, 5.77, 0.440, 0.740, 7.61, 144.0, 27.9, 31.3, 1.36, 1.58, 0.402),
    "W10x30": (10.5, 0.300, 5.81, 0.510, 0.810, 8.84, 170.0, 32.4, 36.6, 1.37, 1.60, 0.622),
    "W12x14": (11.9, 0.200, 3.97, 0.225, 0.525, 4.16, 88.6, 14.9, 17.4, 0.753, 0.961, 0.0704),
    "W12x16": (12.0, 0.220, 3.99, 0.265, 0.565, 4.71, 103.0, 17.1, 20.1, 0.773, 0.983, 0.103),
    "W12x19": (12.2, 0.235, 4.01, 0.350, 0.650, 5.57, 130.0, 21.3, 24.7, 0.822, 1.02, 0.180),
    "W12x22": (12.3, 0.260, 4.03, 0.425, 0.725, 6.48, 156.0, 25.4, 29.3, 0.848, 1.04, 0.293),
    "W12x26": (12.2, 0.230, 6.49, 0.380, 0.680, 7.65, 204.0, 33.4, 37.2, 1.51, 1.75, 0.300),
    "W12x30": (12.3, 0.260, 6.52, 0.440, 0.740, 8.79, 238.0, 38.6, 43.1, 1.52, 1.77, 0.457),
    "W12x35": (12.5, 0.300, 6.56, 0.520, 0.820, 10.3, 285.0, 45.6, 51.2, 1.54, 1.79, 0.741),
    "W14x22": (13.7, 0.230, 5.00, 0.335, 0.735, 6.49, 199.0, 29.0, 33.2, 1.04, 1.27, 0.208),
    "W14x26": (13.9, 0.255, 5.03, 0.420, 0.820, 7.69, 245.0, 35.3, 40.2, 1.08, 1.30, 0.358),
    "W14x30": (13.8, 0.270, 6.73, 0.385, 0.785, 8.85, 291.0, 42.0, 47.3, 1.49, 1.77, 0.380),
    "W16x26": (15.7, 0.250, 5.50, 0.345, 0.747, 7.68, 301.0, 38.4, 44.2, 1.12, 1.38, 0.262),
    "W16x31": (15.9, 0.275, 5.53, 0.440, 0.842, 9.13, 375.0, 47.2, 54.0, 1.17, 1.42, 0.461),
}  # fmt: skip
_KG_PER_M = POUND_FORCE / 9.80665 / FOOT * 1000.0


def _steel(name: str) -> BeamSection:
    d, tw, bf, tf, k, area, ix, sx, zx, ry, rts, j = _W[name]
    shape = WShape(
        d * INCH, tw * INCH, bf * INCH, tf * INCH, k * INCH, area * INCH**2, ix * INCH**4, sx * INCH**3,
        zx * INCH**3, ry * INCH, rts * INCH, j * INCH**4, float(name.split("x")[1]) * _KG_PER_M,
    )  # fmt: skip
    return BeamSection(name, "steel", shape.width, shape.depth, shape=shape)


STEEL: dict[str, BeamSection] = {name: _steel(name) for name in _W}


def _figure(inches: float) -> str:
    return f"{inches:g}"


def veneer(plies: int, depth: float) -> BeamSection:
    """Return boards of laminated veneer lumber side by side; ``depth`` in inches."""
    count = f"{plies}-" if plies > 1 else ""
    name = f"LVL {count}1.75x{_figure(depth)}"
    return BeamSection(name, "laminated veneer", plies * VENEER, depth * INCH, plies)


def glulam(width: float, depth: float) -> BeamSection:
    """Return glued laminated timber; inches."""
    return BeamSection(f"GLB {_figure(width)}x{_figure(depth)}", "glulam", width * INCH, depth * INCH)


_OWN_KINDS: dict[str, BeamKind] = {"LVL": "laminated veneer", "GLB": "glulam", "W": "steel"}


def _of_list(beam: OwnBeam, plies: int) -> BeamSection:
    name = f"{plies}-{beam.name}" if plies > 1 else beam.name
    kind = _OWN_KINDS[beam.made_of]
    return BeamSection(name, kind, plies * beam.breadth, beam.depth, plies, shape=beam.shape, own=beam)


def sawn(name: str) -> BeamSection:
    """Return sawn boards side by side; raises KeyError with the names there are."""
    board = sawn_section(name)
    return BeamSection(board.name, "sawn", board.breadth, board.depth, board.plies, board)


TRIED: dict[str, tuple[str, ...]] = {
    "sawn": tuple(
        name for n in ("", "2-", "3-", "4-") for d in (6, 8, 10, 12) if (name := f"{n}2x{d}") in SECTIONS
    ),
    "LVL": tuple(veneer(n, d).name for n in (1, 2, 3, 4) for d in VENEER_DEPTHS),
    "GLB": tuple(
        glulam(w, 1.5 * k).name for w in (3.125, 5.125, 6.75, 8.75) for k in range(5, 17 if w < 5.0 else 25)
    ),
    "W": tuple(STEEL),
}  # fmt: skip
"""What is tried for beams left to auto, by the word that asks for a kind."""


@lru_cache(maxsize=1_000)
def beam_section(name: str) -> BeamSection:
    """Return the section of a name such as 3-2x10, LVL 2-1.75x11.875, GLB 3.125x12, W8x18; raises KeyError."""
    plain = re.sub(r"\s+", " ", name.strip().replace("\u00d7", "x"))
    key = plain.upper().replace("X", "x").replace(" ", "")
    if key in STEEL:
        return STEEL[key]
    if (listed := own_beam(plain)) is not None:
        return _of_list(*listed)
    if found := re.fullmatch(r"LVL(?:([1-4])-)?(\d+(?:\.\d+)?)x(\d+(?:\.\d+)?)", key):
        thick, depth = float(found[2]), float(found[3])
        plies = int(found[1] or 1) * round(thick / 1.75)
        if abs(thick / 1.75 - round(thick / 1.75)) > 1e-6 or not 1 <= plies <= 4 or not 4.0 <= depth <= 24.0:
            raise KeyError(
                f"There is no '{name}'; veneer lumber is 1.75 in thick, up to 4 side by side, 4 to 24 in deep."
            )
        return veneer(plies, depth)
    if found := re.fullmatch(r"GLB(\d+(?:\.\d+)?)x(\d+(?:\.\d+)?)", key):
        width, depth = float(found[1]), float(found[2])
        if width not in GLULAM_WIDTHS or not 4.5 <= depth <= 60.0:
            raise KeyError(f"There is no '{name}'; widths are {', '.join(map(_figure, GLULAM_WIDTHS))} in.")
        return glulam(width, depth)
    if key.startswith("W"):
        raise KeyError(f"There is no W shape '{name}'; shapes are {', '.join(STEEL)}.")
    made = sawn(plain)
    if made.name in BOARDS:
        raise KeyError(f"{made.name} is a board, no beam; type such as 3-2x10.")
    return made


def cut_section(name: str) -> BeamSection:
    """Return the section of whatever is cut to length, boards and I-joists as well; raises KeyError."""
    if name in BOARDS:
        return sawn(name)
    made = MADE.get(name) or own_section(name)
    if made is not None and made.kind in ("I-joist", "rim board"):
        return BeamSection(name, made.kind, made.breadth, made.depth, made.plies, made=made)
    return beam_section(name)
