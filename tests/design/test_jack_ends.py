"""Ends of jacks at hips and valleys: nails by a second way, what comes to them by hand, hangers where there would be too many."""

import math

import pytest
from tests.design.test_wind import gabled
from tests.framing.test_raftered_ends import BOTH, ended
from tests.framing.test_surface_roofs import roofed

from balken.derive import derive
from balken.design.jack_ends import JackEnds, both_jacks
from balken.documents.member_calculation import member_calculation
from balken.documents.roof_schedule import roof_schedule
from balken.model import edits
from balken.model.member_edits import set_member
from balken.model.records import Choice
from balken.model.roof_edits import set_side
from balken.panel.card_parts import Fact
from balken.panel.cards_roofs import roof_card
from balken.session.session import Session
from balken.standards.us.dowels import across_a_gap
from balken.standards.us.ply_nails import toe_nails
from balken.units.system import INCH, POUND_FORCE, PSF, PSI

RECTANGLE = [(0, 0), (40, 0), (40, 28), (0, 28)]
DFL = ("DF-L", "DF-L")


def test_a_toe_nail_by_a_second_way():
    """The general dowel equations of TR 12: 16d common, a third of it in the jack, the rest at 30 degrees in 1 1/2 in; 0.83 of that.

    NDS Table 12N has 141 lb for the same nail square through 1 1/2 in (from memory), of which 0.83 is 117.
    """
    fe, d = 16_600.0 * 0.5**1.84 * PSI, 0.162 * INCH
    into = min(3.5 * (math.cos(math.radians(30.0)) - 1.0 / 3.0), 1.5 / math.cos(math.radians(30.0))) * INCH
    z = across_a_gap(d, 3.5 * INCH / 3.0, into, 0.0, fe, fe, 90_000.0 * PSI)
    made = toe_nails(DFL, 1, 7.25 * INCH, 1.5 * INCH, 2000.0)
    assert made.value == pytest.approx(0.83 * z, rel=1e-6)
    assert made.value / POUND_FORCE == pytest.approx(117.0, rel=0.01)
    assert made.number == math.ceil(2000.0 / made.value)
    assert toe_nails(DFL, 1, 7.25 * INCH, 1.5 * INCH, 1.0).number == 3  # IRC Table R602.3(1)


@pytest.mark.parametrize(("depth", "plies", "room"), [(5.5, 1, 4), (7.25, 1, 4), (9.25, 1, 6), (11.25, 2, 12)])
def test_how_many_find_room(depth, plies, room):
    value = toe_nails(DFL, plies, depth * INCH, 1.5 * INCH, 1.0).value
    for number, fits in ((room, True), (room + 1, False)):
        made = toe_nails(DFL, plies, depth * INCH, 1.5 * INCH, value * (number - 0.01))
        assert (made.number, made.fits) == (number, fits)


def ends(model, kind):
    """Each end of a rafter at a line of a kind: what it brings at normal duration in lb, by hand."""
    framing, loads = model.planes["roof-1"], model.project.loads
    found = {}
    wide = model.designs[("roof-1", "rafters")].spacing
    dead = loads.roof_dead * math.hypot(1.0, 0.5)
    most = max((dead + loads.ground_snow) / 1.15, (dead + loads.roof_live) / 1.25, dead / 0.9)
    for one in framing.members:
        m = one.member
        if not one.wall:
            continue
        run = math.dist(m.start[:2], m.end[:2])
        for end, part in (
            (m.head, 0.5),
            (m.foot, 1.0 if m.head.kind == "ridge" and model.project.roofs[0].ridge_made == "board" else 0.5),
        ):
            if end.kind == kind:
                found[one.key] = most * run * wide * part / 1000.0
    return found


def test_jacks_at_hips_bring_half_of_what_lies_on_them():
    model = derive(roofed(RECTANGLE))
    ((where, nails),) = model.planes["roof-1"].jacks.nailed
    assert where == "at hips"
    assert nails.force == pytest.approx(max(ends(model, "hip").values()), rel=1e-3)
    assert not model.planes["roof-1"].jacks.hung
    # Told on the roof's card, its schedule and its calculation.
    session = Session(model.project)
    facts = {
        part.label: part.value for part in roof_card(session, model.project.roofs[0]).parts if isinstance(part, Fact)
    }
    assert facts["Jacks at hips"].startswith(f"{nails.number} 16d common toe nails")
    assert any(
        f"jacks {nails.number} 16d toe nails at hips" in cell for row in roof_schedule(model).rows for cell in row
    )
    lines = member_calculation(model, "roof-1")
    assert any(line.text == "Jacks at hips" for line in lines)


