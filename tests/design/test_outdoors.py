"""Decks outdoors: wet and incised lumber, snow, boards, ledgers and their ties, a whole deck on posts and pads."""

import pytest
from tests.houses import house

from balken.catalog.sections import section
from balken.derive import derive
from balken.design.beam_posts import posts_under
from balken.design.guards import guard_of
from balken.findings.floor_rules import ledger_of
from balken.loads.area_loads import applied_area_loads
from balken.loads.cases import total
from balken.model import edits
from balken.model.beam_edits import add_beam
from balken.model.errors import EditError
from balken.model.floor_edits import draw_floor
from balken.model.records import Choice, Hang
from balken.standards.us.outdoor_decks import boards, ledger
from balken.standards.us.values import reference_values, timber_values
from balken.units.system import FOOT, INCH, POUND_FORCE, PSF, PSI


def deck(out=10.0, **fields):
    """A deck 12 ft along the front of a house, joists of 2x8 on a ledger and on a beam a foot short of their ends."""
    p = house(middle=True)
    corners = ((5 * FOOT, 0.0), (17 * FOOT, 0.0), (17 * FOOT, -out * FOOT), (5 * FOOT, -out * FOOT))
    made = Choice(size="2x8", spacing=16 * INCH, species="Southern Pine")
    p = draw_floor(
        p, "level-1", corners, joists=made, direction=90.0, **({"outdoors": True, "deck": 1.0 * INCH} | fields)
    )
    y = -(out - 1.0) * FOOT
    outdoors = p.floors[-1].outdoors
    p = add_beam(
        p, (5 * FOOT, y), (17 * FOOT, y), Hang(level="level-1"), p.floors[-1].id, size="2-2x10", species="Southern Pine",
        outdoors=outdoors,
    )  # fmt: skip
    p = posts_under(p, "beam-1", 6 * FOOT)
    for column in p.columns:
        p = edits.change(p, column.id, outdoors=outdoors, size="6x6")
    return p


def test_wet_and_incised_by_hand():
    """DF-L No. 2 2x8: Fb 900 x 0.8 (Fb CF = 1080 <= 1150: CM 1), Fv 180 x 0.8 x 0.97, Fc perp 625 x 0.67, E 1.6e6 x 0.95 x 0.9."""
    v = reference_values("DF-L", "No. 2", section("2x8"), True)
    assert v.fb / PSI == pytest.approx(900 * 0.8)
    assert v.fv / PSI == pytest.approx(180 * 0.8 * 0.97)
    assert v.fc_perp / PSI == pytest.approx(625 * 0.67)
    assert v.e / PSI == pytest.approx(1.6e6 * 0.95 * 0.9)
    assert v.fc / PSI == pytest.approx(1350 * 0.8 * 0.8)
    strong = reference_values("DF-L", "Select Structural", section("2x8"), True)
    assert strong.fb / PSI == pytest.approx(1500 * 0.8 * 0.85)
    post = timber_values("DF-L", "No. 1", True)
    assert post.fc / PSI == pytest.approx(1000 * 0.91)
    assert post.fb / PSI == pytest.approx(1200)
    with pytest.raises(KeyError, match="outdoors"):
        reference_values("DF-L", "No. 2", section("LVL 1.75x9.5"), True)


@pytest.mark.parametrize(
    ("feet", "inches"), [(6.0, 36), (8.0, 36), (9.5, 34), (12.0, 29), (13.0, 24), (16.0, 21), (18.0, 19)]
)
def test_ledger_bolts_by_their_table(feet, inches):
    """IRC 2018, Table R507.9.1.3(1), 1/2 in bolts with 1/2 in of sheathing (from memory)."""
    made = ledger(feet * FOOT, 50.0 * PSF)
    assert made.spacing == pytest.approx(inches * INCH)
    assert "R507.9.2" in made.ties_clause


def test_where_the_tables_end():
    assert ledger(19.0 * FOOT, 50.0 * PSF).spacing == 0.0
    assert ledger(10.0 * FOOT, 60.0 * PSF).spacing == 0.0
    assert boards(1.0 * INCH).span == 16.0 * INCH
    assert boards(1.5 * INCH).span == 24.0 * INCH
    assert boards(0.75 * INCH) is None


