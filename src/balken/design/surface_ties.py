"""Ceiling ties under roofs of planes: one section for all of a roof, for the worst of them; each checked with its own pull."""

from msgspec.structs import replace

from balken.catalog.sections import TIE_SIZES
from balken.design.layouts import LayoutDesign, design_layout
from balken.framing.bands import WallLine
from balken.framing.surface_edits import EditedTies, edited_ties
from balken.framing.surface_members import AS_OTHERS
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.surface_ties import Leaning, SurfaceTie, surface_ties
from balken.loads.area_loads import ceiling_cases
from balken.loads.cases import Cases
from balken.model.records import Loads, MemberEdit
from balken.standards.checks import MemberResult
from balken.standards.demands import MemberCase, with_wood
from balken.standards.standard import Standard
from balken.units import Units


def ceiling_on(tie: SurfaceTie, loads: Loads) -> Cases:
    """Return what the ceiling under a raised tie brings to each of its rafters, N: the sloping parts beside it too, which hang under
    the rafters, so that these are bent by no less.
    """
    line = tie.line
    return ceiling_cases(loads).scaled((line.load_high - line.load_low) / 2.0 * line.width / 1000.0)


def _rounded(cases: Cases) -> Cases:
    return Cases(*(round(v, 3) for v in cases))


def design_ties(
    plan: SurfacePlan,
    lean: Leaning,
    pushes: dict[str, Cases],
    design: LayoutDesign,
    loads: Loads,
    lines: dict[str, WallLine],
    units: Units,
    standard: Standard,
    edits: tuple[MemberEdit, ...] = (),
) -> tuple[EditedTies, LayoutDesign | None, dict[str, MemberResult]]:
    """Lay the ties of pairs, choose their section for the worst of them, check each; each takes the greater push of its pair.

    ``edits``: of single ones by hand.
    """
    roof = plan.roof
    laid = surface_ties(plan, lean.pairs, design.size, roof.ties.size or TIE_SIZES[0], design.spacing, lines)
    after = edited_ties(plan, laid, edits, roof.ties.size or TIE_SIZES[0])
    ties = after.ties
    if not ties:
        return after, None, {}
    q = ceiling_cases(loads)

    def case(tie: SurfaceTie, size: str, times: float = 1.0) -> MemberCase:
        one, other = (pushes[key] for key in tie.rafters)
        nailed = tie.raised > 0.0
        tension = Cases(*(max(a, b) for a, b in zip(one, other, strict=True))).scaled(times)
        return MemberCase(
            "ceiling tie", size, roof.ties.species, roof.ties.grade, round(max(tie.line.clear, 1.0), 3), round(tie.line.width * times, 3),
            q, standard.tie_limit, round(max(min(tie.line.bearings), 1.0), 3), tension=tension, nailed=nailed,
            bears=_rounded(ceiling_on(tie, loads).scaled(times)) if nailed else Cases(),
        )  # fmt: skip

    others = [tie for tie in ties if not after.made.get(tie.key, AS_OTHERS).size] or list(ties)
    alike = {case(tie, TIE_SIZES[0]): tie for tie in others}
    fixed = replace(roof.ties, spacing=design.spacing)  # ties lie beside rafters

    def cases_for(size: str, apart: float) -> list[MemberCase]:
        return [case(tie, size, apart / design.spacing) for tie in alike.values()]

    tied = design_layout(fixed, TIE_SIZES, units, cases_for, standard)
    if after.made:
        after = edited_ties(plan, laid, edits, tied.size)
    wood = {tie.key: after.made.get(tie.key, AS_OTHERS) for tie in ties}
    cases = {tie.key: with_wood(case(tie, wood[tie.key].sized(tied.size)), wood[tie.key]) for tie in ties}
    return after, tied, {key: standard.check_member(one) for key, one in cases.items()}
