"""The sheets of framing: every framed wall from outside, several on a sheet, all at one scale."""

from msgspec.structs import replace

from balken.derived.model import Model
from balken.documents.display import Drawing, Text
from balken.documents.elevation import SCALES, framed_walls, framing_elevation, made_of
from balken.documents.paper import SCALES as OF_PLANS
from balken.documents.paper import Paper, flowed_sheets, with_caption
from balken.documents.sheet import Sheet, papers

LETTERS = 2.2
"""Height of the capitals of what stands under the list of marks, mm."""


def framing_sheets(model: Model) -> list[Sheet]:
    """Lay the framing of all walls out at the greatest scale at which four share a sheet, or each fits one where none is so small."""
    drawings = _at_one_scale(model)
    numbered = [(str(n), drawing) for n, drawing in enumerate(drawings, 1)]
    return flowed_sheets(model, numbered, "framing", lambda shown: _title([drawings[i] for i in shown]))


def _at_one_scale(model: Model) -> list[Drawing]:
    walls, room = framed_walls(model), Paper(*papers(model.project.units)[0]).room
    usual = SCALES[model.project.units]
    smaller = tuple(scale for scale in OF_PLANS[model.project.units] if scale > usual[-1])
    for parts, scales in ((2.0, usual), (1.0, (*usual, *smaller))):
        for scale in scales:
            drawings: list[Drawing] = []
            for wall in walls:
                drawings.append(_drawing(model, wall, scale))
                wide, high = with_caption(drawings[-1])
                if wide > 0.95 * room.wide / parts or high > 0.95 * room.high / parts:
                    break  # the others need not be drawn so large
            else:
                return drawings
    return [_drawing(model, wall, smaller[-1]) for wall in walls]


def _drawing(model: Model, wall: str, scale: float) -> Drawing:
    """Return the framing of a wall with the list of its marks and what it is made of under it."""
    drawing = framing_elevation(model, wall, scale, list_below=True)
    x0, y0, _, _ = drawing.box()
    under = Text(
        (x0, y0 - 2.5 * LETTERS * scale), made_of(model, wall), LETTERS * scale, "left", pen="note", layer="notes"
    )
    return replace(drawing, items=(*drawing.items, under))


def _title(shown: list[Drawing]) -> str:
    """Return the title of a sheet: its wall, or the first and the last."""
    names = [drawing.title.split(",")[0] for drawing in shown]
    return (
        f"{names[0]}, framing from outside" if len(names) == 1 else f"Framing from outside, {names[0]} to {names[-1]}"
    )
