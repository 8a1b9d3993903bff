"""How things are named.  Records go by their ids; what is made from them by a name that begins with its owner's id.

Names are put together and taken apart here alone; nothing else looks into them.  They never show: people see marks,
labels and names of records.
"""

import math
from collections import Counter

from balken.value import Value

SLASH = "/"
STEP = 2.0
PHASE = 0.31
"""Places are named to 2 mm; the phase keeps whole millimetres and sixteenths of an inch off the marks between."""


def piece_name(owner: str, *parts: str | int) -> str:
    """Return the name of something made for an owner (a record, or a run): piece_name("floor-1", "joist", "012")."""
    return SLASH.join((owner, *map(str, parts)))


def owner_of(name: str) -> str:
    """Return the id of the record that a name begins with; a record's own id is its own."""
    return name.partition(SLASH)[0]


def kind_of(name: str) -> str:
    """Return what sort of thing of its owner a name is: joist, rafter, deck; "" for a record's id."""
    return name.partition(SLASH)[2].partition(SLASH)[0]


def is_made(name: str) -> bool:
    """Whether a name is that of something made, not of a record."""
    return SLASH in name


# Members: by the place they have, so that one keeps its name when others come or go ---------------------


class MemberPlace(Value, frozen=True):
    """Where a member is in its layout: counted from a datum (a wall, an end of it, an opening's side), ``at`` mm.

    ``between``: what it runs between; ``which``: of several there.
    """

    datum: str
    at: int
    between: tuple[str, ...] = ()
    which: int = 0

    @property
    def text(self) -> str:
        """It as part of a name."""
        ends = f"({'|'.join(self.between)})" if self.between else ""
        return f"{self.datum}+{self.at}{ends}" + (f".{self.which}" if self.which else "")


def place_at(datum: str, along: float, between: tuple[str, ...] = ()) -> MemberPlace:
    """Return the place of a member ``along`` mm from a datum."""
    return MemberPlace(datum, int(STEP * math.floor(along / STEP + PHASE)), between)


def oldest(ids: list[str]) -> str:
    """Return the id given out first: what is counted from a row of walls goes by it, also when one of them is split."""
    return min(ids, key=lambda name: (len(name), name))


class Places:
    """Gives out places: the second member at one place is another one."""

    def __init__(self) -> None:
        self._taken: Counter[tuple[str, str]] = Counter()

    def text(self, kind: str, place: MemberPlace) -> str:
        """Return a place as part of a name; ``kind``: sort of member."""
        which = self._taken[(kind, place.text)]
        self._taken[(kind, place.text)] += 1
        return place.text if not which else MemberPlace(place.datum, place.at, place.between, which).text


def place_in(name: str) -> MemberPlace | None:
    """Return the place that the name of a member holds, None where it has none."""
    return place_of(name.partition(SLASH)[2].partition(SLASH)[2])


def place_of_whole(name: str) -> MemberPlace | None:
    """Return the place of a member, of a part that is left of one as well."""
    return place_in(SLASH.join(name.split(SLASH)[:3]))


def place_of(text: str) -> MemberPlace | None:
    """Return the place that a text says, as part of a name; None where it says none."""
    datum, plus, rest = text.rpartition("+")
    if not plus:
        return None
    head, bracket, tail = rest.partition("(")
    ends, _, which = tail.rpartition(")") if bracket else ("", "", rest[len(rest.partition(".")[0]) :])
    try:
        number = int(which[1:] or 0)
        return MemberPlace(datum, int(head.partition(".")[0]), tuple(ends.split("|")) if ends else (), number)
    except ValueError:
        return None


def header_place(opening: str, end: int) -> str:
    """Return the place of a header of an opening in a roof as part of its name: below it (0) or above it (1)."""
    return MemberPlace(opening, 0, ("ab"[end],)).text


# Foundations: runs (one wall of a foundation each) and their parts ------------------------------------


def run_name(foundation: str, wall: str) -> str:
    """Return the name of the run of a foundation under a wall."""
    return piece_name(foundation, wall)


