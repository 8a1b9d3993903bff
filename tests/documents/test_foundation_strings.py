"""Strings and notes of foundation plans: they add up, tie pads to axes, and nothing is written over anything."""

import itertools
import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from balken.demo import orchard_road
from balken.derive import derive
from balken.documents.dimensions import TEXT, dimension_string, figure_levels
from balken.documents.display import Area, Circle, Path, Strokes, Text
from balken.documents.foundation_plan import foundation_items
from balken.documents.foundation_sections import typical_section
from balken.documents.foundation_strings import foundation_strings
from balken.documents.lettering import text_width
from balken.documents.section_keys import keyed_sections
from balken.geometry.plane import bounds
from balken.model import edits, grid_edits
from balken.model.naming import run_of
from balken.units import Units, parse_length
from balken.units.system import FOOT


@pytest.fixture(scope="module")
def demo():
    return derive(orchard_road())


def strings(model, scale=48.0):
    p = model.project
    return foundation_strings(model.runs, model.pad_places, p.grids, p.strings, p.units, scale, False)


def chains(made):
    """Return the stations of each string across (x) and upright (y), from its oblique strokes."""
    found = []
    for item in made.items:
        if isinstance(item, Strokes) and item.pen == "tick":
            middles = [((a[0] + b[0]) / 2.0, (a[1] + b[1]) / 2.0) for a, b in item.segments]
            along = 0 if abs(middles[0][1] - middles[-1][1]) < 0.1 else 1
            found.append((along, middles[0][1 - along], sorted(m[along] for m in middles)))
    return found


def test_strings_reach_from_corner_to_corner_on_every_side(demo):
    for _, _, stations in chains(strings(demo)):
        assert stations == sorted(stations)
    over_x = [s for along, _, s in chains(strings(demo)) if along == 0]
    over_y = [s for along, _, s in chains(strings(demo)) if along == 1]
    # The shed stands 12 ft off axis 1 and the house is 40 ft long; the concrete lies half an inch outside the axes.
    assert max(s[-1] - s[0] for s in over_x) >= 52 * FOOT
    assert max(s[-1] - s[0] for s in over_y) == pytest.approx(48 * FOOT + 25.4, abs=1.0)


def test_pads_are_tied_to_the_axes_both_ways(demo):
    pads = [place.centre for place in demo.pad_places]
    for along in (0, 1):
        tied = [s for a, _, s in chains(strings(demo)) if a == along]
        for pad in pads:
            assert any(min(abs(v - pad[along]) for v in row) < 0.1 for row in tied)


def test_steps_of_outside_walls_are_in_the_strings(demo):
    run = next(r for r in demo.runs if r.band.outside and len(r.segments) > 1)
    at = run.band.at(run.segments[0].high, 0.0)
    along = 0 if abs(run.band.direction[0]) > 0.9 else 1
    assert any(min(abs(v - at[along]) for v in row) < 0.1 for a, _, row in chains(strings(demo)) if a == along)


def test_strings_follow_when_an_axis_moves(demo):
    moved = derive(grid_edits.set_axis_gap(demo.project, "grid-1", "x4", 13 * FOOT + 500.0))
    before = max(s[1] - s[0] for a, _, s in chains(strings(demo)) if a == 0 and len(s) == 2)
    after = max(s[1] - s[0] for a, _, s in chains(strings(moved)) if a == 0 and len(s) == 2)
    assert after - before == pytest.approx(500.0, abs=0.1)


def test_strings_can_be_switched_off_and_are_none_without_foundations(demo):
    p = edits.set_strings(demo.project, walls=False, overall=False)
    assert not strings(derive(p)).items
    assert not strings(derive(edits.new_project("Empty"))).items


