"""Foundations in the ground: concrete counted once, steps without gaps and below frost, sums of loads kept.

The union of solids is made by manifold3d, a general solid library.
"""

import itertools
import math

import manifold3d
import numpy as np
import pytest
from hypothesis import assume, example, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from msgspec.structs import replace as struct_replace
from tests.houses import house

from balken.demo import orchard_road
from balken.derive import derive
from balken.findings.fixes import FIXES
from balken.framing.stepping import LEAST_BURIAL, step_down
from balken.framing.steps_to_meet import room_to_step
from balken.framing.uprights import Upright, counted_once, without
from balken.geometry.prism import mesh, volume
from balken.loads.cases import total
from balken.mending import mend_alike
from balken.model import column_edits, edits, foundation_edits
from balken.model.errors import EditError
from balken.model.records import FreePoint, Hang, Hole, Pad, Recess, Slab, Step
from balken.units import Units
from balken.units.system import FOOT, INCH

CONCRETE = ("strip footing", "foundation wall", "pad footing", "pier", "slab", "slab edge")


def manifold(prism):
    triangles, _ = mesh(prism)
    points, index = np.unique(np.round(triangles.reshape(-1, 3), 3), axis=0, return_inverse=True)
    made = manifold3d.Manifold(manifold3d.Mesh(points.astype(np.float32), index.reshape(-1, 3).astype(np.uint32)))
    assert not made.is_empty(), made.status()
    return made


def union(prisms):
    return manifold3d.Manifold.batch_boolean([manifold(p) for p in prisms], manifold3d.OpType.Add)


def concrete(model):
    return [p for p in model.pieces.values() if p.role in CONCRETE]


def test_the_demos_concrete_is_counted_once():
    pieces = concrete(derive(orchard_road()))
    parts = sum(volume(p.solid) for p in pieces)
    assert union([p.solid for p in pieces]).volume() == pytest.approx(parts, rel=2e-5)


box = st.tuples(*[st.integers(0, 3000) for _ in range(3)], *[st.integers(100, 2000) for _ in range(3)])


@given(st.lists(box, min_size=2, max_size=5))
def test_whatever_overlaps_is_counted_once(boxes):
    named = []
    for i, (x, y, z, a, b, c) in enumerate(boxes):
        named.append((f"b{i}", Upright(((x, y), (x + a, y), (x + a, y + b), (x, y + b)), z, z + c)))
    left = counted_once(named)
    parts = sum((u.top - u.bottom) * u.polygon.area for group in left.values() for u in group)
    whole = union([u.prism for _, u in named]).volume()
    assert parts == pytest.approx(whole, rel=1e-4, abs=2e5)
    assert without(named[0][1], []) == (named[0][1],)


def sloping(long, wide, fall, turn, **kwargs):
    p = house(long, wide, **kwargs)
    cos, sin = math.cos(turn), math.sin(turn)
    for x, y in itertools.product((-2000.0, long + 2000.0), (-2000.0, wide + 2000.0)):
        part = (x * cos + y * sin) / (long + wide)
        p = column_edits.add_spot(p, (x, y), -600.0 - fall * part)
    return edits.set_level(p, "level-5", -600.0 - 30 * INCH - 2.0 + 8 * INCH)


@settings(max_examples=40)
@example(5487.0, 4877.0, 2674.0, 0.0)  # a start too near a corner to step must not look cheap
@given(
    st.floats(18 * FOOT, 60 * FOOT),
    st.floats(16 * FOOT, 40 * FOOT),
    st.floats(0.0, 3500.0),
    st.floats(0.0, 2 * math.pi),
)
def test_steps_follow_the_ground_without_gaps_and_below_frost(long, wide, fall, turn):
    p = sloping(long, wide, fall, turn)
    p = edits.change(p, "foundation-1", footing_depth=8 * INCH, footing_width=16 * INCH)
    try:
        p = step_down(p, "foundation-1", 8 * INCH)
    except EditError:
        assume(False)
    model = derive(p)
    frost = max(p.loads.frost_depth, LEAST_BURIAL)
    assert not any(f.code in ("frost", "corner") for f in model.findings)
    for run in model.runs:
        for s in run.segments:
            assert s.drop / (8 * INCH) == pytest.approx(round(s.drop / (8 * INCH)))  # block courses
        for a, b in itertools.pairwise(run.segments):
            assert abs(a.drop - b.drop) <= 24 * INCH + 1e-6
            assert b.high - b.low > run.foundation.lap or b is run.segments[-1]
        count = 60
        for k in range(count + 1):
            along = run.span[0] + (run.span[1] - run.span[0]) * k / count
            earth = model.ground.height(run.band.at(along, run.faces[0]))
            assert run.band.bottom - run.drop_at(along) - 8 * INCH <= earth - frost + 1.0
    # Wall and footings hang together: one body, nothing counted twice.
    pieces = concrete(model)
    whole = union([p.solid for p in pieces])
    assert whole.volume() == pytest.approx(sum(volume(p.solid) for p in pieces), rel=5e-5)
    assert len(whole.decompose()) == 1


