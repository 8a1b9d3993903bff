"""Hangers of what does not hang square: how much it is turned, by hand; what is chosen; what is said where none is made for it."""

import math

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from tests.design.test_hangers import with_flush_beam
from tests.framing.test_truss_hips import hipped
from tests.houses import house

from balken.catalog.hangers import HEADINGS, TURNED, made_up, made_up_of_trusses
from balken.derive import derive
from balken.documents.joist_schedule import hanger_schedule
from balken.exchange.file_errors import FileError
from balken.exchange.hanger_list import read_hangers
from balken.geometry.plane import off_square, turn
from balken.model import edits
from balken.model.beam_edits import add_beam
from balken.model.errors import EditError
from balken.model.hanger_edits import take_hangers
from balken.model.naming import truss_number
from balken.model.records import Choice, FreePoint, Hang
from balken.units.system import FOOT, INCH


def test_how_much_it_is_turned_by_hand():
    """Northward to a wall along the east: what comes from the south-east comes from the right."""
    assert off_square((0.0, 1.0), (1.0, 0.0)) == 0.0
    half = math.sqrt(0.5)
    assert off_square((-half, half), (1.0, 0.0)) == 45.0
    assert off_square((half, half), (1.0, 0.0)) == -45.0
    # Seen from the other side of the wall.
    assert off_square((half, -half), (1.0, 0.0)) == 45.0


@given(st.floats(-180.0, 180.0), st.floats(-75.0, 75.0), st.booleans())
def test_it_is_the_same_however_both_lie(angle, aslant, flip):
    assume(abs(aslant) > 0.1)
    on = turn((1.0, 0.0), angle)
    way = turn(turn(on, 90.0), aslant)
    assert off_square(way, on if flip else (-on[0], -on[1])) == pytest.approx(aslant, abs=0.051)


def test_at_hips_jacks_and_corner_girders_hang_turned():
    """Planes at 6:12: hips run at 45 degrees in plan; an end at 9:12 has them nearer to its eave, atan(6/9) off the other way."""
    made = derive(hipped())
    trusses = made.trusses["roof-1"]
    by_make = {}
    for one in made.hangers:
        place = trusses.places[truss_number(one.member)]
        on = trusses.places[truss_number(one.on)]
        by_make.setdefault((place.make, on.make), set()).add(abs(one.turned))
        assert one.hanger
        row = next(row for row in made_up_of_trusses() if row.name == one.hanger)
        assert (row.turned_to > 0.0) == (one.turned != 0.0)
    assert by_make == {("jack", "girder"): {0.0}, ("jack", "corner"): {45.0}, ("corner", "girder"): {45.0}}
    steep = derive(hipped(end=0.75))
    trusses = steep.trusses["roof-1"]
    turned = {
        round(abs(one.turned), 1) for one in steep.hangers if trusses.places[truss_number(one.member)].make == "corner"
    }
    # The hip runs in by 6 where it runs along by 9: off the girder's face by as much.
    assert turned == {round(math.degrees(math.atan(9.0 / 6.0)), 1)}
    rows = [row[0] for row in hanger_schedule(made).rows]
    assert any("45\u00b0 from the right" in name for name in rows)
    assert any("45\u00b0 from the left" in name for name in rows)


def test_a_list_without_such_is_told(tmp_path):
    square = [row for row in made_up_of_trusses() if row.turned_to == 0.0]
    model = derive(take_hangers(hipped(), square))
    told = [f.what for f in model.findings if f.code == "hanger"]
    assert any("45\u00b0 from square" in what for what in told)
    assert all(one.hanger for one in model.hangers if one.turned == 0.0)
    # And one that is made for nothing else holds nothing that hangs square.
    turned = [row for row in made_up_of_trusses() if row.turned_to > 0.0]
    model = derive(take_hangers(hipped(), turned))
    assert any("hangs square" in f.what for f in model.findings if f.code == "hanger")
    good = tmp_path / "mine.csv"
    head = ",".join((*HEADINGS, *TURNED))
    good.write_text(f"{head}\nM 1,1.5,5.5,12,2,1500,300,2.5,10,50\n", encoding="utf-8")
    (row,) = read_hangers(good)
    assert (row.turned_from, row.turned_to) == (10.0, 50.0)
    assert take_hangers(model.project, [row]).hangers[0].turned_to == 50.0
    for text in (
        "M 1,1.5,5.5,12,2,1500,300,2.5,50,10",
        "M 1,1.5,5.5,12,2,1500,300,2.5,0,95",
        "M 1,1.5,5.5,12,2,1500,300,2.5",
    ):
        good.write_text(f"{head}\n{text}\n", encoding="utf-8")
        with pytest.raises(FileError, match="line 2"):
            read_hangers(good)
    with pytest.raises(EditError):
        take_hangers(model.project, [row._replace(turned_to=5.0)])


def test_joists_and_beams_that_come_aslant():
    """A flush beam whose far end lies 8 ft out of square over 30 ft: every joist meets it at atan(8/30); a beam 30 degrees off another."""
    p = with_flush_beam()
    p = edits.change(p, "beam-1", end=FreePoint(x=30.0 * FOOT, y=6.0 * FOOT), start=FreePoint(x=0.0, y=14.0 * FOOT))
    model = derive(p)
    mine = [one for one in model.hangers if one.on == "beam-1"]
    assert mine
    assert {abs(one.turned) for one in mine} == {round(math.degrees(math.atan(8.0 / 30.0)), 1)}
    assert {one.turned > 0.0 for one in mine} == {True, False} or len({one.turned for one in mine}) == 1
    names = {row.name for row in made_up() if row.turned_to > 0.0}
    assert all(one.hanger in names for one in mine if one.hanger)
    p = house(long=40.0 * FOOT, joists=Choice(size="2x10", spacing=16.0 * INCH))
    level = Hang(level="level-1", offset=-14.0 * INCH)
    p = add_beam(p, (50.0, 10.0 * FOOT), (40.0 * FOOT - 50.0, 10.0 * FOOT), level, size="4-2x12")
    foot = 20.0 * FOOT + 10.0 * FOOT * math.tan(math.radians(30.0))
    p = add_beam(p, (foot, 50.0), (20.0 * FOOT, 10.0 * FOOT), level, size="3-2x10")
    (one,) = derive(p).hangers
    assert one.turned == pytest.approx(30.0, abs=0.5)
    assert one.hanger in names
