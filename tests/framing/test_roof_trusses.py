"""Trusses in a house: where they stand, what they bring to walls, what they stand in, what is told; drawn, listed, written."""

import itertools
import math

import msgspec
import numpy as np
import pytest
import shapely
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from tests.framing.solids import apart
from tests.framing.test_roof_trim import of, roofed
from tests.houses import house
from tests.loads.test_beams import balanced

from balken.catalog.prices import board_price
from balken.demo import orchard_road
from balken.derive import derive
from balken.design.truss_neighbours import truss_neighbours
from balken.design.trusses import design_truss
from balken.documents.calculation import calculation
from balken.documents.truss_drawing import truss_drawings
from balken.documents.truss_tables import bearing_table, plate_table, stick_table
from balken.findings.fixes import FIXES
from balken.framing.truss_layout import why_not
from balken.loads.cases import Cases
from balken.model import edits
from balken.model.errors import EditError
from balken.model.kinds.trusses import Trusses
from balken.model.records import RoofSide
from balken.model.roof_edits import add_roof_opening, set_side
from balken.standards.known import USUAL
from balken.units.system import FOOT, INCH, POUND_FORCE, PSF


def trussed(pitch=0.5, trusses=None, **fields):
    p = edits.set_project(roofed(pitch, framed="trusses", **fields), stock_length=24.0 * FOOT)
    return edits.change(p, "roof-1", trusses=trusses) if trusses is not None else p


def test_they_stand_at_their_spacing_over_both_eaves():
    """40 x 28 ft: frames over both gables, trusses at 2, 4, ... 38 ft."""
    model = derive(trussed())
    made = model.trusses["roof-1"]
    ts = [place.t for place in made.row.places]
    low = min(y for y in (c[0] for c in model.surfaces[0].outline.core))
    assert len(ts) == 21
    along = sorted(abs(t - ts[0]) for t in ts[1:-1])
    assert np.diff(along) == pytest.approx(24.0 * INCH)
    assert along[0] == pytest.approx(24.0 * INCH - 0.75 * INCH)
    assert made.row.places[0].gable
    assert made.row.places[-1].gable
    assert made.row.wide == pytest.approx(28.0 * FOOT)
    assert low == pytest.approx(0.0)
    ends = of(model, "truss bottom chord")
    assert min(p.solid.extent[0][0] for p in ends) == pytest.approx(0.0, abs=0.1)
    assert max(p.solid.extent[1][0] for p in ends) == pytest.approx(40.0 * FOOT, abs=0.1)


@given(
    st.sampled_from([0.25, 0.5, 1.0]), st.sampled_from([0.0, 300.0, 600.0]), st.sampled_from([406.4, 609.6, 700.0]),
    st.sampled_from(["auto", "howe", "scissors"]), st.sampled_from([None, 400.0]), st.booleans(),
)  # fmt: skip
@settings(max_examples=8, deadline=None)
def test_all_that_lies_on_them_comes_down(pitch, overhang, spacing, pattern, heel, uneven):
    lower = pitch / 2.0 if pattern == "scissors" else 0.0
    p = trussed(pitch, Trusses(pattern=pattern, spacing=spacing, heel=heel, bottom_pitch=lower), overhang=overhang)
    if uneven:
        p = edits.set_loads(set_side(p, "roof-1", "wall-1", pitch=pitch * 0.8), snow_by="roof")
    model = derive(p)
    assume(not model.trusses["roof-1"].problem)
    balanced(model)


def test_reactions_by_hand():
    """A truss in the middle: half of 2 ft times 28 ft and both overhangs, dead on the slope; 10, 5 and 20 psf snow 30."""
    model = derive(trussed(overhang=1.0 * FOOT))
    p, made = model.project, model.trusses["roof-1"]
    loads = p.loads
    wall = made.row.walls[0]
    place = made.row.places[8]
    mine = [
        r
        for r in made.reactions
        if r.bearer == wall and math.dist(r.at, place.at(made.common.frame.joints["bearing left"][0])) < 1.0
    ]
    assert len(mine) == 1
    area = 2.0 * FOOT * 15.0 * FOOT / 1000.0
    by_hand = Cases(
        dead=loads.roof_dead * math.hypot(1.0, 0.5) * area + loads.ceiling_dead * 2.0 * FOOT * 14.0 * FOOT / 1000.0,
        live=loads.attic_live * 2.0 * FOOT * 14.0 * FOOT / 1000.0, roof_live=loads.roof_live * area, snow=loads.ground_snow * area,
    )  # fmt: skip
    assert mine[0].force == pytest.approx(by_hand, rel=1e-6)


