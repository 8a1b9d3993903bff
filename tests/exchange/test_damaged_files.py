"""Damaged project, IFC and DXF files: a message or a project that can be saved and opened, never a fault or a hang."""

import os
import random
import re

import ezdxf
import ifcopenshell
import pytest
from tests.houses import house

from balken.cli import main
from balken.derive import derive
from balken.exchange import project_file
from balken.exchange.dxf_reader import read_dxf, read_here
from balken.exchange.file_errors import FileError
from balken.exchange.ifc import write_ifc
from balken.exchange.ifc_reader import read_ifc
from balken.model import edits

MUTATED = int(os.environ.get("BALKEN_MUTATED", "100"))
"""How many damaged files of each kind are tried; `make hunt` tries many more."""
WORDS = (
    "$", "*", "()", "0.", "-1.", "1.E300", "1.E-300", "'x'", "''", ".T.", ".F.", ".NOTDEFINED.", "#1", "#2", "#999999",
    "(0.,0.,0.)", "(1.,0.)", "nan", "-0.", "IFCWALL", "((0.,0.),(1.,1.))", "99999999999",
)  # fmt: skip


@pytest.fixture(scope="module")
def ifc_text(tmp_path_factory):
    p = edits.add_opening(house(middle=True), "wall-1", "window", 2000.0, 1200.0, 1200.0, 800.0)
    file = tmp_path_factory.mktemp("ifc") / "house.ifc"
    write_ifc(derive(edits.remove(p, "roof-1")), file)
    return file.read_text()


def damaged(text, rng, words):
    """Replace some figures, references or names of a text by others, or take out a line."""
    lines = text.splitlines()
    for _ in range(rng.randint(1, 4)):
        if not lines:
            break
        i = rng.randrange(len(lines))
        parts = list(re.finditer(r"#\d+|-?\d+\.\d*(?:E-?\d+)?|'[^']*'|\.[A-Z]+\.|\$|\([^()]*\)", lines[i]))
        if not parts or rng.random() < 0.1:
            del lines[i]
            continue
        part = rng.choice(parts[1:] or parts)
        lines[i] = lines[i][: part.start()] + rng.choice(words) + lines[i][part.end() :]
    return "\n".join(lines) + "\n"


def important(text):
    """The lines of an IFC that walls, openings, storeys and their places are made of, often damaged; the rest seldom."""
    return re.findall(
        r"^#\d+=IFC(?:WALL|OPENING|LOCALPLACEMENT|AXIS2|CARTESIANPOINT|DIRECTION|BUILDINGSTOREY|GRID|MATERIAL|SIUNIT).*$",
        text,
        re.M,
    )


def test_damaged_ifc(ifc_text, tmp_path):
    rng = random.Random(11)
    rows = important(ifc_text)
    file, out = tmp_path / "bad.ifc", tmp_path / "bad.balken"
    for _ in range(MUTATED):
        text = ifc_text
        for _ in range(rng.randint(1, 3)):
            row = rng.choice(rows)
            text = text.replace(row, damaged(row, rng, WORDS).rstrip("\n") or row)
        file.write_text(text)
        try:
            project, report = read_ifc(file)
        except FileError as error:
            assert str(error)  # noqa: PT017
            continue
        project_file.save(project, out)
        assert project_file.to_bytes(project_file.load(out)) == project_file.to_bytes(project)
        assert report.as_json()["counts"]["walls"] == len(project.walls)


def test_an_opening_without_a_direction_can_be_opened_again(ifc_text, tmp_path):
    for direction in re.findall(r"^(#\d+)=IFCDIRECTION\(\([^)]*\)\);", ifc_text, re.M)[:6]:
        text = re.sub(
            rf"^{direction}=IFCDIRECTION\(\([^)]*\)\);", f"{direction}=IFCDIRECTION((0.,0.,0.));", ifc_text, flags=re.M
        )
        file, out = tmp_path / "flat.ifc", tmp_path / "flat.balken"
        file.write_text(text)
        try:
            project, _ = read_ifc(file)
        except FileError:
            continue
        project_file.save(project, out)
        assert (
            b"null"
            not in re.sub(rb'"(?:header|spacing|size|reading|cut)": null', b"", out.read_bytes())
            .split(b'"levels"')[1]
            .split(b'"foundations"')[0]
        )
        project_file.load(out)


def test_placements_in_a_circle_are_left_out(ifc_text, tmp_path):
    model = ifcopenshell.file.from_string(ifc_text)
    wall = model.by_type("IfcWall")[0]
    wall.ObjectPlacement.PlacementRelTo = wall.ObjectPlacement
    file = tmp_path / "circle.ifc"
    model.write(str(file))
    project, report = read_ifc(file)
    assert len(project.walls) == 4
    assert any("circle" in row[3] for row in report.left_out)


@pytest.fixture(scope="module")
def dxf_text(tmp_path_factory):
    document = ezdxf.new()
    space = document.modelspace()
    block = document.blocks.new("DESK")
    block.add_line((0, 0), (1000, 0))
    block.add_text("desk")
    space.add_lwpolyline([(0, 0), (9000, 0), (9000, 6000), (0, 6000)], close=True)
    space.add_circle((3000, 3000), 500)
    space.add_arc((3000, 3000), 800, 0, 120)
    space.add_spline([(0, 0), (1000, 500), (2000, 0), (3000, 700)])
    space.add_blockref(
        "DESK",
        (500, 500),
        dxfattribs={"xscale": 2.0, "row_count": 2, "column_count": 3, "row_spacing": 900, "column_spacing": 1500},
    )
    file = tmp_path_factory.mktemp("dxf") / "plan.dxf"
    document.saveas(file)
    return file.read_text()


