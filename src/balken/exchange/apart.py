"""Work on others' files in a process of its own, with limits of time and memory: a fault there ends only that."""

import contextlib
import multiprocessing
import resource
from collections.abc import Callable
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any, TypeVar

from balken.exchange.file_errors import FileError

T = TypeVar("T")
SECONDS = 60.0
MEMORY = 4_000_000_000
"""Address space of the process, bytes."""


def limit_memory() -> None:
    """Let this process take no more memory than that."""
    with contextlib.suppress(ValueError, OSError):
        resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))


def run_apart(
    work: Callable[..., T], arguments: tuple[Any, ...], path: Path | str, do: str, seconds: float = SECONDS
) -> T:
    """Return what ``work(*arguments)`` returns in a process of its own.

    Raises FileError, also when it takes too long or too much memory, or dies.
    """
    context = multiprocessing.get_context("spawn")
    ours, theirs = context.Pipe(duplex=False)
    process = context.Process(target=_there, args=(theirs, work, arguments, str(path)), daemon=True)
    process.start()
    theirs.close()
    try:
        if not ours.poll(seconds):
            raise FileError(f"reading it takes more than {seconds:.0f} seconds.", path, do)
        answer = ours.recv()
    except EOFError:
        raise FileError("reading it ended without a result; it is probably damaged.", path, do) from None
    finally:
        process.kill()
        process.join()
        ours.close()
    if isinstance(answer, FileError):
        raise answer
    return answer  # type: ignore[no-any-return]


def _there(channel: Connection, work: Callable[..., Any], arguments: tuple[Any, ...], path: str) -> None:
    limit_memory()
    try:
        answer = work(*arguments)
    except FileError as error:
        answer = error
    except MemoryError:
        answer = FileError("reading it takes too much memory.", path, "Take a part of it.")
    except Exception as error:
        answer = FileError(f"it is damaged ({type(error).__name__}).", path, "Save it again.")
    channel.send(answer)
