"""Mending findings: one fix after the other, each worked out for what the one before left, none kept that does not help."""

import math
import re
from collections.abc import Callable

from balken.derive import derive
from balken.derived.finding import Finding, Fix
from balken.findings.fixes import FIXES
from balken.memo import Memo
from balken.model.errors import EditError
from balken.model.records import Project
from balken.value import Value

MOST = 60
"""No more fixes of a kind than this are run in one go; one that brings up another does not go on for ever."""
MOST_OF_ALL = 300


class Mended(Value, frozen=True):
    """A project mended: the findings whose fixes were applied, in their order, and those that remain."""

    project: Project
    applied: tuple[Finding, ...]
    remaining: tuple[Finding, ...]


def mend_alike(project: Project, code: str) -> Project:
    """Run the fixes of all findings with this code; one that cannot be run, or does not help, is left alone."""
    return _mended(project, lambda f: f.code == code, MOST).project


def mend_all(project: Project) -> Mended:
    """Run the fixes of all findings, gravest first, until none is left or none helps."""
    return _mended(project, lambda f: True, MOST_OF_ALL)


def _mended(project: Project, wanted: Callable[[Finding], bool], most: int) -> Mended:
    memo, tried, applied = Memo(), set[str](), list[Finding]()
    findings = derive(project, memo).findings
    for _ in range(most):
        todo = next((f for f in findings if wanted(f) and f.fix is not None and repr(f.fix) not in tried), None)
        if todo is None or todo.fix is None:
            break
        tried.add(repr(todo.fix))
        try:
            after = run_fix(project, todo.fix)
        except EditError:
            continue
        left = derive(after, memo).findings
        if not helps(todo, findings, left):
            continue
        project, findings = after, left
        applied.append(todo)
    return Mended(project, tuple(applied), findings)


def helps(finding: Finding, before: tuple[Finding, ...], after: tuple[Finding, ...]) -> bool:
    """Tell whether a fix made its finding go without bringing up graver ones than it settled."""
    if any(same(finding, f) for f in after):
        return False
    return sum(f.grave for f in after) <= sum(f.grave for f in before)


def same(a: Finding, b: Finding) -> bool:
    """Tell whether two findings are the same one, whatever figures they name now: one kind, the same things, one place."""
    if a.code != b.code or set(a.things) != set(b.things):
        return False
    return a.fix == b.fix or (_FIGURES.sub("", a.what) == _FIGURES.sub("", b.what) and math.dist(a.at, b.at) < NEAR)


_FIGURES = re.compile(r"(over )?[\d,.]+%|[\d'\"/., -]*\d['\"]")
NEAR = 1500.0
"""Findings farther apart than this are not the same one, mm."""


OPENS = {"step_down": "beside lower"}
"""What a fix can bring up: steps laid anew with the ground no longer go down to lower footings beside them."""


def run_fix(project: Project, fix: Fix) -> Project:
    """Return the project with one fix done, and with it what it brought up; raises EditError when it cannot be."""
    after = FIXES[fix.command](project, *fix.args, **dict(fix.fields))
    opened = OPENS.get(fix.command)
    if opened is None or any(f.code == opened for f in derive(project).findings):
        return after  # what stood before is the user's to mend
    return mend_alike(after, opened)
