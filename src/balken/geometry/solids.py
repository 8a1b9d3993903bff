"""What a solid is to all that shows, counts or writes it: whichever it is, they ask the same of it.

Behind it stand prisms (``prism.py``) and rafters whose cheeks stand plumb (``leaning.py``).
"""

from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from balken.geometry.plane import Ring
from balken.geometry.prism import Vec, View

Array = NDArray[np.float64]


class Swept(Protocol):
    """A profile extruded, as files describe it."""

    @property
    def origin(self) -> Vec:
        """Where the profile's (0, 0) lies."""
        ...

    @property
    def u(self) -> Vec:
        """The profile's first direction."""
        ...

    @property
    def w(self) -> Vec:
        """The direction in which it is extruded."""
        ...

    @property
    def rings(self) -> tuple[Ring, ...]:
        """The outline, then holes, mm."""
        ...

    @property
    def depth(self) -> float:
        """How far, mm."""
        ...

    @property
    def sweep(self) -> Vec:
        """Which way, by the profile's two directions and that square to it."""
        ...


class Solid(Protocol):
    """A closed solid, mm."""

    @property
    def volume(self) -> float:
        """Its volume, mm3."""
        ...

    @property
    def extent(self) -> tuple[Vec, Vec]:
        """Its least and greatest x, y, z."""
        ...

    @property
    def heights(self) -> tuple[float, float]:
        """The heights of its lowest and highest point."""
        ...

    @property
    def stands_upright(self) -> bool:
        """Whether it is a plan outline between two heights."""
        ...

    @property
    def plan(self) -> tuple[Ring, ...]:
        """Its outline seen from above, with its holes."""
        ...

    def corners(self) -> list[Vec]:
        """Return the corners of its outline; those of holes are left out."""
        ...

    def faces(self) -> list[tuple[Vec, ...]]:
        """Return its faces as outlines, turning to the left seen from outside; holes are left out."""
        ...

    def cut(self, view: View) -> tuple[tuple[Ring, ...], ...]:
        """Return where a picture plane cuts it: polygons (outline, holes) in the picture's x, y."""
        ...

    def outline(self, view: View) -> tuple[Ring, ...]:
        """Return what is seen of it: rings in the picture's x, y."""
        ...

    def depths(self, view: View) -> tuple[float, float]:
        """Return its least and greatest height toward the viewer."""
        ...

    def mesh(self) -> tuple[Array, Array]:
        """Return triangles (n, 3, 3) and edges (m, 2, 3)."""
        ...

    def swept(self) -> Swept:
        """Return it as a profile that is extruded."""
        ...
