"""Plane frames by the displacement method, many alike at a time; knows no material and no clause.

Frames of one make (nodes, elements, hinges and supports alike) and any measures are solved as one stack.  N, mm; y upward,
axial force positive where it pulls, moments positive where they bend an element so that its right side (seen from its first to
its second node; the underside of what runs to the right) is stretched.  ``b`` frames, ``n`` nodes, ``e`` elements, ``c`` cases.
"""

from collections.abc import Sequence
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from balken.value import Lazy, Value

Array = NDArray[np.float64]
Flags = NDArray[np.bool_]
Ends = NDArray[np.int64]
LOOSE = 1e-9
"""Stiffness, beside the greatest of its kind, below which a frame is said to move."""


BENT = np.array([1, 2, 4, 5])
"""The moves of an element's ends that bend it: to its left, turns."""
TURNS = np.array([[0, 1, 0, 1], [1, 2, 1, 2], [0, 1, 0, 1], [1, 2, 1, 2]])
"""How many of both, move and force, are turns: each brings a length."""
BENDS = np.array(
    [
        ((12, 6, -12, 6), (6, 4, -6, 2), (-12, -6, 12, -6), (6, 2, -6, 4)),
        ((3, 0, -3, 3), (0, 0, 0, 0), (-3, 0, 3, -3), (3, 0, -3, 3)),
        ((3, 3, -3, 0), (3, 3, -3, 0), (-3, -3, 3, 0), (0, 0, 0, 0)),
        ((0, 0, 0, 0),) * 4,
    ],
    dtype=float,
)
"""Stiffnesses of an element in EI / l3: without hinges, with one at its first end, at its second, at both."""


class FrameError(ValueError):
    """A frame that moves: what holds it is missing."""


class Made(Value, frozen=True, eq=False):
    """What frames of one make have in common: elements by their nodes (e, 2), hinges at both ends of them (e, 2), nodes held in x and y
    (n, 2).
    """

    ends: Ends
    hinges: Flags
    held: Flags


class Loaded(Value, frozen=True, eq=False):
    """Loads of frames: on nodes (b, n, 2, c), N; along elements (b, e, 2, c), N a mm of their length, both in x and y."""

    nodes: Array
    along: Array


class Solved(Lazy, frozen=True, eq=False):
    """Frames solved: moves of nodes (b, n, 2, c) in mm, forces on nodes that are held (b, n, 2, c), forces within elements at their
    first node: axial, shear, moment (b, e, 3, c).

    Along an element at s: N = N0 - p s, M = M0 + V0 s + w s^2 / 2, where p and w are its load lengthwise and to its left side.
    """

    length: Array
    moves: Array
    reactions: Array
    first: Array
    own: Array
    """Load along each element in its own axes: lengthwise, to its left (b, e, 2, c)."""
    moved: Array
    """Moves of its ends to its left (b, e, 2, c)."""
    bending: Array
    """E I of elements (b, e)."""

    def axials(self, parts: Sequence[float]) -> Array:
        """Return the axial force at parts of each element's length (parts, b, e, c)."""
        n: Array = self.first[:, :, 0] - self.own[:, :, 0] * self._at(parts)
        return n

    def moments(self, parts: Sequence[float]) -> Array:
        """Return the moment at parts of each element's length (parts, b, e, c)."""
        return self._moment(self._at(parts))

    def shears(self, parts: Sequence[float]) -> Array:
        """Return the shear at parts of each element's length (parts, b, e, c)."""
        v: Array = self.first[:, :, 1] + self.own[:, :, 1] * self._at(parts)
        return v

    def sags(self, parts: Sequence[float]) -> Array:
        """Return the move to its left at parts of each element's length (parts, b, e, c): its ends' moves and M'' integrated twice."""
        _, v0, m0 = (self.first[:, :, k] for k in range(3))
        w, ei, t = self.own[:, :, 1], self.bending[:, :, None], _column(parts)

        def bent(x: Array) -> Array:
            y: Array = (m0 / 2.0 + x * (v0 / 6.0 + x * w / 24.0)) * x * x / ei
            return y

        ends: Array = self.moved[:, :, 0] + (self.moved[:, :, 1] - self.moved[:, :, 0]) * t
        return ends + bent(self._at(parts)) - bent(self.length[:, :, None]) * t

    def axial(self, at: float) -> Array:
        """Return the axial force at a part of each element's length (b, e, c)."""
        found: Array = self.axials((at,))[0]
        return found

    def moment(self, at: float) -> Array:
        """Return the moment at a part of each element's length (b, e, c)."""
        found: Array = self.moments((at,))[0]
        return found

    def sag(self, at: float) -> Array:
        """Return the move to its left at a part of each element's length (b, e, c)."""
        found: Array = self.sags((at,))[0]
        return found

    @cached_property
    def where_greatest(self) -> Array:
        """Where along each element its moment is greatest in size, as a part of its length (b, e, c): at an end, or where shear is nothing."""
        w, v0 = self.own[:, :, 1], self.first[:, :, 1]
        peak = np.where(w != 0.0, -v0 / np.where(w != 0.0, w, 1.0), 0.0) / self.length[:, :, None]
        inner = np.clip(peak, 0.0, 1.0)
        places = np.stack([np.zeros_like(inner), inner, np.ones_like(inner)])
        sizes = np.abs(self._moment(places * self.length[:, :, None]))
        found: Array = np.take_along_axis(places, sizes.argmax(axis=0)[None], axis=0)[0]
        return found

    @cached_property
    def greatest_moments(self) -> Array:
        """The greatest moment along each element, in size, with its sign (b, e, c)."""
        return self._moment(self.where_greatest * self.length[:, :, None])

    def _at(self, parts: Sequence[float]) -> Array:
        found: Array = _column(parts) * self.length[:, :, None]
        return found

    def _moment(self, s: Array) -> Array:
        m: Array = self.first[:, :, 2] + s * (self.first[:, :, 1] + s * self.own[:, :, 1] / 2.0)
        return m


