"""A list of hangers read from CSV, in inches and pounds or in mm and newtons."""

from pathlib import Path

from balken.catalog.hangers import HangerRow, read_rows
from balken.exchange.file_errors import FileError

LARGEST = 2_000_000
"""Nobody's list of hangers is larger, bytes."""


def read_list_text(path: Path | str) -> str:
    """Return the text of a list of products; raises FileError where it is none, or too large."""
    try:
        if Path(path).stat().st_size > LARGEST:
            raise FileError("it is too large for a list of products.", path)
        return Path(path).read_text(encoding="utf-8-sig")
    except OSError as error:
        raise FileError(f"it cannot be read ({error.strerror}).", path) from None
    except UnicodeDecodeError:
        raise FileError("it is no text (UTF-8).", path, "Save the list as CSV.") from None


def read_hangers(path: Path | str) -> tuple[HangerRow, ...]:
    """Return the hangers of a list; raises FileError that says which line is wrong."""
    text = read_list_text(path)
    try:
        return read_rows(text.splitlines())
    except ValueError as error:
        raise FileError(str(error), path) from None
