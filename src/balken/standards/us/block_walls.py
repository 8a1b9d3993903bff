"""Foundation walls of concrete block against earth, plain or with bars in grouted cells.

Allowable stress design by TMS 402-16, chapter 8; its values from memory.  All per metre of wall: forces in
kN/m, moments in kN m/m, stresses in N/mm2.
"""

import math

from balken.catalog.bars import BARS
from balken.catalog.blocks import CELL, Block, net_section
from balken.model.records import Masonry
from balken.standards.checks import Check
from balken.standards.ground import BarSet
from balken.standards.measures import working
from balken.standards.us import aci
from balken.units.system import FOOT, INCH, PSI
from balken.value import Value

TENSION: dict[str, tuple[float, float]] = {"type M or S": (33.0, 86.0), "type N": (25.0, 84.0)}
"""Table 8.2.4.2, psi, normal to bed joints, portland cement-lime or mortar cement: hollow ungrouted, fully grouted."""
STEEL_STRESS = 32_000.0 * PSI
"""8.3.3.1: tension in Grade 60 bars."""
COVER = 2.0 * INCH
"""6.1.3: bars above No. 5 in masonry exposed to earth; taken for all of them, to the inside face."""


class BlockForces(Value, frozen=True):
    """What acts on a metre of wall: height and buckling length (mm), moment, shear, greatest load and least dead load.

    Shear is that at the face of the support, and the dead load that above the section.
    """

    span: float
    buckling: float
    moment: float
    shear: float
    axial: float
    light: float
    combination: str


def plain_block(block: Block, grouted: bool, masonry: Masonry, f: BlockForces) -> list[Check]:
    """Return the checks of a wall without bars (TMS 402-16, 8.2)."""
    net, fm = net_section(block, grouted), masonry.strength
    pressed, light = f.axial * 1000.0 / net.area, 0.6 * f.light * 1000.0 / net.area
    bent = f.moment * 1e6 / net.modulus
    limit = TENSION[masonry.mortar][1 if grouted else 0] * PSI
    slender = f.buckling / net.radius
    axial = axial_stress(fm, slender)
    euler = math.pi**2 * 900.0 * fm * net.inertia / f.buckling**2 / 1000.0
    shear = 1.5 * f.shear * 1000.0 / net.area
    root = 1.5 * math.sqrt(fm / PSI) * PSI
    friction = (60.0 if grouted else 37.0) * PSI + 0.45 * light
    return [
        Check(
            "tension from earth",
            "TMS 402-16 8.2.4.2",
            max(bent - light, 0.0),
            limit,
            "stress",
            "0.6 D + H",
            (
                working(
                    "M = {}, Sn = {}, An = {}",
                    (f.moment, "line moment"),
                    (net.modulus, "line modulus"),
                    (net.area, "line steel"),
                ),
                working("M/Sn - 0.6 D/An = {} - {}, Ft = {}", (bent, "stress"), (light, "stress"), (limit, "stress")),
            ),
        ),
        Check(
            "axial load and earth",
            "TMS 402-16 8.2.4.1",
            pressed / axial + bent / (fm / 3.0),
            1.0,
            "ratio",
            f"{f.combination} + H",
            (
                working(
                    "h/r = {}: Fa = {}, Fb = f'm/3 = {}",
                    (slender, "slenderness"),
                    (axial, "stress"),
                    (fm / 3.0, "stress"),
                ),
                working("fa/Fa + fb/Fb = {} + {}", (pressed / axial, "factor"), (bent / (fm / 3.0), "factor")),
            ),
        ),
        Check("buckling", "TMS 402-16 8.2.4.1(b)", f.axial, euler / 4.0, "line force", f.combination),
        Check(
            "shear from earth",
            "TMS 402-16 8.2.6.2",
            shear,
            min(root, 120.0 * PSI, friction),
            "stress",
            "H",
            (working("V at the face = {}, 1.5 V/An = {}", (f.shear, "line force"), (shear, "stress")),),
        ),
    ]


def axial_stress(fm: float, slender: float) -> float:
    """Return Fa for a slenderness h/r (8.2.4.1, equations 8-13 and 8-14)."""
    return fm / 4.0 * (1.0 - (slender / 140.0) ** 2 if slender <= 99.0 else (70.0 / slender) ** 2)


class Cracked(Value, frozen=True):
    """A cracked section: depth of the pressed part (mm) and stresses in steel and masonry for a moment of 1 N mm."""

    depth: float
    steel: float
    masonry: float


