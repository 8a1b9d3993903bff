"""Veneers of masonry that stand on nothing: their foundations have no ledge for them."""

from collections.abc import Iterable

from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.model.buildups import veneer
from balken.model.lookup import wall_label
from balken.units import say_inches

BEARS = 2.0 / 3.0
"""So much of its thickness a leaf of masonry must bear on (common practice; Brick Industry Association, technical note 28)."""


def veneers(c: Model) -> Iterable[Finding]:
    """Foundations under walls with a leaf of masonry outside their core, whose ledges are missing or too narrow."""
    told: set[str] = set()
    for run in c.runs:
        f, line = run.foundation, c.lines[run.wall]
        leaf, gap = veneer(line.buildup)
        need = f.inset + gap + leaf
        if f.id in told or leaf <= 0.0 or not run.band.outside or f.ledge >= f.inset + gap + BEARS * leaf - 0.5:
            continue
        told.add(f.id)
        fix, do = None, ""
        if f.made_of != "concrete":
            do = " Blocks have no ledge: make it of concrete, or thicker with a thinner upper part."
        elif need >= f.thickness:
            do = f" Make it thicker than {say_inches(need, c.units)} first."
        else:
            fix = Fix(f"Give it a ledge of {say_inches(need, c.units)}", "change", (f.id,), (("ledge", need),))
        has = f"a ledge of {say_inches(f.ledge, c.units)}" if f.ledge > 0.0 else "no ledge"
        yield Finding(
            "veneer",
            "foundations",
            f"{f.name}: the veneer of {wall_label(c.project, run.wall)} stands on nothing",
            f"{say_inches(leaf, c.units)} of masonry stand {say_inches(gap, c.units)} off the wall; the foundation has {has}. It is "
            f"to reach out {say_inches(need, c.units)} under them.{do}",
            (f.id, run.wall),
            (*line.band.at(line.band.length / 2.0, 0.0), run.band.top),
            fix=fix,
        )


VENEER_RULES = (veneers,)