def test_a_step_has_its_upright_piece_and_its_lap():
    p = house(30 * FOOT, 20 * FOOT)
    p = edits.change(p, "foundation-1", footing_width=16 * INCH, footing_depth=8 * INCH)
    p = edits.change(p, "foundation-1", steps=(Step(wall="wall-1", at=10 * FOOT, drop=2 * FOOT),))
    assert any(f.code == "corner" for f in derive(p).findings)  # wall 2 would hang in the air
    p = edits.change(
        p, "foundation-1", steps=(*p.foundations[0].steps, Step(wall="wall-1", at=20 * FOOT, drop=-2 * FOOT))
    )
    model = derive(p)
    run = next(r for r in model.runs if r.wall == "wall-1")
    solids = [q for q in model.pieces.values() if q.key.startswith(f"{run.id}/footing")]
    foot = run.band.bottom
    heights = sorted((round(q.solid.origin[2] - foot, 1), round(q.solid.depth, 1)) for q in solids)
    assert heights == [
        (round(-2 * FOOT - 8 * INCH, 1), round(8 * INCH, 1)),  # the lower footing, running on at both ends
        (-round(2 * FOOT, 1), round(2 * FOOT - 8 * INCH, 1)),  # the two upright pieces
        (-round(2 * FOOT, 1), round(2 * FOOT - 8 * INCH, 1)),
        (round(-8 * INCH, 1), round(8 * INCH, 1)),
        (round(-8 * INCH, 1), round(8 * INCH, 1)),
    ]
    lower = min(solids, key=lambda q: q.solid.origin[2])
    xs = [x for x, _ in lower.solid.rings[0]]
    assert max(xs) - min(xs) == pytest.approx(10 * FOOT + 2 * 24 * INCH)
    walls = [q for q in model.pieces.values() if q.key.startswith(f"{run.id}/wall")]
    assert len({round(q.solid.origin[2], 1) for q in walls}) == 2


@pytest.mark.parametrize(
    ("fields", "says"),
    [
        ({"steps": (Step(wall="wall-1", at=9e4, drop=200.0),)}, "past its end; it is"),
        (
            {"steps": (Step(wall="wall-1", at=3000.0, drop=200.0), Step(wall="wall-1", at=3300.0, drop=200.0))},
            "less than the lap",
        ),
        ({"steps": (Step(wall="wall-1", at=3000.0, drop=-1500.0),)}, "no height left"),
        ({"steps": (Step(wall="wall-9", at=3000.0, drop=200.0),)}, "does not stand on"),
        ({"ledge": 300.0}, "ledge must be narrower"),
        ({"upper_height": 500.0, "upper_thickness": 400.0}, "no thicker than the wall"),
    ],
)
def test_what_makes_no_sense_is_refused(fields, says):
    with pytest.raises(EditError, match=says):
        edits.change(house(), "foundation-1", **fields)


