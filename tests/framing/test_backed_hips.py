"""Hips whose upper edges are bevelled: they lie in the planes beside, and are checked as no deeper than that leaves them; by hand, solids."""

import math

import pytest
from hypothesis import Phase, given, settings
from hypothesis import strategies as st
from tests.framing.solids import apart
from tests.framing.test_gablets import hipped
from tests.framing.test_surface_roofs import L_HOUSE, roofed
from tests.loads.test_beams import balanced

from balken.catalog.sections import section
from balken.derive import derive
from balken.documents.display import Text
from balken.documents.rafter_templates import draw_template, rafter_templates
from balken.model import edits
from balken.model.roof_edits import set_side
from balken.units.system import FOOT, INCH

SMALL = [(0, 0), (20, 0), (20, 14), (0, 14)]


def backed(p=None, **fields):
    return edits.change(p or roofed(SMALL, overhang=0.0), "roof-1", **{"hips": "backed", **fields})


def hips(model):
    return [(one, model.piece(one.key)) for one in model.planes["roof-1"].members if one.member.role == "hip"]


def planes_over(plan, x, y):
    """How high the undersides of the deck's planes run on over a place, by the edges of the plan."""
    core, found = plan.outline.core, {}
    for k, (a, b) in enumerate(zip(core, (*core[1:], core[0]), strict=True)):
        long = math.dist(a, b)
        inward = ((a[1] - b[1]) * (x - a[0]) + (b[0] - a[0]) * (y - a[1])) / long
        found[k] = plan.level(k) + inward * plan.edges[k].pitch
    return found


@pytest.mark.parametrize("made", [roofed(SMALL, overhang=0.0), set_side(roofed(SMALL), "roof-1", "wall-2", pitch=0.8)])
def test_their_upper_edges_lie_in_both_planes(made):
    dropped, model = derive(made), derive(backed(made))
    plan = model.surfaces[0]
    assert len(hips(model)) == 4
    for one, piece in hips(model):
        assert section(piece.section).kind == "sawn"
        corners = piece.solid.corners()
        tops = [
            (x, y, z)
            for x, y, z in corners
            if abs(z - min(planes_over(plan, x, y)[e] for e in one.member.edges)) < 0.01
        ]
        assert len(tops) >= 5  # both edges and the middle, low and high
        assert max(z - min(planes_over(plan, x, y)[e] for e in one.member.edges) for x, y, z in corners) < 0.01
        was = dropped.piece(one.key)
        assert was.section == piece.section
        assert (
            was.solid.heights[1] < piece.solid.heights[1] < was.solid.heights[1] + 1.0 * INCH
        )  # by the drop, in its middle
        assert was.volume * 0.97 < piece.volume < was.volume
    balanced(model)


def test_what_is_cut_off_by_hand():
    """A 1 1/2 in hip between planes of 6:12 square to one another: they fall 0.354 across it, 0.265 in at its edges; two wedges as long
    as it runs go.
    """
    model = derive(backed(ridge_made="board"))
    one, piece = next((m, p) for m, p in hips(model) if section(p.section).breadth < 1.6 * INCH)
    raw = piece.solid.whole
    fall = 0.75 * INCH * 0.5 / math.sqrt(2.0)
    assert fall == pytest.approx(0.265 * INCH, abs=0.001 * INCH)
    unbevelled = type(piece.solid)(raw, piece.solid.way, piece.solid.start, piece.solid.level, piece.solid.off)
    run = raw.volume / raw.tall / (1.5 * INCH)
    assert unbevelled.volume - piece.volume == pytest.approx(2.0 * 0.75 * INCH * fall / 2.0 * run, rel=5e-3)
    # Checked as one no deeper than its edges leave it, square to it.
    other = derive(edits.change(backed(ridge_made="board"), "roof-1", hips="dropped"))
    d = section(piece.section).depth
    left = 1.0 - fall * math.cos(math.radians(one.member.slope)) / d
    mine, was = ({c.name: c for c in m.results[one.key].checks if "mouth" not in c.name} for m in (model, other))
    for name, check in mine.items():
        assert check.capacity == pytest.approx(was[name].capacity * left**3, rel=1e-6), name
        assert check.demand == pytest.approx(was[name].demand, rel=1e-6)


def test_what_is_made_is_not_cut_but_dropped():
    model = derive(backed(roofed([(0, 0), (40, 0), (40, 28), (0, 28)])))
    kinds = {section(piece.section).kind for _, piece in hips(model)}
    dropped = derive(roofed([(0, 0), (40, 0), (40, 28), (0, 28)]))
    for one, piece in hips(model):
        if section(piece.section).kind != "sawn":
            assert piece.solid == dropped.piece(one.key).solid
    assert kinds != {"sawn"}


def test_templates_tell_the_bevel():
    model = derive(backed())
    said = [
        item.text
        for one in rafter_templates(model)
        if one.backed
        for item in draw_template(model, one, 16.0).items
        if isinstance(item, Text)
    ]
    assert any("backed: its top edge is bevelled 18.4\u00b0" in text for text in said)
    assert not any("below the line of its planes" in text for text in said)


@given(
    st.sampled_from(["small", "hip", "L", "half-hip"]), st.sampled_from(["plumb", "square", "level", "cut back"]),
    st.sampled_from([0.0, 450.0]), st.sampled_from([0.3, 0.5, 1.0]),
)  # fmt: skip
@settings(max_examples=8, deadline=None, phases=(Phase.explicit, Phase.reuse, Phase.generate))
def test_nothing_stands_in_anything(shape, cut, over, pitch):
    p = {"small": roofed(SMALL), "L": roofed(L_HOUSE)}.get(shape) or hipped()
    if shape == "half-hip":
        p = set_side(p, "roof-1", "wall-2", raised=2.0 * FOOT)
    model = derive(backed(p, tails=cut, overhang=over, pitch=pitch, fascia="2x6", jacks="pairs"))
    balanced(model)
    others = [p for p in model.pieces.values() if p.role != "wall layer"]
    apart([p for p in others if p.role in ("hip rafter", "fascia")], others, 1000.0)
