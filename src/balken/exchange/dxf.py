"""Drawings as DXF (R2010), full size in mm, in rows in model space.

Header, styles and layers are made by ezdxf; what is drawn is written as text (``dxf_entities``) and let in where that has left room.
"""

import io
from collections.abc import Iterator, Sequence
from pathlib import Path

from balken.documents.display import Drawing, Item, Text, placed
from balken.documents.sheet_set import Watch
from balken.documents.style import PENS
from balken.exchange.dxf_entities import FONT, entities, rgb
from balken.exchange.replacing import replacing

_BEGIN = "  2\nENTITIES\n"
_WEIGHTS = (0, 5, 9, 13, 15, 18, 20, 25, 30, 35, 40, 50, 53, 60, 70)
"""Widths of lines that DXF knows, 1/100 mm."""


def write_dxf(rows: Sequence[tuple[Drawing, ...]], path: Path | str, watch: Watch | None = None) -> None:
    """Write rows of drawings, the first on top, with a title under each; layers are "<stage> <pen>".

    ``watch`` is told (done, all) before each drawing and may raise to stop.  Raises FileError.
    """
    import ezdxf
    from ezdxf import units

    document = ezdxf.new("R2010", setup=False)
    document.units = units.MM
    document.header["$LWDISPLAY"] = 1
    document.styles.add(FONT, font="IBMPlexSansCondensed-Regular.ttf")
    for name, pen in PENS.items():
        if pen.dashes:
            dashes = [d if i % 2 == 0 else -d for i, d in enumerate(pen.dashes)]
            document.linetypes.add(f"balken {name}", [sum(pen.dashes), *dashes], description=name)
    made: dict[tuple[str, str], str] = {}

    def layer(stage: str, pen: str) -> str:
        name = made.get((stage, pen))
        if name is None:
            name = made[(stage, pen)] = _layer(document, stage, pen)
        return name

    owner, drawn = document.modelspace().layout_key, list[tuple[str, str]]()
    for item, scale in _laid_out(rows, watch):
        drawn += entities(item, scale, layer)
    first = int(str(document.entitydb.handles), 16)
    document.entitydb.handles.reset(f"{first + len(drawn):X}")
    text = io.StringIO()
    document.write(text)
    before, after = text.getvalue().split(_BEGIN, 1)
    with replacing(path) as scratch, scratch.open("w", encoding="utf-8", errors="dxfreplace") as file:
        file.write(before + _BEGIN)
        file.writelines(f"0\n{kind}\n5\n{first + k:X}\n330\n{owner}\n{tags}" for k, (kind, tags) in enumerate(drawn))
        file.write(after)


def _laid_out(rows: Sequence[tuple[Drawing, ...]], watch: Watch | None) -> Iterator[tuple[Item, float]]:
    """Yield what all drawings show, in its place, each with its drawing's scale."""
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
                yield item, drawing.scale
            yield (
                Text((x, y - 8.0 * drawing.scale), drawing.title, 4.0 * drawing.scale, "left", bold=True),
                drawing.scale,
            )
            x += box[2] - box[0] + 20.0 * drawing.scale
        y -= 24.0 * max(drawing.scale for drawing in row)


def _layer(document, stage: str, pen_name: str) -> str:  # type: ignore[no-untyped-def]
    name, pen = f"{stage} {pen_name or 'fill'}", PENS.get(pen_name)
    layer = document.layers.add(name)
    if pen is not None:
        layer.rgb = rgb(pen.colour)
        layer.dxf.lineweight = min(_WEIGHTS, key=lambda w: abs(w - pen.width * 100))
        if pen.dashes:
            layer.dxf.linetype = f"balken {pen_name}"
    return name
