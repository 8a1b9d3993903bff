"""What came from the architect's file only to be shown: in plan, section and 3-D, and how it is taken away."""

import msgspec
import pytest

from balken.documents.cross_section import cross_section, effective_cut
from balken.documents.display import Path
from balken.model.records import Reference
from balken.units.system import FOOT


@pytest.fixture
def with_stair(demo_user):
    ring = ((10 * FOOT, 8 * FOOT), (20 * FOOT, 8 * FOOT), (20 * FOOT, 20 * FOOT), (10 * FOOT, 20 * FOOT))
    stair = Reference(id="reference-1", name="Main stair", kind="stair", ring=ring, bottom=0.0, top=9 * FOOT)
    demo_user.session.apply("x", lambda p: msgspec.structs.replace(p, references=(stair,)))
    return demo_user


def test_a_reference_is_cut_in_the_section(with_stair):
    model = with_stair.session.model
    made = cross_section(model, effective_cut(model), 64.0)
    (outline,) = [i for i in made.items if isinstance(i, Path) and i.ref == "reference-1"]
    heights = [z for _, z in outline.points]
    assert (min(heights), max(heights)) == (0.0, 9 * FOOT)


def test_a_reference_is_seen_in_3d_and_can_be_hidden(with_stair):
    window = with_stair.window
    window.views.show_view("space")
    window.space.picture.render()
    shown = {key for keys in window.space.picture._keys.values() for key in keys}
    assert "reference-1" in shown
    with_stair.session.select(["reference-1"])
    with_stair.menu("hide")
    window.space.picture.render()
    assert "reference-1" not in {key for keys in window.space.picture._keys.values() for key in keys}


def test_a_reference_is_picked_in_plan_and_removed_by_its_card(with_stair):
    with_stair.stage(2)
    with_stair.click(10 * FOOT, 10 * FOOT)
    assert with_stair.session.selection == ["reference-1"] or "reference-1" in with_stair.session.selection
    with_stair.card_button("Remove it")
    assert not with_stair.project.references
    with_stair.menu("undo")
    assert with_stair.project.references
