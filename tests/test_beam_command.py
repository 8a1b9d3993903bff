"""``balken beam`` as a user runs it."""

import json

import pytest

from balken.cli import main

SPANS = ["beam", "--spans", "12ft,10ft", "--line", "D=100plf,L=400plf"]


def report(capsys, *words):
    assert main([*words, "--json"]) == 0
    return json.loads(capsys.readouterr().out)


def test_what_the_report_holds(capsys):
    made = report(capsys, *SPANS, "--overhang-left", "2ft", "--point", "D=500lb,L=1500lb@6ft", "--size", "4-2x12")
    assert set(made) == {
        "size", "used", "governs", "checks", "reactions", "moment_max_knm", "moment_min_knm", "shear_max_kn", "sags",
    }  # fmt: skip
    assert made["size"] == "4-2x12"
    assert {"name", "clause", "demand", "capacity", "used", "combination"} <= set(made["checks"][0])
    assert made["used"] == pytest.approx(max(c["used"] for c in made["checks"]), abs=1e-4)
    assert made["governs"] == made["checks"][0]["name"]
    rows = made["reactions"]
    assert [set(row) for row in rows] == [{"at_mm", "D", "L", "Lr", "S", "W", "max_n", "min_n"}] * 3
    assert [row["at_mm"] for row in rows] == pytest.approx([609.6, 4267.2, 7315.2])
    # All that lies on it: 24 ft of line, and the point.
    assert sum(row["D"] for row in rows) == pytest.approx((2400 + 500) * 4.4482216, rel=1e-4)
    assert sum(row["L"] for row in rows) == pytest.approx((9600 + 1500) * 4.4482216, rel=1e-4)
    assert len(made["sags"]) == 3
    assert all(sag["total_mm"] > sag["live_mm"] > 0.0 for sag in made["sags"])


def test_skipped_spans_ask_for_more(capsys):
    some = report(capsys, *SPANS, "--size", "3-2x12")
    whole = report(capsys, *SPANS, "--size", "3-2x12", "--skip", "off")
    assert some["moment_max_knm"] > whole["moment_max_knm"]
    assert some["reactions"] != whole["reactions"]
    assert [r["L"] for r in some["reactions"]] == [r["L"] for r in whole["reactions"]]


def test_rising_loads_lifting_loads_and_own_weight(capsys):
    """W = 14 ft x 105 plf rising to its end: W/3 and 2 W/3 (any handbook)."""
    words = ["beam", "--spans", "14ft", "--patch", "S=0plf..210plf@0ft..14ft", "--size", "3-2x12"]
    made = report(capsys, *words)
    whole = 14 * 105 * 4.4482216
    assert [r["S"] for r in made["reactions"]] == pytest.approx([whole / 3, 2 * whole / 3], rel=1e-4)
    assert made["moment_max_knm"] == pytest.approx(0.1283 * whole * 4.2672 / 1000, rel=1e-3)
    heavier = report(capsys, *words, "--own-weight")
    assert heavier["reactions"][0]["D"] > 0.0
    lifted = report(capsys, "beam", "--spans", "10ft", "--line", "D=50plf,W=-200plf", "--size", "2-2x10")
    # 0.6 D + 0.6 W (ASCE 7-16, 2.4.1): (30 - 120) plf x 5 ft.
    assert lifted["reactions"][0]["min_n"] == pytest.approx(-450 * 4.4482216, rel=1e-3)
    assert lifted["moment_min_knm"] < 0.0


def test_kinds_left_to_balken(capsys):
    for size, start in (("auto", ("2x", "2-", "3-", "4-")), ("auto:LVL", "LVL"), ("auto:GLB", "GLB"), ("auto:W", "W")):
        made = report(capsys, "beam", "--spans", "12ft", "--line", "D=100plf,L=300plf", "--size", size)
        assert made["size"].startswith(start)
        assert made["used"] <= 1.0


def test_braces_count(capsys):
    words = ["beam", "--spans", "20ft", "--line", "D=100plf,L=300plf", "--size", "W10x19"]
    full, some, none = (report(capsys, *words, "--braced", b)["used"] for b in ("full", "4ft", "none"))
    held = next(c for c in report(capsys, *words, "--braced", "none")["checks"] if c["name"] == "bending")
    assert full <= some <= none
    assert held["clause"] == "AISC 360-16 F2.2"


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (["--spans", "12ft", "--size", "3-2x10"], "nothing lies on the beam"),
        (["--spans", "0ft", "--line", "D=1plf", "--size", "3-2x10"], "each of --spans"),
        (["--spans", "12ft", "--line", "D=100", "--size", "9-2x10"], "no lumber size"),
        (["--spans", "12ft", "--line", "Q=100plf", "--size", "3-2x10"], "is no load"),
        (["--spans", "12ft", "--line", "D=1plf,D=2plf", "--size", "3-2x10"], "names D twice"),
        (["--spans", "12ft", "--patch", "L=3plf@8ft..2ft", "--size", "3-2x10"], "does not lie on the beam"),
        (["--spans", "12ft", "--patch", "L=3plf", "--size", "3-2x10"], "from where to where"),
        (["--spans", "12ft", "--point", "L=3lb@13ft", "--size", "3-2x10"], "beyond the beam"),
        (["--spans", "12ft", "--line", "D=1plf", "--size", "auto:CLT"], "no such kind"),
        (["--spans", "12ft", "--line", "D=1plf", "--size", "3-2x10", "--limit", "x"], "no number"),
        (["--spans", "12ft", "--line", "D=1plf", "--size", "3-2x10", "--bearing", "0in"], "--bearing must"),
        (["--spans", "12ft", "--line", "D=1plf", "--size", "3-2x10", "--grade", "Best"], "no grade"),
    ],
)
def test_what_is_wrong_is_said(words, said, capsys):
    assert main(["beam", *words]) == 2
    assert said in capsys.readouterr().err


def test_in_words(capsys):
    assert main([*SPANS, "--overhang-right", "6ft", "--point", "L=900lb@28ft", "--size", "LVL 2-1.75x9.5"]) == 0
    out = capsys.readouterr().out
    assert "governs" in out
    assert "makers" in out
