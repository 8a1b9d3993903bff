"""``balken roof``: the names in its JSON, framing-square tables, textbook roofs, what is refused."""

import itertools
import json
import math

import pytest

from balken.cli import main

FT, IN = 304.8, 25.4
RECTANGLE = "0,0 40,0 40,28 0,28"
SQUARE_TABLE = {3: (12.37, 17.23, 16.49, 24.74), 4: (12.65, 17.44, 16.87, 25.30), 6: (13.42, 18.00, 17.89, 26.83),
                8: (14.42, 18.76, 19.23, 28.84), 12: (16.97, 20.78, 22.63, 33.94)}  # fmt: skip
"""Rise in 12: common and hip in inches a foot of run, what jacks differ by at 16 and 24 in (stamped on framing squares)."""


def run(capsys, *words):
    assert main(["roof", *words, "--json"]) == 0
    return json.loads(capsys.readouterr().out)


def test_names_and_figures_of_a_hip_roof(capsys):
    """40 x 28 ft at 6:12: 1,252.2 ft2 on the slope over 1,120, ridge 12 ft long and 7 ft up (any estimator's handbook)."""
    made = run(capsys, "--outline", RECTANGLE, "--pitch", "6:12", "--overhang", "12in")
    assert set(made) == {"planes", "area_m2", "plan_area_m2", "with_overhang", "ridge_height_mm", "lines"}
    assert set(made["planes"][0]) == {"edge", "pitch", "ring", "area_m2"}
    assert [p["edge"] for p in made["planes"]] == [1, 2, 3, 4]
    assert made["area_m2"] / FT**2 * 1e6 == pytest.approx(1252.2, abs=0.05)
    assert made["plan_area_m2"] / FT**2 * 1e6 == pytest.approx(1120.0)
    assert made["with_overhang"]["plan_area_m2"] / FT**2 * 1e6 == pytest.approx(42 * 30)
    assert made["with_overhang"]["area_m2"] / made["with_overhang"]["plan_area_m2"] == pytest.approx(math.hypot(1, 0.5))
    assert made["ridge_height_mm"] == pytest.approx(7 * FT)
    kinds = sorted(line["kind"] for line in made["lines"])
    assert kinds == ["eave"] * 4 + ["hip"] * 4 + ["ridge"]
    assert set(made["lines"][0]) == {"kind", "start", "end", "length_mm"}


@pytest.mark.parametrize("rise", SQUARE_TABLE)
def test_framing_square_tables(capsys, rise):
    """Every length of the tables to the hundredth of an inch they are stamped with."""
    common, hip, by_16, by_24 = SQUARE_TABLE[rise]
    made = run(capsys, "--outline", RECTANGLE, "--pitch", f"{rise}:12", "--rafters", "2x8@16in")
    rows = made["members"]
    assert set(rows[0]) == {
        "role", "mark", "start", "end", "theoretical_mm", "length_mm", "slope_deg", "bevel_deg", "top_edge_deg"
    }  # fmt: skip
    commons = {round(m["theoretical_mm"] / IN / 14.0, 2) for m in rows if m["role"] == "common rafter"}
    assert commons == {common}
    hips = {round(m["theoretical_mm"] / IN / 14.0, 2) for m in rows if m["role"] == "hip"}
    assert hips == {hip}
    for apart, difference in ((16, by_16), (24, by_24)):
        other = run(capsys, "--outline", RECTANGLE, "--pitch", f"{rise}:12", "--rafters", f"2x8@{apart}in")["members"]
        long = sorted({round(m["theoretical_mm"], 2) for m in other if m["role"] == "hip jack" and m["length_mm"] > 0})
        assert {round((b - a) / IN, 2) for a, b in itertools.pairwise(long)} == {difference}


