"""Roofs of planes on the plan: eaves, rakes, ridges, hips and valleys, the way down each plane, what each edge is."""

from collections.abc import Sequence

from balken.catalog.sections import section
from balken.derived.model import Model
from balken.design.roof_uplift import HEADERS, HEAVIER, LOOKOUT, TRUSS
from balken.documents.deck_marks import weight_items
from balken.documents.dimensions import TEXT, reading
from balken.documents.display import Area, Item, Path, Text, meets
from balken.documents.lettering import text_width
from balken.documents.truss_drawing import marked
from balken.documents.truss_marks import truss_marks
from balken.framing.eave_breaks import flat_at
from balken.framing.purlins import purlin_line
from balken.framing.roof_drains import drains
from balken.framing.roof_openings import RoofHole, in_plane
from balken.framing.surface_roofs import SurfacePlan, eave
from balken.geometry.plane import Point, Ring, add, area, bounds, chords, distance, left, turn, unit
from balken.geometry.roof_surface import RoofFace, RoofLine
from balken.loads.roof_snow import Band
from balken.units import Units, format_area, format_area_load, format_inches, format_length, format_pitch

PENS = {
    "eave": "outline",
    "rake": "outline",
    "wall": "outline",
    "ridge": "cut",
    "hip": "outline",
    "valley": "hidden",
    "laid": "hidden",
}
"""Ridges are drawn heavy, valleys dashed."""
LEAST_DRAINED = 0.5e6
"""What drains less is not worth a word, mm2."""
LEAST = 14.0
"""A plane whose arrow would be shorter than this has none, paper mm."""


def surface_items(model: Model, plan: SurfacePlan, scale: float, notes: bool) -> list[Item]:
    """Return a roof of planes as it is seen from above."""
    ref = plan.roof.id
    items: list[Item] = [
        Path((line.start[:2], line.end[:2]), PENS[line.kind], "roof", ref) for line in plan.whole.lines
    ]
    items += [item for hole in plan.holes for item in _hole(plan, hole, scale, notes)]
    items += [Path(line, "hidden", "roof", ref) for line in _breaks(plan)]
    dormer = ref in model.dormers
    for face in plan.whole.faces:
        items += _arrow(model, plan, face, scale, notes)
    if notes and dormer:
        items += _named(plan, scale)
    elif notes:
        runs_off = drains(plan)
        for i in range(len(plan.edges)):
            tie, runs = _tie(model, plan, i), _drained(runs_off.eaves.get(i, 0.0), model.units)
            more = [_lookouts(model, plan, i), f"ties {tie}" if tie else "", runs]
            items += _edge(plan, i, scale, model.units, more)
        taken = [bounds(item.rings[0]) for item in items if isinstance(item, Area)]
        for number, size in runs_off.valleys.items():
            label = _below_valley(plan, plan.whole.lines[number], scale, _drained(size, model.units))
            items += label if not meets(label, taken) else []
    if notes:
        items += _boards(model, plan, scale)
        items += [*truss_marks(model, plan, scale), *weight_items(model, ref, scale)]
        items += [item for band in snow_bands(model, ref) for item in _snow(band, scale, ref, model.units)]
    return items


def _breaks(plan: SurfacePlan) -> list[Ring]:
    """Return the lines along which the deck becomes flatter toward eaves with sprockets."""
    found = list[Ring]()
    for face in plan.whole.faces:
        if flat_at(plan, face.edge) is not None:
            corner, way, inward = eave(plan, face.edge)
            foot = add(corner, inward, plan.roof.sprocket_in)
            rows = chords((tuple(p[:2] for p in face.ring),), foot, way)
            found += [(add(foot, way, low), add(foot, way, high)) for low, high in rows]
    return found


