"""Hip ends under trusses: flat-topped trusses, hip girders, what hangs on them; loads, shape, forces, hangers."""

import itertools
import math

import msgspec
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from tests.design.test_trusses import as_pynite
from tests.framing.solids import apart
from tests.framing.test_roof_trusses import trussed
from tests.loads.test_beams import balanced

from balken.catalog.hangers import made_up_of_trusses
from balken.commands.truss import truss_report
from balken.derive import derive
from balken.design.load_duration import normal_duration
from balken.design.ply_nailing import girder_nailing
from balken.documents.truss_drawing import hanging_notes
from balken.documents.truss_marks import marks_by_number, truss_marks
from balken.exchange.ifc import write_ifc
from balken.geometry.plane import dot, left, sub, unit
from balken.loads.beam_law import Extremes
from balken.model import edits
from balken.model.kinds.hanger import Hanger
from balken.model.kinds.trusses import Trusses
from balken.model.naming import truss_number
from balken.model.roof_edits import add_roof_opening, set_side
from balken.units.system import FOOT, INCH


def hipped(both=True, pitch=0.5, end=None, trusses=None, **fields):
    """The house of 40 x 28 ft, its short ends hips."""
    p = trussed(pitch, trusses, **fields)
    for wall in ("wall-2", "wall-4") if both else ("wall-2",):
        p = set_side(p, "roof-1", wall, kind="eave", **({"pitch": end} if end is not None else {}))
    return p


def of_make(model, key):
    return [make for make in model.trusses["roof-1"].makes if make.key == key]


def test_they_are_laid_as_a_carpenter_would():
    """40 x 28 ft at 6:12, both ends hips: girders 8 ft from the ends, flat tops at 10 and 12 ft of them, then peaks."""
    model = derive(hipped())
    made = model.trusses["roof-1"]
    assert not made.problem
    row = made.row
    girders = [p for p in row.places if p.make == "girder"]
    assert [
        round(row.inward(hip, p.t) - 1.5 * INCH - 8.0 * FOOT, 6) for hip, p in zip(row.hips, girders, strict=True)
    ] == [0.0, 0.0]
    assert [p.make for p in row.places[:4]] == ["girder", "flat", "flat", "common"]
    one = of_make(model, "girder")[0].design
    # 8 ft in, its top lies flat 4 ft over the eaves' line, between the places where the slopes are as high.
    (_, (x0, y0), (x1, y1), _) = one.frame.outline.top
    assert (x0, x1) == (pytest.approx(8.0 * FOOT), pytest.approx(20.0 * FOOT))
    assert y0 == y1 == pytest.approx(one.heel + 4.0 * FOOT)
    # Jacks stand no farther apart than asked for, along the end wall and both eaves.
    ends = sorted(
        row.frame.to(p.at(0.0))[0] - row.start for p in made.places if p.make == "jack" and p.edge == row.hips[0].edge
    )
    assert max(b - a for a, b in itertools.pairwise([0.0, *ends, row.wide])) <= 24.0 * INCH + 0.1
    assert len(of_make(model, "corner")) == 1
    assert len(of_make(model, "corner")[0].numbers) == 4


@given(
    st.booleans(), st.sampled_from([0.25, 0.5, 1.0]), st.sampled_from([None, 0.4, 0.75]), st.sampled_from([0.0, 300.0, 600.0]),
    st.sampled_from([406.4, 609.6]), st.sampled_from([None, 1500.0, 2000.0]), st.sampled_from([None, 250.0]), st.booleans(),
)  # fmt: skip
@settings(max_examples=6, deadline=None)
def test_all_that_lies_on_them_comes_down(both, pitch, end, overhang, spacing, back, heel, snow):
    p = hipped(both, pitch, end, Trusses(spacing=spacing, set_back=back, heel=heel), overhang=overhang)
    p = (
        edits.set_loads(set_side(p, "roof-1", "wall-1", pitch=pitch * 0.9, overhang=overhang + 100.0), snow_by="roof")
        if snow
        else p
    )
    model = derive(p)
    assume(not model.trusses["roof-1"].problem)
    balanced(model)
    _below_the_planes(model)


