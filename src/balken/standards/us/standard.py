"""The standards of the United States as one object."""

from collections.abc import Mapping, Sequence

from msgspec import field

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
from balken.standards.us import (
    aci,
    anchor_bolts,
    beam_checks,
    block_walls,
    combined_case,
    concrete_walls,
    deck_panels,
    earth_walls,
    footing_case,
    footing_checks,
    girders,
    gussets,
    i_joists,
    member_cuts,
    members,
    one_way_slabs,
    outdoor_decks,
    ply_nails,
    post_checks,
    pressed_boards,
    rafter_tables,
    snow,
    stringers,
    stud_checks,
    truss_plates,
    truss_sticks,
    wind,
    wind_parts,
)
from balken.standards.us.asce7 import ASD
from balken.standards.us.stability import repetitive_factor
from balken.standards.us.values import reference_values, size_factors
from balken.units.system import INCH
from balken.value import Value

SAG = "IRC R301.7"
FLOORS, CEILINGS = Limit(360.0, SAG), Limit(240.0, SAG)
_LETTERS = dict(zip(Cases._fields, ("D", "L", "Lr", "S", "W"), strict=True))


class UnitedStates(Value, frozen=True, eq=False):
    """ASCE 7-16, NDS 2018, ACI 318-19, TMS 402-16, AISC 360-16, IRC 2018."""

    id: str = "us"
    title: str = "United States: ASCE 7-16, NDS 2018, ACI 318-19, TMS 402-16, AISC 360-16, IRC 2018"
    letters: Mapping[str, str] = field(default_factory=lambda: _LETTERS)
    combinations: Combinations = ASD
    joist_limit: Limit = FLOORS
    tie_limit: Limit = CEILINGS
    """Ceilings with flexible finish (gypsum board)."""
    ceiling_clause: str = "IRC R302.13"
    least_bearing: float = members.LEAST_BEARING
    least_footing: LeastFooting = footing_checks.LEAST
    cover_below: float = aci.COVER_EARTH

    def roof_snow(self, loads: Loads, pitch: float, run: float, alone: bool) -> PlaneSnow:
        """Return the snow on a plane by ASCE 7-16, chapter 7, or ground snow where the project says so."""
        return snow.on_plane(loads, pitch, run, alone)

    def ice_at_eaves(self, loads: Loads) -> float:
        """Return twice the flat roof's snow (ASCE 7-16, 7.4.5)."""
        return snow.ice_at_eaves(loads)

    def snow_drift(
        self, loads: Loads, upper: float, lower: float, clear: float, balanced: float
    ) -> tuple[float, float]:
        """Return the drift beside a taller part (7.7.1)."""
        return snow.drift(loads, upper, lower, clear, balanced)

    def snow_sliding(self, loads: Loads, run: float, pitch: float) -> tuple[float, float]:
        """Return what slides down from a roof above (7.9)."""
        return snow.sliding(loads, run, pitch), snow.SLIDES

    def roof_wind(self, loads: Loads, height: float, least_side: float) -> RoofWind | None:
        """Return the wind that lifts a roof of a low-rise building (ASCE 7-16, chapter 28)."""
        return wind.on_roof(loads, height, least_side)

    def wall_wind(self, loads: Loads, height: float, area: float) -> tuple[float, float] | None:
        """Return the suction on parts of walls (IRC Table R301.2(2); ASCE 7-16, Figure 30.3-1)."""
        return wind_parts.on_walls(loads, height, area)

    def parts_wind(self, loads: Loads, height: float, least_side: float) -> PartsWind | None:
        """Return the wind on parts of a roof (IRC Table R301.2(2))."""
        return wind_parts.on_parts(loads, height, least_side)

    def rafter_wind(self, wind: PartsWind, pitch: float, area: float) -> Lifting | None:
        """Return what sucks at a rafter (IRC Table R301.2(2))."""
        return wind_parts.on_rafters(wind, pitch, area)

    def overhang_wind(self, wind: RoofWind, pitch: float) -> float:
        """Return what lifts a small part of an overhang (IRC Table R301.2(2), its figure of overhangs; chapter 28)."""
        return wind_parts.on_small_overhang(wind, pitch)

    def rafter_limit(self, pitch: float) -> Limit:
        """Return L/180 for rafters steeper than 3 in 12 with no ceiling attached, else L/240."""
        return Limit(180.0 if pitch > 0.25 else 240.0, SAG)

    def stud_limit(self, finishes: frozenset[str]) -> Limit:
        """Return H/n by the finishes of the wall (IRC Table R301.7 and note d)."""
        if finishes & {"plaster", "stucco"}:
            return Limit(360.0, SAG)
        if finishes & {"brick", "stone"}:
            return Limit(240.0, SAG)
        return Limit(180.0 if "gypsum board" in finishes else 120.0, SAG)

    def stiffness(self, lumber: Section, species: str, grade: str) -> float:
        """Look E up in the NDS Supplement."""
        return reference_values(species, grade, lumber).e

    def check_sticks(self, case: StickDemands) -> StickUses:
        """Check sticks of trusses by NDS chapter 3."""
        return truss_sticks.check_sticks(case)

    def block_nails(self, species: str, thin: float, depth: float, long: float, force: float) -> HeelNails:
        """NDS 12.3."""
        return ply_nails.block_nails(species, thin, depth, long, force)

    def check_seat(
        self, size: str, species: str, grade: str, force: float, length: float, combination: str, more: float = 0.0
    ) -> Check:
        """Check by NDS 3.10.2."""
        return truss_sticks.check_seat(size, species, grade, force, length, combination, more)

    def check_gable_stud(
        self, size: str, species: str, grade: str, clear: float, spacing: float, pressure: float, braced: bool
    ) -> Check:
        """Check by NDS 3.3.1 and IRC R301.7."""
        return truss_sticks.check_gable_stud(size, species, grade, clear, spacing, pressure, braced)

    def plate_distances(self, joined: Joined) -> tuple[float, float]:
        """Return those of ANSI/TPI 1, 8.3.3, or of nails as the commentary of the NDS has them."""
        of = gussets if joined == "gussets" else truss_plates
        return of.END_DISTANCE, of.EDGE_DISTANCE

    def plate_bite(self, joined: Joined) -> float:
        """Return that of common practice."""
        return gussets.LEAST_BITE if joined == "gussets" else truss_plates.LEAST_BITE

    def plate_needs(
        self, joined: Joined, species: str, force: Array, duration: Array, grain: Array, heel: float | None
    ) -> float:
        """Take the better of the plate along and across the force; nails as thin hold alike in all directions (NDS 12.5.1)."""
        if joined == "gussets":
            return gussets.least_contact(species, force, duration, heel)
        return truss_plates.least_contact(species, force, duration, grain, heel)

    def plate_used(self, case: PlateDemand) -> tuple[float, str]:
        """Work it out by ANSI/TPI 1 chapter 8; gussets by NDS 12.3."""
        return gussets.gusset_used(case) if case.joined == "gussets" else truss_plates.plate_used(case)

    def gusset_nails(self, species: str, force: float, duration: float, heel: float | None) -> int:
        """Work it out by NDS 12.3."""
        return gussets.nails_for(species, force, duration, heel)

    def unbalanced(self, ground: float, pitch: float, run: float) -> tuple[float, float, float] | None:
        """Work it out by ASCE 7-16, 7.6.1."""
        return snow.unbalanced(ground, pitch, run)

    def check_member(self, case: MemberCase) -> MemberResult:
        """Check a joist, rafter or tie by NDS."""
        return members.check_member(case)

    def check_stud(self, case: StudCase) -> MemberResult:
        """Check a stud by NDS."""
        return stud_checks.check_stud(case)

    def check_beam(self, case: BeamCase, forces: BeamForces) -> MemberResult:
        """Check a beam by NDS."""
        return beam_checks.check_beam(case, forces)

    def check_girder(self, case: GirderCase) -> GirderResult:
        """Check a beam by NDS, or of steel by AISC 360."""
        return girders.check_girder(case)

    def slab_bars(self, cases: Sequence[SlabCase]) -> SlabBars:
        """Choose them by ACI 318-19 chapter 7."""
        return one_way_slabs.slab_bars(cases)

    def check_slab(self, case: SlabCase, bars: SlabBars) -> MemberResult:
        """Check a strip by ACI 318-19 chapter 7."""
        return one_way_slabs.check_slab(case, bars)

    @property
    def guard_rules(self) -> GuardRules:
        """IRC Table R301.5 and R312.1."""
        return outdoor_decks.GUARDS

    @property
    def stair_rules(self) -> StairRules:
        """IRC R311.7 and Table R301.5."""
        return StairRules(
            stringers.MOST_RISER, "IRC R311.7.5.1", stringers.LEAST_TREAD, "IRC R311.7.5.2", stringers.LEAST_WIDTH,
            "IRC R311.7.1", stringers.HEADROOM, "IRC R311.7.2", stringers.POINT,
        )  # fmt: skip

    def check_stringer(self, case: StringerCase) -> MemberResult:
        """Check by NDS what is left below its notches."""
        return stringers.check_stringer(case)

    def check_running(self, case: GirderCase) -> MemberResult:
        """Check a joist that runs on by NDS or APA PRI-400, and what lifts."""
        return girders.check_running(case)

    def girder_curves(self, case: GirderCase) -> GirderCurves:
        """Return the moments and shears along a beam, by combinations of allowable stress design."""
        return girders.girder_curves(case)

    def check_post(self, case: PostCase) -> MemberResult:
        """Check a post by NDS or AISC 360."""
        return post_checks.check_post(case)

    def has_values(self, case: PostCase) -> bool:
        """Whether NDS or AISC 360 has values for a post."""
        return post_checks.has_values(case)

    def across_grain(self, species: str, grade: str, lumber: Section) -> float:
        """Return Fc perp (NDS 3.10.2; no load duration factor, Table 4.3.1)."""
        return reference_values(species, grade, lumber).fc_perp

    def fails_bending(
        self, lumber: Section, wood: tuple[str, str], moments: Sequence[tuple[Combination, float]]
    ) -> bool:
        """Look at Fb' with CL = 1 (NDS 3.3.1)."""
        values, cf = reference_values(*wood, lumber), size_factors(*wood, lumber)[0]
        cr = repetitive_factor(lumber.kind, 0.0) if lumber.plies >= 3 else 1.0
        allowed = values.fb * cf * cr * lumber.modulus
        return any(moment > allowed * combo.duration for combo, moment in moments)

    def greatest_span(self, case: MemberCase) -> Span:
        """Solve the checks of NDS for the span."""
        return members.greatest_span(case)

    def rafter_table(self, case: MemberCase, spacing: float, dead: float, live: float, snow: float) -> TableSpan | None:
        """Solve for the loads of Tables R802.4.1."""
        return rafter_tables.rafter_span(case, spacing, dead, live, snow)

    def values_read(
        self, case: MemberCase | StudCase | BeamCase | PostCase | GirderCase | SlabCase | StringerCase
    ) -> tuple[tuple[str, Working], ...]:
        """Return reference values of the NDS Supplement; yield strength of steel."""
        if isinstance(case, GirderCase):
            return girders.girder_values(case)
        if isinstance(case, SlabCase):
            return one_way_slabs.slab_values(case)
        if isinstance(case, StringerCase):
            return stringers.stringer_values(case)
        if isinstance(case, PostCase):
            return post_checks.post_values(case)
        if isinstance(case, (MemberCase, BeamCase)) and case.section.kind == "I-joist":
            return (i_joists.section_row(case.section),)
        return (members.wood_values(case),)

    def ply_nails(
        self, species: str, plies: int, ply: float, depth: float, sides: tuple[float, float]
    ) -> PlyNails | None:
        """Work them out by NDS 12.3, or take those of IRC Table R602.3(1)."""
        return ply_nails.ply_nails(species, plies, ply, depth, sides)

    def end_nails(self, species: tuple[str, str], thin: float, depth: float, force: float) -> HeelNails:
        """Count 16d common nails by NDS 12.3 in end grain (12.5.2.2), of the weaker wood."""
        return ply_nails.end_nails(species, thin, depth, force)

    def lap_nails(self, species: str, thin: float, wide: float, force: float) -> HeelNails:
        """Count 16d common nails by NDS 12.3."""
        return ply_nails.lap_nails(species, thin, wide, force)

    def pressed(self, size: str, wood: tuple[str, str], length: float, push: Cases) -> Check:
        """Check fc <= Fc' by NDS 3.6.3, 3.7.1."""
        return pressed_boards.pressed(size, wood, length, push)

    def ledger_nails(
        self, species: tuple[str, str], thin: float, gap: float, main: float, room: float, force: float
    ) -> LedgerNails:
        """Count 16d common nails by NDS 12.3, across a gap by AWC TR 12, of the weaker wood."""
        return ply_nails.ledger_nails(species, thin, gap, main, room, force)

    def heel_nails(self, species: tuple[str, str], thin: float, force: float) -> HeelNails:
        """Count 16d common nails in single shear by NDS 12.3, of the weaker wood."""
        return ply_nails.heel_nails(species, thin, force)

    def collar_nails(self, species: tuple[str, str], thin: float, lap: float, force: float) -> HeelNails:
        """Count 16d common nails in single shear by NDS 12.3, three at least (IRC Table R602.3(1))."""
        return ply_nails.collar_nails(species, thin, lap, force)

    def toe_nails(self, species: tuple[str, str], plies: int, depth: float, thin: float, force: float) -> HeelNails:
        """Count 16d common nails driven aslant by NDS 12.3 and 12.5.2.3, three at least (IRC Table R602.3(1))."""
        return ply_nails.toe_nails(species, plies, depth, thin, force)

    def cut_faults(self, case: CutCase) -> tuple[str, ...]:
        """Look at IRC R502.8."""
        return member_cuts.cut_faults(case)

    def cut_checks(self, case: CutCase) -> list[Check]:
        """Check the net section by NDS 3.2.3 and 3.4.3.2."""
        return member_cuts.cut_checks(case)

    def seat_shear(self, size: str, species: str, grade: str, left: float, force: float) -> Check:
        """Check shear on what is left by NDS 3.4.3.2(d)."""
        return member_cuts.seat_shear(size, species, grade, left, force)

    def deck_panel(self, thickness: float) -> DeckPanel | None:
        """Look it up in Table R503.2.1.1(1)."""
        return deck_panels.deck_panel(thickness)

    def roof_panel(self, thickness: float, spacing: float) -> RoofPanel | None:
        """Look it up in Table R503.2.1.1(1)."""
        return deck_panels.roof_panel(thickness, spacing)

    def deck_boards(self, thickness: float) -> DeckPanel | None:
        """Look it up in Table R507.7."""
        return outdoor_decks.boards(thickness)

    def ledger(self, span: float, load: float) -> Ledger:
        """Look it up in Table R507.9.1.3(1)."""
        return outdoor_decks.ledger(span, load)

    def needs_ceiling(self, joist: Section) -> bool:
        """Anything lighter than sawn or veneer lumber of 2x10 (IRC R302.13, exception 4)."""
        light = joist.nominal[1] < 10 or joist.board < 1.4 * INCH
        return joist.kind == "I-joist" or (light and joist.kind != "concrete")

    def check_sane(self, case: FootingCase) -> None:
        """Look at bounds of common practice."""
        footing_checks.check_sane(case)

    def check_footing(self, case: FootingCase, width: float, thickness: float, reinforced: bool) -> FootingDesign:
        """Check soil, stability (IBC 1807.2.3, ASCE 7) and concrete (ACI 318)."""
        return footing_checks.check_footing(case, width, thickness, reinforced)

    def soil_pressure(self, case: FootingCase, width: float, thickness: float) -> float:
        """Return the pressure under the worst combination of ASCE 7-16, 2.4.1."""
        return footing_case.soil_pressure(case, width, thickness).pressure

    def place_checks(self, case: FootingCase, width: float, thickness: float) -> list[Check]:
        """Check kern, sliding, overturning, uplift."""
        return footing_checks.place_checks(case, width, thickness)

    def check_combined(
        self, case: CombinedCase, before: float, length: float, width: float, thickness: float
    ) -> FootingDesign:
        """Check soil and concrete (ACI 318, 13.3.4)."""
        return combined_case.checked_combined(case, before, length, width, thickness)

    def combined_pressure(
        self, case: CombinedCase, before: float, length: float, width: float, thickness: float
    ) -> float:
        """Return the pressure under the worst combination of ASCE 7-16, 2.4.1."""
        return combined_case.service_pressure(case, before, length, width, thickness)[0]

    def wind_checks(self, load: Cases, own: float, width: float, thickness: float, side: Sideways) -> list[Check]:
        """Check by ASCE 7-16, 2.4.1, combination 7."""
        return footing_checks.wind_checks(load, own, width, thickness, side)

    def design_earth_wall(
        self, name: str, case: EarthCase, soil: Soil, concrete: Concrete, masonry: Masonry, waiting: bool
    ) -> EarthWall:
        """Design by ACI 318 or, of block, by TMS 402."""
        return earth_walls.design_wall(name, case, soil, concrete, masonry, waiting)

    def check_bolts(self, push: float, spacing: float) -> Check:
        """Check by NDS 12.3."""
        return anchor_bolts.bolt_check(push, spacing)

    def bolt_spacing(self, push: float, usual: float) -> float:
        """Return the spacing by NDS 12.3, in whole inches."""
        return anchor_bolts.bolt_spacing_for(push, usual)

    def cover(self, made_of: WallMaterial, diameter: float) -> float:
        """Return the cover by ACI 318-19, Table 20.5.1.3.1, or TMS 402-16, 6.1.3."""
        return concrete_walls.cover_formed(diameter) if made_of == "concrete" else block_walls.COVER

    def lap(self, diameter: float, fc: float, fy: float) -> float:
        """Return a class B splice (ACI 318-19, 25.5.2)."""
        return 1.3 * aci.development(diameter, fc, fy)


US = UnitedStates()
