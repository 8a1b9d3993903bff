"""What is shown of an architect's file, not framed."""

from typing import TYPE_CHECKING

from balken.model.base import Record
from balken.model.kinds.kind import Kind

if TYPE_CHECKING:
    pass


class Reference(Record, frozen=True, kw_only=True):
    """Something from the architect's file that Balken shows but does not frame: an outline and its heights."""

    id: str
    name: str
    kind: str
    ring: tuple[tuple[float, float], ...]
    bottom: float
    top: float
    source: str = ""


KIND = Kind(Reference, "references", "reference", "outline", "outlines")
