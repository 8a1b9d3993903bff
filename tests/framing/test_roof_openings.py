"""Openings in planes of roofs: rafters cut, headers and trimmers under what they carry, decks left out; what cannot be is said."""

import math
import tempfile
from pathlib import Path

import ifcopenshell
import msgspec
import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.framing.test_surface_framing import overlaps
from tests.framing.test_surface_roofs import roofed
from tests.loads.test_beams import balanced

from balken.catalog.sections import SECTIONS, section
from balken.demo import orchard_road
from balken.derive import derive
from balken.design.roof_openings import made_of, plied
from balken.exchange.ifc import write_ifc
from balken.exchange.project_file import load, save
from balken.framing.roof_openings import in_plane, rectangle_over
from balken.geometry.roof_edges import RoofEdge
from balken.geometry.roof_surface import roof_surface
from balken.model import edits
from balken.model.errors import EditError
from balken.model.records import Reference
from balken.model.roof_edits import add_roof_opening, set_side
from balken.panel.card_parts import Button
from balken.panel.cards_set_out import reference_card
from balken.session.session import Session
from balken.units.system import FOOT, INCH

RECTANGLE = [(0, 0), (40, 0), (40, 28), (0, 28)]


def house(along=16.0, up=4.0, made="beam", **fields):
    p = edits.change(roofed(RECTANGLE, overhang=0.0), "roof-1", ridge_made=made)
    return add_roof_opening(p, "roof-1", "wall-1", along * FOOT, up * FOOT, **fields)


@pytest.mark.parametrize("made", ["beam", "board"])
def test_a_window_is_framed(made):
    model = derive(house(made=made))
    plan, framing = model.surfaces[0], model.planes["roof-1"]
    (hole,) = plan.holes
    assert framing.unframed == ()
    low, high = framing.headers
    assert (low.end, high.end) == (0, 1)
    cut = [m for m in framing.members if m.member.role == "tail rafter"]
    assert {m.member.foot.kind or m.member.head.kind for m in cut} == {"header"}
    # Nothing stands in the opening, or in anything else; tails end at their headers.
    core = plan.outline.core
    box = shapely.box(hole.along[0], hole.inward[0], hole.along[1], hole.inward[1]).buffer(-1.0)
    for piece in model.of_layouts("rafter", "rafter header"):
        ring = shapely.Polygon(in_plane(core, hole.edge, list(piece.solid.plan[0])))
        assert ring.intersection(box).area < 1.0, piece.key
    headers = [shapely.Polygon(p.solid.plan[0]) for p in model.of_layouts("rafter header")]
    tails = {m.key for m in cut}
    for piece in model.of_layouts("rafter"):
        shape = shapely.Polygon(piece.solid.plan[0])
        for header in headers:
            assert shape.buffer(-0.5).intersection(header).area < 10.0
        if piece.key in tails:
            assert min(shape.distance(header) for header in headers) < 1.0
    assert overlaps(model) == []
    for key in low.trimmers:
        assert section(framing.boards.own[key]).breadth >= 3.0 * INCH - 0.1  # doubled at least (IRC R802.9)
    balanced(model)
    assert not [f for f in model.findings if f.code in ("untied", "roof opening", "used")]
    # The deck is left out there.
    deck = next(p for p in model.of_layouts("roof plane") if p.key.endswith(f"/plane/{hole.edge}"))
    whole = derive(edits.remove(model.project, "roof-opening-1"))
    before = next(p for p in whole.of_layouts("roof plane") if p.key == deck.key)
    steep = math.hypot(1.0, 0.5)
    gone = (hole.along[1] - hole.along[0]) * (hole.inward[1] - hole.inward[0]) * steep * plan.roof.deck
    assert before.volume - deck.volume == pytest.approx(gone, rel=1e-6)


