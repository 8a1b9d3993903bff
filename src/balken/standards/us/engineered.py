"""Reference design values of engineered lumber, N/mm2, from memory.

Glued laminated timber 24F-V4 of Douglas fir: NDS Supplement 2018, Table 5A.  Laminated veneer lumber 2.0E as its makers
publish it (no one maker's list; results that rest on it say so).
"""

from msgspec.structs import asdict

from balken.catalog.beams import BeamSection
from balken.catalog.own_beams import WoodValues
from balken.units.system import FOOT, INCH, PSI


class Engineered(WoodValues, frozen=True):
    """Values of a product and where they come from."""

    source: str


GLULAM = Engineered(
    2400 * PSI, 1850 * PSI, 265 * PSI, 650 * PSI, 1_800_000 * PSI, 850_000 * PSI, 0.0,
    "24F-V4 Douglas fir, NDS Supplement, Table 5A",
)  # fmt: skip
WET_GLULAM = Engineered(0.8, 0.8, 0.875, 0.53, 0.833, 0.833, 0.0, "CM of NDS Supplement, Table 5A")
"""Factors on glued laminated timber that gets wet."""
VENEER = Engineered(
    2600 * PSI, 2600 * PSI, 285 * PSI, 750 * PSI, 2_000_000 * PSI, 1_016_535 * PSI, 1.0 / 9.0,
    "laminated veneer lumber 2.0E, as makers publish it",
)  # fmt: skip
GLULAM_FC = 1650.0 * PSI
"""Compression along the grain of glued laminated timber 24F-V4 (NDS Supplement, Table 5A)."""
VENEER_FT, VENEER_FC = 1555 * PSI, 2510 * PSI
"""Tension and compression along the grain of veneer lumber."""


def depth_factor(depth: float, exponent: float = 1.0 / 9.0) -> float:
    """Return (12/d)^(1/9) on Fb of laminated veneer lumber, as makers publish it, or with another exponent; mm."""
    return float((12.0 * INCH / depth) ** exponent)


def engineered(section: BeamSection) -> Engineered:
    """Return the values of a beam of veneer lumber or glued timber: of the project's own list, else those above."""
    if section.own is not None and (w := section.own.wood) is not None:
        return Engineered(**asdict(w), source="list of the project")
    return VENEER if section.kind == "laminated veneer" else GLULAM


def volume_factor(length: float, section: BeamSection) -> float:
    """Return CV of glued laminated timber, at most 1 (NDS 5.3.6).

    (21 ft/L)^(1/10) (12 in/d)^(1/10) (5.125 in/b)^(1/10); ``length``: between points of no moment, mm.
    """
    parts = (21.0 * FOOT / max(length, 1.0)) * (12.0 * INCH / section.depth) * (5.125 * INCH / section.breadth)
    return float(min(parts**0.1, 1.0))
