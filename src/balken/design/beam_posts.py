"""Posts set under beams: how far apart at most, evenly, each with what it stands on."""

import itertools
import math

from balken.framing.bands import wall_lines
from balken.framing.beams import BeamLine, beam_lines
from balken.framing.foundations import foundation_runs
from balken.geometry.plane import Point, chords
from balken.loads.seats import under_beam
from balken.loads.stands import column_stands
from balken.model.beam_edits import add_beam
from balken.model.beam_rows import all_beams
from balken.model.edits import add_all
from balken.model.errors import EditError
from balken.model.foundation_edits import PIER, add_pads
from balken.model.lookup import by_id, height, locate, next_id, there
from balken.model.records import Column, Floor, Foundation, Hang, Project
from balken.model.ties import tie
from balken.units.system import FOOT, INCH

USUAL = 8.0 * FOOT
"""Posts are set this far apart at most where nobody says (common practice, no source)."""
POST = 5.5 * INCH
ENDS = 300.0
"""A beam that bears nowhere within this of its end gets a post there, mm."""
ABOVE_EARTH = 8.0 * INCH
"""Wood stands this far above exposed earth (IRC R317.1.4)."""
STOREY = 1500.0
"""A deck this far below a beam is that of a storey below, mm."""


def girder_on_posts(project: Project, floor_id: str, start: Point, end: Point, most: float = USUAL) -> Project:
    """Lay a beam under the joists of a floor, and posts under it; raises EditError."""
    floor = there(project.floors, floor_id)
    after = add_beam(project, start, end, Hang(level=floor.level), floor_id)
    return posts_under(after, after.beams[-1].id, most)


def posts_under(project: Project, beam_id: str, most: float = USUAL) -> Project:
    """Set posts under a beam, no farther apart than ``most`` (mm), evenly between what it bears on already,
    to the inch.

    Those of the lowest floor get a pad and a pier each; higher ones stand on the deck below.  Raises EditError where it
    bears often enough already.
    """
    line, places = _wanted(project, beam_id, most)
    if not places:
        raise EditError("it bears as often as that already.", "Posts", "Type a smaller distance.")
    beam = there(all_beams(project), beam_id)
    foot, on_pads = foot_of_posts(project, beam.floor, line.top, places)
    return stood(project, places, foot, beam.top, on_pads)


def bears_as_often(project: Project, beam_id: str, most: float) -> bool:
    """Whether a beam bears every ``most`` mm and at its ends already; raises EditError."""
    return not _wanted(project, beam_id, most)[1]


def _wanted(project: Project, beam_id: str, most: float) -> tuple[BeamLine, list[Point]]:
    """Return the line of a beam, and where posts are missing under it."""
    there(all_beams(project), beam_id)
    if not 300.0 <= most <= 30_000.0:
        raise EditError("posts must be 1 to 100 ft (0.3 to 30 m) apart.", "Posts", "Type such as 8 ft.")
    line = next(b for b in _lines(project) if b.id == beam_id)
    return line, [line.at(along) for along in _places(line, _borne(project, line), most)]


def stood(project: Project, places: list[Point], foot: Hang, head: Hang, on_pads: Hang | None) -> Project:
    """Stand posts at places, each on a pad where the top of such is given."""
    number = int(next_id(project, Column).rpartition("-")[2])
    columns = [
        Column(id=f"column-{number + i}", place=tie(project, at), foot=foot, head=head, size=None)
        for i, at in enumerate(places)
    ]
    after = add_all(project, *columns)
    if on_pads is None:
        return after
    return add_pads(after, tuple(places), on_pads, foot, PIER)


def _lines(project: Project) -> tuple[BeamLine, ...]:
    return beam_lines(all_beams(project), project.grids, project.levels, project.floors, {})


def _borne(project: Project, line: BeamLine) -> list[float]:
    """Return where along a beam it bears, mm."""
    walls = wall_lines(project.walls, project.buildups, project.grids, project.levels)
    runs = foundation_runs(project.foundations, walls, project.levels)
    stands = column_stands(project.columns, project.grids, project.levels)
    return [seat.along for seat in under_beam(line, walls, runs, stands, _lines(project))]


def _places(line: BeamLine, borne: list[float], most: float) -> list[float]:
    found: list[float] = []
    marks = sorted(borne)
    if not marks or marks[0] > ENDS:
        found.append(POST / 2.0)
    if not marks or marks[-1] < line.length - ENDS:
        found.append(line.length - POST / 2.0)
    marks = sorted([*marks, *found])
    for a, b in itertools.pairwise(marks):
        bays = math.ceil((b - a) / most - 1e-6)
        found += [round((a + (b - a) * k / bays) / INCH) * INCH for k in range(1, bays)]
    return sorted(found)


def foot_of_posts(project: Project, floor_id: str, top: float, places: list[Point]) -> tuple[Hang, Hang | None]:
    """Return the foot of posts up to a height, and the top of the pads under them where they stand on such."""
    below = _deck_below(project, top, places)
    if below is not None:
        return Hang(level=below.level), None
    foundation = _foundation(project, floor_id)
    if foundation is None:
        ground = min(project.levels, key=lambda v: v.height)
        foot = Hang(level=ground.id)
        return foot, Hang(level=ground.id, offset=-2.0 * FOOT)
    at = height(foundation.foot, project.levels)
    head = _pier_head(project, foundation)
    return Hang(level=foundation.foot.level, offset=round(foundation.foot.offset + head - at, 3)), foundation.foot


def _deck_below(project: Project, top: float, places: list[Point]) -> Floor | None:
    """Return the highest floor a storey or more below, in whose outline the posts stand."""
    levels = by_id(project.levels)
    found = [f for f in project.floors if levels[f.level].height < top - STOREY and _within(project, f, places)]
    return max(found, key=lambda f: levels[f.level].height, default=None)


def _within(project: Project, floor: Floor, places: list[Point]) -> bool:
    walls = by_id(project.walls)
    ring = tuple(locate(walls[w].start, project.grids) for w in floor.walls if w in walls)
    return len(ring) > 2 and all(any(a <= 0.0 <= b for a, b in chords((ring,), at, (1.0, 0.0))) for at in places)


def _foundation(project: Project, floor_id: str) -> Foundation | None:
    """Return the foundation under the walls of a floor, else the first."""
    floor = by_id(project.floors).get(floor_id)
    if floor is not None:
        for foundation in project.foundations:
            if set(foundation.walls) & set(floor.walls):
                return foundation
    return project.foundations[0] if project.foundations else None


def _pier_head(project: Project, foundation: Foundation) -> float:
    """Return how high piers come: to the slab, or clear of the earth inside, mm."""
    at = height(foundation.foot, project.levels)
    slabs = [by_id(project.levels)[s.level].height for s in project.slabs if set(s.walls) & set(foundation.walls)]
    if slabs:
        return max(max(slabs), at + 2.0 * INCH)
    ground = [v.height for v in project.levels if v.role == "ground"]
    if ground and foundation.inside_ground is not None:
        return max(max(ground) - foundation.inside_ground + ABOVE_EARTH, at + ABOVE_EARTH)
    return at + ABOVE_EARTH
