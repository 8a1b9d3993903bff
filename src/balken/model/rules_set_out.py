"""Rules of setting out: levels, grids, columns, underlays, spot heights; loads and the cut."""

import math

from balken.geometry.plane import distance
from balken.model.errors import EditError
from balken.model.posts import SIZES_OF, post_shape
from balken.model.records import Column, Grid, Hang, Project, SpotHeight, Underlay
from balken.model.rule_parts import CLOSEST_SPACING, FARTHEST, SHORTEST_WALL, graded, hung, named, placed, upright

MOST_AXES = 300


def check_levels(project: Project) -> None:
    """Raise EditError unless levels have names of their own and lie within bounds."""
    names: set[str] = set()
    for level in project.levels:
        if not level.name.strip():
            raise EditError("A level needs a name.", do="Type one, such as Floor 1.")
        if level.name.strip().lower() in names and not level.removed:
            raise EditError(f"There is already a level named '{level.name}'.", do="Type another name.")
        names.update(() if level.removed else (level.name.strip().lower(),))
        if not math.isfinite(level.height) or abs(level.height) > 1e6:
            raise EditError("its height is out of all bounds.", f"Level '{level.name}'", "Type a height within 1 km.")


def check_grid(project: Project, grid: Grid) -> None:
    """Raise EditError unless a grid's axes are not too many, too near or alike in label."""
    radial = grid.kind == "radial"
    for axes, degrees in ((grid.x_axes, radial), (grid.y_axes, False)):
        if len(axes) > MOST_AXES:
            raise EditError(
                f"{len(axes)} axes one way are more than a drawing can hold.", grid.name, f"Type at most {MOST_AXES}."
            )
        if degrees and any(axis.gap < 0.5 for axis in axes[1:]):
            raise EditError("two rays are less than half a degree apart.", grid.name, "Type larger angles.")
        if degrees and sum(axis.gap for axis in axes) >= 360.0:
            raise EditError("its rays go round more than once.", grid.name, "Type angles of less than 360 in all.")
        if radial and not degrees and axes and axes[0].gap < CLOSEST_SPACING:
            raise EditError("its first arc has no radius.", grid.name, "Type a radius of at least 2 in (50 mm).")
        labels: set[str] = set()
        for i, axis in enumerate(axes):
            if not math.isfinite(axis.gap) or abs(axis.gap) > FARTHEST:
                raise EditError(f"axis {axis.label} is out of all bounds.", grid.name, "Type spacings within 1 km.")
            if i and not degrees and axis.gap < CLOSEST_SPACING:
                raise EditError(
                    f"axis {axis.label} is {axis.gap:.0f} mm from the one before it.",
                    grid.name,
                    "Type a spacing of at least 2 in (50 mm).",
                )
            if not axis.label.strip() or axis.label in labels:
                raise EditError(f"the label '{axis.label}' is empty or used twice.", grid.name, "Type another label.")
            labels.add(axis.label)


def check_column(project: Project, column: Column) -> None:
    """Raise EditError unless a column stands upright within bounds."""
    where = "Column"
    placed(project, column.place, where)
    upright(project, column.foot, column.head, where)
    if not (50.0 <= column.width <= 3000.0 and 50.0 <= column.depth <= 3000.0):
        raise EditError("its sides must be 2 in to 10 ft (50 to 3000 mm).", where, 'Type a width such as 5 1/2".')
    graded(column.species, column.grade, where)
    if column.size:
        named(post_shape, column.size, where)
        if post_shape(column.size).name not in SIZES_OF[column.material]:
            sizes = ", ".join(SIZES_OF[column.material]) or "typed by their sides"
            raise EditError(f"{column.size} is no section of {column.material}.", where, f"Those are {sizes}.")


def check_underlay(project: Project, underlay: Underlay) -> None:
    """Raise EditError unless an underlay has a level and a scale."""
    where = f"Underlay '{underlay.name}'"
    hung(project, Hang(level=underlay.level), where)
    if not (math.isfinite(underlay.scale) and 1e-6 < underlay.scale < 1e6):
        raise EditError("its scale must be more than zero.", where, "Set it by two points a known length apart.")


def check_spot(project: Project, spot: SpotHeight) -> None:
    """Raise EditError unless a spot height lies within bounds."""
    if not all(math.isfinite(v) and abs(v) < FARTHEST for v in (spot.x, spot.y, spot.height)):
        raise EditError("it is out of all bounds.", "Spot height", "Type a height within 1 km.")


def check_strings(project: Project) -> None:
    """Raise EditError unless dimension strings keep sensible distances."""
    for field in ("first", "between", "elevation"):
        value = getattr(project.strings, field)
        if not 10.0 <= value <= 20_000.0:
            raise EditError(
                "the distances of dimension strings must be 1/2 in to 65 ft (10 mm to 20 m).",
                "Dimension strings",
                'Type one such as 12".',
            )


def check_loads(project: Project) -> None:
    """Raise EditError unless loads are not below zero, the soil bears, the cut has a length."""
    for field in project.loads.__struct_fields__:
        value = getattr(project.loads, field)
        if not (math.isfinite(value) and 0.0 <= value < 1e5):
            raise EditError(f"{field.replace('_', ' ')} must be zero or more.", "Loads")
    if project.loads.soil_bearing <= 0.0:
        raise EditError("the soil bearing value must be more than zero.", "Loads", "Type one such as 1500 psf.")
    if not 1000.0 <= project.stock_length <= 30_000.0:
        raise EditError("the longest stock must be 3 to 100 ft (1 to 30 m).", "Loads")
    if project.cut is not None and distance(project.cut.start, project.cut.end) < SHORTEST_WALL:
        raise EditError("the cut line has no length.", do="Draw it across the building.")
