"""Bars, formwork and excavation of ground works, counted by hand from the design."""

import csv
import math

import pytest
from tests.houses import house

from balken.catalog.bars import BARS
from balken.demo import orchard_road
from balken.derive import derive
from balken.documents.display import Text
from balken.documents.foundation_sheets import foundation_sheets
from balken.documents.quantities import BAR_STOCK, bar_rows, quantities, role_volume, run_volume
from balken.documents.quantity_lists import amount_text, marked_bars, quantity_rows
from balken.exchange.file_kinds import BY_NAME
from balken.model import edits
from balken.model.records import Slab
from balken.standards.us import aci
from balken.units import Units
from balken.units.system import FOOT, INCH


@pytest.fixture(scope="module")
def model():
    """A house on poor soil with a deep basement: footings and walls need bars."""
    p = house(40 * FOOT, 28 * FOOT, middle=True, floor_live=7.0, ground_snow=6.0, soil_bearing=40.0)
    p = edits.set_concrete(p, bars=True)
    p = edits.set_level(p, "level-5", -11 * FOOT)
    p = edits.add_level(p, "level-5", 8 * INCH, "Basement slab", "slab")
    p = edits.change(p, "foundation-1", kind="basement", footing_depth=None, footing_width=None)
    slab = Slab(id="slab-1", name="Slab", walls=tuple(w.id for w in p.walls[:4]), level=p.levels[-1].id)
    return derive(edits.add(p, slab))


def test_bars_of_footings_and_walls_are_counted_with_their_laps(model):
    made = quantities(model)
    run = next(r for r in model.runs if model.footings[r.id].design.reinforced)
    across = next(b for b in model.footings[run.id].design.bars if b.use == "across")
    row = next(b for b in made.bars if b.ref == f"{run.id}/footing" and b.use == "across")
    bar = BARS[across.number]
    assert row.count == math.ceil(run.length / across.spacing) + 1
    assert row.length == pytest.approx(across.cut_length)
    assert row.mass == pytest.approx(row.count * row.length / 1000.0 * bar.mass)
    assert (row.count - 1) * across.spacing >= run.length

    along = next(b for b in model.footings[run.id].design.bars if b.use != "across")
    long = next(b for b in made.bars if b.ref == f"{run.id}/footing" and b.use == along.use)
    lap = 1.3 * aci.development(BARS[along.number].diameter, model.project.concrete.fc, model.project.concrete.fy)
    pieces = long.count // along.count
    assert pieces > 1  # longer than a bar comes
    assert long.length <= BAR_STOCK
    assert long.count * long.length == pytest.approx(along.count * (run.length + (pieces - 1) * lap))

    walls = [b for b in made.bars if b.where.startswith("wall under")]
    assert walls
    assert any(model.earth_walls[r.id].reinforced for r in model.runs if r.id in model.earth_walls)
    assert made.steel == pytest.approx(sum(b.mass for b in made.bars))


def test_concrete_adds_up_and_is_dug_for(model):
    made = quantities(model)
    pieces = model.pieces.values()
    for row in made.concrete:
        assert row.volume == pytest.approx(sum(p.volume for p in pieces if p.role == row.role) * 1e-9)
        assert row.count == sum(p.role == row.role for p in pieces)
        assert role_volume(model, row.role) == pytest.approx(row.volume)
    footings = sum(run_volume(model, run.id) for run in model.runs)
    assert footings == pytest.approx(role_volume(model, "strip footing"))
    # The hole is at least the basement's plan times its depth under the ground.
    depth = model.ground.height((0.0, 0.0)) - min(p.solid.origin[2] for p in pieces if p.role == "slab")
    assert made.excavation > 40 * 28 * FOOT**2 * depth * 1e-9
    # Both faces of the walls are formed, less what touches footings and slab.
    walls = next(row for row in made.concrete if row.role == "foundation wall")
    tall = model.runs[0].band.top - model.runs[0].band.bottom
    both = 2.0 * sum(run.length for run in model.runs) * tall * 1e-6
    assert 0.8 * both < walls.formwork < 1.02 * both


def test_a_level_house_without_ground_has_no_excavation():
    p = edits.remove(house(), "level-4")
    made = quantities(derive(p))
    assert made.excavation == 0.0
    assert made.volume > 0.0


def test_bars_alike_have_one_mark_and_their_bends(model):
    assert any(m.one.hooks for m in _marked(derive(orchard_road())))  # its pads are hooked
    lapped = [m for m in _marked(model) if m.one.lap > 0.0]
    assert lapped
    assert all(m.one.length <= BAR_STOCK for m in lapped)


def _marked(model):
    rows, marks = bar_rows(model), marked_bars(model)
    assert sum(m.count for m in marks) == sum(r.count for r in rows)
    assert sum(m.mass for m in marks) == pytest.approx(sum(r.mass for r in rows))
    assert [m.mark for m in marks] == [f"R{n}" for n in range(1, len(marks) + 1)]
    for m in marks:
        diameter = BARS[int(m.one.size[1:])].diameter
        # A hook of 90 degrees, outside to outside: 12 diameters, the inside radius of three, the bar (ACI 318-19, Table 25.3.1).
        assert m.one.leg == (pytest.approx((12.0 + 3.0 + 1.0) * diameter) if m.one.hooks else 0.0)
        if m.one.hooks:
            assert m.one.straight + m.one.hooks * m.one.leg == pytest.approx(m.one.length)
    return marks


def test_quantities_are_listed_on_the_sheet_and_written(model, tmp_path):
    q, rows = quantities(model), quantity_rows(model)
    assert sum(r.amount for r in rows if r.item == "Concrete") == pytest.approx(q.volume)
    assert sum(r.amount for r in rows if r.item == "Bars, laps included") == pytest.approx(q.steel)
    concrete = next(r for r in rows if r.item == "Concrete")
    assert amount_text(concrete, Units.METRIC) == f"{concrete.amount:,.2f} m\u00b3"
    # 27 cubic feet a cubic yard.
    yards = concrete.amount / (0.3048**3 * 27.0)
    assert amount_text(concrete, Units.IMPERIAL) == f"{yards:,.1f} yd\u00b3"
    texts = {item.text for sheet in foundation_sheets(model) for item in sheet.items if isinstance(item, Text)}
    assert {m.mark for m in marked_bars(model)} <= texts
    assert {r.what for r in rows} <= texts
    for kind, marks in (("bars", {m.mark for m in marked_bars(model)}), ("quantities", {r.what for r in rows})):
        BY_NAME[kind].write(model, tmp_path / f"{kind}.csv", (), lambda done, of: None)
        with open(tmp_path / f"{kind}.csv", encoding="utf-8", newline="") as file:
            read = list(csv.reader(file))
        assert marks <= {cell for row in read[1:] for cell in row}
        assert all(len(row) == len(read[0]) for row in read)
