"""The fields of roofs, of what they are framed with, of dormers and of openings in roofs."""

from typing import Any

from balken.catalog.sections import JOIST_SIZES, RIDGE_BEAMS, RIDGE_SIZES, TIE_SIZES
from balken.catalog.species import AUTO_GRADE
from balken.design.truss_groups import CHORD_SIZES, WEB_SIZES
from balken.documents.truss_patterns import pattern_diagram
from balken.framing.fascias import FASCIAS
from balken.model.kinds.dormer import STUDS
from balken.model.kinds.trusses import PATTERNS
from balken.model.records import Project
from balken.panel.field_kinds import (
    FieldDef,
    choice_fields,
    direction,
    either,
    length,
    level_pick,
    load,
    pick,
    pitched,
    plain,
    size_pick,
    species_fields,
    text,
)

PATTERN_PICTURES = {name: pattern_diagram(name) for name in PATTERNS[1:]}
ROOF_OPENING_FIELDS = [
    pick("For a", "kind", [("window", "window"), ("chimney", "chimney"), ("shaft", "shaft")]),
    length("Middle, from the wall's corner", "along"),
    length("Up the slope from the bearing", "up"),
    length("Width", "width"),
    length("Length up the slope", "length"),
]
DORMER_FIELDS = [
    text("Name", "name"),
    pick(
        "Shape",
        "shape",
        [
            ("gable", "gable over its face"),
            ("lean-to", "one slope towards its face"),
            ("gablet", "gable on a hip, in the planes beside"),
        ],
    ),
    length("Middle, from the wall's corner", "along"),
    length("Face in of the bearing line", "front"),
    length("Width over its cheeks", "width"),
    length("Plates over the roof at its face", "height"),
    pitched("Pitch", "pitch"),
    length("Overhang", "overhang"),
    length("Window, width", "window_width", hint="rough opening; 0 for none"),
    length("Window, height", "window_height"),
    pick("Studs", "studs", plain(*STUDS)),
    load("Walls weigh", "weight"),
]


def mouth(label: str, path: str, other: str, hint: str) -> FieldDef:
    """A length by which bird's mouths are cut; typed, it takes the place of the other one."""
    plain_one = length(label, path, short=True, auto=True, hint=hint)

    def put(p: Project, r: Any, text: str) -> dict[str, Any]:
        typed: dict[str, Any] = plain_one.put(p, r, text)
        return typed if typed[path] is None else typed | {other: None}

    return FieldDef(label, plain_one.get, put, hint=hint, key=path)


