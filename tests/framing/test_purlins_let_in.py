"""Purlins let into rafters: notches exact, their checks by hand, what the rules of notches say; nothing stands in anything."""

import math

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from tests.framing.solids import apart
from tests.framing.test_purlins import RECTANGLE, held_up, over
from tests.framing.test_roof_trim import of
from tests.framing.test_surface_roofs import roofed as winged
from tests.loads.test_beams import balanced

from balken.analysis.beam import two_spans
from balken.catalog.sections import section
from balken.derive import derive
from balken.documents.rafter_templates import draw_template, rafter_templates
from balken.findings.fixes import FIXES
from balken.framing.purlins import crossing
from balken.loads.cases import Cases
from balken.model import edits
from balken.model.edits import EditError
from balken.model.kinds.choice import Choice
from balken.model.member_edits import set_member
from balken.model.roof_edits import add_roof_opening
from balken.standards.demands import Limit, MemberCase
from balken.standards.us.members import check_member
from balken.units.system import FOOT, INCH, PSF

PART = {"rafters": Choice(size="2x8", spacing=16.0 * INCH), "purlin_size": "2x8"}


def cut(at=9.0 * FOOT, deep=1.0 * INCH, **fields):
    return over(at, purlins_in=deep, **(PART | fields))


def told(model):
    return [f for f in model.findings if f.code == "purlin" and "notched" in f.what]


def test_a_notch_takes_as_much_off_a_rafter_as_the_purlin_fills():
    under, model = derive(over(9.0 * FOOT, **PART)), derive(cut())
    framing = model.planes["roof-1"]
    into = crossing(model.surfaces[0], framing.members, framing.purlins)
    whole = {x.key: x for x in of(under, "rafter")}
    assert len(into) > 20
    for piece in of(model, "rafter"):
        lost = whole[piece.key].volume - piece.volume
        assert lost == pytest.approx(INCH * (1.5 * INCH) ** 2 if piece.key in into else 0.0, abs=1.0)
    lower, upper = (min(x.solid.heights[0] for x in of(m, "purlin")) for m in (under, model))
    assert upper - lower == pytest.approx(INCH * math.hypot(1.0, 0.75))
    purlins, rest = of(model, "purlin"), [x for x in model.pieces.values() if x.role != "purlin"]
    apart(purlins, rest, 1.0)
    # A hair higher, they stand in the rafters again: the notch is no larger than the purlin.
    higher = derive(cut(deep=1.02 * INCH))
    with pytest.raises(AssertionError):
        apart(of(higher, "purlin"), of(model, "rafter"), 1.0)


def test_its_checks_by_hand():
    """A 2x8 of SPF No. 2 over 7 ft and 9 ft, 30 psf of snow, a notch of 1 in: three moments over it, on 6 1/4 in; NDS 3.4.3.2(a) by hand."""
    load, a, b = Cases(dead=10.0 * PSF, snow=30.0 * PSF), 7.0 * FOOT, 9.0 * FOOT
    case = MemberCase(
        "rafter", "2x8", "S-P-F", "No. 2", a + b, 16.0 * INCH, load, Limit(180.0, "IRC R301.7"), 0.0, 0.5,
        propped=a, prop_breadth=1.5 * INCH, let_in=INCH,
    )  # fmt: skip
    found = {check.name: check for check in check_member(case).checks}
    w, left = 40.0 * PSF * 16.0 * INCH / 1000.0, 6.25 * INCH
    moment = w * (a**3 + b**3) / (8.0 * (a + b))
    fb = moment / (1.5 * INCH * left**2 / 6.0)
    # Fb 875 psi, CF 1.2, Cr 1.15, CD 1.15 (NDS Supplement Table 4A, from memory); Fv 135 psi.
    psi = 6.894757e-3
    assert found["bending at the purlin's notch"].demand == pytest.approx(fb / (875.0 * 1.2 * 1.15 * 1.15 * psi), 1e-3)
    shear = w * b / 2.0 + moment / b
    allowed = 2.0 / 3.0 * 135.0 * 1.15 * psi * 1.5 * INCH * left * (left / (7.25 * INCH)) ** 2
    check = found["shear at the purlin's notch"]
    assert (check.demand, check.capacity) == (pytest.approx(shear / 1000.0), pytest.approx(allowed / 1000.0, 1e-3))
    assert two_spans(w, a, b).over == pytest.approx(moment)


