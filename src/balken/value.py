"""The base of the many small immutable things that are derived at every edit."""

import msgspec


class Value(msgspec.Struct, frozen=True, gc=False):
    """A frozen record by position, equal by content: as a dataclass is, but made, compared and defined many times quicker.

    It must never come to hold itself; the collector of cycles passes it over.
    """


class Lazy(msgspec.Struct, frozen=True, dict=True):
    """A value that works some of itself out when first asked (``functools.cached_property``)."""
