"""Rules of what is framed and of what it bears on: seats, studs, heads of walls, outlines, levels; one function each, its source named."""

import math
from collections.abc import Iterable

import shapely

from balken.catalog.sections import RIDGE_SIZES, section
from balken.derived.finding import Finding, Fix, Stage
from balken.derived.model import Model
from balken.design.layouts import LayoutDesign
from balken.findings.beam_rules import girder_under
from balken.findings.names import counted
from balken.framing.bands import WallLine
from balken.framing.rafters import FLATTEST_BOARD
from balken.framing.roofs import RoofPlan, ridge_section
from balken.framing.studs import WallTrouble
from balken.geometry.plane import Point, turn
from balken.loads.seats import gaps_under
from balken.model.lookup import by_id, find, label_of, listed, wall_label
from balken.model.naming import owner_of, piece_name
from balken.model.records import Floor, Foundation, Roof
from balken.model.visitor import hanging
from balken.standards.checks import used_text
from balken.units import Units, say_inches, say_length
from balken.units.system import FOOT

SQUARE, OUT_OF_SQUARE = 1.0, 75.0
"""A wall that leaves the grid's direction by more than the first and less than the second was meant to be square, mm
(common practice, no source)."""


def _stage_of(record: object) -> Stage:
    if isinstance(record, Foundation):
        return "foundations"
    return "floors" if isinstance(record, Floor) else "roof" if isinstance(record, Roof) else "walls"


def removed_levels(c: Model) -> Iterable[Finding]:
    """What hung on a level that was removed, with the way to the nearest one."""
    others = listed(c.project.levels)
    for level in c.project.levels:
        if not level.removed:
            continue
        held = hanging(c.project, level.id)
        nearest = min(others, key=lambda v: abs(v.height - level.height), default=None)
        fix = Fix(f"Hang all on '{nearest.name}'", "replace_level", (level.id, nearest.id)) if nearest else None
        yield Finding(
            "removed level",
            "set out",
            f"'{level.name}' is removed but still holds {counted(held)}",
            f"They stay at {say_length(level.height, c.units)}. Hang them on another level, here or on the card.",
            (level.id,),
            (0.0, 0.0, level.height),
            grave=False,
            fix=fix,
        )


def out_of_square(c: Model) -> Iterable[Finding]:
    """Walls that all but follow a grid's direction: mostly one end moved with an axis and the other did not."""
    ways = [turn((1.0, 0.0), grid.angle) for grid in c.project.grids if grid.kind != "radial"]
    for line in c.lines.values():
        band = line.band
        (dx, dy), length = band.direction, band.length
        leans = [
            (abs(dx * wy - dy * wx) * length, (wx, wy) if dx * wx + dy * wy > 0.0 else (-wx, -wy))
            for gx, gy in ways
            for wx, wy in ((gx, gy), (-gy, gx))
        ]
        if not leans:
            continue
        lean, way = min(leans)
        if not SQUARE < lean < min(OUT_OF_SQUARE, length / 40.0):
            continue
        label = wall_label(c.project, line.wall.id)
        yield Finding(
            "square",
            "walls",
            f"{label} is out of square by {say_inches(lean, c.units)}",
            f"Over its {say_length(length, c.units)} it leaves the grid's direction. Move one end, or tie both to "
            "axes so that they move together.",
            (line.wall.id,),
            (*band.end, band.bottom),
            grave=False,
            fix=Fix("Set it square", "square_wall", (line.wall.id, way)),
        )


def open_outlines(c: Model) -> Iterable[Finding]:
    """Layouts whose walls do not close an outline, and what could not be framed."""
    for layout_id, text in c.troubles:
        record = find(c.project, layout_id)
        yield Finding(
            "outline",
            _stage_of(record),
            f"{getattr(record, 'name', layout_id)} cannot be framed",
            f"{text[0].upper()}{text[1:]}. Draw or choose walls that close it.",
            (layout_id,),
            (0.0, 0.0, 0.0),
        )
    for plan in c.floors:
        bare = [snag for snag in plan.snags if snag.kind == "no bearing"]
        if bare:
            edges, ends = sum("edge" in snag.text for snag in bare), len(bare)
            noun = "edge" if edges == ends else "end"
            more = (
                "20 ends or more reach" if ends >= 20 else f"{ends} {noun}s reach" if ends > 1 else f"1 {noun} reaches"
            )
            joists = "edge joists" if edges == ends else "joists"
            yield Finding(
                "no bearing",
                "floors",
                f"{plan.floor.name}: {'strips of it' if plan.floor.is_slab else joists} have nothing to bear on",
                f"{more} no sill or wall within 20 in below the deck. Add a foundation or bearing wall there.",
                (plan.floor.id,),
                bare[0].at,
            )