def test_one_that_leans_is_pressed_beside_the_middle_of_what_is_left():
    """By hand: the force along it at the purlin, half the notch aside of the middle of the rest."""
    load, a, b, thrust = Cases(dead=20.0 * PSF), 7.0 * FOOT, 7.0 * FOOT, 2000.0
    case = MemberCase(
        "rafter", "2x8", "S-P-F", "No. 2", a + b, 16.0 * INCH, load, Limit(180.0, "IRC R301.7"), 0.0, 0.5,
        thrust=Cases(dead=thrust), propped=a, prop_breadth=1.5 * INCH, let_in=INCH,
    )  # fmt: skip
    straight = replace(case, thrust=Cases())
    found, alone = (
        next(c for c in check_member(x).checks if c.name == "bending at the purlin's notch") for x in (case, straight)
    )
    w, left = 20.0 * PSF * 16.0 * INCH / 1000.0, 6.25 * INCH
    push = (thrust + w * b * 0.5) / math.hypot(1.0, 0.5)
    stress = push * INCH / 2.0 / (1.5 * INCH * left**2 / 6.0)
    fb_allowed = 875.0 * 1.2 * 1.15 * 0.9 * 6.894757e-3
    assert found.demand > alone.demand + stress / fb_allowed * 0.999
    fc_allowed = push / (1.5 * INCH * left) / (found.demand - alone.demand - stress / fb_allowed)
    assert 0.3 * 1150.0 * 6.894757e-3 < fc_allowed < 1150.0 * 1.05 * 0.9 * 6.894757e-3  # Fc of the table, from memory


@pytest.mark.parametrize(
    ("deep", "at", "said"),
    [
        (1.0, 9.4, []),
        (1.25, 9.4, ["sixth"]),
        (1.0, 7.0, ["middle third"]),
        (1.25, 7.0, ["sixth", "middle third"]),
    ],
)
def test_notches_where_none_may_be_are_told(deep, at, said):
    """A sixth of 7 1/4 in is 1.208 in; of a run of 14 ft the middle third ends at 9 ft 4 in (IRC R502.8.1)."""
    model = derive(cut(at * FOOT, deep * INCH))
    assert len(model.surfaces[0].outline.core) == 4
    found = told(model)
    assert len(found) == bool(said)
    for part in said:
        assert part in found[0].why
    if found:
        fix = found[0].fix
        p = FIXES[fix.command](model.project, *fix.args, **dict(fix.fields))
        assert p.roofs[0].purlins_in == 0.0
        assert not told(derive(p))


def test_a_wide_purlin_needs_too_long_a_notch():
    assert "third of the depth" in told(derive(cut(9.4 * FOOT, purlin_size="2-2x8")))[0].why


def test_rafters_are_chosen_by_what_is_left_of_them():
    sizes = []
    for deep in (0.0, 2.95 * INCH):
        p = cut(7.0 * FOOT, deep, rafters=Choice(size=None, spacing=24.0 * INCH))
        model = derive(edits.set_loads(p, ground_snow=45.0 * PSF))
        design = model.designs[("roof-1", "rafters")]
        sizes.append(section(design.size).depth)
        results = [model.planes["roof-1"].results[x.key] for x in of(model, "rafter")]
        assert max(r.used for r in results) <= 1.0
        names = {c.name for r in results for c in r.checks}
        assert ("shear at the purlin's notch" in names) == (deep > 0.0)
    assert sizes[1] > sizes[0]


def test_it_holds_no_jacks_and_breaks_beside_openings():
    model = derive(winged(RECTANGLE, pitch=0.75, purlins_at=7.0 * FOOT, purlins_in=INCH))
    framing = model.planes["roof-1"]
    into = crossing(model.surfaces[0], framing.members, framing.purlins)
    assert into
    assert {x.member.role for x in framing.members if x.key in into} == {"common rafter"}
    p = add_roof_opening(cut(), "roof-1", "wall-1", 20.0 * FOOT, 13.0 * FOOT, width=3.0 * FOOT, length=2.0 * FOOT)
    mine = [one for one in derive(p).planes["roof-1"].purlins if one.edge == 0]
    assert len(mine) == 2  # under an opening higher up, too: what that cuts is not notched


def test_a_deeper_rafter_is_cut_deeper():
    p = cut()
    key = sorted(crossing(derive(p).surfaces[0], (f := derive(p).planes["roof-1"]).members, f.purlins))[4]
    model = derive(set_member(p, key, size="2x12"))
    piece = model.pieces[key]
    apart([piece], of(model, "purlin"), 1.0)
    result = model.planes["roof-1"].results[key]
    assert result.case.let_in == pytest.approx(INCH + 4.0 * INCH)
    assert [key in f.things for f in told(model)] == [False, True]


