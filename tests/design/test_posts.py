"""Columns designed: timber, built up, steel; against values worked out by hand or printed."""

import math

import pytest
from tests.houses import house

from balken.catalog.post_shapes import SHAPES, post_shape
from balken.derive import derive
from balken.design.posts import design_post
from balken.documents.calculation import all_calculations, calculation
from balken.exchange.ifc import write_ifc
from balken.exchange.ifc_reader import read_ifc
from balken.findings.fixes import FIXES
from balken.loads.cases import Cases
from balken.model import edits
from balken.model.errors import EditError
from balken.model.records import Column, FreePoint, Hang
from balken.standards.us.post_checks import check_post
from balken.standards.us.standard import US
from balken.units.system import FOOT, INCH, POUND_FORCE, PSI

KIP = 1000.0 * POUND_FORCE


def column(**fields):
    return Column(
        id="column-1",
        place=FreePoint(x=50 * FOOT, y=0.0),
        foot=Hang(level="level-1"),
        head=Hang(level="level-2"),
        **fields,
    )


def designed(feet, head, **fields):
    return design_post(column(**fields), feet * FOOT, head, ("", ""), US)


def stress(check):
    return check.capacity / PSI


def test_a_solid_post_by_hand():
    """6x6 DF-L No. 2, 13 ft 1 1/8 in, D + S: CP worked out by NDS 3.7-1 with Table 4D's Fc 700 and Emin 470,000 psi."""
    made = designed(157.125 / 12, Cases(dead=3 * KIP, snow=5 * KIP), size="6x6")
    ratio = 0.822 * 470_000 / (157.125 / 5.5) ** 2 / (700 * 1.15)
    cp = (1 + ratio) / 1.6 - math.sqrt(((1 + ratio) / 1.6) ** 2 - ratio / 0.8)
    check = next(c for c in made.result.checks if c.name == "compression")
    assert stress(check) == pytest.approx(700 * 1.15 * cp, rel=1e-3)
    assert stress(check) == pytest.approx(396, abs=1)
    own = 30.25 / 144 * 157.125 / 12 * 500 * 0.062428
    assert check.demand / PSI == pytest.approx((8000 + own) / 30.25, rel=2e-3)


def test_a_built_up_post_buckles_across_its_plies():
    """3-2x6 DF-L No. 2, 10 ft, D + L (NDS 15.3.2): across the plies Kf = 0.6; along them it would take 808 psi."""
    made = designed(10, Cases(dead=1.0, live=4 * KIP), size="3-2x6")
    check = next(c for c in made.result.checks if c.name == "compression")
    star = 1350 * 1.1
    ratio = 0.822 * 580_000 / (120 / 4.5) ** 2 / star
    cp = 0.6 * ((1 + ratio) / 1.6 - math.sqrt(((1 + ratio) / 1.6) ** 2 - ratio / 0.8))
    assert stress(check) == pytest.approx(star * cp, rel=1e-3)
    assert stress(check) == pytest.approx(355, abs=2)
    assert check.clause == "NDS 15.3.2"


@pytest.mark.parametrize(
    ("name", "area", "gyration"),
    [
        ("Pipe 3", 2.07, 1.17), ("Pipe 3 1/2", 2.50, 1.34), ("Pipe 4", 2.96, 1.51), ("Pipe 5", 4.01, 1.88),
        ("Pipe 6", 5.20, 2.25), ("HSS 3x3x1/4", 2.44, 1.11), ("HSS 4x4x1/4", 3.37, 1.52), ("HSS 5x5x1/4", 4.30, 1.93),
        ("HSS 6x6x1/4", 5.24, 2.34), ("HSS 6x6x3/8", 7.58, 2.28),
    ],
)  # fmt: skip
def test_pipes_and_tubes_measure_as_printed(name, area, gyration):
    """AISC Steel Construction Manual, Tables 1-12 and 1-14 (in2, in; from memory); worked out here from their sides."""
    shape = post_shape(name)
    assert shape.area / INCH**2 == pytest.approx(area, rel=0.006)
    assert shape.gyration / INCH == pytest.approx(gyration, abs=0.012)


def test_walls_of_pipes_and_tubes_are_not_slender():
    """AISC 360-16, Table B4.1a: D/t <= 0.11 E/Fy, b/t <= 1.40 sqrt(E/Fy)."""
    for shape in SHAPES.values():
        if shape.kind == "pipe":
            assert shape.breadth / shape.wall <= 0.11 * 29_000 / 35
        if shape.kind == "tube":
            assert (shape.breadth - 3 * shape.wall) / shape.wall <= 1.40 * math.sqrt(29_000 / 50)


def test_a_steel_pipe_by_hand():
    """Pipe 4, 10 ft: Fe = pi2 E/(L/r)2, Fcr = 0.658^(Fy/Fe) Fy, over 1.67 (AISC 360-16, E3)."""
    made = designed(10, Cases(dead=10 * KIP, live=20 * KIP), material="steel", size="Pipe 4")
    fe = math.pi**2 * 29_000 / (120 / 1.51) ** 2
    allowed = 0.658 ** (35 / fe) * 35 / 1.67
    check = next(c for c in made.result.checks if c.name == "compression")
    assert stress(check) / 1000 == pytest.approx(allowed, rel=0.01)
    assert check.demand / PSI / 1000 == pytest.approx(30.1 / 2.96, rel=0.01)


