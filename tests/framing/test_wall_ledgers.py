"""Roofs that stand against taller walls: where they end, the ledgers their rafters hang on, what is behind these and the nails into it."""

import math
from itertools import pairwise

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from scipy.optimize import minimize
from tests.framing.solids import apart
from tests.framing.test_joined_roofs import balanced, joined
from tests.framing.test_surface_roofs import roofed
from tests.houses import house

from balken.catalog.hangers import made_up_of_rafters
from balken.catalog.sections import section
from balken.demo import orchard_road
from balken.derive import derive
from balken.documents.roof_schedule import roof_schedule
from balken.findings.fixes import FIXES
from balken.framing.wall_ledgers import WallLedger
from balken.loads.cases import Cases, total
from balken.loads.roof_hung import RoofHung, most_at
from balken.model import edits
from balken.model.kinds.hanger import Hanger
from balken.model.kinds.roof import RoofSide
from balken.model.kinds.trusses import Trusses
from balken.model.records import Choice, Floor, Hang, Roof
from balken.model.roof_edits import set_side
from balken.panel.card_parts import Fact
from balken.panel.cards_layouts import piece_card
from balken.session.session import Session
from balken.standards.us.dowels import KD, across_a_gap, single_shear
from balken.standards.us.ply_nails import ALONG_STUD, FROM_EDGE, ledger_nails, nail_value
from balken.units.system import FOOT, INCH, POUND_FORCE, PSI

GABLES = (RoofSide(wall="wall-2", kind="gable"), RoofSide(wall="wall-4", kind="gable"))


def annex(high=9.0 * FOOT, pitch=0.5, sides=GABLES, **fields):
    """A single slope whose rafters stand against its own fourth wall, so much higher than the others."""
    p = house(long=30.0 * FOOT, wide=10.0 * FOOT)
    p = edits.change(p, "wall-3", head=Hang(level="level-2", offset=high))
    sides = (*sides, RoofSide(wall="wall-3", kind="wall"))
    return edits.change(p, "roof-1", shape="planes", pitch=pitch, sides=sides, **fields)


def porch(high=9.0 * FOOT, pitch=1 / 3, kinds=("gable", "gable"), storeys=False):
    """A lean-to before the long wall of a house, outside of it."""
    p = house(long=40.0 * FOOT, wide=28.0 * FOOT)
    p = edits.change(p, "roof-1", shape="planes", sides=GABLES)
    top = Hang(level="level-2", offset=high)
    for k in range(1, 5):
        p = edits.change(p, f"wall-{k}", head=top)
    if storeys:
        p = edits.add_level(p, "level-1", 9.0 * FOOT, "Upper floor", "floor")
        upper = next(level.id for level in p.levels if level.name == "Upper floor")
        at = [(0.0, 0.0), (40.0 * FOOT, 0.0), (40.0 * FOOT, 28.0 * FOOT), (0.0, 28.0 * FOOT)]
        for k in range(1, 5):
            p = edits.change(p, f"wall-{k}", head=Hang(level=upper, offset=-0.75 * INCH - 9.25 * INCH))
            p = edits.add_wall(p, at[k - 1], at[k % 4], "framed-2x6", Hang(level=upper), top, outside="right")
        walls = tuple(w.id for w in p.walls[4:8])
        floor = Floor(
            id="floor-2", name="Upper", level=upper, walls=walls, deck=0.75 * INCH, joists=Choice(size="2x10")
        )
        p = edits.add(p, floor)
        sides = tuple(RoofSide(wall=walls[k], kind="gable") for k in (1, 3))
        p = edits.change(p, "roof-1", walls=walls, sides=sides)
    p = edits.change(p, "roof-1", bearing=top)
    head, first = Hang(level="level-2"), len(p.walls) + 1
    corners = [(10.0 * FOOT, 0.0), (10.0 * FOOT, -8.0 * FOOT), (30.0 * FOOT, -8.0 * FOOT), (30.0 * FOOT, 0.0)]
    for a, b in pairwise(corners):
        p = edits.add_wall(p, a, b, "framed-2x6", Hang(level="level-1"), head, outside="right")
    own = tuple(f"wall-{first + k}" for k in range(3))
    sides = (
        RoofSide(wall=own[0], kind=kinds[0]),
        RoofSide(wall=own[2], kind=kinds[1]),
        RoofSide(wall="wall-1", kind="wall"),
    )
    walls = (*own, "wall-1")
    return edits.add(
        p, Roof(id="roof-2", name="Porch", walls=walls, bearing=head, shape="planes", pitch=pitch, sides=sides)
    )


