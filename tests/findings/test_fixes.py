"""Fixes: applying one makes its finding go, or it is not offered; mending all ends, and wrecks nothing."""

import json

from hypothesis import example, given, settings
from hypothesis import strategies as st
from tests.framing.test_steps_of_any_outline import stepped_house
from tests.houses import house

from balken.cli import main
from balken.demo import orchard_road
from balken.derive import derive
from balken.exchange import project_file
from balken.mending import mend_alike, mend_all, run_fix, same
from balken.model import column_edits, edits, foundation_edits, grid_edits, wall_edits
from balken.model.errors import EditError
from balken.model.records import Choice, FreePoint, Hang, Pad, Project
from balken.units.system import FOOT, INCH, PSF

BREAKS = (
    lambda p, x: edits.set_level(p, "level-4", -1500.0 + 1500.0 * x),
    lambda p, x: edits.change(p, "foundation-1", footing_width=250.0 + 600.0 * x),
    lambda p, x: edits.change(p, "foundation-1", footing_depth=150.0 + 300.0 * x),
    lambda p, x: edits.change(p, "foundation-1", footing_offset=-300.0 + 600.0 * x),
    lambda p, x: edits.change(p, "foundation-1", sill_size=("2x4", "2x10")[x > 0.5]),
    lambda p, x: edits.change(p, "foundation-1", inside_ground=None if x > 0.5 else 1500.0 * x),
    lambda p, x: edits.change(p, "foundation-1", bolt_spacing=500.0 + 2000.0 * x),
    lambda p, x: edits.change(p, "foundation-1", made_of="hollow block", thickness=7.625 * INCH),
    lambda p, x: edits.change(p, "foundation-1", kind=("basement", "thickened edge")[x > 0.5]),
    lambda p, x: edits.change(p, "foundation-1", foot__offset=-2500.0 * x),
    lambda p, x: edits.set_choice(p, "floor-1", "joists", size=("2x6", "2x8", "2x10", "2x12", None)[int(4.9 * x)]),
    lambda p, x: edits.set_choice(p, "floor-1", "joists", spacing=200.0 + 500.0 * x),
    lambda p, x: edits.set_choice(p, "roof-1", "rafters", size=("2x6", "2x8", "2x10", None)[int(3.9 * x)]),
    lambda p, x: edits.change(p, "roof-1", pitch=0.08 + 0.9 * x),
    lambda p, x: edits.change(p, "roof-1", ridge_size=("2x6", "2x8", "2x10")[int(2.9 * x)]),
    lambda p, x: edits.set_level(p, "level-2", 2000.0 + 1500.0 * x),
    lambda p, x: edits.set_level(p, "level-3", -500.0 + 300.0 * x),
    lambda p, x: edits.set_loads(p, floor_live=(20 + 100 * x) * PSF),
    lambda p, x: edits.set_loads(p, soil_bearing=(300 + 2000 * x) * PSF),
    lambda p, x: edits.set_loads(p, wind=(10 + 90 * x) * PSF),
    lambda p, x: edits.set_loads(p, ground_snow=(10 + 100 * x) * PSF),
    lambda p, x: edits.set_loads(p, frost_depth=300.0 + 1500.0 * x),
    lambda p, x: edits.set_soil(p, pressure="equivalent fluid", fluid=4.0 + 8.0 * x),
    lambda p, x: edits.set_concrete(p, bars=x > 0.5),
    lambda p, x: column_edits.add_spot(p, (0.0, 0.0), -1500.0 + 1000.0 * x),
    lambda p, x: column_edits.add_spot(p, (9000.0, 3000.0), -2500.0 + 1000.0 * x),
    lambda p, x: edits.add_opening(p, "wall-1", "window", FOOT + 4 * FOOT * x, (2 + 8 * x) * FOOT, 5 * FOOT, 2 * FOOT),
    lambda p, x: edits.change(p, "wall-1", framing__spacing=300.0 + 500.0 * x),
    lambda p, x: wall_edits.drag_walls(p, ("wall-2",), 2500.0 * (x - 0.5), 0.0),
    lambda p, x: edits.move_wall_end(p, "wall-2", "end", (9144.0 + 60.0 * x, 6096.0)),
    lambda p, x: edits.add_level(p, "level-1", 9000.0 * x - 3000.0, "Extra", "floor"),
    lambda p, x: foundation_edits.add_step(p, "foundation-1", "wall-1", 3000.0 * x + 500.0, 200.0 + 500.0 * x),
    lambda p, x: edits.remove(p, ("roof-1", "floor-1", "foundation-1", "wall-5")[int(3.9 * x)]),
    lambda p, x: edits.add(p, Pad(id="pad-1", place=FreePoint(x=4000.0 * x, y=9000.0 * x), top=Hang(level="level-5"),
                                  head=Hang(level="level-3"), width=500.0, dead=90_000.0 * x, push=20_000.0 * x,
                                  uplift=30_000.0 * (1 - x))),
    lambda p, x: edits.add(p, Pad(id="pad-2", place=FreePoint(x=4000.0 * x + 500.0, y=9000.0 * x), top=Hang(level="level-5"),
                                  head=Hang(level="level-3"), dead=90_000.0)),
)  # fmt: skip


