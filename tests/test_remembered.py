"""What is remembered by the objects read: the same answer as without it, made again only for other objects."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from balken.framing.pieces import Piece
from balken.geometry.plane import near_pairs
from balken.geometry.prism import box
from balken.remembered import TURN, grow_older, remembered
from balken.value import Value


def test_the_same_objects_are_not_asked_again_equal_ones_are():
    asked = []

    @remembered(10)
    def double(items):
        asked.append(items)
        return [2 * x for x in items]

    first, equal = [1, 2], [1, 2]
    assert double(first) is double(first)
    assert double(equal) == double(first)
    assert asked == [first, equal]


def test_figures_and_words_are_looked_up_by_value():
    asked = []

    @remembered(10)
    def joined(word, figure):
        asked.append(figure)
        return f"{word} {figure}"

    assert joined("".join(["a", "b"]), 0.5 + 0.25) == "ab 0.75"
    assert joined("ab", 0.75) == "ab 0.75"
    assert joined("ab", 0.5) == "ab 0.5"
    assert asked == [0.75, 0.5]


@given(st.lists(st.integers(0, 30), max_size=80))
def test_letting_go_changes_no_answer(order):
    things = [[i] for i in range(31)]

    @remembered(4)
    def first(thing):
        return thing[0]

    assert [first(things[i]) for i in order] == order


def test_what_is_asked_for_again_and_again_is_not_let_go():
    asked = []

    @remembered(8)
    def first(thing):
        asked.append(thing[0])
        return thing[0]

    often, others = [["often"], ["too"]], [[i] for i in range(100)]
    for other in others:
        first(other)
        for thing in often:
            first(thing)
    assert asked.count("often") == asked.count("too") == 1
    # No more than that is held: the first of the others must be worked out again.
    first(others[0])
    assert asked.count(0) == 2


def test_what_no_edit_asks_for_any_more_is_let_go():
    asked = []

    @remembered(1_000)
    def first(thing):
        asked.append(thing[0])
        return thing[0]

    kept, dropped = ["kept"], ["dropped"]
    first(kept), first(dropped)
    for _ in range(3 * TURN):
        grow_older()
        first(kept)
    assert asked == ["kept", "dropped"]
    first(dropped)
    assert asked == ["kept", "dropped", "dropped"]


def test_an_error_is_told_every_time():
    @remembered(10)
    def refuse(thing):
        raise ValueError("no")

    for _ in range(2):
        with pytest.raises(ValueError, match="no"):
            refuse([1])


def test_values_cannot_be_changed_and_are_equal_by_content():
    solid = box((0.0, 0.0, 0.0), (1000.0, 0.0, 0.0), (0.0, 1.0, 0.0), 38.0, 89.0)
    again = box((0.0, 0.0, 0.0), (1000.0, 0.0, 0.0), (0.0, 1.0, 0.0), 38.0, 89.0)
    piece = Piece("k", "joist", "o", "l", solid, "timber", (0.0, 0.0, 0.0), (1000.0, 0.0, 0.0), 1000.0)
    assert solid is not again
    assert (solid, hash(solid)) == (again, hash(again))
    assert isinstance(piece, Value)
    with pytest.raises(AttributeError, match="immutable"):
        piece.length = 2.0


side = st.floats(0.0, 1000.0)
boxes = st.lists(st.tuples(side, side, st.floats(0.0, 300.0), st.floats(0.0, 300.0)), max_size=25)


@given(boxes, st.floats(0.0, 100.0), st.lists(st.tuples(side, side), min_size=25, max_size=25))
def test_near_pairs_may_be_asked_to_share_some_height(rows, reach, ends):
    made = [(x, y, x + a, y + b) for x, y, a, b in rows]
    heights = [(min(pair), max(pair)) for pair in ends[: len(made)]]
    expected = [
        (i, j)
        for i, j in near_pairs(made, reach)
        if min(heights[i][1], heights[j][1]) > max(heights[i][0], heights[j][0])
    ]
    assert near_pairs(made, reach, heights) == expected


@given(boxes, st.floats(0.0, 100.0))
def test_near_pairs_are_all_pairs_near_one_another(rows, reach):
    made = [(x, y, x + a, y + b) for x, y, a, b in rows]
    expected = [
        (i, j)
        for i, p in enumerate(made)
        for j, q in enumerate(made)
        if i < j and max(q[0] - p[2], p[0] - q[2], q[1] - p[3], p[1] - q[3]) <= reach
    ]
    assert near_pairs(made, reach) == expected