BARE = {"fascia": None, "face_board": None, "rake_boards": False}
"""Of a roof without fascias."""
ROOF_FIELDS = [
    text("Name", "name"),
    pitched("Pitch", "pitch"),
    pick("Shape", "shape", [("gable", "gable over a rectangle, framed"), ("planes", "a plane from every eave")]),
    length("Overhang", "overhang"),
    mouth("Bird's mouth, seat", "seat", "above_plate", 'auto: 3 1/2" at most, a quarter deep'),
    mouth("Above the plate", "above_plate", "seat", "plumb, to the upper edge over the wall's outer face"),
    level_pick("Bears on", "bearing__level"),
    length("  offset", "bearing__offset", short=True),
    direction("Ridge direction", "ridge", "auto: the longer way"),
    pick(
        "Set out",
        "set_out",
        [("corner", "from the first corner"), ("end", "from the last corner"), ("middle", "alike at both ends")],
    ),
    either("Flat rafters", "tapered", ("sloped", "slope with the deck"), ("level", "level, under tapered strips")),
    either("At tops of hips", "full_rafters", ("none", "as set out"), ("full", "common rafters on each plane")),
    pick(
        "Jacks",
        "jacks",
        [("set out", "as set out"), ("pairs", "in pairs at hips and valleys"), ("staggered", "half a step apart")],
    ),
    length("Least gap of rafters", "least_gap", short=True, hint="to those at ends and tops of hips"),
    either("Fascias", "level_fascias", ("as overhangs", "where overhangs end"), ("level", "level all round")),
    pick(
        "Ridges",
        "ridge_made",
        [
            ("board", "boards, rafters tied in pairs"),
            ("beam", "beams between the rafters"),
            ("under", "beams under the rafters"),
        ],
    ),
    pick("Hips", "hips", [("dropped", "dropped, edges in the planes"), ("backed", "backed, edges bevelled")]),
    pick(
        "Collar ties",
        "collar",
        [
            ("spaced", "4 ft (1.2 m) apart at most"),
            ("all", "on every pair"),
            ("none", "none: straps over the ridge"),
        ],
    ),
    pick("Framed with", "framed", [("rafters", "rafters"), ("trusses", "trusses")]),
    length("Ties raised by", "tie_raise", short=True),
    length("Purlins in of the walls", "purlins_at", hint="in plan; 0 for none"),
    length("Purlins let in by", "purlins_in", short=True, hint="a notch in each rafter; 0: under them"),
    size_pick("Purlins", "purlin_size", (*RIDGE_SIZES, *RIDGE_BEAMS)),
    pick("Purlins stand on", "purlins_on", [("posts", "posts, set under them"), ("struts", "struts to bearing walls")]),
    length("Struts apart", "struts_apart", short=True, hint="at most"),
    size_pick("Ledgers", "ledger_size", RIDGE_SIZES),
    size_pick("Ridge", "ridge_size", (*RIDGE_SIZES, *RIDGE_BEAMS)),
    FieldDef(
        "Fascia boards",
        lambda p, r: r.fascia or "none",
        lambda p, r, value: BARE if value == "none" else {"fascia": value},
        lambda p, r: plain("none", *FASCIAS),
        key="fascia",
    ),
    FieldDef(
        "Face boards",
        lambda p, r: r.face_board or "none",
        lambda p, r, value: {"face_board": None if value == "none" else value},
        lambda p, r: plain("none", *FASCIAS),
        key="face_board",
    ),
    either("Along rakes", "rake_boards", ("none", "none"), ("boards", "the same boards")),
    pick(
        "Tails",
        "tails",
        [
            ("plumb", "plumb"),
            ("square", "square"),
            ("level", "plumb, level below"),
            ("cut back", "cut back from the wall"),
        ],
    ),
    length("Plumb cut left", "tail_plumb", short=True, hint="where tails are level below it or cut back"),
    pitched("Sprockets", "sprocket_pitch", none="none"),
    length("Sprockets begin", "sprocket_in", short=True, hint="in of the bearing line"),
    either("Soffit returns", "soffit_returns", ("none", "none"), ("boards", "boards back to the wall")),
    FieldDef(
        "Blocks at eaves",
        lambda p, r: ("square" if r.blocks_square else "upright") if r.eave_blocks else "none",
        lambda p, r, value: {"eave_blocks": value != "none", "blocks_square": value == "square"},
        lambda p, r: [
            ("none", "none"),
            ("upright", "upright, between rafters"),
            ("square", "square to the rafters"),
        ],
        key="eave_blocks",
    ),
    length("Roof deck", "deck", short=True),
]
RAFTER_FIELDS = choice_fields("rafters", JOIST_SIZES)
TRUSS_FIELDS = [
    pick(
        "Webs",
        "trusses__pattern",
        [("auto", "auto: by the span"), *((name, name) for name in PATTERNS[1:])],
        PATTERN_PICTURES,
    ),
    length("Spacing", "trusses__spacing", short=True, auto=True, hint="auto: as wide as works"),
    length("Heel", "trusses__heel", short=True, auto=True, hint="auto: a butt cut"),
    pitched("Bottom chord's pitch", "trusses__bottom_pitch"),
    length("Ceiling steps up by", "trusses__step", short=True, hint="0: no step"),
    length("Steps up in of the walls", "trusses__step_in"),
    length("In of the right one", "trusses__step_right", auto=True, none="as much", hint="as their drawing has it"),
    size_pick("Top chords", "trusses__top", CHORD_SIZES),
    size_pick("Bottom chords", "trusses__bottom", CHORD_SIZES),
    size_pick("Webs made of", "trusses__webs", WEB_SIZES),
    length("Top panels at most", "trusses__top_panel", short=True, auto=True, hint="auto: 8 ft where webs are chosen"),
    length("Bottom panels at most", "trusses__bottom_panel", short=True, auto=True, hint="auto: 10 1/2 ft"),
    FieldDef(
        "Plies",
        lambda p, r: str(r.trusses.plies),
        lambda p, r, value: {"trusses__plies": int(value)},
        lambda p, r: plain("1", "2", "3", "4"),
        key="trusses__plies",
    ),
    either("Inside bearing walls", "trusses__inner", ("no", "half an inch off"), ("yes", "bear on them")),
    pick("Joined by", "trusses__joined", [("plates", "toothed plates"), ("gussets", "plywood gussets, nailed")]),
    length("Camber", "trusses__camber", short=True, hint="built up in the middle; 0: none"),
    length("Heels past the walls", "trusses__past", short=True, hint="0: over them"),
    length("Bottom chords below plates", "trusses__drop", short=True, hint="0: on them; else top chords bear"),
    either("Someone on chords", "trusses__man", ("no", "not looked at"), ("yes", "300 lb (1.33 kN), anywhere")),
    length("Hip girder from the end", "trusses__set_back", short=True, auto=True, hint="auto: 8 ft at most"),
    FieldDef(
        "Plies of hip girders",
        lambda p, r: str(r.trusses.girder_plies or "auto"),
        lambda p, r, value: {"trusses__girder_plies": None if value == "auto" else int(value)},
        lambda p, r: plain("auto", "1", "2", "3", "4"),
        key="trusses__girder_plies",
    ),
    *species_fields("trusses__", ((AUTO_GRADE, "auto: for each group of sticks"),)),
]
TIE_FIELDS = choice_fields("ties", TIE_SIZES, spacing=False)
