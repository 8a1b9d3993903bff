"""The project: its records, kind by kind, and what is decided once for all of it (all lengths in mm, loads in kN/m2)."""

from typing import Literal

from balken.model.base import AxisPoint, FreePoint, Hang, Place, Record
from balken.model.kinds import COLLECTIONS, KIND_OF, KINDS
from balken.model.kinds.base_drawing import BaseDrawing
from balken.model.kinds.beam import Beam, BeamWord
from balken.model.kinds.beam_row import BeamRow, BeamSingle
from balken.model.kinds.buildup import BuildUp, Layer, LayerFunction
from balken.model.kinds.choice import Choice
from balken.model.kinds.column import Column, ColumnMaterial
from balken.model.kinds.dormer import Dormer
from balken.model.kinds.floor import Floor
from balken.model.kinds.floor_load import FloorLoad
from balken.model.kinds.floor_opening import FloorOpening, HoleKind
from balken.model.kinds.foundation import Foundation, FoundationKind, Slope, Step, WallMaterial
from balken.model.kinds.grid import Axis, Grid
from balken.model.kinds.hanger import Hanger
from balken.model.kinds.level import Level, LevelRole
from balken.model.kinds.member_edit import MemberEdit
from balken.model.kinds.opening import Opening, OpeningKind
from balken.model.kinds.own_beam import OwnBeam
from balken.model.kinds.own_joist import OwnJoist
from balken.model.kinds.pad import Pad
from balken.model.kinds.post_fitting import PostFitting
from balken.model.kinds.recess import Recess
from balken.model.kinds.reference import Reference
from balken.model.kinds.roof import Roof, RoofSide
from balken.model.kinds.roof_opening import RoofOpening
from balken.model.kinds.slab import Bow, Hole, Slab
from balken.model.kinds.spot import SpotHeight
from balken.model.kinds.truss_load import TrussLoad
from balken.model.kinds.wall import Framing, SetOut, Wall, WallRole
from balken.units.system import FOOT, INCH, PSF, PSI, Units

__all__ = [
    "COLLECTIONS",
    "KINDS",
    "KIND_OF",
    "Axis",
    "AxisPoint",
    "BaseDrawing",
    "Beam",
    "BeamRow",
    "BeamSingle",
    "BeamWord",
    "Bow",
    "BuildUp",
    "Choice",
    "Column",
    "ColumnMaterial",
    "Concrete",
    "CutLine",
    "Dormer",
    "Floor",
    "FloorLoad",
    "FloorOpening",
    "Foundation",
    "FoundationKind",
    "Framing",
    "FreePoint",
    "Grid",
    "Hang",
    "Hanger",
    "Hole",
    "HoleKind",
    "Layer",
    "LayerFunction",
    "Level",
    "LevelRole",
    "Loads",
    "Masonry",
    "MemberEdit",
    "Opening",
    "OpeningKind",
    "OwnBeam",
    "OwnJoist",
    "Pad",
    "Place",
    "PostFitting",
    "Project",
    "Reading",
    "Recess",
    "Record",
    "Reference",
    "Roof",
    "RoofOpening",
    "RoofSide",
    "SetOut",
    "SheetInfo",
    "Slab",
    "Slope",
    "Soil",
    "SpotHeight",
    "Step",
    "Strings",
    "TrussLoad",
    "Wall",
    "WallMaterial",
    "WallRole",
]


SnowBy = Literal["ground", "roof"]
"""Ground snow taken as roof snow, as span tables do; or snow on roofs worked out by the standard, with drifts."""


WindExposure = Literal["B", "C", "D"]
"""Ground about the building: towns and woods; open country; flat shores."""
WindOpenings = Literal["enclosed", "partly enclosed"]


class Loads(Record, frozen=True, kw_only=True):
    """Area loads, soil and frost, typed once for the whole project (kN/m2, mm).

    ``snow_exposure``, ``snow_thermal``, ``snow_importance``: factors Ce, Ct, Is of roof snow; Ct 1.1 over a cold ventilated attic; ``snow_ice``:
    whether ice dams up on overhangs.
    ``wind_speed``: basic, for strength, m/s, 0 where what wind lifts is not looked at.
    """

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
    snow_by: SnowBy = "ground"
    snow_exposure: float = 1.0
    snow_thermal: float = 1.1
    snow_importance: float = 1.0
    snow_slippery: bool = False
    snow_ice: bool = False
    wind_speed: float = 0.0
    wind_exposure: WindExposure = "B"
    wind_openings: WindOpenings = "enclosed"


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


StandardId = Literal["us"]


class Project(Record, frozen=True, kw_only=True):
    """Everything the user has decided.

    ``units`` only says how lengths are shown and read. ``steps`` says in which steps sizes left to
    Balken come (2 in or 50 mm, 16 in or 400 mm), so that switching the units changes nothing.  ``standard``: by what all
    of it is checked.
    """

    name: str = "Untitled"
    units: Units = Units.IMPERIAL
    steps: Units = Units.IMPERIAL
    standard: StandardId = "us"
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
    floor_openings: tuple[FloorOpening, ...] = ()
    floor_loads: tuple[FloorLoad, ...] = ()
    roofs: tuple[Roof, ...] = ()
    roof_openings: tuple[RoofOpening, ...] = ()
    dormers: tuple[Dormer, ...] = ()
    truss_loads: tuple[TrussLoad, ...] = ()
    beams: tuple[Beam, ...] = ()
    beam_rows: tuple[BeamRow, ...] = ()
    member_edits: tuple[MemberEdit, ...] = ()
    hangers: tuple[Hanger, ...] = ()
    post_fittings: tuple[PostFitting, ...] = ()
    own_joists: tuple[OwnJoist, ...] = ()
    own_beams: tuple[OwnBeam, ...] = ()
    base_drawings: tuple[BaseDrawing, ...] = ()
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
