"""Trusses that bear on their top chords, their bottom chords hung between the walls: shape, forces, wedges, what stands in their way."""

import msgspec
import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from PySide6.QtWidgets import QLabel
from tests.app.conftest import _user
from tests.design.test_trusses import as_pynite
from tests.framing.test_roof_trusses import trussed
from tests.framing.test_truss_bearings import single_slope, walled
from tests.framing.test_truss_weights import hung as weighted
from tests.framing.test_truss_wings import _apart, winged
from tests.loads.test_beams import balanced

from balken.catalog.sections import section
from balken.commands.truss import truss_report
from balken.derive import derive
from balken.documents.truss_drawing import shop_notes
from balken.exchange.project_file import load, save
from balken.framing.truss_heels import BUTT
from balken.framing.truss_outline import height_on
from balken.mending import run_fix
from balken.model import edits
from balken.model.errors import EditError
from balken.model.kinds.trusses import Trusses
from balken.model.records import RoofSide
from balken.units import Units
from balken.units.system import FOOT, INCH


def hung(drop, pitch=0.5, **trusses):
    return edits.change(trussed(pitch), "roof-1", trusses=Trusses(drop=drop, **trusses), overhang=10.0 * INCH)


def test_bottom_chords_a_foot_below_the_plates_by_hand():
    """28 ft at 6:12 on 2x6 walls lined with half an inch: the bottom chord ends an inch inside of both, a foot lower; each bearing carries
    half of all.
    """
    model = derive(hung(12.0 * INCH))
    plan, design = model.surfaces[0], model.trusses["roof-1"].common
    frame, wide = design.frame, 28.0 * FOOT
    core = 5.5 * INCH
    assert [x for x, _ in frame.outline.bottom] == pytest.approx([core + INCH, wide - core - INCH])
    assert [y for _, y in frame.outline.bottom] == pytest.approx([-12.0 * INCH] * 2)
    assert set(frame.held) == {"bearing left", "bearing right"}
    top = {name for stick in frame.sticks if stick.role == "top chord" for name in stick.joints}
    assert set(frame.held) <= top
    assert plan.plate_to_top == pytest.approx(section(frame.sizes.top).depth * 1.25**0.5 + BUTT)
    assert design.heel == pytest.approx(plan.plate_to_top)
    report = truss_report(design, plates=False)
    as_pynite(report)
    one, other = (report["reactions_n"][name] for name in ("bearing left", "bearing right"))
    for name, force in one.items():
        if "blown" not in name and "W" not in name:
            assert force == pytest.approx(other[name], rel=1e-6)
    # What a bearing carries bends the top chord on its way to the upright; what lies on that and past it takes some of it off.
    arm = frame.joints["heel left"][0] - frame.joints["bearing left"][0]
    number = next(k for k, e in enumerate(frame.elements) if {e.i, e.j} == {"bearing left", "heel left"})
    combo = [c.name for c in design.combined].index("D + S")
    bent = abs(float((design.solved.moment(1.0)[0, number] @ design.factors)[combo]))
    assert 0.8 * one["D + S"] * arm < bent < one["D + S"] * arm
    balanced(model)
    _apart(model)


def test_behind_a_thick_lining_they_are_shorter():
    """Two inches more of lining inside: two inches farther in at both ends, and nothing in it."""
    p = hung(12.0 * INCH)
    wall = next(b for b in p.buildups if b.id == p.walls[0].buildup)
    inner = wall.layers[-1]
    assert inner.function == "lining"
    layers = (*wall.layers[:-1], msgspec.structs.replace(inner, thickness=inner.thickness + 2.0 * INCH))
    thick = msgspec.structs.replace(
        p, buildups=tuple(msgspec.structs.replace(b, layers=layers) if b is wall else b for b in p.buildups)
    )
    one, other = (derive(x).trusses["roof-1"].common.frame.outline for x in (p, thick))
    assert other.start - one.start == pytest.approx(2.0 * INCH)
    assert one.end - other.end == pytest.approx(2.0 * INCH)
    _apart(derive(thick))


def test_wedges_fill_between_plates_and_chords_by_hand():
    """Under 6:12 on 5 1/2 in of plate: a quarter of an inch high outside, three more inside."""
    model = derive(hung(12.0 * INCH))
    wedges = [piece for piece in model.pieces.values() if piece.role == "truss wedge"]
    made = model.trusses["roof-1"]
    (common,) = (make for make in made.makes if make.key == "common")
    assert len(wedges) == 2 * len(common.numbers)
    wide, thick = 5.5 * INCH, 1.5 * INCH
    for piece in wedges:
        assert piece.solid.volume == pytest.approx(thick * wide * (BUTT + 0.5 * wide / 2.0), rel=1e-6)
        assert piece.solid.heights[0] == pytest.approx(model.surfaces[0].bearing)
        assert piece.section == "2x4"  # 3 in high inside


def test_steep_wedges_are_cut_from_wider_boards_or_it_is_told():
    """On 5 1/2 in of plate: 12:12 needs 5 3/4 in of board, 36:12 more than there is."""
    model = derive(hung(12.0 * INCH, 1.0, top="2x4"))
    assert {piece.section for piece in model.pieces.values() if piece.role == "truss wedge"} == {"2x8"}
    made = derive(hung(12.0 * INCH, 3.0)).trusses["roof-1"]
    assert "more than any board" in made.problem


