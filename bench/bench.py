"""Measure what users wait for: python bench/bench.py.  Prints times; nothing fails on them."""

import itertools
import os
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

from msgspec.structs import replace

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from anastruct import SystemElements
from Pynite import FEModel3D

from balken.commands.truss import truss_report
from balken.demo import orchard_road
from balken.derive import derive
from balken.design.truss_job import TrussJob, Wood
from balken.design.truss_outlines import Given, outlined
from balken.design.truss_stacks import stacked, used_of
from balken.design.trusses import design_truss
from balken.documents.plan_sheets import plan_sheets
from balken.exchange.ifc import write_ifc
from balken.exchange.ifc_reader import read_ifc
from balken.framing.bands import wall_lines
from balken.framing.joints import Joints
from balken.framing.truss_webs import PATTERNS
from balken.framing.trusses import truss_frame
from balken.geometry.roof_surface import roof_surface
from balken.loads.cases import Cases
from balken.loads.truss_loads import TrussLoads
from balken.memo import Memo
from balken.model import edits, foundation_edits, grid_edits, wall_edits
from balken.model.kinds.beam_row import BeamRow
from balken.model.records import Choice, Floor, Foundation, FreePoint, Hang, Opening, Project, Roof, Wall
from balken.model.roof_edits import set_side
from balken.standards.known import USUAL
from balken.units.system import FOOT, INCH


def timed(call: Callable[[], object], times: int = 5) -> float:
    """Return the median time of a call, ms."""
    found = []
    for _ in range(times):
        start = time.perf_counter()
        call()
        found.append((time.perf_counter() - start) * 1000.0)
    return statistics.median(found)


def yardstick() -> None:
    """Print how long a fixed piece of plain Python takes now: the machine's speed at that moment."""

    def work() -> None:
        seen: dict[int, tuple[int, float]] = {}
        for i in range(60_000):
            seen[i % 97] = (i, i * 0.5)
            max(i, 3)

    row("yardstick: 60,000 rounds of Python", timed(work, 15))


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


def tower(storeys: int) -> Project:
    """Return a made-up building, each storey 492 x 37 ft, its floor on forty steel beams, joists at 12 in: some 1,500."""
    p, below = edits.new_project("Tower"), "level-1"
    corners = ((0.0, 0.0), (492.0 * FOOT, 0.0), (492.0 * FOOT, 37.0 * FOOT), (0.0, 37.0 * FOOT))
    a, b, c, d = (FreePoint(x=x, y=y) for x, y in corners)
    twelve = Choice(size="2x10", spacing=12.0 * INCH)
    for k in range(storeys):
        p = edits.add_level(p, below, 9.0 * FOOT, f"Floor {k + 2}", "floor")
        level = p.levels[-1].id
        for start, end in zip(corners, corners[1:] + corners[:1], strict=True):
            p = edits.add_wall(p, start, end, "framed-2x6", Hang(level=below), Hang(level=level, offset=-10.0 * INCH))
        walls = tuple(wall.id for wall in p.walls[-4:])
        p = edits.add(
            p, Floor(id=f"f{k}", name=f"Floor {k + 2}", level=level, walls=walls, direction=0.0, joists=twelve)
        )
        row = BeamRow(
            id=f"b{k}", a=a, b=b, c=c, d=d, top=Hang(level=level), floor=f"f{k}", by="number", number=40, made_of="W"
        )
        p, below = edits.add(p, row), level
    return p


WINGS = (
    ((6, 14, 10), (20, 26, 6), (32, 44, 14), (50, 58, 8), (66, 80, 12)),
    ((4, 16, 9), (22, 30, 12), (36, 42, 7), (60, 76, 10)),
)
"""Of a made-up house of forty corners, on both sides: from where to where along it, how far out, ft."""


