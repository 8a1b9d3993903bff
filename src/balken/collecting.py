"""Work that makes very many objects without looking for garbage in between."""

import gc
from collections.abc import Iterator
from contextlib import contextmanager


@contextmanager
def collecting_later() -> Iterator[None]:
    """Look for cycles of dead objects after the work, not during it: all that it makes would be gone through again and again, and is alive."""
    was = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if was:
            gc.enable()
