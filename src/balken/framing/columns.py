"""Columns as solids."""

from balken.framing.pieces import Piece
from balken.geometry.plane import add, turn
from balken.geometry.prism import upright
from balken.model.lookup import height, locate
from balken.model.records import Column, Grid, Level


def column_pieces(columns: tuple[Column, ...], grids: tuple[Grid, ...], levels: tuple[Level, ...]) -> tuple[Piece, ...]:
    """Return one upright solid a column; raises KeyError when a reference is gone."""
    pieces = []
    for column in columns:
        centre = locate(column.place, grids)
        half = (column.width / 2.0, column.depth / 2.0)
        ring = tuple(
            add(centre, turn((sx * half[0], sy * half[1]), column.angle))
            for sx, sy in ((-1, -1), (1, -1), (1, 1), (-1, 1))
        )
        bottom, top = height(column.foot, levels), height(column.head, levels)
        pieces.append(
            Piece(
                f"{column.id}/column",
                "column",
                column.id,
                column.foot.level,
                upright(ring, bottom, top - bottom),
                column.material,
                (*centre, bottom),
                (*centre, top),
                top - bottom,
            )
        )
    return tuple(pieces)
