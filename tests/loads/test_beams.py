"""Beams in the load path: what lies on them goes to their seats by statics, on to posts, pads, walls and the soil."""

import msgspec
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.houses import house
from tests.moving import turned

from balken.analysis.lines import line, solve
from balken.demo import orchard_road
from balken.derive import derive
from balken.derive.fewest_posts import fewest_posts
from balken.design.beam_posts import girder_on_posts, posts_under
from balken.loads.cases import total
from balken.memo import Memo
from balken.mending import mend_all
from balken.model import edits
from balken.model.beam_edits import add_beam
from balken.model.errors import EditError
from balken.model.lookup import by_id
from balken.model.records import Choice, Hang
from balken.units.system import FOOT, INCH, PLF, PSF

LONG, WIDE = 36 * FOOT, 28 * FOOT


def deep_house(**more):
    return house(long=LONG, wide=WIDE, joists=Choice(size="2x10", spacing=16 * INCH), **more)


def with_girder(y=WIDE / 2, most=8 * FOOT, **more):
    p = deep_house(**more)
    return girder_on_posts(p, "floor-1", (50.0, y), (LONG - 50.0, y), most)


def balanced(model):
    path = model.path
    lost = total(r.force for r in path.lost)
    for put_on, arrived, away in zip(path.applied, path.arrived, lost, strict=True):
        assert put_on == pytest.approx(arrived + away, rel=1e-6, abs=1e-2)


def test_a_girder_halves_the_joists_and_stands_on_posts_and_pads():
    model = derive(with_girder())
    made = model.path.beams["beam-1"]
    assert model.floors[0].clear < WIDE / 2
    assert [seat.on for seat in made.seats][1:-1] == [f"column-{k}" for k in (1, 2, 3, 4)]
    assert {seat.on.partition("/")[0] for seat in (made.seats[0], made.seats[-1])} == {"foundation-1"}
    # Half of the floor lies on it: 40 psf on 14 ft x 36 ft, but for what the end walls take.
    live = model.path.beams["beam-1"].load.live
    assert live == pytest.approx(40 * PSF / 1000 * WIDE / 2 * LONG, rel=0.06)
    assert sum(r.live for r in made.design.reactions) == pytest.approx(live, rel=1e-9)
    assert not [f for f in model.findings if f.grave]
    balanced(model)
    for k in (1, 2, 3, 4):
        post, pad = model.path.columns[f"column-{k}"], model.path.pads[f"pad-{k}"]
        assert pad.live == pytest.approx(post.head.live, rel=1e-9)
        # Its head is cut at the underside of the beam.
        piece = model.pieces[f"column-{k}/column"]
        beam = model.pieces["beam-1/beam"]
        assert piece.end[2] == pytest.approx(beam.start[2], abs=0.01)


def test_posts_are_made_for_the_worst_arrangement():
    """Two equal spans: all live 10/8 on the middle either way; the ends 0.4375 against 0.375 (any handbook)."""
    p = msgspec.structs.replace(with_girder(most=LONG / 2), stock_length=40 * FOOT)
    model = derive(p)
    made = model.path.beams["beam-1"]
    assert len(made.seats) == 3
    end, middle = made.extremes[0], made.extremes[1]
    assert middle.more.live == pytest.approx(0.0, abs=1.0)
    whole = made.design.reactions[0].live
    assert end.more.live / whole == pytest.approx(0.4375 / 0.375 - 1.0, abs=0.01)
    assert model.path.extremes[made.seats[0].on].more == end.more
    # Three posts: those inside take more when their two spans alone are loaded.
    four = derive(msgspec.structs.replace(with_girder(most=LONG / 4), stock_length=40 * FOOT))
    column = four.path.beams["beam-1"].seats[1].on
    more = four.path.extremes[column].more
    assert more.live > 0.0
    assert four.posts[column].load.live == pytest.approx(four.path.columns[column].head.live + more.live, rel=1e-6)
    assert four.path.extremes["pad-1"].more == more


def test_boards_are_spliced_over_posts_alone():
    """No piece is longer than the stock; each goes from post to post, and the cut list can be bought."""
    model = derive(with_girder())
    made = model.path.beams["beam-1"]
    seats = [seat.along for seat in made.seats]
    parts = made.design.parts
    assert len(parts) > 1
    assert all(part.high - part.low <= model.project.stock_length + 1.0 for part in parts)
    assert all(any(abs(part.low - x) < 1e-6 for x in seats) for part in parts[1:])
    assert sum(part.high - part.low for part in parts) == pytest.approx(made.line.length)
    pieces = [piece for piece in model.pieces.values() if piece.role == "beam"]
    assert len(pieces) == len(parts)
    assert all(model.results[piece.key].used <= 1.0 for piece in pieces)
    # Of veneer lumber it comes in one piece.
    whole = derive(edits.change(with_girder(), "beam-1", made_of="LVL"))
    assert len(whole.path.beams["beam-1"].design.parts) == 1


