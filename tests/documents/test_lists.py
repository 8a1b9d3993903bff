"""The columns of a list stand in one place; the window and files show the same."""

import pytest

from balken.cli import main
from balken.documents.lists import CUTS, LISTS, LOAD_PATH, MEMBERS
from balken.documents.sheet_set import NONE_OF, sheet_set
from balken.exchange import project_file
from balken.exchange.file_kinds import BY_NAME, FILE_KINDS
from balken.panel.commands import BY_NAME as COMMANDS


@pytest.mark.parametrize("what", LISTS, ids=lambda what: what.title)
def test_window_and_file_say_the_same(what, demo_model):
    units, rows = demo_model.project.units, what.rows(demo_model)
    table = what.table(demo_model)
    assert len(table) == len(rows) > 0
    assert what.widest in [column.shown for column in what.shown]
    for column in what.columns:
        if not (column.shown and column.filed):
            continue
        at = what.filed.index(column)
        for row, values in zip(rows, table, strict=True):
            cell = column.cell(row, units)
            shown = cell[1] if isinstance(cell, tuple) else cell
            if isinstance(values[at], str) and shown != "no price":
                assert values[at] == shown
    assert all(what.refs(row) for row in rows)


def test_the_load_path_holds_every_carrier_once(demo_model):
    names = [row[0] for row in LOAD_PATH.table(demo_model)]
    path = demo_model.path
    assert len(names) == len(set(names)) == len(path.walls) + len(path.runs) + len(path.columns)


def test_cuts_count_every_member(demo_model):
    assert sum(row.count for row in CUTS.rows(demo_model)) == len(MEMBERS.rows(demo_model))


def test_kinds_of_files_serve_command_line_and_window(demo, tmp_path, capsys):
    """Each is an option of export, and has a command in the File menu."""
    file = tmp_path / "demo.balken"
    project_file.save(demo, file)
    assert main(["export", str(file)]) == 2
    told = capsys.readouterr().err
    assert all(f"--{kind.name}" in told for kind in FILE_KINDS)
    in_menus = {"calc": "calculation", "framing": "framing_pdf"}
    assert all(in_menus.get(name, name) in COMMANDS for name in BY_NAME)


def test_nothing_to_write_is_said(tmp_path, capsys):
    file = tmp_path / "empty.balken"
    main(["new", str(file)])
    capsys.readouterr()
    for option in ("--calc", "--framing"):
        assert main(["export", str(file), option, str(tmp_path / "out.pdf")]) == 2
        assert "there" in capsys.readouterr().err.lower()
    assert not (tmp_path / "out.pdf").exists()


def test_every_kind_of_sheet_has_a_command(demo_model):
    assert {page.kind for page in sheet_set(demo_model)} <= NONE_OF.keys()
    assert all(f"sheet_{kind}" in COMMANDS for kind in NONE_OF)
