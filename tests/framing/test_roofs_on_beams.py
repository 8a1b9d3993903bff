"""Roofs that bear on beams: porches against a house, carports on posts; loads, heights, trusses, what wind lifts."""

import numpy as np
import pytest
from tests.framing.solids import apart
from tests.houses import house
from tests.loads.test_beams import balanced

from balken.derive import derive
from balken.findings.fixes import FIXES
from balken.memo import Memo
from balken.model import edits
from balken.model.errors import EditError
from balken.model.kinds.beam import Beam
from balken.model.kinds.column import Column
from balken.model.kinds.pad import Pad
from balken.model.kinds.roof import Roof, RoofSide
from balken.model.records import FreePoint, Hang
from balken.units.system import FOOT, INCH

PLATE = Hang(level="level-2")
WIDE = 16.0 * FOOT


def beam(p, number, start, end, size="3-2x12", top=PLATE):
    ends = (FreePoint(x=x, y=y) for x, y in (start, end))
    return edits.add(p, Beam(id=f"beam-{number}", start=next(ends), end=next(ends), top=top, size=size, outdoors=True))


def post(p, number, at):
    place, foot = FreePoint(x=at[0], y=at[1]), Hang(level="level-4")
    p = edits.add(p, Column(id=f"column-{number}", place=place, foot=foot, head=PLATE, size="6x6"))
    top = Hang(level="level-5", offset=10.0 * INCH)
    return edits.add(p, Pad(id=f"pad-{number}", place=place, top=top, head=foot, pier=10.0 * INCH))


def porched(kind="wall", deep=8.0 * FOOT, **fields):
    """The house of 40 x 28 ft, a porch in front of it: a beam along its front on two posts, beams back to the house."""
    p = house(long=40.0 * FOOT, wide=28.0 * FOOT)
    p = edits.change(p, "roof-1", shape="planes")
    if kind == "wall":
        p = edits.change(p, "wall-1", head=Hang(level="level-2", offset=4.0 * FOOT))
    half = 2.25 * INCH
    low, high, front = 12.0 * FOOT + half, 12.0 * FOOT + WIDE - half, -deep + half
    p = beam(p, 1, (low, front), (high, front))
    p = beam(p, 2, (low, front), (low, 2.75 * INCH))
    p = beam(p, 3, (high, front), (high, 2.75 * INCH))
    p = post(post(p, 1, (low, front)), 2, (high, front))
    ends = (
        RoofSide(wall="wall-1", kind=kind),
        *(RoofSide(wall=f"beam-{k}", kind="gable") for k in ((2, 3) if kind == "wall" else (1,))),
    )
    fields = {"pitch": 0.25 if kind == "wall" else 0.5, "sides": ends} | fields
    roof = Roof(
        id="roof-2", name="Porch", walls=("wall-1", "beam-1", "beam-2", "beam-3"), bearing=PLATE, shape="planes", **fields
    )  # fmt: skip
    return edits.add(p, roof)


def plan_of(model, roof="roof-2"):
    return next(plan for plan in model.surfaces if plan.roof.id == roof)


def test_a_lean_to_porch_by_hand():
    """The front beam takes half of what lies between it and the house, all of the overhangs, and by the lever what the one before it lifts
    at the ledger.
    """
    model = derive(porched())
    plan = plan_of(model)
    assert not plan.problem
    # Its outline runs along the outer faces of the beams and the house's sheathing, half an inch before the core.
    corners = [(12 * FOOT, -8 * FOOT), (28 * FOOT, -8 * FOOT), (12 * FOOT, -12.7), (28 * FOOT, -12.7)]
    assert np.array(sorted(plan.outline.core)) == pytest.approx(np.array(sorted(corners)))
    snow = model.project.loads.ground_snow
    whole, inside = (WIDE + 2.0 * FOOT) * (9.0 * FOOT - 12.7), WIDE * (8.0 * FOOT - 12.7)
    on_beam = sum(r.force.snow for r in model.path.reactions if r.bearer == "beam-1")
    deep, over = plan.deep[plan.outline.walls.index("beam-1")], 1.0 * FOOT
    lever = over * (over / 2.0 + deep) / (8.0 * FOOT - 12.7 - deep)
    assert on_beam == pytest.approx(snow * (whole - inside / 2.0 + WIDE * lever) / 1000.0, rel=1e-6)
    # It is a beam like any other: posts and pads carry it down, half each.
    for k in (1, 2):
        assert model.path.columns[f"column-{k}"].foot.snow == pytest.approx(on_beam / 2.0, rel=1e-6)
    assert not [f for f in model.findings if "roof-2" in f.things and f.grave]
    balanced(model)


