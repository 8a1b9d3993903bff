"""Hangers chosen from a list: what comes to each, what fits, what is said where none does; schedules and marks."""

import math

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from tests.houses import house

from balken.catalog.hangers import HEADINGS, METRIC, made_up, read_rows
from balken.catalog.sections import section
from balken.derive import derive
from balken.design.hangers import listed
from balken.documents.beam_marks import beam_marks
from balken.documents.display import Path, Text
from balken.documents.joist_schedule import hanger_schedule, joist_schedule
from balken.documents.plan import PlanOf, plan
from balken.exchange.file_errors import FileError
from balken.exchange.hanger_list import read_hangers
from balken.exchange.project_file import from_bytes, to_bytes
from balken.loads.cases import Cases, total
from balken.model import edits
from balken.model.beam_edits import add_beam
from balken.model.errors import EditError
from balken.model.hanger_edits import take_hangers
from balken.model.kinds.floor_opening import FloorOpening
from balken.model.records import Choice, FreePoint, Hang
from balken.units.system import FOOT, INCH, PLF, POUND_FORCE

FLOOR = "floor-1"


def with_stair(width=5.0 * FOOT, **fields):
    """A house 30 x 20 ft whose joists of 2x12 span 20 ft, with an opening off its middle."""
    p = house(joists=Choice(size="2x12", spacing=16.0 * INCH))
    p = edits.change(p, FLOOR, direction=90.0, **fields)
    hole = FloorOpening(
        id="floor-opening-1", floors=(FLOOR,), kind="stair", place=FreePoint(x=9.0 * FOOT, y=4.0 * FOOT),
        width=width, depth=8.0 * FOOT,
    )  # fmt: skip
    return edits.add(p, hole)


def with_flush_beam(length=30.0):
    p = house(long=length * FOOT, joists=Choice(size="2x10"))
    beam = add_beam(p, (0.0, 10.0 * FOOT), (length * FOOT, 10.0 * FOOT), Hang(level="level-1"), FLOOR, flush=True)
    return edits.change(beam, FLOOR, direction=90.0)


def test_what_comes_to_a_hanger_by_hand():
    """Tail joists by statics: half their own strip to the header, half to the wall; headers half of theirs to each trimmer."""
    p = with_stair()
    model = derive(p)
    plan_ = model.floors[0]
    tails = [h for h in model.hangers if "/header/" in h.on]
    assert len(tails) == sum(1 for line in plan_.lines if plan_.holes[0].t0 < line.t < plan_.holes[0].t1)
    q = p.loads.floor_live
    for one in tails:
        line = next(x for x in plan_.lines if one.member.endswith(x.place))
        a, b = line.centres
        at = 0 if line.supports[0] == one.on else 1
        low, high, width = line.load_low, line.load_high, line.width
        lever = (high - low) * ((low + high) / 2.0 - a) / (b - a)
        share = (high - low) - lever if at == 0 else lever
        assert one.load.live == pytest.approx(q * width * share / 1000.0, rel=1e-4)
    ends = [h for h in model.hangers if h.member.startswith(f"{FLOOR}/header")]
    assert len(ends) == 4
    for name in {h.member for h in ends}:
        both = total(h.load for h in ends if h.member == name)
        hung = total(h.load for h in tails if h.on == name)
        assert both.live == pytest.approx(hung.live, rel=1e-6)
        assert both.dead == pytest.approx(hung.dead, rel=1e-6)


def test_the_cheapest_that_fits_and_carries():
    """Width to 1/16 in, depth within its bounds, strength at normal duration: each by looking through the list again."""
    model = derive(with_stair())
    rows = {row.name: row for row in made_up()}
    assert model.hangers
    for one in model.hangers:
        row, lumber = rows[one.hanger], section(one.size)
        assert 0.0 <= row.width - lumber.breadth + 1e-6 <= INCH / 16.0 + 0.1
        assert row.least_depth - 1.0 <= lumber.depth <= row.most_depth + 1.0
        assert row.down >= one.most
        assert one.used == pytest.approx(one.most / row.down)
        cheaper = [
            other
            for other in rows.values()
            if other.price < row.price
            and abs(other.width - row.width) < 0.1
            and other.least_depth - 1.0 <= lumber.depth <= other.most_depth + 1.0
        ]
        assert all(other.down < one.most for other in cheaper)


def test_a_short_load_counts_by_its_duration():
    """D + L at 1.0 against D alone over 0.9: the greater of the two asks (NDS 2.3.2; ASCE 7, 2.4.1)."""
    for dead, live in ((100.0, 4000.0), (4000.0, 100.0)):
        model = derive(with_stair())
        load = Cases(dead=dead, live=live)
        combos = model.standard.combinations.true_of(load)
        assert max(c.of(load) / c.duration for c in combos) == pytest.approx(max(dead / 0.9, dead + live))


