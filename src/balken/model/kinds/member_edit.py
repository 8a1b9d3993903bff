"""Hand edits: what the user decided about one member, laid over the layout that makes it.

The member is named by its place (``naming.MemberPlace``), so that an edit stays with it when others come or go.
"""

from typing import TYPE_CHECKING, Annotated, Literal, get_args

from balken.catalog.sections import section
from balken.model.base import Record, To
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind
from balken.model.kinds.trusses import PATTERNS
from balken.model.naming import MemberPlace
from balken.model.places import by_id
from balken.model.rule_parts import graded, named

if TYPE_CHECKING:
    from balken.model.records import Project

Sort = Literal[
    "joist", "rim", "stud", "rafter", "tie", "plane-rafter", "plane-hip", "plane-valley", "plane-ridge", "plane-purlin", "plane-collar",
    "roof-header", "whole-truss"
]  # fmt: skip
"""The sorts of members that can be edited one by one, as their names have them."""
MOST_MOVED = 1200.0
MOST_LONGER = 1200.0
MOST_POINTS = 60
_ALL = frozenset({"removed", "moved", "longer", "more"})
CAN: dict[Sort, frozenset[str]] = {
    "joist": _ALL,
    "stud": _ALL,
    "rafter": _ALL,
    "tie": frozenset({"removed", "longer", "more"}),
    "rim": frozenset({"removed"}),
    "plane-rafter": frozenset({"removed", "moved", "longer"}),
    "plane-hip": frozenset(),
    "plane-valley": frozenset(),
    "plane-ridge": frozenset(),
    "plane-purlin": frozenset(),
    "plane-collar": frozenset({"removed"}),
    "roof-header": frozenset(),
    "whole-truss": frozenset({"webs", "points"}),
}
"""What can be done to one of each sort beside its make: a tie goes where its rafters go, a rim board along its wall, hips, valleys and ridges
where planes meet, purlins and headers where their roof and its openings have them; of a truss its webs are changed and where they meet its chords.
"""
TRUSS: Sort = "whole-truss"
LINES = frozenset({"plane-hip", "plane-valley", "plane-ridge", "plane-purlin"})
"""Those that are beams between what holds their ends."""
OF_PLANES = LINES | {"plane-rafter", "tie", "plane-collar", "roof-header"}
"""Members of roofs of planes."""


class MemberCut(Record, frozen=True, kw_only=True):
    """A notch or a hole in one member: its middle ``at`` mm from the member's low end; ``deep``: depth of a notch, diameter of
    a hole; ``long``: of a notch along the member; ``up``: the middle of a hole above its underside (None: in the middle).
    """

    kind: Literal["notch above", "notch below", "hole"] = "hole"
    at: float
    deep: float
    long: float = 50.8
    up: float | None = None


class PanelPoint(Record, frozen=True, kw_only=True):
    """Where webs meet a chord of a truss: the ``number``-th point from the left (from 1) lies ``by`` mm farther right than its pattern has it."""

    chord: Literal["top", "bottom"]
    number: int
    by: float


class MemberEdit(Record, frozen=True, kw_only=True):
    """What is other about one member than its layout says.

    ``owner``, ``sort``, ``datum``, ``at``, ``between``, ``which``: its name.  ``removed``; ``size`` (of one board, ""
    as the layout), ``plies`` of it side by side; ``species`` and ``grade`` ("": as the layout); ``moved`` along the
    layout and ``longer`` at its far end, mm; ``more``: so many more of it beside it; ``cuts``: notches and holes; of a truss ``webs``: its
    pattern ("": as the others), ``points``: those of its chords that are moved.
    """

    id: str
    owner: Annotated[str, To(("floors", "roofs", "walls"), "with")]
    sort: Sort
    datum: str
    at: int
    between: tuple[str, ...] = ()
    which: int = 0
    removed: bool = False
    size: str = ""
    plies: int = 1
    species: str = ""
    grade: str = ""
    moved: float = 0.0
    longer: float = 0.0
    more: int = 0
    cuts: tuple[MemberCut, ...] = ()
    webs: str = ""
    points: tuple[PanelPoint, ...] = ()

    @property
    def place(self) -> MemberPlace:
        """The place of the member it is meant for."""
        return MemberPlace(self.datum, self.at, self.between, self.which)

    @property
    def changes_nothing(self) -> bool:
        """Whether it says what the layout says."""
        made = self.size or self.species or self.grade or self.plies != 1 or self.cuts
        placed = self.removed or self.more or self.moved != 0.0 or self.longer != 0.0
        return not (made or placed or self.webs or self.points)