def _column(parts: Sequence[float]) -> Array:
    """Return parts as the first of four dimensions."""
    return np.array(parts, dtype=float)[:, None, None, None]


def solve_frames(made: Made, nodes: Array, e: Array, area: Array, inertia: Array, loads: Loaded) -> Solved:
    """Solve frames of one make by the displacement method (Bernoulli beams, first order).

    ``nodes`` (b, n, 2) in mm; ``e``, ``area``, ``inertia`` (b, e) in N/mm2, mm2, mm4.  Raises FrameError where a frame moves.
    """
    b, n, _ = nodes.shape
    first, second = made.ends[:, 0], made.ends[:, 1]
    way = nodes[:, second] - nodes[:, first]
    long = np.hypot(way[..., 0], way[..., 1])
    if not np.all(long > 1e-6):
        raise FrameError("two nodes of an element lie at one place")
    cos, sin = way[..., 0] / long, way[..., 1] / long
    turn = np.zeros((*long.shape, 6, 6))
    for k in (0, 3):
        turn[..., k, k], turn[..., k, k + 1] = cos, sin
        turn[..., k + 1, k], turn[..., k + 1, k + 1] = -sin, cos
        turn[..., k + 2, k + 2] = 1.0
    stiff = _stiffness(made.hinges, long, e * area, e * inertia)
    own = np.stack(
        [
            cos[..., None] * loads.along[:, :, 0] + sin[..., None] * loads.along[:, :, 1],
            cos[..., None] * loads.along[:, :, 1] - sin[..., None] * loads.along[:, :, 0],
        ],
        axis=2,
    )
    fixed = _fixed_ends(made.hinges, long, own)
    dofs = np.concatenate([3 * first[:, None] + np.arange(3), 3 * second[:, None] + np.arange(3)], axis=1)
    turned = np.swapaxes(turn, -1, -2)
    whole = _put_together(dofs, turned @ stiff @ turn, 3 * n)
    force = np.zeros((b, 3 * n, loads.nodes.shape[-1]))
    force[:, 0::3], force[:, 1::3] = loads.nodes[:, :, 0], loads.nodes[:, :, 1]
    meet = np.zeros((3 * n, dofs.size))
    meet[dofs.ravel(), np.arange(dofs.size)] = 1.0
    force -= meet @ (turned @ fixed).reshape(b, dofs.size, -1)
    fast = np.zeros(3 * n, dtype=bool)
    fast[0::3], fast[1::3] = made.held[:, 0], made.held[:, 1]
    fast[2::3] = ~_turning(made, n)
    free = ~fast
    moves = np.zeros_like(force)
    moves[:, free] = _solved(whole[:, free][:, :, free], force[:, free])
    reactions = whole @ moves - force
    inside = stiff @ (turn @ moves[:, dofs]) + fixed
    local = turn @ moves[:, dofs]
    return Solved(
        long,
        np.stack([moves[:, 0::3], moves[:, 1::3]], axis=2),
        np.stack([np.where(made.held[:, k][None, :, None], reactions[:, k::3], 0.0) for k in range(2)], axis=2),
        np.stack([-inside[:, :, 0], inside[:, :, 1], -inside[:, :, 2]], axis=2),
        own,
        np.stack([local[:, :, 1], local[:, :, 4]], axis=2),
        e * inertia,
    )


