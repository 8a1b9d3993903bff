"""The command without a window, as a user runs it."""

import json
import subprocess
import sys
from pathlib import Path

import pytest

from balken.cli import main

BALKEN = Path(sys.executable).with_name("balken")


def test_new_build_export(tmp_path, capsys):
    project = tmp_path / "demo.balken"
    assert main(["new", "--demo", "-o", str(project)]) == 0
    assert main(["build", str(project), "--json"]) == 0
    report = json.loads(capsys.readouterr().out)
    assert report["counts"]["joist"] == 150
    assert report["loads"]["soil_n"]["total"] == pytest.approx(report["loads"]["applied_n"]["total"], rel=1e-3)
    assert sum(r["total"] for r in report["reactions_n"].values()) < report["loads"]["soil_n"]["total"]
    assert report["used"]["joist"]["used"] <= 1.0
    assert report["findings"] == []
    assert report["volumes_m3"]["concrete"] > 5
    files = {k: tmp_path / f"demo.{k}" for k in ("ifc", "dxf", "pdf", "csv", "xlsx")}
    words = [w for k, f in files.items() for w in (f"--{k}", str(f))]
    assert main(["export", str(project), *words]) == 0
    assert all(f.stat().st_size > 500 for f in files.values())
    assert main(["build", str(project)]) == 0
    assert "joist, used up to 73%" in capsys.readouterr().out


def test_the_installed_command():
    done = subprocess.run([BALKEN, "--version"], capture_output=True, text=True, check=True)
    assert done.stdout.startswith("Balken ")
    done = subprocess.run([BALKEN, "build", "/nowhere.balken"], capture_output=True, text=True, check=False)
    assert done.returncode == 2
    assert "no such file" in done.stderr
    assert "Traceback" not in done.stderr


@pytest.mark.parametrize(
    "words",
    [
        ["build"],
        ["nonsense"],
        ["build", "nowhere.balken", "--json"],
        ["export", "nowhere.balken"],
        ["new", "-o", "/nowhere/at/all.balken"],
        ["new", "--units", "cubits", "-o", "x.balken"],
        ["span", "--species", "DF-L"],
        ["export", "nowhere.balken", "--ifc", "x.ifc"],
    ],
)
def test_bad_input_ends_with_2_and_a_message(words, capsys):
    assert main(words) == 2
    err = capsys.readouterr().err
    assert err.startswith("balken: ")
    assert len(err) > 20


def test_an_unwritable_target_is_said_and_left_alone(tmp_path, capsys):
    project = tmp_path / "demo.balken"
    main(["new", "--demo", "-o", str(project)])
    target = tmp_path / "folder"
    target.mkdir()
    for kind in ("ifc", "dxf", "pdf", "csv", "xlsx"):
        assert main(["export", str(project), f"--{kind}", str(target)]) == 2
        assert "folder" in capsys.readouterr().err
    assert list(target.iterdir()) == []
    assert sorted(f.name for f in tmp_path.iterdir()) == ["demo.balken", "folder"]
