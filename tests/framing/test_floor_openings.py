"""Openings in floors: framed by headers and trimmers, carried to the bearings; nothing lost, nothing floating."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from tests.houses import house
from tests.loads.test_beams import balanced

from balken.catalog.sections import section
from balken.demo import orchard_road
from balken.derive import derive
from balken.design.beam_posts import girder_on_posts
from balken.documents.plan import PlanOf, plan
from balken.framing.floors import _loose_headers, floor_area
from balken.loads.area_loads import Reaction
from balken.loads.cases import total
from balken.loads.decks import Deck, carry_deck
from balken.memo import Memo
from balken.model import edits
from balken.model.beam_edits import add_floor_opening
from balken.model.errors import EditError
from balken.model.kinds.floor_opening import FloorOpening
from balken.model.records import Choice, Column, FreePoint, Hang
from balken.units.system import FOOT, INCH, PSF


def laid(long=30 * FOOT, wide=14 * FOOT):
    return house(long=long, wide=wide, joists=Choice(size="2x10", spacing=16 * INCH))


def with_stair(p, x=10 * FOOT, y=2 * FOOT, width=10 * FOOT, depth=3.5 * FOOT, **fields):
    return edits.add(
        p,
        FloorOpening(
            id="floor-opening-1", floors=("floor-1",), place=FreePoint(x=x, y=y), width=width, depth=depth, **fields
        ),
    )


def test_a_stair_along_the_wall_is_framed():
    """By hand: ten feet of joists cut, each tail brings its half of the strip to the header, that half to each trimmer."""
    before, model = derive(laid()), derive(with_stair(laid()))
    (hole,) = model.floors[0].holes
    assert hole.plies == 2  # 10 ft of header: doubled (IRC R502.10)
    headers = [p for p in model.pieces.values() if p.role == "floor header"]
    assert [p.section for p in headers] == ["2-2x10"] * 2
    assert all(p.length == pytest.approx(10 * FOOT) for p in headers)
    # Nothing stands in the hole.
    for piece in model.of_layouts("joist", "floor header", "floor deck"):
        for ring in piece.solid.plan[:1]:
            inside = [
                (x, y) for x, y in ring if 10 * FOOT < x - 1 < 20 * FOOT - 2 and 2 * FOOT < y - 1 < 5.5 * FOOT - 2
            ]
            assert not inside or piece.role == "floor deck"
    deck = next(p for p in model.of_layouts("floor deck"))
    assert deck.volume == pytest.approx(
        next(p for p in before.of_layouts("floor deck")).volume - 10 * FOOT * 3.5 * FOOT * 0.75 * INCH, rel=1e-6
    )
    assert floor_area(before.floors[0]) - floor_area(model.floors[0]) == pytest.approx(10 * FOOT * 3.5 * FOOT)
    # The long tails hang 14 - 5.5 ft of floor on the far header, less what they bring to the wall.
    far = model.path.decks["floor-1"].headers[hole.header(1)]
    brought = sum(load.force.live for load in far)
    span = 14 * FOOT - 5.5 * FOOT
    assert brought == pytest.approx(40 * PSF / 1000 * 10 * FOOT * span / 2, rel=0.1)
    trimmers = [name for name, rows in model.path.decks["floor-1"].joists.items() if rows]
    assert len(trimmers) == 2
    assert all(model.pieces[name].section[:2] in ("2-", "3-") for name in trimmers)
    assert all(model.results[name].used > 0.0 for name in trimmers)
    balanced(model)


def test_a_chimney_has_single_members():
    """Up to 4 ft of header: single header and trimmers (IRC R502.10)."""
    model = derive(with_stair(laid(), width=3 * FOOT, depth=2.5 * FOOT, y=5 * FOOT, kind="chimney"))
    (hole,) = model.floors[0].holes
    assert hole.plies == 1
    assert {p.section for p in model.pieces.values() if p.role == "floor header"} == {"2x10"}
    balanced(model)


def test_what_lies_on_tails_comes_down_through_header_and_trimmers():
    p = with_stair(laid())
    foot = Hang(level="level-1")
    p = edits.add_wall(
        p,
        (12 * FOOT, 9 * FOOT),
        (18 * FOOT, 9 * FOOT),
        "inside-2x4",
        foot,
        Hang(level="level-2"),
        "centre",
        role="divides",
    )
    model = derive(p)
    wall = model.project.walls[-1].id
    made = model.path.decks["floor-1"]
    through = [row for rows in made.headers.values() for row in rows if row.source == wall]
    assert through
    assert sum(r.force.dead for r in made.reactions if r.through == wall) == pytest.approx(
        model.path.walls[wall].foot.dead, rel=1e-9
    )
    balanced(model)


def test_through_two_floors_in_one_go_and_along_its_floor():
    p = with_stair(laid())
    assert not edits.remove(p, "floor-1").floor_openings[0].floors
    moved = edits.change(p, "floor-opening-1", place=FreePoint(x=12 * FOOT, y=2 * FOOT))
    assert derive(moved).floors[0].holes[0].t0 != derive(p).floors[0].holes[0].t0


@pytest.mark.parametrize(
    ("fields", "said"),
    [
        ({"x": -2 * FOOT}, "edge of the floor"),
        ({"width": 39 * FOOT}, "edge of the floor"),
        ({"angle": 20.0}, "askew"),
    ],
)
def test_what_cannot_be_framed_is_said_and_left_whole(fields, said):
    model = derive(with_stair(laid(), **fields))
    assert not model.floors[0].holes
    assert any(f.code == "floor opening" and said in f.what for f in model.findings)
    balanced(model)


def test_over_a_bearing_wall_is_said():
    p = house(long=30 * FOOT, wide=24 * FOOT, joists=Choice(size="2x12", spacing=16 * INCH))
    p = girder_on_posts(p, "floor-1", (50.0, 12 * FOOT), (30 * FOOT - 50.0, 12 * FOOT))
    model = derive(with_stair(p, y=10 * FOOT, depth=5 * FOOT))
    assert any(f.code == "floor opening" and "carries the floor" in f.what for f in model.findings)
    balanced(model)
    clear = derive(with_stair(p, y=2 * FOOT))
    assert not [f for f in clear.findings if f.code == "floor opening"]
    balanced(clear)


def test_it_is_drawn_as_a_hole():
    model = derive(with_stair(laid()))
    items = plan(model, PlanOf("Floors", frozenset({"floors"}), frozenset(), "level-1"), 64.0).items
    assert sum(getattr(item, "ref", "") == "floor-opening-1" for item in items) == 3


def test_a_column_in_it_stands_on_no_deck():
    p = with_stair(laid())
    for k, y in ((1, 4 * FOOT), (2, 9 * FOOT)):
        p = edits.add(
            p,
            Column(
                id=f"column-{k}",
                place=FreePoint(x=15 * FOOT, y=y),
                foot=Hang(level="level-1"),
                head=Hang(level="level-2"),
            ),
        )
    below = derive(p).path.below
    assert below["column-1"] == ()
    assert below["column-2"] == ("floor-1",)


def test_two_that_would_hang_on_one_another_are_said():
    """Each cuts a trimmer of the other: the second is left whole, for nothing would carry either."""
    p = with_stair(laid(wide=24 * FOOT), x=4 * FOOT, y=3 * FOOT, width=6 * FOOT, depth=4 * FOOT)
    other = FloorOpening(
        id="floor-opening-2",
        floors=("floor-1",),
        place=FreePoint(x=8 * FOOT, y=14 * FOOT),
        width=6 * FOOT,
        depth=4 * FOOT,
    )
    model = derive(edits.add(p, other))
    assert len(model.floors[0].holes) == 1
    assert any("staggered" in f.what for f in model.findings)
    balanced(model)
    # With a girder between them both are framed.
    between = girder_on_posts(edits.add(p, other), "floor-1", (50.0, 12 * FOOT), (30 * FOOT - 50.0, 12 * FOOT))
    both = derive(between)
    assert len(both.floors[0].holes) == 2
    balanced(both)


def test_nonsense_is_refused():
    with pytest.raises(EditError, match="sides must be"):
        with_stair(laid(), width=10.0)
    with pytest.raises(EditError, match="no floor"):
        add_floor_opening(laid(), "", (0.0, 0.0), (1000.0, 1000.0))


@settings(max_examples=30)
@given(st.data())
def test_loads_in_equal_reactions_out_wherever_openings_are(data):
    p = data.draw(st.sampled_from([laid(), laid(34 * FOOT, 24 * FOOT), house(middle=True)]))
    memo = Memo()
    for k in range(data.draw(st.integers(1, 3))):
        x, y = data.draw(st.floats(0.0, 28 * FOOT)), data.draw(st.floats(0.0, 20 * FOOT))
        width, depth = data.draw(st.floats(300.0, 4000.0)), data.draw(st.floats(300.0, 4000.0))
        p = edits.add(
            p,
            FloorOpening(
                id=f"floor-opening-{k + 1}", floors=("floor-1",), place=FreePoint(x=x, y=y), width=width, depth=depth
            ),
        )
        hot, cold = derive(p, memo), derive(p)
        assert hot.path == cold.path
        assert hot.findings == cold.findings
        balanced(cold)
        for made in cold.path.decks.values():
            brought = total(load.force for rows in made.headers.values() for load in rows)
            assert brought.live >= 0.0


def test_all_that_frames_a_floor_lies_between_its_underside_and_its_deck():
    """Joists, rims, headers, blocks of the demo: from the joists' underside up to the deck, whichever way they run."""
    model = derive(orchard_road())
    for made in model.floors:
        top = model.level_height(made.floor.level) - made.floor.deck
        for piece in model.of_layouts("joist", "rim board", "floor header", "blocking"):
            if piece.owner == made.floor.id:
                low, high = piece.solid.heights
                assert high == pytest.approx(top, abs=1e-6), piece.key
                assert low == pytest.approx(top - section(piece.section).depth, abs=1e-6), piece.key


def test_a_header_without_its_trimmer_is_told_and_hands_all_to_the_other():
    model = derive(with_stair(laid()))
    plan = model.floors[0]
    (hole,) = plan.holes
    gone = [m for m in plan.lines if abs(m.t - hole.trimmers[0]) > 1.0]
    told = list(_loose_headers(plan.floor, plan.frame, gone, plan.holes, 0.0))
    assert len(told) == 2
    assert not list(_loose_headers(plan.floor, plan.frame, list(plan.lines), plan.holes, 0.0))
    # One joist alone beside the opening: all that comes to the headers goes down it, none is lost.
    only = [m for m in gone if abs(m.t - hole.trimmers[1]) < 1.0]
    tails = tuple(
        Reaction(load.joist, header, plan.frame.back(hole.header_at(0), load.t), load.force, load.source)
        for header, loads in model.path.decks["floor-1"].headers.items()
        for load in loads
    )
    deck = Deck(replace(plan, lines=tuple(only)), 0.0, tails)
    brought = total(r.force for r in tails)
    assert brought.live > 0.0
    assert carry_deck(deck).sum.live == pytest.approx(brought.live)
