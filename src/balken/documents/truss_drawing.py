"""Trusses drawn: for the card and the calculation in paper mm, and as shop drawings with measures, sticks and plates."""

import itertools
from collections.abc import Sequence

from balken.catalog.sections import section
from balken.derived.model import Model
from balken.design.ply_nailing import girder_nailing
from balken.design.roof_trusses import GableStud, TrussMake, TrussRoof
from balken.design.truss_plates import Plate
from balken.design.trusses import TrussDesign
from balken.documents.block_texts import block_texts
from balken.documents.dimensions import dimension_string
from balken.documents.display import Area, Diagram, Drawing, Item, Path, Text
from balken.documents.lettering import text_width
from balken.documents.lowered_frames import lowered_notes
from balken.documents.truss_tables import bearing_table, listed, load_table, plate_table, stick_table
from balken.framing.truss_camber import bends, built_up
from balken.framing.truss_outline import TrussOutline
from balken.framing.truss_points import point_places
from balken.framing.truss_sticks import tail_plumb
from balken.framing.trusses import TrussFrame
from balken.geometry.plane import Point, unit
from balken.model.naming import piece_name, truss_number
from balken.standards.checks import used_text
from balken.units import Units, format_force, format_inches, format_length

SCALES = {Units.IMPERIAL: (24.0, 48.0), Units.METRIC: (25.0, 50.0)}
"""The first, where a truss so drawn is no wider than this:"""
WIDEST = 700.0
TEXT = 2.5
SEAT = 2.5
"""Height of the mark of a bearing, paper mm."""
FILLS = {"top chord": "timber", "bottom chord": "timber", "web": "timber light"}


def truss_items(made: TrussDesign, plates: Sequence[Plate], scale: float) -> list[Item]:
    """Return sticks, plates and bearings of a truss in its own plane, mm, to be read at 1:``scale``."""
    frame, items = made.frame, list[Item]()
    for stick in frame.sticks:
        items.append(Area((made.sawn[stick.name].ring,), FILLS[stick.role], "timber", "roof"))
    items += [Path(plate.ring, "thin", "roof", closed=True) for plate in plates]
    deep = section(frame.sizes.bottom).depth
    for block in (one.place for one in made.blocks):
        ring = ((block.low, 0.0), (block.high, 0.0), (block.high, deep), (block.low, deep))
        items.append(Path(ring, "timber", "roof", closed=True))
    for bearing in frame.outline.bearings:
        x, y, size = bearing.middle, bearing.level, SEAT * scale
        items.append(
            Path(((x, y), (x - size / 2.0, y - size), (x + size / 2.0, y - size)), "thin", "roof", closed=True)
        )
    return items


def names_of(frame: TrussFrame, made: TrussDesign, scale: float, some: bool = True) -> list[Item]:
    """Return the names of sticks beside their middles; of many studs alike none."""
    found: list[Item] = []
    size = TEXT * 0.8 * scale
    for stick in frame.sticks:
        if stick.role == "web" and not some:
            continue
        a, b = frame.joints[stick.joints[0]], frame.joints[stick.joints[-1]]
        at = ((a[0] + b[0]) / 2.0, (a[1] + b[1]) / 2.0)
        if stick.role != "web":
            way = unit(a, b)
            sign = 1.0 if stick.role == "top chord" else -1.0
            at = (at[0] - way[1] * sign * 3.4 * scale, at[1] + way[0] * sign * 3.4 * scale)
        wide, high = text_width(stick.name, size) / 2.0 + 0.3 * size, 0.75 * size
        ring = (
            (at[0] - wide, at[1] - high),
            (at[0] + wide, at[1] - high),
            (at[0] + wide, at[1] + high),
            (at[0] - wide, at[1] + high),
        )
        found += [Area((ring,), "sheet", "", "roof"), Text(at, stick.name, size, pen="note", layer="roof")]
    return found


def points_of(made: TrussDesign, scale: float) -> list[Item]:
    """Return the numbers of the panel points that can be moved, beside their chords, counted from the left."""
    found, (start, joints) = list[Item](), (made.frame.outline.start, made.frame.joints)
    for chord, number, x in point_places(made.pattern, made.frame.outline):
        at = joints.get(f"{chord[0].upper()}{number}")
        if at is not None:
            up = 2.6 if chord == "top" else -2.6
            found.append(
                Text((start + x, at[1] + up * scale), str(number), TEXT * 0.8 * scale, pen="note", layer="roof")
            )
    return found


