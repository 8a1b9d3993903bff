"""The kinds of files that Balken writes, once: menu, command line and window all read them here."""

from collections.abc import Callable, Iterator
from pathlib import Path

from balken.derived.model import Model
from balken.documents.calculation import all_calculations, calculation_pages
from balken.documents.elevation import elevation_sheets, framed_walls
from balken.documents.quantity_lists import GROUND_LISTS
from balken.documents.sheet import Sheet
from balken.documents.sheet_set import Watch, drawings_in_rows, drawn, sheet_set
from balken.exchange import dxf, ifc, list_files, pdf
from balken.value import Value

Writer = Callable[[Model, Path, tuple[str, ...], Watch], None]
"""Writes a model to a file, for some things by their ids (none: all); tells how far it is.  Raises FileError, Stopped."""


class FileKind(Value, frozen=True):
    """One kind: its name, which is also its option of ``balken export``, what a file dialog calls it and asks.

    ``write``: writes it; ``none``: what to say when there is nothing to write, asked of ``any``.
    """

    name: str
    sort: str
    suffix: str
    title: str
    write: Writer
    any: Callable[[Model], bool] = lambda model: True
    none: str = ""
    help: str = ""


def _part(watch: Watch, first: float, last: float) -> Watch:
    """Watch a part of the work, from ``first`` to ``last`` of the whole."""
    return lambda done, of: watch(round(1000.0 * (first + (last - first) * done / max(of, 1))), 1000)


def _pages(model: Model, refs: tuple[str, ...]) -> Iterator[Sheet]:
    for ref in refs or all_calculations(model):
        yield from calculation_pages(model, ref)


def _pdf(model: Model, path: Path, refs: tuple[str, ...], watch: Watch) -> None:
    pdf.write_pdf(drawn(sheet_set(model), watch), path, model.project.name)


def write_with_calculations(model: Model, path: Path) -> None:
    """Write the drawings as PDF with the calculation sheets after them; raises FileError."""
    pdf.write_pdf([*drawn(sheet_set(model)), *_pages(model, ())], path, model.project.name)


def _calculations(model: Model, path: Path, refs: tuple[str, ...], watch: Watch) -> None:
    pdf.write_pdf(list(_pages(model, refs)), path, f"{model.project.name}: calculation")


def _framing(model: Model, path: Path, refs: tuple[str, ...], watch: Watch) -> None:
    pdf.write_pdf(elevation_sheets(model, refs), path, f"{model.project.name}: framing elevations")


def _dxf(model: Model, path: Path, refs: tuple[str, ...], watch: Watch) -> None:
    dxf.write_dxf(drawings_in_rows(model, _part(watch, 0.0, 0.1)), path, _part(watch, 0.1, 0.6))


def _ifc(model: Model, path: Path, refs: tuple[str, ...], watch: Watch) -> None:
    def told(done: int, of: int) -> bool:
        watch(done, of)
        return True

    ifc.write_ifc(model, path, told)


FILE_KINDS: tuple[FileKind, ...] = (
    FileKind("ifc", "IFC (*.ifc)", ".ifc", "Write IFC", _ifc),
    FileKind("dxf", "DXF (*.dxf)", ".dxf", "Write DXF", _dxf),
    FileKind("pdf", "PDF (*.pdf)", ".pdf", "Write PDF", _pdf),
    FileKind("csv", "CSV (*.csv)", ".csv", "Write CSV", lambda m, path, refs, watch: list_files.write_csv(m, path)),
    FileKind(
        "xlsx", "Workbook (*.xlsx)", ".xlsx", "Write XLSX", lambda m, path, refs, watch: list_files.write_xlsx(m, path)
    ),
    *(
        FileKind(
            what.title.lower(),
            "CSV (*.csv)",
            ".csv",
            f"Write {what.title.lower()} as CSV",
            lambda m, path, refs, watch, what=what: list_files.write_csv(m, path, what),  # type: ignore[misc]
            lambda model, what=what: bool(what.rows(model)),  # type: ignore[misc]
            f"There are no {what.title.lower()} yet.",
            f"CSV of the {what.title.lower()}",
        )
        for what in GROUND_LISTS
    ),
    FileKind(
        "calc",
        "PDF (*.pdf)",
        ".pdf",
        "Write calculation sheets",
        _calculations,
        lambda model: bool(all_calculations(model)),
        "There is nothing to calculate yet: no floor, roof, wall or footing.",
        "PDF of the calculation sheets of all members, footings and walls",
    ),
    FileKind(
        "framing",
        "PDF (*.pdf)",
        ".pdf",
        "Write framing elevations, a page a wall",
        _framing,
        lambda model: bool(framed_walls(model)),
        "No wall has a core of studs, so there is no framing to write.",
        "PDF of the framing elevations, a page a wall",
    ),
)
BY_NAME: dict[str, FileKind] = {kind.name: kind for kind in FILE_KINDS}
