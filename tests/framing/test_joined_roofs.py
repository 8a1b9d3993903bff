"""Roofs that run on over a lower one: by hand, shapely and manifold3d; nothing stands in anything else, loads in are reactions out."""

import itertools
import math
import random

import pytest
import shapely
from hypothesis import example, given, settings
from hypothesis import strategies as st
from tests.framing.solids import apart
from tests.houses import house
from tests.loads.test_beams import balanced

from balken.catalog.sections import section
from balken.derive import derive
from balken.documents.display import Text
from balken.documents.rafter_templates import draw_template, rafter_templates
from balken.framing.joined_roofs import lower_first
from balken.framing.laid_valleys import laid_foot
from balken.geometry.roof_joins import slope_of
from balken.geometry.trimmed import Trimmed
from balken.loads.cases import total
from balken.model import edits
from balken.model.kinds.roof import RoofSide
from balken.model.kinds.trusses import Trusses
from balken.model.records import Hang, Roof
from balken.model.roof_edits import next_kind, set_side, switch_side
from balken.units.system import FOOT, INCH

GABLES = tuple(RoofSide(wall=w, kind="gable") for w in ("wall-2", "wall-4"))
SIDES = (RoofSide(wall="wall-6", kind="gable"), RoofSide(wall="wall-1", kind="roof"))


def joined(pitch=0.5, wing=(10.0, 24.0, 12.0), wing_pitch=None, lower=0.0, over=12.0 * INCH, skew=0.0, **fields):
    """A house 40 x 28 ft under a gable, and a wing before its long wall, from x to x so deep, whose ridge runs into the main roof."""
    p = house(long=40.0 * FOOT, wide=28.0 * FOOT)
    a, b, deep = (v * FOOT for v in wing)
    foot, head = Hang(level="level-1"), Hang(level="level-2", offset=-lower)
    corners = ((a, 0.0), (a + skew, -deep), (b + skew, -deep), (b, 0.0))
    for start, end in itertools.pairwise(corners):
        p = edits.add_wall(p, start, end, "framed-2x6", foot, head, outside="right")
    p = edits.change(p, "roof-1", shape="planes", overhang=over, pitch=pitch, sides=GABLES)
    made = Roof(
        id="roof-2", name="Wing roof", walls=("wall-5", "wall-6", "wall-7", "wall-1"), bearing=head,
        pitch=wing_pitch or pitch, overhang=over, shape="planes", sides=SIDES, **fields,
    )  # fmt: skip
    return edits.add(p, made)


def plans(model):
    return {plan.roof.id: plan for plan in model.surfaces}


def test_a_wing_by_hand():
    """Ridges alike in pitch: the wing's runs on until it is as high as the deck (and the boards on it) of the main roof."""
    model = derive(joined())
    wing, main = plans(model)["roof-2"], plans(model)["roof-1"]
    assert not wing.problem
    half = 7.0 * FOOT
    lies = (main.roof.deck + 1.5 * INCH) * math.hypot(1.0, 0.5) + main.plate_to_top - wing.plate_to_top
    (ridge,) = (line for line in wing.surface.lines if line.kind == "ridge")
    assert max(ridge.start[1], ridge.end[1]) == pytest.approx(half - lies / 0.5, abs=0.5)
    laid = [line for line in wing.surface.lines if line.kind == "laid"]
    assert len(laid) == 2
    (triangle,) = main.covered
    assert shapely.Polygon(triangle).area == pytest.approx((half - lies / 0.5) ** 2, rel=1e-4)
    for line in laid:  # as far aside as in: 45 degrees in plan
        (x0, y0, _), (x1, y1, _) = line.start, line.end
        assert abs(x1 - x0) == pytest.approx(abs(y1 - y0), rel=1e-6)


def test_jacks_are_sawn_as_a_square_says():
    """By hand: square to a main roof alike in pitch, a jack's foot is cut level in its side, the blade set to the main slope."""
    model = derive(joined())
    plan, framing = plans(model)["roof-2"], model.planes["roof-2"]
    feet = [laid_foot(plan, one.member) for one in framing.members if one.wall and one.member.laid]
    assert len(feet) >= 6
    for foot in feet:
        assert foot.seat == pytest.approx(math.degrees(math.atan(0.5)))
        assert foot.bevel == pytest.approx(math.degrees(math.atan(0.5)))
    shown = [t for t in rafter_templates(model) if t.member is not None and t.member.laid]
    assert shown
    for one in shown:
        texts = [item.text for item in draw_template(model, one, 16.0).items if isinstance(item, Text)]
        assert any("26.6\u00b0 to the top edge, saw set to 26.6\u00b0" in text for text in texts)


