"""Hips in balance and the ring of plates that holds their feet: in closed form, by a space truss in PyNiteFEA; what is not alike is told."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from Pynite import FEModel3D
from tests.framing.test_surface_roofs import roofed
from tests.loads.test_beams import balanced

from balken.catalog.sections import section
from balken.derive import derive
from balken.documents.roof_schedule import roof_schedule
from balken.loads.cases import Cases
from balken.model import edits
from balken.model.roof_edits import set_side
from balken.panel.card_parts import Fact
from balken.panel.cards_roofs import roof_card
from balken.session.session import Session
from balken.standards.us.ply_nails import PER_NAIL, lap_nails, nail_value
from balken.standards.us.pressed_boards import pressed
from balken.units.system import INCH, PSI


def hip(long=24.0, wide=14.0, pitch=0.75, **fields):
    return edits.change(roofed([(0, 0), (long, 0), (long, wide), (0, wide)]), "roof-1", pitch=pitch, **fields)


def told(model):
    return [f for f in model.findings if f.code == "end of hip"]


@settings(max_examples=15, deadline=None)
@given(st.floats(16.0, 40.0), st.floats(10.0, 16.0), st.floats(0.34, 1.2))
def test_pulls_in_closed_form(long, wide, pitch):
    """Of a rectangle's hips at 45 degrees in plan: half of what comes to each head goes down each hip, and pulls at both plates of its corner
    with V / (2 pitch); the ridge between is pressed with V / pitch.
    """
    p = edits.set_loads(hip(long, wide, pitch), snow_by="ground")
    model = derive(p)
    carried = model.planes["roof-1"].carried
    ring = carried.ring
    assert ring.problem == ""
    heads = carried.settled.unheld
    assert len(heads) == 2 or long - wide < 0.1
    v = max(end.force.dead for end in heads)
    if len(heads) == 2:
        assert [ring.pulls[k].dead for k in range(4)] == pytest.approx([v / (2.0 * pitch)] * 4, rel=0.02)
        level = v / 2.0 * math.sqrt(2.0) / pitch
        along = math.hypot(level, v / 2.0)
        hips = [x.dead for k, x in ring.pushes.items() if k in carried.names and "hip" in carried.names[k]]
        assert hips == pytest.approx([along] * 4, rel=0.02)
        (ridge,) = (x.dead for k, x in ring.pushes.items() if "hip" not in carried.names.get(k, ""))
        assert ridge == pytest.approx(v / pitch, rel=0.02)
    balanced(model)


def test_as_a_space_truss():
    """PyNiteFEA: hips, ridge and plates as bars hinged at their ends on four corners that hold nothing sideways."""
    model = derive(hip())
    plan, carried = model.surfaces[0], model.planes["roof-1"].carried
    ring, heads = carried.ring, carried.settled.unheld
    frame = FEModel3D()
    frame.add_material("wood", 11_000.0, 4_000.0, 0.3, 5e-6)
    frame.add_section("bar", 5_000.0, 1e7, 1e7, 1e7)
    core = plan.outline.core
    for k, (x, y) in enumerate(core):
        frame.add_node(f"c{k}", x, y, 0.0)
    for k, end in enumerate(heads):
        frame.add_node(f"h{k}", *end.at)
    bars = {f"plate {k}": (f"c{k}", f"c{(k + 1) % 4}") for k in range(4)} | {"ridge": ("h0", "h1")}
    for k, corner in enumerate(core):
        near = min(range(2), key=lambda h: math.dist(heads[h].at[:2], corner))
        bars[f"hip {k}"] = (f"c{k}", f"h{near}")
    for name, (a, b) in bars.items():
        frame.add_member(name, a, b, "wood", "bar")
        frame.def_releases(name, Ryi=True, Rzi=True, Ryj=True, Rzj=True)
    # Vertical bearings, what keeps it from drifting, and a diagonal in plan that has nothing to do.
    for k in range(4):
        frame.def_support(f"c{k}", k == 0, k in (0, 1), True, True, True, True)
    for k, end in enumerate(heads):
        frame.def_support(f"h{k}", False, False, False, True, True, True)
        frame.add_node_load(f"h{k}", "FZ", -end.force.dead)
    frame.add_member("diagonal", "c0", "c2", "wood", "bar")
    frame.def_releases("diagonal", Ryi=True, Rzi=True, Ryj=True, Rzj=True)
    frame.analyze(check_statics=False)
    axial = {name: frame.members[name].axial(frame.members[name].L() / 2.0) for name in (*bars, "diagonal")}
    assert abs(axial["diagonal"]) < 1.0
    for k in range(4):
        assert abs(axial[f"plate {k}"]) == pytest.approx(ring.pulls[k].dead, rel=1e-3)
    hips = sorted(x.dead for k, x in ring.pushes.items() if "hip" in carried.names.get(k, ""))
    assert sorted(abs(axial[f"hip {k}"]) for k in range(4)) == pytest.approx(hips, rel=1e-3)
    (ridge,) = (x.dead for k, x in ring.pushes.items() if "hip" not in carried.names.get(k, ""))
    assert abs(axial["ridge"]) == pytest.approx(ridge, rel=1e-3)


def test_a_small_hip_roof_holds_itself_together_and_its_card_says_how():
    session = Session(hip())
    model = session.model
    ring = model.planes["roof-1"].ring
    assert ring.works
    assert told(model) == []
    facts = {x.label: x.value for x in roof_card(session, session.project.roofs[0]).parts if isinstance(x, Fact)}
    nails = max(ring.nails.values(), key=lambda one: one.number)
    assert facts["Nails"].startswith(f"{nails.number} 16d common nails in each lap at its corners")
    assert "alike on both sides" in facts["Holds"]
    assert f"{nails.number} 16d where plates lap" in " ".join(roof_schedule(model).rows[0])
    # Hips are checked with what presses them along themselves, too.
    for line in model.planes["roof-1"].carried.lines:
        assert [check for check in line.result.checks if check.name == "compression and bending"], line.key


def test_what_does_not_hold_is_told_with_its_reason():
    wide = derive(hip(40.0, 28.0, 0.5))
    assert "nails would be needed" in told(wide)[0].why or "in tension" in told(wide)[0].why
    uneven = derive(edits.set_loads(hip(pitch=0.5), snow_by="roof", ground_snow=1.5))
    assert "uneven snow presses harder" in told(uneven)[0].why
    half = derive(set_side(hip(), "roof-1", "wall-2", kind="gable"))
    assert "not alike" in told(half)[0].why
    wing = derive(roofed([(0, 0), (24, 0), (24, 14), (12, 14), (12, 24), (0, 24)]))
    assert any("not all that leads down" in f.why for f in told(wing))
    p = hip()
    blocks = next(b.id for b in p.buildups if any("block" in x.material for x in b.layers))
    assert "plates on studs" in told(derive(edits.change(p, "wall-1", buildup=blocks)))[0].why


def test_other_pitches_on_one_side_are_no_balance():
    uneven = derive(set_side(hip(), "roof-1", "wall-2", pitch=1.2))
    assert told(uneven)
    assert uneven.planes["roof-1"].carried.ring.problem


def test_a_pressed_board_by_hand():
    """2x8 DF-L No. 2 held every 24 in: le/d 16, Fc 1350 psi x CF 1.05, Emin 580,000 psi (NDS Supplement, Table 4A, from memory)."""
    check = pressed("2x8", ("DF-L", "No. 2"), 24.0 * INCH, Cases(dead=10_000.0))
    star = 1350.0 * 1.05 * 0.9
    fce = 0.822 * 580_000.0 / 16.0**2
    half = (1.0 + fce / star) / 1.6
    cp = half - math.sqrt(half**2 - fce / star / 0.8)
    assert check.capacity / PSI == pytest.approx(star * cp, rel=1e-6)
    assert check.demand == pytest.approx(10_000.0 / section("2x8").area)


def test_nails_of_a_lap_find_room_by_hand():
    """15 D along and 5 D across the grain: on 5 1/2 by 5 1/2 in 15 find room, on 3 1/2 by 3 1/2 in 6."""
    assert pytest.approx(15 * 0.162 * 5 * 0.162 * INCH**2) == PER_NAIL
    value = nail_value("DF-L", 1.5 * INCH)
    for wide, room in ((5.5, 15), (3.5, 6)):
        assert lap_nails("DF-L", 1.5 * INCH, wide * INCH, (room - 0.5) * value).fits
        assert not lap_nails("DF-L", 1.5 * INCH, wide * INCH, (room + 0.5) * value).fits
    assert lap_nails("DF-L", 1.5 * INCH, 5.5 * INCH, 1.0).number == 2
