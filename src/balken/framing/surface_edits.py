"""Hand edits laid over a roof of planes: single rafters taken out, moved, made of something else, their tails cut; ties taken out or made
of something else.

What one that is taken out or moved away carried goes to those beside it: each takes the roof half-way to the next ones.
"""

from collections.abc import Callable, Iterable
from typing import NamedTuple

from msgspec.structs import replace as other

from balken.catalog.sections import one_ply, side_by_side
from balken.framing.hand_edits import LEAST_APART, made_of, match, named
from balken.framing.pieces import MadeOf, Snag
from balken.framing.roof_layout import RoofMember
from balken.framing.roof_openings import in_plane
from balken.framing.surface_members import SurfaceMember
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.surface_ties import SurfaceTie
from balken.geometry.plane import distance
from balken.model.kinds.member_edit import LINES, MemberEdit
from balken.model.naming import kind_of, place_in
from balken.value import Value

SORT = "plane-rafter"
TIE = "tie"


class EditedSurface(Value, frozen=True):
    """Members with hand edits laid over them: what single ones are made of; how wide a strip of roof each carries where that is more
    than its layout's, mm; edits without a member, each with the name of the nearest one; what could not be done.
    """

    members: tuple[SurfaceMember, ...]
    made: dict[str, MadeOf]
    wide: dict[str, float]
    lost: tuple[tuple[MemberEdit, str], ...] = ()
    snags: tuple[Snag, ...] = ()


LayAt = Callable[[int, float], list[RoofMember]]
"""The rafters of a plane (by its edge's number) at a place along its edge, mm."""


def edited_surface(
    plan: SurfacePlan,
    members: tuple[SurfaceMember, ...],
    edits: tuple[MemberEdit, ...],
    size: str,
    spacing: float,
    lay_at: LayAt,
) -> EditedSurface:
    """Lay the hand edits of a roof over its members."""
    mine = [edit for edit in edits if edit.sort == SORT]
    if not mine:
        return EditedSurface(members, {}, {})
    by_place: dict[str, SurfaceMember] = {}
    for one in members:
        named_place = place_in(one.key) if one.wall and kind_of(one.key) == SORT else None
        if named_place is not None:
            by_place[named_place.text] = one
    found = match(mine, list(by_place))
    kept = {one.key: one for one in members}
    made, snags = dict[str, MadeOf](), list[Snag]()
    for place, edit in found.by_place.items():
        one = by_place[place]
        if edit.removed:
            del kept[one.key]
            continue
        if edit.moved:
            moved = _moved(plan, one, edit.moved, [x for x in kept.values() if x.key != one.key], lay_at)
            if moved is None:
                at = (*one.member.start[:2], plan.bearing + one.member.start[2])
                snags.append(
                    Snag("hand edit", "a rafter finds no place there, or none before the next one", plan.roof.id, at)
                )
            else:
                kept[one.key] = one = moved
        if edit.longer and not one.member.at_eave:
            at = (*one.member.start[:2], plan.bearing + one.member.start[2])
            snags.append(Snag("hand edit", "a rafter without a tail is not cut longer", plan.roof.id, at))
        elif edit.longer:
            kept[one.key] = one = other(one, member=_longer(one.member, edit.longer))
        made[one.key] = made_of(edit, size)
    after = tuple(kept.values())
    edges = {one.member.edges[0] for place in found.by_place for one in (by_place[place],)}
    return EditedSurface(
        after, made, _strips(plan, after, edges, spacing), named(plan.roof.id, SORT, found), tuple(snags)
    )


class EditedTies(NamedTuple):
    """Ties with hand edits laid over them: what single ones are made of; rafters whose tie is taken out; edits without a tie, each with
    the name of the nearest one; what could not be done.
    """

    ties: tuple[SurfaceTie, ...]
    made: dict[str, MadeOf]
    loose: frozenset[str]
    lost: tuple[tuple[MemberEdit, str], ...] = ()
    snags: tuple[Snag, ...] = ()


def edited_ties(
    plan: SurfacePlan, ties: tuple[SurfaceTie, ...], edits: tuple[MemberEdit, ...], size: str
) -> EditedTies:
    """Lay the hand edits of ceiling ties over these; the ceiling on one that is taken out goes to those beside it."""
    found = match((edit for edit in edits if edit.sort == TIE), [tie.line.place for tie in ties])
    kept = {tie.line.place: tie for tie in ties}
    made, snags, loose = dict[str, MadeOf](), list[Snag](), set[str]()
    for place, edit in found.by_place.items():
        tie = kept[place]
        at = (*tie.frame.back(tie.line.low, tie.line.t), plan.bearing)
        if edit.removed and tie.raised > 0.0:
            snags.append(Snag("hand edit", "the ceiling hangs on a raised tie: it stays", plan.roof.id, at))
            continue
        if edit.removed:
            del kept[place]
            loose |= {*tie.rafters}
            for near in _next_to(tie, kept.values()):
                line = near.line
                kept[line.place] = near._replace(line=other(line, width=line.width + tie.line.width / 2.0))
            continue
        if edit.longer or edit.more:
            snags.append(Snag("hand edit", "ties under planes are cut by their roof; give one plies", plan.roof.id, at))
        made[tie.key] = made_of(edit, size)
    return EditedTies(tuple(kept.values()), made, frozenset(loose), named(plan.roof.id, TIE, found), tuple(snags))


