"""One member changed in its card: only that one, shown in plan, list and card, and back again."""

from tests.names import named

from balken.documents.display import Area
from balken.model.member_edits import edit_of
from balken.model.naming import kind_of


def a_joist(user):
    return named(user.session.model, "floor-1/joist/005a")


def drawn(user, name):
    return [made.item for made in user.canvas.prepared if made.ref == name and isinstance(made.item, Area)]


def test_plies_and_grade_of_one_joist(demo_user):
    demo_user.stage(4)
    joist = a_joist(demo_user)
    others = {p.section for p in demo_user.session.model.of_layouts("joist") if p.owner == "floor-1"}
    demo_user.session.select([joist])
    demo_user.type_in_card("Own plies", "2")
    made = demo_user.session.model.pieces[joist]
    assert made.section == f"2-{others.pop()}"
    assert len({p.section for p in demo_user.session.model.of_layouts("joist") if p.owner == "floor-1"}) == 2
    assert demo_user.session.model.marks[joist].endswith("*")
    assert [item.pen for item in drawn(demo_user, joist)] == ["by hand"]
    demo_user.type_in_card("Own grade", "No. 1")
    assert demo_user.session.model.pieces[joist].grade == "No. 1"
    demo_user.card_button("Back to the layout")
    assert edit_of(demo_user.project, joist) is None
    assert not demo_user.session.model.marks[joist].endswith("*")


def test_a_joist_moved_and_undone(demo_user):
    demo_user.stage(4)
    joist = a_joist(demo_user)
    demo_user.session.select([joist])
    before = demo_user.session.model.pieces[joist].start
    demo_user.type_in_card("Moved along by", "-3")
    after = demo_user.session.model.pieces[joist].start
    assert sum(abs(a - b) for a, b in zip(before, after, strict=True)) > 76
    demo_user.session.undo()
    assert demo_user.session.model.pieces[joist].start == before


def test_one_taken_out_is_found_again_on_the_card_of_its_layout(demo_user):
    demo_user.stage(4)
    joist = a_joist(demo_user)
    demo_user.session.select([joist])
    demo_user.card_button("Take this one out")
    assert joist not in demo_user.session.model.pieces
    demo_user.session.select(["floor-1"])
    (label,) = [x for x in demo_user.window.card.buttons if x.startswith("Back to the layout: joist")]
    assert "taken out" in label
    demo_user.card_button(label)
    assert joist in demo_user.session.model.pieces


def test_a_stud_has_them_too_and_a_footing_has_not(demo_user):
    demo_user.stage(2)
    stud = next(n for n in demo_user.session.model.pieces if kind_of(n) == "stud")
    demo_user.session.select([stud])
    assert {"Own section", "Own plies", "Moved along by"} <= demo_user.window.card.entries.keys()
    rafter = next(n for n in demo_user.session.model.pieces if kind_of(n) == "rafter")
    demo_user.session.select([rafter])
    assert "Own plies" in demo_user.window.card.entries
    assert "Moved along by" not in demo_user.window.card.entries
    demo_user.session.select(["foundation-1/wall-1/footing"])
    assert "Own plies" not in demo_user.window.card.entries
