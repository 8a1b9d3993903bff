"""Nothing of a floor stands in anything else of it: joists, trimmers, headers, rims, blocks, beams, posts, sill plates."""

import numpy as np
import shapely
from hypothesis import example, given, settings
from hypothesis import strategies as st
from tests.houses import house

from balken.demo import orchard_road
from balken.derive import derive
from balken.design.beam_posts import girder_on_posts
from balken.model import edits
from balken.model.floor_edits import reach_past
from balken.model.kinds.floor_opening import FloorOpening
from balken.model.records import Choice, FreePoint
from balken.units.system import FOOT, INCH

FLOOR = "floor-1"
ROLES = {"joist", "floor header", "rim board", "blocking", "beam", "beam plate", "column", "sill plate"}
TOUCH = 1.0
"""What reaches no farther into one another touches, mm."""


def overlapping(model):
    """Pairs of members whose plans and heights overlap: all are prisms that stand upright or lie level."""
    found = []
    pieces = [piece for piece in model.pieces.values() if piece.role in ROLES]
    corners = [np.array(piece.solid.corners()) for piece in pieces]
    plans = [shapely.MultiPoint(c[:, :2]).convex_hull.buffer(-TOUCH / 2.0, join_style="mitre") for c in corners]
    heights = [(c[:, 2].min(), c[:, 2].max()) for c in corners]
    tree = shapely.STRtree(plans)
    for i, j in zip(*tree.query(plans, predicate="intersects"), strict=True):
        if i < j and min(heights[i][1], heights[j][1]) - max(heights[i][0], heights[j][0]) > TOUCH:
            found.append((pieces[i].key, pieces[j].key, round(plans[i].intersection(plans[j]).area)))
    return found


def test_in_the_demo():
    assert overlapping(derive(orchard_road())) == []


@settings(max_examples=25)
@example(
    wide=30.0,
    girder=0.62,
    over="lapped",
    blocking="none",
    size="2x8",
    spacing=12.0,
    opening=None,
    past=None,
    start="one side",
    live=2.0,
)
@example(  # an opening whose edge lies on the girder: tails begin there, between joists that butt on it
    wide=18.5, girder=0.62, over="butted", blocking="over bearings", size="2x8", spacing=24.0, opening=(9.1, 6.2, 3.6, 5.0), past=None,
    start="one side", live=2.0,
)  # fmt: skip
@given(
    wide=st.floats(14.0, 30.0),
    girder=st.sampled_from([None, 0.35, 0.5, 0.62]),
    over=st.sampled_from(["butted", "lapped", "continuous"]),
    blocking=st.sampled_from(["none", "over bearings", "over bearings and in the span"]),
    size=st.sampled_from(["2x8", "2x10"]),
    spacing=st.sampled_from([12.0, 16.0, 24.0]),
    opening=st.sampled_from([None, (3.5, 4.0, 3.0, 8.0), (14.0, 3.0, 5.5, 3.0), (9.1, 6.2, 3.6, 5.0)]),
    past=st.sampled_from([None, (2.0, 0.0, None), (1.5, 5.0, 13.3)]),
    start=st.sampled_from(["one side", "the other side", "the middle", "both ends alike"]),
    live=st.floats(1.5, 5.0),
)
def test_in_any_floor(wide, girder, over, blocking, size, spacing, opening, past, start, live):
    p = house(long=26.0 * FOOT, wide=wide * FOOT, joists=Choice(size=size, spacing=spacing * INCH), floor_live=live)
    p = edits.change(p, FLOOR, direction=90.0, over=over, blocking=blocking, start=start)
    if girder is not None:
        y = girder * wide * FOOT
        p = girder_on_posts(p, FLOOR, (50.0, y), (26.0 * FOOT - 50.0, y), 8.0 * FOOT)
    if opening is not None:
        x, y, width, depth = (v * FOOT for v in opening)
        hole = FloorOpening(
            id="floor-opening-1", floors=(FLOOR,), place=FreePoint(x=x, y=y), kind="shaft", width=width, depth=depth
        )
        p = edits.add(p, hole)
    if past is not None:
        p = reach_past(p, FLOOR, "wall-1", past[0] * FOOT, past[1] * FOOT, past[2] and past[2] * FOOT)
    assert overlapping(derive(p)) == []