def members_over(c: Model) -> Iterable[Finding]:
    """Layouts whose governing member is used over 100 % (NDS, IRC R301.7)."""
    for (layout_id, field), design in c.designs.items():
        if design.result.used <= 1.0 or layout_id in c.raised:
            continue
        check = design.result.governs
        layout = find(c.project, layout_id)
        noun = {"joists": "joists", "rafters": "rafters", "ties": "ceiling ties"}[field]
        keys = c.worst_pieces.get((layout_id, field), ())
        fix = _stronger(layout_id, field, design, c.units) or girder_under(c, layout_id)
        yield Finding(
            "used",
            _stage_of(layout),
            f"{getattr(layout, 'name', '')}: {noun} {design.size} used {used_text(design.result.used)}",
            f"{check.name[0].upper()}{check.name[1:]} governs ({check.clause}, {check.combination}) over a clear span of "
            f"{say_length(design.result.case.clear, c.units)} at {say_inches(design.spacing, c.units)}."
            f"{'' if fix else ' Bring their bearings closer together, set them closer, or take a better grade.'}",
            (layout_id, *keys),
            c.place(keys[0]) if keys else (0.0, 0.0, 0.0),
            fix=fix,
        )


def _stronger(layout_id: str, field: str, design: LayoutDesign, units: Units) -> Fix | None:
    better = [n for n in design.neighbours if n.used <= 1.0]
    if not better:
        if design.would_work:
            return Fix("Let Balken choose the size", "set_choice", (layout_id, field), (("size", None),))
        return None
    n = min(better, key=lambda row: section(row.size).area / row.spacing)
    if n.size != design.size:
        return Fix(f"Use {n.size}", "set_choice", (layout_id, field), (("size", n.size),))
    return Fix(f"Space at {say_inches(n.spacing, units)}", "set_choice", (layout_id, field), (("spacing", n.spacing),))


def short_bearings(c: Model) -> Iterable[Finding]:
    """Joist ends bearing less than 1 1/2 in on wood (IRC R502.6)."""
    for plan in c.floors:
        if plan.floor.is_slab:
            continue
        short = [
            (line, end)
            for line in plan.lines
            for end in (0, 1)
            if line.supports[end] and line.bearings[end] < c.standard.least_bearing - 0.01
        ]
        if short:
            line, end = short[0]
            key = piece_name(plan.floor.id, "joist", line.place)
            s = line.low if end == 0 else line.high
            yield Finding(
                "bearing",
                "floors",
                f"{plan.floor.name}: {len(short)} joist ends bear too short",
                f"The shortest bears {say_inches(min(ln.bearings[e] for ln, e in short), c.units)}; wood needs "
                f"{say_inches(c.standard.least_bearing, c.units)} (IRC R502.6). Use a wider sill plate.",
                (plan.floor.id, key),
                (*plan.frame.back(s, line.t), c.level_height(plan.floor.level)),
                fix=_wider_sill(c, line.supports[end]),
            )


def _wider_sill(c: Model, bearer: str) -> Fix | None:
    foundation = by_id(c.project.foundations).get(owner_of(bearer))
    if foundation is None:
        return None
    wider = {"2x4": "2x6", "2x6": "2x8", "2x8": "2x10"}.get(foundation.sill_size)
    return Fix(f"Use a {wider} sill plate", "change", (foundation.id,), (("sill_size", wider),)) if wider else None


