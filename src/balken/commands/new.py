"""``balken new``: a project file, empty, of the demo or from an architect's IFC."""

import json
from pathlib import Path

from balken.commands.parser import CommandError, Parser
from balken.units import Units


def new(words: list[str]) -> int:
    """Run the command; returns the exit code."""
    parser = Parser(prog="balken new", description="Write a new project file.")
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
        from balken.exchange.ifc_process import read_apart

        project, report = read_apart(Path(options.source), lambda done, of: True)
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