def test_an_array_of_inserts_is_that_many(dxf_text, tmp_path):
    file = tmp_path / "plan.dxf"
    file.write_text(dxf_text)
    lines = read_dxf(file)
    desks = [
        row
        for rows in lines.layers.values()
        for row in rows
        if abs(abs(row[1][0] - row[0][0]) - 2000.0) < 1e-6 and row[0][1] == row[1][1]
    ]
    assert len(desks) == 6
    assert lines.left_out["TEXT"] == 6


def test_damaged_dxf(dxf_text, tmp_path):
    rng = random.Random(12)
    words = ("1e300", "-1e300", "nan", "inf", "0.0", "-1", "99999", "DESK", "HATCH", "NONSENSE", "", "1e-300")
    rows = dxf_text.split("\n")
    start = next(i for i, row in enumerate(rows) if row.strip() == "ENTITIES")
    file = tmp_path / "bad.dxf"
    for _ in range(MUTATED):
        made = list(rows)
        for _ in range(rng.randint(1, 4)):
            i = rng.randrange(start, len(made)) if rng.random() < 0.8 else rng.randrange(len(made))
            made[i] = rng.choice(words)
        file.write_text("\n".join(made))
        try:
            lines = read_here(str(file))
        except FileError as error:
            assert str(error)  # noqa: PT017
            continue
        assert lines.count <= 300_000


def test_a_drawing_whose_model_space_lost_its_name(dxf_text, tmp_path):
    rows = dxf_text.split("\n")
    file = tmp_path / "bad.dxf"
    for i, row in enumerate(rows):
        if row.strip() == "Model":
            file.write_text("\n".join([*rows[:i], "NONSENSE", *rows[i + 1 :]]))
            try:
                assert read_here(str(file)).count
            except FileError as error:
                assert str(error)  # noqa: PT017


@pytest.mark.parametrize("what", ["infinite", "huge", "nested", "unknown"])
def test_what_would_hang_is_left_out(tmp_path, what):
    document = ezdxf.new()
    space = document.modelspace()
    space.add_line((0, 0), (5000, 0))
    if what == "infinite":
        document.blocks.new("B").add_line((0, 0), (1, 0))
        space.add_blockref("B", (0, 0), dxfattribs={"xscale": float("inf")})
    elif what == "huge":
        space.add_circle((0, 0), 1e300)
    elif what == "nested":
        document.blocks.new("A0").add_text("x")
        for k in range(1, 9):
            inner = document.blocks.new(f"A{k}")
            for i in range(12):
                inner.add_blockref(f"A{k - 1}", (i, 0))
        space.add_blockref("A8", (0, 0))
    file = tmp_path / f"{what}.dxf"
    document.saveas(file)
    if what == "unknown":
        text = file.read_text()
        at = text.rindex("LINE\n")
        file.write_text(text[:at].rstrip() + "\nNEWKIND\n  5\nFFFF\n  8\n0\n  0\n" + text[at:])
    try:
        lines = read_dxf(file)
        assert lines.count >= 1
        assert lines.left_out
    except FileError as error:
        assert what == "nested"
        assert "more than" in str(error)  # noqa: PT017


def test_commands_refuse_what_is_no_file(tmp_path, capsys):
    for words in (
        ["new", "--demo", "-o", "/"],
        ["build", str(tmp_path)],
        ["build", "/dev/null"],
        ["new", "--from", "/dev/zero", "-o", str(tmp_path / "x.balken")],
    ):
        assert main(words) == 2
        assert capsys.readouterr().err.startswith("balken: ")


def test_names_that_are_no_utf8(tmp_path):
    folder = os.path.join(os.fsencode(tmp_path), b"caf\xe9")
    os.mkdir(folder)
    path = os.fsdecode(os.path.join(folder, b"h\xe4us.balken"))
    p = house()
    project_file.save(p, path)
    assert project_file.to_bytes(project_file.load(path)) == project_file.to_bytes(p)
    from pathlib import Path

    from balken.exchange.journal import Journal
    from balken.session.session import Session

    session = Session(None, Journal(tmp_path / "journal"))
    assert session.open(Path(path))
    assert session.apply("raise", lambda q: edits.set_level(q, "level-2", 2600.0))
    assert session.kept
    assert session.save(Path(path))


def test_damaged_projects(tmp_path):
    rng = random.Random(13)
    good = project_file.to_bytes(edits.add_opening(house(), "wall-1", "door", 2000.0, 900.0, 2000.0, 0.0)).decode()
    words = ("null", "1e999", "-1e999", "NaN", '"x"', "[]", "{}", "0", "-1", "1e300", "true", '"level-1"', '"wall-1"')
    for _ in range(MUTATED):
        lines = good.splitlines()
        for _ in range(rng.randint(1, 3)):
            i = rng.randrange(len(lines))
            head, colon, _ = lines[i].partition(": ")
            tail = "," if lines[i].rstrip().endswith(",") else ""
            lines[i] = f"{head}{colon}{rng.choice(words)}{tail}" if colon else rng.choice(words)
        try:
            p = project_file.from_bytes("\n".join(lines).encode())
        except FileError as error:
            assert str(error)  # noqa: PT017
            continue
        derive(p)
