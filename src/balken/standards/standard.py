"""What every standard offers: combinations of its cases, limits of sag, and checks of what is asked of it (``demands``).

A standard is an object passed in, chosen by the project; design asks it and knows no clause.
"""

from collections.abc import Mapping, Sequence
from typing import Protocol

from balken.catalog.section_record import Section
from balken.loads.cases import Cases, Combination, Combinations
from balken.loads.roof_snow import PlaneSnow
from balken.loads.roof_wind import Lifting, PartsWind, RoofWind
from balken.model.records import Concrete, Loads, Masonry, Soil, WallMaterial
from balken.standards.checks import Check, GirderCurves, GirderResult, MemberResult, Span, TableSpan
from balken.standards.demands import (
    BeamCase,
    BeamForces,
    CutCase,
    DeckPanel,
    GirderCase,
    GuardRules,
    HeelNails,
    Ledger,
    LedgerNails,
    Limit,
    MemberCase,
    PlyNails,
    PostCase,
    RoofPanel,
    SlabBars,
    SlabCase,
    StairRules,
    StringerCase,
    StudCase,
)
from balken.standards.ground import (
    CombinedCase,
    EarthCase,
    EarthWall,
    FootingCase,
    FootingDesign,
    LeastFooting,
    Sideways,
)
from balken.standards.measures import Working
from balken.standards.truss_demands import Array, Joined, PlateDemand, StickDemands, StickUses