def test_a_long_pipe_buckles_by_euler():
    made = designed(22, Cases(dead=1 * KIP), material="steel", size="Pipe 3")
    check = next(c for c in made.result.checks if c.name == "compression")
    fe = math.pi**2 * 29_000 / (264 / 1.17) ** 2
    assert stress(check) / 1000 == pytest.approx(0.877 * fe / 1.67, rel=0.01)
    slender = next(c for c in made.result.checks if c.name == "slenderness L/r")
    assert slender.used > 1.0
    assert not made.works


def test_auto_takes_the_smallest_that_works_and_shows_its_neighbours():
    made = designed(8, Cases(dead=2 * KIP, live=6 * KIP), size=None)
    tried = [designed(8, Cases(dead=2 * KIP, live=6 * KIP), size=s) for s in ("4x4", "4x6", "6x6", "6x8", "8x8")]
    assert made.shape.name == next(t.shape.name for t in tried if t.works)
    used = {t.shape.name: t.result.used for t in tried}
    assert all(n.used == pytest.approx(used[n.size], rel=1e-3) for n in made.neighbours)
    assert len(made.neighbours) == 2


def test_uplift_is_a_load():
    made = designed(8, Cases(dead=1 * KIP, wind=-4 * KIP), size="6x6")
    assert made.result.governs.name == "uplift at the bearing"
    assert not made.works


def test_what_nobody_can_check_says_so():
    assert "concrete" in designed(8, Cases(dead=KIP), material="concrete").unchecked.lower()
    assert "walls" in designed(8, Cases(dead=KIP), material="steel").unchecked
    assert "no design values" in designed(8, Cases(dead=KIP), width=150.0, depth=150.0).unchecked
    assert "grade" in designed(8, Cases(dead=KIP), size="6x6", grade="Stud").unchecked
    assert designed(8, Cases(dead=KIP), size="4x4", grade="Stud").unchecked == ""


def test_sides_as_typed_that_are_a_post_are_checked_as_one():
    made = designed(8, Cases(dead=KIP), width=5.5 * INCH, depth=5.5 * INCH)
    assert made.shape.name == "6x6"
    assert made.result is not None
    assert check_post(made.result.case) is made.result


def with_column(**fields):
    return edits.add(house(), column(**fields))


def findings(p, code):
    return [f for f in derive(p).findings if f.code == code]


def test_a_column_on_nothing_is_said_and_mended():
    p = with_column()
    (finding,) = findings(p, "column on nothing")
    p = FIXES[finding.fix.command](p, *finding.fix.args)
    assert not findings(p, "column on nothing")
    assert any(f.code == "column on nothing" for f in derive(with_column(material="steel")).findings)


def on_a_pad(**fields):
    p = FIXES["pad_under"](with_column(**fields), "column-1")
    return edits.change(p, "pad-1", dead=4 * KIP, snow=8 * KIP, uplift=1 * KIP)


def test_the_load_of_a_pad_comes_through_the_column_on_it():
    m = derive(on_a_pad(size="4x4"))
    assert m.posts["column-1"].load.snow == pytest.approx(8 * KIP)
    assert m.posts["column-1"].load.wind == pytest.approx(-1 * KIP)
    (finding,) = [f for f in m.findings if f.code == "column"]
    p = FIXES[finding.fix.command](m.project, *finding.fix.args, **dict(finding.fix.fields))
    assert derive(p).posts["column-1"].works
    piece = next(piece for piece in derive(p).columns)
    assert piece.section == p.columns[0].size


def test_steel_columns_derive_and_are_drawn():
    from balken.documents.cross_section import cross_section, effective_cut
    from balken.documents.plan import PlanOf, plan

    for size in ("", None, "HSS 4x4x1/4", "Pipe 4"):
        m = derive(on_a_pad(material="steel", size=size))
        assert plan(m, PlanOf("level-1", frozenset({"walls"})), 1 / 50).items
        assert cross_section(m, effective_cut(m), 1 / 50).items
        assert "column-1" in all_calculations(m)
        assert calculation(m, "column-1")[0].text == "Column 1"


def test_a_size_of_another_material_is_refused():
    with pytest.raises(EditError, match="no section of steel"):
        edits.change(with_column(material="steel"), "column-1", size="6x6")


@pytest.mark.parametrize(
    "fields",
    [
        {"size": "6x8", "species": "Hem-Fir", "grade": "No. 1", "angle": 20.0},
        {"size": None, "width": 150.0, "depth": 130.0},
        {"size": "Pipe 4", "material": "steel"},
        {"size": "HSS 5x5x1/4", "material": "steel", "angle": 30.0},
        {"size": "", "width": 150.0, "depth": 130.0, "angle": 10.0},
    ],
)
def test_columns_come_back_from_ifc(fields, tmp_path):
    p = on_a_pad(**fields)
    write_ifc(derive(p), tmp_path / "house.ifc")
    (found,) = read_ifc(tmp_path / "house.ifc")[0].columns
    for name, value in fields.items():
        assert getattr(found, name) == (pytest.approx(value) if isinstance(value, float) else value)