def _hole(plan: SurfacePlan, hole: RoofHole, scale: float, notes: bool) -> list[Item]:
    """Return an opening: its outline, crossed out."""
    core = plan.outline.core
    a, way = core[hole.edge], unit(core[hole.edge], core[(hole.edge + 1) % len(core)])
    inward, (s0, s1), (t0, t1) = left(way), hole.along, hole.inward
    ring = [add(add(a, way, s), inward, t) for s, t in ((s0, t0), (s1, t0), (s1, t1), (s0, t1))]
    if hole.kind == "dormer":  # it lies below one
        return [Path((*ring, ring[0]), "hidden", "roof", hole.opening)]
    items: list[Item] = [Area((tuple(ring),), "sheet", "outline", "roof", hole.opening)]
    items += [Path((ring[k], ring[k + 2]), "thin", "roof", hole.opening) for k in (0, 1)]
    if notes and hole.kind != "window":
        below = add(add(a, way, (s0 + s1) / 2.0), inward, t0 - 1.2 * TEXT * scale)
        items += _label(below, way, hole.kind, scale, hole.opening)
    return items


def _named(plan: SurfacePlan, scale: float) -> list[Item]:
    """Return a dormer's name before its face."""
    a, b = plan.outline.core[:2]
    middle, out = ((a[0] + b[0]) / 2.0, (a[1] + b[1]) / 2.0), left(unit(b, a))
    at = add(middle, out, plan.overhangs[0] + 1.2 * TEXT * scale)
    return _label(at, unit(a, b), plan.roof.name, scale, plan.roof.id)


def snow_bands(model: Model, roof: str) -> tuple[Band, ...]:
    """Return the drifts and slides on a roof."""
    return model.snow[roof].bands if roof in model.snow else ()


def _snow(band: Band, scale: float, ref: str, units: Units) -> list[Item]:
    """Return how far a drift reaches, dashed, and what it weighs."""
    ends = tuple(add(p, band.inward, band.wide) for p in (band.start, band.end))
    way = unit(band.start, band.end)
    at = add(add(band.start, way, distance(band.start, band.end) / 4.0), band.inward, band.wide + 1.2 * TEXT * scale)
    load, reach = format_area_load(band.peak, units), format_length(band.wide, units)
    text = f"snow {band.told} {load}, to nothing at {reach}" if band.tapers else f"snow {band.told} {load} to {reach}"
    return [Path(ends, "hidden", "roof", ref), *_label(at, way, text, scale, ref)]


def _boards(model: Model, plan: SurfacePlan, scale: float) -> list[Item]:
    """Return marks and sections of hips, valleys, ridges and purlins along them, where they are long enough."""
    framing, found = model.planes.get(plan.roof.id), list[Item]()
    if framing is None:
        return found
    lines = [(one.key, one.member.ends, one.member.role) for one in framing.members if not one.wall]
    for one in framing.purlins:
        line = purlin_line(plan, one)
        lines.append((one.key, (line.start[:2], line.end[:2]), "purlin"))
    for key, (a, b), role in lines:
        piece = model.piece(key)
        if piece is None:
            continue
        text, size = f"{model.marks.get(key, '')} {piece.section}".strip(), TEXT * scale * 0.9
        if distance(a, b) < 1.6 * text_width(text, size):
            continue
        way = unit(a, b)
        # Beside the middle, where posts and other notes stand.
        part = {"ridge": 0.44, "purlin": 0.2}.get(role, 0.5)
        off = 1.1 * TEXT * scale + (section(piece.section).depth / 2.0 if role == "purlin" else 0.0)
        at = add(add(a, way, part * distance(a, b)), left(way), off)
        found += _label(at, way, text, scale, key)
    return found


