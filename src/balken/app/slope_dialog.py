"""A footing whose underside slopes: under which wall, from where to where, how deep at each end."""

from PySide6.QtWidgets import QComboBox, QLineEdit, QWidget

from balken.app.dialogs import FormDialog
from balken.framing.foundations import FoundationRun
from balken.model import foundation_edits
from balken.model.errors import EditError
from balken.model.kinds.foundation import STEEPEST
from balken.model.lookup import wall_label
from balken.model.naming import run_of, slope_name
from balken.model.records import Slope
from balken.session.session import Session
from balken.units import Units, format_inches, format_length, parse_length


class SlopeDialog(FormDialog):
    """Slope the underside of a footing over a stretch; it falls with the ground unless typed otherwise."""

    def __init__(self, parent: QWidget | None, session: Session) -> None:
        super().__init__(parent, "Slope a footing", session)
        p = session.project
        self.run_box = QComboBox()
        for run in session.model.runs:
            if run.footing:
                self.run_box.addItem(f"{run.foundation.name}, {wall_label(p, run.wall)}", run.id)
        wanted = {run_of(ref) for ref in session.selection} | set(session.selection)
        for i, run in enumerate(r for r in session.model.runs if r.footing):
            if {run.id, run.wall, run.foundation.id} & wanted:
                self.run_box.setCurrentIndex(i)
                break
        self.start, self.end, self.deep_start, self.deep_end = (QLineEdit() for _ in range(4))
        for label, widget in (
            ("Under", self.run_box),
            ("Starts, from the corner", self.start),
            ("Ends, from the corner", self.end),
            ("Deeper at its start", self.deep_start),
            ("Deeper at its end", self.deep_end),
        ):
            self.form.addRow(label, widget)
        self.run_box.currentIndexChanged.connect(self._suggest)
        self._suggest()

    def _run(self) -> FoundationRun | None:
        return next((r for r in self.session.model.runs if r.id == self.run_box.currentData()), None)

    def _suggest(self) -> None:
        """Fill in the longest stretch between steps, and a fall with the ground of 1 in 10 at most."""
        run, p = self._run(), self.session.project
        if run is None:
            return
        longest = max(run.segments, key=lambda s: s.high - s.low)
        step = 25.4 if p.units is Units.IMPERIAL else 10.0
        deep = (0.0, 0.0)
        ground = self.session.model.ground
        if ground is not None:
            low, high = (ground.height(run.band.at(at, run.faces[0])) for at in (longest.low, longest.high))
            fall = min(abs(high - low), STEEPEST * (longest.high - longest.low)) // step * step
            deep = (0.0, fall) if high < low else (fall, 0.0)
        for field, value in ((self.start, longest.low), (self.end, longest.high)):
            field.setText(format_length(max(value, 0.0), p.units))
        for field, value in zip((self.deep_start, self.deep_end), deep, strict=True):
            field.setText(format_inches(value, p.units))

    def run(self) -> None:
        run, p = self._run(), self.session.project
        if run is None:
            raise EditError("there is no strip footing yet.", "Slope", "Lay a foundation first.")
        start, end = (parse_length(field.text(), p.units) for field in (self.start, self.end))
        deep_start, deep_end = (parse_length(field.text(), p.units, "in") for field in (self.deep_start, self.deep_end))
        slope = Slope(wall=run.wall, start=start, end=end, deeper_start=deep_start, deeper_end=deep_end)
        after = foundation_edits.add_slope(p, run.foundation.id, slope)
        self.session.apply("Slope footing", lambda q: after if q is p else q)
        self.session.select([slope_name(run.foundation.id, len(run.foundation.slopes))])
