"""``balken export``: the documents of a project."""

from pathlib import Path
from typing import Any

from balken.commands.parser import CommandError, Parser


def export_command(words: list[str]) -> int:
    """Run the command; returns the exit code."""
    parser = Parser(prog="balken export", description="Write a project's documents.")
    parser.add_argument("file")
    for kind in EXPORTS:
        parser.add_argument(f"--{kind}", metavar="FILE", help=HELP.get(kind))
    parser.add_argument(
        "--with-calc", action="store_true", help="with --pdf: the calculation sheets after the drawings"
    )
    options = parser.read(words)
    chosen = {kind: getattr(options, kind) for kind in EXPORTS if getattr(options, kind)}
    if not chosen:
        raise CommandError("nothing to write; name at least one of --ifc, --dxf, --pdf, --csv, --xlsx, --calc.")
    from balken.derive import derive
    from balken.exchange import project_file

    if options.with_calc and not options.pdf:
        raise CommandError("--with-calc goes with --pdf FILE.")
    model = derive(project_file.load(options.file))
    for kind, path in chosen.items():
        export(model, kind, path, options.with_calc)
    return 0


EXPORTS = ("ifc", "dxf", "pdf", "csv", "xlsx", "calc")
HELP = {"calc": "PDF of the calculation sheets of all members, footings and walls"}


def export(model: Any, kind: str, path: str | Path, with_calc: bool = False) -> None:
    """Write one document of a model; ``with_calc``: a PDF with the calculation sheets after it.  Raises FileError."""
    from balken.documents.calculation import all_calculations, calculation_pages
    from balken.documents.sheet_set import drawings_in_rows, drawn, sheet_set
    from balken.exchange import dxf, ifc, list_files, pdf

    if kind == "ifc":
        ifc.write_ifc(model, path)
    elif kind == "csv":
        list_files.write_csv(model, path)
    elif kind == "xlsx":
        list_files.write_xlsx(model, path)
    elif kind == "dxf":
        dxf.write_dxf(drawings_in_rows(model), path)
    elif kind == "calc":
        pages = [page for ref in all_calculations(model) for page in calculation_pages(model, ref)]
        if not pages:
            raise CommandError("there is nothing to calculate yet: no floor, roof, wall or footing.")
        pdf.write_pdf(pages, path, f"{model.project.name}: calculation")
    else:
        sheets = list(drawn(sheet_set(model)))
        if with_calc:
            sheets += [page for ref in all_calculations(model) for page in calculation_pages(model, ref)]
        pdf.write_pdf(sheets, path, model.project.name)