class Standard(Protocol):
    """One family of standards."""

    def __hash__(self) -> int:
        """Return its hash: what is designed by it is remembered."""
        ...

    @property
    def id(self) -> str:
        """What a project names it by."""
        ...

    @property
    def title(self) -> str:
        """What it consists of."""
        ...

    @property
    def letters(self) -> Mapping[str, str]:
        """The letter of each load case."""
        ...

    @property
    def combinations(self) -> Combinations:
        """How load cases combine for allowable stresses."""
        ...

    @property
    def joist_limit(self) -> Limit:
        """The limit of sag of floor joists."""
        ...

    @property
    def tie_limit(self) -> Limit:
        """The limit of sag of ceiling ties."""
        ...

    def roof_snow(self, loads: Loads, pitch: float, run: float, alone: bool) -> PlaneSnow:
        """Return the snow on a plane ``run`` mm wide from eave to ridge; ``alone``: no ridge or hip joins it to another."""
        ...

    def ice_at_eaves(self, loads: Loads) -> float:
        """Return what ice lays on overhangs of roofs that drain over them, kN/m2 of plan, with nothing else but what is dead; 0 where none is
        looked at.
        """
        ...

    def snow_drift(
        self, loads: Loads, upper: float, lower: float, clear: float, balanced: float
    ) -> tuple[float, float]:
        """Return the drift beside a taller part: the most at its wall, kN/m2, and how far it reaches, mm.

        ``upper``, ``lower``: how long both roofs are square to the wall; ``clear``: how far apart in height, mm.
        """
        ...

    def snow_sliding(self, loads: Loads, run: float, pitch: float) -> tuple[float, float]:
        """Return what slides down from a roof ``run`` mm wide onto a lower one, kN/m2, and how far it reaches, mm."""
        ...

    def roof_wind(self, loads: Loads, height: float, least_side: float) -> RoofWind | None:
        """Return the wind that lifts a roof of a mean height over ground and a least side, mm; None where no rule covers it."""
        ...

    def wall_wind(self, loads: Loads, height: float, area: float) -> tuple[float, float] | None:
        """Return the suction on parts of walls that carry an area (mm2), and beside corners, kN/m2 at strength level; ``height``: the roof's in the
        mean over ground, mm; None where no rule covers it.
        """
        ...

    def parts_wind(self, loads: Loads, height: float, least_side: float) -> PartsWind | None:
        """Return the wind on parts of a roof of a mean height over ground and a least side, mm; None where no rule covers it."""
        ...

    def rafter_wind(self, wind: PartsWind, pitch: float, area: float) -> Lifting | None:
        """Return what sucks at a rafter of a pitch that carries an area (mm2); None where no rule covers it."""
        ...

    def overhang_wind(self, wind: RoofWind, pitch: float) -> float:
        """Return what lifts a small part of an overhang of a roof of a pitch, kN/m2 of plan at strength level."""
        ...

    def rafter_limit(self, pitch: float) -> Limit:
        """Return the limit of sag of rafters without a ceiling at a pitch (rise over run)."""
        ...

    def stud_limit(self, finishes: frozenset[str]) -> Limit:
        """Return the limit of sag of an outside wall under wind, by the materials of its layers."""
        ...

    def stiffness(self, lumber: Section, species: str, grade: str) -> float:
        """Return E of sawn lumber, N/mm2; raises KeyError as below."""
        ...

    def check_sticks(self, case: StickDemands) -> StickUses:
        """Check elements of trusses; raises KeyError as below."""
        ...

    def check_seat(
        self, size: str, species: str, grade: str, force: float, length: float, combination: str, more: float = 0.0
    ) -> Check:
        """Check the wood of a bottom chord over its bearing; ``force``: on one ply, N, ``length``: of the bearing, ``more``: how much wider
        blocks beside it make it, mm.
        """
        ...

    def block_nails(self, species: str, thin: float, depth: float, long: float, force: float) -> HeelNails:
        """Return the nails of a block, ``long`` mm and as deep as what it lies beside, that take over so much of its load, N at normal duration."""
        ...

    def check_gable_stud(
        self, size: str, species: str, grade: str, clear: float, spacing: float, pressure: float, braced: bool
    ) -> Check:
        """Check a stud of a gable frame against wind, lying flat, or ``braced`` by a board nailed square to its edge."""
        ...

    def plate_distances(self, joined: Joined) -> tuple[float, float]:
        """Return what of sticks' ends and edges counts for nothing under plates or gussets, mm."""
        ...

    def plate_bite(self, joined: Joined) -> float:
        """Return how far a plate or gusset reaches over a stick at least, mm."""
        ...

    def plate_needs(
        self, joined: Joined, species: str, force: Array, duration: Array, grain: Array, heel: float | None
    ) -> float:
        """Return how much contact with one plate or gusset a stick needs at least, however they are turned, mm2; ``force`` at ``grain``
        degrees to its grain in each combination, N (all three: combinations).
        """
        ...

    def plate_used(self, case: PlateDemand) -> tuple[float, str]:
        """Return how far a pair of plates or gussets is used by a stick, and by what; raises KeyError for species without values."""
        ...

    def gusset_nails(self, species: str, force: float, duration: float, heel: float | None) -> int:
        """Return how many nails through each gusset of a pair hold a stick, N."""
        ...

    def unbalanced(self, ground: float, pitch: float, run: float) -> tuple[float, float, float] | None:
        """Return of snow over a ridge, what part of even snow stays on the windward side, what lies more on the lee side beside the
        ridge, kN/m2, and how far down it lies, mm of plan; None where the pitch needs none.  ``run``: from eave to ridge, mm.
        """
        ...

    def check_member(self, case: MemberCase) -> MemberResult:
        """Check a joist, rafter or tie; raises KeyError for sections, species and grades without values."""
        ...

    def check_stud(self, case: StudCase) -> MemberResult:
        """Check a stud; raises KeyError as above."""
        ...

    def check_beam(self, case: BeamCase, forces: BeamForces) -> MemberResult:
        """Check a beam for the forces of its line; raises KeyError as above."""
        ...

    def check_girder(self, case: GirderCase) -> GirderResult:
        """Solve and check a beam on two supports or more; raises KeyError as above, LineError for what stands on nothing."""
        ...

    def slab_bars(self, cases: Sequence[SlabCase]) -> SlabBars:
        """Return the bars of a slab, alike for all its strips; raises LineError for what stands on nothing."""
        ...

    def check_slab(self, case: SlabCase, bars: SlabBars) -> MemberResult:
        """Check a strip of a slab with its bars; raises LineError as above."""
        ...

    @property
    def guard_rules(self) -> GuardRules:
        """What guards must be and hold."""
        ...

    @property
    def stair_rules(self) -> StairRules:
        """What a flight of stairs must keep, and the load on one tread."""
        ...

    def check_stringer(self, case: StringerCase) -> MemberResult:
        """Check a stringer sawn out for its treads; raises KeyError as above."""
        ...

    def check_running(self, case: GirderCase) -> MemberResult:
        """Check a joist on two bearings or more that runs on past or over them; raises as ``check_girder`` does."""
        ...

    def girder_curves(self, case: GirderCase) -> GirderCurves:
        """Return the moments and shears along a beam; raises as its check does."""
        ...

    def check_post(self, case: PostCase) -> MemberResult:
        """Check a post; raises KeyError as above."""
        ...

    def has_values(self, case: PostCase) -> bool:
        """Whether there are values for a post of this section, species and grade."""
        ...

    def across_grain(self, species: str, grade: str, lumber: Section) -> float:
        """Return what lumber bears across its grain, N/mm2."""
        ...

    def fails_bending(
        self, lumber: Section, wood: tuple[str, str], moments: Sequence[tuple[Combination, float]]
    ) -> bool:
        """Whether a beam held all along fails by bending alone under one of these moments (N mm); a quick look."""
        ...

    def greatest_span(self, case: MemberCase) -> Span:
        """Return the greatest clear span of a member; raises ValueError when nothing loads it, KeyError as above."""
        ...

    def rafter_table(self, case: MemberCase, spacing: float, dead: float, live: float, snow: float) -> TableSpan | None:
        """Return how far a rafter reaches by published tables at a spacing, mm, under loads, kN/m2; None where they have no row for it."""
        ...

    def values_read(
        self, case: MemberCase | StudCase | BeamCase | PostCase | GirderCase | SlabCase | StringerCase
    ) -> tuple[tuple[str, Working], ...]:
        """Return the values of the material and section that a check reads, each row with its source."""
        ...

    def ply_nails(
        self, species: str, plies: int, ply: float, depth: float, sides: tuple[float, float]
    ) -> PlyNails | None:
        """Return how the plies of a beam are nailed together under loads on its two faces, N/mm; None for one ply."""
        ...

    def end_nails(self, species: tuple[str, str], thin: float, depth: float, force: float) -> HeelNails:
        """Return the nails through a board (so thick, mm) into the end of another (so deep, mm) that hold a force across it at normal
        duration, N.
        """
        ...

    def lap_nails(self, species: str, thin: float, wide: float, force: float) -> HeelNails:
        """Return the nails where plates so thin and wide (mm) lap at a corner that hold a pull at normal duration, N."""
        ...

    def pressed(self, size: str, wood: tuple[str, str], length: float, push: Cases) -> Check:
        """Check a board of a species and grade, held so far apart both ways (mm), that is pressed along itself, N."""
        ...

    def ledger_nails(
        self, species: tuple[str, str], thin: float, gap: float, main: float, room: float, force: float
    ) -> LedgerNails:
        """Return the nails through a ledger (of the first species, so thick) and sheathing (``gap``) into a stud or rim (of the second, ``main``
        thick behind its face) that hold a force at normal duration, N, where they cross over a height of ``room``; mm.
        """
        ...

    def heel_nails(self, species: tuple[str, str], thin: float, force: float) -> HeelNails:
        """Return the nails between two boards (of these species, the thinner so thick, mm) that hold a force at normal duration, N."""
        ...

    def collar_nails(self, species: tuple[str, str], thin: float, lap: float, force: float) -> HeelNails:
        """Return the nails of a collar tie at each of its rafters (of these species, the thinner so thick, mm, side by side over so much, mm2)
        that hold a pull at normal duration, N.
        """
        ...

    def toe_nails(self, species: tuple[str, str], plies: int, depth: float, thin: float, force: float) -> HeelNails:
        """Return the nails driven aslant through the end of a board of so many plies, ``depth`` mm deep, into the side of another, ``thin`` mm thick,
        that hold a force across both at normal duration, N; of these species.
        """
        ...

    def cut_faults(self, case: CutCase) -> tuple[str, ...]:
        """Return in words what a notch or hole may not be."""
        ...

    def cut_checks(self, case: CutCase) -> list[Check]:
        """Return the checks of what a notch or hole leaves of a member; raises KeyError as ``check_member`` does."""
        ...

    def seat_shear(self, size: str, species: str, grade: str, left: float, force: float) -> Check:
        """Return the check of a force at a member's bird's mouth, N, on the depth that is left there, mm, at normal duration."""
        ...

    def deck_panel(self, thickness: float) -> DeckPanel | None:
        """Return what a panel of a floor deck spans and how it is nailed; None for one too thin, mm."""
        ...

    def roof_panel(self, thickness: float, spacing: float) -> RoofPanel | None:
        """Return a panel of a roof deck over rafters so far apart; None for one too thin, mm."""
        ...

    def deck_boards(self, thickness: float) -> DeckPanel | None:
        """Return what boards of a deck outdoors span; None for thinner ones than there are, mm."""
        ...

    def ledger(self, span: float, load: float) -> Ledger:
        """Return how a ledger outdoors is fastened under joists of a clear span (mm), under kN/m2 in all."""
        ...

    @property
    def ceiling_clause(self) -> str:
        """The clause that asks for a ceiling under light floors over a basement."""
        ...

    def needs_ceiling(self, joist: Section) -> bool:
        """Whether a floor of such joists needs a ceiling under it over what is lived in or stored in."""
        ...

    @property
    def least_bearing(self) -> float:
        """The least length of a joist's or rafter's bearing on wood, mm."""
        ...

    @property
    def least_footing(self) -> LeastFooting:
        """The least that footings measure."""
        ...

    def check_sane(self, case: FootingCase) -> None:
        """Raise FootingError for strengths and sizes of a footing that make no sense."""
        ...

    def check_footing(self, case: FootingCase, width: float, thickness: float, reinforced: bool) -> FootingDesign:
        """Check a footing of given size, choosing its bars where it has them; raises FootingError for nonsense."""
        ...

    def soil_pressure(self, case: FootingCase, width: float, thickness: float) -> float:
        """Return what presses hardest on the soil, kN/m2; raises FootingError for nonsense and when nothing does."""
        ...

    def place_checks(self, case: FootingCase, width: float, thickness: float) -> list[Check]:
        """Return the checks of what keeps a footing in place."""
        ...

    def check_combined(
        self, case: CombinedCase, before: float, length: float, width: float, thickness: float
    ) -> FootingDesign:
        """Check a footing under two columns, choosing its bars; ``before``: its reach beyond the first one, mm."""
        ...

    def combined_pressure(
        self, case: CombinedCase, before: float, length: float, width: float, thickness: float
    ) -> float:
        """Return what presses hardest on the soil under a combined footing, kN/m2."""
        ...

    def wind_checks(self, load: Cases, own: float, width: float, thickness: float, side: Sideways) -> list[Check]:
        """Return uplift, sliding and overturning of a pad of own weight N by wind."""
        ...

    def design_earth_wall(
        self, name: str, case: EarthCase, soil: Soil, concrete: Concrete, masonry: Masonry, waiting: bool
    ) -> EarthWall:
        """Design a foundation wall against earth; ``waiting``: for the floor that is to hold it."""
        ...

    def check_bolts(self, push: float, spacing: float) -> Check:
        """Check anchor bolts of a sill plate under a push at the head of a wall, kN/m."""
        ...

    def bolt_spacing(self, push: float, usual: float) -> float:
        """Return the greatest spacing of bolts (mm) that take a push, kN/m, no more than the usual one."""
        ...

    def cover(self, made_of: WallMaterial, diameter: float) -> float:
        """Return the cover of bars in the face of a wall against earth, mm."""
        ...

    @property
    def cover_below(self) -> float:
        """The cover of bars in concrete cast against earth, mm."""
        ...

    def lap(self, diameter: float, fc: float, fy: float) -> float:
        """Return the length of a lap of bars, mm."""
        ...