def pieces(model, role, owner):
    return [x for x in model.pieces.values() if x.role == role and x.owner == owner]


def told(model):
    return [f for f in model.findings if f.code == "ledger"]


@pytest.mark.parametrize("pitch", [0.25, 0.5, 1.0])
@pytest.mark.parametrize(("make", "roof"), [(annex, "roof-1"), (porch, "roof-2")])
def test_rafters_end_at_a_ledger_on_the_face_of_the_wall(make, roof, pitch):
    model = derive(make(high=14.0 * FOOT, pitch=pitch))
    (held,) = model.ledgers
    line = model.lines[held.ledger.wall]
    # Of its own wall the inner face of the studs; of the house's the sheathing that faces it.
    face = line.band.at(0.0, line.core[1] if roof == "roof-1" else line.sheathing)[1]
    assert held.ledger.start[1] == pytest.approx(face)
    rafters, boards = pieces(model, "rafter", roof), pieces(model, "ledger", roof)
    assert len(rafters) > len(held.ledger.heads) > 5
    for rafter in rafters:
        assert abs(rafter.solid.extent[1][1] - face) == pytest.approx(1.5 * INCH)
    assert sum(x.length for x in boards) == pytest.approx(held.ledger.length)
    # Its upper edge meets the underside of the deck at its front.
    (deck,) = pieces(model, "roof plane", roof)
    assert max(x.solid.extent[1][2] for x in boards) < deck.solid.extent[1][2]
    top = next(r for r in rafters if r.key in held.ledger.heads).solid.extent[1][2]
    assert boards[0].solid.extent[1][2] == pytest.approx(top)
    sticks = [x for framed in model.framed.values() for x in framed.pieces]
    apart([*rafters, *boards], [*sticks, *rafters, *boards], 10.0)
    layers = [x for x in model.pieces.values() if x.role == "wall layer" and x.wall == held.ledger.wall]
    apart([*rafters, *boards], layers, 10.0)
    balanced(model)
    assert not told(model)


def test_siding_stops_round_the_roof_and_sheathing_goes_on():
    model, alone = derive(porch()), derive(edits.remove(porch(), "roof-2"))

    def of(m, material):
        rows = [
            x for x in m.pieces.values() if x.wall == "wall-1" and x.material == material and x.role == "wall layer"
        ]
        return sum(x.solid.volume for x in rows)

    assert of(model, "wood sheathing") == pytest.approx(of(alone, "wood sheathing"))
    (held,) = model.ledgers
    deck = model.surfaces[1].roof.deck
    steep = math.hypot(1.0, 1 / 3)
    # From below the ledger to the deck's top, as wide as the roof with its overhangs.
    high = held.ledger.plumb + 1.5 * INCH / 3.0 + deck * steep
    wide = 20.0 * FOOT + 2.0 * 12.0 * INCH
    thick = model.lines["wall-1"].sheathing
    assert of(alone, "lap siding") - of(model, "lap siding") == pytest.approx(high * wide * thick, rel=1e-6)


