"""Columns as solids."""

from msgspec.structs import replace

from balken.catalog.post_shapes import PostShape
from balken.framing.pieces import Piece
from balken.geometry.plane import add, turn
from balken.geometry.prism import upright
from balken.model.lookup import height, locate
from balken.model.naming import column_name
from balken.model.records import Column, Grid, Level


def column_heights(column: Column, levels: tuple[Level, ...]) -> tuple[float, float]:
    """Return the heights of its foot and head, mm; raises KeyError when a level is gone."""
    return height(column.foot, levels), height(column.head, levels)


def cut_under(pieces: tuple[Piece, ...], heads: dict[str, float]) -> tuple[Piece, ...]:
    """Return what stands free with its head cut to a height where a beam lies on it; ``heads`` by owner, mm."""
    found = []
    for piece in pieces:
        top = heads.get(piece.owner, piece.end[2])
        if abs(top - piece.end[2]) > 0.01 and top > piece.start[2] + 1.0:
            ring, *holes = piece.solid.plan
            bottom = piece.start[2]
            solid = upright(ring, bottom, top - bottom, tuple(holes))
            piece = replace(piece, solid=solid, end=(*piece.end[:2], top), length=top - bottom)
        found.append(piece)
    return tuple(found)


def column_pieces(
    columns: tuple[Column, ...], grids: tuple[Grid, ...], levels: tuple[Level, ...], shapes: dict[str, PostShape]
) -> tuple[Piece, ...]:
    """Return one upright solid a column, of the shape chosen for it; raises KeyError when a reference is gone."""
    pieces = []
    for column in columns:
        centre = locate(column.place, grids)
        shape = shapes[column.id]
        ring, *holes = (tuple(add(centre, turn(at, column.angle)) for at in outline) for outline in shape.rings)
        bottom, top = column_heights(column, levels)
        lumber = column.material == "timber" and bool(shape.name)
        pieces.append(
            Piece(
                column_name(column.id),
                "column",
                column.id,
                column.foot.level,
                upright(ring, bottom, top - bottom, tuple(holes)),
                column.material,
                (*centre, bottom),
                (*centre, top),
                top - bottom,
                shape.name,
                column.species if lumber else "",
                column.grade if lumber else "",
            )
        )
    return tuple(pieces)
