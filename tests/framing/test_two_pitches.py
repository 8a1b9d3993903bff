"""Slopes broken over knee walls: planes that meet, gables under several roofs, nothing in anything; what is told, and mended."""

import math

import pytest
from hypothesis import Phase, example, given, settings
from hypothesis import strategies as st
from tests.framing.solids import apart
from tests.framing.test_roof_trim import of
from tests.houses import house
from tests.loads.test_beams import balanced

from balken.derive import derive
from balken.design.two_pitches import break_slopes, meet_slopes
from balken.findings.fixes import FIXES
from balken.framing.gable_tops import one_top
from balken.framing.walls import GableTop
from balken.geometry.roof_edges import RoofEdge
from balken.geometry.roof_surface import roof_surface
from balken.model import edits, wall_edits
from balken.model.edits import EditError
from balken.model.kinds.choice import Choice
from balken.model.records import Floor, Hang, Roof, RoofSide
from balken.model.roof_edits import add_dormer, set_side, side_of
from balken.panel.card_content import card
from balken.session.session import Session
from balken.units import Units
from balken.units.system import FOOT, INCH

GABLES = tuple(RoofSide(wall=w, kind="gable") for w in ("wall-2", "wall-4"))


def attic(pitch=0.5, wide=28.0 * FOOT, **fields):
    """A house 40 ft long under a gable roof of planes, a floor in its roof."""
    p = house(long=40.0 * FOOT, wide=wide, middle=True)
    p = edits.change(p, "roof-1", shape="planes", pitch=pitch, sides=GABLES, **fields)
    p = edits.add_level(p, "level-2", 7.25 * INCH + 18.0, "Attic floor", "floor")
    level = next(x.id for x in p.levels if x.name == "Attic floor")
    walls = ("wall-1", "wall-2", "wall-3", "wall-4")
    return edits.add(
        p, Floor(id="floor-9", name="Attic", level=level, walls=walls, joists=Choice(size="2x8"), deck=18.0)
    )


def broken(p, *walls, inward=5.0 * FOOT, pitch=1.5):
    model = derive(p)
    size = model.designs[("roof-1", "rafters")].size
    return break_slopes(p, model.surfaces[0], model.lines, size, walls, inward, pitch)


def told(model):
    return [f for f in model.findings if f.code == "broken slope"]


def top(plan, x, y):
    """How high the tops of a roof's rafters lie over a place, mm: the least of its planes."""
    core, found = plan.outline.core, []
    for k, edge in enumerate(plan.edges):
        if edge.kind == "eave":
            a, b = core[k], core[(k + 1) % len(core)]
            long = math.dist(a, b)
            inward = ((x - a[0]) * -(b[1] - a[1]) + (y - a[1]) * (b[0] - a[0])) / long
            found.append(plan.level(k) + edge.pitch * inward)
    return min(found)


def test_a_barn_roof_with_two_pitches_on_both_sides():
    """By hand: 5 ft at 18:12 and 9 ft at 6:12 rise 12 ft; the tops of upper and lower rafters meet over the knee walls."""
    model = derive(broken(attic(), "wall-1", "wall-3"))
    upper, south, north = model.surfaces
    assert not told(model)
    assert upper.roof.bearing.level == "level-2"
    assert all(side.raised == 0.0 for side in upper.roof.sides)
    for lower, y in ((south, 5.0 * FOOT), (north, 23.0 * FOOT)):
        assert top(lower, 20.0 * FOOT, y) == pytest.approx(top(upper, 20.0 * FOOT, y), abs=0.01)
    rise = top(upper, 0.0, 14.0 * FOOT) - top(south, 0.0, 0.0)
    assert rise == pytest.approx(5.0 * FOOT * 1.5 + 9.0 * FOOT * 0.5, abs=0.01)
    # The gable's outside runs up to all four slopes.
    made = model.gables["wall-2"]
    for along, plan in ((2.0, south), (7.0, upper), (20.0, upper), (26.0, north)):
        height = made.height(along * FOOT, True)
        assert top(plan, 0.0, along * FOOT) - height == pytest.approx(
            math.hypot(1.0, plan.roof.pitch) * 1.5 * INCH, abs=0.1
        )
    rafters = of(model, "rafter")
    studs = [stick for framed in model.framed.values() for stick in framed.pieces if stick.wall in ("wall-2", "wall-6")]
    assert len({piece.owner for piece in rafters}) == 3
    # Knee walls are lined on the room's side alone: lower rafters end at their cores.
    knees = [
        piece for piece in model.pieces.values() if piece.role == "wall layer" and piece.wall in ("wall-6", "wall-7")
    ]
    assert {(piece.wall, piece.material) for piece in knees} >= {("wall-6", "2x6 studs"), ("wall-7", "gypsum board")}
    assert len({wall.buildup for wall in model.project.walls if wall.id in ("wall-6", "wall-7")}) == 1
    apart(knees, rafters, 400.0)
    apart(rafters, [*studs, *of(model, "ridge board"), *of(model, "ceiling tie"), *rafters], 10.0)
    balanced(model)
    snow = sum(r.force.snow for r in model.path.reactions if r.piece.startswith("roof-"))
    loads = model.project.loads
    assert snow == pytest.approx(sum(x.plan_area for x in model.surfaces) * loads.ground_snow / 1000.0, rel=1e-6)


