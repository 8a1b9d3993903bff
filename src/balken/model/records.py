"""The authored records of a project (all lengths in mm, loads in kN/m2)."""

from typing import Literal

import msgspec

from balken.units.system import FOOT, INCH, PSF, PSI, Units


class Record(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Base of all authored records: immutable, compared by value."""


LevelRole = Literal["top of footing", "top of foundation", "ground", "slab", "floor", "plate", "ridge", "other"]


class Level(Record, frozen=True, kw_only=True):
    """A named height on which vertical extents hang.

    ``removed``: taken away while things still hang on it; it holds their height until they hang elsewhere.
    """

    id: str
    name: str
    role: LevelRole = "other"
    height: float = 0.0
    removed: bool = False


class Axis(Record, frozen=True, kw_only=True):
    """One grid axis, ``gap`` mm after the one before it (the first has gap 0)."""

    id: str
    label: str
    gap: float = 0.0


class Grid(Record, frozen=True, kw_only=True):
    """Two sets of axes: ``x_axes`` succeed one another along x and run along y, ``y_axes`` the other way.

    In a radial grid ``x_axes`` are rays (gaps in degrees, anticlockwise from ``angle``) and ``y_axes``
    arcs about the origin (gaps in mm; the first one's gap is its radius).  ``levels``: ids of the levels
    on whose plans it shows (none: on all).  ``chain_at``, ``overall_at``: how far outside the first axes
    the dimension chain and the overall dimension stand.
    """

    id: str
    name: str = "Grid"
    kind: Literal["square", "radial"] = "square"
    origin: tuple[float, float] = (0.0, 0.0)
    angle: float = 0.0
    x_axes: tuple[Axis, ...] = ()
    y_axes: tuple[Axis, ...] = ()
    run_past: float = 6.0 * FOOT
    bubbles: Literal["start", "end", "both"] = "start"
    chain_at: float = 3.0 * FOOT
    overall_at: float = 4.5 * FOOT
    levels: tuple[str, ...] = ()


class FreePoint(Record, frozen=True, kw_only=True, tag="free"):
    """A place in plan by coordinates."""

    x: float
    y: float


class AxisPoint(Record, frozen=True, kw_only=True, tag="axes"):
    """A place tied to the crossing of two axes; it follows when they move."""

    grid: str
    x_axis: str
    y_axis: str
    dx: float = 0.0
    dy: float = 0.0


Place = FreePoint | AxisPoint

LayerFunction = Literal["cladding", "sheathing", "core", "lining"]


class Layer(Record, frozen=True, kw_only=True):
    """One layer of a wall build-up."""

    material: str
    thickness: float
    function: LayerFunction


class BuildUp(Record, frozen=True, kw_only=True):
    """Layers of a wall from outside to inside; ``name`` empty: it follows from the layers."""

    id: str
    layers: tuple[Layer, ...]
    name: str = ""


class Hang(Record, frozen=True, kw_only=True):
    """A height: a level and an offset above it."""

    level: str
    offset: float = 0.0


class Framing(Record, frozen=True, kw_only=True):
    """How a wall with a core of studs is framed; ``spacing`` None means Balken chooses ("auto").

    Studs are spaced on centre from the ``count_from`` end.  ``balloon``: studs run from foot to head
    past every floor between, which then bears on a ribbon let into them.
    """

    species: str = "DF-L"
    grade: str = "Stud"
    spacing: float | None = 16.0 * INCH
    count_from: Literal["start", "end"] = "start"
    balloon: bool = False
    header_species: str = "DF-L"
    header_grade: str = "No. 2"


SetOut = Literal["outside", "core outside", "centre", "core inside", "inside"]
WallRole = Literal["outside", "bearing", "divides"]


class Wall(Record, frozen=True, kw_only=True):
    """A straight wall from start to end along its set-out line.

    ``head_under``: id of the floor or roof to whose underside the head is fitted; ``head`` then only
    serves until that is known.  ``cover``: how far cladding and sheathing reach down below the foot,
    over the edge of the floor.  ``source``: identifier in the file it was read from.
    """

    id: str
    start: Place
    end: Place
    buildup: str
    foot: Hang
    head: Hang
    set_out: SetOut = "core outside"
    outside: Literal["right", "left"] = "right"
    role: WallRole = "outside"
    framing: Framing = Framing()
    head_under: str = ""
    cover: float = 0.0
    source: str = ""


OpeningKind = Literal["door", "window", "plain"]


class Opening(Record, frozen=True, kw_only=True):
    """A hole through all layers of a wall; ``offset`` from the wall's start corner, ``sill`` above its foot.

    ``header``: its header such as 2-2x10, None = Balken chooses.
    """

    id: str
    wall: str
    kind: OpeningKind
    offset: float
    width: float
    height: float
    sill: float = 0.0
    header: str | None = None
    source: str = ""


ColumnMaterial = Literal["timber", "concrete", "steel"]


class Column(Record, frozen=True, kw_only=True):
    """A column, ``width`` along x of its grid and ``depth`` along y.

    ``size``: its section by name such as 6x6 or Pipe 4, None = Balken chooses, "" = a rectangle of width and depth.
    ``species``, ``grade``: of timber.  ``source``: identifier in the file it was read from.
    """

    id: str
    place: Place
    foot: Hang
    head: Hang
    width: float = 5.5 * INCH
    depth: float = 5.5 * INCH
    material: ColumnMaterial = "timber"
    angle: float = 0.0
    size: str | None = ""
    species: str = "DF-L"
    grade: str = "No. 2"
    source: str = ""


class SpotHeight(Record, frozen=True, kw_only=True):
    """The height of the ground outside at a place in plan."""

    id: str
    x: float
    y: float
    height: float


class Underlay(Record, frozen=True, kw_only=True):
    """A DXF drawing shown under the plan of one level.

    A drawing point p lies at ``origin`` + ``scale`` * p turned by ``angle`` degrees.
    """

    id: str
    name: str
    path: str
    level: str
    scale: float = 1.0
    origin: tuple[float, float] = (0.0, 0.0)
    angle: float = 0.0
    layers_off: tuple[str, ...] = ()


class Reference(Record, frozen=True, kw_only=True):
    """Something from the architect's file that Balken shows but does not frame: an outline and its heights."""

    id: str
    name: str
    kind: str
    ring: tuple[tuple[float, float], ...]
    bottom: float
    top: float
    source: str = ""


class Choice(Record, frozen=True, kw_only=True):
    """What a layout is made of; ``size`` or ``spacing`` None means Balken chooses ("auto")."""

    size: str | None = None
    species: str = "DF-L"
    grade: str = "No. 2"
    spacing: float | None = 16.0 * INCH


FoundationKind = Literal["wall on footing", "basement", "slab on ground", "thickened edge"]


class Slope(Record, frozen=True, kw_only=True):
    """A stretch of a footing whose underside slopes: from ``start`` to ``end`` mm along a wall (from its start corner).

    ``deeper_start``, ``deeper_end``: how much deeper than level it is there, mm; its top stays level.
    """

    wall: str
    start: float
    end: float
    deeper_start: float = 0.0
    deeper_end: float = 0.0


WallMaterial = Literal["concrete", "hollow block", "grouted block"]


class Step(Record, frozen=True, kw_only=True):
    """A step of a foundation: from ``at`` mm along a wall on (from its start corner) it lies ``drop`` mm lower.

    A step at 0 says how much lower than the foundation's foot the run begins; a drop below zero goes up.
    """

    wall: str
    at: float
    drop: float


class Foundation(Record, frozen=True, kw_only=True):
    """Foundation walls on strip footings under the walls named.

    ``kind`` "thickened edge": the wall is the edge of a slab and its own footing.  ``inset``: how far its
    outside face lies inside the sheathing line.  ``ledge``: how far it stands out below ``ledge_drop``
    under its top, to carry a veneer.  ``upper_height``, ``upper_thickness``: the wall's upper part where that
    is thinner (0: it is not).  ``footing_offset``: of the footing's middle outward from the wall's.
    ``footing_width``, ``footing_depth`` None: Balken chooses.  ``steps``: where it steps down.
    ``lap``: how far the lower footing runs on under the upper one.  ``bolt_spacing``: of the anchor bolts.
    ``blinding``: lean concrete under the footings, thick, stepping with them.  ``made_of``: what the walls are;
    bars in hollow block stand in cells that are grouted for them.  ``slopes``: where its footing is deeper on a slope.
    ``boundary``: the face of the wall beyond which its footing must not go; it then grows to the other side alone.
    ``inside_ground``: how far the earth inside lies below that outside, as in a crawl space, mm; None: it is dug down
    to the top of the footing.
    """

    id: str
    name: str
    walls: tuple[str, ...]
    foot: Hang
    head: Hang
    thickness: float = 8.0 * INCH
    footing_width: float | None = None
    footing_depth: float | None = 10.0 * INCH
    sill_size: str = "2x6"
    kind: FoundationKind = "wall on footing"
    inset: float = 0.0
    ledge: float = 0.0
    ledge_drop: float = 8.0 * INCH
    upper_height: float = 0.0
    upper_thickness: float = 0.0
    footing_offset: float = 0.0
    steps: tuple[Step, ...] = ()
    lap: float = 24.0 * INCH
    bolt_spacing: float = 6.0 * FOOT
    blinding: float = 0.0
    made_of: WallMaterial = "concrete"
    slopes: tuple[Slope, ...] = ()
    boundary: Literal["none", "outside", "inside"] = "none"
    inside_ground: float | None = None


class Recess(Record, frozen=True, kw_only=True):
    """An opening through a foundation wall, or a pocket for a girder in its inside face.

    ``offset`` from the wall's start corner, ``top`` below the foundation wall's top, mm.
    """

    id: str
    foundation: str
    wall: str
    kind: Literal["opening", "pocket"] = "pocket"
    offset: float = 0.0
    width: float = 5.0 * INCH
    height: float = 10.0 * INCH
    top: float = 0.0
    depth: float = 4.0 * INCH


class Pad(Record, frozen=True, kw_only=True):
    """A pad footing, with a pier on it where ``pier`` (its side, mm) is above zero.

    ``top``: top of the pad; ``head``: top of the pier.  ``width``, ``thickness`` None: Balken chooses.
    ``dead`` to ``push``: loads from above beside what stands on it in the model, N; wind lifts it by ``uplift`` and
    pushes it sideways by ``push``, at strength level.
    ``joined``: id of another pad with which it makes one combined footing, at this one's height.  ``with_strip``: it is
    cast with the strip footings that it lies over, and carries their walls over its width as well.
    """

    id: str
    place: Place
    top: Hang
    head: Hang
    width: float | None = None
    thickness: float | None = None
    pier: float = 12.0 * INCH
    angle: float = 0.0
    dead: float = 0.0
    live: float = 0.0
    snow: float = 0.0
    uplift: float = 0.0
    push: float = 0.0
    joined: str = ""
    with_strip: bool = False


class Bow(Record, frozen=True, kw_only=True):
    """An edge of a slab along a wall drawn as an arc: ``rise`` outward at its middle, mm (below zero: inward)."""

    wall: str
    rise: float


class Slab(Record, frozen=True, kw_only=True):
    """A slab on ground whose top is on ``level``, bounded by walls.

    ``edge`` "flush": it stops at the foundation walls; "seat": it lies ``seat`` mm on them.  ``edge_depth``,
    ``edge_width``: of its thickened edge (0: none); ``haunch``: its depth below the slab under inside bearing
    walls.  ``holes``: outlines left out.  ``bows``: edges that are arcs.  Layers under it: insulation, subbase,
    blinding, mm.
    """

    id: str
    name: str
    walls: tuple[str, ...]
    level: str
    thickness: float = 4.0 * INCH
    edge: Literal["flush", "seat"] = "flush"
    seat: float = 4.0 * INCH
    edge_depth: float = 0.0
    edge_width: float = 12.0 * INCH
    haunch: float = 0.0
    haunch_width: float = 16.0 * INCH
    holes: tuple[tuple[tuple[float, float], ...], ...] = ()
    bows: tuple[Bow, ...] = ()
    insulation: float = 0.0
    subbase: float = 4.0 * INCH
    blinding: float = 0.0


class Floor(Record, frozen=True, kw_only=True):
    """A floor whose deck top is on ``level``, bounded by walls.

    ``direction`` of span in degrees, None = the shorter way.
    """

    id: str
    name: str
    level: str
    walls: tuple[str, ...]
    joists: Choice = Choice()
    direction: float | None = None
    deck: float = 0.75 * INCH


class Roof(Record, frozen=True, kw_only=True):
    """A gable roof over walls; ``pitch`` is rise over run, ``ridge`` its direction (None = the longer way)."""

    id: str
    name: str
    walls: tuple[str, ...]
    bearing: Hang
    pitch: float = 0.5
    overhang: float = 12.0 * INCH
    ridge: float | None = None
    rafters: Choice = Choice()
    ties: Choice = Choice()
    ridge_size: str | None = None
    deck: float = 0.625 * INCH


class Loads(Record, frozen=True, kw_only=True):
    """Area loads, soil and frost, typed once for the whole project (kN/m2, mm)."""

    floor_live: float = 40.0 * PSF
    floor_dead: float = 10.0 * PSF
    roof_dead: float = 10.0 * PSF
    roof_live: float = 20.0 * PSF
    ground_snow: float = 30.0 * PSF
    ceiling_dead: float = 5.0 * PSF
    attic_live: float = 10.0 * PSF
    wind: float = 25.0 * PSF
    soil_bearing: float = 1500.0 * PSF
    frost_depth: float = 30.0 * INCH


class Soil(Record, frozen=True, kw_only=True):
    """The ground as it presses on walls: weights in kN/m3, angle in degrees, pressures in kN/m2, depths in mm.

    ``pressure``: from the angle of friction (active where a wall can move, else at rest), or typed as an
    equivalent fluid.  ``water_below``: depth of the ground water below ground, None when it is far down.
    """

    pressure: Literal["active", "at rest", "equivalent fluid"] = "at rest"
    weight: float = 18.85
    friction: float = 30.0
    fluid: float = 9.42
    surcharge: float = 0.0
    water_below: float | None = None
    spread: float = 1.0
    base_friction: float = 0.35


class Concrete(Record, frozen=True, kw_only=True):
    """Strengths of concrete and bars, N/mm2; ``bars``: whether Balken may reinforce."""

    fc: float = 2500.0 * PSI
    fy: float = 60_000.0 * PSI
    bars: bool = True


class Masonry(Record, frozen=True, kw_only=True):
    """Walls of concrete block: compressive strength f'm (N/mm2) and the mortar of their joints."""

    strength: float = 2000.0 * PSI
    mortar: Literal["type M or S", "type N"] = "type M or S"


class CutLine(Record, frozen=True, kw_only=True):
    """The line along which the height strip and the cross-section are cut, seen to its left."""

    start: tuple[float, float]
    end: tuple[float, float]


class SheetInfo(Record, frozen=True, kw_only=True):
    """What the title block says."""

    number: str = "S-1"
    title: str = "Framing plans and section"
    drawn_by: str = ""
    date: str = ""
    place: str = ""


class Strings(Record, frozen=True, kw_only=True):
    """Which dimension strings stand outside the building, and how far (mm).

    ``first``: of the innermost string from the wall, ``between``: from string to string; ``to``: what the
    overall string measures between; ``elevation``: of the first string of a framing elevation.
    """

    openings: bool = True
    walls: bool = True
    overall: bool = True
    to: Literal["faces", "axes"] = "faces"
    first: float = 12.0 * INCH
    between: float = 18.0 * INCH
    elevation: float = 16.0 * INCH


class Reading(Record, frozen=True, kw_only=True):
    """What an architect's file held when it was last read, to tell later what has changed in it."""

    file: str
    levels: tuple[Level, ...] = ()
    grids: tuple[Grid, ...] = ()
    buildups: tuple[BuildUp, ...] = ()
    walls: tuple[Wall, ...] = ()
    openings: tuple[Opening, ...] = ()
    columns: tuple[Column, ...] = ()
    references: tuple[Reference, ...] = ()


class Project(Record, frozen=True, kw_only=True):
    """Everything the user has decided.

    ``units`` only says how lengths are shown and read. ``steps`` says in which steps sizes left to
    Balken come (2 in or 50 mm, 16 in or 400 mm), so that switching the units changes nothing.
    """

    name: str = "Untitled"
    units: Units = Units.IMPERIAL
    steps: Units = Units.IMPERIAL
    levels: tuple[Level, ...] = ()
    grids: tuple[Grid, ...] = ()
    buildups: tuple[BuildUp, ...] = ()
    walls: tuple[Wall, ...] = ()
    openings: tuple[Opening, ...] = ()
    columns: tuple[Column, ...] = ()
    spots: tuple[SpotHeight, ...] = ()
    foundations: tuple[Foundation, ...] = ()
    recesses: tuple[Recess, ...] = ()
    pads: tuple[Pad, ...] = ()
    slabs: tuple[Slab, ...] = ()
    floors: tuple[Floor, ...] = ()
    roofs: tuple[Roof, ...] = ()
    underlays: tuple[Underlay, ...] = ()
    references: tuple[Reference, ...] = ()
    reading: Reading | None = None
    loads: Loads = Loads()
    soil: Soil = Soil()
    concrete: Concrete = Concrete()
    masonry: Masonry = Masonry()
    cut: CutLine | None = None
    sheet: SheetInfo = SheetInfo()
    strings: Strings = Strings()
    stock_length: float = 16.0 * FOOT


COLLECTIONS: dict[type[Record], str] = {
    Level: "levels",
    Grid: "grids",
    BuildUp: "buildups",
    Wall: "walls",
    Opening: "openings",
    Column: "columns",
    SpotHeight: "spots",
    Foundation: "foundations",
    Recess: "recesses",
    Pad: "pads",
    Slab: "slabs",
    Floor: "floors",
    Roof: "roofs",
    Underlay: "underlays",
    Reference: "references",
}
PREFIXES: dict[type[Record], str] = {
    Level: "level",
    Grid: "grid",
    BuildUp: "buildup",
    Wall: "wall",
    Opening: "opening",
    Column: "column",
    SpotHeight: "spot",
    Foundation: "foundation",
    Recess: "recess",
    Pad: "pad",
    Slab: "slab",
    Floor: "floor",
    Roof: "roof",
    Underlay: "underlay",
    Reference: "reference",
}
