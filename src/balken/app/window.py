"""The main window: stages above, height strip left, canvas in the middle, card right, tables below."""

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QSettings, Qt
from PySide6.QtGui import QAction, QCloseEvent, QCursor, QKeySequence
from PySide6.QtWidgets import (
    QButtonGroup,
    QComboBox,
    QHBoxLayout,
    QSplitter,
    QStackedWidget,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from balken.app.canvas import PlanCanvas
from balken.app.card import CardView
from balken.app.dialogs import LevelDialog
from balken.app.framing_view import FramingView
from balken.app.height_strip import HeightStrip
from balken.app.navigation import Navigation
from balken.app.pads_dialog import PadsDialog
from balken.app.plain import Label
from balken.app.set_out_dialogs import ColumnsDialog, GridDialog
from balken.app.sheet_view import SheetView
from balken.app.slope_dialog import SlopeDialog
from balken.app.space import SpaceView
from balken.app.tables import BottomPanel
from balken.app.work import WorkBar
from balken.documents.plan import PlanOf
from balken.model import edits
from balken.model.errors import EditError
from balken.panel.card_content import card
from balken.panel.card_parts import Card
from balken.panel.drafts import MAKERS, Draft
from balken.panel.stages import STAGES, Stage, plan_of
from balken.panel.tool_card import opening_card, wall_tool_card
from balken.session.session import Session
from balken.session.tool_settings import Settings
from balken.units import Units

Command = tuple[str, str, QKeySequence | QKeySequence.StandardKey | None, Callable[[], Any]]
"""An entry of a menu: its name, its label, its keys, what it does."""


class MainWindow(Navigation):
    """Puts the parts together and runs the actions."""

    def __init__(self, session: Session, layout_store: QSettings | None = None) -> None:
        super().__init__()
        self.session = session
        self.layout_store = layout_store
        self.settings = Settings.fresh()
        self.stage: Stage = STAGES[0]
        self.check_part = "floors"
        self.draft: Draft | None = None
        self.canvas = PlanCanvas(session, self.settings)
        self.canvas.what = self._what
        self.space = SpaceView(session)
        self.framing = FramingView(session)
        self.sheets = SheetView(session)
        self.strip = HeightStrip(session)
        self.card = CardView(session, self._card)
        self.bottom = BottomPanel(session, self.show_finding)
        self.work = WorkBar()
        self._build()
        self._menus()
        session.changed.connect(self._after_edit)
        session.selection_changed.connect(self._selection_changed)
        session.storey_changed.connect(self.card.rebuild)
        session.file_changed.connect(self._title)
        session.kept_changed.connect(self._kept)
        session.message.connect(self.say)
        self.canvas.hint.connect(self._hint)
        self.canvas.tool_changed.connect(self._tool_changed)
        self.work.finished.connect(self.written)
        self.set_stage(0)
        self._after_edit()
        self.resize(1280, 800)
        self._restore_layout()
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
        self.show_view("plan")

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
            button.clicked.connect(lambda checked=False, key=key: self.show_view(key))
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
        for spec in self.stage.tools:
            button = self._tool_button(spec.label, spec.tip)
            if spec.tool:
                button.setCheckable(True)
                button.setChecked(spec.tool == self.canvas.tool.name)
                button.clicked.connect(lambda checked=False, t=spec.tool: self.use_tool(t))
            else:
                button.clicked.connect(lambda checked=False, a=spec.action: self.run_action(a))
            self.tool_layout.addWidget(button)
            self.tool_buttons[spec.label] = button
        self.tool_layout.addStretch(1)
        self.tool_layout.addWidget(self.units_box)
        sheets = self.stage.name == "sheets"
        for button in self.view_buttons.values():
            self.tool_layout.addWidget(button)
            button.setVisible(not sheets)

    def _file_commands(self) -> tuple[Command, ...]:
        return (
            ("new", "&New", QKeySequence.StandardKey.New, self.new_project),
            ("open", "&Open...", QKeySequence.StandardKey.Open, self.open_dialog),
            ("read_ifc", "&Read an IFC file...", None, self.read_ifc),
            ("read_again", "Read the architect's file a&gain...", None, self.read_again),
            ("lay_dxf", "Lay a D&XF drawing under the plan...", None, self.lay_dxf),
            ("demo", "Open the &demo project", None, self.open_demo),
            ("save", "&Save", QKeySequence.StandardKey.Save, self.save),
            ("save_as", "Save &as...", QKeySequence.StandardKey.SaveAs, self.save_as),
            ("copy", "Save a &copy...", None, self.save_copy),
            ("pdf", "Write &PDF...", None, lambda: self.write("pdf")),
            ("framing_pdf", "Write &framing elevations...", None, lambda: self.write("framing")),
            ("calculation", "Write &calculation sheets...", None, self.write_calculation),
            ("dxf", "Write D&XF...", None, lambda: self.write("dxf")),
            ("ifc", "Write &IFC...", None, lambda: self.write("ifc")),
            ("csv", "Write cut list as CS&V...", None, lambda: self.write("csv")),
            ("xlsx", "Write cut list as &workbook...", None, lambda: self.write("xlsx")),
            ("quit", "&Quit", QKeySequence.StandardKey.Quit, self.close),
        )

    def _edit_commands(self) -> tuple[Command, ...]:
        return (
            ("undo", "&Undo", QKeySequence.StandardKey.Undo, self.session.undo),
            ("redo", "&Redo", QKeySequence("Ctrl+Shift+Z"), self.session.redo),
            ("delete", "&Delete", None, self.canvas.delete_selected),
            ("all", "Select everything &like this", QKeySequence("Ctrl+L"), self.select_alike),
        )

    def _choosing_commands(self) -> tuple[Command, ...]:
        return (
            ("region", "What lies in a &region...", None, lambda: self.use_tool("region")),
            ("chain", "The &chain of walls", None, self.select_chain),
            ("storey_walls", "All &walls of this storey", None, self.select_storey),
            ("same_role", "All walls of the same r&ole", None, self.select_role),
            ("columns", "All co&lumns", None, lambda: self.select_kind("columns")),
            ("openings", "All o&penings of this storey", None, lambda: self.select_kind("openings")),
            ("spots", "All spot &heights", None, lambda: self.select_kind("spots")),
        )

    def _wall_commands(self) -> tuple[Command, ...]:
        return (
            ("copy_to_level", "&Copy to another storey...", None, lambda: self.change_walls("copy_to_level")),
            ("next_storey", "&Next storey...", None, lambda: self.change_walls("next_storey")),
            ("move_walls", "&Move or copy...", None, lambda: self.change_walls("move_walls")),
            ("turn_walls", "&Turn...", None, lambda: self.change_walls("turn_walls")),
            ("mirror_walls", "M&irror...", None, lambda: self.change_walls("mirror_walls")),
            ("offset_wall", "&Offset...", None, lambda: self.change_walls("offset_wall")),
            ("split_wall", "&Split...", None, lambda: self.change_walls("split_wall")),
            ("join_walls", "&Join the two selected", None, lambda: self.change_walls("join_walls")),
            ("reach_wall", "&Extend or trim to the second", None, lambda: self.change_walls("reach_wall")),
            ("tie_walls", "T&ie to the nearest axes", None, lambda: self.change_walls("tie_walls")),
            ("let_go", "Let &go of the axes", None, lambda: self.change_walls("let_go")),
        )

    def _view_commands(self) -> tuple[Command, ...]:
        return (
            ("hide", "&Hide what is selected", QKeySequence("F3"), self.hide_selected),
            ("alone", "Show it al&one", QKeySequence("F4"), self.show_selected_alone),
            ("show", "Show all &again", QKeySequence("Shift+F3"), self.session.show_all),
            ("plan", "&Plan", QKeySequence("F6"), lambda: self.show_view("plan")),
            ("both", "Plan &and 3-D", QKeySequence("F7"), lambda: self.show_view("both")),
            ("space", "&3-D", QKeySequence("F8"), lambda: self.show_view("space")),
            ("framing", "&Framing elevations", QKeySequence("Shift+F8"), lambda: self.show_view("framing")),
            ("all_framing", "Framing of all walls", None, self.framing_of_all),
            ("fit", "&Whole building", QKeySequence("F9"), self.fit),
        )

    def _menus(self) -> None:
        bar = self.menuBar()
        files, edit, view = bar.addMenu("&File"), bar.addMenu("&Edit"), bar.addMenu("&View")
        walls = edit.addMenu("&Walls selected")
        choose = edit.addMenu("&Select")
        self.walls_menu = walls
        self.actions_by_name: dict[str, QAction] = {}
        entries = (
            (files, self._file_commands()),
            (edit, self._edit_commands()),
            (choose, self._choosing_commands()),
            (walls, self._wall_commands()),
            (view, self._view_commands()),
        )
        for menu, name, label, key, call in ((menu, *row) for menu, rows in entries for row in rows):
            action = QAction(label, self)
            if key is not None:
                action.setShortcut(key)
            action.triggered.connect(lambda checked=False, call=call: call())
            menu.addAction(action)
            self.actions_by_name[name] = action
        boxes = QAction("Boxes take only what lies wholly &inside", self)
        boxes.setCheckable(True)
        boxes.toggled.connect(lambda on: setattr(self.settings, "box_inside", on))
        choose.addAction(boxes)
        self.actions_by_name["box_inside"] = boxes

    # What the parts ask for ------------------------------------------------------------------------

    def _what(self) -> PlanOf | None:
        return plan_of(self.stage, self.session.storey, self.check_part)

    def _card(self) -> Card:
        if self.draft is not None:
            return self.draft.card()
        tool = self.canvas.tool.name
        if tool in ("walls", "rectangle"):
            return wall_tool_card(self.session, self.settings, self.card.rebuild)
        if tool == "opening":
            return opening_card(self.session, self.settings, self.card.rebuild)
        return card(self.session, self.stage.name, self.place, self.show_calculation)

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
            if not self.canvas.isVisible():
                self.show_view("plan")
        self.canvas.use_tool(name)
        self.canvas.setFocus()

    def _tool_changed(self, name: str) -> None:
        for spec in self.stage.tools:
            if spec.tool and spec.label in self.tool_buttons:
                self.tool_buttons[spec.label].setChecked(spec.tool == name)
        self.card.rebuild()

    def run_action(self, name: str) -> None:
        """Run an action of the tool row."""
        deeds: dict[str, Callable[[], object]] = {
            "add_level": lambda: LevelDialog(self, self.session).exec(),
            "add_grid": self.lay_grid,
            "add_columns": lambda: ColumnsDialog(self, self.session).exec(),
            "lay_dxf": self.lay_dxf,
            "slope_footing": lambda: SlopeDialog(self, self.session).exec(),
            "add_pads": lambda: PadsDialog(self, self.session).exec(),
            "show_ground": self.show_ground,
            "next_storey": lambda: self.change_walls("next_storey"),
            "masonry": self.show_masonry,
            "show_framing": lambda: self.show_view("framing"),
            "walls_menu": lambda: self.walls_menu.popup(QCursor.pos()),
            "show_loads": lambda: self.session.select([]),
            "check_floors": lambda: self.show_part("floors"),
            "check_roof": lambda: self.show_part("roof"),
            "check_foundations": lambda: self.show_part("foundations"),
            "sheet_plans": lambda: self.show_sheet("plans"),
            "sheet_foundations": lambda: self.show_sheet("foundations"),
            "sheet_elevations": lambda: self.show_sheet("elevations"),
            "sheet_framing": lambda: self.show_sheet("framing"),
            "write_calculation": self.write_calculation,
            "write_pdf": lambda: self.write("pdf"),
            "write_dxf": lambda: self.write("dxf"),
            "write_ifc": lambda: self.write("ifc"),
            "write_cuts": lambda: self.write("xlsx"),
        }
        if name in MAKERS:
            self.start_draft(name)
        else:
            deeds[name]()

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
            self._go_to_storey(self.session.selection)
        self.card.rebuild()

    def _title(self) -> None:
        star = "*" if self.session.dirty else ""
        name = self.session.project.name
        self.name_label.setText(name + star)
        where = f" \u2013 {self.session.path.name}" if self.session.path else ""
        self.setWindowTitle(f"{name}{star}{where} \u2013 Balken")

    def say(self, text: str, wrong: bool) -> None:
        self.hint_label.setStyleSheet("color: #A82A10;" if wrong else "")
        self.hint_label.setText(text)

    def _hint(self, text: str) -> None:
        self.say(text, False)

    def _units_chosen(self, index: int) -> None:
        units = Units(self.units_box.itemData(index))
        self.session.apply("Change units", lambda p: edits.set_project(p, units=units))

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
        if not self.may_leave():
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
