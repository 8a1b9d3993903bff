"""The command without a window, as a user runs it."""

import contextlib
import io
import json
import math
import subprocess
import sys
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from balken.cli import main

BALKEN = Path(sys.executable).with_name("balken")


def test_new_build_export(tmp_path, capsys):
    project = tmp_path / "demo.balken"
    assert main(["new", "--demo", "-o", str(project)]) == 0
    assert main(["build", str(project), "--json"]) == 0
    report = json.loads(capsys.readouterr().out)
    # 138 without openings; on each of two floors four joists are cut in two, and three lines of two trimmers are added.
    assert report["counts"]["joist"] == 138 + 2 * (4 + 3 * 2)
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
    assert "joist, used up to 75%" in capsys.readouterr().out


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


# Whatever is typed ---------------------------------------------------------------------------------

NONSENSE = ("", "x", "-5in", "nan", "inf", "1e400", "0", "-1", "12'-13 1/0\"", "\u221e", "5 5", "1" * 400, "--", "@")
SPAN = {"species": "DF-L", "grade": "No. 2", "size": "2x10", "spacing": "16in", "live": "40psf", "limit": "360"}
FOOTING = {"line": "3000plf", "wall": "8in", "dead": "0.4", "bearing": "2000psf", "fc": "2500psi", "fy": "60ksi"}
PAD = {"column": "40kip", "size": "8in", "dead": "0.4", "bearing": "2000psf", "eccentricity": "2in"}


def run(command, options, capsys):
    """Return (exit code, what JSON was printed, what was said) of a command."""
    code = main([command, *(f"--{name}={value}" for name, value in options.items()), "--json"])
    out, said = capsys.readouterr()
    return code, json.loads(out) if code == 0 else None, said


@pytest.mark.parametrize(
    ("command", "options", "name"),
    [(c, o, name) for c, o in (("span", SPAN), ("footing", FOOTING), ("footing", PAD)) for name in o],
    ids=lambda v: v if isinstance(v, str) else "",
)
@pytest.mark.parametrize("typed", NONSENSE, ids=lambda v: v[:12] or "nothing")
def test_nonsense_in_one_option_ends_with_2_or_is_taken(command, options, name, typed, capsys):
    code, made, said = run(command, options | {name: typed}, capsys)
    assert code in (0, 2)
    if code == 2:
        assert said.startswith("balken: ")
        assert len(said) > 25
        assert "Traceback" not in said
    else:
        assert made


def spread(low, high, unit):
    """Figures over several powers of ten, as typed."""
    return st.floats(low, high).map(lambda power: f"{10.0**power:.6g}{unit}")


@given(
    line=spread(1.0, 5.3, "plf"),
    wall=spread(0.6, 1.6, "in"),
    dead=st.floats(0.0, 1.0).map(str),
    bearing=spread(2.5, 4.5, "psf"),
    fc=spread(3.4, 3.95, "psi"),
    fy=st.none() | st.sampled_from(["40ksi", "60ksi", "420MPa"]),
)
def test_any_footing_that_is_designed_keeps_its_own_limits(line, wall, dead, bearing, fc, fy):
    """Width times pressure is the load with the footing's own; it works when no check is over 1."""
    options = {"line": line, "wall": wall, "dead": dead, "bearing": bearing, "fc": fc}
    options |= {"fy": fy} if fy else {}
    out = io.StringIO()
    with contextlib.redirect_stdout(out), contextlib.redirect_stderr(io.StringIO()):
        code = main(["footing", *(f"--{name}={value}" for name, value in options.items()), "--json"])
    assert code in (0, 2)
    if code == 2:
        return
    made = json.loads(out.getvalue())
    assert made["soil_pressure_kpa"] <= float(bearing[:-3]) * 0.04788026 * 1.001
    assert made["reinforced"] is bool(made["bars"])
    assert all(math.isfinite(check["used"]) for check in made["checks"])
    assert made["works"] is all(check["used"] <= 1.0005 for check in made["checks"])
    assert made["works"] is (made["used"] <= 1.0005)
    load = float(line[:-3]) * 0.0145939  # kN/m
    assert made["soil_pressure_kpa"] * made["width_mm"] / 1000.0 >= load * 0.999


def test_a_footing_that_is_not_enough_says_so(capsys):
    words = ["footing", "--line=10000plf", "--wall=10in", "--dead=0", "--bearing=1000psf", "--fc=3000psi"]
    assert main(words) == 0
    assert "not enough: projection, greatest" in capsys.readouterr().out
    assert main([*words, "--fy=60ksi"]) == 0
    assert "not enough" not in capsys.readouterr().out
