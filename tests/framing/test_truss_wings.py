"""Trusses under roofs with wings: girders where these come in, what hangs on them, valley trusses over the main part."""

import itertools
import math

import ifcopenshell
import numpy as np
import pytest
import shapely
from hypothesis import assume, example, given, settings
from hypothesis import strategies as st
from tests.design.test_trusses import as_pynite
from tests.framing.solids import apart
from tests.framing.test_roof_trim import of
from tests.framing.test_roofs_on_beams import porched
from tests.framing.test_surface_roofs import roofed
from tests.loads.test_beams import balanced

from balken.commands.truss import truss_report
from balken.derive import derive
from balken.design.truss_bearings import bearing_forces
from balken.documents.deck_sheets import deck_layouts
from balken.documents.display import Text
from balken.documents.truss_drawing import truss_drawings
from balken.documents.truss_marks import marks_by_number
from balken.exchange.ifc import write_ifc
from balken.geometry.plane import off_line
from balken.loads.cases import total
from balken.model import edits
from balken.model.kinds.trusses import Trusses
from balken.model.lookup import label_of
from balken.model.records import RoofSide
from balken.model.roof_edits import set_side
from balken.units.system import FOOT, INCH

L = ((0, -20), (16, -20), (16, 0), (40, 0), (40, 28), (0, 28))
"""40 x 28 ft with a wing 16 ft wide, 20 ft long, flush with its left end; sides are walls 1 to 6."""
T = ((0, 0), (12, 0), (12, -16), (28, -16), (28, 0), (40, 0), (40, 28), (0, 28))


def winged(corners=L, gables=(), trusses=None, **fields):
    p = roofed(corners, framed="trusses", pitch=fields.pop("pitch", 0.5), **fields)
    p = edits.set_project(p, stock_length=24.0 * FOOT)
    for wall in gables:
        p = set_side(p, "roof-1", wall, kind="gable")
    return edits.change(p, "roof-1", trusses=trusses) if trusses is not None else p


def of_make(made, key):
    return [make for make in made.makes if make.key == key]


def test_an_l_is_laid_as_a_carpenter_would():
    """The wing's trusses run up to the main part; the last is a girder, on which hang all of the main part's over its width."""
    made = derive(winged(gables=("wall-1", "wall-4"))).trusses["roof-1"]
    assert not made.problem
    main, wing = made.rows
    assert (main.wide, wing.wide) == (pytest.approx(28 * FOOT), pytest.approx(16 * FOOT))
    girder = next(make for make in made.makes if make.key == "carrier")
    (number,) = girder.numbers
    place, plies = made.places[number], girder.design.frame.sizes.plies
    # Its face lies in the line of the main part's wall.
    assert place.at(0.0)[1] == pytest.approx(-plies * 0.75 * INCH)
    # It bears on both walls of the wing; of the main part's trusses those hang on it that end within its width.
    assert place.walls == ("wall-2", "wall-6") or place.walls == ("wall-6", "wall-2")
    hanging = sorted(one.at[0] for one in made.hung if one.on == number)
    assert hanging[0] > 0.0
    assert hanging[-1] < 16 * FOOT
    # Beside the hip girder as far apart as from its face.
    assert max(b - a for a, b in itertools.pairwise([0.0, *hanging, 16 * FOOT])) <= (24 + plies * 0.75) * INCH + 1.0
    for k in made.numbers(0):
        end = next(p for p in (made.places[k].at(0.0), made.places[k].at(main.wide)) if abs(p[1]) < 1.0)
        own = made.places[k].walls[0 if made.places[k].at(0.0)[1] < FOOT else 1]
        assert (own == "") == (end[0] <= 16 * FOOT + 1.0), end


def test_valley_trusses_by_hand():
    """They stand 24 in apart from the girder on; each as long as the place between both valleys less a butted heel at both ends."""
    model = derive(winged(gables=("wall-1", "wall-4")))
    made, plan = model.trusses["roof-1"], model.surfaces[0]
    girder = made.places[of_make(made, "carrier")[0].numbers[0]]
    valleys = [(made.places[n], make.design) for make in of_make(made, "valley") for n in make.numbers]
    deeps = sorted(place.at(0.0)[1] for place, _ in valleys)
    assert np.diff([girder.at(0.0)[1], *deeps]) == pytest.approx(24 * INCH)
    steep = math.hypot(1.0, 0.5)
    heel = 3.5 * INCH * steep + 0.25 * INCH
    for place, design in valleys:
        deep = place.at(0.0)[1]
        # Its underside: the deck below, at its face up the slope.
        under = 0.5 * (deep + 0.75 * INCH) + plan.roof.deck * steep
        assert place.lift == pytest.approx(under + plan.plate_to_top)
        assert design.frame.outline.span == pytest.approx(16 * FOOT - 2.0 * (under + heel) / 0.5, abs=0.01)
        assert place.lift + max(y for _, y in design.frame.outline.top) == pytest.approx(plan.plate_to_top + 4 * FOOT)
        # Studs stand over trusses below.
        below = {round(p.at(0.0)[0]) for k in made.numbers(0) for p in (made.places[k],)}
        seats = [place.at(design.frame.joints[name][0])[0] for name in design.frame.held if name.startswith("B")]
        jacks = {round(p.at(0.0)[0]) for p in made.places if p.make == "jack"}
        assert all(round(x) in below | jacks for x in seats), seats


