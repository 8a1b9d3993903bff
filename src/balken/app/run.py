"""Starting the application."""

import gc
import os
import signal
import sys
import traceback
from pathlib import Path
from types import TracebackType

from PySide6.QtCore import QSettings, QTimer
from PySide6.QtWidgets import QApplication

from balken.app.look import dress
from balken.app.window import MainWindow
from balken.demo import orchard_road
from balken.exchange import project_file
from balken.exchange.journal import Journal
from balken.session.session import Session


def _unexpected(
    window: MainWindow, kind: type[BaseException], error: BaseException, trace: TracebackType | None
) -> None:
    """Print a fault of Balken's own and say so; the work is in the journal and the window goes on."""
    traceback.print_exception(kind, error, trace)
    window.session.message.emit(
        f"Something went wrong inside Balken ({kind.__name__}). Your work is kept; save a copy and go on.", True
    )


def spare_the_collector() -> None:
    """Keep Python's collector of cycles from going through the whole model in the middle of edits."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(20_000, 20, 50)
    gc.enable()


def run(file: str | None, demo: bool = False) -> int:
    """Open the window with a file, the demo project or an empty project; returns the exit code.

    Raises FileError when the file cannot be read.
    """
    project = project_file.load(file) if file else orchard_road() if demo else None
    if not any(os.environ.get(name) for name in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")):
        print(
            "balken: there is no display to open a window on. Log in to a desktop, or use the commands "
            "balken build and balken export, which need none.",
            file=sys.stderr,
        )
        return 2
    app = QApplication.instance() or QApplication(sys.argv[:1])
    assert isinstance(app, QApplication)
    app.setApplicationName("Balken")
    app.setDesktopFileName("balken")
    dress(app)
    session = Session(project, Journal())
    session.took_file(Path(file) if file else None)
    window = MainWindow(session, QSettings("Balken", "Balken"))
    if demo:
        window.views.show_off()
    window.show()
    spare_the_collector()
    sys.excepthook = lambda kind, error, trace: _unexpected(window, kind, error, trace)
    QTimer.singleShot(0, window.files.offer_leftovers)
    # Let Ctrl+C in the terminal end the program.
    signal.signal(signal.SIGINT, lambda *_: window.close())
    heartbeat = QTimer()
    heartbeat.timeout.connect(lambda: None)
    heartbeat.start(300)
    return int(app.exec())
