"""How the window goes from place to place: views, stages' parts, sheets, findings, storeys, windows beside it."""

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QSplitter, QToolButton

from balken.app.calculation_dialog import CalculationDialog
from balken.app.canvas import PlanCanvas
from balken.app.framing_view import FramingView
from balken.app.height_strip import HeightStrip
from balken.app.masonry_dialog import MasonryDialog
from balken.app.selection_actions import SelectionActions
from balken.app.sheet_view import SheetView
from balken.app.space import SpaceView
from balken.app.tables import BottomPanel
from balken.derived.finding import Finding
from balken.documents.plan import PlanOf, shown_floors
from balken.model.lookup import by_id
from balken.model.naming import owner_of
from balken.panel.stages import STAGES, Stage


class Navigation(SelectionActions):
    """The part of the main window that brings things into view."""

    stage: Stage
    check_part: str
    canvas: PlanCanvas
    space: SpaceView
    framing: FramingView
    strip: HeightStrip
    sheets: SheetView
    bottom: BottomPanel
    middle: QSplitter
    view_buttons: dict[str, QToolButton]

    def set_stage(self, index: int) -> None:
        """Go to a stage."""
        raise NotImplementedError

    def _what(self) -> PlanOf | None:
        """Return the plan that is shown."""
        raise NotImplementedError

    def show_view(self, key: str) -> None:
        """Show plan, 3-D or both."""
        self.view_buttons[key].setChecked(True)
        self.canvas.setVisible(key in ("plan", "both"))
        self.space.setVisible(key in ("space", "both"))
        self.framing.setVisible(key == "framing")
        if key == "both":
            QTimer.singleShot(0, self._halve)

    def framing_of_all(self) -> None:
        """Show the framing elevations of every wall."""
        self.session.select([])
        self.show_view("framing")
        self.framing.show_all()

    def _halve(self) -> None:
        if self.canvas.isVisible() and self.space.isVisible():
            half = max(self.middle.width() // 2, 100)
            self.middle.setSizes([half, half])

    def show_off(self) -> None:
        """Show a finished project at its best: checked members beside the building, the load path below."""
        self.set_stage(5)
        self.show_view("both")
        self.bottom.setCurrentIndex(3)

    def fit(self) -> None:
        """Show the whole building in every view."""
        for view in (self.canvas, self.sheets.paper, self.strip, self.framing):
            view.fit()
        self.space.picture.whole()

    def show_ground(self) -> None:
        """Go to the loads, the ground and the concrete."""
        self.set_stage(5)
        self.check_part = "foundations"
        self.session.select([])
        self.canvas.refresh()

    def show_calculation(self, ref: str) -> None:
        """Open the calculation sheet of a footing, wall or pad."""
        self.calculation = CalculationDialog(self, self.session, ref, self.write_calculation)
        self.calculation.show()

    def show_masonry(self) -> None:
        """Open the list of lengths and what they are off the module."""
        self.masonry = MasonryDialog(self, self.session)
        self.masonry.show()

    def show_part(self, part: str) -> None:
        """Show floors, roof or foundations by how far they are used, in the check."""
        self.check_part = part
        self.canvas.refresh()

    def show_sheet(self, kind: str) -> None:
        """Show the first sheet of a kind."""
        if not self.sheets.show_kind(kind):
            what = {"framing": "wall with a core of studs"}.get(kind, "foundation")
            self.say(f"There is no {what} yet, so there is no such sheet.", True)

    def show_finding(self, finding: Finding) -> None:
        """Go to the stage of a finding and bring its place into view."""
        index = next(i for i, stage in enumerate(STAGES) if stage.name == finding.stage)
        if self.stage is not STAGES[index] and finding.stage != "sheets":
            chosen = self.session.selection
            self.set_stage(index)
            self.session.select(chosen)
        self._go_to_storey(finding.things)
        x, y, _ = finding.at
        if not self.canvas.visible_part().contains(x, y):
            self.canvas.centre = (x, y)
            self.canvas.update()
            self.canvas.refresh()

    def _go_to_storey(self, refs: tuple[str, ...]) -> None:
        """Where plans show the floors of a storey, go to that of the floor to which these things belong."""
        what = self._what()
        floors = {owner_of(ref) for ref in refs} & {f.id for f in self.session.project.floors}
        if what is None or not what.storey or "floors" not in what.parts or not floors:
            return
        if not floors & {made.floor.id for made in shown_floors(self.session.model, what.storey)}:
            self.session.set_storey(by_id(self.session.project.floors)[min(floors)].level)

    def fresh_views(self) -> None:
        self.set_stage(0)
        for view in (self.canvas, self.sheets.paper):
            view.fit()
        self.space.picture.whole()
