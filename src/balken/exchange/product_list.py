"""Lists of products read from CSV, in inches and pounds or in mm and newtons; what they are lists of their first line says."""

from collections.abc import Callable, Iterable
from pathlib import Path

from balken.catalog import hangers, own_beams, own_joists, post_fittings
from balken.exchange.file_errors import FileError
from balken.exchange.hanger_list import read_list_text
from balken.model.list_edits import Row

_KINDS: tuple[tuple[str, tuple[tuple[str, ...], ...], Callable[[Iterable[str]], tuple[Row, ...]]], ...] = (
    ("hangers", (hangers.HEADINGS, hangers.METRIC), hangers.read_rows),
    ("caps and bases", (post_fittings.HEADINGS, post_fittings.METRIC), post_fittings.read_rows),
    ("beams", (own_beams.HEADINGS, own_beams.METRIC), own_beams.read_wood),
    ("W shapes", (own_beams.STEEL, own_beams.STEEL_METRIC), own_beams.read_steel),
    ("I-joists", (own_joists.HEADINGS, own_joists.METRIC), own_joists.read_rows),
)
"""What a list is of, the first lines it may have, and what reads it."""


def read_products(path: Path | str) -> tuple[str, tuple[Row, ...]]:
    """Return of what a list is, and its rows; raises FileError that says which line is wrong, or how a list begins."""
    lines = read_list_text(path).splitlines()
    first = next((line for line in lines if line.strip() and not line.startswith("#")), "")
    headings = tuple(cell.strip() for cell in first.split(","))
    for noun, known, read in _KINDS:
        if headings in known:
            try:
                return noun, read(lines)
            except ValueError as error:
                raise FileError(str(error), path) from None
    begin = "; ".join(f"of {noun}: {','.join(known[0])}" for noun, known, _ in _KINDS)
    raise FileError("its first line names no list that Balken knows.", path, f"It must be one of these: {begin}.")
