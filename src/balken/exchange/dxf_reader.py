"""Reading a DXF as a base drawing: its layers and lines in mm, curves as short chords."""

import itertools
from functools import lru_cache
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from balken.exchange.apart import run_apart
from balken.exchange.file_errors import FileError
from balken.exchange.replacing import check_regular
from balken.geometry.plane import turn
from balken.model.records import BaseDrawing
from balken.value import Value

Array = NDArray[np.float64]
MOST_LINES = 300_000
_UNITS = {1: 25.4, 2: 304.8, 4: 1.0, 5: 10.0, 6: 1000.0, 10: 914.4, 14: 100.0}
"""$INSUNITS: inches, feet, millimetres, centimetres, metres, yards, decimetres."""
_CURVES = {"ARC", "CIRCLE", "ELLIPSE", "SPLINE"}


class DxfLines(Value, frozen=True):
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


MOST_THINGS = 400_000
"""More things than this, with those of inserted blocks, are not gone through."""
DEEPEST = 6
"""Blocks within blocks are followed this far."""
FARTHEST = 1e9
"""What lies farther out than this, or is larger, is no part of a plan; drawing units."""


def read_dxf(path: Path | str) -> DxfLines:
    """Read the lines of a DXF's model space; raises FileError for what is no DXF or has no lines.

    It is read in a process of its own, with limits of time and memory; remembered until the file changes.
    """
    check_regular(path)
    stamp = Path(path).stat()
    return _read(str(path), stamp.st_mtime_ns, stamp.st_size)


@lru_cache(maxsize=8)
def _read(path: str, stamp: int, size: int) -> DxfLines:
    return run_apart(read_here, (path,), path, "Save it again, or switch off what is not needed.")


def read_here(path: str) -> DxfLines:
    """Do what ``read_dxf`` does, in this process; raises FileError."""
    import ezdxf
    from ezdxf import recover

    try:
        try:
            document = ezdxf.readfile(path)
        except OSError:
            raise
        except Exception:  # a damaged file makes the reader fail in any way; the other one mends what it can
            document, _ = recover.readfile(path)
        space = document.modelspace()  # a damaged drawing may have none
    except OSError as error:
        raise FileError(f"it could not be read ({error.strerror or error}).", path, "Choose a DXF file.") from None
    except Exception as error:
        raise FileError(f"this is not a DXF, or it is damaged ({str(error)[:80]}).", path, "Save it again.") from None
    gathered = _Gathered(path)
    gathered.take(space, 0)
    layers = {
        name: np.array(rows, dtype=float).reshape(-1, 2, 2) for name, rows in sorted(gathered.found.items()) if rows
    }
    if not layers:
        raise FileError("it has no lines in model space.", path, "Choose a drawing with a plan in it.")
    try:
        code = int(document.header.get("$INSUNITS", 0) or 0)
    except (TypeError, ValueError):
        code = 0
    scale = _UNITS.get(code)
    return DxfLines(layers, scale or _guess(layers), scale is None, gathered.left_out)


Pair = tuple[tuple[float, float], tuple[float, float]]


class _Gathered:
    """The lines of a drawing being gathered, layer by layer, and what was left out, counted by its kind."""

    def __init__(self, path: str) -> None:
        self.path = path
        self.found: dict[str, list[Pair]] = {}
        self.left_out: dict[str, int] = {}
        self.lines = self.things = 0

    def leave(self, kind: str) -> None:
        """Count something left out."""
        self.left_out[kind] = self.left_out.get(kind, 0) + 1

    def take(self, entities: Any, depth: int, inherited: str = "0") -> None:
        """Take things, and those of inserted blocks in their place; layer 0 in a block is that of its insert."""
        for entity in entities:
            self.things += 1
            if self.things > MOST_THINGS:
                raise FileError(
                    f"it holds more than {MOST_THINGS} things.", self.path, "Switch layers off and save it again."
                )
            kind = "thing"
            try:
                kind = str(entity.dxftype())
                layer = str(entity.dxf.get("layer", "0"))
                layer = inherited if layer == "0" else layer
                if kind == "INSERT":
                    self._insert(entity, depth, layer)
                    continue
                points = _points(entity)
            except FileError:
                raise
            except Exception:  # a kind that the library does not know, or one that is damaged
                self.leave(kind)
                continue
            if points is None:
                self.leave(kind)
            else:
                self._add(layer, points)

    def _insert(self, entity: Any, depth: int, layer: str) -> None:
        scales = [float(entity.dxf.get(name, 1.0)) for name in ("xscale", "yscale", "zscale")]
        at = entity.dxf.get("insert", (0.0, 0.0, 0.0))
        if depth >= DEEPEST or not all(1e-9 < abs(v) < FARTHEST for v in scales) or not _near(at):
            self.leave("INSERT")
            return
        # An array of inserts is as many of them side by side.
        for one in entity.multi_insert() if entity.mcount > 1 else (entity,):
            self.take(one.virtual_entities(), depth + 1, layer)

    def _add(self, layer: str, points: list[tuple[float, float]]) -> None:
        rows = self.found.setdefault(layer, [])
        for a, b in itertools.pairwise(points):
            if _near(a) and _near(b):
                rows.append((a, b))
                self.lines += 1
        if self.lines > MOST_LINES:
            raise FileError(
                f"it has more than {MOST_LINES} lines.",
                self.path,
                "Switch layers off where it was drawn and save it again.",
            )


def _near(point: Any) -> bool:
    """Tell whether a point lies where a plan can be; what is no number does not."""
    return all(abs(float(c)) < FARTHEST for c in tuple(point)[:2])


def _guess(layers: dict[str, Array]) -> float:
    """Return mm a unit by the drawing's size: a plan is some 5 to 300 m long."""
    points = np.concatenate([lines.reshape(-1, 2) for lines in layers.values()])
    extent = float(np.max(points.max(axis=0) - points.min(axis=0)))
    for scale in (1.0, 25.4, 1000.0, 304.8):
        if 4000.0 <= extent * scale <= 300_000.0:
            return scale
    return 1.0


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

            if not abs(float(entity.dxf.get("radius", 1.0))) < FARTHEST:
                return None
            made = make_path(entity)
            if not all(_near(p) for p in made.control_vertices()):
                return None
            flat = list(made.flattening(distance=max(_size(made) / 200.0, 1e-6)))
            return [(float(p.x), float(p.y)) for p in flat]
    except (ValueError, TypeError, AttributeError, ZeroDivisionError):
        return None
    return None


def _size(path: Any) -> float:
    points = [*path.control_vertices()]
    return max((abs(p.x - q.x) + abs(p.y - q.y) for p in points[:1] for q in points[1:]), default=1.0)


def placed_lines(drawing: BaseDrawing, lines: DxfLines, every: bool = False) -> Array:
    """Return a base drawing's segments (n, 2, 2) in plan, mm; layers switched off are left out unless ``every``."""
    shown = [v for name, v in lines.layers.items() if every or name not in drawing.layers_off]
    if not shown:
        return np.zeros((0, 2, 2))
    cos, sin = turn((1.0, 0.0), drawing.angle)
    matrix = np.array([[cos, sin], [-sin, cos]]) * drawing.scale
    placed: Array = np.concatenate(shown) @ matrix + np.array(drawing.origin)
    return placed
