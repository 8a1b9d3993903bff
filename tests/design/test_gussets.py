"""Gussets of plywood at the joints of trusses: nails by yield theory worked out another way, room for all of them, sums at joints; what is told."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.affinity import rotate, translate
from tests.app.conftest import _user
from tests.framing.test_roof_trusses import trussed
from tests.framing.test_truss_wings import winged

from balken.derive import derive
from balken.design.truss_by_hand import truss_names
from balken.design.truss_plates import joint_forces
from balken.documents.calculation import calculation
from balken.documents.truss_drawing import shop_notes
from balken.documents.truss_tables import plate_table
from balken.exchange.ifc import write_ifc
from balken.model import edits
from balken.model.errors import EditError
from balken.model.kinds.trusses import Trusses
from balken.model.member_edits import set_member
from balken.standards.us.dowels import single_shear
from balken.standards.us.gussets import DIAMETER, PER_NAIL, PLYWOOD, SIDE, STEEL, nail_value
from balken.standards.us.ply_nails import nail_value as between_plies
from balken.standards.us.truss_plates import heel_factor
from balken.units import Units
from balken.units.system import INCH, PSI


def gussets(pitch=0.5, p=None, **fields):
    return edits.change(p or trussed(pitch), "roof-1", trusses=Trusses(joined="gussets", **fields))


def common(model):
    return next(make for make in model.trusses["roof-1"].makes if make.key == "common")


def general_dowel(d, side, main, fes, fem, fyb, gap=0.0):
    """Z by the general dowel equations of AWC TR 12: the roots of quadratics in P, from the balance of forces and moments; from memory, no part
    of Balken.
    """
    qs, qm, m = fes * d, fem * d, fyb * d**3 / 6.0
    found = [qm * main, qs * side]
    for a, b, c in (
        (1 / (4 * qs) + 1 / (4 * qm), side / 2 + gap + main / 2, -qs * side**2 / 4 - qm * main**2 / 4),
        (1 / (2 * qs) + 1 / (4 * qm), gap + main / 2, -m - qm * main**2 / 4),
        (1 / (4 * qs) + 1 / (2 * qm), side / 2 + gap, -qs * side**2 / 4 - m),
        (1 / (2 * qs) + 1 / (2 * qm), gap, -2.0 * m),
    ):
        found.append((-b + math.sqrt(b * b - 4 * a * c)) / (2 * a))
    return min(found) / 2.2


@given(
    st.floats(2.0, 4.3), st.floats(8.0, 40.0), st.floats(20.0, 80.0), st.floats(2000.0, 5000.0), st.floats(2000.0, 6000.0)
)  # fmt: skip
def test_yield_modes_as_the_general_equations_have_them(d, side, main, fes, fem):
    args = d, side, main, fes * PSI, fem * PSI, 90_000.0 * PSI
    assert single_shear(*args) == pytest.approx(general_dowel(*args), rel=1e-9)


def test_the_nail_of_a_gusset_and_of_plies():
    """6d common through 15/32 in into S-P-F (G = 0.42); a 16d nail between plies of one species is the case of two members alike."""
    fem = 16_600.0 * 0.42**1.84 * PSI
    assert nail_value("S-P-F") == pytest.approx(general_dowel(DIAMETER, SIDE, 1.5 * INCH, PLYWOOD, fem, STEEL))
    fe = 16_600.0 * 0.50**1.84 * PSI
    d, ply = 0.162 * INCH, 1.5 * INCH
    thin = min(ply / (10.0 * d), 1.0)
    assert between_plies("DF-L", ply) == pytest.approx(
        general_dowel(d, ply, max(ply, 10.0 * d), fe, fe, 90_000.0 * PSI) * thin, rel=0.05
    )
    with pytest.raises(KeyError, match="nails have no value"):
        nail_value("Balsa")


@given(
    st.sampled_from([0.25, 0.5, 1.0]),
    st.sampled_from(["auto", "howe", "fan", "queen-post"]),
    st.sampled_from([400.0, 600.0]),
)
@settings(max_examples=6, deadline=None)
def test_nails_hold_what_comes_and_find_room(pitch, pattern, spacing):
    """Of each stick: nails times their value carry its force in every combination; laid in rows, so many fit in what the gusset covers."""
    make = common(derive(gussets(pitch, pattern=pattern, spacing=spacing)))
    made, heels = make.design, 0
    value = nail_value(made.job.wood.species)
    whole = shapely.Polygon([*made.frame.outline.top, *reversed(made.frame.outline.bottom)]).buffer(0.2)
    for plate in make.plates:
        if plate.used > 1.0:
            continue
        ring = shapely.Polygon(plate.ring)
        assert whole.covers(ring), plate.joint
        chords = {made.frame.stick(name).role for name, _ in plate.nailed if made.frame.stick(name).role != "web"}
        factor = 1.0
        if chords == {"top chord", "bottom chord"}:
            factor, heels = heel_factor(pitch), heels + 1
        for stick, count in plate.nailed:
            forces = np.hypot(*joint_forces(made, plate.joint, stick).T) / np.array([c.duration for c in made.combined])
            assert count >= 3
            assert 2.0 * count * value * factor >= forces.max() - 1e-6, (plate.joint, stick)
            one = shapely.Polygon(made.sawn[stick].ring)
            assert fits(ring.intersection(one), one, made.frame, stick) >= count, (plate.joint, stick, count)
    assert (
        heels == 2 or any(plate.used > 1.0 for plate in make.plates) or made.frame.outline.past[0] > 0.0 or pitch < 1.0
    )


def fits(under, stick, frame, name):
    """How many nails in rows 5 D apart, 15 D apart in a row, find room under a gusset, 15 D from the stick's ends and 2.5 D from all edges."""
    a, b = (frame.joints[joint] for joint in (frame.stick(name).joints[0], frame.stick(name).joints[-1]))
    angle, end, edge = math.degrees(math.atan2(b[1] - a[1], b[0] - a[0])), 15.0 * DIAMETER, 2.5 * DIAMETER
    room, whole = (rotate(shape, -angle, origin=a) for shape in (under, stick.convex_hull))
    for by in (-end, end):
        room = room.intersection(translate(whole, by))
    x0, y0, x1, y1 = room.bounds
    room, best = room.buffer(0.01 - edge, join_style="mitre"), 0
    for dx in np.linspace(0.0, end, 6, endpoint=False):
        for dy in (edge, 2.0 * edge):
            rows = np.meshgrid(np.arange(x0 + dx, x1 + 1.0, end), np.arange(y0 + dy, y1, 2.0 * edge))
            grid = shapely.points(*(v.ravel() for v in rows))
            best = max(best, int(shapely.covers(room, grid).sum()))
    return best