def test_joists_on_a_flush_beam_hang_at_both_its_sides():
    model = derive(with_flush_beam())
    hung = [h for h in model.hangers if h.on == "beam-1"]
    assert len(hung) == len(model.floors[0].lines)
    plan_ = model.floors[0]
    assert len({round(plan_.frame.to(h.at[:2])[0]) for h in hung}) == 2
    assert not [f for f in model.findings if f.code == "hanger"]


def test_where_none_fits_it_is_said():
    p = take_hangers(with_stair(), [row for row in made_up() if row.width > 2.0 * INCH])
    model = derive(p)
    assert any(f.code == "hanger" and "as wide and deep" in f.what for f in model.findings)
    weak = take_hangers(p, [row._replace(down=10.0) for row in made_up()])
    assert any(f.code == "hanger" and "carries as much" in f.what for f in derive(weak).findings)
    assert not [f for f in derive(take_hangers(weak, ())).findings if f.code == "hanger"]


def test_a_list_of_ones_own(tmp_path):
    """Read from CSV in inches or mm, kept in the project's file; what is wrong is said with its line."""
    good = tmp_path / "mine.csv"
    good.write_text(",".join(HEADINGS) + "\n# a note\nM 1,1.5,5.5,12,2,1500,300,2.5\n", encoding="utf-8")
    (row,) = read_hangers(good)
    assert (row.width, row.down) == (pytest.approx(38.1), pytest.approx(1500.0 * POUND_FORCE))
    metric = tmp_path / "metric.csv"
    metric.write_text(",".join(METRIC) + "\nM 1,38.1,139.7,304.8,50.8,6672,1334,2.5\n", encoding="utf-8")
    assert read_hangers(metric)[0].down == 6672.0
    p = take_hangers(with_stair(), [row])
    assert from_bytes(to_bytes(p)) == p
    assert listed(p.hangers)[0][1:] == pytest.approx(row[1:])
    assert {h.hanger for h in derive(p).hangers if section(h.size).plies == 1} == {"M 1"}
    assert "made-up" in hanger_schedule(derive(with_stair())).title
    assert "made-up" not in hanger_schedule(derive(p)).title
    for text, said in (
        ("", "empty"),
        ("a,b\n", "first line"),
        (",".join(HEADINGS) + "\n", "no hanger"),
        (",".join(HEADINGS) + "\nM 1,1.5,5.5\n", "line 2"),
        (",".join(HEADINGS) + "\nM 1,1.5,x,12,2,1500,300,2.5\n", "line 2"),
        (",".join(HEADINGS) + "\nM 1,1.5,12,5,2,1500,300,2.5\n", "line 2"),
        (",".join(HEADINGS) + "\nM 1,1.5,5,12,2,-3,300,2.5\n", "line 2"),
        (",".join(HEADINGS) + "\n" + "M 1,1.5,5,12,2,3,300,2.5\n" * 2, "second time"),
        (",".join(HEADINGS) + "\nM 1,nan,5,12,2,3,300,2.5\n", "line 2"),
    ):
        bad = tmp_path / "bad.csv"
        bad.write_text(text, encoding="utf-8")
        with pytest.raises(FileError, match=said):
            read_hangers(bad)
    (tmp_path / "raw.csv").write_bytes(b"\xff\xfe\x00\x9f")
    for name in ("raw.csv", "none.csv"):
        with pytest.raises(FileError):
            read_hangers(tmp_path / name)
    with pytest.raises(EditError):
        take_hangers(p, [row._replace(width=0.0)])
    assert len(read_rows(["# x", ",".join(HEADINGS), "M,1.5,5,12,2,3,0,0"])) == 1


def test_schedules_count_every_piece():
    model = derive(with_stair())
    table = joist_schedule(model)
    framed = model.of_layouts("joist", "floor header", "rim board", "blocking")
    assert sum(int(row[1]) for row in table.rows) == len(framed)
    assert {row[0] for row in table.rows} == {model.marks[piece.key] for piece in framed}
    assert sum(int(row[1]) for row in hanger_schedule(model).rows) == len(model.hangers)
    for row in table.rows:
        mine = [piece for piece in framed if model.marks[piece.key] == row[0]]
        assert row[3].startswith(mine[0].section)


def test_every_mark_of_a_joist_stands_on_the_plan():
    model = derive(with_stair())
    drawn = plan(model, PlanOf("Floors", frozenset({"floors"}), storey="level-1"), 50.0)
    said = " ".join(item.text for item in drawn.items if isinstance(item, Text)).split()
    for piece in model.of_layouts("joist", "floor header"):
        assert model.marks[piece.key] in said
    signs = [item for item in drawn.items if getattr(item, "ref", "") in {h.member for h in model.hangers}]
    assert len(signs) >= len(model.hangers)


