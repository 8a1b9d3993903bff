"""Layers of walls in an IFC file: build-ups with functions and materials that Balken knows."""

import itertools
from typing import Any

import msgspec

from balken.catalog.materials import MATERIALS
from balken.exchange.ifc_source import Source
from balken.model.records import BuildUp, Layer, LayerFunction
from balken.units.system import INCH
from balken.value import Value

_WORDS = (
    ("brick", "brick"),
    ("block", "concrete block"),
    ("cmu", "concrete block"),
    ("concrete", "concrete"),
    ("gypsum", "gypsum board"),
    ("plasterboard", "gypsum board"),
    ("drywall", "gypsum board"),
    ("plaster", "plaster"),
    ("stucco", "stucco"),
    ("render", "stucco"),
    ("stone", "stone"),
    ("sheathing", "wood sheathing"),
    ("plywood", "wood sheathing"),
    ("osb", "wood sheathing"),
    ("rigid", "rigid insulation"),
    ("eps", "rigid insulation"),
    ("xps", "rigid insulation"),
    ("insulation", "mineral wool"),
    ("wool", "mineral wool"),
    ("cavity", "air gap"),
    ("air", "air gap"),
    ("siding", "lap siding"),
    ("cladding", "lap siding"),
)
"""Words in names of materials, the telling ones first, and the material they are taken for."""
_BEARING = ("stud", "concrete", "block", "brick", "cmu", "masonry", "clt")
_FUNCTIONS: tuple[LayerFunction, ...] = ("cladding", "sheathing", "core", "lining")
TYPICAL = 150.0
"""Thickness of a wall of which nothing says how thick it is, mm."""


class Layers(Value, frozen=True):
    """Layers from outside to inside; how deep the axis lies from the outside; whether the inside is on its left."""

    layers: tuple[Layer, ...]
    depth: float
    inside_left: bool

    @property
    def thickness(self) -> float:
        """All layers together, mm."""
        return sum(layer.thickness for layer in self.layers)


def layers_of(source: Source, made: Any, material: Any, width: float | None, central: bool) -> Layers:
    """Return the layers of a wall; what had to be guessed is reported.

    ``width``: of its body, mm, None when unknown; ``central``: its axis is the middle of its body, whatever the file
    says of where its layers begin.
    """
    if material is not None and material.is_a("IfcMaterialLayerSetUsage"):
        inside_left = material.DirectionSense == "POSITIVE"
        offset = float(material.OffsetFromReferenceLine) * source.scale
        found = _with_functions(source, made, _layers(source, material.ForLayerSet))
        made_of = Layers(found, -offset if inside_left else offset, inside_left)
        if central:
            return Layers(found, made_of.thickness / 2.0, inside_left)
        if not -1.0 <= made_of.depth <= made_of.thickness + 1.0:
            source.simplify(made, "its axis lies outside its layers; the nearest face was taken")
            return Layers(found, min(max(made_of.depth, 0.0), made_of.thickness), inside_left)
        return made_of
    if material is not None and material.is_a("IfcMaterialLayerSet") and material.MaterialLayers:
        found = _with_functions(source, made, _layers(source, material))
        if not central:
            source.simplify(made, "nothing says on which side of its axis its layers lie; it was taken as their middle")
        return Layers(found, sum(layer.thickness for layer in found) / 2.0, True)
    source.simplify(made, "it has no layers; one core layer of its thickness was made")
    thick = round(width or source.quantity(made, "Width") or TYPICAL, 6)
    names = [getattr(m, "Name", None) or "" for m in _materials(material)]
    name = next((ours for ours in map(_known, names) if ours is not None), "concrete block")
    return Layers((Layer(material=name, thickness=thick, function="core"),), thick / 2.0, True)


def _materials(material: Any) -> list[Any]:
    """Return the materials of a thing that has no layers."""
    if material is None:
        return []
    if material.is_a("IfcMaterialList"):
        return list(material.Materials)
    if material.is_a("IfcMaterialConstituentSet"):
        return [part.Material for part in material.MaterialConstituents or ()]
    return [material]


