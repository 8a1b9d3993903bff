"""The fields of each kind of record."""

from typing import Any, get_args

from balken.catalog import own_beams
from balken.catalog.beams import TRIED
from balken.catalog.blocks import BLOCKS, BONDS, block_of
from balken.catalog.joists import TRIED as TRIED_JOISTS
from balken.catalog.joists import JoistWord
from balken.catalog.own_joists import in_order
from balken.catalog.post_shapes import SIZES_OF
from balken.catalog.sections import HEADER_SIZES
from balken.design.stairs import TRIED as STRINGERS
from balken.model.buildups import as_thick, display_name
from balken.model.foundation_edits import edge_width
from balken.model.kinds.beam_row import By
from balken.model.kinds.choice import Start
from balken.model.kinds.floor import Blocked, Ceiling, Ways
from balken.model.kinds.floor_opening import Lands
from balken.model.kinds.foundation import NO_SILL
from balken.model.records import (
    BaseDrawing,
    Beam,
    BeamRow,
    BuildUp,
    Column,
    Dormer,
    Floor,
    FloorLoad,
    FloorOpening,
    Foundation,
    Level,
    Opening,
    Pad,
    Project,
    Recess,
    Record,
    Roof,
    RoofOpening,
    Slab,
    SpotHeight,
    TrussLoad,
    Wall,
)
from balken.model.slab_edits import recast
from balken.panel.field_kinds import (
    Choices,
    FieldDef,
    choice_fields,
    direction,
    force,
    length,
    level_pick,
    line_load,
    load,
    number,
    outdoors,
    pick,
    plain,
    reach,
    size_pick,
    species_fields,
    text,
    turned_by,
)
from balken.panel.roof_fields import DORMER_FIELDS, ROOF_FIELDS, ROOF_OPENING_FIELDS
from balken.units import (
    format_angle,
    format_inches,
    parse_angle,
    parse_length,
)


def _put_wall_of(p: Project, r: Foundation, value: str) -> dict[str, Any]:
    """Change what a foundation's walls are made of; their thickness goes over to the nearest block, or its module."""
    was, block = r.made_of != "concrete", value != "concrete"
    changes: dict[str, Any] = {"made_of": value}
    for path in ("thickness", "upper_thickness"):
        thick = getattr(r, path)
        if block and not was:
            changes[path] = min(BLOCKS[p.steps], key=lambda b: abs(b.thickness - thick)).thickness
        elif was and not block and block_of(thick) is not None:
            changes[path] = thick + BONDS[p.steps].joint
    if not r.upper_height:
        changes.pop("upper_thickness", None)
    return changes


WALL_OF = FieldDef(
    "Wall of",
    lambda p, r: r.made_of,
    _put_wall_of,
    lambda p, r: plain("concrete", "hollow block", "grouted block"),
    key="made_of",
)


def wall_thickness(label: str, path: str) -> FieldDef:
    """The thickness of a foundation wall: typed for concrete, one of the blocks for block."""
    of_concrete = length(label, path, short=True)

    def name(thick: float, p: Project) -> str:
        block = block_of(thick)
        return block.name if block else format_inches(thick, p.units)

    def get(p: Project, r: Any) -> str:
        return of_concrete.get(p, r) if r.made_of == "concrete" else name(reach(r, path), p)

    def put(p: Project, r: Any, typed: str) -> dict[str, Any]:
        if r.made_of == "concrete":
            return of_concrete.put(p, r, typed)
        typed_length = parse_length(typed, p.units, "in")
        # Blocks are called by their module: 8 in is 7 5/8 in thick.
        joint = BONDS[p.steps].joint
        found = next((b.thickness for b in BLOCKS[p.steps] if abs(b.thickness + joint - typed_length) < 1.0), None)
        return {path: typed_length if found is None else found}

    def choices(p: Project, r: Any) -> Choices | None:
        if r.made_of == "concrete":
            return None
        return [(b.name, f"{b.name} block, {format_inches(b.thickness, p.units)}") for b in BLOCKS[p.steps]]

    return FieldDef(label, get, put, choices, key=path)