def forty_corners() -> Project:
    """Return a made-up house, 90 x 30 ft with nine wings of unlike widths and lengths, under one hip roof with rafters at 12 in."""
    south, north = WINGS
    ring = [(0, 0), *(p for a, b, d in south for p in ((a, 0), (a, -d), (b, -d), (b, 0))), (90, 0), (90, 30)]
    ring += [*(p for a, b, d in reversed(north) for p in ((b, 30), (b, 30 + d), (a, 30 + d), (a, 30))), (0, 30)]
    p = edits.add_level(edits.new_project("Forty corners"), "level-1", 8.0 * FOOT, "Plate", "plate")
    foot, head = Hang(level="level-1"), Hang(level="level-2")
    for i, (x, y) in enumerate(ring):
        u, v = ring[(i + 1) % len(ring)]
        p = edits.add_wall(p, (x * FOOT, y * FOOT), (u * FOOT, v * FOOT), "framed-2x6", foot, head)
    rafters = Choice(size="2x8", spacing=12.0 * INCH)
    walls = tuple(w.id for w in p.walls)
    return edits.add(p, Roof(id="r", name="Roof", walls=walls, bearing=head, rafters=rafters, shape="planes"))


def _forty_corners() -> None:
    """A roof of forty corners: its surface, all of the house, an edge switched, its pitch changed."""
    house = forty_corners()
    plan = derive(house).surfaces[0]
    row("40 corners, the roof's surface", timed(lambda: roof_surface(plan.outline.core, plan.edges)))
    rafters = sum(piece.role == "rafter" for piece in derive(house).pieces.values())
    row("40 corners, cold", timed(lambda: derive(house), 3), f"{rafters} rafters")
    row("40 corners, an edge switched", edited(house, lambda p, i: set_side(p, "r", f"wall-{4 * i - 1}", kind="gable")))
    row("40 corners, the pitch changed", edited(house, lambda p, i: edits.change(p, "r", pitch=0.5 + 0.01 * i)))


KINDS = (
    ("king-post", 12, 0.5), ("king-post", 16, 1 / 3), ("queen-post", 18, 0.5), ("queen-post", 20, 0.75), ("fink", 24, 0.5), ("fink", 28, 1 / 3),
    ("fan", 30, 0.5), ("fan", 34, 0.4), ("double-fink", 40, 0.5), ("double-fink", 44, 1 / 3), ("howe", 30, 0.5), ("howe", 50, 0.5),
    ("scissors", 28, 0.5), ("scissors", 36, 0.75), ("gable-end", 28, 0.5),
)  # fmt: skip


def _trusses() -> None:
    """500 trusses of 15 kinds, each kind with spans of its own, solved and checked as stacks; one of each kind by other libraries."""
    loads = TrussLoads(609.6, Cases(0.48, 0.0, 0.96, 1.44), Cases(0.48, 0.48))
    stacks = []
    for shape, feet, pitch in KINDS:
        given = Given(shape, feet * FOOT, pitch, FOOT, None, 3.5 * INCH, pitch / 2.0 if shape == "scissors" else 0.0)
        job = TrussJob(shape, loads, Wood(), "2x6", "2x6", "2x4", stock=60.0 * FOOT)
        like = design_truss(job, outlined(given), USUAL)
        frames = []
        for k in range(34):
            other = outlined(replace(given, span=given.span - 2.0 * k))(like.frame.sizes)
            frames.append(truss_frame(other, PATTERNS[shape](other), like.frame.sizes, 60.0 * FOOT))
        stacks.append((like, frames, stacked(frames, [loads] * len(frames))))
    count = sum(len(frames) for _, frames, _ in stacks)
    row(
        f"{count} trusses of {len(stacks)} kinds, solved and checked",
        timed(lambda: [used_of(*stack, USUAL) for stack in stacks], 3),
    )
    row(
        "the same laid out and loaded",
        timed(lambda: [stacked(f, [loads] * len(f)) for _, f, _ in stacks], 1),
        "loads alone",
    )
    kinds = [truss_report(like, plates=False)["frame"] for like, _, _ in stacks]
    row(
        "one of each kind by PyNiteFEA",
        timed(lambda: [_by_pynite(frame) for frame in kinds], 1),
        "solved alone, one combination",
    )
    row(
        "one of each kind by anastruct",
        timed(lambda: [_by_anastruct(frame) for frame in kinds], 1),
        "solved alone, one combination",
    )