def test_reactions_by_hand():
    """A simple beam of one bay: joists every 16 in, so that each end takes half of an even load."""
    p = house(long=12 * FOOT, wide=20 * FOOT, joists=Choice(size="2x10", spacing=16 * INCH))
    p = edits.change(p, "floor-1", direction=90.0)
    p = add_beam(p, (50.0, 8 * FOOT), (12 * FOOT - 50.0, 8 * FOOT), Hang(level="level-1"), "floor-1", size="4-2x12")
    made = derive(p).path.beams["beam-1"]
    patches = [
        (a, b, [v / (b - a) for v in load], [v / (b - a) for v in load])
        for a, b, load in zip(made.laid.low, made.laid.high, made.laid.loads.tolist(), strict=True)
    ]
    own = [made.design.own.dead / made.line.length] + [0.0] * 4
    solved = solve(
        [line(made.line.length, [s.along for s in made.seats], [*patches, (0.0, made.line.length, own, own)], cases=5)]
    )
    for reaction, told in zip(made.design.reactions, solved[0].reactions[0].tolist(), strict=True):
        assert list(reaction) == pytest.approx(told, rel=1e-6, abs=1e-3)
    # Off-centre: 8 ft and 12 ft of joists lie on it, so 10 ft of floor.
    assert made.load.live == pytest.approx(40 * PSF / 1000 * 10 * FOOT * (12 * FOOT - 16 * INCH), rel=0.03)


def test_flush_beams_carry_joists_in_hangers():
    p = deep_house()
    p = add_beam(
        p, (50.0, WIDE / 2), (LONG - 50.0, WIDE / 2), Hang(level="level-1"), "floor-1", flush=True, size="3-2x10"
    )
    model = derive(posts_under(p, "beam-1"))
    joist = next(piece for piece in model.pieces.values() if piece.role == "joist")
    beam = model.pieces["beam-1/beam"]
    assert beam.solid.heights[1] == pytest.approx(joist.solid.heights[1])
    on = [line for line in model.floors[0].lines if "beam-1" in line.supports]
    half = 1.5 * 1.5 * INCH
    middle = model.floors[0].frame.to((0.0, WIDE / 2))[0]
    for made in on:
        end = made.low if made.supports[0] == "beam-1" else made.high
        assert abs(end - middle) == pytest.approx(half, abs=0.01)
    balanced(model)


def test_a_wall_along_a_beam_stands_on_it():
    p = with_girder()
    foot, head = Hang(level="level-1"), Hang(level="level-2")
    p = edits.add_wall(p, (0.0, WIDE / 2), (LONG, WIDE / 2), "inside-2x6", foot, head, "centre", role="bearing")
    model = derive(p)
    wall = model.project.walls[-1].id
    assert "beam-1" in model.path.below[wall]
    assert model.path.shares[(wall, "beam-1")].dead == pytest.approx(model.path.walls[wall].foot.dead, rel=1e-6)
    balanced(model)


def test_a_beam_on_a_beam_and_a_circle():
    p = deep_house()
    level = Hang(level="level-1", offset=-300.0)
    x = LONG / 2
    p = add_beam(p, (50.0, WIDE / 2), (LONG - 50.0, WIDE / 2), level, size="W12x26", made_of="W")
    p = add_beam(p, (x, 50.0), (x, WIDE / 2), level, size="3-2x12")
    model = derive(p)
    assert [seat.on for seat in model.path.beams["beam-2"].seats][-1] == "beam-1"
    share = model.path.shares[("beam-2", "beam-1")]
    assert share.dead == pytest.approx(model.path.beams["beam-2"].design.reactions[-1].dead)
    balanced(model)
    # Three that lean on one another in a circle stand on nothing, and are named.
    q = deep_house()
    a, b, c, d = (4000.0, 3000.0), (7000.0, 3000.0), (7000.0, 6000.0), (4000.0, 6000.0)
    for start, end in ((a, (7000.0, 3100.0)), (b, (6900.0, 6000.0)), (c, (4000.0, 5900.0)), (d, (4100.0, 3000.0))):
        q = add_beam(q, start, end, level, size="3-2x12")
    found = derive(q)
    assert any(f.code in ("circle", "beam on nothing") for f in found.findings)
    balanced(found)


