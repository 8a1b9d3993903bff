"""Layouts about to be made: a draft record, tried out at every change so that the views show it."""

from collections.abc import Callable
from typing import Any

import msgspec

from balken.design.drawn_roofs import first_sides
from balken.framing.outlines import OutlineError, outline, outline_of_all
from balken.framing.roof_beams import beam_sides
from balken.model import edits, foundation_edits
from balken.model.buildups import veneer
from balken.model.errors import EditError
from balken.model.kinds.foundation import NO_SILL
from balken.model.lookup import by_id, height, listed, next_id
from balken.model.records import Choice, Floor, Foundation, Hang, Project, Record, Roof, Slab
from balken.model.unit_defaults import fitted
from balken.panel.card_parts import Button, Card
from balken.panel.cards_stages import draft_card
from balken.panel.field_kinds import FieldDef, only
from balken.panel.fields import FIELDS
from balken.panel.roof_fields import RAFTER_FIELDS
from balken.session.session import Session

TITLES = {
    Foundation: (
        "New foundation",
        "Shown dashed in the height strip and on the plan until it is placed.",
        "Place foundation",
    ),
    Slab: (
        "New slab",
        "Within the walls of the storey, or those selected; foundation walls cut it back.",
        "Place slab",
    ),
    Floor: ("New floor", "Joists bear on the foundation or walls below; sizes left to auto are chosen.", "Place floor"),
    Roof: (
        "New roof",
        "A framed gable over a rectangle, or a plane from every eave over any outline; its edges are switched afterwards.",
        "Place roof",
    ),
}

_ALWAYS = (
    "name",
    "kind",
    "made_of",
    "thickness",
    "head__level",
    "head__offset",
    "foot__level",
    "foot__offset",
    "sill_size",
)
ASKED: dict[str, tuple[str, ...]] = {
    "wall on footing": (*_ALWAYS, "footing_width", "footing_depth", "inset", "ledge", "ledge_drop"),
    "basement": (*_ALWAYS, "footing_width", "footing_depth", "inset", "ledge", "ledge_drop"),
    "slab on ground": (*_ALWAYS, "footing_width", "footing_depth", "inset", "ledge", "ledge_drop"),
    "thickened edge": tuple(key for key in (*_ALWAYS, "inset", "ledge", "ledge_drop") if key != "made_of"),
}
"""What is asked for each kind of foundation before it is placed; the rest is in its card afterwards."""


def new_foundation(session: Session) -> Foundation:
    """Return a draft under all bearing walls of the storey; raises EditError when something is missing."""
    p = session.project
    standing = {w for run in p.foundations for w in run.walls}
    chosen = tuple(r for r in session.selection if r in session.model.lines)
    walls = chosen or tuple(
        w
        for w, line in session.model.lines.items()
        if line.wall.role != "divides" and line.wall.foot.level == session.storey and w not in standing
    )
    if not walls:
        raise EditError("There are no walls without a foundation on this storey.", do="Draw walls first.")
    head, foot = _level_with(p, "top of foundation"), _level_with(p, "top of footing")
    leaves = (
        veneer(line.buildup) for w, line in session.model.lines.items() if w in walls and line.wall.role == "outside"
    )
    made = Foundation(
        id=next_id(p, Foundation), name=_name(p.foundations, "Foundation"), walls=walls, foot=foot, head=head,
        ledge=max((leaf + gap for leaf, gap in leaves if leaf > 0.0), default=0.0),
    )  # fmt: skip
    # Walls that stand on the concrete itself leave a sill plate no room.
    top = height(head, p.levels)
    low = [height(session.model.lines[w].wall.foot, p.levels) - top for w in walls]
    bare = all(-1.0 <= gap < made.plate[0] for gap in low)
    return msgspec.structs.replace(made, sill_size=NO_SILL) if bare else made


def new_slab(session: Session) -> Slab:
    """Return a draft within the walls selected or of the storey; raises EditError when something is missing."""
    p = session.project
    lines = session.model.lines
    chosen = tuple(r for r in session.selection if r in lines)
    walls = chosen or _closed_walls(session)
    if len(walls) < 3:
        raise EditError("A slab needs walls that close an outline.", do="Select them first, or draw them.")
    level = next((v for v in reversed(listed(p.levels)) if v.role == "slab"), None)
    if level is None:
        raise EditError("No level has the role 'slab'.", do="Add one in 1 Set out (Add level), then lay the slab.")
    return Slab(id=next_id(p, Slab), name=_name(p.slabs, "Slab"), walls=walls, level=level.id)


