"""Sill plates on foundation walls: in stock lengths, cut where beams lie, with their anchor bolts."""

from balken.framing.beams import BeamLine
from balken.framing.foundations import FoundationRun, axis_of, strip_solid
from balken.framing.pieces import Piece, split_run
from balken.geometry.plane import chords, cross, off_line
from balken.model.kinds.foundation import NO_SILL
from balken.model.naming import piece_name
from balken.model.records import Recess
from balken.units.system import INCH

BOLT_END = 12.0 * INCH
"""IRC R403.1.6: an anchor bolt within 12 in of each end of a plate, and two bolts at least."""
AIR = 12.7
"""Air beside a beam in its pocket, mm (IRC R317.1)."""
HIGHEST = 200.0
"""A beam whose top lies no more than this over a sill plate goes through it, mm: no beam is less deep."""
WIDEST = 180.0
"""As wide a beam is taken whose section is not chosen yet, mm."""
LEAST_IN = 12.0
"""A beam that reaches less than this over a sill plate does not cut it, mm."""
LEAST_PLATE = 50.0
"""No sill plate is shorter, mm."""

Stretch = tuple[float, float]


def sill_pieces(run: FoundationRun, stock: float) -> tuple[Piece, ...]:
    """Return the sill plate of a foundation wall, in stock lengths."""
    f, sill = run.foundation, run.sill
    thick, _ = f.plate
    pieces = []
    for i, part in enumerate(_plates(run, stock)):
        pieces.append(
            Piece(
                piece_name(run.id, "sill", f"{i}"),
                "sill plate",
                f.id,
                f.head.level,
                strip_solid(sill, part, sill.bottom, thick),
                "timber",
                *axis_of(sill, part, sill.bottom),
                part[1] - part[0],
                f.sill_size,
                "Southern Pine",
                "No. 2 treated",
                run.wall,
            )
        )
    return tuple(pieces)


def _plates(run: FoundationRun, stock: float, others: tuple[Stretch, ...] = ()) -> list[tuple[float, float]]:
    """Return from where to where along the wall each piece of its sill plate lies; where it has none those of a framed wall on it."""
    if run.foundation.sill_size == NO_SILL:
        return list(others)
    begin, finish = run.sill_span
    ends = [begin, *(end for gap in run.sill_gaps for end in gap), finish]
    return [
        (low + a, low + b)
        for low, high in zip(ends[::2], ends[1::2], strict=True)
        if high - low > LEAST_PLATE
        for a, b in split_run(high - low, stock)
    ]


def sill_gaps(run: FoundationRun, recesses: tuple[Recess, ...], beams: tuple[BeamLine, ...]) -> tuple[Stretch, ...]:
    """Return where beams that rise between the wall and the joists cut its sill plate: as wide as the pocket each lies in, else
    with half an inch of air at both sides.
    """
    sill, (begin, finish) = run.sill, run.sill_span
    near, far = sill.layers[0]
    top = sill.bottom + run.foundation.plate[0]
    ring = (sill.at(begin, near), sill.at(finish, near), sill.at(finish, far), sill.at(begin, far))
    found: list[Stretch] = []
    for beam in beams:
        if not sill.bottom + 1.0 < beam.top < top + HIGHEST:
            continue
        for low, high in chords((ring,), beam.start, beam.direction):
            low, high = max(low, 0.0), min(high, beam.length)
            if high - low < LEAST_IN:
                continue
            at = off_line(beam.at((low + high) / 2.0), sill.at(0.0, 0.0), sill.at(1000.0, 0.0))[0]
            pocket = next((r for r in recesses if r.offset - 1.0 <= at <= r.offset + r.width + 1.0), None)
            across = abs(cross(beam.direction, sill.direction))
            half = ((beam.breadth if beam.beam.size else WIDEST) / 2.0 + AIR) / max(across, 0.2)
            found.append((pocket.offset, pocket.offset + pocket.width) if pocket else (at - half, at + half))
    cuts = [(max(a, begin), min(b, finish)) for a, b in sorted(found) if b > begin and a < finish]
    merged: list[Stretch] = []
    for a, b in cuts:
        if merged and a <= merged[-1][1] + LEAST_PLATE:
            merged[-1] = (merged[-1][0], max(merged[-1][1], b))
        else:
            merged.append((a, b))
    return tuple(merged)


def anchor_bolts(run: FoundationRun, stock: float, plates: tuple[Stretch, ...] = ()) -> tuple[float, ...]:
    """Return where along the wall the sill's anchor bolts stand: at the ends of each plate and spaced between; ``plates``: of a framed wall
    that stands on the concrete itself, where there is no sill.

    IRC R403.1.6: at most the spacing apart, within 12 in of each end, two a plate at least.
    """
    found: list[float] = []
    for low, high in _plates(run, stock, plates):
        end = min(BOLT_END * 0.75, (high - low) / 4.0)
        count = max(2, int(-(-(high - low - 2.0 * end) // run.foundation.bolt_spacing)) + 1)
        gap = (high - low - 2.0 * end) / (count - 1)
        found += [low + end + k * gap for k in range(count)]
    return tuple(found)