def test_one_slope_is_broken_and_the_other_stays():
    """A saltbox turned round: its knee wall's eave is raised over the bearing that it shares with the other eave."""
    model = derive(broken(attic(ridge_made="beam"), "wall-1", inward=6.0 * FOOT, pitch=1.25))
    upper, lower = model.surfaces
    assert not told(model)
    raised = side_of(upper.roof, "wall-6").raised
    assert upper.roof.bearing.offset == 0.0
    assert raised > 5.0 * FOOT
    assert top(lower, 9.0, 6.0 * FOOT) == pytest.approx(top(upper, 9.0, 6.0 * FOOT), abs=0.01)
    knee = model.lines["wall-6"].band
    assert knee.top - model.level_height("level-2") == pytest.approx(raised)
    assert knee.bottom == pytest.approx(
        model.level_height(next(f.level for f in model.project.floors if f.name == "Attic"))
    )
    made, wall = model.gables["wall-2"], model.lines["wall-2"].band
    ridge = max(made.breaks)
    for along in (1.0, 3000.0, 8000.0):
        at = wall.at(along, wall.set_out)
        over = min(top(plan, *at) for plan in (upper, lower)) if at[1] > 6.0 * FOOT else top(lower, *at)
        assert abs(made.height(along, True) - over) < 80.0  # but for the blocks of the ladders over it
    assert made.underside(ridge) == pytest.approx(max(made.underside(x) for x in range(0, 8534, 10)), abs=6.0)
    balanced(model)


@given(
    pitch=st.floats(0.2, 0.7), below=st.floats(0.8, 2.4), inward=st.floats(3.0, 9.0), overhang=st.floats(0.0, 2.0), size=st.sampled_from(["2x6", "2x8", "2x10"]),
    walls=st.sampled_from([("wall-1", "wall-3"), ("wall-3",), ("wall-3", "wall-1")]),
)  # fmt: skip
@settings(max_examples=6, phases=(Phase.explicit, Phase.reuse, Phase.generate))
@example(pitch=0.25, below=2.0, inward=8.0, overhang=1.5, size="2x10", walls=("wall-3",))
def test_planes_meet_and_nothing_stands_in_anything(pitch, below, inward, overhang, size, walls):
    p = attic(pitch, overhang=overhang * FOOT, rafters=Choice(size=size), ridge_made="beam")
    try:
        p = broken(p, *walls, inward=inward * FOOT, pitch=below)
    except EditError as error:
        assert len(walls) == 1 and "opposite do not reach" in str(error)  # noqa: PT017, PT018
        return
    model = derive(p)
    assert not told(model)
    assert not [f for f in model.findings if f.code == "roof bearing"]
    rafters = of(model, "rafter")
    studs = [s for framed in model.framed.values() for s in framed.pieces if s.wall not in ("wall-1", "wall-3")]
    apart(rafters, [*studs, *of(model, "ridge beam"), *rafters], 400.0)
    apart([s for s in studs if s.role == "stud"], [s for s in studs if s.role == "top plate"], 400.0)
    balanced(model)


