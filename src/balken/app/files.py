"""What the window does with files: open, save, copies, writing documents, reading IFC, unsaved work."""

from functools import partial
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QFileDialog, QMessageBox

from balken.app.changes_dialog import ChangesDialog
from balken.app.dialogs import LeftoverDialog, ReportDialog
from balken.app.plain import warn
from balken.app.shell import Deeds, Shell
from balken.app.views import Views
from balken.app.work import ReadAnswer, ReadRequest, WriteAnswer, WriteRequest
from balken.demo import orchard_road
from balken.documents.calculation import can_calculate
from balken.exchange.claims import compare
from balken.exchange.dxf_reader import read_dxf
from balken.exchange.file_errors import FileError
from balken.exchange.file_kinds import BY_NAME
from balken.exchange.journal import discard, leftovers
from balken.exchange.product_list import read_products
from balken.exchange.project_file import SUFFIX
from balken.model import base_drawing_edits, edits
from balken.model.list_edits import take_list
from balken.model.records import Project


def _differences(here: Project, there: Project) -> str:
    """Return in words what differs between this project and the one on disk."""
    rows = compare(here, there)
    if not rows:
        return "It holds the same as is open here."
    parts = []
    for row in rows:
        told = [
            f"{n} {what}"
            for n, what in ((row.here, "only here"), (row.there, "only there"), (row.changed, "differ"))
            if n
        ]
        parts.append(f"{row.kind}: {', '.join(told)}")
    return "\n".join(parts)


