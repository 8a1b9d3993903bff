"""Take the pictures of docs/screenshots from the demo project: python tools/screenshots.py [FOLDER]."""

import os
import sys
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from balken.app.look import dress
from balken.app.picture import PictureView
from balken.app.window import MainWindow
from balken.demo import orchard_road
from balken.derived.model import Model
from balken.exchange.former_names import former_names
from balken.model.beam_edits import floor_at
from balken.model.beam_rows import bay_around, fill_bay
from balken.model.records import Hang, Project
from balken.session.session import Session


def named(model: Model, former: str) -> str:
    """Return the member that was once named so."""
    return next(name for name, was in former_names(model).items() if was == former)


def main() -> None:
    folder = Path(sys.argv[1] if len(sys.argv) > 1 else "docs/screenshots")
    only = set(sys.argv[2:])
    folder.mkdir(parents=True, exist_ok=True)
    app = QApplication([])
    dress(app)
    session = Session(orchard_road())
    window = MainWindow(session)
    window.resize(1280, 800)
    window.show()

    def shot(name: str) -> None:
        if only and name not in only:
            return
        QTest.qWait(350)
        window.grab().save(str(folder / f"{name}.png"))

    window.views.show_off()
    shot("0-demo")
    window.views.show_view("plan")
    window.bottom.setCurrentIndex(0)
    window.set_stage(0)
    shot("1-set-out")
    window.set_stage(1)
    session.select(["wall-1"])
    shot("2-walls")
    session.select([])
    window.set_stage(2)
    session.select(["foundation-1"])
    shot("3-foundations")
    window.set_stage(3)
    window.bottom.setCurrentIndex(1)
    QTest.qWait(50)
    session.select([named(session.model, "floor-1/joist/012a")])
    shot("4-floors")
    window.bottom.setCurrentIndex(0)
    session.select(["beam-1"])
    QTest.qWait(50)
    window.card.ensureWidgetVisible(window.card.findChildren(PictureView)[0])
    shot("17-beam")
    session.apply("Fill bay", _fill)
    session.select([session.project.beam_rows[-1].id])
    QTest.qWait(50)
    window.card.verticalScrollBar().setValue(0)
    shot("8-bay-filled")
    session.undo()
    window.set_stage(4)
    session.select(["roof-1"])
    window.bottom.setCurrentIndex(2)
    shot("5-roof")
    session.select(["roof-2"])
    QTest.qWait(50)
    window.card.ensureWidgetVisible(window.card.findChildren(PictureView)[0], 0, 200)
    shot("12-truss")
    window.set_stage(5)
    session.select([])
    window.bottom.setCurrentIndex(3)
    shot("6-check")
    window.views.show_part("loads")
    shot("18-load-path")
    window.views.show_part("floors")
    window.set_stage(6)
    window.bottom.setCurrentIndex(0)
    shot("7-sheets")
    window.set_stage(3)
    window.views.show_view("space")
    session.select([])
    shot("9-3d")
    window.set_stage(1)
    session.select(["wall-2"])
    window.views.show_view("framing")
    shot("10-framing")
    window.views.show_view("plan")
    window.set_stage(2)
    window.bottom.setCurrentIndex(0)
    session.select(["foundation-1/wall-2/footing"])
    QTest.qWait(50)
    window.card.verticalScrollBar().setValue(430)
    shot("11-footing")
    window.views.show_view("plan")
    session.select([])
    window.set_stage(6)
    window.views.show_sheet("foundations")
    shot("13-foundation-sheet")
    window.sheets.show_page(next(k for k, page in enumerate(window.sheets.pages) if page.title == "Trusses"))
    paper = window.sheets.paper
    paper.zoom, paper.centre = 2.45 * paper.zoom, (190.0, 478.0)
    paper.update()
    shot("15-truss-sheet")
    window.views.show_sheet("beams")
    shot("19-details")
    _report(shot, folder, window, only)


def _fill(project: Project) -> Project:
    """Fill the bay of the ground floor between axes A and B, 1 and 2."""
    storey = project.levels[0].id
    bay = bay_around(project, (2000.0, 2000.0), storey)
    return fill_bay(project, bay, Hang(level=storey), floor_at(project, storey))


def _report(shot: object, folder: Path, window: MainWindow, only: set[str]) -> None:
    """The report on an architect's file: here one that Balken wrote itself, made to look like another program's."""
    if only and "14-import-report" not in only:
        return
    import tempfile

    from balken.app.dialogs import ReportDialog
    from balken.exchange.ifc import write_ifc
    from balken.exchange.ifc_reader import read_ifc

    with tempfile.TemporaryDirectory() as scratch:
        path = Path(scratch) / "architect.ifc"
        write_ifc(window.session.model, path)
        _roughen(path)
        _, report = read_ifc(path)
    dialog = ReportDialog(window, "architect.ifc", report)
    dialog.show()
    QTest.qWait(300)
    dialog.grab().save(str(folder / "14-import-report.png"))
    dialog.close()


def _roughen(path: Path) -> None:
    """Take from a few walls what many programs leave out: their axes, their layers."""
    import ifcopenshell

    file = ifcopenshell.open(str(path))
    walls = [w for w in file.by_type("IfcWall") if not (w.Tag and "/" in w.Tag)]
    for wall in walls[:6]:
        shapes = wall.Representation.Representations
        wall.Representation.Representations = [s for s in shapes if s.RepresentationIdentifier != "Axis"]
    for relation in file.by_type("IfcRelAssociatesMaterial"):
        if set(relation.RelatedObjects) & set(walls[3:5]):
            relation.RelatedObjects = [w for w in relation.RelatedObjects if w not in walls[3:5]] or walls[:1]
    file.write(str(path))


main()
