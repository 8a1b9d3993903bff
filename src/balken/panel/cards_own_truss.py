"""What the card of a stick says of its truss as one: webs, plies and panel points of its own."""

from collections.abc import Callable, Sequence

from balken.design.roof_trusses import TrussRoof
from balken.design.truss_by_hand import truss_names
from balken.documents.truss_drawing import truss_diagram
from balken.framing.pieces import Piece
from balken.framing.truss_points import point_places
from balken.model.errors import EditError
from balken.model.kinds.member_edit import MemberEdit, PanelPoint
from balken.model.kinds.trusses import PATTERNS
from balken.model.member_edits import back_to_layout, edit_of, set_member, set_members
from balken.model.naming import truss_number
from balken.panel.card_parts import Button, Entry, Part, Picture
from balken.panel.roof_fields import PATTERN_PICTURES
from balken.session.session import Edit, Session
from balken.units import format_length, parse_length

WIDE = 70.0
"""Width of the truss on the card, mm."""
LEAST_MOVED = 0.05
"""A point moved less than this is where its pattern has it, mm."""


def own_truss_parts(session: Session, piece: Piece) -> list[Part]:
    """Return what can be typed for the one truss that a stick is part of; nothing for what is no stick, or of a frame over a gable."""
    model, number = session.model, truss_number(piece.key)
    trusses = model.trusses.get(piece.owner)
    plan = next((s for s in model.surfaces if s.roof.id == piece.owner), None)
    if number < 0 or trusses is None or trusses.problem or plan is None:
        return []
    make, names = trusses.made_at.get(number), truss_names(plan, trusses.places)
    if make is None or number not in names:
        return []
    name, units = names[number], session.project.units
    edit, design = edit_of(session.project, name), make.design
    parts: list[Part] = ["Only this truss", Picture(truss_diagram(design, make.plates, WIDE, points=True))]
    if make.key == "common":
        webs = [("", "as the others"), *((one, one) for one in PATTERNS[1:])]
        plies = [("1", "as the others"), *((str(n), str(n)) for n in range(2, 5))]
        parts += [
            Entry(
                "Own webs",
                edit.webs if edit else "",
                lambda typed: _sets(name, webs=typed, points=()),
                webs,
                pictures=PATTERN_PICTURES,
            ),
            Entry("Own plies", str(edit.plies if edit else 1), lambda typed: _sets(name, plies=int(typed)), plies),
        ]
    keeps = "" if make.key != "common" or design.shape not in PATTERNS else design.shape
    places = point_places(design.pattern, design.frame.outline)
    parts += ["Panel points, from the left bearing's outer face"] if places else []
    for chord, count, x in places:
        label = f"{chord.capitalize()} chord, point {count}"
        commit = _moves(session, name, edit, (chord, count, x), keeps)
        parts.append(Entry(label, format_length(x, units), commit))
    alike = [names[n] for n in _alike(trusses, number) if n in names]
    if edit is not None and len(alike) > 1:
        parts.append(
            Button(
                f"The same for all {len(alike)} of its outline",
                edit=lambda q: set_members(q, alike, webs=edit.webs, plies=edit.plies, points=edit.points),
            )
        )
    if edit is not None:
        parts.append(Button("Back to the layout", edit=lambda q: back_to_layout(q, name)))
    return parts


def _sets(name: str, **fields: object) -> Edit:
    return lambda q: set_member(q, name, **fields)


def _moves(
    session: Session, name: str, edit: MemberEdit | None, point: tuple[str, int, float], keeps: str
) -> Callable[[str], Edit]:
    """Return what moves a panel point to a typed place; ``keeps``: the pattern whose points these are, named from then on."""
    chord, number, x = point
    known = edit.points if edit else ()
    before = next((p.by for p in known if (p.chord, p.number) == (chord, number)), 0.0)

    def commit(typed: str) -> Edit:
        place = parse_length(typed, session.project.units)
        if place < 0.0:
            raise EditError("it would lie outside the truss.", "Panel point", "Type how far from the left it lies.")
        by = place - (x - before)
        rest = tuple(p for p in known if (p.chord, p.number) != (chord, number))
        made = rest if abs(by) < LEAST_MOVED else (*rest, PanelPoint(chord=chord, number=number, by=by))  # type: ignore[arg-type]
        return _sets(
            name, points=made, webs=(keeps or (edit.webs if edit else "")) if made else (edit.webs if edit else "")
        )

    return commit


def _alike(trusses: TrussRoof, number: int) -> Sequence[int]:
    """Return the numbers of the trusses of one kind and outline with one, those changed by hand with them."""
    made = trusses.made_at
    key, outline = made[number].key, made[number].design.frame.outline
    return sorted(n for n, make in made.items() if make.key == key and make.design.frame.outline == outline)
