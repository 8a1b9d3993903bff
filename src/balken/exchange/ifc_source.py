"""An IFC file being read: its units, storeys and placements, and the report of what became of each thing."""

import math
import re
from typing import Any, get_args

import numpy as np
from msgspec import Struct, field

from balken.exchange.ifc_entities import NAMES
from balken.exchange.ifc_known import raw_of
from balken.exchange.ifc_shapes import axes_of, mesh_of
from balken.model.errors import EditError
from balken.model.naming import is_column, is_made
from balken.model.records import Level, LevelRole

_ROLES: tuple[LevelRole, ...] = get_args(LevelRole)
LARGEST = 1.0e6
"""No level is higher than this, mm."""
TILE = 1.0e7
"""A building on map coordinates is brought near the origin by whole steps of this, so that it stays when read again."""
READ_ERRORS = (
    AttributeError,
    IndexError,
    KeyError,
    TypeError,
    ValueError,
    RuntimeError,
    ArithmeticError,
    AssertionError,
)
"""What a thing raises that is not as the schema says."""


class NotHeld(Exception):
    """A thing that no record can hold; says why."""


class Report(Struct):
    """What became of an IFC file: (GlobalId, class, name, why) for each thing not taken over as it was."""

    taken: dict[str, int] = field(
        default_factory=lambda: {"levels": 0, "axes": 0, "walls": 0, "openings": 0, "columns": 0, "references": 0}
    )
    approximated: list[tuple[str, str, str, str]] = field(default_factory=list)
    left_out: list[tuple[str, str, str, str]] = field(default_factory=list)
    ids: dict[str, list[str]] = field(default_factory=dict)
    """GlobalIds of what was taken over, by the same keys as ``taken``."""

    def took(self, what: str, count: int = 1) -> None:
        """Count something taken over."""
        self.taken[what] += count

    def as_json(self) -> dict[str, Any]:
        """Return the report as plain data."""
        keys = ("id", "class", "name", "why")
        return {
            **self.taken,
            "counts": {**self.taken, "approximated": len(self.approximated), "left_out": len(self.left_out)},
            "ids": self.ids,
            "approximated": [dict(zip(keys, row, strict=True)) for row in self.approximated],
            "left_out": [dict(zip(keys, row, strict=True)) for row in self.left_out],
        }


def told(thing: Any) -> tuple[str, str, str]:
    """Return GlobalId, class and name of a thing, as texts whatever the file holds there."""
    return global_id(thing), str(thing.is_a()), thing.Name if isinstance(thing.Name, str) else ""


def global_id(thing: Any) -> str:
    """Return the GlobalId of a thing, or "" where the file has something else there."""
    value = getattr(thing, "GlobalId", "")
    return value if isinstance(value, str) else ""


MARK = re.compile(r"^[A-Z]{1,2}[0-9]+[*]?$")
"""What marks look like."""