def test_cuts_of_a_regular_hip(capsys):
    """At 6:12: common 26.57 deg, hip 19.47; jacks 45 deg on the plumb line, 41.8 across the top edge (tan = 12/13.42)."""
    rows = run(capsys, "--outline", RECTANGLE, "--pitch", "6:12", "--rafters", "2x8@16in")["members"]
    common = next(m for m in rows if m["role"] == "common rafter")
    assert (common["slope_deg"], common["bevel_deg"], common["top_edge_deg"]) == (
        pytest.approx(26.565, abs=0.001),
        0.0,
        0.0,
    )
    # Half of a ridge of 1 1/2 in shorter, on the slope.
    assert common["theoretical_mm"] - common["length_mm"] == pytest.approx(0.75 * IN * math.hypot(1, 0.5), abs=0.01)
    jack = next(m for m in rows if m["role"] == "hip jack")
    assert jack["bevel_deg"] == pytest.approx(45.0)
    assert jack["top_edge_deg"] == pytest.approx(math.degrees(math.atan(12 / 13.416)), abs=0.01)
    # Its middle ends half of the hip's 45-degree thickness short, its long point half of its own thickness further on.
    assert jack["theoretical_mm"] - jack["length_mm"] == pytest.approx(
        (0.75 * math.sqrt(2) - 0.75) * IN * math.hypot(1, 0.5), abs=0.01
    )
    hip = next(m for m in rows if m["role"] == "hip")
    assert hip["slope_deg"] == pytest.approx(math.degrees(math.atan(0.5 / math.sqrt(2))), abs=1e-3)
    assert {m["mark"] for m in rows if m["role"] == "common rafter"} == {"R1"}


def test_a_house_with_a_wing(capsys):
    rows = run(capsys, "--outline", "0,0 40,0 40,20 20,20 20,40 0,40", "--rafters", "2x8@24in")["members"]
    roles = {m["role"] for m in rows}
    assert roles == {"common rafter", "hip jack", "valley jack", "hip", "valley", "ridge"}
    back = run(capsys, "--outline", "0,40 20,40 20,20 40,20 40,0 0,0", "--rafters", "2x8@24in")["members"]
    assert sorted(round(m["length_mm"], 1) for m in back if m["role"] == "hip") == sorted(
        round(m["length_mm"], 1) for m in rows if m["role"] == "hip"
    )


def test_edges_of_their_own(capsys):
    made = run(capsys, "--outline", RECTANGLE, "--edge", "2=gable", "--edge", "3=12:12", "--edge", "4=wall")
    assert [(p["edge"], p["pitch"]) for p in made["planes"]] == [(1, 0.5), (3, 1.0)]
    kinds = {line["kind"] for line in made["lines"]}
    assert kinds == {"eave", "rake", "wall", "ridge"}
    assert made["ridge_height_mm"] == pytest.approx(28 * FT / 3.0, abs=0.01)
    metric = run(capsys, "--outline", "0,0 12,0 12,8 0,8", "--unit", "m", "--pitch", "30 deg")
    assert metric["ridge_height_mm"] == pytest.approx(4000 * math.tan(math.radians(30)), abs=0.01)


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (["--outline", "0,0 40"], "is no corner"),
        (["--outline", "0,0 40,0"], "3 to"),
        (["--outline", "0,0 40,28 40,0 0,28"], "crosses itself"),
        (["--outline", RECTANGLE, "--edge", "5=gable"], "names no edge"),
        (
            [
                "--outline",
                RECTANGLE,
                "--edge",
                "1=gable",
                "--edge",
                "2=gable",
                "--edge",
                "3=gable",
                "--edge",
                "4=gable",
            ],
            "no edge is an eave",
        ),
        (["--outline", RECTANGLE, "--pitch", "0:12"], "level"),
        (["--outline", RECTANGLE, "--pitch", "steep"], "not a pitch"),
        (["--outline", RECTANGLE, "--rafters", "2x9@16in"], "no lumber size"),
        (["--outline", RECTANGLE, "--rafters", "2x8@0in"], "apart"),
        (["--outline", RECTANGLE, "--overhang", "20ft"], "--overhang"),
        (["--outline", "0,0 40,0 40,20 22,20 22,14 20,14 20,20 0,20", "--overhang", "2ft"], "crosses another part"),
    ],
)
def test_what_cannot_be_is_said(capsys, words, says):
    assert main(["roof", *words]) == 2
    assert says in capsys.readouterr().err


def test_in_words(capsys):
    assert main(["roof", "--outline", RECTANGLE, "--rafters", "2x8@16in"]) == 0
    said = capsys.readouterr().out
    assert "1,252.2 ft2 on the slope" in said
    assert "hip jack" in said
