"""The sheets of decks: each panel of the decks of roofs and floors as it is laid, over what carries it, with how many are bought."""

from balken.derived.model import Model
from balken.documents.deck_sheets import DeckLayout, deck_layouts
from balken.documents.dimensions import TEXT
from balken.documents.display import Area, Drawing, Item, Layer, Path, Text
from balken.documents.lettering import text_width
from balken.documents.paper import SCALES, Paper, flowed_sheets, with_caption
from balken.documents.sheet import Sheet, papers
from balken.geometry.plane import Ring, bounds
from balken.model.lookup import by_id
from balken.units import Units, say_inches

PANELS = "4 x 8 ft"
SIZE = 0.9 * TEXT


def deck_text(layout: DeckLayout, units: Units) -> str:
    """Return what is bought for a deck, and what of it is cut."""
    cut = len(layout.pieces) - layout.whole
    single = f", {layout.single} of them over one bay alone" if layout.single else ""
    blocks = f", blocks under {layout.loose} loose ends" if layout.loose else ""
    return f"{layout.panels} panels {PANELS}, {say_inches(layout.thick, units)}: {layout.whole} laid whole, {cut} cut pieces{single}{blocks}"


def deck_drawing(model: Model, layout: DeckLayout, scale: float) -> Drawing:
    """Draw a deck: its panels, cut ones lighter, over dashed lines of what carries it."""
    layer: Layer = "floors" if layout.ref in by_id(model.project.floors) else "roof"
    items: list[Item] = []
    for piece, ring in zip(layout.pieces, layout.rings, strict=True):
        whole = layout.is_whole(piece)
        items.append(Area((ring,), "timber light" if whole else "sheet", "", layer, layout.ref))
    items += [Path(line, "hidden", layer, layout.ref) for line in layout.carriers]
    items += [Path(ring, "thin", layer, layout.ref, closed=True) for ring in layout.rings]
    x0, y0, x1, _ = bounds(p for ring in layout.rings for p in ring)
    text, size = deck_text(layout, model.units), SIZE * scale
    at = ((x0 + x1) / 2.0, y0 - 3.0 * size)
    wide = text_width(text, size) / 2.0
    ground: Ring = (
        (at[0] - wide, at[1] - size),
        (at[0] + wide, at[1] - size),
        (at[0] + wide, at[1] + size),
        (at[0] - wide, at[1] + size),
    )
    items += [Area((ground,), "sheet", "", layer), Text(at, text, size, pen="note", layer=layer, ref=layout.ref)]
    return Drawing(f"{layout.name}: deck", scale, tuple(items))


def deck_plan_sheets(model: Model) -> list[Sheet]:
    """Lay the decks out at the greatest scale at which each fits a sheet."""
    layouts, room = deck_layouts(model), Paper(*papers(model.project.units)[0]).room
    if not layouts:
        return []
    drawings: list[Drawing] = []
    for scale in SCALES[model.project.units]:
        drawings = [deck_drawing(model, layout, scale) for layout in layouts]
        sizes = [with_caption(d) for d in drawings]
        if all(wide <= room.wide and high <= room.high / (1.0 + (len(layouts) > 2)) for wide, high in sizes):
            break
    numbered = [(str(n), drawing) for n, drawing in enumerate(drawings, 1)]
    return flowed_sheets(
        model, numbered, "decks", lambda shown: drawings[shown[0]].title if len(shown) == 1 else "Decks"
    )
