"""Columns carry what bears on them: walls that end on them, columns above; pads and walls take what they bring."""

import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.houses import house

from balken.derive import derive
from balken.documents.load_tree import flat, pad_tree
from balken.memo import Memo
from balken.model import beam_edits, edits
from balken.model.records import Column, Floor, FreePoint, Hang, Pad
from balken.units.system import FOOT, INCH

WALL_LENGTH = 10 * FOOT


def on_posts(*xs, over=0.0, pads=True):
    """A wall 10 ft long in the air beside a house, its foot at 8 ft, on columns at these places along it (mm)."""
    p = house()
    y = -20 * FOOT
    p = edits.add_level(p, "level-2", 8 * FOOT, "Upper plate", "plate")
    upper = p.levels[-1].id
    foot, head = Hang(level="level-2"), Hang(level=upper)
    p = edits.add_wall(p, (0.0, y), (WALL_LENGTH, y), "framed-2x6", foot, head, "centre")
    for i, x in enumerate(xs, 1):
        place = FreePoint(x=x, y=y)
        p = edits.add(
            p, Column(id=f"column-{i}", place=place, foot=Hang(level="level-1"), head=Hang(level="level-2"), size=None)
        )
        if pads:
            top = Hang(level="level-1", offset=-3 * FOOT)
            p = edits.add(p, Pad(id=f"pad-{i}", place=place, top=top, head=Hang(level="level-1"), pier=12 * INCH))
    return p


def balanced(model):
    path = model.path
    lost = [sum(values) for values in zip((0.0,) * 5, *(r.force for r in path.lost), strict=True)]
    for put_on, arrived, away in zip(path.applied, path.arrived, lost, strict=True):
        assert put_on == pytest.approx(arrived + away, rel=1e-6, abs=1e-3)


def test_a_wall_on_two_columns_goes_half_to_each():
    model = derive(on_posts(0.0, WALL_LENGTH))
    wall = model.project.walls[-1].id
    whole = model.path.walls[wall].foot
    assert whole.dead > 1000.0
    for column in ("column-1", "column-2"):
        assert model.path.columns[column].head.dead == pytest.approx(whole.dead / 2, rel=0.01)
    balanced(model)


@given(st.lists(st.floats(0.0, WALL_LENGTH), min_size=1, max_size=4, unique_by=lambda x: round(x / 200)))
def test_whatever_the_columns_all_of_it_comes_down(xs):
    model = derive(on_posts(*xs))
    wall = model.project.walls[-1].id
    brought = sum(made.head.dead for made in model.path.columns.values())
    assert brought == pytest.approx(model.path.walls[wall].foot.dead, rel=1e-6)
    balanced(model)


def test_an_uneven_wall_by_hand():
    """Columns at 2 ft and 8 ft under 10 ft: half-way lies at 5 ft, so that each takes half; at 1 and 5 ft: 3 and 7."""
    model = derive(on_posts(1 * FOOT, 5 * FOOT))
    whole = model.path.walls[model.project.walls[-1].id].foot.dead
    assert model.path.columns["column-1"].head.dead == pytest.approx(whole * 0.3, rel=0.01)
    assert model.path.columns["column-2"].head.dead == pytest.approx(whole * 0.7, rel=0.01)


def test_the_pad_takes_the_reaction_of_what_stands_on_it():
    p = on_posts(0.0, WALL_LENGTH)
    p = edits.change(p, "pad-1", dead=9000.0, snow=12_000.0)
    model = derive(p)
    made = model.path.columns["column-1"]
    pier = model.path.pads["pad-2"].dead - model.path.columns["column-2"].foot.dead
    assert model.path.pads["pad-1"].dead == pytest.approx(made.foot.dead + 9000.0 + pier)
    assert made.head.snow == pytest.approx(12_000.0)  # what is typed at the pad comes through the column
    assert model.posts["column-1"].load.dead == pytest.approx(made.head.dead + made.post.own.dead, abs=0.1)
    rows = {branch.label: branch.load.dead for _, branch in flat(pad_tree(model, "pad-1"))}
    assert rows["Column 1"] == pytest.approx(made.foot.dead)
    assert sum(branch.load.dead for branch in pad_tree(model, "pad-1").children) == pytest.approx(
        model.path.pads["pad-1"].dead, rel=1e-6
    )
    balanced(model)


def test_a_gap_without_a_beam_is_named():
    found = [f for f in derive(on_posts(0.0, WALL_LENGTH)).findings if f.code == "nothing between"]
    assert len(found) == 1
    assert "10'-0\"" in found[0].what
    close = [x * 2 * FOOT for x in range(6)]
    assert not [f for f in derive(on_posts(*close)).findings if f.code == "nothing between"]