def test_a_gable_without_overhang_ends_on_the_sheathing_of_the_wall_it_stands_against():
    """The wing of the demo whose end stands against the house: no stick of its last truss or rafter stands in sheathing or siding."""
    model = derive(orchard_road())
    for roof, wall in (("roof-2", "wall-4"), ("roof-3", "wall-6")):
        plan = next(s for s in model.surfaces if s.roof.id == roof)
        side = plan.outline.walls.index(wall)
        line = model.lines[wall]
        (x, y), face = plan.outline.core[side], line.band.at(0.0, line.sheathing)
        aside = (x - face[0]) * line.band.inward[0] + (y - face[1]) * line.band.inward[1]
        assert aside == pytest.approx(0.0, abs=1e-6)
        sticks = [
            x for x in model.pieces.values() if x.owner == roof and (x.role.startswith("truss ") or x.role == "rafter")
        ]
        layers = [x for x in model.pieces.values() if x.role == "wall layer" and x.wall == wall]
        apart(sticks, layers, 3e5)
    assert not model.findings


@pytest.mark.parametrize("kinds", [("eave", "gable"), ("eave", "eave")])
def test_hips_of_a_lean_to_end_at_its_ledger(kinds):
    model = derive(porch(pitch=0.5, kinds=kinds))
    (held,) = model.ledgers
    hips, boards = pieces(model, "hip rafter", "roof-2"), pieces(model, "ledger", "roof-2")
    assert len(hips) == kinds.count("eave")
    rafters = pieces(model, "rafter", "roof-2")
    apart([*hips, *boards], [*rafters, *boards, *hips], 10.0)
    assert held.ledger.length < 20.0 * FOOT
    balanced(model)


def test_what_heads_bring_is_what_the_load_path_brings_to_that_wall():
    model = derive(porch())
    framing, (held,) = model.planes["roof-2"], model.ledgers
    heads = [h.force for h in framing.hung]
    spacing = model.designs[("roof-2", "rafters")].spacing
    rows = [r for r in model.path.reactions if r.bearer == "wall-1" and r.piece.startswith("roof-2/")]
    whole = total(r.force for r in rows)
    run = 20.0 * FOOT
    # Heads are hung for all of it; in the load path the overhang before their other ends lifts them a little.
    plan = next(s for s in model.surfaces if s.roof.id == "roof-2")
    deep, past, between = plan.deep[0], plan.overhangs[0], 8.0 * FOOT - plan.deep[0]
    lifts = past * (past / 2.0 + deep) / between
    for case in ("dead", "snow"):
        along = getattr(whole, case) / run
        half = getattr(heads[3], case) / spacing
        assert half * (1.0 - lifts / (4.0 * FOOT)) == pytest.approx(along, rel=0.01)
    hung = {h.member: h for h in model.hangers if h.on == held.ledger.key}
    assert set(hung) == set(held.ledger.heads)
    assert all(h.hanger and h.used <= 1.0 for h in hung.values())
    row = next(row for row in roof_schedule(model).rows if row[0] == "Porch")
    assert any('ledger 3 16d every 16"' in cell for cell in row)


def test_a_wall_that_ends_below_the_heads_is_told_and_runs_up_by_the_fix():
    """The roof would stand against air: all of its ledger lies above its wall."""
    p = annex(high=0.0)
    (finding,) = told(derive(p))
    assert finding.what == "Roof: nothing is behind its ledger at Wall 3"
    assert finding.grave
    fixed = FIXES[finding.fix.command](p, *finding.fix.args, **dict(finding.fix.fields))
    model = derive(fixed)
    assert not told(model)
    assert not model.ledgers
    assert model.gables["wall-3"].height(100.0, False) > model.lines["wall-3"].band.top + 4.0 * FOOT
    low = derive(porch(high=0.0))
    (finding,) = told(low)
    assert finding.fix is None
    assert "run the roof on over the other" in finding.why


