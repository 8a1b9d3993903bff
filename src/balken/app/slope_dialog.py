"""A footing whose underside slopes: under which wall, from where to where, how deep at each end."""

from PySide6.QtWidgets import QComboBox, QLineEdit, QWidget

from balken.app.dialogs import FormDialog
from balken.framing.foundations import FoundationRun
from balken.framing.slope_defaults import suggested_slope
from balken.model import foundation_edits
from balken.model.errors import EditError
from balken.model.lookup import wall_label
from balken.model.naming import run_of, slope_name
from balken.model.records import Slope
from balken.session.session import Session
from balken.units import format_inches, format_length, parse_length


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
        """Fill in what is accepted as it is: the longest free stretch between steps, and a fall with the ground as far as it may."""
        run, p = self._run(), self.session.project
        if run is None:
            return
        length = self.session.model.lines[run.wall].band.length
        slope = suggested_slope(run, length, self.session.model.ground, p.units)
        self.start.setPlaceholderText("" if slope else "steps and slopes leave no room")
        for field, told in (
            (self.start, format_length(slope.start, p.units) if slope else ""),
            (self.end, format_length(slope.end, p.units) if slope else ""),
            (self.deep_start, format_inches(slope.deeper_start, p.units) if slope else ""),
            (self.deep_end, format_inches(slope.deeper_end, p.units) if slope else ""),
        ):
            field.setText(told)

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
