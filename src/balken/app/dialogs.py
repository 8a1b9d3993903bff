"""The two small dialogs of setting out, and the one that offers unsaved work back."""

import time

from PySide6.QtWidgets import (
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QFormLayout,
    QLineEdit,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from balken.app.plain import Label
from balken.exchange.ifc_source import Report
from balken.exchange.journal import Leftover
from balken.model import edits
from balken.model.errors import EditError
from balken.model.lookup import listed
from balken.session.session import Session
from balken.units import UnitError, Units, format_length, parse_length


class FormDialog(QDialog):
    """A form with a place for what is wrong; stays open until its edit succeeds, and where several are made one after the other
    (``several``) as long as it is asked to.
    """

    several = False

    def __init__(self, parent: QWidget | None, title: str, session: Session) -> None:
        super().__init__(parent)
        self.session = session
        self.setWindowTitle(title)
        self.setMinimumWidth(380)
        column = QVBoxLayout(self)
        self.form = QFormLayout()
        column.addLayout(self.form)
        self.problem = Label()
        self.problem.setObjectName("problem")
        self.problem.setWordWrap(True)
        column.addWidget(self.problem)
        self.told = Label()
        self.told.setObjectName("hint")
        self.told.setWordWrap(True)
        self.told.hide()
        column.addWidget(self.told)
        self.buttons = QDialogButtonBox()
        done = self.buttons.addButton("Add" if self.several else "OK", QDialogButtonBox.ButtonRole.AcceptRole)
        done.setObjectName("primary")
        if self.several:
            self.more = self.buttons.addButton("Add, and one more", QDialogButtonBox.ButtonRole.ActionRole)
            self.more.clicked.connect(self.add_more)
        self.buttons.addButton("Close" if self.several else "Cancel", QDialogButtonBox.ButtonRole.RejectRole)
        self.buttons.accepted.connect(self.try_accept)
        self.buttons.rejected.connect(self.reject)
        column.addWidget(self.buttons)

    def run(self) -> None:
        """Carry the edit out; raises UnitError or EditError. Overridden."""
        raise NotImplementedError

    def try_accept(self) -> None:
        """Carry the edit out and close, or say why not."""
        try:
            self.run()
        except (UnitError, EditError) as error:
            self.problem.setText(str(error))
            return
        self.accept()

    def add_more(self) -> None:
        """Carry the edit out and stay open for the next one, or say why not."""
        try:
            self.run()
        except (UnitError, EditError) as error:
            self.problem.setText(str(error))
            return
        self.problem.setText("")
        self.told.setText(f"{self.session.undo_label}: done. Type the next one, or close.")
        self.told.show()
        self.renew()

    def renew(self) -> None:
        """Offer what there is now; what was typed stays."""


class LevelDialog(FormDialog):
    """New levels from others by typed distances."""

    several = True

    def __init__(self, parent: QWidget | None, session: Session) -> None:
        super().__init__(parent, "Add a level", session)
        p = session.project
        self.source = QComboBox()
        self._offer()
        chosen = next((i for i in range(self.source.count()) if self.source.itemData(i) in session.selection), None)
        if chosen is not None:
            self.source.setCurrentIndex(chosen)
        self.distance, self.name, self.role = QLineEdit(), QLineEdit(), QComboBox()
        self.distance.setPlaceholderText("8'-1 1/8\", or -3' for downward" if p.units is Units.IMPERIAL else "2500")
        self.name.setPlaceholderText("follows from the role")
        for role in ("floor", "plate", "top of foundation", "top of footing", "ground", "slab", "ridge", "other"):
            self.role.addItem(role)
        for label, widget in (
            ("From level", self.source),
            ("Distance up (\u2212 down)", self.distance),
            ("Role", self.role),
            ("Name", self.name),
        ):
            self.form.addRow(label, widget)
        self.distance.setFocus()

    def _offer(self) -> None:
        p, kept = self.session.project, self.source.currentData()
        self.source.clear()
        for level in listed(p.levels):
            self.source.addItem(f"{level.name}  {format_length(level.height, p.units)}", level.id)
        self.source.setCurrentIndex(max(self.source.findData(kept), 0))

    def renew(self) -> None:
        self._offer()
        self.distance.clear()
        self.name.clear()
        self.distance.setFocus()

    def run(self) -> None:
        p = self.session.project
        up = parse_length(self.distance.text(), p.units)
        role = self.role.currentText()
        name = self.name.text().strip() or free_name(role, {v.name for v in p.levels})
        source = str(self.source.currentData())
        after = edits.add_level(p, source, up, name, role)  # type: ignore[arg-type]
        self.session.apply(f"Add level {name}", lambda q: after if q is p else q)


class UnitsDialog(QDialog):
    """Asks, in a project that has content, what a switch of units is to change: how lengths are shown, or what Balken chooses too."""

    def __init__(self, parent: QWidget | None, units: Units) -> None:
        super().__init__(parent)
        self.setWindowTitle("Change units")
        noun, steps = ("millimetres", "50 mm") if units is Units.METRIC else ("feet and inches", "2 in")
        column = QVBoxLayout(self)
        text = Label(
            f"Lengths will be shown and read in {noun}. What has been typed, walls, levels and loads, stays as it is.\n\n"
            f"Sizes left to Balken, footings and spacings, come in steps of their own: with steps of {steps} and the like they may "
            "change at once, and so may what rests on them. One step of undo takes all of it back."
        )
        text.setWordWrap(True)
        text.setMinimumWidth(420)
        column.addWidget(text)
        buttons = QDialogButtonBox()
        show = buttons.addButton("Show so", QDialogButtonBox.ButtonRole.AcceptRole)
        show.setObjectName("primary")
        self.both = buttons.addButton(f"Show so, steps of {steps} too", QDialogButtonBox.ButtonRole.ActionRole)
        buttons.addButton("Cancel", QDialogButtonBox.ButtonRole.RejectRole)
        self.steps = False
        self.both.clicked.connect(self.with_steps)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        column.addWidget(buttons)

    def with_steps(self) -> None:
        """Change the steps of what Balken chooses, too."""
        self.steps = True
        self.accept()


def free_name(role: str, taken: set[str]) -> str:
    """Return a level name for a role that is not taken: Floor 2, Ground."""
    base = role.capitalize()
    if role == "floor":
        return next(f"Floor {i}" for i in range(1, 1000) if f"Floor {i}" not in taken)
    return base if base not in taken else next(f"{base} {i}" for i in range(2, 1000) if f"{base} {i}" not in taken)


class LeftoverDialog(QDialog):
    """Offers unsaved work of a session that ended without saving."""

    def __init__(self, parent: QWidget | None, leftover: Leftover) -> None:
        super().__init__(parent)
        self.setWindowTitle("Unsaved work")
        when = time.strftime("%d %B %Y, %H:%M", time.localtime(leftover.when))
        where = leftover.path or "a project that was never saved"
        column = QVBoxLayout(self)
        text = Label(
            f"Balken ended without saving <b>{leftover.project.name}</b> ({where}).<br>"
            f"The last edit, of {when}, was written down. Take the work up again?"
        )
        text.setWordWrap(True)
        column.addWidget(text)
        buttons = QDialogButtonBox()
        take = buttons.addButton("Take it up again", QDialogButtonBox.ButtonRole.AcceptRole)
        take.setObjectName("primary")
        buttons.addButton("Throw it away", QDialogButtonBox.ButtonRole.DestructiveRole).clicked.connect(self.throw)
        buttons.addButton("Ask me later", QDialogButtonBox.ButtonRole.RejectRole)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        column.addWidget(buttons)
        self.thrown = False

    def throw(self) -> None:
        """Close; the work is thrown away."""
        self.thrown = True
        self.reject()


class ReportDialog(QDialog):
    """What came of an IFC file: what was taken over, and what was simplified or left out, and why."""

    def __init__(self, parent: QWidget | None, name: str, report: Report) -> None:
        super().__init__(parent)
        self.setWindowTitle("What came of the IFC file")
        self.resize(720, 420)
        column = QVBoxLayout(self)
        names = {"references": "outlines to work against"}
        taken = ", ".join(f"{count} {names.get(what, what)}" for what, count in report.taken.items())
        column.addWidget(Label(f"{name}\nTaken over: {taken}."))
        self.table = QTreeWidget()
        self.table.setHeaderLabels(["What", "Count", "Why"])
        for heading, rows in (("Approximated", report.approximated), ("Left out", report.left_out)):
            if not rows:
                continue
            top = QTreeWidgetItem([heading, str(len(rows)), ""])
            self.table.addTopLevelItem(top)
            groups: dict[tuple[str, str], list[tuple[str, str, str, str]]] = {}
            for row in rows:
                groups.setdefault((row[1], row[3]), []).append(row)
            for (kind, why), group in sorted(groups.items()):
                branch = QTreeWidgetItem([kind, str(len(group)), why])
                top.addChild(branch)
                for guid, _, thing, _ in group[:500]:
                    branch.addChild(QTreeWidgetItem([thing or "(no name)", "", guid]))
            top.setExpanded(True)
        self.table.setColumnWidth(0, 240)
        self.table.setColumnWidth(1, 60)
        column.addWidget(self.table, 1)
        buttons = QDialogButtonBox()
        buttons.addButton("Close", QDialogButtonBox.ButtonRole.RejectRole)
        buttons.rejected.connect(self.reject)
        column.addWidget(buttons)
