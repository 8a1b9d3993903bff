"""Mending all findings of a kind: one fix after the other, each worked out for what the one before left."""

from balken.derive import derive
from balken.findings.commands import COMMANDS
from balken.findings.finding import Fix
from balken.memo import Memo
from balken.model.errors import EditError
from balken.model.records import Project

MOST = 60
"""No more fixes than this are run in one go; one that brings up another does not go on for ever."""


def mend_alike(project: Project, code: str) -> Project:
    """Run the fixes of all findings with this code; one that cannot be run, or did not help, is not tried again."""
    memo, tried = Memo(), set[str]()
    for _ in range(MOST):
        fixes = (f.fix for f in derive(project, memo).findings if f.code == code and f.fix is not None)
        fix = next((fix for fix in fixes if repr(fix) not in tried), None)
        if fix is None:
            break
        tried.add(repr(fix))
        try:
            project = run_fix(project, fix)
        except EditError:
            continue
    return project


OPENS = {"step_down": "beside lower"}
"""What a fix can bring up: steps laid anew with the ground no longer go down to lower footings beside them."""


def run_fix(project: Project, fix: Fix) -> Project:
    """Return the project with one fix done, and with it what it brought up; raises EditError when it cannot be."""
    after = COMMANDS[fix.command](project, *fix.args, **dict(fix.fields))
    opened = OPENS.get(fix.command)
    if opened is None or any(f.code == opened for f in derive(project).findings):
        return after  # what stood before is the user's to mend
    return mend_alike(after, opened)
