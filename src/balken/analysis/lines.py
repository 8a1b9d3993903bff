"""Straight lines on any supports under any loads: reactions, shear, moment and sag along them, many at a time.

A line is prismatic (one E I all along) and linear, so every load case is solved at once and combined afterwards.
The solution is that of the differential equation E I v'''' = q with brackets that begin at each load and support
(Macaulay's method; any statics handbook), exact for patches, triangles, points, and pinned or held supports.

Signs: loads and sag downward, reactions upward, moments that sag the line are positive.  N, mm.  ``m`` lines,
``n`` supports, ``k`` patches, ``p`` points, ``c`` cases, ``s`` places.
"""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from balken.value import Value

Array = NDArray[np.float64]

SAG_STEPS = 64
"""Steps a span along a line at which its sag is looked at; between the greatest and its neighbours a parabola is laid."""
NEAR = 1e-6
"""Places nearer than this part of the length count as one."""


class LineError(ValueError):
    """A line that cannot be solved: what is wrong with it."""


class Line(Value, frozen=True):
    """One line: its length, where it is supported and how, its loads by case.

    ``supports`` (n): places from its start, in rising order; ``held`` (n): whether the support also holds it
    against turning (none: all pinned).  ``patches`` (k, 2): from where to where; ``loads`` (k, 2, c): N/mm at
    both ends of each.  ``points`` (p), ``forces`` (p, c): N.
    """

    length: float
    supports: tuple[float, ...]
    patches: Array
    loads: Array
    points: Array
    forces: Array
    held: tuple[bool, ...] = ()

    def __post_init__(self) -> None:
        held = self.held or (False,) * len(self.supports)
        if len(held) != len(self.supports):
            raise LineError("each support is pinned or held; there are more of one than of the other.")
        if len(self.supports) + sum(held) < 2:
            raise LineError("a line needs two supports, or one that holds it.")
        if list(self.supports) != sorted(self.supports) or min(self.supports) < -NEAR * self.length:
            raise LineError("supports must lie along the line, in rising order.")
        if max(self.supports) > self.length * (1.0 + NEAR):
            raise LineError("a support lies beyond the end of the line.")
        if any(b - a < NEAR * self.length for a, b in zip(self.supports, self.supports[1:], strict=False)):
            raise LineError("two supports lie at one place.")


def line(
    length: float,
    supports: Sequence[float],
    patches: Sequence[tuple[float, float, Sequence[float], Sequence[float]]] = (),
    points: Sequence[tuple[float, Sequence[float]]] = (),
    held: Sequence[bool] = (),
    cases: int = 1,
) -> Line:
    """Return a line from plain rows: patches as (from, to, N/mm by case there, N/mm by case here), points as (at, N)."""
    return Line(
        length,
        tuple(supports),
        np.array([(a, b) for a, b, _, _ in patches], dtype=np.float64).reshape(-1, 2),
        np.array([(qa, qb) for _, _, qa, qb in patches], dtype=np.float64).reshape(-1, 2, cases),
        np.array([x for x, _ in points], dtype=np.float64),
        np.array([f for _, f in points], dtype=np.float64).reshape(-1, cases),
        tuple(held),
    )


