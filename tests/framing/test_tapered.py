"""Flat roofs whose rafters lie level under tapered strips: heights, strips by hand, what is checked, what cannot be so."""

import math

import pytest
from tests.framing.solids import apart
from tests.framing.test_past_heads import LONG, WIDE, rafters, sloped
from tests.framing.test_roofs_on_beams import carport
from tests.framing.test_wall_ledgers import porch
from tests.loads.test_beams import balanced

from balken.catalog.sections import section
from balken.derive import derive
from balken.documents.schedule import cut_list
from balken.findings.fixes import FIXES
from balken.model import edits
from balken.model.roof_edits import add_roof_opening, set_side
from balken.units.system import FOOT, INCH

PITCH = 1.0 / 48.0


def tapered(pitch=PITCH, high=1.0 * FOOT, **fields):
    p = edits.set_project(sloped(pitch, high), stock_length=40.0 * FOOT)
    return edits.change(p, "roof-1", tapered=True, rafters__size="2x12", **fields)


def strips(model):
    return [x for x in model.pieces.values() if x.role == "tapered strip"]


def test_heights_and_strips_by_hand():
    """1/4 in a foot over 28 ft, 1 ft past both walls: 3/4 in at the eave, 1 in over the wall, 8 1/4 in at the upper end."""
    model = derive(tapered())
    plan = model.surfaces[0]
    deep = section("2x12").depth
    assert plan.plate_to_top == pytest.approx(deep + 1.0 * INCH)
    for one in rafters(model):
        (_, _, low), (_, _, high) = one.solid.extent
        assert (low, high) == (pytest.approx(plan.bearing), pytest.approx(plan.bearing + deep))
        assert one.length == pytest.approx(30.0 * FOOT)
    made = strips(model)
    assert len(made) == len(rafters(model))
    for one in made:
        (_, y0, low), (_, y1, high) = one.solid.extent
        assert (y0, y1) == (pytest.approx(-1.0 * FOOT), pytest.approx(WIDE + 1.0 * FOOT))
        assert (low - plan.bearing, high - plan.bearing) == (pytest.approx(deep), pytest.approx(deep + 8.25 * INCH))
        assert one.solid.volume == pytest.approx((0.75 + 8.25) / 2.0 * INCH * 30.0 * FOOT * 1.5 * INCH)
        assert one.section == "2x10"
        assert one.length == pytest.approx(30.0 * FOOT * math.hypot(1.0, PITCH))
    # The deck lies on them, and walls keep level plates: sheathing alone runs up before the ends.
    assert all(model.gables[wall].shell for wall in ("wall-2", "wall-4"))
    assert "wall-3" not in model.gables
    plates = [x for x in model.pieces.values() if x.role == "top plate"]
    assert max(x.solid.extent[1][2] for x in plates) == pytest.approx(plan.bearing)
    pieces = [x for x in model.pieces.values() if x.owner.startswith(("roof", "wall"))]
    apart([*rafters(model), *made], [x for x in pieces if x.role != "roof plane"], 1e3)
    balanced(model)


def test_they_are_checked_without_a_birds_mouth_on_the_whole_plate():
    level, sloping = derive(tapered()), derive(edits.change(tapered(), "roof-1", tapered=False))
    key = next(one.key for one in level.planes["roof-1"].members if one.wall)
    case, other = level.results[key].case, sloping.results[key].case
    assert case.notch == 0.0 < other.notch
    assert case.bearing == pytest.approx(2.0 * level.surfaces[0].deep[0])
    assert (case.clear, case.load, case.over) == (other.clear, other.load, other.over)
    # What lies on the roof is the same, and so is what comes to walls.
    for wall in ("wall-1", "wall-3"):
        both = [sum(r.force.snow for r in m.path.reactions if r.bearer == wall) for m in (level, sloping)]
        assert both[0] == pytest.approx(both[1], rel=1e-6)


def test_longer_than_the_stock_they_are_pieced():
    model = derive(edits.set_project(tapered(), stock_length=16.0 * FOOT))
    made = strips(model)
    assert len(made) == 2 * len(rafters(model))
    assert max(x.length for x in made) <= 16.0 * FOOT + 1.0
    # The lower halves are thinner, and ripped from narrower boards.
    assert {x.section for x in made} == {"2x6", "2x10"}
    assert not [f for f in model.findings if f.code == "stock" and "strip" in f.what]


def test_with_blocks_at_the_eaves_and_in_lists():
    model = derive(edits.change(tapered(), "roof-1", eave_blocks=True, fascia="2x6"))
    blocks = [x for x in model.pieces.values() if x.role == "eave block"]
    assert blocks
    apart(blocks, [*rafters(model), *strips(model)], 1e3)
    assert not [f for f in model.findings if f.code == "turning"]
    assert any("apered strip" in str(row) for row in cut_list(model))


@pytest.mark.parametrize(
    ("change", "said"),
    [
        (lambda p: edits.change(p, "roof-1", pitch=0.25), "steeper than 1:12"),
        (lambda p: set_side(p, "roof-1", "wall-3", kind="eave"), "single slopes"),
        (lambda p: set_side(p, "roof-1", "wall-2", overhang=300.0), "adders of"),
        (lambda p: edits.change(p, "roof-1", pitch=0.06), "more than a 2x12"),
        (lambda p: edits.change(p, "roof-1", framed="trusses"), "carry it"),
    ],
)
def test_what_cannot_be_is_told_and_slopes(change, said):
    p = change(tapered())
    model = derive(p)
    finding = next(f for f in model.findings if f.code == "tapered")
    assert said in finding.why
    assert not strips(model)
    after = derive(FIXES[finding.fix.command](p, *finding.fix.args, **dict(finding.fix.fields)))
    assert not [f for f in after.findings if f.code == "tapered"]
    balanced(model)