def test_ledge_thin_upper_part_pocket_and_opening_take_concrete_away():
    p = house(30 * FOOT, 20 * FOOT)
    plain = sum(q.volume for q in derive(p).pieces.values() if q.role == "foundation wall")
    run = "foundation-1/wall-1"
    tall = 5 * FOOT - 11.5 * INCH
    pocket = Recess(
        id="recess-1", foundation="foundation-1", wall="wall-1", offset=5000.0, width=150.0, height=250.0, depth=100.0
    )
    q = edits.add(p, pocket)
    cut = sum(v.volume for v in derive(q).pieces.values() if v.role == "foundation wall")
    assert plain - cut == pytest.approx(150 * 250 * 100)
    vent = Recess(
        id="recess-1",
        foundation="foundation-1",
        wall="wall-1",
        kind="opening",
        offset=5000.0,
        width=400.0,
        height=200.0,
        top=200.0,
    )
    q = edits.add(p, vent)
    cut = sum(v.volume for v in derive(q).pieces.values() if v.role == "foundation wall")
    assert plain - cut == pytest.approx(400 * 200 * 8 * INCH)
    q = edits.change(p, "foundation-1", thickness=12 * INCH, ledge=4 * INCH, ledge_drop=10 * INCH)
    walls = [v for v in derive(q).pieces.values() if v.key.startswith(f"{run}/wall")]
    assert sorted(round(v.solid.depth) for v in walls) == [round(tall - 10 * INCH), round(tall)]
    q = edits.change(p, "foundation-1", thickness=12 * INCH, upper_height=2 * FOOT, upper_thickness=8 * INCH)
    walls = [v for v in derive(q).pieces.values() if v.key.startswith(f"{run}/wall")]
    assert sorted(round(v.solid.depth) for v in walls) == [round(tall - 2 * FOOT), round(tall)]


def test_slabs_stop_at_walls_or_lie_on_them():
    p = house(30 * FOOT, 20 * FOOT)
    p = edits.change(p, "foundation-1", kind="basement")
    p = edits.add_level(p, "level-5", 4 * INCH, "Slab", "slab")
    slab = Slab(id="slab-1", name="Slab", walls=tuple(w.id for w in p.walls), level="level-6")
    inside = (30 * FOOT - 2 * 7.5 * INCH) * (20 * FOOT - 2 * 7.5 * INCH)
    made = derive(edits.add(p, slab))
    assert sum(v.volume for v in made.pieces.values() if v.role == "slab") == pytest.approx(inside * 4 * INCH, rel=1e-3)
    hole = Hole(place=FreePoint(x=1000.0, y=1000.0), width=1000.0, depth=2000.0)
    holed = derive(edits.add(p, edits.with_fields(slab, {"holes": (hole,)})))
    volume_of = lambda m: sum(v.volume for v in m.pieces.values() if v.role == "slab")  # noqa: E731
    assert volume_of(made) - volume_of(holed) == pytest.approx(2e6 * 4 * INCH)
    seated = derive(edits.add(p, edits.with_fields(slab, {"edge": "seat", "seat": 3 * INCH})))
    gain = 3 * INCH * 2 * (50 * FOOT - 4 * 7.5 * INCH)
    assert volume_of(seated) - volume_of(made) == pytest.approx(gain * 4 * INCH, rel=0.02)
    pieces = [v for v in seated.pieces.values() if v.role in CONCRETE]
    assert union([v.solid for v in pieces]).volume() == pytest.approx(sum(v.volume for v in pieces), rel=5e-5)


def test_pads_carry_their_columns_and_what_is_typed():
    p = edits.add_level(house(), "level-1", -4 * FOOT, "Pads", "top of footing")
    p = edits.add(
        p,
        Pad(
            id="pad-1",
            place=FreePoint(x=3000.0, y=3000.0),
            top=Hang(level="level-6"),
            head=Hang(level="level-1"),
            dead=20_000.0,
            live=30_000.0,
        ),
    )
    model = derive(p)
    pier = next(v for v in model.pieces.values() if v.role == "pier")
    assert model.path.pads["pad-1"].dead == pytest.approx(20_000.0 + 24 * 0.980665 * pier.volume * 1e-6, rel=1e-3)
    assert model.pads["pad-1"].design.works
    assert model.path.arrived.all == pytest.approx(model.path.applied.all, rel=1e-9)
    heavy = derive(edits.change(p, "pad-1", live=300_000.0))
    assert heavy.pads["pad-1"].design.width > model.pads["pad-1"].design.width
    lifted = derive(edits.change(p, "pad-1", uplift=900_000.0))
    assert any(f.code == "uplift" for f in lifted.findings)


