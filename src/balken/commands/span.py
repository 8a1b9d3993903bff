"""``balken span``: the greatest span of a joist or rafter, as the span tables take it."""

import argparse
from typing import Any

from balken.commands.parser import CommandError, Parser, print_json
from balken.standards.checks import used_text
from balken.units import Units, format_length, parse_area_load, parse_length, parse_pitch

ROOF_LIVE = "20psf"
"""Roof live load of the span tables of IRC R802.4.1."""


def span(words: list[str]) -> int:
    """Run the command; returns the exit code."""
    parser = Parser(prog="balken span", description="The greatest span of a joist or rafter.")
    parser.add_argument("--species", default=None, help="of sawn lumber")
    parser.add_argument("--grade", default=None, help="of sawn lumber")
    parser.add_argument("--size", required=True)
    parser.add_argument("--spacing", required=True)
    parser.add_argument("--live", default=None, help="floor live load (40psf), or roof live load of a rafter (20psf)")
    parser.add_argument("--dead", default="10psf")
    parser.add_argument("--snow", default="0psf", help="ground snow load, taken as roof snow (IRC R802.4)")
    parser.add_argument("--pitch", default=None)
    parser.add_argument("--limit", default=None, help="n of the deflection limit L/n")
    parser.add_argument("--kind", choices=["joist", "rafter"], default="joist")
    parser.add_argument("--json", action="store_true")
    options = parser.read(words)
    try:
        span, spacing = span_of(options)
    except KeyError as error:  # an unknown species, grade or size, which says what there is
        raise CommandError(str(error.args[0])) from None
    checks = {c.name: round(c.used, 4) for c in span.result.checks}
    slope = (1.0 + span.result.case.pitch**2) ** 0.5
    report = {
        "span_mm": round(span.length, 2),
        "span": format_length(span.length, step=1),
        "governs": span.governs,
        "clause": span.clause,
        "combination": span.result.governs.combination,
        "used": checks,
        "along_slope_mm": round(span.length * slope, 2),
    }
    if options.json:
        return print_json(report)
    from balken.catalog.sections import made_text

    case = span.result.case
    print(f"{made_text(case.size, case.species, case.grade)} {case.kind} @ {format_length(spacing)}: {report['span']}")
    print(f"  {report['governs']} governs ({report['clause']})")
    for name, used in checks.items():
        print(f"  {name}: used {used_text(used)}")
    return 0


def span_of(options: argparse.Namespace) -> tuple[Any, float]:
    """Return (Span, spacing mm) for the options of ``balken span``."""
    from balken.catalog.sections import BOARDS, section
    from balken.catalog.species import grade_name, species_name
    from balken.loads.cases import Cases
    from balken.model.rule_parts import check_spacing
    from balken.standards.demands import Limit, MemberCase
    from balken.standards.known import USUAL

    made = section(options.size)
    if made.kind == "sawn" and (options.species is None or options.grade is None):
        raise CommandError("the following arguments are required: --species, --grade")
    species = species_name(options.species or "DF-L")
    grade = grade_name(species, options.grade or "No. 2")
    spacing = parse_length(options.spacing, Units.IMPERIAL, "in")
    check_spacing(spacing, "--spacing")
    rafter = options.kind == "rafter"
    if options.pitch is not None and not rafter:
        raise CommandError("--pitch goes with --kind rafter.")
    pitch = float(parse_pitch(options.pitch)) if options.pitch is not None else 0.0
    snow, dead = parse_area_load(options.snow), parse_area_load(options.dead)
    if rafter:
        roof_live = parse_area_load(options.live if options.live is not None else ROOF_LIVE)
        load = Cases(dead=dead * (1.0 + pitch**2) ** 0.5, roof_live=roof_live, snow=snow)
    else:
        load = Cases(dead=dead, live=parse_area_load(options.live or "40psf"), snow=snow)
    try:
        told = USUAL.rafter_limit(pitch) if rafter else USUAL.joist_limit
        limit = Limit(float(options.limit), told.clause) if options.limit is not None else told
    except ValueError:
        raise CommandError(f"--limit '{options.limit}' is no number; type 360 for L/360.") from None
    if not 50.0 <= limit.n <= 5000.0:
        raise CommandError(f"--limit {limit.n:g} is out of bounds; type 50 to 5000, such as 360 for L/360.")
    if load.live + load.roof_live + load.snow + load.dead <= 0.0:
        raise CommandError("no load acts on the member; type a --live, --dead or --snow above zero.")
    if made.name in BOARDS or made.kind == "rim board":
        raise CommandError(f"--size {options.size} is a board, no joist or rafter; type such as 2x10.")
    if rafter and made.kind != "sawn":
        raise CommandError(f"--size {options.size} is no rafter; type such as 2x10.")
    case = MemberCase(
        "rafter" if rafter else "joist",
        made.name,
        species,
        grade,
        1000.0,
        spacing,
        load,
        limit,
        pitch=pitch,
        tables=True,
    )
    return USUAL.greatest_span(case), spacing
