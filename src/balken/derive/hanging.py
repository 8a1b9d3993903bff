"""Hangers of every floor, of beams and trusses, caps and bases of posts, chosen when what comes to them is known."""

from balken.derive.decked import Decked, made_joists
from balken.derive.laying import Laid
from balken.design.hangers import Hung, hung_beams, hung_ends, hung_rafters, hung_trusses
from balken.design.post_fittings import Fitted, fittings_of
from balken.geometry.plane import Point
from balken.loads.area_loads import floor_short
from balken.loads.path import LoadPath
from balken.memo import Memo
from balken.model.beam_rows import all_beams
from balken.model.lookup import by_id
from balken.model.naming import parts_of_run
from balken.model.records import Loads, Project
from balken.standards.known import STANDARDS


def hangers(memo: Memo, p: Project, loads: Loads, laid: Laid, path: LoadPath, floors: Decked) -> tuple[Hung, ...]:
    """Choose the hangers of all floors, beams and trusses."""
    standard, flush = STANDARDS[p.standard], {b.id for b in all_beams(p) if b.flush}
    found: list[Hung] = []
    for plan in laid.floors:
        f = plan.floor.id
        if plan.floor.is_slab:
            continue
        ledgers = {w for w, shared in zip(plan.outline.walls, plan.outline.shared, strict=True) if shared}
        hung = {b for b in plan.bears_on if b in flush or b in ledgers or parts_of_run(b)[1] in ledgers}
        if not hung and not plan.holes:
            continue
        deck = path.decks.get(f)
        made = made_joists(laid, floors, f)
        found += memo.step(
            f"hangers {f}",
            hung_ends,
            plan,
            memo.keep(f"joists {f}", laid.designs[(f, "joists")].size),
            memo.keep(f"level {f}", by_id(p.levels)[plan.floor.level].height),
            memo.keep(f"hung on {f}", frozenset(hung)),
            memo.keep(f"hung loads {f}", tuple(r for r in path.reactions if r.piece.startswith(f"{f}/joist"))),
            memo.keep(f"on headers {f}", dict(deck.headers) if deck is not None else {}),
            memo.keep(f"made hung {f}", made),
            p.hangers,
            standard,
            memo.keep(
                f"beyond {f}", tuple(r for group in laid.beyond for r in group if r.piece.startswith(f"{f}/joist"))
            ),
            memo.step(f"short {f}", floor_short, plan, loads),
            memo.keep(f"ways of what {f} hangs on", _ways(hung, laid, path)),
        )
    if path.beams:
        found += memo.step(
            "hangers of beams", hung_beams, memo.keep("beams that may hang", dict(path.beams)), p.hangers, standard
        )
    for surface in laid.surfaces:
        roof = surface.roof.id
        on = laid.on_ledgers.get(roof)
        if on is not None and on.heads:
            found += memo.step(f"hangers on ledgers {roof}", hung_rafters, on.heads, p.hangers, standard)
        trusses = laid.trusses.get(roof)
        if trusses is not None and trusses.hung:
            found += memo.step(f"hangers {roof}", hung_trusses, roof, trusses, surface.bearing, p.hangers, standard)
    return tuple(found)


def _ways(hung: set[str], laid: Laid, path: LoadPath) -> dict[str, Point]:
    """Return how beams, and walls with ledgers, lie in plan."""
    beams = {b: path.beams[b].line.direction for b in hung if b in path.beams}
    walls = {b: laid.lines[w].band.direction for b in hung for w in (b, parts_of_run(b)[1]) if w in laid.lines}
    return walls | beams


def fittings(memo: Memo, p: Project, path: LoadPath) -> tuple[Fitted, ...]:
    """Choose the caps and bases of posts."""
    if not path.columns:
        return ()
    return memo.step(
        "fittings",
        fittings_of,
        memo.keep("posts fitted", dict(path.columns)),
        memo.keep("beams on posts", dict(path.beams)),
        memo.keep("posts stand on", {name: path.below.get(name, ()) for name in path.columns}),
        memo.keep("pads under posts", frozenset(pad.id for pad in p.pads)),
        memo.keep("beyond on posts", {name: path.extremes[name] for name in path.columns if name in path.extremes}),
        STANDARDS[p.standard],
        p.post_fittings,
    )