def _put_together(dofs: Ends, parts: Array, wide: int) -> Array:
    """Return stiffnesses of whole frames (b, wide, wide) from those of their elements (b, e, 6, 6), each at its places (e, 6)."""
    b = len(parts)
    flat = (dofs[:, :, None] * wide + dofs[:, None, :]).ravel()
    at = (np.arange(b)[:, None] * wide**2 + flat).ravel()
    found: Array = np.asarray(np.bincount(at, parts.ravel(), b * wide**2), dtype=float).reshape(b, wide, wide)
    return found


def _turning(made: Made, n: int) -> Flags:
    """Return at which nodes some element is held against turning: others have no turn of their own."""
    found = np.zeros(n, dtype=bool)
    for k in range(2):
        found[made.ends[~made.hinges[:, k], k]] = True
    return found


def _solved(stiff: Array, force: Array) -> Array:
    """Solve, with rows and columns brought to like size; raise FrameError where a frame moves."""
    size = 1.0 / np.sqrt(np.maximum(np.einsum("bii->bi", stiff), 1e-300))
    even = stiff * size[:, :, None] * size[:, None, :]
    try:
        low = np.linalg.cholesky(even)
    except np.linalg.LinAlgError:
        raise FrameError("it moves: what holds it is missing") from None
    if (np.einsum("bii->bi", low) < np.sqrt(LOOSE)).any():
        raise FrameError("it moves: what holds it is missing")
    found: Array = np.linalg.solve(even, force * size[:, :, None]) * size[:, :, None]
    return found


def _stiffness(hinges: Flags, long: Array, ea: Array, ei: Array) -> Array:
    """Return stiffnesses of elements in their own axes (b, e, 6, 6): a hinge takes its turn out."""
    k = np.zeros((*long.shape, 6, 6))
    k[..., 0, 0] = k[..., 3, 3] = ea / long
    k[..., 0, 3] = k[..., 3, 0] = -ea / long
    bends = BENDS[2 * hinges[:, 1].astype(int) + hinges[:, 0]]
    even = ei / long**3
    sizes = np.stack([even, even * long, even * long * long], axis=-1)
    k[..., BENT[:, None], BENT] = bends * sizes[..., TURNS]
    return k


def _fixed_ends(hinges: Flags, long: Array, own: Array) -> Array:
    """Return forces on elements whose ends do not move, in their own axes (b, e, 6, c), under even loads."""
    found = np.zeros((*long.shape, 6, own.shape[-1]))
    one, other = hinges[:, 0], hinges[:, 1]
    # Shares of w l at both ends, of w l^2 as turning forces on them.
    left = np.where(one == other, 0.5, np.where(one, 0.375, 0.625))
    turn_one = np.where(one, 0.0, np.where(other, 1.0 / 8.0, 1.0 / 12.0))
    turn_other = np.where(other, 0.0, np.where(one, 1.0 / 8.0, 1.0 / 12.0))
    p, w = (own[:, :, k] * long[:, :, None] for k in range(2))
    found[:, :, 0] = found[:, :, 3] = -p / 2.0
    found[:, :, 1], found[:, :, 4] = -w * left[:, None], -w * (1.0 - left)[:, None]
    found[:, :, 2] = -w * long[:, :, None] * turn_one[:, None]
    found[:, :, 5] = w * long[:, :, None] * turn_other[:, None]
    return found