def truss_diagram(made: TrussDesign, plates: Sequence[Plate], width: float, points: bool = False) -> Diagram:
    """Draw a truss with its plates and the names of its sticks, or with the numbers of its panel ``points``, ``width`` mm wide, its top left
    corner at (0, 0).
    """
    xs, ys = zip(*(p for one in made.sawn.values() for p in one.ring), strict=True)
    scale = (max(xs) - min(xs)) / width
    names = points_of(made, scale) if points else names_of(made.frame, made, scale, made.shape != "gable-end")
    items = [*truss_items(made, plates, scale), *names]
    low = min(*ys, min(b.level for b in made.frame.outline.bearings) - SEAT * scale)
    x0, y1 = min(xs), max(ys)
    rows = tuple(_moved(item, (x0, y1), scale) for item in items)
    return Diagram(rows, width, (y1 - low) / scale + 9.0, f"{made.shape} truss, used {used_text(made.used)}")


def _moved(item: Item, corner: Point, scale: float) -> Item:
    def at(p: Point) -> Point:
        return (p[0] - corner[0]) / scale, (p[1] - corner[1]) / scale - 4.0

    if isinstance(item, Area):
        return Area(tuple(tuple(at(p) for p in ring) for ring in item.rings), item.fill, item.pen, item.layer, item.ref)
    if isinstance(item, Path):
        return Path(tuple(at(p) for p in item.points), item.pen, item.layer, item.ref, item.closed)
    assert isinstance(item, Text)
    return Text(
        at(item.at), item.text, item.size / scale, item.anchor, item.angle, item.pen, item.layer, item.ref, item.bold
    )


def shop_drawing(
    model: Model,
    roof: str,
    name: str,
    made: TrussDesign,
    plates: Sequence[Plate],
    count: int,
    studs: Sequence[GableStud] = (),
    hangs: Sequence[str] = (),
    lone: bool = False,
) -> Drawing:
    """Draw a make of trusses to be built from: measures of span, overhangs, heel, height and panels; sticks with lengths and saw angles;
    plates; bearings with what comes to them; how it is held aside.
    """
    units, frame = model.units, made.frame
    outline = frame.outline
    wide = outline.top[-1][0] - outline.top[0][0]
    scale = next((s for s in SCALES[units] if wide / s <= WIDEST), SCALES[units][-1])
    items = [*truss_items(made, plates, scale), *names_of(frame, made, scale, made.shape != "gable-end")]
    low = min(0.0, outline.top[0][1], outline.top[-1][1]) - SEAT * scale
    left, right = outline.top[0][0], outline.top[-1][0]
    inner = sorted({outline.start, outline.end, *(x for name_, (x, _) in frame.joints.items() if name_[0] == "B")})
    spans = sorted({left, outline.start, outline.end, right})
    down = (1.0, 0.0)
    at = low - 6.0 * scale
    if made.shape != "gable-end":
        items += dimension_string(inner, (0.0, at), down, 0.0, units, scale, "notes", 0.0)
        at -= 7.0 * scale
    items += dimension_string(spans, (0.0, at), down, 0.0, units, scale, "notes", 0.0)
    peak = max(y for _, y in outline.top)
    up = [outline.bearings[0].level, outline.bearings[0].level + made.heel, peak]
    items += dimension_string(up, (left, 0.0), (0.0, 1.0), 6.0 * scale, units, scale, "notes", 0.0)
    x, y = left, at - 8.0 * scale
    line = 4.0 * scale
    for text in shop_notes(made, units, studs, hangs, lone):
        items.append(Text((x, y), text, TEXT * 0.9 * scale, "left", pen="note"))
        y -= line
    for headings, rows in (
        load_table(made, units),
        stick_table(made, units),
        bearing_table(made, units),
        plate_table(made, plates, units),
    ):
        y -= line
        y = _table(items, headings, rows, (x, y), scale)
    items.append(Path(((x, y), (right, y)), "thin", "notes"))  # closes the tables above the title
    title = f"{roof}: {name.lower()}, {count} of them, {made.shape}"
    return Drawing(title, scale, tuple(items))


