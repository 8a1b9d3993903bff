"""Writing a file in one step: the old file stays whole until the new one is complete.

What a symbolic link points at is replaced, not the link; mode, owner and group of a file that is replaced stay.
"""

import contextlib
import os
import stat
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path

from balken.exchange.file_errors import FileError

STALE = 3600.0
"""Scratch files older than this belong to a program that was killed, s."""


@contextlib.contextmanager
def replacing(path: Path | str) -> Iterator[Path]:
    """Yield a scratch path beside ``path``; when the block succeeds it takes its place.

    Raises FileError when the folder is missing or not writable; the file at ``path`` is then untouched.
    """
    path = Path(path)
    scratch: Path | None = None
    try:
        if not path.name:
            raise FileError("this is no file name.", path, "Type a file name.")
        target = Path(os.path.realpath(path))
        if not target.parent.is_dir():
            raise FileError("the folder is not there.", path.parent, "Choose another folder.")
        if target.is_dir():
            raise FileError("this is a folder.", path, "Type a file name.")
        if target.exists() and not target.is_file():
            raise FileError("this is a device, no file.", path, "Choose another name.")
        _sweep(target)
        handle, name = tempfile.mkstemp(prefix=_prefix(target), suffix=".part", dir=target.parent)
        os.close(handle)
        scratch = Path(name)
        yield scratch
        with open(scratch, "rb+") as file:
            os.fsync(file.fileno())
        _as_before(target, scratch)
        os.replace(scratch, target)
        _sync_folder(target.parent)
    except (OSError, ValueError) as error:  # a name may hold what no file system takes
        reason = getattr(error, "strerror", None) or str(error)
        raise FileError(
            f"it could not be written ({reason}).", path, "Choose a folder you may write to, or free some space."
        ) from None
    finally:
        if scratch is not None:
            with contextlib.suppress(OSError):
                scratch.unlink(missing_ok=True)


def _prefix(target: Path) -> str:
    return f".{target.name[:80]}."


def _as_before(target: Path, scratch: Path) -> None:
    """Give the scratch file mode, owner and group of the file it replaces; a new file those that are usual."""
    try:
        was = os.stat(target)
    except FileNotFoundError:
        mask = os.umask(0)
        os.umask(mask)
        os.chmod(scratch, 0o666 & ~mask)
        return
    with contextlib.suppress(OSError):
        os.chown(scratch, was.st_uid, was.st_gid)
    os.chmod(scratch, stat.S_IMODE(was.st_mode))


def _sweep(target: Path) -> None:
    """Clear away what programs that were killed left beside a file."""
    prefix = _prefix(target)
    with contextlib.suppress(OSError):
        for name in os.listdir(target.parent):
            if name.startswith(prefix) and name.endswith(".part"):
                left = target.parent / name
                with contextlib.suppress(OSError):
                    if time.time() - left.stat().st_mtime > STALE:
                        left.unlink()


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


MOST_READ = 400_000_000
"""No drawing or project is larger than this, bytes."""


def read_regular(path: Path | str) -> bytes:
    """Return the contents of a regular file; raises FileError for what is missing, a folder, a device, or too large."""
    check_regular(path)
    try:
        return Path(path).read_bytes()
    except OSError as error:
        raise FileError(f"it could not be read ({error.strerror}).", path, "Check that you may read it.") from None


def check_regular(path: Path | str) -> None:
    """Raise FileError unless there is a regular file of a size that can be read."""
    try:
        found = os.stat(path)
    except FileNotFoundError:
        raise FileError("there is no such file.", path, "Check the name.") from None
    except (OSError, ValueError) as error:
        reason = getattr(error, "strerror", None) or str(error)
        raise FileError(f"it could not be read ({reason}).", path, "Check that you may read it.") from None
    if stat.S_ISDIR(found.st_mode):
        raise FileError("this is a folder.", path, "Choose a file in it.")
    if not stat.S_ISREG(found.st_mode):
        raise FileError("this is a device or pipe, no file.", path, "Choose a file.")
    if found.st_size > MOST_READ:
        raise FileError(f"it is larger than {MOST_READ // 1_000_000} MB.", path, "Take a part of it.")
