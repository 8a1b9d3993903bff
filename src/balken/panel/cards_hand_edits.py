"""Hand edits on cards: what is other about one member, and the hand edits of a layout."""

from collections.abc import Callable
from functools import partial
from typing import Any

from msgspec.structs import replace

from balken.catalog.joists import MADE, TRIED
from balken.catalog.sections import JOIST_SIZES, RIDGE_BEAMS, one_ply, section
from balken.catalog.species import SPECIES
from balken.framing.pieces import Piece
from balken.framing.surface_members import RIDGES
from balken.model.kinds.member_edit import CAN, LINES, NOUNS, MemberCut, MemberEdit
from balken.model.lookup import by_id, wall_label
from balken.model.member_edits import back_to_layout, can_edit, edit_of, set_member
from balken.model.naming import kind_of, owner_of
from balken.model.records import Project
from balken.panel.card_parts import Button, Entry, Part
from balken.session.session import Edit, Session
from balken.units import UnitError, Units, format_inches, format_length, parse_length

MIDDLE = "in the middle"


def own_parts(session: Session, piece: Piece) -> list[Part]:
    """Return what can be typed for one member alone; nothing for what is not a member of a layout."""
    if not can_edit(piece.key):
        return []
    p, name = session.project, piece.key
    edit = edit_of(p, name)
    boards = [("", "as its layout"), *((s, s) for s in _boards(p, piece))]
    grades = [("", "as its layout"), *((g, g) for g in SPECIES.get(piece.species, ()))]
    parts: list[Part] = [
        "Only this one",
        Entry("Own section", edit.size if edit else "", _sets(name, "size"), boards),
        Entry(
            "Own plies",
            str(edit.plies if edit else 1),
            _sets(name, "plies", int),
            [(str(n), str(n)) for n in range(1, 5)],
        ),
        Entry("Own grade", edit.grade if edit else "", _sets(name, "grade", also={"species": piece.species}), grades),
    ]
    parts += _moving_parts(p, name, edit)
    if kind_of(name) == "joist":
        parts += _cut_parts(p, name, edit)
    if edit is not None:
        parts.append(Button("Back to the layout", edit=lambda q: back_to_layout(q, name)))
    return parts


def _boards(p: Project, piece: Piece) -> list[str]:
    """Return of which boards a member can be made: of what its layout is made, or of veneer lumber as deep as it."""
    floor = by_id(p.floors).get(piece.owner)
    if kind_of(piece.key) in LINES | {"roof-header"}:
        return list(dict.fromkeys((*RIDGES, *(one_ply(name) for name in RIDGE_BEAMS))))
    if floor is None:
        return list(dict.fromkeys(("2x4", "2x6", "2x8", *JOIST_SIZES)))
    veneer = next((s.name for s in MADE.values() if s.plies == 1 and s.kind == "laminated veneer"
                   and abs(s.depth - section(piece.section).depth) < 1.0), "")  # fmt: skip
    return [name for name in dict.fromkeys((*TRIED[floor.joists.made_of], veneer)) if name]


def _sets(
    name: str, field: str, read: Callable[[str], Any] = str, also: dict[str, Any] | None = None
) -> Callable[[str], Edit]:
    def commit(typed: str) -> Edit:
        fields = {field: read(typed)}
        if also:
            fields |= {key: value if typed else "" for key, value in also.items()}
        return lambda q: set_member(q, name, **fields)

    return commit


CUTS = (("", "none"), ("hole", "a hole"), ("notch above", "a notch from above"), ("notch below", "a notch from below"))


def _cut_parts(p: Project, name: str, edit: MemberEdit | None) -> list[Part]:
    """Return the notches and holes of a joist, and what makes one more."""
    mine = edit.cuts if edit else ()

    def sets(n: int, field: str) -> Callable[[str], Edit]:
        def commit(typed: str) -> Edit:
            middle = field == "up" and typed.strip().lower() in ("", MIDDLE)
            value = None if middle else parse_length(typed, p.units, "in")
            made = (*mine[:n], replace(mine[n], **{field: value}), *mine[n + 1 :])
            return lambda q: set_member(q, name, cuts=made)

        return commit

    def one_more(kind: str) -> Edit:
        if not kind:
            return lambda q: q
        made = MemberCut(kind=kind, at=1500.0, deep=38.1)  # type: ignore[arg-type]
        return lambda q: set_member(q, name, cuts=(*mine, made))

    parts: list[Part] = []
    for n, cut in enumerate(mine):
        noun = f"{'Hole' if cut.kind == 'hole' else 'Notch'} {n + 1}"
        parts.append(Entry(f"{noun}, from its start", format_inches(cut.at, p.units), sets(n, "at")))
        parts.append(
            Entry(
                f"{noun}, {'across' if cut.kind == 'hole' else 'deep'}",
                format_inches(cut.deep, p.units),
                sets(n, "deep"),
            )
        )
        if cut.kind == "hole":
            up = MIDDLE if cut.up is None else format_inches(cut.up, p.units)
            parts.append(Entry(f"{noun}, above underside", up, sets(n, "up"), hint=MIDDLE))
        else:
            parts.append(Entry(f"{noun}, long", format_inches(cut.long, p.units), sets(n, "long")))
        rest = (*mine[:n], *mine[n + 1 :])
        parts.append(Button(f"No {noun.lower()}", edit=partial(set_member, name=name, cuts=rest)))
    return [*parts, Entry("Notch or hole", "", one_more, list(CUTS))]


