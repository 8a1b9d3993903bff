"""Slabs above ground: strips against the beam tables of any handbook, bars by hand, loads on their way down."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.houses import house
from tests.loads.test_beams import balanced

from balken.catalog.materials import weight
from balken.derive import derive
from balken.documents.plan_sheets import schedules
from balken.documents.quantities import quantities
from balken.documents.slab_schedule import bars_of
from balken.framing.outlines import Outline
from balken.framing.pieces import Bearer
from balken.framing.tributary import tributary
from balken.loads.cases import Cases
from balken.memo import Memo
from balken.model import edits, slab_edits
from balken.model.errors import EditError
from balken.model.floor_edits import add_floor_load, bow_side, draw_floor
from balken.model.kinds.floor_opening import FloorOpening
from balken.model.kinds.foundation import NO_SILL
from balken.model.records import Choice, FreePoint
from balken.standards.demands import SlabBars, SlabCase
from balken.standards.us import one_way_slabs
from balken.units.system import FOOT, INCH, PSI

KSI = 1000.0 * PSI
KIP_FT = 4448.2216 * 304.8


def strip(spans, dead, live, size="slab 6 in", fc=4.0 * KSI, over=0.0, bearing=1.0):
    """A strip a foot wide; loads in N/mm along it."""
    at = [over + sum(spans[:k]) for k in range(len(spans) + 1)]
    q = Cases(dead=dead, live=live)
    long = at[-1]
    return SlabCase(
        size, 12 * INCH, long, tuple(at), (bearing,) * len(at), ((0.0, long, q, q),), (), fc, 60.0 * KSI
    )  # fmt: skip


def slab_house(**fields):
    p = house(long=30 * FOOT, wide=14 * FOOT)
    p = edits.change(p, "foundation-1", sill_size=NO_SILL)
    recast = slab_edits.recast(p.floors[0], "slab")
    return edits.change(p, "floor-1", deck=0.0, over="continuous", joists=recast.joists, **fields)


def test_bars_by_hand():
    """#4 at 12 in in a slab of 6 in, 4 ksi: d = 5 in, a = 12/40.8 = 0.294 in, phi Mn = 0.9 x 12 k x 4.853 in = 4.37 ft k."""
    case = strip([10 * FOOT], 1.0, 1.0)
    made = one_way_slabs.check_slab(case, SlabBars(4, 12 * INCH, 0.0, 4, 12 * INCH))
    bending = next(c for c in made.checks if c.name == "bending, bars below")
    depth = 12.0 / (0.85 * 4.0 * 12.0)
    assert bending.capacity * 1e6 / KIP_FT == pytest.approx(0.9 * 12.0 * (5.0 - depth / 2.0) / 12.0, rel=1e-6)
    least = next(c for c in made.checks if c.name == "steel, least")
    assert least.demand == pytest.approx(0.0018 * 12 * 6 * INCH**2)
    assert least.capacity == pytest.approx(0.20 * INCH**2)
    widest = next(c for c in made.checks if c.name.startswith("spacing"))
    # 24.3.2: 15 x 40000/40000 - 2.5 x 0.75 = 13.1 in, at most 12 x 40000/fs = 12 in.
    assert widest.capacity == pytest.approx(12 * INCH)


@pytest.mark.parametrize(("spans", "ratio"), [([14 * FOOT], 20.0), ([14 * FOOT] * 2, 24.0), ([14 * FOOT] * 3, None)])
def test_least_thickness(spans, ratio):
    """ACI 318-19, Table 7.3.1.1 (from memory): l/20, l/24 where one end runs on; of three alike the outer ones ask for most."""
    case = strip(spans, 1.0, 1.0, size="slab 8 in")
    made = one_way_slabs.check_slab(case, one_way_slabs.slab_bars((case,)))
    check = next(c for c in made.checks if c.name == "thickness against sag")
    assert check.demand == pytest.approx(14 * FOOT / (ratio or 24.0))


def test_two_spans_with_live_load_on_any_of_them():
    """Any handbook: two equal spans, w on both: w l2/8 over the middle; most in a span 0.0703 D + 0.0957 L (one span loaded)."""
    long, dead, live = 15 * FOOT, 2.0, 3.0
    case = strip([long, long], dead, live)
    made = one_way_slabs.check_slab(case, one_way_slabs.slab_bars((case,)))
    above = next(c for c in made.checks if c.name == "bending, bars above")
    below = next(c for c in made.checks if c.name == "bending, bars below")
    assert above.demand * 1e6 == pytest.approx((1.2 * dead + 1.6 * live) * long**2 / 8.0, rel=1e-6)
    # The most of dead and live lie at places a little apart: bounded by their sum, near it.
    most = (1.2 * dead * 9.0 / 128.0 + 1.6 * live * 49.0 / 512.0) * long**2
    assert 0.98 * most < below.demand * 1e6 <= most * (1.0 + 1e-6)
    shear = next(c for c in made.checks if c.name == "one-way shear")
    assert shear.demand * 1e3 == pytest.approx(0.625 * (1.2 * dead + 1.6 * live) * long, rel=0.002)


