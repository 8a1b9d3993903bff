"""Rules of what is decided once for the whole project: strings, loads, soil, concrete."""

import math

from balken.geometry.plane import distance
from balken.model.errors import EditError
from balken.model.records import Project
from balken.model.rule_parts import SHORTEST_WALL


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
        if isinstance(value, str | bool):
            continue
        if not (math.isfinite(value) and 0.0 <= value < 1e5):
            raise EditError(f"{field.replace('_', ' ')} must be zero or more.", "Loads")
    for name, low, high in (("exposure", 0.7, 1.2), ("thermal", 0.85, 1.3), ("importance", 0.8, 1.2)):
        if not low <= getattr(project.loads, f"snow_{name}") <= high:
            raise EditError(
                f"the {name} factor of snow must be {low} to {high}.", "Loads", "ASCE 7-16, 7.3; often 1.0."
            )
    if project.loads.wind_speed > 120.0:
        raise EditError(
            "the wind blows no faster than 270 mph (120 m/s).", "Loads", "Type the basic speed such as 115 mph."
        )
    if project.loads.soil_bearing <= 0.0:
        raise EditError("the soil bearing value must be more than zero.", "Loads", "Type one such as 1500 psf.")
    if not 1000.0 <= project.stock_length <= 30_000.0:
        raise EditError("the longest stock must be 3 to 100 ft (1 to 30 m).", "Loads")
    if project.cut is not None and distance(project.cut.start, project.cut.end) < SHORTEST_WALL:
        raise EditError("the cut line has no length.", do="Draw it across the building.")


def check_ground_and_concrete(project: Project) -> None:
    """Raise EditError unless soil, concrete and block are within bounds."""
    soil, concrete = project.soil, project.concrete
    if not 5.0 <= soil.weight <= 30.0 or not 0.0 <= soil.fluid <= 40.0:
        raise EditError("soil weighs 5 to 30 kN/m3 (30 to 190 pcf).", "Soil", "Type such as 120 pcf.")
    if not 0.0 < soil.friction < 60.0:
        raise EditError("the angle of friction must be between 0 and 60 degrees.", "Soil", "Type such as 30.")
    if not 0.0 <= soil.surcharge <= 500.0 or not 0.0 <= soil.base_friction <= 2.0 or not 0.1 <= soil.spread <= 10.0:
        raise EditError("surcharge, friction under the footing or spread is out of bounds.", "Soil")
    if not 6.8 <= concrete.fc <= 104.0 or not 200.0 <= concrete.fy <= 700.0:
        raise EditError(
            "concrete must be 1000 to 15,000 psi, steel 30 to 100 ksi.", "Concrete", "Type such as 2500 psi and 60 ksi."
        )
    if not 5.0 <= project.masonry.strength <= 35.0:
        raise EditError("walls of block have 750 to 5000 psi (5 to 35 MPa).", "Block", "Type such as 2000 psi.")


PROJECT_RULES = (check_ground_and_concrete, check_strings, check_loads)
