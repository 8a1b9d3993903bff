"""What is asked about the sticks and joints of trusses, and what comes back; a standard answers (``standard.py``)."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]


@dataclass(frozen=True)
class StickDemands:
    """Elements of trusses of one make with all that decides whether they work.

    ``sizes``, ``species``, ``grade``, ``plies``: of each element (e) its section, of all the wood; ``repeated``: three or more side by
    side, no farther apart than lets them share (mm apart: ``spacing``).  ``inside`` (e): length over which it can buckle in the truss's
    plane, ``aside`` (e) out of it, mm.  ``most``, ``least`` (b, e, c): axial force, greatest and least along it, N, pulling above zero;
    ``bent`` (s, b, e, c): moments in size at places along it, its greatest among them, Nmm; ``bows`` (s, e, or s, b, e, c): how far it bows
    out there when it buckles in the truss's plane, beside the most it does (0 at steady joints, 1 halfway between); ``sheared`` (b, e, c):
    greatest shear in size, N; ``durations`` (c): load duration factors of combinations.
    """

    sizes: tuple[str, ...]
    species: str
    grade: str
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


@dataclass(frozen=True)
class StickUses:
    """How far elements are used: checks by name with their clause and their parts (b, e, c)."""

    rows: tuple[tuple[str, str, Array], ...]

    def worst(self) -> tuple[Array, Array]:
        """Return of each element (b, e) how far it is used, and the number of the check that governs."""
        every = np.stack([row.max(axis=-1) for _, _, row in self.rows])
        which = every.argmax(axis=0)
        return every.max(axis=0), which


@dataclass(frozen=True)
class PlateDemand:
    """What one stick asks of the plates at a joint: how its force runs against its grain and against the plate's length, degrees.

    ``force``: the greatest at normal duration, N, of both plates together; ``pull``: the greatest pull as it acts, N; ``along``,
    ``across``: parts of ``force`` as it acts along and across the plate's length, N.
    """

    stick: str
    force: float
    pull: float
    grain: float
    plate: float
