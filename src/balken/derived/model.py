"""The derived model: everything that follows from one project.  It holds data alone; the steps stand in ``derive``."""

from collections.abc import Mapping
from functools import cached_property
from typing import Any

from balken.derived.finding import Finding
from balken.derived.marks import marks
from balken.design.dormers import DormerDesign
from balken.design.footings import PadResult, RunFooting
from balken.design.girders import GirderDesign
from balken.design.hangers import Hung
from balken.design.layouts import LayoutDesign
from balken.design.loaded_joists import LoadedJoists
from balken.design.lookouts import GableLookouts
from balken.design.post_fittings import Fitted
from balken.design.posts import PostDesign
from balken.design.raised_slabs import RaisedSlab
from balken.design.roof_trusses import TrussRoof
from balken.design.roof_uplift import Uplift
from balken.design.squash_blocks import Squashed
from balken.design.stairs import FlightDesign
from balken.design.stud_walls import FramedWall
from balken.design.surface_design import SurfaceDesign
from balken.design.wall_ledgers import HeldLedger
from balken.framing.bands import WallLine
from balken.framing.floors import FloorPlan
from balken.framing.foundations import FoundationRun
from balken.framing.ground import Ground
from balken.framing.hand_edits import Edited
from balken.framing.joints import Joints
from balken.framing.outlines import Outline
from balken.framing.pads import PadPlace
from balken.framing.pieces import Piece
from balken.framing.roles import ROLES, Role
from balken.framing.roofs import RoofPlan
from balken.framing.slabs import SlabPlan
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.walls import GableTop
from balken.loads.cases import Cases
from balken.loads.path import LoadPath
from balken.loads.roof_snow import RoofSnow
from balken.model.lookup import by_id
from balken.model.naming import owner_of
from balken.model.records import MemberEdit, Project
from balken.standards.checks import MemberResult
from balken.standards.ground import EarthWall
from balken.standards.known import STANDARDS
from balken.standards.standard import Standard
from balken.units import Units
from balken.value import Lazy


