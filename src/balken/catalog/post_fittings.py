"""Caps and bases of timber posts that can be bought: a made-up list that ships with Balken."""

import csv
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


@cache
def made_up() -> tuple[FittingRow, ...]:
    """Return the list that ships with Balken."""
    text = files("balken").joinpath("assets", "post-fittings.csv").read_text(encoding="utf-8")
    rows = csv.reader(line for line in text.splitlines() if not line.startswith("#"))
    next(rows)
    return tuple(
        FittingRow(
            name, use, float(post) * INCH, float(beam) * INCH, float(down) * POUND_FORCE, float(up) * POUND_FORCE, float(price)
        )
        for name, use, post, beam, down, up, price in rows
    )  # fmt: skip
