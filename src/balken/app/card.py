"""The card: shows a card's content as a form and hands typed values to the session."""

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QRectF, QSize, Qt, QTimer
from PySide6.QtGui import QColor, QKeyEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import (
    QComboBox,
    QFormLayout,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from balken.app.picture import PictureView, icon_of
from balken.app.plain import Label, tip
from balken.app.trial_button import TrialButton
from balken.documents.style import FILLS, INK, used_fill
from balken.model.errors import EditError
from balken.panel.card_parts import Button, Card, Entry, Fact, Note, Part, Picture, Rows, Used, frame, looks, take_deeds
from balken.session.session import Session
from balken.standards.checks import used_text
from balken.units import UnitError

DIFFERS = "differs"
ICON = QSize(54, 24)
"""Of small drawings beside choices."""
TABLE = 306
"""So wide is a card in a window as it first opens, less its margins, px."""
PAUSE = 30
"""After a pause in typing of at least this (ms), and as long as the last derivation took, what is typed so far is tried out."""


class UsedBar(QWidget):
    """A bar from 0 to 120 % with a mark at 100 %, the figure beside it."""

    def __init__(self, used: float) -> None:
        super().__init__()
        self.used = used
        self.setFixedHeight(20)
        self.setAccessibleName(f"used {used_text(used)}")

    def show_used(self, used: float) -> None:
        """Show another value."""
        self.used = used
        self.setAccessibleName(f"used {used_text(used)}")
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(160, 20)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        wide = self.width() - 52.0
        full = wide / 1.2
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor("#E7E0D2"))
        painter.drawRect(QRectF(0.0, 4.0, wide, 12.0))
        painter.setBrush(QColor(FILLS[used_fill(self.used)]))
        painter.drawRect(QRectF(0.0, 4.0, min(self.used, 1.2) * full, 12.0))
        painter.setPen(QPen(QColor(INK), 1.4))
        painter.drawLine(int(full), 2, int(full), 18)
        font = painter.font()
        font.setBold(True)
        painter.setFont(font)
        painter.drawText(QRectF(wide + 6.0, 0.0, 46.0, 20.0), int(Qt.AlignmentFlag.AlignVCenter), used_text(self.used))


class EntryLine(QLineEdit):
    """The field of an entry; Escape brings back what it showed."""

    def __init__(self, entry: Entry) -> None:
        super().__init__(entry.value or "")
        self.entry = entry
        self.setCursorPosition(0)
        self.setPlaceholderText(DIFFERS if entry.value is None else entry.hint)
        if entry.hint:
            self.setToolTip(tip(entry.hint))

    @property
    def changed(self) -> bool:
        """Whether something else is typed than its entry says."""
        return self.isModified() and self.text() != (self.entry.value or "")

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape and self.changed:
            self.setText(self.entry.value or "")
            self.textEdited.emit(self.text())
        else:
            super().keyPressEvent(event)


