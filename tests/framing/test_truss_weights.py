"""Weights hung from trusses: shared by the lever, bent chords, sums, other forces by a general library; what is told; in the window."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.app.conftest import User, _user
from tests.design.test_trusses import as_pynite
from tests.framing.test_roof_trusses import trussed
from tests.framing.test_truss_wings import winged
from tests.loads.test_beams import balanced

from balken.commands.truss import truss_report
from balken.derive import derive
from balken.documents.display import Text
from balken.documents.plan import PlanOf, plan
from balken.documents.truss_given import truss_given
from balken.model import edits
from balken.model.errors import EditError
from balken.model.records import FreePoint, TrussLoad
from balken.model.roof_edits import hang_weight
from balken.model.wall_edits import drag_walls
from balken.units import Units
from balken.units.system import FOOT, INCH, POUND_FORCE


def hung(p, x, y, **fields):
    load = TrussLoad(id=f"weight-{len(p.truss_loads) + 1}", roof="roof-1", place=FreePoint(x=x, y=y), **fields)
    return edits.add(p, load)


def loaded(model):
    """The makes that carry weights."""
    return [m for m in model.trusses["roof-1"].makes if any(not h.holds for h in m.design.job.loads.hung)]


def test_a_point_is_shared_by_the_lever():
    """Trusses at 2 ft: a point 0.7 ft from one of them brings 65 % to it, 35 % to the next; their chords get a joint there."""
    p = hung(trussed(), 15.3 * FOOT, 9.0 * FOOT, dead=2000.0, live=500.0)
    bare, model = derive(trussed()), derive(p)
    (make,) = loaded(model)
    assert len(make.numbers) == 2
    places = [model.trusses["roof-1"].places[n] for n in make.numbers]
    shares = {round(place.at(0.0)[0] / FOOT): None for place in places}
    assert set(shares) == {14, 16}
    (hangs,) = make.design.job.loads.hung  # designed for the one that carries more
    assert (hangs.x, hangs.force.dead) == (pytest.approx(9.0 * FOOT, abs=1.0), pytest.approx(0.65 * 2000.0))
    joint = make.design.frame.hung_at(hangs.x)
    assert make.design.frame.joints[joint][0] == pytest.approx(9.0 * FOOT, abs=1.0)
    assert make.design.used > next(m for m in model.trusses["roof-1"].makes if m.key == "common").design.used

    def brought(one, case):
        return sum(getattr(r.force, case) for r in one.path.reactions if r.piece.startswith("roof-1/"))

    assert brought(model, "dead") - brought(bare, "dead") == pytest.approx(2000.0)
    assert brought(model, "live") - brought(bare, "live") == pytest.approx(500.0)
    balanced(model)
    # It does not hold the chord aside, as trusses that hang on one do.
    assert make.design.braced == pytest.approx(
        next(m for m in bare.trusses["roof-1"].makes if m.key == "common").design.braced
    )
    assert any(
        "650" in said or "292 lb" in said
        for what, said in truss_given(make.design, Units.IMPERIAL)
        if what == "On it hang"
    )


def test_forces_as_pynite_has_them():
    model = derive(hung(trussed(), 15.3 * FOOT, 9.0 * FOOT, dead=3000.0))
    (make,) = loaded(model)
    as_pynite(truss_report(make.design, plates=False))


@given(
    st.floats(1.0, 38.0),
    st.floats(-19.0, 27.0),
    st.sampled_from([0.0, 4.0]),
    st.sampled_from([0.0, 3.0]),
    st.floats(0.0, 90.0),
)
@settings(max_examples=8, deadline=None)
def test_all_that_hangs_comes_down(x, y, width, depth, angle):
    """Anywhere under an L: what lies outside is told, and all else arrives."""
    p = winged(gables=("wall-1", "wall-4"))
    p = hung(p, x * FOOT, y * FOOT, dead=1500.0, live=700.0, width=width * FOOT, depth=depth * FOOT, angle=angle)
    model = derive(p)
    assert not model.trusses["roof-1"].problem
    if not any(f.code == "weight on nothing" for f in model.findings):
        balanced(model)
        assert loaded(model)


def test_on_a_wall_it_goes_along_with_that():
    p = hung(trussed(), 15.0 * FOOT, 0.0)
    wall = min(p.walls, key=lambda w: (w.start.y + w.end.y, w.id))
    moved = drag_walls(p, (wall.id,), 0.0, -300.0)
    assert moved.truss_loads[0].place.y == pytest.approx(-300.0)
    far = drag_walls(hung(trussed(), 15.0 * FOOT, 9.0 * FOOT), (wall.id,), 0.0, -300.0)
    assert far.truss_loads[0].place.y == pytest.approx(9.0 * FOOT)


def test_where_nothing_carries_it_is_told():
    beside = derive(hung(trussed(), -10.0 * FOOT, 9.0 * FOOT))
    assert [f.code for f in beside.findings if f.code == "weight on nothing"]
    rafters = derive(edits.change(hung(trussed(), 15.0 * FOOT, 9.0 * FOOT), "roof-1", framed="rafters"))
    assert [f.why for f in rafters.findings if f.code == "weight on nothing" and "has none" in f.why]
    with pytest.raises(EditError, match="no roof of trusses"):
        hang_weight(trussed(), (-10.0 * FOOT, 0.0), (-10.0 * FOOT, 0.0))
    with pytest.raises(EditError, match="roof it hangs from"):
        edits.add(trussed(), TrussLoad(id="weight-1", roof="roof-9", place=FreePoint(x=0.0, y=0.0)))
    gone = edits.remove(hung(trussed(), 15.0 * FOOT, 9.0 * FOOT), "roof-1")
    assert gone.truss_loads == ()


def test_it_is_drawn_on_the_roof_plan():
    p = hung(trussed(), 15.0 * FOOT, 9.0 * FOOT, name="Furnace", width=3.0 * FOOT, depth=2.0 * FOOT)
    drawn = plan(derive(p), PlanOf("Roof", frozenset({"roof"})), 48.0)
    assert any(isinstance(i, Text) and i.text.startswith("Furnace") for i in drawn.items)


@pytest.fixture
def roofer(qtbot, qapp, tmp_path) -> User:
    """A user before a house under trusses."""
    user = _user(qtbot, qapp, tmp_path, trussed())
    user.stage(5)
    return user


def test_a_weight_is_hung_in_the_window(roofer, tmp_path):
    roofer.press("Hang weight")
    roofer.click(14.0 * FOOT, 8.0 * FOOT)
    roofer.click(17.0 * FOOT, 10.0 * FOOT)
    (load,) = roofer.project.truss_loads
    assert (load.width, load.depth) == (pytest.approx(3.0 * FOOT, abs=INCH), pytest.approx(2.0 * FOOT, abs=INCH))
    roofer.type_in_card("Dead", "600 lb")
    roofer.type_in_card("Name", "Furnace")
    assert roofer.project.truss_loads[0].dead == pytest.approx(600.0 * POUND_FORCE)
    assert loaded(roofer.session.model)
    path = tmp_path / "weights.balken"
    assert roofer.session.save(path)
    kept = roofer.project
    assert roofer.session.open(path)
    assert roofer.project == kept
    roofer.session.select(["weight-1"])
    roofer.card_button("Remove weight")
    assert not roofer.project.truss_loads
