"""Three floors counted and cut as a carpenter would, by hand: an L with a girder, a stair beside a bearing wall, a bay.

Joists at 16 in from the first corner; 2x boards are 1 1/2 in thick; rims run through, joists stop short of them by that.
"""

from collections import Counter

import pytest
from tests.houses import house

from balken.derive import derive
from balken.mending import mend_all
from balken.model import edits
from balken.model.floor_edits import reach_past
from balken.model.records import Choice, Floor, FloorOpening, Foundation, FreePoint, Hang
from balken.units.system import FOOT, INCH


def counted(model, role):
    """How many there are of each length, inches, to a quarter; earth blocks, which belong to walls, left out."""
    mine = [
        m
        for m in model.pieces.values()
        if m.owner == "floor-1" and m.role == role and (role != "blocking" or not m.wall)
    ]
    return Counter(round(m.length / INCH * 4.0) / 4.0 for m in mine)


def ell(long=36.0, notch=18.0, joists=None):
    """An L of 36 x 36 ft with a corner of 18 x 18 ft left out, over a crawl space."""
    p = edits.new_project("L")
    for height, name, role in (
        (8.0 * FOOT, "Plate", "plate"), (-11.5 * INCH, "Top of foundation", "top of foundation"),
        (-24.0 * INCH, "Ground", "ground"), (-5.0 * FOOT, "Top of footing", "top of footing"),
    ):  # fmt: skip
        p = edits.add_level(p, "level-1", height, name, role)
    ring = [(0, 0), (long, 0), (long, notch), (notch, notch), (notch, long), (0, long)]
    for i, (x, y) in enumerate(ring):
        u, v = ring[(i + 1) % 6]
        ends = (x * FOOT, y * FOOT), (u * FOOT, v * FOOT)
        p = edits.add_wall(p, *ends, "framed-2x6", Hang(level="level-1"), Hang(level="level-2"), outside="right")
    walls = tuple(w.id for w in p.walls)
    foundation = Foundation(
        id="foundation-1", name="Foundation", walls=walls, foot=Hang(level="level-5"), head=Hang(level="level-3"),
        inside_ground=12 * INCH,
    )  # fmt: skip
    p = edits.add(p, foundation)
    floor = Floor(id="floor-1", name="Floor", level="level-1", walls=walls, joists=joists or Choice(size=None))
    return edits.add(p, floor)


def test_an_l_of_36_by_36_feet_gets_a_girder_and_joists_that_work():
    """Where joists span 35 ft and are used five times over, the fixes that Balken offers make a floor that nothing is wrong with."""
    before = derive(ell())
    assert before.designs[("floor-1", "joists")].result.used > 5.0
    mended = mend_all(ell()).project
    model = derive(mended)
    assert model.findings == ()
    assert model.designs[("floor-1", "joists")].result.used <= 1.0
    assert all(girder.works for girder in model.girders.values())
    assert len(mended.columns) == len(mended.pads) >= 2
    # 36 ft hold 26 joists between the rims; 13 of them cross the whole 36 ft, in two pieces over the girder.
    joists = counted(model, "joist")
    assert sum(joists.values()) == 13 * 2 + 13
    # The short leg: 18 ft less a rim at each end.
    assert joists[18 * 12 - 3.0] == 13
    # Over the girder: 18 ft less one rim, but for the pair beside the corner, which meets on the wall there.
    assert joists[18 * 12 - 1.5] == 24
    pair = [length for length in joists if length not in (213.0, 214.5)]
    assert sum(pair) == pytest.approx(36 * 12 - 3.0)
    # Eleven bays between the twelve joists that lie on the girder, each 16 in less a board.
    assert counted(model, "blocking") == {14.5: 11}


def test_a_stair_beside_a_bearing_wall():
    """30 x 20 ft, a bearing wall at 10 ft; a stair 3 ft 6 in x 8 ft from 12 ft along the front, a foot off the front wall."""
    p = edits.change(house(middle=True, joists=Choice(size="2x10", spacing=16.0 * INCH)), "floor-1", direction=90.0)
    p = edits.change(p, "floor-1", start="the other side")  # counted from x = 0
    stair = FloorOpening(
        id="floor-opening-1", floors=("floor-1",), place=FreePoint(x=12.0 * FOOT, y=FOOT), kind="stair",
        width=3.5 * FOOT, depth=8.0 * FOOT,
    )  # fmt: skip
    model = derive(edits.add(p, stair))
    # 22 joists in 30 ft; in front that at 144 in stands in the way of a trimmer, and two trimmers come: 23.
    # In front two of them (160, 176 in) are cut off: 12 in less rim and header to the front, 12 in less header and
    # half the bearing wall's span behind: 120 - 108 - 1 1/2.
    joists = counted(model, "joist")
    assert joists == {118.5: 22 + 21, 9.0: 2, 10.5: 2}
    assert counted(model, "floor header") == {42.0: 2}
    assert len(model.hangers) == 2 * 2 + 2 * 2
    assert counted(model, "blocking")[14.5] >= 18


def test_a_bay_of_six_feet():
    """The same house with a bay from 6 to 12 ft along the front, 2 ft out."""
    p = edits.change(house(middle=True, joists=Choice(size="2x10", spacing=16.0 * INCH)), "floor-1", direction=90.0)
    p = edits.change(p, "floor-1", start="the other side")
    model = derive(reach_past(p, "floor-1", "wall-1", 2.0 * FOOT, 6.0 * FOOT, 12.0 * FOOT))
    # The bay's two sides are joists; the one at 144 in would lie in that at 143 1/4 and is left out.  Its joists: 24 in less
    # the rim, and 120 in to the middle of the house.
    joists = counted(model, "joist")
    assert joists == {142.5: 4 + 2, 118.5: 17 + 23}
    rims = counted(model, "rim board")
    assert rims[72.0] >= 1  # across the bay's front
    assert sum(length * n for length, n in rims.items()) == pytest.approx(2 * 360 + 2 * 237, abs=1.0)
    # Over the front wall between the bay's six joists, over the middle between all 23.
    assert sum(counted(model, "blocking").values()) == 5 + 22
