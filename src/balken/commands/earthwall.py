"""``balken earthwall``: a foundation wall against earth and its footing designed together."""

import argparse
import re
from typing import Any

from balken.catalog.blocks import block_of
from balken.commands.footing import bar_row, check_row
from balken.commands.parser import CommandError, Parser, print_json
from balken.design.footing_design import design_footing
from balken.loads.cases import Cases
from balken.model.records import Concrete, Masonry, Soil, WallMaterial
from balken.standards.checks import Check, kept_limit, used_text
from balken.standards.earth_pressure import forces, how_it_presses, pressing_on
from balken.standards.ground import EarthCase, EarthWall, FootingCase, FootingDesign, FootingError, Sideways
from balken.standards.known import USUAL
from balken.units import Units, format_inches, parse_area_load, parse_length
from balken.units.load import parse_density, parse_line_load, parse_stress

MATERIALS: dict[str, WallMaterial] = {
    "concrete": "concrete",
    "hollow-block": "hollow block",
    "grouted-block": "grouted block",
}
CASES = {"D": "dead", "L": "live", "Lr": "roof_live", "S": "snow"}


def earthwall(words: list[str]) -> int:
    """Run the command; returns the exit code."""
    options = _parser().read(words)
    units = Units(options.units)
    try:
        wall, footing, soil = designed(options, units)
    except FootingError as error:
        raise CommandError(str(error)) from None
    if options.json:
        return print_json(earthwall_report(wall, footing))
    checks = together(wall, footing)
    held = "held at its top" if wall.case.held else "free at its top"
    print(
        f"wall {format_inches(wall.case.thickness, units)} thick of {wall.case.made_of}, {held}, in tension: {wall.face}"
    )
    print(f"  {how_it_presses(soil, wall.case.held).shown(units)}")
    print(
        f"  footing {format_inches(footing.width, units)} wide, {format_inches(footing.thickness, units)} thick, "
        f"{'reinforced' if footing.reinforced else 'plain'} concrete"
    )
    for bars in (*wall.bars, *footing.bars):
        hooks = ", hooked" if bars.hooked else ""
        print(f"  #{bars.number} {bars.use} at {format_inches(bars.spacing, units)}{hooks}")
    if checks[0].used > 1.0 + 1e-9:
        over = ", ".join(dict.fromkeys(c.name for c in checks if c.used > 1.0 + 1e-9))
        print(f"  not enough: {over}")
    for check in checks:
        combo = f", {check.combination}" if check.combination else ""
        print(f"  {check.name}: used {used_text(check.used)} ({check.clause}{combo})")
    print(f"  without calculation: {wall.prescriptive}")
    return 0


def _parser() -> Parser:
    parser = Parser(prog="balken earthwall", description="Design a foundation wall against earth with its footing.")
    parser.add_argument("--thickness", required=True, metavar="8in")
    parser.add_argument("--height", required=True, metavar="8ft", help="from the top of the footing to the wall's top")
    parser.add_argument("--fill", required=True, metavar="6ft", help="earth outside above the top of the footing")
    top = parser.add_mutually_exclusive_group(required=True)
    top.add_argument("--held", action="store_true", help="a floor holds its top, a slab its base")
    top.add_argument("--free", action="store_true", help="nothing holds its top")
    parser.add_argument(
        "--pressure", metavar="active|at-rest|45pcf", help="how earth presses (free: active, held: at-rest)"
    )
    parser.add_argument("--weight", default="110pcf", help="of the earth")
    parser.add_argument("--friction", default="30", help="angle of friction of the earth, degrees")
    parser.add_argument("--surcharge", default="0psf", help="load on the ground beside the wall")
    parser.add_argument(
        "--line",
        default="",
        metavar="D=2200plf,L=300plf",
        help="service load at the wall's foot, its own weight with it (without: that alone)",
    )
    parser.add_argument("--material", choices=list(MATERIALS), default="concrete")
    parser.add_argument("--bearing", required=True, metavar="1500psf", help="bearing value of the soil")
    parser.add_argument("--fc", default="2500psi", help="strength of the concrete")
    parser.add_argument("--fy", default=None, metavar="60ksi", help="strength of the bars; without it, no bars")
    parser.add_argument("--units", choices=[u.value for u in Units], default=Units.IMPERIAL.value)
    parser.add_argument("--json", action="store_true")
    return parser


