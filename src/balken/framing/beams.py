"""Where beams lie, what joists find of them, and their solids."""

from typing import NamedTuple

from balken.catalog.beams import BeamSection, beam_section
from balken.catalog.own_beams import OwnBeam, tried
from balken.framing.pieces import Bearer, Piece, split_run
from balken.framing.section_solids import i_shape
from balken.geometry.plane import Point, Ring, add, distance, unit
from balken.geometry.prism import Prism, box
from balken.model.naming import beam_name, piece_name
from balken.model.places import by_id, height, locate
from balken.model.records import Beam, Floor, Grid, Level
from balken.units.system import FOOT, INCH
from balken.value import Value

SEAT = 3.0 * INCH
"""Width of a beam left to Balken, as joists see it before it has a size: two boards; it is never narrower, mm."""
PLATE = 1.5 * INCH
"""Thickness of the timber plate on a steel beam under joists."""
STOCK: dict[str, float] = {"LVL": 48.0 * FOOT, "GLB": 60.0 * FOOT, "W": 60.0 * FOOT}
"""The longest there is of what is not sawn, mm (common practice, no source)."""
ON_TOP = 100.0
"""A beam whose top lies less than this above another one's hangs at its side, mm."""
ABOUT = 200.0
"""How deep joists are taken before they have a size, for finding what they may bear on, mm."""


class BeamLine(Value, frozen=True):
    """A beam's line in plan, the height of its top with its plate, the width joists find, the longest piece there is, mm."""

    beam: Beam
    start: Point
    end: Point
    top: float
    breadth: float
    stock: float
    listed: tuple[str, ...] = ()
    """The sections of the project's own list that it is chosen among; none: those that ship with Balken."""

    @property
    def id(self) -> str:
        """Its record's id."""
        return self.beam.id

    @property
    def length(self) -> float:
        """Length, mm."""
        return distance(self.start, self.end)

    @property
    def direction(self) -> Point:
        """Unit direction from start to end."""
        return unit(self.start, self.end)

    def at(self, along: float) -> Point:
        """Return the place on its middle ``along`` mm from its start."""
        return add(self.start, self.direction, along)

    @property
    def bearer(self) -> Bearer:
        """What joists bear on, or hang on where it is flush with them."""
        (dx, dy), half = self.direction, self.breadth / 2.0
        return Bearer(self.id, "", self.start, self.end, (dx, dy), (-dy, dx), -half, half, self.top, self.beam.flush)


def beam_lines(
    beams: tuple[Beam, ...],
    grids: tuple[Grid, ...],
    levels: tuple[Level, ...],
    floors: tuple[Floor, ...],
    depths: dict[str, float],
    boards: float = 16.0 * FOOT,
    own: tuple[OwnBeam, ...] = (),
) -> tuple[BeamLine, ...]:
    """Return where beams lie; ``depths``: of the joists of each floor, mm, those not known yet taken as usual ones; ``boards``:
    the longest there are; ``own``: those of the project's own lists.
    """
    known, found = by_id(floors), []
    for beam in beams:
        start, end = locate(beam.start, grids), locate(beam.end, grids)
        top = height(beam.top, levels)
        floor = known.get(beam.floor)
        if floor is not None:
            under_deck = by_id(levels)[floor.level].height - floor.deck
            top = under_deck if beam.flush else under_deck - depths.get(floor.id, ABOUT)
        found.append(
            BeamLine(
                beam, start, end, round(top, 6), _seat(beam), STOCK.get(beam.made_of, boards), tried(own, beam.made_of)
            )
        )
    return tuple(found)


def _seat(beam: Beam) -> float:
    return beam_section(beam.size).breadth if beam.size else SEAT


def plate_on(beam: Beam, section: BeamSection) -> float:
    """Return the thickness of the timber plate on a beam, mm: steel under joists has one."""
    return PLATE if section.shape is not None and beam.floor and not beam.flush else 0.0


def hangs_on(beam: BeamLine, other: BeamLine) -> bool:
    """Whether a beam that ends at another one's side hangs there: it does not lie on top of it."""
    return beam.top - other.top < ON_TOP


def face_of(line: BeamLine, other: BeamLine, along: float, wide: float, other_wide: float) -> float:
    """Return where along a beam it ends at the side of another one; ``along``: near which of its ends, ``wide``: of each, mm.

    It is cut square, so that one askew stops where its nearer edge meets that side.
    """
    (dx, dy), (ex, ey) = line.direction, other.direction
    square, slant = dx * ey - dy * ex, abs(dx * ex + dy * ey)
    axis = ((other.start[0] - line.start[0]) * ey - (other.start[1] - line.start[1]) * ex) / square
    back = (other_wide + wide * slant) / 2.0 / abs(square)
    return round(axis + back if along < line.length / 2.0 else axis - back, 6)


class Made(NamedTuple):
    """What a beam was made of by its design, and the height of its underside, where its pieces lie along it, mm."""

    section: BeamSection
    bottom: float
    parts: tuple[tuple[float, float], ...]


def beam_pieces(lines: tuple[BeamLine, ...], made: dict[str, Made], boards: float = 16.0 * FOOT) -> tuple[Piece, ...]:
    """Return the solids of beams, and of the plates on those of steel, these none longer than ``boards``, mm."""
    pieces: list[Piece] = []
    for line in lines:
        section, bottom, parts = made[line.id]
        beam, plate = line.beam, plate_on(line.beam, section)
        sawn = section.board is not None
        dx, dy = line.direction
        for k, (low, high) in enumerate(parts):
            start, end, long = (*line.at(low), bottom), (*line.at(high), bottom), high - low
            solid = Prism(start, (-dy, dx, 0.0), (0.0, 0.0, 1.0), (profile(section),), long)
            pieces.append(
                Piece(
                    beam_name(line.id, k), "beam", line.id, _level(beam), solid, section.material,
                    start, end, long, section.name, beam.species if sawn else "", beam.grade if sawn else "",
                )
            )  # fmt: skip
        if plate:
            wide = 5.5 * INCH if section.breadth > 5.0 * INCH else 3.5 * INCH
            for k, (low, high) in enumerate(split_run(line.length, boards)):
                foot, head = (*line.at(low), line.top - plate), (*line.at(high), line.top - plate)
                pieces.append(
                    Piece(
                        piece_name(line.id, "plate", *([str(k)] if k else [])), "beam plate", line.id, _level(beam),
                        box(foot, head, (-dy, dx, 0.0), wide, plate), "timber", foot, head, high - low,
                        "2x6" if wide > 5.0 * INCH else "2x4", beam.species, beam.grade,
                    )
                )  # fmt: skip
    return tuple(pieces)


def _level(beam: Beam) -> str:
    return beam.top.level


def profile(section: BeamSection) -> Ring:
    """Return the outline of a section about its middle, from its underside up, anticlockwise, mm."""
    b, d = section.breadth / 2.0, section.depth
    w = section.shape
    return ((-b, 0.0), (b, 0.0), (b, d), (-b, d)) if w is None else i_shape(b, d, w.flange, w.web / 2.0)
