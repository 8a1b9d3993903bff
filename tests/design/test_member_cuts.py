"""Notches and holes in joists: where they may be, what is left there, as solids and in findings."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.houses import house

from balken.catalog.sections import section
from balken.derive import derive
from balken.exchange.project_file import from_bytes, to_bytes
from balken.model import edits
from balken.model.errors import EditError
from balken.model.kinds.member_edit import MemberCut
from balken.model.member_edits import set_member
from balken.model.records import Choice
from balken.standards.demands import CutCase
from balken.standards.us.member_cuts import cut_checks, cut_faults, net_modulus
from balken.units.system import INCH, PSI

FLOOR = "floor-1"


def cut_of(kind="hole", deep=2.0, long=2.0, up=4.625, size="2x10", **more):
    """A cut in a 2x10, inches."""
    more = {
        "at_end": False,
        "beyond": 0.0,
        "middle_third": False,
        "nearest": math.inf,
        "moment": 0.0,
        "shear": 0.0,
    } | more
    return CutCase(kind, size, "DF-L", "No. 2", deep * INCH, long * INCH, up * INCH, **more)


@pytest.mark.parametrize(
    ("case", "said"),
    [
        (cut_of(), ""),
        (cut_of(deep=9.25 / 3), ""),
        (cut_of(deep=3.2), "third of the depth"),
        (cut_of(up=2.5), "2 in from the edges"),
        (cut_of(up=8.0), "2 in from the edges"),
        (cut_of(nearest=25.0), "2 in from other cuts"),
        (cut_of("notch above", deep=1.5), ""),
        (cut_of("notch above", deep=1.6), "a sixth"),
        (cut_of("notch above", deep=1.5, long=3.5), "no longer than a third"),
        (cut_of("notch below", deep=1.0, middle_third=True), "middle third"),
        (cut_of("notch below", deep=2.3, at_end=True), ""),
        (cut_of("notch below", deep=2.4, at_end=True), "a quarter"),
        (cut_of("notch below", deep=1.0, size="4x10"), "4 in thick"),
        (cut_of(size="LVL 1.75x9.5"), "maker's rules"),
        (cut_of(size="PRI-40 9.5"), "maker's rules"),
    ],
)
def test_where_they_may_be(case, said):
    """IRC R502.8.1: d/6 and d/3 long, none in the middle third; d/4 at ends; holes d/3, 2 in from edges and from each other."""
    faults = cut_faults(case)
    assert bool(faults) == bool(said)
    assert said in " ".join(faults)


def test_what_is_left_by_hand():
    """2x10 with a notch of 1.5 in from above: S = 1.5 x 7.75^2/6; at an end below 2.25 in: (2/3 Fv b dn)(dn/d)^2."""
    found = {c.name: c for c in cut_checks(cut_of("notch above", deep=1.5, moment=1e6, shear=1000.0))}
    modulus = 1.5 * 7.75**2 / 6.0 * INCH**3
    assert found["bending at the cut"].demand == pytest.approx(1e6 / modulus)
    assert found["bending at the cut"].capacity == pytest.approx(900.0 * 1.1 * PSI)
    end = {c.name: c for c in cut_checks(cut_of("notch below", deep=2.25, at_end=True, shear=1000.0))}[
        "shear at the cut"
    ]
    assert end.clause == "NDS 3.4.3.2(a)"
    assert end.capacity * 1000.0 == pytest.approx(2 / 3 * 180 * PSI * 1.5 * 7.0 * INCH**2 * (7.0 / 9.25) ** 2)
    top = cut_of("notch above", deep=2.25, at_end=True, beyond=3.0 * INCH, shear=1000.0)
    above = {c.name: c for c in cut_checks(top)}["shear at the cut"]
    depth = 9.25 - (9.25 - 7.0) / 7.0 * 3.0
    assert above.capacity * 1000.0 == pytest.approx(2 / 3 * 180 * PSI * 1.5 * depth * INCH**2)


@given(deep=st.floats(0.2, 3.0), up=st.floats(2.0, 7.0))
def test_what_is_left_beside_a_hole(deep, up):
    """The modulus of both parts about their own middle, by cutting the section into a thousand slices."""
    b, d = 38.1, 234.95
    case = cut_of(deep=deep, up=up)
    n = 20_000
    rows = [(i + 0.5) * d / n for i in range(n)]
    rows = [y for y in rows if abs(y - up * INCH) > deep * INCH / 2.0]
    middle = sum(rows) / len(rows)
    inertia = sum(b * d / n * (y - middle) ** 2 for y in rows)
    far = max(middle - min(rows), max(rows) - middle)
    assert net_modulus(b, d, case) == pytest.approx(inertia / far, rel=5e-3)


def with_cut(**fields):
    p = house(joists=Choice(size="2x10", spacing=16.0 * INCH), middle=True)
    name = next(n for n in derive(p).pieces if n.startswith(f"{FLOOR}/joist"))
    return p, name, set_member(p, name, cuts=(MemberCut(**fields),))


def test_in_a_house():
    p, name, holed = with_cut(at=600.0, deep=50.8)
    before, after = derive(p), derive(holed)
    lumber = section("2x10")
    lost = before.piece(name).volume - after.piece(name).volume
    assert lost == pytest.approx(math.pi * 25.4**2 * lumber.breadth, rel=0.05)  # a circle of chords
    assert not [f for f in after.findings if f.code == "notch or hole"]
    assert from_bytes(to_bytes(holed)) == holed
    low, high = after.piece(name).solid.extent
    assert (low, high) == (
        pytest.approx(before.piece(name).solid.extent[0]),
        pytest.approx(before.piece(name).solid.extent[1]),
    )
    notched = set_member(p, name, cuts=(MemberCut(kind="notch below", at=1500.0, deep=76.2, long=150.0),))
    finding = next(f for f in derive(notched).findings if f.code == "notch or hole")
    assert "a sixth" in finding.why
    lost = before.piece(name).volume - derive(notched).piece(name).volume
    assert lost == pytest.approx(76.2 * 150.0 * lumber.breadth)
    assert not set_member(notched, name, cuts=()).member_edits
    through = set_member(p, name, cuts=(MemberCut(kind="hole", at=1500.0, deep=400.0),))
    assert any("cuts it through" in f.why for f in derive(through).findings)


def test_what_bends_it_there_counts():
    """A hole of d/3 in the middle of a joist that is used up: the net section is over."""
    p = edits.set_loads(house(joists=Choice(size="2x10", spacing=16.0 * INCH), middle=True), floor_live=9.0)
    model = derive(p)
    line = model.floors[0].lines[5]
    name = f"{FLOOR}/joist/{line.place}"
    holed = set_member(p, name, cuts=(MemberCut(at=(line.high - line.low) / 2.0, deep=76.0),))
    found = [f for f in derive(holed).findings if f.code == "notch or hole"]
    assert found
    assert "Bending at the cut" in found[0].why


def test_bad_ones_are_refused():
    p, name, _ = with_cut(at=600.0, deep=50.8)
    for wrong in ({"at": -5.0, "deep": 50.0}, {"at": 5.0, "deep": 0.0}, {"at": 5.0, "deep": 50.0, "long": 1e6}):
        with pytest.raises(EditError):
            set_member(p, name, cuts=(MemberCut(**wrong),))
    rim = next(n for n in derive(p).pieces if n.startswith(f"{FLOOR}/rim"))
    with pytest.raises(EditError, match="takes no notch"):
        set_member(p, rim, cuts=(MemberCut(at=600.0, deep=50.8),))
