"""What the card says about what is selected."""

from collections.abc import Callable

from balken.documents.calculation import can_calculate
from balken.framing.pieces import Piece
from balken.framing.roles import ROLES
from balken.model.lookup import by_id, find, foundation_part
from balken.model.naming import grid_and_axis
from balken.model.records import (
    BaseDrawing,
    Beam,
    Column,
    Floor,
    FloorOpening,
    Foundation,
    Grid,
    Level,
    Opening,
    Pad,
    Recess,
    Reference,
    Roof,
    Slab,
    SpotHeight,
    Wall,
)
from balken.panel.card_parts import Button, Card, Fact, Part, entries, record_name, select_action
from balken.panel.cards_beams import beam_card
from balken.panel.cards_foundations import foundation_card, pad_card, recess_card, slab_card, slope_card, step_card
from balken.panel.cards_layouts import floor_card, piece_card, roof_card, used_parts
from balken.panel.cards_openings import floor_opening_card
from balken.panel.cards_set_out import (
    axis_card,
    base_drawing_card,
    column_card,
    grid_card,
    level_card,
    reference_card,
    spot_card,
)
from balken.panel.cards_stages import stage_card
from balken.panel.cards_walls import opening_card, wall_card
from balken.panel.fields import FIELDS
from balken.session.session import Session
from balken.units import format_length

Place = Callable[[str, str], None]
"""Takes up a tool that places a thing by two points: (tool, id)."""


Show = Callable[[str], None]
"""Shows the calculation sheet of a thing."""


def card(
    session: Session, stage: str, place: Place = lambda tool, thing: None, show: Show = lambda thing: None
) -> Card:
    """Return the card for the selection, or for the stage when nothing is selected."""
    refs = session.selection
    if not refs:
        return stage_card(session, stage)
    if len(refs) == 1:
        single = _single(session, refs[0], place, show)
        if single is not None:
            record = find(session.project, refs[0])
            if isinstance(record, (Wall, Floor, Roof, Opening)) and can_calculate(session.model, refs[0]):
                single.parts.insert(-1, Button("Calculation sheet", action=lambda: show(refs[0])))
            return single
    return _many(session, refs)


def _single(session: Session, ref: str, place: Place, show: Show) -> Card | None:
    project = session.project
    record = find(project, ref)
    if isinstance(record, Wall):
        return wall_card(session, record)
    if isinstance(record, Grid):
        return grid_card(session, record, lambda: place("place grid", record.id))
    if isinstance(record, Foundation):
        return foundation_card(session, record)
    if isinstance(record, Floor):
        return floor_card(session, record)
    if isinstance(record, Roof):
        return roof_card(session, record)
    if isinstance(record, Level):
        return level_card(session, record)
    if isinstance(record, Opening):
        return opening_card(session, record)
    if isinstance(record, Column):
        return column_card(session, record, show)
    if isinstance(record, FloorOpening):
        return floor_opening_card(session, record)
    if isinstance(record, Beam):
        return beam_card(session, record, show)
    if isinstance(record, SpotHeight):
        return spot_card(session, record)
    if isinstance(record, BaseDrawing):
        return base_drawing_card(session, record, lambda: place("place base drawing", record.id))
    if isinstance(record, Reference):
        return reference_card(session, record)
    if isinstance(record, Pad):
        return pad_card(session, record, show)
    if isinstance(record, Slab):
        return slab_card(session, record)
    if isinstance(record, Recess):
        return recess_card(session, record)
    part = foundation_part(project, ref)
    if part is not None:
        foundation, kind, number = part
        return {"step": step_card, "slope": slope_card}[kind](session, foundation, number)
    if ref == "cut":
        return Card("Cut line", "What the height strip and the cross-section show. Drag it on the plan.")
    grid_id, axis_id = grid_and_axis(ref)
    grid = by_id(project.grids).get(grid_id)
    if grid is not None:
        return axis_card(session, grid, axis_id)
    piece = session.model.piece(ref)
    if piece is not None and ROLES[piece.role].beam and (owner := find(project, piece.owner)) is not None:
        return beam_card(session, owner, show)  # type: ignore[arg-type]
    return piece_card(session, piece, show) if piece is not None else None


def _many(session: Session, refs: tuple[str, ...]) -> Card:
    records = [r for r in (find(session.project, ref) for ref in refs) if r is not None]
    kinds = {type(r) for r in records}
    pieces = [piece for ref in refs if (piece := session.model.piece(ref)) is not None]
    if len(kinds) == 1 and not pieces:
        kind = kinds.pop()
        title = f"{len(records)} {kind.__name__.lower()}s"
        return Card(title, "A value typed here goes to all of them.", entries(session, records, FIELDS.get(kind, [])))
    parts: list[Part] = []
    if pieces:
        roles: dict[str, list[Piece]] = {}
        for piece in pieces:
            roles.setdefault(piece.role, []).append(piece)
        parts.append("Selected")
        for role, group in sorted(roles.items()):
            lengths = sum(p.length for p in group)
            parts.append(Fact(f"{len(group)} x {role}", f"{format_length(lengths, session.project.units)} in all"))
        results = [(session.model.results[p.key], p) for p in pieces if p.key in session.model.results]
        if results:
            result, _ = max(results, key=lambda row: row[0].used)
            parts += used_parts(result, session)
        owners = list(dict.fromkeys(p.owner for p in pieces))
        parts += [
            Button(f"Select {record_name(session.project, o)}", action=select_action(session, o)) for o in owners[:4]
        ]
    for kind in kinds:
        parts.append(Fact(kind.__name__, str(sum(1 for r in records if type(r) is kind))))
    return Card(f"{len(refs)} things", "", parts)
