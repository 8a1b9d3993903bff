"""What is asked about the sticks and joints of trusses, and what comes back; a standard answers (``standard.py``)."""

from functools import cached_property
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from balken.value import Lazy, Value

Array = NDArray[np.float64]
Joined = Literal["plates", "gussets"]
"""By what sticks of trusses are joined: toothed plates, or gussets of plywood with nails."""


class StickDemands(Value, frozen=True, eq=False):
    """Elements of trusses of one make with all that decides whether they work.

    ``sizes``, ``grades``: of each element (e) its section and grade, ``species``, ``plies``: of all the wood; ``repeated``: three or more side by
    side, no farther apart than lets them share (mm apart: ``spacing``).  ``inside`` (e, or b, e): length over which it can buckle in the
    truss's plane, ``aside`` (the same) out of it, mm.  ``most``, ``least`` (b, e, c): axial force, greatest and least along it, N, pulling above zero;
    ``bent`` (s, b, e, c): moments in size at places along it, its greatest among them, Nmm; ``bows`` (s, e, or s, b, e, c): how far it bows
    out there when it buckles in the truss's plane, beside the most it does (0 at steady joints, 1 halfway between); ``sheared`` (b, e, c):
    greatest shear in size, N; ``durations`` (c): load duration factors of combinations.
    """

    sizes: tuple[str, ...]
    species: str
    grades: tuple[str, ...]
    plies: int
    spacing: float
    chord: NDArray[np.bool_]
    inside: Array
    aside: Array
    most: Array
    least: Array
    bent: Array
    bows: Array
    sheared: Array
    durations: Array


class StickUses(Lazy, frozen=True, eq=False):
    """How far elements are used: checks by name with their clause and their parts (b, e, c), of b = 1 where they are the same of all."""

    rows: tuple[tuple[str, str, Array], ...]

    def worst(self) -> tuple[Array, Array]:
        """Return of each element (b, e) how far it is used, and the number of the check that governs."""
        return self._worst

    @cached_property
    def _worst(self) -> tuple[Array, Array]:
        every = np.stack(np.broadcast_arrays(*(row.max(axis=-1) for _, _, row in self.rows)))
        return every.max(axis=0), every.argmax(axis=0)


Point = tuple[float, float]


class PlateDemand(Value, frozen=True, eq=False):
    """A stick under a pair of plates at a joint, with all that decides whether it is held.

    ``axis``: its grain; ``angle``: of the plate's length from level, degrees; ``forces`` (c, 2): what it gives to the joint in each
    combination, of each ply, N; ``durations`` (c): load duration factors.  ``contact``: area under one plate that counts, mm2,
    ``covered``: how deep that is across the grain, mm; ``lines``: where it parts from other sticks, from where to where and how much of
    that the plate covers, mm; ``toward``: from the joint along a stick that ends there, None of one that runs on; ``bite``: how far the plate reaches over it along and across the grain, mm; ``heel``: the slope between
    chords at a heel, else None.
    """

    species: str
    grade: str
    size: str
    breadth: float
    axis: Point
    angle: float
    forces: Array
    durations: Array
    contact: float
    covered: float
    lines: tuple[tuple[Point, Point, float], ...]
    bite: tuple[float, float]
    heel: float | None
    toward: Point | None
    joined: Joined = "plates"
