"""Plates of trusses: each equation by hand, what is placed holds when it is worked out again, nothing sticks out, every joint has one."""

import json
import math
from importlib.resources import files

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.design.test_trusses import truss, words

from balken.catalog import truss_plates as listed
from balken.cli import main
from balken.commands.truss import truss_report
from balken.design.truss_plates import joint_forces, plates_of
from balken.framing.truss_outline import height_on
from balken.framing.truss_webs import PATTERNS
from balken.standards.known import USUAL
from balken.standards.us import truss_plates as tpi
from balken.units.system import INCH, POUND_FORCE, PSI


def test_the_list_is_read_and_is_made_up():
    assert len(listed.sizes()) > 60
    assert listed.sizes()[0].area <= listed.sizes()[-1].area
    assert listed.teeth("S-P-F").aa == pytest.approx(182 * PSI)
    assert listed.steel().pull_along == pytest.approx(1720 * POUND_FORCE / INCH)
    for name in ("truss-plates.csv", "truss-plate-values.csv"):
        assert files("balken").joinpath("assets", name).read_text(encoding="utf-8").startswith("# Made-up")
    with pytest.raises(KeyError, match="oak"):
        listed.teeth("oak")


def test_heel_factor_as_printed():
    """0.85 - 0.05 (12 tan - 2), between 0.65 and 0.85 (ANSI/TPI 1, from memory): 2:12 0.85, 3:12 0.80, 4:12 0.75, 6:12 0.65."""
    assert [tpi.heel_factor(rise / 12) for rise in (1, 2, 3, 4, 5, 6, 12)] == pytest.approx(
        [0.85, 0.85, 0.80, 0.75, 0.70, 0.65, 0.65]
    )


def test_teeth_at_an_angle_by_hand():
    teeth = listed.Teeth(200.0, 140.0, 160.0, 120.0)
    assert tpi.lateral_resistance(teeth, 0.0, 0.0) == pytest.approx(200.0)
    assert tpi.lateral_resistance(teeth, 90.0, 0.0) == pytest.approx(140.0)
    assert tpi.lateral_resistance(teeth, 0.0, 90.0) == pytest.approx(160.0)
    assert tpi.lateral_resistance(teeth, 90.0, 90.0) == pytest.approx(120.0)
    # Hankinson at 30 degrees: 200 x 140 / (200 / 4 + 140 x 3 / 4); a third of the way to the plate across.
    along, across = 200 * 140 / (50 + 105), 160 * 120 / (40 + 90)
    assert tpi.lateral_resistance(teeth, 30.0, 30.0) == pytest.approx(along + (across - along) / 3)


def test_steel_by_hand():
    steel = listed.Steel(100.0, 60.0, 80.0, 50.0)
    assert tpi.steel_used(1000.0, 0.0, 20.0, 90.0, steel) == pytest.approx(1000 / 20 / 100)
    assert tpi.steel_used(1000.0, 0.0, 20.0, 0.0, steel) == pytest.approx(1000 / 20 / 60)
    assert tpi.steel_used(0.0, 400.0, 20.0, 0.0, steel) == pytest.approx(400 / 20 / 80)
    assert tpi.steel_used(1000.0, 400.0, 20.0, 45.0, steel) == pytest.approx(1000 / 20 / 80 + 400 / 20 / 65)
    assert tpi.teeth_used(1000.0, 1.15, 1.2, 2000.0) == pytest.approx(1000 / (2 * 1.2 * 1.15 * 2000))
    assert tpi.net_section_used(1000.0, 4.0, 38.0, 50.0) == pytest.approx(1000 / 4 / 38 / 50)


@pytest.mark.parametrize("shape", PATTERNS)
def test_what_sticks_give_to_a_joint_is_in_balance(shape):
    made = truss(shape, "--overhang 1ft")
    on_nodes = np.swapaxes(made.loaded.nodes[0] @ made.factors, 1, 2)
    for k, joint in enumerate(made.frame.joints):
        total = sum(joint_forces(made, joint, stick.name) for stick in made.frame.sticks if joint in stick.joints)
        total = total + np.swapaxes(made.solved.reactions[0, k] @ made.factors, 0, 1) + on_nodes[k]
        assert np.abs(total).max() < 0.5, joint


