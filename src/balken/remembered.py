"""Remembering what a pure function made of the same objects last time."""

from collections.abc import Callable
from functools import wraps
from typing import Any, TypeVar

T = TypeVar("T")
PLAIN = frozenset({float, int, bool, str})
"""What is looked up by value."""


def remembered(most: int) -> Callable[[Callable[..., T]], Callable[..., T]]:
    """Keep a function's results by the objects it read: the same objects, not equal ones; figures and words by value.

    From one edit to the next most derived parts are the same objects, so that this costs less than comparing
    them.  ``most``: how many results are kept; beyond that those are let go that were not asked for of late.
    """

    def wrap(make: Callable[..., T]) -> Callable[..., T]:
        # The objects are held, so that no other one can come to have their identity.
        kept: dict[tuple[Any, ...], tuple[tuple[Any, ...], T]] = {}
        before: dict[tuple[Any, ...], tuple[tuple[Any, ...], T]] = {}

        @wraps(make)
        def call(*read: Any) -> T:
            nonlocal kept, before
            key = tuple([x if type(x) in PLAIN else id(x) for x in read])
            known = kept.get(key)
            if known is not None:
                return known[1]
            known = before.pop(key, None)
            if 2 * len(kept) >= most:
                kept, before = {}, kept
            if known is None:
                known = (read, make(*read))
            kept[key] = known
            return known[1]

        return call

    return wrap


@remembered(1_000)
def together(*objects: T) -> tuple[T, ...]:
    """Return the same tuple for the same objects, so that what reads them together is remembered too."""
    return objects
