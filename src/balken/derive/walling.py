"""Walls above the foundations: how they meet, their layers, then their studs and headers."""

import math
from collections.abc import Mapping
from typing import NamedTuple

from msgspec.structs import replace

from balken.catalog.sections import section
from balken.derive.laying import Laid
from balken.design.headers import design_headers
from balken.design.stud_walls import FramedWall, StudDesign, WallDesign, checked_sticks, design_studs, lay_studs
from balken.framing.against_walls import Against, ends_at_wall, let_out
from balken.framing.bands import WallLine
from balken.framing.fitting import ribbons
from balken.framing.foundations import FoundationRun
from balken.framing.gable_tops import one_top
from balken.framing.hand_edits import edited_wall
from balken.framing.joints import Joints, join
from balken.framing.pieces import Piece
from balken.framing.walls import GableTop, LetOut, layer_profiles, wall_pieces
from balken.loads.path import LoadPath
from balken.memo import Memo
from balken.model.buildups import stud_size
from balken.model.kinds.foundation import NO_SILL
from balken.model.lookup import height
from balken.model.records import Hang, Opening, Project
from balken.standards.known import STANDARDS

Lines = dict[str, WallLine]


class Built(NamedTuple):
    """Walls as they stand, by their ids: how they meet, their openings, gable tops and layers."""

    joints: dict[str, Joints]
    openings: dict[str, tuple[Opening, ...]]
    gables: dict[str, GableTop | None]
    layers: dict[str, tuple[Piece, ...]]


def build(memo: Memo, p: Project, laid: Laid) -> Built:
    """Build the layers of walls."""
    lines = laid.lines
    tops = {w: memo.keep(f"gable {w}", _top(laid, w)) for w in lines}
    high = {w: top.height(top.highest, True) for w, top in tops.items() if top is not None}
    made = memo.step("wall joints", _joints, lines, memo.keep("how high gables reach", high))
    joints = {w: memo.keep(f"joints {w}", found) for w, found in made.items()}
    openings, out = _by_wall(p.openings, memo), _let_out(memo, laid)
    layers = {}
    for w, line in lines.items():
        itself = memo.keep(f"{w} by itself", line.by_itself())
        gone = memo.keep(f"let out of {w}", out.get(w, ()))
        profiles = memo.step(f"profiles {w}", layer_profiles, itself, joints[w], openings.get(w, ()), tops[w], gone)
        layers[w] = memo.step(f"wall {w}", wall_pieces, line, joints[w], profiles)
    return Built(joints, openings, tops, layers)


def _let_out(memo: Memo, laid: Laid) -> dict[str, tuple[LetOut, ...]]:
    """Return what roofs that stand against walls let out of their layers."""
    rows = []
    for plan in laid.surfaces:
        framing = laid.planes.get(plan.roof.id)
        sides = range(len(plan.edges))
        if plan.problem or not any(ends_at_wall(plan.roof, plan.outline, k) for k in sides):
            continue
        if not plan.trussed and framing is None:
            continue
        size = framing.boards.rafter if framing is not None else plan.roof.trusses.top or "2x6"
        hung = laid.on_ledgers.get(plan.roof.id)
        below = [ledger.below for ledger in hung.ledgers] if hung is not None and framing is not None else []
        rows.append(Against(plan, section(size).depth, max(below, default=0.0)))
    return memo.step("let out for roofs", let_out, memo.keep("roofs against walls", tuple(rows)), laid.lines)


def _top(laid: Laid, wall: str) -> GableTop | None:
    found = laid.gables.get(wall)
    if not found:
        return None
    return found[-1] if wall in laid.raked else one_top(found, laid.lines[wall])


ABOVE = "+gable"
"""Added to a wall's id where its gable is a band of its own."""


def _joints(lines: Lines, high: Mapping[str, float]) -> dict[str, Joints]:
    """Return how walls meet: those of a storey under the roof stop at gables that run up from the one below, too."""
    bands = [line.band for line in lines.values()]
    feet = sorted({band.bottom for band in bands})
    gables = [
        replace(band, id=band.id + ABOVE, bottom=band.top, top=high[band.id])
        for band in bands
        if band.id in high and any(band.top - 1.0 < foot < high[band.id] - 1.0 for foot in feet)
    ]
    if not gables:
        return join(bands)
    made = join([*gables, *bands])
    found = {}
    for band in bands:
        mine, above = made[band.id], made.get(band.id + ABOVE)
        if above is not None:
            mine = replace(
                mine,
                cuts=(*mine.cuts, *above.cuts),
                tees=tuple(sorted((*mine.tees, *above.tees), key=lambda tee: tee.at)),
                wedges=(*mine.wedges, *(wedge for wedge in above.wedges if wedge.heights is not None)),
            )
        ends = tuple(replace(end, other=end.other.removesuffix(ABOVE)) for end in mine.ends)
        tees = tuple(replace(tee, wall=tee.wall.removesuffix(ABOVE)) for tee in mine.tees)
        found[band.id] = replace(mine, ends=(ends[0], ends[1]), tees=tees)
    return found


