"""The base of the many small immutable things that are derived at every edit."""

import msgspec


class Value(msgspec.Struct, frozen=True, gc=False):
    """A frozen record by position, equal by content: as a dataclass is, but made and compared many times quicker.

    It must never come to hold itself; the collector of cycles passes it over.
    """
