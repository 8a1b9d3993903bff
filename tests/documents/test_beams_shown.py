"""Beams in lists, drawings, calculations, the load tree and IFC."""

import ifcopenshell
import pytest

from balken.catalog.beams import beam_section
from balken.demo.orchard_road import orchard_road
from balken.derive import derive
from balken.documents.beam_diagram import beam_diagram, steps_of
from balken.documents.calculation import calculation, calculation_pages, can_calculate
from balken.documents.display import Drawing, Text
from balken.documents.lettering import text_width
from balken.documents.lists import path_rows
from balken.documents.load_tree import flat, pad_tree
from balken.documents.plan import PlanOf, plan
from balken.documents.schedule import cut_list, member_rows, totals
from balken.exchange.ifc import write_ifc
from balken.framing.beams import profile
from balken.geometry.plane import area
from balken.model import edits
from balken.standards.measures import quantity_text
from balken.units import Units
from balken.units.system import INCH


@pytest.fixture(scope="module")
def model():
    return derive(girder_alone())


def girder_alone():
    """Return the demo without the beams of its porch."""
    p = orchard_road()
    for beam in ("beam-2", "beam-3", "beam-4"):
        p = edits.remove(p, beam)
    return p


def test_the_demo_has_a_girder_on_posts_and_no_finding(model):
    assert model.girders["beam-1"].works
    assert derive(orchard_road()).findings == ()
    assert model.path.below["wall-8"] == ("beam-1",)
    assert {seat.on for seat in model.path.beams["beam-1"].seats} == {
        "foundation-1/wall-9", "column-3", "column-4", "column-5", "foundation-1/wall-3",
    }  # fmt: skip


def test_in_member_table_and_cut_list(model):
    (row,) = [r for r in member_rows(model) if r.role == "beam"]
    assert row.section == "LVL 3-1.75x7.25"
    assert row.mark == "B1"
    assert row.used == pytest.approx(model.girders["beam-1"].used)
    (cut,) = [r for r in cut_list(model) if r.role == "beam"]
    assert cut.board_feet == 0.0
    assert cut.cost > 100.0
    steel = derive(edits.change(model.project, "beam-1", made_of="W", size="W8x18"))
    plate = next(r for r in cut_list(steel) if r.role == "beam plate")
    assert plate.section in ("2x4", "2x6")
    # Steel is no timber.
    assert totals(steel).timber == pytest.approx(
        totals(model).timber
        - sum(p.volume for p in model.of_layouts("beam")) * 1e-9
        + sum(p.volume for p in steel.of_layouts("beam plate")) * 1e-9,
        abs=0.02,
    )


def test_plates_on_steel_come_in_lengths_of_stock(model):
    """Boards of 6 ft on a longer beam: none is longer, and together they are as long as it."""
    p = edits.change(model.project, "beam-1", made_of="W", size="W8x18")
    made = derive(edits.set_project(p, stock_length=1829.0))
    plates = [piece for piece in made.pieces.values() if piece.role == "beam plate"]
    assert len(plates) > 1
    assert all(piece.length <= 1829.0 + 0.05 for piece in plates)
    whole = [piece for piece in derive(p).pieces.values() if piece.role == "beam plate"]
    assert sum(piece.length for piece in plates) == pytest.approx(sum(piece.length for piece in whole))
    assert not [f for f in made.findings if f.code == "stock" and f.what.startswith("Beam plate")]


def test_on_the_plan_with_mark_and_section(model):
    items = plan(model, PlanOf("Floors", frozenset({"floors"}), frozenset(), "level-1"), 64.0).items
    texts = [item.text for item in items if isinstance(item, Text)]
    assert any(text.startswith("B1") and "LVL 3-1.75x7.25" in text for text in texts)
    upper = plan(model, PlanOf("Floors", frozenset({"floors"}), frozenset(), "level-6"), 64.0).items
    assert not any(isinstance(i, Text) and i.text.startswith("B1") for i in upper)


def test_in_load_tree_and_load_path(model):
    labels = [branch.label for _, branch in flat(pad_tree(model, "pad-3"))]
    assert "Beam 1" in labels
    assert any("Shop floor" in label for label in labels)
    row = next(r for r in path_rows(model) if r.name == "Beam 1")
    assert row.line.foot.dead == pytest.approx(model.path.beams["beam-1"].load.dead, rel=1e-9)
    assert row.line.walls.dead > 0.0


