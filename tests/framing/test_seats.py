"""Bird's mouths of jacks and of eaves of unlike pitch: as a framing square gives them, in the model, on templates, in IFC; what is told."""

import math

import ifcopenshell
import ifcopenshell.geom
import ifcopenshell.util.shape
import ifcopenshell.validate
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.framing.solids import body
from tests.framing.test_surface_roofs import roofed

from balken.derive import derive
from balken.documents.display import Text
from balken.documents.rafter_templates import draw_template, rafter_templates
from balken.exchange.ifc import write_ifc
from balken.framing.surface_roofs import seat_at
from balken.geometry.seated import Seated
from balken.model.records import Choice
from balken.model.roof_edits import set_side
from balken.units.system import INCH

HIP = ((0, 0), (40, 0), (40, 28), (0, 28))


def hip(pitch=0.5, other=None, size="2x8"):
    p = roofed(HIP, pitch=pitch, rafters=Choice(size=size, spacing=16.0 * INCH))
    return set_side(p, "roof-1", "wall-2", pitch=other) if other is not None else p


def test_jacks_have_the_seat_of_common_rafters():
    """At 6:12 a 2x8 has its 3 1/2 in (1 9/16 in square to it, under the quarter of IRC R802.7.1): all of one roof alike."""
    model = derive(hip())
    plan = model.surfaces[0]
    assert seat_at(plan.roof, 0.5, 7.25 * INCH) == pytest.approx(3.5 * INCH)
    jacks = [p for p in model.pieces.values() if isinstance(p.solid, Seated) and p.role == "rafter"]
    assert len(jacks) > 40
    for piece in jacks:
        lost = piece.solid.whole.volume - piece.solid.volume
        assert lost == pytest.approx(1.5 * INCH * (3.5 * INCH) ** 2 * 0.5 / 2.0, rel=1e-6)
        seat = [f for f in piece.solid.faces() if all(abs(z - plan.bearing) < 1e-6 for _, _, z in f)]
        assert len(seat) == 1


def test_templates_of_jacks_say_their_seat():
    model = derive(hip())
    jack = next(t for t in rafter_templates(model) if isinstance(t.piece.solid, Seated) and t.member.role == "hip jack")
    drawn = draw_template(model, jack, 16.0)
    said = [i.text for i in drawn.items if isinstance(i, Text)]
    assert any(text.startswith("bird's mouth: seat 3 1/2\"") for text in said)
    common = next(
        t
        for t in rafter_templates(model)
        if not isinstance(t.piece.solid, Seated) and t.member is not None and t.member.role == "common rafter"
    )
    theirs = [i.text for i in draw_template(model, common, 16.0).items if isinstance(i, Text)]
    mouth = [next(t for t in row if t.startswith("bird's mouth")) for row in (said, theirs)]
    assert mouth[0] == mouth[1]


@given(st.sampled_from([0.25, 1 / 3, 0.5, 0.75, 1.0]), st.floats(0.2, 1.3), st.sampled_from(["2x6", "2x8", "2x12"]))
@settings(max_examples=12, deadline=None)
def test_nothing_stands_in_a_plate(pitch, other, size):
    """Whatever the pitches: what a rafter's seat leaves touches the top plates and no more."""
    model = derive(hip(pitch, round(other, 3), size))
    plates = [p for p in model.pieces.values() if p.role == "top plate"]
    for one in model.pieces.values():
        if one.role == "rafter":
            for plate in plates:
                (l1, h1), (l2, h2) = one.solid.extent, plate.solid.extent
                if all(l1[k] < h2[k] - 1.0 and l2[k] < h1[k] - 1.0 for k in range(3)):
                    assert (body(one.solid) ^ body(plate.solid)).volume() < 1e3, (one.key, plate.key)


def test_unlike_pitches_have_unlike_seats_and_are_checked_so():
    """By hand: a 2x8 at 6:12 leaves 7.25 x 1.118 - 3.5 / 2 = 6.356 in over the plate; at 9:12 its plumb depth is 9.0625 in: the seat is
    (9.0625 - 6.356) / 0.75 = 3.609 in, 2.165 in square to it, more than the quarter.
    """
    p = hip(other=0.75)
    seat = seat_at(p.roofs[0], 0.75, 7.25 * INCH)
    assert seat / INCH == pytest.approx(3.609, abs=2e-3)
    model = derive(p)
    one = next(m for m in model.planes["roof-1"].members if m.wall == "wall-2" and m.member.at_eave)
    case = model.planes["roof-1"].results[one.key].case
    assert case.notch == pytest.approx(seat * 0.75 / math.hypot(1.0, 0.75), abs=0.01)
    assert case.bearing == pytest.approx(seat, abs=0.01)
    assert any(f.code == "seat" and "bird's mouths are cut" in f.what and not f.grave for f in model.findings)


def test_rafters_over_their_plates_are_told():
    """A 2x8 at 12:12 leaves 7.69 in over the plate, the plumb depth at 4:12 is 7.64: it does not come down on it."""
    model = derive(hip(1.0, 1 / 3))
    found = [f for f in model.findings if f.code == "seat"]
    assert len(found) == 1
    assert found[0].grave
    assert "over its plate" in found[0].what
    assert not [f for f in derive(hip()).findings if f.code == "seat"]


def test_in_ifc_they_are_cut_alike(tmp_path):
    """Read back by ifcopenshell's geometry kernel: every rafter has the volume that it has here."""
    model = derive(hip(other=0.6))
    path = tmp_path / "hip.ifc"
    write_ifc(model, path)
    log = ifcopenshell.validate.json_logger()
    ifcopenshell.validate.validate(str(path), log, express_rules=True)
    assert log.statements == []
    written = ifcopenshell.open(str(path))
    settings_ = ifcopenshell.geom.settings()
    seats = {key: p for key, p in model.pieces.items() if isinstance(p.solid, Seated)}
    by_tag: dict[str, list[float]] = {}
    for member in written.by_type("IfcMember"):
        if member.Tag.startswith(("R", "HR")):
            shape = ifcopenshell.geom.create_shape(settings_, member)
            by_tag.setdefault(member.Tag, []).append(ifcopenshell.util.shape.get_volume(shape.geometry))
    assert len(seats) > 20
    for key, piece in seats.items():
        volumes = by_tag[model.marks[key]]
        assert min(abs(v - piece.volume * 1e-9) for v in volumes) < piece.volume * 1e-9 * 1e-4
