"""How the window goes from place to place: views, stages' parts, sheets, findings, storeys, windows beside it."""

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QTimer

from balken.app.calculation_dialog import CalculationDialog
from balken.app.masonry_dialog import MasonryDialog
from balken.app.shell import Deeds, Shell
from balken.derived.finding import Finding
from balken.documents.plan import shown_floors
from balken.documents.sheet_set import NONE_OF
from balken.model.lookup import by_id
from balken.model.naming import owner_of
from balken.panel.stages import STAGES


class Views:
    """What brings things into view."""

    def __init__(self, shell: Shell) -> None:
        self.shell, self.session = shell, shell.session
        self.calculation: CalculationDialog | None = None
        self.masonry: MasonryDialog | None = None

    def show_view(self, key: str) -> None:
        """Show plan, 3-D or both."""
        self.shell.view_buttons[key].setChecked(True)
        self.shell.canvas.setVisible(key in ("plan", "both"))
        self.shell.space.setVisible(key in ("space", "both"))
        self.shell.framing.setVisible(key == "framing")
        if key == "both":
            QTimer.singleShot(0, self._halve)

    def framing_of_all(self) -> None:
        """Show the framing elevations of every wall."""
        self.session.select([])
        self.show_view("framing")
        self.shell.framing.show_all()

    def _halve(self) -> None:
        if self.shell.canvas.isVisible() and self.shell.space.isVisible():
            half = max(self.shell.middle.width() // 2, 100)
            self.shell.middle.setSizes([half, half])

    def show_off(self) -> None:
        """Show a finished project at its best: checked members beside the building, the load path below."""
        self.shell.set_stage(5)
        self.show_view("both")
        self.shell.bottom.setCurrentIndex(3)

    def fit(self) -> None:
        """Show the whole building in every view."""
        for view in (self.shell.canvas, self.shell.sheets.paper, self.shell.strip, self.shell.framing):
            view.fit()
        self.shell.space.picture.whole()

    def show_ground(self) -> None:
        """Go to the loads, the ground and the concrete."""
        self.shell.set_stage(5)
        self.shell.check_part = "foundations"
        self.session.select([])
        self.shell.canvas.refresh()

    def show_calculation(self, ref: str, write: Callable[[str], None]) -> None:
        """Open the calculation sheet of a footing, wall or pad."""
        self.calculation = CalculationDialog(self.shell.itself, self.session, ref, write)
        self.calculation.show()

    def show_masonry(self) -> None:
        """Open the list of lengths and what they are off the module."""
        self.masonry = MasonryDialog(self.shell.itself, self.session)
        self.masonry.show()

    def show_part(self, part: str) -> None:
        """Show floors, roof or foundations by how far they are used, in the check."""
        self.shell.check_part = part
        self.shell.canvas.refresh()

    def show_sheet(self, kind: str) -> None:
        """Show the first sheet of a kind."""
        if not self.shell.sheets.show_kind(kind):
            self.shell.say(NONE_OF[kind], True)

    def show_finding(self, finding: Finding) -> None:
        """Go to the stage of a finding and bring its place into view."""
        index = next(i for i, stage in enumerate(STAGES) if stage.name == finding.stage)
        if self.shell.stage is not STAGES[index] and finding.stage != "sheets":
            chosen = self.session.selection
            self.shell.set_stage(index)
            self.session.select(chosen)
        self.go_to_storey(finding.things)
        x, y, _ = finding.at
        if not self.shell.canvas.visible_part().contains(x, y):
            self.shell.canvas.centre = (x, y)
            self.shell.canvas.update()
            self.shell.canvas.refresh()

    def go_to_storey(self, refs: tuple[str, ...]) -> None:
        """Where plans show the floors of a storey, go to that of the floor to which these things belong."""
        what = self.shell.what()
        floors = {owner_of(ref) for ref in refs} & {f.id for f in self.session.project.floors}
        if what is None or not what.storey or "floors" not in what.parts or not floors:
            return
        if not floors & {made.floor.id for made in shown_floors(self.session.model, what.storey)}:
            self.session.set_storey(by_id(self.session.project.floors)[min(floors)].level)

    def fresh(self) -> None:
        """Show another project from the start."""
        self.shell.set_stage(0)
        for view in (self.shell.canvas, self.shell.sheets.paper):
            view.fit()
        self.shell.space.picture.whole()

    def deeds(self) -> Deeds:
        """Return what runs the commands that bring things into view."""
        found: Deeds = {
            "all_framing": self.framing_of_all,
            "elevations": lambda: self.show_view("framing"),
            "fit": self.fit,
            "show_ground": self.show_ground,
            "masonry": self.show_masonry,
        }
        found |= {key: partial(self.show_view, key) for key in ("plan", "both", "space", "framing")}
        found |= {f"check_{part}": partial(self.show_part, part) for part in ("floors", "roof", "foundations", "loads")}
        return found | {f"sheet_{kind}": partial(self.show_sheet, kind) for kind in NONE_OF}
