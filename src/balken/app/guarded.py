"""Faults of Balken's own in what Qt calls of widgets and models: told like any other, and the window goes on.

Left to PySide a fault that C code raised (a key that is not there) ends the program where Python makes such exceptions late, as 3.11 does.
"""

import functools
import sys
from collections.abc import Callable, Iterator
from typing import Any

from PySide6.QtCore import QObject

OTHERS = frozenset({"event", "eventFilter", "data", "headerData", "rowCount", "columnCount", "flags", "sizeHint"})
"""Beside what ends in "Event": what Qt asks for."""
INSTEAD: dict[str, Any] = {"event": False, "eventFilter": False, "rowCount": 0, "columnCount": 0}
"""What Qt is given where one of these fails; others give nothing."""


def guard_overrides() -> None:
    """Guard what Balken's own widgets and models override; once for each."""
    for kind in _own(QObject):
        for name, method in list(vars(kind).items()):
            if (name.endswith("Event") or name in OTHERS) and callable(method) and not hasattr(method, "guarded"):
                setattr(kind, name, _guarded(name, method))


def _own(kind: type) -> Iterator[type]:
    subs: list[type] = kind.__subclasses__()
    for sub in subs:
        if sub.__module__.startswith("balken."):
            yield sub
        yield from _own(sub)


def _guarded(name: str, method: Callable[..., Any]) -> Callable[..., Any]:
    @functools.wraps(method)
    def asked(*given: Any, **named: Any) -> Any:
        try:
            return method(*given, **named)
        except Exception:
            sys.excepthook(*sys.exc_info())
            return INSTEAD.get(name)

    asked.guarded = True  # type: ignore[attr-defined]
    return asked
