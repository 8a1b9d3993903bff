"""Squash blocks and web stiffeners of I-joists: made when loads and checks are known."""

from typing import NamedTuple

from balken.catalog.sections import section
from balken.derive.checking import Checked
from balken.derive.decked import Decked, made_joists
from balken.derive.laying import Laid
from balken.design.squash_blocks import Squashed, squashed
from balken.framing.joist_blocks import squash_blocks, under_walls, web_stiffeners
from balken.framing.pieces import MemberLine, Piece
from balken.loads.path import LoadPath
from balken.memo import Memo
from balken.model.lookup import by_id
from balken.model.naming import piece_name
from balken.model.records import Project
from balken.standards.known import STANDARDS
from balken.standards.standard import Standard

ENDS, INNER = "at its ends", "over its inner bearings"


class JoistBlocks(NamedTuple):
    """Their pieces by floor, and the checks of squash blocks."""

    groups: tuple[tuple[Piece, ...], ...] = ()
    squashed: tuple[Squashed, ...] = ()


def joist_blocks(
    memo: Memo, p: Project, laid: Laid, floors: Decked, path: LoadPath, checked: Checked, standard: Standard
) -> JoistBlocks:
    """Return what floors of I-joists have at their bearings."""
    groups: list[tuple[Piece, ...]] = []
    found: list[Squashed] = []
    for plan in laid.floors:
        f, design = plan.floor.id, laid.designs[(plan.floor.id, "joists")]
        if section(design.size).kind != "I-joist":
            continue
        level = memo.keep(f"level {f}", by_id(p.levels)[plan.floor.level].height)
        lines = memo.keep("walls over joists", laid.lines)
        below = memo.keep("what walls stand on", path.below)
        over = memo.step(f"under walls {f}", under_walls, plan, level, lines, below)
        size = memo.keep(f"joists {f}", design.size)
        if over:
            joists, blocked = plan.floor.joists, plan.floor.blocking != "none"
            along = memo.keep(
                f"along over {f}", {one.wall: path.along[one.wall] for one in over if one.wall in path.along}
            )
            wood = memo.keep(f"wood of {f}", (joists.species, joists.grade))
            rows = memo.step(
                f"squashed {f}", squashed, f, plan.spacing, blocked, wood, over, along, STANDARDS[p.standard]
            )
            found += rows
            taken = {(row.wall, row.bearer) for row in rows if row.blocks}
            needed = memo.keep(f"squash here {f}", tuple(one for one in over if (one.wall, one.bearer) in taken))
            groups.append(memo.step(f"squash blocks {f}", squash_blocks, plan, size, level, needed))
        places: list[tuple[MemberLine, float]] = []
        for line in plan.lines:
            result = checked.results.get(piece_name(f, "joist", line.place))
            notes = " ".join(result.notes) if result is not None else ""
            stops = [at for name, at, _ in line.stops if name]
            if ENDS in notes and stops:
                places += [(line, stops[0]), (line, stops[-1])]
            if INNER in notes:
                places += [(line, at) for at in stops[1:-1]]
        if places:
            made = memo.keep(f"made {f}", made_joists(laid, floors, f))
            at = memo.keep(f"stiffened {f}", tuple(places))
            groups.append(memo.step(f"stiffeners {f}", web_stiffeners, plan, size, level, at, made))
    return JoistBlocks(tuple(groups), memo.keep("squash blocks", tuple(found)))