class CardView(QScrollArea):
    """Shows one card; rebuilt when its content changes, keeping the keyboard where it was."""

    def __init__(self, session: Session, content: Callable[[], Card]) -> None:
        super().__init__()
        self.session, self.content = session, content
        self.setWidgetResizable(True)
        self.setMinimumWidth(300)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.entries: dict[str, QLineEdit | QComboBox] = {}
        self.buttons: dict[str, TrialButton] = {}
        self.problem: QLabel | None = None
        self.shown: Card | None = None
        self._titles: tuple[QLabel, QLabel] = (Label(), Label())
        self._fill: list[Callable[[Any], None]] = []
        """For each part of the card shown, what shows a new value of it."""
        self._error = ""
        self._typed: EntryLine | None = None
        """The field that is being typed into, and what it would make is not yet shown."""
        self._pause = QTimer(self)
        self._pause.setSingleShot(True)
        self._tried = False
        """Whether what was typed last is shown dashed."""
        self._pause.timeout.connect(self._try_typed)
        session.message.connect(self._note_error)

    def _note_error(self, text: str, wrong: bool) -> None:
        self._error = text if wrong else ""

    def rebuild(self) -> None:
        """Build the form from the content."""
        card = self.content()
        if self.shown is not None and self._untouched() and looks(self.shown) == looks(card):
            take_deeds(self.shown, card)
            return
        if self.shown is not None and self._untouched() and frame(self.shown) == frame(card):
            self._refill(card)
            return
        self._drop_trial()
        for button in self.buttons.values():
            button.drop_trial()
        self.shown = card
        focused = next((label for label, w in self.entries.items() if w.hasFocus()), None)
        scrolled = self.verticalScrollBar().value()
        self.entries, self.buttons = {}, {}
        body = QWidget()
        column = QVBoxLayout(body)
        column.setContentsMargins(12, 10, 12, 12)
        column.setSpacing(6)
        title = Label(card.title)
        title.setObjectName("cardTitle")
        title.setWordWrap(True)
        column.addWidget(title)
        sub = Label(card.sub)
        if card.sub:
            sub.setObjectName("cardSub")
            sub.setWordWrap(True)
            column.addWidget(sub)
        self._titles, self._fill = (title, sub), []
        self.problem = Label()
        self.problem.setObjectName("problem")
        self.problem.setWordWrap(True)
        self.problem.hide()
        column.addWidget(self.problem)
        form: QFormLayout | None = None
        for part in card.parts:
            if isinstance(part, Entry | Fact):
                if form is None:
                    form = QFormLayout()
                    form.setContentsMargins(0, 0, 0, 0)
                    form.setVerticalSpacing(4)
                    form.setRowWrapPolicy(QFormLayout.RowWrapPolicy.DontWrapRows)
                    form.setFieldGrowthPolicy(QFormLayout.FieldGrowthPolicy.AllNonFixedFieldsGrow)
                    column.addLayout(form)
                self._form_row(form, part)
                continue
            form = None
            self._block(column, part)
        column.addStretch(1)
        old = self.takeWidget()
        if old is not None:  # the field that was just typed into may still be telling its news
            old.hide()
            old.deleteLater()
        self.setWidget(body)
        self.verticalScrollBar().setValue(scrolled)
        if focused in self.entries:
            self.entries[focused].setFocus()

    def _refill(self, card: Card) -> None:
        """Show the values of a card of the same form in the fields that are there."""
        assert self.shown is not None
        for label, text in zip(self._titles, (card.title, card.sub), strict=True):
            label.setText(text)
        for fill, part, new in zip(self._fill, self.shown.parts, card.parts, strict=True):
            if part != new:
                fill(new)
            if (isinstance(part, Entry) and isinstance(new, Entry)) or (
                isinstance(part, Fact) and isinstance(new, Fact)
            ):
                part.value = new.value
            elif isinstance(part, Used) and isinstance(new, Used):
                part.used, part.note = new.used, new.note
            elif isinstance(part, Rows) and isinstance(new, Rows):
                part.rows = new.rows
            elif isinstance(part, Picture) and isinstance(new, Picture):
                part.drawn = new.drawn
        self.shown.title, self.shown.sub = card.title, card.sub
        take_deeds(self.shown, card)

    def _untouched(self) -> bool:
        """Whether every field shows what its entry says and no problem is told."""
        if self.problem is not None and not self.problem.isHidden():
            return False
        assert self.shown is not None
        parts = [part for part in self.shown.parts if isinstance(part, Entry)]
        for part, field in zip(parts, self.entries.values(), strict=True):
            if isinstance(field, QLineEdit):
                if field.text() != (part.value or "") or field.property("wrong"):
                    return False
            elif field.currentData() != part.value:
                return False
        return True

    def _form_row(self, form: QFormLayout, part: Entry | Fact) -> None:
        name = Label(part.label)
        if isinstance(part, Fact):
            value = Label(part.value)
            value.setWordWrap(True)
            value.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
            form.addRow(name, value)
            self._fill.append(lambda part: value.setText(part.value))
            return
        field = self._choice(part) if part.choices is not None else self._line(part)
        field.setAccessibleName(part.label)
        key = part.label
        while key in self.entries:
            key += "'"
        self.entries[key] = field
        name.setBuddy(field)
        form.addRow(name, field)
        self._fill.append(lambda part: _show(field, part.value))

    def _line(self, entry: Entry) -> EntryLine:
        line = EntryLine(entry)
        line.editingFinished.connect(lambda: self._commit(line))
        if entry.tried:
            line.textEdited.connect(lambda: self._wait(line))
        return line

    def _wait(self, line: EntryLine) -> None:
        if line.changed:
            self._typed = line
            self._pause.start(max(PAUSE, self.session.took))
        else:
            self._drop_trial()

    def _drop_trial(self) -> None:
        """Show nothing any more of what was typed."""
        self._typed = None
        if self._tried:
            self._tried = False
            self.session.try_out(None)

    def _try_typed(self) -> None:
        """Show dashed what the value typed so far would make; nothing while it cannot be."""
        line, self._typed = self._typed, None
        if line is None:
            return
        try:
            self._tried = self.session.try_out(line.entry.commit(line.text())) == ""
        except (UnitError, EditError):
            self._drop_trial()

    def _commit(self, line: EntryLine) -> None:
        self._typed = None
        if not line.changed:
            return
        line.setModified(False)
        made = self.put(line.entry, line.text())
        self._drop_trial()
        if not made:
            line.setProperty("wrong", True)
            line.style().unpolish(line)
            line.style().polish(line)

    def _choice(self, entry: Entry) -> QComboBox:
        box = QComboBox()
        box.setMinimumContentsLength(8)
        box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        values = [value for value, _ in entry.choices or []]
        if entry.value is None:
            box.addItem(entry.prompt or DIFFERS, None)
        for value, label in entry.choices or []:
            box.addItem(label, value)
            if value in entry.pictures:
                box.setIconSize(ICON)
                box.setItemIcon(box.count() - 1, icon_of(entry.pictures[value], ICON, self.devicePixelRatioF()))
        if entry.value in values:
            box.setCurrentIndex(values.index(entry.value))
        box.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        box.wheelEvent = lambda event: event.ignore()  # type: ignore[method-assign]
        box.activated.connect(lambda i: self.put(entry, box.itemData(i)) if box.itemData(i) is not None else None)
        return box

    def put(self, entry: Entry, typed: str) -> bool:
        """Hand a typed value on; when it cannot be, say why under the title."""
        self._error = ""
        try:
            edit = entry.commit(typed)
            done = self.session.apply(f"Change {entry.label.lower()}", edit)
        except (UnitError, EditError) as error:
            self.tell(str(error))
            return False
        if not done:
            self.tell(self._error)
        return done

    def tell(self, text: str) -> None:
        """Show a problem in the card."""
        if self.problem is not None:
            self.problem.setText(text)
            self.problem.setVisible(bool(text))
            self.ensureWidgetVisible(self.problem)

    def _block(self, column: QVBoxLayout, part: Part) -> None:
        if isinstance(part, str):
            heading = Label(part)
            heading.setObjectName("heading")
            column.addWidget(heading)
            self._fill.append(_nothing)
        elif isinstance(part, Note):
            text = Label(part.text)
            text.setObjectName("cardSub")
            text.setWordWrap(True)
            column.addWidget(text)
            self._fill.append(lambda new: text.setText(new.text))
        elif isinstance(part, Used):
            row = QHBoxLayout()
            name = Label(part.label)
            name.setMinimumWidth(60)
            row.addWidget(name)
            bar = UsedBar(part.used)
            row.addWidget(bar, 1)
            column.addLayout(row)
            note = Label(part.note)
            note.setObjectName("cardSub")
            note.setWordWrap(True)
            column.addWidget(note)

            def fill(new: Any) -> None:
                bar.show_used(new.used)
                note.setText(new.note)

            self._fill.append(fill)
        elif isinstance(part, Picture):
            view = PictureView(part)
            column.addWidget(view)
            self._fill.append(view.show_picture)
        elif isinstance(part, Rows):
            table, cells = _table(part)
            column.addWidget(table)
            self._fill.append(lambda new: _show_rows(cells, new))
        elif isinstance(part, Button):
            button = TrialButton(part.label, self.session, lambda: part.edit)
            if part.primary:
                button.setObjectName("primary")
            button.clicked.connect(lambda: self._press(part))
            self.buttons[part.label] = button
            column.addWidget(button)
            self._fill.append(_nothing)

    def _press(self, button: Button) -> None:
        if button.action is not None:
            button.action()
        elif button.edit is not None and not self.session.apply(button.label, button.edit):
            self.tell(self._error)


