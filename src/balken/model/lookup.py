"""Finding records by id, and where authored places and heights are."""

from collections.abc import Iterable
from typing import TypeVar

from balken.model.errors import EditError
from balken.model.naming import is_made, kind_of, numbered_part, owner_of, parts_of_run
from balken.model.places import (
    axis_position,
    axis_positions,
    by_id,
    grid_point,
    grid_position,
    height,
    locate,
    numbers,
    wall_label,
)
from balken.model.records import (
    COLLECTIONS,
    KIND_OF,
    Foundation,
    Grid,
    Level,
    Project,
    Record,
)

__all__ = [
    "axis_position",
    "axis_positions",
    "bearer_label",
    "by_id",
    "find",
    "foundation_part",
    "grid_point",
    "grid_position",
    "ground",
    "height",
    "label_of",
    "listed",
    "locate",
    "next_id",
    "numbers",
    "shown_grids",
    "there",
    "wall_label",
]
R = TypeVar("R", bound=Record)


def find(project: Project, record_id: str) -> Record | None:
    """Return the record with that id, of whatever kind, or None."""
    for field in COLLECTIONS.values():
        found = by_id(getattr(project, field)).get(record_id)
        if found is not None:
            return found  # type: ignore[no-any-return]
    return None


def label_of(project: Project, record_id: str) -> str:
    """Return how a record is called in messages: by its name, else by kind and number ('Column 3'); "" when it is gone."""
    record = find(project, record_id)
    if record is None:
        row, dot, number = record_id.partition(".")
        of = label_of(project, row) if dot and number.isdigit() and row in by_id(project.beam_rows) else ""
        if row in by_id(project.roofs):
            line = "girder truss" if by_id(project.roofs)[row].framed == "trusses" else "hip, valley or ridge"
            return f"End of a {line} of {label_of(project, row)}"
        return f"Beam {number} of {of[0].lower()}{of[1:]}" if of else ""
    name: str = getattr(record, "name", "")
    kind = KIND_OF[type(record)]
    return name or f"{kind.noun.capitalize()} {numbers(getattr(project, kind.collection))[record_id]}"


def labels_of(project: Project, record_ids: Iterable[str]) -> str:
    """Return how several records are called together: "Beam 1, Beam 3 and Column 2"."""
    labels = list(dict.fromkeys(label_of(project, record_id) for record_id in record_ids))
    return " and ".join([", ".join(labels[:-1]), labels[-1]] if len(labels) > 1 else labels)


def bearer_label(project: Project, bearer: str) -> str:
    """Return how what carries something is called: a wall, beam or column, a run's foundation, a floor's header."""
    if not is_made(bearer):
        return label_of(project, bearer) or "nothing"
    foundation, wall = parts_of_run(bearer)
    if find(project, wall) is not None:
        return f"{label_of(project, foundation)} under {label_of(project, wall)}"
    kind = kind_of(bearer).removeprefix("plane-").replace("-", " ")
    return f"{kind} of {label_of(project, owner_of(bearer))}"


def listed(levels: tuple[Level, ...]) -> list[Level]:
    """Return the levels that are offered and drawn, highest first; removed ones are not."""
    return sorted((level for level in levels if not level.removed), key=lambda v: -v.height)


PARTS = {"step": "steps", "slope": "slopes"}
"""Parts of a foundation that can be selected: as they stand in a reference, and their field."""


def foundation_part(project: Project, ref: str) -> tuple[Foundation, str, int] | None:
    """Return (foundation, "step" or "slope", its number) of a reference such as foundation-1/step/0, None for others."""
    named = numbered_part(ref)
    foundation = by_id(project.foundations).get(named[0]) if named is not None else None
    if named is None or foundation is None:
        return None
    _, kind, number = named
    return (foundation, kind, number) if number < len(getattr(foundation, PARTS[kind])) else None


def next_id(project: Project, kind: type[Record]) -> str:
    """Return a free id for a new record of that kind, such as wall-7."""
    prefix = KIND_OF[kind].prefix + "-"
    taken = [
        int(record.id[len(prefix) :])
        for record in getattr(project, COLLECTIONS[kind])
        if record.id.startswith(prefix) and record.id[len(prefix) :].isdigit()
    ]
    return f"{prefix}{max(taken, default=0) + 1}"


def shown_grids(grids: tuple[Grid, ...], level: str) -> tuple[Grid, ...]:
    """Return the grids that show on the plan of a level ("" = all)."""
    return tuple(grid for grid in grids if not level or not grid.levels or level in grid.levels)


def ground(levels: tuple[Level, ...]) -> Level | None:
    """Return the level of the ground outside, if there is one."""
    return next((level for level in levels if level.role == "ground"), None)


def there(records: tuple[R, ...], record_id: str) -> R:
    """Return the record with that id; raises EditError when it is gone."""
    found = by_id(records).get(record_id)
    if found is None:
        raise EditError(f"there is nothing with the id '{record_id}' any more.")
    return found


def lowest_ground(project: Project) -> float:
    """Return how low the ground lies anywhere beside a building, mm; where none is typed, its lowest level."""
    grounds = [level.height for level in project.levels if level.role == "ground"]
    grounds = grounds or [min(level.height for level in project.levels)]
    return min((*grounds, *(spot.height for spot in project.spots)))
