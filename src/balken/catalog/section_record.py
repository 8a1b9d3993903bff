"""What the section of a board is: its sides, what it is made of, and an I-joist's flanges and web."""

from typing import Literal

from balken.value import Value

SectionKind = Literal["sawn", "laminated veneer", "glulam", "I-joist", "rim board", "concrete"]


class Section(Value, frozen=True):
    """A section: name, nominal inches, dressed breadth and depth in mm; a rectangle where it has no ``flange``.

    ``plies``: of how many boards it is built up side by side; ``nominal`` is that of one board.  ``kind``: what it
    is made of, by which its factors go.  ``flange``, ``web``: thickness of each flange and of the web of one I-joist, mm.
    """

    name: str
    nominal: tuple[int, int]
    breadth: float
    depth: float
    plies: int = 1
    kind: SectionKind = "sawn"
    flange: float = 0.0
    web: float = 0.0

    @property
    def area(self) -> float:
        """Area, mm2."""
        if self.flange:
            return 2.0 * self.breadth * self.flange + self.plies * self.web * (self.depth - 2.0 * self.flange)
        return self.breadth * self.depth

    @property
    def modulus(self) -> float:
        """Section modulus of a rectangle about the strong axis, mm3."""
        return self.breadth * self.depth**2 / 6.0

    @property
    def weak_modulus(self) -> float:
        """Section modulus about the weak axis, mm3; boards side by side act each by itself."""
        return self.plies * self.depth * (self.breadth / self.plies) ** 2 / 6.0

    @property
    def inertia(self) -> float:
        """Second moment of a rectangle about the strong axis, mm4."""
        return self.breadth * self.depth**3 / 12.0

    @property
    def board(self) -> float:
        """Thickness of one of its boards, mm."""
        return self.breadth / self.plies