def test_headers_and_trimmers_by_hand():
    """A header takes half of the tails beside it; a trimmer what stands for two single loads on a simple span."""
    model = derive(house(width=3.0 * FOOT))
    plan, framing = model.surfaces[0], model.planes["roof-1"]
    (hole,) = plan.holes
    low, high = framing.headers
    trimmer = next(m for m in framing.members if m.key == low.trimmers[0]).member
    ((_, foot), (_, head)) = in_plane(plan.outline.core, hole.edge, [trimmer.start[:2], trimmer.end[:2]])
    other = next(m for m in framing.members if m.key == low.trimmers[1]).member
    farther = in_plane(plan.outline.core, hole.edge, [other.end[:2]])[0][1]
    q = model.project.loads.ground_snow / 1000.0
    span = low.between[1] - low.between[0]
    for header, run in ((low, hole.inward[0] - foot), (high, max(head, farther) - hole.inward[1])):
        assert framing.results[header.key].case.load.snow == pytest.approx(q * run / 2.0 * span, rel=1e-4)
    long, areas = (
        head - foot,
        [(hole.inward[0] - foot) / 2.0 * span / 2.0, (max(head, farther) - hole.inward[1]) / 2.0 * span / 2.0],
    )
    places = [hole.inward[0] - foot, hole.inward[1] - foot]
    # The even load that bends it as much, or presses its ends as much, as both headers together do.
    left = sum(a * (long - x) / long for a, x in zip(areas, places, strict=True))
    moments = [left * places[0], left * places[1] - areas[0] * (places[1] - places[0])]
    added = q * max(8.0 * max(moments) / long**2, 2.0 * max(left, sum(areas) - left) / long)
    plies = int(framing.boards.own[low.trimmers[0]][0])
    case = framing.results[low.trimmers[0]].case
    assert case.spacing == pytest.approx(16.0 * INCH / plies, rel=1e-4)
    assert case.load.snow * case.spacing / 1000.0 * plies == pytest.approx(q * 16.0 * INCH + added, rel=1e-4)


def test_long_headers_are_doubled():
    framing = derive(house(width=5.0 * FOOT)).planes["roof-1"]
    assert all(section(h.size).breadth > 2.0 * INCH for h in framing.headers)  # IRC R802.9: over 4 ft
    low, high = framing.headers[0].between
    cut = [m for m in framing.members if m.member.role == "tail rafter"]
    assert len(cut) == 2 * (round((high - low) / (16.0 * INCH)) - 1)


@pytest.mark.parametrize(
    ("fields", "told"),
    [
        ({"along": 3.0, "up": 6.0}, "hip, valley, ridge or edge"),
        ({"along": 20.0, "up": 13.0}, "hip, valley, ridge or edge"),
        ({"along": 9.14, "up": 4.97}, "reaches from below to above"),
    ],
)
def test_what_cannot_be_framed_is_said(fields, told):
    model = derive(house(**fields))
    (found,) = [f for f in model.findings if f.code == "roof opening"]
    assert told in found.why
    balanced(model)
    assert not model.planes["roof-1"].headers


def test_one_over_another():
    p = add_roof_opening(house(), "roof-1", "wall-1", 16.5 * FOOT, 5.0 * FOOT)
    (found,) = [f for f in derive(p).findings if f.code == "roof opening"]
    assert "lies over another one" in found.why


def test_two_side_by_side_share_a_trimmer():
    p = add_roof_opening(house(along=16.0), "roof-1", "wall-1", 18.67 * FOOT, 4.0 * FOOT)
    model = derive(p)
    framing = model.planes["roof-1"]
    assert len(framing.headers) == 4
    shared = set(framing.headers[0].trimmers) & set(framing.headers[2].trimmers)
    assert len(shared) == 1
    alone = derive(house(along=16.0)).planes["roof-1"]
    (key,) = shared
    both, one = (f.results[key].case.load.snow for f in (framing, alone))
    assert both > one
    assert overlaps(model) == []
    balanced(model)


def test_it_goes_with_its_wall_and_its_roof():
    p = house()
    assert not edits.remove(p, "roof-1").roof_openings
    with pytest.raises(EditError, match="none of its roof's"):
        edits.change(p, "roof-opening-1", wall="wall-9")
    with pytest.raises(EditError, match="sides must be"):
        edits.change(p, "roof-opening-1", width=10.0)
    gable = derive(set_side(p, "roof-1", "wall-1", kind="gable"))
    (found,) = [f for f in gable.findings if f.code == "roof opening"]
    assert "no plane over its wall" in found.why


def test_saved_and_written_to_ifc():
    p = house()
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "house.balken"
        save(p, path)
        assert load(path).roof_openings == p.roof_openings
        out = Path(folder) / "house.ifc"
        write_ifc(derive(p), out)
        names = [m.Name for m in ifcopenshell.open(str(out)).by_type("IfcMember")]
    assert sum("header" in (name or "").lower() for name in names) >= 2 or len(names) > 50


