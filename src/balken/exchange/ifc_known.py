"""Entities of an IFC file as they are read: each, and each of its attributes, asked for once.

The reader behind makes an object anew at every question, and looks up at every one what kind of attribute it is; here both are kept.
"""

from typing import Any

MISSING, FORWARD, INVERSE, DERIVED = range(4)
"""Kinds of attributes, as the reader numbers them."""


NUMBERS = frozenset({float, int})
"""Lists that begin so hold nothing else."""
PLAIN = frozenset({type(None), str, float, int, bool})


class _Class:
    """What entities of one class have in common: where their attributes stand, of which classes they are too."""

    def __init__(self, name: str) -> None:
        self.name = name
        self.places: dict[str, tuple[int, int]] = {}
        self.of: dict[Any, Any] = {}


class KnownFile:
    """A file whose entities are kept as they are asked for."""

    def __init__(self, raw: Any) -> None:
        self.raw, self.schema = raw, raw.schema
        self._classes: dict[str, _Class] = {}
        self._known: dict[int, Known] = {}

    def by_type(self, kind: str) -> list[Any]:
        """Return all entities of a class; raises RuntimeError for one that its schema has not."""
        return [self.known(raw) for raw in self.raw.by_type(kind)]

    def known(self, raw: Any) -> "Known":
        """Return an entity; those without a number, plain values with a type, are made anew."""
        number = raw.id()
        found = self._known.get(number)
        if found is None:
            name = raw.is_a()
            of = self._classes.get(name)
            if of is None:
                of = self._classes[name] = _Class(name)
            found = Known(raw, self, of, number)
            if number:
                self._known[number] = found
        return found

    def seen(self, value: Any) -> Any:
        """Return what an attribute holds with its entities as they are kept."""
        kind = type(value)
        if kind in PLAIN:
            return value
        if kind is tuple:
            return value if not value or type(value[0]) in NUMBERS else tuple([self.seen(one) for one in value])
        return self.known(value) if hasattr(value, "is_a") else value


class Known:
    """An entity; attributes are kept as they are asked for, AttributeError for what it has not."""

    def __init__(self, raw: Any, file: KnownFile, of: _Class, number: int) -> None:
        self.raw, self.file = raw, file
        self._class, self._number = of, number

    def __getattr__(self, name: str) -> Any:
        """Read an attribute, once: what it found is the object's own from then on."""
        if name.startswith("__"):
            raise AttributeError(name)
        raw, places = self.raw, self._class.places
        known = places.get(name)
        if known is None:
            kind = raw.get_attribute_category(name)
            known = places[name] = kind, raw.get_argument_index(name) if kind == FORWARD else -1
        kind, place = known
        if kind == FORWARD:
            value = raw.get_argument(place)
        elif kind == INVERSE:
            value = raw._get_inverse(name)
        elif kind == DERIVED:
            value = getattr(raw, name)
        else:
            raise AttributeError(f"{self._class.name} has no attribute {name}")
        if type(value) not in PLAIN:
            value = self.file.seen(value)
        self.__dict__[name] = value
        return value

    def is_a(self, name: Any = None) -> Any:
        """Return its class, or whether it is of one."""
        if name is None:
            return self._class.name
        of = self._class.of
        found = of.get(name)
        if found is None:
            found = of[name] = self.raw.is_a(name)
        return found

    def id(self) -> int:
        """Return its number in the file."""
        return self._number


def raw_of(thing: Any) -> Any:
    """Return an entity or a file as the reader behind has it."""
    return thing.raw if isinstance(thing, Known | KnownFile) else thing