class Solved(Value, frozen=True):
    """Lines solved together, alike in number and kind of supports.  Arrays are not to be written on."""

    length: Array  # (m,)
    supports: Array  # (m, n)
    begin: Array  # (m, k) of patches
    finish: Array
    q_begin: Array  # (m, k, c)
    q_finish: Array
    points: Array  # (m, p)
    forces: Array  # (m, p, c)
    reactions: Array  # (m, n, c) upward, N
    holding: Array  # (m, n, c) moment with which a support holds the line, N mm
    start: Array  # (m, c) E I times sag at the start, N mm3
    slope: Array  # (m, c) E I times slope at the start, N mm2

    def combined(self, factors: Array) -> "Solved":
        """Return the same lines under combinations: ``factors`` (combinations, c) on the cases."""
        mix = np.asarray(factors, dtype=np.float64).T
        return Solved(
            self.length,
            self.supports,
            self.begin,
            self.finish,
            self.q_begin @ mix,
            self.q_finish @ mix,
            self.points,
            self.forces @ mix,
            self.reactions @ mix,
            self.holding @ mix,
            self.start @ mix,
            self.slope @ mix,
        )

    def only(self, i: int) -> "Solved":
        """Return one of the lines by itself."""
        return _row(self, i)

    @property
    def total(self) -> Array:
        """All load on each line (m, c), N."""
        patches = ((self.q_begin + self.q_finish) * ((self.finish - self.begin) / 2.0)[:, :, None]).sum(axis=1)
        whole: Array = patches + self.forces.sum(axis=1)
        return whole

    def shear(self, at: Array, before: bool = False) -> Array:
        """Return the shear (m, s, c) at places (m, s), just after each, or just ``before``; upward on the left part."""
        begins, steps, rises = self._breaks
        x = _beyond(at, begins)
        v = _powers(at, self.supports, 0, before) @ self.reactions
        if self.points.size:
            v -= _powers(at, self.points, 0, before) @ self.forces
        v -= x @ steps
        if rises.any():
            v -= (x * x) @ rises / 2.0
        return v

    def moment(self, at: Array, before: bool = False) -> Array:
        """Return the moment (m, s, c) at places (m, s), N mm."""
        begins, steps, rises = self._breaks
        x = _beyond(at, begins)
        square = x * x
        made = _beyond(at, self.supports) @ self.reactions
        if self.holding.any():
            made += _powers(at, self.supports, 0, before) @ self.holding
        if self.points.size:
            made -= _beyond(at, self.points) @ self.forces
        made -= square @ steps / 2.0
        if rises.any():
            made -= (square * x) @ rises / 6.0
        return made

    def sag(self, at: Array) -> Array:
        """Return E I times the sag (m, s, c) at places (m, s), N mm3."""
        begins, steps, rises = self._breaks
        x = _beyond(at, begins)
        fourth = (x * x) ** 2
        bent = _powers(at, self.supports, 3) @ self.reactions / 6.0
        if self.holding.any():
            bent += _powers(at, self.supports, 2) @ self.holding / 2.0
        if self.points.size:
            bent -= _powers(at, self.points, 3) @ self.forces / 6.0
        bent -= fourth @ steps / 24.0
        if rises.any():
            bent -= (fourth * x) @ rises / 120.0
        return self.start[:, None, :] + self.slope[:, None, :] * at[:, :, None] - bent

    @property
    def _breaks(self) -> tuple[Array, Array, Array]:
        """Where the load changes (m, 2 k), by how much it steps there and how much steeper it rises (m, 2 k, c)."""
        long = np.maximum(self.finish - self.begin, 1e-12)
        rise = (self.q_finish - self.q_begin) / long[:, :, None]
        return (
            np.concatenate([self.begin, self.finish], axis=1),
            np.concatenate([self.q_begin, -self.q_finish], axis=1),
            np.concatenate([rise, -rise], axis=1),
        )

    def _load_at(self, at: Array, before: bool) -> Array:
        """Return the load a mm (m, s, c) just after places, or just before."""
        begins, steps, rises = self._breaks
        q = _powers(at, begins, 0, before) @ steps
        if rises.any():
            q += _beyond(at, begins) @ rises
        return q

    @property
    def corners(self) -> Array:
        """Places (m, s) between which shear and moment run smoothly: ends, supports, begin and end of every load."""
        zero = np.zeros((len(self.length), 1))
        parts = [zero, self.supports, self.begin, self.finish, self.points, self.length[:, None]]
        return np.sort(np.clip(np.concatenate(parts, axis=1), 0.0, self.length[:, None]), axis=1)

    def greatest(self) -> "Greatest":
        """Return the greatest moments, shears and sags: exact for moments and shears, sag to 1e-4 of itself."""
        at, moments = self._turning_moments()
        low, high = moments.argmin(axis=1), moments.argmax(axis=1)
        return Greatest(
            _pick(moments, high),
            _pick(at, high),
            _pick(moments, low),
            _pick(at, low),
            self._shears(),
            *self.greatest_sag(),
        )

    def greatest_moment(self) -> Array:
        """Return the greatest moment of each line and case (m, c), whichever way it bends, N mm."""
        most: Array = np.abs(self._turning_moments()[1]).max(axis=1)
        return most

    def _turning_moments(self) -> tuple[Array, Array]:
        """Return the places at which the moment can be greatest, and the moments there (m, s, c)."""
        at = self.corners
        # Between corners the load is linear, so that the moment is greatest at a root of a parabola.
        left, h = self.shear(at[:, :-1]), (at[:, 1:] - at[:, :-1])[:, :, None]
        q0, q1 = self._load_at(at[:, :-1], False), self._load_at(at[:, 1:], True)
        begin = self.moment(at)
        pairs = [(at, begin)]
        if self.holding.any():
            pairs.append((at, self.moment(at, before=True)))
        for part in _roots(left, q0, q1, h):
            grown = begin[:, :-1] + (left - (q0 / 2.0 + (q1 - q0) * part / (6.0 * np.maximum(h, 1e-12))) * part) * part
            pairs.append((at[:, :-1][:, :, None] + part, grown))
        places = [np.broadcast_to(x if x.ndim == 3 else x[:, :, None], made.shape) for x, made in pairs]
        return np.concatenate(places, axis=1), np.concatenate([made for _, made in pairs], axis=1)

    def _shears(self) -> Array:
        """Return the greatest shear of each line and case (m, c), N."""
        at = self.corners
        left, right = self.shear(at[:, :-1]), self.shear(at[:, 1:], before=True)
        q0, q1 = self._load_at(at[:, :-1], False), self._load_at(at[:, 1:], True)
        # Where the load changes its sign within a stretch, the shear is greatest there.
        with np.errstate(all="ignore"):
            part = np.where(q0 * q1 < 0.0, q0 / (q0 - q1), 0.0)
        turning = left - (q0 + (q1 - q0) * part / 2.0) * part * (at[:, 1:] - at[:, :-1])[:, :, None]
        most: Array = np.max(np.abs(np.concatenate([left, right, turning], axis=1)), axis=1)
        return most

    def greatest_sag(self) -> tuple[Array, Array]:
        """Return the greatest E I sag up or down (m, c), with its sign (N mm3), and its place (mm)."""
        spans = max(self.supports.shape[1] - 1, 1)
        grid = np.linspace(0.0, 1.0, SAG_STEPS * spans + 1)[None, :] * self.length[:, None]
        sag = self.sag(grid)
        best = np.abs(sag).argmax(axis=1)
        inner = np.clip(best, 1, grid.shape[1] - 2)
        a, b, c = _pick(sag, inner - 1), _pick(sag, inner), _pick(sag, inner + 1)
        curve = a - 2.0 * b + c
        shift = np.where(np.abs(curve) > 1e-300, (a - c) / np.where(curve == 0.0, 1.0, 2.0 * curve), 0.0)
        shift = np.where((inner == best) & (np.abs(shift) <= 1.0), shift, 0.0)
        step = self.length[:, None] / (grid.shape[1] - 1)
        at = np.take_along_axis(np.broadcast_to(grid[:, :, None], sag.shape), best[:, None, :], axis=1)[:, 0]
        place = at + shift * step
        # The sag itself at the place each case's parabola names: (m, places, cases), of which the diagonal.
        return np.diagonal(self.sag(place), axis1=1, axis2=2).copy(), place


