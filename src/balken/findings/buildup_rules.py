"""Build-ups whose names or materials say something else than their layers."""

import re
from collections.abc import Iterable

from balken.catalog.sections import section
from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.model.buildups import CLOSE, display_name, stud_size
from balken.model.lookup import by_id, wall_label
from balken.units import say_inches

SAID = re.compile(r"\b2 ?x ?(4|6|8|10|12)\b", re.IGNORECASE)


def buildups(c: Model) -> Iterable[Finding]:
    """Build-ups in use that contradict themselves."""
    used = {wall.buildup: wall for wall in reversed(c.project.walls)}
    for name, wall in used.items():
        buildup = by_id(c.project.buildups)[name]
        studs, core = stud_size(buildup), next(v for v in buildup.layers if v.function == "core")
        at, called = (*c.lines[wall.id].band.start, 0.0), display_name(buildup, c.units)
        if studs is not None and abs(core.thickness - section(studs).depth) > CLOSE:
            yield Finding(
                "build-up",
                "walls",
                f"{called}: its {core.material} are {say_inches(section(studs).depth, c.units)} deep, its core "
                f"{say_inches(core.thickness, c.units)}",
                f"Studs are designed as {studs}, walls and floors set out by the core, as of {wall_label(c.project, wall.id)}. Type the "
                "thickness of the core again: its studs follow.",
                (wall.id,),
                at,
            )
        said = SAID.search(buildup.name)
        if said is not None and studs is not None and f"2x{said[1]}" != studs:
            yield Finding(
                "build-up",
                "walls",
                f"{called}: named after studs of 2x{said[1]}, made of {studs}",
                "Its name was typed; its layers were changed since. A name that is left empty follows from the layers.",
                (wall.id,),
                at,
                grave=False,
                fix=Fix("Name it by its layers", "change", (name,), (("name", ""),)),
            )


BUILDUP_RULES = (buildups,)
