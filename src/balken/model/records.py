"""The authored records of a project (all lengths in mm, loads in kN/m2)."""

from typing import Literal

import msgspec

from balken.units.system import FOOT, INCH, PSF, Units


class Record(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Base of all authored records: immutable, compared by value."""


LevelRole = Literal["top of footing", "top of foundation", "ground", "slab", "floor", "plate", "other"]


class Level(Record, frozen=True, kw_only=True):
    """A named height on which vertical extents hang."""

    id: str
    name: str
    role: LevelRole = "other"
    height: float = 0.0


class Axis(Record, frozen=True, kw_only=True):
    """One grid axis, ``gap`` mm after the one before it (the first has gap 0)."""

    id: str
    label: str
    gap: float = 0.0


class Grid(Record, frozen=True, kw_only=True):
    """Two sets of axes: ``x_axes`` succeed one another along x and run along y, ``y_axes`` the other way."""

    id: str
    name: str = "Grid"
    origin: tuple[float, float] = (0.0, 0.0)
    angle: float = 0.0
    x_axes: tuple[Axis, ...] = ()
    y_axes: tuple[Axis, ...] = ()
    run_past: float = 6.0 * FOOT
    bubbles: Literal["start", "end", "both"] = "start"


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


SetOut = Literal["outside", "core outside", "centre", "core inside", "inside"]
WallRole = Literal["outside", "bearing", "divides"]


class Wall(Record, frozen=True, kw_only=True):
    """A straight wall from start to end along its set-out line."""

    id: str
    start: Place
    end: Place
    buildup: str
    foot: Hang
    head: Hang
    set_out: SetOut = "core outside"
    outside: Literal["right", "left"] = "right"
    role: WallRole = "outside"


OpeningKind = Literal["door", "window", "plain"]


class Opening(Record, frozen=True, kw_only=True):
    """A hole through all layers of a wall; ``offset`` from the wall's start corner, ``sill`` above its foot."""

    id: str
    wall: str
    kind: OpeningKind
    offset: float
    width: float
    height: float
    sill: float = 0.0


class Choice(Record, frozen=True, kw_only=True):
    """What a layout is made of; ``size`` or ``spacing`` None means Balken chooses ("auto")."""

    size: str | None = None
    species: str = "DF-L"
    grade: str = "No. 2"
    spacing: float | None = 16.0 * INCH


class Foundation(Record, frozen=True, kw_only=True):
    """Foundation walls on strip footings under the walls named."""

    id: str
    name: str
    walls: tuple[str, ...]
    foot: Hang
    head: Hang
    thickness: float = 8.0 * INCH
    footing_width: float | None = None
    footing_depth: float = 10.0 * INCH
    sill_size: str = "2x6"


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
    soil_bearing: float = 1500.0 * PSF
    frost_depth: float = 30.0 * INCH


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
    foundations: tuple[Foundation, ...] = ()
    floors: tuple[Floor, ...] = ()
    roofs: tuple[Roof, ...] = ()
    loads: Loads = Loads()
    cut: CutLine | None = None
    sheet: SheetInfo = SheetInfo()
    stock_length: float = 16.0 * FOOT


COLLECTIONS: dict[type[Record], str] = {
    Level: "levels",
    Grid: "grids",
    BuildUp: "buildups",
    Wall: "walls",
    Opening: "openings",
    Foundation: "foundations",
    Floor: "floors",
    Roof: "roofs",
}
PREFIXES: dict[type[Record], str] = {
    Level: "level",
    Grid: "grid",
    BuildUp: "buildup",
    Wall: "wall",
    Opening: "opening",
    Foundation: "foundation",
    Floor: "floor",
    Roof: "roof",
}
