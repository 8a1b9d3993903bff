"""The project file: indented JSON, versioned, written in one step (docs/file-format.md)."""

from pathlib import Path
from typing import Any

import msgspec

from balken import __version__
from balken.exchange.carried import Entry, entries_of, taken_over
from balken.exchange.file_errors import FileError
from balken.exchange.migrations import VERSION, migrated
from balken.exchange.replacing import read_regular, write_bytes
from balken.model.errors import EditError
from balken.model.records import Project
from balken.model.rules import check
from balken.model.tidy import tidy_figure

FORMAT = "balken-project"
SUFFIX = ".balken"


class _Head(msgspec.Struct):
    format: str = ""
    version: int = 0


CARRIES = 4
"""From this version on files carry the catalogue entries they use."""


class _File(msgspec.Struct, forbid_unknown_fields=True):
    format: str
    version: int
    written_by: str
    project: Any
    catalogue: tuple[Entry, ...] = ()


def to_bytes(project: Project) -> bytes:
    """Return the file's contents; equal projects give equal bytes."""
    plain = _rounded(msgspec.to_builtins(project))
    file = {"format": FORMAT, "version": VERSION, "written_by": f"Balken {__version__}"}
    file |= {"catalogue": _rounded(msgspec.to_builtins(entries_of(plain))), "project": plain}
    return msgspec.json.format(msgspec.json.encode(file), indent=2) + b"\n"


def _rounded(value: Any) -> Any:
    """Return plain data with tidy figures: 292.1, not 292.0999999997."""
    if isinstance(value, float):
        return tidy_figure(value)
    if isinstance(value, dict):
        return {k: _rounded(v) for k, v in value.items()}
    if isinstance(value, (list, tuple)):
        return [_rounded(v) for v in value]
    return value


def from_bytes(data: bytes, path: Path | str = "project") -> Project:
    """Read a file's contents; raises FileError that says what is wrong and where in the file."""
    if not data.strip():
        raise FileError("the file is empty.", path, "Open an earlier copy.")
    try:
        head = msgspec.json.decode(data, type=_Head)
    except msgspec.ValidationError:
        raise FileError("this is not a Balken project.", path, "Choose a file that ends in .balken.") from None
    except RecursionError:
        raise FileError("it is nested too deep to be a project.", path, "Open an earlier copy.") from None
    except msgspec.DecodeError as error:
        cut = "truncated" in str(error) or not data.rstrip().endswith(b"}")
        looks_cut = data.lstrip()[:1] == b"{" and cut
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
        if head.version >= CARRIES:
            file = msgspec.json.decode(data, type=_File)
            if not isinstance(file.project, dict):
                raise msgspec.ValidationError("Expected `object` - at `$.project`")
            plain = migrated(file.project, head.version)
            return check(msgspec.convert(taken_over(plain, file.catalogue), Project))
        return check(_older(data, head.version))
    except msgspec.ValidationError as error:
        raise FileError(f"a value in it is not what it should be: {error}.", path, "Open an earlier copy.") from None
    except UnicodeDecodeError:
        raise FileError("a text in it is damaged (not UTF-8).", path, "Open an earlier copy.") from None
    except EditError as error:
        raise FileError(f"it does not make sense: {error}", path, "Mend it in a text editor or open a copy.") from None
    except RecursionError:
        raise FileError("it is nested too deep to be a project.", path, "Open an earlier copy.") from None
    except (TypeError, AttributeError, KeyError, ValueError, OverflowError) as error:
        raise FileError(f"a value in it is not what it should be ({error}).", path, "Open an earlier copy.") from None


def _older(data: bytes, version: int) -> Project:
    """Read a file of a version that carried no catalogue, brought to today's."""
    plain = msgspec.json.decode(data)
    unknown = set(plain) - {"format", "version", "written_by", "project"}
    if unknown:
        raise msgspec.ValidationError(f"Object contains unknown field `{min(unknown)}`")
    if not isinstance(plain.get("project"), dict):
        raise msgspec.ValidationError("Expected `object` - at `$.project`")
    return msgspec.convert(migrated(plain["project"], version), Project)


def save(project: Project, path: Path | str) -> None:
    """Replace the file in one step; raises FileError and leaves it as it was.

    What would not read back as it is written is not written.
    """
    try:
        data = to_bytes(project)
        again = to_bytes(from_bytes(data, path))
    except FileError as error:
        raise FileError(
            f"the project would not open again: {error.what}", path, "Undo the last step, then save."
        ) from None
    except (RecursionError, UnicodeEncodeError) as error:
        raise FileError(f"it holds what cannot be written ({error}).", path, "Undo the last step, then save.") from None
    if again != data:
        raise FileError("the project would not read back as it is.", path, "Undo the last step, then save.")
    write_bytes(path, data)


def load(path: Path | str) -> Project:
    """Read a project; raises FileError."""
    return from_bytes(read_regular(path), path)