class Source:
    """One file; lengths come in mm by the file's own units.  Raises EditError when those make no sense."""

    def __init__(self, file: Any) -> None:
        from ifcopenshell.util.unit import calculate_unit_scale

        self.file = file
        self.scale = float(calculate_unit_scale(raw_of(file))) * 1000.0
        if not (math.isfinite(self.scale) and 1e-3 <= self.scale <= 1e6):
            raise EditError(f"its unit of length is {self.scale:g} mm.", do="Set its units to mm, m, inches or feet.")
        self.report = Report()
        self.storeys: dict[int, str] = {}
        """Ids of levels by the entity ids of their storeys."""
        self._placements: dict[int, Any] = {}
        self._world = np.eye(4)
        self._come_near()
        self.layer_sets: dict[int, list[Any]] = {}
        """Layers with what is known of them, by the entity ids of their sets."""
        self._sets: dict[int, dict[str, dict[str, Any]]] = {}
        self._definitions: dict[int, tuple[str, dict[str, Any]]] = {}
        self._last_sets: tuple[int, dict[str, dict[str, Any]]] = (0, {})

    def _come_near(self) -> None:
        """Move the origin to where most walls stand when that is kilometres away."""
        placed = [w.ObjectPlacement for w in self.file.by_type("IfcWall") if w.ObjectPlacement is not None]
        try:
            places = np.array([self.matrix(p)[:2, 3] for p in placed[:2_000]]).reshape(-1, 2)
        except READ_ERRORS:
            return
        finally:
            self._placements.clear()
        if not len(places) or not np.all(np.isfinite(places)):
            return
        tile = np.round(np.median(places, axis=0) / TILE) * TILE
        if not tile.any():
            return
        self._world[:2, 3] = -tile
        for project in self.file.by_type("IfcProject")[:1]:
            x, y = tile / 1e6
            self.simplify(project, f"it stands on map coordinates; its origin was moved to {x:.0f} km, {y:.0f} km")

    def mesh(self, thing: Any) -> tuple[Any, Any]:
        """Return the points (3, n) in the building, mm, and triangles (m, 3) of a thing without its openings cut."""
        points, faces = mesh_of(thing)
        return points + self._world[:3, 3:4], faces

    def leave(self, thing: Any, why: str) -> None:
        """Report a thing left out."""
        self.report.left_out.append((*told(thing), why))

    def simplify(self, thing: Any, why: str) -> None:
        """Report a thing taken over not quite as it was."""
        self.report.approximated.append((*told(thing), why))

    def matrix(self, placement: Any) -> Any:
        """Return a placement in the building as a 4 x 4 matrix, mm; each is worked out once."""
        if placement is None:
            return self._world.copy()
        chain, seen = [], set[int]()
        while placement is not None and placement.id() not in self._placements:
            if placement.id() in seen:
                raise ValueError("its placements go round in a circle")
            seen.add(placement.id())
            chain.append(placement)
            placement = placement.PlacementRelTo
        known = self._world if placement is None else self._placements[placement.id()]
        for one in reversed(chain):
            own = axes_of(one.RelativePlacement)
            own[:3, 3] *= self.scale
            known = known @ own
            self._placements[one.id()] = known
        return known.copy()

    def place(self, thing: Any, corners: Any) -> Any:
        """Return points (3, n) given in a thing's own frame in the building."""
        matrix = self.matrix(thing.ObjectPlacement)
        return matrix[:3, :3] @ corners + matrix[:3, 3:]

    def body(self, thing: Any) -> Any:
        """Return a thing's body representation, or None."""
        for shape in thing.Representation.Representations if thing.Representation else ():
            if shape.RepresentationIdentifier == "Body":
                return shape
        return None

    def single_item(self, thing: Any) -> Any:
        """Return the one item of a thing's body, or None."""
        body = self.body(thing)
        return body.Items[0] if body is not None and len(body.Items) == 1 else None

    def sets(self, thing: Any) -> dict[str, dict[str, Any]]:
        """Return the properties and quantities of a thing by the names of their sets; those of the last one are kept."""
        if self._last_sets[0] != thing.id():
            self._last_sets = (thing.id(), self._read_sets(thing))
        return self._last_sets[1]

    def _read_sets(self, thing: Any) -> dict[str, dict[str, Any]]:
        """Return a thing's own sets over those of its type; each set is read once, however many things share it."""
        from ifcopenshell.util.element import get_psets, get_type

        found: dict[str, dict[str, Any]] = {}
        made_like = get_type(thing)
        if made_like is not None:
            if made_like.id() not in self._sets:
                self._sets[made_like.id()] = get_psets(raw_of(made_like), should_inherit=False)
            found = {name: dict(values) for name, values in self._sets[made_like.id()].items()}
        for relation in getattr(thing, "IsDefinedBy", None) or ():
            if not relation.is_a("IfcRelDefinesByProperties"):
                continue
            given = relation.RelatingPropertyDefinition
            for one in given.wrappedValue if given.is_a("IfcPropertySetDefinitionSet") else (given,):
                name, values = self._set(one)
                found.setdefault(name, {}).update(values)
        return found

    def _set(self, definition: Any) -> tuple[str, dict[str, Any]]:
        """Return the name of a set and what it says."""
        from ifcopenshell.util.element import get_property_definition

        if definition.id() not in self._definitions:
            self._definitions[definition.id()] = (definition.Name, get_property_definition(raw_of(definition)))
        return self._definitions[definition.id()]

    def quantity(self, thing: Any, name: str) -> float | None:
        """Return a length among a thing's base quantities, mm, or None."""
        for set_name, values in self.sets(thing).items():
            if set_name.startswith(("Qto_", "BaseQuantities")) and values.get(name):
                return float(values[name]) * self.scale
        return None

    def storey_of(self, thing: Any) -> str | None:
        """Return the level of the storey a thing is in, or None."""
        from ifcopenshell.util.element import get_container

        container = get_container(thing)
        return self.storeys.get(container.id()) if container is not None else None

    def derived(self, thing: Any) -> bool:
        """Whether Balken itself wrote it from a layout (its tag is the key of a piece)."""
        name = self.name_within(thing)
        return is_made(name) and not is_column(name)

    def name_within(self, thing: Any) -> str:
        """Return what Balken called a thing that it wrote (in a property set, once in its tag); "" for others' things."""
        tag = thing.Tag if isinstance(thing.Tag, str) else ""
        if is_made(tag) or not MARK.match(tag):
            return tag
        told = self.sets(thing).get(NAMES)
        name = told.get("Name") if isinstance(told, dict) else None
        return name if isinstance(name, str) else ""

    def levels(self) -> tuple[Level, ...]:
        """Return the storeys as levels; those out of all bounds are left out."""
        found: list[Level] = []
        for storey in sorted(self.file.by_type("IfcBuildingStorey"), key=lambda s: s.id()):
            try:
                height = self.matrix(storey.ObjectPlacement)[2, 3] if storey.ObjectPlacement else None
                height = float((storey.Elevation or 0.0) * self.scale if height is None else height)
            except READ_ERRORS:
                self.leave(storey, "its height could not be read")
                continue
            if not abs(height) <= LARGEST:
                self.leave(storey, "its height is more than 1 km; the file's units are probably wrong")
                continue
            level_id = f"level-{len(found) + 1}"
            names = {v.name.lower() for v in found}
            name = storey.Name if isinstance(storey.Name, str) and storey.Name.strip() else f"Level {len(found) + 1}"
            if name.lower() in names:
                name = f"{name} ({len(found) + 1})"
                self.simplify(storey, "another storey has the same name; a number was added")
            role: LevelRole = next((r for r in _ROLES if r == storey.Description), "floor")
            found.append(Level(id=level_id, name=name, role=role, height=round(float(height), 6)))
            self.storeys[storey.id()] = level_id
        self.report.took("levels", len(found))
        return tuple(found)