def test_a_column_on_a_column_through_a_storey():
    p = on_posts(0.0, WALL_LENGTH, pads=False)
    lower = Hang(level="level-1", offset=-6 * FOOT)
    for i, x in ((3, 0.0), (4, WALL_LENGTH)):
        place = FreePoint(x=x, y=-20 * FOOT)
        p = edits.add(p, Column(id=f"column-{i}", place=place, foot=lower, head=Hang(level="level-1"), size=None))
    model = derive(p)
    assert model.path.below["column-1"] == ("column-3",)
    assert model.path.columns["column-3"].head.dead == pytest.approx(model.path.columns["column-1"].foot.dead)
    assert {f.things[0] for f in model.findings if f.code == "column on nothing"} == {"column-3", "column-4"}
    balanced(model)


def test_a_column_on_a_wall_loads_it_where_it_stands():
    p = house()
    before = derive(p)
    p = edits.add_level(p, "level-2", 8 * FOOT, "Upper", "plate")
    place = FreePoint(x=10 * FOOT, y=2.5 * INCH)
    column = Column(
        id="column-1", place=place, foot=Hang(level="level-2"), head=Hang(level=p.levels[-1].id), size="6x6"
    )
    p = edits.add(p, column)
    model = derive(p)
    assert model.path.below["column-1"] == ("wall-1",)
    own = model.path.columns["column-1"].foot.dead
    assert model.path.walls["wall-1"].foot.dead - before.path.walls["wall-1"].foot.dead == pytest.approx(own, rel=1e-6)
    along = model.path.heads["wall-1"].standing
    assert along.sum.dead == pytest.approx(own)
    assert float(along.low.min()) == pytest.approx(10 * FOOT - 2.75 * INCH)
    balanced(model)


def test_a_column_left_to_balken_grows_with_what_it_carries():
    light = derive(on_posts(0.0, WALL_LENGTH))
    heavy = derive(edits.change(on_posts(0.0, WALL_LENGTH), "pad-1", dead=60_000.0, live=90_000.0))
    assert heavy.posts["column-1"].shape.area > light.posts["column-1"].shape.area
    assert heavy.posts["column-1"].works


def test_columns_are_made_again_only_when_their_load_changes():
    p, memo = on_posts(0.0, WALL_LENGTH), Memo()
    derive(p, memo)
    derive(edits.change(p, "pad-2", dead=5000.0), memo)
    assert "carried column-2" in memo.made
    assert "carried column-1" not in memo.made
    derive(edits.set_loads(p, frost_depth=800.0), memo)
    assert not any(name.startswith("carried column-1") for name in memo.made)


def on_a_wall(x, load, opening=None):
    """A column on wall 1 of the house at x ft from its start, with a pad-like load from a wall above it (N, live)."""
    p = house(ground_snow=0.0)
    if opening:
        p = edits.add_opening(p, "wall-1", "window", opening[0] * FOOT, opening[1] * FOOT, 4 * FOOT, 2.5 * FOOT)
    p = edits.add_level(p, "level-2", 8 * FOOT, "Upper", "plate")
    place = FreePoint(x=x * FOOT, y=2.5 * INCH)
    p = edits.add(
        p,
        Column(id="column-1", place=place, foot=Hang(level="level-2"), head=Hang(level=p.levels[-1].id), size="6x6"),
    )
    upper = p.levels[-1].id
    p = edits.add_level(p, upper, load * FOOT, "Higher", "plate")
    y = 2.5 * INCH
    return edits.add_wall(
        p,
        (x * FOOT, y),
        (x * FOOT, y - 12 * FOOT),
        "framed-2x6",
        Hang(level=upper),
        Hang(level=p.levels[-1].id),
        "centre",
    )


def test_a_post_is_made_in_the_wall_under_a_column():
    p = on_a_wall(10.2, 20)
    model, before = derive(p), derive(edits.remove(p, p.walls[-1].id))
    (post,) = model.framed["wall-1"].posts
    assert post.source == "column-1"
    assert post.at == pytest.approx(10.2 * FOOT, abs=1.0)
    made = [s for s in model.framed["wall-1"].wall.sticks if s.role == "post stud"]
    assert len(made) == post.plies >= 2
    middles = sorted((min(s.ring)[0] + max(s.ring)[0]) / 2.0 for s in made)
    assert sum(middles) / len(middles) == pytest.approx(post.at, abs=1e-6)
    assert all(b - a == pytest.approx(1.5 * INCH) for a, b in itertools.pairwise(middles))
    # It takes the column and what else lies within its bay; the other studs stay as they were.
    load = post.result.case.axial
    assert load.dead > model.path.columns["column-1"].foot.dead
    assert model.framed["wall-1"].design.result.used == pytest.approx(
        before.framed["wall-1"].design.result.used, rel=1e-9
    )
    piece = model.piece(made[0].key("wall-1"))
    assert piece.role == "post stud"
    assert model.results[piece.key] is post.result
    assert model.marks[piece.key].startswith("PS")
    balanced(model)


