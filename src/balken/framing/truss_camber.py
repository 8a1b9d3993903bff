"""Camber: a truss built up in its middle, so that it lies level under what always lies on it.

Its chords are straight from joint to joint of their pieces; the joints where they bend lie on a parabola over both bearings.
"""

from msgspec.structs import replace

from balken.catalog.sections import section
from balken.framing.truss_outline import TrussOutline, height_on, moved
from balken.framing.trusses import TrussFrame
from balken.geometry.plane import Point

AT = 1.0
"""What is no farther from a place is there, mm."""


def built_up(outline: TrussOutline, camber: float, x: float) -> float:
    """Return how much higher a place along a truss is built than it is to lie, mm."""
    part = (x - outline.start) / outline.span
    return camber * 4.0 * part * (1.0 - part)


def bends(frame: TrussFrame) -> list[float]:
    """Return where along a truss its bottom chord bends as it is built up: at its own bends and its splices, mm."""
    own = {x for x, _ in frame.outline.bottom[1:-1]}
    return sorted(own | {frame.joints[name][0] for name in frame.splices if " bottom " in name})


def lifted(frame: TrussFrame, camber: float) -> TrussFrame | None:
    """Return a truss as it is built up, ``camber`` mm in its middle; None where no joint of its bottom chord bends, or it bears on more than its
    ends or not at them.
    """
    outline = frame.outline
    at = bends(frame)
    if not at or len(outline.bearings) != 2 or max(outline.past) > AT:
        return None
    bottom = (
        outline.bottom[0],
        *((x, height_on(outline.bottom, x) + built_up(outline, camber, x)) for x in at),
        outline.bottom[-1],
    )
    inner = tuple((x, y + built_up(outline, camber, x)) for x, y in outline.top[1:-1])
    first, last = ((x, height_on(outline.top, x)) for x in (outline.start, outline.end))
    line = (first, *inner, last)
    # Past the bearings top chords run on straight.
    tips = tuple((x, height_on(line, x)) for x in (outline.top[0][0], outline.top[-1][0]))
    built = replace(outline, top=(tips[0], *inner, tips[1]), bottom=bottom)
    joints = _joints(frame, built)
    return replace(frame, outline=built, joints=joints)


def _joints(frame: TrussFrame, built: TrussOutline) -> dict[str, Point]:
    """Return the joints on the middle lines of the chords as they are built; heels, where those cross, stay."""
    top = moved(built.top, -section(frame.sizes.top).depth / 2.0)
    bottom = moved(built.bottom, section(frame.sizes.bottom).depth / 2.0)
    on = {
        chord: {n for s in frame.sticks if s.role == f"{chord} chord" for n in s.joints} for chord in ("top", "bottom")
    }
    found = {}
    for name, (x, y) in frame.joints.items():
        if name in on["top"] and name in on["bottom"]:
            found[name] = (x, y)
        else:
            found[name] = (x, height_on(top if name in on["top"] else bottom, x))
    return found
