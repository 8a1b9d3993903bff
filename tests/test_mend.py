"""Fixing all findings of a kind: it ends, leaves other kinds alone, and passes over what cannot be fixed."""

import pytest

from balken import mending
from balken.demo import orchard_road
from balken.derive import derive
from balken.findings.fixes import FIXES
from balken.mending import mend_alike
from balken.model import edits
from balken.model.errors import EditError
from balken.units.system import INCH


def codes(project):
    return [f.code for f in derive(project).findings]


@pytest.fixture
def deeper():
    """The demo with its basement a foot deeper: footings beside it lie too high."""
    p = orchard_road()
    return edits.change(p, "foundation-1", foot__offset=p.foundations[0].foot.offset - 12 * INCH)


def test_all_of_a_kind_are_mended_and_nothing_else_is_touched(deeper):
    assert codes(deeper).count("beside lower") > 2
    mended = mend_alike(deeper, "beside lower")
    assert "beside lower" not in codes(mended)
    assert (mended.walls, mended.floors, mended.roofs) == (deeper.walls, deeper.floors, deeper.roofs)
    assert mended.foundations[0] == deeper.foundations[0]


def test_a_kind_without_findings_changes_nothing(deeper):
    assert mend_alike(deeper, "no such kind") is deeper


def test_fixes_that_do_not_help_or_cannot_be_run_are_tried_once(deeper, monkeypatch):
    ran = []

    def useless(project, *args, **fields):
        ran.append(args)
        if len(ran) % 2:
            raise EditError("it cannot be.")
        return project

    monkeypatch.setitem(mending.FIXES, "step_to_meet", useless)
    assert mend_alike(deeper, "beside lower") == deeper
    assert len(ran) == len(set(map(repr, ran))) == codes(deeper).count("beside lower")


def test_stepping_down_with_the_ground_keeps_steps_to_lower_footings():
    """With frost a little deeper the wing is stepped anew; where it meets the basement it still goes down to it."""
    p = edits.set_loads(orchard_road(), frost_depth=40.0 * INCH)
    found = [f for f in derive(p).findings if f.code == "frost"]
    assert [f.fix.command for f in found].count("step_down") > 1
    assert "beside lower" not in codes(p)
    stepped = FIXES["step_down"](p, *next(f.fix.args for f in found if f.what.startswith("Wing")))
    assert "beside lower" in codes(stepped)  # what it would bring up by itself
    for finding in found:
        p = mending.run_fix(p, finding.fix)
    assert not {"frost", "beside lower"} & set(codes(p))


def test_what_was_wrong_before_is_left_to_its_own_fix(deeper):
    p = edits.set_loads(deeper, frost_depth=40.0 * INCH)
    before = codes(p).count("beside lower")
    finding = next(f for f in derive(p).findings if f.code == "frost" and f.fix.command == "step_down")
    assert before > 0
    assert "beside lower" in codes(mending.run_fix(p, finding.fix))