def test_a_wing_against_a_wall_that_ends_below_its_ridge_is_told_and_runs_on_by_the_fix():
    """By hand: a wing 14 ft wide at 6:12 that bears 2 ft lower rises 3 ft 6 in, its deck a foot and a half above the wall's plates and more."""
    p = set_side(joined(lower=600.0), "roof-2", "wall-1", kind="wall")
    model = derive(p)
    (finding,) = [f for f in model.findings if f.code == "against a wall"]
    assert finding.what.startswith("Wing roof: Wall 1 ends ")
    plan = next(s for s in model.surfaces if s.roof.id == "roof-2")
    assert plan.bearing + plan.plate_to_top + plan.surface.top > model.lines["wall-1"].band.top + 400.0
    fixed = derive(FIXES[finding.fix.command](p, *finding.fix.args, **dict(finding.fix.fields)))
    assert not [f for f in fixed.findings if f.code == "against a wall"]
    tall = edits.change(p, "wall-1", head=Hang(level="level-2", offset=4.0 * FOOT))
    assert not [f for f in derive(tall).findings if f.code == "against a wall"]


def test_a_ledger_before_a_floor_is_nailed_to_its_rim():
    """Two storeys: heads come to where the upper floor is, between two walls."""
    model = derive(porch(storeys=True, pitch=0.05))
    (held,) = model.ledgers
    assert held.backing is not None
    assert held.backing.rim
    assert held.backing.thick == pytest.approx(1.5 * INCH)
    high = derive(porch(storeys=True, pitch=0.6))
    (held,) = high.ledgers
    assert not held.backing.rim
    assert held.backing.wall == "wall-5"
    assert not told(model) + told(high)


def test_a_ledger_half_before_a_floor_and_half_before_a_wall_is_nailed_into_both():
    """By hand: as many as find room in each, beside one another along it."""
    model = derive(porch(storeys=True, pitch=0.1))
    (held,) = model.ledgers
    assert held.more
    assert not told(model)
    rows = [(held.backing, held.nails), *held.more]
    assert {back.rim for back, _ in rows} == {True, False}
    holds = sum(nails.value * nails.room * held.apart / back.apart for back, nails in rows)
    assert held.used == pytest.approx(held.nails.force / holds)
    assert held.nails.used > 1.0 >= held.used
    session = Session(porch(storeys=True, pitch=0.1))
    card = piece_card(session, session.model.pieces[held.ledger.key])
    assert [part.label for part in card.parts if isinstance(part, Fact)].count("Nails") == len(rows)


def test_weak_ledgers_and_walls_without_studs_are_told():
    p = porch()
    heavy = derive(edits.set_loads(p, ground_snow=15.0, roof_live=15.0))
    (finding,) = told(heavy)
    assert "nails of its ledger" in finding.what
    blocks = next(b.id for b in p.buildups if any("block" in x.material for x in b.layers))
    masonry = derive(edits.change(p, "wall-1", buildup=blocks))
    assert "is not designed" in told(masonry)[0].what


def _ledger(long):
    return WallLedger("roof-1/x", "wall-1", 0, (0.0, 0.0, 3000.0), (long, 0.0, 3000.0), 0.0, 0.5, "2x8", ())


def _heads(places, force):
    return [RoofHung(f"{k}", "roof-1/x", (s, 0.0, 3000.0), "2x6", force) for k, s in enumerate(places)]


def test_what_comes_to_one_stud():
    """By hand, by the lever between studs: with rafters 12 in apart over studs at 16 in one behind a rafter takes 1 + 2 (1 - 12/16)."""
    one = Cases(dead=100.0)
    wide, close = ([k * 24.0 * INCH for k in range(10)], [k * 12.0 * INCH for k in range(20)])
    assert most_at(_heads(wide, one), _ledger(6000.0), 16.0 * INCH).dead == pytest.approx(100.0)
    assert most_at(_heads(close, one), _ledger(6000.0), 16.0 * INCH).dead == pytest.approx(150.0)


@given(st.lists(st.floats(0.0, 5000.0), min_size=1, max_size=12), st.floats(300.0, 700.0))
def test_no_stud_anywhere_takes_more(places, apart_by):
    """Wherever the studs stand, none takes more by the lever than is said."""
    heads = _heads(places, Cases(snow=10.0))
    most = most_at(heads, _ledger(5000.0), apart_by).snow
    for k in range(60):
        stud = 5000.0 * k / 59.0
        here = sum(10.0 * max(1.0 - abs(s - stud) / apart_by, 0.0) for s in places)
        assert here <= most + 1e-9


