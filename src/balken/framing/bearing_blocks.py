"""Blocks nailed beside the ends of a truss's bottom chord, so that more wood presses on the plate below."""

from balken.catalog.sections import section
from balken.framing.pieces import Piece
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_layout import TrussPlace
from balken.framing.trusses import TrussFrame
from balken.geometry.prism import Prism
from balken.model.naming import piece_name
from balken.value import Value


class BlockPlace(Value, frozen=True):
    """Blocks at a bearing: from where to where along the truss, how many (the second on the other face)."""

    low: float
    high: float
    count: int


def block_pieces(
    plan: SurfacePlan, place: TrussPlace, number: int, frame: TrussFrame, blocks: tuple[BlockPlace, ...]
) -> list[Piece]:
    """Return the blocks of a truss as solids, as deep as its bottom chord; ``number``: of its place along the roof."""
    trusses, lumber, base = plan.roof.trusses, section(frame.sizes.bottom), plan.bearing + place.lift
    half, found = lumber.breadth * frame.sizes.plies / 2.0, list[Piece]()
    for k, one in enumerate(blocks):
        ring = ((one.low, 0.0), (one.high, 0.0), (one.high, lumber.depth), (one.low, lumber.depth))
        # A prism in the truss's plane grows against the row's way: from its far face back.
        for side, t in ((0, place.t + half + lumber.breadth), (1, place.t - half))[: one.count]:
            x, y = place.frame.back(place.start, t)
            middle = t - lumber.breadth / 2.0
            start, end = ((*place.frame.back(place.start + along, middle), base) for along in (one.low, one.high))
            found.append(
                Piece(
                    piece_name(plan.roof.id, "block", number, k, side), "bearing block", plan.roof.id, plan.roof.bearing.level,
                    Prism((x, y, base), (*place.frame.s, 0.0), (0.0, 0.0, 1.0), (ring,), lumber.breadth), "timber", start, end,
                    one.high - one.low, frame.sizes.bottom, trusses.species, frame.sizes.grade("bottom chord", trusses.wood_grade),
                )
            )  # fmt: skip
    return found
