"""Walls split and joined under roofs and floors: what these do over them, what lies in their planes and what comes down stays as it was."""

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from tests.framing.test_roof_trim import of, roofed
from tests.framing.test_roof_trusses import trussed
from tests.framing.test_truss_wings import _apart
from tests.loads.test_beams import balanced

from balken.demo import orchard_road
from balken.derive import derive
from balken.design.split_roofs import join_walls, split_wall
from balken.loads.cases import total
from balken.model import edits
from balken.model.errors import EditError
from balken.model.kinds.floor import PastEdge
from balken.model.roof_edits import add_roof_opening, set_side, side_of
from balken.units.system import FOOT, INCH


def down(model):
    """What comes to each wall from the trusses, dead, N."""
    rows = model.trusses["roof-1"].reactions
    return {w: total(r.force for r in rows if r.bearer == w).dead for w in {r.bearer for r in rows}}


@given(st.sampled_from(["wall-1", "wall-2", "wall-3"]), st.floats(4.0, 23.0), st.booleans())
@example("wall-2", 10.0, True)
@example("wall-1", 10.0, False)
@settings(max_examples=6, deadline=None)
def test_trusses_over_walls_in_one_line_are_those_over_one(wall, feet, hips):
    """The same trusses; each brings its load to the wall below its end, in all as much as before."""
    p = trussed(0.5)
    for side in ("wall-2", "wall-4") if hips else ():
        p = set_side(p, "roof-1", side, kind="eave")
    whole, parted = derive(p), derive(split_wall(p, wall, feet * FOOT))
    before, after = down(whole), down(parted)
    assert after[wall] + after["wall-5"] == pytest.approx(before[wall], rel=1e-6)
    assert min(after[wall], after["wall-5"]) > 0.0
    assert {w: after[w] for w in before if w != wall} == pytest.approx({w: before[w] for w in before if w != wall})
    made = [model.trusses["roof-1"] for model in (whole, parted)]
    assert [place.t for place in made[0].places] == pytest.approx([place.t for place in made[1].places])
    for r in made[1].reactions:
        band = parted.lines[r.bearer].band
        at = (r.at[0] - band.start[0]) * (band.end[0] - band.start[0]) + (r.at[1] - band.start[1]) * (
            band.end[1] - band.start[1]
        )
        assert -200.0 * band.length <= at <= (band.length + 200.0) * band.length
    balanced(parted)
    _apart(parted)


def test_a_gable_stays_one_over_both_parts_and_joins_again():
    p = set_side(roofed(0.5), "roof-1", "wall-2", overhang=5.0 * INCH)
    parted = split_wall(p, "wall-2", 9.0 * FOOT)
    sides = [side_of(parted.roofs[0], wall) for wall in ("wall-2", "wall-5")]
    assert [(s.kind, s.overhang) for s in sides] == [("gable", pytest.approx(5.0 * INCH))] * 2
    areas = [sum(x.solid.volume for x in of(derive(q), "roof plane")) for q in (p, parted)]
    assert areas[0] == pytest.approx(areas[1], rel=1e-6)
    back = join_walls(parted, "wall-2", "wall-5")
    assert side_of(back.roofs[0], "wall-2") == side_of(p.roofs[0], "wall-2")
    assert not [s for s in back.roofs[0].sides if s.wall == "wall-5"]
    with pytest.raises(EditError, match="same over both"):
        join_walls(set_side(parted, "roof-1", "wall-5", overhang=0.0), "wall-2", "wall-5")


@pytest.mark.parametrize("wall", ["wall-1", "wall-3"])
@pytest.mark.parametrize("feet", [8.0, 30.0])
def test_roof_windows_stay_where_they_are(wall, feet):
    """Over walls along the outline and against it, before and beyond the place where they are split."""
    p = add_roof_opening(roofed(0.5), "roof-1", wall, 20.0 * FOOT, 5.0 * FOOT)
    p = add_roof_opening(p, "roof-1", wall, 32.0 * FOOT, 5.0 * FOOT)
    parted = split_wall(p, wall, feet * FOOT)
    joined = join_walls(parted, wall, "wall-5")

    def rings(q):
        plan = derive(q).surfaces[0]
        found = []
        for hole in plan.holes:
            assert not hole.problem
            k = hole.edge
            (ax, ay), (bx, by) = plan.outline.core[k], plan.outline.core[(k + 1) % len(plan.outline.core)]
            long = ((bx - ax) ** 2 + (by - ay) ** 2) ** 0.5
            s = sum(hole.along) / 2.0
            found.append((ax + (bx - ax) * s / long, ay + (by - ay) * s / long, *hole.inward))
        return sorted(found)

    assert {o.wall for o in parted.roof_openings} <= {wall, "wall-5"}
    assert len(rings(parted)) == 2
    for q in (parted, joined):
        for one, other in zip(rings(p), rings(q), strict=True):
            assert one == pytest.approx(other, abs=0.5)


def test_dormers_stay_where_they_are():
    p = orchard_road()
    dormer = p.dormers[0]
    length = derive(p).lines[dormer.wall].band.length
    before = [x.solid.extent for x in derive(p).pieces.values() if x.owner == dormer.id and x.role == "dormer header"]
    for part in (0.15, 0.85):
        try:
            parted = split_wall(p, dormer.wall, length * part)
        except EditError:
            continue
        after = [
            x.solid.extent for x in derive(parted).pieces.values() if x.owner == dormer.id and x.role == "dormer header"
        ]
        assert len(after) == len(before)
        for a, b in zip(before, after, strict=True):
            assert [v for row in a for v in row] == pytest.approx([v for row in b for v in row], abs=1.0)


def test_floors_reach_past_both_parts():
    p = roofed(0.5)
    floor = p.floors[0]
    rows = (
        PastEdge(wall="wall-1", by=600.0, start=2.0 * FOOT, end=20.0 * FOOT),
        PastEdge(wall="wall-1", by=300.0, start=25.0 * FOOT),
    )
    p = edits.change(p, floor.id, past=rows)
    parted = split_wall(p, "wall-1", 12.0 * FOOT)
    made = [
        (e.wall, e.by, round(e.start / FOOT, 6), None if e.end is None else round(e.end / FOOT, 6))
        for e in parted.floors[0].past
    ]
    assert made == [("wall-1", 600.0, 2.0, None), ("wall-5", 600.0, 0.0, 8.0), ("wall-5", 300.0, 13.0, None)]
    assert join_walls(parted, "wall-1", "wall-5").floors[0].past == rows
    assert replace(p, walls=()) != p
