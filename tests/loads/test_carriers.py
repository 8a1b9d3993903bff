"""At every carrier what is laid on it and what it hands down balance, upright and sideways, in moments too."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tools.dumps import random_house

from balken.derive import derive
from balken.loads.area_loads import floor_reactions, onto_headers
from balken.loads.cases import Cases, total
from balken.loads.knots import rafter_pair
from balken.loads.seats import Circle, Seat, in_order
from balken.loads.stairs import infill_on


@pytest.mark.parametrize("first", range(0, 200, 20))
def test_every_carrier_of_200_houses(first):
    for seed in range(first, first + 20):
        house = random_house(seed)
        model = derive(house)
        path = model.path
        gone = {name: total(r.force for r in path.lost if r.piece == name) for name in (*path.walls, *path.columns)}
        for name, line in path.walls.items():
            handed = total(share for (upper, _), share in path.shares.items() if upper == name)
            same(line.foot, handed.plus(gone[name]))
            head = path.heads[name].all.sum
            # Snow on lookouts alone lifts their inner ends: what that brings beyond the rest is in no sum.
            beyond = [r.force for made in model.planes.values() for r in made.lookouts.beyond if r.bearer == name]
            same(line.foot.plus(total(beyond)), head.plus(line.own))
            same(line.foot, Cases(*path.along[name].loads.sum(axis=0).tolist()))
        for name, made in path.columns.items():
            handed = total(share for (upper, _), share in path.shares.items() if upper == name)
            same(made.foot, handed.plus(gone[name]))
        for name, made in path.decks.items():
            typed = [Cases(dead=load.dead, live=load.live) for load in house.floor_loads if load.floor == name]
            plan = next(plan for plan in model.floors if plan.floor.id == name)
            filled = infill_on(plan, house.loads)[1::2] if any(hole.drawn for hole in plan.holes) else ()
            # What joists cut off at openings hand to the headers there goes over the deck once more.
            tails = onto_headers(plan, floor_reactions(plan, house.loads))[1]
            typed += [*(laid.sum for laid in filled), *(r.force for r in tails)]
            same(made.sum, total([*(share for (_, lower), share in path.shares.items() if lower == name), *typed]))
            for joist, rows in made.joists.items():
                ends = [r for r in made.reactions if r.piece == joist]
                same(total(r.force for r in rows), total(r.force for r in ends))
        for name, line in path.runs.items():
            came = total(share for (_, lower), share in path.shares.items() if lower == name)
            members = total(r.force for r in path.reactions if r.bearer == name)
            same(line.foot, total((came, members, line.own)))
        lost = total(r.force for r in path.lost)
        same(path.applied, path.arrived.plus(lost))


def same(one, other):
    assert one == pytest.approx(other, rel=1e-6, abs=1e-3)


@given(
    st.floats(500, 8000),
    st.floats(0.1, 1.5),
    st.floats(0.0, 0.9),
    st.floats(0, 1e5),
    st.floats(0, 1e5),
)
def test_a_rafter_pair_is_the_three_hinged_arch(half, pitch, part, low, high):
    """Six equations of statics for two bars, three hinges and a tie, solved by NumPy for loads that differ side by side."""
    rise, over = half * pitch, half * part
    pair = rafter_pair(half, rise, over, Cases(snow=low), Cases(snow=high))
    # Unknown: V left, V right, T in the tie (H at both feet), ridge forces X and Y on the left rafter.
    c = (half - over) / 2.0
    equations = np.array(
        [
            # left rafter: sideways, upright, moment about its foot
            [0, 0, 1, -1, 0],
            [1, 0, 0, 0, 1],
            [0, 0, 0, rise, half],
            # right rafter: sideways (the same), upright, moment about its foot
            [0, 1, 0, 0, -1],
            [0, 0, 0, rise, -half],
        ],
        dtype=float,
    )
    right = np.array([0.0, low, low * c, high, high * c])
    v_low, v_high, tie, _, _ = np.linalg.solve(equations, right)
    scale = max(1.0, low + high)
    assert pair.low.snow == pytest.approx(v_low, abs=1e-6 * scale)
    assert pair.high.snow == pytest.approx(v_high, abs=1e-6 * scale)
    assert pair.thrust.snow == pytest.approx(tie, abs=1e-6 * scale)


def test_each_comes_after_all_that_stands_on_it():
    under = {
        "run": (),
        "deck": (Seat("low wall"), Seat("run")),
        "low wall": (Seat("run"),),
        "post": (Seat("deck"),),
        "high wall": (Seat("deck"), Seat("post"), Seat("", 0.0, (0.0, 900.0))),
    }
    order = in_order(under)
    for name, seats in under.items():
        assert all(order.index(name) < order.index(seat.on) for seat in seats if seat.on)
    assert sorted(order) == sorted(under)


def test_a_circle_names_what_is_in_it():
    under = {"a": (Seat("b"),), "b": (Seat("c"),), "c": (Seat("b"),), "d": (Seat("a"),)}
    with pytest.raises(Circle) as found:
        in_order(under)
    assert set(found.value.names) == {"b", "c"}