def test_a_wall_that_moves_parts_the_planes_which_is_told_and_mended():
    p = wall_edits.drag_walls(broken(attic(), "wall-1", "wall-3"), ("wall-1",), 0.0, -200.0)
    model = derive(p)
    (finding,) = told(model)
    assert finding.what == 'Roof lies 11 13/16" lower over Wall 6 than Lower slope over Wall 1 that ends there'
    mended = FIXES[finding.fix.command](p, *finding.fix.args)
    after = derive(mended)
    assert not told(after)
    upper = after.surfaces[0]
    assert side_of(upper.roof, "wall-6").raised == pytest.approx(200.0 * 1.5, abs=0.01)
    lowered = derive(meet_slopes(mended, "roof-1", "wall-6", -400.0))
    assert min(side.raised for side in lowered.project.roofs[0].sides if side.kind == "eave") == 0.0
    assert [round(f.fix.args[2]) for f in told(lowered)] == [400]
    moved = derive(wall_edits.drag_walls(broken(attic(), "wall-1", "wall-3"), ("wall-2",), 600.0, 0.0))
    assert not told(moved)
    assert all(plan.problem == "" for plan in moved.surfaces)


@pytest.mark.parametrize(
    ("change", "said"),
    [
        (lambda p: edits.change(p, "roof-1", framed="trusses"), "slopes of trusses are not broken"),
        (lambda p: set_side(p, "roof-1", "wall-2", kind="eave"), "together with those that it meets"),
        (lambda p: set_side(p, "roof-1", "wall-1", kind="gable"), "broken over an eave"),
        (
            lambda p: add_dormer(p, "roof-1", "wall-1", 20.0 * FOOT, 3.0 * FOOT),
            "dormers and openings lie in this plane",
        ),
    ],
)
def test_what_cannot_be_broken_is_refused_in_words(change, said):
    p = change(attic())
    model = derive(p)
    plan = next(x for x in model.surfaces if x.roof.id == "roof-1")
    with pytest.raises(EditError, match=said):
        break_slopes(p, plan, model.lines, "2x8", ("wall-1",), 5.0 * FOOT, 1.5)


def test_unlike_slopes_and_slopes_all_round_are_not_broken_at_hips():
    unlike = set_side(hipped(), "roof-1", "wall-2", pitch=0.75)
    with pytest.raises(EditError, match="alike alone"):
        broken(unlike, "wall-1", "wall-2", "wall-3")
    with pytest.raises(EditError, match="all round a roof"):
        broken(edits.change(hipped(), "roof-1", sides=()), "wall-1", "wall-2", "wall-3", "wall-4")
    with pytest.raises(EditError, match="no room for the slope above"):
        broken(hipped(), "wall-1", "wall-2", "wall-3", inward=13.6 * FOOT, pitch=1.5)


def hipped(pitch=0.5, gables=("wall-4",), **fields):
    """The same under a roof with hips where no gable is."""
    return edits.change(attic(pitch, **fields), "roof-1", sides=tuple(RoofSide(wall=w, kind="gable") for w in gables))


def test_slopes_that_meet_in_hips_are_broken_as_one():
    """By hand: 5 ft at 18:12 all round three sides; hips of the lower part run from corner to corner of walls and knee walls, 5 ft in
    and 7.5 ft up, and bear with two thirds of their triangles' load at the knee walls, a third at the corner below.
    """
    p = edits.set_loads(broken(hipped(), "wall-1", "wall-2", "wall-3"), roof_live=0.0, ground_snow=1.0)
    model = derive(p)
    upper, lower = model.surfaces
    assert not told(model)
    assert lower.roof.name == "Lower slopes over Wall 1, Wall 2 and Wall 3"
    knees = ("wall-6", "wall-7", "wall-8")
    assert {*lower.outline.walls} == {"wall-1", "wall-2", "wall-3", "wall-4", *knees}
    assert [lower.edges[lower.outline.walls.index(w)].kind for w in knees] == ["wall"] * 3
    hips = [line for line in lower.surface.lines if line.kind == "hip"]
    assert sorted(round(line.length, 3) for line in hips) == [round(5.0 * FOOT * math.sqrt(2.0 + 1.5**2), 3)] * 2
    for x, y in ((20.0, 5.0), (35.0, 14.0), (20.0, 23.0)):
        assert top(lower, x * FOOT, y * FOOT) == pytest.approx(top(upper, x * FOOT, y * FOOT), abs=0.01)
    # Of the square of 25 ft2 in plan that a hip crosses half comes to it, by the heads of jacks, half to the walls under their feet.
    for name in (r.piece for r in model.path.reactions if r.piece.startswith("roof-2/plane-hip")):
        rows = [r for r in model.path.reactions if r.piece == name]
        head = sum(r.force.snow for r in rows if r.bearer in knees)
        foot = sum(r.force.snow for r in rows if r.bearer not in knees)
        assert head + foot == pytest.approx((5.0 * FOOT) ** 2 / 1e6 * 1000.0 / 2.0, rel=0.02)
        assert head / (head + foot) == pytest.approx(2.0 / 3.0, abs=0.01)
    rafters, lines = of(model, "rafter"), of(model, "hip rafter")
    studs = [s for framed in model.framed.values() for s in framed.pieces]
    apart(rafters, [*studs, *rafters, *lines, *of(model, "ledger")], 400.0)
    apart(lines, [*studs, *lines, *of(model, "ledger")], 400.0)
    balanced(model)
    snow = sum(r.force.snow for r in model.path.reactions if r.piece.startswith("roof-"))
    assert snow == pytest.approx(sum(x.plan_area for x in model.surfaces) / 1000.0, rel=1e-6)


