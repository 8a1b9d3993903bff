"""``balken span`` against floor joist spans of IRC Table R502.3.1(2): live 40 psf, dead 10 psf, L/360.

Written down from memory; recomputed from the design values they agree to the inch.
"""

import json

import pytest

from balken.cli import main

SIZES = ("2x6", "2x8", "2x10", "2x12")
TABLE = [
    ("12", "DF-L", "Select Structural", ("11-4", "15-0", "19-1", "23-3")),
    ("12", "DF-L", "No. 2", ("10-9", "14-2", "18-0", "20-11")),
    ("16", "DF-L", "Select Structural", ("10-4", "13-7", "17-4", "21-1")),
    ("16", "DF-L", "No. 1", ("9-11", "13-1", "16-5", "19-1")),
    ("16", "DF-L", "No. 2", ("9-9", "12-9", "15-7", "18-1")),
    ("16", "DF-L", "No. 3", ("7-8", "9-9", "11-11", "13-10")),
    ("16", "S-P-F", "No. 2", ("9-4", "12-3", "15-5", "17-10")),
    ("19.2", "DF-L", "No. 2", ("9-2", "11-8", "14-3", "16-6")),
    ("24", "DF-L", "No. 2", ("8-3", "10-5", "12-9", "14-9")),
    ("24", "S-P-F", "No. 2", ("8-1", "10-3", "12-7", "14-7")),
]


def span(capsys, *words: str) -> dict:
    assert main(["span", *words, "--json"]) == 0
    return json.loads(capsys.readouterr().out)


@pytest.mark.parametrize(
    ("spacing", "species", "grade", "size", "want"),
    [(s, sp, g, size, w) for s, sp, g, row in TABLE for size, w in zip(SIZES, row, strict=True)],
)
def test_joist_spans_of_the_irc(capsys, spacing, species, grade, size, want):
    got = span(
        capsys,
        *("--species", species, "--grade", grade, "--size", size, "--spacing", f"{spacing}in"),
        *("--live", "40psf", "--dead", "10psf", "--limit", "360"),
    )
    feet, inches = want.split("-")
    assert got["span"] == f"{feet}'-{inches}\""
    assert max(got["used"].values()) == pytest.approx(1.0, abs=1e-3)


def test_a_flat_rafter_spans_as_bending_says(capsys):
    """IRC Table R802.4.1(3), ground snow 30 psf, dead 10 psf, L/180: first principles.

    2x8 DF-L No. 2 at 16 in: Fb' = 900 x 1.2 x 1.15 x 1.15 psi, S = 13.14 in3, w = 40 psf x 16/12.
    """
    got = span(
        capsys,
        *("--species", "DF-L", "--grade", "No. 2", "--size", "2x8", "--spacing", "16in"),
        *("--kind", "rafter", "--snow", "30psf", "--dead", "10psf"),
    )
    by_hand = (8 * 900 * 1.2 * 1.15 * 1.15 * (1.5 * 7.25**2 / 6) / 12 / (40 * 16 / 12)) ** 0.5
    assert got["span_mm"] / 304.8 == pytest.approx(by_hand, abs=0.002)
    assert got["governs"] == "bending"


def test_a_steeper_rafter_spans_less_as_its_dead_load_grows(capsys):
    common = (
        "--species",
        "DF-L",
        "--grade",
        "No. 2",
        "--size",
        "2x8",
        "--spacing",
        "24in",
        "--kind",
        "rafter",
        "--snow",
        "30psf",
    )
    flat, steep = span(capsys, *common, "--pitch", "2:12"), span(capsys, *common, "--pitch", "12:12")
    assert steep["span_mm"] < flat["span_mm"]
    assert steep["along_slope_mm"] == pytest.approx(steep["span_mm"] * 2**0.5, abs=0.05)


def test_wider_spacing_and_heavier_load_never_span_further(capsys):
    base = ("--species", "Hem-Fir", "--grade", "No. 2", "--size", "2x10")
    spans = [
        span(capsys, *base, "--spacing", s, "--live", q)["span_mm"]
        for s in ("12in", "16in", "24in")
        for q in ("30psf", "40psf", "60psf")
    ]
    assert spans[0] == max(spans)
    assert spans[-1] == min(spans)
    for i in (0, 3, 6):
        assert spans[i : i + 3] == sorted(spans[i : i + 3], reverse=True)


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("--species", "Oak"), "species are DF-L"),
        (("--grade", "No. 9"), "grades are"),
        (("--size", "2x9"), "sizes are"),
        (("--spacing", "0in"), "spacing"),
        (("--spacing", "-16in"), "spacing"),
        (("--spacing", "wide"), "not a length"),
        (("--live", "heavy"), "area load"),
        (("--limit", "nought"), "no number"),
        (("--limit", "0"), "out of bounds"),
        (("--pitch", "6:12"), "--kind rafter"),
        (("--live", "0psf", "--dead", "0psf"), "no load"),
    ],
)
def test_wrong_words_say_what_to_do(capsys, words, says):
    good = {"--species": "DF-L", "--grade": "No. 2", "--size": "2x8", "--spacing": "16in"}
    good.update(zip(words[::2], words[1::2], strict=True))
    assert main(["span", *(w for pair in good.items() for w in pair)]) == 2
    out = capsys.readouterr()
    assert says in out.err
    assert "Traceback" not in out.err