def _by_pynite(frame: dict[str, Any]) -> None:
    model = FEModel3D()
    turning = {e["i"] for e in frame["elements"] if not e["hinge_i"]} | {
        e["j"] for e in frame["elements"] if not e["hinge_j"]
    }
    held = {row["node"]: row for row in frame["supports"]}
    for node in frame["nodes"]:
        name, on = node["name"], held.get(node["name"], {"x": False, "y": False})
        model.add_node(name, node["x_mm"], node["y_mm"], 0.0)
        model.def_support(name, on["x"], on["y"], True, True, True, name not in turning)
    for e in frame["elements"]:
        model.add_material(e["name"], e["e_mpa"], 5e3, 0.3, 1e-9)
        model.add_section(e["name"], e["a_mm2"], 1e6, e["i_mm4"], 1e6)
        model.add_member(e["name"], e["i"], e["j"], e["name"], e["name"])
        model.def_releases(e["name"], Rzi=e["hinge_i"], Rzj=e["hinge_j"])
    for on in frame["combinations"][-1]["elements"]:
        model.add_member_dist_load(on["element"], "FY", on["wy"], on["wy"])
    model.analyze_linear()


def _by_anastruct(frame: dict[str, Any]) -> None:
    system = SystemElements()
    at = {node["name"]: [node["x_mm"], node["y_mm"]] for node in frame["nodes"]}
    loads = {on["element"]: on["wy"] for on in frame["combinations"][-1]["elements"]}
    for e in frame["elements"]:
        spring = {k: 0 for k, hinge in ((1, e["hinge_i"]), (2, e["hinge_j"])) if hinge}
        number = system.add_element(
            [at[e["i"]], at[e["j"]]], EA=e["e_mpa"] * e["a_mm2"], EI=e["e_mpa"] * e["i_mm4"], spring=spring or None
        )
        if e["name"] in loads:
            system.q_load(loads[e["name"]], number, "y")
    for support in frame["supports"]:
        node = system.find_node_id(at[support["node"]])
        if support["x"]:
            system.add_support_hinged(node)
        else:
            system.add_support_roll(node)
    system.solve()


def main() -> None:
    yardstick()
    demo = orchard_road()
    row("demo, derived from cold", timed(lambda: derive(demo)))
    row("demo, after the pitch changes", edited(demo, lambda p, i: edits.change(p, "roof-1", pitch=0.5 + 0.01 * i)))
    row("demo, after one opening moves", edited(demo, lambda p, i: edits.change(p, "opening-1", offset=600.0 + i)))
    row("demo, after an axis moves", edited(demo, lambda p, i: grid_edits.set_axis_gap(p, "grid-1", "x2", 4000.0 + i)))
    row(
        "demo, after a wall is dragged",
        edited(demo, lambda p, i: wall_edits.drag_walls(p, ("wall-16",), 0.0, 25.4 * i)),
    )
    east = edited(demo, lambda p, i: wall_edits.drag_walls(p, ("wall-3",), 25.4 * i, 0.0))
    row("demo, after its whole east side is", east, "9 walls on two storeys move along")
    floors = edits.remove_all(demo, tuple(roof.id for roof in demo.roofs))
    row("demo without its roofs, from cold", timed(lambda: derive(floors)), f"{len(derive(floors).members())} members")
    row(
        "the same, after an axis moves",
        edited(floors, lambda p, i: grid_edits.set_axis_gap(p, "grid-1", "x2", 4000.0 + i)),
    )
    ground = edits.remove_all(demo, tuple(x.id for x in (*demo.roofs, *demo.floors, *demo.beams)))
    row(
        "its walls and foundations alone, the same",
        edited(ground, lambda p, i: grid_edits.set_axis_gap(p, "grid-1", "x2", 4000.0 + i)),
        f"{len(derive(ground).members())} members",
    )
    row("demo, after the soil value changes", edited(demo, lambda p, i: edits.set_loads(p, soil_bearing=70.0 + i)))
    row(
        "demo, after a step moves",
        edited(demo, lambda p, i: foundation_edits.change_step(p, "foundation-3", 5, at=4300.0 + 10.0 * i)),
    )
    for feet in (300, 1200, 4000):
        house = long_house(feet)
        count = len(derive(house).members())
        cold = timed(lambda house=house: derive(house), 3)
        row(f"{count} members, cold", cold, f"{cold / count * 1000:.0f} us a member")
        row(f"{count} members, roof changed", edited(house, lambda p, i: edits.change(p, "r", pitch=0.5 + 0.01 * i)))
        row(f"{count} members, one load changed", edited(house, lambda p, i: edits.set_loads(p, frost_depth=700.0 + i)))
    whole, made = tower(20), derive(tower(20))
    joists = sum(piece.role == "joist" for piece in made.pieces.values())
    cold = timed(lambda: derive(whole), 3)
    count = len(made.members())
    row(
        f"{count} members in 20 storeys, cold",
        cold,
        f"{cold / count * 1000:.0f} us a member; {joists} joists, 800 beams",
    )
    _forty_corners()
    _trusses()
    model = derive(demo)
    row("sheets of plans of the demo", timed(lambda: plan_sheets(model), 3))
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "demo.ifc"
        row("IFC export of the demo", timed(lambda: write_ifc(model, path), 3))
        _architects_file(Path(folder))
    _window()
    yardstick()