def broken(p: Project, steps) -> Project:
    for k, x in steps:
        try:
            p = BREAKS[k](p, x)
        except (EditError, AttributeError):  # what it would change may be gone
            continue
    return p


ways = st.lists(st.tuples(st.integers(0, len(BREAKS) - 1), st.floats(0.0, 1.0)), min_size=1, max_size=4)


@settings(max_examples=60)
@given(ways, st.booleans())
@example([(17, 0.75), (18, 0.0), (31, 0.0)], True)  # wide footings side by side: no step at an end parts them
def test_a_fix_makes_its_finding_go(steps, middle):
    p = broken(house(middle=middle, joists=Choice(size=None)), steps)
    for finding in derive(p).findings:
        if finding.fix is None:
            continue
        after = derive(run_fix(p, finding.fix)).findings
        assert not [f for f in after if same(finding, f)], (finding.what, finding.why, finding.fix)


@settings(max_examples=15)
@given(ways, st.booleans())
def test_mending_all_ends_and_wrecks_nothing(steps, middle):
    p = broken(house(middle=middle, joists=Choice(size=None)), steps)
    before = derive(p).findings
    mended = mend_all(p)
    assert len(mended.remaining) <= len(before) + 2
    assert sum(f.grave for f in mended.remaining) <= sum(f.grave for f in before)
    assert derive(mended.project).findings == mended.remaining
    assert all(f.thickness <= 24 * INCH + 1 or f in p.foundations for f in mended.project.foundations)


def basement_before_its_floor():
    p = stepped_house("rectangle", 9000.0, 8000.0, 0.0, (0.0, 0.0, 0.0, 0.0))
    p = edits.add_level(p, "level-1", -2600.0, "Slab", "slab")
    p = edits.set_level(p, "level-5", -2700.0)
    return edits.change(p, "foundation-1", kind="basement")


def test_a_wall_whose_head_is_not_held_yet_says_so():
    p = basement_before_its_floor()
    found = [f for f in derive(p).findings if f.code == "not held"]
    assert found
    assert all(f.fix is None and "Lay the floor" in f.why for f in found)
    assert not [f for f in derive(p).findings if f.code == "earth"]
    mended = mend_alike(p, "not held")
    assert mended.foundations[0].thickness == p.foundations[0].thickness
    assert mend_all(p).project.foundations[0].thickness == p.foundations[0].thickness
    assert not any("00%" in f.what and "over" not in f.what for f in derive(p).findings)


def test_the_command_mends(tmp_path, capsys):
    p = orchard_road()
    p = edits.change(p, "foundation-1", bolt_spacing=72 * INCH)
    p = edits.change(p, "foundation-2", inside_ground=None, footing_width=12 * INCH)
    p = grid_edits.set_axis_gap(p, "grid-1", "x2", 13 * FOOT)
    source, out = tmp_path / "a.balken", tmp_path / "b.balken"
    project_file.save(p, source)
    before = source.read_bytes()
    assert main(["mend", str(source), "-o", str(out), "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert {row["code"] for row in told["applied"]} >= {"anchor bolts", "soil"}
    assert told["findings"] == []
    assert source.read_bytes() == before
    assert derive(project_file.load(out)).findings == ()
    assert main(["mend", str(source), "-o", str(out)]) == 0
    assert "fixes applied, 0 findings remain" in capsys.readouterr().out
    assert main(["mend", str(tmp_path / "none.balken"), "-o", str(out)]) == 2


def test_no_infinity_in_any_report(tmp_path, capsys):
    p = edits.change(house(), "foundation-1", footing_width=24 * INCH, footing_offset=8 * INCH)
    file = tmp_path / "boundary.balken"
    project_file.save(p, file)
    assert main(["build", str(file), "--json"]) == 0
    text = capsys.readouterr().out
    assert "Infinity" not in text
    assert "NaN" not in text
    assert max(row["used"] for row in json.loads(text)["used"].values()) <= 99.0
