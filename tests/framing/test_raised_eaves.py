"""Eaves that bear higher than their roof: half-hips, roofs over walls of two heights; walls run up to them, nothing stands in anything."""

import math

import pytest
import shapely
from hypothesis import example, given, settings
from hypothesis import strategies as st
from tests.framing.solids import apart
from tests.framing.test_roof_trim import of
from tests.framing.test_roof_trim import roofed as gabled
from tests.framing.test_surface_roofs import L_HOUSE, roofed
from tests.loads.test_beams import balanced

from balken.catalog.sections import section
from balken.derive import derive
from balken.exchange.project_file import from_bytes, to_bytes
from balken.findings.fixes import FIXES
from balken.model import edits
from balken.model.errors import EditError
from balken.model.records import Hang
from balken.model.roof_edits import raise_roof, set_side
from balken.units.system import FOOT, INCH

RECTANGLE = [(0, 0), (40, 0), (40, 28), (0, 28)]
PITCH = 0.75


def half_hip(raised=5.0 * FOOT, pitch=PITCH, overhang=1.0 * FOOT, **fields):
    """A hip roof over 40 by 28 ft whose end over wall 2 begins higher."""
    return set_side(roofed(RECTANGLE, pitch=pitch, overhang=overhang, **fields), "roof-1", "wall-2", raised=raised)


def two_heights(raised=4.0 * FOOT, pitch=0.5, **fields):
    """Two slopes between gables, that over wall 3 from a higher wall."""
    return set_side(gabled(pitch, **fields), "roof-1", "wall-3", raised=raised)


def test_a_half_hip_begins_where_its_rakes_are_as_high():
    plan = derive(half_hip()).surfaces[0]
    rakes = [line for line in plan.surface.lines if line.kind == "rake"]
    assert len(rakes) == 2
    for rake in rakes:
        low, high = sorted((rake.start, rake.end), key=lambda p: p[2])
        assert (low[2], high[2]) == pytest.approx((0.0, 5.0 * FOOT))
        assert math.dist(low[:2], high[:2]) == pytest.approx(5.0 * FOOT / PITCH)
    whole = sum(face.plan_area for face in plan.surface.faces)
    assert whole == pytest.approx(40.0 * 28.0 * FOOT**2, rel=1e-9)
    # Its ridge ends half the span less the rakes' run before the wall.
    (ridge,) = (line for line in plan.surface.lines if line.kind == "ridge")
    assert max(ridge.start[0], ridge.end[0]) == pytest.approx(40.0 * FOOT - (14.0 * FOOT - 5.0 * FOOT / PITCH))


def test_its_wall_runs_up_with_raking_plates_and_level_ones():
    model = derive(half_hip())
    plan, top = model.surfaces[0], model.gables["wall-2"]
    line = model.lines["wall-2"]
    assert len(top.slopes) == 3
    assert top.slopes[1][0] == 0.0
    assert top.height(14.0 * FOOT, False) == pytest.approx(plan.bearing + 5.0 * FOOT)
    # Level plates begin where the raking ones, under the rafters, are as high: a seat in from where the planes meet.
    assert top.underside(top.breaks[0]) == pytest.approx(plan.bearing + 5.0 * FOOT, abs=0.01)
    assert top.breaks[0] == pytest.approx(5.0 * FOOT / PITCH + 3.5 * INCH, abs=20.0)
    core = next(
        p
        for p in model.pieces.values()
        if p.key == f"wall-2/layer/{line.band.core[0] if hasattr(line.band, 'core') else 2}"
    )
    outline = shapely.Polygon(core.solid.rings[0])
    low, high = (x for x in (outline.bounds[0], outline.bounds[2]))
    flat = line.band.top - line.band.bottom
    assert outline.bounds[3] == pytest.approx(flat + 5.0 * FOOT, abs=0.1)
    # A trapeze above the plates: its legs as steep as the roof.
    legs = 5.0 * FOOT / PITCH
    assert outline.area == pytest.approx((high - low) * flat + (high - low - legs) * 5.0 * FOOT, rel=0.02)
    assert not [f for f in model.findings if f.code in ("gable", "roof bearing", "seat")]


def test_jacks_of_its_end_stand_on_the_raised_plates():
    model = derive(half_hip())
    plan = model.surfaces[0]
    mine = [one for one in model.planes["roof-1"].members if one.wall == "wall-2"]
    assert mine
    for one in mine:
        assert one.member.start[2] == pytest.approx(5.0 * FOOT)
        low, high = model.piece(one.key).solid.heights
        assert low < plan.bearing + 5.0 * FOOT < high
    # Beside the wall a rafter stands from the eave to the hip's foot.
    ends = [one.member for one in model.planes["roof-1"].members if one.wall == "wall-1"]
    last = max(ends, key=lambda m: m.start[0])
    assert last.start[0] == pytest.approx(40.0 * FOOT - 0.75 * INCH)
    assert last.head.kind == "hip"


