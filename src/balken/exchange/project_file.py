"""The project file: indented JSON, versioned, written in one step (docs/file-format.md)."""

from pathlib import Path

import msgspec

from balken import __version__
from balken.exchange.errors import FileError
from balken.exchange.replacing import write_bytes
from balken.model.errors import EditError
from balken.model.records import Project
from balken.model.rules import check

FORMAT = "balken-project"
VERSION = 1
SUFFIX = ".balken"


class _Head(msgspec.Struct):
    format: str = ""
    version: int = 0


class _File(msgspec.Struct, forbid_unknown_fields=True):
    format: str
    version: int
    written_by: str
    project: Project


def to_bytes(project: Project) -> bytes:
    """Return the file's contents; equal projects give equal bytes."""
    file = _File(FORMAT, VERSION, f"Balken {__version__}", project)
    return msgspec.json.format(msgspec.json.encode(file), indent=2) + b"\n"


def from_bytes(data: bytes, path: Path | str = "project") -> Project:
    """Read a file's contents; raises FileError that says what is wrong and where in the file."""
    if not data.strip():
        raise FileError("the file is empty.", path, "Open an earlier copy.")
    try:
        head = msgspec.json.decode(data, type=_Head)
    except msgspec.ValidationError:
        raise FileError("this is not a Balken project.", path, "Choose a file that ends in .balken.") from None
    except msgspec.DecodeError as error:
        looks_cut = data.lstrip()[:1] == b"{" and not data.rstrip().endswith(b"}")
        what = "the file ends too early; it is only part of a project" if looks_cut else "the file is damaged"
        if data.lstrip()[:1] != b"{":
            what = "this is not a Balken project"
        raise FileError(f"{what} ({error}).", path, "Open an earlier copy.") from None
    except UnicodeDecodeError:
        raise FileError("this is not a Balken project.", path, "Choose a file that ends in .balken.") from None
    if head.format != FORMAT:
        raise FileError("this is not a Balken project.", path, "Choose a file that ends in .balken.")
    if head.version > VERSION:
        raise FileError(
            f"it was saved by a newer Balken (format {head.version}; this one reads up to {VERSION}).",
            path,
            "Open it with a newer Balken.",
        )
    if head.version < 1:
        raise FileError(f"its format version is {head.version}.", path, "Open an earlier copy.")
    try:
        return check(msgspec.json.decode(data, type=_File).project)
    except msgspec.ValidationError as error:
        raise FileError(f"a value in it is not what it should be: {error}.", path, "Open an earlier copy.") from None
    except UnicodeDecodeError:
        raise FileError("a text in it is damaged (not UTF-8).", path, "Open an earlier copy.") from None
    except EditError as error:
        raise FileError(f"it does not make sense: {error}", path, "Mend it in a text editor or open a copy.") from None


def save(project: Project, path: Path | str) -> None:
    """Replace the file in one step; raises FileError and leaves it as it was."""
    write_bytes(path, to_bytes(project))


def load(path: Path | str) -> Project:
    """Read a project; raises FileError."""
    try:
        data = Path(path).read_bytes()
    except FileNotFoundError:
        raise FileError("there is no such file.", path, "Check the name.") from None
    except OSError as error:
        raise FileError(f"it could not be read ({error.strerror}).", path, "Check that you may read it.") from None
    return from_bytes(data, path)