def test_two_pitches_weights_and_wind_as_pynite_has_them():
    """Nothing alike on both sides: pitches, what hangs in it, wind that lifts."""
    p = edits.set_loads(hung(12.0 * INCH), wind_speed=55.0)
    p = edits.change(
        p,
        "roof-1",
        sides=(
            RoofSide(wall="wall-2", kind="gable"),
            RoofSide(wall="wall-3", pitch=0.75),
            RoofSide(wall="wall-4", kind="gable"),
        ),
    )
    p = weighted(p, 6.0 * FOOT, 9.0 * FOOT, dead=2_000.0)
    model = derive(p)
    made = model.trusses["roof-1"]
    assert not made.problem
    for make in made.makes:
        if make.key == "common":
            as_pynite(truss_report(make.design, plates=False))
            assert min(v for row in make.design.reactions().values() for v in row.values()) < 0.0  # wind lifts it
    balanced(model)
    _apart(model)


def test_frames_over_gables_stay_on_their_plates():
    made = derive(hung(12.0 * INCH)).trusses["roof-1"]
    assert any("wedge" in text for text in shop_notes(made.common, Units.IMPERIAL))
    assert not any("wedge" in text for text in shop_notes(made.gable, Units.IMPERIAL))
    outline = made.gable.frame.outline
    assert not outline.on_top
    assert {y for _, y in outline.bottom} == {0.0}


@given(
    st.sampled_from([0.25, 0.5, 0.7, 1.0]), st.floats(150.0, 1200.0), st.sampled_from(["auto", "howe", "queen-post", "double-fink"]),
    st.sampled_from([None, "2x6", "2x8"]), st.sampled_from([1, 2]),
)  # fmt: skip
@settings(max_examples=8, deadline=None)
@example(0.25, 150.0, "auto", None, 1)
@example(1.0, 1200.0, "howe", "2x6", 2)
def test_any_hang_in_their_walls_or_it_is_told(pitch, drop, pattern, top, plies):
    model = derive(hung(drop, pitch, pattern=pattern, top=top, plies=plies))
    made = model.trusses["roof-1"]
    if made.problem:
        assert "no room" in made.problem, made.problem
        assert [f for f in model.findings if f.code == "no trusses"]
        return
    as_pynite(truss_report(made.common, plates=False))
    balanced(model)
    _apart(model)
    outline = made.common.frame.outline
    for make in made.makes:
        if make.key != "common":
            continue
        for plate in make.plates:
            for x, y in plate.ring:  # on no wall, over no deck
                assert y <= height_on(outline.top, x) + 0.2
                low = outline.bearings[0].high < x < outline.bearings[-1].low
                assert y >= (-drop if low else 0.0) - 0.2, (plate.joint, x, y)
    weak = [make for make in made.makes if make.key == "common" and any(p.used > 1.0 for p in make.plates)]
    assert bool(weak) == bool([f for f in model.findings if f.code == "plates"])


def test_where_they_cannot_bear_so_it_is_told():
    def problem(p):
        return derive(p).trusses["roof-1"].problem

    assert "between two eaves" in problem(edits.change(winged(), "roof-1", trusses__drop=300.0))
    assert "between two eaves" in problem(single_slope(hung(300.0)))
    assert "lie lower" in problem(hung(150.0, 0.25, bottom="2x10"))
    for field, value in (
        ("bottom_pitch", 0.25),
        ("past", 300.0),
        ("camber", 20.0),
        ("inner", True),
        ("joined", "gussets"),
        ("heel", 300.0),
    ):
        with pytest.raises(EditError, match="bear on their top chords"):
            hung(300.0, **{field: value})
    with pytest.raises(EditError, match="6 in to 5 ft"):
        hung(50.0)


def test_an_inside_wall_that_stands_in_them_is_told_and_lowered():
    p = walled(hung(12.0 * INCH), (0.6, 12.0), (39.4, 12.0))
    (told,) = [f for f in derive(p).findings if f.code == "air over wall"]
    assert told.grave
    assert "stands in" in told.what
    mended = derive(run_fix(p, told.fix))
    assert not [f for f in mended.findings if f.code == "air over wall"]
    under = mended.surfaces[0].bearing - 12.0 * INCH
    assert mended.lines["wall-9"].band.top == pytest.approx(under - 0.5 * INCH)
    _apart(mended)
    # As high as the bottom chords it touches them; a little more than half an inch lower it does not.
    for lower, said in ((12.0, 1), (12.6, 0)):
        q = walled(hung(12.0 * INCH), (0.6, 12.0), (39.4, 12.0), lower * INCH)
        assert len([f for f in derive(q).findings if f.code == "air over wall"]) == said


def test_it_is_typed_on_the_card(qtbot, qapp, tmp_path):
    user = _user(qtbot, qapp, tmp_path, trussed())
    user.stage(5)
    user.session.select(["roof-1"])
    user.type_in_card("Bottom chords below plates", "1'")
    made = user.session.model.trusses["roof-1"]
    assert made.common.frame.outline.on_top
    assert user.project.roofs[0].trusses.drop == pytest.approx(12.0 * INCH)
    wedge = next(key for key, piece in user.session.model.pieces.items() if piece.role == "truss wedge")
    user.session.select([wedge])
    assert any("truss wedge" in label.text() for label in user.window.findChildren(QLabel))
    path = tmp_path / "hung.balken"
    save(user.project, path)
    assert load(path) == user.project
    user.session.undo()
    assert user.project.roofs[0].trusses.drop == 0.0
