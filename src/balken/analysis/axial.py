"""Axial force along straight lines that one place holds lengthwise: statics alone, many lines at a time.

Forces along a line are positive toward its end, axial force is positive where it pulls.  N, mm.  ``m`` lines, ``k``
patches, ``p`` points, ``c`` cases, ``s`` places.
"""

import numpy as np
from numpy.typing import NDArray

from balken.value import Value

Array = NDArray[np.float64]


class Pulled(Value, frozen=True):
    """Lines pulled along themselves.  Arrays are not to be written on.

    ``anchors`` (m): where each is held lengthwise; ``patches`` (m, k, 2): from where to where, ``loads`` (m, k, c): N/mm
    there; ``points`` (m, p), ``forces`` (m, p, c): N.
    """

    anchors: Array
    patches: Array
    loads: Array
    points: Array
    forces: Array

    @property
    def holding(self) -> Array:
        """The force with which each is held (m, c), N, positive toward its end: all forces add up to nothing."""
        long = (self.patches[:, :, 1] - self.patches[:, :, 0])[:, :, None]
        held: Array = -(self.loads * long).sum(axis=1) - self.forces.sum(axis=1)
        return held

    def axial(self, at: Array) -> Array:
        """Return the axial force (m, s, c) just after places (m, s): all that pulls beyond them, N."""
        low, high = self.patches[:, None, :, 0], self.patches[:, None, :, 1]
        beyond = np.clip(high - np.maximum(low, at[:, :, None]), 0.0, None)
        force = beyond @ self.loads
        force = force + (self.points[:, None, :] > at[:, :, None]).astype(np.float64) @ self.forces
        held: Array = force + np.where(self.anchors[:, None] > at, 1.0, 0.0)[:, :, None] * self.holding[:, None, :]
        return held