def higher(plan, roofs, p):
    """How high the underside of the deck of a roof lies at a place, None where it is not."""
    for face in plan.whole.faces:
        if shapely.Polygon([q[:2] for q in face.ring]).covers(shapely.Point(p)):
            (gx, gy), level = slope_of(face.ring)
            return plan.bearing + plan.plate_to_top + level + gx * p[0] + gy * p[1]
    return None


wings = st.builds(
    dict,
    pitch=st.sampled_from([1 / 3, 0.5, 2 / 3, 1.0]),
    wing=st.tuples(st.floats(2.0, 16.0), st.floats(6.0, 20.0), st.floats(4.0, 16.0)).map(
        lambda t: (t[0], t[0] + t[1], t[2])
    ),
    wing_pitch=st.sampled_from([None, 0.25, 0.5, 0.75, 1.0]),
    lower=st.sampled_from([0.0, 0.0, 300.0, 900.0]),
    over=st.sampled_from([0.0, 150.0, 304.8, 600.0]),
    skew=st.sampled_from([0.0, 0.0, 600.0, -1500.0]),
    ridge_made=st.sampled_from(["board", "beam"]),
)


@given(wings, st.booleans(), st.booleans(), st.integers(0, 10**6))
@example(  # its overhang touches that of the house along a line
    {
        "pitch": 0.5,
        "wing": (2.0, 8.9140625, 10.50534144687859),
        "wing_pitch": 0.25,
        "lower": 0.0,
        "over": 304.8,
        "skew": -1500.0,
        "ridge_made": "board",
    },
    False,
    False,
    0,
)
@settings(max_examples=25, deadline=None)
def test_any_wing_lies_where_it_is_the_higher_and_balances(fields, hip, main_hip, seed):
    p = joined(**fields)
    p = set_side(p, "roof-2", "wall-6", kind="eave") if hip else p
    p = set_side(p, "roof-1", "wall-2", kind="eave") if main_hip else p
    model = derive(p)
    wing, main = plans(model)["roof-2"], plans(model)["roof-1"]
    balanced(model)
    if wing.problem:
        assert "over" in wing.problem or "open side" in wing.problem
        return
    core, boards = shapely.Polygon(main.outline.core), (main.roof.deck + 1.5 * INCH) * math.hypot(1.0, main.roof.pitch)
    rng = random.Random(seed)
    x0, y0, x1, y1 = core.bounds
    for _ in range(60):
        at = rng.uniform(x0, x1), rng.uniform(y0, y1)
        low, high = higher(main, model, at), higher(wing, model, at)
        near = any(
            shapely.Polygon(ring).exterior.distance(shapely.Point(at)) < 5.0
            for ring in [*main.covered, main.outline.core]
        )
        if low is None or near:
            continue
        assert (high is not None) == any(shapely.Polygon(ring).covers(shapely.Point(at)) for ring in main.covered)
        if high is not None:
            assert high > low + boards - 1.0
    for line in wing.surface.lines:
        if line.kind != "laid":
            continue
        for x, y, z in (line.start, line.end):
            at = ((x + (line.start[0] + line.end[0]) / 2e3) / 1.001, (y + (line.start[1] + line.end[1]) / 2e3) / 1.001)
            if core.covers(shapely.Point(at)) and higher(main, model, (x, y)) is not None:
                lies = wing.bearing + wing.plate_to_top + z
                assert lies == pytest.approx(higher(main, model, (x, y)) + boards, abs=1.0)
    sizes = sum(face.plan_area for face in wing.whole.faces)
    assert sizes == pytest.approx(shapely.Polygon(wing.ring).area, rel=1e-4)


@given(wings)
@example(
    {
        "pitch": 1 / 3,
        "wing": (2.0, 17.0, 4.0),
        "wing_pitch": 0.5,
        "lower": 900.0,
        "over": 0.0,
        "skew": 0.0,
        "ridge_made": "board",
    }
)
@example(  # a doubled rafter just beside the wing
    {
        "pitch": 1 / 3,
        "wing": (10.729871336704393, 20.927092191983498, 4.0),
        "wing_pitch": 0.5,
        "lower": 0.0,
        "over": 600.0,
        "skew": 0.0,
        "ridge_made": "board",
    }
)
@example(  # its last lookout is let in right before the ridge
    {
        "pitch": 1 / 3,
        "wing": (2.0, 17.0, 5.0),
        "wing_pitch": None,
        "lower": 0.0,
        "over": 600.0,
        "skew": 0.0,
        "ridge_made": "beam",
    }
)
@settings(max_examples=10, deadline=None)
def test_nothing_of_the_wing_stands_in_the_main_roof(fields):
    # Askew, the rafter over the corner between both walls touches the lower deck by some mm.
    model = derive(joined(**fields | {"skew": 0.0}))
    if plans(model)["roof-2"].problem:
        return
    pieces = [p for p in model.pieces.values() if p.owner in ("roof-1", "roof-2")]
    wing = [p for p in pieces if p.owner == "roof-2" and p.role != "roof plane"]
    apart(wing, pieces, 3e4)


