"""How long panels of trusses may be, as typed: webs are chosen by it."""

import itertools

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from tests.app.conftest import _user
from tests.design.test_trusses import as_pynite
from tests.framing.test_roof_trusses import trussed
from tests.framing.test_truss_wings import _apart, winged
from tests.loads.test_beams import balanced

from balken.commands.truss import truss_report
from balken.derive import derive
from balken.model import edits
from balken.model.errors import EditError
from balken.model.kinds.trusses import Trusses
from balken.units.system import FOOT


def longest(design):
    """The longest panel of each chord between points of its webs, in plan."""
    outline, pattern = design.frame.outline, design.pattern
    rows = ((outline.start, *row, outline.end) for row in (pattern.top, pattern.bottom))
    return [max(b - a for a, b in itertools.pairwise(row)) for row in rows]


@pytest.mark.parametrize(
    ("top", "bottom", "shape"),
    # 14 ft from bearing to peak: halves of 7 ft, thirds of 4 ft 8 in; under the peak 2/3, 2/5 of it to each side.
    [(None, None, "fink"), (12.0, 15.0, "queen-post"), (15.0, 15.0, "king-post"), (5.0, None, "fan"), (5.0, 6.0, "double-fink"), (4.0, None, "howe")],
)  # fmt: skip
def test_webs_by_typed_panels(top, bottom, shape):
    fields = {"top_panel": top and top * FOOT, "bottom_panel": bottom and bottom * FOOT}
    model = derive(trussed(trusses=Trusses(**fields)))
    design = model.trusses["roof-1"].common
    assert design.shape == shape
    got = longest(design)
    assert got[0] <= (top or 8.0) * FOOT + 1.0
    assert got[1] <= (bottom or 10.5) * FOOT + 1.0
    as_pynite(truss_report(design, plates=False))


@given(st.sampled_from(["auto", "howe", "scissors"]), st.floats(2.2, 15.0), st.floats(2.2, 15.0))
@settings(max_examples=6, deadline=None)
@example("auto", 2.2, 2.2)
@example("howe", 15.0, 2.2)
def test_no_panel_is_longer(pattern, top, bottom):
    lower = 0.2 if pattern == "scissors" else 0.0
    p = trussed(trusses=Trusses(pattern=pattern, bottom_pitch=lower, top_panel=top * FOOT, bottom_panel=bottom * FOOT))
    model = derive(p)
    made = model.trusses["roof-1"]
    if made.problem:
        assert [f for f in model.findings if f.code == "no trusses"]
        return
    got = longest(made.common)
    assert got[0] <= top * FOOT + 1.0
    assert got[1] <= bottom * FOOT + 1.0
    balanced(model)
    _apart(model)


def test_girders_keep_to_it_too():
    made = derive(edits.change(winged(), "roof-1", trusses__top_panel=3.0 * FOOT)).trusses["roof-1"]
    for make in made.makes:
        if make.key in ("carrier", "flat", "girder"):
            assert longest(make.design)[0] <= 3.0 * FOOT + 1.0, make.name


def test_they_are_typed_on_the_card(qtbot, qapp, tmp_path):
    user = _user(qtbot, qapp, tmp_path, trussed())
    user.stage(5)
    user.session.select(["roof-1"])
    assert user.session.model.trusses["roof-1"].common.shape == "fink"
    user.type_in_card("Top panels at most", "5'")
    assert user.session.model.trusses["roof-1"].common.shape == "fan"
    user.session.undo()
    assert user.project.roofs[0].trusses.top_panel is None
    with pytest.raises(EditError, match="2 to 15 ft"):
        edits.change(user.project, "roof-1", trusses__bottom_panel=100.0)
