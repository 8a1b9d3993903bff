"""Sizing a stud wall from the load on its head and the wind on its face, then framing it."""

from dataclasses import dataclass
from functools import cached_property

from balken.design.checks import MemberResult
from balken.design.columns import ColumnCase
from balken.design.headers import HeaderDesign, design_header, header_sizes
from balken.design.layouts import LayoutDesign, design_layout
from balken.framing.bands import WallLine
from balken.framing.joints import Joints
from balken.framing.pieces import Piece
from balken.framing.studs import StudWall, Trimming, clear_height, stud_pieces, stud_wall
from balken.framing.walls import GableTop
from balken.loads.cases import Cases
from balken.model.buildups import stud_size
from balken.model.records import Choice, Opening
from balken.units import Units

STUD_SIZES = ("2x4", "2x6", "2x8")


@dataclass(frozen=True)
class FramedWall:
    """The framing of one wall: studs as a layout, headers by opening id, checks by piece key."""

    line: WallLine
    design: LayoutDesign
    headers: dict[str, HeaderDesign]
    wall: StudWall
    results: dict[str, MemberResult]

    @cached_property
    def pieces(self) -> tuple[Piece, ...]:
        """Its sticks as solids, in their order; placed when first asked for, as most views show few of them."""
        return stud_pieces(self.line, self.wall.sticks)

    def between(self, low: float, high: float) -> tuple[Piece, ...]:
        """Return the sticks of which anything lies between two places along the wall, mm."""
        near = [s for s in self.wall.sticks if min(s.ring)[0] <= high and max(s.ring)[0] >= low]
        return stud_pieces(self.line, tuple(near))


@dataclass(frozen=True)
class StudDesign:
    """What a stud wall is made of: its studs as a layout, and the framing of each opening by id."""

    design: LayoutDesign
    headers: dict[str, HeaderDesign]

    @property
    def choice(self) -> tuple[float, dict[str, Trimming]]:
        """What its geometry follows from: stud spacing and the trimming of each opening."""
        return self.design.spacing, {o: Trimming(h.size, h.jacks, h.kings) for o, h in self.headers.items()}


def design_studs(
    line: WallLine,
    openings: tuple[Opening, ...],
    gable: GableTop | None,
    head: Cases,
    own: Cases,
    wind: float,
    units: Units,
) -> StudDesign:
    """Choose stud spacing, headers, jacks and kings.

    ``head``: line load on the wall's head by case; ``own``: its own weight along it, N/mm.
    ``wind``: pressure on an outside wall, kN/m2.  Raises ValueError for a core that is not of studs.
    """
    size = stud_size(line.buildup)
    if size is None:
        raise ValueError("the core of the wall is not made of studs")
    framing = line.wall.framing
    tall = clear_height(line, gable)
    pressure = wind if line.wall.role == "outside" else 0.0
    foot = head.plus(own)

    def case_for(name: str, spacing: float) -> ColumnCase:
        plate = framing.header_species
        axial = foot.scaled(spacing)
        return ColumnCase("stud", name, framing.species, framing.grade, round(tall, 1), spacing, axial, pressure, plate)

    choice = Choice(size=size, species=framing.species, grade=framing.grade, spacing=framing.spacing)
    design = design_layout(choice, STUD_SIZES, units, case_for)
    sizes = header_sizes(line.core[1] - line.core[0])
    headers = {}
    for o in openings:
        above = max(0.0, 1.0 - (o.sill + o.height) / (line.band.top - line.band.bottom))
        load = head.plus(own.scaled(above))
        stud = (size, round(tall, 1), max(o.sill + o.height, 100.0), pressure)
        headers[o.id] = design_header(o.id, o.header, o.width, load, framing, sizes, stud)
    return StudDesign(design, headers)


def lay_studs(
    line: WallLine,
    joints: Joints,
    openings: tuple[Opening, ...],
    gable: GableTop | None,
    choice: tuple[float, dict[str, Trimming]],
    stock: float,
    ribbons: tuple[float, ...],
) -> StudWall:
    """Frame the wall as designed."""
    spacing, trims = choice
    return stud_wall(line, joints, openings, gable, spacing, trims, stock, ribbons)


def checked_sticks(made: StudDesign, wall: StudWall) -> dict[str, MemberResult]:
    """Return the check of each stud, header, jack and king by the key of its piece."""
    results: dict[str, MemberResult] = {}
    for stick in wall.sticks:
        if stick.role == "stud":
            results[stick.key(wall.wall)] = made.design.result
        elif stick.opening in made.headers and stick.role in ("header", "jack stud", "king stud"):
            h = made.headers[stick.opening]
            results[stick.key(wall.wall)] = {"header": h.header, "jack stud": h.jack, "king stud": h.king}[stick.role]
    return results
