"""The cached picture of a drawing: only what an edit changed is painted again, and it looks as if all were."""

import numpy as np
import pytest
from PySide6.QtWidgets import QApplication

from balken.app.drawing_view import changed_part
from balken.app.painting import prepare
from balken.documents.display import Path, Text
from balken.model import edits, grid_edits, wall_edits
from balken.units.system import FOOT

EDITS = {
    "an opening moves": (2, lambda p: edits.change(p, "opening-2", offset=p.openings[1].offset + 2 * FOOT)),
    "an inside wall moves": (2, lambda p: wall_edits.drag_walls(p, ("wall-5",), 0.0, FOOT)),
    "an outside wall moves": (2, lambda p: wall_edits.drag_walls(p, ("wall-3",), 0.0, FOOT)),
    "an axis moves": (1, lambda p: grid_edits.set_axis_gap(p, "grid-1", "x2", 15 * FOOT)),
    "the ridge rises": (5, lambda p: edits.change(p, "roof-1", pitch=0.52)),
    "the footing gets wider": (3, lambda p: edits.change(p, "foundation-1", footing_width=30 * 25.4)),
    "a wall goes": (2, lambda p: edits.remove(p, "opening-1")),
}


SHADE = 8
"""Soft edges of lines may differ by this much of 255 where a picture is painted in part: nobody can see it."""


def pictures(user):
    QApplication.processEvents()
    return [pixels(view.grab().toImage()) for view in (user.canvas, user.window.strip)]


def pixels(image):
    rows = np.frombuffer(image.constBits(), np.uint8).reshape(image.height(), image.bytesPerLine())
    return rows[:, : 4 * image.width()].astype(int)


@pytest.mark.parametrize("what", EDITS)
def test_painting_what_changed_gives_the_same_picture_as_painting_all(demo_user, what):
    stage, edit = EDITS[what]
    demo_user.stage(stage)
    demo_user.window.bottom.tabBarClicked.emit(0)  # stays open, so that views keep their size
    pictures(demo_user)
    painted = []
    for view in (demo_user.canvas, demo_user.window.strip):
        view._paint_items = lambda *a, paint=view._paint_items: (painted.append(a[1]), paint(*a))
    for step in ("do", "undo"):
        if step == "do":
            assert demo_user.session.apply(what, edit)
        else:
            demo_user.session.undo()
        partly = pictures(demo_user)
        for view in (demo_user.canvas, demo_user.window.strip):
            view._redraw()
        for some, every in zip(partly, pictures(demo_user), strict=True):
            assert np.abs(some - every).max() <= SHADE
    assert any(part is not None for part in painted), "nothing was ever painted in part"


def test_what_changed_between_two_drawings():
    a, b, c = (Path(((x, 0.0), (x + 10.0, 20.0)), "thin") for x in (0.0, 100.0, 200.0))
    label = Text((50.0, 50.0), "F1", 5.0)
    part = changed_part(prepare([a, b, label]), prepare([a, c, label]))
    assert (part.left(), part.right(), part.top(), part.bottom()) == (100.0, 210.0, 0.0, 20.0)
    assert changed_part(prepare([a, b]), prepare([a, b])).isNull()
    same = Path(((0.0, 0.0), (10.0, 20.0)), "thin")
    assert changed_part(prepare([a, b]), prepare([same, b])).isNull()
    assert changed_part(prepare([a, b]), prepare([b, a])) is None
