"""Every finding the issue of safety turns on: it appears, its fix mends it, undo brings it back."""

import pytest
from tests.houses import house

from balken.derive import derive
from balken.findings.fixes import FIXES
from balken.framing import joist_lines
from balken.model import edits
from balken.model.errors import EditError
from balken.model.lookup import by_id
from balken.model.records import Choice, Hang, Slab
from balken.units.system import FOOT, INCH, PSF


def finding(project, code):
    return next((f for f in derive(project).findings if f.code == code), None)


def mended(project, found):
    return FIXES[found.fix.command](project, *found.fix.args, **dict(found.fix.fields))


def lower_head(p):
    return edits.change(p, "wall-1", head=Hang(level="level-2", offset=-6 * INCH))


def basement_wall(p):
    p = edits.add_wall(
        p,
        (2 * FOOT, 2 * FOOT),
        (2 * FOOT, 10 * FOOT),
        "inside-2x4",
        Hang(level="level-5"),
        Hang(level="level-5", offset=9 * FOOT),
        "centre",
        role="divides",
    )
    return edits.set_level(p, "level-5", -6 * FOOT)


CASES = [
    ("used", lambda p: edits.set_choice(p, "floor-1", "joists", size="2x6"), "2x6 used"),
    (
        "used",
        lambda p: edits.set_loads(edits.set_choice(p, "roof-1", "rafters", size="2x6"), ground_snow=200 * PSF),
        "rafters",
    ),
    ("frost", lambda p: edits.set_loads(p, frost_depth=6 * FOOT), "frost"),
    ("above ground", lambda p: edits.set_level(p, "level-4", -3 * INCH), "ground"),
    ("through floor", basement_wall, "passes through"),
    ("seat", lambda p: edits.set_level(p, "level-3", -15 * INCH), "do not sit"),
    ("roof bearing", lower_head, "rafters do not sit"),
    (
        "soil",
        lambda p: edits.set_loads(edits.change(p, "foundation-1", footing_width=12 * INCH), soil_bearing=500 * PSF),
        "soil used",
    ),
    ("projection", lambda p: edits.change(p, "foundation-1", footing_width=4 * FOOT), "projects"),
    ("flat ridge", lambda p: edits.change(p, "roof-1", pitch=2 / 12), "too flat"),
    ("ridge depth", lambda p: edits.change(p, "roof-1", ridge_size="2x6"), "shallower"),
]


@pytest.mark.parametrize(("code", "spoil", "says"), CASES, ids=[f"{c}-{i}" for i, (c, _, _) in enumerate(CASES)])
def test_a_fault_is_found_and_its_fix_mends_it(code, spoil, says):
    good = house(30 * FOOT, 14 * FOOT, joists=Choice(size="2x10"))
    assert finding(good, code) is None
    bad = spoil(good)
    found = finding(bad, code)
    assert found is not None
    assert says in found.what
    assert found.why.endswith(".")
    assert found.things
    assert found.fix is not None
    assert finding(mended(bad, found), code) is None


def test_short_bearings_are_found_and_a_wider_sill_mends_them(monkeypatch):
    """IRC R502.6: 1 1/2 in on wood. At the edge a 2x4 sill less the rim leaves 2 in, inside half of it 1 3/4 in."""
    p = edits.change(house(middle=True), "foundation-1", sill_size="2x4")
    assert finding(p, "bearing") is None
    monkeypatch.setattr(joist_lines, "RIM", 2.5 * INCH)  # a thicker rim leaves 1 in
    found = finding(p, "bearing")
    assert found is not None
    assert "bear too short" in found.what
    assert finding(mended(p, found), "bearing") is None


def test_no_bearing_at_all_is_said():
    p = edits.remove(house(), "foundation-1")
    codes = {f.code for f in derive(p).findings}
    assert {"no bearing", "nothing below"} <= codes


def test_an_open_outline_is_said_and_nothing_is_lost():
    p = edits.remove(house(), "wall-3")
    model = derive(p)
    found = [f for f in model.findings if f.code == "outline"]
    assert {f.things[0] for f in found} == {"floor-1", "roof-1"}
    assert p.floors[0].joists.size == "2x10"


def test_a_foundation_never_goes_on_the_slab_level():
    """The classic mistake: the basement level is the top of the slab, not the foundation level."""
    p = edits.add_level(house(), "level-1", -4 * FOOT, "Basement", "slab")
    slab = Hang(level=p.levels[-1].id)
    for end, role in (("foot", "top of footing"), ("head", "top of foundation")):
        with pytest.raises(EditError, match=f"choose the {role} level"):
            edits.change(p, "foundation-1", **{end: slab})


def test_a_sound_house_has_no_findings(demo_model):
    assert demo_model.findings == ()


def test_without_ground_it_is_said():
    p = house()
    p = edits.remove(p, "level-4")
    found = finding(p, "ground")
    assert found is not None
    assert not found.grave


@pytest.mark.parametrize(("over", "told"), [(-50.0, "below"), (50.0, "too near"), (200.0, "")])
def test_a_slab_is_told_where_the_ground_is_as_high(over, told):
    """The ground of this house is 2 ft below its floor; round a basement the foundation walls keep it off."""
    p = edits.change(house(), "foundation-1", head=Hang(level="level-4", offset=over))
    earth = by_id(p.levels)["level-4"].height
    p = edits.add_level(p, "level-1", earth + over, "Slab", "slab")
    walls = ("wall-1", "wall-2", "wall-3", "wall-4")
    p = edits.add(p, Slab(id="slab-1", name="Slab", walls=walls, level=p.levels[-1].id))
    found = [f.what for f in derive(p).findings if f.code == "above ground" and f.things == ("slab-1",)]
    assert bool(found) == bool(told)
    assert all(told in what for what in found)
    cellar = edits.change(p, "foundation-1", head=Hang(level="level-4", offset=over + 1000.0))
    assert not [f for f in derive(cellar).findings if f.code == "above ground" and f.things == ("slab-1",)]
