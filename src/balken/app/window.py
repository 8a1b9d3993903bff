"""The main window: stages above, height strip left, canvas in the middle, card right, tables below."""

from functools import partial

from PySide6.QtCore import QSettings, Qt
from PySide6.QtGui import QAction, QCloseEvent, QCursor, QKeySequence
from PySide6.QtWidgets import (
    QButtonGroup,
    QComboBox,
    QHBoxLayout,
    QMainWindow,
    QMenu,
    QSplitter,
    QStackedWidget,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from balken.app.canvas import TOOLS, PlanCanvas
from balken.app.card import CardView
from balken.app.dialogs import LevelDialog, UnitsDialog
from balken.app.files import Files
from balken.app.framing_view import FramingView
from balken.app.guarded import guard_overrides
from balken.app.height_strip import HeightStrip
from balken.app.pads_dialog import PadsDialog
from balken.app.plain import Label
from balken.app.selecting import Selecting
from balken.app.set_out_dialogs import ColumnsDialog, GridDialog
from balken.app.sheet_view import SheetView
from balken.app.shell import Deeds
from balken.app.slope_dialog import SlopeDialog
from balken.app.space import SpaceView
from balken.app.tables import BottomPanel
from balken.app.views import Views
from balken.app.work import WorkBar
from balken.documents.plan import PlanOf
from balken.model import edits
from balken.model.errors import EditError
from balken.model.records import Project
from balken.model.unit_defaults import is_bare
from balken.panel.card_content import card
from balken.panel.card_parts import Card
from balken.panel.commands import BY_NAME, COMMANDS, MENUS, SELECT, WALLS
from balken.panel.drafts import MAKERS, Draft
from balken.panel.stages import STAGES, Stage, plan_of
from balken.panel.tool_card import opening_card, wall_tool_card
from balken.session.session import Session
from balken.session.tool_settings import Settings
from balken.units import Units


def _keys(text: str) -> QKeySequence | QKeySequence.StandardKey:
    """Return the keys of a command: typed out, or a standard one by its name in angle brackets."""
    return QKeySequence.StandardKey[text.strip("<>")] if text.startswith("<") else QKeySequence(text)


class MainWindow(QMainWindow):
    """Puts the parts together: what they do with files, with the selection and with views stands in those."""

    def __init__(self, session: Session, layout_store: QSettings | None = None) -> None:
        guard_overrides()
        super().__init__()
        self.session = session
        self.layout_store = layout_store
        self.settings = Settings.fresh()
        self.stage: Stage = STAGES[0]
        self.check_part = "floors"
        self.draft: Draft | None = None
        self.canvas = PlanCanvas(session, self.settings)
        self.canvas.what = self.what
        self.space = SpaceView(session, lambda: self.canvas.tool)
        self.framing = FramingView(session)
        self.sheets = SheetView(session)
        self.strip = HeightStrip(session)
        self.card = CardView(session, self._card)
        self.work = WorkBar()
        self.bottom = BottomPanel(session, lambda finding: self.views.show_finding(finding))
        self.views = Views(self)
        self.files = Files(self, self.views)
        self.selecting = Selecting(self)
        self._build()
        self._menus()
        self.deeds = self._deeds()
        session.changed.connect(self._after_edit)
        session.selection_changed.connect(self._selection_changed)
        session.storey_changed.connect(self.card.rebuild)
        session.file_changed.connect(self._title)
        session.kept_changed.connect(self._kept)
        session.message.connect(self.say)
        self.canvas.hint.connect(self._hint)
        self.canvas.tool_changed.connect(self._tool_changed)
        self.work.finished.connect(self.files.written)
        self.set_stage(0)
        self._after_edit()
        self.resize(1280, 800)
        self._restore_layout()
        self.bottom.lay()
        self.canvas.setFocus()

    # Building ------------------------------------------------------------------------------------

    def _build(self) -> None:
        top = QWidget()
        row = QHBoxLayout(top)
        row.setContentsMargins(8, 2, 8, 0)
        row.setSpacing(0)
        self.name_label = Label()
        self.name_label.setObjectName("projectName")
        row.addWidget(self.name_label)
        row.addStretch(1)
        self.stage_buttons: list[QToolButton] = []
        group = QButtonGroup(self)
        for i, stage in enumerate(STAGES):
            button = QToolButton()
            button.setObjectName("stage")
            button.setText(f"{i + 1} {stage.title}")
            button.setCheckable(True)
            button.setFocusPolicy(Qt.FocusPolicy.TabFocus)
            button.setShortcut(QKeySequence(f"Ctrl+{i + 1}"))
            button.clicked.connect(lambda checked=False, i=i: self.set_stage(i))
            group.addButton(button)
            row.addWidget(button)
            self.stage_buttons.append(button)
        self._build_tool_row()
        self._build_panes()
        body = QWidget()
        column = QVBoxLayout(body)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(top)
        column.addWidget(self.tool_row)
        column.addWidget(self.down, 1)
        self.setCentralWidget(body)
        self.hint_label = Label()
        self.hint_label.setObjectName("hint")
        self.statusBar().addWidget(self.hint_label, 1)
        self.kept_label = Label()
        self.kept_label.setObjectName("warning")
        self.kept_label.hide()
        self.statusBar().addPermanentWidget(self.kept_label)
        self.statusBar().addPermanentWidget(self.work)
        self.views.show_view("plan")

    def _build_tool_row(self) -> None:
        self.tool_row = QWidget()
        self.tool_layout = QHBoxLayout(self.tool_row)
        self.tool_layout.setContentsMargins(8, 4, 8, 4)
        self.tool_layout.setSpacing(5)
        self.tool_buttons: dict[str, QToolButton] = {}
        self.units_box = QComboBox()
        self.units_box.addItem("feet and inches", Units.IMPERIAL.value)
        self.units_box.addItem("millimetres", Units.METRIC.value)
        self.units_box.setAccessibleName("Units")
        self.units_box.activated.connect(self._units_chosen)
        self.view_buttons: dict[str, QToolButton] = {}
        views = QButtonGroup(self)
        for key, label in (("plan", "Plan"), ("both", "Both"), ("space", "3-D"), ("framing", "Framing")):
            button = self._tool_button(label, "What the middle shows")
            button.setCheckable(True)
            button.clicked.connect(lambda checked=False, key=key: self.views.show_view(key))
            views.addButton(button)
            self.view_buttons[key] = button

    def _build_panes(self) -> None:
        """The height strip, the middle and the card side by side, what lists things below them."""
        self.middle = QSplitter(Qt.Orientation.Horizontal)
        self.middle.addWidget(self.canvas)
        self.middle.addWidget(self.space)
        self.middle.addWidget(self.framing)
        self.stack = QStackedWidget()
        self.stack.addWidget(self.middle)
        self.stack.addWidget(self.sheets)
        self.across = QSplitter(Qt.Orientation.Horizontal)
        for widget, stretch in ((self.strip, 0), (self.stack, 1), (self.card, 0)):
            self.across.addWidget(widget)
            self.across.setStretchFactor(self.across.count() - 1, stretch)
        self.across.setSizes([250, 690, 340])
        self.down = QSplitter(Qt.Orientation.Vertical)
        self.down.addWidget(self.across)
        self.down.addWidget(self.bottom)
        self.down.setStretchFactor(0, 1)
        self.down.setSizes([540, 170])

    def _add_columns(self) -> None:
        """Ask for columns at crossings; of a project without a grid say what to do first."""
        if not self.session.project.grids:
            self.say("Columns stand at crossings of axes: lay a grid first (Lay grid).", True)
            return
        ColumnsDialog(self, self.session).exec()

    def _kept(self) -> None:
        """Say, for as long as it is so, that unsaved work is not kept."""
        self.kept_label.setText(self.session.not_kept)
        self.kept_label.setVisible(bool(self.session.not_kept))

    def _tool_button(self, label: str, tip: str) -> QToolButton:
        button = QToolButton()
        button.setObjectName("tool")
        button.setText(label)
        button.setToolTip(tip)
        button.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        return button

    def _fill_tools(self) -> None:
        while self.tool_layout.count():
            item = self.tool_layout.takeAt(0)
            widget = item.widget() if item else None
            if widget is not None and widget not in (self.units_box, *self.view_buttons.values()):
                widget.hide()
                widget.deleteLater()
        self.tool_buttons = {}
        for command in (BY_NAME[name] for name in self.stage.tools):
            button = self._tool_button(command.row, command.tip)
            if command.tool:
                button.setCheckable(True)
                button.setChecked(command.tool == self.canvas.tool.name)
            button.clicked.connect(lambda checked=False, name=command.name: self.deeds[name]())
            self.tool_layout.addWidget(button)
            self.tool_buttons[command.row] = button
        self.tool_layout.addStretch(1)
        self.tool_layout.addWidget(self.units_box)
        sheets = self.stage.name == "sheets"
        for button in self.view_buttons.values():
            self.tool_layout.addWidget(button)
            button.setVisible(not sheets)

    def _deeds(self) -> Deeds:
        """Return what runs each command."""
        own: Deeds = {
            "quit": self.close,
            "undo": self.session.undo,
            "redo": self.session.redo,
            "delete": self.canvas.delete_selected,
            "region": lambda: self.use_tool("region"),
            "add_level": lambda: LevelDialog(self, self.session).exec(),
            "add_grid": self.lay_grid,
            "add_columns": self._add_columns,
            "slope_footing": lambda: SlopeDialog(self, self.session).exec(),
            "add_pads": lambda: PadsDialog(self, self.session).exec(),
            "walls_menu": lambda: self.menus[WALLS].popup(QCursor.pos()),
        }
        own |= {name: partial(self.start_draft, name) for name in MAKERS}
        own |= {c.name: partial(self.use_tool, c.tool) for c in COMMANDS if c.tool}
        return own | self.files.deeds() | self.selecting.deeds() | self.views.deeds()

    def _menus(self) -> None:
        self.menus: dict[str, QMenu] = {}
        for place in MENUS:
            above, _, label = place.rpartition(" > ")
            self.menus[place] = (self.menus[above] if above else self.menuBar()).addMenu(label)
        self.actions_by_name: dict[str, QAction] = {}
        for command in COMMANDS:
            if not command.menu:
                continue
            action = QAction(command.label, self)
            if command.keys:
                action.setShortcut(_keys(command.keys))
            action.triggered.connect(lambda checked=False, name=command.name: self.deeds[name]())
            self.menus[command.menu].addAction(action)
            self.actions_by_name[command.name] = action
        boxes = QAction("Boxes take only what lies wholly &inside", self)
        boxes.setCheckable(True)
        boxes.toggled.connect(lambda on: setattr(self.settings, "box_inside", on))
        self.menus[SELECT].addAction(boxes)
        self.actions_by_name["box_inside"] = boxes

    # What the parts ask for ------------------------------------------------------------------------

    def what(self) -> PlanOf | None:
        """Return the plan that is shown."""
        return plan_of(self.stage, self.session.storey, self.check_part)

    def _card(self) -> Card:
        if self.draft is not None:
            return self.draft.card()
        tool = self.canvas.tool.name
        if tool in ("walls", "rectangle"):
            return wall_tool_card(self.session, self.settings, self.card.rebuild)
        if tool == "opening":
            return opening_card(self.session, self.settings, self.card.rebuild)
        return card(self.session, self.stage.name, self.place, self._show_calculation)

    def _show_calculation(self, ref: str) -> None:
        self.views.show_calculation(ref, self.files.write_calculation)

    @property
    def itself(self) -> QWidget:
        """The widget that dialogs belong to."""
        return self

    @property
    def said(self) -> str:
        """What the status line says."""
        return self.hint_label.text()

    # Stages, views, tools ----------------------------------------------------------------------------

    def set_stage(self, index: int) -> None:
        """Go to a stage."""
        self._drop_draft()
        self.stage = STAGES[index]
        self.stage_buttons[index].setChecked(True)
        self.canvas.use_tool("select")
        self.framing.show_foundations(self.stage.name == "foundations")
        self.view_buttons["framing"].setText("Elevation" if self.stage.name == "foundations" else "Framing")
        self.canvas.bright = self.stage.bright if self.stage.name != "check" else None
        self._fill_tools()
        sheets = self.stage.name == "sheets"
        self.stack.setCurrentIndex(1 if sheets else 0)
        if sheets:
            self._hint(
                "Choose a sheet from the list below it, or Page Up and Page Down. Right-drag pans, the wheel zooms."
            )
        else:
            self.canvas.refresh()
            if not self.canvas.moved:
                self.canvas.fit()
        self.card.rebuild()

    def use_tool(self, name: str) -> None:
        """Take up a canvas tool."""
        self._drop_draft()
        if name != "select":
            self.session.select([])
            if not self.canvas.isVisible() and not (TOOLS[name].in_space and self.space.isVisible()):
                self.views.show_view("plan")
        self.canvas.use_tool(name)
        self.canvas.setFocus()

    def _tool_changed(self, name: str) -> None:
        for command in (BY_NAME[tool] for tool in self.stage.tools):
            if command.tool and command.row in self.tool_buttons:
                self.tool_buttons[command.row].setChecked(command.tool == name)
        self.card.rebuild()
        self.space.picture.update()  # marks of what is in hand

    def lay_grid(self) -> None:
        """Type a grid; where asked for, go on to place it by two points."""
        dialog = GridDialog(self, self.session)
        if dialog.exec() and dialog.by_points.isChecked():
            self.place("place grid", dialog.made)

    def place(self, tool: str, thing: str) -> None:
        """Place a grid or a base drawing by two points."""
        self.settings.placing = thing
        self.use_tool(tool)

    def start_draft(self, maker: str) -> None:
        """Begin a layout; its form opens in the card and the views show it dashed."""
        self.canvas.use_tool("select")
        try:
            record = MAKERS[maker](self.session)
        except EditError as error:
            self.say(str(error), True)
            self.card.tell(str(error))
            return
        self.session.select([])
        self.draft = Draft(self.session, record, self._draft_done, self.card.rebuild)
        self.card.rebuild()
        if self.draft is not None and self.draft.problem:
            self.card.tell(self.draft.problem)

    def _draft_done(self) -> None:
        self.draft = None
        self.card.rebuild()

    def _drop_draft(self) -> None:
        if self.draft is not None:
            self.draft = None
            self.session.try_out(None)

    # News --------------------------------------------------------------------------------------------

    def _after_edit(self) -> None:
        self._title()
        self.units_box.setCurrentIndex(0 if self.session.project.units is Units.IMPERIAL else 1)
        self.settings.fit(self.session.project.steps)
        counts: dict[str, int] = {}
        for finding in self.session.model.findings:
            counts[finding.stage] = counts.get(finding.stage, 0) + 1
        for i, (button, stage) in enumerate(zip(self.stage_buttons, STAGES, strict=True)):
            count = counts.get(stage.name, 0)
            button.setText(f"{i + 1} {stage.title}" + (f"  \u2691{count}" if count else ""))
            button.setToolTip(f"{count} findings" if count else stage.title)
        undo, redo = self.session.undo_label, self.session.redo_label
        self.actions_by_name["undo"].setText(f"&Undo {undo.lower()}" if undo else "&Undo")
        self.actions_by_name["undo"].setEnabled(bool(undo))
        self.actions_by_name["redo"].setText(f"&Redo {redo.lower()}" if redo else "&Redo")
        self.actions_by_name["redo"].setEnabled(bool(redo))
        self.card.rebuild()

    def _selection_changed(self) -> None:
        if self.session.selection:
            self._drop_draft()
            self.views.go_to_storey(self.session.selection)
        self.card.rebuild()

    def _title(self) -> None:
        star = "*" if self.session.dirty else ""
        name = self.session.project.name
        self.name_label.setText(name + star)
        where = f" \u2013 {self.session.path.name}" if self.session.path else ""
        self.setWindowTitle(f"{name}{star}{where} \u2013 Balken")

    def say(self, text: str, wrong: bool) -> None:
        """Show a text in the status line."""
        self.hint_label.setStyleSheet("color: #A82A10;" if wrong else "")
        self.hint_label.setText(text)

    def _hint(self, text: str) -> None:
        self.say(text, False)

    def _units_chosen(self, index: int) -> None:
        units = Units(self.units_box.itemData(index))
        if units is self.session.project.units:
            return
        bare, steps = is_bare(self.session.project), False
        if not bare:
            asked = UnitsDialog(self, units)
            if not asked.exec():
                self.units_box.setCurrentIndex(0 if self.session.project.units is Units.IMPERIAL else 1)
                return
            steps = asked.steps

        def edit(p: Project) -> Project:
            shown = edits.set_units(p, units)
            return edits.set_project(shown, steps=units) if steps else shown

        if self.session.apply("Change units", edit):
            noun = "millimetres" if units is Units.METRIC else "feet and inches"
            said = f"Shown in {noun}; sizes, steps and loads stay as they are."
            if steps:
                said = f"Shown in {noun}; sizes left to Balken come in steps of them."
            if bare:
                said = f"In {noun}: steps, loads and all that is made from now on begin with round figures of them."
            self.say(said, False)

    # Layout ----------------------------------------------------------------------------------------------

    def _restore_layout(self) -> None:
        if self.layout_store is None:
            return
        for name, restore in (
            ("window", self.restoreGeometry),
            ("across", self.across.restoreState),
            ("down", self.down.restoreState),
        ):
            value = self.layout_store.value(name)
            if value is not None:
                restore(value)

    def closeEvent(self, event: QCloseEvent) -> None:
        if not self.files.may_leave():
            event.ignore()
            return
        self.work.wait()
        if self.layout_store is not None:
            self.layout_store.setValue("window", self.saveGeometry())
            self.layout_store.setValue("across", self.across.saveState())
            self.layout_store.setValue("down", self.down.saveState())
        if self.session.journal is not None:
            self.session.journal.close()
        event.accept()
