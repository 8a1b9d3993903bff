"""Walls of block, brick or concrete above their foundations: carried down, not designed; said once."""

from collections.abc import Iterable

from balken.derived.finding import Finding
from balken.derived.model import Model
from balken.model.lookup import wall_label

SHOWN = 4
"""So many of them are named."""


def solid_walls(c: Model) -> Iterable[Finding]:
    """Walls that bear and have no studs: what lies on them comes down through them, but nothing says that they hold it."""
    walls = [w for w in c.project.walls if w.role != "divides" and w.id in c.lines and w.id not in c.framed]
    if not walls:
        return
    names = ", ".join(wall_label(c.project, w.id) for w in walls[:SHOWN])
    more = f" and {len(walls) - SHOWN} more" if len(walls) > SHOWN else ""
    line = c.lines[walls[0].id]
    yield Finding(
        "walls not designed",
        "walls",
        f"{names}{more}: not designed",
        "Loads are carried down through walls without studs, but what presses, bends and cracks them, lintels over their openings and the "
        "plates on them are not looked at (IRC R606). Have them designed, or frame them.",
        tuple(w.id for w in walls),
        (*line.band.at(line.band.length / 2.0, 0.0), line.band.bottom),
        grave=False,
    )


MASONRY_RULES = (solid_walls,)