class Greatest(Value, frozen=True):
    """The greatest of each line and case (m, c): moments that sag and that hog it (N mm) and where, shear (N), sag.

    ``sag``: E I times the greatest sag, up or down, with its sign, N mm3.
    """

    sagging: Array
    sagging_at: Array
    hogging: Array
    hogging_at: Array
    shear: Array
    sag: Array
    sag_at: Array


def _pick(values: Array, index: NDArray[np.intp]) -> Array:
    """Return values (m, s, c) at one index (m, c) each."""
    return np.take_along_axis(values, index[:, None, :], axis=1)[:, 0]


def _roots(v: Array, q0: Array, q1: Array, h: Array) -> tuple[Array, Array]:
    """Return both places within each stretch at which v - q0 s - (q1 - q0) s^2 / (2 h) = 0; its start where there is none."""
    a = (q1 - q0) / (2.0 * np.maximum(h, 1e-12))
    flat = np.abs(a) * h * h < 1e-12 * (np.abs(v) + np.abs(q0) * h + 1e-300)
    with np.errstate(all="ignore"):
        straight = v / q0
        under = np.sqrt(np.maximum(q0 * q0 + 4.0 * a * v, 0.0))
        pair = ((-q0 + under) / (2.0 * a), (-q0 - under) / (2.0 * a))
    found = []
    for s in pair:
        s = np.where(flat, straight, s)
        found.append(np.where(np.isfinite(s) & (s > 0.0) & (s < h), s, 0.0))
    return found[0], found[1]


def _powers(at: Array, begins: Array, power: int, before: bool = False) -> Array:
    """Return the brackets <x - a>^power (m, s, k): nothing before a.  ``before``: a step at a does not count yet."""
    x = at[:, :, None] - begins[:, None, :]
    if power == 0:
        return (x > 0.0 if before else x >= 0.0).astype(np.float64)
    made: Array = np.maximum(x, 0.0) ** power
    return made


def _beyond(at: Array, begins: Array) -> Array:
    """Return how far each place lies beyond each beginning (m, s, k), nothing before it."""
    made: Array = np.maximum(at[:, :, None] - begins[:, None, :], 0.0)
    return made