@pytest.mark.parametrize("deep", [0.0, INCH])
def test_a_shallower_rafter_hangs_over_the_purlin_and_is_not_held(deep):
    """Uneven: one 2x6 among 2x8 ends 1 3/4 in over what the others lie on; let in by an inch it still does."""
    p = cut(deep=deep)
    before = derive(p)
    key = sorted(crossing(before.surfaces[0], (f := before.planes["roof-1"]).members, f.purlins))[4]
    model = derive(set_member(p, key, size="2x6"))
    was, now = (m.planes["roof-1"].results[key] for m in (before, model))
    assert was.case.propped > 0.0
    assert (now.case.propped, now.case.let_in) == (0.0, 0.0)
    assert now.used > was.used
    purlin = of(model, "purlin")[0].solid.heights[1]
    assert model.pieces[key].volume < before.pieces[key].volume
    assert purlin < before.pieces[key].solid.heights[1]
    apart([model.pieces[key]], of(model, "purlin"), 1.0)


def test_a_deeper_rafter_over_a_purlin_under_the_others_is_cut_out_checked_and_told():
    p = cut(deep=0.0)
    key = sorted(crossing((m := derive(p)).surfaces[0], (f := m.planes["roof-1"]).members, f.purlins))[4]
    model = derive(set_member(p, key, size="2x12"))
    piece = model.pieces[key]
    low, high = (corner[2] for corner in piece.solid.extent)
    assert high - low > (f.members[0].member.end[2] - f.members[0].member.start[2]) + 11.25 * INCH  # as deep as it is
    apart([piece], of(model, "purlin"), 1.0)
    assert model.planes["roof-1"].results[key].case.let_in == pytest.approx(4.0 * INCH)
    (found,) = told(model)
    assert key in found.things
    assert found.fix is None


@given(
    at=st.floats(2.0, 12.0), pitch=st.floats(0.25, 1.2), deep=st.floats(0.1, 2.5), hips=st.booleans(),
    made=st.sampled_from(["board", "beam", "under"]), over_=st.floats(0.0, 2.0), full=st.booleans(),
)  # fmt: skip
@settings(max_examples=10)
@example(at=7.0, pitch=0.75, deep=1.25, hips=True, made="board", over_=2.0, full=True)
@example(at=9.0, pitch=0.5, deep=0.5, hips=False, made="under", over_=2.0, full=False)
def test_nothing_stands_in_anything_and_all_arrives(at, pitch, deep, hips, made, over_, full):
    fields = {"overhang": over_ * FOOT, "ridge_made": made, "purlins_in": deep * INCH, "full_rafters": full}
    p = winged(pitch=pitch, purlins_at=at * FOOT, **fields) if hips else over(at * FOOT, pitch, **fields)
    model = derive(p)
    if model.planes["roof-1"].purlins:
        model = derive(held_up(p, 10.0 * FOOT))
    balanced(model)
    mine = of(model, "purlin")
    apart(mine, [x for x in model.pieces.values() if x.role in ("rafter", "hip rafter", "valley rafter")], 1.0)


def test_the_template_says_where_it_is_cut():
    """By hand at 9:12: 9 ft in, 1 in into a 2x8: up the top edge 9 ft x 1.25, back 6 1/4 in x 0.75, less half of 1 1/2 in."""
    model = derive(cut())
    rows = [(x, draw_template(model, x, 16.0)) for x in rafter_templates(model)]
    mine = [(x, drawing) for x, drawing in rows if x.purlin is not None]
    assert mine
    for one, drawing in mine:
        notes = [item.text for item in drawing.items if hasattr(item, "text")]
        said = next(n for n in notes if n.startswith("notch below for a purlin 2x8"))
        assert '1" deep and 1 1/2" wide' in said
        assert one.purlin.low == pytest.approx(9.0 * FOOT * 1.25 - 6.25 * INCH * 0.75 - 0.75 * INCH)
        assert any(n.startswith("bird's mouth: seat 3\"") for n in notes)
        assert "notched for a purlin" in drawing.title


@pytest.mark.parametrize("deep", [-1.0, 80.0])
def test_bad_depths_are_refused(deep):
    with pytest.raises(EditError, match="let into rafters by 0 to 3 in"):
        edits.change(over(), "roof-1", purlins_in=deep)
