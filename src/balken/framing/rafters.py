"""Lengths and profiles of rafters.

``run`` and ``depth`` in mm, ``pitch`` is rise over run (the tangent of the slope).
"""

import math

from balken.geometry.plane import Ring
from balken.value import Value


def common_length(run: float, pitch: float) -> float:
    """Return the line length of a common rafter: run x sqrt(1 + pitch^2) (Pythagoras)."""
    return run * math.hypot(1.0, pitch)


def hip_length(run: float, pitch: float) -> float:
    """Return the line length of a hip or valley over a common run, between equal pitches: run x sqrt(2 + pitch^2)."""
    return run * math.sqrt(2.0 + pitch**2)


def jack_difference(spacing: float, pitch: float) -> float:
    """Return by how much jack rafters at a spacing differ in length, between equal pitches."""
    return common_length(spacing, pitch)


def deepest_seat(depth: float, pitch: float, wanted: float) -> float:
    """Return the bird's mouth seat (mm), no deeper than a quarter of the rafter.

    IRC R802.7.1 (R502.8.1): notches at bearings at most a quarter of the depth; the notch measured
    square to the rafter is seat x sin(slope).
    """
    sine = pitch / math.hypot(1.0, pitch)
    return min(wanted, 0.25 * depth / sine) if sine > 0.0 else wanted


FLATTEST_BOARD = 3.0 / 12.0
"""IRC R802.4.4: below 3 in 12 the ridge must be a beam that carries load."""


class RafterShape(Value, frozen=True):
    """A rafter seen from the side: s from the outer face of the bearing wall inward, z from its top plate.

    ``run``: to the face of the ridge board. ``over``: overhang to the plumb cut of the tail.
    """

    run: float
    over: float
    pitch: float
    depth: float
    seat: float

    @property
    def plumb(self) -> float:
        """Depth measured plumb, mm."""
        return self.depth * math.hypot(1.0, self.pitch)

    def under(self, s: float) -> float:
        """Height of the underside at s."""
        return (s - self.seat) * self.pitch

    def top(self, s: float) -> float:
        """Height of the top edge at s."""
        return self.under(s) + self.plumb

    @property
    def profile(self) -> Ring:
        """Outline in (s, z), anticlockwise, with plumb tail and ridge cuts and bird's mouth."""
        tail: Ring = ((-self.over, self.under(-self.over)), (0.0, self.under(0.0)))
        if self.over <= 0.0:
            tail = ()
        return (
            *tail,
            (0.0, 0.0),
            (self.seat, 0.0),
            (self.run, self.under(self.run)),
            (self.run, self.top(self.run)),
            (-self.over, self.top(-self.over)),
        )

    @property
    def length(self) -> float:
        """Length of the board it is cut from, long point to long point, mm."""
        return common_length(self.run + self.over, self.pitch) + self.depth * self.pitch
