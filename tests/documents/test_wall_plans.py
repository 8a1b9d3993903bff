"""Wall plans on sheets: every wall by its name, clear of openings and of other texts; dimensions off the axes."""

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from balken.demo import orchard_road
from balken.derive import derive
from balken.documents.dimensions import beside, dimension_string
from balken.documents.display import Path, Strokes, Text
from balken.documents.elevation import framed_walls, framing_elevation
from balken.documents.lettering import text_width
from balken.documents.sheet_set import drawings_in_rows, sheet_set
from balken.documents.wall_plans import _ground, storeys, wall_plan, wall_sheets
from balken.exchange.dxf import write_dxf
from balken.model import edits
from balken.model.lookup import label_of
from balken.units import Units

SCALE = 48.0


@pytest.fixture(scope="module")
def model():
    return derive(orchard_road())


def named(drawing):
    return [item for item in drawing.items if isinstance(item, Text) and item.text.startswith("Wall ")]


def test_every_wall_is_named_once_as_its_elevation_calls_it(model):
    plans = [wall_plan(model, level, SCALE, False) for level in storeys(model)]
    names = [item.text.split(":")[0] for drawing in plans for item in named(drawing)]
    assert sorted(names) == sorted(label_of(model.project, w) for w in model.lines)
    for wall in framed_walls(model):
        assert framing_elevation(model, wall, 96.0).title.startswith(label_of(model.project, wall))


def test_names_stand_clear_of_openings_and_of_other_texts(model):
    for level in storeys(model):
        drawing = wall_plan(model, level, SCALE, False)
        texts = [item for item in drawing.items if isinstance(item, Text)]
        rings = {id(item): shapely.Polygon(_ground(item.at, item.text, item.size, item.angle)) for item in texts}
        for item in named(drawing):
            assert not any(rings[id(item)].intersects(rings[id(other)]) for other in texts if other is not item), (
                item.text
            )
            b = model.lines[item.ref].band
            half = text_width(item.text, item.size) / 2.0
            along = (item.at[0] - b.start[0]) * b.direction[0] + (item.at[1] - b.start[1]) * b.direction[1]
            for o in model.project.openings:
                if o.wall == item.ref:
                    assert along + half <= o.offset or along - half >= o.offset + o.width
            assert half <= along <= b.length - half


def test_they_are_bound_with_the_others_and_written(model, tmp_path):
    pages = sheet_set(model)
    (page,) = [p for p in pages if p.kind == "walls"]
    assert page.title == "Wall plans"
    assert len(page.make().drawings) == 2
    assert not wall_sheets(derive(edits.new_project()))
    import ezdxf

    write_dxf(drawings_in_rows(model), tmp_path / "all.dxf")
    texts = {t.dxf.text for t in ezdxf.readfile(tmp_path / "all.dxf").modelspace().query("TEXT")}
    assert {label_of(model.project, w) for w in model.lines} <= {t.split(":")[0] for t in texts}


@given(
    st.floats(0.0, 50.0), st.floats(20.0, 5000.0), st.floats(5.0, 400.0), st.lists(st.floats(-100.0, 5100.0), max_size=6)
)  # fmt: skip
def test_figures_stand_off_axes_where_there_is_room(low, long, wide, axes):
    bay = (low, low + long)
    at = beside(bay, wide, axes)
    if wide <= long:
        assert low - 1e-6 <= at - wide / 2.0
        assert at + wide / 2.0 <= low + long + 1e-6

    def clear(x, slack=0.0):
        half = wide / 2.0 - slack
        return all(abs(x - c) >= half for c in axes) and low <= x - half and x + half <= low + long

    tried = [x for x in np.linspace(low, low + long, 401) if clear(x)]
    if tried:
        assert clear(at, 1e-6)
        # No place tried is nearer to the middle.
        middle = low + long / 2.0
        assert abs(at - middle) <= min(abs(x - middle) for x in tried) + 1e-3


def test_an_overall_figure_leaves_the_axis_in_the_middle():
    items = dimension_string(
        [0.0, 8000.0], (0.0, 0.0), (1.0, 0.0), 0.0, Units.METRIC, 50.0, crossed=[0.0, 4000.0, 8000.0]
    )
    (text,) = [item for item in items if isinstance(item, Text)]
    assert abs(text.at[0] - 4000.0) >= text_width(text.text, text.size) / 2.0
    assert any(isinstance(item, Path | Strokes) for item in items)