def cracked(steel: float, d: float, width: float, stem: float, shell: float, ratio: float) -> Cracked:
    """Return the cracked section of a metre of wall; ``stem``: length of grouted cells in it, ``ratio``: Es / Em.

    Until the pressed part is deeper than the face shell it is a rectangle of the width, else a tee.
    """

    def unbalanced(x: float) -> float:
        over = max(x - shell, 0.0)
        return width * x**2 / 2.0 - (width - stem) * over**2 / 2.0 - ratio * steel * (d - x)

    low, high = 0.0, d
    for _ in range(60):
        middle = (low + high) / 2.0
        low, high = (middle, high) if unbalanced(middle) < 0.0 else (low, middle)
    x = (low + high) / 2.0
    over = max(x - shell, 0.0)
    inertia = width * x**3 / 3.0 - (width - stem) * over**3 / 3.0 + ratio * steel * (d - x) ** 2
    return Cracked(x, ratio * (d - x) / inertia, x / inertia)


def _bars_from_earth(stress: float, d: float, steel: float, depth: float) -> Check:
    lines = (
        working("d = {}, As = {}, kd = {}", (d, "length"), (steel, "line steel"), (depth, "length")),
        working("fs = {}, Fs = {}", (stress, "stress"), (STEEL_STRESS, "stress")),
    )
    return Check("bars from earth", "TMS 402-16 8.3.3.1", stress, STEEL_STRESS, "stress", "H", lines)


def _axial_and_earth(pressed: float, bent: float, fm: float, combination: str) -> Check:
    most = 0.45 * fm
    text = "fa + fb = {} + {}, 0.45 f'm = {}"
    lines = (working(text, (pressed, "stress"), (bent, "stress"), (most, "stress")),)
    combined = f"{combination} + H"
    return Check("axial load and earth", "TMS 402-16 8.3.4.2.2", pressed + bent, most, "stress", combined, lines)


def _barred_shear(shear: float, limit: float) -> Check:
    text = "V at the face/(b d) = {} in the grouted cells, Fv = 1.125 sqrt f'm = {}"
    lines = (working(text, (shear, "stress"), (limit, "stress")),)
    return Check("shear from earth", "TMS 402-16 8.3.5.1.3", shear, limit, "stress", "H", lines)


def barred_block(
    block: Block, grouted: bool, masonry: Masonry, f: BlockForces, number: int, spacing: float, held: bool = True
) -> tuple[list[Check], tuple[BarSet, ...]]:
    """Return the checks of a wall with bars of a number in grouted cells (TMS 402-16, 8.3), and the bars."""
    bar, fm, t = BARS[number], masonry.strength, block.thickness
    steel = bar.area * 1000.0 / spacing
    d = t - COVER - bar.diameter / 2.0
    width = 1000.0 * min(1.0, min(6.0 * t, 72.0 * INCH) / spacing)
    stem = 1000.0 if grouted else 1000.0 * min(CELL / spacing, 1.0)
    made = cracked(steel, d, width, min(stem, width), block.shell, aci.STEEL_MODULUS / (900.0 * fm))
    net = net_section(block, grouted)
    area = net.area + (0.0 if grouted else stem * (t - 2.0 * block.shell))
    pressed, moment = f.axial * 1000.0 / area, f.moment * 1e6
    axial = axial_stress(fm, f.buckling / net.radius)
    shear, limit = f.shear * 1000.0 / (stem * d), 1.125 * math.sqrt(fm / PSI) * PSI
    checks = [
        _bars_from_earth(moment * made.steel, d, steel, made.depth),
        _axial_and_earth(pressed, moment * made.masonry, fm, f.combination),
        Check("axial load", "TMS 402-16 8.3.4.2.1", pressed, axial, "stress", f.combination),
        _barred_shear(shear, limit),
    ]
    # A cantilever is in tension on the earth side; the cover is the same on both.
    face = "near the inside face" if held else "near the earth side"
    use = f"upright, in grouted cells {face}"
    return checks, (BarSet(use, number, spacing, math.ceil(1000.0 / spacing), f.span),)


