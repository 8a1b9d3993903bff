"""How jacks end at hips and valleys: nailed through their sides into these, and hung where more nails were needed than find room."""

from collections.abc import Iterator, Sequence
from typing import NamedTuple

from balken.catalog.sections import section
from balken.design.load_duration import normal_duration
from balken.framing.roof_layout import Cut, RoofMember
from balken.framing.surface_members import SurfaceMember
from balken.geometry.plane import Point, off_square, to_segment, unit
from balken.loads.beam_law import NONE_MORE
from balken.loads.roof_hung import Rafters, RoofHung
from balken.standards.demands import HeelNails
from balken.standards.standard import Standard

AT = ("hip", "valley")
FAR = 200.0
"""The middle of a jack ends no farther from that of what it ends at, mm."""


class JackEnds(NamedTuple):
    """How jacks end: at hips, at valleys, the nails of the one that brings most of those that nails hold; the others, which hang."""

    nailed: tuple[tuple[str, HeelNails], ...] = ()
    hung: tuple[RoofHung, ...] = ()


NO_JACKS = JackEnds()


def jack_ends(rafters: Rafters, members: Sequence[SurfaceMember], standard: Standard) -> JackEnds:
    """Nail the ends of a roof's jacks, or hang them; ``members``: all of the roof, its hips and valleys among them."""
    lines = [one for one in members if one.member.role in AT]
    wood = rafters.plan.roof.rafters.species
    nailed, hung = dict[str, HeelNails](), list[RoofHung]()
    for one, on, head, way in _ends(rafters.carries, lines) if lines else ():
        end = rafters.hung(one, on.key, head, off_square(way, unit(*on.member.ends)))
        lumber, thin = section(end.size), section(rafters.size_of(on.key)).breadth
        force = normal_duration(end.force, NONE_MORE, standard)[0]
        nails = standard.toe_nails((wood, wood), lumber.plies, lumber.depth, thin, force)
        if not nails.fits:
            hung.append(end)
            continue
        where = f"at {on.member.role}s"
        if where not in nailed or nails.force > nailed[where].force:
            nailed[where] = nails
    return JackEnds(tuple(sorted(nailed.items())), tuple(hung))


def _ends(
    carries: Sequence[SurfaceMember], lines: Sequence[SurfaceMember]
) -> Iterator[tuple[SurfaceMember, SurfaceMember, bool, Point]]:
    """Yield each end of a rafter at a hip or valley: the rafter, that, whether it is its head, the way in which it comes there."""
    for one in carries:
        m = one.member
        for head, cut in ((True, m.head), (False, m.foot)):
            on = _line_at(m, cut, head, lines)
            if on is not None:
                yield one, on, head, unit(*(m.ends if head else m.ends[::-1]))


def _line_at(m: RoofMember, cut: Cut, head: bool, lines: Sequence[SurfaceMember]) -> SurfaceMember | None:
    if cut.kind not in AT:
        return None
    at = m.end[:2] if head else m.start[:2]
    rows = [x for x in lines if x.member.role == cut.kind and m.edges[0] in x.member.edges]
    near = min(rows, key=lambda x: to_segment(at, *x.member.ends), default=None)
    return near if near is not None and to_segment(at, *near.member.ends) < FAR else None