def test_an_overhang_hogs_and_its_bars_run_to_the_end():
    q = Cases(dead=2.0, live=3.0)
    case = SlabCase(
        "slab 6 in", 12 * INCH, 12 * FOOT, (4 * FOOT, 12 * FOOT), (100.0, 100.0), ((0.0, 12 * FOOT, q, q),), (),
        4 * KSI, 60 * KSI,
    )  # fmt: skip
    bars = one_way_slabs.slab_bars((case,))
    made = one_way_slabs.check_slab(case, bars)
    above = next(c for c in made.checks if c.name == "bending, bars above")
    assert above.demand * 1e6 == pytest.approx((1.2 * 2.0 + 1.6 * 3.0) * (4 * FOOT) ** 2 / 2.0, rel=1e-6)
    assert bars.reach >= 4 * FOOT


@given(
    spans=st.lists(st.floats(6.0, 18.0), min_size=1, max_size=4),
    dead=st.floats(1.0, 6.0),
    live=st.floats(0.5, 8.0),
)
@settings(max_examples=40, deadline=None)
def test_what_the_bars_are_chosen_for_they_carry(spans, dead, live):
    """The bars chosen are never used over 100 % in bending, but where nothing tried is enough (the closest are then taken)."""
    case = strip([s * FOOT for s in spans], dead, live, size="slab 8 in")
    bars = one_way_slabs.slab_bars((case,))
    made = one_way_slabs.check_slab(case, bars)
    for check in made.checks:
        if check.name.startswith("bending"):
            closest = min(x for x in (bars.below, bars.above or 1e9))
            assert check.used <= 1.0 + 1e-9 or closest <= one_way_slabs.CLOSEST + 1e-6


# In a building --------------------------------------------------------------------------------------


def test_a_slab_lies_on_its_walls_and_weighs_what_it_does():
    model = derive(slab_house())
    design, plan = model.designs[("floor-1", "joists")], model.floors[0]
    # 14 ft less the walls, l/20: 8 in and a half.
    assert design.size_auto
    assert design.works
    assert plan.clear / 20.0 <= design.result.case.section.depth < plan.clear / 20.0 + 1.0 * INCH
    (slab,) = model.of_layouts("floor slab")
    assert slab.volume == pytest.approx(shapely.Polygon(plan.outline.core).area * design.result.case.section.depth)
    balanced(model)
    bare = derive(edits.change(slab_house(), "floor-1", joists__size="slab 12 in"))
    more = bare.path.applied.dead - model.path.applied.dead
    area = shapely.Polygon(plan.outline.core).area * 1e-6
    deeper = (12 * INCH - design.result.case.section.depth) / 1000.0
    assert more == pytest.approx(area * deeper * weight("concrete") * 1000.0, rel=1e-6)
    assert not model.of_layouts("joist", "rim board", "floor deck", "blocking")
    rows = [table for table in schedules(model) if table.title.startswith("Schedule of slabs")]
    assert len(rows[0].rows) == 1
    assert any(row.role == "floor slab" for row in quantities(model).concrete)
    assert any(row.where == "Floor" for row in quantities(model).bars)


def test_its_bars_are_counted_strip_by_strip():
    model = derive(slab_house())
    plan, slab = model.floors[0], model.raised["floor-1"]
    counted = {use: (n, long) for use, _, n, long in bars_of(model, plan)}
    width = max(t for _, t in plan.frame.ring(plan.outline.core)) - min(
        t for _, t in plan.frame.ring(plan.outline.core)
    )
    assert counted["below"][0] == math.ceil(width / slab.bars.below - 1e-6)
    assert "above" not in counted


def test_a_wall_on_it_gets_bars_of_its_own_and_comes_down():
    p = slab_house()
    p = add_floor_load(
        p, "floor-1", (8 * FOOT, 2 * FOOT), (8 * FOOT, 11 * FOOT), name="Wall", dead=14_000.0, live=9_000.0
    )
    model = derive(p)
    slab = model.raised["floor-1"]
    assert slab.more
    assert all(slab.results[name].used <= 1.0 for name in slab.more)
    balanced(model)
    assert derive(p, Memo()).raised["floor-1"].more == slab.more


