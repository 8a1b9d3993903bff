"""What the rules read: the project and all that was derived from it before them."""

from dataclasses import dataclass

from balken.design.earth_walls import EarthWall
from balken.design.footings import PadResult, RunFooting
from balken.design.layouts import LayoutDesign
from balken.design.posts import PostDesign
from balken.design.stud_walls import FramedWall
from balken.framing.bands import WallLine
from balken.framing.floors import FloorPlan
from balken.framing.foundations import FoundationRun
from balken.framing.ground import Ground
from balken.framing.pads import PadPlace
from balken.framing.pieces import Piece
from balken.framing.roofs import RoofPlan
from balken.framing.slabs import SlabPlan
from balken.framing.walls import GableTop
from balken.loads.path import LoadPath
from balken.model.lookup import by_id
from balken.model.naming import owner_of
from balken.model.records import Project
from balken.units import Units


@dataclass(frozen=True)
class Context:
    """Derived parts by name; ``designs`` by (layout id, field of its choice)."""

    project: Project
    lines: dict[str, WallLine]
    runs: tuple[FoundationRun, ...]
    floors: tuple[FloorPlan, ...]
    roofs: tuple[RoofPlan, ...]
    designs: dict[tuple[str, str], LayoutDesign]
    footings: dict[str, RunFooting]
    groups: tuple[tuple[Piece, ...], ...]
    """The pieces of foundations, floors and roofs; those of framed walls stand in ``framed``."""
    worst_pieces: dict[tuple[str, str], tuple[str, ...]]
    longest: dict[str, tuple[str, float]]
    troubles: tuple[tuple[str, str], ...]
    framed: dict[str, FramedWall]
    gables: dict[str, GableTop]
    path: LoadPath
    ground: Ground | None
    pads: dict[str, PadResult]
    pad_places: tuple[PadPlace, ...]
    slabs: tuple[SlabPlan, ...]
    earth_walls: dict[str, EarthWall]
    posts: dict[str, PostDesign]

    @property
    def units(self) -> Units:
        """How the project shows lengths."""
        return self.project.units

    def level_height(self, level_id: str) -> float:
        """Return a level's height, mm."""
        return by_id(self.project.levels)[level_id].height

    def place(self, key: str) -> tuple[float, float, float]:
        """Return the middle of a member."""
        wall = self.framed.get(owner_of(key))
        groups = (wall.pieces,) if wall is not None else self.groups
        piece = next((piece for group in groups for piece in group if piece.key == key), None)
        if piece is None:
            return (0.0, 0.0, 0.0)
        (x0, y0, z0), (x1, y1, z1) = piece.start, piece.end
        return ((x0 + x1) / 2.0, (y0 + y1) / 2.0, (z0 + z1) / 2.0)