def layer_field(buildup: BuildUp, index: int) -> FieldDef:
    """The thickness of one layer of a build-up."""
    layer = buildup.layers[index]

    def put(p: Project, r: Any, typed: str) -> dict[str, Any]:
        layers = list(r.layers)
        layers[index] = as_thick(layers[index], parse_length(typed, p.units, "in"))
        return {"layers": tuple(layers)}

    return FieldDef(
        f"{layer.material} ({layer.function})",
        lambda p, r: format_inches(r.layers[index].thickness, p.units),
        put,
        key=f"layers {index}",
    )


def _fit_choices(p: Project, r: Any) -> Choices:
    above: tuple[Floor | Roof, ...] = (*p.floors, *p.roofs)
    return [("", "its level"), *((x.id, f"underside of {x.name}") for x in above)]


FRAMING_FIELDS: list[FieldDef] = [
    length("Stud spacing", "framing__spacing", short=True, auto=True, hint='16", 24", 400, or auto'),
    pick("Counted from", "framing__count_from", [("start", "the start corner"), ("end", "the end corner")]),
    FieldDef(
        "Kind",
        lambda p, r: "balloon" if r.framing.balloon else "platform",
        lambda p, r, value: {"framing__balloon": value == "balloon"},
        lambda p, r: [("platform", "platform: floors sit on walls"), ("balloon", "balloon: studs run past floors")],
        key="framing__balloon",
    ),
    *species_fields("framing__"),
]

LEVEL_ROLES = plain("floor", "plate", "top of foundation", "top of footing", "ground", "slab", "ridge", "other")


def _of_kind(p: Project, r: Foundation, value: str) -> dict[str, Any]:
    """A thickened edge is its own footing, so that it is at least as wide as one."""
    if value == "thickened edge":
        return {"kind": value, "thickness": max(r.thickness, edge_width(p))}
    return {"kind": value}


FOUNDATION_KIND = FieldDef(
    "Kind",
    lambda p, r: r.kind,
    _of_kind,
    lambda p, r: plain("wall on footing", "basement", "slab on ground", "thickened edge"),
    key="kind",
)


def _of_material(p: Project, r: Column, value: str) -> dict[str, Any]:
    """Another material has other sections."""
    return (
        {"material": value} if value == r.material else {"material": value, "size": "" if value == "concrete" else None}
    )


def _side(label: str, path: str) -> FieldDef:
    """A side of a column; one that is typed takes the place of a section of the list."""
    field = length(label, path, short=True)
    return FieldDef(
        label,
        field.get,
        lambda p, r, typed: field.put(p, r, typed) | {"size": ""},
        hint="instead of a section",
        key=path,
    )


def _of_size(p: Project, r: Column | Beam | BeamRow, value: str) -> dict[str, Any]:
    return {"size": None if value == "auto" else value}


def _post_sizes(p: Project, r: Column) -> Choices:
    sizes = [(size, size) for size in SIZES_OF[r.material]]
    return [*([("auto", "auto")] if sizes else []), ("", "width and depth, as typed"), *sizes]


BEAM_KINDS: tuple[tuple[str, str], ...] = (
    ("sawn", "sawn boards side by side"),
    ("LVL", "laminated veneer lumber"),
    ("GLB", "glued laminated timber"),
    ("W", "steel W shape"),
)


def _row_angle(p: Project, r: BeamRow) -> str:
    return "auto" if r.angle is None else format_angle(r.angle)


def _put_row_angle(p: Project, r: BeamRow, typed: str) -> dict[str, Any]:
    return {"angle": None if typed.strip().lower() in ("", "auto") else parse_angle(typed)}


def _of_beam_kind(p: Project, r: Beam | BeamRow, value: str) -> dict[str, Any]:
    """Another kind has other sections."""
    return {"made_of": value} if value == r.made_of else {"made_of": value, "size": None}