def test_round_an_opening_strips_hang_on_those_beside_it():
    p = edits.add(
        slab_house(),
        FloorOpening(
            id="floor-opening-1",
            floors=("floor-1",),
            place=FreePoint(x=12 * FOOT, y=4 * FOOT),
            width=4 * FOOT,
            depth=5 * FOOT,
        ),
    )
    model = derive(p)
    (hole,) = model.floors[0].holes
    balanced(model)
    slab = model.raised["floor-1"]
    assert hole.header(0) in slab.results
    assert hole.header(1) in slab.results
    (piece,) = model.of_layouts("floor slab")
    whole = derive(slab_house()).of_layouts("floor slab")[0]
    thick = model.designs[("floor-1", "joists")].result.case.section.depth
    assert whole.volume - piece.volume == pytest.approx(20 * FOOT**2 * thick, rel=1e-6)


def test_on_a_sill_plate_it_is_a_finding_and_the_fix_takes_it_out():
    p = edits.change(slab_house(), "foundation-1", sill_size="2x6")
    found = [f for f in derive(p).findings if f.code == "sill under a slab"]
    assert len(found) == 1
    model = derive(slab_house())
    assert not model.of_foundations("sill plate")
    assert not [f for f in model.findings if f.code == "sill under a slab"]


def test_too_thin_it_says_so_and_offers_the_thickness_that_works():
    model = derive(edits.change(slab_house(), "floor-1", joists__size="slab 4 in"))
    (found,) = [f for f in model.findings if f.code == "used" and f.stage == "floors"]
    assert "slab 4 in" in found.what
    assert found.fix is not None
    assert "slab" in found.fix.label


def test_walls_below_are_cut_all_at_once_but_for_those_left_out():
    p = slab_house()
    p = edits.change(p, "floor-1", level="level-2")
    model = derive(p)
    under = slab_edits.walls_under(p, "floor-1", model.outlines["floor-1"].core)
    assert set(under) == {"wall-1", "wall-2", "wall-3", "wall-4"}
    p = slab_edits.leave_out(p, "floor-1", "wall-3")
    p = slab_edits.cut_walls(p, "floor-1", under)
    assert {w.id for w in slab_edits.cut_by(p, "floor-1")} == {"wall-1", "wall-2", "wall-4"}
    cut = derive(p)
    thick = cut.designs[("floor-1", "joists")].result.case.section.depth
    assert cut.lines["wall-1"].band.top == pytest.approx(8 * FOOT - thick)
    assert cut.lines["wall-3"].band.top == pytest.approx(8 * FOOT)
    p = slab_edits.take_in(p, "floor-1", "wall-3")
    assert len(slab_edits.cut_by(p, "floor-1")) == 4


def test_copied_to_another_level_with_another_thickness():
    p = edits.change(slab_house(), "floor-1", joists__size="slab 9 in")
    p = slab_edits.copy_floor(p, "floor-1", "level-2", "slab 10 in")
    model = derive(p)
    assert [f.joists.size for f in p.floors] == ["slab 9 in", "slab 10 in"]
    tops = sorted(piece.solid.heights[1] for piece in model.of_layouts("floor slab"))
    assert tops == pytest.approx([0.0, 8 * FOOT])
    balanced(model)
    with pytest.raises(EditError, match="already"):
        slab_edits.copy_floor(p, "floor-1", "level-1")
    with pytest.raises(EditError, match="level"):
        slab_edits.copy_floor(p, "floor-1", "nowhere")


def test_what_a_slab_is_not_is_said():
    p = slab_house()
    with pytest.raises(EditError, match="deck"):
        edits.change(p, "floor-1", deck=20.0)
    back = slab_edits.recast(p.floors[0], "sawn")
    assert back.deck > 0.0
    assert back.joists.size is None
    assert slab_edits.recast(back, "sawn") is back


