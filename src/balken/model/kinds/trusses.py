"""What a roof's trusses are made of."""

from typing import Literal

import msgspec

from balken.catalog.sections import lumber_section
from balken.catalog.species import AUTO_GRADE, usual_grade
from balken.model.base import Record
from balken.model.errors import EditError
from balken.model.rule_parts import check_spacing, graded, named
from balken.units.system import FOOT, INCH

PATTERNS = (
    "auto", "king-post", "queen-post", "fink", "fan", "double-fink", "howe", "scissors", "room"
)  # fmt: skip
"""Patterns of webs that a project may name; "auto": by the span."""


LEAST_STEP_IN = 600.0
MOST_STEP_RIGHT = 12000.0
LEAST_PANEL, MOST_PANEL = 600.0, 4600.0
LEAST_DROP, MOST_DROP = 150.0, 1500.0
"""How far below the plates bottom chords may lie, mm."""
LEAST_PAST, MOST_PAST = 150.0, 1220.0
"""How far heels may stand out past the walls, mm."""
MOST_CAMBER = 51.0
"""Trusses are built up by so much at most, mm."""


class Trusses(Record, frozen=True, kw_only=True):
    """Trusses of a roof: pattern of webs, spacing (None: as wide as works), heel height (None: a butt cut), sections (None: chosen by Balken), plies.

    ``bottom_pitch``: of bottom chords that rise to the middle, as rise over run.
    """

    pattern: str = "auto"
    spacing: float | None = 24.0 * INCH
    heel: float | None = None
    bottom_pitch: float = 0.0
    step: float = 0.0
    """How much higher bottom chords lie between the slopes of a stepped ceiling than at the walls, mm (0: no step)."""
    step_in: float = 4.0 * FOOT
    """How far in of the walls' outer faces they begin to rise, mm."""
    step_right: float | None = None
    """How far in of the wall that stands right in their drawing, mm (None: as far as at the other)."""
    top: str | None = None
    bottom: str | None = None
    webs: str | None = None
    top_panel: float | None = None
    """How long panels of top chords may be in plan where webs are chosen, mm (None: 8 ft)."""
    bottom_panel: float | None = None
    """Those of bottom chords (None: 10 1/2 ft)."""
    plies: int = 1
    set_back: float | None = None
    """How far in of a hip end its girder stands, mm (None: 8 ft at most)."""
    girder_plies: int | None = None
    """Of hip girders (None: as many as work, two at least)."""
    species: str = "S-P-F"
    grade: str = "No. 1/No. 2"
    """Of all their wood, or "auto": chosen for top chords, bottom chords and webs each."""
    man: bool = False
    """Whether someone is taken to stand anywhere on their chords: 300 lb (1334 N), with nothing else that comes and goes."""
    inner: bool = False
    """Whether they bear on inside bearing walls as high as the roof's, too; else they are kept half an inch off those."""
    joined: Literal["plates", "gussets"] = "plates"
    """By what their sticks are joined: toothed plates, or gussets of plywood with nails, for such as are built on site."""
    camber: float = 0.0
    """How much those with a peak, or of one slope, are built up in their middle, mm."""
    past: float = 0.0
    """How far their heels stand out past the walls, their bottom chords with them, mm."""
    drop: float = 0.0
    """How far below the plates their bottom chords lie, between the walls; they bear on their top chords then, mm (0: bottom chords bear)."""

    @property
    def wood_grade(self) -> str:
        """The grade of what is not chosen: the usual one of its species where others are."""
        return usual_grade(self.species) if self.grade == AUTO_GRADE else self.grade

    @property
    def over_gables(self) -> "Trusses":
        """As frames over gables have them, which stand on the level plates of their walls."""
        return msgspec.structs.replace(self, bottom_pitch=0.0, step=0.0, drop=0.0)

    @property
    def level(self) -> bool:
        """Whether bottom chords are level from end to end."""
        return self.bottom_pitch == 0.0 and self.step == 0.0