def _moving_parts(p: Project, name: str, edit: MemberEdit | None) -> list[Part]:
    """Return what moves, lengthens and doubles a joist or stud, or takes it out."""

    def length(field: str) -> Callable[[str], Edit]:
        def commit(typed: str) -> Edit:
            value = _signed(typed, p.units)
            return lambda q: set_member(q, name, **{field: value})

        return commit

    more = edit.more if edit else 0
    sort = kind_of(name)
    moved, longer = (format_inches(v, p.units) for v in ((edit.moved, edit.longer) if edit else (0.0, 0.0)))
    pair = sort == "rafter"
    parts: dict[str, Part] = {
        "moved": Entry(
            "Moved along by" + (", with its pair" if pair else ""), moved, length("moved"), hint="-2, 2 1/2"
        ),
        "longer": Entry(
            "Tail cut longer by" if pair or sort == "plane-rafter" else "Cut longer by",
            longer,
            length("longer"),
            hint="-1: shorter",
        ),
        "more": Entry("More beside it", str(more), _sets(name, "more", int), [(str(n), str(n)) for n in range(4)]),
        "removed": Button(
            "Take this pair out" if pair else "Take this one out", edit=lambda q: set_member(q, name, removed=True)
        ),
    }
    can = CAN[sort]  # type: ignore[index]
    if sort == "tie" and getattr(by_id(p.roofs).get(owner_of(name)), "shape", "") == "planes":
        can = frozenset({"removed"})
    return [part for field, part in parts.items() if field in can]


def _signed(typed: str, units: Units) -> float:
    """Read a length that may go back: -2, 2 1/2."""
    text = typed.strip().replace("\u2212", "-")
    back = text.startswith("-")
    value = parse_length(text[1:] if back else text, units, "in")
    if value < 0.0:
        raise UnitError(f"'{typed}' is not a distance.")
    return -value if back else value


def layout_edits(session: Session, owner: str) -> list[Part]:
    """Return the hand edits of a floor, roof or wall, each with the way back to the layout."""
    p = session.project
    mine = [edit for edit in p.member_edits if edit.owner == owner]
    if not mine:
        return []
    parts: list[Part] = ["Hand edits"]
    for edit in mine:
        parts.append(Button(f"Back to the layout: {said(p, edit)}", edit=lambda q, e=edit.id: _without(q, e)))  # type: ignore[misc]
    return parts


def _without(project: Project, edit_id: str) -> Project:
    from balken.model.edits import remove

    return remove(project, edit_id)


def said(p: Project, edit: MemberEdit) -> str:
    """Return what a hand edit says and of which member: 'joist 5'-4" from Wall 1, taken out'."""
    walls = by_id(p.walls)
    whence = (
        wall_label(p, edit.datum) if edit.datum in walls else "the wall's end" if edit.datum in ("start", "end") else ""
    )
    where = f" {format_length(float(edit.at), p.units)} from {whence}" if whence else ""
    parts = ["taken out" if edit.removed else ""]
    parts += [edit.size, f"{edit.plies} plies" if edit.plies > 1 else "", edit.grade]
    parts += [
        "moved" if edit.moved else "",
        "cut longer" if edit.longer > 0 else "cut shorter" if edit.longer < 0 else "",
    ]
    parts += [f"{edit.more} more" if edit.more else "", f"{len(edit.cuts)} cuts" if edit.cuts else ""]
    parts += [edit.webs, "panel points moved" if edit.points else ""]
    return f"{NOUNS.get(edit.sort, edit.sort)}{where}, {', '.join(part for part in parts if part)}"
