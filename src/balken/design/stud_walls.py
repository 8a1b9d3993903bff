"""Sizing a stud wall from the load on its head and the wind on its face, then framing it."""

import math
from functools import cache, cached_property, partial

import numpy as np
from msgspec.structs import replace

from balken.design.headers import HeaderDesign, Openings, header_sizes, opening_case
from balken.design.layouts import LayoutDesign, design_layout
from balken.design.wall_posts import WallPost, wall_posts
from balken.framing.bands import WallLine
from balken.framing.hand_edits import EditedWall
from balken.framing.joints import Joints
from balken.framing.pieces import MadeOf, Piece
from balken.framing.studs import PostUnder, StudWall, T, Trimming, clear_height, stud_pieces, stud_wall
from balken.framing.walls import GableTop
from balken.loads.along import Laid, laid_together
from balken.loads.cases import Array, Cases
from balken.loads.wall_law import HeadLoad
from balken.model.buildups import stud_size
from balken.model.naming import place_of
from balken.model.records import Choice, Opening
from balken.standards.checks import MemberResult
from balken.standards.demands import StudCase
from balken.standards.standard import Standard
from balken.units import Units
from balken.units.system import INCH
from balken.value import Lazy, Value

STUD_SIZES = ("2x4", "2x6", "2x8")


class FramedWall(Lazy, frozen=True):
    """The framing of one wall: studs as a layout, headers by opening id, checks by piece key."""

    line: WallLine
    design: LayoutDesign
    headers: dict[str, HeaderDesign]
    posts: tuple[WallPost, ...]
    wall: StudWall
    results: dict[str, MemberResult]
    edited: EditedWall
    on_concrete: bool = False
    """Whether its bottom plates lie on concrete: then they are of treated lumber (IRC R317.1) and bolted down (R403.1.6)."""

    @cached_property
    def pieces(self) -> tuple[Piece, ...]:
        """Its sticks as solids, in their order; placed when first asked for, as most views show few of them."""
        return self._treated(stud_pieces(self.line, self.wall.sticks))

    def _treated(self, pieces: tuple[Piece, ...]) -> tuple[Piece, ...]:
        if not self.on_concrete:
            return pieces
        return tuple(replace(p, grade=f"{p.grade} {TREATED}") if p.role == "bottom plate" else p for p in pieces)

    @property
    def bottom_plates(self) -> list[tuple[float, float]]:
        """From where to where along the wall its bottom plates run, mm."""
        rings = [[x for x, _ in s.ring] for s in self.wall.sticks if s.role == "bottom plate"]
        return sorted((min(xs), max(xs)) for xs in rings)

    def between(self, low: float, high: float) -> tuple[Piece, ...]:
        """Return the sticks of which anything lies between two places along the wall, mm."""
        near = [s for s in self.wall.sticks if min(s.ring)[0] <= high and max(s.ring)[0] >= low]
        return self._treated(stud_pieces(self.line, tuple(near)))


TREATED = "treated"
"""What lies on concrete is treated lumber; incising takes nothing from its bearing across the grain (NDS Table 4.3.8)."""


class StudDesign(Value, frozen=True):
    """What a stud wall is made of: its studs as a layout, its openings to be framed, posts under columns."""

    design: LayoutDesign
    openings: Openings
    posts: tuple[WallPost, ...]


class WallDesign(Value, frozen=True):
    """What a stud wall is made of: its studs as a layout, the framing of each opening by id, posts under columns."""

    design: LayoutDesign
    headers: dict[str, HeaderDesign]
    posts: tuple[WallPost, ...]

    @property
    def choice(self) -> tuple[float, dict[str, Trimming], tuple[PostUnder, ...]]:
        """What its geometry follows from: stud spacing, the trimming of each opening, posts under columns."""
        trims = {o: Trimming(h.size, h.jacks, h.kings) for o, h in self.headers.items()}
        return self.design.spacing, trims, tuple(post.under for post in self.posts)