def test_nothing_of_them_stands_in_anything():
    model = derive(trussed(overhang=300.0))
    pieces = [
        x
        for x in model.pieces.values()
        if x.role.startswith("truss") or x.owner in ("roof-1", "wall-1", "wall-2", "wall-3", "wall-4")
    ]
    apart([x for x in pieces if x.role.startswith("truss")], pieces, 1e4)


def test_the_deck_lies_on_their_top_chords():
    model = derive(trussed())
    plan = model.surfaces[0]
    assert plan.plate_to_top == pytest.approx(model.trusses["roof-1"].common.heel)
    deck = min(p.solid.heights[1] for p in of(model, "roof plane"))
    top = max(p.solid.heights[1] for p in of(model, "truss top chord"))
    assert top == pytest.approx(plan.bearing + plan.plate_to_top + plan.surface.top, abs=0.5)
    assert deck > top


def test_the_wall_below_a_gable_frame_stays_low_and_bears_it():
    low, high = derive(trussed()), derive(edits.set_project(roofed(), stock_length=24.0 * FOOT))
    gable = low.trusses["roof-1"].row.places[0].gable
    assert not high.gables[gable].shell
    assert low.gables[gable].shell
    # Framed up to the plates, closed by its sheathing and cladding up to the roof.
    plan = low.surfaces[0]
    sticks = [p for group in low.framed[gable].pieces for p in (group if isinstance(group, tuple) else (group,))]
    assert max(p.solid.heights[1] for p in sticks) <= plan.bearing + 1.0
    layers = [p.solid.heights[1] for p in low.pieces.values() if p.role == "wall layer" and p.wall == gable]
    top = plan.bearing + plan.plate_to_top + plan.surface.top
    assert max(layers) == pytest.approx(top, abs=60.0)
    assert min(layers) <= plan.bearing + 1.0
    assert any(r.bearer == gable for r in low.trusses["roof-1"].reactions)
    assert low.trusses["roof-1"].gable.shape == "gable-end"


@pytest.mark.parametrize(("change", "said"), [
    (lambda p: set_side(p, "roof-1", "wall-2", kind="eave", pitch=3.0), "hip end"),
    (lambda p: edits.change(p, "roof-1", trusses=Trusses(pattern="room", spacing=609.6), pitch=0.25), "room"),
    (lambda p: edits.change(p, "roof-1", trusses=Trusses(heel=60.0)), "plumb depth"),
])  # fmt: skip
def test_where_they_cannot_be_rafters_stand_and_it_is_told(change, said):
    model = derive(change(trussed()))
    assert said in model.trusses["roof-1"].problem
    assert of(model, "rafter")
    assert not of(model, "truss web")
    finding = next(f for f in model.findings if f.code == "no trusses")
    assert finding.fix is not None
    balanced(model)


def lean_to(pitch=0.25, high="gable", **fields):
    p = house(long=24.0 * FOOT, wide=14.0 * FOOT)
    sides = tuple(RoofSide(wall=w, kind="gable" if w != "wall-3" else high) for w in ("wall-2", "wall-3", "wall-4"))
    return edits.change(p, "roof-1", shape="planes", sides=sides, pitch=pitch, framed="trusses", **fields)


