"""The font of screen and sheets (IBM Plex Sans Condensed, SIL Open Font License) and how wide its text is."""

from functools import cache, lru_cache
from importlib.resources import files
from pathlib import Path

REGULAR, BOLD = "IBMPlexSansCondensed-Regular.ttf", "IBMPlexSansCondensed-SemiBold.ttf"
FAMILY = "IBM Plex Sans Condensed"
CAP_HEIGHT = 0.698
"""Height of capitals over the font size."""
MINUS = "\u2212"


def font_path(bold: bool = False) -> Path:
    """Return where the font file lies."""
    return Path(str(files("balken").joinpath("assets", "fonts", BOLD if bold else REGULAR)))


@cache
def _advances(bold: bool) -> tuple[dict[int, float], float]:
    from fontTools.ttLib import TTFont

    font = TTFont(font_path(bold), lazy=True)
    unit = font["head"].unitsPerEm
    widths = font["hmtx"].metrics
    table = {code: widths[name][0] / unit for code, name in font.getBestCmap().items() if code < 0x3000}
    return table, 0.5


def text_width(text: str, size: float, bold: bool = False) -> float:
    """Return the width of a text whose capitals are ``size`` high, in the same unit."""
    return _width(text, bold) * size


@lru_cache(maxsize=16_384)
def _width(text: str, bold: bool) -> float:
    table, default = _advances(bold)
    return sum(table.get(ord(c), default) for c in text) / CAP_HEIGHT
