"""Pads and their piers."""

import math
from typing import TYPE_CHECKING, Annotated

from balken.geometry.plane import distance
from balken.model.base import Hang, Place, Record, To
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind
from balken.model.places import by_id, locate
from balken.model.rule_parts import (
    hung,
    placed,
)
from balken.units.system import INCH

if TYPE_CHECKING:
    from balken.model.records import Project


class Pad(Record, frozen=True, kw_only=True):
    """A pad footing, with a pier on it where ``pier`` (its side, mm) is above zero.

    ``top``: top of the pad; ``head``: top of the pier.  ``width``, ``thickness`` None: Balken chooses.
    ``dead`` to ``push``: loads from above beside what stands on it in the model, N; wind lifts it by ``uplift`` and
    pushes it sideways by ``push``, at strength level.
    ``joined``: id of another pad with which it makes one combined footing, at this one's height.  ``with_strip``: it is
    cast with the strip footings that it lies over, and carries their walls over its width as well.
    """

    id: str
    place: Place
    top: Hang
    head: Hang
    width: float | None = None
    thickness: float | None = None
    pier: float = 12.0 * INCH
    angle: float = 0.0
    dead: float = 0.0
    live: float = 0.0
    snow: float = 0.0
    uplift: float = 0.0
    push: float = 0.0
    joined: Annotated[str, To(("pads",), "clear")] = ""
    with_strip: bool = False


def check_pad(project: "Project", pad: Pad) -> None:
    """Raise EditError unless a pad and its pier are within bounds."""
    where = f"Pad {pad.id.rpartition('-')[2]}"
    placed(project, pad.place, where)
    top, head = hung(project, pad.top, where), hung(project, pad.head, where)
    if pad.pier > 0.0 and head - top < 10.0:
        raise EditError(
            "the head of its pier would not be above the pad.", where, "Choose a higher head, or a pier of 0."
        )
    if pad.pier and not 100.0 <= pad.pier <= 3000.0:
        raise EditError("the pier must be 4 in to 10 ft (100 mm to 3 m) wide, or 0 for none.", where)
    if pad.width is not None and not max(200.0, pad.pier) <= pad.width <= 7600.0:
        raise EditError("it must be 8 in to 25 ft wide and not narrower than its pier.", where, "Type a width or auto.")
    if pad.thickness is not None and not 100.0 <= pad.thickness <= 1530.0:
        raise EditError("it must be 4 in to 5 ft (100 to 1530 mm) thick.", where, "Type a thickness or auto.")
    if pad.joined:
        other = by_id(project.pads).get(pad.joined)
        if other is None or other is pad or other.joined or any(p.joined == pad.id for p in project.pads):
            raise EditError(
                "it can be joined with one other pad that is not joined already.", where, "Part the other one first."
            )
        if sum(p.joined == pad.joined for p in project.pads) > 1:
            raise EditError("the other pad is joined with another one.", where, "Part that one first.")
        if distance(locate(pad.place, project.grids), locate(other.place, project.grids)) < 200.0:
            raise EditError("the two pads stand in the same place.", where, "Remove one of them.")
    if any(not 0.0 <= v < 1e8 or not math.isfinite(v) for v in (pad.dead, pad.live, pad.snow, pad.uplift, pad.push)):
        raise EditError("its loads must be zero or more.", where)


KIND = Kind(Pad, "pads", "pad", "pad", "pads", check_pad)
