"""The load path drawn on a plan: every figure is that of the model, arrows run onto what carries."""

import re

import pytest

from balken.demo import orchard_road
from balken.derive import derive
from balken.documents.display import Path, Text
from balken.documents.plan import plan
from balken.loads.cases import total
from balken.panel.stages import STAGES, plan_of
from balken.units.system import PLF


@pytest.fixture(scope="module")
def drawn():
    model = derive(orchard_road())
    check = next(stage for stage in STAGES if stage.name == "check")
    return model, plan(model, plan_of(check, "level-1", "loads"), 60.0)


def figures(drawing, ref):
    texts = [i.text for i in drawing.items if isinstance(i, Text) and i.ref == ref]
    return [float(re.sub(r"[^\d.]", "", text)) for text in texts]


def test_what_joists_hand_to_each_bearing(drawn):
    """Figure times the width of the joists there is what the floor's joists hand down to it (in the worst combination)."""
    model, drawing = drawn
    plan_ = next(p for p in model.floors if p.floor.id == "floor-3")
    shown = 0.0
    for bearer in {r.bearer for r in model.path.reactions if r.piece.startswith("floor-3/joist")}:
        mine = [r for r in model.path.reactions if r.piece.startswith("floor-3/joist") and r.bearer == bearer]
        told = [f for f in figures(drawing, bearer) if f < 900.0]
        sides = {plan_.frame.to(r.at)[0] for r in mine}
        assert len(told) == len(sides)
        wide = sum(line.width for line in plan_.lines if bearer in line.supports) / len(sides)
        load = model.standard.combinations.worst(total(r.force for r in mine))[0]
        assert sum(told) * PLF * wide == pytest.approx(load, rel=0.02)
        shown += sum(told) * PLF * wide
    every = total(r.force for r in model.path.reactions if r.piece.startswith("floor-3/joist"))
    assert shown == pytest.approx(model.standard.combinations.worst(every)[0], rel=0.02)


def test_seats_posts_and_pads(drawn):
    model, drawing = drawn
    made = model.path.beams["beam-1"]
    seats = figures(drawing, "beam-1")
    assert len(seats) == len(made.seats)
    for figure, whole, beyond in zip(seats, made.design.reactions, made.design.extremes, strict=True):
        assert figure * 4.4482216 == pytest.approx(
            model.standard.combinations.worst(whole.plus(beyond.more))[0], rel=0.01
        )
    for place in model.pad_places:
        (figure,) = figures(drawing, place.pad.id)
        load = model.standard.combinations.worst(model.path.pads[place.pad.id])[0]
        assert figure * 4.4482216 == pytest.approx(load, rel=0.01)


def test_arrows_end_beside_what_carries(drawn):
    model, drawing = drawn
    arrows = [i for i in drawing.items if isinstance(i, Path) and i.pen == "cut line" and i.layer == "floors"]
    assert arrows
    assert {a.ref for a in arrows} >= {"beam-1", "foundation-1/wall-4"}
    for arrow in arrows:
        assert arrow.ref in model.path.runs or arrow.ref in model.path.beams or arrow.ref in model.lines
