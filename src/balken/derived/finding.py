"""A finding is data; its fix names a command (``findings/fixes``, ``panel/commands``) with arguments."""

from typing import Any, Literal

from balken.value import Value

Stage = Literal["set out", "walls", "foundations", "floors", "roof", "check", "sheets"]


class Fix(Value, frozen=True):
    """What one click would do: its label, and the command with its arguments."""

    label: str
    command: str
    args: tuple[Any, ...] = ()
    fields: tuple[tuple[str, Any], ...] = ()


class Finding(Value, frozen=True):
    """One finding: a stable code, where it belongs, what and why, the things concerned, and a fix.

    ``at``: x, y, z in mm of the place to show. ``grave``: something does not stand, not just doubtful.
    """

    code: str
    stage: Stage
    what: str
    why: str
    things: tuple[str, ...]
    at: tuple[float, float, float]
    grave: bool = True
    fix: Fix | None = None
