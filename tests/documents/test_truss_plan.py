"""The roof framing plan shows every board that holds trusses aside, each line with its mark."""

from balken.demo import orchard_road
from balken.derive import derive
from balken.documents.display import Path, Text
from balken.documents.plan import plan
from balken.documents.plan_sheets import ROOF


def test_braces_stand_on_the_roof_plan():
    model = derive(orchard_road())
    braces = model.of_layouts("truss brace")
    items = plan(model, ROOF, 48.0).items
    lines = {i.ref: i for i in items if isinstance(i, Path) and i.ref in {b.key for b in braces}}
    assert lines.keys() == {b.key for b in braces}
    for brace in braces:
        assert lines[brace.key].points == (brace.start[:2], brace.end[:2])
        assert lines[brace.key].pen == "hidden"
    marks = {i.text for i in items if isinstance(i, Text) and i.ref in lines}
    assert marks == {model.marks[b.key] for b in braces}
