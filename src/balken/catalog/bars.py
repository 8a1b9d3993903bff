"""Reinforcing bars."""

from balken.units.system import INCH
from balken.value import Value


class Bar(Value, frozen=True):
    """A deformed bar of ASTM A615: number (eighths of an inch), diameter mm, area mm2, mass kg/m."""

    number: int
    diameter: float
    area: float
    mass: float

    @property
    def name(self) -> str:
        """Its name, such as #5."""
        return f"#{self.number}"


BARS: dict[int, Bar] = {
    number: Bar(number, inches * INCH, area * INCH**2, pounds * 0.45359237 / 0.3048)
    for number, inches, area, pounds in (
        (3, 0.375, 0.11, 0.376),
        (4, 0.500, 0.20, 0.668),
        (5, 0.625, 0.31, 1.043),
        (6, 0.750, 0.44, 1.502),
        (7, 0.875, 0.60, 2.044),
        (8, 1.000, 0.79, 2.670),
        (9, 1.128, 1.00, 3.400),
        (10, 1.270, 1.27, 4.303),
        (11, 1.410, 1.56, 5.313),
    )
}
"""Sizes of ASTM A615, from memory."""
