"""Rules that look for faults of beams: what they bear on, whether they carry, what lifts; girders where joists are too long."""

from collections.abc import Iterable

from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.design.ply_nailing import nailing_of
from balken.framing.floors import FloorPlan
from balken.framing.joist_lines import RIM
from balken.framing.pieces import MemberLine
from balken.geometry.plane import chords
from balken.loads.beam_law import Beamed, BeamSeat
from balken.model.lookup import bearer_label, label_of
from balken.model.naming import beam_name
from balken.standards.checks import used_text
from balken.units import Units, format_force, format_line_load, say_inches, say_length
from balken.units.system import FOOT, INCH

ON_CONCRETE = 3.0 * INCH
"""IRC R502.6: bearing of beams on masonry or concrete, mm."""
LEAST_LIFT = 1.0
"""A seat that is lifted by less than this is not, N."""
AIR = 0.5 * INCH
"""Left free beside and behind a beam in a pocket (common practice, no source), mm."""
FEWEST = 3
"""A girder is offered where at least so many joists side by side are too long."""
APART = 8.0 * FOOT
"""How far apart posts are set by a fix at most."""


def beams(c: Model) -> Iterable[Finding]:
    """Beams on nothing, too weak, with short seats, lifted somewhere, and those whose pockets are missing."""
    for name, made in c.path.beams.items():
        label = label_of(c.project, name)
        middle = (*made.line.at(made.line.length / 2.0), made.line.top)
        things = (name, beam_name(name))
        design = made.design
        if not design.made:
            yield _unsolved(c, made, label, middle, things)
            continue
        if not design.works:
            yield _too_weak(c, made, label, middle, things)
        long = max(design.parts, key=lambda part: part.high - part.low)
        if long.high - long.low > made.line.stock + 1.0:
            yield _no_stock(c, made, label, long.high - long.low, things)
        yield from _seats(c, made, label)


def _unsolved(
    c: Model, made: Beamed, label: str, middle: tuple[float, float, float], things: tuple[str, ...]
) -> Finding:
    few = len(made.seats) < 2
    why = (
        "Nothing under it at one end at least: no wall that bears, foundation, post or other beam, so that what it carries does "
        "not come down to the soil."
        if few
        else f"{made.design.unchecked}"
    )
    code, said = ("beam on nothing", made.design.unchecked) if few else ("beam not checked", "it is not checked")
    fix = Fix(_posts(c.units), "posts_under", (made.line.id,)) if few else None
    return Finding(code, "floors", f"{label}: {said}", why, things, middle, fix=fix)


def _posts(units: Units) -> str:
    return f"Set posts under it, {say_length(APART, units)} apart at most"


def _no_stock(c: Model, made: Beamed, label: str, long: float, things: tuple[str, ...]) -> Finding:
    return Finding(
        "stock",
        "floors",
        f"{label}: a span of {say_length(long, c.units)} is longer than the stock",
        f"The longest there is of it is {say_length(made.line.stock, c.units)}, and a beam is spliced over posts alone. Set "
        "posts closer, or take another kind.",
        things,
        (*made.line.at(made.line.length / 2.0), made.line.top),
        grave=False,
        fix=Fix(_posts(c.units), "posts_under", (made.line.id,)),
    )


def _too_weak(
    c: Model, made: Beamed, label: str, middle: tuple[float, float, float], things: tuple[str, ...]
) -> Finding:
    design = made.design
    check, better = design.result.governs, design.would_work
    fix = Fix(_posts(c.units), "posts_under", (made.line.id,))
    if better:
        fix = Fix(f"Make it {better}", "change", (made.line.id,), (("size", better),))
    return Finding(
        "beam",
        "floors",
        f"{label}, {design.section.name}: used {used_text(design.used)}",
        f"{check.name[0].upper()}{check.name[1:]} governs ({check.clause}, {check.combination or 'any load'})."
        + ("" if better else " No section of its kind is enough over these spans."),
        things,
        middle,
        fix=fix,
    )


def _seats(c: Model, made: Beamed, label: str) -> Iterable[Finding]:
    run_ids = {run.id for run in c.runs}
    for seat, least in zip(made.seats, made.design.least, strict=True):
        at = (*made.line.at(seat.along), made.line.top)
        on = bearer_label(c.project, seat.on)
        if least < -LEAST_LIFT:
            yield Finding(
                "beam lifts",
                "floors",
                f"{label} is lifted off {on} by {format_force(-least / 1000.0, c.units)}",
                "Live load on one span lifts it there. Hold it down for that force (not designed here), or set the posts so that "
                "its spans are more alike.",
                (made.line.id, seat.on),
                at,
            )
        need = ON_CONCRETE if seat.on in run_ids else c.standard.least_bearing
        if seat.bearing < need - 0.01:
            yield Finding(
                "beam seat",
                "floors",
                f"{label} bears {say_inches(seat.bearing, c.units)} on {on}",
                f"It needs {say_inches(need, c.units)} there (IRC R502.6). Draw its end farther in, or the beam farther over the wall.",
                (made.line.id, seat.on),
                at,
            )
        if seat.on in run_ids:
            yield from _pocket(c, made, seat, label, at)


