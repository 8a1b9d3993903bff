"""Floors: a layout of joists on a level, or a slab of concrete above ground."""

from itertools import pairwise
from typing import TYPE_CHECKING, Annotated, Literal

from balken.model.base import Hang, LevelId, Place, Record, To, WallIds
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind
from balken.model.rule_parts import (
    hung,
    placed,
    walls_there,
)
from balken.units.system import INCH

if TYPE_CHECKING:
    from balken.model.records import Project


from balken.model.kinds.choice import Choice, Start, check_choice

Over = Literal["butted", "lapped", "continuous"]
"""How joists meet over a bearing between their ends."""
Blocked = Literal["none", "over bearings", "over bearings and in the span"]
Way = Literal["shorter", "least timber"]
Ceiling = Literal["none", "gypsum board"]
Ways = Literal["one way", "both ways"]
"""How a slab carries: by strips from bearing to bearing, or to the walls on all its sides."""
HEAVIEST = 100.0
MOST_CORNERS = 200
LONGEST_PAST = 3_000.0
FAR = 1e9
MIN_RISE, MAX_RISE = 25.0, 20_000.0


class PastEdge(Record, frozen=True, kw_only=True):
    """A part of a floor's edge that reaches past its wall: how far, and from where to where from the wall's start corner, mm.

    ``end`` None: to its end.
    """

    wall: Annotated[str, To(("walls",), "with")]
    by: float
    start: float = 0.0
    end: float | None = None


class SideArc(Record, frozen=True, kw_only=True):
    """A side of a drawn outline as an arc: the number of its first corner, how far it bows out at its middle, mm (below 0: in)."""

    side: int
    rise: float


class Floor(Record, frozen=True, kw_only=True):
    """A floor whose deck top is on ``level``, bounded by walls.

    ``direction`` of span in degrees, None = the ``way`` that is shorter, or needs the least timber; ``start``: from where its joists are set out.  ``over``: what
    they do over inner bearings; ``past``: where they reach past walls; ``corners``: its outline drawn, in
    place of that of its walls; ``blocking``: solid blocks between them.  ``live``,
    ``dead``: its own area loads, kN/m2, None = those of the project; the weight of a slab comes on top.  ``carries``: how a slab does.
    ``guard``: height of the guard along its free edges, mm (0: none).  ``arcs``: sides of ``corners`` that are.  ``uncut``: walls left out when those below are cut to its underside.
    """

    id: str
    name: str
    level: LevelId
    walls: WallIds
    joists: Choice = Choice()
    direction: float | None = None
    way: Way = "shorter"
    start: Start = "one side"
    deck: float = 0.75 * INCH
    over: Over = "butted"
    blocking: Blocked = "over bearings"
    past: tuple[PastEdge, ...] = ()
    corners: tuple[Place, ...] = ()
    live: float | None = None
    dead: float | None = None
    ceiling: Ceiling = "none"
    outdoors: bool = False
    carries: Ways = "one way"
    uncut: WallIds = ()
    arcs: tuple[SideArc, ...] = ()
    guard: float = 0.0

    @property
    def is_slab(self) -> bool:
        """Whether it is a slab of concrete."""
        return self.joists.made_of == "slab"


def check_floor(project: "Project", floor: Floor) -> None:
    """Raise EditError unless a floor's walls are there and its choice can be made."""
    walls_there(project, floor.walls, floor.name)
    hung(project, Hang(level=floor.level), floor.name)
    check_choice(floor.joists, floor.name)
    if not 0.0 <= floor.deck <= 500.0:
        raise EditError("the deck must be 0 to 20 in (500 mm) thick.", floor.name)
    for load in (floor.live, floor.dead):
        if load is not None and not 0.0 <= load <= HEAVIEST:
            raise EditError("its loads must be 0 to 2,000 psf (100 kN/m2).", floor.name)
    if floor.outdoors and floor.joists.made_of not in ("sawn", "slab"):
        raise EditError("outdoors its joists are of sawn, treated lumber.", floor.name, "Choose that first.")
    if floor.over == "lapped" and floor.joists.made_of == "I-joist":
        raise EditError("I-joists are not lapped.", floor.name, "Butt them, or let them run on.")
    if floor.is_slab and (floor.deck > 0.0 or floor.ceiling != "none"):
        raise EditError(
            "a slab has neither deck nor ceiling of its own.", floor.name, "Type 0 for its deck, none for its ceiling."
        )
    if 0 < len(floor.corners) < 3 or len(floor.corners) > MOST_CORNERS:
        raise EditError("its outline needs three corners at least.", floor.name, "Draw them one after the other.")
    for corner in floor.corners:
        placed(project, corner, floor.name)
    if len({arc.side for arc in floor.arcs}) < len(floor.arcs) or any(
        not 0 <= arc.side < len(floor.corners) or not MIN_RISE <= abs(arc.rise) <= MAX_RISE for arc in floor.arcs
    ):
        raise EditError(
            "an arc of its outline lies on no side of it, or bows by less than 2 in or more than 60 ft.", floor.name
        )
    if floor.guard != 0.0 and not 300.0 <= floor.guard <= 2_000.0:
        raise EditError("its guard must be 1 to 6 ft (300 mm to 2 m) high, or 0 for none.", floor.name)
    for edge in floor.past:
        _check_past(project, floor, edge)


def _check_past(project: "Project", floor: Floor, edge: PastEdge) -> None:
    """Raise EditError unless a floor can reach past a wall so."""
    where = f"{floor.name}, past a wall"
    if edge.wall not in floor.walls:
        raise EditError("the wall is none of the floor's.", where, "Choose one of its outside walls.")
    if not 50.0 <= edge.by <= LONGEST_PAST:
        raise EditError("it must reach 2 in to 10 ft (50 mm to 3 m) past it.", where)
    if edge.start < 0.0 or (edge.end is not None and edge.end - edge.start < 300.0):
        raise EditError("that part must be at least 1 ft (300 mm) long.", where, "Type another start or end.")
    mine = [other for other in floor.past if other.wall == edge.wall]
    spans = sorted((other.start, FAR if other.end is None else other.end) for other in mine)
    if any(b > c for (_, b), (c, _) in pairwise(spans)):
        raise EditError("two parts of one wall overlap.", where, "Remove one, or type other ends.")


KIND = Kind(Floor, "floors", "floor", "floor", "floors", check_floor)
