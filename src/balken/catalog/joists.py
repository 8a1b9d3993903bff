"""Joists and rim boards that are made, not sawn: I-joists, laminated veneer lumber, laminated strand lumber; slabs, by strips.

I-joists: designations, depths and flanges of APA PRI-400, from memory; their strengths stand with the standard's checks.
Veneer lumber comes 1 3/4 in thick, rim boards 1 1/2 in (common practice, no source).
"""

from typing import Literal

from balken.catalog.section_record import Section, SectionKind
from balken.units.system import INCH

JoistWord = Literal["sawn", "I-joist", "LVL", "slab"]
"""What joists are made of, by the word that asks for it."""
WORDS: dict[SectionKind, JoistWord] = {
    "sawn": "sawn",
    "laminated veneer": "LVL",
    "I-joist": "I-joist",
    "concrete": "slab",
}
VENEER = 1.75 * INCH
"""Thickness of one board of laminated veneer lumber."""
VENEER_DEPTHS = (5.5, 7.25, 9.25, 9.5, 11.25, 11.875, 14.0, 16.0, 18.0, 20.0, 24.0)
STRAND = 1.5 * INCH
"""Thickness of a rim board of laminated strand lumber."""
FLANGE = 1.5 * INCH
"""Thickness of an I-joist's flanges."""

# Series: width of its flanges, thickness of its web, depths it is made in; inches.
_SERIES: dict[str, tuple[float, float, tuple[float, ...]]] = {
    "PRI-40": (2.5, 0.375, (9.5, 11.875, 14.0, 16.0)),
    "PRI-60": (2.5, 0.375, (9.5, 11.875, 14.0, 16.0)),
    "PRI-80": (3.5, 0.375, (11.875, 14.0, 16.0)),
    "PRI-90": (3.5, 0.4375, (11.875, 14.0, 16.0)),
}
STRIP = 12.0 * INCH
"""Width of the strips in which a slab is carried and designed (common practice), mm."""
SLAB_INCHES = tuple(k / 2.0 for k in range(7, 41))
SLAB_MM = tuple(range(90, 510, 10))
"""Thicknesses of slabs above ground, by inches and by mm."""
_DEPTHS = tuple(sorted({d for _, _, depths in _SERIES.values() for d in depths}))


def _veneer(plies: int, depth: float) -> Section:
    count = f"{plies}-" if plies > 1 else ""
    name = f"LVL {count}1.75x{depth:g}"
    return Section(name, (2, round(depth)), plies * VENEER, depth * INCH, plies, "laminated veneer")


def _strand(plies: int, depth: float) -> Section:
    count = f"{plies}-" if plies > 1 else ""
    name = f"LSL {count}1.5x{depth:g}"
    return Section(name, (2, round(depth)), plies * STRAND, depth * INCH, plies, "rim board")


def _i_joist(plies: int, series: str, depth: float) -> Section:
    width, web, _ = _SERIES[series]
    count = f"{plies}-" if plies > 1 else ""
    return Section(
        f"{count}{series} {depth:g}", (round(width), round(depth)), plies * width * INCH, depth * INCH, plies, "I-joist",
        FLANGE, web * INCH,
    )  # fmt: skip


def slab_name(thickness: float) -> str:
    """Return the name of a slab's section nearest to a thickness in mm: slab 6 in, slab 150 mm."""
    inches = round(thickness / INCH * 2.0) / 2.0
    return f"slab {inches:g} in" if abs(inches * INCH - thickness) < 0.1 else f"slab {round(thickness, -1):.0f} mm"


def _slab(name: str, depth: float) -> Section:
    return Section(name, (12, round(depth / INCH)), STRIP, depth, 1, "concrete")


MADE: dict[str, Section] = {
    s.name: s
    for s in (
        *(_veneer(n, d) for n in (1, 2, 3, 4) for d in VENEER_DEPTHS),
        *(_strand(n, d) for n in (1, 2, 3) for d in VENEER_DEPTHS),
        *(_i_joist(n, series, d) for n in (1, 2, 3) for series, (_, _, depths) in _SERIES.items() for d in depths),
        *(_slab(f"slab {t:g} in", t * INCH) for t in SLAB_INCHES),
        *(_slab(f"slab {t} mm", float(t)) for t in SLAB_MM),
    )
}
"""Every one of them by its name."""
TRIED: dict[JoistWord, tuple[str, ...]] = {
    "sawn": ("2x6", "2x8", "2x10", "2x12"),
    "I-joist": tuple(f"{series} {d:g}" for d in _DEPTHS for series, row in _SERIES.items() if d in row[2]),
    "LVL": tuple(_veneer(1, d).name for d in (9.5, 11.875, 14.0, 16.0, 18.0)),
    "slab": tuple(f"slab {t:g} in" for t in SLAB_INCHES[1:26]),
}
"""What is tried for joists left to auto, by what they are made of, in rising order."""
GRADES: dict[SectionKind, tuple[str, str]] = {
    "I-joist": ("APA", "I-joist"),
    "laminated veneer": ("LVL", "2.0E"),
    "rim board": ("LSL", "rim"),
    "concrete": ("concrete", ""),
}
"""What lists call the wood of what is not sawn: (species, grade)."""


def series_of(section: Section) -> tuple[str, float]:
    """Return the series of an I-joist and its depth in inches."""
    name = section.name.partition("-")[2] if section.plies > 1 else section.name
    series, _, depth = name.partition(" ")
    return series, float(depth)