def test_loads_along_the_walls_add_up_to_their_sums():
    model = derive(orchard_road())
    for name, line in (*model.path.walls.items(), *model.path.runs.items()):
        along = total(model.path.along[name].cases)
        for a, b in zip(along, line.foot, strict=True):
            assert a == pytest.approx(b, rel=1e-6, abs=0.5)
    wall = model.path.along["wall-10"]
    door = next(o for o in model.project.openings if o.wall == "wall-10")
    rows = wall.per_length()
    under = min(rows, key=lambda r: abs(r[0] - door.offset - door.width / 2))[1].all
    beside = min(rows, key=lambda r: abs(r[0] - door.offset + 80.0))[1].all
    assert beside > 1.5 * under  # the header brings it to the sides


@settings(max_examples=15)
@given(st.floats(0.0, 3000.0), st.floats(20.0, 150.0))
def test_blinding_lies_under_every_footing_and_follows_its_steps(fall, thick):
    p = edits.change(sloping(40 * FOOT, 28 * FOOT, fall, 0.0), "foundation-1", blinding=thick)
    p = step_down(p, "foundation-1", 8 * INCH)
    model = derive(p)
    blinding = [piece for piece in model.pieces.values() if piece.role == "blinding"]
    footings = [piece for piece in model.pieces.values() if piece.role == "strip footing"]
    feet = {round(piece.solid.origin[2], 3) for piece in footings}
    assert {round(piece.solid.origin[2] + piece.solid.depth, 3) for piece in blinding} <= feet
    whole = union([piece.solid for piece in (*concrete(model), *blinding)]).volume()
    assert whole == pytest.approx(sum(volume(piece.solid) for piece in (*concrete(model), *blinding)), rel=5e-5)
    # Seen from below nothing but blinding: as much as the footings cover.
    down = union([piece.solid for piece in footings]).project().area()
    assert union([piece.solid for piece in blinding]).project().area() == pytest.approx(down, rel=1e-3)


def test_footings_that_meet_lower_ones_step_down_to_them():
    """Common practice: between footings at different levels the ground stands at 45 degrees."""
    p = orchard_road()
    steps = [step for f in p.foundations for step in f.steps]
    assert not any(f.code == "beside lower" for f in derive(p).findings)
    assert len(steps) > 10
    for f in p.foundations:
        p = edits.change(p, f.id, steps=())
    model = derive(p)
    found = [f for f in model.findings if f.code == "beside lower"]
    assert {f.what.split(",")[0] for f in found} == {"Crawl space walls", "Wing foundation", "Shed foundation"}
    assert all(f.fix is not None for f in found)
    for _ in range(2 * len(found)):
        if not found:
            break
        fix = found[0].fix
        p = FIXES[fix.command](p, *fix.args)
        model = derive(p)
        found = [f for f in model.findings if f.code == "beside lower"]
    assert not found
    run = next(r for r in model.runs if r.id == "foundation-2/wall-1")
    lower = next(r for r in model.runs if r.id == "foundation-1/wall-9")
    feet = [r.band.bottom - r.drop_at(r.span[1]) - model.footings[r.id].depth for r in (run, lower)]
    assert feet[0] == pytest.approx(feet[1], abs=1.0)


@settings(max_examples=8)
@given(st.floats(0.0, 33.0))
@example(29.0)  # where a step made for one wall brings its neighbour too near: some are laid anew twice
def test_a_basement_made_deeper_takes_the_steps_beside_it_along(inches):
    """Steps that already go down to it are laid anew, deeper; nothing else is left to mend."""
    p = orchard_road()
    p = edits.change(p, "foundation-1", foot__offset=p.foundations[0].foot.offset - inches * INCH)
    p = mend_alike(p, "beside lower")
    assert not [f for f in derive(p).findings if f.code in ("beside lower", "corner", "frost")]
    assert all(step.drop != 0.0 for f in p.foundations for step in f.steps)


