"""The open project tells its listeners, and needs no Qt for it."""

import subprocess
import sys

from balken.session.news import News
from balken.session.session import Session


class Listener:
    def __init__(self):
        self.heard = []

    def hear(self, *what):
        self.heard.append(what)


def test_everyone_hears_in_the_order_they_asked():
    news, heard = News(), []
    news.connect(lambda: heard.append(1))
    news.connect(lambda: heard.append(2))
    news.emit()
    assert heard == [1, 2]


def test_a_listener_that_is_gone_is_told_no_more():
    news, one, two = News(), Listener(), Listener()
    news.connect(one.hear)
    news.connect(two.hear)
    del one
    news.emit("a", True)
    assert two.heard == [("a", True)]
    news.disconnect(two.hear)
    news.emit("b", False)
    assert two.heard == [("a", True)]


def test_one_who_fails_does_not_keep_the_news_from_others(monkeypatch):
    faults, heard, news = [], Listener(), News()
    monkeypatch.setattr(sys, "excepthook", lambda kind, error, trace: faults.append(error))

    def fails():
        raise ValueError("no")

    news.connect(fails)
    news.connect(heard.hear)
    news.emit()
    assert heard.heard == [()]
    assert [str(error) for error in faults] == ["no"]


def test_a_whole_job_without_qt():
    """A project is edited, undone and mended by session and cards alone: Qt is never loaded."""
    program = """
import sys
from balken.demo import orchard_road
from balken.model import edits
from balken.panel.card_content import card
from balken.session.session import Session
session = Session(orchard_road())
told = []
session.message.connect(lambda text, wrong: told.append(text))
assert session.apply("Steeper", lambda p: edits.change(p, p.roofs[0].id, pitch=1.0))
session.undo()
for stage in ("set out", "walls", "foundations", "floors", "roof", "check", "sheets"):
    made = card(session, stage, lambda *a: None, lambda *a: None)
    assert made.title
session.select([session.project.floors[0].id])
assert card(session, "floors", lambda *a: None, lambda *a: None).parts
assert told == ["Steeper", "Undone: Steeper"]
assert not any(name.startswith(("PySide6", "shiboken6", "vtkmodules")) for name in sys.modules)
"""
    subprocess.run([sys.executable, "-c", program], check=True, timeout=60)


def test_undo_tells_once():
    session, heard = Session(), Listener()
    session.changed.connect(heard.hear)
    session.undo()
    assert not heard.heard
