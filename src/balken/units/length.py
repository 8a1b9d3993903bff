"""Lengths as typed and printed: 12'-6 1/2", 16in, 3800, 3.8 m."""

import math
import re
from fractions import Fraction
from functools import lru_cache

from balken.units.system import FOOT, INCH, UnitError, Units

_METRIC = {"mm": 1.0, "cm": 10.0, "m": 1000.0}
_NUMBER = r"(?:\d+(?:\.\d*)?|\.\d+)"
_FRACTION = r"\d+\s*/\s*\d+"
_FEET = re.compile(
    rf"""^(?P<sign>[-+]?)\s*
    (?:(?P<feet>{_NUMBER})\s*(?:'|ft|feet|foot)\s*-?\s*)?
    (?:(?:(?P<inches>{_NUMBER})(?:[\s-]+(?P<fraction>{_FRACTION}))?|(?P<part>{_FRACTION}))
    \s*(?P<mark>"|''|in|inch|inches)?)?$""",
    re.VERBOSE,
)
_PLAIN = re.compile(rf"^(?P<sign>[-+]?)\s*(?P<value>{_NUMBER})\s*(?P<unit>mm|cm|m)?$")
_LARGEST = 1.0e7
"""Ten kilometres: nothing longer is a building."""


def _clean(text: str) -> str:
    text = text.strip().lower()
    for typed, plain in (
        ("\u2032", "'"),
        ("\u2019", "'"),
        ("\u2033", '"'),
        ("\u201d", '"'),
        ("\u2212", "-"),
        ("\u2013", "-"),
        ("\u00bd", " 1/2"),
        ("\u00bc", " 1/4"),
        ("\u00be", " 3/4"),
    ):
        text = text.replace(typed, plain)
    if re.search(r"\d,\d{3}(?!\d)", text):
        raise UnitError(f"'{text}' could mean two things; type it without the comma, with a point for decimals.")
    return text.replace(",", ".") if text.count(",") == 1 and "." not in text else text


def _fraction(text: str | None, whole: str) -> float:
    if not text:
        return 0.0
    top, bottom = (int(part) for part in text.split("/"))
    if bottom == 0:
        raise UnitError(f"'{whole}' divides by zero; type a fraction such as 1/2.")
    if top >= bottom or bottom > 128:
        raise UnitError(f"'{whole}' is no fraction of an inch; type such as 1/2 or 3/16, or the length itself.")
    return top / bottom


def _checked(value: float, text: str) -> float:
    if not math.isfinite(value) or abs(value) > _LARGEST:
        raise UnitError(f"'{text}' is longer than any building; check the number and its unit.")
    return value


def parse_length(text: str, units: Units = Units.IMPERIAL, bare: str | None = None) -> float:
    """Read a length.

    ``units`` decides what a number with no unit means: millimetres when metric; when imperial,
    ``bare`` ("ft" or "in", default "ft").  Returns millimetres.
    Raises UnitError when the text is not a length.
    """
    cleaned = _clean(text)
    if not cleaned:
        raise UnitError("A length is missing; type one such as 12'-6\" or 3800 mm.")
    plain = _PLAIN.match(cleaned)
    if plain:
        value = float(plain["value"]) * (-1.0 if plain["sign"] == "-" else 1.0)
        if plain["unit"]:
            factor = _METRIC[plain["unit"]]
        elif units is Units.METRIC:
            factor = 1.0
        else:
            factor = INCH if bare == "in" else FOOT
        return _checked(value * factor, text)
    match = _FEET.match(cleaned)
    if match and units is Units.METRIC and match["feet"] is None and match["mark"] is None:
        match = None  # a fraction without a mark is no length in millimetres
    if not match or not (match["feet"] or match["inches"] or match["part"]):
        raise UnitError(f"'{text}' is not a length; type it like 12'-6 1/2\", 16in, 3800 mm or 3.8 m.")
    inches = float(match["inches"] or 0.0) + _fraction(match["fraction"] or match["part"], text)
    if match["feet"] is None and match["mark"] is None and bare != "in" and units is Units.IMPERIAL:
        raise UnitError(f"'{text}' needs a mark: ' for feet or \" for inches.")
    value = float(match["feet"] or 0.0) * FOOT + inches * INCH
    return _checked(-value if match["sign"] == "-" else value, text)


