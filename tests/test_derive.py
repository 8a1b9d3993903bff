"""Deriving by parts gives what deriving from cold gives, and makes only what changed."""

from hypothesis import given
from hypothesis import strategies as st

from balken.derive import derive
from balken.memo import Memo
from balken.model import edits, grid_edits
from balken.model.errors import EditError
from balken.units.system import FOOT
from tests.shop import shop

EDITS = [
    lambda p, x: edits.set_level(p, "level-2", (7.5 + 2 * x) * FOOT),
    lambda p, x: edits.set_level(p, "level-3", (-1.5 + x) * FOOT),
    lambda p, x: grid_edits.set_axis_gap(p, "grid-1", "x2", (10 + 8 * x) * FOOT),
    lambda p, x: edits.change(p, "roof-1", pitch=0.3 + x),
    lambda p, x: edits.change(p, "opening-1", offset=x * 5 * FOOT),
    lambda p, x: edits.set_loads(p, ground_snow=5 * x),
    lambda p, x: edits.set_choice(p, "floor-1", "joists", spacing=None if x < 0.3 else (0.7 + x) * FOOT),
    lambda p, x: edits.change(p, "foundation-1", footing_depth=(0.8 + x) * FOOT),
    lambda p, x: edits.remove(p, "wall-5") if x > 0.9 else p,
]


@given(st.lists(st.tuples(st.integers(0, len(EDITS) - 1), st.floats(0.0, 1.0)), max_size=8))
def test_by_parts_equals_from_cold(steps):
    p, memo = shop(), Memo()
    derive(p, memo)
    for which, x in steps:
        try:
            p = EDITS[which](p, x)
        except EditError:
            continue
        parts, cold = derive(p, memo), derive(p)
        assert parts.pieces == cold.pieces
        assert parts.findings == cold.findings
        assert parts.soil == cold.soil
        assert parts.designs == cold.designs


def test_only_what_changed_is_made_again():
    p, memo = shop(), Memo()
    derive(p, memo)
    derive(p, memo)
    assert memo.made == []
    derive(edits.change(p, "opening-1", width=5 * FOOT), memo)
    assert "wall wall-1" in memo.made
    assert not any(step.startswith(("pieces", "plan", "wall wall-2")) for step in memo.made)


def test_an_undone_edit_gives_the_same_model():
    p, memo = shop(), Memo()
    first = derive(p, memo)
    derive(edits.change(p, "roof-1", pitch=1.0), memo)
    assert derive(p, memo).pieces == first.pieces
