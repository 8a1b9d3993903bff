"""What is told can be acted on: every length has its unit, none is below zero, every refusal says what to do."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.houses import house

from balken.demo import orchard_road
from balken.derive import derive
from balken.model import edits, foundation_edits
from balken.model.errors import EditError
from balken.model.records import Slope, SpotHeight
from balken.units import Units

CLAUSE = re.compile(r"\([^()]*\)|\b(?:IRC|NDS|ACI|ASCE|TMS|AISC|IBC|APA)\b[ \w.-]*")
FIGURE = re.compile(r"(?<![\w.'/-])\u2212?\d[\d,.]*")
UNIT = re.compile(r"\s?(?:mm|kN|kPa|psf|plf|psi|MPa|lb|m\b|%|\u00b0|'|\"|/\d|in\b|ft\b|kg|N/)")


def bare(text: str) -> list[str]:
    """Return figures of three digits or more, or below zero, that say no unit, clauses aside."""
    text = CLAUSE.sub(" ", text)
    found = [(m.group().rstrip(".,"), text[m.end() :]) for m in FIGURE.finditer(text)]
    return [f for f, after in found if (len(re.sub(r"\D", "", f)) > 2 or f[0] == "\u2212") and not UNIT.match(after)]


def hard_ground(p, low):
    for n, ((x, y), z) in enumerate((((-5e3, -5e3), 0.0), ((2e4, -3e3), low), ((4e3, 1.8e4), low / 2.0))):
        p = edits.add(p, SpotHeight(id=f"spot-new-{n}", x=x, y=y, height=z))
    return p


WAYS = (
    lambda p: p,
    lambda p: hard_ground(p, -2500.0),
    lambda p: hard_ground(p, 1800.0),
    lambda p: edits.set_loads(p, ground_snow=6.0, soil_bearing=40.0, frost_depth=2500.0),
    lambda p: edits.set_level(p, next(v.id for v in p.levels if v.role == "ground"), 900.0),
    lambda p: edits.set_level(p, next(v.id for v in p.levels if v.role == "ground"), -700.0),
)


@pytest.mark.parametrize("make", [orchard_road, house], ids=["demo", "house"])
@pytest.mark.parametrize("way", range(len(WAYS)))
def test_lengths_of_findings_have_units_and_are_above_zero(make, way):
    p = edits.set_project(WAYS[way](make()), units=Units.METRIC)
    told = [f"{f.what}. {f.why} {f.fix.label if f.fix else ''}" for f in derive(p).findings]
    for text in told:
        assert not bare(text), text
        assert not re.search(
            r"\u2212[\d'\" /-]+(?: mm)? (?:along|below|under|above|deep|thick|wide|long|apart|high)", text
        ), text


@given(
    at=st.floats(-2e4, 3e4).filter(lambda v: not -0.05 <= v <= 13_000.0),
    units=st.sampled_from([Units.IMPERIAL, Units.METRIC]),
)
def test_what_lies_off_its_wall_is_told_without_a_minus(at, units):
    p = edits.set_project(house(), units=units)
    tries = (
        lambda q: edits.add_opening(q, "wall-1", "window", at, 900.0, 900.0, 600.0),
        lambda q: edits.add_opening(q, "wall-1", "window", 900.0, 900.0, 900.0, -abs(at)),
        lambda q: foundation_edits.add_step(q, "foundation-1", "wall-1", at, 200.0),
        lambda q: foundation_edits.add_slope(
            q, "foundation-1", Slope(wall="wall-1", start=at, end=at + 3000.0, deeper_end=100.0)
        ),
    )
    for change in tries:
        with pytest.raises(EditError) as caught:
            change(p)
        text = str(caught.value)
        assert "\u2212" not in text
        assert not bare(text)
        assert caught.value.do


def test_the_check_itself_sees_bare_figures():
    assert bare("it would run from \u2212846 to 3000") == ["\u2212846", "3000"]
    assert not bare("Wall 12 is 3000 mm long (IRC R403.1.4), 12'-3 1/2\" high, 2 of 14 joists at 406 mm, 105% used")
    assert bare("its head is 2440 above the foot") == ["2440"]
