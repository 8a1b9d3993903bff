"""Any history of trials, edits, undo and redo: what is shown is what a project opened fresh shows."""

from functools import partial

from hypothesis import given, settings
from hypothesis import strategies as st
from tests.shop import shop
from tests.test_robust import EDITS

from balken.derive import derive
from balken.documents.cross_section import cross_section, effective_cut
from balken.documents.plan import PlanOf, plan
from balken.documents.quantities import quantities
from balken.session.session import Session

PARTS = frozenset({"grid", "walls", "foundations", "floors", "roof", "outline", "ground"})
DEEDS = ("try", "try", "make", "make", "make what was tried", "drop", "undo", "undo", "redo")
step = st.tuples(st.sampled_from(DEEDS), st.integers(0, len(EDITS) - 1), st.floats(0.0, 1.0), st.floats(0.0, 1.0))


def drawn(model):
    """Return the items of a plan with everything and of the section."""
    cut = effective_cut(model)
    what = PlanOf("all", PARTS, frozenset({"bearings", "walls", "foundations"}))
    return plan(model, what, 48.0).items, cross_section(model, cut, 48.0).items, quantities(model)


def edit_of(number, x, y, project):
    return EDITS[number](project, x, y)


@settings(max_examples=40)
@given(st.lists(step, min_size=2, max_size=12))
def test_what_stands_after_any_history_is_what_its_project_gives_from_cold(qapp, steps):
    session = Session(shop())
    faults: list[str] = []
    session.message.connect(lambda text, wrong: faults.append(text) if "could not work this out" in text else None)
    projects = [session.project]
    undone: list = []
    tried = None
    for deed, number, x, y in steps:
        if deed == "try":
            tried = partial(edit_of, number, x, y)
            before = session.model
            session.try_out(tried)
            assert session.model is before
            if session.trial is not None:
                drawn(session.trial)  # as it is drawn ahead
        elif deed == "drop":
            session.try_out(None)
            assert session.trial is None
        elif deed == "undo":
            if len(projects) > 1:
                undone.append(projects.pop())
            session.undo()
        elif deed == "redo":
            if undone:
                projects.append(undone.pop())
            session.redo()
        else:
            edit = tried if deed != "make" and tried is not None else partial(edit_of, number, x, y)
            session.apply("x", edit)
            if session.project != projects[-1]:
                projects.append(session.project)
                undone.clear()
            assert session.trial is None or session.project == projects[-1]
        assert session.project == projects[-1]
        assert session.model.project is session.project
    assert faults == []
    cold = derive(session.project)
    assert session.model.pieces == cold.pieces
    assert session.model.findings == cold.findings
    assert session.model.path.applied == cold.path.applied
    assert drawn(session.model) == drawn(cold)