def test_its_calculation(model):
    assert can_calculate(model, "beam-1")
    lines = calculation(model, "beam-1")
    text = "\n".join(f"{line.text} {line.right}" for line in lines)
    assert "Seats" in text
    assert "laminated veneer lumber" in text
    assert "3.4.3.1(a)" in text
    governs = model.girders["beam-1"].result.governs
    assert any(governs.name in line.text.lower() for line in lines)


def test_in_ifc_with_its_profile(model, tmp_path):
    for size, kind in (("LVL 3-1.75x7.25", "LVL"), ("W8x18", "W")):
        changed = derive(edits.change(model.project, "beam-1", made_of=kind, size=size))
        write_ifc(changed, tmp_path / "x.ifc")
        file = ifcopenshell.open(tmp_path / "x.ifc")
        (beam,) = [b for b in file.by_type("IfcBeam") if b.Name.endswith("beam") and size in b.Name]
        assert beam.PredefinedType == "BEAM"
        assert beam.Tag == "B1"
        made = beam_section(size)
        assert area(profile(made)) == pytest.approx(made.area, rel=0.03)
    # The web of the I stands upright in the middle.
    ring = profile(beam_section("W8x18"))
    assert max(z for _, z in ring) == pytest.approx(8.14 * INCH)
    assert sum(x for x, _ in ring) == pytest.approx(0.0, abs=1e-9)


def test_its_diagrams_hold_what_was_worked_out(model):
    """The load drawn is all of its load, and the greatest figures are written at the curves."""
    made = model.path.beams["beam-1"]
    steps, points = steps_of(model, made)
    worst, _ = model.standard.combinations.worst(made.load)
    drawn = sum(s.load * (s.high - s.low) for s in steps) + sum(force for _, force in points)
    assert drawn == pytest.approx(worst, rel=0.02)  # slits of a finger's width between loads are closed
    diagram = beam_diagram(model, "beam-1", 178.0, 1.8)
    words = [item.text for item in diagram.items if isinstance(item, Text)]
    sag, hog = (quantity_text(m / 1e6, "moment", model.units) for m in made.design.made[0].moments)
    assert sag in words
    assert hog.replace("-", "\u2212") in words
    assert [w for w in words if w.startswith("6'-")] == ["6'-7\"", "6'-6\"", "6'-7\"", "6'-6 1/4\""]
    assert sag in diagram.says


@pytest.mark.parametrize("width", [60.0, 178.0])
def test_its_diagrams_stay_on_their_paper(model, width):
    """Whatever stands on it, in both units: nothing reaches over an edge, and no two texts lie on each other."""
    metric = edits.set_project(model.project, units=Units.METRIC)
    weak = edits.change(model.project, "beam-1", size="LVL 2-1.75x5.5")
    bare = edits.remove(model.project, "floor-1")
    for p in (model.project, metric, weak, bare):
        made = derive(p)
        diagram = beam_diagram(made, "beam-1", width, 1.8)
        x0, y0, x1, y1 = Drawing("", 1.0, tuple(i for i in diagram.items if not isinstance(i, Text))).box()
        assert x0 >= 0.0
        assert x1 <= width
        assert -diagram.height <= y0 <= y1 <= 0.0
        boxes = []
        for item in diagram.items:
            if isinstance(item, Text):
                a, b = item.at[0], item.at[0] + text_width(item.text, item.size, item.bold)
                assert -0.01 <= a <= b <= width + 0.01
                boxes.append((a, b, item.at[1]))
        for i, (a, b, y) in enumerate(boxes):
            assert not any(abs(y - v) < 1.8 and a < d and c < b for c, d, v in boxes[:i]), diagram.items


def test_its_calculation_shows_them(model):
    page = calculation_pages(model, "beam-1")[0]
    words = [item.text for item in page.items if isinstance(item, Text)]
    assert {"Load", "Moment", "Shear"} <= set(words)
    assert not any("DF-L" in word and "LVL" in word for word in words)
