"""Where the trusses of a roof stand, part by part: rows square to the eaves, what hangs at their hip ends, how parts meet."""

from typing import NamedTuple

from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_hips import HipFraming, Joins, hip_framing
from balken.framing.truss_inside import InsideWall, bearing_inside
from balken.framing.truss_layout import TrussRow, truss_row
from balken.framing.truss_meetings import Beside, beside, dressed, joins_at
from balken.framing.truss_parts import Part, is_whole


class LaidPart(NamedTuple):
    """A part of a roof with its row of trusses and its hip ends; by their numbers among all of the roof's trusses the row's first, then the
    first of what hangs at its hips; how it meets the others (None: it is the whole).
    """

    number: int
    part: Part
    row: TrussRow
    hips: tuple[HipFraming, ...]
    first: int
    met: Beside | None


def laid_out(
    plan: SurfacePlan,
    parts: tuple[Part, ...],
    spacing: float,
    girder_plies: int,
    corner_plies: int,
    inside: tuple[InsideWall, ...],
) -> list[LaidPart]:
    """Lay the rows of all parts, and what hangs at their hip ends."""
    found, first = list[LaidPart](), 0
    for number, part in enumerate(parts):
        row, met = truss_row(part.plan, spacing, plan.roof.trusses.plies, girder_plies), None
        joins: list[Joins | None] = [None] * len(row.hips)
        if not is_whole(parts) or plan.covered or part.onto is not None:
            met = beside(plan, parts, number, row)
            row = dressed(plan, parts, number, row, met, girder_plies)
            joins = [joins_at(met, parts, row, hip.first) for hip in row.hips]
        row = row._replace(places=tuple(bearing_inside(place, row.wide, inside) for place in row.places))
        hips = tuple(
            hip_framing(part.plan, row, hip, spacing, corner_plies, own)
            for hip, own in zip(row.hips, joins, strict=True)
        )
        found.append(LaidPart(number, part, row, hips, first, met))
        first += len(row.places)
    return found
