"""Any revision of the architect's file: taken over whole it is what he drew, taken over in parts nothing is lost."""

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from tests.shop import shop

from balken.derive import derive
from balken.exchange.ifc_changes import changes
from balken.exchange.ifc_reader import reading_of
from balken.exchange.ifc_taking_over import apply_changes
from balken.geometry.plane import distance
from balken.model import column_edits, edits, foundation_edits, grid_edits, wall_edits
from balken.model.errors import EditError
from balken.model.lookup import by_id, height, locate
from balken.model.records import Column, Hang, Opening, Reference, Wall
from balken.model.tidy import tidied
from balken.units import Units

SAME = 1.0
FOOT_HANG, HEAD_HANG = Hang(level="level-1"), Hang(level="level-2")


def architect():
    """The architect's building: what a file holds, each thing with the identifier it has there."""
    p = column_edits.add_columns(shop(), "grid-1", ("x2", "x3"), ("y1",), FOOT_HANG, HEAD_HANG, 140.0, 140.0)
    ring = ((0.0, 0.0), (3000.0, 0.0), (3000.0, 2000.0), (0.0, 2000.0))
    p = replace(p, references=(Reference(id="r", name="Stair", kind="stair", ring=ring, bottom=0.0, top=2500.0),))
    return named(replace(p, foundations=(), floors=(), roofs=()), 0)


def named(p, turn):
    """Give what has none an identifier, as the architect's program does."""

    def rows(records):
        return tuple(r if r.source else replace(r, source=f"{type(r).__name__}-{turn}-{r.id}") for r in records)

    fields = ("walls", "openings", "columns", "references")
    return replace(p, **{field: rows(getattr(p, field)) for field in fields})


def reading(p):
    return reading_of(p, "house.ifc")


def engineer(p):
    """The project made from a first reading, with foundation, floor and pads of our own."""
    made = shop()
    ours = replace(p, foundations=made.foundations, floors=made.floors, roofs=made.roofs, reading=reading(p))
    return foundation_edits.add_pads(ours, ((2000.0, 2000.0),), Hang(level="level-5"), Hang(level="level-1"), 200.0)


def one(rows, k):
    return rows[k % len(rows)] if rows else None


REVISIONS = (
    lambda p, k, x, y: edits.set_level(p, one(p.levels, k).id, one(p.levels, k).height + x / 10.0),
    lambda p, k, x, y: edits.add_level(p, "level-1", abs(x) + 200.0, f"Level {round(x)}", "other"),
    lambda p, k, x, y: grid_edits.set_axis_gap(p, "grid-1", ("x2", "x3", "x4")[k % 3], 3000.0 + abs(x)),
    lambda p, k, x, y: grid_edits.move_axis(p, "grid-1", ("y2", "y3")[k % 2], x / 5.0),
    lambda p, k, x, y: grid_edits.insert_axis(p, "grid-1", "x2", 900.0 + abs(x) / 4.0),
    lambda p, k, x, y: wall_edits.move_walls(p, (one(p.walls, k).id,), x, y),
    lambda p, k, x, y: edits.move_wall_end(p, one(p.walls, k).id, ("start", "end")[k % 2], (x * 3.0, y * 3.0)),
    lambda p, k, x, y: edits.add_wall(p, (x, y), (x + 2500.0, y + k * 100.0), "framed-2x4", FOOT_HANG, HEAD_HANG),
    lambda p, k, x, y: edits.remove(p, one(p.walls, k).id),
    lambda p, k, x, y: edits.flip_wall(p, one(p.walls, k).id),
    lambda p, k, x, y: edits.change(p, one(p.walls, k).id, buildup=("framed-2x4", "block-8", "veneer-2x6")[k % 3]),
    lambda p, k, x, y: edits.set_wall_head(p, one(p.walls, k).id, "level-2", -abs(x) / 20.0),
    lambda p, k, x, y: edits.add_opening(p, one(p.walls, k).id, "door", abs(x), 900.0, 2030.0, 0.0),
    lambda p, k, x, y: edits.remove(p, one(p.openings, k).id),
    lambda p, k, x, y: edits.change(p, one(p.openings, k).id, offset=abs(x), width=600.0 + abs(y) / 4.0),
    lambda p, k, x, y: edits.change(
        p, one(p.openings, k).id, kind=("door", "window", "plain")[k % 3], sill=abs(x) / 9.0
    ),
    lambda p, k, x, y: column_edits.add_columns(
        p, "grid-1", (("x1", "x4")[k % 2],), ("y2",), FOOT_HANG, HEAD_HANG, 90.0 + abs(x) / 50.0, 140.0
    ),
    lambda p, k, x, y: edits.change(p, one(p.columns, k).id, width=90.0 + abs(x) / 30.0, angle=y / 50.0),
    lambda p, k, x, y: edits.remove(p, one(p.columns, k).id),
    lambda p, k, x, y: replace(p, references=tuple(replace(r, top=r.top + abs(x)) for r in p.references)),
    lambda p, k, x, y: replace(p, references=p.references[:-1]),
)
revision = st.tuples(
    st.integers(0, len(REVISIONS) - 1), st.integers(0, 50), st.floats(-3000.0, 3000.0), st.floats(-3000.0, 3000.0)
)