def _rafters(model: Model, roof: str, edge: int) -> str:
    """Return the section and spacing of the rafters of a plane, or which trusses carry it."""
    design, trusses = model.designs.get((roof, "rafters")), model.trusses.get(roof)
    by_hand = {at.edge for plan in model.surfaces if plan.roof.id == roof for at in plan.ends_at}
    if trusses is not None and trusses.row is not None and edge not in by_hand:
        over = trusses.common_over(edge)
        mark = next((m for m, of, made, _ in marked(model) if of == roof and made is over), "")
        if edge in trusses.hips:
            return ""  # jacks of many lengths, each with its mark
        return f"{mark} trusses @ {format_inches(trusses.row.spacing, model.units)}".strip()
    return f"{design.size} @ {format_inches(design.spacing, model.units)}" if design is not None else ""


def _arrow(model: Model, plan: SurfacePlan, face: RoofFace, scale: float, notes: bool) -> list[Item]:
    """Return an arrow down a plane, with its pitch; and its rafters, with ``notes``."""
    ring = plan.outline.core
    a, b = ring[face.edge], ring[(face.edge + 1) % len(ring)]
    down = left(unit(b, a))
    points = [(x, y) for x, y, _ in face.ring]
    middle = _beside_holes(plan, face, _middle(points), unit(a, b))
    tall = max((p[0] - a[0]) * -down[0] + (p[1] - a[1]) * -down[1] for p in points)
    long = min(0.3 * tall, 12.0 * scale)
    if long < LEAST * scale / 4.0:
        return []
    tail, tip = add(middle, down, -long / 2.0), add(middle, down, long / 2.0)
    barb, side = 1.5 * scale, left(down)
    items: list[Item] = [Path((tail, tip), "thin", "roof", plan.roof.id)]
    items += [
        Path((tip, add(add(tip, down, -barb * 1.6), side, s * barb * 0.6)), "thin", "roof", plan.roof.id)
        for s in (1.0, -1.0)
    ]
    beside = 1.8 * TEXT * scale
    if not any(low < 0.0 and high > 1.6 * beside for low, high in chords((tuple(points),), middle, side)):
        return items  # its figure would lie over its neighbour
    pitch = format_pitch(face.pitch, model.units)
    items += _label(add(middle, side, beside), down, pitch, scale, plan.roof.id)
    text = _rafters(model, plan.roof.id, face.edge) if notes else ""
    wide = text_width(text, TEXT * scale * 0.9)
    if text and tall > 1.5 * wide and any(low < -1.6 * beside for low, _ in chords((tuple(points),), middle, side)):
        items += _label(add(middle, side, -beside), down, text, scale, plan.roof.id)
    return items


def _beside_holes(plan: SurfacePlan, face: RoofFace, middle: Point, way: Point) -> Point:
    """Return a place in a plane, near its middle, that no opening covers."""
    holes = [hole for hole in plan.holes if hole.edge == face.edge]
    for aside in (0.0, 1500.0, -1500.0, 3000.0, -3000.0):
        place = add(middle, way, aside)
        ((s, t),) = in_plane(plan.outline.core, face.edge, [place])
        if not any(
            h.along[0] - 500.0 < s < h.along[1] + 500.0 and h.inward[0] - 900.0 < t < h.inward[1] + 900.0 for h in holes
        ):
            return place
    return middle


def _middle(points: list[Point]) -> Point:
    """Return the centroid of a plane."""
    whole = area(points)
    x = y = 0.0
    for (ax, ay), (bx, by) in zip(points, [*points[1:], *points[:1]], strict=True):
        turn = ax * by - bx * ay
        x += (ax + bx) * turn
        y += (ay + by) * turn
    return x / (6.0 * whole), y / (6.0 * whole)


def _tie(model: Model, plan: SurfacePlan, i: int) -> str:
    """Return the strongest tie that rafters over an edge need against wind, those of ones with wider strips and of headers; "" where none."""
    wall = plan.outline.walls[i]
    rows = [r for r in model.uplift.lifted if r.roof == plan.roof.id and r.bearer == wall and r.tie]
    usual, wider, headers = (
        max(((r.net, r.tie) for r in rows if r.what in what), default=(0.0, ""))[1]
        for what in (("rafter", TRUSS, LOOKOUT), (HEAVIER,), (HEADERS,))
    )
    more = [
        f"at {where} {tie}" for where, tie in (("wider strips", wider), ("headers", headers)) if tie and tie != usual
    ]
    return ", ".join(filter(None, (usual, *more)))