def design_block(
    block: Block, grouted: bool, masonry: Masonry, f: BlockForces, bars: bool, held: bool = True
) -> tuple[list[Check], tuple[BarSet, ...]]:
    """Return the checks of a wall, with the least steel in it when it needs bars and may have them."""
    plain = plain_block(block, grouted, masonry, f)
    if not bars or max(c.used for c in plain) <= 1.0:
        return plain, ()
    made = [
        barred_block(block, grouted, masonry, f, number, cells * CELL, held)
        for number in (4, 5, 6, 7)
        for cells in range(1, 10)
    ]
    good = [row for row in made if max(c.used for c in row[0]) <= 1.0]
    if not good:
        return min(made, key=lambda row: max(c.used for c in row[0]))
    return min(good, key=lambda row: BARS[row[1][0].number].area / row[1][0].spacing)


_R404: dict[int, dict[int, tuple[str, str, str]]] = {
    5: {4: ("8", "8", "8"), 5: ("8", "8", "10")},
    6: {4: ("8", "8", "8"), 5: ("8", "8", "10"), 6: ("8", "10", "12")},
    7: {4: ("8", "8", "8"), 5: ("8", "10", "10"), 6: ("10", "12", "10 solid"), 7: ("12", "10 solid", "12 solid")},
    8: {
        4: ("8", "8", "8"),
        5: ("8", "10", "12"),
        6: ("10", "12", "12 solid"),
        7: ("12", "12 solid", ""),
        8: ("10 solid", "12 solid", ""),
    },
    9: {
        4: ("8", "8", "8"),
        5: ("8", "10", "12"),
        6: ("10", "12", "12 solid"),
        7: ("12", "12 solid", ""),
        8: ("12 solid", "", ""),
    },
}
"""IRC Table R404.1.1(1), plain masonry foundation walls: nominal thickness (in) by height and unbalanced fill (ft),
for soils of 30, 45 and 60 pcf; "": a design or bars are needed.  From memory."""
_R404_BARS: dict[int, dict[int, tuple[str, str, str]]] = {
    8: {
        4: ("#4 at 48", "#4 at 48", "#4 at 48"),
        5: ("#4 at 48", "#4 at 48", "#4 at 48"),
        6: ("#4 at 48", "#5 at 48", "#5 at 48"),
        7: ("#5 at 48", "#6 at 48", "#6 at 40"),
        8: ("#5 at 48", "#6 at 48", "#6 at 32"),
    },
    10: {
        4: ("#4 at 48", "#4 at 48", "#4 at 48"),
        5: ("#4 at 48", "#4 at 48", "#5 at 48"),
        6: ("#4 at 48", "#5 at 48", "#6 at 48"),
        7: ("#5 at 48", "#6 at 48", "#6 at 32"),
        8: ("#6 at 48", "#6 at 32", "#6 at 24"),
        9: ("#6 at 40", "#6 at 24", "#6 at 16"),
        10: ("#6 at 32", "#6 at 16", "#6 at 16"),
    },
}
"""IRC Table R404.1.1(2), walls of 8 in block with bars 5 in from the pressed face: bars (in) by the greatest height and feet of unbalanced
fill, for soils of 30, 45 and 60 pcf.  From memory."""


def prescriptive_block(span: float, fill: float, pcf: float) -> str:
    """Return what the IRC asks of a wall of block without calculation (``span``, ``fill`` in mm): how thick a plain one is to be, and which
    bars one of 8 in or more may have instead.
    """
    plain, barred = _plain(span, fill, pcf), _barred(span, fill, pcf)
    return f"{plain}; {barred}" if barred else plain


def _barred(span: float, fill: float, pcf: float) -> str:
    feet, tall = max(math.ceil(fill / FOOT - 1e-6), 4), next((h for h in _R404_BARS if span <= h * FOOT + 0.5), 0)
    row = _R404_BARS.get(tall, {}).get(feet)
    if row is None or pcf > 60.0:
        return ""
    return f"or 8 in or more with {row[0 if pcf <= 30.0 else 1 if pcf <= 45.0 else 2]} in, 5 in from the earth (Table R404.1.1(2))"


def _plain(span: float, fill: float, pcf: float) -> str:
    tall, feet = max(math.ceil(span / FOOT - 1e-6), 5), max(math.ceil(fill / FOOT - 1e-6), 4)
    column = 0 if pcf <= 30.0 else 1 if pcf <= 45.0 else 2
    row = _R404.get(tall, {}).get(feet)
    if row is None or pcf > 60.0:
        return "IRC Table R404.1.1(1): beyond the table; see the design"
    if not row[column]:
        return f"IRC Table R404.1.1(1), {tall} ft high, {feet} ft of fill: plain ones do not hold"
    return f"IRC Table R404.1.1(1), {tall} ft high, {feet} ft of fill, {(30, 45, 60)[column]} pcf: {row[column]} in"