def hung_beam(size="3-2x10", on="4-2x12", load=0.0, made_of="sawn"):
    """A beam from the front wall to the side of another one across the house, ten feet long, both with their tops alike."""
    p = house(joists=Choice(size="2x10", spacing=16.0 * INCH))
    level = Hang(level="level-1", offset=-14.0 * INCH)
    p = add_beam(p, (50.0, 10.0 * FOOT), (30.0 * FOOT - 50.0, 10.0 * FOOT), level, size=on, made_of=made_of)
    return add_beam(p, (11.0 * FOOT, 50.0), (11.0 * FOOT, 10.0 * FOOT), level, size=size, live=load)


def test_a_beam_hangs_at_the_side_of_another():
    """A line load of 300 plf over 10 ft, by the lever; the seat is as long as the beam was checked for."""
    model = derive(hung_beam(load=300.0 * PLF))
    (one,) = model.hangers
    made = model.path.beams["beam-2"]
    assert (one.on, one.size) == ("beam-1", "3-2x10")
    long, near = made.line.length, made.seats[0].along
    assert one.load.live == pytest.approx(300.0 * PLF * long * (long / 2.0 - near) / (long - near), rel=1e-4)
    # Live load on what reaches past the middle of the wall alone would press less there: all of it counts without that.
    assert one.most == pytest.approx(made.design.made[0].extremes[-1][0], rel=1e-6)
    row = next(row for row in made_up() if row.name == one.hanger)
    assert (row.width, row.least_depth <= 9.25 * INCH <= row.most_depth) == (pytest.approx(4.5 * INCH), True)
    assert row.seat >= made.seats[-1].bearing == pytest.approx(2.5 * INCH)
    assert one.used == pytest.approx(one.most / row.down)
    assert any(
        i.ref == one.member and len(i.points) == 4
        for i in beam_marks(model, ["beam-2"], 60.0, True, False)
        if isinstance(i, Path)
    )


def test_what_no_hanger_holds_up():
    heavy = derive(hung_beam(load=3000.0 * PLF))
    assert any(f.code == "hanger" and "carries as much" in f.what for f in heavy.findings)
    deep = derive(hung_beam(size="3-2x12", on="4-2x8"))
    assert any(f.code == "hanger" and "reaches below" in f.what for f in deep.findings)
    steel = derive(hung_beam(on="W12x26", made_of="W"))
    assert [one.on for one in steel.hangers] == ["beam-1"]


def test_a_beam_on_top_of_another_needs_none():
    p = hung_beam()
    p = edits.change(p, "beam-2", top=Hang(level="level-1", offset=-14.0 * INCH + 9.25 * INCH))
    model = derive(p)
    assert model.hangers == ()
    assert model.path.beams["beam-2"].seats[-1].bearing == pytest.approx(6.0 * INCH)


@given(at=st.floats(4.0, 26.0), plf=st.floats(0.0, 600.0), size=st.sampled_from(["2-2x8", "3-2x10", "2-2x10"]))
def test_hung_beams_anywhere_hand_down_all_they_carry(at, plf, size):
    p = house(joists=Choice(size="2x10", spacing=16.0 * INCH))
    level = Hang(level="level-1", offset=-14.0 * INCH)
    p = add_beam(p, (50.0, 10.0 * FOOT), (30.0 * FOOT - 50.0, 10.0 * FOOT), level, size="4-2x12")
    p = add_beam(p, (at * FOOT, 50.0), (at * FOOT, 10.0 * FOOT), level, size=size, live=plf * PLF)
    model = derive(p)
    (one,) = model.hangers
    assert one.load == model.path.beams["beam-2"].design.reactions[-1]
    assert model.path.arrived.live == pytest.approx(model.path.applied.live, rel=1e-6)


@given(turn=st.floats(-50.0, 50.0), flip=st.booleans(), short=st.floats(-90.0, 60.0))
def test_a_hung_beam_is_cut_where_it_meets_the_side(turn, flip, short):
    """However askew it comes and whether drawn a little too long or too short: it touches the other one and is nowhere in it."""
    p = house(long=40.0 * FOOT, joists=Choice(size="2x10", spacing=16.0 * INCH))
    level, x = Hang(level="level-1", offset=-14.0 * INCH), 20.0 * FOOT
    p = add_beam(p, (50.0, 10.0 * FOOT), (40.0 * FOOT - 50.0, 10.0 * FOOT), level, size="4-2x12")
    foot = (x + 10.0 * FOOT * math.tan(math.radians(turn)), 50.0)
    ends = (foot, (x, 10.0 * FOOT + short))
    p = add_beam(p, *(ends[::-1] if flip else ends), level, size="3-2x10")
    model = derive(p)
    one, other = (
        next(x for x in model.pieces.values() if (x.owner, x.role) == (owner, "beam")) for owner in ("beam-2", "beam-1")
    )
    a, b = (shapely.MultiPoint([c[:2] for c in piece.solid.corners()]).convex_hull for piece in (one, other))
    assert a.intersection(b).area < 1.0
    assert a.distance(b) < 0.01