@pytest.mark.parametrize("shape", PATTERNS)
def test_every_joint_has_plates_that_hold(shape):
    made = truss(shape, "--overhang 1ft")
    frame, sawn = made.frame, made.sawn
    plates = plates_of(made, USUAL)
    joints = {one.joint for one in plates}
    for joint in frame.joints:
        assert (joint in joints) == (sum(joint in stick.joints for stick in frame.sticks) > 1)
    for plate in plates:
        assert plate.used <= 1.0, plate
        ring = shapely.Polygon(plate.ring)
        assert ring.area == pytest.approx(plate.width * plate.length)
        for x, y in plate.ring:
            assert y <= height_on(frame.outline.top, x) + 0.5
        for stick in frame.sticks:
            if plate.joint in stick.joints:
                both = shapely.Polygon(sawn[stick.name].ring).intersection(ring)
                low, high = np.array(both.bounds[:2]), np.array(both.bounds[2:])
                assert np.hypot(*(high - low)) >= 1.5 * INCH


def test_a_splice_by_hand():
    """A butt in the bottom chord: teeth on half the plate less half an inch, along both grains."""
    made = truss("fink", "--top 2x4 --bottom 2x4 --webs 2x4 --bottom-live 0psf")
    plate = next(one for one in plates_of(made, USUAL) if one.joint == "splice bottom 1")
    pull = made.axial("BC2")
    area = plate.width * (plate.length / 2.0 - 0.5 * INCH)
    forces = np.hypot(*joint_forces(made, "splice bottom 1", "BC2").T)
    teeth = max(f / (2 * 182 * PSI * c.duration * area) for f, c in zip(forces, made.combined, strict=True))
    ft = 450 * PSI * 1.5
    wood = max(f / (ft * c.duration * 1.5 * INCH * plate.width) for f, c in zip(forces, made.combined, strict=True))
    assert plate.angle == pytest.approx(0.0)
    assert plate.used == pytest.approx(max(teeth, wood, 375 * POUND_FORCE / (2 * 182 * PSI * area)), rel=0.02)
    assert max(forces) <= max(pull.values()) * 1.01


@given(st.integers(14, 40), st.sampled_from(["4:12", "6:12", "9:12"]), st.sampled_from(["20psf", "50psf"]))
@settings(max_examples=6, deadline=None)
def test_any_fink_gets_plates_that_hold(span, pitch, snow):
    report = truss_report(truss("fink", f"--overhang 1ft --snow {snow}", span=span, pitch=pitch))
    assert report["plates"]
    assert all(row["used"] <= 1.0 for row in report["plates"])


def test_where_none_is_large_enough_it_is_said(capsys):
    assert main(["truss", *words("fink", "--snow 900psf --spacing 10ft --json", span=40)]) == 0
    report = json.loads(capsys.readouterr().out)
    assert report["used"] > 1.0
    assert max(row["used"] for row in report["plates"]) > 1.0


def test_angles_are_between_lines_whichever_way_they_point():
    assert tpi.angle_between((1.0, 0.0), (-1.0, 0.0)) == pytest.approx(0.0)
    assert tpi.angle_between((1.0, 0.0), (0.0, -1.0)) == pytest.approx(90.0)
    assert tpi.angle_between((1.0, 0.0), (math.cos(2.0), math.sin(2.0))) == pytest.approx(math.degrees(math.pi - 2.0))


@pytest.mark.parametrize("shape", ["king-post", "fink", "howe", "double-fink", "scissors"])
@pytest.mark.parametrize("heel", ["14in", "20in"])
def test_raised_heels_are_plated(shape, heel):
    report = truss_report(truss(shape, f"--overhang 1ft --heel {heel}", span=14 if shape == "king-post" else 28))
    assert {"heel left", "bearing left"} <= {row["joint"] for row in report["plates"]}
    assert all(row["used"] <= 1.0 for row in report["plates"])