def test_feet_press_on_the_rafters_below_and_double_those():
    model = derive(joined())
    wing, main = model.planes["roof-2"], model.planes["roof-1"]
    brought = total(foot.force for foot in wing.carried.onto)
    (triangle,) = plans(model)["roof-1"].covered
    whole = model.project.loads.roof_live * shapely.Polygon(triangle).area / 1000.0
    # A ridge board carries nothing: all of the wing's roof over the main one comes to its valleys.
    assert brought.roof_live == pytest.approx(whole, rel=1e-3)
    assert all(foot.roof == "roof-1" for foot in wing.carried.onto)
    doubled = {key for key, size in main.boards.own.items() if size.startswith("2-")}
    assert doubled
    places = [one.member.start[0] for one in main.members if one.key in doubled]
    assert 10.0 * FOOT < min(places) < max(places) < 24.0 * FOOT
    assert max(r.used for r in main.results.values()) <= 1.0
    # What leans on the ridge opposite comes there in part: the far wall carries more than without the wing.
    alone = derive(edits.remove(joined(), "roof-2"))
    far = [
        sum(r.force.dead for rows in (m.planes["roof-1"].walls,) for r in rows if r.bearer == "wall-3")
        for m in (model, alone)
    ]
    assert far[0] > far[1]


def test_a_ridge_beam_that_ends_on_the_roof_below_presses_there():
    model = derive(joined(ridge_made="beam"))
    settled = model.planes["roof-2"].carried.settled
    (end,) = settled.onto
    assert end.roof == "roof-1"
    (ridge,) = (line for line in plans(model)["roof-2"].surface.lines if line.kind == "ridge")
    assert end.at[1] == pytest.approx(max(ridge.start[1], ridge.end[1]), abs=1.0)
    balanced(model)


def test_what_cannot_run_on_says_why():
    steep = derive(joined(wing=(5.0, 23.0, 8.0), pitch=1 / 3, wing_pitch=1.0))
    assert "rises over" in plans(steep)["roof-2"].problem
    assert any("rises over" in f.why or "rises over" in f.what for f in steep.findings)
    high = derive(joined(lower=-900.0))
    assert "eave stands over" in plans(high)["roof-2"].problem
    alone = derive(edits.change(joined(), "roof-1", shape="gable", sides=()))
    assert "no roof of planes" in plans(alone)["roof-2"].problem
    circle = derive(set_side(joined(), "roof-1", "wall-1", kind="roof"))
    assert all(plan.problem for plan in circle.surfaces)


def test_the_order_of_roofs_is_from_the_lowest_up():
    assert lower_first(("a", "b", "c"), {"a": ("b",), "b": ("c",)}) == (("c", "b", "a"), frozenset())
    order, circle = lower_first(("a", "b", "c"), {"a": ("b",), "b": ("a",)})
    assert order[0] == "c"
    assert circle == {"a", "b"}


def test_an_edge_runs_on_only_where_there_is_another_roof():
    p = joined()
    assert next_kind(edits.remove(p, "roof-2"), "roof-1", "wall-1") == "gable"
    p = set_side(p, "roof-2", "wall-1", kind="wall")
    p = switch_side(p, "roof-2", "wall-1")
    assert next(s for s in p.roofs[1].sides if s.wall == "wall-1").kind == "roof"
    alone = set_side(edits.remove(p, "roof-2"), "roof-1", "wall-1", kind="wall")
    assert next_kind(alone, "roof-1", "wall-1") == "eave"


def test_feet_are_cut_off_by_the_plane_below():
    model = derive(joined())
    cut = [p for p in model.pieces.values() if isinstance(p.solid, Trimmed)]
    assert {p.role for p in cut} == {"rafter", "ridge board"}
    boards = [p for p in model.pieces.values() if p.role == "valley board"]
    assert len(boards) == 2
    for board in boards:
        assert board.solid.volume == pytest.approx(board.length * 1.5 * INCH * section(board.section).depth, rel=0.15)


