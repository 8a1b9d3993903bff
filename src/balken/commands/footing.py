"""``balken footing``: one strip or pad footing designed."""

import argparse
from typing import Any

from balken.catalog.bars import BARS
from balken.commands.parser import CommandError, Parser, print_json
from balken.design.footing_design import design_footing
from balken.loads.cases import Cases
from balken.standards.checks import Check, used_text
from balken.standards.ground import BarSet, FootingCase, FootingDesign, FootingError
from balken.standards.known import USUAL
from balken.standards.measures import SI_UNITS
from balken.units import Units, format_area_load, format_inches, parse_area_load, parse_length
from balken.units.load import parse_force, parse_line_load, parse_stress


def footing(words: list[str]) -> int:
    """Run the command; returns the exit code."""
    parser = Parser(prog="balken footing", description="Design one strip or pad footing.")
    parser.add_argument("--line", metavar="3000plf", help="service load of a wall along its length")
    parser.add_argument("--wall", metavar="8in", help="thickness of the wall, with --line")
    parser.add_argument("--column", metavar="40kip", help="service load of a column")
    parser.add_argument("--size", metavar="8in", help="side of the column, with --column")
    parser.add_argument("--dead", default="0.5", help="share of the load that is dead, 0 to 1; the rest is live")
    parser.add_argument("--bearing", required=True, metavar="2000psf", help="bearing value of the soil")
    parser.add_argument("--fc", default="2500psi", help="strength of the concrete")
    parser.add_argument("--fy", default=None, metavar="60ksi", help="strength of the bars; without it, plain concrete")
    parser.add_argument("--eccentricity", default="0in", help="of the load from the footing's middle")
    parser.add_argument("--support", choices=["concrete", "masonry", "plate"], default="concrete")
    parser.add_argument("--overburden", default="0psf", help="weight of what lies on the footing")
    parser.add_argument("--units", choices=[u.value for u in Units], default=Units.IMPERIAL.value)
    parser.add_argument("--json", action="store_true")
    options = parser.read(words)
    units = Units(options.units)
    try:
        made = design_footing(USUAL, _footing_case(options), units)
    except FootingError as error:
        raise CommandError(str(error)) from None
    if options.json:
        return print_json(footing_report(made))
    what = "strip footing" if made.case.kind == "strip" else "pad footing"
    sides = format_inches(made.width, units)
    sides += f" x {sides}" if made.case.kind == "pad" else " wide"
    kind = "reinforced" if made.reinforced else "plain"
    print(f"{what} {sides}, {format_inches(made.thickness, units)} thick, {kind} concrete")
    pressure = format_area_load(made.pressure, units)
    print(f"  soil pressure {pressure} of {format_area_load(made.case.bearing, units)}")
    if not made.works:
        over = ", ".join(check.name for check in made.checks if check.used > 1.0)
        print(f"  not enough: {over}; try bars (--fy), stronger concrete or a larger bearing value")
    for bars in made.bars:
        hooks = ", hooked" if bars.hooked else ""
        per = f"{bars.count} x " if made.case.kind == "pad" or bars.use == "along" else ""
        print(f"  {per}#{bars.number} {bars.use} at {format_inches(bars.spacing, units)}{hooks}")
    for check in made.checks:
        print(
            f"  {check.name}: used {used_text(check.used)} ({check.clause}{', ' if check.combination else ''}{check.combination})"
        )
    return 0


def _footing_case(options: argparse.Namespace) -> FootingCase:
    """Return the FootingCase of the options of ``balken footing``."""
    if (options.line is None) == (options.column is None):
        raise CommandError("type either --line with --wall or --column with --size.")
    strip = options.line is not None
    size = options.wall if strip else options.size
    if size is None:
        raise CommandError("type the thickness of the wall: --wall 8in." if strip else "type the side: --size 8in.")
    load = parse_line_load(options.line) if strip else parse_force(options.column)
    if load <= 0.0:
        raise CommandError("the load must be more than zero.")
    try:
        dead = float(options.dead.rstrip("%")) / (100.0 if options.dead.endswith("%") else 1.0)
    except ValueError:
        dead = -1.0
    if not 0.0 <= dead <= 1.0:
        raise CommandError(f"--dead '{options.dead}' is no share; type a number from 0 to 1, such as 0.4.")
    return FootingCase(
        "strip" if strip else "pad",
        Cases(dead=load * dead, live=load * (1.0 - dead)),
        parse_length(size, Units.IMPERIAL, "in"),
        parse_area_load(options.bearing),
        parse_stress(options.fc),
        parse_stress(options.fy) if options.fy is not None else None,
        abs(parse_length(options.eccentricity, Units.IMPERIAL, "in")),
        options.support,
        parse_area_load(options.overburden),
    )


def footing_report(made: FootingDesign) -> dict[str, Any]:
    """Return a footing's design as plain data; a strip's forces and bars are per metre of wall."""
    case = made.case
    return {
        "kind": "strip footing" if case.kind == "strip" else "pad footing",
        "per": "metre of wall" if case.kind == "strip" else "footing",
        "width_mm": round(made.width, 2),
        "length_mm": round(made.length, 2),
        "thickness_mm": round(made.thickness, 2),
        "soil_pressure_kpa": round(made.pressure, 4),
        "bearing_kpa": round(case.bearing, 4),
        "reinforced": made.reinforced,
        "works": made.works,
        "used": round(made.used, 4),
        "bars": [bar_row(b) for b in made.bars],
        "checks": [check_row(c) for c in made.checks],
    }


def bar_row(b: BarSet) -> dict[str, Any]:
    """Return bars as plain data."""
    return {
        "use": b.use,
        "size": f"#{b.number}",
        "diameter_mm": round(BARS[b.number].diameter, 2),
        "spacing_mm": round(b.spacing, 1),
        "count": b.count,
        "length_mm": round(b.length, 1),
        "hooked": b.hooked,
        "area_mm2": round(b.area * b.count, 1),
    }


def check_row(c: Check) -> dict[str, Any]:
    """Return a check as plain data, in SI units."""
    return {
        "name": c.name,
        "demand": round(c.demand, 5),
        "capacity": round(c.capacity, 5),
        "unit": SI_UNITS[c.quantity],
        "used": round(c.used, 5),
        "clause": c.clause,
        "combination": c.combination,
        "working": [line.shown(Units.METRIC) for line in c.working],
    }
