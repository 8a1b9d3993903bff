"""Solids of members by their sections: a rectangle, or an I-joist's flanges and webs."""

import math

import shapely

from balken.catalog.section_record import Section
from balken.geometry.arcs import circle
from balken.geometry.plane import Ring, anticlockwise
from balken.geometry.prism import Prism, Vec, box, cross3, unit3
from balken.model.kinds.member_edit import MemberCut


def bar(start: Vec, end: Vec, side: Vec, section: Section) -> Prism:
    """Return a member from ``start`` to ``end``, points in the middle of its underside; ``side``: way of its breadth."""
    if not section.flange:
        return box(start, end, side, section.breadth, section.depth)
    up = cross3(unit3(start, end), side)
    return Prism(start, side, up, (profile(section),), math.dist(start, end))


def level_bar(start: Vec, end: Vec, breadth: float, depth: float) -> Prism:
    """Return a level rectangular member whose underside runs from ``start`` to ``end``, upright whichever way it runs."""
    ax, ay, _ = unit3(start, end)
    return box(start, end, (-ay, ax, 0.0), breadth, depth)


def cut_bar(start: Vec, end: Vec, side: Vec, section: Section, cuts: tuple[MemberCut, ...]) -> Prism:
    """Return a rectangular member with notches and holes, cut square through its breadth; an I-joist is shown whole."""
    if section.flange:
        return bar(start, end, side, section)
    axis, d, long = unit3(start, end), section.depth, math.dist(start, end)
    shape = shapely.box(0.0, 0.0, long, d)
    for cut in cuts:
        if cut.kind == "hole":
            middle = d / 2.0 if cut.up is None else cut.up
            shape = shape.difference(shapely.Polygon(circle((cut.at, middle), cut.deep / 2.0)))
        else:
            low, high = (d - cut.deep, d) if cut.kind == "notch above" else (0.0, cut.deep)
            shape = shape.difference(shapely.box(cut.at - cut.long / 2.0, low, cut.at + cut.long / 2.0, high))
    if not isinstance(shape, shapely.Polygon) or shape.is_empty:
        return bar(start, end, side, section)  # nothing whole is left of it: a finding says so
    outer = anticlockwise(tuple((float(x), float(y)) for x, y in shape.exterior.coords[:-1]))
    holes = [tuple((float(x), float(y)) for x, y in ring.coords[:-1]) for ring in shape.interiors]
    half = section.breadth / 2.0
    origin = (start[0] + side[0] * half, start[1] + side[1] * half, start[2] + side[2] * half)
    return Prism(origin, axis, cross3(axis, side), (outer, *holes), section.breadth)


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
