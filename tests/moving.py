"""A whole project moved and turned, its records in another order, and what two models have in common whatever their place and names."""

import math
import random
from collections.abc import Callable
from typing import Any

import msgspec
import pytest
from msgspec.structs import replace

from balken.derived.model import Model
from balken.geometry.plane import Point
from balken.model.records import FreePoint, Grid, Project

STANDING = ("Column", "Pad", "FloorOpening", "TrussLoad", "FloorLoad")
"""Kinds with an angle of their own where they stand at a free place."""


def turned(project: Project, degrees: float, by: Point = (0.0, 0.0)) -> Project:
    """Return a project turned about the origin, then moved."""
    c, s = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
    made: Project = _turned(project, degrees, lambda p: (p[0] * c - p[1] * s + by[0], p[0] * s + p[1] * c + by[1]))
    return made


def _turned(what: Any, degrees: float, put: Callable[[Point], Point]) -> Any:
    if isinstance(what, tuple):
        return tuple(_turned(one, degrees, put) for one in what)
    if not isinstance(what, msgspec.Struct):
        return what
    known = {f.name: getattr(what, f.name) for f in msgspec.structs.fields(what)}
    fields = {name: _turned(value, degrees, put) for name, value in known.items()}
    if isinstance(what, Grid):
        fields |= {"origin": put(what.origin), "angle": what.angle + degrees}
    elif isinstance(known.get("x"), float | int) and isinstance(known.get("y"), float | int):
        fields["x"], fields["y"] = put((known["x"], known["y"]))
    elif type(what).__name__ in STANDING and isinstance(known["place"], FreePoint):
        fields["angle"] = known.get("angle", 0.0) + degrees
        fields = {name: value for name, value in fields.items() if name in known}
    for name in ("direction", "ridge"):
        if known.get(name) is not None:
            fields[name] = known[name] + degrees
    return replace(what, **fields)


def shuffled(project: Project, seed: int) -> Project:
    """Return a project with its records in another order, but for levels and grids."""
    order, fields = random.Random(seed), {}
    for f in msgspec.structs.fields(project):
        value = getattr(project, f.name)
        if isinstance(value, tuple) and len(value) > 1 and f.name not in ("levels", "grids"):
            fields[f.name] = tuple(order.sample(value, len(value)))
    return replace(project, **fields)


def lists_of(model: Model) -> dict[tuple[str, str], tuple[list[float], list[float]]]:
    """Return lengths (mm) and how far they are used of all pieces, in order, by role and section."""
    found: dict[tuple[str, str], tuple[list[float], list[float]]] = {}
    for key, piece in model.pieces.items():
        lengths, used = found.setdefault((piece.role, piece.section or piece.material), ([], []))
        lengths.append(piece.length)
        used += [model.results[key].used] if key in model.results else []
    return {kind: (sorted(lengths), sorted(used)) for kind, (lengths, used) in found.items()}


def alike(one: Model, other: Model) -> None:
    """Assert that two models are made of the same pieces, as long and as far used, and bring the same to every footing and pad."""
    a, b = lists_of(one), lists_of(other)
    assert a.keys() == b.keys()
    for kind, (lengths, used) in a.items():
        assert b[kind][0] == pytest.approx(lengths, abs=0.5), kind
        assert b[kind][1] == pytest.approx(used, rel=2e-3, abs=2e-3), kind
    for name, run in one.path.runs.items():
        assert list(other.path.runs[name].foot) == pytest.approx(list(run.foot), rel=1e-4, abs=1.0), name
    lifted = [
        sorted((row.roof, row.bearer, row.what, row.net) for row in model.uplift.lifted) for model in (one, other)
    ]
    assert [row[:3] for row in lifted[1]] == [row[:3] for row in lifted[0]]
    assert [row[3] for row in lifted[1]] == pytest.approx([row[3] for row in lifted[0]], rel=2e-3, abs=20.0)
    hung = [sorted(row.hanger for row in model.hangers) for model in (one, other)]
    assert hung[1] == hung[0]
    for name, force in one.path.pads.items():
        assert list(other.path.pads[name]) == pytest.approx(list(force), rel=1e-4, abs=1.0), name