@pytest.mark.parametrize("kind", ["wall", "roof"])
def test_nothing_stands_in_anything_and_all_comes_down(kind):
    model = derive(porched(kind, deep=10.0 * FOOT))
    assert not plan_of(model).problem
    balanced(model)
    mine = [
        x for x in model.pieces.values() if x.owner == "roof-2" and x.role in ("rafter", "ridge board", "ceiling tie")
    ]
    assert mine
    apart(mine, [x for x in model.pieces.values() if x.role in ("beam", "top plate", "stud", "column")], 2e4)


def carport(**fields):
    """Four beams on four posts, a gable roof over them; far from the house."""
    p = house(long=40.0 * FOOT, wide=28.0 * FOOT)
    x, y, long, wide = 60.0 * FOOT, 0.0, 24.0 * FOOT, 20.0 * FOOT
    corners = ((x, y), (x + long, y), (x + long, y + wide), (x, y + wide))
    for k, corner in enumerate(corners):
        p = beam(p, k + 1, corner, corners[(k + 1) % 4], size="4-2x12")
        p = post(p, k + 1, corner)
    ends = tuple(RoofSide(wall=f"beam-{k}", kind="gable") for k in (2, 4))
    walls = tuple(f"beam-{k}" for k in (1, 2, 3, 4))
    return edits.add(
        p, Roof(id="roof-2", name="Carport", walls=walls, bearing=PLATE, shape="planes", sides=ends, **fields)
    )


@pytest.mark.parametrize("framed", ["rafters", "trusses"])
def test_a_carport_on_four_beams(framed):
    model = derive(edits.set_project(carport(framed=framed), stock_length=24.0 * FOOT))
    plan = plan_of(model)
    assert not plan.problem
    assert set(plan.outline.walls) == {f"beam-{k}" for k in (1, 2, 3, 4)}
    if framed == "trusses":
        made = model.trusses["roof-2"]
        assert not made.problem
        assert made.row.walls in (("beam-1", "beam-3"), ("beam-3", "beam-1"))
    loads = model.project.loads
    brought = sum(r.force.snow for r in model.path.reactions if r.piece.startswith("roof-2"))
    assert brought == pytest.approx(loads.ground_snow * plan.plan_area / 1000.0, rel=1e-6)
    assert all(r.bearer.startswith("beam-") for r in model.path.reactions if r.piece.startswith("roof-2"))
    balanced(model)


def test_a_beam_too_low_is_told_and_raised_by_its_fix():
    p = edits.change(carport(), "beam-3", top=Hang(level="level-2", offset=-50.0))
    model = derive(p)
    finding = next(f for f in model.findings if f.code == "roof bearing" and "beam-3" in f.things)
    assert finding.what == "Beam 3: the roof does not sit on its top"
    assert finding.fix is not None
    mended = FIXES[finding.fix.command](p, *finding.fix.args, **dict(finding.fix.fields))
    assert not [f for f in derive(mended).findings if f.code == "roof bearing"]


def test_what_wind_lifts_goes_down_the_posts():
    """Roofs over beams lift too: ties there, and what is dead above a post's foot holds it down, or a tie does."""
    p = edits.set_loads(carport(), wind_speed=67.0)
    model = derive(p)
    lifted = [row for row in model.uplift.lifted if row.roof == "roof-2"]
    assert {row.bearer for row in lifted} == {"beam-1", "beam-3"}
    feet = {foot.thing: foot for foot in model.uplift.feet}
    assert {"beam-1", "beam-3", "column-1", "column-2", "column-3", "column-4"} <= set(feet)
    ups = sum(feet[f"beam-{k}"].gross for k in (1, 3))
    assert sum(feet[f"column-{k}"].gross for k in (1, 2, 3, 4)) == pytest.approx(ups, rel=1e-6)


