"""Grids of axes, square and radial."""

import math
from typing import TYPE_CHECKING, Annotated, Literal

from balken.model.base import Record, To
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind
from balken.model.rule_parts import (
    CLOSEST_SPACING,
    FARTHEST,
)
from balken.units import say_inches
from balken.units.system import FOOT

if TYPE_CHECKING:
    from balken.model.records import Project


MOST_AXES = 300


class Axis(Record, frozen=True, kw_only=True):
    """One grid axis, ``gap`` mm after the one before it (the first has gap 0)."""

    id: str
    label: str
    gap: float = 0.0


class Grid(Record, frozen=True, kw_only=True):
    """Two sets of axes: ``x_axes`` succeed one another along x and run along y, ``y_axes`` the other way.

    In a radial grid ``x_axes`` are rays (gaps in degrees, anticlockwise from ``angle``) and ``y_axes``
    arcs about the origin (gaps in mm; the first one's gap is its radius).  ``levels``: ids of the levels
    on whose plans it shows (none: on all).  ``chain_at``, ``overall_at``: how far outside the first axes
    the dimension chain and the overall dimension stand.
    """

    id: str
    name: str = "Grid"
    kind: Literal["square", "radial"] = "square"
    origin: tuple[float, float] = (0.0, 0.0)
    angle: float = 0.0
    x_axes: tuple[Axis, ...] = ()
    y_axes: tuple[Axis, ...] = ()
    run_past: float = 6.0 * FOOT
    bubbles: Literal["start", "end", "both"] = "start"
    chain_at: float = 3.0 * FOOT
    overall_at: float = 4.5 * FOOT
    levels: tuple[Annotated[str, To(("levels",), "drop")], ...] = ()


def check_grid(project: "Project", grid: Grid) -> None:
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
                apart = say_inches(abs(axis.gap), project.units)
                raise EditError(
                    f"axis {axis.label} is {apart} {'from' if axis.gap >= 0.0 else 'on the wrong side of'} the one before it.",
                    grid.name,
                    "Type a spacing of at least 2 in (50 mm).",
                )
            if not axis.label.strip() or axis.label in labels:
                raise EditError(f"the label '{axis.label}' is empty or used twice.", grid.name, "Type another label.")
            labels.add(axis.label)


KIND = Kind(Grid, "grids", "grid", "grid", "grids", check_grid)
