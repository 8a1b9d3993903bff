"""The schedule of roofs: areas and lengths by hand, what they are made of, on the sheet of plans."""

import math

import pytest
from tests.framing.test_surface_roofs import roofed
from tests.shop import shop

from balken.demo import orchard_road
from balken.derive import derive
from balken.documents.display import Text
from balken.documents.plan import plan
from balken.documents.plan_sheets import framing_plans, plan_sheets, schedules
from balken.documents.roof_schedule import HEADINGS, roof_schedule
from balken.model import edits
from balken.units import parse_length
from balken.units.system import FOOT


def rows(model):
    return [dict(zip(HEADINGS, row, strict=True)) for row in roof_schedule(model).rows]


def test_a_hip_roof_by_hand():
    """28 x 40 ft at 6:12 with 1 ft overhangs: area over cos, ridge 12 ft, four hips over 15 ft in plan both ways."""
    p = roofed([(0, 0), (40, 0), (40, 28), (0, 28)], overhang=1.0 * FOOT)
    (row,) = rows(derive(p))
    core = derive(p).surfaces[0].outline.core
    wide, deep = (max(c[k] for c in core) - min(c[k] for c in core) for k in (0, 1))
    area = (wide + 2 * FOOT) * (deep + 2 * FOOT) * math.hypot(1.0, 0.5) / 92_903.04
    assert float(row["On the slope"].split()[0].replace(",", "")) == pytest.approx(area, abs=1.0)
    assert parse_length(row["Ridges"]) == pytest.approx(wide - deep, abs=2.0)
    half = deep / 2.0 + FOOT
    assert parse_length(row["Hips"]) == pytest.approx(4.0 * half * math.sqrt(2.25), abs=4.0)
    assert parse_length(row["Eaves"]) == pytest.approx(2.0 * (wide + deep + 4 * FOOT), abs=4.0)
    assert row["Rakes"] == row["Valleys"] == row["Against wind"] == ""
    assert row["Rafters"].startswith("2x")
    assert "16d" in row["Heel joints, laps, ledgers"]


def test_a_gable_roof():
    model = derive(shop())
    (row,) = rows(model)
    plan = model.roofs[0]
    assert parse_length(row["Ridges"]) == pytest.approx(plan.t_high - plan.t_low, abs=2.0)
    assert row["Hips"] == ""
    assert row["Ceiling ties"].startswith("2x")


def test_on_the_sheets_of_the_demo():
    model = derive(orchard_road())
    told = {row["Roof"]: row for row in rows(model)}
    assert set(told) == {"Main roof", "Wing roof", "Shed roof", "Dormer 1"}
    assert "BT" in told["Main roof"]["Against wind"]
    assert "at doubled rafters" in told["Main roof"]["Heel joints, laps, ledgers"]
    assert "Schedule of roofs" in [table.title for table in schedules(model)]
    texts = {getattr(item, "text", "") for sheet in plan_sheets(model) for item in sheet.items}
    assert "Schedule of roofs" in texts
    assert roof_schedule(derive(edits.new_project("Nothing"))).rows == []


def test_the_roof_plan_says_what_to_build():
    model = derive(orchard_road())
    (what,) = [w for w in framing_plans(model) if w.title.startswith("Roof")]
    texts = [item.text for item in plan(model, what, 64.0).items if isinstance(item, Text)]
    design = model.designs[("roof-1", "rafters")]
    assert any(text.startswith(f"{design.size} @") for text in texts)
    assert sum(text.startswith("HR1 ") for text in texts) == 2
    assert any(text.startswith("RG1 ") for text in texts)
    assert any(text.startswith("eave, ties BT") for text in texts)
    assert any(text.startswith("snow drift") for text in texts)
    assert "chimney" in texts
    # No key or id shows.
    assert not any("roof-" in text or "wall-" in text or "plane" in text for text in texts)
