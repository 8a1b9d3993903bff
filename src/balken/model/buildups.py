"""The small library of wall build-ups, and what follows from the layers of one."""

from msgspec.structs import replace

from balken.catalog.materials import MATERIALS
from balken.catalog.sections import section
from balken.model.errors import EditError
from balken.model.records import BuildUp, Layer, SetOut
from balken.units import Units, format_inches
from balken.units.system import INCH


def _layer(material: str, inches: float, function: str) -> Layer:
    return Layer(material=material, thickness=inches * INCH, function=function)  # type: ignore[arg-type]


_SIDING = _layer("lap siding", 0.5, "cladding")
_SHEATHING = _layer("wood sheathing", 0.5, "sheathing")
_GYPSUM = _layer("gypsum board", 0.5, "lining")

_GAP = _layer("air gap", 1.0, "cladding")

LIBRARY: tuple[BuildUp, ...] = (
    BuildUp(id="framed-2x6", layers=(_SIDING, _SHEATHING, _layer("2x6 studs", 5.5, "core"), _GYPSUM)),
    BuildUp(id="framed-2x4", layers=(_SIDING, _SHEATHING, _layer("2x4 studs", 3.5, "core"), _GYPSUM)),
    BuildUp(
        id="veneer-2x6",
        layers=(
            _layer("brick", 3.625, "cladding"),
            _GAP,
            _SHEATHING,
            _layer("2x6 studs", 5.5, "core"),
            _GYPSUM,
        ),
    ),
    BuildUp(id="inside-2x6", layers=(_GYPSUM, _layer("2x6 studs", 5.5, "core"), _GYPSUM)),
    BuildUp(id="inside-2x4", layers=(_GYPSUM, _layer("2x4 studs", 3.5, "core"), _GYPSUM)),
    BuildUp(id="block-8", layers=(_layer("concrete block", 7.625, "core"), _GYPSUM)),
    BuildUp(id="block-190", layers=(Layer(material="concrete block", thickness=190.0, function="core"),)),
    BuildUp(
        id="block-veneer",
        layers=(_layer("brick", 3.625, "cladding"), _GAP, _layer("concrete block", 7.625, "core"), _GYPSUM),
    ),
    BuildUp(
        id="brick-9",
        layers=(_layer("brick", 8.5, "core"), _layer("plaster", 0.5, "lining")),
    ),
    BuildUp(id="concrete-8", layers=(_layer("concrete", 8.0, "core"), _GYPSUM)),
)


def thickness(buildup: BuildUp) -> float:
    """Return the total thickness, mm."""
    return sum(layer.thickness for layer in buildup.layers)


def display_name(buildup: BuildUp, units: Units) -> str:
    """Return the typed name, or one made from the layers, such as '7" 2x6 studs, lap siding'."""
    if buildup.name:
        return buildup.name
    core = next(layer for layer in buildup.layers if layer.function == "core")
    face = buildup.layers[0].material
    rest = f", {face}" if buildup.layers[0].function != "core" else ""
    return f"{format_inches(thickness(buildup), units)} {core.material}{rest}"


def core_band(buildup: BuildUp) -> tuple[float, float]:
    """Return the distances of the core's outer and inner face from the outside face, mm."""
    depth = 0.0
    outer: float | None = None
    inner = 0.0
    for layer in buildup.layers:
        if layer.function == "core":
            outer = depth if outer is None else outer
            inner = depth + layer.thickness
        depth += layer.thickness
    return (0.0 if outer is None else outer, inner or depth)


CLOSE = 3.0
"""A core this near to the depth of its studs, mm, is as deep: 140 mm is said for 5 1/2 in."""


def as_thick(layer: Layer, thickness: float) -> Layer:
    """Return a layer of another thickness; studs are those of that depth; raises EditError where there are none."""
    known = {name: _deep(name) for name in MATERIALS if _deep(name)}
    if layer.material not in known:
        return replace(layer, thickness=thickness)
    for name, deep in known.items():
        if abs(thickness - deep) <= CLOSE:
            return replace(layer, material=name, thickness=deep)
    depths = ", ".join(f"{name} {deep / INCH:g} in ({deep:.0f} mm)" for name, deep in known.items())
    raise EditError("no studs are that deep.", layer.material, f"There are {depths}.")


def as_made_of(layer: Layer, material: str) -> Layer:
    """Return a layer of another material; studs bring their depth."""
    return replace(layer, material=material, thickness=_deep(material) or layer.thickness)


def _deep(material: str) -> float:
    """Return how deep studs are, mm; 0 for what is none."""
    name, _, noun = material.partition(" ")
    return section(name).depth if noun == "studs" else 0.0


LEAVES = ("brick", "stone", "concrete block")
"""Of what leaves of masonry are made."""


def veneer(buildup: BuildUp) -> tuple[float, float]:
    """Return the thickness of a leaf of masonry outside the core, and how far it stands off what is behind it, mm; 0 where there is
    none.
    """
    leaf = gap = 0.0
    for layer in buildup.layers:
        if layer.function != "cladding":
            break
        if layer.material in LEAVES:
            leaf, gap = leaf + layer.thickness, 0.0
        elif leaf:
            gap += layer.thickness
    return leaf, gap


def stud_size(buildup: BuildUp) -> str | None:
    """Return the size of the studs the core is made of, such as 2x6; None for another core."""
    core = next(layer for layer in buildup.layers if layer.function == "core")
    name, _, noun = core.material.partition(" ")
    return name if noun == "studs" else None


def sheathing_face(buildup: BuildUp) -> float:
    """Return how far the outer face of the sheathing (or of the core) is from the outside face, mm."""
    depth = 0.0
    for layer in buildup.layers:
        if layer.function in ("sheathing", "core"):
            return depth
        depth += layer.thickness
    return 0.0


def set_out_depth(buildup: BuildUp, set_out: SetOut) -> float:
    """Return how far the set-out line is from the outside face, mm."""
    outer, inner = core_band(buildup)
    return {
        "outside": 0.0,
        "core outside": outer,
        "centre": (outer + inner) / 2.0,
        "core inside": inner,
        "inside": thickness(buildup),
    }[set_out]
