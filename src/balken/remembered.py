"""Remembering what a pure function made of the same objects last time."""

from collections.abc import Callable
from functools import wraps
from typing import Any, TypeVar

T = TypeVar("T")
PLAIN = frozenset({float, int, bool, str})
"""What is looked up by value."""


TURN = 8
"""After so many edits what was not asked for is on its way out; after as many again it is gone."""
_age = [0]
_turns: list[Callable[[], None]] = []


def remembered(most: int) -> Callable[[Callable[..., T]], Callable[..., T]]:
    """Keep a function's results by the objects it read: the same objects, not equal ones; figures and words by value.

    From one edit to the next most derived parts are the same objects, so that this costs less than comparing
    them.  ``most``: how many results are kept; beyond that those are let go that were not asked for of late.
    """

    def wrap(make: Callable[..., T]) -> Callable[..., T]:
        # The objects are held, so that no other one can come to have their identity.
        kept: dict[tuple[Any, ...], tuple[tuple[Any, ...], T]] = {}
        before: dict[tuple[Any, ...], tuple[tuple[Any, ...], T]] = {}

        def turn() -> None:
            """Let go what was not asked for since the last turn."""
            nonlocal kept, before
            kept, before = {}, kept

        _turns.append(turn)

        @wraps(make)
        def call(*read: Any) -> T:
            key = tuple([x if type(x) in PLAIN else id(x) for x in read])
            known = kept.get(key)
            if known is not None:
                return known[1]
            known = before.pop(key, None)
            if 2 * len(kept) >= most:
                turn()
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


def grow_older() -> None:
    """Let go, every few calls, what no function was asked for since the last time; called after each derivation.

    Else what is remembered of many edits ago fills the machine's memory and slows it down.
    """
    _age[0] += 1
    if _age[0] % TURN == 0:
        for turn in _turns:
            turn()