STICKS = (
    "rafter",
    "hip rafter",
    "valley rafter",
    "fly rafter",
    "ladder block",
    "ceiling tie",
    "ridge board",
    "top plate",
    "stud",
    "post stud",
)


@pytest.mark.parametrize("made", [
    half_hip(), half_hip(2.0 * FOOT, 0.4), two_heights(), two_heights(ridge_made="beam"), gabled(0.5), gabled(0.75, ridge_made="beam"),
    roofed(L_HOUSE),
])  # fmt: skip
def test_nothing_stands_in_anything(made):
    """Ridges run through the plates of gables, hips and valleys are seated on plates, upper plates lap over none that rake."""
    model = derive(made)
    sticks = [p for p in model.pieces.values() if p.role not in ("wall layer", "roof plane")]
    for role in STICKS:
        apart([p for p in sticks if p.role == role], sticks, 1500.0)
    planes = [p for p in model.pieces.values() if p.role == "roof plane"]
    apart(planes, sticks, 2000.0)


def test_hips_over_skew_corners_are_seated_on_their_plates():
    model = derive(roofed([(0, 0), (40, 3), (38, 30), (-4, 25)]))
    apart(
        of(model, "hip rafter"), [p for p in model.pieces.values() if p.role not in ("wall layer", "roof plane")], 700.0
    )
    plan = model.surfaces[0]
    for one in model.planes["roof-1"].members:
        if one.member.role == "hip" and one.member.start[2] == 0.0:
            solid = model.piece(one.key).solid
            assert solid.level == plan.bearing
            assert solid.volume < solid.whole.volume


def test_shear_at_the_birds_mouth_of_a_hip_by_hand():
    """What is left square to a hip of 6:12 over its seat: the rafters' height over the plates, less its drop, by the cosine of its own slope."""
    model = derive(roofed(RECTANGLE, pitch=0.5, overhang=0.0))
    framing, plan = model.planes["roof-1"], model.surfaces[0]
    for line in framing.lines:
        check = next(c for c in line.result.checks if c.name == "shear at the bird's mouth")
        lumber = section(line.size)
        drop = lumber.breadth / 2.0 * 0.5 / math.sqrt(2.0)
        left = (plan.plate_to_top - drop) / math.hypot(1.0, 0.5 / math.sqrt(2.0))
        fv = {"sawn": 180.0}.get(
            lumber.kind, 285.0
        ) * 6.894757e-3  # NDS Supplement Table 4A, DF-L; as the catalogue has veneer lumber
        assert check.demand == pytest.approx(line.foot / 1000.0)
        assert check.capacity == pytest.approx(2.0 / 3.0 * fv * lumber.breadth * left / 1000.0, rel=2e-3)


def test_studs_end_under_a_ridge_beam_and_plates_at_its_sides():
    model = derive(gabled(0.5, ridge_made="beam"))
    (beam,) = of(model, "ridge board")
    low, (x0, _, _) = beam.solid.heights[0], beam.start
    half = section(beam.section).breadth / 2.0
    below = [p for p in of(model, "post stud") if p.owner == "wall-4" and abs(p.start[1] - 14.0 * FOOT) < half]
    assert below
    for stud in below:
        assert stud.solid.heights[1] == pytest.approx(low, abs=0.01)
    plates = [p for p in of(model, "top plate") if p.owner == "wall-4"]
    for plate in plates:
        ys = [c[1] for c in plate.solid.corners()]
        assert max(ys) <= 14.0 * FOOT - half + 0.1 or min(ys) >= 14.0 * FOOT + half - 0.1
    assert x0 < 1.0


@pytest.mark.parametrize(("size", "counted", "narrow"), [
    ("2x12", 1, True), ("3-2x12", 3, True), ("LVL 2-1.75x11.875", 3, True), ("LVL 3-1.75x16", 4, False),
])  # fmt: skip
def test_only_studs_under_a_ridge_beam_count(size, counted, narrow):
    """No plate lies between a ridge and the studs under it; by hand from 1 1/2, 4 1/2, 3 1/2 and 5 1/4 in on studs of 1 1/2 in, of the
    outermost two thirds covered at least.
    """
    model = derive(gabled(0.5, ridge_made="beam", ridge_size=size))
    (post,) = (post for post in model.framed["wall-4"].posts if abs(post.at - 14.0 * FOOT) < 1.0)
    assert post.result.case.size == (f"{counted}-2x6" if counted > 1 else "2x6")
    assert post.narrow == narrow
    told = [f for f in model.findings if f.code == "post in wall" and "wall-4" in f.things]
    assert bool(told) == (post.result.used > 1.0)
    assert all(("of more plies" in f.why) == narrow for f in told)