def corners(item, bold=False):
    wide, high = text_width(item.text, item.size, item.bold or bold), item.size
    c, s = math.cos(math.radians(item.angle)), math.sin(math.radians(item.angle))
    x0 = {"left": 0.0, "center": -wide / 2.0, "right": -wide}[item.anchor]
    points = [(x0 + a * wide, b * high) for a in (0.02, 0.98) for b in (-0.48, 0.48)]
    xs, ys = zip(*((item.at[0] + c * x - s * y, item.at[1] + s * x + c * y) for x, y in points), strict=True)
    return min(xs), min(ys), max(xs), max(ys)


@pytest.mark.parametrize("scale", [48.0, 64.0])
def test_notes_of_the_demo_stand_clear_of_one_another(demo, scale):
    texts = [i for i in foundation_items(demo, scale, False, True) if isinstance(i, Text)]
    assert len(texts) > 30
    for a, b in itertools.combinations(texts, 2):
        u, v = corners(a), corners(b)
        assert u[2] <= v[0] or v[2] <= u[0] or u[3] <= v[1] or v[3] <= u[1], (a.text, b.text)


@pytest.mark.parametrize("scale", [48.0, 64.0, 96.0])
def test_notes_stand_clear_of_the_marks_of_sections(demo, scale):
    items = foundation_items(demo, scale, used=False, notes=True, keyed=True)
    letters = {keyed.letter for keyed in keyed_sections(demo)}
    bubbles = [item for item in items if isinstance(item, Circle) and item.pen == "bubble"]
    cuts = [item for item in items if isinstance(item, Path) and item.pen == "cut line"]
    assert len(bubbles) == len(cuts) == len(letters) > 5
    notes = [item for item in items if isinstance(item, Text) and item.pen == "note" and not item.bold]
    assert len(notes) > 10
    marks = [bounds(cut.points) for cut in cuts]
    marks += [(x - b.radius, y - b.radius, x + b.radius, y + b.radius) for b in bubbles for x, y in (b.centre,)]
    # The smallest note, a footing's mark alone, stays even where nothing is free.
    for note, mark in itertools.product((n for n in notes if len(n.text) > 3), marks):
        u = corners(note)
        assert u[2] <= mark[0] or mark[2] <= u[0] or u[3] <= mark[1] or mark[3] <= u[1], note.text


def test_heights_of_footings_are_written(demo):
    texts = {i.text for i in foundation_items(demo, 48.0, False, True) if isinstance(i, Text)}
    assert any("top \u22128'-8\"" in text for text in texts)


gaps = st.lists(st.floats(30.0, 3000.0), min_size=1, max_size=9)


@given(gaps, st.sampled_from([25.0, 50.0, 100.0]), st.booleans())
@settings(max_examples=150, deadline=None)
def test_figures_of_a_string_overlap_neither_each_other_nor_add_up_wrong(widths, scale, upright):
    stations = [0.0, *itertools.accumulate(widths)]
    direction = (0.0, 1.0) if upright else (1.0, 0.0)
    items = dimension_string(stations, (0.0, 0.0), direction, 0.0, Units.METRIC, scale)
    texts = [i for i in items if isinstance(i, Text)]
    assert sum(parse_length(t.text, Units.METRIC) for t in texts) == pytest.approx(stations[-1], abs=len(texts))
    if figure_levels(stations, Units.METRIC, scale) < 4:
        for a, b in itertools.combinations(texts, 2):
            u, v = corners(a), corners(b)
            assert u[2] <= v[0] + 0.1 or v[2] <= u[0] + 0.1 or u[3] <= v[1] + 0.1 or v[3] <= u[1] + 0.1
    assert all(t.size == TEXT * scale for t in texts)


def test_typical_sections_are_cut_where_nothing_joins_the_wall(demo):
    """A section through the place where another wall meets shows that wall lengthwise: nothing typical."""
    for keyed in keyed_sections(demo):
        drawing = typical_section(demo, keyed, 24.0)
        cut = {run_of(item.ref) for item in drawing.items if isinstance(item, Area) and "/" in item.ref}
        assert {ref for ref in cut if ref.startswith("foundation")} == {keyed.run}
