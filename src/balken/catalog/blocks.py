"""Concrete blocks: their sizes, face shells and webs, and the section that they leave for strength.

Sizes are the usual ones with joints of 3/8 in or 10 mm; face shells and webs the least of ASTM C90 (from memory).
"""

from balken.units import Units
from balken.units.system import INCH
from balken.value import Value

WEB = 1.0 * INCH
"""Each of the three webs of a block, along the wall."""
CELL = 8.0 * INCH
"""Length of wall that one grouted cell takes."""


class Block(Value, frozen=True):
    """A block: its name, thickness across the wall and face shell, mm."""

    name: str
    thickness: float
    shell: float


class Bond(Value, frozen=True):
    """Running bond: length and height of a block with its joint, and the joint, mm."""

    length: float
    height: float
    joint: float

    @property
    def half(self) -> float:
        """A half block with its joint."""
        return self.length / 2.0


BLOCKS: dict[Units, tuple[Block, ...]] = {
    Units.IMPERIAL: tuple(
        Block(f"{nominal} in", (nominal - 0.375) * INCH, shell * INCH)
        for nominal, shell in ((6, 1.0), (8, 1.25), (10, 1.25), (12, 1.25))
    ),
    Units.METRIC: tuple(
        Block(f"{nominal:.0f} mm", nominal, shell)
        for nominal, shell in ((140.0, 25.0), (190.0, 32.0), (240.0, 32.0), (290.0, 32.0))
    ),
}
BONDS = {Units.IMPERIAL: Bond(16.0 * INCH, 8.0 * INCH, 0.375 * INCH), Units.METRIC: Bond(400.0, 200.0, 10.0)}


def block_of(thickness: float) -> Block | None:
    """Return the block of that thickness (to 1 mm), None when there is none."""
    return next((b for row in BLOCKS.values() for b in row if abs(b.thickness - thickness) < 1.0), None)


def block_names(units: Units) -> str:
    """Return the thicknesses there are, for messages."""
    return ", ".join(b.name for b in BLOCKS[units])


class NetSection(Value, frozen=True):
    """What a wall of block offers, per metre: area (mm2), second moment (mm4) and modulus (mm3), radius (mm)."""

    area: float
    inertia: float
    modulus: float
    radius: float


def net_section(block: Block, grouted: bool) -> NetSection:
    """Return the section of a wall with mortar on its face shells only, or with all cells grouted.

    The radius of gyration counts the webs (TMS 402-16, 4.3.3: the average of the wall), the rest only what
    the mortar joins (4.3.1).
    """
    t, inner = block.thickness, block.thickness - 2.0 * block.shell
    if grouted:
        return NetSection(1000.0 * t, 1000.0 * t**3 / 12.0, 1000.0 * t**2 / 6.0, t / 12.0**0.5)
    area, inertia = 2000.0 * block.shell, 1000.0 * (t**3 - inner**3) / 12.0
    webs = 3.0 * WEB / (16.0 * INCH)
    mean_area, mean_inertia = area + 1000.0 * webs * inner, inertia + 1000.0 * webs * inner**3 / 12.0
    return NetSection(area, inertia, 2.0 * inertia / t, (mean_inertia / mean_area) ** 0.5)


def cells(block: Block) -> float:
    """Return what part of a hollow wall its cells take: the grout that fills them."""
    inner = block.thickness - 2.0 * block.shell
    return inner / block.thickness * (1.0 - 3.0 * WEB / (16.0 * INCH))
