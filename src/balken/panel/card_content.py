"""What the card says about what is selected."""

from collections.abc import Callable
from typing import Any

from balken.documents.calculation import can_calculate
from balken.framing.pieces import Piece
from balken.framing.roles import ROLES
from balken.model.lookup import by_id, find, foundation_part
from balken.model.naming import grid_and_axis
from balken.model.records import (
    KIND_OF,
    BaseDrawing,
    Beam,
    BeamRow,
    Column,
    Dormer,
    Floor,
    FloorLoad,
    FloorOpening,
    Foundation,
    Grid,
    Level,
    Opening,
    Pad,
    Recess,
    Reference,
    Roof,
    RoofOpening,
    Slab,
    SpotHeight,
    TrussLoad,
    Wall,
)
from balken.panel.card_parts import Button, Card, Fact, Part, entries, record_name, select_action, used_parts
from balken.panel.cards_beams import beam_card, row_beam_card, row_card
from balken.panel.cards_dormers import dormer_card
from balken.panel.cards_foundations import foundation_card, pad_card, recess_card, slab_card, slope_card, step_card
from balken.panel.cards_layouts import floor_card, load_card, piece_card
from balken.panel.cards_openings import floor_opening_card
from balken.panel.cards_roofs import roof_card
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
from balken.panel.cards_surfaces import edges_card, roof_opening_card
from balken.panel.cards_trusses import weight_card
from balken.panel.cards_walls import opening_card, wall_card
from balken.panel.fields import FIELDS
from balken.panel.kinds_selected import kinds_of, owners_of_pads
from balken.session.session import Session
from balken.units import format_length

Place = Callable[[str, str], None]
"""Takes up a tool that places a thing by two points: (tool, id)."""


Show = Callable[[str], None]
"""Shows the calculation sheet of a thing."""


CARDS: dict[type, Callable[[Session, Any, Place, Show], Card]] = {
    Wall: lambda s, r, place, show: wall_card(s, r),
    Opening: lambda s, r, place, show: opening_card(s, r),
    Grid: lambda s, r, place, show: grid_card(s, r, lambda: place("place grid", r.id)),
    Level: lambda s, r, place, show: level_card(s, r),
    SpotHeight: lambda s, r, place, show: spot_card(s, r),
    BaseDrawing: lambda s, r, place, show: base_drawing_card(s, r, lambda: place("place base drawing", r.id)),
    Reference: lambda s, r, place, show: reference_card(s, r),
    Foundation: lambda s, r, place, show: foundation_card(s, r),
    Pad: lambda s, r, place, show: pad_card(s, r, show),
    Slab: lambda s, r, place, show: slab_card(s, r),
    Recess: lambda s, r, place, show: recess_card(s, r),
    Column: lambda s, r, place, show: column_card(s, r, show),
    Floor: lambda s, r, place, show: floor_card(s, r),
    FloorLoad: lambda s, r, place, show: load_card(s, r),
    TrussLoad: lambda s, r, place, show: weight_card(s, r),
    FloorOpening: lambda s, r, place, show: floor_opening_card(s, r),
    Beam: lambda s, r, place, show: beam_card(s, r, show),
    BeamRow: lambda s, r, place, show: row_card(s, r),
    Roof: lambda s, r, place, show: roof_card(s, r),
    RoofOpening: lambda s, r, place, show: roof_opening_card(s, r),
    Dormer: lambda s, r, place, show: dormer_card(s, r),
}
"""The card of each kind of record: a kind more is a row here."""


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
            if isinstance(record, (Wall, Floor, Roof, Dormer, Opening)) and can_calculate(session.model, refs[0]):
                single.parts.insert(-1, Button("Calculation sheet", action=lambda: show(refs[0])))
            return single
    return _many(session, refs)


def _single(session: Session, ref: str, place: Place, show: Show) -> Card | None:
    project = session.project
    record = find(project, ref)
    made = CARDS.get(type(record))
    if made is not None:
        return made(session, record, place, show)
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
    one = row_beam_card(session, piece.owner if piece is not None else ref, show)
    if one is not None:
        return one
    if piece is not None and ROLES[piece.role].beam and (owner := find(project, piece.owner)) is not None:
        return beam_card(session, owner, show)  # type: ignore[arg-type]
    return piece_card(session, piece, show) if piece is not None else None


def _many(session: Session, selected: tuple[str, ...]) -> Card:
    refs = owners_of_pads(session.model, selected)
    records = [r for r in (find(session.project, ref) for ref in refs) if r is not None]
    kinds = {type(r) for r in records}
    pieces = [piece for ref in refs if (piece := session.model.piece(ref)) is not None]
    roofs = [r for r in records if isinstance(r, Roof)]
    walls = tuple(r.id for r in records if isinstance(r, Wall))
    if len(roofs) == 1 and walls and kinds == {Roof, Wall} and not pieces and roofs[0].shape == "planes":
        mine = tuple(wall for wall in walls if wall in roofs[0].walls)
        if mine:
            return edges_card(session, roofs[0], mine)
    if len(kinds) == 1 and not pieces:
        kind = kinds.pop()
        title = f"{len(records)} {KIND_OF[kind].plural}"
        return Card(title, "A value typed here goes to all of them.", entries(session, records, FIELDS.get(kind, [])))
    parts: list[Part] = []
    sorted_out = kinds_of(session.project, session.model, refs)
    if len(sorted_out) > 1:
        parts.append("Selected")
        for one in sorted_out:
            parts.append(Button(f"Only the {one.counted}", action=_select(session, one.refs)))
    if pieces:
        roles: dict[str, list[Piece]] = {}
        for piece in pieces:
            roles.setdefault(piece.role, []).append(piece)
        parts.append("Members")
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
        parts.append(Fact(KIND_OF[kind].noun.capitalize(), str(sum(1 for r in records if type(r) is kind))))
    told = (
        "A value is typed for things of one kind: choose which. Delete takes all of them."
        if len(sorted_out) > 1
        else ""
    )
    return Card(f"{len(refs)} things", told, parts)


def _select(session: Session, refs: tuple[str, ...]) -> Callable[[], None]:
    return lambda: session.select(refs)
