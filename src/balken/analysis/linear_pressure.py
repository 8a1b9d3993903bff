"""A linear pressure under something stiff that stands on a ground which takes no tension."""

from balken.value import Value


class Pressure(Value, frozen=True):
    """A linear pressure across a footing from its more loaded edge: ``high`` there, ``low`` at ``contact``.

    Beyond ``contact`` (mm) nothing presses.  Pressures in N/mm2.
    """

    high: float
    low: float
    contact: float

    def between(self, a: float, b: float) -> tuple[float, float]:
        """Return the force per mm between two distances from the high edge, and its distance from that edge."""
        a, b = max(a, 0.0), min(b, self.contact)
        if b - a <= 1e-9:
            return 0.0, a
        qa, qb = self._at(a), self._at(b)
        force = (qa + qb) / 2.0 * (b - a)
        if force <= 0.0:
            return 0.0, a
        return force, a + (b - a) * (qa + 2.0 * qb) / (3.0 * (qa + qb))

    def _at(self, x: float) -> float:
        return self.high + (self.low - self.high) * x / self.contact


def pressure(force: float, width: float, eccentricity: float) -> Pressure:
    """Return the pressure (N/mm2) under a force per mm (N/mm) off the middle; no tension is taken by the soil.

    A force at or beyond the edge is taken as one a mm inside it: far more than any soil carries.
    """
    e = abs(eccentricity)
    if e <= width / 6.0:
        mean = force / width
        return Pressure(mean * (1.0 + 6.0 * e / width), mean * (1.0 - 6.0 * e / width), width)
    rest = max(width / 2.0 - e, 1.0)
    return Pressure(2.0 * force / (3.0 * rest), 0.0, min(3.0 * rest, width))