def revised(p, steps, turn=1):
    for number, k, x, y in steps:
        try:
            p = REVISIONS[number](p, k, x, y)
        except (EditError, AttributeError):  # refused, or nothing of that kind is left
            continue
    return tidied(named(p, turn))


def layers(p, wall):
    return by_id(p.buildups)[wall.buildup].layers


def agrees(p, drawn):
    """Compare what the project shows of the architect's things with what he drew."""
    for field in ("walls", "openings", "columns", "references"):
        assert {r.source for r in getattr(p, field) if r.source} == {r.source for r in getattr(drawn, field)}
    ours = {r.source: r for field in ("walls", "openings", "columns", "references") for r in getattr(p, field)}
    heights = {v.name: v.height for v in p.levels if not v.removed}
    assert heights == pytest.approx({v.name: v.height for v in drawn.levels}, abs=SAME)
    for theirs in (*drawn.walls, *drawn.openings, *drawn.columns, *drawn.references):
        mine = ours[theirs.source]
        if isinstance(theirs, Wall):
            for end in ("start", "end"):
                away = distance(locate(getattr(mine, end), p.grids), locate(getattr(theirs, end), drawn.grids))
                assert away < SAME, (theirs.source, end, away)
            assert layers(p, mine) == layers(drawn, theirs)
            assert (mine.set_out, mine.outside, mine.role) == (theirs.set_out, theirs.outside, theirs.role)
        elif isinstance(theirs, Opening):
            for name in ("offset", "width", "height", "sill"):
                assert abs(getattr(mine, name) - getattr(theirs, name)) < SAME
            assert mine.kind == theirs.kind
            assert by_id(p.walls)[mine.wall].source == by_id(drawn.walls)[theirs.wall].source
        elif isinstance(theirs, Column):
            assert distance(locate(mine.place, p.grids), locate(theirs.place, drawn.grids)) < SAME
            assert abs(mine.width - theirs.width) < SAME
        else:
            assert (mine.ring, mine.bottom, mine.top) == (theirs.ring, theirs.bottom, theirs.top)
        if isinstance(theirs, Wall | Column):
            for end in ("foot", "head"):
                assert abs(height(getattr(mine, end), p.levels) - height(getattr(theirs, end), drawn.levels)) < SAME


@settings(max_examples=60)
@given(st.lists(revision, max_size=8))
@example([(0, 1, 500.0, 0.0), (11, 0, 1000.0, 0.0)])  # a level rises by 50 mm, a wall's head stays where it was
@example([(0, 1, 15.0, 0.0), (11, 0, 40.0, 0.0)])
@example([(3, 1, 250.0, 0.0), (5, 2, 0.0, -50.0)])  # an axis moves by 50 mm, a wall on it stays
def test_a_revision_taken_over_whole_is_what_the_architect_drew(steps):
    first = architect()
    ours, drawn = engineer(first), revised(first, steps)
    found = changes(ours.reading, reading(drawn), Units.METRIC)
    after = apply_changes(ours, reading(drawn), found)
    agrees(after, drawn)
    assert changes(after.reading, reading(drawn), Units.METRIC) == ()
    assert after.pads == ours.pads
    assert len(after.foundations) == len(after.floors) == 1
    derive(after)


@settings(max_examples=40)
@given(st.lists(revision, max_size=6), st.integers(0, 2**30))
@example([(7, 0, 0.0, 0.0), (12, 17, 0.0, 0.0), (7, 0, 0.0, 0.0)], 4)
def test_what_was_passed_over_is_told_again_and_can_be_taken_later(steps, chosen):
    first = architect()
    ours, drawn = engineer(first), revised(first, steps)
    new = reading(drawn)
    found = changes(ours.reading, new, Units.METRIC)
    some = [c for i, c in enumerate(found) if chosen >> (i % 30) & 1]
    try:
        part = apply_changes(ours, new, some)
    except EditError:
        return  # what hangs on something that was passed over is refused, with nothing changed
    left = changes(part.reading, new, Units.METRIC)
    # Walls passed over follow a level that was taken over, so fewer may be left than were passed over.
    assert {(c.kind, c.source) for c in left} <= {(c.kind, c.source) for c in found}
    agrees(apply_changes(part, new, left), drawn)


@settings(max_examples=25)
@given(st.lists(revision, max_size=4), st.lists(revision, max_size=4))
def test_revision_upon_revision(one_, other):
    """The second revision is compared with the first, not with the beginning."""
    first = architect()
    second = revised(first, one_)
    third = revised(second, other, 2)
    ours = engineer(first)
    ours = apply_changes(ours, reading(second), changes(ours.reading, reading(second), Units.METRIC))
    ours = apply_changes(ours, reading(third), changes(ours.reading, reading(third), Units.METRIC))
    agrees(ours, third)
