"""What a card is made of: plain data, so that it can be tested without a window."""

from collections.abc import Callable, Mapping, Sequence
from typing import Any

from msgspec import Struct, field

from balken.documents.calculation_lines import check_value
from balken.documents.display import Diagram
from balken.model.lookup import find, wall_label
from balken.model.records import Project, Wall
from balken.panel.field_kinds import FieldDef, apply_to, shown
from balken.session.session import Edit, Session
from balken.standards.checks import MemberResult, used_text


class Entry(Struct):
    """A value that can be typed or chosen; ``value`` None where the things selected differ."""

    label: str
    value: str | None
    commit: Callable[[str], Edit]
    choices: list[tuple[str, str]] | None = None
    hint: str = ""
    prompt: str = ""
    """What a choice that does something, and has no value, says."""
    tried: bool = True
    """Whether what is being typed is tried out: only where ``commit`` makes an edit and does nothing by itself."""
    pictures: Mapping[str, Diagram] = field(default_factory=dict)
    """Of choices that are shown as small drawings, too, by their values."""


class Fact(Struct):
    """A value that follows from others."""

    label: str
    value: str


class Used(Struct):
    """How far something is used, with the reason."""

    label: str
    used: float
    note: str


class Rows(Struct):
    """A small table."""

    headings: tuple[str, ...]
    rows: Sequence[tuple[str, ...]]


class Button(Struct):
    """A deed."""

    label: str
    edit: Edit | None = None
    action: Callable[[], None] | None = None
    primary: bool = False


class Note(Struct):
    """A sentence."""

    text: str


class Picture(Struct):
    """A small drawing."""

    drawn: Diagram


Part = Entry | Fact | Used | Rows | Button | Note | Picture | str
"""A str is a heading."""


class Card(Struct):
    """Title, a line under it, and the parts."""

    title: str
    sub: str = ""
    parts: list[Part] = field(default_factory=list)


def looks(card: Card) -> tuple[Any, ...]:
    """Return all of a card that can be seen: two that look alike differ only in what their deeds do."""
    return (card.title, card.sub, *(_face(part) for part in card.parts))


def _face(part: Part) -> Any:
    if isinstance(part, Entry):
        return "entry", part.label, part.value, part.choices, part.hint
    if isinstance(part, Button):
        return "button", part.label, part.primary
    if isinstance(part, Rows):
        return "rows", part.headings, tuple(part.rows)
    return part


def frame(card: Card) -> tuple[Any, ...]:
    """Return what the form of a card is made of: two alike differ only in the values shown."""
    return (bool(card.sub), *(_form(part) for part in card.parts))


def _form(part: Part) -> Any:
    if isinstance(part, Entry):
        return "entry", part.label, part.value is None, part.choices, part.hint
    if isinstance(part, Fact | Used):
        return type(part).__name__, part.label
    if isinstance(part, Rows):
        return "rows", part.headings, [len(row) for row in part.rows]
    if isinstance(part, Picture):
        return "picture"
    return _face(part)


def take_deeds(card: Card, newer: Card) -> None:
    """Let a card do what a newer one that looks alike would do."""
    for part, new in zip(card.parts, newer.parts, strict=True):
        if isinstance(part, Entry) and isinstance(new, Entry):
            part.commit = new.commit
        elif isinstance(part, Button) and isinstance(new, Button):
            part.edit, part.action = new.edit, new.action


def select_action(session: Session, ref: str) -> Callable[[], None]:
    return lambda: session.select([ref])


def record_name(project: Project, record_id: str) -> str:
    record = find(project, record_id)
    if isinstance(record, Wall):
        return wall_label(project, record_id)
    return getattr(record, "name", record_id)


Put = Callable[[Project, FieldDef, str], Project]
"""Puts a typed value of a field into a project."""


def entries(session: Session, records: list[Any], fields: list[FieldDef], put: Put | None = None) -> list[Part]:
    """Return entries that put typed values into records of one kind, or where ``put`` puts them."""
    ids = tuple(r.id for r in records)
    where: Put = put or (lambda p, definition, typed: apply_to(p, ids, definition, typed))
    found: list[Part] = []
    for definition in fields:
        value = shown(session.project, records, definition)

        def commit(typed: str, definition: FieldDef = definition, value: str | None = value) -> Edit:
            if typed.strip() == value:
                return lambda p: p  # what is shown rounded stays what it is
            return lambda p: where(p, definition, typed)

        options = definition.choices(session.project, records[0]) if definition.choices else None
        found.append(
            Entry(definition.label.strip(), value, commit, options, definition.hint, pictures=definition.pictures)
        )
    return found


def used_parts(result: MemberResult, session: Session) -> list[Part]:
    """Return the governing check as a bar and all checks as a table."""
    units = session.project.units
    g = result.governs
    parts: list[Part] = [
        Used("Used", result.used, f"{g.name} governs: {g.clause}" + (f", {g.combination}" if g.combination else ""))
    ]
    rows = [
        (c.name, f"{check_value(c, c.demand, units)} / {check_value(c, c.capacity, units)}", used_text(c.used))
        for c in result.checks
    ]
    parts.append(Rows(("Check", "Demand / capacity", "Used"), rows))
    return parts