def _below_the_planes(model):
    """No top edge of any of them, on either face, stands over the planes of the roof; those of girders meet the end's plane."""
    made, plan = model.trusses["roof-1"], model.surfaces[0]
    core = plan.outline.core
    planes = [
        (core[k], left(unit(core[k], core[(k + 1) % 4])), e.pitch) for k, e in enumerate(plan.edges) if e.kind == "eave"
    ]

    def roof(point):
        return plan.plate_to_top + min(pitch * dot(inward, sub(point, a)) for a, inward, pitch in planes)

    for number, make in made.made_at.items():
        place, frame = made.places[number], make.design.frame
        half = 0.75 * INCH * frame.sizes.plies
        for x, y in frame.outline.top:
            for side in (-half, half):
                assert y <= roof(place.frame.back(place.start + x, place.t + side)) + 0.01, make.name
        if make.key == "girder":
            x, y = frame.outline.top[1]
            assert (
                max(roof(place.frame.back(place.start + x + 50.0, place.t + side)) for side in (-half, half)) - y
                < 2.0 * half
            )


@pytest.mark.parametrize(
    "fields", [{"overhang": 450.0}, {"both": False, "end": 0.75}, {"trusses": Trusses(spacing=400.0, heel=250.0)}]
)
def test_nothing_of_them_stands_in_anything(fields):
    model = derive(hipped(**fields))
    assert not model.trusses["roof-1"].problem
    pieces = [
        x
        for x in model.pieces.values()
        if x.role.startswith("truss") or x.owner in ("roof-1", "wall-1", "wall-2", "wall-3", "wall-4")
    ]
    apart([x for x in pieces if x.role.startswith("truss")], pieces, 1e4)


@pytest.mark.parametrize("fields", [{"overhang": 300.0}, {"pitch": 0.75, "end": 0.5, "trusses": Trusses(heel=250.0)}])
def test_forces_as_pynite_has_them(fields):
    """Flat-topped trusses, girders with what hangs on them, jacks and corner girders: forces, moments, reactions to 0.1 %."""
    made = derive(hipped(both=False, **fields)).trusses["roof-1"]
    assert not made.problem
    kinds = {make.key: make for make in made.makes}
    assert set(kinds) >= {"common", "flat", "girder", "corner", "jack", "gable"}
    for key in ("flat", "girder", "corner", "jack"):
        as_pynite(truss_report(kinds[key].design, plates=False))


def test_what_a_jack_brings_by_the_lever():
    """A full jack, 8 ft long, 1 ft over the eave: what its hanger takes of loads that lie evenly, bearing in the middle of a 2x6 wall's plate."""
    model = derive(hipped(overhang=1.0 * FOOT))
    made, loads = model.trusses["roof-1"], model.project.loads
    number = next(
        n for n, p in enumerate(made.places) if p.make == "jack" and made.of(n).frame.outline.span > 7.99 * FOOT
    )
    hung = next(one for one in made.hung if one.number == number)
    roof, ceiling = (area / 1000.0 for area in made.places[number].areas)
    bearing, end = 2.75 * INCH, 8.0 * FOOT - 1.75 * INCH
    # The middle of the roof lies 3 ft 6 in along, that of the ceiling 4 ft.
    of_roof, of_ceiling = ((middle * FOOT - bearing) / (end - bearing) for middle in (3.5, 4.0))
    dead = loads.roof_dead * math.hypot(1.0, 0.5) * roof * of_roof + loads.ceiling_dead * ceiling * of_ceiling
    # Within what the heel's joint, which lies outside the wall, moves of it.
    assert hung.force.dead == pytest.approx(dead, rel=1e-3)
    assert hung.force.snow == pytest.approx(loads.ground_snow * roof * of_roof, rel=1e-3)
    assert hung.force.live == pytest.approx(loads.attic_live * ceiling * of_ceiling, rel=1e-3)
    # Girders carry it on their bottom chords, and it comes out at their bearings.
    girder = made.of(hung.on)
    assert any(h.force.snow == pytest.approx(hung.force.snow, rel=1e-6) for h in girder.job.loads.hung)