def _by_wall(openings: tuple[Opening, ...], memo: Memo) -> dict[str, tuple[Opening, ...]]:
    found: dict[str, tuple[Opening, ...]] = {}
    for opening in openings:
        found[opening.wall] = (*found.get(opening.wall, ()), opening)
    return {wall: memo.keep(f"openings {wall}", group) for wall, group in found.items()}


def frame(
    memo: Memo, p: Project, runs: tuple[FoundationRun, ...], laid: Laid, built: Built, path: LoadPath
) -> dict[str, FramedWall]:
    """Design and lay the studs of walls; what only its load or place changes is not laid again."""
    lines = laid.lines
    wet = _on_concrete(p, runs, lines)
    studs: dict[str, StudDesign] = {}
    wind = memo.keep("wind", p.loads.wind)
    for w, line in lines.items():
        if stud_size(line.buildup) is not None:
            studs[w] = memo.step(
                f"studs {w}",
                design_studs,
                memo.keep(f"{w} by itself", line.by_itself()),
                built.openings.get(w, ()),
                _framed_up_to(built, w),
                memo.keep(f"head {w}", path.heads[w]),
                memo.keep(f"own {w}", path.walls[w].own_line),
                wind,
                p.steps,
                STANDARDS[p.standard],
            )
    headers = memo.together({f"headers {w}": made.openings for w, made in studs.items()}, design_headers)
    framed = {}
    for w, made in studs.items():
        both = memo.step(f"made of {w}", WallDesign, made.design, headers[f"headers {w}"], made.posts)
        framed[w] = _laid(memo, p, lines[w], built, both, w in wet)
    return framed


def _on_concrete(p: Project, runs: tuple[FoundationRun, ...], lines: Lines) -> set[str]:
    """Return the walls whose plates lie on foundation walls without a sill, or on a slab on ground."""
    slabs = [height(Hang(level=s.level), p.levels) for s in p.slabs]
    found = {w for w, line in lines.items() if any(abs(line.band.bottom - top) < ON for top in slabs)}
    return found | {
        run.wall
        for run in runs
        if run.foundation.sill_size == NO_SILL and abs(lines[run.wall].band.bottom - run.band.top) < ON
    }


ON = 1.0
"""What is no farther apart lies on the other, mm."""


def _framed_up_to(built: Built, wall: str) -> GableTop | None:
    """Return the raking top of a wall's framing: none where frames of trusses stand on its plates."""
    top = built.gables[wall]
    return top.of_core if top is not None else None


def _lapping(built: Built, wall: str) -> Joints:
    """Return how a wall's frame meets others: plates lap over none whose own rake there."""
    joints = built.joints[wall]
    first, last = (
        replace(end, top=math.inf) if end.other in built.gables and _framed_up_to(built, end.other) else end
        for end in joints.ends
    )
    return replace(joints, ends=(first, last))


def _laid(memo: Memo, p: Project, line: WallLine, built: Built, made: WallDesign, on_concrete: bool) -> FramedWall:
    w = line.wall.id
    laid = memo.step(
        f"framing {w}",
        lay_studs,
        memo.keep(f"{w} by itself", line.by_itself()),
        memo.keep(f"joints of frame {w}", _lapping(built, w)),
        built.openings.get(w, ()),
        _framed_up_to(built, w),
        memo.keep(f"choice {w}", made.choice),
        memo.keep("stock", p.stock_length),
        memo.keep(f"ribbons {w}", ribbons(line, p.floors, p.levels)),
    )
    edits = memo.keep(f"edits {w}", tuple(e for e in p.member_edits if e.owner == w))
    edited = memo.step(f"edited {w}", edited_wall, laid, edits, made.design.size, made.design.spacing)
    results = memo.step(f"sticks {w}", checked_sticks, made, edited)
    line = memo.keep(f"line {w}", line)
    return memo.step(
        f"framed {w}",
        FramedWall,
        line,
        made.design,
        made.headers,
        made.posts,
        edited.plan,
        results,
        edited,
        on_concrete,
    )
