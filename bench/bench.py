"""Measure what users wait for: python bench/bench.py.  Prints times; nothing fails on them."""

import os
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from balken.demo import orchard_road
from balken.derive import Memo, derive
from balken.documents.sheet import sheet
from balken.exchange.ifc import write_ifc
from balken.model import edits, grid_edits
from balken.model.records import Choice, Floor, Foundation, Hang, Project, Roof
from balken.units.system import FOOT, INCH


def timed(call: Callable[[], object], times: int = 5) -> float:
    """Return the median time of a call, ms."""
    found = []
    for _ in range(times):
        start = time.perf_counter()
        call()
        found.append((time.perf_counter() - start) * 1000.0)
    return statistics.median(found)


def long_house(feet: float) -> Project:
    """Return a made-up house that long, with joists and rafters at 12 in: about 5 members a foot."""
    p = edits.new_project("Long house")
    p = edits.add_level(p, "level-1", 8.0 * FOOT, "Plate", "plate")
    p = edits.add_level(p, "level-1", -11.5 * INCH, "Top of foundation", "top of foundation")
    p = edits.add_level(p, "level-1", -4.0 * FOOT, "Top of footing", "top of footing")
    long, wide = feet * FOOT, 28.0 * FOOT
    corners = ((0.0, 0.0), (long, 0.0), (long, wide), (0.0, wide))
    foot, head = Hang(level="level-1"), Hang(level="level-2")
    for i, start in enumerate(corners):
        p = edits.add_wall(p, start, corners[(i + 1) % 4], "framed-2x6", foot, head)
    p = edits.add_wall(p, (0, wide / 2), (long, wide / 2), "inside-2x6", foot, head, "centre", role="bearing")
    walls = tuple(w.id for w in p.walls)
    f = Foundation(id="f", name="F", walls=walls, foot=Hang(level="level-4"), head=Hang(level="level-3"))
    p = edits.add(p, f)
    twelve = Choice(size="2x10", spacing=12.0 * INCH)
    p = edits.add(p, Floor(id="fl", name="Floor", level="level-1", walls=walls[:4], joists=twelve))
    rafters = Choice(size="2x8", spacing=12.0 * INCH)
    return edits.add(p, Roof(id="r", name="Roof", walls=walls[:4], bearing=head, rafters=rafters))


def edited(project: Project, change: Callable[[Project, int], Project]) -> float:
    """Return the median time of deriving again after an edit, each time a new one, ms."""
    memo = Memo()
    derive(project, memo)
    steps = iter(range(1, 1000))
    return timed(lambda: derive(change(project, next(steps)), memo), 4)


def row(what: str, ms: float, more: str = "") -> None:
    """Print one line of the report."""
    print(f"{what:<38} {ms:9.1f} ms  {more}")


def main() -> None:
    demo = orchard_road()
    row("demo, derived from cold", timed(lambda: derive(demo)))
    row("demo, after the pitch changes", edited(demo, lambda p, i: edits.change(p, "roof-1", pitch=0.5 + 0.01 * i)))
    row("demo, after one opening moves", edited(demo, lambda p, i: edits.change(p, "opening-1", offset=600.0 + i)))
    row("demo, after an axis moves", edited(demo, lambda p, i: grid_edits.set_axis_gap(p, "grid-1", "x2", 4000.0 + i)))
    for feet in (300, 1200, 4000):
        house = long_house(feet)
        count = len(derive(house).members())
        cold = timed(lambda house=house: derive(house), 3)
        row(f"{count} members, cold", cold, f"{cold / count * 1000:.0f} us a member")
        row(f"{count} members, roof changed", edited(house, lambda p, i: edits.change(p, "r", pitch=0.5 + 0.01 * i)))
        row(f"{count} members, one load changed", edited(house, lambda p, i: edits.set_loads(p, frost_depth=700.0 + i)))
    model = derive(demo)
    row("sheet of the demo", timed(lambda: sheet(model), 3))
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "demo.ifc"
        row("IFC export of the demo", timed(lambda: write_ifc(model, path), 3))
    _window()


_START = """
import time; t = time.perf_counter()
from PySide6.QtWidgets import QApplication
from balken.app.look import dress
from balken.app.session import Session
from balken.app.window import MainWindow
from balken.demo import orchard_road
app = QApplication([]); dress(app)
window = MainWindow(Session(orchard_road())); window.show(); app.processEvents(); window.grab()
print((time.perf_counter() - t) * 1000)
"""
_SPACE = (
    _START.replace("print", "pass #")
    + """
t = time.perf_counter()
window.show_view("space"); app.processEvents(); window.space.picture.render()
print((time.perf_counter() - t) * 1000)
t = time.perf_counter()
for i in range(5):
    window.space.picture.orbit(5.0, 0.0); window.space.picture.render()
print((time.perf_counter() - t) * 200)
"""
)


def _window() -> None:
    start = subprocess.run([sys.executable, "-c", _START], capture_output=True, text=True, check=True).stdout
    row("window with the demo, first shown", float(start.split()[-1]))
    space = subprocess.run([sys.executable, "-c", _SPACE], capture_output=True, text=True, check=True).stdout.split()
    row("3-D, first frame (with the probe)", float(space[-2]))
    row("3-D, a frame while orbiting", float(space[-1]))


main()
