"""Ice on overhangs (ASCE 7-16, 7.4.5, from memory): twice the flat roof's snow there, dead load alone elsewhere."""

import math

import pytest
from tests.app.conftest import _user
from tests.design.test_trusses import as_pynite
from tests.framing.test_frame_lookouts import gabled
from tests.framing.test_roof_trim import roofed
from tests.framing.test_roof_trusses import trussed
from tests.framing.test_truss_hips import hipped
from tests.loads.test_beams import balanced

from balken.catalog.sections import section
from balken.commands.truss import truss_report
from balken.derive import derive
from balken.model import edits
from balken.model.records import Choice
from balken.standards.known import USUAL
from balken.units.system import FOOT, INCH, PSF

OVER = 30.0 * INCH


def iced(p, **loads):
    return edits.set_loads(
        p, **({"snow_by": "roof", "snow_ice": True, "ground_snow": 50.0 * PSF, "snow_thermal": 1.0} | loads)
    )


def test_twice_the_flat_roofs_snow():
    p = iced(roofed(0.5))
    assert USUAL.ice_at_eaves(p.loads) == pytest.approx(2.0 * 0.7 * 50.0 * PSF)
    assert USUAL.ice_at_eaves(iced(p, snow_ice=False).loads) == 0.0
    assert USUAL.ice_at_eaves(iced(p, snow_by="ground").loads) == 0.0


def test_tails_of_rafters_bend_under_it_by_hand():
    """30 in of tail, 16 in apart: M = w a^2 / 2 under dead load and ice, on what the bird's mouth leaves."""
    p = iced(roofed(0.5, overhang=OVER, rafters=Choice(size="2x8", spacing=16.0 * INCH)))
    model = derive(p)
    results = [r for key, r in model.results.items() if "plane-rafter" in key]
    checks = [c for r in results for c in r.checks if c.name == "ice on the tail"]
    assert checks
    case = results[0].case
    dead = p.loads.roof_dead * math.hypot(1.0, 0.5)
    w = (dead + 2.0 * 0.7 * 50.0 * PSF) * 16.0 * INCH / 1000.0
    lumber = section("2x8")
    modulus = lumber.breadth * (lumber.depth - case.notch) ** 2 / 6.0
    assert max(c.demand for c in checks) == pytest.approx(w * OVER**2 / 2.0 / modulus, rel=1e-3)
    bare = derive(edits.set_loads(p, snow_ice=False))
    assert not [c for r in bare.results.values() for c in r.checks if c.name == "ice on the tail"]
    balanced(model)


def test_trusses_bear_it_as_an_arrangement_of_its_own():
    """All of it lies on the overhangs: both bearings carry 2 pf on 30 in, and dead load; PyNiteFEA has the same."""
    p = iced(edits.change(trussed(0.5), "roof-1", overhang=OVER))
    model = derive(p)
    design = next(make.design for make in model.trusses["roof-1"].makes if make.key == "common")
    names = [one.name for one in design.combined]
    combo = "D + S, ice at the eaves"
    assert combo in names
    as_pynite(truss_report(design, plates=False))
    reactions = design.reactions()
    strip = design.job.loads.spacing
    ice = 2.0 * 0.7 * 50.0 * PSF * OVER * strip / 1000.0
    each = [row[combo] - row["D"] for row in reactions.values()]
    assert sum(each) == pytest.approx(2.0 * ice, rel=1e-6)
    assert each[0] == pytest.approx(each[1], rel=1e-6)
    balanced(model)


def test_jacks_and_corner_girders_of_hip_ends_bear_it():
    """A jack carries nothing but dead load and 2 pf on its 30 in of overhang, which lifts its hung end."""
    model = derive(iced(edits.change(hipped(), "roof-1", overhang=OVER)))
    name = "D + S, ice at the eaves"
    designs = [(make.key, make.design) for make in model.trusses["roof-1"].makes]
    for _, corner in (row for row in designs if row[0].startswith("corner")):
        as_pynite(truss_report(corner, plates=False))
        assert name in [one.name for one in corner.combined]
    jacks = [design for key, design in designs if key.startswith("jack")]
    assert len(jacks) > 3
    for jack in jacks:
        as_pynite(truss_report(jack, plates=False))
        ice = 2.0 * 0.7 * 50.0 * PSF * OVER * jack.job.loads.spacing / 1000.0
        outer, hung = (row[name] - row["D"] for row in jack.reactions().values())
        assert outer + hung == pytest.approx(ice, rel=1e-6)
        assert hung < 0.0
    balanced(model)


def test_tails_over_lowered_frames_bear_it():
    plain, ice = (
        derive(
            edits.set_loads(
                gabled(eave=24.0 * INCH), snow_by="roof", snow_ice=on, ground_snow=40.0 * PSF, snow_thermal=1.0
            )
        )
        for on in (False, True)
    )
    tails = [model.trusses["roof-1"].low[0].rows[0].made.tail.result for model in (plain, ice)]
    snow = [tail.case.patches[0][2].snow for tail in tails]
    # Beside it lies snow blown over the ridge, which is all of that on the ground (7.6.1).
    assert snow[1] / snow[0] == pytest.approx(2.0 * 0.7)
    assert tails[1].used <= 1.0


def test_the_plain_gable_roof_has_it_too():
    p = iced(edits.change(roofed(0.5), "roof-1", shape="gable", overhang=2.0 * FOOT))
    assert any(c.name == "ice on the tail" for r in derive(p).results.values() for c in r.checks)


def test_chosen_on_the_card_of_loads(qtbot, qapp, tmp_path):
    user = _user(qtbot, qapp, tmp_path, edits.set_loads(roofed(0.5), snow_by="roof"))
    user.stage(6)
    user.press("Loads and soil")
    user.type_in_card("Ice at eaves", "dams up on overhangs (7.4.5)")
    assert user.project.loads.snow_ice
    user.window.session.undo()
    assert not user.project.loads.snow_ice
