"""Faults of the platform that would end the program, held off by pinned versions."""

import sys


def test_void_calls_do_not_eat_none(qtbot):
    """PySide6 6.12.0 on Python 3.11 loses a reference to None at nearly every void call."""
    from PySide6.QtWidgets import QLabel

    label = QLabel()
    qtbot.addWidget(label)
    before = sys.getrefcount(None)
    for i in range(10_000):
        label.setEnabled(bool(i % 2))
    assert abs(sys.getrefcount(None) - before) < 2_000
