"""Base drawings: drawings made by ezdxf, read back as lines; walls traced from pairs of lines."""

import ezdxf
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from balken.derive import derive
from balken.exchange.dxf_reader import placed_lines, read_dxf
from balken.exchange.file_errors import FileError
from balken.geometry.plane import area, distance
from balken.model import base_drawing_edits, edits
from balken.model.errors import EditError
from balken.model.lookup import locate
from balken.model.records import BaseDrawing, Hang
from balken.model.tracing import trace, walls_from_lines


def drawing(path, units=4, factor=1.0):
    """A plan 8 x 6 m with walls 200 thick, an inside wall, a door gap, a chair, a grid line."""
    document = ezdxf.new("R2010")
    document.header["$INSUNITS"] = units
    space = document.modelspace()
    for name in ("walls", "furniture"):
        document.layers.add(name)

    def ring(*corners):
        space.add_lwpolyline([(x * factor, y * factor) for x, y in corners], close=True, dxfattribs={"layer": "walls"})

    ring((0, 0), (8000, 0), (8000, 6000), (0, 6000))
    ring((200, 200), (5000, 200), (5000, 5800), (200, 5800))
    ring((5120, 200), (7800, 200), (7800, 5800), (5120, 5800))
    space.add_circle((1000 * factor, 1000 * factor), 300 * factor, dxfattribs={"layer": "furniture"})
    space.add_text("Shop", dxfattribs={"layer": "furniture"})
    block = document.blocks.new("chair")
    block.add_line((0, 0), (400 * factor, 0))
    space.add_blockref("chair", (2000 * factor, 2000 * factor), dxfattribs={"layer": "furniture"})
    document.saveas(path)
    return path


def test_lines_layers_units_and_what_is_no_line(tmp_path):
    lines = read_dxf(drawing(tmp_path / "plan.dxf"))
    assert lines.scale == 1.0
    assert not lines.assumed
    assert len(lines.layers["walls"]) == 12
    assert len(lines.layers["furniture"]) > 12  # the circle in chords
    assert lines.left_out == {"TEXT": 1}
    inches = read_dxf(drawing(tmp_path / "inches.dxf", 1, 1 / 25.4))
    assert inches.scale == 25.4
    unknown = read_dxf(drawing(tmp_path / "unknown.dxf", 0, 0.001))
    assert unknown.assumed
    assert unknown.scale == 1000.0


def test_a_base_drawing_is_placed_scaled_and_layers_switched(tmp_path):
    path = drawing(tmp_path / "plan.dxf")
    p = base_drawing_edits.lay_base_drawing(edits.new_project(), str(path), "plan", "level-1", 1.0)
    p = base_drawing_edits.place_base_drawing(
        p, "base-drawing-1", (0.0, 0.0), (8000.0, 0.0), 4000.0, to=(1000.0, 500.0)
    )
    u = p.base_drawings[0]
    assert u.scale == pytest.approx(0.5)
    xy = placed_lines(u, read_dxf(path)).reshape(-1, 2)
    assert xy.min(axis=0) == pytest.approx([1000.0, 500.0])
    assert xy.max(axis=0) == pytest.approx([5000.0, 3500.0])
    p = base_drawing_edits.switch_layer(p, "base-drawing-1", "walls", False)
    assert len(placed_lines(p.base_drawings[0], read_dxf(path))) < len(xy) / 2
    p = edits.change(p, "base-drawing-1", angle=90.0)
    xy = placed_lines(p.base_drawings[0], read_dxf(path), every=True).reshape(-1, 2)
    assert xy.min(axis=0) == pytest.approx([-2000.0, 500.0])
    with pytest.raises(EditError, match="two points apart"):
        base_drawing_edits.place_base_drawing(p, "base-drawing-1", (0.0, 0.0), (0.0, 0.0), 4000.0)


def test_walls_are_traced_and_close(tmp_path):
    path = drawing(tmp_path / "plan.dxf")
    u = BaseDrawing(id="u", name="u", path=str(path), level="level-1", layers_off=("furniture",))
    p = walls_from_lines(
        edits.new_project(),
        placed_lines(u, read_dxf(path)),
        Hang(level="level-1"),
        Hang(level="level-1", offset=2500.0),
    )
    assert [w.role for w in p.walls].count("outside") == 4
    assert [w.role for w in p.walls].count("divides") == 1
    outside = [w for w in p.walls if w.role == "outside"]
    from balken.derive import derive
    from balken.framing.outlines import outline

    ring = outline(tuple(w.id for w in outside), derive(p).lines)
    assert area(ring.core) == pytest.approx(8000 * 6000, rel=0.08)
    inner = next(w for w in p.walls if w.role == "divides")
    assert locate(inner.start, p.grids)[0] == pytest.approx(5060.0, abs=15.0)


def test_what_is_no_drawing_is_refused_with_a_reason(tmp_path):
    for name, data in (
        ("empty.dxf", b""),
        ("text.dxf", b"nothing of the kind"),
        ("bytes.dxf", bytes(range(256)) * 20),
        ("cut.dxf", drawing(tmp_path / "whole.dxf").read_bytes()[:3000]),
    ):
        (tmp_path / name).write_bytes(data)
        with pytest.raises(FileError):
            read_dxf(tmp_path / name)
    with pytest.raises(FileError, match="no such file"):
        read_dxf(tmp_path / "missing.dxf")
    ezdxf.new().saveas(tmp_path / "blank.dxf")
    with pytest.raises(FileError, match="no lines"):
        read_dxf(tmp_path / "blank.dxf")
    with pytest.raises(EditError, match="parallel"):
        walls_from_lines(
            edits.new_project(), np.zeros((0, 2, 2)), Hang(level="level-1"), Hang(level="level-1", offset=2500.0)
        )