def test_girders_count_no_help_from_others_and_are_nailed():
    model = derive(hipped(overhang=300.0))
    made = model.trusses["roof-1"]
    (girder,) = of_make(model, "girder")
    assert girder.design.frame.sizes.plies >= 2
    assert math.isinf(girder.design.demands.spacing)
    assert of_make(model, "flat")[0].design.demands.spacing < 25.0 * INCH
    nails = girder_nailing("roof-1", girder, model.hangers, model.standard)
    assert nails.works
    # Half of what hangs on the face goes on to the second ply (of two), at normal duration.
    on = [h for h in made.hung if h.on == girder.numbers[0]]
    whole = sum(normal_duration(h.force, Extremes(), model.standard)[0] for h in on)
    assert nails.flow == pytest.approx(whole / girder.design.frame.outline.span / 2.0, rel=1e-6)
    said = " ".join(hanging_notes(model, "roof-1", girder))
    assert f"{len(on)} trusses hang" in said
    assert nails.text in said


def test_each_hangs_in_a_hanger_of_the_list():
    model = derive(hipped(overhang=300.0))
    made = model.trusses["roof-1"]
    mine = [h for h in model.hangers if truss_number(h.member) >= 0]
    assert len(mine) == len(made.hung) == sum(p.make in ("jack", "corner") for p in made.places)
    assert all(h.hanger.startswith("BT") for h in mine)
    assert all(h.used <= 1.0 for h in mine)
    plan = model.surfaces[0]
    braces = {x.key for x in model.of_layouts("truss brace")}
    drawn = [item for item in truss_marks(model, plan, 48.0) if item.ref not in braces]
    marks = marks_by_number(model, "roof-1")
    assert {item.text for item in drawn if hasattr(item, "text")} == set(marks.values())
    assert len([item for item in drawn if not hasattr(item, "text")]) == len(mine)


def test_a_hanger_that_does_not_hold_down_what_lifts_is_refused():
    """Strong down and weak up passes by what presses alone; the lift by hand: 0.6 of the dead load less 0.6 of wind (ASCE 7-16, 2.4.1)."""
    p = hipped(pitch=0.35, overhang=300.0)
    p = msgspec.structs.replace(p, loads=msgspec.structs.replace(p.loads, wind_speed=65.0, wind_exposure="C"))
    made = derive(p)
    lifted = {h.member: -0.6 * (h.load.dead + h.load.wind) for h in made.hangers if truss_number(h.member) >= 0}
    worst = max(lifted.values())
    assert worst > 0.0
    rows = {row.name: row for row in made_up_of_trusses()}
    for hung in made.hangers:
        if hung.member in lifted:
            assert hung.lifts == pytest.approx(max(lifted[hung.member], 0.0), abs=1e-6)
            row = rows[hung.hanger]
            assert hung.used == pytest.approx(max(hung.most / row.down, hung.lifts / row.up))
    for up, holds in ((1.01 * worst, True), (0.5 * worst, False), (0.0, False)):
        sized = [
            Hanger(id=f"hanger-{n}", name=f"T{n}", width=n * 1.5 * INCH, least_depth=3.5 * INCH, most_depth=11.25 * INCH,
                   seat=3.5 * INCH, down=200_000.0, up=up, turned_to=60.0)
            for n in (1, 2, 3, 4)
        ]  # fmt: skip
        model = derive(msgspec.structs.replace(p, hangers=tuple(sized)))
        mine = [h for h in model.hangers if truss_number(h.member) >= 0]
        assert all(h.hanger for h in mine) == holds
        assert all(bool(h.hanger) == (h.used <= 1.0) for h in mine)


@pytest.mark.parametrize(("p", "said"), [
    (lambda: hipped(trusses=Trusses(set_back=4200.0)), "Type another set-back"),
    (lambda: hipped(trusses=Trusses(pattern="scissors", bottom_pitch=0.25)), "bottom chords that rise"),
    (lambda: hipped(end=3.0), "hip end is"),
])  # fmt: skip
def test_where_they_cannot_be_it_is_told(p, said):
    model = derive(p())
    assert said in model.trusses["roof-1"].problem
    assert [x for x in model.pieces.values() if x.role == "rafter"]
    balanced(model)