def seats(c: Model) -> Iterable[Finding]:
    """Sill plates that leave a gap under the joists or stand up into them."""
    for plan in c.floors:
        # At the wall of another part of the building they hang on a ledger, whatever that wall's sill.
        ledgers = {w for w, shared in zip(plan.outline.walls, plan.outline.shared, strict=True) if shared}
        tops = [r.bearer.top for r in c.runs if r.id in plan.bears_on and r.bearer.wall not in ledgers]
        tops += [
            line.band.top
            for w, line in c.lines.items()
            if w in plan.bears_on
            and w not in ledgers
            and not line.wall.framing.balloon
            and line.wall.head_under != plan.floor.id
        ]
        if not tops:
            continue
        bearing_top = max(tops)
        depth = section(c.designs[(plan.floor.id, "joists")].size).depth
        under = c.level_height(plan.floor.level) - plan.floor.deck - depth
        gap, slab = under - bearing_top, plan.floor.is_slab
        if abs(gap) <= 1.0:
            continue
        run = next((r for r in c.runs if r.foundation.walls and abs(r.bearer.top - bearing_top) < 0.1), None)
        fix = None
        if run is not None:
            head = run.foundation.head
            level = by_id(c.project.levels)[head.level]
            fix = Fix(
                f"Move '{level.name}' to {say_length(level.height + gap, c.units)}",
                "set_level",
                (level.id, level.height + gap),
            )
        how = f"a gap of {say_inches(gap, c.units)} under" if gap > 0 else f"{say_inches(-gap, c.units)} too high for"
        yield Finding(
            "seat",
            "floors",
            f"{plan.floor.name}: {'it does not lie on its wall' if slab else 'joists do not sit on their sill'}",
            f"The bearing leaves {how} {'it' if slab else 'the joists'} ({c.designs[(plan.floor.id, 'joists')].size}).",
            (plan.floor.id, *((run.foundation.id,) if run else ())),
            (*plan.outline.core[0], under),
            fix=fix,
        )


def heads_through_floors(c: Model) -> Iterable[Finding]:
    """Walls from below whose head passes through a floor above them."""
    for plan in c.floors:
        top = c.level_height(plan.floor.level)
        under = top - plan.floor.deck - section(c.designs[(plan.floor.id, "joists")].size).depth
        region = None
        for wall_id, line in c.lines.items():
            if line.wall.framing.balloon or not (line.band.bottom < under - 50.0 and line.band.top > under + 1.0):
                continue
            if region is None:
                region = shapely.Polygon(plan.outline.core).buffer(50.0)
            if not region.intersects(shapely.LineString([line.band.start, line.band.end])):
                continue
            yield Finding(
                "through floor",
                "walls",
                f"{wall_label(c.project, wall_id)}: its head passes through {plan.floor.name}",
                f"Its head is {say_length(line.band.top - under, c.units)} above the underside of the joists.",
                (wall_id, plan.floor.id),
                (*_middle(line), line.band.top),
                fix=Fix(
                    f"Cut it to the underside of {plan.floor.name}",
                    "set_wall_head",
                    (wall_id, plan.floor.level, under - top),
                ),
            )


def _middle(line: WallLine) -> Point:
    return line.band.at(line.band.length / 2.0, line.thickness / 2.0)


def standing(c: Model) -> Iterable[Finding]:
    """Walls whose load finds nothing to stand on, from the moment they are drawn."""
    under = {run.wall for run in c.runs}
    for wall_id, line in c.lines.items():
        if wall_id in under or line.wall.role == "divides" or c.path.below[wall_id]:
            continue
        yield Finding(
            "nothing below",
            "foundations",
            f"{wall_label(c.project, wall_id)} has no foundation",
            "Its load has nowhere to go: no foundation wall and no wall is under it. Add it to a foundation.",
            (wall_id,),
            (*_middle(line), line.band.bottom),
            grave=bool(c.project.foundations or c.project.floors or c.project.roofs),
        )


def bridged(c: Model) -> Iterable[Finding]:
    """Walls on columns that have nothing under them between what they stand on."""
    places = {name: made.stand.at for name, made in c.path.columns.items()}
    for wall_id, line in c.lines.items():
        under = [other for other in c.path.below[wall_id] if other in c.path.columns]
        if not under:
            continue
        for low, high in gaps_under(line, c.lines, c.path.below[wall_id], places):
            yield Finding(
                "nothing between",
                "walls",
                f"{wall_label(c.project, wall_id)} has nothing under it for {say_length(high - low, c.units)}",
                "It stands on a column there, but what lies between has no beam under it. Put walls or columns closer "
                "together, or a wall under it; its load is taken to go to what is nearest.",
                (wall_id, *under),
                (*line.band.at((low + high) / 2.0, line.thickness / 2.0), line.band.bottom),
            )