@given(st.integers(2000, 20000), st.integers(2000, 20000), st.integers(80, 500), st.floats(0.0, 89.0))
def test_any_rectangle_turned_by_any_angle_is_four_outside_walls(wide, tall, thick, angle):
    cos, sin = np.cos(np.radians(angle)), np.sin(np.radians(angle))
    outer = np.array([(0, 0), (wide, 0), (wide, tall), (0, tall)], dtype=float)
    inner = np.array([(thick, thick), (wide - thick, thick), (wide - thick, tall - thick), (thick, tall - thick)])
    segments = []
    for ring in (outer, inner):
        ring = ring @ np.array([[cos, sin], [-sin, cos]])
        segments += [(ring[i - 1], ring[i]) for i in range(4)]
    found = trace(np.array(segments))
    assert len(found) == 4
    assert all(w.outside for w in found)
    assert all(w.thickness == pytest.approx(thick, abs=0.01) for w in found)
    around = sum(distance(w.start, w.end) for w in found)
    assert around == pytest.approx(2 * (wide + tall - 2 * thick), rel=1e-6)


THICK = 140.0


def pierced(angle=0.0, more=()):
    """The faces of a house 9 x 6 m, walls 140 mm thick, a door of 900 in its south wall 1 m from the corner, a window of 1500 with a pane line in
    its east wall, an inside wall from south to north whose ends cut the inner faces.
    """
    w, h, t = 9000.0, 6000.0, THICK
    lines = [
        # South: outer and inner faces, cut by the door from 1000 to 1900; the inner one by the inside wall from 5000 to 5100 too.
        ((0, 0), (1000, 0)), ((1900, 0), (w, 0)), ((t, t), (1000, t)), ((1900, t), (5000, t)), ((5100, t), (w - t, t)),
        ((1000, 0), (1000, t)), ((1900, 0), (1900, t)),
        # East: both faces cut by the window from 2000 to 3500, a pane between.
        ((w, 0), (w, 2000)), ((w, 3500), (w, h)), ((w - t, t), (w - t, 2000)), ((w - t, 3500), (w - t, h - t)),
        ((w - t / 2, 2000), (w - t / 2, 3500)), ((w - t, 2000), (w, 2000)), ((w - t, 3500), (w, 3500)),
        # North, its inner face cut by the inside wall; west.
        ((0, h), (w, h)), ((t, h - t), (5000, h - t)), ((5100, h - t), (w - t, h - t)), ((0, 0), (0, h)), ((t, t), (t, h - t)),
        ((5000, t), (5000, h - t)), ((5100, t), (5100, h - t)), *more,
    ]  # fmt: skip
    cos, sin = np.cos(np.radians(angle)), np.sin(np.radians(angle))
    return np.array(lines, dtype=float) @ np.array([[cos, sin], [-sin, cos]])


@pytest.mark.parametrize("angle", [0.0, 37.0])
def test_gaps_of_door_width_become_doors_and_windows(angle):
    p = edits.new_project()
    foot, head = Hang(level="level-1"), Hang(level="level-1", offset=2500.0)
    made = walls_from_lines(p, pierced(angle), foot, head)
    assert len(made.walls) == 5
    assert sorted((o.kind, round(o.width)) for o in made.openings) == [("door", 900), ("window", 1500)]
    where = np.array(
        [
            [np.cos(np.radians(angle)), -np.sin(np.radians(angle))],
            [np.sin(np.radians(angle)), np.cos(np.radians(angle))],
        ]
    )
    for opening, centre in zip(
        sorted(made.openings, key=lambda o: o.kind), ((1450.0, 70.0), (8930.0, 2750.0)), strict=True
    ):
        wall = next(w for w in made.walls if w.id == opening.wall)
        a, b = (np.array(locate(end, made.grids)) for end in (wall.start, wall.end))
        at = a + (b - a) / np.linalg.norm(b - a) * (opening.offset + opening.width / 2.0)
        # In the middle of the gap, along the wall; across it within its thickness.
        assert np.linalg.norm(at - where @ np.array(centre)) <= THICK / 2.0 + 1.0
    derive(made)


def test_what_is_traced_is_not_traced_again():
    p = edits.new_project()
    foot, head = Hang(level="level-1"), Hang(level="level-1", offset=2500.0)
    once = walls_from_lines(p, pierced(), foot, head)
    with pytest.raises(EditError, match="drawn already"):
        walls_from_lines(once, pierced(), foot, head)
    # A drawing with one wall more brings that alone; on another level all of them are new.
    more = [((2500, THICK), (2500, 5860)), ((2600, THICK), (2600, 5860))]
    twice = walls_from_lines(once, pierced(more=more), foot, head)
    assert len(twice.walls) == 6
    assert len(twice.openings) == 2
    once = edits.add_level(once, foot.level, 3000.0, "Floor 2", "floor")
    other = once.levels[-1].id
    assert len(walls_from_lines(once, pierced(), Hang(level=other), Hang(level=other, offset=2500.0)).walls) == 10