def test_steps_go_on_under_walls_in_line():
    """The porch's wall begins 4'-9" from the basement: of two steps of 1'-11" one lies under the wall before it, none near where they meet."""
    p = orchard_road()
    p = edits.change(p, "foundation-3", steps=())
    fix = next(f.fix for f in derive(p).findings if f.code == "beside lower" and "wall-15" in f.fix.args)
    p = FIXES[fix.command](p, *fix.args)
    foundation = next(f for f in p.foundations if f.id == "foundation-3")
    by = {wall: sorted((s.at, s.drop) for s in foundation.steps if s.wall == wall) for wall in ("wall-15", "wall-23")}
    (first, deep), (at, up) = by["wall-15"]
    assert first == 0.0
    assert foundation.lap <= at <= 4.75 * FOOT - foundation.lap
    (begins, left), (further, last) = by["wall-23"]
    assert begins == 0.0
    assert left == pytest.approx(deep + up)  # it goes on where the other ends
    assert left + last == pytest.approx(0.0, abs=1e-6)
    assert foundation.lap <= further
    assert max(-up, -last) <= 24.0 * INCH
    assert not [f for f in derive(p).findings if f.code == "beside lower" and "wall-15" in f.things]


def test_a_short_wall_has_no_room_to_step():
    p = edits.set_soil(orchard_road(), spread=0.3)
    found = [f for f in derive(p).findings if f.code == "beside lower"]
    assert found
    assert any(f.fix is None for f in found)


def test_steps_past_the_end_of_a_wall_cut_nothing_off_it():
    """A wall made shorter keeps the steps beyond its end; there is room for others, or not, but nothing breaks."""
    run = next(r for r in derive(orchard_road()).runs if r.id == "foundation-2/wall-1")
    for at_end in (True, False):
        drop = 200.0 if at_end else -200.0
        crowded = tuple(Step(wall=run.wall, at=run.length + 500.0 * k, drop=drop) for k in range(1, 5))
        short = replace(run, foundation=struct_replace(run.foundation, steps=crowded), segments=run.segments[:1])
        edge = run.length + 2600.0 if at_end else run.length
        assert room_to_step(short, at_end, edge, 300.0, 1.0, Units.IMPERIAL) in (True, False)


def test_slab_edges_bow_and_holes_are_round():
    p = orchard_road()
    plain = derive(p)
    slab = next(v for v in plain.slabs if v.slab.id == "slab-2")
    side = slab.sides.index("wall-20")
    ring = slab.ring
    chord = math.dist(ring[side], ring[(side + 1) % len(ring)])
    before = sum(v.volume for v in plain.pieces.values() if v.owner == "slab-2" and v.role == "slab")

    bowed = foundation_edits.set_bow(p, "slab-2", "wall-20", 600.0)
    after = derive(bowed)
    made = next(v for v in after.slabs if v.slab.id == "slab-2")
    radius = chord**2 / (8.0 * 600.0) + 300.0
    angle = 2.0 * math.asin(chord / (2.0 * radius))
    grown = Upright(made.ring, 0.0, 1.0).polygon.area - Upright(ring, 0.0, 1.0).polygon.area
    assert grown == pytest.approx(radius**2 / 2.0 * (angle - math.sin(angle)), rel=2e-3)
    assert sum(v.volume for v in after.pieces.values() if v.owner == "slab-2" and v.role == "slab") > before

    x, y = (min(q[0] for q in ring) + max(q[0] for q in ring)) / 2.0, 4000.0
    holed = derive(foundation_edits.add_hole(p, "slab-2", [x, y, 600.0]))
    less = before - sum(v.volume for v in holed.pieces.values() if v.owner == "slab-2" and v.role == "slab")
    assert less == pytest.approx(math.pi * 300.0**2 * slab.slab.thickness, rel=0.01)

    # An edge that would run through the opposite one stays straight, and says so.
    wrong = derive(foundation_edits.set_bow(p, "slab-2", "wall-20", -9000.0))
    finding = next(f for f in wrong.findings if f.code == "slab edge")
    again = derive(FIXES[finding.fix.command](wrong.project, *finding.fix.args, **dict(finding.fix.fields)))
    assert not any(f.code == "slab edge" for f in again.findings)
    with pytest.raises(EditError):
        foundation_edits.add_hole(p, "slab-2", [1.0, 2.0])
    assert foundation_edits.set_bow(bowed, "slab-2", "wall-20", 0.0).slabs == p.slabs
