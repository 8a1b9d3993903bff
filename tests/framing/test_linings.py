"""Insulation inside foundation walls: from slab to top, meeting at corners once, notched round beams, counted."""

import pytest
import shapely
from tests.houses import house
from tests.loads.test_beams import balanced, with_girder

from balken.demo import orchard_road
from balken.derive import derive
from balken.documents.quantities import quantities
from balken.model import edits
from balken.model.errors import EditError
from balken.units.system import FOOT, INCH


def lined(p, thick=2 * INCH):
    for f in p.foundations:
        p = edits.change(p, f.id, lining=thick)
    return p


def test_it_covers_the_inside_of_all_outer_walls_once():
    """By hand: 30 x 20 ft to the walls' insides less two corners of 2 in: the perimeter 2 in off, times 4 ft of wall less sill."""
    model = derive(lined(house(long=30 * FOOT, wide=20 * FOOT)))
    pieces = model.of_foundations("wall lining")
    (run, *_rest) = model.runs
    tall = run.band.top - run.band.bottom
    inside = [r.faces[1] for r in model.runs]
    # Clear inside of the concrete, both ways.
    xs = [p.solid.plan[0] for p in pieces]
    whole = shapely.union_all([shapely.Polygon(ring) for ring in xs])
    assert whole.area == pytest.approx(sum(shapely.Polygon(ring).area for ring in xs), rel=1e-6)  # none twice
    ring = whole.buffer(1.0).buffer(-1.0)
    assert isinstance(ring, shapely.Polygon)
    assert len(ring.interiors) == 1
    assert all(p.solid.heights[1] - p.solid.heights[0] == pytest.approx(tall) for p in pieces)
    assert inside
    (row,) = quantities(model).linings
    assert (row.notches, row.thickness) == (0, 2 * INCH)
    assert row.area * 1e6 == pytest.approx(whole.area / (2 * INCH) * tall, rel=1e-6)


def test_a_beam_notches_it_at_both_ends():
    model = derive(lined(with_girder()))
    beam = next(piece for piece in model.of_layouts("beam"))
    (row,) = quantities(model).linings
    assert row.notches == 2
    low, high = beam.solid.heights
    box = shapely.Polygon(beam.solid.plan[0])
    for piece in model.of_foundations("wall lining"):
        a, b = piece.solid.heights
        if min(b, high) - max(a, low) > 1.0:
            assert (
                shapely.Polygon(piece.solid.plan[0]).distance(box) > 12.0
                or shapely.Polygon(piece.solid.plan[0]).intersection(box).area < 1.0
            )
    balanced(model)
    # Below the beam it goes on.
    under = [p for p in model.of_foundations("wall lining") if p.solid.heights[1] < low]
    assert len(under) == 2
    assert all(low - p.solid.heights[1] == pytest.approx(0.5 * INCH, abs=0.1) for p in under)


def test_in_a_basement_it_begins_on_the_slab():
    model = derive(lined(orchard_road()))
    basement = next(f for f in model.project.foundations if f.kind == "basement")
    slab = next(s for s in model.slabs)
    feet = {round(p.solid.heights[0], 1) for p in model.of_foundations("wall lining") if p.owner == basement.id}
    assert round(slab.top, 1) in feet
    assert quantities(model).linings[0].notches >= 1


def test_out_of_bounds_it_is_refused():
    with pytest.raises(EditError, match="lining"):
        lined(house(), 500.0)
    assert not derive(house()).of_foundations("wall lining")
