"""The engine of the derivation: stages that say what they read, run in their order.

Within a stage the memo remembers each step with the objects it read; what a derivation does not ask for is let go.
"""

from collections.abc import Callable, Mapping, Sequence
from typing import Any

from balken.memo import Memo
from balken.value import Value


class Stage(Value, frozen=True):
    """One stage: what it gives, what it reads of what is given at first and by stages before it, and what makes it.

    ``make`` is given the memo and what the stage reads, in that order.
    """

    gives: str
    reads: tuple[str, ...]
    make: Callable[..., Any]


def run(stages: Sequence[Stage], memo: Memo, **given: Any) -> Mapping[str, Any]:
    """Return all that the stages give, by name; raises KeyError for one that reads what nothing before it gives."""
    values: dict[str, Any] = dict(given)
    for stage in stages:
        values[stage.gives] = stage.make(memo, *[values[name] for name in stage.reads])
    return values