def test_of_what_the_tables_speak():
    model = derive(gussets())
    make = common(model)
    headings, rows = plate_table(make.design, make.plates, Units.IMPERIAL)
    assert headings[0] == "Gussets"
    assert all(row[5] for row in rows)
    assert any("6d common" in said for said in shop_notes(make.design, Units.IMPERIAL))
    assert any("NDS 12.3" in str(line) for line in calculation(model, "roof-1"))
    assert not [f for f in model.findings if f.code == "plates"]
    heel = next(plate for plate in make.plates if plate.joint == "heel left")
    assert dict(heel.nailed)["BC1"] >= 20
    assert len(heel.ring) > 4  # cut to the outline
    assert pytest.approx(75.0 * DIAMETER**2) == PER_NAIL


def test_in_ifc_they_are_plywood(tmp_path):
    path = tmp_path / "gussets.ifc"
    write_ifc(derive(gussets()), path)
    text = path.read_text()
    assert "PLYWOOD GUSSET" in text
    assert "TOOTHED PLATE" not in text


def test_where_they_cannot_be_it_is_told():
    with pytest.raises(EditError, match="one ply"):
        gussets(plies=2)
    hips = derive(gussets(p=winged()))
    assert "between two gables" in hips.trusses["roof-1"].problem
    p = gussets()
    model = derive(p)
    names = truss_names(model.surfaces[0], model.trusses["roof-1"].places)
    refused = derive(set_member(p, names[5], plies=2))
    assert [f for f in refused.findings if f.code == "truss by hand" and "gussets" in f.why.lower()]
    weak = derive(gussets(1.0, pattern="fan", top="2x4", bottom="2x4"))
    told = [f for f in weak.findings if f.code == "plates"]
    assert bool(told) == any(p.used > 1.0 for p in common(weak).plates)
    assert all("gusset" in f.what for f in told)


def test_boards_across_keep_off_them():
    model = derive(edits.set_loads(gussets(pattern="howe"), wind_speed=55.0))
    rings = [shapely.Polygon(plate.ring) for plate in common(model).plates]
    row = model.trusses["roof-1"].row
    for brace in model.of_layouts("truss brace"):
        if ".D" in brace.key or "/frame " in brace.key:
            continue
        x = row.frame.to(brace.start[:2])[0] - row.start
        z = brace.start[2] - model.surfaces[0].bearing
        assert not any(ring.covers(shapely.Point(x, z)) for ring in rings), brace.key


def test_chosen_on_the_card(qtbot, qapp, tmp_path):
    user = _user(qtbot, qapp, tmp_path, trussed())
    user.stage(5)
    user.session.select(["roof-1"])
    user.type_in_card("Joined by", "gussets")
    assert common(user.session.model).design.job.joined == "gussets"
    user.session.undo()
    assert user.project.roofs[0].trusses.joined == "plates"
