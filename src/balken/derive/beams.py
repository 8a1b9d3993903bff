"""Beams: where they lie, before joists have a size and after; what they are made of; their solids."""

from balken.catalog.sections import section
from balken.derive.laying import Laid
from balken.design.girders import GIRDERS, underside
from balken.framing.beams import Made, beam_lines, beam_pieces, face_of
from balken.framing.pieces import Bearer, Piece
from balken.loads.beam_law import hung_seats
from balken.loads.path import Beams, LoadPath
from balken.memo import Memo
from balken.model.beam_rows import all_beams
from balken.model.records import Project


def beam_bearers(memo: Memo, p: Project) -> tuple[Bearer, ...]:
    """Return what joists may bear on of beams, as high as they will about be."""
    lines = memo.step("rough beams", beam_lines, all_beams(p), p.grids, p.levels, p.floors, memo.keep("no depths", {}))
    return memo.keep("beam bearers", tuple(line.bearer for line in lines))


def laid_beams(memo: Memo, p: Project, laid: Laid) -> Beams:
    """Return the beams at their heights under the joists they carry, and how far apart those hold them."""
    depths = {f.floor.id: section(laid.designs[(f.floor.id, "joists")].size).depth for f in laid.floors}
    lines = memo.step(
        "beams",
        beam_lines,
        all_beams(p),
        p.grids,
        p.levels,
        p.floors,
        memo.keep("depths", depths),
        memo.keep("stock", p.stock_length),
        memo.keep("own beams", tuple(beam.row for beam in p.own_beams)),
    )
    held: dict[str, float] = {}
    for plan in laid.floors:
        if plan.floor.is_slab:  # nothing fastens it to them
            continue
        for bearer in plan.bears_on:
            held[bearer] = max(plan.spacing, held.get(bearer, 0.0))
    held = {line.id: held[line.id] for line in lines if line.id in held}
    return memo.keep("beams laid", Beams(lines, GIRDERS, held))


def made_beams(memo: Memo, p: Project, beams: Beams, path: LoadPath) -> tuple[Piece, ...]:
    """Return the solids of beams as they were made for what they carry."""
    lines = beams.lines
    made = {}
    for line in lines:
        design = path.beams[line.id].design
        chosen = design.section
        parts = [(part.low, part.high) for part in design.parts]
        for hung in hung_seats(path.beams, line.id):
            along, (low, high) = path.beams[line.id].seats[hung.seat].along, parts[hung.piece]
            face = face_of(line, hung.on.line, along, chosen.breadth, hung.on.design.section.breadth)
            parts[hung.piece] = (face, high) if along < line.length / 2.0 else (low, face)
        made[line.id] = Made(chosen, round(underside(line, chosen), 6), tuple(parts))
    boards = memo.keep("stock", p.stock_length)
    return memo.step("beam pieces", beam_pieces, lines, memo.keep("made beams", made), boards)