def parse_spacings(text: str, units: Units = Units.IMPERIAL) -> tuple[float, ...]:
    """Read a list of spacings such as ``4x6000, 5200, 3x6000``, ``4 x 12', 10'6"`` or ``40' : 3``.

    ``40' : 3`` spreads three even bays over 40'.

    Returns millimetres, one entry a bay.  Raises UnitError when an entry is not a positive
    length or a count is not between 1 and 500.
    """
    spacings: list[float] = []
    for entry in re.split(r"[;,]\s*|\n", text.strip()):
        if not entry.strip():
            continue
        spread = re.match(r"^\s*(.+?)\s*:\s*(\d+)\s*$", entry)
        if spread:
            bays = int(spread[2])
            if bays < 1:
                raise UnitError(f"'{entry.strip()}' needs at least one bay.")
            entry = f"{bays}x{parse_length(spread[1], units) / bays:.9f}mm"
        repeated = re.match(r"^\s*(\d+)\s*[x\u00d7*@]\s*(.+)$", entry, re.IGNORECASE)
        count, length = (int(repeated[1]), repeated[2]) if repeated else (1, entry)
        value = parse_length(length, units)
        if value <= 0.0:
            raise UnitError(f"The spacing '{entry.strip()}' must be more than zero.")
        if not 1 <= count <= 500 or len(spacings) + count > 500:
            raise UnitError(f"'{entry.strip()}' makes too many bays; up to 500 can be set out at a time.")
        spacings.extend([value] * count)
    if not spacings:
        raise UnitError("Type at least one spacing, such as 20' or 4x6000.")
    return tuple(spacings)


def _inch_text(inches: Fraction, zero: bool = False) -> str:
    whole, rest = divmod(inches, 1)
    if rest == 0:
        return f'{whole}"'
    part = f"{rest.numerator}/{rest.denominator}"
    return f'{whole} {part}"' if whole or zero else f'{part}"'


@lru_cache(maxsize=20_000)
def format_length(mm: float, units: Units = Units.IMPERIAL, step: int = 16) -> str:
    """Print a length: 12'-6 1/2" (to 1/``step`` inch) or whole millimetres."""
    if units is Units.METRIC:
        return f"{round(mm):d}".replace("-", "\u2212") if round(mm) else "0"
    parts = round(abs(mm) / INCH * step)
    sign = "\u2212" if mm < 0 and parts else ""
    feet, inches = divmod(Fraction(parts, step), 12)
    return f"{sign}{feet}'-{_inch_text(inches, zero=True)}"


def say_both(mm: float) -> str:
    """Say a length where it is not known whether the reader has feet and inches or millimetres: 11'-3 1/4" (3435 mm)."""
    told = format_inches(mm, step=4) if abs(mm) < 24.0 * INCH else format_length(mm, step=4)
    return f"{told} ({mm:.0f} mm)"


def say_length(mm: float, units: Units = Units.IMPERIAL) -> str:
    """Say a length in a sentence, its unit always with it: 12'-6 1/2" or 3823 mm."""
    return format_length(mm, units) + (" mm" if units is Units.METRIC else "")


def say_inches(mm: float, units: Units = Units.IMPERIAL) -> str:
    """Say a short length in a sentence, its unit always with it: 9 1/4" or 235 mm."""
    return format_inches(mm, units) + (" mm" if units is Units.METRIC else "")


def format_inches(mm: float, units: Units = Units.IMPERIAL, step: int = 16) -> str:
    """Print a short length: 9 1/4" or 235 (spacings, depths, thicknesses)."""
    if units is Units.METRIC:
        return format_length(mm, units)
    parts = round(abs(mm) / INCH * step)
    sign = "\u2212" if mm < 0 and parts else ""
    return sign + _inch_text(Fraction(parts, step))
