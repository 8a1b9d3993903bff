"""The set of sheets: every wall and section on it once, within the paper, drawings clear of one another."""

import itertools

import msgspec
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.houses import house

from balken.demo import orchard_road
from balken.derive import derive
from balken.documents.display import Drawing, Text
from balken.documents.elevation import elevation_sheets, framed_walls, marks_in
from balken.documents.flow import Room, flowed
from balken.documents.paper import number_of
from balken.documents.section_keys import keyed_sections
from balken.documents.sheet_set import drawings_in_rows, drawn, sheet_set
from balken.model import edits
from balken.model.lookup import wall_label
from balken.units import Units
from balken.units.system import FOOT


@pytest.fixture(scope="module")
def demo():
    return derive(orchard_road())


def test_each_sheet_has_its_own_number_and_kind_in_order(demo):
    pages = sheet_set(demo)
    numbers = [page.number for page in pages]
    assert len(set(numbers)) == len(numbers)
    kinds = [kind for kind, _ in itertools.groupby(pages, lambda page: page.kind)]
    assert kinds == ["plans", "walls", "foundations", "elevations", "beams", "roof", "decks", "framing"]
    assert numbers == [f"S-{n}" for n in range(1, len(pages) + 1)]
    assert len({(made.width, made.height) for made in drawn(pages)}) == 1
    for page, made in zip(pages, drawn(pages), strict=True):
        texts = {item.text for item in made.items if isinstance(item, Text)}
        assert {page.number, page.title} <= texts


def test_numbers_go_on_from_the_first():
    assert [number_of("S-1", k) for k in (0, 1, 9)] == ["S-1", "S-2", "S-10"]
    assert [number_of("A098", k) for k in (0, 1, 2)] == ["A098", "A099", "A100"]
    assert [number_of("Frame", k) for k in (0, 1)] == ["Frame", "Frame-2"]
    assert [number_of("", k) for k in (0, 1)] == ["1", "2"]


def test_every_framed_wall_stands_on_one_sheet_at_one_scale(demo):
    shown = [drawing for page in sheet_set(demo) if page.kind == "framing" for drawing in page.make().drawings]
    walls = [wall_label(demo.project, wall) for wall in framed_walls(demo)]
    assert [drawing.title for drawing in shown] == [f"{wall}, framing from outside" for wall in walls]
    assert len({drawing.scale for drawing in shown}) == 1
    assert sum(page.kind == "framing" for page in sheet_set(demo)) <= len(walls) / 4
    for drawing, wall in zip(shown, framed_walls(demo), strict=True):
        texts = {item.text for item in drawing.items if isinstance(item, Text)}
        assert {row.mark for row in marks_in(demo, wall)} <= texts


@pytest.mark.parametrize("long", [8.0, 120.0, 400.0])
def test_walls_of_any_length_stand_within_their_sheet(long):
    model = derive(house(long=long * FOOT))
    for page in sheet_set(model):
        x0, y0, x1, y1 = Drawing("", 1.0, page.make().items).box()
        assert (x0, y0) == pytest.approx((0.0, 0.0))
        assert page.kind != "framing" or (x1 <= page.make().width + 0.1 and y1 <= page.make().height + 0.1)


def test_a_wall_drawn_alone_keeps_its_sheet_number(demo):
    wall = framed_walls(demo)[4]
    (alone,) = elevation_sheets(demo, (wall,))
    assert "W-5" in {item.text for item in alone.items if isinstance(item, Text)}


def test_every_section_and_every_foundation_wall_is_drawn_once_within_the_paper(demo):
    titles = []
    for page in sheet_set(demo):
        made = page.make()
        x0, y0, x1, y1 = Drawing("", 1.0, made.items).box()
        assert (x0, y0) == pytest.approx((0.0, 0.0))
        assert (x1, y1) == pytest.approx((made.width, made.height))
        titles += [drawing.title for drawing in made.drawings]
    assert len(set(titles)) == len(titles) - 1  # the foundation plan also stands among the plans
    letters = {f"Section {key.letter}" for key in keyed_sections(demo)}
    assert letters <= set(titles)
    assert sum(title.startswith("Foundation under") for title in titles) == len(demo.runs)


sizes = st.lists(st.tuples(st.floats(5.0, 300.0), st.floats(5.0, 200.0)), min_size=1, max_size=25)


@given(sizes)
@settings(max_examples=80, deadline=None)
def test_flow_overlaps_nothing_and_leaves_no_room(found):
    room = Room(0, 12.0, 250.0, 200.0, 120.0)
    rooms = itertools.chain((room,), (Room(n, 10.0, 400.0, 300.0, 200.0) for n in itertools.count(1)))
    places = flowed(found, rooms, 6.0)
    assert [sheet for sheet, _ in places] == sorted(sheet for sheet, _ in places)
    boxes = [(s, x, y, x + w, y + h) for (s, (x, y)), (w, h) in zip(places, found, strict=True)]
    for a, b in itertools.combinations(boxes, 2):
        apart = a[3] <= b[1] or b[3] <= a[1] or a[4] <= b[2] or b[4] <= a[2]
        assert a[0] != b[0] or apart
    for sheet, x0, y0, x1, y1 in boxes:
        left, top, wide, high = (12.0, 250.0, 200.0, 120.0) if sheet == 0 else (10.0, 400.0, 300.0, 200.0)
        assert left <= x0
        assert x1 <= left + wide + 1e-6
        assert y1 <= top + 1e-6
        assert y0 >= top - high - 1e-6


def test_a_project_without_foundations_or_studs_has_only_the_first_sheet():
    pages = sheet_set(derive(edits.new_project("Empty")))
    assert [page.kind for page in pages] == ["plans"]


def test_metric_sheets_use_metric_scales():
    model = derive(msgspec.structs.replace(house(), units=Units.METRIC))
    scales = {drawing.scale for made in drawn(sheet_set(model)) for drawing in made.drawings}
    assert scales <= {1.0, 10.0, 20.0, 25.0, 50.0, 100.0, 200.0, 500.0}


def test_the_watch_is_told_and_can_stop(demo):
    told = []

    def watch(done, of):
        told.append((done, of))
        if done == 2:
            raise InterruptedError

    with pytest.raises(InterruptedError):
        drawings_in_rows(demo, watch)
    assert told == [(n, len(sheet_set(demo))) for n in range(3)]
