"""Struts from bearing walls up to purlins: where they stand, how steep, what presses on them, what comes to walls and pushes these aside."""

import itertools
import math

import pytest
from hypothesis import event, given, settings
from hypothesis import strategies as st
from Pynite import FEModel3D
from tests.app.conftest import _user
from tests.framing.solids import apart
from tests.framing.test_purlins import over
from tests.framing.test_roof_trim import of
from tests.framing.test_truss_bearings import walled
from tests.loads.test_beams import balanced

from balken.derive import derive
from balken.design.struts import pushed
from balken.exchange.project_file import load, save
from balken.model import edits
from balken.model.errors import EditError
from balken.model.kinds.choice import Choice
from balken.panel.card_content import card
from balken.session.session import Session
from balken.units.system import FOOT, INCH, PSF

MIDDLE = 14.0 * FOOT


def propped(at=MIDDLE, pitch=1.0, purlins=8.5 * FOOT, apart_=48.0 * INCH, **loads):
    """40 x 28 ft, a bearing wall along it, ``at`` mm from its first eave; purlins above the middle of both slopes."""
    p = walled(over(purlins, pitch), (0.6, at / FOOT), (39.4, at / FOOT))
    p = edits.change(p, "roof-1", purlins_on="struts", struts_apart=apart_)
    return edits.set_loads(p, **loads) if loads else p


def of_roof(model):
    return model.planes["roof-1"].struts


def inside(p):
    return next(w.id for w in p.walls if w.role == "bearing")


def test_they_lean_to_a_wall_below_the_ridge():
    """At 12:12, purlins 8 1/2 ft in of the walls: struts lean 5 1/2 ft to the middle wall, no flatter than 45 degrees; 4 ft apart at most."""
    p = propped()
    model = derive(p)
    made = of_roof(model)
    assert made
    assert not [f for f in model.findings if f.code == "purlin"]
    for edge in (0, 2):
        mine = sorted(one.strut.at[0] for one in made if one.strut.edge == edge)
        assert max(b - a for a, b in itertools.pairwise(mine)) <= 48.0 * INCH
        assert len(mine) >= 10
    for one in made:
        assert one.strut.wall == inside(p)
        assert one.strut.run == pytest.approx(5.5 * FOOT, abs=1.0)
        head = model.planes["roof-1"].carried.undersides[one.strut.key]
        assert (head - one.strut.level) / one.strut.run >= 1.0
        assert one.result.used <= 1.0
    # Each purlin's load comes down on that wall, nothing on posts.
    purlins = {one.key for one in model.planes["roof-1"].purlins}
    down = [r for r in model.path.reactions if r.piece in purlins]
    assert {r.bearer for r in down} == {inside(p)}
    balanced(model)
    # Both slopes alike: what leans from one side is held from the other.
    assert pushed(made, model.standard) < 0.02 * sum(one.force.dead + one.force.snow for one in made)


def test_forces_as_pynite_has_them():
    """A strut pinned at both ends under a load let down on its head that nothing holds but it and a guide upright beside it."""
    model = derive(propped(ground_snow=40.0 * PSF))
    one = of_roof(model)[3]
    head = model.planes["roof-1"].carried.undersides[one.strut.key]
    rise, run = head - one.strut.level, one.strut.run
    frame = FEModel3D()
    frame.add_material("wood", 1e4, 4e3, 0.3, 1e-9)
    frame.add_section("strut", 1e4, 1e7, 1e7, 1e7)
    frame.add_node("foot", run, 0.0, 0.0)
    frame.add_node("head", 0.0, rise, 0.0)
    frame.def_support("foot", True, True, True, True, True, False)
    frame.def_support("head", True, False, True, True, True, False)
    frame.add_member("strut", "foot", "head", "wood", "strut")
    load = one.force.dead + one.force.snow
    frame.add_node_load("head", "FY", -load)
    frame.analyze_linear()
    axial = frame.members["strut"].max_axial()
    case = one.result.case
    assert case.axial.dead + case.axial.snow == pytest.approx(abs(axial), rel=1e-4)
    assert case.clear == pytest.approx(math.hypot(rise, run), abs=0.01)
    assert one.sideways * load == pytest.approx(abs(frame.nodes["foot"].RxnFX["Combo 1"]), rel=1e-4)
    assert frame.nodes["foot"].RxnFY["Combo 1"] == pytest.approx(load, rel=1e-6)


