"""Remembering the steps of a derivation: a step runs again only when something it read is another object."""

from collections.abc import Callable, Mapping
from typing import Any, TypeVar

from msgspec import Struct, field

T = TypeVar("T")
R = TypeVar("R")
Kept = tuple[tuple[Any, ...], Any, tuple[str, ...]]
"""What a step read, what it gave, and the names of the steps that ran within it."""


class Memo(Struct):
    """Results of the steps of the last derivation, each with what it read."""

    kept: dict[str, Kept] = field(default_factory=dict)
    made: list[str] = field(default_factory=list)
    """Names of the steps that the last derivation ran anew."""
    _asked: set[str] = field(default_factory=set)
    _within: list[list[str]] = field(default_factory=list)

    def begin(self) -> None:
        """Begin a derivation."""
        self.made.clear()
        self._asked.clear()
        self._within.clear()

    def finish(self) -> None:
        """Let go of what this derivation did not ask for: steps of things that are gone."""
        asked = self._asked
        if len(asked) < len(self.kept):
            self.kept = {name: row for name, row in self.kept.items() if name in asked}

    def step(self, name: str, make: Callable[..., T], *read: Any) -> T:
        """Return ``make(*read)``, or the last result when every object read is the same.

        ``make`` may ask this memo for steps of its own; they live as long as it does.
        """
        known = self.kept.get(name)
        self._ask(name)
        if known is not None and len(known[0]) == len(read):
            for a, b in zip(known[0], read, strict=True):
                if a is not b:
                    break
            else:
                self._still_asked(known[2])
                return known[1]  # type: ignore[no-any-return]
        self.made.append(name)
        self._within.append([])
        try:
            result = make(*read)
        finally:
            within = self._within.pop()
        if known is not None and type(known[1]) is type(result) and known[1] == result:
            result = known[1]
        self.kept[name] = (read, result, tuple(within))
        return result

    def together(self, rows: Mapping[str, R], make: Callable[[list[R]], list[T]]) -> dict[str, T]:
        """Return what ``make`` gives for each row, by name; it is asked in one go for those that are other objects now."""
        for name in rows:
            self._ask(name)
        new = [name for name, row in rows.items() if name not in self.kept or self.kept[name][0][0] is not row]
        for name, result in zip(new, make([rows[name] for name in new]) if new else [], strict=True):
            self.made.append(name)
            known = self.kept.get(name)
            if known is not None and type(known[1]) is type(result) and known[1] == result:
                result = known[1]
            self.kept[name] = ((rows[name],), result, ())
        return {name: self.kept[name][1] for name in rows}

    def keep(self, name: str, value: T) -> T:
        """Return the object kept under this name when it equals ``value``, so that it is recognised."""
        known = self.kept.get(name)
        self._ask(name)
        if known is not None and type(known[1]) is type(value) and known[1] == value:
            return known[1]
        self.kept[name] = ((), value, ())
        return value

    def _ask(self, name: str) -> None:
        self._asked.add(name)
        if self._within:
            self._within[-1].append(name)

    def _still_asked(self, names: tuple[str, ...]) -> None:
        for name in names:
            if name not in self._asked:
                self._asked.add(name)
                row = self.kept.get(name)
                if row is not None and row[2]:
                    self._still_asked(row[2])
