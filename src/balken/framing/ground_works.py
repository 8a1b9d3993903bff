"""All that is cast or laid in the ground, each bit of concrete counted once."""

from balken.framing.bands import WallLine
from balken.framing.foundations import (
    FoundationRun,
    Sizes,
    blinding_solids,
    footing_pieces,
    footing_solids,
    let_in_pieces,
    let_in_solids,
)
from balken.framing.pads import PadPlace, pad_solid, pier_solid
from balken.framing.pieces import Piece
from balken.framing.roles import Role
from balken.framing.slabs import SlabPlan, seat_solids, slab_solids
from balken.framing.slopes import Wedge, blinding_clear_of, free_wedges, slopes_of, wedge_pieces
from balken.framing.uprights import Upright, counted_once, without
from balken.model.naming import piece_name, run_of


def in_the_ground(
    runs: tuple[FoundationRun, ...],
    sizes: Sizes,
    concrete: dict[str, tuple[Piece, ...]],
    places: tuple[PadPlace, ...],
    pad_sizes: dict[str, tuple[float, float, float, float]],
    slabs: tuple[SlabPlan, ...],
    lines: dict[str, WallLine],
) -> tuple[Piece, ...]:
    """Return footings, pads, piers, slabs and the layers under them, each bit of concrete counted once.

    Precedence: slabs lying on walls, foundation walls, piers, pads, strip footings, slabs, their edges, layers.
    """
    before = [*seat_solids(slabs), *walls_of(concrete)]
    named = _piers_and_pads(places, pad_sizes)
    strips = footing_solids(runs, sizes)
    named += strips
    under = [(plan, slab_solids(plan, lines)) for plan in slabs]
    seated = [plan for plan, _ in under if plan.slab.edge == "seat"]
    for wanted in ("slab", "slab edge", "insulation", "subbase", "blinding"):
        for plan, rows in under:
            if wanted == "slab" and plan in seated:
                continue
            named += [(piece_name(plan.slab.id, name), solid) for name, solid in rows if name == wanted]
    left = counted_once(named, before)
    filled = [*before, *(part for parts in left.values() for part in parts)]
    sloping = {
        run.id: free_wedges(run, *sizes[run.id], [solid for name, solid in strips if name == run.id], filled)
        for run in runs
        if slopes_of(run)
    }
    blinding = _blinding(strips, runs, sizes, sloping)
    if blinding:
        left |= counted_once(blinding, filled)
    pieces = list(footing_pieces(runs, left))
    for run in runs:
        pieces += wedge_pieces(run, *sizes[run.id], sloping.get(run.id, []))
    for run in runs:
        f = run.foundation
        pieces += _ground_pieces(piece_name(run.id, "blinding"), "blinding", f.id, f.foot.level, left)
    for place in places:
        for part, role in (("pier", "pier"), ("pad", "pad footing")):
            pieces += _ground_pieces(piece_name(place.pad.id, part), role, place.pad.id, place.pad.top.level, left)
    for plan, rows in under:
        if plan in seated:
            whole = tuple(solid for name, solid in rows if name == "slab")
            left[piece_name(plan.slab.id, "slab")] = whole
        for name in dict.fromkeys(name for name, _ in rows):
            key = piece_name(plan.slab.id, name)
            pieces += _ground_pieces(key, name, plan.slab.id, plan.slab.level, left)
    return tuple(pieces)


def walls_of(concrete: dict[str, tuple[Piece, ...]]) -> tuple[Upright, ...]:
    """Return the foundation walls as upright solids."""
    return tuple(
        _as_upright(piece) for group in concrete.values() for piece in group if piece.role == "foundation wall"
    )


def _piers_and_pads(
    places: tuple[PadPlace, ...], pad_sizes: dict[str, tuple[float, float, float, float]]
) -> list[tuple[str, Upright]]:
    piers = [(place.pad.id, pier_solid(place)) for place in places]
    named = [(piece_name(pad, "pier"), pier) for pad, pier in piers if pier is not None]
    for place in places:
        if place.pad.id in pad_sizes:
            named.append((piece_name(place.pad.id, "pad"), pad_solid(place, *pad_sizes[place.pad.id])))
    return named


def let_in(
    runs: tuple[FoundationRun, ...], concrete: dict[str, tuple[Piece, ...]], seats: tuple[Upright, ...]
) -> dict[str, tuple[Piece, ...]]:
    """Return what goes on of concrete walls between two that they meet end to end, by run; nothing for most.

    ``concrete``: the walls as they stop at the thicker of the two; ``seats``: of slabs that lie on walls.
    """
    solids = [(run.id, solid) for run in runs for solid in let_in_solids(run)]
    left = counted_once(solids, [*seats, *walls_of(concrete)]) if solids else {}
    return {run.id: tuple(let_in_pieces(run, left[run.id])) for run in runs if left.get(run.id)}


def by_owner(pieces: tuple[Piece, ...]) -> tuple[tuple[Piece, ...], ...]:
    """Return pieces in groups: those of each run, of each pad's parts, of each slab's."""
    groups: dict[str, list[Piece]] = {}
    for piece in pieces:
        groups.setdefault(run_of(piece.key), []).append(piece)
    return tuple(tuple(group) for group in groups.values())


def _blinding(
    strips: list[tuple[str, Upright]],
    runs: tuple[FoundationRun, ...],
    sizes: Sizes,
    sloping: dict[str, list[Wedge]],
) -> list[tuple[str, Upright]]:
    """Return the level blinding under the strip footings; where they slope, it slopes with them."""
    clear = {run.id: blinding_clear_of(run, sizes[run.id][0], sloping[run.id]) for run in runs if run.id in sloping}
    return [
        (piece_name(run_id, "blinding"), part)
        for run_id, solid in blinding_solids(strips, runs)
        for part in without(solid, clear.get(run_id, ()))
    ]


_GROUND_MATERIAL = {"subbase": "gravel", "insulation": "rigid insulation", "blinding": "concrete"}


def _ground_pieces(key: str, role: Role, owner: str, level: str, left: dict[str, tuple[Upright, ...]]) -> list[Piece]:
    found = []
    for i, solid in enumerate(left.get(key, ())):
        found.append(
            Piece(
                key + (f"/{i}" if i else ""),
                role,
                owner,
                level,
                solid.prism,
                _GROUND_MATERIAL.get(role, "concrete"),
                *solid.middle,
                max(solid.long, solid.top - solid.bottom if role == "pier" else 0.0),
            )
        )
    return found


def _as_upright(piece: Piece) -> Upright:
    """Return an upright piece's plan outline and heights."""
    solid = piece.solid
    low, high = solid.heights
    outline, *holes = solid.plan
    return Upright(outline, low, high, tuple(holes))