def test_a_wall_off_the_middle_is_pushed_aside_and_it_is_told():
    """10 ft from one eave, 18 ft from the other: from there it is too far for 45 degrees at 9:12, and posts are asked for."""
    p = propped(at=10.0 * FOOT, pitch=0.75)
    model = derive(p)
    made = of_roof(model)
    assert {one.strut.edge for one in made} == {0}
    told = [f for f in model.findings if f.code == "purlin"]
    assert any("aside" in f.what for f in told)
    assert any("nothing holds up" in f.what for f in told)
    total = sum(one.force.dead + one.force.snow for one in made)
    assert pushed(made, model.standard) == pytest.approx(total * made[0].sideways, rel=0.02)
    balanced(model)


def test_over_a_wall_they_stand_upright():
    p = propped(at=8.5 * FOOT)
    made = [one for one in of_roof(derive(p)) if one.strut.edge == 0]
    assert made
    assert all(one.strut.run < 1.0 and one.sideways == 0.0 for one in made)


def test_without_a_wall_there_are_none():
    p = edits.change(over(pitch=1.0), "roof-1", purlins_on="struts")
    model = derive(p)
    assert not of_roof(model)
    assert any("nothing holds up" in f.what for f in model.findings if f.code == "purlin")
    with pytest.raises(EditError, match="apart"):
        edits.change(p, "roof-1", struts_apart=100.0)


def test_chosen_on_the_card_saved_and_listed(qtbot, qapp, tmp_path):
    p = edits.change(propped(), "roof-1", purlins_on="posts")
    user = _user(qtbot, qapp, tmp_path, p)
    user.stage(4)
    user.window.session.select(["roof-1"])
    user.type_in_card("Purlins stand on", "struts to bearing walls")
    assert of(user.window.session.model, "strut")
    user.type_in_card("Struts apart", "3'-0\"")
    assert user.project.roofs[0].struts_apart == pytest.approx(36.0 * INCH)
    file = tmp_path / "house.balken"
    save(user.project, file)
    assert load(file) == user.project
    session = Session(user.project)
    session.select(["roof-1"])
    assert "Push it aside" in str(card(session, lambda *_: None, lambda *_: None))
    piece = of(session.model, "strut")[0]
    assert session.model.results[piece.key].used <= 1.0
    assert session.model.marks[piece.key].startswith("SU")


@given(
    st.sampled_from([0.75, 1.0, 1.25]), st.floats(11.0, 17.0), st.floats(6.0, 9.5), st.sampled_from([36.0, 48.0, 72.0]),
    st.sampled_from([16.0, 24.0]),
)  # fmt: skip
@settings(max_examples=8, deadline=None)
def test_nothing_stands_in_anything_and_all_comes_down(pitch, wall, purlins, spaced, rafters):
    p = propped(wall * FOOT, pitch, purlins * FOOT, spaced * INCH, ground_snow=30.0 * PSF)
    p = edits.change(p, "roof-1", rafters=Choice(spacing=rafters * INCH))
    model = derive(p)
    balanced(model)
    made = of(model, "strut")
    event(f"{len(made)} struts")
    pieces = [x for x in model.pieces.values() if x.owner.startswith(("roof", "wall"))]
    apart(made, pieces, 2e4)


@pytest.mark.parametrize("size", [None, "3-2x12", "4x14"])
def test_under_deep_purlins_they_lean_no_flatter_than_45_degrees(size):
    """Purlins and rafters are chosen after struts are laid: at the margin, 7 1/2 to 8 1/2 ft in of the walls."""
    leaning = 0
    for inches in range(90, 103, 3):
        p = edits.change(propped(purlins=inches * INCH), "roof-1", purlin_size=size)
        made = of_roof(derive(edits.set_loads(p, ground_snow=70.0 * PSF)))
        assert all(one.sideways <= 1.0 for one in made)
        leaning += len(made)
    assert leaning