def upper_bound(d, side, main, gap, fes, fem, fyb):
    """The least load at which a dowel moves in any way it can, by the work that wood and hinges take: it turns as one or with a hinge in
    either member, or is pulled through one of them; worked out without the equations of a standard.
    """
    qs, qm, hinge = fes * d, fem * d, fyb * d**3 / 6.0

    def work(turns_at, hinges):
        # The dowel turns about a point so deep in each member; beyond it, without a hinge there, it turns back.
        (s, m), n = turns_at, sum(hinges)
        back_s = 0.0 if hinges[0] else (side - s) ** 2 / 2.0
        back_m = 0.0 if hinges[1] else (main - m) ** 2 / 2.0
        return (qs * (s**2 / 2.0 + back_s) + qm * (m**2 / 2.0 + back_m) + n * hinge) / (s + m + gap + 1e-9)

    found = [qs * side, qm * main]
    for hinges in ((False, False), (True, False), (False, True), (True, True)):
        rows = [
            minimize(work, (side * a, main * b), (hinges,), bounds=((0.0, side), (0.0, main))).fun
            for a in (0.2, 0.7)
            for b in (0.2, 0.7)
        ]
        found.append(min(rows))
    return min(found) / KD


@given(
    st.floats(2.5, 4.3), st.floats(15.0, 45.0), st.floats(25.0, 60.0), st.floats(0.0, 25.0), st.floats(2000.0, 5000.0), st.floats(2000.0, 6000.0)
)  # fmt: skip
def test_dowels_across_a_gap_by_plastic_work(d, side, main, gap, fes, fem):
    args = fes * PSI * 1.0, fem * PSI * 1.0, 90_000.0 * PSI
    z = across_a_gap(d, side, main, gap, *args)
    assert z == pytest.approx(upper_bound(d, side, main, gap, *args), rel=2e-3)
    assert across_a_gap(d, side, main, 0.0, *args) == pytest.approx(single_shear(d, side, main, *args), rel=1e-9)
    assert z <= across_a_gap(d, side, main, 0.0, *args) + 1e-9


def test_nails_of_a_ledger():
    """16d common through 1 1/2 in into Douglas fir: 141 lb (NDS 2018, Table 12N, from memory); less across sheathing."""
    wood = ("DF-L", "DF-L")
    none = ledger_nails(wood, 1.5 * INCH, 0.0, 5.5 * INCH, 7.25 * INCH, 1000.0)
    assert none.value / POUND_FORCE == pytest.approx(141.0, abs=0.6)
    assert none.value == pytest.approx(nail_value("DF-L", 1.5 * INCH), rel=0.09)
    half = ledger_nails(wood, 1.5 * INCH, 0.5 * INCH, 5.5 * INCH, 7.25 * INCH, 1000.0)
    assert half.value < 0.6 * none.value
    rows = 1 + math.floor((7.25 * INCH - 2.0 * FROM_EDGE) / ALONG_STUD)
    assert none.room == 2 * rows == 6
    assert half.number == math.ceil(1000.0 / half.value)
    assert half.used == pytest.approx(1000.0 / (half.value * half.room))
    far = ledger_nails(wood, 1.5 * INCH, 1.25 * INCH, 5.5 * INCH, 7.25 * INCH, 1000.0)
    assert far.value == 0.0
    assert far.used > 1.0


def test_hangers_of_rafters_are_of_the_list_and_told_of_where_none_fits():
    none = derive(edits.set_loads(porch(), ground_snow=20.0, roof_live=20.0))
    (finding,) = [f for f in none.findings if f.code == "hanger"]
    assert finding.stage == "roof"
    assert "no hanger of the list" in finding.what
    own = Hanger(
        id="hanger-1",
        name="Own",
        width=38.1,
        least_depth=80.0,
        most_depth=400.0,
        seat=38.1,
        down=9000.0,
        up=900.0,
        price=1.0,
    )
    model = derive(edits.set_project(porch(), hangers=(own,)))
    assert {h.hanger for h in model.hangers if h.size == model.planes["roof-2"].boards.rafter} == {"Own"}