@pytest.mark.parametrize(("apart", "posts"), [(2.5, 1), (12.0, 2)])
def test_posts_that_would_stand_in_one_another_are_one(apart, posts):
    """A second column 2 1/2 in beside the first finds no room for a post of its own; a foot beside it does."""
    p = on_a_wall(10.2, 8)
    first = derive(p)
    column = p.columns[0]
    place = FreePoint(x=10.2 * FOOT + apart * INCH, y=2.5 * INCH)
    p = edits.add(p, edits.with_fields(column, {"id": "column-2", "place": place, "width": 51.0, "size": ""}))
    p = edits.change(p, "column-1", width=51.0, size="")
    model = derive(p)
    framed = model.framed["wall-1"]
    assert len(framed.posts) == posts
    assert {source for post in framed.posts for source in post.sources} == {"column-1", "column-2"}
    assert not [f for f in model.findings if f.code == "no studs"]
    both = model.path.columns["column-1"].foot.plus(model.path.columns["column-2"].foot)
    if posts == 1:
        (post,) = framed.posts
        beside = first.framed["wall-1"].posts[0].result.case.axial.dead - first.path.columns["column-1"].foot.dead
        assert post.result.case.axial.dead == pytest.approx(both.dead + beside, rel=0.02)
        assert post.at == pytest.approx((10.2 * 12 + apart / 2.0) * INCH, abs=1.0)
        studs = [s for s in framed.wall.sticks if s.role == "post stud"]
        assert all(model.results[s.key("wall-1")] is post.result for s in studs)
        assert len(studs) == post.plies
    balanced(model)


def test_a_post_reaches_under_all_that_stands_on_it():
    """A heavy column and a light one 4 in beside it want three studs and two, which find no room: one post of three, its studs 4 1/2 in wide,
    lies under the middles of both, whatever each brings.
    """
    p = edits.change(on_a_wall(10.2, 60), "column-1", width=51.0, size="")
    place = FreePoint(x=10.2 * FOOT + 4.0 * INCH, y=2.5 * INCH)
    p = edits.add(p, edits.with_fields(p.columns[0], {"id": "column-2", "place": place}))
    framed = derive(p).framed["wall-1"]
    for post in framed.posts:
        reached = post.plies * 1.5 * INCH / 2.0
        for source in post.sources:
            at = 10.2 * FOOT + (4.0 * INCH if source == "column-2" else 0.0)
            assert abs(at - post.at) <= reached + 0.5
    assert {source for post in framed.posts for source in post.sources} == {"column-1", "column-2"}
    assert not framed.wall.troubles


def three_storeys_of_beams():
    """Three storeys 24 x 14 ft, one over the other, each floor on a beam across its middle, under it the same two walls."""
    p = edits.new_project("Three storeys")
    below, corners = "level-1", ((0.0, 0.0), (24 * FOOT, 0.0), (24 * FOOT, 14 * FOOT), (0.0, 14 * FOOT))
    for k in range(3):
        p = edits.add_level(p, below, 9 * FOOT, f"Floor {k + 2}", "floor")
        level = p.levels[-1].id
        head = Hang(level=level, offset=-10 * INCH)
        for start, end in zip(corners, corners[1:] + corners[:1], strict=True):
            p = edits.add_wall(p, start, end, "framed-2x6", Hang(level=below), head)
        walls = tuple(wall.id for wall in p.walls[-4:])
        p = edits.add(p, Floor(id=f"floor-{k}", name=f"Floor {k}", level=level, walls=walls, direction=0.0))
        x = 12 * FOOT
        p = beam_edits.add_beam(p, (x, 0.0), (x, 14 * FOOT), Hang(level=level), f"floor-{k}", made_of="LVL")
        below = level
    return p


def test_beams_of_several_storeys_one_above_the_other_stand_on_one_post():
    model = derive(three_storeys_of_beams())
    (post,) = model.framed["wall-1"].posts
    assert set(post.sources) == {"beam-1", "beam-2", "beam-3"}
    brought = [point.force for point in model.path.heads["wall-1"].points]
    assert len(brought) == 3
    assert post.result.case.axial.live >= sum(force.live for force in brought)
    assert not [f for f in model.findings if f.code == "no studs"]
    balanced(model)


