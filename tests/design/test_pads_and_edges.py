"""Pads cast with strips, thickened edges, walls taken out of foundations, dragged corners, texts in tables."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from openpyxl import load_workbook
from tests.houses import house

from balken.derive import derive
from balken.exchange import list_files
from balken.geometry.plane import distance, unit
from balken.mending import run_fix
from balken.model import edits, foundation_edits, storey_edits, wall_edits
from balken.model.errors import EditError
from balken.model.lookup import locate
from balken.model.records import FreePoint, Hang, Pad, Step
from balken.units import Units
from balken.units.system import FOOT, INCH, POUND_FORCE, PSF


def test_a_pad_over_a_strip_is_found_and_made_one_with_it():
    """It then carries its column and the wall over its width: q = (P + w B + W)/B2 by hand."""
    p = house()
    foundation = p.foundations[0]
    pad = Pad(
        id="pad-1", place=FreePoint(x=4000.0, y=0.0), top=foundation.foot, head=foundation.head, pier=0.0,
        dead=6000 * POUND_FORCE, live=6000 * POUND_FORCE,
    )  # fmt: skip
    p = edits.add(p, pad)
    model = derive(p)
    alone = model.pads["pad-1"].design.width
    finding = next(f for f in model.findings if f.code == "pad over strip")
    q = run_fix(p, finding.fix)
    joined = derive(q)
    assert not [f for f in joined.findings if f.code == "pad over strip"]
    made = joined.pads["pad-1"].design
    assert made.width > alone
    line = joined.footings["foundation-1/wall-1"].line
    whole = max(
        12_000 * POUND_FORCE + (line.dead + line.live) * made.width,
        6000 * POUND_FORCE * 1.75 + (line.dead + 0.75 * line.live + 0.75 * line.snow) * made.width,
    )
    own = 2400 * 9.80665e-9 * made.width**2 * made.thickness
    assert made.pressure == pytest.approx((whole + own) / made.width**2 * 1000, rel=0.02)
    assert made.works
    assert joined.path.arrived.all == pytest.approx(joined.path.applied.all, rel=1e-9)


def test_a_thickened_edge_is_as_wide_as_a_footing():
    p = edits.add_level(house(), "level-1", -11.5 * INCH, "Slab", "slab")
    foundation = p.foundations[0]
    bare = edits.remove(p, foundation.id)
    laid = foundation_edits.lay(bare, edits.with_fields(foundation, {"kind": "thickened edge"}), p.levels[-1].id)
    assert laid.foundations[0].thickness >= 12 * INCH - 1e-6
    laid = edits.set_loads(laid, soil_bearing=2000 * PSF)
    narrow = edits.change(laid, foundation.id, thickness=8 * INCH)
    found = [f for f in derive(narrow).findings if f.code == "narrow edge"]
    assert len(found) == 1
    assert not [f for f in derive(run_fix(narrow, found[0].fix)).findings if f.code == "narrow edge"]


def test_only_walls_of_its_storey_are_offered_to_a_foundation():
    p = house(middle=True)
    p = edits.change(p, "foundation-1", walls=("wall-1", "wall-2", "wall-3"))
    p = edits.add_level(p, "level-2", 11.25 * INCH, "Floor 2", "floor")
    p = edits.add_level(p, p.levels[-1].id, 8 * FOOT, "Plate 2", "plate")
    p = storey_edits.next_storey(p, tuple(w.id for w in p.walls), p.levels[-2].id, p.levels[-1].id)
    assert len(p.walls) == 10
    assert foundation_edits.could_stand_on(p, p.foundations[0]) == ("wall-4", "wall-5")


def test_a_wall_can_be_taken_out_from_under_a_foundation():
    p = edits.change(house(), "foundation-1", steps=(Step(wall="wall-2", at=2000.0, drop=200.0),))
    q = foundation_edits.take_wall_out(p, "foundation-1", "wall-2")
    assert q.foundations[0].walls == ("wall-1", "wall-3", "wall-4")
    assert q.foundations[0].steps == ()
    with pytest.raises(EditError, match="does not stand"):
        foundation_edits.take_wall_out(q, "foundation-1", "wall-2")


def triangle():
    p = edits.new_project("Triangle", units=Units.METRIC)
    p = edits.add_level(p, "level-1", 2500.0, "Plate", "plate")
    corners = ((0.0, 0.0), (9000.0, 0.0), (2500.0, 6200.0))
    for i, a in enumerate(corners):
        p = edits.add_wall(p, a, corners[(i + 1) % 3], "framed-2x6", Hang(level="level-1"), Hang(level="level-2"))
    return p


def ends(p, wall):
    return locate(wall.start, p.grids), locate(wall.end, p.grids)


@given(st.sampled_from(["wall-1", "wall-2", "wall-3"]), st.floats(-1500.0, 1500.0), st.floats(-1500.0, 1500.0))
def test_dragging_a_wall_turns_none(wall, dx, dy):
    p = triangle()
    try:
        q = wall_edits.drag_walls(p, (wall,), dx, dy)
    except EditError:
        return
    for before, after in zip(p.walls, q.walls, strict=True):
        d, e = unit(*ends(p, before)), unit(*ends(q, after))
        assert math.hypot(d[0] - e[0], d[1] - e[1]) < 1e-6
    for i, w in enumerate(q.walls):
        assert distance(ends(q, w)[1], ends(q, q.walls[(i + 1) % 3])[0]) < 1e-3


def test_names_from_elsewhere_stay_text(tmp_path):
    """A level called =1+1, or a link, is a text in every table."""
    p = house()
    for k, name in enumerate(("=1+1", "https://example.invalid/x", "@SUM(A1)", "+1")):
        p = edits.change(p, p.levels[k].id, name=name)
    model = derive(p)
    xlsx, csv = tmp_path / "a.xlsx", tmp_path / "a.csv"
    list_files.write_xlsx(model, xlsx)
    list_files.write_csv(model, csv)
    for page in load_workbook(xlsx):
        for row in page.iter_rows():
            for cell in row:
                assert cell.data_type != "f"
                assert cell.hyperlink is None
    for line in csv.read_text().splitlines()[1:]:
        assert not any(cell.lstrip('"')[:1] in ("=", "@", "+") for cell in line.split(","))
