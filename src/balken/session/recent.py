"""The models derived of late: what a trial has shown, or undo brings back, is not derived again."""

import time

from balken.derive import derive
from balken.derived.model import Model
from balken.memo import Memo
from balken.model.records import Project
from balken.remembered import grow_older

MOST = 6
"""How many models are kept beside the one that stands; they share all that is alike in them."""


class Recent:
    """Derives projects from the one that stands, and keeps the last of what was made."""

    def __init__(self) -> None:
        self._known: list[tuple[Model, Memo]] = []
        self._standing = Memo()
        self.took = 0
        """How long the last derivation took, ms."""

    def model(self, project: Project) -> Model:
        """Return the model of a project; when it fails, what is known stays as it was."""
        for known in reversed(self._known):
            if known[0].project is project or known[0].project == project:
                return known[0]
        # Everything is derived from what stands, so that what an edit leaves alone stays the same object in both.
        memo = Memo(dict(self._standing.kept))
        start = time.perf_counter()
        model = derive(project, memo)
        self.took = round((time.perf_counter() - start) * 1000.0)
        grow_older()
        self._known.append((model, memo))
        del self._known[: -MOST - 1]
        return model

    def stand(self, model: Model) -> None:
        """Make a model that was returned the one that the next are derived from; it is kept longest."""
        for known in self._known:
            if known[0] is model:
                self._standing = known[1]
                self._known.remove(known)
                self._known.append(known)
                return
