"""``balken export``: the documents of a project."""

from pathlib import Path
from typing import Any

from balken.commands.parser import CommandError, Parser


def export_command(words: list[str]) -> int:
    """Run the command; returns the exit code."""
    parser = Parser(prog="balken export", description="Write a project's documents.")
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
