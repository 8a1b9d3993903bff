"""Telling listeners: what happens is said to whoever asked to hear of it, in the order in which they asked."""

import sys
import weakref
from collections.abc import Callable
from types import MethodType
from typing import Any

Listener = Callable[..., object]


class News:
    """One kind of news.  A method is told as long as its object lives, a plain function until it leaves."""

    def __init__(self) -> None:
        self._listeners: list[Callable[[], Listener | None]] = []

    def connect(self, listener: Listener) -> None:
        """Tell a function from now on."""
        held: Callable[[], Listener | None]
        held = weakref.WeakMethod(listener) if isinstance(listener, MethodType) else lambda: listener
        self._listeners.append(held)

    def disconnect(self, listener: Listener) -> None:
        """Tell a function no more."""
        self._listeners = [held for held in self._listeners if held() != listener]

    def emit(self, *what: Any) -> None:
        """Tell everyone; one who fails is reported and does not keep the news from the others."""
        for held in list(self._listeners):
            listener = held()
            if listener is None:
                self._listeners.remove(held)
                continue
            try:
                listener(*what)
            except Exception:
                sys.excepthook(*sys.exc_info())
