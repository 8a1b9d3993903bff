"""Foundation walls against earth and water: held at the floor or free at the top, plain or with bars.

Strength by ACI 318-19 chapters 11, 14 and 22, of block by TMS 402-16 (``block_walls``).  What keeps a free wall in
place is checked with its footing (``footing_checks``), which takes the wall's moment and shear.
"""

from functools import lru_cache

from balken.catalog.blocks import block_of
from balken.model.records import Concrete, Masonry, Soil
from balken.standards.earth_pressure import Pressing, fluid_weight, forces, pressing_on
from balken.standards.ground import EarthCase, EarthWall
from balken.standards.us.asce7 import ASD
from balken.standards.us.block_walls import BlockForces, design_block, prescriptive_block
from balken.standards.us.concrete_walls import dowels_of, holding, kept_least, light_at, of_concrete, prescriptive
from balken.units.system import PCF

USUAL_MASONRY = Masonry()


def pressing_of(case: EarthCase, soil: Soil) -> Pressing:
    """Return the pressure over the height of a wall."""
    return pressing_on(soil, min(case.fill, case.span), case.span, case.held)


@lru_cache(maxsize=512)
def design_wall(
    run_id: str,
    case: EarthCase,
    soil: Soil,
    concrete: Concrete,
    masonry: Masonry = USUAL_MASONRY,
    waiting: bool = False,
) -> EarthWall:
    """Design one wall, of concrete (ACI 318-19) or of block (TMS 402-16)."""
    pressing = pressing_of(case, soil)
    block = block_of(case.thickness) if case.made_of != "concrete" else None
    f = forces(pressing, case.held, 0.0 if block is not None else case.thickness)
    light = light_at(case, f.at)
    if block is None:
        checks, bars = of_concrete(concrete, case, f, light)
        table = prescriptive(case.thickness, case.span, case.fill, soil)
    else:
        axial, combination = ASD.worst(case.line)
        # A free wall buckles over twice its height; earth presses as it is.
        buckling = case.span if case.held else 2.0 * case.span
        acting = BlockForces(case.span, buckling, f.moment, f.shear, axial, light, combination.name)
        checks, bars = design_block(block, case.made_of == "grouted block", masonry, acting, concrete.bars, case.held)
        table = prescriptive_block(case.span, case.fill, fluid_weight(soil) / PCF)
    if bars and not case.held:
        dowel, dowels = dowels_of(bars[0], case, concrete)
        checks, bars = [*checks, dowel], (*bars, dowels)
    if case.held:
        checks = [*checks, *holding(case, soil, f)]
    ordered = tuple(sorted(checks, key=lambda c: (kept_least(c), -c.used)))
    return EarthWall(run_id, case, pressing, f, bars, ordered, table, waiting)