def test_ledgers_close_the_outer_corners_of_knee_walls():
    """Round a square corner one laps the other's end: to the place where the head of the hip points, 1 1/2 in out both ways."""
    model = derive(broken(hipped(), "wall-1", "wall-2", "wall-3"))
    ledgers, thick = of(model, "ledger"), 1.5 * INCH
    for x, y, out in ((35.0 * FOOT, 5.0 * FOOT, -thick), (35.0 * FOOT, 23.0 * FOOT, thick)):
        boxes = [piece.solid.extent for piece in ledgers]
        tip = (x + thick, y + out)
        assert any(lo[0] - 0.1 <= tip[0] <= hi[0] + 0.1 and lo[1] - 0.1 <= tip[1] <= hi[1] + 0.1 for lo, hi in boxes)
        heads = [corner for piece in of(model, "hip rafter") for corner in piece.solid.corners()]
        assert min(math.dist(corner[:2], tip) for corner in heads) < 0.1
    apart(ledgers, [*ledgers, *of(model, "hip rafter"), *of(model, "rafter")], 400.0)


@given(
    pitch=st.floats(0.25, 0.6), below=st.floats(0.9, 2.2), inward=st.floats(3.0, 8.0), overhang=st.floats(0.0, 2.0), size=st.sampled_from(["2x6", "2x8", "2x10"]),
    gables=st.sampled_from([("wall-1",), ("wall-2",), ("wall-3",), ("wall-4",), ("wall-1", "wall-2"), ("wall-3", "wall-4")]),
)  # fmt: skip
@settings(max_examples=5, phases=(Phase.explicit, Phase.reuse, Phase.generate))
@example(pitch=0.4, below=1.25, inward=4.0, overhang=0.0, size="2x8", gables=("wall-2", "wall-3"))
@example(pitch=0.3249, below=1.8715, inward=4.0694, overhang=0.344, size="2x10", gables=("wall-1",))
def test_planes_meet_round_corners_of_knee_walls(pitch, below, inward, overhang, size, gables):
    over = 0.0 if len(gables) == 2 else overhang * FOOT
    p = hipped(pitch, gables, overhang=over, rafters=Choice(size=size))
    walls = [w for w in ("wall-1", "wall-2", "wall-3", "wall-4") if w not in gables]
    model = derive(broken(p, *walls, inward=inward * FOOT, pitch=below))
    assert not told(model)
    assert all(plan.problem == "" for plan in model.surfaces)
    rafters, lines = of(model, "rafter"), of(model, "hip rafter")
    studs = [s for framed in model.framed.values() for s in framed.pieces]
    apart(lines, [*studs, *lines, *of(model, "ledger")], 400.0)
    apart(rafters, [*studs, *of(model, "ledger")], 400.0)
    balanced(model)


