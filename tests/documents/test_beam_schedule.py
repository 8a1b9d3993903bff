"""The schedule of beams: what it says is what was worked out, and it is set out so that it can be read."""

from itertools import pairwise

import pytest
from tests.documents.test_beams_shown import girder_alone

from balken.derive import derive
from balken.documents.beam_schedule import HEADINGS, beam_schedule
from balken.documents.display import Path, Text
from balken.documents.lettering import text_width
from balken.documents.paper_table import PaperTable
from balken.documents.plan_sheets import plan_sheets
from balken.model import edits
from balken.model.beam_edits import add_beam
from balken.model.records import Hang
from balken.standards.checks import used_text
from balken.units import format_force
from balken.units.system import FOOT


@pytest.fixture(scope="module")
def model():
    return derive(girder_alone())


def test_a_row_says_what_was_worked_out(model):
    (row,) = beam_schedule(model).rows
    said = dict(zip(HEADINGS, row, strict=True))
    made = model.path.beams["beam-1"]
    assert said["Mark"] == "B1"
    assert said["Made of"] == "LVL 3-1.75x7.25"
    assert said["Spans, middle to middle of seats"] == "6'-7\", 6'-6\", 6'-7\", 6'-6 1/4\""
    assert said["Most on a seat"] == format_force(max(most for most, _ in made.design.made[0].extremes), model.units)
    assert said["Used"] == used_text(made.design.used)
    assert said["Governs"] == made.design.result.governs.name


def test_beams_in_pieces_and_those_that_cannot_be_worked_out_are_in_it(model):
    """Of sawn plies the girder is spliced; a beam in the air is there, too, and is said to be not checked."""
    p = edits.change(model.project, "beam-1", made_of="sawn", size="4-2x12")
    p = add_beam(p, (70 * FOOT, 0.0), (70 * FOOT, 9 * FOOT), Hang(level="level-1"))
    made = derive(p)
    rows = beam_schedule(made).rows
    assert len(rows) == 2
    assert sum("not checked" in row[-2] for row in rows) == 1
    parts = len(made.path.beams["beam-1"].design.parts)
    assert parts > 1
    assert any(row[3].endswith(f"{parts} pieces") for row in rows)
    assert sum(int(row[1]) for row in rows) == len(p.beams)


def test_it_lies_on_a_sheet_of_plans_and_can_be_read(model):
    sheets = [
        s for s in plan_sheets(model) if any(isinstance(i, Text) and i.text == "Schedule of beams" for i in s.items)
    ]
    (sheet,) = sheets
    assert sheet.title == "Cross-sections and schedules"
    line = next(i.at[1] for i in sheet.items if isinstance(i, Text) and i.text == "Most on a seat")
    named = [i for i in sheet.items if isinstance(i, Text) and i.bold and i.text.startswith("Schedule")]
    row = next(i.at[1] for i in named if i.text == "Schedule of beams")
    titles = {i.text: i.at[0] for i in named if i.at[1] == row}
    after = min((x for x in titles.values() if x > titles["Schedule of beams"]), default=sheet.width)
    heads = [
        i
        for i in sheet.items
        if isinstance(i, Text)
        and i.text in HEADINGS
        and i.bold
        and i.at[1] == line
        and titles["Schedule of beams"] <= i.at[0] < after
    ]
    assert [i.text for i in heads] == list(HEADINGS)
    for a, b in pairwise(heads):
        assert a.at[0] + text_width(a.text, a.size, True) < b.at[0]
    assert all(0.0 < i.at[0] < sheet.width and 40.0 < i.at[1] < sheet.height for i in heads)
    bare = derive(edits.remove(model.project, "beam-1"))
    assert not beam_schedule(bare).rows
    words = [i.text for s in plan_sheets(bare) for i in s.items if isinstance(i, Text)]
    assert "Schedule of beams" not in words


def test_columns_are_as_wide_as_what_stands_in_them():
    table = PaperTable(
        "T", ("A", "A long heading", "C"), [("a much longer entry", "b", "c"), ("a", "b", "the last one")]
    )
    items = table.items((10.0, 100.0))
    wide, high = table.size
    texts = [i for i in items if isinstance(i, Text)]
    lines = [i for i in items if isinstance(i, Path)]
    assert len(lines) == 3
    for line in lines:
        assert (line.points[0][0], line.points[1][0]) == pytest.approx((10.0, 10.0 + wide))
    assert min(i.at[1] for i in texts) > 100.0 - high
    for a, b in pairwise(texts[1:]):
        if a.at[1] == b.at[1]:
            assert a.at[0] + text_width(a.text, a.size, a.bold) < b.at[0]
