"""Walls that stand over bearings of I-joists: through rim boards and blocks, else through squash blocks; web stiffeners."""

import pytest
import shapely
from tests.houses import house

from balken.catalog.sections import section
from balken.derive import derive
from balken.model import edits
from balken.model.records import Choice, Hang
from balken.standards.us.values import reference_values
from balken.units.system import FOOT, INCH, PSF


def two_storeys(blocking="over bearings", **loads):
    """I-joists between two storeys, with bearing walls along the middle of both."""
    p = house(long=24 * FOOT, wide=24 * FOOT, middle=True, **loads)
    p = edits.add_level(p, "level-2", 1 * FOOT, "Floor 2", "floor")
    p = edits.add_level(p, "level-2", 9 * FOOT, "Plate 2", "plate")
    foot, head = Hang(level=p.levels[-2].id), Hang(level=p.levels[-1].id)
    corners = [(0.0, 0.0), (24 * FOOT, 0.0), (24 * FOOT, 24 * FOOT), (0.0, 24 * FOOT)]
    for i, start in enumerate(corners):
        p = edits.add_wall(p, start, corners[(i + 1) % 4], "framed-2x6", foot, head, outside="right")
    p = edits.add_wall(p, (0.0, 12 * FOOT), (24 * FOOT, 12 * FOOT), "inside-2x6", foot, head, "centre", role="bearing")
    joists = Choice(made_of="I-joist", size="PRI-60 11.875", spacing=16 * INCH)
    p = edits.remove(p, "roof-1")
    return edits.change(
        p, "floor-1", level=foot.level, joists=joists, blocking=blocking, direction=90.0, deck=0.125 * INCH
    )


def over_middle(model):
    return [one for one in model.squashed if one.bearer == "wall-5"]


def test_blocks_over_the_bearing_take_the_wall_above():
    model = derive(two_storeys())
    (one,) = over_middle(model)
    assert one.blocks == 0
    assert one.used < 1.0
    # What stands on it: the wall's own weight, spread; on 1 1/2 in of board across the grain.
    across = reference_values("DF-L", "No. 2", section("2x4")).fc_perp
    assert one.capacity <= 1.5 * INCH * 16 * INCH * across + 1e-6
    assert not model.of_layouts("squash block")


def test_without_blocks_pairs_stand_beside_every_joist():
    model = derive(two_storeys("none"))
    (one,) = over_middle(model)
    blocks = model.of_layouts("squash block")
    assert one.blocks > 0
    assert len(blocks) == 2 * one.blocks
    assert one.capacity == pytest.approx(
        2 * 1.5 * 3.5 * INCH**2 * reference_values("DF-L", "No. 2", section("2x4")).fc_perp
    )
    line = model.path.along[one.wall]
    assert one.force == pytest.approx(
        16 * INCH * model.standard.combinations.worst(line.peak(400.0, model.standard.combinations)[0])[0]
    )
    # Each as high as the joist, beside it, and in nothing else.
    joists = [shapely.Polygon(p.solid.plan[0]) for p in model.of_layouts("joist")]
    for piece in blocks:
        assert piece.solid.heights[1] - piece.solid.heights[0] == pytest.approx(11.875 * INCH)
        assert piece.length == pytest.approx((11.875 + 1 / 16) * INCH)
        ring = shapely.Polygon(piece.solid.plan[0])
        assert max(ring.intersection(j).area for j in joists) < 1.0
        assert min(ring.distance(j) for j in joists) < 1.0


def test_outer_walls_stand_on_the_rim_board():
    model = derive(two_storeys("none"))
    outer = [one for one in model.squashed if one.bearer != "wall-5"]
    assert outer
    assert all(one.blocks == 0 for one in outer)


def test_web_stiffeners_stand_at_both_sides_of_the_web():
    p = house(long=20 * FOOT, wide=18 * FOOT, floor_live=100 * PSF, floor_dead=25 * PSF,
              joists=Choice(made_of="I-joist", size="PRI-80 11.875", spacing=19.2 * INCH))  # fmt: skip
    model = derive(p)
    noted = [r for name, r in model.results.items() if "/joist/" in name and any("stiffeners" in n for n in r.notes)]
    assert noted
    pieces = model.of_layouts("web stiffener")
    assert len(pieces) == 4 * len(noted)
    lumber = section("PRI-80 11.875")
    for piece in pieces:
        assert piece.length == pytest.approx(lumber.depth - 2 * lumber.flange - 0.125 * INCH)
    assert {model.marks[piece.key] for piece in pieces}
