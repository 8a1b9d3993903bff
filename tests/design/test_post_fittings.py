"""Caps and bases of timber posts chosen from a list: what comes to each, what fits, what is said where none does."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.houses import house

from balken.catalog.beams import beam_section
from balken.catalog.post_fittings import made_up
from balken.catalog.post_shapes import post_shape
from balken.derive import derive
from balken.design.beam_posts import girder_on_posts
from balken.documents.fitting_schedule import fitting_schedule
from balken.model import edits
from balken.model.beam_edits import add_beam
from balken.model.records import Choice, Hang
from balken.units.system import FOOT, INCH

LONG, WIDE = 24 * FOOT, 24 * FOOT


def with_girder(size="3-2x12", post="6x6", made_of="sawn", **loads):
    p = house(long=LONG, wide=WIDE, joists=Choice(size="2x10", spacing=16 * INCH), **loads)
    p = girder_on_posts(p, "floor-1", (50.0, WIDE / 2), (LONG - 50.0, WIDE / 2), 7.0 * FOOT)
    p = edits.change(p, "beam-1", made_of=made_of, size=size)
    for column in p.columns:
        p = edits.change(p, column.id, size=post)
    return p


def of(model, use):
    return [one for one in model.fittings if one.use == use]


def test_the_cheapest_that_fits_and_carries():
    """Caps for a post of 5 1/2 in under a beam of 4 1/2 in; what comes to each is the beam's seat, by any arrangement."""
    model = derive(with_girder())
    made = model.path.beams["beam-1"]
    caps = {one.column: one for one in of(model, "cap")}
    assert set(caps) == set(model.path.columns)
    assert len(caps) >= 3
    for seat, whole, beyond in zip(made.seats, made.design.reactions, made.design.extremes, strict=True):
        if seat.on in caps:
            one = caps[seat.on]
            assert one.load == whole
            assert one.most == pytest.approx(whole.dead + whole.live + beyond.more.live)
            row = next(row for row in made_up() if row.name == one.fitting)
            assert (row.post, row.beam) == (pytest.approx(5.5 * INCH), pytest.approx(4.5 * INCH))
            assert one.used == pytest.approx(one.most / row.down)
    for one in of(model, "base"):
        post = model.posts[one.column]
        assert one.load == pytest.approx(model.path.columns[one.column].foot)
        assert one.most >= post.own.dead + one.load.live
        strong = [r for r in made_up() if r.use == "base" and abs(r.post - 5.5 * INCH) < 1.0 and r.down >= one.most]
        assert one.fitting == min(strong, key=lambda r: r.price).name


def test_a_heavier_load_takes_a_stronger_base():
    light, heavy = (derive(with_girder(size="4-2x12", post="4x4", floor_live=q)) for q in (1.0, 7.5))
    for a, b in zip(of(light, "base"), of(heavy, "base"), strict=True):
        assert b.most > a.most
    assert {one.fitting for one in of(light, "base")} == {"FT 3.5"}
    assert "FT 3.5H" in {one.fitting for one in of(heavy, "base")}


def test_what_the_list_has_none_for():
    model = derive(with_girder(post="8x8", size="3-2x12"))  # no cap for 7 1/2 on 4 1/2
    assert all(not one.fitting and "fits them" in one.why for one in of(model, "cap"))
    assert all(one.fitting for one in of(model, "base"))
    said = [f for f in model.findings if f.code == "post fitting"]
    assert len(said) == len(of(model, "cap"))
    assert not any(f.grave for f in said)
    assert fitting_schedule(model).rows[-1][0] == "cap: none fits"


def test_steel_has_none():
    """Cap plates of steel are not designed, and said not to be; a timber post under steel has its base."""
    model = derive(with_girder(size="W8x18", made_of="W"))
    assert of(model, "cap") == []
    assert of(model, "base")


def test_two_beams_on_one_post():
    p = with_girder()
    x, y = model_place(p, "column-2")
    p = add_beam(p, (x, y + 60.0), (x, WIDE - 50.0), Hang(level="level-1", offset=-10.9 * INCH), size="2-2x8")
    model = derive(p)
    caps = [one for one in of(model, "cap") if one.column == "column-2"]
    if len(caps) > 1:
        assert all(one.why == "more than one beam lies on it" for one in caps)
    else:  # the second hangs on the first
        assert any(one.on == "beam-1" for one in model.hangers)


def model_place(p, column):
    return derive(p).path.columns[column].stand.at


def test_the_schedule_counts_each():
    model = derive(with_girder())
    rows = fitting_schedule(model).rows
    assert sum(int(row[1]) for row in rows) == len(model.fittings)


@settings(max_examples=20)
@given(
    size=st.sampled_from(["2-2x12", "3-2x10", "4-2x12"]),
    post=st.sampled_from(["4x4", "4x6", "6x6", "8x8", "3-2x6", "2-2x4"]),
    live=st.floats(0.0, 6.0),
)
def test_what_is_chosen_always_fits_and_carries(size, post, live):
    model = derive(with_girder(size=size, post=post, floor_live=live))
    shape, beam = post_shape(post), beam_section(size)
    for one in model.fittings:
        row = next((row for row in made_up() if row.name == one.fitting), None)
        if row is None:
            assert one.why
            continue
        assert any(0.0 <= row.post - side + 0.1 <= 1.8 for side in (shape.breadth, shape.depth))
        assert one.use == "base" or 0.0 <= row.beam - beam.breadth + 0.1 <= 1.8
        assert one.most <= row.down
        assert one.lifts <= row.up
        assert 0.0 <= one.used <= 1.0
