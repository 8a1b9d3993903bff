"""Recognising things of an architect's file whose GlobalIds are new: by what they are, where they stand, and how they are called.

Some programs give new GlobalIds each time they write a file.  Where most of one kind are new, the old things left over are held against
the new ones; each that stands where one of its kind stood is taken for that one, so that what hangs on it here stays.
"""

from collections.abc import Callable, Sequence
from typing import Any, NamedTuple, TypeVar

from msgspec.structs import replace

from balken.geometry.plane import Point, distance
from balken.model.lookup import by_id, height, locate
from balken.model.records import Column, Opening, Project, Reading, Reference, Wall

SAME = 0.5
"""Heights of levels that differ by less are the same, mm."""
NEAR = 1000.0
"""Things farther from one another are not the same, mm: on the mean of their ends, or their middles."""
MOST = 0.5
"""GlobalIds are new where more than this part of those of a kind is gone."""

Sources = dict[str, dict[str, str]]
"""By collection: which new GlobalId a thing has whose old one is gone."""


H = TypeVar("H", Reading, Project)


class Recognised(NamedTuple):
    """The last reading with the GlobalIds and names of the new one; what became of them: of things, of levels by their names."""

    old: Reading
    sources: Sources
    levels: dict[str, str]


def recognised(old: Reading, new: Reading) -> Recognised:
    """Hold a reading against a new one."""
    levels = _renamed_levels(old, new)
    old = replace(old, levels=tuple(replace(v, name=levels.get(v.name, v.name)) for v in old.levels))
    sources: Sources = {}
    for collection, apart in APART.items():  # walls before the openings in them
        found = _matched(collection, apart, old, new)
        if found:
            sources[collection] = found
            old = _with_sources(old, {collection: found})
    return Recognised(old, sources, levels)


def with_new_sources(project: Project, sources: Sources) -> Project:
    """Return a project whose things from the file have their new GlobalIds, and what was left out of floors for them too."""
    project = _with_sources(project, sources)
    outlines = sources.get("references", {})
    openings = tuple(replace(o, source=outlines.get(o.source, o.source)) for o in project.floor_openings)
    return replace(project, floor_openings=openings)


def renamed(project: Project, levels: dict[str, str]) -> Project:
    """Return a project whose levels are called as in the new file, but where that name is taken."""
    taken = {v.name for v in project.levels}
    now = tuple(
        replace(v, name=new) if (new := levels.get(v.name, "")) and new not in taken else v for v in project.levels
    )
    return replace(project, levels=now)


def _with_sources(holder: H, sources: Sources) -> H:
    fields = {
        collection: tuple(replace(r, source=found.get(r.source, r.source)) for r in getattr(holder, collection))
        for collection, found in sources.items()
    }
    return replace(holder, **fields)


def _renamed_levels(old: Reading, new: Reading) -> dict[str, str]:
    """Return new names of levels: of one that is gone, where one that is new lies as high."""
    before, after = {v.name for v in old.levels}, {v.name for v in new.levels}
    gone = [v for v in old.levels if v.name not in after]
    come = [v for v in new.levels if v.name not in before]
    found: dict[str, str] = {}
    for a in gone:
        alike = [b for b in come if abs(a.height - b.height) < SAME and b.name not in found.values()]
        same = [b for b in alike if b.role == a.role] or alike
        if len(same) == 1:
            found[a.name] = same[0].name
    return found


def _matched(
    collection: str, apart: Callable[[Any, Any, Reading, Reading], float], old: Reading, new: Reading
) -> dict[str, str]:
    """Return the new GlobalIds of things of a kind, the nearest pairs first; nothing where most have kept theirs."""
    rows: tuple[Sequence[Any], Sequence[Any]] = getattr(old, collection), getattr(new, collection)
    before, after = ({r.source for r in some if r.source} for some in rows)
    gone = [r for r in rows[0] if r.source and r.source not in after]
    come = [r for r in rows[1] if r.source and r.source not in before]
    if not gone or len(gone) <= MOST * len(before):
        return {}
    pairs = sorted(
        ((apart(a, b, old, new), i, j) for i, a in enumerate(gone) for j, b in enumerate(come)), key=lambda row: row[0]
    )
    found: dict[str, str] = {}
    taken: set[int] = set()
    for far, i, j in pairs:
        if far > NEAR:
            break
        if gone[i].source not in found and j not in taken:
            found[gone[i].source] = come[j].source
            taken.add(j)
    return found


def _walls_apart(a: Wall, b: Wall, old: Reading, new: Reading) -> float:
    """Return how far the ends of walls lie apart on the mean, drawn either way, and their feet; never for those on other storeys."""
    ends = [locate(end, old.grids) for end in (a.start, a.end)], [locate(end, new.grids) for end in (b.start, b.end)]
    ways = [(distance(ends[0][0], ends[1][k]) + distance(ends[0][1], ends[1][1 - k])) / 2.0 for k in (0, 1)]
    return min(ways) + _storeys_apart(a, b, old, new)


def _columns_apart(a: Column, b: Column, old: Reading, new: Reading) -> float:
    return distance(locate(a.place, old.grids), locate(b.place, new.grids)) + _storeys_apart(a, b, old, new)


def _storeys_apart(a: Wall | Column, b: Wall | Column, old: Reading, new: Reading) -> float:
    return abs(height(a.foot, old.levels) - height(b.foot, new.levels))


def _outlines_apart(a: Reference, b: Reference, old: Reading, new: Reading) -> float:
    """Return how far middles of outlines lie apart; of another kind they never are the same, of another name less likely."""
    if a.kind != b.kind:
        return 2.0 * NEAR
    return distance(_middle(a), _middle(b)) + abs(a.bottom - b.bottom) + (0.0 if a.name == b.name else NEAR / 4.0)


def _middle(one: Reference) -> Point:
    n = len(one.ring)
    return sum(p[0] for p in one.ring) / n, sum(p[1] for p in one.ring) / n


def _openings_apart(a: Opening, b: Opening, old: Reading, new: Reading) -> float:
    """Return how far openings in the same wall lie apart: walls are recognised before."""
    walls = by_id(old.walls)[a.wall], by_id(new.walls)[b.wall]
    if walls[0].source != walls[1].source or not walls[0].source:
        return 2.0 * NEAR
    ways = [locate(w.start, r.grids) for w, r in zip(walls, (old, new), strict=True)]
    ends = [locate(w.end, r.grids) for w, r in zip(walls, (old, new), strict=True)]
    middles = []
    for one, start, end in zip((a, b), ways, ends, strict=True):
        part = (one.offset + one.width / 2.0) / max(distance(start, end), 1.0)
        middles.append((start[0] + (end[0] - start[0]) * part, start[1] + (end[1] - start[1]) * part))
    return distance(*middles) + abs(a.sill - b.sill) / 2.0 + (0.0 if a.kind == b.kind else NEAR / 4.0)


APART: dict[str, Callable[[Any, Any, Reading, Reading], float]] = {
    "walls": _walls_apart,
    "columns": _columns_apart,
    "references": _outlines_apart,
    "openings": _openings_apart,
}
"""How far two things of a kind lie apart, mm."""