def test_those_that_bring_more_than_nails_find_room_for_hang_aslant():
    """Under a ridge board a valley's jacks bring all of theirs to their feet: the longest hang, at 45 degrees."""
    model = derive(roofed())
    framing = model.planes["roof-1"]
    by_hand = ends(model, "valley")
    value = toe_nails(DFL, 1, 7.25 * INCH, 1.5 * INCH, 1.0).value
    hung = {h.member for h in framing.jacks.hung}
    assert hung == {key for key, force in by_hand.items() if force > 4.0 * value}
    assert hung
    rows = [h for h in model.hangers if h.member in hung]
    assert len(rows) == len(hung)
    for h in rows:
        assert abs(h.turned) == pytest.approx(45.0, abs=0.5)
        assert h.most == pytest.approx(by_hand[h.member], rel=1e-3)
        assert h.hanger
        assert h.used <= 1.0
    nails = dict(framing.jacks.nailed)["at valleys"]
    assert nails.force == pytest.approx(max(f for k, f in by_hand.items() if k not in hung), rel=1e-3)


def test_heavier_snow_hangs_more_and_what_no_hanger_holds_is_told():
    usual = derive(roofed())
    snowy = derive(edits.set_loads(roofed(rafters=Choice(size="2x12", spacing=16.0 * INCH)), ground_snow=120.0 * PSF))
    assert len(snowy.planes["roof-1"].jacks.hung) > len(usual.planes["roof-1"].jacks.hung)
    told = {f.things[0] for f in snowy.findings if f.code == "hanger"}
    weak = {h.member for h in snowy.hangers if not h.hanger}
    assert bool(told) == bool(weak)


def test_a_ridge_beam_takes_half_off_the_feet_of_jacks():
    board, beam = (derive(roofed(ridge_made=made)) for made in ("board", "beam"))
    a, b = (dict(m.planes["roof-1"].jacks.nailed)["at valleys"].force for m in (board, beam))
    assert b < a
    assert not beam.planes["roof-1"].jacks.hung
    assert max(ends(beam, "valley").values()) == pytest.approx(b, rel=1e-3)


def test_a_jack_of_lighter_wood_is_nailed_as_such():
    """The jack that brings most, and then the hip it ends at, of spruce: its nails hold as in that (NDS 12.3.3, by either wood)."""
    p = edits.set_loads(roofed(RECTANGLE), ground_snow=60.0 * PSF)
    model = derive(p)
    by_hand = ends(model, "hip")
    most = max(by_hand, key=by_hand.__getitem__)
    hips = [one.key for one in model.planes["roof-1"].members if one.member.role == "hip"]
    for keys, woods in (((most,), ("S-P-F", "DF-L")), (hips, ("DF-L", "S-P-F"))):
        q = p
        for key in keys:
            q = set_member(q, key, species="S-P-F")
        ((_, nails),) = derive(q).planes["roof-1"].jacks.nailed
        made = toe_nails(woods, 1, 7.25 * INCH, 1.5 * INCH, nails.force)
        assert (nails.value, nails.number) == (pytest.approx(made.value), made.number)
        assert nails.value < toe_nails(DFL, 1, 7.25 * INCH, 1.5 * INCH, 1.0).value


@pytest.mark.parametrize("flat", ["wall-2", "wall-4"])
def test_both_ends_of_a_roof_under_trusses_are_nailed_for_the_longer_jacks(flat):
    """One end gentler than the other, so that its jacks are longer: whichever it is, its nails are told, and what hangs at both ends."""
    rafters = Choice(size="2x8", spacing=24.0 * INCH)

    def framing(*walls):
        p = ended(walls, rafters=rafters, overhang=0.0)
        p = edits.set_loads(set_side(p, "roof-1", flat, pitch=0.35), ground_snow=60.0 * PSF)
        return derive(p).planes["roof-1"]

    both, alone = framing(*BOTH), [framing(wall) for wall in BOTH]
    found = [dict(one.jacks.nailed)["at hips"] for one in alone]
    assert found[0].force != pytest.approx(found[1].force, rel=0.01)
    assert dict(both.jacks.nailed)["at hips"].force == pytest.approx(max(n.force for n in found), rel=1e-6)
    hung = {h.member for one in alone for h in one.jacks.hung}
    assert {h.member for h in both.jacks.hung} == hung
    assert hung <= {h.member for h in both.hung}


def test_of_two_parts_the_nails_are_told_where_most_are_needed():
    """Fewer newtons may need more nails: in lighter wood."""
    light = toe_nails(("S-P-F", "S-P-F"), 1, 9.25 * INCH, 1.5 * INCH, 2300.0)
    heavy = toe_nails(DFL, 1, 9.25 * INCH, 1.5 * INCH, 2400.0)
    assert light.number > heavy.number
    rows = [JackEnds((("at hips", one),)) for one in (light, heavy)]
    for a, b in (rows, rows[::-1]):
        assert both_jacks(a, b).nailed == (("at hips", light),)
    apart = JackEnds((("at valleys", heavy),))
    assert both_jacks(rows[0], apart).nailed == (("at hips", light), ("at valleys", heavy))


def test_roofs_without_hips_have_none():
    assert derive(gabled()).planes["roof-1"].jacks == ((), ())
