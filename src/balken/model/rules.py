"""What must hold in every project: each rule raises EditError with what, where and what to do."""

from collections.abc import Callable
from typing import Any

import msgspec

from balken.model.errors import EditError
from balken.model.lookup import hanging_on
from balken.model.records import Project
from balken.model.rules_foundations import (
    check_foundation,
    check_ground_and_concrete,
    check_pad,
    check_recess,
    check_slab,
)
from balken.model.rules_layouts import check_floor, check_roof
from balken.model.rules_set_out import (
    check_column,
    check_grid,
    check_levels,
    check_loads,
    check_spot,
    check_strings,
    check_underlay,
)
from balken.model.rules_walls import check_buildups, check_crossings, check_opening, check_overlaps, check_wall
from balken.model.tidy import check_figures, tidied


def check(project: Project) -> Project:
    """Return the project, its figures tidy, without removed levels that nothing hangs on; raises EditError at a broken rule.

    A rule that read the same records when it last held is not asked again.
    """
    project = tidied(_swept(project))
    _ids(project)
    for rule, fields in RULES:
        read = tuple([getattr(project, field) for field in fields])
        key = (rule, *map(id, read))
        if key not in _held:
            rule(project)
            if len(_held) > 2_000:
                _held.clear()
            _held[key] = read
    check_figures(project)
    return project


_held: dict[tuple[Any, ...], tuple[Any, ...]] = {}
"""What each rule read when it held; the records are kept here, so that no others can come to have their identity."""


def _each(field: str, rule: Callable[[Project, Any], None]) -> Callable[[Project], None]:
    """Return the rule that a rule holds for each record of a collection."""

    def of_all(project: Project) -> None:
        for record in getattr(project, field):
            rule(project, record)

    return of_all


def _swept(project: Project) -> Project:
    """Let go of removed levels once nothing hangs on them."""
    gone = {level.id for level in project.levels if level.removed and not hanging_on(project, level.id)}
    if not gone:
        return project
    levels = tuple(level for level in project.levels if level.id not in gone)
    grids = tuple(
        msgspec.structs.replace(g, levels=tuple(v for v in g.levels if v not in gone)) if gone & set(g.levels) else g
        for g in project.grids
    )
    return msgspec.structs.replace(project, levels=levels, grids=grids)


def _ids(project: Project) -> None:
    seen: set[str] = set()
    records: tuple[Any, ...] = (
        *project.levels,
        *project.grids,
        *project.buildups,
        *project.walls,
        *project.openings,
        *project.foundations,
        *project.floors,
        *project.roofs,
        *project.columns,
        *project.spots,
        *project.underlays,
        *project.references,
        *project.recesses,
        *project.pads,
        *project.slabs,
    )
    for record in records:
        if not record.id or record.id in seen:
            raise EditError(f"the id '{record.id}' is used twice or empty.", type(record).__name__)
        seen.add(record.id)


RULES: tuple[tuple[Callable[[Project], None], tuple[str, ...]], ...] = (
    (check_levels, ("levels",)),
    (_each("grids", check_grid), ("grids",)),
    (check_buildups, ("buildups",)),
    (_each("walls", check_wall), ("walls", "buildups", "grids", "levels")),
    (check_crossings, ("walls", "grids", "levels")),
    (_each("openings", check_opening), ("openings", "walls", "grids", "levels")),
    (check_overlaps, ("openings",)),
    (_each("foundations", check_foundation), ("foundations", "walls", "grids", "levels")),
    (_each("recesses", check_recess), ("recesses", "foundations", "walls", "grids")),
    (_each("pads", check_pad), ("pads", "grids", "levels")),
    (_each("slabs", check_slab), ("slabs", "walls", "levels")),
    (check_ground_and_concrete, ("soil", "concrete", "masonry")),
    (_each("columns", check_column), ("columns", "grids", "levels")),
    (_each("underlays", check_underlay), ("underlays", "levels")),
    (_each("spots", check_spot), ("spots",)),
    (_each("floors", check_floor), ("floors", "walls", "levels")),
    (check_strings, ("strings",)),
    (_each("roofs", check_roof), ("roofs", "walls", "levels")),
    (check_loads, ("loads", "stock_length", "cut")),
)
"""Each rule with the fields of the project that it reads (beside the units and numbers in its message)."""
