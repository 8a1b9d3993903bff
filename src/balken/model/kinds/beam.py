"""Beams: girders under the joists of a floor or flush with them, and beams by themselves."""

from typing import TYPE_CHECKING, Annotated, Literal

from balken.catalog.beams import CutKind, beam_section
from balken.geometry.plane import distance
from balken.model.base import Hang, Place, Record, To
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind
from balken.model.rule_parts import graded, hung, named, placed

if TYPE_CHECKING:
    from balken.model.records import Project

BeamWord = Literal["sawn", "LVL", "GLB", "W"]
"""The kinds of beams by the words that their names begin with."""
WORDS: dict[CutKind, BeamWord] = {"sawn": "sawn", "laminated veneer": "LVL", "glulam": "GLB", "steel": "W"}
SHORTEST = 300.0
LONGEST = 60_000.0
HEAVIEST = 1_000.0


class Beam(Record, frozen=True, kw_only=True):
    """A beam from place to place.

    ``floor``: whose joists it carries: it lies under them, or ``flush`` with them so that they hang on it, and its height
    follows; without one ``top`` says it.  ``size``: such as 3-2x10 or W8x18, None = Balken chooses of its ``made_of``.
    ``species``, ``grade``: of sawn boards.  ``dead``, ``live``, ``snow``: typed along it, N/mm, beside what lies on it.
    """

    id: str
    start: Place
    end: Place
    top: Hang
    floor: Annotated[str, To(("floors",), "clear")] = ""
    flush: bool = False
    made_of: BeamWord = "sawn"
    size: str | None = None
    species: str = "DF-L"
    grade: str = "No. 2"
    dead: float = 0.0
    live: float = 0.0
    snow: float = 0.0
    outdoors: bool = False


def check_beam(project: "Project", beam: Beam) -> None:
    """Raise EditError unless a beam lies somewhere and its section is one of its kind."""
    where = "Beam"
    long = distance(placed(project, beam.start, where), placed(project, beam.end, where))
    if not SHORTEST <= long <= LONGEST:
        raise EditError("it must be 1 to 200 ft (0.3 to 60 m) long.", where, "Choose ends farther apart.")
    hung(project, beam.top, where)
    if beam.floor and all(f.id != beam.floor for f in project.floors):
        raise EditError("the floor it carries is not there.", where)
    if beam.flush and not beam.floor:
        raise EditError("joists hang on it, but it carries no floor.", where, "Choose its floor first.")
    if not all(0.0 <= v <= HEAVIEST for v in (beam.dead, beam.live, beam.snow)):
        raise EditError("the load along it must be 0 to 68 kip/ft (1000 kN/m).", where)
    if beam.outdoors and beam.made_of == "LVL":
        raise EditError("veneer lumber does not stand outdoors.", where, "Choose sawn lumber, glued timber or steel.")
    graded(beam.species, beam.grade, where)
    if beam.size is not None:
        named(beam_section, beam.size, where)
        if WORDS[beam_section(beam.size).kind] != beam.made_of:
            raise EditError(f"{beam.size} is no beam of that kind ({beam.made_of}).", where, "Choose its kind first.")


KIND = Kind(Beam, "beams", "beam", "beam", "beams", check_beam)