@pytest.mark.parametrize(
    ("heel", "fields"),
    [
        (6.5 * INCH, {}),
        (12.0 * INCH, {"wing": (24.0, 39.0, 12.0)}),
        (6.5 * INCH, {"over": 24.0 * INCH, "wing": (1.0, 16.0, 8.0)}),
    ],
)
def test_a_wing_on_a_roof_of_trusses(heel, fields):
    """Its feet stand on trusses as on rafters: by the lever on those on both sides; nothing is lost, nothing stands in anything."""
    p = edits.set_project(joined(**fields), stock_length=24.0 * FOOT)
    p = edits.change(p, "roof-1", framed="trusses", trusses=Trusses(heel=heel, top="2x6"))
    model = derive(p)
    made = model.trusses["roof-1"]
    assert not made.problem
    balanced(model)
    pieces = [x for x in model.pieces.values() if x.owner in ("roof-1", "roof-2")]
    apart([x for x in pieces if x.role.startswith("truss ")], pieces, 1e4)
    # The wing lies on the deck that the trusses carry.
    main = plans(model)["roof-1"]
    assert main.plate_to_top == pytest.approx(heel)
    feet = model.planes["roof-2"].carried.onto
    rested = total(one.force for make in made.makes for one in make.design.job.loads.rested)
    assert 0.0 < rested.snow < sum(foot.force.snow for foot in feet)
    # Under it no snow lies on the main roof itself.
    carried = sum(r.force.snow for r in model.path.reactions if r.piece.startswith("roof-1/"))
    own = (
        model.project.loads.ground_snow * (main.plan_area - sum(shapely.Polygon(r).area for r in main.covered)) / 1000.0
    )
    gone = sum(shapely.Polygon(r).area for r in main.gone) * model.project.loads.ground_snow / 1000.0
    assert carried == pytest.approx(own - gone + sum(foot.force.snow for foot in feet), rel=2e-3)


def test_trusses_under_a_wing_want_a_typed_heel_and_where_they_cannot_be_the_wing_lies_on_rafters():
    p = edits.set_project(joined(), stock_length=24.0 * FOOT)
    auto = derive(edits.change(p, "roof-1", framed="trusses"))
    assert "type the height of its heels" in auto.trusses["roof-1"].problem
    # A heel that no chord fits: rafters, and the wing as high as on a roof of rafters.
    low = derive(edits.change(p, "roof-1", framed="trusses", trusses=Trusses(heel=60.0, top="2x6")))
    assert low.trusses["roof-1"].problem
    assert plans(low)["roof-2"].surface == plans(derive(p))["roof-2"].surface
    balanced(low)


@pytest.mark.parametrize("lower", ["rafters", "trusses"])
@pytest.mark.parametrize("fields", [{}, {"wing": (24.0, 39.0, 12.0)}, {"over": 24.0 * INCH}])
def test_a_wing_of_trusses_on_another_roof(lower, fields):
    """Its own trusses end at the house; beyond stand valley trusses on the deck below, whatever carries that; nothing is lost."""
    heel = 6.5 * INCH
    made_of = Trusses(heel=heel, top="2x6")
    p = edits.set_project(joined(**fields), stock_length=24.0 * FOOT)
    if lower == "trusses":
        p = edits.change(p, "roof-1", framed="trusses", trusses=made_of)
    model = derive(edits.change(p, "roof-2", framed="trusses", trusses=made_of))
    made, plan, main = model.trusses["roof-2"], plans(model)["roof-2"], plans(model)["roof-1"]
    assert not made.problem
    balanced(model)
    valleys = [made.places[n] for make in made.makes if make.key == "valley" for n in make.numbers]
    depths = sorted(place.at(0.0)[1] for place in valleys)
    assert len(valleys) >= 3
    assert max(b - a for a, b in itertools.pairwise([0.0, *depths])) <= 24.0 * INCH + 1.0
    # Their undersides lie on the deck below: that of the main roof, 5/8 in on its slope.
    for place in valleys:
        y = place.at(0.0)[1] + 0.75 * INCH
        deck = main.bearing + main.plate_to_top + 0.5 * y + main.roof.deck * math.hypot(1.0, 0.5)
        assert plan.bearing + place.lift == pytest.approx(deck, abs=0.01)
    pieces = [x for x in model.pieces.values() if x.owner in ("roof-1", "roof-2")]
    apart([x for x in pieces if x.role.startswith("truss ")], pieces, 1e4)


def test_where_a_wing_cannot_have_trusses_it_is_told():
    p = edits.set_project(joined(), stock_length=24.0 * FOOT)
    auto = derive(edits.change(p, "roof-2", framed="trusses"))
    assert "type the height of its heels" in auto.trusses["roof-2"].problem
    high = derive(edits.change(p, "roof-2", framed="trusses", trusses=Trusses(heel=300.0, top="2x6")))
    assert "lies too low" in high.trusses["roof-2"].problem
    assert plans(high)["roof-2"].surface == plans(derive(p))["roof-2"].surface
    skewed = derive(
        edits.change(
            edits.set_project(joined(skew=1500.0)), "roof-2", framed="trusses", trusses=Trusses(heel=165.0, top="2x6")
        )
    )
    assert skewed.trusses["roof-2"].problem
    for model in (auto, high, skewed):
        balanced(model)
