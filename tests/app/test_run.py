"""Starting the program as a process of its own: it opens, ends when asked, and says why it cannot open."""

import os
import signal
import subprocess
import sys
import time

import pytest
from tests.shop import shop

from balken.app.run import _unexpected
from balken.exchange import project_file

PATIENCE = 60.0
"""Seconds after which a start counts as failed; a slow machine needs a few."""


@pytest.fixture
def home(tmp_path):
    """An environment that keeps settings and journals in a folder of its own."""
    folders = {f"XDG_{kind}_HOME": str(tmp_path / kind.lower()) for kind in ("CONFIG", "STATE", "CACHE", "DATA")}
    return {**os.environ, **folders, "HOME": str(tmp_path), "QT_QPA_PLATFORM": "offscreen"}


TELLING = """
import sys
from balken.app import run
from balken.cli import main

shown = run.MainWindow.show
run.MainWindow.show = lambda window: (shown(window), print("shown", flush=True))
raise SystemExit(main(sys.argv[1:]))
"""
"""The program, which also prints a word once its window is shown."""


def start(environment, *words):
    return subprocess.Popen(
        [sys.executable, "-c", TELLING, *words],
        env=environment,
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        text=True,
    )


@pytest.mark.parametrize("what", ["demo", "file", "nothing"])
def test_the_program_opens_and_ends_on_ctrl_c(home, tmp_path, what):
    project = tmp_path / "Shop.balken"
    project_file.save(shop(), project)
    words = {"demo": ["--demo"], "file": [str(project)], "nothing": []}[what]
    process = start(home, *words)
    try:
        assert process.stdout.readline() == "shown\n"
        time.sleep(1.0)  # until its events run
        process.send_signal(signal.SIGINT)
        _, told = process.communicate(timeout=PATIENCE)
    finally:
        process.kill()
    assert process.returncode == 0, told
    assert "Traceback" not in told
    assert project_file.load(project) == shop()


def test_without_a_display_it_says_so(home):
    bare = {k: v for k, v in home.items() if k not in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")}
    process = start(bare, "--demo")
    _, told = process.communicate(timeout=PATIENCE)
    assert process.returncode == 2
    assert "no display" in told
    assert "balken export" in told


def test_a_file_that_is_none_is_said_and_no_window_opens(home, tmp_path):
    spoilt = tmp_path / "spoilt.balken"
    spoilt.write_text("not a project")
    for path, says in ((spoilt, "spoilt.balken"), (tmp_path / "gone.balken", "no such file")):
        process = start(home, str(path))
        _, told = process.communicate(timeout=PATIENCE)
        assert process.returncode == 2
        assert says in told
        assert "Traceback" not in told


def test_a_fault_of_balkens_own_is_told_and_the_window_goes_on(demo_user, capsys):
    said = []
    demo_user.session.message.connect(lambda text, wrong: said.append((text, wrong)))
    before = demo_user.project
    try:
        raise KeyError("some fault")
    except KeyError as error:
        _unexpected(demo_user.window, type(error), error, error.__traceback__)
    assert said
    assert "KeyError" in said[0][0]
    assert said[0][1]
    assert "some fault" in capsys.readouterr().err
    assert demo_user.project is before
    assert demo_user.window.isVisible()


@pytest.mark.parametrize("fault", [lambda: max([]), lambda: {}["gone"], lambda: [].pop()])
def test_a_fault_while_something_is_shown_or_drawn_is_told_too(demo_user, qtbot, monkeypatch, fault):
    """Faults that C code raises, in what Qt calls itself: PySide alone would end the program."""
    monkeypatch.setattr("balken.app.sheet_view.sheet_set", lambda model: [fault() for _ in (1,)])
    with qtbot.captureExceptions() as told:
        demo_user.stage(7)
    assert [kind for kind, _, _ in told]
    assert demo_user.window.isVisible()
    monkeypatch.undo()
    demo_user.stage(1)
    demo_user.stage(7)
    assert demo_user.window.sheets.pages
