"""Joist hangers that can be bought: a made-up list that ships with Balken; a project can hold a list of its own instead."""

import csv
from collections.abc import Iterable
from functools import cache
from importlib.resources import files
from typing import NamedTuple

from balken.units.system import INCH, POUND_FORCE


class HangerRow(NamedTuple):
    """A hanger: for joists so wide, at least and at most so deep, on a seat so long, mm; what it carries at normal load
    duration and holds down, N; its price, dollars; by how much at least and at most what hangs in it may be turned from square to what it
    hangs on, degrees.
    """

    name: str
    width: float
    least_depth: float
    most_depth: float
    seat: float
    down: float
    up: float
    price: float
    turned_from: float = 0.0
    turned_to: float = 0.0


HEADINGS = ("name", "width_in", "least_depth_in", "most_depth_in", "seat_in", "down_lb", "up_lb", "dollars")
"""Of a list in inches and pounds."""
METRIC = ("name", "width_mm", "least_depth_mm", "most_depth_mm", "seat_mm", "down_n", "up_n", "dollars")
"""Of one in mm and N."""
TURNED = ("turned_from_deg", "turned_to_deg")
"""What both may have beside that: lists without them are of hangers for what hangs square."""
MOST_TURNED = 80.0
"""None hangs more aslant, degrees."""


def read_rows(lines: Iterable[str]) -> tuple[HangerRow, ...]:
    """Return the hangers of a list as CSV; raises ValueError that says which line and what is wrong with it."""
    numbered = [(n, line) for n, line in enumerate(lines, 1) if line.strip() and not line.startswith("#")]
    if not numbered:
        raise ValueError("the list is empty.")
    reader = csv.reader(line for _, line in numbered)
    headings = tuple(cell.strip() for cell in next(reader))
    aslant = headings[len(HEADINGS) :] == TURNED
    plain = headings[: -len(TURNED)] if aslant else headings
    if plain not in (HEADINGS, METRIC):
        raise ValueError(
            f"its first line must be {','.join(HEADINGS)} or {','.join(METRIC)}, and may end with {','.join(TURNED)}."
        )
    scale, force = (INCH, POUND_FORCE) if plain == HEADINGS else (1.0, 1.0)
    found: list[HangerRow] = []
    for (n, _), cells in zip(numbered[1:], reader, strict=False):
        try:
            name, *figures = (cell.strip() for cell in cells)
            width, least, most, seat, down, up, price, *turned = (float(cell) for cell in figures)
            low, high = turned if aslant else (*turned, 0.0, 0.0)
        except ValueError:
            many = "nine" if aslant else "seven"
            raise ValueError(f"line {n} must hold a name and {many} figures.") from None
        row = HangerRow(
            name, width * scale, least * scale, most * scale, seat * scale, down * force, up * force, price, low, high
        )
        if not name or not 0.0 < row.width < 1000.0 or not 0.0 < row.least_depth <= row.most_depth < 2000.0:
            raise ValueError(f"line {n} has no name, or its width and depths are out of bounds.")
        if not 0.0 < row.seat < 500.0 or not 0.0 < row.down < 1e6 or not 0.0 <= row.up < 1e6 or not 0.0 <= price < 1e6:
            raise ValueError(f"line {n} has a seat, a strength or a price out of bounds.")
        if not 0.0 <= low <= high <= MOST_TURNED:
            raise ValueError(f"line {n} is turned by less than nothing, or by more than {MOST_TURNED:g} degrees.")
        if any(row.name == other.name for other in found):
            raise ValueError(f"line {n} names {row.name} a second time.")
        found.append(row)
    if not found:
        raise ValueError("it holds no hanger.")
    return tuple(found)


@cache
def made_up() -> tuple[HangerRow, ...]:
    """Return the list that ships with Balken."""
    return _shipped("hangers.csv")


@cache
def made_up_of_trusses() -> tuple[HangerRow, ...]:
    """Return the list of hangers of trusses on trusses that ships with Balken."""
    return _shipped("truss-hangers.csv")


@cache
def made_up_of_rafters() -> tuple[HangerRow, ...]:
    """Return the list of hangers of rafters, bent to their slope, that ships with Balken."""
    return _shipped("rafter-hangers.csv")


def _shipped(name: str) -> tuple[HangerRow, ...]:
    text = files("balken").joinpath("assets", name).read_text(encoding="utf-8")
    return read_rows(text.splitlines())