NOUNS = {
    "plane-rafter": "rafter", "plane-hip": "hip", "plane-valley": "valley", "plane-ridge": "ridge", "plane-purlin": "purlin",
    "plane-collar": "collar tie", "roof-header": "header", TRUSS: "truss"
}  # fmt: skip
"""What sorts are called that are not called as they are named."""
_SAID = {
    "removed": "taken out", "moved": "moved", "longer": "lengthened", "more": "given another", "webs": "given other webs",
    "points": "given panel points",
}  # fmt: skip
_INSTEAD = (
    dict.fromkeys(get_args(Sort), "Trusses are.")
    | {
        "tie": "It lies beside its rafters: move those.",
        "rim": "Give it more plies.",
        "plane-rafter": "Give it more plies.",
        TRUSS: "Change the trusses of its roof.",
    }
    | dict.fromkeys(LINES, "It lies where planes meet: change those.")
    | {
        "plane-purlin": "Its roof says where it lies.",
        "plane-collar": "Its roof says across which rafters they lie.",
        "roof-header": "Move its opening.",
    }
)


def check_member_edit(project: "Project", edit: MemberEdit) -> None:
    """Raise EditError unless a hand edit can be made: its owner is there, its section and grade are known."""
    where = "Hand edit"
    if not any(edit.owner in by_id(rows) for rows in (project.floors, project.roofs, project.walls)):
        raise EditError(f"what it belongs to, '{edit.owner}', is not there.", where)
    wrong = [said for field, said in _SAID.items() if getattr(edit, field) and field not in CAN[edit.sort]]
    if wrong:
        raise EditError(
            f"a single {NOUNS.get(edit.sort, edit.sort)} cannot be {' or '.join(wrong)}.", where, _INSTEAD[edit.sort]
        )
    if edit.sort == TRUSS:
        _check_truss(edit, where)
    if edit.size:
        named(section, edit.size, where)
        if section(edit.size).plies > 1 or section(edit.size).nominal[0] < 2:
            raise EditError(f"{edit.size} is not a board.", where, "Choose one such as 2x8, and plies.")
        if section(edit.size).kind != "sawn" and edit.sort not in {"joist", "rim", "roof-header", *LINES}:
            raise EditError(f"a {NOUNS.get(edit.sort, edit.sort)} is of sawn lumber.", where, "Choose one such as 2x8.")
    if not 1 <= edit.plies <= 4 or not 0 <= edit.more <= 3:
        raise EditError("1 to 4 plies, and 1 to 3 more beside it.", where)
    for cut in edit.cuts:
        if edit.sort != "joist":
            raise EditError(
                f"a single {NOUNS.get(edit.sort, edit.sort)} takes no notch or hole here.", where, "Joists do."
            )
        up = cut.deep if cut.up is None else cut.up
        if not (
            0.0 <= cut.at <= 30_000.0
            and 1.0 <= cut.deep <= 600.0
            and 0.0 <= cut.long <= 3_000.0
            and 0.0 <= up <= 1_000.0
        ):
            raise EditError("a notch or hole is out of bounds.", where, "Type its place, depth and length again.")
    if edit.grade or edit.species:
        graded(edit.species or "DF-L", edit.grade or "No. 2", where)
    if abs(edit.moved) > MOST_MOVED or abs(edit.longer) > MOST_LONGER:
        raise EditError("it can be moved or lengthened by 4 ft (1200 mm) at most.", where, "Type a smaller distance.")


def _check_truss(edit: MemberEdit, where: str) -> None:
    """Raise EditError unless the webs of one truss can be asked for so."""
    if edit.size or edit.species or edit.grade:
        raise EditError("a single truss is of the boards of the others.", where, _INSTEAD[TRUSS])
    if edit.webs and edit.webs not in PATTERNS:
        raise EditError("there is no such pattern of webs.", where, f"Choose one of {', '.join(PATTERNS)}.")
    places = [(point.chord, point.number) for point in edit.points]
    if len(set(places)) < len(places) or any(not 1 <= number <= MOST_POINTS for _, number in places):
        raise EditError("a panel point is named twice, or has no number.", where, "Type its place again.")
    if any(abs(point.by) > MOST_MOVED for point in edit.points):
        raise EditError(
            "a panel point is moved by 4 ft (1200 mm) at most.", where, "Type a smaller distance, or other webs."
        )


KIND = Kind(MemberEdit, "member_edits", "hand-edit", "hand edit", "hand edits", check_member_edit)
