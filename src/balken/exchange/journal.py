"""The journal: after every edit the unsaved project is written down, so that a kill loses nothing.

One file a running session, beside a lock that the session holds; a journal whose lock is free
belongs to a session that ended without saving or discarding its work.
"""

import contextlib
import fcntl
import os
import time
import uuid
from pathlib import Path

import msgspec

from balken.exchange import project_file
from balken.exchange.file_errors import FileError
from balken.model.records import Project
from balken.value import Value


class _Entry(msgspec.Struct):
    path: str
    when: float
    project: str


class Leftover(Value, frozen=True):
    """Unsaved work of a session that is no longer running."""

    journal: Path
    path: str
    when: float
    project: Project


def default_folder() -> Path:
    """Return where journals are kept: $XDG_STATE_HOME/balken/journal."""
    base = os.environ.get("XDG_STATE_HOME") or str(Path.home() / ".local" / "state")
    return Path(base) / "balken" / "journal"


class Journal:
    """The journal of one session."""

    def __init__(self, folder: Path | None = None) -> None:
        self.folder = folder or default_folder()
        self.file: Path | None = None
        self.problem = ""
        """Why unsaved work is not kept just now, or ""; it lasts until it is kept again."""
        self._lock: int | None = None

    def write(self, project: Project, path: str) -> None:
        """Write the unsaved state down; raises FileError when the folder cannot be written."""
        try:
            if self.file is None or not self.folder.is_dir():
                self._begin()
            assert self.file is not None
            entry = _Entry(path, time.time(), project_file.to_bytes(project).decode())
            scratch = self.file.with_suffix(".part")
            handle = os.open(scratch, os.O_CREAT | os.O_WRONLY | os.O_TRUNC, 0o600)
            with os.fdopen(handle, "wb") as file:
                file.write(msgspec.json.encode(entry))
            os.replace(scratch, self.file)
        except OSError as error:
            self.problem = f"Unsaved work is not kept: {self.folder} cannot be written ({error.strerror}). Save often."
            raise FileError(
                f"unsaved work could not be journalled ({error.strerror}).", self.folder, "Save often."
            ) from None
        except UnicodeEncodeError:
            self.problem = "Unsaved work is not kept: a name in it cannot be written. Rename it."
            raise FileError("a name in the project cannot be written.", self.folder, "Rename it.") from None
        self.problem = ""

    def _begin(self) -> None:
        """Make the folder and the lock, anew where they were taken away; readable by their owner alone."""
        self._let_go()
        self.folder.mkdir(parents=True, exist_ok=True, mode=0o700)
        with contextlib.suppress(OSError):
            os.chmod(self.folder, 0o700)
        name = uuid.uuid4().hex
        self._lock = os.open(self.folder / f"{name}.lock", os.O_CREAT | os.O_RDWR, 0o600)
        fcntl.flock(self._lock, fcntl.LOCK_EX)
        self.file = self.folder / f"{name}.json"

    def _let_go(self) -> None:
        if self._lock is not None:
            with contextlib.suppress(OSError):
                os.close(self._lock)
        self.file, self._lock = None, None

    def clear(self) -> None:
        """Forget the unsaved state: it was saved or is not wanted."""
        if self.file is not None:
            with contextlib.suppress(OSError):
                self.file.unlink(missing_ok=True)

    def close(self) -> None:
        """Clear and let go of the lock."""
        self.clear()
        if self.file is not None and self._lock is not None:
            with contextlib.suppress(OSError):
                self.file.with_suffix(".lock").unlink(missing_ok=True)
        self._let_go()


def leftovers(folder: Path | None = None) -> list[Leftover]:
    """Return unsaved work of sessions that are gone, newest first; unreadable journals are passed over."""
    folder = folder or default_folder()
    found: list[Leftover] = []
    for file in folder.glob("*.json") if folder.is_dir() else ():
        if _held(file.with_suffix(".lock")):
            continue
        try:
            entry = msgspec.json.decode(file.read_bytes(), type=_Entry)
            project = project_file.from_bytes(entry.project.encode(), file)
        except (OSError, msgspec.DecodeError, FileError, UnicodeError):
            continue
        found.append(Leftover(file, entry.path, entry.when, project))
    return sorted(found, key=lambda left: -left.when)


def discard(left: Leftover) -> None:
    """Remove a leftover journal."""
    for file in (left.journal, left.journal.with_suffix(".lock")):
        with contextlib.suppress(OSError):
            file.unlink(missing_ok=True)


def _held(lock: Path) -> bool:
    try:
        handle = os.open(lock, os.O_RDWR)
    except OSError:
        return False
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        return True
    finally:
        os.close(handle)
    return False