def test_a_deck_stands():
    """Joists on the ledger and past their beam, that on posts and pads; snow lies on it beside the house's; nothing is found."""
    p = deck()
    model = derive(p)
    assert model.findings == ()
    plan = model.floors[-1]
    assert plan.bears_on == {"foundation-1/wall-1", "beam-1"}
    assert all(max(line.overhangs) == pytest.approx(FOOT - 2.25 * INCH, abs=INCH) for line in plan.lines)
    assert {h.on for h in model.hangers} == {"foundation-1/wall-1"}
    handed = total(r.force for r in model.path.reactions if r.piece.startswith("floor"))
    asked = applied_area_loads(model.floors, (), p.loads)
    assert (
        handed.snow
        == pytest.approx(asked.snow)
        == pytest.approx(p.loads.ground_snow * 12.0 * 10.0 * FOOT**2 / 1000.0, rel=1e-3)
    )
    assert handed.live == pytest.approx(asked.live)
    assert ledger_of(model, plan).spacing == pytest.approx(34.0 * INCH)
    assert model.girders["beam-1"].works


def test_dry_lumber_would_be_used_less():
    wet, dry = (
        derive(deck()),
        derive(edits.change(deck(), "floor-2", outdoors=False, deck=0.75 * INCH, live=40.0 * PSF)),
    )
    a, b = (m.designs[("floor-2", "joists")].result for m in (wet, dry))
    stress = {c.name: c.capacity for c in a.checks}, {c.name: c.capacity for c in b.checks}
    assert stress[0]["bearing"] == pytest.approx(0.67 * stress[1]["bearing"])
    # Snow is with it, whose duration of 1.15 counts where it is there.
    assert stress[0]["shear"] < stress[1]["shear"]


def test_what_is_said():
    p = deck()
    far = derive(deck(out=20.0))
    assert any(f.code == "ledger" for f in far.findings)
    heavy = derive(edits.change(p, "floor-2", live=60.0 * PSF))
    assert any(f.code == "ledger" for f in heavy.findings)
    thin = derive(edits.change(p, "floor-2", deck=0.75 * INCH))
    assert any(f.code == "deck span" for f in thin.findings)
    dry = edits.change(edits.change(p, "beam-1", outdoors=False), "column-1", outdoors=False)
    found = [f for f in derive(dry).findings if f.code == "outdoors"]
    assert {f.things[0] for f in found} == {"beam-1", "column-1"}
    for f in found:
        dry = edits.change(dry, *f.fix.args, **dict(f.fix.fields))
    assert derive(dry).findings == ()
    with pytest.raises(EditError, match="sawn, treated"):
        edits.change(p, "floor-2", joists__made_of="LVL", joists__size=None)
    with pytest.raises(EditError, match="does not stand outdoors"):
        edits.change(p, "beam-1", made_of="LVL", size=None)


def test_a_guard_weighs_on_its_edges_and_pulls_at_its_posts():
    """By hand: 200 lb at 36 in over 1 in of boards on a 2x8: bolts 1 1/2 in from its edges, 4 1/4 in apart; about the lower one
    200 (36 + 1 + 1.5 + 4.25) / 4.25 = 2,012 lb.  Edges of 10 + 12 + 10 ft: 3 + 3 + 3 posts.
    """
    p = deck(guard=36 * INCH)
    model, bare = derive(p), derive(deck())
    plan = next(f for f in model.floors if f.floor.id == "floor-2")
    guard = guard_of(plan, "2x8", model.standard.guard_rules)
    assert guard.pull / POUND_FORCE == pytest.approx(200.0 * (36 + 1 + 1.5 + 4.25) / 4.25)
    assert guard.posts == 9
    assert guard.length == pytest.approx(32 * FOOT, abs=200.0)
    more = model.path.applied.dead - bare.path.applied.dead
    assert more == pytest.approx(10 * POUND_FORCE / FOOT * guard.length, rel=1e-6)
    lost = total(r.force for r in model.path.lost)
    for put_on, arrived, away in zip(model.path.applied, model.path.arrived, lost, strict=True):
        assert put_on == pytest.approx(arrived + away, rel=1e-6, abs=1e-2)


def test_a_high_edge_without_a_guard_is_said():
    p = deck()
    assert not [f for f in derive(p).findings if f.code == "guard"]  # 24 in over the ground
    ground = next(v for v in p.levels if v.role == "ground")
    high = derive(edits.set_level(p, ground.id, -40 * INCH))
    (found,) = [f for f in high.findings if f.code == "guard"]
    assert "30" in found.why
    low = derive(edits.change(p, "floor-2", guard=30 * INCH))
    assert [f for f in low.findings if f.code == "guard" and "only" in f.what]
    with pytest.raises(EditError, match="guard"):
        edits.change(p, "floor-2", guard=5.0)
