"""Studs chosen by what lies on them: the smallest that hold, other walls left alone."""

import pytest

from balken.choosing import choose_studs, most_used
from balken.derive import derive
from balken.findings.fixes import FIXES
from balken.model import edits
from balken.model.buildups import stud_size, thickness
from balken.model.errors import EditError
from balken.model.lookup import by_id
from balken.model.stud_edits import take_studs
from tests.houses import house


def studs(p, wall):
    return stud_size(by_id(p.buildups)[by_id(p.walls)[wall].buildup])


def test_the_smallest_studs_that_hold_are_taken():
    p = house()
    before = by_id(p.walls)["wall-2"].buildup
    light = choose_studs(p, ("wall-1",))
    assert studs(light, "wall-1") == "2x4"
    assert by_id(light.walls)["wall-2"].buildup == before
    heavy = edits.change(edits.set_loads(p, ground_snow=12.0), "wall-1", framing__spacing=610.0)
    chosen = choose_studs(heavy, ("wall-1",))
    used = derive(chosen).framed["wall-1"].design.result.used
    assert used <= 1.0
    # One size smaller does not hold.
    sizes = ["2x4", "2x6", "2x8"]
    k = sizes.index(studs(chosen, "wall-1"))
    if k:
        smaller = take_studs(heavy, ("wall-1",), sizes[k - 1])
        assert derive(smaller).framed["wall-1"].design.result.used > 1.0


def test_what_stands_beside_a_wide_opening_counts_too():
    """Studs that hold by themselves are not enough where jacks and kings beside a wide opening, or its header, do not."""
    p = edits.set_loads(house(), ground_snow=3.0)
    p = edits.add_opening(p, "wall-1", "window", 3000.0, 2400.0, 1200.0, 800.0)
    small = derive(take_studs(p, ("wall-1",), "2x4")).framed["wall-1"]
    assert small.design.result.used <= 1.0 < most_used(small)
    chosen = choose_studs(p, ("wall-1",))
    assert studs(chosen, "wall-1") != "2x4"
    assert most_used(derive(chosen).framed["wall-1"]) <= 1.0


def test_too_much_for_all_of_them_is_told():
    p = edits.change(edits.set_loads(house(), ground_snow=90.0), "wall-1", framing__spacing=610.0)
    with pytest.raises(EditError, match="no studs up to 2x8"):
        choose_studs(p, ("wall-1",))


def test_build_ups_alike_are_shared_and_others_kept():
    p = take_studs(house(), ("wall-1", "wall-3"), "2x8")
    assert studs(p, "wall-1") == studs(p, "wall-3") == "2x8"
    assert by_id(p.walls)["wall-1"].buildup == by_id(p.walls)["wall-3"].buildup
    assert studs(p, "wall-2") == "2x6"
    again = take_studs(p, ("wall-2",), "2x8")
    assert len(again.buildups) == len(p.buildups)
    old, new = (by_id(p.buildups)[by_id(p.walls)[w].buildup] for w in ("wall-2", "wall-1"))
    assert thickness(new) - thickness(old) == pytest.approx(1.75 * 25.4)
    with pytest.raises(EditError, match="not framed"):
        take_studs(edits.change(p, "wall-4", buildup="block-8"), ("wall-4",), "2x4")


def test_a_finding_offers_deeper_studs():
    p = edits.set_loads(house(), ground_snow=9.0)
    p = edits.change(take_studs(p, ("wall-1",), "2x4"), "wall-1", framing__spacing=305.0)
    found = [f for f in derive(p).findings if f.code == "studs"]
    for f in found:
        if f.fix is not None:
            mended = FIXES[f.fix.command](p, *f.fix.args, **dict(f.fix.fields))
            assert derive(mended).framed["wall-1"].design.result.used <= 1.0