class Files:
    """What the window does with files."""

    def __init__(self, shell: Shell, views: Views) -> None:
        self.shell, self.session, self.work, self.views = shell, shell.session, shell.work, views
        self.report: ReportDialog | None = None
        self.changes: ChangesDialog | None = None

    def may_leave(self) -> bool:
        """Ask what to do with unsaved work; False: stay."""
        if not self.session.dirty:
            return True
        box = QMessageBox(self.shell.itself)
        box.setWindowTitle("Unsaved work")
        box.setText(f"'{self.session.project.name}' has unsaved work.")
        keep = box.addButton("Save", QMessageBox.ButtonRole.AcceptRole)
        drop = box.addButton("Do not save", QMessageBox.ButtonRole.DestructiveRole)
        box.addButton("Cancel", QMessageBox.ButtonRole.RejectRole)
        box.exec()
        if box.clickedButton() is keep:
            return self.save()
        return box.clickedButton() is drop

    def new_project(self) -> None:
        """Begin an empty project."""
        if self.may_leave():
            self.session.replace(edits.new_project(units=self.session.project.steps), None)
            self.views.fresh()

    def open_demo(self) -> None:
        """Open the demo project."""
        if self.may_leave():
            self.session.replace(orchard_road(), None)
            self.views.fresh()
            self.views.show_off()

    def open_dialog(self) -> None:
        """Choose a project to open."""
        if not self.may_leave():
            return
        name, _ = QFileDialog.getOpenFileName(
            self.shell.itself, "Open a project", "", f"Balken project (*{SUFFIX});;All files (*)"
        )
        if name:
            self.open(Path(name))

    def open(self, path: Path) -> bool:
        """Open a project file; a message says why when it cannot be."""
        if not self.session.open(path):
            warn(self.shell.itself, "Not opened", self.shell.said)
            return False
        self.views.fresh()
        return True

    def save(self) -> bool:
        """Save; asks for a name the first time."""
        path = self.session.path
        if path is None:
            return self.save_as()
        reason = self.session.in_the_way(path)
        return self._settle(path, reason) if reason else self._saved(self.session.save(path))

    def _settle(self, path: Path, reason: str) -> bool:
        """Ask what to do with a file that somebody else has changed, or has open."""
        there = self.session.on_disk()
        box = QMessageBox(self.shell.itself)
        box.setWindowTitle("Not saved yet")
        box.setTextFormat(Qt.TextFormat.PlainText)
        box.setText(f"{reason} Saving would undo what was done there.")
        box.setInformativeText(_differences(self.session.project, there) if there is not None else "It cannot be read.")
        elsewhere = box.addButton("Save elsewhere", QMessageBox.ButtonRole.AcceptRole)
        take = (
            box.addButton("Take over what is there", QMessageBox.ButtonRole.ActionRole) if there is not None else None
        )
        over = box.addButton("Replace it", QMessageBox.ButtonRole.DestructiveRole)
        box.addButton("Cancel", QMessageBox.ButtonRole.RejectRole)
        box.exec()
        clicked = box.clickedButton()
        if clicked is elsewhere:
            return self.save_as()
        if take is not None and clicked is take:
            return self.session.take_over()
        return clicked is over and self._saved(self.session.save(path, over=True))

    def save_as(self) -> bool:
        """Save under another name."""
        path = self._ask_path("Save the project", f"Balken project (*{SUFFIX})", SUFFIX)
        return path is not None and self._saved(self.session.save(path))

    def save_copy(self) -> bool:
        """Write a copy elsewhere."""
        path = self._ask_path("Save a copy", f"Balken project (*{SUFFIX})", SUFFIX)
        return path is not None and self._saved(self.session.save_copy(path))

    def _saved(self, done: bool) -> bool:
        if not done:
            warn(self.shell.itself, "Not saved", self.shell.said)
        return done

    def _ask_path(self, title: str, kind: str, suffix: str) -> Path | None:
        folder = self.session.path.parent if self.session.path else Path.home()
        stem = self.session.project.name.replace("/", "-")
        name, _ = QFileDialog.getSaveFileName(self.shell.itself, title, str(folder / f"{stem}{suffix}"), kind)
        if not name:
            return None
        path = Path(name)
        return path if path.suffix else path.with_suffix(suffix)

    def write(self, name: str) -> None:
        """Ask where and write a file of a kind off the main thread: framing of the walls selected, else of all."""
        self._write(
            name, tuple(r for r in self.session.selection if name == "framing" and r in self.session.model.framed)
        )

    def write_calculation(self, ref: str = "") -> None:
        """Write the calculation sheets of a thing, of those selected, or of everything."""
        model = self.session.model
        self._write("calc", (ref,) if ref else tuple(r for r in self.session.selection if can_calculate(model, r)))

    def _write(self, name: str, things: tuple[str, ...]) -> None:
        kind = BY_NAME[name]
        if self.work.busy:
            self.shell.say("Something is still being written; wait, or stop it.", True)
        elif not kind.any(self.session.model):
            self.shell.say(kind.none, True)
        else:
            path = self._ask_path(kind.title, kind.sort, kind.suffix)
            if path is not None:
                self.work.start(WriteRequest(self.session.model, name, path, things))

    def read_ifc(self) -> None:
        """Begin a project from an architect's IFC file."""
        if self.work.busy:
            self.shell.say("Something else is still being read or written.", True)
            return
        if not self.may_leave():
            return
        name, _ = QFileDialog.getOpenFileName(self.shell.itself, "Read an IFC file", "", "IFC (*.ifc);;All files (*)")
        if name:
            self.work.start(ReadRequest(Path(name)))

    def read_again(self) -> None:
        """See what has changed in the architect's file this project came from."""
        if self.session.project.reading is None:
            self.shell.say("This project was not begun from an architect's file.", True)
            return
        if self.work.busy:
            self.shell.say("Something else is still being read or written.", True)
            return
        name, _ = QFileDialog.getOpenFileName(
            self.shell.itself, "Read the file again", "", "IFC (*.ifc);;All files (*)"
        )
        if name:
            self.work.start(ReadRequest(Path(name), again=True))

    def lay_dxf(self) -> None:
        """Lay a DXF drawing under the plan of the storey at work."""
        name, _ = QFileDialog.getOpenFileName(
            self.shell.itself, "Lay a drawing under the plan", "", "DXF (*.dxf);;All files (*)"
        )
        if not name:
            return
        try:
            lines = read_dxf(name)
        except FileError as error:
            self.shell.say(str(error), True)
            warn(self.shell.itself, "Not read", str(error))
            return
        storey, title = self.session.storey, Path(name).stem
        if self.session.apply(
            f"Lay drawing {title}", lambda p: base_drawing_edits.lay_base_drawing(p, name, title, storey, lines.scale)
        ):
            self.session.select([self.session.project.base_drawings[-1].id])
            left = sum(lines.left_out.values())
            unit = "The file names no unit; one was guessed from its size. " if lines.assumed else ""
            rest = f", {left} texts and other things left out" if left else ""
            self.shell.say(f"{unit}{lines.count} lines on {len(lines.layers)} layers{rest}.", False)

    def read_products(self) -> None:
        """Take a list of hangers, caps and bases, or I-joists from a file in place of the one there is."""
        name, _ = QFileDialog.getOpenFileName(
            self.shell.itself, "Read a list of products", "", "CSV (*.csv);;All files (*)"
        )
        if not name:
            return
        try:
            noun, rows = read_products(name)
        except FileError as error:
            self.shell.say(str(error), True)
            warn(self.shell.itself, "Not read", str(error))
            return
        if self.session.apply(f"Take list of {noun}", lambda p: take_list(p, rows)):
            self.shell.say(f"{len(rows)} {noun} taken from {Path(name).name}.", False)

    def _was_read(self, answer: ReadAnswer) -> None:
        if answer.stopped:
            self.shell.say(f"Stopped; {answer.request.path.name} was not read.", False)
            return
        if answer.project is None or answer.report is None:
            self.shell.say(answer.problem, True)
            warn(self.shell.itself, "Not read", answer.problem)
            return
        if answer.request.again and answer.project.reading is not None:
            self.changes = ChangesDialog(self.shell.itself, self.session, answer.project.reading)
            self.changes.open()
            return
        self.session.replace(answer.project, None, saved=False)
        self.views.fresh()
        self.shell.say(f"Read {answer.request.path.name}", False)
        self.report = ReportDialog(self.shell.itself, answer.request.path.name, answer.report)
        self.report.open()

    def written(self, answer: WriteAnswer | ReadAnswer) -> None:
        if isinstance(answer, ReadAnswer):
            self._was_read(answer)
            return
        if answer.stopped:
            self.shell.say(f"Stopped; {answer.request.path.name} was not written.", False)
        elif answer.problem:
            self.shell.say(answer.problem, True)
            warn(self.shell.itself, "Not written", answer.problem)
        else:
            self.shell.say(f"Wrote {answer.request.path}", False)

    def offer_leftovers(self) -> None:
        """Offer back the newest unsaved work of a session that was killed."""
        if self.session.journal is None:
            return
        for leftover in leftovers(self.session.journal.folder)[:1]:
            dialog = LeftoverDialog(self.shell.itself, leftover)
            if dialog.exec() == QDialog.DialogCode.Accepted:
                self.session.replace(leftover.project, Path(leftover.path) if leftover.path else None, saved=False)
                # It goes only once it is safe elsewhere: on a full disk it stays where it is.
                if self.session.kept:
                    discard(leftover)
                self.views.fresh()
            elif dialog.thrown:
                discard(leftover)

    def deeds(self) -> Deeds:
        """Return what runs the commands that have to do with files."""
        found: Deeds = {
            "new": self.new_project,
            "open": self.open_dialog,
            "read_ifc": self.read_ifc,
            "read_again": self.read_again,
            "lay_dxf": self.lay_dxf,
            "read_products": self.read_products,
            "demo": self.open_demo,
            "save": self.save,
            "save_as": self.save_as,
            "copy": self.save_copy,
            "calculation": self.write_calculation,
            "framing_pdf": lambda: self.write("framing"),
        }
        return found | {
            kind: partial(self.write, kind) for kind in ("pdf", "dxf", "ifc", "csv", "xlsx", "quantities", "bars")
        }
