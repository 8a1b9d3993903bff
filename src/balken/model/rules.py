"""What must hold in every project: each rule raises EditError with what, where and what to do.

Rules of a kind stand in its module (``kinds``), those of what is decided once for the project here and in
``rules_project``.  A rule is given a view of the project that notes what the rule reads; when it held last time for the
same objects, it is not asked again.
"""

from collections.abc import Callable
from functools import lru_cache
from typing import Any

from balken.model.errors import EditError
from balken.model.kinds import KINDS
from balken.model.kinds.kind import Kind
from balken.model.records import Project
from balken.model.rules_project import PROJECT_RULES
from balken.model.tidy import check_figures, tidied
from balken.model.visitor import every, hanging, without

Rule = Callable[[Any], None]
MOST_HELD = 60
"""How many times that it held are remembered of each rule."""


def check(project: Project) -> Project:
    """Return the project, its figures tidy, without removed levels that nothing hangs on; raises EditError at a broken rule."""
    project = tidied(_swept(project))
    _ids(project)
    for rule in rules():
        if not _holds_still(rule, project):
            view = View(project)
            rule(view)
            _remember(rule, view)
    check_figures(project)
    return project


def check_kinds(project: Project, *collections: str) -> None:
    """Raise EditError at a broken rule of some kinds alone, by their fields: where all else of a project is known to hold."""
    for kind in KINDS:
        if kind.collection not in collections:
            continue
        for record in getattr(project, kind.collection):
            if kind.rule is not None:
                kind.rule(project, record)
        for rule in kind.rules:
            rule(project)
    check_figures(project, *collections)


class View:
    """A project as a rule sees it; ``read``: the fields it looked at, with the objects it found there."""

    def __init__(self, project: Project) -> None:
        self._project = project
        self.read: dict[str, Any] = {}

    def __getattr__(self, name: str) -> Any:
        value = getattr(self._project, name)
        self.read[name] = value
        return value


_held: dict[Rule, list[dict[str, Any]]] = {}
"""What each rule read when it held; the objects are kept here, so that no others can come to have their identity."""


def _holds_still(rule: Rule, project: Project) -> bool:
    """Whether a rule held when it read the very objects that are there now.

    What a rule reads follows from what it has read before, so that the same objects lead to the same reading.
    """
    return any(all(getattr(project, name) is value for name, value in read.items()) for read in _held.get(rule, ()))


def _remember(rule: Rule, view: View) -> None:
    rows = _held.setdefault(rule, [])
    rows.insert(0, view.read)
    del rows[MOST_HELD:]


def _each(kind: Kind) -> Rule:
    """Return the rule that a kind's rule holds for each of its records."""

    def of_all(view: Any) -> None:
        assert kind.rule is not None
        for record in getattr(view, kind.collection):
            kind.rule(view, record)

    return of_all


def rules() -> tuple[Rule, ...]:
    """Return every rule, kind by kind, then those of the whole project."""
    return _rules_of(tuple(KINDS))


@lru_cache(2)
def _rules_of(kinds: tuple[Kind, ...]) -> tuple[Rule, ...]:
    of_kinds = [rule for kind in kinds for rule in ([_each(kind)] if kind.rule is not None else []) + list(kind.rules)]
    return (*of_kinds, *PROJECT_RULES)


def _swept(project: Project) -> Project:
    """Let go of removed levels once nothing hangs on them."""
    for level in project.levels:
        if level.removed and not hanging(project, level.id):
            project = without(project, level.id, "levels")
    return project


def _ids(project: Project) -> None:
    seen: set[str] = set()
    for record in every(project):
        name = getattr(record, "id", "")
        if not name or name in seen:
            raise EditError(f"the id '{name}' is used twice or empty.", type(record).__name__)
        seen.add(name)
