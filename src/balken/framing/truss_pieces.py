"""Trusses as solids: each stick of each ply, in its place in the roof."""

from balken.catalog.sections import section
from balken.framing.pieces import Piece
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_heels import wedge_of
from balken.framing.truss_layout import TrussPlace
from balken.framing.truss_outline import height_on, moved
from balken.framing.truss_sticks import Sawn
from balken.framing.trusses import TrussFrame
from balken.geometry.prism import Prism
from balken.model.naming import piece_name

ROLES = {"top chord": "truss top chord", "bottom chord": "truss bottom chord", "web": "truss web"}


def truss_pieces(
    plan: SurfacePlan, place: TrussPlace, number: int, frame: TrussFrame, sawn: dict[str, Sawn], cut: dict[str, Sawn]
) -> tuple[Piece, ...]:
    """Return the sticks of a truss; ``number``: of its place along the roof, ``cut``: as they are cut where it is built up in its middle."""
    trusses, sizes, found, base = plan.roof.trusses, frame.sizes, [], plan.bearing + place.lift
    thick = section(sizes.top).breadth
    for stick in frame.sticks:
        one, size = sawn[stick.name], sizes.of(stick.role)
        ring = one.ring
        for ply in range(sizes.plies):
            t = place.t + thick * (ply + 1 - sizes.plies / 2.0)
            x, y = place.frame.back(place.start, t)
            ends = [frame.joints[name] for name in (stick.joints[0], stick.joints[-1])]
            middle = t - thick / 2.0
            start, end = ((*place.frame.back(place.start + px, middle), base + py) for px, py in ends)
            found.append(
                Piece(
                    piece_name(plan.roof.id, "truss", number, stick.name, ply), ROLES[stick.role], plan.roof.id, plan.roof.bearing.level,
                    Prism((x, y, base), (*place.frame.s, 0.0), (0.0, 0.0, 1.0), (ring,), thick), "timber", start, end, cut[stick.name].length,
                    size, trusses.species, sizes.grade(stick.role, trusses.wood_grade),
                )
            )  # fmt: skip
    return (*found, *_wedges(plan, place, number, frame))


def _wedges(plan: SurfacePlan, place: TrussPlace, number: int, frame: TrussFrame) -> list[Piece]:
    """Return what fills between plates and the slope of top chords that bear on them, as thick as the truss."""
    outline, trusses, base = frame.outline, plan.roof.trusses, plan.bearing + place.lift
    if not outline.on_top:
        return []
    edge = moved(outline.top, -section(frame.sizes.top).depth)
    thick, found = section(frame.sizes.top).breadth, []
    for k, bearing in enumerate((outline.bearings[0], outline.bearings[-1])):
        xs, y = (bearing.low, bearing.high), bearing.level
        ring = ((xs[0], y), (xs[1], y), (xs[1], height_on(edge, xs[1])), (xs[0], height_on(edge, xs[0])))
        size = wedge_of(max(high for _, high in ring) - y)
        assert size is not None  # else they are not laid out so
        for ply in range(frame.sizes.plies):
            t = place.t + thick * (ply + 1 - frame.sizes.plies / 2.0)
            x, z = place.frame.back(place.start, t)
            start, end = ((*place.frame.back(place.start + px, t - thick / 2.0), base + y) for px in xs)
            found.append(
                Piece(
                    piece_name(plan.roof.id, "wedge", number, k, ply), "truss wedge", plan.roof.id, plan.roof.bearing.level,
                    Prism((x, z, base), (*place.frame.s, 0.0), (0.0, 0.0, 1.0), (ring,), thick), "timber", start, end, xs[1] - xs[0],
                    size, trusses.species, trusses.wood_grade,
                )
            )  # fmt: skip
    return found
