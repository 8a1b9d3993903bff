"""What wind lifts at the bearings of roofs followed down: at each foot of a wall, post or beam, and at foundations, what holds it down there."""

from collections.abc import Mapping

from balken.catalog.straps import MADE_UP
from balken.framing.bands import WallLine
from balken.loads.path import LoadPath
from balken.model.records import Opening
from balken.units.system import INCH
from balken.value import Value

ACTS = 0.6
"""Of the dead load and of the wind at strength level (ASCE 7-16, 2.4.1, combination 7: 0.6 D + 0.6 W)."""
LEAST_LONG = 12.0 * INCH
"""So much of a wall is taken to be there for ties at least."""
Openings = Mapping[str, tuple[Opening, ...]]
APART = (48.0 * INCH, 32.0 * INCH, 16.0 * INCH)
"""How far apart ties stand along the foot of a wall: at every third, second or each stud."""


class FootLifted(Value, frozen=True):
    """What lifts at the foot of a wall, post or foundation: N in all after 0.6 of the dead load there, below zero: it stays down.

    ``tie``: what ties a wall to what is below it, ``apart`` mm along it; "" where nothing is needed or nothing does.
    """

    thing: str
    gross: float
    net: float
    tie: str
    apart: float


def feet_lifted(
    gross: dict[str, float], path: LoadPath, lines: dict[str, WallLine], openings: Openings
) -> tuple[FootLifted, ...]:
    """Follow what lifts down: at each foot 0.6 of all that is dead above it holds it down; ``openings`` by wall, beside which its ties stand."""
    up, found = dict(gross), []
    heights = {w: line.band.bottom for w, line in lines.items()} | {
        c: made.stand.foot for c, made in path.columns.items()
    }
    heights |= {b: made.line.top for b, made in path.beams.items()}
    for name in (*sorted(heights, key=lambda n: -heights[n]), *path.runs, *path.pads):
        if up.get(name, 0.0) <= 0.0:
            continue
        net, long = up[name] - ACTS * _dead(name, path), 0.0
        if name in lines:
            open_ = sum(o.width for o in openings.get(name, ()))
            long = max(lines[name].band.length - open_, LEAST_LONG)
        found.append(FootLifted(name, up[name], net, *_tied(net, long)))
        below = path.below.get(name, ())
        shares = [max(path.shares[(name, b)].dead, 0.0) if (name, b) in path.shares else 0.0 for b in below]
        for b, share in zip(below, shares, strict=True):
            part = share / sum(shares) if sum(shares) > 0.0 else 1.0 / len(below)
            up[b] = up.get(b, 0.0) + up[name] * part
    return tuple(found)


def _dead(name: str, path: LoadPath) -> float:
    """Return what is dead at a foot, N."""
    if name in path.columns:
        return path.columns[name].foot.dead
    if name in path.beams:
        return path.beams[name].load.dead
    if name in path.pads:
        return path.pads[name].dead
    return (path.walls.get(name) or path.runs[name]).foot.dead


def _tied(net: float, long: float) -> tuple[str, float]:
    """Return the tie of a wall's foot and how far apart, mm: as few as hold it; ("", 0) where none is needed or none does."""
    if net <= 0.0:
        return "", 0.0
    if long <= 0.0:  # a post: one tie
        return next((row.name for row in MADE_UP if row.up >= net), ""), 0.0
    for apart in APART:
        for row in MADE_UP:
            if row.up >= net / long * apart:
                return row.name, apart
    return "", 0.0