@pytest.mark.parametrize("pitch", [1 / 12, 0.25, 0.5])
def test_a_single_slope_has_trusses_that_bear_on_both_walls(pitch):
    model = derive(lean_to(pitch, overhang=300.0))
    made = model.trusses["roof-1"]
    assert not made.problem
    assert made.common.shape == "one-sloped"
    assert made.row.walls == ("wall-1", "wall-3")
    assert {r.bearer for r in made.reactions} == {"wall-1", "wall-2", "wall-3", "wall-4"}
    balanced(model)
    # The wall under the high side stays as low as the others; both overhangs are of top chords.
    assert model.gables["wall-3"].shell
    assert max(p.solid.heights[1] for p in model.framed["wall-3"].pieces) <= model.surfaces[0].bearing + 1.0
    ends = [p.solid.extent for p in of(model, "truss top chord")]
    assert min(low[1] for low, _ in ends) == pytest.approx(-300.0, abs=1.0)
    assert max(high[1] for _, high in ends) == pytest.approx(14.0 * FOOT + 300.0, abs=1.0)
    assert not [f for f in model.findings if f.code == "gable overhang"]


def test_against_a_wall_that_is_no_taller_a_single_slope_hangs_on_nothing():
    model = derive(lean_to(high="wall"))
    assert not model.trusses["roof-1"].problem
    (finding,) = [f for f in model.findings if f.code == "ledger"]
    assert finding.what == "Roof: nothing is behind its ledger at Wall 3"
    ends = edits.change(
        lean_to(high="wall"), "roof-1", sides=tuple(RoofSide(wall=f"wall-{k}", kind="wall") for k in (2, 3, 4))
    )
    assert "make those gables" in derive(ends).trusses["roof-1"].problem


def test_dormers_and_openings_are_told():
    from tests.framing.test_dormers import with_dormer

    model = derive(edits.change(with_dormer(roofed(0.75)), "roof-1", framed="trusses"))
    assert "dormers" in model.trusses["roof-1"].problem
    cut = derive(
        add_roof_opening(trussed(), "roof-1", "wall-1", 20.0 * FOOT, 6.0 * FOOT, width=4.0 * FOOT, length=4.0 * FOOT)
    )
    assert [f for f in cut.findings if f.code == "truss cut" and f.grave]


def test_an_attic_that_stores_asks_for_20_psf():
    model = derive(trussed())
    assert model.trusses["roof-1"].stores
    finding = next(f for f in model.findings if f.code == "attic store")
    assert finding.fix.fields == (("attic_live", 20.0 * PSF),)
    assert not [
        f for f in derive(edits.set_loads(trussed(), attic_live=20.0 * PSF)).findings if f.code == "attic store"
    ]
    low = derive(trussed(0.2))
    assert not low.trusses["roof-1"].stores


def test_more_load_takes_more():
    light, heavy = (derive(edits.set_loads(trussed(), ground_snow=s * PSF)).trusses["roof-1"] for s in (20.0, 60.0))
    sizes = [(one.common.frame.sizes.top, one.common.frame.sizes.bottom, one.common.used) for one in (light, heavy)]
    assert sizes[0] != sizes[1]
    weak = derive(edits.set_loads(trussed(trusses=Trusses(top="2x4", bottom="2x4")), ground_snow=90.0 * PSF))
    assert [f for f in weak.findings if f.code == "used" and "trusses" in f.what]
    two = derive(edits.set_loads(trussed(trusses=Trusses(top="2x4", bottom="2x4", plies=2)), ground_snow=90.0 * PSF))
    assert two.trusses["roof-1"].common.used < weak.trusses["roof-1"].common.used
    assert len(of(two, "truss web")) > len(of(weak, "truss web"))


def test_wind_lifts_them_and_ties_follow():
    model = derive(edits.set_loads(trussed(), wind_speed=60.0, wind_exposure="C"))
    made = model.trusses["roof-1"].common
    assert min(min(row.values()) for row in made.reactions().values()) < 0.0
    assert made.braced < 10.0 * FOOT
    rows = [r for r in model.uplift.lifted if r.roof == "roof-1" and r.what == "truss"]
    assert rows
    assert all(r.tie for r in rows if r.net > 0.0)


def test_drifts_lie_on_the_trusses_beside_the_taller_part():
    p = edits.change(orchard_road(), "roof-2", framed="trusses")
    model = derive(p)
    made = model.trusses["roof-2"]
    assert not made.problem
    assert made.used <= 1.0
    assert made.heaps.snow > 0.0
    assert any(make.design.job.loads.lying for make in made.makes if make.key == "common")
    balanced(model)
    assert not [f for f in model.findings if f.grave]