def test_rafters_deeper_than_a_knee_walls_plates_are_told():
    """2x12 rise 11 in over the plate on which the upper ones bear: behind the ledger of the lower ones there is hardly a wall."""
    p = broken(
        hipped(0.73, ("wall-1",), rafters=Choice(size="2x12")),
        "wall-2",
        "wall-3",
        "wall-4",
        inward=4.0 * FOOT,
        pitch=0.9,
    )
    found = [f for f in derive(p).findings if f.code == "ledger"]
    assert {f.things[2] for f in found} == {"wall-6", "wall-7", "wall-8"}
    assert all("take shallower rafters above and below" in f.why and f.fix is None for f in found)


def test_broken_at_hips_and_followed_when_a_wall_moves():
    p = broken(hipped(ridge_made="beam"), "wall-1", "wall-2", "wall-3", inward=4.0 * FOOT, pitch=1.5)
    moved = derive(wall_edits.drag_walls(p, ("wall-4",), -600.0, 0.0))
    assert not told(moved)
    assert all(plan.problem == "" for plan in moved.surfaces)
    balanced(moved)
    parted = derive(wall_edits.drag_walls(p, ("wall-2",), 300.0, 0.0))
    (finding,) = told(parted)
    assert "Wall 7" in finding.what
    balanced(parted)


@pytest.mark.parametrize(
    ("inward", "pitch", "said"),
    [(100.0, 1.5, "must lie between"), (9e3, 1.5, "must lie between"), (1000.0, 0.2, "too low")],
)
def test_breaks_without_room_are_refused(inward, pitch, said):
    with pytest.raises(EditError, match=said):
        broken(attic(), "wall-1", inward=inward, pitch=pitch)


def test_typed_in_the_roofs_card():
    session = Session(attic())
    session.select(["roof-1"])

    def entry(label):
        return next(x for x in card(session, 5).parts if getattr(x, "label", "") == label)

    assert session.apply("break", entry("All eaves, broken").commit("5' at 18:12"))
    assert [roof.name for roof in session.project.roofs] == [
        "Roof",
        "Lower slope over Wall 1",
        "Lower slope over Wall 3",
    ]
    assert not told(session.model)
    session.undo()
    assert session.apply("break", entry("Wall 3, broken").commit("4' at 15:12 below"))
    assert [roof.name for roof in session.project.roofs] == ["Roof", "Lower slope over Wall 3"]
    with pytest.raises(EditError, match="how far in the slope is broken"):
        entry("Wall 1, broken").commit("5'")


def test_a_plane_shorter_than_a_seat_still_has_solids():
    """Rafters of 2 in under a ridge beam, whose seat would reach past their heads."""
    p = attic(0.36, overhang=0.0, rafters=Choice(size="2x6"), ridge_made="beam")
    for raised in (3000.0, 3040.0, 3060.0):
        model = derive(set_side(p, "roof-1", "wall-3", raised=raised))
        assert all(len(piece.solid.mesh()[0]) > 3 for piece in of(model, "rafter"))


@pytest.mark.parametrize("units", [Units.IMPERIAL, Units.METRIC])
def test_what_is_shown_as_an_example_can_be_typed(units):
    session = Session(edits.set_project(attic(), units=units))
    session.select(["roof-1"])
    entry = next(x for x in card(session, 5).parts if getattr(x, "label", "") == "All eaves, broken")
    assert session.apply("break", entry.commit(entry.hint.removeprefix("such as ")))
    assert [roof.pitch for roof in session.project.roofs] == pytest.approx([0.5, 1.5, 1.5], rel=2e-3)
    assert not told(session.model)


# Tops of walls ---------------------------------------------------------------------------------


def gable(low, high, rise, z, shell=False):
    return GableTop((low, high), (), ((rise, z - rise * low, z - 200.0 - rise * low),), z - 200.0, shell)