def test_what_lies_on_valley_trusses_by_hand():
    """Between both valleys, 16 ft wide and 8 ft deep: all but what lies within half a space of the girder, which carries that."""
    model = derive(winged(gables=("wall-1", "wall-4")))
    made, loads = model.trusses["roof-1"], model.project.loads
    girder = made.places[of_make(made, "carrier")[0].numbers[0]]
    first = 24 * INCH / 2.0 + girder.at(0.0)[1]
    wide = 16 * FOOT - 2.0 * first
    on = [make for make in of_make(made, "valley") for _ in make.numbers]
    brought = total(force for make in on for _, force in bearing_forces(make.design, make.design.job.loads))
    area = wide * wide / 4.0 / 1000.0
    assert brought.snow == pytest.approx(loads.ground_snow * area, rel=1e-6)
    assert brought.dead == pytest.approx(loads.roof_dead * math.hypot(1.0, 0.5) * area, rel=1e-6)
    assert brought.live == 0.0  # no ceiling hangs on them


def test_posts_of_studs_stand_under_girders():
    """Under both ends of the wing's girder, right below it, made for what it brings; the other trusses lie on plates and studs as they come."""
    model = derive(winged(gables=("wall-1", "wall-4")))
    made = model.trusses["roof-1"]
    (number,) = of_make(made, "carrier")[0].numbers
    ends = [r for r in made.reactions if r.piece == f"roof-1/truss/{number}"]
    assert {r.bearer for r in ends} == {"wall-2", "wall-6"}
    for r in ends:
        band, posts = model.lines[r.bearer].band, model.framed[r.bearer].posts
        along = off_line(r.at, band.start, band.end)[0]
        post = min(posts, key=lambda one: abs(one.at - along))
        assert post.at == pytest.approx(along, abs=1.0)
        assert post.plies >= 2
        assert post.result.used <= 1.0
        # Stacked in the wall: as many studs as it has, right there.
        studs = [
            x
            for x in of(model, "post stud")
            if x.owner == r.bearer and abs(off_line(x.start[:2], band.start, band.end)[0] - along) < 2.0 * INCH
        ]
        assert len(studs) == post.plies
        point = next(p for p in model.path.heads[r.bearer].points if abs((p.low + p.high) / 2.0 - along) < 1.0)
        assert point.force.dead == pytest.approx(r.force.dead, rel=1e-6)
    assert "girder truss" in label_of(model.project, "roof-1.wall-2.0")
    balanced(model)


@given(
    st.integers(0, 24), st.integers(10, 20), st.sampled_from([14, 20, 26]), st.sampled_from([1.0 / 3.0, 0.5, 0.75]),
    st.sampled_from([0.0, 300.0, 600.0]), st.booleans(), st.sampled_from([406.4, 609.6]),
)  # fmt: skip
@example(0, 16, 20, 0.5, 300.0, True, 609.6)
@example(24, 16, 20, 0.5, 600.0, False, 609.6)
@example(3, 14, 20, 0.5, 300.0, False, 609.6)
@settings(max_examples=3, deadline=None)
def test_all_that_lies_on_them_comes_down(at, wide, long, pitch, overhang, gable, spacing):
    """A main part of 40 x 28 ft, a wing anywhere along it: flush with an end, beside a hip, in its middle."""
    corners = [(0, 0), (at, 0), (at, -long), (at + wide, -long), (at + wide, 0), (40, 0), (40, 28), (0, 28)]
    corners = [p for k, p in enumerate(corners) if p != corners[k - 1] and _turns(corners, k)]
    p = winged(tuple(corners), trusses=Trusses(spacing=spacing), pitch=pitch, overhang=overhang)
    if gable:
        outer = next(
            k for k, (a, b) in enumerate(zip(corners, [*corners[1:], corners[0]], strict=True)) if a[1] == b[1] == -long
        )
        p = set_side(p, "roof-1", f"wall-{outer + 1}", kind="gable")
    model = derive(edits.set_loads(p, snow_by="roof"))
    assume(not model.trusses["roof-1"].problem)
    balanced(model)
    _below_the_planes(model)
    _apart(model)