def _architects_file(folder: Path) -> None:
    """Read a large file of plain walls and windows, as an architect's program might write it."""
    foot, head = Hang(level="level-1"), Hang(level="level-1", offset=2600.0)
    walls: list[Wall] = []
    openings: list[Opening] = []
    for i, j in itertools.product(range(57), range(57)):
        x, y = i * 12_000.0, j * 9_000.0
        corners = ((x, y), (x + 9_000.0, y), (x + 9_000.0, y + 6_000.0), (x, y + 6_000.0))
        for k in range(4):
            (ax, ay), (bx, by) = corners[k], corners[(k + 1) % 4]
            n = len(walls) + 1
            places = FreePoint(x=ax, y=ay), FreePoint(x=bx, y=by)
            walls.append(
                Wall(id=f"wall-{n}", start=places[0], end=places[1], buildup="framed-2x6", foot=foot, head=head)
            )
            openings.append(
                Opening(
                    id=f"o-{n}", wall=f"wall-{n}", kind="window", offset=1500.0, width=1200.0, height=1200.0, sill=900.0
                )
            )
    town = replace(edits.new_project("Town"), walls=tuple(walls), openings=tuple(openings))
    lines = wall_lines(town.walls, town.buildups, town.grids, town.levels)
    joints = {w: Joints(tuple((0.0, line.band.length) for _ in line.band.layers)) for w, line in lines.items()}
    model = replace(derive(edits.new_project("Town")), project=town, lines=lines, joints=joints)
    path = folder / "town.ifc"
    write_ifc(model, path)
    size = path.stat().st_size / 1e6
    row(f"reading an IFC of {size:.0f} MB", timed(lambda: read_ifc(path), 1), f"{len(walls)} walls with a window each")


_START = """
import gc, time; t = time.perf_counter()
gc.disable()  # as the program does until its window stands
from PySide6.QtWidgets import QApplication
from balken.app.look import dress
from balken.session.session import Session
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
window.views.show_view("space"); app.processEvents(); window.space.picture.render()
print((time.perf_counter() - t) * 1000)
t = time.perf_counter()
for i in range(5):
    window.space.picture.orbit(5.0, 0.0); window.space.picture.render()
print((time.perf_counter() - t) * 200)
from balken.model import edits
found = []
for i in range(1, 12):
    t = time.perf_counter()
    window.session.apply("x", lambda p: edits.change(p, p.openings[0].id, width=1000.0 + 10.0 * i))
    app.processEvents(); window.space.picture.render()
    found.append((time.perf_counter() - t) * 1000)
print(sorted(found)[len(found) // 2])
"""
)


def _run(code: str) -> str:
    """Return what a program printed, its modules compiled before as they are where Balken is installed."""
    env = {k: v for k, v in os.environ.items() if k != "PYTHONDONTWRITEBYTECODE"}
    env["PYTHONPYCACHEPREFIX"] = _COMPILED.name
    if not any(Path(_COMPILED.name).iterdir()):
        subprocess.run([sys.executable, "-c", _START], capture_output=True, check=True, env=env)
    return subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True, env=env).stdout


_COMPILED = tempfile.TemporaryDirectory(prefix="balken-bench-")


_EDIT = (
    _START.replace("print", "pass #")
    + """
from balken.app.run import spare_the_collector
from balken.model import edits, foundation_edits, grid_edits, wall_edits
spare_the_collector()
window.set_stage(STAGE); app.processEvents()
found = []
for i in range(1, 22):
    t = time.perf_counter()
    window.session.apply("x", lambda p: CHANGE)
    app.processEvents()
    found.append((time.perf_counter() - t) * 1000)
print(sorted(found)[len(found) // 2], min(found))
"""
)


def _shown(what: str, stage: int, change: str) -> None:
    """Print the time from an edit until every view shows it: the median of 21 edits and the quickest."""
    code = _EDIT.replace("STAGE", str(stage)).replace("CHANGE", change)
    out = _run(code)
    median, quickest = out.split()[-2:]
    row(f"{what}, every view current", float(median), f"quickest {float(quickest):.1f}")


