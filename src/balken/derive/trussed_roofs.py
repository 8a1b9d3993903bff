"""What trusses under a roof are made of: sticks, blocks, braces, lookouts and ladders of overhangs over gables."""

from balken.design.roof_trusses import TrussRoof
from balken.framing.bands import WallLine
from balken.framing.bearing_blocks import block_pieces
from balken.framing.frame_lookouts import frame_boards
from balken.framing.gable_braces import ends_of, frame_brace, gable_brace_pieces, gable_braces
from balken.framing.gable_ladders import ladder_pieces
from balken.framing.lookouts import lookout_pieces
from balken.framing.pieces import Piece
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_braces import Standing, brace_pieces, chord_stretches, stretch_name, web_stretches
from balken.framing.truss_diagonals import diagonal_pieces
from balken.framing.truss_layout import TrussRow, at_wall
from balken.framing.truss_pieces import truss_pieces
from balken.framing.wall_ledgers import ledger_ring
from balken.geometry.plane import Ring

Lines = dict[str, WallLine]
JOIST_FLAT, SLAB_FLAT = 12.0, 3.0
"""How far the chords of an outline's arcs may lie off them, mm: rim boards are short straight ones, a slab is cast round."""
NEAR_LEVEL = 900.0
"""Walls that begin or end no farther than this from a deck may bound a floor, mm."""


def roof_truss_pieces(plan: SurfacePlan, trusses: TrussRoof, stock: float) -> tuple[Piece, ...]:
    """Return all sticks of a roof's trusses, what holds them aside, and the ladders and lookouts of its gable overhangs."""
    found: list[Piece] = []
    for number, place in enumerate(trusses.places):
        made = trusses.of(number)
        if made is not None:
            found += truss_pieces(plan, place, number, made.frame, made.sawn, made.cut)
            found += block_pieces(plan, place, number, made.frame, tuple(one.place for one in made.blocks))
    for k, row in enumerate(trusses.rows):
        common, flat = trusses.standing(k, "common"), trusses.standing(k, "flat")
        if not common:
            continue
        own, every = f"wing {k} " if k else "", [*common, *flat]  # each row has braces of its own
        chords, webs = chord_stretches(common, flat), web_stretches(common)
        found += brace_pieces(plan, row, chords, every, stock, own)
        found += brace_pieces(plan, row, webs, every, stock, own)
        lying = [ring for stretch in chords if len(stretch.trusses) > 1 for _, ring in stretch.braces]
        lying += [ledger_ring(plan, row)] if at_wall(plan, row.eaves[1]) else []
        across = [
            piece
            for n, stretch in enumerate(webs)
            for piece in diagonal_pieces(plan, row, stretch, stock, lying, f"{own}{stretch_name(n)}")
        ]
        lying += [ring for stretch in webs if len(stretch.trusses) > 1 for _, ring in stretch.braces]
        found += (*across, *_braces_of_frames(plan, row, trusses, k, every, (lying, across)))
    top = next((made.frame.sizes.top for _, made, _ in trusses.designs), "2x4")
    lookouts = trusses.lookouts
    found += lookout_pieces(plan, [made.row for made in lookouts.rows])
    found += (board for low in trusses.low for one in low.rows for board in frame_boards(plan, one.made.row, one.begin))
    return (*found, *ladder_pieces(plan, top, lookouts.instead))


def _braces_of_frames(
    plan: SurfacePlan,
    row: TrussRow,
    trusses: TrussRoof,
    k: int,
    every: list[Standing],
    beside: tuple[list[Ring], list[Piece]],
) -> list[Piece]:
    """Return the braces of the frames over a row's gables; where a room is in the roof they would stand in it, and there are none."""
    found = list[Piece]()
    if any(made.shape == "room" for _, made in trusses.across(k, "common")):
        return found
    for frame in trusses.standing(k, "gable"):
        inside = sorted(every, key=lambda one: abs(one.t - frame.t))
        made = gable_braces(frame, inside, beside[0], ends_of(plan, row, beside[1]))
        found += gable_brace_pieces(plan, row, made, frame_brace(frame.number))
    return found
