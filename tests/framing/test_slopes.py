"""Sloping footings: level on top, 1 in 10 at most, counted once with all other concrete, below frost where it is deep."""

import manifold3d
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.shop import shop

from balken.derive import derive
from balken.documents.quantities import quantities
from balken.framing.slopes import deeper_at
from balken.geometry.prism import mesh, volume
from balken.model import edits, foundation_edits, split_walls
from balken.model.errors import EditError
from balken.model.lookup import by_id
from balken.model.records import Slope, Step
from balken.units.system import INCH


def sloped(p, **fields):
    slope = Slope(**{"wall": "wall-1", "start": 1000.0, "end": 7000.0, "deeper_end": 400.0, **fields})
    return foundation_edits.add_slope(p, "foundation-1", slope)


def wedges_of(model):
    return [p for k, p in model.pieces.items() if "/footing/slope/" in k]


def test_a_slope_adds_a_wedge_under_the_level_footing():
    p = edits.change(shop(), "foundation-1", footing_width=20 * INCH, footing_depth=10 * INCH)
    before, after = derive(p), derive(sloped(p))
    (wedge,) = wedges_of(after)
    width = after.footings["foundation-1/wall-1"].width
    assert wedge.volume == pytest.approx(6000.0 * 400.0 / 2.0 * width, rel=1e-9)
    low = min(z for _, _, z in (wedge.solid.at(a, b, 0.0) for a, b in wedge.solid.rings[0]))
    run = next(r for r in after.runs if r.wall == "wall-1")
    assert low == pytest.approx(run.band.bottom - after.footings[run.id].depth - 400.0)
    assert deeper_at(run, 4000.0) == pytest.approx(200.0)
    assert deeper_at(run, 8000.0) == 0.0
    rows = [{r.role: r for r in quantities(m).concrete} for m in (before, after)]
    assert rows[1]["strip footing"].volume > rows[0]["strip footing"].volume
    assert quantities(after).excavation > quantities(before).excavation
    assert after.soil.dead - before.soil.dead == pytest.approx(wedge.volume * 2400.0 * 9.80665e-9, rel=0.05)


def test_it_reaches_frost_where_it_is_deep():
    """IRC R403.1.4.1 looks at the underside at every point."""
    plain = derive(shop())
    run = plain.runs[0]
    covered = plain.ground.level - (run.band.bottom - plain.footings[run.id].depth)
    p = edits.set_loads(shop(), frost_depth=covered + 150.0)
    short = [f.why for f in derive(p).findings if f.code == "frost"]
    assert short
    deep = p
    for wall in by_id(p.foundations)["foundation-1"].walls:
        line = derive(p).lines[wall].band
        deep = foundation_edits.add_slope(
            deep, "foundation-1", Slope(wall=wall, start=0.0, end=line.length, deeper_start=300.0, deeper_end=300.0)
        )
    assert not [f for f in derive(deep).findings if f.code == "frost"]


def test_steeper_than_one_in_ten_is_refused():
    """IRC R403.1.5."""
    p = shop()
    with pytest.raises(EditError, match="1 in 10 is the most"):
        sloped(p, deeper_end=610.0)
    sloped(p, deeper_end=600.0)
    with pytest.raises(EditError, match="past the end of the wall"):
        sloped(p, end=1e6)
    with pytest.raises(EditError, match="overlap"):
        sloped(sloped(p), start=6000.0, end=7500.0)
    stepped = foundation_edits.add_step(p, "foundation-1", "wall-1", 4000.0, 8 * INCH)
    with pytest.raises(EditError, match="step in it"):
        sloped(stepped)


def test_a_slope_goes_along_when_its_wall_is_split_and_joined():
    p = sloped(shop())
    split = split_walls.split_wall(p, "wall-1", 5000.0)
    first, second = by_id(split.foundations)["foundation-1"].slopes
    assert (first.end, first.deeper_end) == (pytest.approx(5000.0), pytest.approx(400.0 * 2 / 3))
    assert (second.start, second.end, second.deeper_start) == (0.0, pytest.approx(2000.0), pytest.approx(400.0 * 2 / 3))
    joined = split_walls.join_walls(split, "wall-1", second.wall)
    low, high = sorted(joined.foundations[0].slopes, key=lambda s: s.start)
    assert {low.wall, high.wall} == {"wall-1"}
    assert (low.end, high.start, high.end) == (pytest.approx(5000.0), pytest.approx(5000.0), pytest.approx(7000.0))
    assert sum(w.volume for w in wedges_of(derive(joined))) == pytest.approx(
        sum(w.volume for w in wedges_of(derive(p)))
    )
    assert edits.remove(p, "wall-1").foundations[0].slopes == ()


@settings(max_examples=25, deadline=None)
@given(
    st.sampled_from([0.0, 0.0, 700.0, 2500.0]),
    st.floats(1500.0, 5000.0),
    st.floats(5.0, 140.0),
    st.booleans(),
    st.floats(0.0, 200.0),
    st.sampled_from([0.0, 50.0, 100.0]),
    st.booleans(),
)
def test_concrete_is_counted_once_with_slopes(start, long, deep, other_way, also, blinding, stepped):
    """The sum of all concrete in the ground equals the volume of its union (manifold3d)."""
    p = edits.change(shop(), "foundation-1", blinding=blinding)
    if stepped:
        p = edits.change(p, "foundation-1", steps=(Step(wall="wall-1", at=start + long + 300.0, drop=8 * INCH),))
    ends = (deep + also, also) if other_way else (also, deep + also)
    p = sloped(p, start=start, end=start + long, deeper_start=ends[0], deeper_end=ends[1])
    # The walls beside it slope too, and meet it at its corners.
    for wall in ("wall-2", "wall-4"):
        p = sloped(
            p, wall=wall, start=0.0, end=derive(p).lines[wall].band.length, deeper_start=ends[1], deeper_end=ends[0]
        )
    model = derive(p)
    solids = [
        piece.solid for piece in model.pieces.values() if piece.material == "concrete" and "/layer/" not in piece.key
    ]
    whole = manifold3d.Manifold()
    for solid in solids:
        triangles, _ = mesh(solid)
        points, faces = np.unique(triangles.reshape(-1, 3).round(5), axis=0, return_inverse=True)
        body = manifold3d.Manifold(
            manifold3d.Mesh(vert_properties=points.astype(np.float32), tri_verts=faces.reshape(-1, 3).astype(np.uint32))
        )
        assert body.volume() == pytest.approx(volume(solid), rel=2e-3)
        whole = whole + body
    assert whole.volume() == pytest.approx(sum(volume(s) for s in solids), rel=3e-5)
    assert wedges_of(model)
