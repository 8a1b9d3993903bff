"""Caps and bases of timber posts that can be bought: a made-up list that ships with Balken."""

import csv
from collections.abc import Iterable
from functools import cache
from importlib.resources import files
from typing import Literal, NamedTuple

from balken.units.system import INCH, POUND_FORCE

Use = Literal["cap", "base"]


class FittingRow(NamedTuple):
    """A cap or base: for posts with a side so wide, caps for beams so wide, mm; what it carries at normal load duration and
    holds down, N; its price, dollars.
    """

    name: str
    use: str
    post: float
    beam: float
    down: float
    up: float
    price: float


HEADINGS = ("name", "use", "post_in", "beam_in", "down_lb", "up_lb", "dollars")
"""Of a list in inches and pounds."""
METRIC = ("name", "use", "post_mm", "beam_mm", "down_n", "up_n", "dollars")
"""Of one in mm and N."""


def read_rows(lines: Iterable[str]) -> tuple[FittingRow, ...]:
    """Return the caps and bases of a list as CSV; raises ValueError that says which line and what is wrong with it."""
    numbered = [(n, line) for n, line in enumerate(lines, 1) if line.strip() and not line.startswith("#")]
    reader = csv.reader(line for _, line in numbered)
    headings = tuple(cell.strip() for cell in next(reader, ()))
    if headings not in (HEADINGS, METRIC):
        raise ValueError(f"its first line must be {','.join(HEADINGS)} or {','.join(METRIC)}.")
    scale, force = (INCH, POUND_FORCE) if headings == HEADINGS else (1.0, 1.0)
    found: list[FittingRow] = []
    for (n, _), cells in zip(numbered[1:], reader, strict=False):
        try:
            name, use, *figures = (cell.strip() for cell in cells)
            post, beam, down, up, price = (float(cell) for cell in figures)
        except ValueError:
            raise ValueError(f"line {n} must hold a name, cap or base, and five figures.") from None
        if use not in ("cap", "base"):
            raise ValueError(f"line {n}: {use} is neither cap nor base.")
        kind: Use = "cap" if use == "cap" else "base"
        row = FittingRow(name, kind, post * scale, beam * scale, down * force, up * force, price)
        if (
            not name
            or not 0.0 < row.post < 1000.0
            or not 0.0 <= row.beam < 1000.0
            or (use == "cap" and row.beam == 0.0)
        ):
            raise ValueError(f"line {n} has no name, or the width of its post or beam is out of bounds.")
        if not 0.0 < row.down < 1e6 or not 0.0 <= row.up < 1e6 or not 0.0 <= price < 1e6:
            raise ValueError(f"line {n} has a strength or a price out of bounds.")
        if any((row.name, row.use) == (other.name, other.use) for other in found):
            raise ValueError(f"line {n} names {row.name} a second time.")
        found.append(row)
    if not found:
        raise ValueError("it holds no cap and no base.")
    return tuple(found)


@cache
def made_up() -> tuple[FittingRow, ...]:
    """Return the list that ships with Balken."""
    text = files("balken").joinpath("assets", "post-fittings.csv").read_text(encoding="utf-8")
    return read_rows(text.splitlines())
