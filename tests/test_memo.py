"""What is remembered between derivations: what is gone is let go, copies go on, nothing derived holds a function."""

import types

import msgspec
from hypothesis import given, settings
from hypothesis import strategies as st

from balken.demo import orchard_road
from balken.derive import derive
from balken.documents.cross_section import cross_section
from balken.documents.quantities import quantities
from balken.memo import Memo
from balken.model import edits
from balken.model.naming import place_of
from balken.model.records import Choice
from balken.units import Units
from balken.units.system import FOOT, INCH
from tests.houses import house


def test_steps_of_things_that_are_gone_are_forgotten():
    p, memo = house(), Memo()
    derive(p, memo)
    before = len(memo.kept)
    q = edits.add_opening(p, "wall-1", "window", 3 * FOOT, 3 * FOOT, 3 * FOOT, 3 * FOOT)
    for k in range(5):
        derive(edits.set_level(q, "level-2", 2500.0 + k), memo)
    q = edits.remove(q, "roof-1")
    derive(q, memo)
    assert not [name for name in memo.kept if "roof-1" in name]
    copied = Memo(dict(memo.kept))
    derive(p, copied)
    derive(p, memo)
    assert len(memo.kept) == before


def test_a_copied_memo_runs_nothing_anew():
    p, memo = orchard_road(), Memo()
    derive(p, memo)
    copied = Memo(dict(memo.kept))
    derive(p, copied)
    assert copied.made == []


def functions(value, path, seen, found):
    """Collect the paths under which a derived thing holds a function."""
    if id(value) in seen or isinstance(value, (str, bytes, int, float, type, type(None))):
        return
    seen.add(id(value))
    if (
        isinstance(value, (types.FunctionType, types.MethodType, types.BuiltinFunctionType))
        or type(value).__name__ == "partial"
    ):
        found.append(path)
    elif isinstance(value, dict):
        for k, v in value.items():
            functions(v, f"{path}[{k!r}]", seen, found)
    elif isinstance(value, (tuple, list, frozenset, set)):
        for i, v in enumerate(value):
            functions(v, f"{path}[{i}]", seen, found)
    elif isinstance(value, msgspec.Struct):
        for name in value.__struct_fields__:
            functions(getattr(value, name), f"{path}.{name}", seen, found)


def test_nothing_derived_holds_a_function():
    found = []
    functions(derive(orchard_road()), "model", set(), found)
    assert not found


def shown(model):
    """What a user sees of a model: neighbours, findings with their fixes, a section, quantities."""
    return (
        {key: design.neighbours for key, design in model.designs.items()},
        {w: framed.design.neighbours for w, framed in model.framed.items()},
        model.findings,
        cross_section(model, model.project.cut, 20.0).items if model.project.cut else (),
        quantities(model),
    )


CHANGES = (
    lambda p, x: edits.set_project(p, steps=Units.METRIC if x > 0.5 else Units.IMPERIAL),
    lambda p, x: edits.set_project(p, units=Units.METRIC if x > 0.5 else Units.IMPERIAL),
    lambda p, x: edits.set_choice(p, "floor-1", "joists", size=None if x > 0.5 else "2x8"),
    lambda p, x: edits.set_choice(p, "floor-1", "joists", spacing=None if x > 0.5 else 16 * INCH),
    lambda p, x: edits.set_loads(p, floor_live=1.0 + 3.0 * x),
    lambda p, x: edits.change(p, "foundation-1", footing_width=None if x > 0.5 else 400.0),
    lambda p, x: edits.change(p, "foundation-1", thickness=200.0 + 100.0 * x),
    lambda p, x: edits.set_level(p, "level-4", -600.0 + 400.0 * x),
    lambda p, x: edits.change(p, "roof-1", pitch=0.3 + x),
)


@settings(max_examples=20)
@given(st.lists(st.tuples(st.integers(0, len(CHANGES) - 1), st.floats(0.0, 1.0)), min_size=1, max_size=5))
def test_what_is_shown_hot_is_what_is_shown_cold(steps):
    p, memo = house(joists=Choice(size=None)), Memo()
    derive(p, memo)
    for k, x in steps:
        p = CHANGES[k](p, x)
        assert shown(derive(p, memo)) == shown(derive(p))


def test_more_than_a_thousand_joists_have_names_of_their_own():
    model = derive(house(330 * FOOT, 12 * FOOT, joists=Choice(size="2x10", spacing=3.9 * INCH)))
    places = [line.place for line in model.floors[0].lines]
    assert len(places) > 1000
    assert len(set(places)) == len(places)
    assert all(place_of(place) is not None for place in places)