def test_a_tail_longer_than_its_rafter_lifts_it_out_of_its_hanger():
    """By hand: q (over^2 - run^2) / (2 run) of dead load and snow lifts at the head, where 10 ft hang out before 8."""
    model = derive(edits.change(porch(), "roof-2", overhang=3000.0))
    framing, (held,) = model.planes["roof-2"], model.ledgers
    one = [h for h in framing.hung if h.on == held.ledger.key][4]
    m = next(x.member for x in framing.members if x.key == one.member)
    run = abs(m.end[1] - m.start[1])
    spacing = model.designs[("roof-2", "rafters")].spacing
    snow = model.project.loads.ground_snow * spacing / 1000.0
    assert (one.lifted.snow - one.force.snow) == pytest.approx(snow * (3000.0**2 - run**2) / (2.0 * run), rel=1e-6)
    hung = next(h for h in model.hangers if h.member == one.member)
    assert hung.lifts > (one.lifted.dead + one.lifted.snow - one.force.dead - one.force.snow) * 0.99
    # A usual overhang lifts nothing.
    usual = derive(porch())
    assert all(h.lifts == 0.0 for h in usual.hangers if h.on == usual.ledgers[0].ledger.key)


def test_cards_of_a_ledger_and_of_what_hangs_on_it(tmp_path):
    session = Session(porch())
    (held,) = session.model.ledgers
    card = piece_card(session, session.model.pieces[held.ledger.key])
    facts = {part.label: part.value for part in card.parts if isinstance(part, Fact)}
    assert facts["Behind it"] == "studs of Wall 1"
    assert facts["Nails"] == '3 16d common nails every 16"'
    assert facts["Between"] == '1/2" of sheathing'
    rafter = piece_card(session, session.model.pieces[held.ledger.heads[3]])
    assert any(isinstance(part, Fact) and part.label == "Hanger at ledger of Porch" for part in rafter.parts)


def test_made_up_hangers_of_rafters_reach_every_usual_section():
    for size in ("2x6", "2x8", "2x10", "2x12", "2-2x8", "2-2x10"):
        lumber = section(size)
        assert any(
            row.width == lumber.breadth and row.least_depth - 1 <= lumber.depth <= row.most_depth
            for row in made_up_of_rafters()
        ), size


@pytest.mark.parametrize(("make", "roof"), [(annex, "roof-1"), (porch, "roof-2")])
def test_trusses_of_one_slope_hang_on_a_ledger_on_the_taller_wall(make, roof):
    """By hand: they end before it, their top chords run on over it to the wall; each brings to it half of what lies on it."""
    p = edits.change(make(), roof, framed="trusses")
    model = derive(p)
    made = model.trusses[roof]
    assert not made.problem
    (held,) = model.ledgers
    assert held.ledger.start[2] == pytest.approx(
        next(s.bearing for s in model.surfaces if s.roof.id == roof) + section(held.ledger.size).depth
    )
    commons = [k for k, place in enumerate(made.places) if not place.gable]
    assert len(held.ledger.heads) == len(commons)
    sticks = [x for x in model.pieces.values() if x.owner == roof and x.role.startswith("truss ")]
    boards = pieces(model, "ledger", roof)
    walls = [x for framed in model.framed.values() for x in framed.pieces]
    apart([*sticks, *boards], [*sticks, *boards, *walls], 10.0)
    layers = [x for x in model.pieces.values() if x.role == "wall layer" and x.wall == held.ledger.wall]
    apart([*sticks, *boards], layers, 10.0)
    balanced(model)
    assert not told(model)
    # As much as the trusses bring to that wall, gable frames left out; they bear on theirs.
    on_wall = [r for r in model.path.reactions if r.bearer == held.ledger.wall and r.piece.startswith(f"{roof}/truss")]
    hung = [h for h in model.hangers if h.on == held.ledger.key]
    assert len(hung) == len(commons)
    middle = {r.piece: r.force.snow for r in on_wall}
    assert any(h.load.snow == pytest.approx(middle[h.member], rel=1e-6) for h in hung)
    assert all(h.hanger.startswith("BT") for h in hung)