@pytest.mark.parametrize(("side", "pitch"), [(0, 0.75), (1, 0.75), (0, 11.0 / 12.0)])
def test_snow_over_a_ridge_off_the_middle_is_that_of_rafters(side, pitch):
    """Drifts add to what each slope bears already, and slopes end at the ridge: the same roof under rafters bears the same snow."""
    p = orchard_road()
    whole = derive(p)
    stands, plan = whole.trusses["roof-2"], next(x for x in whole.surfaces if x.roof.id == "roof-2")
    for wall in {plan.outline.walls[k] for k in stands.sides[0][stands.row.eaves[side]]}:
        p = set_side(p, "roof-2", wall, pitch=pitch)
    laid, made = derive(p), derive(edits.change(p, "roof-2", framed="rafters"))
    assert not laid.trusses["roof-2"].problem
    under = sum(r.force.snow for r in made.path.reactions if r.piece.startswith("roof-2/"))
    assert sum(r.force.snow for r in laid.trusses["roof-2"].reactions) == pytest.approx(under, rel=3e-3)


def test_drawings_say_what_is_built():
    model = derive(trussed())
    made = model.trusses["roof-1"]
    rows = stick_table(made.common, model.units)[1]
    named = ", ".join(row[0] for row in rows)
    assert all(stick.name in named for stick in made.common.frame.sticks)
    pairs = sum(
        1 if row[1] == "a pair" else int(row[1].split()[0])
        for row in plate_table(made.makes[0].design, made.makes[0].plates, model.units)[1]
    )
    assert pairs == len(made.makes[0].plates)
    # What comes to bearings by cases gives what comes in combination (ASCE 7-16, 2.4.1: D + S).
    headings, bearings = bearing_table(made.common, model.units)
    for name, *forces in bearings:
        by = {head: pounds(text) for head, text in zip(headings[1:], forces, strict=True)}
        most = made.common.reactions()[name]
        assert by["At most"] == pytest.approx(max(most.values()) / POUND_FORCE, abs=1.0)
        assert by["Dead"] + by["Snow"] == pytest.approx(most["D + S"] / POUND_FORCE, abs=2.0)
    # Pulled and pressed are the greatest of the frame's own forces.
    worst = {name: made.common.axial(name) for name in ("TC1", "TC2", "BC1")}
    shown = {row[0].split(", ")[0]: row for row in rows}
    assert pounds(shown["BC1"][6]) == pytest.approx(max(worst["BC1"].values()) / POUND_FORCE, abs=1.0)
    pressed = -min(*worst["TC1"].values(), *worst["TC2"].values())
    assert shown["TC1"][0] == "TC1, TC2"
    assert pounds(shown["TC1"][7]) == pytest.approx(pressed / POUND_FORCE, abs=1.0)
    drawings = dict(truss_drawings(model))
    assert set(drawings) == {"T1", "T2"}
    assert "19 of them" in drawings["T1"].title
    assert "2 of them" in drawings["T2"].title
    texts = " ".join(line.text + line.right for line in calculation(model, "roof-1"))
    for word in ("fink", "TC1", "NDS 3.9.2", "bearing left", "Plates"):
        assert word in texts


def test_neighbours_are_other_designs_and_cost_what_their_timber_does():
    """Each is what a truss with that section typed comes to; its timber by board feet, worked out here."""
    model = derive(trussed())
    made = model.trusses["roof-1"].common
    rows = truss_neighbours(made, model.standard)
    assert {row.group for row in rows} == {"top chord", "bottom chord", "webs"}
    for row in rows:
        if row.problem:
            continue
        field = {"top chord": "top", "bottom chord": "bottom", "webs": "webs"}[row.group]
        sizes = msgspec.structs.replace(made.frame.sizes, **{field: row.size})
        job = msgspec.structs.replace(made.job, pattern=made.shape, top=sizes.top, bottom=sizes.bottom, webs=sizes.webs)
        typed = design_truss(job, lambda _: made.frame.outline, model.standard)
        assert row.used == pytest.approx(typed.used)
        feet = sum(
            typed.sawn[s.name].length / FOOT * 2.0 * int(sizes.of(s.role)[2:]) / 12.0
            * board_price(made.job.wood.species, sizes.of(s.role)) / 1000.0
            for s in typed.frame.sticks
        )  # fmt: skip
        assert row.dollars == pytest.approx(feet)
    deeper = {row.group: row.used for row in rows if not row.problem and row.size == "2x6"}
    assert all(used <= made.used + 1e-6 for used in deeper.values())
    texts = " ".join(line.text + line.right for line in calculation(model, "roof-1"))
    assert "Next sections" in texts


