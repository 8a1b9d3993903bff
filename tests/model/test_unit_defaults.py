"""Metric projects begin with round figures in millimetres; a project that has content is only shown in others."""

import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as st

from balken.demo import orchard_road
from balken.model import edits
from balken.model.records import COLLECTIONS, Column, Floor, Foundation, FreePoint, Hang, Opening, Roof, Slab, Wall
from balken.model.rules import check
from balken.model.unit_defaults import fitted, in_units, is_bare, metric
from balken.session.tool_settings import Settings
from balken.units import Units
from balken.units.system import FOOT, INCH, PSF

ROUND = [(4 * INCH, 100), (8 * INCH, 200), (12 * INCH, 300), (16 * INCH, 400), (24 * INCH, 600), (3 * FOOT, 900), (4 * FOOT, 1200),
         (8 * FOOT, 2400), (10 * FOOT, 3000), (22.5 * INCH, 550)]  # fmt: skip


@pytest.mark.parametrize(("value", "figure"), ROUND)
def test_round_figures(value, figure):
    assert metric(value) == figure


@given(st.floats(20.0, 5000.0))
def test_never_far_off(value):
    assert abs(metric(value) - value) <= max(0.145 * value, 2.6)


def test_every_length_of_every_new_record_is_round():
    """But for what is bought in sizes of its own."""
    for kind in COLLECTIONS:
        needed = {f.name for f in msgspec.structs.fields(kind) if f.required}
        if needed - {"id", "name"}:
            continue
        made = fitted(kind(**dict.fromkeys(needed, "x")), Units.METRIC)
        for field in msgspec.structs.fields(kind):
            value = getattr(made, field.name)
            if (
                isinstance(value, float)
                and value > 20.0
                and field.name not in ("deck", "subbase")
                and kind is not Column
            ):
                assert value % 5.0 == pytest.approx(0.0), (kind.__name__, field.name, value)


def test_a_new_project_in_millimetres():
    p = edits.new_project(units=Units.METRIC)
    assert (p.units, p.steps) == (Units.METRIC, Units.METRIC)
    assert p.loads.floor_live == 2.0
    assert p.loads.soil_bearing == 70.0
    assert p.loads.frost_depth == 800.0
    assert p.stock_length == 4800.0
    usual = edits.new_project().loads
    for name in ("floor_live", "roof_dead", "roof_live", "ground_snow", "ceiling_dead", "attic_live", "wind"):
        assert getattr(p.loads, name) >= getattr(usual, name) - 1e-9  # to the safe side
    assert p.loads.soil_bearing <= usual.soil_bearing == pytest.approx(1500.0 * PSF)
    # Earth, concrete and block are round figures too: earth no lighter, block no stronger.
    old = edits.new_project()
    assert (p.soil.weight, p.soil.fluid) == (19.0, 9.5)
    assert p.soil.weight > old.soil.weight
    assert p.soil.fluid > old.soil.fluid
    assert (p.concrete.fc, p.concrete.fy, p.masonry.strength) == (20.0, 420.0, 13.5)
    assert p.masonry.strength < old.masonry.strength


def test_a_bare_project_is_switched_whole_and_back():
    p = edits.new_project()
    there = edits.set_units(p, Units.METRIC)
    assert there == check(edits.new_project(units=Units.METRIC))
    assert edits.set_units(there, Units.IMPERIAL) == check(p)
    typed = edits.set_loads(p, floor_live=5.0)
    assert edits.set_units(typed, Units.METRIC).loads.floor_live == 5.0


def test_what_has_content_is_only_shown_in_others():
    p = orchard_road()
    assert not is_bare(p)
    shown = edits.set_units(p, Units.METRIC)
    assert shown.steps is Units.IMPERIAL
    assert shown.loads == p.loads
    assert msgspec.structs.replace(shown, units=Units.IMPERIAL) == p


def test_what_is_added_is_round_and_what_is_typed_stays():
    p = edits.new_project(units=Units.METRIC)
    p = edits.add(p, Wall(id="wall-1", start=FreePoint(x=0, y=0), end=FreePoint(x=9000, y=0), buildup="framed-2x6",
                          foot=Hang(level="level-1"), head=Hang(level="level-1", offset=2400.0)))  # fmt: skip
    assert p.walls[0].framing.spacing == 400.0
    p = edits.add(
        p,
        Foundation(
            id="foundation-1",
            name="F",
            walls=("wall-1",),
            head=Hang(level="level-1"),
            foot=Hang(level="level-1", offset=-1200.0),
        ),
    )
    assert (p.foundations[0].thickness, p.foundations[0].footing_depth) == (200.0, 250.0)
    assert (
        fitted(Roof(id="r", name="R", walls=(), bearing=Hang(level="level-1"), overhang=512.0), Units.METRIC).overhang
        == 512.0
    )
    assert (
        fitted(Roof(id="r", name="R", walls=(), bearing=Hang(level="level-1")), Units.METRIC).trusses.spacing == 600.0
    )
    assert in_units(p, Units.METRIC) == p
    assert {Floor, Slab, Opening} <= set(COLLECTIONS)


def test_tool_settings_go_with_them():
    settings = Settings.fresh()
    settings.fit(Units.METRIC)
    assert (settings.opening.width, settings.opening.sill, settings.drop) == (1200.0, 900.0, 300.0)
    settings.opening.width = 1000.0
    settings.fit(Units.IMPERIAL)
    assert settings.opening.width == 1000.0
    assert settings.opening.sill == pytest.approx(3.0 * FOOT)
