"""The tables below the canvas: findings, members, cut list, load path."""

from collections.abc import Callable, Sequence
from typing import Any

from PySide6.QtCore import QAbstractTableModel, QItemSelectionModel, QObject, QSortFilterProxyModel, Qt
from PySide6.QtGui import QColor, QGuiApplication
from PySide6.QtWidgets import (
    QHBoxLayout,
    QHeaderView,
    QPushButton,
    QSplitter,
    QTableView,
    QTabWidget,
    QVBoxLayout,
    QWidget,
)

from balken.app.plain import Label
from balken.app.trial_button import TrialButton
from balken.derived.finding import Finding
from balken.design.not_checked import EMPTY
from balken.documents.lists import CUTS, LISTS, LOAD_PATH, MEMBERS, ListOf
from balken.documents.quantity_lists import GROUND_LISTS
from balken.documents.schedule import totals
from balken.mending import run_fix
from balken.session.session import Edit, Session
from balken.units import Units


class RowsModel(QAbstractTableModel):
    """Rows of plain values; column 0 of ``keys`` says what a row stands for."""

    def __init__(self, headings: Sequence[str], parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.headings = list(headings)
        self.rows: list[tuple[Any, ...]] = []
        self.keys: list[tuple[str, ...]] = []
        self.warn: Callable[[int], bool] = lambda row: False

    def put(self, rows: list[tuple[Any, ...]], keys: list[tuple[str, ...]]) -> None:
        """Show other rows."""
        if rows == self.rows and keys == self.keys:
            return
        self.beginResetModel()
        self.rows, self.keys = rows, keys
        self.endResetModel()

    def rowCount(self, parent: Any = None) -> int:
        return len(self.rows)

    def columnCount(self, parent: Any = None) -> int:
        return len(self.headings)

    def data(self, index: Any, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        value = self.rows[index.row()][index.column()]
        if role == Qt.ItemDataRole.DisplayRole:
            return value[1] if isinstance(value, tuple) else value
        if role == Qt.ItemDataRole.UserRole:
            return value[0] if isinstance(value, tuple) else value
        sorted_by = value[0] if isinstance(value, tuple) else value
        if role == Qt.ItemDataRole.TextAlignmentRole and isinstance(sorted_by, int | float):
            return int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        if role == Qt.ItemDataRole.ForegroundRole and self.warn(index.row()):
            return QColor("#A82A10")
        if role == Qt.ItemDataRole.ToolTipRole and isinstance(value, str) and len(value) > 40:
            return value  # more than a column may show
        return None

    def headerData(self, section: int, orientation: Any, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if role == Qt.ItemDataRole.DisplayRole and orientation == Qt.Orientation.Horizontal:
            return self.headings[section]
        return None


class Table(QTableView):
    """A sortable table whose rows select things in every view."""

    def __init__(self, session: Session, headings: Sequence[str], stretch: int) -> None:
        super().__init__()
        self.session = session
        self.rows_model = RowsModel(headings, self)
        self.sorting = QSortFilterProxyModel(self)
        self.sorting.setSourceModel(self.rows_model)
        self.sorting.setSortRole(Qt.ItemDataRole.UserRole)
        self.setModel(self.sorting)
        self.setSortingEnabled(True)
        self.sortByColumn(-1, Qt.SortOrder.AscendingOrder)
        self.setSelectionBehavior(QTableView.SelectionBehavior.SelectRows)
        self.setAlternatingRowColors(True)
        self.setShowGrid(False)
        self.verticalHeader().hide()
        self.verticalHeader().setDefaultSectionSize(23)
        self.setEditTriggers(QTableView.EditTrigger.NoEditTriggers)
        self.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Interactive)
        self.horizontalHeader().setSectionResizeMode(stretch, QHeaderView.ResizeMode.Stretch)
        self.horizontalHeader().setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        self._quiet = False
        self.selectionModel().selectionChanged.connect(self._chosen)
        session.selection_changed.connect(self.mirror)

    def put(self, rows: list[tuple[Any, ...]], keys: list[tuple[str, ...]]) -> None:
        """Show other rows and mark what is selected."""
        first = not self.rows_model.rows
        self._quiet = True
        self.rows_model.put(rows, keys)
        self._quiet = False
        if first and rows:
            self.resizeColumnsToContents()
        self.mirror()

    def _chosen(self) -> None:
        if self._quiet:
            return
        chosen: list[str] = []
        for index in self.selectionModel().selectedRows():
            chosen += self.rows_model.keys[self.sorting.mapToSource(index).row()]
        if chosen:
            self._quiet = True
            self.session.select(chosen)
            self._quiet = False

    def mirror(self) -> None:
        """Mark the rows of what is selected elsewhere."""
        if self._quiet:
            return
        self._quiet = True
        wanted = set(self.session.selection)
        model = self.selectionModel()
        model.clearSelection()
        first: Any = None
        flags = QItemSelectionModel.SelectionFlag.Select | QItemSelectionModel.SelectionFlag.Rows
        for row, keys in enumerate(self.rows_model.keys):
            if wanted and wanted.intersection(keys):
                index = self.sorting.mapFromSource(self.rows_model.index(row, 0))
                model.select(index, flags)
                first = first or index
        if first is not None:
            self.scrollTo(first, QTableView.ScrollHint.PositionAtCenter)
        self._quiet = False


class FindingsPanel(QWidget):
    """Findings with their reasons; one click applies the fix of the row chosen."""

    def __init__(self, session: Session, show_place: Callable[[Finding], None]) -> None:
        super().__init__()
        self.session, self.show_place = session, show_place
        self.findings: tuple[Finding, ...] = ()
        self.table = Table(session, ("", "Finding", "Why", "Fix"), 2)
        self.table.rows_model.warn = lambda row: self.findings[row].grave
        self.table.setWordWrap(True)
        self.fix = TrialButton("Apply fix", session, self._edit_of_fix)
        self.fix.setObjectName("primary")
        self.fix.setEnabled(False)
        self.fix.clicked.connect(self.apply_fix)
        self.empty = Label()
        self.empty.setObjectName("hint")
        self.empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        foot = QHBoxLayout()
        self.alike = QPushButton("Fix all alike")
        self.alike.setToolTip("Apply the fix of every finding of this kind, as one step of undo")
        self.alike.clicked.connect(self.fix_alike)
        self.why = Label()
        self.why.setWordWrap(True)
        self.why.setIndent(6)
        self.why.setAccessibleName("Why")
        foot.addWidget(self.empty, 1)
        foot.addWidget(self.why, 1)
        foot.addWidget(self.alike)
        foot.addWidget(self.fix)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 6, 4)
        column.addWidget(self.table, 1)
        column.addLayout(foot)
        self.table.selectionModel().selectionChanged.connect(self._row_chosen)
        self.table.doubleClicked.connect(lambda: self.apply_fix())
        session.changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Show the model's findings."""
        self.findings = self.session.model.findings
        rows = [("!" if f.grave else "-", f.what, f.why, f.fix.label if f.fix else "") for f in self.findings]
        self.table.put(rows, [f.things for f in self.findings])
        made = any(self.session.model.groups)
        self.empty.setText(
            EMPTY if made else "Findings stand here: what does not fit, bear or stand, why, and the fix."
        )
        self.empty.setVisible(not rows)
        self.table.setVisible(bool(rows))
        self.fix.setVisible(bool(rows))
        if rows:
            self.table.setColumnWidth(1, 330)
            self.table.setColumnWidth(3, 230)
        self._row_chosen()

    def chosen(self) -> list[Finding]:
        """Return the findings chosen."""
        rows = self.table.selectionModel().selectedRows()
        return [self.findings[self.table.sorting.mapToSource(row).row()] for row in rows]

    def current(self) -> Finding | None:
        """Return the finding chosen, when it is one alone."""
        chosen = self.chosen()
        return chosen[0] if len(chosen) == 1 else None

    def _alike(self) -> list[Finding]:
        """Return the findings of the kind chosen that have a fix; none when several kinds are chosen."""
        codes = {f.code for f in self.chosen()}
        return [f for f in self.findings if f.fix is not None and codes == {f.code}]

    def _row_chosen(self) -> None:
        finding = self.current()
        alike = self._alike()
        self.alike.setVisible(len(alike) > 1)
        self.alike.setText(f"Fix all {len(alike)} alike")
        self.why.setVisible(bool(self.findings))
        self.why.setText(finding.why if finding is not None else "")
        self.fix.setEnabled(finding is not None and finding.fix is not None)
        self.fix.setText(finding.fix.label if finding is not None and finding.fix is not None else "Apply fix")
        if finding is not None and not self.table._quiet:
            self.show_place(finding)

    def fix_alike(self) -> None:
        """Apply the fixes of all findings of the kind chosen."""
        alike = self._alike()
        if not alike:
            return
        QGuiApplication.setOverrideCursor(Qt.CursorShape.WaitCursor)
        try:
            self.session.mend_alike(alike[0])
        finally:
            QGuiApplication.restoreOverrideCursor()

    def _edit_of_fix(self) -> Edit | None:
        finding = self.current()
        fix = finding.fix if finding is not None else None
        return None if fix is None else lambda p: run_fix(p, fix)

    def apply_fix(self) -> None:
        """Apply the fix of the finding chosen."""
        finding = self.current()
        if finding is not None and finding.fix is not None:
            self.session.run_fix(finding.fix)


UNBOUNDED = 16_777_215
"""The height that Qt takes for no limit."""
LEAST_TALL, USUAL_TALL = 120, 170
"""The panel opens no lower than the first, and as tall as the second where it was never another."""


class BottomPanel(QTabWidget):
    """Findings, members, cut list, load path, quantities and bars, refreshed only while shown."""

    def __init__(self, session: Session, show_place: Callable[[Finding], None]) -> None:
        super().__init__()
        self.session = session
        self.findings = FindingsPanel(session, show_place)
        self.lists = {what.title: (what, self._table_of(what)) for what in (*LISTS, *GROUND_LISTS)}
        self.members, self.cuts, self.path = (self.lists[what.title][1] for what in LISTS)
        self.sums = Label()
        self.sums.setObjectName("hint")
        cut_page = QWidget()
        column = QVBoxLayout(cut_page)
        column.setContentsMargins(0, 0, 0, 4)
        column.addWidget(self.cuts, 1)
        column.addWidget(self.sums)
        for page, name in (
            (self.findings, "Findings"),
            (self.members, MEMBERS.title),
            (cut_page, CUTS.title),
            (self.path, LOAD_PATH.title),
            *((self.lists[what.title][1], what.title) for what in GROUND_LISTS),
        ):
            self.addTab(page, name)
        self._known: dict[tuple[str, Units], dict[Any, tuple[Any, ...]]] = {}
        """Cells of the table in front by its rows."""
        self.folded = self._by_hand = False
        self._tall = USUAL_TALL
        self.told = Label()
        self.told.setObjectName("hint")
        self.told.hide()
        self.setCornerWidget(self.told, Qt.Corner.TopRightCorner)
        self.tabBarClicked.connect(self._clicked)
        self.currentChanged.connect(lambda index: self.fold(False) if index else None)
        self.currentChanged.connect(self.refresh)
        session.changed.connect(self.refresh)
        self.refresh()

    def fold(self, on: bool) -> None:
        """Fold to the line of tabs, or back to the height it had."""
        if on == self.folded:
            return
        splitter = self.parentWidget()
        if on and isinstance(splitter, QSplitter) and splitter.sizes()[-1] >= LEAST_TALL:
            self._tall = splitter.sizes()[-1]
        self.folded = on
        self.setMaximumHeight(self.tabBar().sizeHint().height() + 4 if on else UNBOUNDED)
        quiet = on and any(self.session.model.groups) and not self.session.model.findings
        self.told.setText(f"No findings. {EMPTY.splitlines()[1]}  " if quiet else "")
        self.told.setVisible(on)
        self.lay()

    def lay(self) -> None:
        """Take the room that it needs of the splitter it stands in: its line of tabs, or the height it had."""
        splitter = self.parentWidget()
        if isinstance(splitter, QSplitter):
            tall = self.maximumHeight() if self.folded else self._tall
            splitter.setSizes([max(sum(splitter.sizes()) - tall, 0), tall])

    def _clicked(self, index: int) -> None:
        """A click on the tab in front folds the panel or opens it; on any other opens it."""
        self._by_hand = True
        self.fold(not self.folded if index == self.currentIndex() else False)

    def _fold_by_itself(self, findings: int) -> None:
        """Fold when there is nothing to say, open when there is; what was done by a click stays until there are findings."""
        if findings:
            if self.folded and not self._by_hand:
                self.fold(False)
            self._by_hand = self._by_hand and self.folded
        elif self.currentIndex() == 0 and not self._by_hand:
            self.fold(True)

    def refresh(self) -> None:
        """Show the model in the tab in front."""
        count = len(self.session.model.findings)
        self.setTabText(0, f"Findings ({count})")
        self._fold_by_itself(count)
        title = self.tabText(self.currentIndex())
        if title in self.lists:
            what, table = self.lists[title]
            units, rows = self.session.project.units, what.rows(self.session.model)
            table.put(self._cells_of(what, rows, units), [what.refs(row) for row in rows])
            if what is CUTS:
                self._sums(sum(row.count for row in rows))

    def _cells_of(self, what: ListOf, rows: list[Any], units: Units) -> list[tuple[Any, ...]]:
        """Return the cells of rows; those of rows that were there already are not written anew."""
        shown, known = what.shown, self._known.get((what.title, units), {})
        made = {row: known.get(row) or tuple(column.cell(row, units) for column in shown) for row in rows}
        self._known = {(what.title, units): made}
        return [made[row] for row in rows]

    def _table_of(self, what: ListOf) -> Table:
        headings = tuple(column.shown for column in what.shown)
        return Table(self.session, headings, headings.index(what.widest))

    def _sums(self, members: int) -> None:
        t = totals(self.session.model)
        self.sums.setText(
            f"  {members} members, {t.board_feet:,.0f} board feet, $ {t.cost:,.2f}; "
            f"concrete {t.concrete / 0.764555:,.1f} yd\u00b3 ({t.concrete:,.2f} m\u00b3)"
        )