class Model(Lazy, frozen=True, kw_only=True):
    """Everything derived from one project, by the ids of its records unless said otherwise."""

    project: Project
    lines: dict[str, WallLine]
    joints: dict[str, Joints]
    gables: dict[str, GableTop]
    runs: tuple[FoundationRun, ...]
    outlines: dict[str, Outline]
    troubles: tuple[tuple[str, str], ...]
    """Floors, roofs and slabs whose walls do not close, each with what is wrong."""
    floors: tuple[FloorPlan, ...]
    roofs: tuple[RoofPlan, ...]
    surfaces: tuple[SurfacePlan, ...]
    uplift: Uplift
    """What wind lifts at the bearings of roofs."""
    snow: dict[str, RoofSnow]
    """Snow on roofs, by their ids."""
    dormers: dict[str, DormerDesign]
    """Dormers, by their ids; their roofs are among ``surfaces`` and ``planes``."""
    trusses: dict[str, TrussRoof]
    """Trusses of roofs, by their ids; of those that cannot have them, why."""
    planes: dict[str, SurfaceDesign]
    """The members of roofs of planes, by their ids."""
    """Roofs of planes over any outline."""
    slabs: tuple[SlabPlan, ...]
    ground: Ground | None
    pad_places: tuple[PadPlace, ...]
    path: LoadPath
    soil: Cases
    """All that presses on the soil, N."""
    designs: dict[tuple[str, str], LayoutDesign]
    """By the layout's id and the field of its choice."""
    framed: dict[str, FramedWall]
    footings: dict[str, RunFooting]
    pads: dict[str, PadResult]
    earth_walls: dict[str, EarthWall]
    posts: dict[str, PostDesign]
    """What each column is made of and how far it is used."""
    loaded: dict[str, LoadedJoists]
    """The joists under what stands on a deck, by the floor's id."""
    raised: dict[str, RaisedSlab]
    """Slabs above ground, by the floor's id."""
    squashed: tuple[Squashed, ...]
    """The squash blocks under walls that stand over bearings of I-joists."""
    flights: tuple[FlightDesign, ...]
    """Flights of stairs framed of stringers."""
    results: dict[str, MemberResult]
    """The checks of each member, by its name."""
    worst_pieces: dict[tuple[str, str], tuple[str, ...]]
    """The most used member of each layout, as ``designs``."""
    longest: dict[str, tuple[str, float]]
    """The longest member of each role: its name and length, mm."""
    foundations: tuple[tuple[Piece, ...], ...]
    """Footings, foundation walls with their plates, pads and slabs, as they were made together.

    Such a group stays the same object when an edit does not touch it; so do the next three kinds.
    """
    layouts: tuple[tuple[Piece, ...], ...]
    """The pieces of each floor and roof."""
    layers: dict[str, tuple[Piece, ...]]
    """The layers of each wall; its studs stand in ``framed``."""
    columns: tuple[Piece, ...]
    edited: dict[str, Edited[Any]]
    """The hand edits of floors and roofs by their ids; those of walls stand in ``framed``."""
    hangers: tuple[Hung, ...] = ()
    """What hangs on headers, flush beams and ledgers, and by which hanger."""
    ledgers: tuple[HeldLedger, ...] = ()
    """Ledgers of roofs on taller walls, and how they are held."""
    fittings: tuple[Fitted, ...] = ()
    """Caps and bases of posts."""
    findings: tuple[Finding, ...] = ()

    @property
    def units(self) -> Units:
        """How the project shows lengths."""
        return self.project.units

    def lookouts(self, roof: str) -> GableLookouts:
        """Return the lookouts over the gables of a roof of planes."""
        trusses, framing = self.trusses.get(roof), self.planes.get(roof)
        if trusses is not None and not trusses.problem:
            return trusses.lookouts
        return framing.lookouts if framing is not None else GableLookouts()

    def raftered(self, roof: str) -> bool:
        """Whether some hip ends of a roof under trusses are framed with rafters."""
        trusses = self.trusses.get(roof)
        return trusses is not None and not trusses.problem and roof in self.planes

    @property
    def girders(self) -> dict[str, GirderDesign]:
        """What each beam is made of and how far it is used, by its id."""
        return {name: made.design for name, made in self.path.beams.items()}

    @property
    def standard(self) -> Standard:
        """By what it is checked."""
        return STANDARDS[self.project.standard]

    @property
    def groups(self) -> tuple[tuple[Piece, ...], ...]:
        """All pieces as they were made together, but for the sticks of framed walls."""
        return (*self.foundations, *self.layouts, *self.layers.values(), self.columns)

    @cached_property
    def pieces(self) -> dict[str, Piece]:
        """Every piece by its name; for it the sticks of all walls are placed, so what shows few pieces asks for those."""
        return self._but_sticks | {piece.key: piece for f in self.framed.values() for piece in f.pieces}

    @cached_property
    def marks(self) -> Mapping[str, str]:
        """The mark of each member, column, wall, run and pad, by its name or id; given out when first asked for."""
        return marks(self)

    @cached_property
    def hand_edited(self) -> frozenset[str]:
        """The names of members that have a hand edit."""
        rows = [*self.edited.values(), *(wall.edited for wall in self.framed.values())]
        return frozenset(name for row in rows for name in row.names)

    @property
    def lost_edits(self) -> list[tuple[MemberEdit, str]]:
        """Hand edits that have no member, each with the name of the nearest one, or ""."""
        rows = [*self.edited.values(), *(wall.edited for wall in self.framed.values())]
        return [lost for row in rows for lost in row.lost]

    @cached_property
    def _but_sticks(self) -> dict[str, Piece]:
        return {piece.key: piece for group in self.groups for piece in group}

    def piece(self, key: str) -> Piece | None:
        """Return one piece by its name, if there is one."""
        wall = self.framed.get(owner_of(key))
        if wall is not None:
            for piece in wall.pieces:
                if piece.key == key:
                    return piece
        return self._but_sticks.get(key)

    def of_foundations(self, *roles: Role) -> list[Piece]:
        """Return the pieces of foundations that have one of these roles."""
        return [piece for group in self.foundations for piece in group if piece.role in roles]

    def of_layouts(self, *roles: Role, owner: str = "") -> list[Piece]:
        """Return the pieces of floors and roofs that have one of these roles; ``owner``: of one of them alone."""
        some = (piece for group in self.layouts for piece in group if piece.role in roles)
        return [piece for piece in some if owner in ("", piece.owner)]

    def members(self) -> list[Piece]:
        """Return the lumber and the beams."""
        return [p for p in self.pieces.values() if ROLES[p.role].lumber or ROLES[p.role].beam]

    def level_height(self, level_id: str) -> float:
        """Return a level's height, mm."""
        return by_id(self.project.levels)[level_id].height

    def _place_of_strip(self, key: str) -> tuple[float, float, float]:
        plan = next((f for f in self.floors if f.floor.is_slab and f.floor.id == owner_of(key)), None)
        if plan is None:
            return (0.0, 0.0, 0.0)
        line = next((x for x in plan.lines if key.endswith(f"/{x.place}")), None)
        s, t = ((line.low + line.high) / 2.0, line.t) if line else plan.frame.to(plan.outline.core[0])
        return (*plan.frame.back(s, t), self.level_height(plan.floor.level))

    def place(self, key: str) -> tuple[float, float, float]:
        """Return the middle of a member, the origin for one that is not there."""
        piece = self.piece(key)
        if piece is None:
            return self._place_of_strip(key)
        (x0, y0, z0), (x1, y1, z1) = piece.start, piece.end
        return ((x0 + x1) / 2.0, (y0 + y1) / 2.0, (z0 + z1) / 2.0)