def test_tops_side_by_side_are_one_with_steps_where_they_part():
    line = derive(house(long=40.0 * FOOT, wide=28.0 * FOOT)).lines["wall-1"]
    plate = line.band.top
    made = one_top((gable(5000.0, 8000.0, 0.5, 4100.0), gable(1000.0, 3000.0, 1.0, 3500.0)), line)
    assert made.breaks == (1000.0, 3000.0, 5000.0, 8000.0)
    for x, z in ((500.0, plate), (1500.0, 4000.0), (4000.0, plate), (6000.0, 4600.0), (11_000.0, plate)):
        assert made.height(x, True) == pytest.approx(z)
    assert set(made.steps) == {1000.0, 3000.0, 5000.0, 8000.0}
    assert made.beyond(3000.0, True) == pytest.approx(plate)
    assert made.highest == pytest.approx(8000.0)
    # One that ends over the same stretch counts alone; a gable that comes down to the plates at both ends is as it was.
    later = gable(0.0, 12_192.0, 0.0, 5000.0)
    assert one_top((gable(1000.0, 3000.0, 1.0, 3500.0), later), line) is later
    assert one_top((gable(0.0, 3000.0, 0.1, 3000.0, True), later), line) is later
    # Beside frames of trusses, which stand on the plates, the wall is framed up under rafters alone.
    mixed = one_top((gable(0.0, 5000.0, 0.2, 4000.0, True), gable(5000.0, 12_192.0, 0.0, 5500.0)), line)
    assert not mixed.shell
    assert [mixed.height(x, False) for x in (2500.0, 9000.0)] == pytest.approx([4300.0, 5300.0])
    assert [mixed.of_core.height(x, False) for x in (2500.0, 9000.0)] == pytest.approx([3800.0, 5300.0])


def test_a_single_slope_over_part_of_a_wall_ends_with_a_step():
    """Half of an end wall under a lean-to's gable, nothing over the rest: that stays level, and both are framed."""
    p = house(long=40.0 * FOOT, wide=28.0 * FOOT)
    p = edits.remove(p, "roof-1")
    head = Hang(level="level-2", offset=8.0 * FOOT)
    p = edits.add_wall(
        p, (0.0, 10.0 * FOOT), (40.0 * FOOT, 10.0 * FOOT), "inside-2x6", Hang(level="level-1"), head, role="bearing"
    )
    walls, sides = ("wall-1", "wall-2", "wall-5", "wall-4"), (*GABLES, RoofSide(wall="wall-5", kind="wall"))
    roof = Roof(
        id="roof-2", name="Lean-to", walls=walls, bearing=Hang(level="level-2"), shape="planes", pitch=0.5, sides=sides
    )
    model = derive(edits.add(p, roof))
    made = model.gables["wall-2"]
    assert made.steps == (pytest.approx(10.0 * FOOT),)
    assert made.height(9.0 * FOOT, False) > model.lines["wall-2"].band.top + 3.0 * FOOT
    assert made.height(11.0 * FOOT, True) == pytest.approx(model.lines["wall-2"].band.top)
    pieces = model.framed["wall-2"].pieces
    apart(pieces, pieces, 1.0)
    high = [s for s in pieces if s.role == "stud" and s.solid.heights[1] > model.lines["wall-2"].band.top + 10.0]
    assert high
    assert max(s.start[1] for s in high) < 10.0 * FOOT + 1.0


def test_two_gables_over_one_stretch_are_told():
    p = house(long=40.0 * FOOT, wide=28.0 * FOOT)
    p = edits.change(p, "roof-1", shape="planes", sides=GABLES)
    walls = ("wall-1", "wall-2", "wall-3", "wall-4")
    roof = Roof(
        id="roof-2", name="Second", walls=walls, bearing=Hang(level="level-2"), shape="planes", pitch=0.9, sides=GABLES
    )
    found = [f for f in derive(edits.add(p, roof)).findings if f.code == "gables"]
    assert [f.what for f in found] == [f"Roof and Second both end over one stretch of Wall {k}" for k in (2, 4)]
    assert not [f for f in derive(broken(attic(), "wall-1", "wall-3")).findings if f.code == "gables"]


@given(off=st.floats(0.0, 0.04), turn=st.booleans())
@example(off=2e-7, turn=False)
def test_eaves_that_begin_all_but_alike_begin_at_one_height(off, turn):
    """What is left of sums of floats is no height: both planes are there, each as large as where their eaves are alike."""
    ring = [(0.0, 0.0), (12_000.0, 0.0), (12_000.0, 8000.0), (0.0, 8000.0)]
    ends = RoofEdge("eave" if turn else "gable", 0.5)
    made = roof_surface(ring, [RoofEdge(), ends, RoofEdge(start=off), ends])
    plain = roof_surface(ring, [RoofEdge(), ends, RoofEdge(), ends])
    assert [f.plan_area for f in made.faces] == pytest.approx([f.plan_area for f in plain.faces])