def test_no_other_stud_is_renamed_by_it():
    p = on_a_wall(10.2, 8)
    names = {s.key("wall-1") for s in derive(edits.remove(p, "column-1")).framed["wall-1"].wall.sticks}
    after = {s.key("wall-1"): s.role for s in derive(p).framed["wall-1"].wall.sticks}
    assert {role for name, role in after.items() if name not in names} == {"post stud"}


def test_over_an_opening_the_header_carries_it():
    p = on_a_wall(10.0, 20, opening=(8.0, 4.0))
    model = derive(p)
    assert not model.framed["wall-1"].posts
    assert not [s for s in model.framed["wall-1"].wall.sticks if s.role == "post stud"]
    (opening,) = model.project.openings
    force = model.path.columns["column-1"].foot.dead
    header = model.framed["wall-1"].headers[opening.id].header
    without = derive(edits.remove(p, "column-1")).framed["wall-1"].headers[opening.id].header
    assert header.case.load.dead - without.case.load.dead == pytest.approx(force, rel=0.01)
    assert [f.things for f in model.findings if f.code == "over opening"] == [("column-1", opening.id)]


def test_the_plate_under_a_column_by_hand():
    """A 6x6 on a plate of DF-L: Fc perp 625 psi (NDS Supplement, Table 4A) over 30.25 in2 carries 18,906 lb."""
    model = derive(on_a_wall(10.2, 20))
    check = next(c for c in model.posts["column-1"].result.checks if c.name == "bearing on the plate under its foot")
    load = model.posts["column-1"].load.dead
    assert check.used == pytest.approx(load / 4.4482216 / (625 * 30.25), rel=1e-4)
    over = next(c for c in model.posts["column-1"].result.checks if c.name == "bearing on the plate over its head")
    assert over.used == pytest.approx(check.used)


@pytest.mark.parametrize(("off", "told"), [(0.0, True), (8.0, False)])
def test_a_column_through_a_storey_is_told_from_joists(off, told):
    """A column from the crawl space up past the deck, in a joist or half way between two (16 in apart)."""
    p = house()
    plan = derive(p).floors[0]
    t = sorted({line.t for line in plan.lines})[6] + off * INCH
    at = plan.frame.back(plan.frame.to((0.0, 10 * FOOT))[0], t)
    p = edits.add(
        p,
        Column(
            id="column-1",
            place=FreePoint(x=at[0], y=at[1]),
            foot=Hang(level="level-1", offset=-4 * FOOT),
            head=Hang(level="level-2"),
            size="6x6",
        ),
    )
    found = [f for f in derive(p).findings if f.code == "through joists"]
    assert bool(found) is told
    if told:
        assert found[0].things[0] == "column-1"
        assert len(found[0].things) == 2


def test_a_post_goes_on_in_the_wall_below():
    """A column on the wall of the second storey: built up there and in the wall under it, and no stud is made heavier."""
    p = house(ground_snow=0.0)
    p = edits.add_level(p, "level-2", 8 * FOOT, "Plate 2", "plate")
    second = p.levels[-1].id
    p = edits.add_level(p, second, 8 * FOOT, "Upper", "plate")
    foot, head = Hang(level="level-2"), Hang(level=second)
    p = edits.add_wall(p, (0.0, 0.0), (30 * FOOT, 0.0), "framed-2x6", foot, head, outside="right")
    upper = p.walls[-1]
    place = FreePoint(x=12.3 * FOOT, y=2.5 * INCH)
    column = Column(id="column-1", place=place, foot=Hang(level=second), head=Hang(level=p.levels[-1].id), size="6x6")
    before = derive(p)
    p = edits.add(p, column)
    model = derive(p)
    assert model.path.below["column-1"] == (upper.id,)
    assert model.path.below[upper.id] == ("wall-1",)
    brought = model.path.columns["column-1"].foot.dead
    for wall in (upper.id, "wall-1"):
        (post,) = model.framed[wall].posts
        assert post.source == "column-1"
        assert model.path.heads[wall].points[0].force.dead == pytest.approx(brought)
        assert model.framed[wall].design.result.used == pytest.approx(before.framed[wall].design.result.used, rel=1e-6)
        foot, was = model.path.walls[wall].foot.dead, before.path.walls[wall].foot.dead
        assert foot - was == pytest.approx(brought, rel=1e-6)
        share = model.path.shares[(wall, model.path.below[wall][0])].dead
        assert share == pytest.approx(foot, rel=1e-9)
    balanced(model)