def design_studs(
    line: WallLine,
    openings: tuple[Opening, ...],
    gable: GableTop | None,
    head: HeadLoad,
    own: Cases,
    wind: float,
    units: Units,
    standard: Standard,
) -> StudDesign:
    """Choose stud spacing, and say what the openings have to carry.

    ``head``: what lies on the wall's head, where it lies; ``own``: its own weight along it, N/mm.
    ``wind``: pressure on an outside wall, kN/m2.  Raises ValueError for a core that is not of studs.
    """
    size = stud_size(line.buildup)
    if size is None:
        raise ValueError("the core of the wall is not made of studs")
    framing = line.wall.framing
    tall = clear_height(line, gable)
    pressure = wind if line.wall.role == "outside" else 0.0
    limit = standard.stud_limit(frozenset(layer.material for layer in line.buildup.layers))

    loaded = cache(partial(stud_load, spread_on_plates(head), line.band.length, standard.combinations.factors))

    def case_for(name: str, spacing: float) -> StudCase:
        axial = loaded(spacing).plus(own.scaled(spacing))
        axial = Cases(*(round(v, 2) for v in axial))
        return StudCase(
            "stud", name, framing.species, framing.grade, round(tall, 1), spacing, axial, pressure,
            framing.header_species, limit,
        )  # fmt: skip

    choice = Choice(size=size, species=framing.species, grade=framing.grade, spacing=framing.spacing)
    design = design_layout(choice, STUD_SIZES, units, lambda name, spacing: (case_for(name, spacing),), standard)
    flat = line.band.top - line.band.bottom
    cases = []
    for o in openings:
        above = max(0.0, 1.0 - (o.sill + o.height) / flat)
        heights = (round(tall, 1), max(o.sill + o.height, 100.0))
        plates = flat - 2.0 * T
        cases.append(
            opening_case(o, head, own.all * above, plates, heights, pressure, design.spacing, standard.combinations)
        )
    sizes = header_sizes(line.core[1] - line.core[0])
    typed = tuple(o.header for o in openings)
    bay = design.spacing, own, pressure
    posts = wall_posts(head, openings, framing, size, tall, line.band.length, bay, limit, standard, gable)
    return StudDesign(design, Openings(tuple(cases), typed, framing, sizes, size, limit, standard), posts)


THROUGH_FLOOR = 12.0 * INCH
"""What stands on a wall spreads this far to both sides through plate, floor and plates: 45 degrees over the depth of
a floor of 2x8 and its three plates (common practice, no source)."""
LOOK = 75.0
"""The load of a stud is looked for this often along a wall, mm."""


def spread_on_plates(head: HeadLoad) -> Laid:
    """Return what lies on a wall's head as its studs feel it: what stands on it spread through the floor between."""
    return laid_together((head.members, head.walls.widened(THROUGH_FLOOR)))


def stud_load(laid: Laid, length: float, factors: Array, spacing: float) -> Cases:
    """Return the load on the most loaded stud, N: what lies on the plates within half a spacing at both sides.

    A stud at the end of the wall has half of that.
    """
    if not len(laid.low):
        return Cases()
    at = np.linspace(0.0, length, max(math.ceil(length / LOOK), 1) + 1)
    found = laid.total_in(np.maximum(at - spacing / 2.0, 0.0), np.minimum(at + spacing / 2.0, length))
    return Cases(*found[int((found @ factors.T).max(axis=1).argmax())].tolist())


def lay_studs(
    line: WallLine,
    joints: Joints,
    openings: tuple[Opening, ...],
    gable: GableTop | None,
    choice: tuple[float, dict[str, Trimming], tuple[PostUnder, ...]],
    stock: float,
    ribbons: tuple[float, ...],
) -> StudWall:
    """Frame the wall as designed."""
    spacing, trims, posts = choice
    return stud_wall(line, joints, openings, gable, spacing, trims, stock, ribbons, posts)


def checked_sticks(made: WallDesign, edited: EditedWall) -> dict[str, MemberResult]:
    """Return the check of each stud, header, jack and king by the key of its piece."""
    results: dict[str, MemberResult] = {}
    wall = edited.plan
    posts = {post.source: post.result for post in made.posts}
    for stick in wall.sticks:
        name = stick.key(wall.wall)
        if stick.role == "stud":
            results[name] = made.design.result
            if name in edited.carries:
                results[name] = _by_itself(made.design, edited.carries[name], edited.made.get(name))
        elif stick.role == "post stud":
            under = place_of(stick.place)
            if under is not None and under.datum in posts:
                results[name] = posts[under.datum]
        elif stick.opening in made.headers and stick.role in ("header", "jack stud", "king stud"):
            h = made.headers[stick.opening]
            results[stick.key(wall.wall)] = {"header": h.header, "jack stud": h.jack, "king stud": h.king}[stick.role]
    return results


def _by_itself(design: LayoutDesign, strip: float, own: MadeOf | None) -> MemberResult:
    """Check a stud that is not as the others, or carries another strip (mm), by what the most loaded one carries."""
    case = design.result.case
    assert isinstance(case, StudCase)
    own = own or MadeOf()
    part = strip / case.spacing
    return design.standard.check_stud(
        replace(
            case,
            size=own.sized(case.size),
            species=own.species or case.species,
            grade=own.grade or case.grade,
            spacing=round(strip, 3),
            axial=Cases(*(round(v * part, 2) for v in case.axial)),
        )
    )
