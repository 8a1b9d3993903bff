"""Reading an IFC in a process of its own: nothing blocks the window, and a fault in the reader ends only that."""

import multiprocessing
from multiprocessing.connection import Connection
from pathlib import Path

from balken.exchange.apart import limit_memory
from balken.exchange.file_errors import FileError, Progress, Stopped
from balken.exchange.ifc_reader import read_ifc
from balken.exchange.ifc_source import Report
from balken.model.records import Project


def read_apart(path: Path, progress: Progress) -> tuple[Project, Report]:
    """Do what ``read_ifc`` does, elsewhere; ``progress`` is asked about twenty times a second.

    Raises FileError, also when the reading process dies, and Stopped.
    """
    context = multiprocessing.get_context("spawn")
    ours, theirs = context.Pipe()
    process = context.Process(target=_read_there, args=(theirs, path), daemon=True)
    process.start()
    theirs.close()
    told = (0, 0)
    try:
        while progress(*told):
            if not ours.poll(0.05):
                continue
            news = ours.recv()
            if isinstance(news, FileError):
                raise news
            if isinstance(news[1], Report):
                return news[0], news[1]
            told = news
        raise Stopped
    except EOFError:
        what = "reading it ended without a result; the IFC is probably damaged."
        raise FileError(what, path, "Export it again.") from None
    finally:
        process.kill()
        process.join()
        ours.close()


def _read_there(channel: Connection, path: Path) -> None:
    def progress(done: int, of: int) -> bool:
        channel.send((done, of))
        return True

    limit_memory()
    try:
        channel.send(read_ifc(path, progress))
    except FileError as error:
        channel.send(error)
    except MemoryError:
        channel.send(FileError("reading it takes too much memory.", path, "Take a part of it."))