def _level_with(p: Project, role: str) -> Hang:
    found = next((v for v in p.levels if v.role == role and not v.removed), None)
    if found is None:
        raise EditError(
            f"No level has the role '{role}'.", do="Add one in the stage Set out (Add level), then lay the foundation."
        )
    return Hang(level=found.id)


def _name(records: tuple[Any, ...], noun: str) -> str:
    return noun if not records else f"{noun} {len(records) + 1}"


def _closed_walls(session: Session) -> tuple[str, ...]:
    lines = session.model.lines
    chosen = tuple(r for r in session.selection if r in lines)
    if chosen:
        return chosen
    on_storey = {w: line for w, line in lines.items() if line.wall.foot.level == session.storey}
    return outline_of_all(on_storey)


def new_floor(session: Session) -> Floor:
    """Return a draft over the outside walls of the storey (or the walls selected)."""
    walls = _closed_walls(session)
    if len(walls) < 3:
        raise EditError("A floor needs outside walls that close an outline.", do="Draw them first.")
    p = session.project
    return Floor(
        id=next_id(p, Floor),
        name=_name(p.floors, "Floor framing"),
        level=session.storey,
        walls=walls,
        joists=Choice(),
    )


def new_roof(session: Session) -> Roof:
    """Return a draft over the outside walls of the storey (or the walls and beams selected)."""
    p, lines, beams = session.project, session.model.lines, session.model.path.beams
    on_beams = tuple(r for r in session.selection if r in beams and r in by_id(p.beams))
    walls = (*(r for r in session.selection if r in lines), *on_beams) if on_beams else _closed_walls(session)
    sides = beam_sides(walls, lines, [beams[r].line for r in on_beams])
    try:
        around = outline(walls, lines | sides)
    except OutlineError as error:
        raise EditError(
            f"A roof needs outside walls or beams that close an outline: {error}.",
            do="Draw them closed, or select the walls and beams it lies on first.",
        ) from None
    head = lines[walls[0]].wall.head if walls[0] in lines else by_id(p.beams)[walls[0]].top
    ends = first_sides(p, around, height(head, p.levels), {})
    return Roof(
        id=next_id(p, Roof), name=_name(p.roofs, "Roof"), walls=walls, bearing=head, ties=Choice(), shape="planes", sides=ends
    )  # fmt: skip


class Draft:
    """One layout being made."""

    def __init__(self, session: Session, record: Record, done: Callable[[], None], changed: Callable[[], None]) -> None:
        self.session, self.done, self.changed = session, done, changed
        # What it begins with is round in the project's units, as it will be when it is placed.
        self.record = record = fitted(record, session.project.steps)
        self.problem = session.try_out(lambda p: self.added(p, self.record))

    def change(self, record: Record) -> None:
        """Take a changed draft and show it; raises EditError when it cannot be."""
        before, self.record = self.record, record
        problem = self.session.try_out(lambda p: self.added(p, record))
        if problem:
            self.record = before
            self.session.try_out(lambda p: self.added(p, before))
            raise EditError(problem)
        self.changed()

    def card(self) -> Card:
        """Return the form of the draft with its place button."""
        title, sub, place = TITLES[type(self.record)]
        fields: list[FieldDef] = list(FIELDS[type(self.record)])
        if isinstance(self.record, Foundation):
            fields = only(fields, *ASKED[self.record.kind])
        if isinstance(self.record, Roof):
            fields += RAFTER_FIELDS
        made = draft_card(self.session, title, sub, self.record, fields, self.change)
        made.parts.append(Button(place, action=self.place, primary=True))
        made.parts.append(Button("Cancel", action=self.cancel))
        return made

    def place(self) -> None:
        """Add the draft to the project."""
        record = self.record
        self.session.try_out(None)
        name = getattr(record, "name", "")
        if self.session.apply(f"Place {name}", lambda p: self.added(p, record)):
            self.done()

    @staticmethod
    def added(project: Project, record: Record) -> Project:
        """Return the project with the draft, and the slab that its kind of foundation has."""
        if isinstance(record, Foundation):
            level = next((v.id for v in reversed(listed(project.levels)) if v.role == "slab"), "")
            return foundation_edits.lay(project, record, level)
        return edits.add(project, record)

    def cancel(self) -> None:
        """Drop the draft."""
        self.session.try_out(None)
        self.done()


MAKERS: dict[str, Callable[[Session], Record]] = {
    "lay_foundation": new_foundation,
    "lay_slab": new_slab,
    "lay_floor": new_floor,
    "make_roof": new_roof,
}