def run_of(name: str) -> str:
    """Return the run that a piece of a foundation belongs to; a run's own name is its own."""
    return SLASH.join(name.split(SLASH)[:2])


def parts_of_run(run: str) -> tuple[str, str]:
    """Return the ids of the foundation and of the wall above (or "") of a run."""
    foundation, _, wall = run.partition(SLASH)
    return foundation, wall


def wall_of_run(run: str) -> str:
    """Return the id of the wall above a run."""
    return parts_of_run(run)[1]


def on_foundation(name: str, foundation: str) -> str:
    """Return the name of the same part of a run on another foundation."""
    return SLASH.join((foundation, *name.split(SLASH)[1:]))


def footing_of(run: str) -> str:
    """Return the name of a run's footing."""
    return piece_name(run, "footing")


def wall_of(run: str) -> str:
    """Return the name of a run's foundation wall."""
    return piece_name(run, "wall")


def sloping(part: str, number: int) -> str:
    """Return the name of a sloping stretch of a footing or of the blinding under it."""
    return piece_name(part, "slope", number)


def slopes_with(name: str) -> tuple[str, bool]:
    """Return the footing that a piece of one belongs to, and whether the piece is a sloping stretch of it."""
    base, found, _ = name.partition("/slope/")
    if found:
        return base, True
    head, _, last = name.rpartition(SLASH)
    return (head if last.isdigit() else name), False


def step_name(foundation: str, number: int) -> str:
    """Return the name of a step of a foundation."""
    return piece_name(foundation, "step", number)


def slope_name(foundation: str, number: int) -> str:
    """Return the name of a slope of a foundation."""
    return piece_name(foundation, "slope", number)


def numbered_part(name: str) -> tuple[str, str, int] | None:
    """Return (foundation, "step" or "slope", number) of the name of such a part, None for any other name."""
    foundation, _, rest = name.partition(SLASH)
    kind, _, number = rest.partition(SLASH)
    return (foundation, kind, int(number)) if kind in ("step", "slope") and number.isdigit() else None


# Grids ------------------------------------------------------------------------------------------------


def axis_name(grid: str, axis: str) -> str:
    """Return the name of an axis of a grid."""
    return piece_name(grid, axis)


def grid_and_axis(name: str) -> tuple[str, str]:
    """Return the ids of a grid and of its axis ("" for the grid itself)."""
    grid, _, axis = name.partition(SLASH)
    return grid, axis


def layer_of(name: str) -> str:
    """Return the number of the layer of a wall that a solid of it belongs to: "2" of "wall-1/layer/2.1"."""
    return name.rpartition(SLASH)[2].partition(".")[0]


# Columns ----------------------------------------------------------------------------------------------


def beam_name(beam: str, part: int = 0) -> str:
    """Return the name of a beam's solid, or of a later piece of it."""
    return piece_name(beam, "beam", part) if part else piece_name(beam, "beam")


def column_name(column: str) -> str:
    """Return the name of a column's solid."""
    return piece_name(column, "column")


def is_column(name: str) -> bool:
    """Whether a name is that of a column's solid."""
    return name.endswith("/column")


def whole_of(name: str) -> str:
    """Return the truss a stick is part of, by the stick's name; "" for what is no part of a larger thing made in a shop."""
    parts = name.split(SLASH)
    return SLASH.join(parts[:3]) if len(parts) > 3 and parts[1] == "truss" else ""


def truss_number(name: str) -> int:
    """Return the number of a truss along its roof, -1 for what is none."""
    parts = name.split(SLASH)
    return int(parts[2]) if len(parts) > 2 and parts[1] == "truss" else -1


def stick_of(name: str) -> tuple[int, str]:
    """Return the number of a truss along its roof and the stick's name within it; (0, "") for what is no stick of a truss."""
    parts = name.split(SLASH)
    return (int(parts[2]), parts[3]) if len(parts) > 3 and parts[1] == "truss" else (0, "")


def line_of(name: str) -> str:
    """Return the line of boards, laid one after the other or side by side, that a piece is one of: its name without its own number."""
    return name.rpartition("/")[0]
