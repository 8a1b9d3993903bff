"""The cut list as CSV and as a workbook."""

import csv
import io
from pathlib import Path
from typing import Any

from balken.derived.model import Model
from balken.documents.lists import CUTS, LOAD_PATH, MEMBERS, Cell, ListOf
from balken.documents.quantity_lists import GROUND_LISTS
from balken.documents.schedule import totals
from balken.exchange.replacing import replacing, write_bytes


def write_csv(model: Model, path: Path | str, what: ListOf = CUTS) -> None:
    """Write the cut list, or another list, as CSV (UTF-8, comma, header row); raises FileError."""
    text = io.StringIO()
    writer = csv.writer(text)
    writer.writerow(what.headings)
    writer.writerows([_plain(cell) for cell in row] for row in what.table(model))
    write_bytes(path, text.getvalue().encode("utf-8"))


def _plain(cell: str | float | int) -> str | float | int:
    """Return a cell that no spreadsheet takes for a formula: a name may come from somebody else's file."""
    if isinstance(cell, str) and cell[:1] in ("=", "+", "-", "@", "\t", "\r"):
        return f"'{cell}"
    return cell


def write_xlsx(model: Model, path: Path | str) -> None:
    """Write a workbook with the cut list (with totals), the members, the load path, quantities and bars; raises FileError."""
    import xlsxwriter

    with replacing(path) as scratch:
        options = {
            "in_memory": True,
            "strings_to_formulas": False,
            "strings_to_urls": False,
            "strings_to_numbers": False,
        }
        book = xlsxwriter.Workbook(str(scratch), options)
        head = book.add_format({"bold": True, "bottom": 1})
        money = book.add_format({"num_format": "#,##0.00"})
        bold = book.add_format({"bold": True, "top": 1, "num_format": "#,##0.00"})
        rows = CUTS.table(model)
        cuts = _page(book, CUTS, rows, head, money)
        sums = totals(model)
        cuts.write(len(rows) + 1, 0, "Total", bold)
        cuts.write(len(rows) + 1, 6, sum(int(r[6]) for r in rows), bold)
        cuts.write(len(rows) + 1, 7, round(sums.board_feet, 2), bold)
        cuts.write(len(rows) + 1, 8, round(sums.cost, 2), bold)
        for other in (MEMBERS, LOAD_PATH, *GROUND_LISTS):
            _page(book, other, other.table(model), head, money)
        book.close()


def _page(book: Any, what: ListOf, rows: list[tuple[Cell, ...]], head: Any, money: Any) -> Any:
    page, headings = book.add_worksheet(what.title), what.headings
    page.write_row(0, 0, headings, head)
    for i, row in enumerate(rows, start=1):
        page.write_row(i, 0, row)
    for j, heading in enumerate(headings):
        widest = max([len(heading), *(len(str(row[j])) for row in rows)])
        page.set_column(j, j, min(widest + 2, 40), money if heading == "Cost $" else None)
    page.freeze_panes(1, 0)
    return page
