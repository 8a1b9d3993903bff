"""Lines with live load on some spans only: the greatest and least reactions, moments and shears of every arrangement.

A line is linear, so the load of each span is solved by itself and only those parts are added that make a value greater
(or less): exact for every arrangement of spans at once, without trying them one by one (any statics handbook).
"""

import itertools
from collections.abc import Sequence

import numpy as np
from msgspec.structs import replace
from numpy.typing import NDArray

from balken.analysis.lines import Line, Solved, solve_alike
from balken.value import Value

Array = NDArray[np.float64]


class Envelope(Value, frozen=True):
    """The most and the least of every arrangement, by combination (q).

    ``reactions`` (2, n, q): most and least at each support, upward, N.  ``at`` (s): places along the line, mm;
    ``moments``, ``shears`` (2, s, q): N mm and N there, on the right of each place.
    """

    reactions: Array
    at: Array
    moments: Array
    shears: Array


def spans_of(line: Line) -> list[tuple[float, float]]:
    """Return the stretches that are loaded or not, each by itself: between supports, and beyond the first and the last."""
    marks = [*line.supports]
    if line.supports[0] > 1e-9 * line.length:
        marks.insert(0, 0.0)
    if line.supports[-1] < line.length * (1.0 - 1e-9):
        marks.append(line.length)
    return list(itertools.pairwise(marks))


def parts_of(line: Line, moving: Sequence[int]) -> Solved:
    """Solve what is always there, and each span's part of the loads that move, as rows of one batch.

    Raises LineError for lines that cannot be solved.
    """
    moves = np.zeros(line.loads.shape[2] if line.loads.size else line.forces.shape[1], dtype=bool)
    moves[list(moving)] = True
    rows = [_with(line, ~moves, 0.0, line.length, whole=True)]
    if moves.any():
        rows += [_with(line, moves, low, high) for low, high in spans_of(line)]
    return solve_alike(rows)


def envelope(line: Line, factors: Array, moving: Sequence[int], places: int = 64) -> Envelope:
    """Return what every arrangement of some loads on spans brings.

    ``factors`` (q, c): combinations of the line's cases; ``moving``: the cases that may be on some spans and not on
    others, those of one span together; the rest is always there.  Raises LineError for lines that cannot be solved.
    """
    solved = parts_of(line, moving).combined(factors)
    marks = np.linspace(0.0, line.length, places * len(line.supports) + 1)
    at = np.unique(np.concatenate([marks, solved.corners.ravel()]))
    every = np.tile(at, (len(solved.length), 1))
    return Envelope(
        extremes(solved.reactions),
        at,
        extremes(solved.moment(every)),
        extremes(solved.shear(every)),
    )


def extremes(parts: Array) -> Array:
    """Return the most and the least (2, ...) of the first part with any of the others."""
    always, some = parts[0], parts[1:]
    return np.stack([always + np.maximum(some, 0.0).sum(axis=0), always + np.minimum(some, 0.0).sum(axis=0)])


def _with(line: Line, cases: NDArray[np.bool_], low: float, high: float, whole: bool = False) -> Line:
    """Return a line with these cases alone, and of them what lies between two places."""
    loads = np.where(cases, line.loads, 0.0)
    forces = np.where(cases, line.forces, 0.0)
    if whole:
        return replace(line, loads=loads, forces=forces)
    long = np.maximum(line.patches[:, 1] - line.patches[:, 0], 1e-12)
    begin, finish = np.clip(line.patches[:, 0], low, high), np.clip(line.patches[:, 1], low, high)
    # A patch cut at the ends of the span keeps what it has there.
    rise = (loads[:, 1] - loads[:, 0]) / long[:, None]
    cut = np.stack(
        [
            loads[:, 0] + rise * (begin - line.patches[:, 0])[:, None],
            loads[:, 0] + rise * (finish - line.patches[:, 0])[:, None],
        ],
        axis=1,
    )
    last = high >= line.length * (1.0 - 1e-9)
    inside = (line.points >= low) & ((line.points < high) | last)
    return replace(
        line,
        patches=np.stack([begin, finish], axis=1),
        loads=cut,
        forces=np.where(inside[:, None], forces, 0.0),
    )