def test_at_low_pitches_short_jacks_have_no_upright_and_both_their_chords_are_held():
    """At 3:12 the shortest jacks are lower at their end than an upright needs: their chords hang one over the other."""
    made = derive(hipped(pitch=0.25, overhang=300.0)).trusses["roof-1"]
    assert not made.problem
    (short, *_) = [make for make in made.makes if make.design.shape == "open jack"]
    frame = short.design.frame
    assert not any(stick.role == "web" for stick in frame.sticks)
    assert {"held right", "bearing right", "bearing left"} == set(frame.held)
    as_pynite(truss_report(short.design, plates=False))
    # All that hangs comes from both of them.
    one = next(h for h in made.hung if h.number == short.numbers[0])
    whole = made.places[one.number].areas
    assert 0.0 < one.force.dead < derive(hipped()).project.loads.roof_dead * 1.1 * sum(whole) / 1000.0


@pytest.mark.parametrize(("edge", "along", "runs"), [(1, 14.5, True), (1, 13.5, False), (0, 20.0, True)])
def test_an_opening_through_which_a_truss_runs_is_told_in_every_plane(edge, along, runs):
    """A window 16 in wide: in the hip end over a jack or between two of them, in an eave's plane over a truss."""
    p = hipped(overhang=300.0)
    wall = p.roofs[0].walls[edge]
    p = add_roof_opening(p, "roof-1", wall, along * FOOT, 3.0 * FOOT, width=16.0 * INCH, length=2.0 * FOOT)
    model = derive(p)
    made, (hole,) = model.trusses["roof-1"], model.surfaces[0].holes
    assert not made.problem
    assert any(f.code == "truss cut" for f in model.findings) is runs, (hole, [f.what for f in model.findings])


def test_no_splice_lies_where_something_hangs():
    """Alike on both sides at 3:12, a quarter of a panel falls on a jack: the splice moves off it."""
    made = derive(hipped(pitch=0.25, overhang=300.0)).trusses["roof-1"]
    for make in made.makes:
        frame = make.design.frame
        assert min(frame.length(one) for one in frame.elements) > 1.0
        hung = [at[0] for name, at in frame.joints.items() if name.startswith("hung")]
        for name in frame.splices:
            if name.startswith("splice bottom"):
                assert all(abs(frame.joints[name][0] - x) > 4.0 * INCH for x in hung)


def test_a_pyramid_has_no_peak_but_flat_tops():
    p = edits.change(hipped(), "roof-1", pitch=0.5)
    square = derive(set_side(set_side(p, "roof-1", "wall-2", pitch=0.35), "roof-1", "wall-4", pitch=0.35))
    made = square.trusses["roof-1"]
    assert not made.problem
    assert not made.row.hips or all(p.make in ("girder", "flat") for p in made.row.places)
    balanced(square)


def test_they_are_written_to_ifc(tmp_path):
    import ifcopenshell

    model = derive(hipped(both=False))
    write_ifc(model, tmp_path / "hip.ifc")
    made = model.trusses["roof-1"]
    read = ifcopenshell.open(tmp_path / "hip.ifc")
    assert len(read.by_type("IfcElementAssembly")) == len(made.places)


@pytest.mark.parametrize("pitch", [0.35, 0.5, 0.75])
@pytest.mark.parametrize("heel", [185.0, 200.0, 240.0, 300.0, 400.0, 550.0])
def test_heels_of_any_height_are_plated(pitch, heel):
    """Where chords neither meet at heels nor leave room for an upright they are made deeper; jacks with raised heels have one web that rises
    steeply enough beside their top chord, or falls.
    """
    made = derive(hipped(pitch=pitch, trusses=Trusses(heel=heel))).trusses["roof-1"]
    assert not made.problem
    assert not [(make.name, plate.joint) for make in made.makes for plate in make.plates if plate.used > 1.0]
    assert all(not make.design.frame.parted for make in made.makes)
    if heel >= 240.0:
        short = min((make.design for make in made.makes if make.key == "jack"), key=lambda one: one.frame.outline.span)
        assert sum(stick.role == "web" for stick in short.frame.sticks) == 3
        as_pynite(truss_report(short, plates=False))