def test_a_beam_on_nothing_is_named_and_posts_mend_it():
    p = deep_house()
    p = add_beam(p, (3000.0, 3000.0), (8000.0, 3000.0), Hang(level="level-1"), "floor-1")
    model = derive(p)
    finding = next(f for f in model.findings if f.code == "beam on nothing")
    assert finding.grave
    balanced(model)
    mended = mend_all(p)
    assert not [f for f in mended.remaining if f.code == "beam on nothing"]
    balanced(derive(mended.project))


def test_too_long_joists_are_mended_by_a_girder():
    p = deep_house()
    assert any(f.code == "used" for f in derive(p).findings)
    mended = mend_all(p)
    model = derive(mended.project)
    assert not [f for f in mended.remaining if f.grave and f.code != "stock"]
    assert model.girders["beam-1"].works
    assert model.project.recesses  # pockets for its ends
    balanced(model)


def test_what_makes_no_sense_is_refused():
    p = deep_house()
    for fields, said in (
        ({"size": "W9x9"}, "no W shape"),
        ({"size": "W8x18"}, "no beam of that kind"),
        ({"flush": True}, "carries no floor"),
        ({"grade": "Best"}, "no grade"),
        ({"floor": "floor-9"}, "not there"),
    ):
        with pytest.raises(EditError, match=said):
            add_beam(p, (0.0, 0.0), (3000.0, 0.0), Hang(level="level-1"), **fields)
    with pytest.raises(EditError, match="long"):
        add_beam(p, (0.0, 0.0), (100.0, 0.0), Hang(level="level-1"))
    q = with_girder()
    with pytest.raises(EditError, match="as often"):
        posts_under(q, "beam-1", 9 * FOOT)
    with pytest.raises(EditError, match="apart"):
        posts_under(q, "beam-1", 1.0)


@settings(max_examples=25)
@given(st.data())
def test_loads_in_equal_reactions_out_wherever_beams_lie(data):
    p = data.draw(st.sampled_from([deep_house(), with_girder(), with_girder(y=9 * FOOT, most=12 * FOOT)]))
    spot = st.tuples(st.floats(100.0, LONG - 100.0), st.floats(100.0, WIDE - 100.0))
    memo = Memo()
    for _ in range(data.draw(st.integers(1, 3))):
        kind = data.draw(st.sampled_from(["sawn", "LVL", "GLB", "W"]))
        floor = data.draw(st.sampled_from(["", "floor-1"]))
        flush = bool(floor) and data.draw(st.booleans())
        top = Hang(level="level-1", offset=data.draw(st.sampled_from([-260.0, -400.0, 0.0])))
        try:
            p = add_beam(p, data.draw(spot), data.draw(spot), top, floor, made_of=kind, flush=flush)
            if data.draw(st.booleans()):
                p = posts_under(p, p.beams[-1].id, data.draw(st.floats(1500.0, 5000.0)))
        except EditError:
            continue
        hot, cold = derive(p, memo), derive(p)
        assert hot.path == cold.path
        assert hot.findings == cold.findings
        balanced(cold)
        for made in cold.path.beams.values():
            if made.handed:
                whole, given_ = made.load, total(made.design.reactions)
                assert list(given_) == pytest.approx(list(whole), rel=1e-6, abs=1e-2)
                turned = sum(seat.along * r.dead for seat, r in zip(made.seats, made.design.reactions, strict=True))
                middle = (made.laid.low + made.laid.high) / 2.0
                lies = float((middle * made.laid.loads[:, 0]).sum()) + made.design.own.dead * made.line.length / 2.0
                assert turned == pytest.approx(lies, rel=1e-5, abs=1.0)


def test_what_is_typed_along_a_beam():
    """The demo's porch beam, 9 1/2 ft on two posts: each carries half of what is typed, by case; all of it comes to the soil."""
    p = edits.change(orchard_road(), "beam-2", dead=84.0 * PLF, snow=210.0 * PLF)
    model, bare = derive(p), derive(edits.change(p, "beam-2", dead=0.0, snow=0.0))
    beam, long = by_id(p.beams)["beam-2"], 9.5 * FOOT
    for whole, before in zip(*(m.path.beams["beam-2"].design.reactions for m in (model, bare)), strict=True):
        assert whole.snow - before.snow == pytest.approx(beam.snow * long / 2.0, rel=1e-6)
        assert whole.dead - before.dead == pytest.approx(beam.dead * long / 2.0, rel=1e-6)
    assert model.path.applied.snow - bare.path.applied.snow == pytest.approx(beam.snow * long)
    assert model.soil.snow - bare.soil.snow == pytest.approx(beam.snow * long)
    with pytest.raises(EditError, match="along it"):
        edits.change(p, "beam-2", dead=-1.0)