def check_trusses(trusses: Trusses, where: str) -> None:
    """Raise EditError unless trusses can be asked for so."""
    if trusses.pattern not in PATTERNS:
        raise EditError("there is no such pattern of webs.", where, f"Choose one of {', '.join(PATTERNS)}.")
    check_spacing(trusses.spacing, where)
    if trusses.heel is not None and not 50.0 <= trusses.heel <= 2500.0:
        raise EditError("a heel is 2 in to 8 ft (50 to 2500 mm) high.", where)
    if not 0.0 <= trusses.bottom_pitch <= 3.0:
        raise EditError("bottom chords rise at 0:12 to 36:12.", where)
    if trusses.step and not 100.0 <= trusses.step <= 1500.0:
        raise EditError("a ceiling steps up by 4 in to 5 ft (100 to 1500 mm), or not at all.", where)
    if not LEAST_STEP_IN <= trusses.step_in <= 6000.0:
        raise EditError("a ceiling steps up 2 to 20 ft (600 mm to 6 m) in of the walls.", where)
    if trusses.step_right is not None and not LEAST_STEP_IN <= trusses.step_right <= MOST_STEP_RIGHT:
        raise EditError("a ceiling steps up 2 to 40 ft (600 mm to 12 m) in of its right wall.", where)
    if trusses.step and trusses.bottom_pitch:
        raise EditError("bottom chords rise to the middle or step up, not both.", where, "Type 0 for one of them.")
    for size in (trusses.top, trusses.bottom, trusses.webs):
        if size is not None:
            named(lumber_section, size, where)
            if lumber_section(size).breadth > 2.0 * INCH:
                raise EditError(
                    f"{size} is too thick for a truss.", where, "Choose lumber such as 2x6, and plies for more."
                )
    for panel in (trusses.top_panel, trusses.bottom_panel):
        if panel is not None and not LEAST_PANEL <= panel <= MOST_PANEL:
            raise EditError("panels of chords are 2 to 15 ft (600 mm to 4.6 m) long at most.", where)
    if not 0.0 <= trusses.camber <= MOST_CAMBER:
        raise EditError("trusses are built up by 2 in (50 mm) at most.", where, "Type 0 for none.")
    if trusses.past and not LEAST_PAST <= trusses.past <= MOST_PAST:
        raise EditError("heels stand 6 in to 4 ft (150 to 1200 mm) past the walls, or not at all.", where)
    if trusses.drop:
        _check_dropped(trusses, where)
    if trusses.joined == "gussets" and trusses.plies > 1:
        raise EditError(
            "gussets join trusses of one ply: between two there is no room for them.", where, "Take one ply, or plates."
        )
    if not 1 <= trusses.plies <= 4:
        raise EditError("trusses are of 1 to 4 plies.", where)
    if trusses.girder_plies is not None and not 1 <= trusses.girder_plies <= 4:
        raise EditError("girders are of 1 to 4 plies.", where)
    if trusses.set_back is not None and not 900.0 <= trusses.set_back <= 6000.0:
        raise EditError("hip girders stand 3 to 20 ft (0.9 to 6 m) from the end.", where)
    graded(trusses.species, "No. 2" if trusses.grade == AUTO_GRADE else trusses.grade, where)


def _check_dropped(trusses: Trusses, where: str) -> None:
    """Raise EditError unless bottom chords can lie below the plates."""
    if not LEAST_DROP <= trusses.drop <= MOST_DROP:
        raise EditError("bottom chords lie 6 in to 5 ft (150 to 1500 mm) below the plates, or on them.", where)
    others = (
        (not trusses.level, "are level"), (trusses.past > 0.0, "have no heels past the walls"), (trusses.camber > 0.0, "are not built up"),
        (trusses.inner, "bear on no inside walls"), (trusses.joined == "gussets", "are plated"), (trusses.heel is not None, "have no heel of their own"),
        (trusses.pattern in ("scissors", "room"), "have a pattern with level bottom chords and no room"),
    )  # fmt: skip
    for against, said in others:
        if against:
            raise EditError(
                f"trusses that bear on their top chords {said}.",
                where,
                "Change that, or let bottom chords lie on the plates.",
            )