def test_an_arc_at_its_edge():
    """By hand: a segment of chord c and rise h of a circle; r = (c2/4 + h2) / 2h, its area r2 (t - sin t)/2, t = 4 atan(2h/c)."""
    p = edits.remove(slab_house(), "floor-1")
    corners = [(0.0, 0.0), (30 * FOOT, 0.0), (30 * FOOT, 14 * FOOT), (0.0, 14 * FOOT)]
    p = draw_floor(p, "level-1", corners, joists=Choice(made_of="slab"), deck=0.0)
    straight = derive(p)
    p = bow_side(p, p.floors[0].id, 0, 3 * FOOT)
    model = derive(p)
    ring, c, h = model.outlines["floor-1"].core, 30 * FOOT, 3 * FOOT
    r, t = (c**2 / 4 + h**2) / (2 * h), 4 * math.atan(2 * h / c)
    more = shapely.Polygon(ring).area - shapely.Polygon(straight.outlines["floor-1"].core).area
    assert more == pytest.approx(r**2 * (t - math.sin(t)) / 2, rel=0.01)
    balanced(model)
    assert bow_side(p, "floor-1", 0, 0.0).floors[0].arcs == ()
    with pytest.raises(EditError, match="no side"):
        bow_side(p, "floor-1", 9, 1 * FOOT)
    # More than a half circle is said, and nothing is lost.
    far = derive(bow_side(p, "floor-1", 1, 9 * FOOT))
    assert any("half" in why for _, why in far.troubles)


@given(
    x=st.floats(4.0, 20.0),
    y=st.floats(2.5, 6.0),
    w=st.floats(1.0, 6.0),
    d=st.floats(1.0, 5.0),
    size=st.sampled_from(["slab 6 in", "slab 10 in", None]),
)
@settings(max_examples=20, deadline=None)
def test_loads_in_are_loads_out(x, y, w, d, size):
    p = edits.change(slab_house(), "floor-1", joists__size=size)
    p = edits.add(
        p,
        FloorOpening(
            id="floor-opening-1",
            floors=("floor-1",),
            place=FreePoint(x=x * FOOT, y=y * FOOT),
            width=w * FOOT,
            depth=d * FOOT,
        ),
    )
    p = add_floor_load(p, "floor-1", (3 * FOOT, 2 * FOOT), (6 * FOOT, 9 * FOOT), dead=9_000.0, live=4_000.0)
    balanced(derive(p))


# Both ways -----------------------------------------------------------------------------------------


def box_bearers(a, b, t=100.0):
    corners = [(0.0, 0.0), (a, 0.0), (a, b), (0.0, b)]
    found = []
    for k in range(4):
        p, q = corners[k], corners[(k + 1) % 4]
        d = ((q[0] - p[0]) / math.dist(p, q), (q[1] - p[1]) / math.dist(p, q))
        found.append(Bearer(f"w{k}", f"w{k}", p, q, d, (-d[1], d[0]), 0.0, t, 0.0))
    return tuple(found), Outline(("w0", "w1", "w2", "w3"), tuple(corners))


def test_a_field_falls_into_triangles_and_trapezoids():
    """45 degrees from the corners: a short wall gets b2/4, a long one a b/2 - b2/4."""
    a, b = 6000.0, 4000.0
    bearers, outline = box_bearers(a, b)
    came = {}
    for name, _, size in tributary(outline, bearers):
        came[name] = came.get(name, 0.0) + size
    assert came["w1"] == pytest.approx(b * b / 4.0)
    assert came["w0"] == pytest.approx(a * b / 2.0 - b * b / 4.0)
    assert sum(came.values()) == pytest.approx(a * b)


def test_by_points_thrown_at_random():
    """Another way: of points thrown over a field with a beam across it, each belongs to what is nearest of its own part."""
    a, b = 9000.0, 5000.0
    bearers, outline = box_bearers(a, b)
    beam = Bearer("beam", "", (5500.0, 0.0), (5500.0, b), (0.0, 1.0), (1.0, 0.0), -50.0, 50.0, 0.0)
    came: dict[str, float] = {}
    for name, _, size in tributary(outline, (*bearers, beam)):
        came[name] = came.get(name, 0.0) + size
    rng = np.random.default_rng(3)
    xs, ys = rng.uniform(0, a, 200_000), rng.uniform(0, b, 200_000)
    far = np.stack([ys, a - xs, b - ys, xs, np.abs(xs - 5500.0)])
    far[1][xs < 5500.0] = far[3][xs >= 5500.0] = 1e9
    nearest = far.argmin(axis=0)
    for k, name in enumerate(("w0", "w1", "w2", "w3", "beam")):
        assert came[name] / (a * b) == pytest.approx((nearest == k).mean(), abs=0.005)


def test_both_ways_it_is_carried_and_said_to_be_not_designed():
    p = slab_house(carries="both ways")
    model = derive(p)
    balanced(model)
    ends = {r.bearer for r in model.path.reactions if r.piece.startswith("floor-1/")}
    assert len(ends) == 4  # all four walls, also those the strips run along
    assert [f.code for f in model.findings if f.code == "not designed"] == ["not designed"]
    assert not model.raised["floor-1"].results
