"""PDF and DXF opened by other libraries; tables read back."""

import csv

import ezdxf
import openpyxl
import pytest
from msgspec.structs import replace
from pypdf import PdfReader
from tests.names import named

from balken.derive import derive
from balken.documents.display import Area, Circle, Drawing, Path, Strokes, Text
from balken.documents.lists import CUTS
from balken.documents.plan_sheets import plan_sheets
from balken.documents.schedule import board_feet, cost, cut_length, cut_list, totals
from balken.documents.sheet_set import sheet_set
from balken.documents.style import FILLS
from balken.exchange.dxf import write_dxf
from balken.exchange.dxf_entities import rgb
from balken.exchange.list_files import write_csv, write_xlsx
from balken.exchange.pdf import write_pdf
from balken.model import edits
from balken.units import Units
from balken.units.system import FOOT, INCH


def plans(model):
    return [page.make() for page in sheet_set(model) if page.kind == "plans"]


def test_pdf_page_size_and_text(tmp_path, demo_model):
    path = tmp_path / "s.pdf"
    write_pdf(plans(demo_model), path, "Orchard Road Bakery")
    reader = PdfReader(path)
    page = reader.pages[0]
    assert (float(page.mediabox.width) / 72, float(page.mediabox.height) / 72) == pytest.approx((36.0, 24.0))
    text = page.extract_text()
    for words in ("Orchard Road Bakery", "Foundation plan", "Floor framing plan", "Roof framing plan", "Cross-section"):
        assert words in text
    for words in ("13'-0\"", "40'-0\"", '2x10 DF-L No. 2 @ 16"', '1/4" = 1\'-0"', "S-1"):
        assert words in text
    assert reader.metadata.title == "Orchard Road Bakery"
    fonts = page["/Resources"]["/Font"]
    assert any(
        "/FontFile2" in str(f.get_object().get("/FontDescriptor", {})) or "Plex" in str(f.get_object())
        for f in fonts.values()
    )


def test_metric_sheet_is_a1(tmp_path, demo):
    model = derive(edits.set_project(demo, units=Units.METRIC))
    path = tmp_path / "s.pdf"
    write_pdf(plans(model), path)
    page = PdfReader(path).pages[0]
    assert float(page.mediabox.width) * 25.4 / 72 == pytest.approx(841.0, abs=0.1)
    assert "1:50" in page.extract_text()
    assert "12192" in page.extract_text()


def test_the_sheet_is_true_to_scale(demo_model):
    """40 ft at 1/4 in to the foot is 10 in on paper."""
    made, notes = plans(demo_model)
    assert (notes.title, notes.drawings) == ("Schedules", ())
    assert made.scale == 48.0
    names = [d.title for d in made.drawings]
    assert names == ["Foundation plan", "Floor framing plan", "Roof framing plan", "Cross-section S-S"]
    first = named(demo_model, "floor-1/joist/000a")
    rims = [i for i in made.items if getattr(i, "ref", "") == first and hasattr(i, "rings")]
    ys = [p[1] for i in rims for p in i.rings[0]]
    assert max(ys) - min(ys) in (pytest.approx((14 * 12 - 1.5) / 48 * 25.4), pytest.approx(235 / 48, abs=1.0))
    inside = [p for i in made.items if hasattr(i, "points") for p in i.points]
    assert all(0 <= x <= made.width and 0 <= y <= made.height for x, y in inside)


def test_dxf_audits_clean_and_is_full_size(tmp_path, demo_model):
    path = tmp_path / "s.dxf"
    drawings = plan_sheets(demo_model)[0].drawings
    write_dxf([drawings], path)
    document = ezdxf.readfile(path)
    audit = document.audit()
    assert not audit.errors
    assert not audit.fixes
    assert document.units == ezdxf.units.MM
    space = document.modelspace()
    texts = {t.dxf.text for t in space.query("TEXT")}
    assert {"Foundation plan", "40'-0\"", "A", "1"} <= texts
    axes = [e for e in space.query("LWPOLYLINE") if e.dxf.layer == "set out axis"]
    xs = sorted({round(p[0], 1) for e in axes[:4] for p in e.get_points()})
    assert xs[-1] - xs[0] == pytest.approx(40 * FOOT, abs=0.2)
    assert len(space.query("HATCH")) > 100


