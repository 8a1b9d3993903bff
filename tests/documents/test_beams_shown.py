"""Beams in lists, drawings, calculations, the load tree and IFC."""

import ifcopenshell
import pytest

from balken.catalog.beams import beam_section
from balken.demo.orchard_road import orchard_road
from balken.derive import derive
from balken.documents.calculation import calculation, can_calculate
from balken.documents.display import Text
from balken.documents.lists import path_rows
from balken.documents.load_tree import flat, pad_tree
from balken.documents.plan import PlanOf, plan
from balken.documents.schedule import cut_list, member_rows, totals
from balken.exchange.ifc import write_ifc
from balken.framing.beams import profile
from balken.geometry.plane import area
from balken.model import edits
from balken.units.system import INCH


@pytest.fixture(scope="module")
def model():
    return derive(orchard_road())


def test_the_demo_has_a_girder_on_posts_and_no_finding(model):
    assert model.girders["beam-1"].works
    assert model.findings == ()
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
