"""Reading a DXF as an underlay: its layers and lines in mm, curves as short chords."""

import itertools
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from balken.exchange.errors import FileError
from balken.geometry.plane import turn
from balken.model.records import Underlay

Array = NDArray[np.float64]
MOST_LINES = 300_000
_UNITS = {1: 25.4, 2: 304.8, 4: 1.0, 5: 10.0, 6: 1000.0, 10: 914.4, 14: 100.0}
"""$INSUNITS: inches, feet, millimetres, centimetres, metres, yards, decimetres."""
_CURVES = {"ARC", "CIRCLE", "ELLIPSE", "SPLINE"}


@dataclass(frozen=True)
class DxfLines:
    """Line segments by layer, (n, 2, 2) in the drawing's own units; ``scale`` brings them to mm.

    ``assumed``: the file names no unit and one was guessed from its size.
    """

    layers: dict[str, Array]
    scale: float
    assumed: bool
    left_out: dict[str, int]

    @property
    def count(self) -> int:
        """How many lines there are."""
        return sum(len(lines) for lines in self.layers.values())


def read_dxf(path: Path | str) -> DxfLines:
    """Read the lines of a DXF's model space; raises FileError for what is no DXF or has no lines.

    Remembered until the file changes.
    """
    try:
        stamp = Path(path).stat()
    except OSError:
        raise FileError("there is no such file.", path, "Check the name, or choose the drawing again.") from None
    return _read(str(path), stamp.st_mtime_ns, stamp.st_size)


@lru_cache(maxsize=8)
def _read(path: str, stamp: int, size: int) -> DxfLines:
    import ezdxf
    from ezdxf import recover

    try:
        try:
            document = ezdxf.readfile(path)
        except OSError:
            raise
        except Exception:  # a damaged file makes the reader fail in any way; the other one mends what it can
            document, _ = recover.readfile(path)
    except OSError as error:
        raise FileError(f"it could not be read ({error.strerror or error}).", path, "Choose a DXF file.") from None
    except Exception as error:
        raise FileError(f"this is not a DXF, or it is damaged ({str(error)[:80]}).", path, "Save it again.") from None
    found: dict[str, list[tuple[tuple[float, float], tuple[float, float]]]] = {}
    left_out: dict[str, int] = {}
    total = 0
    for entity, layer in _flat(document.modelspace(), 0):
        points = _points(entity)
        if points is None:
            left_out[entity.dxftype()] = left_out.get(entity.dxftype(), 0) + 1
            continue
        rows = found.setdefault(layer, [])
        for a, b in itertools.pairwise(points):
            if np.isfinite([*a, *b]).all():
                rows.append((a, b))
                total += 1
        if total > MOST_LINES:
            raise FileError(
                f"it has more than {MOST_LINES} lines.", path, "Switch layers off where it was drawn and save it again."
            )
    layers = {name: np.array(rows, dtype=float).reshape(-1, 2, 2) for name, rows in sorted(found.items()) if rows}
    if not layers:
        raise FileError("it has no lines in model space.", path, "Choose a drawing with a plan in it.")
    code = int(document.header.get("$INSUNITS", 0) or 0)
    scale = _UNITS.get(code)
    return DxfLines(layers, scale or _guess(layers), scale is None, left_out)


def _guess(layers: dict[str, Array]) -> float:
    """Return mm a unit by the drawing's size: a plan is some 5 to 300 m long."""
    points = np.concatenate([lines.reshape(-1, 2) for lines in layers.values()])
    extent = float(np.max(points.max(axis=0) - points.min(axis=0)))
    for scale in (1.0, 25.4, 1000.0, 304.8):
        if 4000.0 <= extent * scale <= 300_000.0:
            return scale
    return 1.0


def _flat(entities: Any, depth: int, inherited: str = "0") -> Any:
    """Yield (entity, layer), those of inserted blocks in their place; layer 0 in a block is that of its insert."""
    for entity in entities:
        layer = str(entity.dxf.get("layer", "0"))
        layer = inherited if layer == "0" else layer
        if entity.dxftype() == "INSERT" and depth < 6:
            try:
                yield from _flat(entity.virtual_entities(), depth + 1, layer)
            except (ValueError, KeyError, AttributeError, ZeroDivisionError):
                continue
        else:
            yield entity, layer


def _points(entity: Any) -> list[tuple[float, float]] | None:
    """Return the points of a line, polyline or curve; None for what is no line."""
    kind = entity.dxftype()
    try:
        if kind == "LINE":
            ends = (entity.dxf.start, entity.dxf.end)
            return [(float(p.x), float(p.y)) for p in ends]
        if kind == "LWPOLYLINE" and not entity.has_arc:
            points = [(float(x), float(y)) for x, y in entity.get_points("xy")]
            return [*points, points[0]] if entity.closed and points else points
        if kind in ("LWPOLYLINE", "POLYLINE") or kind in _CURVES:
            from ezdxf.path import make_path

            made = make_path(entity)
            flat = list(made.flattening(distance=max(_size(made) / 200.0, 1e-6)))
            return [(float(p.x), float(p.y)) for p in flat]
    except (ValueError, TypeError, AttributeError, ZeroDivisionError):
        return None
    return None


def _size(path: Any) -> float:
    points = [*path.control_vertices()]
    return max((abs(p.x - q.x) + abs(p.y - q.y) for p in points[:1] for q in points[1:]), default=1.0)


def placed_lines(underlay: Underlay, lines: DxfLines, every: bool = False) -> Array:
    """Return an underlay's segments (n, 2, 2) in plan, mm; layers switched off are left out unless ``every``."""
    shown = [v for name, v in lines.layers.items() if every or name not in underlay.layers_off]
    if not shown:
        return np.zeros((0, 2, 2))
    cos, sin = turn((1.0, 0.0), underlay.angle)
    matrix = np.array([[cos, sin], [-sin, cos]]) * underlay.scale
    placed: Array = np.concatenate(shown) @ matrix + np.array(underlay.origin)
    return placed