def _next_to(tie: SurfaceTie, others: Iterable[SurfaceTie]) -> list[SurfaceTie]:
    """Return the nearest ties on both sides that lie between the same two bearings."""
    same = [x for x in others if x.frame == tie.frame and x.line.supports == tie.line.supports]
    sides = ([x for x in same if x.line.t < tie.line.t], [x for x in same if x.line.t > tie.line.t])
    return [min(side, key=lambda x: abs(x.line.t - tie.line.t)) for side in sides if side]


def line_edits(
    members: Iterable[SurfaceMember], edits: tuple[MemberEdit, ...], owner: str, more: Iterable[str] = ()
) -> tuple[dict[str, MemberEdit], tuple[tuple[MemberEdit, str], ...]]:
    """Return the hand edits of hips, valleys, ridges and purlins (``more``: names of these) by the names of these, and those without such
    a line, each with the nearest's name.
    """
    found, lost = dict[str, MemberEdit](), list[tuple[MemberEdit, str]]()
    keys = [*(x.key for x in members if not x.wall), *more]
    for sort in sorted(LINES & {edit.sort for edit in edits}):
        mine, others = edits_by_name(edits, sort, [key for key in keys if kind_of(key) == sort], owner)
        found |= mine
        lost += others
    return found, tuple(lost)


def edits_by_name(
    edits: Iterable[MemberEdit], sort: str, names: Iterable[str], owner: str
) -> tuple[dict[str, MemberEdit], tuple[tuple[MemberEdit, str], ...]]:
    """Return hand edits of one sort by the names of the members they are for, and those without one, each with the nearest's name."""
    places = {place.text: name for name in names if (place := place_in(name)) is not None}
    found = match((edit for edit in edits if edit.sort == sort), list(places))
    return {places[text]: edit for text, edit in found.by_place.items()}, named(owner, sort, found)


def line_made(edit: MemberEdit, layout: str) -> MadeOf:
    """Return what an edited hip, valley, ridge, purlin or header is made of; ``layout``: its section without the edit, which may be of plies."""
    if not edit.size and edit.plies == 1:
        return MadeOf("", edit.species, edit.grade)
    return MadeOf(side_by_side(edit.size or one_ply(layout), edit.plies), edit.species, edit.grade)


def _moved(
    plan: SurfacePlan, one: SurfaceMember, by: float, others: list[SurfaceMember], lay_at: LayAt
) -> SurfaceMember | None:
    """Return a rafter moved along its eave; None where there is no plane for it, or another one stands there."""
    core, m = plan.outline.core, one.member
    edge = m.edges[0]
    ((s, _),) = in_plane(core, edge, [m.start[:2]])
    laid = lay_at(edge, s + by)
    if not laid:
        return None
    nearest = min(laid, key=lambda x: distance(x.start[:2], m.start[:2]))
    low, high = sorted((s, s + by))
    for x in others:
        if not x.wall or x.member.edges[0] != edge:
            continue
        ((at, _),) = in_plane(core, edge, [x.member.start[:2]])
        if (
            low - LEAST_APART < at < high + LEAST_APART
            and abs(at - s) > 1e-6
            and _beside(plan, edge, nearest, x.member)
        ):
            return None
    return other(one, member=nearest)


def _beside(plan: SurfacePlan, edge: int, a: RoofMember, b: RoofMember) -> bool:
    """Whether two rafters of a plane lie beside one another over some of their length."""
    core = plan.outline.core
    (_, a0), (_, a1), (_, b0), (_, b1) = in_plane(core, edge, [a.start[:2], a.end[:2], b.start[:2], b.end[:2]])
    return min(a1, b1) - max(a0, b0) > 1.0


def _longer(m: RoofMember, by: float) -> RoofMember:
    steep = m.theoretical / max(distance(m.start[:2], m.end[:2]), 1e-9)
    over = max(m.over + by / steep, 0.0)
    return m._replace(over=over, length=m.length + (over - m.over) * steep)


def _strips(plan: SurfacePlan, members: tuple[SurfaceMember, ...], edges: set[int], spacing: float) -> dict[str, float]:
    """Return how wide a strip rafters of some planes carry where it is more than the spacing: half-way to those beside."""
    found = {}
    for edge in edges:
        rows = []
        for one in members:
            if one.wall and one.member.edges[0] == edge:
                ((s, t0), (_, t1)) = in_plane(plan.outline.core, edge, [one.member.start[:2], one.member.end[:2]])
                rows.append((s, t0, t1, one.key))
        rows.sort()
        for i, (s, t0, t1, key) in enumerate(rows):
            gaps = []
            for way in (rows[:i][::-1], rows[i + 1 :]):
                beside = [abs(at - s) for at, u0, u1, _ in way if min(t1, u1) - max(t0, u0) > 1.0 and abs(at - s) > 1.0]
                gaps.append(min(beside, default=spacing))
            wide = max(sum(gaps) / 2.0, spacing)
            if wide > spacing + 1.0:
                found[key] = wide
    return found