def pounds(text):
    return float(text.split(" lb")[0].replace(",", "").replace("\u2212", "-"))


def test_a_box_fits_where_it_does():
    model = derive(trussed())
    common = model.trusses["roof-1"].common
    sticks = shapely.union_all([shapely.Polygon(one.ring) for one in common.sawn.values()])
    deep = 5.5 * INCH if common.frame.sizes.bottom == "2x6" else 3.5 * INCH
    found = [
        x for x in np.arange(0.0, 26.0 * FOOT, 25.0)
        if not shapely.box(x, deep + 1.0, x + 24.0 * INCH, deep + 1.0 + 42.0 * INCH).intersects(sticks)
        and x > 42.0 * INCH * 2.0 and x + 24.0 * INCH < 28.0 * FOOT - 42.0 * INCH * 2.0
    ]  # fmt: skip
    assert bool(found) == model.trusses["roof-1"].stores


def test_bad_words_are_refused_and_nothing_is_lost():
    p = trussed()
    for bad in (Trusses(pattern="star"), Trusses(spacing=1.0), Trusses(plies=9), Trusses(top="4x6"), Trusses(heel=1.0)):
        with pytest.raises(EditError):
            edits.change(p, "roof-1", trusses=bad)


def test_why_not_names_open_sides():
    model = derive(roofed())
    assert why_not(model.surfaces[0]) == ""


def test_studs_of_gable_frames_under_wind_by_hand():
    """S-P-F No. 2, 2x4 flat at 24 in, 25 psf: M = 0.6 w L2 / 8; Fb' = 875 x 1.6 x 1.5 x 1.10 x 1.15 (values from memory)."""
    psi, long = 0.00689475729, 6.0 * FOOT
    line = 25.0 * PSF * 24.0 * INCH / 1000.0
    flat = USUAL.check_gable_stud("2x4", "S-P-F", "No. 1/No. 2", long, 24.0 * INCH, 25.0 * PSF, False)
    stress = 0.6 * line * long**2 / 8.0 / (3.5 * 1.5**2 / 6.0 * INCH**3)
    bent = stress / (875 * psi * 1.6 * 1.5 * 1.10 * 1.15)
    sag = 5.0 * 0.42 * line * long**4 / (384.0 * 1_400_000 * psi * 3.5 * 1.5**3 / 12.0 * INCH**4) / (long / 120.0)
    assert flat.used == pytest.approx(max(bent, sag), rel=1e-4)
    stiff = USUAL.check_gable_stud("2x4", "S-P-F", "No. 1/No. 2", long, 24.0 * INCH, 25.0 * PSF, True)
    assert stiff.used < flat.used / 2.0
    high = derive(trussed(1.0)).trusses["roof-1"].studs
    assert any(stud.braced for stud in high)
    assert all(stud.check.used <= 1.0 for stud in high if stud.clear < 8.0 * FOOT)
    tall = derive(edits.set_loads(trussed(1.5), wind=50.0 * PSF))
    assert [f for f in tall.findings if f.code == "gable studs"]


def test_an_inside_wall_that_touches_them_is_told_and_lowered_by_its_fix():
    model = derive(edits.set_wall_head(orchard_road(), "wall-18", "level-2", 0.0))
    finding = next(f for f in model.findings if f.code == "air over wall")
    mended = derive(FIXES[finding.fix.command](model.project, *finding.fix.args))
    assert not [f for f in mended.findings if f.code == "air over wall"]


