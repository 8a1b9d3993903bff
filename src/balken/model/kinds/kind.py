"""What Balken knows of each kind of authored record."""

from collections.abc import Callable
from typing import Any

from balken.model.base import Record
from balken.value import Value


class Kind(Value, frozen=True):
    """A kind: its record, the field of the project that holds them, how it is called, the rules it keeps.

    ``prefix``: of the ids of new ones.  ``rule``: holds for each of them; ``rules``: hold for all of them together.  A
    rule is given the project and raises EditError.
    """

    record: type[Record]
    collection: str
    prefix: str
    noun: str
    plural: str
    rule: Callable[[Any, Any], None] | None = None
    rules: tuple[Callable[[Any], None], ...] = ()
