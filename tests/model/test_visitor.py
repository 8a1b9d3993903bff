"""What refers to what is read from the types: nothing that is removed is referred to afterwards, nothing is forgotten."""

import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.shop import shop

from balken.demo import orchard_road
from balken.model import edits
from balken.model.errors import EditError
from balken.model.records import KIND_OF, KINDS, AxisPoint, Floor, FreePoint, Hang, Level, Step, Wall
from balken.model.rules import View, check, rules
from balken.model.visitor import changed, every, fields_of, hanging, mapped, moved_places, references, referring

DEMO = orchard_road()


def ids_in(project):
    return {record.id for record in every(project)}


def test_every_collection_of_the_project_has_a_kind():
    rows = {n for n, hint in type(DEMO).__annotations__.items() if str(hint).startswith(("tuple[", "tuple("))}
    assert {kind.collection for kind in KINDS} == rows
    assert len({kind.prefix for kind in KINDS}) == len({kind.noun for kind in KINDS}) == len(KINDS)


def test_no_field_that_holds_an_id_is_left_unmarked():
    """By name: a field called as a kind is, or as its collection, holds ids of that kind and must say so."""
    nouns = {kind.prefix for kind in KINDS} | {kind.collection for kind in KINDS} | {"joined", "head_under"}
    for kind in (*[k.record for k in KINDS], Step, AxisPoint):
        marked = {field.name for field in fields_of(kind)}
        for name, hint in kind.__annotations__.items():
            if name in nouns and "str" in str(hint):
                assert name in marked, (kind, name)


def test_references_of_the_demo_are_all_there():
    known = ids_in(DEMO)
    found = [ref for record in every(DEMO) for ref in references(record)]
    assert len(found) > 150
    assert {ref.id for ref in found} <= known


def test_what_hangs_on_a_level_and_what_refers_to_a_wall():
    names = {type(r).__name__ for r in hanging(DEMO, "level-1")}
    assert {"Wall", "Floor"} <= names
    assert "Opening" in {type(r).__name__ for r in referring(DEMO, "wall-1")}


@given(st.data())
def test_what_is_removed_is_referred_to_no_more(data):
    p = data.draw(st.sampled_from([DEMO, shop()]))
    for _ in range(data.draw(st.integers(1, 4))):
        record = data.draw(st.sampled_from(list(every(p))))
        if record.id not in ids_in(p):
            continue
        try:
            after = edits.remove(p, record.id)
        except EditError:
            continue
        p = after
        known = ids_in(p)
        for other in every(p):
            for ref in references(other):
                assert ref.id in known
        if not isinstance(record, Level):
            assert record.id not in known


@pytest.mark.parametrize("kind", [k for k in KINDS if any(f.sort != "records" for f in fields_of(k.record))])
def test_a_reference_to_what_is_not_there_is_refused(kind):
    records = getattr(DEMO, kind.collection)
    if not records:
        pytest.skip("the demo has none")
    record = records[0]
    if kind.noun != "grid":  # on which levels a grid shows says nothing that could break
        broken = changed(record, ids=lambda item, to: "nothing", hangs=lambda h: Hang(level="nothing"))
        with pytest.raises(EditError):
            check(mapped(DEMO, lambda r: broken if r is record else r))


def test_nothing_changed_is_the_same_object():
    assert mapped(DEMO, lambda r: changed(r, ids=lambda i, to: i, hangs=lambda h: h, places=lambda p: p)) is DEMO


def test_places_move_wherever_they_are():
    def away(place):
        return FreePoint(x=1.0, y=2.0)

    moved = moved_places(DEMO, away)
    assert all(w.start == w.end == FreePoint(x=1.0, y=2.0) for w in moved.walls)
    assert all(c.place == FreePoint(x=1.0, y=2.0) for c in (*moved.columns, *moved.pads))


def test_a_rule_says_what_it_reads():
    """Each rule reads something; a rule that held is asked again when any of that is another object."""
    for rule in rules():
        view = View(DEMO)
        rule(view)
        assert view.read
    walls = next(r for r in rules() if r.__qualname__ == "check_crossings")
    view = View(DEMO)
    walls(view)
    assert {"walls", "grids", "levels"} <= view.read.keys()


def test_a_broken_rule_is_found_however_often_it_held():
    p = check(shop())
    check(p)
    low = msgspec.structs.replace(p, levels=tuple(msgspec.structs.replace(v, height=0.0) for v in p.levels))
    with pytest.raises(EditError):
        check(low)
    check(p)


def test_kinds_are_found_by_their_records():
    assert KIND_OF[Wall].noun == "wall"
    assert KIND_OF[Floor].collection == "floors"
