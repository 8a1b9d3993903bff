"""Marks: alike for alike, steady, shown wherever a member is; its name shows nowhere."""

from tests.shop import shop

from balken.app.tables import BottomPanel
from balken.derive import derive
from balken.documents.elevation import marks_in
from balken.documents.lists import MEMBERS
from balken.documents.schedule import cut_list, member_rows
from balken.framing.pieces import cut_length
from balken.model import edits
from balken.model.naming import is_made
from balken.panel.card_content import card
from balken.session.session import Session


def test_members_alike_share_a_mark_and_others_do_not(demo_model):
    units = demo_model.project.units
    kinds = {}
    for piece in demo_model.members():
        alike = (piece.role, piece.section, piece.species, piece.grade, round(cut_length(piece.length, units), 3))
        kinds.setdefault(demo_model.marks[piece.key], set()).add(alike)
    assert all(len(alike) == 1 for alike in kinds.values())
    assert len(kinds) == len({next(iter(alike)) for alike in kinds.values()})


def test_every_piece_run_wall_and_pad_has_a_mark(demo_model):
    assert demo_model.pieces.keys() <= demo_model.marks.keys()
    assert {w.id for w in demo_model.project.walls} <= demo_model.marks.keys()
    assert demo_model.footings.keys() | demo_model.pads.keys() <= demo_model.marks.keys()


def test_marks_are_steady_while_nothing_changes_what_is_alike():
    p = shop()
    before = derive(p).marks
    after = derive(edits.set_loads(p, frost_depth=700.0)).marks
    assert before == after


def test_lists_and_elevations_show_the_same_marks(demo_model):
    rows = member_rows(demo_model)
    assert all(row.mark == demo_model.marks[row.key] for row in rows)
    for row in cut_list(demo_model):
        assert {demo_model.marks[key] for key in row.keys} == {row.mark}
    listed = {m.mark: m.count for m in marks_in(demo_model, "wall-1")}
    mine = [demo_model.marks[p.key] for p in demo_model.framed["wall-1"].pieces]
    assert listed == {mark: mine.count(mark) for mark in set(mine)}
    assert not any(is_made(str(cell)) for row in MEMBERS.table(demo_model) for cell in row[:5])


def test_no_name_shows_on_a_card_or_in_a_table(qtbot):
    session = Session(shop())
    for key, piece in list(session.model.pieces.items())[::17]:
        session.select([key])
        shown = card(session, "check")
        assert key not in repr([shown.title, shown.sub])
        if piece.role == "joist":
            assert shown.sub.startswith(session.model.marks[key])
    panel = BottomPanel(session, lambda finding: None)
    qtbot.addWidget(panel)
    for tab in range(panel.count()):
        panel.setCurrentIndex(tab)
    for table in (panel.members, panel.cuts, panel.path):
        rows = table.rows_model
        for i in range(rows.rowCount()):
            for j in range(rows.columnCount()):
                text = str(rows.data(rows.index(i, j)))
                assert "floor-1" not in text
                assert "wall-" not in text
