"""Long work off the main thread: a frozen request in, a frozen answer out, with progress and a stop."""

import traceback
from pathlib import Path

from PySide6.QtCore import QObject, QThread, Signal
from PySide6.QtWidgets import QHBoxLayout, QProgressBar, QPushButton, QWidget

from balken.app.plain import Label
from balken.derived.model import Model
from balken.exchange.file_errors import FileError, Progress, Stopped
from balken.exchange.file_kinds import BY_NAME
from balken.exchange.ifc_process import read_apart
from balken.exchange.ifc_source import Report
from balken.model.records import Project
from balken.value import Value


class WriteRequest(Value, frozen=True):
    """What to write: a model (immutable), the kind of file, where, and for which things (none: all)."""

    model: Model
    kind: str
    path: Path
    things: tuple[str, ...] = ()


class WriteAnswer(Value, frozen=True):
    """What came of it; ``problem`` empty when all is well."""

    request: WriteRequest
    problem: str = ""
    stopped: bool = False


class ReadRequest(Value, frozen=True):
    """An IFC file to read; ``again``: to see what has changed in it since it was last read."""

    path: Path
    again: bool = False


class ReadAnswer(Value, frozen=True):
    """The project read and the report on it; or the problem."""

    request: ReadRequest
    project: Project | None = None
    report: Report | None = None
    problem: str = ""
    stopped: bool = False


def read(request: ReadRequest, progress: Progress) -> ReadAnswer:
    """Read an IFC file, in a process of its own."""
    try:
        return ReadAnswer(request, *read_apart(request.path, progress))
    except FileError as error:
        return ReadAnswer(request, problem=str(error))
    except Stopped:
        return ReadAnswer(request, stopped=True)
    except Exception as error:  # every job ends with an answer
        return ReadAnswer(request, problem=_fault(request.path, "read", error))


def _fault(path: Path, done: str, error: Exception) -> str:
    traceback.print_exc()
    return f"{path}: it could not be {done} ({type(error).__name__}: {error}). Your work is kept; try another folder or kind."


def write(request: WriteRequest, progress: Progress | None = None) -> WriteAnswer:
    """Write one document."""

    def watch(done: int, of: int) -> None:
        if progress is not None and not progress(done, of):
            raise Stopped

    path = request.path
    try:
        BY_NAME[request.kind].write(request.model, path, request.things, watch)
    except FileError as error:
        return WriteAnswer(request, str(error))
    except Stopped:
        return WriteAnswer(request, stopped=True)
    except Exception as error:  # every job ends with an answer
        return WriteAnswer(request, _fault(path, "written", error))
    return WriteAnswer(request)


class _Thread(QThread):
    progressed = Signal(int, int)
    answered = Signal(object)

    def __init__(self, request: WriteRequest | ReadRequest, parent: QObject) -> None:
        super().__init__(parent)
        self.request = request
        self.stop = False

    def run(self) -> None:
        def progress(done: int, of: int) -> bool:
            self.progressed.emit(done, of)
            return not self.stop

        request = self.request
        work = read(request, progress) if isinstance(request, ReadRequest) else write(request, progress)
        self.answered.emit(work)


class WorkBar(QWidget):
    """Progress and a stop button in the status line; one piece of work at a time."""

    finished = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self._thread: _Thread | None = None
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 6, 0)
        self.label = Label()
        self.bar = QProgressBar()
        self.bar.setFixedWidth(140)
        self.stop_button = QPushButton("Stop")
        self.stop_button.clicked.connect(self.stop)
        for widget in (self.label, self.bar, self.stop_button):
            row.addWidget(widget)
        self.hide()

    @property
    def busy(self) -> bool:
        """Whether something is being written."""
        return self._thread is not None

    def start(self, request: WriteRequest | ReadRequest) -> None:
        """Begin; ``finished`` brings the answer."""
        self._thread = _Thread(request, self)
        self._thread.progressed.connect(self._progress)
        self._thread.answered.connect(self._answer)
        reads = isinstance(request, ReadRequest)
        self.label.setText(f"{'Reading' if reads else 'Writing'} {request.path.name}")
        self.bar.setRange(0, 0)
        self.show()
        self._thread.start()

    def stop(self) -> None:
        """Ask the work to stop; the file stays as it was."""
        if self._thread is not None:
            self._thread.stop = True

    def _progress(self, done: int, of: int) -> None:
        self.bar.setRange(0, of)
        self.bar.setValue(done)

    def _answer(self, answer: WriteAnswer | ReadAnswer) -> None:
        thread, self._thread = self._thread, None
        if thread is not None:
            thread.wait()
            thread.deleteLater()
        self.hide()
        self.finished.emit(answer)

    def wait(self) -> None:
        """Stop and wait, when the window closes."""
        if self._thread is not None:
            self.stop()
            self._thread.wait()