def _over_choices(p: Project, r: Floor) -> Choices:
    rows = [("butted", "butted"), ("lapped", "lapped side by side"), ("continuous", "run on, as long as they come")]
    return [row for row in rows if row[0] != "lapped" or r.joists.made_of != "I-joist"]


JOIST_KINDS: tuple[tuple[JoistWord, str], ...] = (
    ("sawn", "sawn lumber"),
    ("I-joist", "I-joists"),
    ("LVL", "laminated veneer lumber"),
    ("slab", "none: a concrete slab"),
)


def _joist_sizes(p: Project, r: Floor) -> tuple[str, ...]:
    """The sections offered for joists: of I-joists those of the project's list, where it has one."""
    own = in_order(joist.row for joist in p.own_joists) if r.joists.made_of == "I-joist" else ()
    return own or TRIED_JOISTS[r.joists.made_of]


def _of_joist_kind(p: Project, r: Floor, value: str) -> dict[str, Any]:
    """Another kind has other sections."""
    if value == r.joists.made_of:
        return {}
    made = recast(r, next(w for w, _ in JOIST_KINDS if w == value))
    changed = {name: getattr(made, name) for name in ("deck", "ceiling", "over", "carries")}
    return {"joists__made_of": value, "joists__size": None, **changed}


def beam_sizes(p: Project, made_of: str) -> tuple[str, ...]:
    """Return the sections offered for beams of a kind: of the project's list, where it has one of that kind."""
    return own_beams.tried((beam.row for beam in p.own_beams), made_of) or TRIED[made_of]


def _beam_sizes(p: Project, r: Beam | BeamRow) -> Choices:
    return [("auto", "auto: the cheapest that works"), *((size, size) for size in beam_sizes(p, r.made_of))]


