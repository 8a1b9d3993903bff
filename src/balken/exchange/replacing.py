"""Writing a file in one step: the old file stays whole until the new one is complete."""

import contextlib
import os
from collections.abc import Iterator
from pathlib import Path

from balken.exchange.errors import FileError


@contextlib.contextmanager
def replacing(path: Path | str) -> Iterator[Path]:
    """Yield a scratch path beside ``path``; when the block succeeds it takes its place.

    Raises FileError when the folder is missing or not writable; the file at ``path`` is then untouched.
    """
    path = Path(path)
    scratch = path.with_name(f".{path.name}.{os.getpid()}.part")
    try:
        if not path.parent.is_dir():
            raise FileError("the folder is not there.", path.parent, "Choose another folder.")
        if path.is_dir():
            raise FileError("this is a folder.", path, "Type a file name.")
        yield scratch
        with open(scratch, "rb+") as file:
            os.fsync(file.fileno())
        os.replace(scratch, path)
        _sync_folder(path.parent)
    except OSError as error:
        reason = error.strerror or str(error)
        raise FileError(
            f"it could not be written ({reason}).", path, "Choose a folder you may write to, or free some space."
        ) from None
    finally:
        with contextlib.suppress(OSError):
            scratch.unlink(missing_ok=True)


def _sync_folder(folder: Path) -> None:
    with contextlib.suppress(OSError):
        handle = os.open(folder, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)


def write_bytes(path: Path | str, data: bytes) -> None:
    """Replace the file at ``path`` by ``data`` in one step; raises FileError."""
    with replacing(path) as scratch:
        scratch.write_bytes(data)