JOINTS_REST_ON = {
    "plates": "Prices and strengths of plates rest on a made-up list; joints after ANSI/TPI 1 chapter 8, written from memory",
    "gussets": "Prices and strengths of plywood rest on a made-up list; nails by NDS 12.3, written from memory; no glue is counted on",
}


def joints_text(made: TrussDesign) -> str:
    """Return what holds sticks together, in words."""
    if made.job.joined == "gussets":
        return (
            'plywood gussets 15/32" on both faces, face grain along their length, 6d common nails (0.113" x 2") as the table has them through each, '
            'in rows 5/8" apart and 1 3/4" apart in a row, 1 3/4" from ends, those of both faces staggered'
        )
    return "plates on both faces, 20 gauge"


def shop_notes(
    made: TrussDesign, units: Units, studs: Sequence[GableStud] = (), hangs: Sequence[str] = (), lone: bool = False
) -> list[str]:
    """Return what is to be known beside the tables; ``hangs``: how it hangs on others and what hangs on it; ``lone``: no others alike stand
    in a row with it.
    """
    sizes, wood = made.frame.sizes, made.job.wood
    said = [
        f"{wood.species if all(sizes.grades) else f'{wood.species} {wood.grade}'}, {sizes.plies} {'ply' if sizes.plies == 1 else 'plies'}; {joints_text(made)}; bearings "
        f"{format_inches(made.frame.outline.bearings[0].high - made.frame.outline.bearings[0].low, units)} long",
        f"Bottom chord held aside every {format_length(made.braced, units)} at most; top chord by the deck",
    ]
    if made.frame.outline.on_top:
        said.append(
            "Bears on its top chord: under each end a wedge as thick as the truss, cut to the slope, over the whole plate"
        )
    said += [f"Blocks so that it is not crushed: {text} (over the plates there)" for text in block_texts(made, units)]
    tails = sorted({tail_text(made.frame.outline, end, units) for end in (0, -1)} - {""})
    said += [f"Tails: {listed(tails)}"] if tails else []
    said += hangs
    if made.braces:
        rows = ", ".join(f"{web} {'in its middle' if n == 1 else 'at its thirds'}" for web, n in made.braces.items())
        alone = " (by a board nailed all along, square to its edge: no others alike stand beside it)" if lone else ""
        said.append(f"Webs held aside: {rows}{alone}")
    if made.shape == "valley":
        most = max(v for row in made.reactions().values() for v in row.values())
        said.append(f"On one of its seats {format_force(most, units)} at most")
    elif made.shape != "gable-end":
        most, least = made.on_bearings
        lift = f", lifted with {format_force(-least, units)}" if least < 0.0 else ""
        said.append(f"On each bearing {format_force(most, units)} at most{lift}")
    else:
        said.append("It stands on its wall all along: every stud bears there")
    if studs:
        stiff = [stud.name for stud in studs if stud.braced]
        worst = max(stud.check.used for stud in studs)
        how = (
            f"{listed(stiff)} stiffened by a board nailed square to their edge"
            if stiff
            else "none needs to be stiffened"
        )
        said.append(f"Studs under wind: {how}, used {used_text(worst)}")
    if made.camber > 0.0:
        outline = made.frame.outline
        rows = ", ".join(
            f"{format_inches(built_up(outline, made.camber, x), units)} at {format_length(x - outline.start, units)}"
            for x in bends(made.frame)
        )
        said.append(
            f"Built up by {format_inches(made.camber, units)} in its middle: its bottom chord is set up {rows} (it sags "
            f"{format_inches(made.dead_sag, units)} under what always lies on it); lengths and cuts are those of the truss so built"
        )
    if made.spread > 1.0:
        said.append(f"Its free bearing moves out by {format_inches(made.spread, units)}: let it slide")
    said.append(f"Used {used_text(made.used)}; sag {format_inches(made.sag.demand, units)} under what comes and goes")
    said.append(JOINTS_REST_ON[made.job.joined])
    return said


def tail_text(outline: TrussOutline, end: int, units: Units) -> str:
    """Return how a top chord's overhang is cut at an end (0 the first, -1 the last); nothing where it is plumb."""
    tail = outline.tails[end]
    if tail is None:
        return ""
    if tail.level is None:
        return "square to the chord"
    return f"plumb {format_inches(tail_plumb(outline, end), units)}, level below"