FIELDS: dict[type[Record], list[FieldDef]] = {
    Level: [text("Name", "name"), length("Height", "height"), pick("Role", "role", LEVEL_ROLES)],
    Wall: [
        pick("Build-up", "buildup", lambda p, r: [(b.id, display_name(b, p.units)) for b in p.buildups]),
        pick("Set-out line", "set_out", plain("outside", "core outside", "centre", "core inside", "inside")),
        pick("Role", "role", plain("outside", "bearing", "divides")),
        level_pick("Foot on", "foot__level"),
        length("  offset", "foot__offset", short=True),
        level_pick("Head on", "head__level"),
        length("  offset", "head__offset", short=True),
        pick("Head fitted to", "head_under", _fit_choices),
        length("Outer layers reach below by", "cover", short=True, hint="to cover the edge of the floor"),
    ],
    Opening: [
        pick("Kind", "kind", plain("window", "door", "plain")),
        length("From start corner", "offset"),
        length("Width", "width"),
        length("Height", "height"),
        length("Sill above foot", "sill"),
        size_pick("Header", "header", HEADER_SIZES),
    ],
    Column: [
        FieldDef(
            "Material",
            lambda p, r: r.material,
            _of_material,
            lambda p, r: plain("timber", "concrete", "steel"),
            key="material",
        ),
        FieldDef("Section", lambda p, r: "auto" if r.size is None else r.size, _of_size, _post_sizes, key="size"),
        _side("Width", "width"),
        _side("Depth", "depth"),
        *species_fields(),
        outdoors(),
        level_pick("Foot on", "foot__level"),
        length("  offset", "foot__offset", short=True),
        level_pick("Head on", "head__level"),
        length("  offset", "head__offset", short=True),
    ],
    Beam: [
        pick("Carries the floor", "floor", lambda p, r: [("", "none"), *((f.id, f.name) for f in p.floors)]),
        FieldDef(
            "Joists",
            lambda p, r: "hang on it" if r.flush else "lie on it",
            lambda p, r, value: {"flush": value == "hang on it"},
            lambda p, r: plain("lie on it", "hang on it"),
            key="flush",
        ),
        level_pick("Its top on", "top__level"),
        length("  offset", "top__offset", short=True),
        FieldDef("Kind", lambda p, r: r.made_of, _of_beam_kind, lambda p, r: list(BEAM_KINDS), key="made_of"),
        FieldDef("Section", lambda p, r: "auto" if r.size is None else r.size, _of_size, _beam_sizes, key="size"),
        *species_fields(),
        outdoors(),
        line_load("More dead along it", "dead"),
        line_load("More live along it", "live"),
        line_load("More snow along it", "snow"),
    ],
    BeamRow: [
        pick("Carry the floor", "floor", lambda p, r: [("", "none"), *((f.id, f.name) for f in p.floors)]),
        FieldDef(
            "Joists",
            lambda p, r: "hang on them" if r.flush else "lie on them",
            lambda p, r, value: {"flush": value == "hang on them"},
            lambda p, r: plain("lie on them", "hang on them"),
            key="flush",
        ),
        level_pick("Their tops on", "top__level"),
        length("  offset", "top__offset", short=True),
        pick("Laid by", "by", plain(*get_args(By))),
        length("Spacing", "spacing"),
        FieldDef(
            "Number", lambda p, r: str(r.number), lambda p, r, typed: {"number": round(number(typed))}, key="number"
        ),
        pick("Start from", "begin", plain(*get_args(Start))),
        FieldDef("Angle", _row_angle, _put_row_angle, hint="auto: along the bay", key="angle"),
        FieldDef("Kind", lambda p, r: r.made_of, _of_beam_kind, lambda p, r: list(BEAM_KINDS), key="made_of"),
        FieldDef("Section", lambda p, r: "auto" if r.size is None else r.size, _of_size, _beam_sizes, key="size"),
        *species_fields(),
        outdoors(),
    ],
    SpotHeight: [length("Height", "height"), length("x", "x"), length("y", "y")],
    BaseDrawing: [
        text("Name", "name"),
        level_pick("Under the plan of", "level"),
        FieldDef(
            "Scale",
            lambda p, r: f"{r.scale:g}",
            lambda p, r, typed: {"scale": number(typed)},
            hint="25.4 for inches",
            key="scale",
        ),
        turned_by("angle"),
    ],
    Foundation: [
        text("Name", "name"),
        FOUNDATION_KIND,
        WALL_OF,
        wall_thickness("Wall thickness", "thickness"),
        level_pick("Top of wall on", "head__level", slabs=False),
        length("  offset", "head__offset", short=True),
        level_pick("Top of footing on", "foot__level", slabs=False),
        length("  offset", "foot__offset", short=True),
        length("Footing width", "footing_width", short=True, auto=True, hint="auto: from load and soil"),
        length("Footing thickness", "footing_depth", short=True, auto=True, hint="auto: ACI 318-19; typed: plain"),
        length("Footing off the wall's middle", "footing_offset", short=True, hint="outward"),
        pick("Boundary at the face", "boundary", plain("none", "outside", "inside")),
        length(
            "Earth inside, below outside",
            "inside_ground",
            short=True,
            auto=True,
            none="dug out",
            hint="dug out: down to the footing's top",
        ),
        length("Set in from the sheathing line", "inset", short=True),
        length("Ledge for veneer", "ledge", short=True),
        length("Ledge below top", "ledge_drop", short=True),
        length("Thinner upper part, height", "upper_height", short=True, hint="0: none"),
        wall_thickness("Thinner upper part, thickness", "upper_thickness"),
        length("Lap at steps", "lap", short=True),
        length("Blinding under footings", "blinding", short=True, hint="0: none"),
        length("Insulation inside", "lining", short=True, hint="0: none; notched round beams"),
        pick("Sill plate", "sill_size", plain("2x4", "2x6", "2x8", "2x10", NO_SILL)),
        length("Anchor bolts every", "bolt_spacing", hint="IRC R403.1.6: 6' at most"),
    ],
    Recess: [
        pick("Kind", "kind", plain("pocket", "opening")),
        length("From start corner", "offset"),
        length("Width", "width", short=True),
        length("Height", "height", short=True),
        length("Top below wall top", "top", short=True),
        length("Depth of pocket", "depth", short=True),
    ],
    Pad: [
        length("Side", "width", short=True, auto=True, hint="auto: from load and soil"),
        length("Thickness", "thickness", short=True, auto=True, hint="auto: ACI 318-19"),
        level_pick("Top of pad on", "top__level", slabs=False),
        length("  offset", "top__offset", short=True),
        length("Pier side", "pier", short=True, hint="0: no pier"),
        level_pick("Top of pier on", "head__level"),
        length("  offset", "head__offset", short=True),
        force("Dead from above", "dead"),
        force("Live from above", "live"),
        force("Snow from above", "snow"),
        force("Wind uplift", "uplift", "at strength level"),
        force("Wind sideways", "push", "at strength level"),
    ],
    Slab: [
        text("Name", "name"),
        level_pick("Top on", "level"),
        length("Thickness", "thickness", short=True),
        pick("At the walls", "edge", [("flush", "stops at them"), ("seat", "lies on them")]),
        length("Seat", "seat", short=True),
        length("Thickened edge, depth", "edge_depth", short=True, hint="0: none"),
        length("Thickened edge, width", "edge_width", short=True),
        length("Haunch under bearing walls", "haunch", short=True, hint="0: none"),
        length("Insulation", "insulation", short=True),
        length("Subbase", "subbase", short=True),
        length("Blinding", "blinding", short=True),
    ],
    Floor: [
        text("Name", "name"),
        level_pick("Top of deck on", "level"),
        FieldDef(
            "Joists of",
            lambda p, r: r.joists.made_of,
            _of_joist_kind,
            lambda p, r: list(JOIST_KINDS),
            key="joists__made_of",
        ),
        *choice_fields("joists", _joist_sizes),
        pick("Carries", "carries", plain(*get_args(Ways))),
        direction("Span direction", "direction", "auto: the shorter way", "auto: the way with least timber"),
        pick("Joists start from", "start", plain(*get_args(Start))),
        pick("Over bearings", "over", _over_choices),
        pick("Blocking", "blocking", plain(*get_args(Blocked))),
        length("Deck", "deck", short=True),
        pick("Ceiling under it", "ceiling", plain(*get_args(Ceiling))),
        outdoors(),
        length("Guard at free edges", "guard", short=True, hint="0: none; IRC R312: 36 in"),
        load("Live load", "live", "of this floor alone", "the project's"),
        load("Dead load", "dead", "of this floor alone", "the project's"),
    ],
    FloorLoad: [
        text("Name", "name"),
        pick("On the floor", "floor", lambda p, r: [(f.id, f.name) for f in p.floors]),
        force("Live", "live"),
        force("Dead", "dead"),
        length("Width", "width", hint="0: a point or a line"),
        length("Depth", "depth", hint="0: a point or a line"),
        turned_by("angle"),
    ],
    TrussLoad: [
        text("Name", "name"),
        pick("From the trusses of", "roof", lambda p, r: [(roof.id, roof.name) for roof in p.roofs]),
        force("Dead", "dead"),
        force("Live", "live"),
        length("Width", "width", hint="0: a point or a line"),
        length("Depth", "depth", hint="0: a point or a line"),
        turned_by("angle"),
    ],
    FloorOpening: [
        pick("Kind", "kind", plain("stair", "chimney", "shaft")),
        pick("Its stair lands", "lands", plain(*get_args(Lands))),
        pick("Its flight", "flight", [("load alone", "comes as its load alone"), ("stringers", "framed of stringers")]),
        size_pick("Stringers", "stringers__size", STRINGERS),
        length("Apart at most", "stringers__spacing", short=True, auto=True, hint="auto: 16 in"),
        *species_fields("stringers__"),
        length("Treads deep", "tread", short=True, hint="IRC R311.7.5.2: 10 in at least"),
        length("Width", "width"),
        length("Depth", "depth"),
        turned_by("angle"),
    ],
    RoofOpening: ROOF_OPENING_FIELDS,
    Dormer: DORMER_FIELDS,
    Roof: ROOF_FIELDS,
}
