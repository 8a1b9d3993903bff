"""``balken build``: a project derived, and what came of it."""

from collections import Counter
from typing import Any

from balken.commands.parser import Parser, print_json
from balken.derived.finding import Finding
from balken.model.naming import footing_of, wall_of
from balken.units import format_force


def build(words: list[str]) -> int:
    """Run the command; returns the exit code."""
    parser = Parser(prog="balken build", description="Derive a project and report on it.")
    parser.add_argument("file")
    parser.add_argument("--json", action="store_true", help="print JSON")
    options = parser.read(words)
    from balken.derive import derive
    from balken.exchange import project_file

    report = build_report(derive(project_file.load(options.file)))
    if options.json:
        return print_json(report)
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
        ("strip footing", footing_of(run_id), f"{f.width:.0f} x {f.depth:.0f} mm", f.used, f.design.checks[0])
        for run_id, f in model.footings.items()
    ]
    ground += [
        ("pad footing", f"{v}/pad", f"{r.design.width:.0f} x {r.design.thickness:.0f} mm", r.used, r.design.checks[0])
        for v, r in model.pads.items()
    ]
    ground += [("foundation wall", wall_of(run_id), "", w.used, w.checks[0]) for run_id, w in model.earth_walls.items()]
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
        "findings": [finding_row(f) for f in model.findings],
    }


def finding_row(f: Finding) -> dict[str, Any]:
    """Return a finding as plain data."""
    return {
        "code": f.code,
        "stage": f.stage,
        "what": f.what,
        "why": f.why,
        "things": list(f.things),
        "at_mm": [round(c, 1) for c in f.at],
        "grave": f.grave,
        "fix": f.fix.label if f.fix else None,
    }