def _table(items: list[Item], headings: tuple[str, ...], rows: list[tuple[str, ...]], at: Point, scale: float) -> float:
    """Draw a table downward from a place; returns the height under it."""
    size, gap = TEXT * 0.85 * scale, 3.0 * scale
    if not rows:
        return at[1]
    columns = [at[0]]
    for k in range(len(headings)):
        columns.append(columns[-1] + gap + max(text_width(row[k], size) for row in (headings, *rows)))
    y = at[1]
    for i, row in enumerate((headings, *rows)):
        items += [
            Text((x, y), text, size, "left", pen="text" if i == 0 else "note", bold=i == 0)
            for x, text in zip(columns, row, strict=False)
            if text
        ]
        y -= 4.0 * scale
    return y


def truss_drawings(model: Model) -> list[tuple[str, Drawing]]:
    """Return a shop drawing of each different truss."""
    found = []
    names = {roof.id: roof.name for roof in model.project.roofs}
    for mark, roof, made, plates in marked(model):
        trusses = model.trusses[roof]
        make = next(one for one in trusses.makes if one.design is made)
        notes = [*hanging_notes(model, roof, make), *lowered_notes(model, roof, make)]
        lone, studs = not trusses.lone.isdisjoint(make.numbers), make.studs
        drawing = shop_drawing(model, names[roof], make.name, made, plates, len(make.numbers), studs, notes, lone)
        found.append((mark, drawing))
    return found


def hanging_notes(model: Model, roof: str, make: TrussMake) -> list[str]:
    """Return how trusses of a make hang on others, and what hangs on them, in words."""
    names = {piece_name(roof, "truss", number) for number in make.numbers}
    marks = {
        number: mark for mark, of, made, _ in marked(model) if of == roof for number in _numbers(model, roof, made)
    }
    said = []
    if make.key == "valley":
        on = (
            "of the roof below, studs 24 in apart (what its bottom chord bends between rafters or trusses there is not checked)"
            if model.trusses[roof].onto
            else "a stud over each truss below that it crosses"
        )
        said += [
            f"It stands on the deck, {on}: pack its level underside to the slope, or bevel it",
            "Beyond the smallest of its row the deck is packed up from that below",
        ]
    up = [one for one in model.hangers if one.member in names]
    if up:
        worst = max(up, key=lambda one: one.used)
        carriers = sorted({marks.get(truss_number(one.on), "") for one in up})
        ends = "at both ends" if len(up) > len(names & {one.member for one in up}) else "at its higher end"
        ends = ends if make.key in ("jack", "corner") else "at one end"
        said.append(
            f"Hangs {ends} on {listed(carriers)} by {worst.called if worst.hanger else 'no hanger of the list'}, used {used_text(worst.used)}"
        )
    down = [one for one in model.hangers if one.on in names]
    if down:
        mine = ([truss_number(one.member) >= 0 for one in down if one.on == name] for name in names)
        trussed, joists = max(((sum(row), len(row) - sum(row)) for row in mine), key=sum)
        what = " and ".join(
            text for n, text in ((trussed, f"{trussed} trusses"), (joists, f"{joists} ceiling joists")) if n
        )
        kinds = ", ".join(sorted({one.called if one.hanger else "none fits" for one in down}))
        said.append(f"{what} hang on its bottom chord ({kinds}); these hold it aside")
    nails = girder_nailing(roof, make, model.hangers, model.standard)
    if nails is not None:
        said.append(f"Plies of its bottom chord: {nails.text} ({nails.clause}); of other sticks 2 rows, 12 in apart")
    return said


def _numbers(model: Model, roof: str, made: TrussDesign) -> tuple[int, ...]:
    return next((make.numbers for make in model.trusses[roof].makes if make.design is made), ())


def marked(model: Model) -> list[tuple[str, str, TrussDesign, tuple[Plate, ...]]]:
    """Return all makes of trusses with their marks: mark, roof, as designed, plates."""
    number = itertools.count(1)
    return [
        (f"T{next(number)}", roof, made, plates)
        for roof, trusses in model.trusses.items()
        for _, made, plates in trusses.designs
    ]


def count_of(trusses: TrussRoof, made: TrussDesign) -> int:
    """Return how many trusses of a make there are in a roof."""
    return next((len(make.numbers) for make in trusses.makes if make.design is made), 0)