def test_askew_a_ridge_covers_no_more_studs():
    """Gable walls 20 degrees off square: the pocket is wider by what the beam wanders in the wall's depth, the beam along the wall by 1/cos."""
    p = roofed([(0, 0), (40, 0), (50.19, 28), (10.19, 28)])
    for wall in ("wall-2", "wall-4"):
        p = set_side(p, "roof-1", wall, kind="gable")
    model = derive(edits.change(p, "roof-1", ridge_made="beam", ridge_size="3-2x12"))
    for wall in ("wall-2", "wall-4"):
        ((low, high, _, wide),) = model.gables[wall].pockets
        assert wide == pytest.approx(4.5 * INCH / math.cos(math.atan(10.19 / 28.0)), rel=1e-3)
        assert high - low > wide + 1.5 * INCH
        (post,) = model.framed[wall].posts
        assert post.result.case.size == "3-2x6"


def test_between_walls_of_two_heights_the_ridge_lies_off_the_middle():
    """By hand: 28 ft, 4 ft higher at one side, 6:12: the ridge stands (28 + 4 / 0.5) / 2 = 18 ft in of the low wall."""
    model = derive(two_heights())
    plan = model.surfaces[0]
    (ridge,) = (line for line in plan.surface.lines if line.kind == "ridge")
    assert ridge.start[1] == pytest.approx(18.0 * FOOT)
    assert ridge.start[2] == pytest.approx(9.0 * FOOT)
    assert model.gables["wall-3"].slopes[0][:1] == (0.0,)
    assert model.gables["wall-3"].height(0.0, False) == pytest.approx(plan.bearing + 4.0 * FOOT)
    for wall, low, high in (("wall-2", 0.0, 28.0), ("wall-4", 28.0, 0.0)):
        top = model.gables[wall]
        assert top.height(low * FOOT, False) == pytest.approx(plan.bearing)
        assert top.height(high * FOOT, False) == pytest.approx(plan.bearing + 4.0 * FOOT)
    # Their feet lie at two heights: no level tie holds a pair.
    assert any(f.code == "untied" for f in model.findings)
    assert not of(model, "ceiling tie")
    held = derive(two_heights(ridge_made="beam"))
    assert not [f for f in held.findings if f.code == "untied"]
    balanced(held)


def test_a_wall_whose_own_head_is_there_is_left_alone_and_one_too_high_is_told():
    p = edits.change(two_heights(), "wall-3", head=Hang(level="level-2", offset=4.0 * FOOT))
    model = derive(p)
    assert "wall-3" not in model.gables
    assert not [f for f in model.findings if f.code == "roof bearing"]
    high = edits.change(p, "wall-3", head=Hang(level="level-2", offset=6.0 * FOOT))
    (told,) = (f for f in derive(high).findings if f.code == "roof bearing")
    mended = FIXES[told.fix.command](high, *told.fix.args)
    assert not [f for f in derive(mended).findings if f.code == "roof bearing"]


def test_a_wall_that_would_stand_out_of_the_roof_beside_a_half_hip_is_told():
    """As high as the raised eave all along, its corners would stand above the rakes."""
    for offset in (5.0, 2.0):
        p = edits.change(half_hip(), "wall-2", head=Hang(level="level-2", offset=offset * FOOT))
        (told,) = (f for f in derive(p).findings if f.code == "roof bearing")
        mended = derive(FIXES[told.fix.command](p, *told.fix.args))
        assert not [f for f in mended.findings if f.code == "roof bearing"]
        assert "wall-2" in mended.gables


@given(
    raised=st.lists(st.floats(0.0, 8.0), min_size=8, max_size=8), pitch=st.floats(0.3, 1.2), made=st.sampled_from(["board", "beam"]),
)  # fmt: skip
@settings(max_examples=12)
@example(raised=[0.0, 3.0, 0.0, 0.0, 0.0, 2.0, 0.0, 1.0], pitch=0.5, made="board")
@example(raised=[4.0, *[0.0] * 7], pitch=0.75, made="beam")
def test_all_loads_come_down_whatever_is_raised(raised, pitch, made):
    p = roofed(L_HOUSE, pitch=pitch, ridge_made=made)
    for wall, by in zip([w.id for w in p.walls], raised, strict=False):
        p = set_side(p, "roof-1", wall, raised=by * FOOT)
    balanced(derive(p))
    again = from_bytes(to_bytes(p)).roofs[0].sides
    assert [s.raised for s in again] == pytest.approx([s.raised for s in p.roofs[0].sides], abs=1e-3)


def test_what_cannot_be_is_said():
    with pytest.raises(EditError, match="lowest eave"):
        half_hip(-100.0)
    with pytest.raises(EditError, match="raised"):
        raise_roof(half_hip(), "roof-1", 1.2)
    trussed = derive(edits.change(two_heights(), "roof-1", framed="trusses"))
    assert any("raised" in f.why for f in trussed.findings if "trusses" in f.what)
