"""Remembering the steps of a derivation: a step runs again only when something it read is another object."""

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, TypeVar

T = TypeVar("T")


@dataclass
class Memo:
    """Results of the steps of the last derivation, each with what it read."""

    kept: dict[str, tuple[tuple[Any, ...], Any]] = field(default_factory=dict)
    made: list[str] = field(default_factory=list)
    """Names of the steps that the last derivation ran anew."""

    def step(self, name: str, make: Callable[..., T], *read: Any) -> T:
        """Return ``make(*read)``, or the last result when every object read is the same."""
        known = self.kept.get(name)
        if known is not None and len(known[0]) == len(read):
            for a, b in zip(known[0], read, strict=True):
                if a is not b:
                    break
            else:
                return known[1]  # type: ignore[no-any-return]
        self.made.append(name)
        result = make(*read)
        if known is not None and type(known[1]) is type(result) and known[1] == result:
            result = known[1]
        self.kept[name] = (read, result)
        return result

    def keep(self, name: str, value: T) -> T:
        """Return the object kept under this name when it equals ``value``, so that it is recognised."""
        known = self.kept.get(name)
        if known is not None and known[1] == value:
            return known[1]  # type: ignore[no-any-return]
        self.kept[name] = ((), value)
        return value
