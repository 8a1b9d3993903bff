"""Random edits in the window: every view is drawn, and shows what its project gives, never an older one."""

import os
import random

from PySide6.QtWidgets import QApplication
from tests.test_robust import EDITS

from balken.demo import orchard_road
from balken.derive import derive
from balken.model import wall_edits
from balken.panel.stages import STAGES

COUNT = int(os.environ.get("BALKEN_WINDOW_EDITS", "200"))
"""How many edits are made; `make hunt` makes many more."""


def test_random_edits_are_shown_everywhere(demo_user):
    rng = random.Random(int(os.environ.get("BALKEN_SEED", "7")))
    session, window = demo_user.session, demo_user.window
    start, done = session.project, 0
    for k in range(COUNT):
        if k % 12 == 0:
            session.replace(orchard_road() if k % 24 else start, None)
        window.set_stage(rng.randrange(len(STAGES)))
        if rng.random() < 0.2:
            walls = session.project.walls
            chosen = rng.choice(walls).id if walls else "none"
            by = (rng.uniform(-400, 400), rng.uniform(-400, 400))
            edit = lambda p, chosen=chosen, by=by: wall_edits.drag_walls(p, (chosen,), *by)  # noqa: E731
        else:
            which, x, y = rng.choice(EDITS), rng.random(), rng.random()
            edit = lambda p, which=which, x=x, y=y: which(p, x, y)  # noqa: E731
        done += session.apply("edit", edit)
        assert "Balken could not" not in window.hint_label.text()
        if rng.random() < 0.15:
            session.undo()
        if rng.random() < 0.1:
            session.redo()
        QApplication.processEvents()
        window.grab()
        for view in (window.canvas, window.strip, window.sheets.paper, window.framing):
            assert not view.fault
        if k % 10 == 9:
            # What stands on the canvas is what the project gives, drawn anew from cold.
            if not window.canvas.isVisible():
                window.set_stage(rng.randrange(6))
                QApplication.processEvents()
            cold = window.canvas.drawn(derive(session.project))
            shown = [prepared.item for prepared in window.canvas.prepared]
            assert sorted(map(repr, shown)) == sorted(map(repr, cold))
    assert done > COUNT // 4