def _lookouts(model: Model, plan: SurfacePlan, i: int) -> str:
    """Return the lookouts over a gable, "" where none are."""
    rows = [x for x in model.lookouts(plan.roof.id).rows if x.row.gable == i]
    names = dict.fromkeys(f"lookouts {x.row.size} @ {format_inches(x.apart, model.units)}" for x in rows)
    return ", ".join(names)


def _drained(size: float, units: Units) -> str:
    """Return what of a roof in plan, mm2, runs off at an eave or a valley's end."""
    return f"drains {format_area(size, units, digits=0)}" if size >= LEAST_DRAINED else ""


def _below_valley(plan: SurfacePlan, line: RoofLine, scale: float, said: str) -> list[Item]:
    """Return what runs off at the low end of a valley, beyond that; nothing where that lies over the roof."""
    low, high = sorted((line.start, line.end), key=lambda p: p[2])
    at = add(low[:2], unit(high[:2], low[:2]), 2.2 * TEXT * scale)
    inside = _in_any(at, (plan.ring,)) or _in_any(at, plan.covered)
    return _label(at, (1.0, 0.0), said, scale, plan.roof.id) if said and not inside else []


def _edge(plan: SurfacePlan, i: int, scale: float, units: Units, more: Sequence[str]) -> list[Item]:
    """Return what an edge is, beside its middle, outside; with ``more`` of it as far as there is room."""
    core = plan.outline.core
    a, b = core[i], core[(i + 1) % len(core)]
    if distance(a, b) < 6.0 * TEXT * scale:
        return []
    out = left(unit(b, a))
    middle = ((a[0] + b[0]) / 2.0, (a[1] + b[1]) / 2.0)
    said = {"eave": "eave", "gable": "gable", "wall": "against a wall", "roof": ""}[plan.edges[i].kind]
    if not said:
        return []  # its planes run on there
    way, long = unit(a, b), distance(a, b)
    # Beside a roof that runs onto this one, not under it.
    places = (add(middle, way, part * long) for part in (0.0, 0.3, -0.3, 0.42, -0.42))
    free = [p for p in places if not _in_any(add(p, out, plan.overhangs[i] / 2.0), plan.gone)]
    if not free:
        return []
    at = add(free[0], out, plan.overhangs[i] + 1.6 * TEXT * scale)
    if (
        said == "eave"
        and not plan.problem
        and any(low < 0.0 < high for low, high in chords((plan.ring,), at, unit(a, b)))
    ):
        return []  # in a bay it would lie over another plane
    if plan.edges[i].start > 0.0 and said == "eave":
        said = f"eave raised {format_length(plan.edges[i].start, units)}"
    for one in filter(None, more):  # lists and tables have what finds no room
        whole = f"{said}, {one}"
        said = whole if text_width(whole, TEXT * scale * 0.9) < long else said
    return _label(at, unit(a, b), said, scale, plan.roof.id)


def _in_any(p: Point, rings: tuple[Ring, ...]) -> bool:
    return any(low < 0.0 < high for ring in rings for low, high in chords((ring,), p, (1.0, 0.0)))


def _label(at: Point, way: Point, text: str, scale: float, ref: str) -> list[Item]:
    angle, size = reading(way)[0], TEXT * scale * 0.9
    along, aside = text_width(text, size) / 2.0 + 0.3 * size, 0.7 * size
    corners = ((-along, -aside), (along, -aside), (along, aside), (-along, aside))
    ring = tuple(add(at, turn(corner, angle)) for corner in corners)
    return [Area((ring,), "sheet", "", "roof"), Text(at, text, size, angle=angle, pen="text", layer="roof", ref=ref)]