@pytest.mark.parametrize(("wide", "kind"), [(700.0, "window"), (1400.0, "shaft")])
def test_openings_are_framed_level_with_strips_on_their_headers(wide, kind):
    """A window between two rafters, a shaft that cuts three: headers level with the rafters, on each of their plies a strip in the fall."""
    up = 8.0 * FOOT
    p = add_roof_opening(tapered(), "roof-1", "wall-1", LONG / 2.0, up, width=wide, length=1500.0, kind=kind)
    model = derive(p)
    assert not [f for f in model.findings if f.code in ("tapered", "roof opening")]
    mine = [x for x in model.pieces.values() if x.owner == "roof-1" and x.role != "roof plane"]
    headers = [x for x in mine if x.role == "rafter header"]
    tops = {round(x.solid.extent[1][2], 3) for x in mine if x.role in ("rafter", "rafter header")}
    assert len(headers) == 2 and len(tops) == 1  # noqa: PT018
    apart(mine, [x for x in model.pieces.values() if x.role != "roof plane"], 1e3)
    # Every strip's upper edge lies in one plane, right under the deck: by hand from the eave's outer face.
    plan = model.surfaces[0]
    for one in strips(model):
        (x0, y0, _), (x1, y1, z1) = one.solid.extent
        assert z1 == pytest.approx(plan.level(0) + PITCH * y1, abs=0.01), (one.key, x0, x1, y0)
    # On headers they run between the trimmers, a ply each.
    over = [x for x in strips(model) if "roof-opening-1" in x.key]
    plies = sum(section(x.section).plies for x in headers)
    assert len(over) == plies
    for one in over:
        assert one.length == pytest.approx(headers[0].solid.extent[1][0] - headers[0].solid.extent[0][0])
    # What is cut ends at the headers; the upper tails run on past the wall at their heads, the lower ones do not.
    tails = [x for x in mine if x.key.endswith(("/a", "/b")) and x.role == "rafter"]
    low, high = sorted(x.solid.extent for x in headers)
    for one in tails:
        (_, y0, _), (_, y1, _) = one.solid.extent
        if one.key.endswith("/a"):
            assert (y0, y1) == pytest.approx((-FOOT, low[0][1]))
        else:
            assert y0 == pytest.approx(high[1][1])
            assert y1 > WIDE
        assert one.length == pytest.approx(y1 - y0)
    assert len(tails) == 6
    balanced(model)


def test_on_beams_they_lie_level_past_the_higher_one():
    p = edits.change(carport(), "roof-2", pitch=PITCH, tapered=True, rafters__size="2x12")
    for k, kind, over in ((1, "eave", FOOT), (2, "gable", 0.0), (3, "gable", 2.0 * FOOT), (4, "gable", 0.0)):
        p = set_side(p, "roof-2", f"beam-{k}", kind=kind, overhang=over)
    model = derive(edits.set_loads(p, wind_speed=50.0))
    mine = [x for x in model.pieces.values() if x.owner == "roof-2" and x.role != "roof plane"]
    assert {x.role for x in mine} == {"rafter", "tapered strip"}
    assert len({x.solid.extent[0][2] for x in mine if x.role == "rafter"}) == 1
    apart(mine, [x for x in model.pieces.values() if x.role != "roof plane"], 1e3)
    lifted = {row.bearer: row.gross for row in model.uplift.lifted if row.roof == "roof-2" and row.end}
    assert lifted["beam-3"] > lifted["beam-1"]  # it overhangs that by more
    balanced(model)


def test_before_a_taller_wall_they_hang_level_on_its_ledger():
    """A porch 8 ft deep at 1/4 in a foot: the ledger's upper edge lies as high as the rafters', the deck's strips over it."""
    p = porch(pitch=PITCH)
    for side in p.roofs[-1].sides:
        if side.kind == "gable":
            p = set_side(p, "roof-2", side.wall, overhang=0.0)
    model = derive(edits.change(p, "roof-2", tapered=True, rafters__size="2x8"))
    plan = next(plan for plan in model.surfaces if plan.roof.id == "roof-2")
    deep, own = section("2x8").depth, [x for x in model.pieces.values() if x.owner == "roof-2"]
    (held,) = model.ledgers
    assert held.ledger.top(0.0) == held.ledger.top(held.ledger.length) == pytest.approx(plan.bearing + deep)
    run = abs(plan.outline.core[0][1] - plan.outline.core[2][1])
    assert held.ledger.below == pytest.approx(section(held.ledger.size).depth + plan.tapered + PITCH * run)
    for one in own:
        if one.role == "rafter":
            assert one.solid.heights == (pytest.approx(plan.bearing), pytest.approx(plan.bearing + deep))
    assert sum(x.role == "tapered strip" for x in own) == sum(x.role == "rafter" for x in own)
    hung = [one for one in model.hangers if one.member.startswith("roof-2")]
    assert len(hung) == len(held.ledger.heads)
    assert all(one.hanger and one.turned == 0.0 for one in hung)
    mine = [x for x in own if x.role != "roof plane"]
    apart(mine, [x for x in model.pieces.values() if x.role != "roof plane"], 3e4)
    balanced(model)