def _turns(corners, k):
    a, b, c = (corners[j % len(corners)] for j in (k - 1, k, k + 1))
    return (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0]) != 0


def _below_the_planes(model):
    """No top edge of any truss, on either face, stands over the roof."""
    made, plan = model.trusses["roof-1"], model.surfaces[0]
    faces = []
    for face in (*plan.whole.faces, *plan.under):
        ring = np.array(face.ring)
        plane, *_ = np.linalg.lstsq(
            np.column_stack([ring[:, :2] - ring[0, :2], np.ones(len(ring))]), ring[:, 2], rcond=None
        )
        faces.append((shapely.Polygon(ring[:, :2]).buffer(0.5), ring[0, :2], plane))

    def roof(x, y):
        at = [
            float(np.dot((x - o[0], y - o[1], 1.0), plane))
            for shape, o, plane in faces
            if shape.covers(shapely.Point(x, y))
        ]
        return plan.plate_to_top + max(at) if at else math.inf

    for number, make in made.made_at.items():
        place, frame = made.places[number], make.design.frame
        half = 0.75 * INCH * frame.sizes.plies
        for x, y in frame.outline.top:
            for side in (-half, half):
                assert place.lift + y <= roof(*place.frame.back(place.start + x, place.t + side)) + 0.05, make.name


def _apart(model):
    pieces = [x for x in model.pieces.values() if x.role.startswith("truss") or x.owner.startswith(("roof", "wall"))]
    apart([x for x in pieces if x.role.startswith("truss")], pieces, 1e4)


@pytest.mark.parametrize("corners", [L, T])
def test_forces_as_pynite_has_them(corners):
    """A girder with what hangs on it, a truss that hangs and carries valley trusses, a valley truss: to 0.1 %."""
    made = derive(winged(corners)).trusses["roof-1"]
    resting = next(
        m for m in made.makes if m.key in ("common", "flat") and any(any(r.force) for r in m.design.job.loads.rested)
    )
    valley = max(of_make(made, "valley"), key=lambda make: make.design.frame.outline.span)
    for make in (*of_make(made, "carrier"), resting, valley):
        as_pynite(truss_report(make.design, plates=False))


def test_two_wings_across_from_one_another():
    corners = (
        (0, 0),
        (8, 0),
        (8, -12),
        (22, -12),
        (22, 0),
        (44, 0),
        (44, 28),
        (38, 28),
        (38, 40),
        (26, 40),
        (26, 28),
        (0, 28),
    )
    model = derive(winged(corners, gables=("wall-3", "wall-6", "wall-9", "wall-12")))
    made = model.trusses["roof-1"]
    assert not made.problem
    assert len(made.rows) == 3
    assert sum(len(make.numbers) for make in of_make(made, "carrier")) == 2
    balanced(model)
    _below_the_planes(model)
    _apart(model)


@pytest.mark.parametrize(
    ("corners", "said"),
    [
        (
            ((0, 0), (10, 0), (10, -30), (38, -30), (38, 0), (40, 0), (40, 20), (0, 20)),
            "more than one plane",
        ),  # a wing wider than the rest is deep
        (((0, 0), (30, 0), (30, -10), (46, 6), (30, 28), (0, 28)), "square to them"),
    ],
)
def test_where_they_cannot_be_rafters_stand_and_it_is_told(corners, said):
    model = derive(winged(corners))
    made = model.trusses["roof-1"]
    assert said in made.problem
    finding = next(f for f in model.findings if f.code == "no trusses")
    assert finding.fix is not None
    assert model.designs[("roof-1", "rafters")].size
    balanced(model)


@pytest.mark.parametrize("gables", [("wall-3", "wall-4", "wall-5"), ("wall-1", "wall-3", "wall-4", "wall-6")])
def test_a_main_part_of_one_slope_stays_rafters_and_it_is_told(gables):
    model = derive(winged(gables=gables))
    assert model.trusses["roof-1"].problem
    balanced(model)


def test_level_bottom_chords_where_wings_come_in():
    made = derive(winged(trusses=Trusses(pattern="scissors", bottom_pitch=0.25))).trusses["roof-1"]
    assert "level" in made.problem


