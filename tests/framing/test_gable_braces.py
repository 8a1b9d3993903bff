"""Braces of gable frames: beside which studs, how steep, what they end on, that nothing is in their way; told where none are."""

import itertools
import math

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from tests.framing.solids import apart
from tests.framing.test_frame_lookouts import gabled
from tests.framing.test_roof_trusses import trussed
from tests.framing.test_truss_wings import winged

from balken.derive import derive
from balken.framing.gable_braces import FLATTEST, HIGHEST, LEAST_TALL, STEEPEST
from balken.model import edits
from balken.model.kinds.trusses import Trusses
from balken.model.roof_edits import set_side
from balken.units.system import FOOT, INCH


def braces(model):
    """Return braces and blocks by frame: {truss number: [(brace, block)]}."""
    found = {}
    pieces = model.pieces
    for key, piece in pieces.items():
        name = key.split("/")[2] if "/brace/frame " in key else ""
        if name and not name.endswith(".B"):
            number = int(name.removeprefix("frame ").partition(".")[0])
            found.setdefault(number, []).append((piece, pieces[f"roof-1/brace/{name}.B/0"]))
    return found


def test_by_hand_at_six_in_twelve():
    """28 ft: studs at the peak and every 2 ft; those 4 ft long and more are 6 ft around the peak; every second of them is braced."""
    model = derive(trussed(0.5))
    made = model.trusses["roof-1"]
    by_frame = braces(model)
    assert set(by_frame) == {0, len(made.row.places) - 1}
    tall = sorted(s.clear for make in made.makes for s in make.studs if s.clear >= LEAST_TALL)
    assert 1 <= len(by_frame[0]) <= len(tall)
    frame = made.gable.frame
    studs = [frame.joints[s.joints[0]][0] for s in frame.sticks if s.role == "web"]
    beside = sorted(min(studs, key=lambda x: abs(x - piece.start[1])) for piece, _ in by_frame[0])
    assert all(b - a >= 47.0 * INCH for a, b in itertools.pairwise(beside))
    for piece, block in by_frame[0]:
        # Beside a stud: their sides touch.
        middle = min(studs, key=lambda x: abs(x - piece.start[1]))
        assert abs(piece.start[1] - middle) == pytest.approx(1.75 * INCH + 0.75 * INCH, abs=0.01)
        (x0, _, z0), (x1, _, z1) = piece.start, piece.end
        slope = abs(z1 - z0) / abs(x1 - x0)
        assert FLATTEST <= slope <= STEEPEST
        lower = min((piece.start, piece.end), key=lambda p: p[2])
        # Its lower end lies at a truss's face, beside the block between that and the one before.
        low, high = block.solid.extent
        assert high[0] - low[0] == pytest.approx(22.5 * INCH)
        assert low[0] - 0.01 <= lower[0] <= high[0] + 0.01
        assert min(abs(low[1] - piece.solid.extent[1][1]), abs(high[1] - piece.solid.extent[0][1])) < 0.01
        assert low[2] == pytest.approx(model.surfaces[0].bearing + 0.25 * INCH)
        assert piece.solid.extent[0][2] == pytest.approx(model.surfaces[0].bearing + 0.25 * INCH, abs=0.1)
        # Cut plumb at both ends, to the long points.
        assert piece.length == pytest.approx(abs(x1 - x0) * math.hypot(1.0, slope) + 3.5 * INCH * slope)


def test_a_low_frame_has_none_and_a_tall_one_is_braced_no_higher_than_eight_feet():
    low, tall = derive(trussed(0.25)), derive(trussed(1.5))
    assert not braces(low)
    assert not [f for f in low.findings if f.code == "gable brace"]
    tops = [piece.solid.extent[1][2] for some in braces(tall).values() for piece, _ in some]
    assert tops
    assert max(tops) <= tall.surfaces[0].bearing + HIGHEST + 1.0 * INCH


def test_a_room_in_the_roof_leaves_no_place_and_it_is_told():
    model = derive(trussed(1.0, Trusses(pattern="room")))
    assert not braces(model)
    told = [f for f in model.findings if f.code == "gable brace"]
    assert len(told) == 2
    assert all("room" in f.why for f in told)


def test_beside_lower_frames_and_in_wings():
    """Below a frame set lower for lookouts they end under its top chord; a wing's tall gable has braces of its own."""
    model = derive(gabled(0.75 * FOOT * 2.0, pitch=0.75))
    assert set(braces(model)) == {0, 20}
    p = winged(gables=("wall-1", "wall-4"), pitch=0.9)
    p = set_side(p, "roof-1", "wall-1", overhang=0.0)
    made = derive(p)
    frames = [n for make in made.trusses["roof-1"].makes if make.key == "gable" for n in make.numbers]
    assert set(braces(made)) == set(frames)


@given(
    st.sampled_from(["auto", "howe", "queen-post", "fan", "double-fink", "scissors"]),
    st.sampled_from([0.5, 0.7, 1.0]),
    st.sampled_from([16.0, 19.2, 24.0]),
    st.sampled_from([None, 9.0]),
    st.sampled_from([0.0, 8.0]),
    st.floats(0.4, 1.1),
)
@example("howe", 0.7, 24.0, None, 0.0, 0.6)
@settings(max_examples=8, deadline=None)
def test_nothing_is_in_their_way(pattern, pitch, spacing, heel, drop, other):
    typed = Trusses(
        pattern=pattern, spacing=spacing * INCH, heel=heel * INCH if heel and not drop else None,
        bottom_pitch=0.2 if pattern == "scissors" else 0.0, drop=drop * INCH if pattern != "scissors" else 0.0,
    )  # fmt: skip
    p = set_side(trussed(pitch, typed), "roof-1", "wall-3", pitch=round(other, 3))
    model = derive(edits.set_loads(p, wind_speed=45.0))
    pieces = [x for x in model.pieces.values() if x.owner == "roof-1" or x.owner.startswith("wall")]
    apart([x for some in braces(model).values() for pair in some for x in pair], pieces, 1e4)
