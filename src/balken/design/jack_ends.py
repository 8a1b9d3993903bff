"""How jacks end at hips and valleys: nailed through their sides into these, and hung where more nails were needed than find room."""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import NamedTuple

from balken.catalog.sections import section
from balken.design.load_duration import normal_duration
from balken.framing.pieces import MadeOf
from balken.framing.surface_members import AS_OTHERS, SurfaceMember
from balken.geometry.plane import off_square, to_segment, unit
from balken.loads.beam_law import NONE_MORE
from balken.loads.roof_hung import Rafters, RoofHung
from balken.standards.demands import HeelNails
from balken.standards.standard import Standard

AT = ("hip", "valley")
FAR = 200.0
"""The middle of a jack ends no farther from that of what it ends at, mm."""


class JackEnds(NamedTuple):
    """How jacks end: at hips, at valleys, the nails of the one that needs most of those that nails hold; the others, which hang."""

    nailed: tuple[tuple[str, HeelNails], ...] = ()
    hung: tuple[RoofHung, ...] = ()


NO_JACKS = JackEnds()


def jack_ends(
    rafters: Rafters, members: Sequence[SurfaceMember], wood: Mapping[str, MadeOf], standard: Standard
) -> JackEnds:
    """Nail the ends of a roof's jacks, or hang them; ``members``: all of the roof, its hips and valleys among them; ``wood``: what some are
    made of that are not as the others, by their names.
    """
    lines = [one for one in members if one.member.role in AT]
    usual = rafters.plan.roof.rafters.species
    nailed, hung = list[tuple[str, HeelNails]](), list[RoofHung]()
    for one, on, head in _ends(rafters.carries, lines) if lines else ():
        lumber, thin = section(rafters.size_of(one.key)), section(rafters.size_of(on.key)).breadth
        force = normal_duration(rafters.brings(one, head), NONE_MORE, standard)[0]
        species = [wood.get(x.key, AS_OTHERS).species or usual for x in (one, on)]
        nails = standard.toe_nails((species[0], species[1]), lumber.plies, lumber.depth, thin, force)
        if not nails.fits:
            way = unit(*(one.member.ends if head else one.member.ends[::-1]))
            hung.append(rafters.hung(one, on.key, head, off_square(way, unit(*on.member.ends))))
            continue
        nailed.append((f"at {on.member.role}s", nails))
    return JackEnds(_most(nailed), tuple(hung))


def both_jacks(a: JackEnds, b: JackEnds) -> JackEnds:
    """Return how the jacks of two parts of a roof end as of one."""
    return JackEnds(_most((*a.nailed, *b.nailed)), (*a.hung, *b.hung))


def _most(rows: Iterable[tuple[str, HeelNails]]) -> tuple[tuple[str, HeelNails], ...]:
    """Return of each place the nails where most are needed, of as many those that hold most."""
    found: dict[str, HeelNails] = {}
    for where, nails in rows:
        known = found.get(where)
        if known is None or (nails.number, nails.force) > (known.number, known.force):
            found[where] = nails
    return tuple(sorted(found.items()))


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