def solve(lines: Sequence[Line]) -> list[Solved]:
    """Solve lines and return each by itself, in their order; those alike in supports are solved in one go.

    Raises LineError for one that cannot be solved.
    """
    found: list[Solved | None] = [None] * len(lines)
    groups: dict[tuple[tuple[bool, ...], int], list[int]] = {}
    for i, one in enumerate(lines):
        held = one.held or (False,) * len(one.supports)
        groups.setdefault((held, one.loads.shape[2]), []).append(i)
    for members in groups.values():
        together = solve_alike([lines[i] for i in members])
        for row, i in enumerate(members):
            found[i] = _row(together, row)
    return [one for one in found if one is not None]


def _row(s: Solved, i: int) -> Solved:
    part = slice(i, i + 1)
    return Solved(*(getattr(s, name)[part] for name in Solved.__struct_fields__))


def solve_alike(lines: Sequence[Line]) -> Solved:
    """Solve lines alike in number and kind of supports and in cases, as one batch; raises LineError."""
    held = np.array(lines[0].held or (False,) * len(lines[0].supports))
    length = np.array([one.length for one in lines])
    supports = np.array([one.supports for one in lines], dtype=np.float64)
    k, p = max(len(one.patches) for one in lines), max(len(one.points) for one in lines)
    cases = lines[0].loads.shape[2]
    begin, finish = np.zeros((len(lines), k)), np.zeros((len(lines), k))
    q_begin, q_finish = np.zeros((len(lines), k, cases)), np.zeros((len(lines), k, cases))
    points, forces = np.zeros((len(lines), p)), np.zeros((len(lines), p, cases))
    for i, one in enumerate(lines):
        rows, spots = len(one.patches), len(one.points)
        if rows:
            begin[i, :rows], finish[i, :rows] = one.patches[:, 0], one.patches[:, 1]
            q_begin[i, :rows], q_finish[i, :rows] = one.loads[:, 0], one.loads[:, 1]
        if spots:
            points[i, :spots], forces[i, :spots] = one.points, one.forces
    return _solved(length, supports, held, (begin, finish, q_begin, q_finish), points, forces)


def _solved(
    length: Array,
    supports: Array,
    held: NDArray[np.bool_],
    patches: tuple[Array, Array, Array, Array],
    points: Array,
    forces: Array,
) -> Solved:
    """Set up and solve, in lengths of 1: sag is nothing at supports, slope where held, all forces balance."""
    m, n = supports.shape
    cases, turned = forces.shape[2], np.flatnonzero(held)
    size = n + len(turned) + 2
    x, end = supports / length[:, None], np.ones((m, 1))
    begin, finish, q_begin, q_finish = patches
    scaled = Solved(
        np.ones(m), x, begin / length[:, None], finish / length[:, None],
        q_begin * length[:, None, None], q_finish * length[:, None, None],
        points / length[:, None], forces, np.zeros((m, n, cases)), np.zeros((m, n, cases)),
        np.zeros((m, cases)), np.zeros((m, cases)),
    )  # fmt: skip
    a, b = np.zeros((m, size, size)), np.zeros((m, size, cases))
    a[:, :n, :n] = -_powers(x, x, 3) / 6.0
    a[:, :n, n : n + len(turned)] = -_powers(x, x[:, turned], 2) / 2.0
    a[:, :n, -2], a[:, :n, -1] = 1.0, x
    b[:, :n] = -scaled.sag(x)
    if len(turned):
        y, rows = x[:, turned], slice(n, n + len(turned))
        a[:, rows, :n] = -_powers(y, x, 2) / 2.0
        a[:, rows, n : n + len(turned)] = -_powers(y, y, 1)
        a[:, rows, -1] = 1.0
        b[:, rows] = -_slope_of_loads(scaled, y)
    a[:, -2, :n] = 1.0
    b[:, -2] = scaled.total
    a[:, -1, :n] = 1.0 - x
    a[:, -1, n : n + len(turned)] = 1.0
    b[:, -1] = -scaled.moment(end)[:, 0]
    try:
        found = np.linalg.solve(a, b)
    except np.linalg.LinAlgError:
        raise LineError("the supports do not hold the line.") from None
    holding = np.zeros((m, n, cases))
    holding[:, turned] = found[:, n : n + len(turned)] * length[:, None, None]
    return Solved(
        length, supports, begin, finish, q_begin, q_finish, points, forces, found[:, :n], holding,
        found[:, -2] * length[:, None] ** 3, found[:, -1] * length[:, None] ** 2,
    )  # fmt: skip


def _slope_of_loads(s: Solved, at: Array) -> Array:
    """Return E I times the slope (m, s, c) that the loads alone make."""
    begins, steps, rises = s._breaks
    bent = -_powers(at, s.points, 2) @ s.forces / 2.0
    bent -= _powers(at, begins, 3) @ steps / 6.0 + _powers(at, begins, 4) @ rises / 24.0
    return -bent