_TYPE = (
    _START.replace("print", "pass #")
    + """
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from balken.app.run import spare_the_collector
spare_the_collector()
window.set_stage(STAGE); window.session.select([REF]); app.processEvents()
tried, made = [], []
for i in range(1, 22):
    field = window.card.entries[FIELD]
    field.setFocus(); field.selectAll(); QTest.keyClicks(field, TEXT)
    t = time.perf_counter()
    window.card._pause.stop(); window.card._try_typed(); app.processEvents()
    tried.append((time.perf_counter() - t) * 1000)
    QTest.qWait(150)
    t = time.perf_counter()
    QTest.keyClick(field, Qt.Key.Key_Return); app.processEvents()
    made.append((time.perf_counter() - t) * 1000)
print(sorted(tried)[len(tried) // 2], sorted(made)[len(made) // 2], min(made))
"""
)


def _typed(what: str, stage: int, ref: str, field: str, text: str) -> None:
    """Print how long a value typed in the card takes to be shown dashed, and from Enter until every view shows it."""
    code = _TYPE.replace("STAGE", str(stage)).replace("REF", repr(ref)).replace("FIELD", repr(field))
    code = code.replace("TEXT", text)
    out = _run(code)
    tried, made, quickest = out.split()[-3:]
    row(f"{what} typed, shown dashed", float(tried))
    row(f"{what} typed, every view from Enter", float(made), f"quickest {float(quickest):.1f}")


_SLOPE = (
    "import sys; sys.path.insert(0, BENCH)\nfrom bench import forty_corners\n"
    + _START.replace("orchard_road()", "forty_corners()").replace("print", "pass #")
    + """
from PySide6.QtCore import QPointF
from PySide6.QtTest import QTest
from PySide6.QtCore import Qt
from balken.app.run import spare_the_collector
from balken.derive.roof_sketch import cut_faces
from balken.documents.cross_section import cut_view, effective_cut
spare_the_collector()
window.set_stage(4); window.session.select(["r"]); app.processEvents()
strip, model = window.strip, window.session.model
(ax, az), (bx, bz) = cut_faces(model.surfaces[0], cut_view(effective_cut(model)))[0][1]
at = strip.to_widget(((ax + bx) / 2.0, (az + bz) / 2.0)).toPoint()
QTest.mousePress(strip, Qt.MouseButton.LeftButton, pos=at)
found = []
for i in range(1, 22):
    t = time.perf_counter()
    QTest.mouseMove(strip, at - QPointF(0, 5 + 2 * i).toPoint()); app.processEvents()
    found.append((time.perf_counter() - t) * 1000)
assert window.session.sketch is not None and not window.session.sketch.problem
print(sorted(found)[len(found) // 2], min(found))
"""
)


def _window() -> None:
    yardstick()
    _shown("a wall dragged", 1, 'wall_edits.drag_walls(p, ("wall-16",), 0.0, 25.4)')
    _shown("soil value changed", 2, "edits.set_loads(p, soil_bearing=70.0 + i)")
    moved = 'foundation_edits.change_step(p, "foundation-3", 5, at=4300.0 + 10.0 * i)'
    _shown("a step moved", 2, moved)
    _shown("an axis moved", 2, 'grid_edits.set_axis_gap(p, "grid-1", "x2", 4000.0 + i)')
    _typed("an axis's gap", 2, "grid-1/x2", "From axis 1", 'f"{4000 + i}mm"')
    _typed("a step's place", 2, "foundation-3/step/5", "From the start corner", 'f"{4300 + 10 * i}mm"')
    yardstick()
    start = _run(_START)
    row("window with the demo, first shown", float(start.split()[-1]))
    space = _run(_SPACE).split()
    dragged = _run(_SLOPE.replace("BENCH", repr(str(Path(__file__).parent)))).split()
    row(
        "40 corners, a slope dragged",
        float(dragged[-2]),
        f"plan and strip, each move; quickest {float(dragged[-1]):.1f}",
    )
    row("3-D, first frame (with the probe)", float(space[-3]))
    row("3-D, a frame while orbiting", float(space[-2]))
    row("3-D, after an opening moves, shown first", float(space[-1]))


if __name__ == "__main__":
    main()
