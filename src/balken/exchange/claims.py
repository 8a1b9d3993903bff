"""Who else has a file open, and whether it changed on disk since it was read: so that no save undoes another's work."""

import contextlib
import fcntl
import hashlib
import os
from pathlib import Path

from balken.exchange import project_file
from balken.model.records import COLLECTIONS, Project
from balken.value import Value

Stamp = tuple[int, int, int] | None
"""Time of change, size and number of a file; None where there is none."""


def stamp(path: Path | None) -> Stamp:
    """Return what tells a file from what it was, through symbolic links."""
    if path is None:
        return None
    try:
        found = os.stat(path)
    except (OSError, ValueError):
        return None
    return found.st_mtime_ns, found.st_size, found.st_ino


class Claim:
    """That a session has a file open; it ends with the session, however that ends."""

    def __init__(self, folder: Path, path: Path) -> None:
        self._handle: int | None = None
        self.elsewhere = False
        """Whether another window has the file open, too."""
        name = hashlib.sha256(os.path.realpath(path).encode("utf-8", "surrogateescape")).hexdigest()[:40]
        with contextlib.suppress(OSError):
            folder.mkdir(parents=True, exist_ok=True, mode=0o700)
            self._handle = os.open(folder / f"{name}.open", os.O_CREAT | os.O_RDWR, 0o600)
            try:
                fcntl.flock(self._handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
            except OSError:
                self.elsewhere = True

    def release(self) -> None:
        """Let go of the file."""
        if self._handle is not None:
            with contextlib.suppress(OSError):
                os.close(self._handle)
            self._handle = None


class Difference(Value, frozen=True):
    """How many things of one kind one project has that the other has not, or has otherwise."""

    kind: str
    here: int
    there: int
    changed: int


def compare(here: Project, there: Project) -> tuple[Difference, ...]:
    """Return what differs between two projects, kind by kind, as they are written."""
    here, there = (project_file.from_bytes(project_file.to_bytes(p)) for p in (here, there))
    found = []
    for field in COLLECTIONS.values():
        mine = {record.id: record for record in getattr(here, field)}
        theirs = {record.id: record for record in getattr(there, field)}
        only_here, only_there = len(mine.keys() - theirs.keys()), len(theirs.keys() - mine.keys())
        changed = sum(mine[k] != theirs[k] for k in mine.keys() & theirs.keys())
        if only_here or only_there or changed:
            found.append(Difference(field, only_here, only_there, changed))
    rest = [f for f in Project.__struct_fields__ if f not in COLLECTIONS.values()]
    changed = sum(getattr(here, f) != getattr(there, f) for f in rest)
    if changed:
        found.append(Difference("settings", 0, 0, changed))
    return tuple(found)