def test_no_snow_drifts_onto_the_upper_part():
    """A lower slope ends where the upper begins: it is no taller part beside it, however long it is; what slides comes to the lower one."""
    p = edits.set_loads(broken(attic(), "wall-1", "wall-3"), snow_by="roof")
    snow = derive(p).snow
    assert snow["roof-1"].bands == ()
    assert {band.told for name in ("roof-2", "roof-3") for band in snow[name].bands} == {"sliding"}


def test_what_wind_lifts_at_a_knee_wall_is_tied_there_and_stacked_on_what_is_below():
    """Upper feet and lower heads stand on one wall, one above the other: both are told with ties, the wall on the floor's joists."""
    p = edits.set_loads(broken(attic(), "wall-1", "wall-3"), wind_speed=58.0)
    model = derive(p)
    rows = {(row.roof, row.bearer) for row in model.uplift.lifted if row.net > 0.0}
    for knee, lower in (("wall-6", "roof-2"), ("wall-7", "roof-3")):
        assert {("roof-1", knee), (lower, knee)} <= rows
    assert all(row.tie for row in model.uplift.lifted if row.bearer in ("wall-6", "wall-7"))
    assert {f.things[0] for f in model.findings if f.code == "wall on deck"} >= {"wall-6", "wall-7"}
    balanced(model)


def test_slopes_broken_at_unlike_places_meet_off_the_middle():
    """Uneven: 4 ft at 18:12 on one side, 7 ft at 15:12 on the other; the ridge moves, planes meet over both knee walls, all comes down."""
    p = broken(attic(ridge_made="beam"), "wall-1", inward=4.0 * FOOT, pitch=1.5)
    p = broken(p, "wall-3", inward=7.0 * FOOT, pitch=1.25)
    model = derive(p)
    upper = model.surfaces[0]
    assert not told(model)
    heights = [upper.level(upper.outline.walls.index(w)) for w in ("wall-6", "wall-7")]
    # By hand: from both knee walls at 6:12 over 17 ft, the ridge lies half of 17 ft off the lower one, plus what differs in height.
    ridge = next(line for line in upper.surface.lines if line.kind == "ridge")
    off = (17.0 * FOOT + (heights[1] - heights[0]) / 0.5) / 2.0
    assert ridge.start[1] == pytest.approx(4.0 * FOOT + off, abs=0.1)
    balanced(model)


def test_boards_close_the_lower_eaves_and_the_rakes_alone():
    boards = {"fascia": "2x6", "face_board": "1x8", "rake_boards": True, "eave_blocks": True, "overhang": 1.5 * FOOT}
    p = broken(attic(**boards), "wall-1", "wall-3")
    model = derive(p)
    mine = [piece for piece in model.pieces.values() if piece.owner.startswith("roof-") and piece.role != "roof plane"]
    closing = [piece for piece in mine if piece.role in ("fascia", "rake board")]
    assert {piece.owner for piece in closing if piece.role == "fascia"} == {"roof-2", "roof-3"}
    assert {piece.owner for piece in closing if piece.role == "rake board"} == {"roof-1", "roof-2", "roof-3"}
    apart(closing, mine, 400.0)
    session = Session(p)
    session.select(["roof-1"])
    entry = next(x for x in card(session, 5).parts if getattr(x, "label", "") == "Wall 6, boards")
    assert entry.value == "none"
    assert session.apply("boards", entry.commit("yes"))
    assert side_of(session.project.roofs[0], "wall-6").boards


def test_broken_at_hips_by_the_card():
    session = Session(hipped())
    session.select(["roof-1"])
    labels = [getattr(x, "label", "") for x in card(session, 5).parts]
    assert [label for label in labels if label.endswith("broken")] == ["All eaves, broken"]
    entry = next(x for x in card(session, 5).parts if getattr(x, "label", "") == "All eaves, broken")
    assert session.apply("break", entry.commit("5' at 18:12"))
    assert [roof.name for roof in session.project.roofs] == ["Roof", "Lower slopes over Wall 1, Wall 2 and Wall 3"]
    session.undo()
    assert [roof.name for roof in session.project.roofs] == ["Roof"]
    session.select(["roof-1"])
    all_round = Session(edits.change(hipped(), "roof-1", sides=()))
    all_round.select(["roof-1"])
    assert not [x for x in card(all_round, 5).parts if getattr(x, "label", "").endswith("broken")]
