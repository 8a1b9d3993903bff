"""Findings of purlins: what nothing holds up, what holds no rafters, lies in the ties, is let in where no notch may be."""

import math
from collections.abc import Iterable

from balken.catalog.sections import section
from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.design.purlin_posts import APART, purlin_ends
from balken.design.struts import HeldStrut, pushed
from balken.design.surface_design import SurfaceDesign
from balken.findings.names import in_one
from balken.framing.purlins import FIRST, LAST, TOUCH, crossing, notch_depth, underside
from balken.framing.surface_members import AS_OTHERS
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.plane import distance
from balken.geometry.roof_edges import Place
from balken.model.lookup import wall_label
from balken.standards.checks import used_text
from balken.standards.demands import CutCase
from balken.units import format_force, say_inches, say_length

THIRD = 1.0 / 3.0
ASIDE = 0.1
"""Of what struts bring to a wall they may push it aside with, so much of it is no more than what is never quite alike."""


def purlin_findings(c: Model, plan: SurfacePlan, framing: SurfaceDesign, at: Place) -> Iterable[Finding]:
    """Purlins whose ends nothing holds, that find no rafters to hold, or lie in the ceiling ties; such as are let in where they may not be."""
    roof = plan.roof
    if roof.purlins_at > 0.0 and not framing.purlins:
        yield Finding(
            "purlin",
            "roof",
            f"{roof.name}: purlins {say_length(roof.purlins_at, c.units)} in of its walls hold no rafters",
            f"They hold whole rafters that they meet between {FIRST:g} and {LAST:g} of their run, three beside one another at least. Lay them "
            "nearer to the middle of the rafters.",
            (roof.id,),
            at,
        )
    yield from _let_in(c, plan, framing)
    yield from _struts(c, plan, framing)
    loose = {framing.carried.names[i]: end for end in framing.carried.settled.unheld for i in end.lines}
    for one in framing.purlins:
        end = loose.get(one.key)
        if end is None:
            continue
        come = format_force(c.standard.combinations.worst(end.force)[0], c.units)
        yield Finding(
            "purlin",
            "roof",
            f"{roof.name}: nothing holds up an end of purlin {c.marks.get(one.key, '')}",
            f"{come} come there and go nowhere, and rafters are checked as if it held them. Set posts under it.",
            (one.key, roof.id),
            (*end.at[:2], plan.bearing + end.at[2]),
            fix=Fix("Set posts under its purlins", "posts_under_purlins", (roof.id, purlin_ends(plan, framing), APART)),
        )
    for one in framing.purlins:
        low = underside(plan, one, framing.boards.lines[one.key], framing.boards.rafter)
        low -= plan.bearing + plan.edges[one.edge].start
        deep = section(framing.tied.size).depth if framing.tied is not None else 0.0
        if low < deep:
            yield Finding(
                "purlin",
                "roof",
                f"{roof.name}: purlin {c.marks.get(one.key, '')} lies in the ceiling ties",
                f"Its underside is {say_length(max(low, 0.0), c.units)} over the plates, the ties are {say_inches(deep, c.units)} deep. Lay it "
                "farther in of the wall.",
                (one.key, roof.id),
                c.place(one.key),
            )


def _struts(c: Model, plan: SurfacePlan, framing: SurfaceDesign) -> Iterable[Finding]:
    """Struts that are too weak, or push a wall aside with nothing on its other side."""
    by_wall: dict[str, list[HeldStrut]] = {}
    for one in framing.struts:
        by_wall.setdefault(one.strut.wall, []).append(one)
    for wall, some in by_wall.items():
        worst, aside = max(some, key=lambda one: one.result.used), pushed(some, c.standard)
        if worst.result.used > 1.0:
            yield Finding(
                "purlin",
                "roof",
                f"{plan.roof.name}: struts {worst.size} on {wall_label(c.project, wall)} used {used_text(worst.result.used)}",
                f"{worst.result.governs.name} governs ({worst.result.governs.clause}). Set them closer, or posts under the purlins.",
                (plan.roof.id, worst.strut.key),
                (*worst.strut.at, plan.bearing),
            )
        down = sum(c.standard.combinations.worst(one.force)[0] for one in some)
        if aside > ASIDE * down:
            yield Finding(
                "purlin",
                "roof",
                f"{plan.roof.name}: struts push {wall_label(c.project, wall)} aside with {format_force(aside, c.units)}",
                "They lean on it from one side, or harder from one. Nothing checks what holds its head: struts from both slopes to one wall, walls below "
                "the purlins, or posts.",
                (plan.roof.id, wall),
                (*worst.strut.foot, plan.bearing),
                grave=False,
            )


def _let_in(c: Model, plan: SurfacePlan, framing: SurfaceDesign) -> Iterable[Finding]:
    """Purlins let into rafters deeper than these may be notched, or where they may not be (IRC R802.7.1 asks of rafters what R502.8.1 does)."""
    roof, boards, into = plan.roof, framing.boards, crossing(plan, framing.members, framing.purlins)
    faulty: dict[tuple[str, ...], list[str]] = {}
    for one in framing.members:
        if one.key not in into:
            continue
        purlin, size, wood = into[one.key], boards.own.get(one.key, boards.rafter), boards.wood.get(one.key, AS_OTHERS)
        made = wood.species or roof.rafters.species, wood.grade or roof.rafters.grade
        deep = notch_depth(plan, boards.rafter, size)
        if deep <= TOUCH:
            continue
        wide, part = section(boards.lines[purlin.key]).breadth, purlin.inward / distance(*one.member.ends)
        middle = THIRD + 1e-6 < part < 1.0 - THIRD - 1e-6
        case = CutCase("notch below", size, *made, deep, wide, 0.0, False, 0.0, middle, math.inf, 0.0, 0.0)
        faulty.setdefault(c.standard.cut_faults(case), []).append(one.key)
    for faults, keys in faulty.items():
        if not faults:
            continue
        count = f"{len(keys)} rafters" if len(keys) > 1 else "a rafter"
        yield Finding(
            "purlin",
            "roof",
            f"{roof.name}: purlins are let into {count} as none may be notched",
            f"{in_one(faults)} The span is counted from eave to ridge, purlins are let in by {say_inches(roof.purlins_in, c.units)}, and by as much "
            "more as a rafter is deeper than the others. Let them in by less, or lay them under rafters of one depth.",
            (roof.id, *keys),
            c.place(keys[0]),
            fix=Fix("Lay purlins under the rafters", "change", (roof.id,), (("purlins_in", 0.0),))
            if roof.purlins_in > 0.0
            else None,
        )
