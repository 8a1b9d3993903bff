"""Build-ups of walls: layers from outside to inside."""

from typing import TYPE_CHECKING, Literal

from balken.catalog.materials import material
from balken.model.base import Record
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind
from balken.model.rule_parts import (
    named,
)
from balken.units import say_inches

if TYPE_CHECKING:
    from balken.model.records import Project


LayerFunction = Literal["cladding", "sheathing", "core", "lining"]


class Layer(Record, frozen=True, kw_only=True):
    """One layer of a wall build-up."""

    material: str
    thickness: float
    function: LayerFunction


class BuildUp(Record, frozen=True, kw_only=True):
    """Layers of a wall from outside to inside; ``name`` empty: it follows from the layers."""

    id: str
    layers: tuple[Layer, ...]
    name: str = ""


def check_buildups(project: "Project") -> None:
    """Raise EditError unless build-ups have a core and layers of known materials."""
    for buildup in project.buildups:
        where = f"Build-up {buildup.name or buildup.id}"
        if not any(layer.function == "core" for layer in buildup.layers):
            raise EditError("it has no core layer.", where, "Make one layer the core.")
        for layer in buildup.layers:
            told = say_inches(layer.thickness, project.units)
            if not 1.0 <= layer.thickness <= 2000.0:
                raise EditError(
                    f"{layer.material} would be {told} thick.", where, "Type 1/16 in to 6 ft (1 to 2000 mm)."
                )
            named(material, layer.material, where)


KIND = Kind(BuildUp, "buildups", "buildup", "build-up", "build-ups", rules=(check_buildups,))
