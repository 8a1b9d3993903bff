"""Lists of products as CSV: a first line that says what and in which units, rows of words and figures."""

import csv
from collections.abc import Iterable, Iterator, Mapping

Headings = tuple[str, ...]


def rows_of(
    lines: Iterable[str], scales: Mapping[Headings, tuple[float, ...]], words: int = 1
) -> Iterator[tuple[int, tuple[str, ...], tuple[float, ...]]]:
    """Give each row of a list: its line, its words, its figures scaled by what its first line asks for.

    ``words``: how many cells are no figures; blank lines and those that begin with # are passed over.  Raises ValueError that says
    which line and what is wrong with it; a first word may stand once.
    """
    numbered = [(n, line) for n, line in enumerate(lines, 1) if line.strip() and not line.startswith("#")]
    reader = csv.reader(line for _, line in numbered)
    headings = tuple(cell.strip() for cell in next(reader, ()))
    if headings not in scales:
        raise ValueError(f"its first line must be {' or '.join(','.join(known) for known in scales)}.")
    by, seen = scales[headings], set[str]()
    for (n, _), cells in zip(numbered[1:], reader, strict=False):
        plain = [cell.strip() for cell in cells]
        try:
            figures = tuple(float(v) * scale for v, scale in zip(plain[words:], by, strict=True))
        except ValueError:
            before = "a name" if words == 1 else f"{', '.join(headings[:words])}"
            raise ValueError(f"line {n} must hold {before} and {len(by)} figures.") from None
        if plain[0].lower() in seen:
            raise ValueError(f"line {n} names {plain[0]} a second time.")
        seen.add(plain[0].lower())
        yield n, tuple(plain[:words]), figures