def _nothing(part: Any) -> None:
    """What has no value has nothing to show anew."""


def _show(field: QLineEdit | QComboBox, value: str) -> None:
    if isinstance(field, QComboBox):
        if value and field.findData(value) < 0:
            field.addItem(value, value)  # an entry that the project's own file brought along
        field.setCurrentIndex(max(field.findData(value), 0))
    else:
        field.setText(value or "")
        field.setCursorPosition(0)


def _show_rows(cells: list[list[QLabel]], part: Rows) -> None:
    for labels, row in zip(cells, part.rows, strict=True):
        for label, text in zip(labels, row, strict=True):
            label.setText(text)
    body = cells[0][0].parentWidget() if cells else None
    if body is not None:
        _fit(body, cells)


def _fit(body: QWidget, cells: list[list[QLabel]]) -> None:
    """Let the words of the last column go on to a second line where a table would be wider than its card."""
    for row in cells:
        if len(row) > 1:
            row[-1].setWordWrap(False)
    wide = body.minimumSizeHint().width()
    for row in cells:
        if len(row) > 1:
            row[-1].setWordWrap(wide > TABLE)


def _table(part: Rows) -> tuple[QWidget, list[list[QLabel]]]:
    """Return a small table, and the labels of its cells."""
    body = QWidget()
    grid = QGridLayout(body)
    grid.setContentsMargins(0, 0, 0, 0)
    grid.setHorizontalSpacing(10)
    grid.setVerticalSpacing(2)
    for j, heading in enumerate(part.headings):
        label = Label(heading)
        label.setObjectName("cardSub")
        grid.addWidget(label, 0, j)
    cells: list[list[QLabel]] = []
    for i, row in enumerate(part.rows, start=1):
        cells.append([])
        for j, value in enumerate(row):
            label = Label(value)
            label.setWordWrap(j == 0)
            label.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
            grid.addWidget(label, i, j, Qt.AlignmentFlag.AlignTop)
            cells[-1].append(label)
    grid.setColumnStretch(0, 1)
    _fit(body, cells)
    return body, cells
