"""``balken mend``: the fixes of all findings applied, gravest first, until none is left or none helps."""

from balken.commands.parser import Parser, print_json


def mend(words: list[str]) -> int:
    """Run the command; returns the exit code."""
    parser = Parser(prog="balken mend", description="Apply the fixes of all findings of a project.")
    parser.add_argument("file")
    parser.add_argument("-o", "--output", required=True, metavar="OUT", help="project file to write")
    parser.add_argument("--json", action="store_true", help="print what was applied and what remains as JSON")
    options = parser.read(words)
    from balken.commands.report import finding_row
    from balken.exchange import project_file
    from balken.mending import mend_all

    mended = mend_all(project_file.load(options.file))
    project_file.save(mended.project, options.output)
    if options.json:
        report = {
            "applied": [
                {"code": f.code, "what": f.what, "fix": f.fix.label if f.fix else None} for f in mended.applied
            ],
            "findings": [finding_row(f) for f in mended.remaining],
        }
        return print_json(report)
    for f in mended.applied:
        print(f"  {f.fix.label if f.fix else ''}: {f.what}")
    print(f"{len(mended.applied)} fixes applied, {len(mended.remaining)} findings remain")
    for f in mended.remaining:
        print(f"  {'!' if f.grave else '-'} {f.what}: {f.why}")
    return 0