def test_beams_move_and_go():
    p, memo = carport(), Memo()
    derive(p, memo)
    moved = edits.change(p, "beam-2", start=FreePoint(x=80 * FOOT, y=0.0), end=FreePoint(x=80 * FOOT, y=20 * FOOT))
    near = plan_of(derive(moved, memo))
    assert max(x for x, _ in near.outline.core) == pytest.approx(80 * FOOT + 3 * INCH)
    assert near == plan_of(derive(moved))
    without = edits.remove(p, "beam-4")
    assert without.roofs[1].walls == ("beam-1", "beam-2", "beam-3")
    assert {side.wall for side in without.roofs[1].sides} == {"beam-2"}
    assert any("roof-2" in f.things for f in derive(without, memo).findings)


def test_what_cannot_be_is_refused_and_nothing_is_lost():
    p = carport()
    with pytest.raises(EditError, match="roof of planes"):
        edits.change(p, "roof-2", shape="gable", sides=())
    with pytest.raises(EditError, match="not there"):
        edits.change(p, "roof-2", walls=("beam-1", "beam-9", "beam-3"), sides=())


def test_wind_presses_below_a_roof_on_beams():
    """It is open below: 0.55 instead of 0.18 inside (ASCE 7-16, Table 26.13-1), whatever the building is said to be."""
    model = derive(edits.set_loads(carport(), wind_speed=50.0))
    over_house, open_one = (model.uplift.wind[roof] for roof in ("roof-1", "roof-2"))
    assert (open_one.inner / open_one.speed) - (over_house.inner / over_house.speed) == pytest.approx(0.55 - 0.18)


@pytest.mark.parametrize("framed", ["rafters", "trusses"])
def test_one_roof_over_a_house_and_its_porch(framed):
    """Ends of valleys come down where a beam meets the wall, half on each; the wall runs on below the porch and is two sides of the roof."""
    p = edits.remove(porched("gable", deep=10.0 * FOOT), "roof-2")
    walls = (*p.roofs[0].walls, "beam-1", "beam-2", "beam-3")
    ends = tuple(RoofSide(wall=wall, kind="gable") for wall in ("wall-2", "wall-4", "beam-1"))
    p = edits.change(p, "roof-1", walls=walls, sides=ends, shape="planes", framed=framed)
    model = derive(edits.set_project(p, stock_length=24.0 * FOOT))
    plan = plan_of(model, "roof-1")
    assert plan.outline.walls.count("wall-1") == 2
    assert not model.path.lost
    balanced(model)


def test_hips_of_a_carport_come_down_on_its_beams():
    model = derive(edits.change(carport(), "roof-2", sides=()))
    assert len([line for line in plan_of(model).surface.lines if line.kind == "hip"]) == 4
    assert not model.path.lost
    balanced(model)


@pytest.mark.parametrize("way", [1, -1])
def test_beams_about_an_inner_corner_whichever_way_they_run(way):
    """An L of six beams: its roof lies on their outer faces, 3 in out of their middles, at the inner corner too."""
    p = house(long=40.0 * FOOT, wide=28.0 * FOOT)
    corners = [(60.0 + x, y) for x, y in ((0, 0), (24, 0), (24, 10), (12, 10), (12, 24), (0, 24))]
    for k, corner in enumerate(corners):
        ends = ((x * FOOT, y * FOOT) for x, y in (corner, corners[(k + 1) % 6])[::way])
        p = beam(p, k + 1, *ends, size="4-2x12")
        p = post(p, k + 1, (corner[0] * FOOT, corner[1] * FOOT))
    walls = tuple(f"beam-{k}" for k in range(1, 7))
    model = derive(edits.add(p, Roof(id="roof-2", name="Carport", walls=walls, bearing=PLATE, shape="planes")))
    plan, half = plan_of(model), 3.0 * INCH
    signs = ((-1, -1), (1, -1), (1, 1), (1, 1), (1, 1), (-1, 1))
    by_hand = sorted((x * FOOT + a * half, y * FOOT + b * half) for (x, y), (a, b) in zip(corners, signs, strict=True))
    assert np.array(sorted(plan.outline.core)) == pytest.approx(np.array(by_hand), abs=0.01)
    assert not model.path.lost
    balanced(model)
