"""Walls of other studs: their build-up with studs of another size, an existing one where there is one alike."""

from msgspec.structs import replace

from balken.model.buildups import as_made_of, stud_size
from balken.model.errors import EditError
from balken.model.lookup import by_id, next_id, wall_label
from balken.model.records import BuildUp, Layer, Project
from balken.model.rules import check


def take_studs(project: Project, wall_ids: tuple[str, ...], size: str) -> Project:
    """Make walls of studs of a size (such as 2x6); other walls of their build-up keep theirs.

    Raises EditError for a wall that is not framed of studs.
    """
    known = by_id(project.buildups)
    buildups, taken = list(project.buildups), dict[str, str]()
    for wall in project.walls:
        if wall.id not in wall_ids or wall.buildup in taken:
            continue
        old = known[wall.buildup]
        if stud_size(old) is None:
            raise EditError(
                "it is not framed of studs.", wall_label(project, wall.id), "Choose a framed build-up first."
            )
        layers = tuple(
            as_made_of(layer, f"{size} studs") if layer.function == "core" else layer for layer in old.layers
        )
        alike = next((b for b in buildups if _alike(b.layers, layers)), None)
        if alike is None:
            alike = BuildUp(id=next_id(replace(project, buildups=tuple(buildups)), BuildUp), layers=layers)
            buildups.append(alike)
        taken[wall.buildup] = alike.id
    walls = tuple(replace(w, buildup=taken[w.buildup]) if w.id in wall_ids else w for w in project.walls)
    return check(replace(project, buildups=tuple(buildups), walls=walls))


def _alike(some: tuple[Layer, ...], others: tuple[Layer, ...]) -> bool:
    return len(some) == len(others) and all(
        (a.material, a.function) == (b.material, b.function) and abs(a.thickness - b.thickness) < SAME
        for a, b in zip(some, others, strict=True)
    )


SAME = 0.01
"""Layers whose thickness differs by less are alike, mm."""
