"""The load path drawn on a plan: every figure is that of the model, arrows run onto what carries."""

import re

import pytest
import shapely

from balken.demo import orchard_road
from balken.derive import derive
from balken.documents.display import Area, Path, Text
from balken.documents.plan import plan
from balken.loads.beam_law import Extremes
from balken.loads.cases import total
from balken.panel.stages import STAGES, plan_of
from balken.units.system import PLF, POUND_FORCE


@pytest.fixture(scope="module")
def drawn():
    model = derive(orchard_road())
    check = next(stage for stage in STAGES if stage.name == "check")
    return model, plan(model, plan_of(check, "level-1", "loads"), 60.0)


def figures(drawing, ref, unit, without="footing"):
    texts = [i.text for i in drawing.items if isinstance(i, Text) and i.ref == ref]
    return sorted(float(re.sub(r"[^\d.]", "", t)) for t in texts if t.endswith(unit) and not t.startswith(without))


def test_what_joists_hand_to_each_bearing(drawn):
    """By length: what joists of a floor hand down at one side of a bearing, over the width of floor they carry there."""
    model, drawing = drawn
    expected = {}
    for floor in (plan_ for plan_ in model.floors if plan_.floor.level == "level-1"):
        for line in floor.lines:
            name = f"{floor.floor.id}/joist/{line.place}"
            for r in (r for r in model.path.reactions if r.piece == name):
                low = floor.frame.to(r.at)[0] < (line.low + line.high) / 2.0
                loads, lines = expected.setdefault((r.bearer, floor.floor.id, low), ([], {}))
                loads.append(r.force)
                lines[line.place] = line.width
    for bearer in {key[0] for key in expected}:
        rows = [row for key, row in expected.items() if key[0] == bearer]
        worst = model.standard.combinations.worst
        hand = sorted(worst(total(loads))[0] / sum(lines.values()) / PLF for loads, lines in rows)
        assert figures(drawing, bearer, "plf") == pytest.approx(hand, abs=0.51)


def test_seats_posts_and_pads(drawn):
    model, drawing = drawn
    made, worst = model.path.beams["beam-1"], model.standard.combinations.worst
    hand = [
        worst(whole.plus(beyond.more))[0] / POUND_FORCE
        for whole, beyond in zip(made.design.reactions, made.design.extremes, strict=True)
    ]
    assert figures(drawing, "beam-1", "lb") == pytest.approx(sorted(hand), abs=0.51)
    for place in model.pad_places:
        beyond = model.path.extremes.get(place.pad.id, Extremes()).more
        load = worst(model.path.pads[place.pad.id].plus(beyond))[0] / POUND_FORCE
        assert figures(drawing, place.pad.id, "lb") == [pytest.approx(load, abs=0.51)]


def test_figures_stand_clear_of_one_another(drawn):
    """Every figure on a ground of its own; those that joists hand down keep off those of posts and seats."""
    _, drawing = drawn
    grounds = [shapely.Polygon(i.rings[0]) for i in drawing.items if isinstance(i, Area) and i.fill == "sheet"]
    turned = [g for g in grounds if g.bounds[3] - g.bounds[1] > g.bounds[2] - g.bounds[0]]
    level = [g for g in grounds if g not in turned]
    assert len(turned) > 5
    assert len(level) > 10
    assert not any(a.intersects(b) for a in turned for b in level)


def test_arrows_end_beside_what_carries(drawn):
    model, drawing = drawn
    arrows = [i for i in drawing.items if isinstance(i, Path) and i.pen == "cut line" and i.layer == "floors"]
    assert arrows
    assert {a.ref for a in arrows} >= {"beam-1", "foundation-1/wall-4"}
    for arrow in arrows:
        assert arrow.ref in model.path.runs or arrow.ref in model.path.beams or arrow.ref in model.lines
