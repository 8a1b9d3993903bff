"""The command ``balken``: the window, and the same work without one.

Errors go to standard error with exit code 2 and say what to do.
"""

import argparse
import json
import re
import sys
from collections import Counter
from collections.abc import Sequence
from pathlib import Path
from typing import Any, NoReturn

from balken import __version__
from balken.units import (
    UnitError,
    Units,
    format_area_load,
    format_force,
    format_inches,
    format_length,
    parse_area_load,
    parse_length,
    parse_pitch,
)


class CommandError(Exception):
    """What was typed cannot be done; the message says what to do."""


class _Parser(argparse.ArgumentParser):
    def error(self, message: str) -> NoReturn:
        raise CommandError(f"{message}. {self.format_usage().strip()}")

    def read(self, words: list[str]) -> argparse.Namespace:
        """Read the words of a command; raises CommandError."""
        options = self.parse_args(words)
        for name, value in vars(options).items():
            if value == []:  # what argparse makes of --name=--
                self.error(f"--{name} needs a value")
        return options


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the command; returns the exit code."""
    from balken.exchange.errors import FileError
    from balken.model.errors import EditError

    words = _joined(list(sys.argv[1:] if arguments is None else arguments))
    try:
        if words and words[0] in _COMMANDS:
            return _COMMANDS[words[0]](words[1:])
        return _window(words)
    except (CommandError, UnitError, EditError, FileError) as error:
        print(f"balken: {error}", file=sys.stderr)
        return 2
    except BrokenPipeError:
        return 0


def _joined(words: list[str]) -> list[str]:
    """Join options to negative values, which would else be taken for options: --spacing=-16in."""
    joined: list[str] = []
    for word in words:
        if joined and joined[-1].startswith("--") and "=" not in joined[-1] and re.match(r"^-[\d.]", word):
            joined[-1] += f"={word}"
        else:
            joined.append(word)
    return joined


def _window(words: list[str]) -> int:
    parser = _Parser(
        prog="balken",
        description="Open the window; or one of the commands: new, build, export, span (balken COMMAND --help).",
    )
    parser.add_argument("file", nargs="?", help="project file to open")
    parser.add_argument("--demo", action="store_true", help="open the demo project")
    parser.add_argument("--version", action="version", version=f"Balken {__version__}")
    options = parser.read(words)
    if options.file and not options.demo and not Path(options.file).exists():
        raise CommandError(f"{options.file}: there is no such file, and no such command. See balken --help.")
    from balken.app.run import run

    return run(options.file, demo=options.demo)


def _new(words: list[str]) -> int:
    parser = _Parser(prog="balken new", description="Write a new project file.")
    parser.add_argument("--demo", action="store_true", help="the demo project instead of an empty one")
    parser.add_argument(
        "--from", dest="source", metavar="FILE.ifc", help="take levels, grid and walls from an IFC file"
    )
    parser.add_argument("--report", metavar="FILE.json", help="with --from: write what came of the file")
    parser.add_argument("--units", choices=[u.value for u in Units], default=Units.IMPERIAL.value)
    parser.add_argument("-o", "--output", required=True, metavar="FILE")
    options = parser.read(words)
    from balken.demo import orchard_road
    from balken.exchange import project_file
    from balken.exchange.replacing import write_bytes
    from balken.model.edits import new_project

    if options.source:
        from balken.exchange.ifc_reader import read_ifc

        project, report = read_ifc(options.source)
        project_file.save(project, options.output)
        told = report.as_json()
        if options.report:
            write_bytes(options.report, (json.dumps(told, indent=2, ensure_ascii=False) + "\n").encode())
        print(", ".join(f"{told[k]} {k}" for k in ("levels", "axes", "walls", "openings")) + " taken over; ", end="")
        print(f"{len(report.approximated)} approximated, {len(report.left_out)} left out.")
        return 0
    if options.report:
        raise CommandError("--report goes with --from FILE.ifc.")
    project = orchard_road() if options.demo else new_project(units=Units(options.units))
    project_file.save(project, options.output)
    return 0


def _build(words: list[str]) -> int:
    parser = _Parser(prog="balken build", description="Derive a project and report on it.")
    parser.add_argument("file")
    parser.add_argument("--json", action="store_true", help="print JSON")
    options = parser.read(words)
    from balken.derive import derive
    from balken.exchange import project_file

    report = build_report(derive(project_file.load(options.file)))
    if options.json:
        print(json.dumps(report, indent=2, ensure_ascii=False))
        return 0
    print(f"{report['name']}: {sum(report['counts'].values())} pieces")
    for role, count in report["counts"].items():
        used = report["used"].get(role)
        print(f"  {count:5d}  {role}" + (f", used up to {used['used']:.0%} ({used['governs']})" if used else ""))
    total_load = report["loads"]
    print(
        f"  loads put on {format_force(total_load['applied_n']['total'])}, "
        f"reaching the soil {format_force(total_load['soil_n']['total'])}"
    )
    for finding in report["findings"]:
        print(f"  {'!' if finding['grave'] else '-'} {finding['what']}: {finding['why']}")
    return 0


def build_report(model: Any) -> dict[str, Any]:
    """Return counts, volumes, loads, reactions, findings and the most used member of each role."""
    from balken.documents.schedule import totals
    from balken.loads.cases import Cases, total

    def cases(c: Cases) -> dict[str, float]:
        return {**{k: round(v, 3) for k, v in c._asdict().items()}, "total": round(c.all, 3)}

    used: dict[str, dict[str, Any]] = {}
    for key, result in model.results.items():
        role = model.pieces[key].role
        if role not in used or result.used > used[role]["used"]:
            used[role] = {
                "used": round(result.used, 4),
                "member": key,
                "section": result.case.size,
                "governs": result.governs.name,
                "clause": result.governs.clause,
            }
    ground: list[tuple[str, str, str, float, Any]] = [
        ("strip footing", f"{run_id}/footing", f"{f.width:.0f} x {f.depth:.0f} mm", f.used, f.design.checks[0])
        for run_id, f in model.footings.items()
    ]
    ground += [
        ("pad footing", f"{v}/pad", f"{r.design.width:.0f} x {r.design.thickness:.0f} mm", r.used, r.design.checks[0])
        for v, r in model.pads.items()
    ]
    ground += [
        ("foundation wall", f"{run_id}/wall", "", w.used, w.checks[0]) for run_id, w in model.earth_walls.items()
    ]
    for role, member, size, how_far, check in ground:
        if role not in used or how_far > used[role]["used"]:
            used[role] = {
                "used": round(how_far, 4),
                "member": member,
                "section": size,
                "governs": check.name,
                "clause": check.clause,
            }
    sums = totals(model)
    footing_weight = model.soil.dead - model.path.arrived.dead
    applied = model.path.applied.plus(Cases(dead=footing_weight))
    return {
        "name": model.project.name,
        "counts": dict(sorted(Counter(p.role for p in model.pieces.values()).items())),
        "volumes_m3": {"timber": round(sums.timber, 4), "concrete": round(sums.concrete, 4)},
        "board_feet": round(sums.board_feet, 2),
        "cost": round(sums.cost, 2),
        "loads": {
            "applied_n": cases(applied),
            "soil_n": cases(model.soil),
            "not_carried_n": cases(total(r.force for r in model.path.lost)),
        },
        "reactions_n": {run_id: cases(line.foot) for run_id, line in sorted(model.path.runs.items())},
        "used": used,
        "findings": [
            {
                "code": f.code,
                "stage": f.stage,
                "what": f.what,
                "why": f.why,
                "things": list(f.things),
                "at_mm": [round(c, 1) for c in f.at],
                "grave": f.grave,
                "fix": f.fix.label if f.fix else None,
            }
            for f in model.findings
        ],
    }


def _export(words: list[str]) -> int:
    parser = _Parser(prog="balken export", description="Write a project's documents.")
    parser.add_argument("file")
    for kind in ("ifc", "dxf", "pdf", "csv", "xlsx"):
        parser.add_argument(f"--{kind}", metavar="FILE")
    options = parser.read(words)
    chosen = {kind: getattr(options, kind) for kind in _EXPORTS if getattr(options, kind)}
    if not chosen:
        raise CommandError("nothing to write; name at least one of --ifc, --dxf, --pdf, --csv, --xlsx.")
    from balken.derive import derive
    from balken.exchange import project_file

    model = derive(project_file.load(options.file))
    for kind, path in chosen.items():
        export(model, kind, path)
    return 0


_EXPORTS = ("ifc", "dxf", "pdf", "csv", "xlsx")


def export(model: Any, kind: str, path: str | Path) -> None:
    """Write one document of a model; raises FileError."""
    from balken.documents.sheet_set import drawings_in_rows, drawn, sheet_set
    from balken.exchange import dxf, ifc, pdf, tables

    if kind == "ifc":
        ifc.write_ifc(model, path)
    elif kind == "csv":
        tables.write_csv(model, path)
    elif kind == "xlsx":
        tables.write_xlsx(model, path)
    elif kind == "dxf":
        dxf.write_dxf(drawings_in_rows(model), path)
    else:
        pdf.write_pdf(drawn(sheet_set(model)), path, model.project.name)


def _span(words: list[str]) -> int:
    parser = _Parser(prog="balken span", description="The greatest span of a sawn joist or rafter.")
    parser.add_argument("--species", required=True)
    parser.add_argument("--grade", required=True)
    parser.add_argument("--size", required=True)
    parser.add_argument("--spacing", required=True)
    parser.add_argument("--live", default=None, help="floor live load, or roof live load of a rafter")
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
        print(json.dumps(report, indent=2))
        return 0
    case = span.result.case
    print(f"{case.size} {case.species} {case.grade} {case.kind} @ {format_length(spacing)}: {report['span']}")
    print(f"  {report['governs']} governs ({report['clause']})")
    for name, used in checks.items():
        print(f"  {name}: used {used:.0%}")
    return 0


def span_of(options: argparse.Namespace) -> tuple[Any, float]:
    """Return (Span, spacing mm) for the options of ``balken span``."""
    from balken.design.members import JOIST_LIMIT, MemberCase, greatest_span, rafter_limit
    from balken.loads.cases import Cases
    from balken.model.rule_parts import check_spacing
    from balken.model.sections import section
    from balken.model.species import grade_name, species_name

    species = species_name(options.species)
    grade = grade_name(species, options.grade)
    spacing = parse_length(options.spacing, Units.IMPERIAL, "in")
    check_spacing(spacing, "--spacing")
    rafter = options.kind == "rafter"
    if options.pitch is not None and not rafter:
        raise CommandError("--pitch goes with --kind rafter.")
    pitch = float(parse_pitch(options.pitch)) if options.pitch is not None else 0.0
    snow, dead = parse_area_load(options.snow), parse_area_load(options.dead)
    if rafter:
        roof_live = parse_area_load(options.live) if options.live is not None else 0.0
        load = Cases(dead=dead * (1.0 + pitch**2) ** 0.5, roof_live=roof_live, snow=snow)
    else:
        load = Cases(dead=dead, live=parse_area_load(options.live or "40psf"), snow=snow)
    try:
        limit = float(options.limit) if options.limit is not None else (rafter_limit(pitch) if rafter else JOIST_LIMIT)
    except ValueError:
        raise CommandError(f"--limit '{options.limit}' is no number; type 360 for L/360.") from None
    if not 50.0 <= limit <= 5000.0:
        raise CommandError(f"--limit {limit:g} is out of bounds; type 50 to 5000, such as 360 for L/360.")
    if load.live + load.roof_live + load.snow + load.dead <= 0.0:
        raise CommandError("no load acts on the member; type a --live, --dead or --snow above zero.")
    case = MemberCase(
        "rafter" if rafter else "joist",
        section(options.size).name,
        species,
        grade,
        1000.0,
        spacing,
        load,
        limit,
        pitch=pitch,
    )
    return greatest_span(case), spacing


def _footing(words: list[str]) -> int:
    parser = _Parser(prog="balken footing", description="Design one strip or pad footing.")
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
    from balken.design.footing_case import FootingError
    from balken.design.footing_design import design_footing

    units = Units(options.units)
    try:
        made = design_footing(_footing_case(options), units)
    except FootingError as error:
        raise CommandError(str(error)) from None
    if options.json:
        print(json.dumps(footing_report(made), indent=2, ensure_ascii=False))
        return 0
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
            f"  {check.name}: used {check.used:.0%} ({check.clause}{', ' if check.combination else ''}{check.combination})"
        )
    return 0


def _footing_case(options: argparse.Namespace) -> Any:
    """Return the FootingCase of the options of ``balken footing``."""
    from balken.design.footing_case import FootingCase
    from balken.loads.cases import Cases
    from balken.units.load import parse_force, parse_line_load, parse_stress

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


_CHECK_UNITS = {
    "stress": "N/mm2",
    "length": "mm",
    "ratio": "",
    "pressure": "kN/m2",
    "force": "kN",
    "moment": "kN m",
    "steel": "mm2",
}


def footing_report(made: Any) -> dict[str, Any]:
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
        "bars": [
            {
                "use": b.use,
                "size": f"#{b.number}",
                "diameter_mm": round(_bar(b.number).diameter, 2),
                "spacing_mm": round(b.spacing, 1),
                "count": b.count,
                "length_mm": round(b.length, 1),
                "hooked": b.hooked,
                "area_mm2": round(b.area * b.count, 1),
            }
            for b in made.bars
        ],
        "checks": [
            {
                "name": c.name,
                "demand": round(c.demand, 5),
                "capacity": round(c.capacity, 5),
                "unit": _CHECK_UNITS[c.quantity],
                "used": round(c.used, 5),
                "clause": c.clause,
                "combination": c.combination,
                "working": list(c.working),
            }
            for c in made.checks
        ],
    }


def _bar(number: int) -> Any:
    from balken.design.aci import BARS

    return BARS[number]


_COMMANDS = {"footing": _footing, "new": _new, "build": _build, "export": _export, "span": _span}

if __name__ == "__main__":
    raise SystemExit(main())
