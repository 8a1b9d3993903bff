"""Materials of wall layers and concrete: weight and how they are shown.

Densities are rounded handbook values (ASCE 7-16 Table C3.1-2 for concrete, gypsum and plywood
from memory; the others common practice, no source).
"""

from balken.value import Value

GRAVITY = 9.80665


class Material(Value, frozen=True):
    """A material: density in kg/m3 (of the layer as built) and the fill it is drawn with."""

    name: str
    density: float
    fill: str


MATERIALS: dict[str, Material] = {
    m.name: m
    for m in (
        Material("lap siding", 450.0, "cladding"),
        Material("stucco", 1850.0, "cladding"),
        Material("air gap", 1.2, "gap"),
        Material("mineral wool", 60.0, "insulation"),
        Material("rigid insulation", 35.0, "insulation"),
        Material("wood sheathing", 600.0, "sheathing"),
        Material("2x4 studs", 95.0, "studs"),
        Material("2x6 studs", 85.0, "studs"),
        Material("2x8 studs", 80.0, "studs"),
        Material("gypsum board", 800.0, "lining"),
        Material("plaster", 1700.0, "lining"),
        Material("stone", 2500.0, "masonry"),
        Material("concrete block", 1600.0, "masonry"),
        Material("grouted block", 2100.0, "masonry"),
        Material("brick", 1900.0, "masonry"),
        Material("concrete", 2400.0, "concrete"),
        Material("gravel", 1700.0, "gravel"),
        Material("timber", 500.0, "timber"),
        Material("steel", 7850.0, "steel"),
    )
}


def material(name: str) -> Material:
    """Return the material of that name; raises KeyError with the names there are."""
    if name not in MATERIALS:
        raise KeyError(f"There is no material '{name}'; materials are {', '.join(MATERIALS)}.")
    return MATERIALS[name]


def weight(name: str) -> float:
    """Return the weight in kN/m3."""
    return material(name).density * GRAVITY / 1000.0