@pytest.mark.parametrize(
    ("fields", "inches"),
    [
        ({"size": "4x4"}, 3.5),
        ({"size": "6x6"}, 5.5),
        ({"size": "4x6"}, 3.5),
        ({"size": None}, 3.5),
        ({"size": "", "width": 139.7, "depth": 89.0}, 89.0 / 25.4),
        ({"material": "steel", "size": "Pipe 4"}, 4.5),
    ],
)
def test_a_beam_bears_on_no_more_than_its_post_is_wide(fields, inches):
    """The section's narrower side, whatever the record's own width and depth say; of one left to Balken the narrowest there is."""
    p = edits.change(orchard_road(), "column-4", **fields)
    made = derive(p).path.beams["beam-1"]
    seat = next(s for s in made.seats if s.on == "column-4")
    assert seat.bearing == pytest.approx(inches * INCH, abs=0.1)


def test_the_fewest_posts_that_it_works_with():
    """A girder of 3-2x10 under joists of 28 ft: one post less does not do; a beam that works as it is is told so."""
    p = house(long=36 * FOOT, wide=28 * FOOT, joists=Choice(size="2x10"))
    p = add_beam(p, (38.0, 14 * FOOT), (36 * FOOT - 38.0, 14 * FOOT), Hang(level="level-1"), "floor-1", size="3-2x10")
    few = fewest_posts(p, "beam-1")
    assert derive(few).girders["beam-1"].works
    count = len(few.columns)
    assert count == len(few.pads) >= 1
    long = 36 * FOOT - 76.0
    fewer = posts_under(p, "beam-1", long / count + 25.4)
    assert len(fewer.columns) == count - 1
    assert not derive(fewer).girders["beam-1"].works
    with pytest.raises(EditError, match="works as it is"):
        fewest_posts(few, "beam-1")
    weak = edits.set_loads(edits.change(p, "beam-1", size="2-2x6"), floor_live=40.0)
    with pytest.raises(EditError, match="no number"):
        fewest_posts(weak, "beam-1")


def over_a_stub(y, *more_walls):
    """A beam from a bearing wall that ends free at 6 ft to another, its middle at a height of the plan, ft."""
    p = edits.add_level(edits.new_project("Stub"), "level-1", 8 * FOOT, "Plate", "plate")
    foot, head = Hang(level="level-1"), Hang(level="level-2")
    for start, end in (((0.0, 0.0), (0.0, 6.0)), ((14.0, 0.0), (14.0, 20.0)), *more_walls):
        (x, u), (v, w) = start, end
        p = edits.add_wall(
            p, (x * FOOT, u * FOOT), (v * FOOT, w * FOOT), "inside-2x6", foot, head, "centre", role="bearing"
        )
    return add_beam(
        p, (-2.75 * INCH, y * FOOT), (14.0 * FOOT + 2.75 * INCH, y * FOOT), head, made_of="sawn", size="3-2x10"
    )


@pytest.mark.parametrize(("off", "part"), [(-1.0, 1.0), (-1.0 / 12.0, (2.25 + 1.0) / 4.5), (0.0, 0.5)])
def test_a_beam_bears_less_where_it_lies_half_beside_a_walls_end(off, part):
    """Of a beam 4 1/2 in thick so much lies on the wall; as if it bore over so much less of the wall's 5 1/2 in."""
    model = derive(over_a_stub(6.0 + off))
    made = model.path.beams["beam-1"]
    assert made.seats[0].on == "wall-1"
    assert made.seats[0].bearing == pytest.approx(5.5 * INCH * part, abs=0.5)
    assert made.seats[-1].bearing == pytest.approx(5.5 * INCH, abs=0.5)


def test_where_the_wall_goes_on_round_a_corner_it_bears_whole():
    model = derive(over_a_stub(6.0, ((-4.0, 6.0), (0.0, 6.0))))
    assert model.path.beams["beam-1"].seats[0].bearing > 5.5 * INCH * 0.74
    both = derive(over_a_stub(6.0, ((0.0, 6.0), (0.0, 12.0))))
    assert both.path.beams["beam-1"].seats[0].bearing == pytest.approx(5.5 * INCH, abs=0.5)


@pytest.mark.parametrize("degrees", [37.0, 90.0, 218.0])
def test_it_bears_as_much_whichever_way_the_house_lies(degrees):
    for off in (0.0, -1.0 / 12.0):
        p = over_a_stub(6.0 + off)
        still, made = (derive(q).path.beams["beam-1"].seats for q in (p, turned(p, degrees)))
        assert [seat.bearing for seat in made] == pytest.approx([seat.bearing for seat in still], abs=0.01)