@pytest.mark.parametrize("pitch", [0.5, 0.8, 1.1])
def test_braces_of_webs_beside_a_ledger_stay_off_it(pitch):
    """Diagonals across long end webs lie on the side of the wall, over the ledger."""
    p = edits.change(
        annex(high=14.0 * FOOT, pitch=pitch), "roof-1", framed="trusses", trusses=Trusses(heel=150.0, joined="gussets")
    )
    model = derive(p)
    braces = [x for x in model.pieces.values() if x.role == "truss brace"]
    apart(pieces(model, "ledger", "roof-1"), braces, 10.0)
    assert braces or pitch < 1.0


def test_a_ledger_too_shallow_for_its_nails_gets_a_deeper_one_by_the_fix():
    p = edits.change(porch(), "roof-2", framed="trusses", ledger_size="2x6")
    (finding,) = told(derive(p))
    assert "nails of its ledger" in finding.what
    fixed = FIXES[finding.fix.command](p, *finding.fix.args, **dict(finding.fix.fields))
    model = derive(fixed)
    assert not told(model)
    (held,) = model.ledgers
    assert section(held.ledger.size).depth > section("2x6").depth
    # Typed for rafters, one less deep than their cuts is told.
    shallow = derive(edits.change(porch(pitch=1.0), "roof-2", ledger_size="2x6"))
    assert [f for f in shallow.findings if f.code == "ledger depth"]


OUTLINES = (
    [(0, 0), (40, 0), (40, 28), (0, 28)],
    [(0, 0), (40, 0), (40, 28), (20, 28), (20, 40), (0, 40)],
    [(0, 0), (30, -4), (44, 20), (6, 30)],
    [(0, 0), (20, 0), (26, 10), (20, 20), (0, 20)],
)


@settings(max_examples=20, deadline=None)
@given(
    st.sampled_from(OUTLINES), st.lists(st.sampled_from(["eave", "eave", "gable", "wall", "wall"]), min_size=6, max_size=6),
    st.sampled_from([0.15, 0.4, 0.6]), st.sampled_from(["board", "beam", "under"]),
)  # fmt: skip
@example(OUTLINES[1], ["eave", "wall", "wall", "eave", "wall", "eave"], 0.4, "beam")
@example(OUTLINES[3], ["eave", "gable", "wall", "wall", "eave", "eave"], 0.15, "board")
def test_any_roof_against_walls_balances_and_no_ledger_stands_in_anything(outline, kinds, pitch, made):
    p = edits.change(roofed(outline, pitch=pitch), "roof-1", ridge_made=made)
    for k, kind in zip(range(len(outline)), kinds, strict=False):
        if kind != "eave":
            p = set_side(p, "roof-1", f"wall-{k + 1}", kind=kind)
        if kind == "wall":
            p = edits.change(p, f"wall-{k + 1}", head=Hang(level=p.walls[k].head.level, offset=30.0 * FOOT))
    model = derive(p)
    balanced(model)
    own = [
        x
        for x in model.pieces.values()
        if x.owner == "roof-1" and x.role not in ("roof plane", "fly rafter", "ladder block")
    ]
    apart([x for x in own if x.role == "ledger"], [x for x in own if x.role != "ceiling tie"], 3e4)
    for held in model.ledgers:
        assert held.ledger.heads
        # At an inner corner a plane may end on the line of a wall beyond its end, where nothing stands: that is told.
        if held.bare > held.ledger.plumb / 2.0:
            assert [f for f in told(model) if held.ledger.key in f.things]