@pytest.mark.parametrize("pattern", ["fink", "howe", "scissors", "double-fink"])
def test_braces_run_across_all_trusses_where_nothing_is_in_their_way(pattern):
    p = edits.set_loads(
        trussed(0.5, Trusses(pattern=pattern, bottom_pitch=0.25 if pattern == "scissors" else 0.0)), wind_speed=55.0
    )
    model = derive(p)
    made = model.trusses["roof-1"].common
    every = [x for x in of(model, "truss brace") if "/frame " not in x.key]  # those of gable frames aside
    diagonals = [x for x in every if ".D/" in f"{x.key}/"]
    braces = [x for x in every if x not in diagonals]
    lines = {}
    for piece in braces:
        lines.setdefault(piece.key.split("/")[2], []).append(piece)
    for pieces in lines.values():
        assert sum(x.length for x in pieces) == pytest.approx(40.0 * FOOT - 3.0 * INCH)
        assert max(x.length for x in pieces) <= 24.0 * FOOT
    chords = sorted({round(math.dist((0.0, 0.0), (x.start[1], 0.0))) for x in braces if x.key.split("/")[2][0] == "B"})
    rows = [made.frame.outline.bearings[0].high, *chords, made.frame.outline.bearings[-1].low]
    assert max(b - a for a, b in itertools.pairwise(rows)) <= made.braced + 1.0
    assert len(chords) >= math.ceil((rows[-1] - rows[0]) / made.braced - 1e-9) - 1
    assert {name.split(".")[0] for name in lines if name[0] == "W"} == set(made.braces)
    sticks = [x for x in model.pieces.values() if x.role in ("truss web", "truss top chord", "truss bottom chord")]
    apart(braces, sticks, 1e4)
    # Diagonals of the webs held across, on their other edge: at both ends, 20 ft apart at most, none in anything.
    held = {name.split(".")[0] for name in lines if name[0] == "W"}
    webs = {x.key.split("/")[2].split(".")[0] for x in diagonals}
    assert webs == held or not held or pattern == "howe"
    apart(diagonals, [*sticks, *braces, *(x for x in model.pieces.values() if x.role == "roof plane")], 1e3)
    for one, other in itertools.combinations(diagonals, 2):
        apart([one], [other], 1e3)
    for web in webs:
        mine = sorted(min(x.start[0], x.end[0]) for x in diagonals if x.key.split("/")[2].startswith(f"{web}."))
        assert len(mine) == len({round(v) for v in mine})
        assert all(b - a <= 20.0 * FOOT + 24.0 * INCH for a, b in itertools.pairwise(mine))
    for x in diagonals:
        long = math.dist(x.start, x.end)
        assert long <= x.length <= long + 200.0
        rise = abs(x.end[2] - x.start[2])
        assert 0.2 < rise / math.hypot(x.end[0] - x.start[0], x.end[1] - x.start[1]) < 2.5
        assert x.solid.volume == pytest.approx(38.1 * 88.9 * long, rel=0.1)


def test_scissors_push_their_free_bearing_out():
    flat, steep = (
        derive(trussed(0.5, Trusses(pattern="scissors", bottom_pitch=b))).trusses["roof-1"].common for b in (0.1, 0.3)
    )
    assert steep.spread > 2.0 * flat.spread > 0.0


def test_where_no_spacing_is_typed_the_widest_that_works_is_taken():
    light = derive(trussed(trusses=Trusses(spacing=None))).trusses["roof-1"]
    assert light.row.spacing == pytest.approx(24.0 * INCH)
    narrow = Trusses(spacing=None, top="2x4", bottom="2x4", webs="2x4")
    heavy = derive(edits.set_loads(trussed(trusses=narrow), ground_snow=40.0 * PSF)).trusses["roof-1"]
    assert heavy.row.spacing < 24.0 * INCH
    wider = derive(
        edits.set_loads(
            trussed(trusses=Trusses(spacing=24.0 * INCH, top="2x4", bottom="2x4", webs="2x4")), ground_snow=40.0 * PSF
        )
    )
    assert wider.trusses["roof-1"].used > 1.0
    assert heavy.used <= 1.0 or heavy.row.spacing == pytest.approx(12.0 * INCH)
