"""How jacks end at hips and valleys: nailed through their sides into these, and hung where more nails were needed than find room."""

from collections.abc import Iterator, Sequence
from typing import NamedTuple

from balken.catalog.sections import section
from balken.design.load_duration import normal_duration
from balken.framing.surface_members import SurfaceMember
from balken.geometry.plane import off_square, to_segment, unit
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
    for one, on, head in _ends(rafters.carries, lines) if lines else ():
        lumber, thin = section(rafters.size_of(one.key)), section(rafters.size_of(on.key)).breadth
        force = normal_duration(rafters.brings(one, head), NONE_MORE, standard)[0]
        nails = standard.toe_nails((wood, wood), lumber.plies, lumber.depth, thin, force)
        if not nails.fits:
            way = unit(*(one.member.ends if head else one.member.ends[::-1]))
            hung.append(rafters.hung(one, on.key, head, off_square(way, unit(*on.member.ends))))
            continue
        where = f"at {on.member.role}s"
        if where not in nailed or nails.force > nailed[where].force:
            nailed[where] = nails
    return JackEnds(tuple(sorted(nailed.items())), tuple(hung))


def _ends(
    carries: Sequence[SurfaceMember], lines: Sequence[SurfaceMember]
) -> Iterator[tuple[SurfaceMember, SurfaceMember, bool]]:
    """Yield each end of a rafter at a hip or valley: the rafter, that, whether it is its head."""
    beside: dict[tuple[str, int], list[SurfaceMember]] = {}
    for line in lines:
        for edge in line.member.edges:
            beside.setdefault((line.member.role, edge), []).append(line)
    for one in carries:
        m = one.member
        for head, cut, at in ((True, m.head, m.end[:2]), (False, m.foot, m.start[:2])):
            rows = beside.get((cut.kind, m.edges[0]), ())
            off, on = min(((to_segment(at, *x.member.ends), x) for x in rows), key=_first, default=(FAR, None))
            if on is not None and off < FAR:
                yield one, on, head


def _first(row: tuple[float, SurfaceMember]) -> float:
    return row[0]
