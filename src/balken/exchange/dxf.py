"""Drawings as DXF (R2010), full size in mm, in rows in model space."""

from collections.abc import Sequence
from pathlib import Path

from balken.documents.display import Area, Circle, Drawing, Item, Strokes, Text, placed
from balken.documents.display import Path as Line
from balken.documents.sheet_set import Watch
from balken.documents.style import FILLS, PENS
from balken.exchange.replacing import replacing

_ANCHOR = {"left": "MIDDLE_LEFT", "center": "MIDDLE_CENTER", "right": "MIDDLE_RIGHT"}


def write_dxf(rows: Sequence[tuple[Drawing, ...]], path: Path | str, watch: Watch | None = None) -> None:
    """Write rows of drawings, the first on top, with a title under each; layers are "<stage> <pen>".

    ``watch`` is told (done, all) before each drawing and may raise to stop.  Raises FileError.
    """
    import ezdxf
    from ezdxf import units

    document = ezdxf.new("R2010", setup=False)
    document.units = units.MM
    document.header["$LWDISPLAY"] = 1
    document.styles.add("Balken", font="IBMPlexSansCondensed-Regular.ttf")
    for name, pen in PENS.items():
        if pen.dashes:
            dashes = [d if i % 2 == 0 else -d for i, d in enumerate(pen.dashes)]
            document.linetypes.add(f"balken {name}", [sum(pen.dashes), *dashes], description=name)
    space = document.modelspace()
    y, done, of = 0.0, 0, sum(len(row) for row in rows)
    for row in rows:
        x = 0.0
        boxes = [drawing.box() for drawing in row]
        if not boxes:
            continue
        if y < 0.0:
            y -= max(box[3] - box[1] for box in boxes)
        for drawing, box in zip(row, boxes, strict=True):
            if watch is not None:
                watch(done, of)
            done += 1
            for item in placed(drawing.items, 1.0, (box[0], box[1]), (x, y)):
                _add(document, space, item, drawing.scale)
            title = Text((x, y - 8.0 * drawing.scale), drawing.title, 4.0 * drawing.scale, "left", bold=True)
            _add(document, space, title, drawing.scale)
            x += box[2] - box[0] + 20.0 * drawing.scale
        y -= 24.0 * max(drawing.scale for drawing in row)
    with replacing(path) as scratch:
        document.saveas(scratch)


def _layer(document, item: Item, pen_name: str) -> str:  # type: ignore[no-untyped-def]
    name = f"{item.layer} {pen_name or 'fill'}"
    if name not in document.layers:
        pen = PENS.get(pen_name)
        layer = document.layers.add(name)
        if pen is not None:
            layer.rgb = _rgb(pen.colour)
            layer.dxf.lineweight = min(
                (0, 5, 9, 13, 15, 18, 20, 25, 30, 35, 40, 50, 53, 60, 70), key=lambda w: abs(w - pen.width * 100)
            )
            if pen.dashes:
                layer.dxf.linetype = f"balken {pen_name}"
    return name


def _rgb(colour: str) -> tuple[int, int, int]:
    return int(colour[1:3], 16), int(colour[3:5], 16), int(colour[5:7], 16)


def _add(document, space, item: Item, scale: float) -> None:  # type: ignore[no-untyped-def]
    if isinstance(item, Text):
        layer = _layer(document, item, item.pen)
        text = space.add_text(
            item.text, height=item.size, rotation=item.angle, dxfattribs={"layer": layer, "style": "Balken"}
        )
        from ezdxf.enums import TextEntityAlignment

        text.set_placement(item.at, align=TextEntityAlignment[_ANCHOR[item.anchor]])
        return
    attributes = {"layer": _layer(document, item, item.pen), "ltscale": scale}
    if isinstance(item, Circle):
        space.add_circle(item.centre, item.radius, dxfattribs=attributes)
    elif isinstance(item, Strokes):
        for a, b in item.segments:
            space.add_line(a, b, dxfattribs=attributes)
    elif isinstance(item, Area):
        fill = space.add_hatch(dxfattribs={"layer": _layer(document, item, "")})
        fill.set_solid_fill(color=9)
        fill.rgb = _rgb(FILLS[item.fill])
        for i, ring in enumerate(item.rings):
            fill.paths.add_polyline_path(ring, is_closed=True, flags=1 if i == 0 else 16)
        if item.pen:
            for ring in item.rings:
                space.add_lwpolyline(ring, close=True, dxfattribs=attributes)
    elif isinstance(item, Line):
        space.add_lwpolyline(item.points, close=item.closed, dxfattribs=attributes)
