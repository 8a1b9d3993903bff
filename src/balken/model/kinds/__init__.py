"""The kinds of authored records, a module each; a new kind is one such module and its line here."""

from balken.model.base import Record
from balken.model.kinds import (
    base_drawing,
    beam,
    beam_row,
    buildup,
    column,
    dormer,
    floor,
    floor_load,
    floor_opening,
    foundation,
    grid,
    hanger,
    level,
    member_edit,
    opening,
    own_beam,
    own_joist,
    pad,
    post_fitting,
    recess,
    reference,
    roof,
    roof_opening,
    slab,
    spot,
    wall,
)
from balken.model.kinds.kind import Kind

KINDS: list[Kind] = [
    level.KIND,
    grid.KIND,
    buildup.KIND,
    wall.KIND,
    opening.KIND,
    column.KIND,
    spot.KIND,
    foundation.KIND,
    recess.KIND,
    pad.KIND,
    slab.KIND,
    floor.KIND,
    floor_opening.KIND,
    floor_load.KIND,
    roof.KIND,
    roof_opening.KIND,
    dormer.KIND,
    beam.KIND,
    beam_row.KIND,
    member_edit.KIND,
    hanger.KIND,
    post_fitting.KIND,
    own_joist.KIND,
    own_beam.KIND,
    base_drawing.KIND,
    reference.KIND,
]
"""In the order in which the project holds them."""
KIND_OF: dict[type[Record], Kind] = {kind.record: kind for kind in KINDS}
COLLECTIONS: dict[type[Record], str] = {kind.record: kind.collection for kind in KINDS}