def designed(options: argparse.Namespace, units: Units) -> tuple[EarthWall, FootingDesign, Soil]:
    """Return wall and footing for the options of the command; raises CommandError, FootingError."""
    thickness, height, fill = (
        parse_length(text, Units.IMPERIAL, bare)
        for text, bare in ((options.thickness, "in"), (options.height, "ft"), (options.fill, "ft"))
    )
    if not 100.0 <= thickness <= 1500.0:
        raise CommandError("--thickness must be 4 in to 5 ft (100 to 1500 mm).")
    if not 300.0 <= height <= 10_000.0:
        raise CommandError("--height must be 1 to 33 ft (0.3 to 10 m).")
    if not 0.0 <= fill <= height:
        raise CommandError("--fill must be zero or more, and no higher than the wall.")
    material = MATERIALS[options.material]
    if material != "concrete":
        block = block_of(thickness)
        if block is None:
            thickness -= 0.375 * 25.4  # as named: 8in for a block of 7 5/8 in
            block = block_of(thickness)
        if block is None:
            raise CommandError("there is no block that thick; type --thickness such as 8in, 10in or 12in.")
    soil = _soil(options)
    line = read_line(options.line)
    fy = parse_stress(options.fy) if options.fy is not None else None
    concrete = Concrete(fc=parse_stress(options.fc), fy=fy or 60_000.0 * 0.00689475729, bars=fy is not None)
    press = forces(pressing_on(soil, fill, height, options.held), options.held, 0.0)
    at_foot = line if any(line) else Cases(dead=_own(thickness, height, material))
    sideways = Sideways()
    if not options.held:
        sideways = Sideways(press.base, press.moment * 1000.0, friction=soil.base_friction, light=at_foot.dead)
    case = FootingCase(
        "strip", at_foot, thickness, parse_area_load(options.bearing),
        concrete.fc, fy, support="concrete" if material == "concrete" else "masonry", sideways=sideways,
    )  # fmt: skip
    footing = design_footing(USUAL, case, units)
    earth = EarthCase(
        thickness, fill, height, options.held, True, at_foot, at_foot.dead, (footing.width, footing.thickness), material
    )
    return USUAL.design_earth_wall("wall", earth, soil, concrete, Masonry(), False), footing, soil


def _own(thickness: float, height: float, material: WallMaterial) -> float:
    """Return the wall's own weight, N/mm."""
    from balken.catalog.materials import weight

    kind = {"concrete": "concrete", "hollow block": "concrete block", "grouted block": "grouted block"}[material]
    return weight(kind) * thickness * height * 1e-6


def _soil(options: argparse.Namespace) -> Soil:
    try:
        friction = float(options.friction.rstrip("\u00b0"))
    except ValueError:
        friction = -1.0
    if not 10.0 <= friction <= 50.0:
        raise CommandError(f"--friction '{options.friction}' is no angle of 10 to 50 degrees; type such as 30.")
    weight, surcharge = parse_density(options.weight), parse_area_load(options.surcharge)
    if not 5.0 <= weight <= 30.0:
        raise CommandError(f"--weight {options.weight} is out of bounds; type such as 110pcf.")
    how = options.pressure or ("at-rest" if options.held else "active")
    base = {"weight": weight, "friction": friction, "surcharge": surcharge}
    if how in ("active", "at-rest"):
        return Soil(pressure="active" if how == "active" else "at rest", **base)
    fluid = parse_density(how)
    if not 0.5 <= fluid <= weight:
        raise CommandError(f"--pressure {how} is out of bounds; type active, at-rest or such as 45pcf, up to --weight.")
    return Soil(pressure="equivalent fluid", fluid=fluid, **base)


def read_line(text: str) -> Cases:
    """Read D=2200plf,L=300plf; returns N/mm by case.  Raises CommandError, UnitError."""
    found = dict.fromkeys(CASES.values(), 0.0)
    for part in text.split(",") if text.strip() else ():
        match = re.fullmatch(r"\s*(D|L|Lr|S)\s*=\s*(.+)", part)
        if match is None:
            raise CommandError(f"--line '{part.strip()}' is no load; type such as D=2200plf,L=300plf (D, L, Lr, S).")
        found[CASES[match[1]]] += parse_line_load(match[2])
    return Cases(**found)


def together(wall: EarthWall, footing: FootingDesign) -> list[Check]:
    """Return the checks of wall and footing, the governing one first; least sizes that are kept last."""
    return sorted((*wall.checks, *footing.checks), key=lambda c: (kept_limit(c), -c.used))


def earthwall_report(wall: EarthWall, footing: FootingDesign) -> dict[str, Any]:
    """Return wall and footing as plain data; forces and bars are per metre of wall."""
    checks = together(wall, footing)
    return {
        "kind": "earth wall",
        "per": "metre of wall",
        "held": wall.case.held,
        "material": wall.case.made_of,
        "wall_thickness_mm": round(wall.case.thickness, 2),
        "face": wall.face,
        "moment_knm_per_m": round(wall.forces.moment, 4),
        "moment_at_mm": round(wall.forces.at, 1),
        "top_kn_per_m": round(wall.forces.top, 4),
        "base_kn_per_m": round(wall.forces.base, 4),
        "width_mm": round(footing.width, 2),
        "length_mm": round(footing.length, 2),
        "thickness_mm": round(footing.thickness, 2),
        "soil_pressure_kpa": round(footing.pressure, 4),
        "bearing_kpa": round(footing.case.bearing, 4),
        "reinforced": footing.reinforced,
        "wall_reinforced": wall.reinforced,
        "works": checks[0].used <= 1.0 + 1e-9,
        "used": round(checks[0].used, 4),
        "bars": [
            *({"part": "wall", **bar_row(b)} for b in wall.bars),
            *({"part": "footing", **bar_row(b)} for b in footing.bars),
        ],
        "checks": [{"part": "wall" if c in wall.checks else "footing", **check_row(c)} for c in checks],
        "prescriptive": wall.prescriptive,
    }
