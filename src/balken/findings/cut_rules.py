"""Notches and holes in single joists: where none may be, and where too little is left."""

import math
from collections.abc import Iterable, Iterator
from itertools import pairwise

from balken.catalog.sections import section
from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.design.running_joists import running_case
from balken.findings.names import in_one
from balken.framing.floors import FloorPlan
from balken.framing.pieces import MadeOf, MemberLine
from balken.model.kinds.member_edit import MemberCut
from balken.model.naming import piece_name
from balken.standards.checks import used_text
from balken.standards.demands import CutCase, GirderCase

NEAR_END = 25.0
"""A notch that comes nearer than this to a bearing's inner face is one at the end, mm."""


def cut_cases(c: Model, plan: FloorPlan) -> Iterator[tuple[str, MemberLine, MemberCut, CutCase]]:
    """Give each notch and hole of a floor's joists: the joist's name and line, the cut, its case."""
    made = c.edited[plan.floor.id].made
    size = c.designs[(plan.floor.id, "joists")].size
    for line in plan.lines:
        name = piece_name(plan.floor.id, "joist", line.place)
        if name not in made or not made[name].cuts:
            continue
        on = c.path.decks.get(plan.floor.id)
        rows = on.joists.get(name, ()) if on is not None else ()
        whole = sum(1 for stop in line.stops if stop[0]) > 1
        case = (
            running_case(plan.floor, line, plan.spacing, c.project.loads, size, c.standard, made[name], rows)
            if whole
            else None
        )
        for cut in made[name].cuts:
            yield name, line, cut, _case(c, line, cut, made[name], size, case)


def _case(c: Model, line: MemberLine, cut: MemberCut, own: MadeOf, layout: str, case: GirderCase | None) -> CutCase:
    size = own.sized(layout)
    lumber = section(size)
    half = (cut.long if cut.kind != "hole" else cut.deep) / 2.0
    low, high = line.low + cut.at - half, line.low + cut.at + half
    faces = [(at - bearing / 2.0, at + bearing / 2.0) for _, at, bearing in line.stops]
    beyond = min(abs(high - faces[0][1]) if low <= faces[0][1] + NEAR_END else math.inf,
                 abs(low - faces[-1][0]) if high >= faces[-1][0] - NEAR_END else math.inf)  # fmt: skip
    third = False
    for (_, a), (b, _) in pairwise(faces):
        third |= high > a + (b - a) / 3.0 and low < b - (b - a) / 3.0
    others = [o for o in own.cuts if o is not cut]
    apart = [abs(o.at - cut.at) - half - (o.long if o.kind != "hole" else o.deep) / 2.0 for o in others]
    moment, shear = _forces(c, case, line, low, high)
    return CutCase(
        cut.kind, size, own.species or _wood(c, line)[0], own.grade or _wood(c, line)[1], min(cut.deep, lumber.depth), cut.long,
        lumber.depth / 2.0 if cut.up is None else cut.up, cut.kind != "hole" and beyond < math.inf,
        0.0 if beyond == math.inf else beyond, third, min(apart, default=math.inf), moment, shear,
    )  # fmt: skip


def _wood(c: Model, line: MemberLine) -> tuple[str, str]:
    plan = next(plan for plan in c.floors if line in plan.lines)
    return plan.floor.joists.species, plan.floor.joists.grade


def _forces(c: Model, case: GirderCase | None, line: MemberLine, low: float, high: float) -> tuple[float, float]:
    """Return the greatest moment and shear between two places of a joist, up or down, at normal load duration."""
    if case is None:
        return 0.0, 0.0
    curves = c.standard.girder_curves(case)
    origin = min(line.low, line.load_low)
    near = [k for k, x in enumerate(curves.at) if low - 150.0 <= x + origin <= high + 150.0] or [0]
    # Dead load alone lasts longer: 0.9 of the strength is there for it.
    load = case.load
    longer = max(load.dead / 0.9 / max(load.dead + load.live, 1e-9), 1.0) if load.dead else 1.0
    moment = max(max(abs(curves.sag[k]), abs(curves.hog[k])) for k in near)
    return moment * longer, max(max(abs(curves.up[k]), abs(curves.down[k])) for k in near) * longer


def cuts(c: Model) -> Iterable[Finding]:
    """Notches and holes that may not be there, and those that leave too little."""
    for plan in c.floors:
        if not any(own.cuts for own in c.edited[plan.floor.id].made.values()):
            continue
        for name, line, cut, case in cut_cases(c, plan):
            over = [check for check in c.standard.cut_checks(case) if check.used > 1.0]
            faults = [*c.standard.cut_faults(case)]
            faults += [f"{check.name} is used {used_text(check.used)} ({check.clause})" for check in over]
            if cut.at > line.high - line.low or cut.deep >= case.section.depth:
                faults.append("it lies beside the joist, or cuts it through")
            if faults:
                yield Finding(
                    "notch or hole",
                    "floors",
                    f"{c.marks.get(name, 'A joist')}: {_said(cut)} that cannot be",
                    f"{in_one(faults)} Move it, make it smaller, or frame an opening instead.",
                    (name,),
                    (*plan.frame.back(line.low + cut.at, line.t), c.level_height(plan.floor.level)),
                    fix=Fix("Leave the joist whole", "back_to_layout", (name,)),
                )


def _said(cut: MemberCut) -> str:
    return {"hole": "a hole", "notch above": "a notch from above", "notch below": "a notch from below"}[cut.kind]


CUT_RULES = (cuts,)