def bearing_heights(c: Model) -> Iterable[Finding]:
    """Eave walls whose head is not where the rafters bear, ridges and pitches the IRC does not allow."""
    for plan in c.roofs:
        for wall_id in plan.eave_walls:
            line = c.lines[wall_id]
            if abs(line.band.top - plan.bearing) > 1.0:
                yield Finding(
                    "roof bearing",
                    "roof",
                    f"{wall_label(c.project, wall_id)}: rafters do not sit on its head",
                    f"Its head is at {say_length(line.band.top, c.units)}, the rafters bear at "
                    f"{say_length(plan.bearing, c.units)}.",
                    (wall_id, plan.roof.id),
                    (*_middle(line), line.band.top),
                    fix=Fix(
                        "Bring the head to the bearing",
                        "set_wall_head",
                        (wall_id, plan.roof.bearing.level, plan.roof.bearing.offset),
                    ),
                )
        yield from _ridge_findings(c, plan)


def _ridge_findings(c: Model, plan: RoofPlan) -> Iterable[Finding]:
    peak = (*plan.frame.back((plan.low + plan.high) / 2.0, plan.t_low), plan.bearing + plan.half * plan.roof.pitch)
    depth = section(c.designs[(plan.roof.id, "rafters")].size).depth
    plumb, board = plan.shape(depth).plumb, ridge_section(plan, depth)
    if board.depth < plumb - 0.5:
        fits = next((r for r in RIDGE_SIZES if section(r).depth >= plumb - 0.5), None)
        yield Finding(
            "ridge depth",
            "roof",
            f"{plan.roof.name}: ridge board {board.name} is shallower than the rafters' plumb cut",
            f"The cut is {say_inches(plumb, c.units)} deep, the board {say_inches(board.depth, c.units)} (IRC R802.3).",
            (plan.roof.id,),
            peak,
            fix=Fix(f"Use a {fits} ridge board", "change", (plan.roof.id,), (("ridge_size", fits),)) if fits else None,
        )
    if plan.roof.pitch < FLATTEST_BOARD - 1e-6:
        yield Finding(
            "flat ridge",
            "roof",
            f"{plan.roof.name}: too flat for a ridge board",
            "Below 3:12 the ridge must be a beam that carries load (IRC R802.4.4). Steepen the roof.",
            (plan.roof.id,),
            peak,
            fix=Fix("Steepen to 3:12", "change", (plan.roof.id,), (("pitch", FLATTEST_BOARD),)),
        )
    seat = plan.shape(depth).seat
    if seat < c.standard.least_bearing - 0.01:
        yield Finding(
            "rafter seat",
            "roof",
            f"{plan.roof.name}: bird's mouth seats of {say_inches(seat, c.units)} are too short",
            f"A notch of a quarter of the depth (IRC R802.7.1) leaves less than {say_inches(c.standard.least_bearing, c.units)} "
            "of bearing (IRC R802.6). Use deeper rafters or a flatter pitch.",
            (plan.roof.id,),
            peak,
        )


