"""Floors under what stands on their decks: joists doubled where they must be, and all their solids."""

from collections.abc import Mapping
from typing import NamedTuple

from balken.derive.laying import Laid
from balken.design.loaded_joists import LoadedJoists, design_loaded
from balken.design.raised_slabs import RaisedSlab, design_slab_bars
from balken.framing.blocking import solid_blocks
from balken.framing.floors import floor_pieces
from balken.framing.pieces import MadeOf, Piece
from balken.loads.path import LoadPath
from balken.memo import Memo
from balken.model.lookup import by_id
from balken.model.records import Loads, Project
from balken.standards.known import STANDARDS


class Decked(NamedTuple):
    """Joists under what stands on them by their floor, the pieces of each floor; of these its blocks.

    ``slabs``: those that are of concrete.
    """

    loaded: dict[str, LoadedJoists]
    groups: tuple[tuple[Piece, ...], ...]
    blocks: dict[str, tuple[Piece, ...]]
    slabs: dict[str, RaisedSlab]


def made_joists(laid: Laid, floors: Decked, floor: str) -> Mapping[str, MadeOf]:
    """Return what single joists of a floor are made of that are not as its layout: by hand, or for what stands on them."""
    by_hand = laid.edited[floor].made
    return by_hand | floors.loaded[floor].made if floor in floors.loaded else by_hand


def decked(memo: Memo, p: Project, loads: Loads, laid: Laid, path: LoadPath) -> Decked:
    """Design the joists that something stands on, and make the solids of every floor."""
    standard = STANDARDS[p.standard]
    loaded: dict[str, LoadedJoists] = {}
    groups: list[tuple[Piece, ...]] = []
    blocks: dict[str, tuple[Piece, ...]] = {}
    slabs: dict[str, RaisedSlab] = {}
    for plan in laid.floors:
        f, size, by_hand = plan.floor.id, laid.designs[(plan.floor.id, "joists")].size, laid.edited[plan.floor.id].made
        size = memo.keep(f"joists {f}", size)
        made = by_hand
        if plan.floor.is_slab:
            level = memo.keep(f"level {f}", by_id(p.levels)[plan.floor.level].height)
            on = path.decks.get(f)
            slabs[f] = memo.step(f"bars {f}", design_slab_bars, plan, size, loads, on, standard, p.concrete)
            groups.append(memo.step(f"pieces {f}", floor_pieces, plan, size, level, p.stock_length, made))
            continue
        if f in path.decks:
            loaded[f] = memo.step(f"loaded {f}", design_loaded, plan, size, loads, path.decks[f], standard, by_hand)
            made = memo.keep(f"made {f}", by_hand | loaded[f].made)
        level = memo.keep(f"level {f}", by_id(p.levels)[plan.floor.level].height)
        groups.append(memo.step(f"pieces {f}", floor_pieces, plan, size, level, p.stock_length, made))
        blocks[f] = memo.step(f"blocks {f}", solid_blocks, plan, size, level, made)
        groups.append(blocks[f])
    return Decked(loaded, tuple(groups), blocks, slabs)