def test_what_is_drawn_is_read_back_from_dxf(tmp_path):
    """Every kind of item, as ezdxf reads it: where it is, on which layer, letters beyond ASCII and over two lines among them."""
    square, hole = ((0.0, 0.0), (400.0, 0.0), (400.0, 300.5), (0.0, 300.5)), ((10.0, 10.0), (20.0, 10.0), (20.0, 30.0))
    items = (
        Area((square, hole), "timber", "cut", "walls"),
        Area((square,), "concrete", "", "foundations"),
        Strokes((((0.0, 0.0), (120.25, 60.5)), ((5.0, 5.0), (6.0, 7.0))), "hatch", "walls"),
        Circle((100.0, 50.0), 12.5, "bubble", layer="set out"),
        Path(((0.0, 0.0), (1.0, 2.0), (3.0, 4.5)), "dimension", "notes", closed=False),
        Text((50.0, 60.0), "30\u00b0 \u2013 1/2\u2033\nW\u00e4nde", 3.5, "right", 30.0, layer="notes"),
        Text((0.0, 0.0), "left", 2.0, "left"),
    )
    write_dxf([(Drawing("One", 10.0, items),), (Drawing("Two", 10.0, items[:1]),)], tmp_path / "all.dxf")
    document = ezdxf.readfile(tmp_path / "all.dxf")
    audit = document.audit()
    assert not audit.errors
    assert not audit.fixes
    space = document.modelspace()
    handles = [entity.dxf.handle for entity in document.entitydb.values() if entity.is_alive]
    assert len(handles) == len(set(handles))
    assert max(int(handle, 16) for handle in handles) < int(document.header["$HANDSEED"], 16)
    at = {text.dxf.text: text for text in space.query("TEXT")}
    assert set(at) == {"One", "Two", "left", "30\u00b0 \u2013 1/2\u2033 W\u00e4nde"}
    # The lower left corner of all it shows comes to lie at (0, 0).
    x0, y0 = Drawing("One", 10.0, items).box()[:2]
    align, place, _ = at["30\u00b0 \u2013 1/2\u2033 W\u00e4nde"].get_placement()
    assert (align.name, tuple(place)[:2]) == ("MIDDLE_RIGHT", pytest.approx((50.0 - x0, 60.0 - y0)))
    assert at["left"].get_placement()[0].name == "MIDDLE_LEFT"
    hatches = [h for h in space.query("HATCH") if h.dxf.layer == "walls fill"]
    assert len(hatches) == 2
    assert hatches[0].has_solid_fill
    assert [len(path.vertices) for path in hatches[0].paths] == [4, 3]
    assert tuple(hatches[0].rgb) == rgb(FILLS["timber"])
    lines = [(tuple(e.dxf.start)[:2], tuple(e.dxf.end)[:2]) for e in space.query("LINE")]
    assert lines[0] == (pytest.approx((-x0, -y0)), pytest.approx((120.25 - x0, 60.5 - y0)))
    assert len(lines) == 2
    (circle,) = space.query("CIRCLE")
    assert (circle.dxf.radius, circle.dxf.layer) == (12.5, "set out bubble")
    open_one = [e for e in space.query("LWPOLYLINE") if e.dxf.layer == "notes dimension"]
    assert [tuple(p[:2]) for p in open_one[0].get_points()] == [
        pytest.approx((x - x0, y - y0)) for x, y in items[4].points
    ]
    assert not open_one[0].closed
    assert all(e.closed for e in space.query("LWPOLYLINE") if e.dxf.layer == "walls cut")


def test_cut_list_csv_and_workbook(tmp_path, demo_model):
    write_csv(demo_model, tmp_path / "c.csv")
    rows = list(csv.reader((tmp_path / "c.csv").open(encoding="utf-8")))
    assert tuple(rows[0]) == CUTS.headings
    assert sum(int(r[6]) for r in rows[1:]) == len(demo_model.members())
    joists = next(r for r in rows if r[1] == "joist")
    assert joists[4:7] == ["13'-10 1/2\"", "4229.1", "58"]
    write_xlsx(demo_model, tmp_path / "c.xlsx")
    book = openpyxl.load_workbook(tmp_path / "c.xlsx")
    assert book.sheetnames == ["Cut list", "Members", "Load path", "Quantities", "Bars"]
    page = book["Cut list"]
    assert page.cell(1, 1).value == "Storey"
    assert page.cell(page.max_row, 7).value == len(demo_model.members())
    assert book["Members"].max_row == len(demo_model.members()) + 1


def test_cut_list_sums(demo_model):
    """Board feet = nominal inches x nominal inches x feet / 12 (common practice)."""
    assert board_feet("2x10", 12 * FOOT) == pytest.approx(20.0)
    rows = cut_list(demo_model)
    assert sum(r.board_feet for r in rows) == pytest.approx(totals(demo_model).board_feet)
    joist = next(r for r in rows if r.role == "joist")
    assert joist.cost == pytest.approx(joist.board_feet * 0.88)
    assert sorted(k for r in rows for k in r.keys) == sorted(p.key for p in demo_model.members())


def test_better_grades_cost_more_in_the_cut_list(demo_model):
    """As the made-up list of grades has it: by it grades of trusses are chosen."""
    joist = next(p for p in demo_model.members() if p.role == "joist" and p.section == "2x10")
    of = {grade: cost(replace(joist, grade=grade), 100.0, 1) for grade in ("No. 2", "No. 1", "No. 1 treated", "Stud")}
    assert of["No. 1"] == of["No. 1 treated"] == pytest.approx(1.08 * of["No. 2"])
    assert of["Stud"] < of["No. 2"]


def test_lengths_are_cut_up_to_the_quarter_inch():
    assert cut_length(100.1 * INCH, Units.IMPERIAL) / INCH == pytest.approx(100.25)
    assert cut_length(100.25 * INCH, Units.IMPERIAL) / INCH == pytest.approx(100.25)
    assert cut_length(2500.4, Units.METRIC) == 2501.0