def _known(name: str) -> str | None:
    """Return the material that a name stands for, or None."""
    if name in MATERIALS:
        return name
    lower = name.lower()
    return next((ours for word, ours in _WORDS if word in lower), None)


def _layers(source: Source, many: Any) -> list[tuple[Layer, bool]]:
    """Return the layers of a set, read once for all walls that have it."""
    if many.id() not in source.layer_sets:
        source.layer_sets[many.id()] = [_layer(source, layer) for layer in many.MaterialLayers]
    return source.layer_sets[many.id()]


def _layer(source: Source, layer: Any) -> tuple[Layer, bool]:
    """Return a layer and whether the file itself names its function."""
    name = (layer.Material.Name if layer.Material else "") or "layer"
    lower = name.lower()
    label = next((f for f in _FUNCTIONS if f == getattr(layer, "Name", None)), None)
    thickness = max(float(layer.LayerThickness) * source.scale, 1.0)
    ours = _known(name)
    if ours is None and "stud" in lower:
        ours = "2x4 studs" if thickness < 4.5 * INCH else "2x6 studs" if thickness < 6.4 * INCH else "2x8 studs"
    bears = any(word in lower for word in _BEARING)
    function: LayerFunction = label or ("core" if bears else "lining")
    return Layer(material=ours or "timber", thickness=round(thickness, 6), function=function), label is not None


def _with_functions(source: Source, made: Any, rows: list[tuple[Layer, bool]]) -> tuple[Layer, ...]:
    """Return layers with a core; what lies outside it and was not named is cladding or sheathing.  What is guessed is reported."""
    layers = [layer for layer, _ in rows]
    if not any(layer.function == "core" for layer in layers):
        thickest = max(range(len(layers)), key=lambda i: layers[i].thickness)
        layers[thickest] = msgspec.structs.replace(layers[thickest], function="core")
        source.simplify(made, "none of its layers says that it bears; the thickest was taken as its core")
    _leaves(source, made, layers, rows)
    first = next(i for i, layer in enumerate(layers) if layer.function == "core")
    for i in range(first):
        if not rows[i][1]:
            outer: LayerFunction = "sheathing" if layers[i].material == "wood sheathing" else "cladding"
            layers[i] = msgspec.structs.replace(layers[i], function=outer)
    return tuple(layers)


def _leaves(source: Source, made: Any, layers: list[Layer], rows: list[tuple[Layer, bool]]) -> None:
    """Of several leaves with a gap or insulation between let one bear, under which foundations stand: never one of brick or stone outside
    another, else the thickest, of those as thick the innermost.  The others stay, as cladding outside it and lining inside.
    """
    cores = [i for i, layer in enumerate(layers) if layer.function == "core"]
    leaves = [[cores[0]]]
    for before, i in itertools.pairwise(cores):
        if i == before + 1:
            leaves[-1].append(i)
        else:
            leaves.append([i])
    if len(leaves) < 2 or any(rows[i][1] for i in cores):
        return
    may = [leaf for leaf in leaves[:-1] if any(layers[i].material not in ("brick", "stone") for i in leaf)] + leaves[
        -1:
    ]
    bears = max(may, key=lambda leaf: (round(sum(layers[i].thickness for i in leaf)), leaf[0]))
    for leaf in leaves:
        if leaf is not bears:
            function: LayerFunction = "cladding" if leaf[0] < bears[0] else "lining"
            for i in leaf:
                layers[i] = msgspec.structs.replace(layers[i], function=function)
    said = " and ".join(f"{layers[i].material} {layers[i].thickness:.0f} mm" for i in bears)
    source.simplify(made, f"of its leaves the one of {said} was taken to bear, the others to stand beside it")


def buildup_of(layers: tuple[Layer, ...], known: list[BuildUp]) -> BuildUp:
    """Return the build-up of these layers; a new one is added to those known."""
    for buildup in known:
        if len(buildup.layers) == len(layers) and all(
            a.material == b.material and a.function == b.function and abs(a.thickness - b.thickness) < 0.01
            for a, b in zip(buildup.layers, layers, strict=True)
        ):
            return buildup
    new = BuildUp(id=f"buildup-{len(known) + 1}", layers=layers)
    known.append(new)
    return new