def _pocket(c: Model, made: Beamed, seat: BeamSeat, label: str, at: tuple[float, float, float]) -> Iterable[Finding]:
    """A beam lower than the top of a foundation wall needs a pocket in it."""
    run = next(run for run in c.runs if run.id == seat.on)
    bottom = made.line.top - made.design.section.depth
    if bottom > run.band.top - 1.0:
        return
    mine = [r for r in c.project.recesses if r.foundation == run.foundation.id and r.wall == run.wall]
    pocket = next((r for r in mine if r.offset - 1.0 <= seat.at <= r.offset + r.width + 1.0), None)
    if pocket is not None:
        off = run.band.top - pocket.top - pocket.height - bottom
        if abs(off) > AIR:
            way = "higher" if off > 0.0 else "lower"
            yield Finding(
                "beam pocket",
                "foundations",
                f"{label}: its pocket in {bearer_label(c.project, seat.on)} ends {say_inches(abs(off), c.units)} {way} than it",
                "A beam lies on the bottom of its pocket.",
                (made.line.id, pocket.id),
                at,
                grave=False,
                fix=Fix(
                    "Make it as deep as the beam", "change", (pocket.id,), (("height", round(pocket.height + off, 1)),)
                ),
            )
        return
    wide = made.design.section.breadth + 2.0 * AIR
    top = max(run.band.top - made.line.top - AIR, 0.0)
    depth = min(seat.bearing + AIR, max(run.foundation.thickness - INCH, INCH))
    fields = (
        run.foundation.id, run.wall, round(seat.at - wide / 2.0, 1), round(wide, 1),
        round(run.band.top - bottom - top, 1), round(top, 1), round(depth, 1),
    )  # fmt: skip
    yield Finding(
        "beam pocket",
        "foundations",
        f"{label} ends in {bearer_label(c.project, seat.on)}, which has no pocket for it",
        f"Its underside lies {say_inches(run.band.top - bottom, c.units)} below the top of that wall.",
        (made.line.id, seat.on),
        at,
        grave=False,
        fix=Fix("Leave a pocket for it, with 1/2 in of air", "add_pocket", fields),
    )


# Girders for joists that are too long ----------------------------------------------------------------


def girder_under(c: Model, floor_id: str) -> Fix | None:
    """Return the fix that halves the longest joists of a floor by a girder on posts; None for roofs and short joists."""
    plan = next((plan for plan in c.floors if plan.floor.id == floor_id), None)
    if plan is None or plan.floor.is_slab:
        return None
    rows = _longest_alike(plan)
    if len(rows) < FEWEST:
        return None
    middle = (rows[0].centres[0] + rows[0].centres[1]) / 2.0
    (low, high) = _across(plan, rows, middle)
    ends = (*plan.frame.back(middle, low), *plan.frame.back(middle, high))
    x0, y0, x1, y1 = (round(v, 3) for v in ends)
    return Fix(f"Lay a girder under their middle, on posts {say_length(APART, c.units)} apart at most", "girder_on_posts",
               (floor_id, (x0, y0), (x1, y1)))  # fmt: skip


def _longest_alike(plan: FloorPlan) -> list[MemberLine]:
    """Return the joists side by side that run between the same bearings as the longest one, in order."""
    longest = max(plan.lines, key=lambda line: line.clear, default=None)
    if longest is None:
        return []
    alike = [
        line
        for line in plan.lines
        if abs(line.clear - longest.clear) < 50.0 and abs(line.centres[0] - longest.centres[0]) < 50.0
    ]
    return sorted(alike, key=lambda line: line.t)


def _across(plan: FloorPlan, rows: list[MemberLine], s: float) -> tuple[float, float]:
    """Return from where to where a girder runs under joists: to the walls beside them, or a bay beyond the last ones."""
    ring = plan.frame.ring(plan.outline.core)
    inside = [(a, b) for a, b in chords((ring,), (s, 0.0), (0.0, 1.0)) if a <= rows[0].t <= b]
    a, b = inside[0] if inside else (rows[0].t, rows[-1].t)
    bay = plan.spacing
    low = a + RIM if rows[0].t - a < 2.0 * bay else rows[0].t - bay / 2.0
    high = b - RIM if b - rows[-1].t < 2.0 * bay else rows[-1].t + bay / 2.0
    return low, high


def plies(c: Model) -> Iterable[Finding]:
    """Beams of several plies that nails cannot hold together under what hangs on one face."""
    for name, made in c.path.beams.items():
        if not made.design.made:
            continue
        nails = nailing_of(made.line, made.design, c.hangers, c.standard)
        if nails is not None and not nails.works:
            yield Finding(
                "plies",
                "floors",
                f"{label_of(c.project, name)}: its plies cannot be nailed together",
                f"{format_line_load(nails.flow, c.units)} go from ply to ply, for joists hang on one face: {nails.text} "
                f"({nails.clause}).",
                (name,),
                (*made.line.start, made.line.top),
            )


BEAM_RULES = (beams, plies)
