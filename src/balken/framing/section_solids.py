"""Solids of members by their sections: a rectangle, or an I-joist's flanges and webs."""

import math

from balken.catalog.section_record import Section
from balken.geometry.plane import Ring
from balken.geometry.prism import Prism, Vec, box, cross3, unit3


def bar(start: Vec, end: Vec, side: Vec, section: Section) -> Prism:
    """Return a member from ``start`` to ``end``, points in the middle of its underside; ``side``: way of its breadth."""
    if not section.flange:
        return box(start, end, side, section.breadth, section.depth)
    up = cross3(unit3(start, end), side)
    return Prism(start, side, up, (profile(section),), math.dist(start, end))


def profile(section: Section) -> Ring:
    """Return the outline of a section about its middle, from its underside up, anticlockwise, mm.

    I-joists side by side are shown as one: flanges as wide as all, one web as thick as all of theirs.
    """
    b, d = section.breadth / 2.0, section.depth
    if not section.flange:
        return ((-b, 0.0), (b, 0.0), (b, d), (-b, d))
    return i_shape(b, d, section.flange, section.plies * section.web / 2.0)


def i_shape(half: float, depth: float, flange: float, web: float) -> Ring:
    """Return an I about its middle: half its width, depth, thickness of a flange, half that of the web, mm."""
    b, d, f, t = half, depth, flange, web
    return (
        (-b, 0.0), (b, 0.0), (b, f), (t, f), (t, d - f), (b, d - f),
        (b, d), (-b, d), (-b, d - f), (-t, d - f), (-t, f), (-b, f),
    )  # fmt: skip
