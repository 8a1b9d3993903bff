"""Leaves of masonry outside a wall stand on a ledge of its foundation."""

import pytest
from tests.houses import house

from balken.derive import derive
from balken.findings.fixes import FIXES
from balken.model import edits
from balken.model.buildups import LIBRARY, veneer
from balken.panel.drafts import new_foundation
from balken.session.session import Session
from balken.units.system import INCH


def clad():
    p = house()
    for wall in ("wall-1", "wall-2", "wall-3", "wall-4"):
        p = edits.change(p, wall, buildup="veneer-2x6")
    return p


def test_veneers_of_the_library():
    known = {b.id: veneer(b) for b in LIBRARY}
    assert known["veneer-2x6"] == pytest.approx((3.625 * INCH, 1.0 * INCH))
    assert known["block-veneer"] == pytest.approx((3.625 * INCH, 1.0 * INCH))
    assert known["framed-2x6"] == (0.0, 0.0)
    assert known["block-8"] == (0.0, 0.0)


def test_a_veneer_without_a_ledge_is_told_and_gets_one():
    p = clad()
    (found,) = [f for f in derive(p).findings if f.code == "veneer"]
    assert '4 5/8"' in found.why
    mended = FIXES[found.fix.command](p, *found.fix.args, **dict(found.fix.fields))
    assert mended.foundations[0].ledge == pytest.approx(4.625 * INCH)
    assert not [f for f in derive(mended).findings if f.code == "veneer"]
    narrow = edits.change(p, "foundation-1", ledge=3.0 * INCH)
    assert [f for f in derive(narrow).findings if f.code == "veneer"]
    nearly = edits.change(p, "foundation-1", ledge=3.5 * INCH)  # 1 in of air and two thirds of the brick: 3.42 in
    assert not [f for f in derive(nearly).findings if f.code == "veneer"]
    assert not [f for f in derive(house()).findings if f.code == "veneer"]


def test_blocks_have_no_ledge_and_no_fix_that_fails():
    p = edits.change(clad(), "foundation-1", made_of="hollow block", thickness=7.625 * INCH)
    (found,) = [f for f in derive(p).findings if f.code == "veneer"]
    assert found.fix is None
    assert "make it of concrete" in found.why


def test_a_new_foundation_begins_with_the_ledge_its_walls_need():
    session = Session(edits.remove(clad(), "foundation-1"))
    assert new_foundation(session).ledge == pytest.approx(4.625 * INCH)
    plain = Session(edits.remove(house(), "foundation-1"))
    assert new_foundation(plain).ledge == 0.0
