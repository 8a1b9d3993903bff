"""Foundation walls of block: whole courses from footing to top, and steps by whole courses."""

import itertools
from collections.abc import Iterable

from balken.catalog.blocks import BONDS, Bond
from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.framing.foundations import FoundationRun
from balken.model.lookup import wall_label
from balken.units import say_inches, say_length

FITS = 3.0
"""What the bed joints can take up over the height of a wall, mm (common practice, no source)."""


def courses(c: Model) -> Iterable[Finding]:
    """Walls whose height, or steps whose drop, is not of whole courses: a course of cut blocks all along."""
    bond = BONDS[c.project.steps]
    seen: set[tuple[str, str]] = set()
    for run in c.runs:
        f = run.foundation
        if f.made_of == "concrete":
            continue
        tall = run.band.top - run.band.bottom
        short = _short(tall, bond)
        if short > FITS and (f.id, "height") not in seen:
            seen.add((f.id, "height"))
            yield Finding(
                "courses",
                "foundations",
                f"{f.name}: {tall / bond.height:.1f} courses of block",
                f"From footing to top it is {say_length(tall, c.units)} high; the top course would be cut. "
                f"{say_inches(short, c.units)} more make whole courses of {say_inches(bond.height, c.units)}.",
                (f.id,),
                (*run.band.at(run.length / 2.0, 0.0), run.band.top),
                grave=False,
                fix=Fix(
                    f"Lower its foot by {say_inches(short, c.units)}",
                    "change",
                    (f.id,),
                    (("foot__offset", f.foot.offset - short),),
                ),
            )
        off = _steps_off(run, bond)
        if off is not None and (f.id, "steps") not in seen:
            seen.add((f.id, "steps"))
            yield Finding(
                "courses",
                "foundations",
                f"{f.name}: a step off the courses under {wall_label(c.project, run.wall)}",
                f"It drops {say_length(abs(off), c.units)}; block courses are {say_inches(bond.height, c.units)} high. "
                "The bottom course would be cut.",
                (f.id,),
                (*run.band.at(run.segments[0].high, 0.0), run.band.bottom),
                grave=False,
                fix=Fix("Make its steps whole courses, going deeper", "steps_on_courses", (f.id, bond.height)),
            )


def _short(tall: float, bond: Bond) -> float:
    """Return what a height lacks to whole courses."""
    rest = tall % bond.height
    return 0.0 if min(rest, bond.height - rest) <= FITS else bond.height - rest


def _steps_off(run: FoundationRun, bond: Bond) -> float | None:
    """Return the drop of the first step that is not of whole courses, at the start of the wall or along it."""
    if _short(abs(run.segments[0].drop), bond) > 0.0:
        return run.segments[0].drop
    for a, b in itertools.pairwise(run.segments):
        drop = b.drop - a.drop
        if _short(abs(drop), bond) > 0.0:
            return drop
    return None