@settings(max_examples=20)
@given(
    st.floats(1.0, 39.0),
    st.floats(0.2, 14.0),
    st.floats(1.0, 6.0),
    st.floats(1.0, 6.0),
    st.sampled_from(["beam", "board"]),
)
def test_anywhere_it_is_framed_or_refused(along, up, wide, tall, made):
    model = derive(house(along, up, made, width=wide * FOOT, length=tall * FOOT))
    framing = model.planes["roof-1"]
    assert bool(framing.unframed) != bool(framing.headers)
    assert overlaps(model) == []
    balanced(model)
    trimmers = {key for h in framing.headers for key in h.trimmers}
    assert trimmers <= set(framing.boards.own)
    # Only what leans against a trimmer may have come to be of plies with them.
    heads = [one.member.end[:2] for one in framing.members if one.key in trimmers]
    for one in framing.members:
        if one.key in set(framing.boards.own) - trimmers:
            assert min(math.dist(one.member.end[:2], head) for head in heads) < 5.0


@pytest.mark.parametrize("size", [name for name, one in SECTIONS.items() if one.plies == 1])
def test_what_trimmers_are_tried_in_is_made(size):
    for plies, each in made_of(size, 1):
        assert section(plied(plies, each)).depth == pytest.approx(section(size).depth)


def test_the_rectangle_about_an_outline_lies_in_the_plane_under_it():
    """Over a plane of 6:12 that rises along y from y = 0: 800 wide, 1000 in plan, up the slope by the square root of 1.25."""
    surface = roof_surface(
        ((0.0, 0.0), (12_000.0, 0.0), (12_000.0, 8000.0), (0.0, 8000.0)), [RoofEdge("eave", 0.5)] * 4
    )
    core = ((0.0, 0.0), (12_000.0, 0.0), (12_000.0, 8000.0), (0.0, 8000.0))
    ring = ((5000.0, 1000.0), (5800.0, 1000.0), (5800.0, 2000.0), (5000.0, 2000.0))
    over = rectangle_over(surface, core, ring)
    steep = 1.25**0.5
    assert over == pytest.approx((0, 5400.0, 1000.0 * steep, 800.0, 1000.0 * steep))
    # Turned by a right angle over the hip end: along its own eave.
    end = rectangle_over(surface, core, tuple((12_000.0 - y, x - 1400.0) for x, y in ring))
    assert end is not None
    assert (end.edge, end.width, end.length) == pytest.approx((1, 800.0, 1000.0 * steep))
    assert rectangle_over(surface, core, tuple((x + 2e4, y) for x, y in ring)) is None


def test_a_thing_of_the_architects_file_is_left_out_of_the_roof_it_runs_through():
    p = orchard_road()
    model = derive(p)
    plan = next(s for s in model.surfaces if s.roof.id == "roof-1")
    face = max(plan.surface.faces, key=lambda f: f.area)
    x, y = np.mean([q[:2] for q in face.ring], axis=0)
    ring = ((x - 300.0, y - 300.0), (x + 300.0, y - 300.0), (x + 300.0, y + 300.0), (x - 300.0, y + 300.0))
    thing = Reference(
        id="reference-1", name="Chimney", kind="chimney", ring=ring, bottom=-2500.0, top=9500.0, source="abc"
    )
    low = msgspec.structs.replace(thing, id="reference-2", top=0.0, source="low")
    session = Session(msgspec.structs.replace(p, references=(thing, low)))
    (button,) = [b for b in reference_card(session, thing).parts if isinstance(b, Button) and "roof" in b.label.lower()]
    assert not [b for b in reference_card(session, low).parts if isinstance(b, Button) and "roof" in b.label.lower()]
    assert session.apply("x", button.edit)
    made = session.project.roof_openings[-1]
    assert (made.kind, made.source, made.roof) == ("chimney", "abc", "roof-1")
    hole = next(h for s in session.model.surfaces for h in s.holes if h.opening == made.id)
    assert hole.along[1] - hole.along[0] == pytest.approx(600.0)
    # It is offered once.
    assert not [b for b in reference_card(session, thing).parts if isinstance(b, Button) and "roof" in b.label.lower()]