def test_the_main_parts_deck_runs_on_under_the_wings():
    model = derive(winged(gables=("wall-1", "wall-4")))
    plan = model.surfaces[0]
    (under,) = plan.under
    assert under.plan_area == pytest.approx(16 * FOOT * 8 * FOOT / 2.0)
    # It ends where the wing's deck comes down on it: 5/8 in plumb below, from a little within the girder on.
    plumb = plan.roof.deck * math.hypot(1.0, 0.5)
    begin = plan.roof.deck * 0.5 / math.hypot(1.0, 0.5)
    wide = 16 * FOOT - 2.0 * (plumb + 0.5 * begin) / 0.5
    assert plan.under_decks[0].plan_area == pytest.approx(wide * wide / 4.0, rel=1e-6)
    (layout,) = (one for one in deck_layouts(model) if one.ref == "roof-1")
    assert layout.area == pytest.approx(sum(face.area for face in (*plan.whole.faces, *plan.under_decks)), rel=1e-3)


def test_trusses_of_a_part_have_chords_alike_and_are_drawn():
    model = derive(winged(gables=("wall-1", "wall-4")))
    made = model.trusses["roof-1"]
    mains = [make.design.frame.sizes for make in of_make(made, "common") if make.numbers[0] in made.numbers(0)]
    assert len(mains) > 1
    assert len({(s.top, s.bottom, s.webs) for s in mains}) == 1
    drawings = dict(truss_drawings(model))
    said = " ".join(item.text for one in drawings.values() for item in one.items if isinstance(item, Text))
    for words in (
        "a stud over each truss below",
        "On its top chord rest",
        "Hangs at both ends",
        "Hangs at one end",
        "hang on its bottom chord",
    ):
        assert words in said
    marks = marks_by_number(model, "roof-1")
    assert set(marks) == set(range(len(made.places)))


def test_in_ifc_every_truss_is_an_assembly(tmp_path):
    model = derive(winged(gables=("wall-1", "wall-4")))
    write_ifc(model, tmp_path / "wings.ifc")
    read = ifcopenshell.open(tmp_path / "wings.ifc")
    assert len(read.by_type("IfcElementAssembly")) == len(model.trusses["roof-1"].places)


def test_over_a_wall_that_runs_on_no_girder_is_needed():
    """A porch on beams before the long wall of a house: all trusses of the house bear on that wall, those of the porch end at it."""
    p = porched("gable", deep=10.0 * FOOT)
    p = edits.remove(p, "roof-2")
    walls = (*p.roofs[0].walls, "beam-1", "beam-2", "beam-3")
    ends = tuple(RoofSide(wall=wall, kind="gable") for wall in ("wall-2", "wall-4", "beam-1"))
    p = edits.change(p, "roof-1", walls=walls, sides=ends, framed="trusses", shape="planes")
    model = derive(edits.set_project(p, stock_length=24.0 * FOOT))
    made = model.trusses["roof-1"]
    assert not made.problem
    assert len(made.rows) == 2
    assert not of_make(made, "carrier")
    assert not made.hung
    assert of_make(made, "valley")
    for number in made.numbers(0):
        assert all(made.places[number].walls)
    assert {wall for number in made.numbers(1) for wall in made.places[number].walls} == {"beam-2", "beam-3"}
    balanced(model)
    _below_the_planes(model)
    _apart(model)


def test_wings_alike_are_of_the_same_makes():
    corners = (
        (0, 0),
        (14, 0),
        (14, -12),
        (28, -12),
        (28, 0),
        (42, 0),
        (42, 28),
        (28, 28),
        (28, 40),
        (14, 40),
        (14, 28),
        (0, 28),
    )
    made = derive(winged(corners, gables=("wall-3", "wall-6", "wall-9", "wall-12"))).trusses["roof-1"]
    assert not made.problem
    assert len({id(make.design) for make in made.makes}) == len(made.makes)
    (girders,) = of_make(made, "carrier")
    assert len(girders.numbers) == 2
    assert sorted(n for make in made.makes for n in make.numbers) == list(range(len(made.places)))


@pytest.mark.parametrize(("pitch", "heel"), [(0.35, None), (0.35, 600.0), (0.5, 300.0), (0.75, 300.0), (0.75, 400.0)])
def test_where_no_plate_finds_room_chords_or_webs_are_made_deeper(pitch, heel):
    """As far as they are chosen: typed ones stay, and the joints that are left are told."""
    p = winged(trusses=Trusses(heel=heel), pitch=pitch)
    model = derive(p)
    made = model.trusses["roof-1"]
    assert not made.problem
    assert made.used <= 1.0
    balanced(model)
    girder = next(make for make in made.makes if make.key == "carrier")
    as_pynite(truss_report(girder.design, plates=False))
    sizes = girder.design.frame.sizes
    typed = edits.change(p, "roof-1", trusses__bottom="2x4", trusses__webs="2x4")
    after = derive(typed).trusses["roof-1"]
    assert {make.design.frame.sizes.bottom for make in after.makes} == {"2x4"}
    assert sizes.webs in ("2x4", "2x6")