def stud_walls(c: Model) -> Iterable[Finding]:
    """Stud walls: studs or headers used over 100 % (NDS 3.9.2, 3.3.1), openings that cannot be framed."""
    openings = by_id(c.project.openings)
    for wall_id, framed in c.framed.items():
        label, line = wall_label(c.project, wall_id), c.lines[wall_id]
        design = framed.design
        if design.result.used > 1.0:
            check = design.result.governs
            closer = [n for n in design.neighbours if n.used <= 1.0 and n.size == design.size]
            deeper = [n for n in design.neighbours if n.used <= 1.0 and n.size != design.size]
            fix = Fix(f"Take {deeper[0].size} studs", "take_studs", ((wall_id,), deeper[0].size)) if deeper else None
            if closer:
                spacing = closer[0].spacing
                fix = Fix(
                    f"Space them at {say_inches(spacing, c.units)}",
                    "change",
                    (wall_id,),
                    (("framing__spacing", spacing),),
                )
            yield Finding(
                "studs",
                "walls",
                f"{label}: {design.size} studs used {used_text(design.result.used)}",
                f"{check.name[0].upper()}{check.name[1:]} governs ({check.clause}, {check.combination}); the studs are "
                f"{say_length(design.result.case.clear, c.units)} long at {say_inches(design.spacing, c.units)}."
                f"{'' if fix else ' Take a build-up with deeper studs, or a better grade.'}",
                (wall_id,),
                (*_middle(line), line.band.top),
                fix=fix,
            )
        for opening_id, header in framed.headers.items():
            if header.used > 1.0:
                o = openings[opening_id]
                result = max((header.header, header.jack, header.king), key=lambda r: r.used)
                yield Finding(
                    "header",
                    "walls",
                    f"{label}: framing of the {o.kind} {say_length(o.width, c.units)} wide used {used_text(header.used)}",
                    f"{header.size} header: {result.governs.name} governs ({result.governs.clause}, "
                    f"{result.governs.combination})."
                    f"{' Make the opening narrower, or carry what lies over it beside it by a beam on posts.' if header.auto else ''}",
                    (opening_id, wall_id),
                    (*line.band.at(o.offset + o.width / 2.0, 0.0), line.band.bottom + o.sill + o.height),
                    fix=None
                    if header.auto
                    else Fix("Let Balken choose it", "change", (opening_id,), (("header", None),)),
                )
        seen: set[tuple[str, str]] = set()
        for trouble in framed.wall.troubles:
            if (trouble.kind, trouble.opening) in seen:
                continue
            seen.add((trouble.kind, trouble.opening))
            yield _cannot_frame(c, wall_id, trouble)


def _cannot_frame(c: Model, wall_id: str, trouble: WallTrouble) -> Finding:
    line, o = c.lines[wall_id], by_id(c.project.openings).get(trouble.opening)
    if o is None:
        return Finding(
            "no studs",
            "walls",
            f"{wall_label(c.project, wall_id)}: no room for the post under {label_of(c.project, trouble.opening)}",
            "Studs of an opening stand where it would have to be made. Move the column or the opening.",
            (trouble.opening, wall_id),
            (*line.band.at(trouble.at, 0.0), line.band.top),
        )
    at = (*line.band.at(trouble.at, 0.0), line.band.bottom + o.sill + o.height)
    where = f"{wall_label(c.project, wall_id)}, {o.kind} at {say_length(o.offset, c.units)}"
    if trouble.kind == "no room for header":
        lower = o.height - trouble.short
        return Finding(
            "no header",
            "walls",
            f"{where}: no room for its header",
            f"The {c.framed[wall_id].headers[o.id].size} header reaches {say_inches(trouble.short, c.units)} into "
            "the top plates. Lower the opening's head, or raise the wall.",
            (o.id, wall_id),
            at,
            fix=Fix(f"Make it {say_length(lower, c.units)} high", "change", (o.id,), (("height", lower),))
            if lower > 300.0
            else None,
        )
    return Finding(
        "no studs",
        "walls",
        f"{where}: no room for the studs beside it",
        "King and jack studs would stand in another opening or beyond the wall's end. Move or narrow the opening.",
        (o.id, wall_id),
        at,
    )


def long_pieces(c: Model) -> Iterable[Finding]:
    """Members cut longer than the longest stock."""
    for role, (key, length) in sorted(c.longest.items()):
        if length > c.project.stock_length + 1.0:
            yield Finding(
                "stock",
                "check",
                f"{role.capitalize()}: {say_length(length, c.units)} is longer than the stock",
                f"The longest stock is {say_length(c.project.stock_length, c.units)}. Add a bearing, or order longer stock.",
                (key,),
                c.place(key),
                grave=False,
                fix=_longer_stock(length, c.units),
            )


def _longer_stock(length: float, units: Units) -> Fix | None:
    """Return the fix that takes longer stock: even feet up to the longest that is sawn; None for what is longer."""
    feet = 2.0 * math.ceil(length / FOOT / 2.0 - 1e-9)
    if feet > LONGEST_SAWN:
        return None
    return Fix(f"Take stock of {say_length(feet * FOOT, units)}", "set_project", (), (("stock_length", feet * FOOT),))


LONGEST_SAWN = 24.0
"""Sawn boards are to be had so long, ft (common practice, no source)."""
FRAME_RULES = (
    removed_levels,
    out_of_square,
    open_outlines,
    members_over,
    short_bearings,
    seats,
    heads_through_floors,
    standing,
    bridged,
    bearing_heights,
    stud_walls,
    long_pieces,
)
