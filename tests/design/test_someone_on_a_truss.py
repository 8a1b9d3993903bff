"""Someone of 300 lb on the chords of a truss: every place against PyNiteFEA, sums by hand, roofs with and without."""

import pytest
from tests.design.test_trusses import as_pynite, truss
from tests.framing.test_roof_trusses import trussed
from tests.loads.test_beams import balanced

from balken.commands.truss import truss_report
from balken.derive import derive
from balken.documents.truss_given import truss_loads
from balken.loads.truss_loads import MAN
from balken.model.kinds.trusses import Trusses
from balken.panel.roof_fields import TRUSS_FIELDS
from balken.units import Units
from balken.units.system import POUND_FORCE

SIZES = "--top 2x6 --bottom 2x6 --webs 2x4"


def standing(made):
    return [c for c in made.combined if "someone" in c.name]


@pytest.mark.parametrize("shape", ["king-post", "fink", "howe", "scissors", "one-sloped", "room", "parallel"])
def test_everywhere_as_pynite_solves_it(shape):
    made = truss(shape, f"--man --overhang 1ft {SIZES}")
    assert len(standing(made)) >= 8
    as_pynite(truss_report(made, plates=False))


def test_it_stands_on_joints_and_amid_panels_with_dead_load_alone():
    """By hand: a Fink has on its top chord two tips, two heels' joints and three more, four panels between and two tails too short for one
    amid; each place adds 300 lb to what both bearings carry of the dead load.
    """
    made = truss("fink", f"--man --overhang 1ft {SIZES}")
    places = [c.name.partition(" chord")[0].rpartition(" ")[2] for c in standing(made)]
    walked = made.frame.walked
    assert places == [chord for _, chord in walked]
    middles = [name for name, _ in walked if name.startswith("stand")]
    assert sum(made.frame.joints[name][1] > 400.0 for name in middles) == 4
    names = list(made.frame.joints)
    dead = sum(float(made.solved.reactions[0, names.index(name), 1, 0]) for name in _bearings(made))
    for c in standing(made):
        whole = sum(made.reactions()[name][c.name] for name in _bearings(made))
        assert whole == pytest.approx(dead + 300.0 * POUND_FORCE, rel=1e-6)
        assert c.duration == 1.25
    assert pytest.approx(300.0 * POUND_FORCE) == MAN


def _bearings(made):
    return [name for name in made.reactions() if name.startswith("bearing")]


def test_without_it_nothing_is_other():
    plain, asked = truss("fink", SIZES), truss("fink", f"--man {SIZES}")
    assert [c.name for c in plain.combined] == [c.name for c in asked.combined if "someone" not in c.name]
    assert asked.sag.demand == pytest.approx(plain.sag.demand, rel=5e-3)  # looked for in more places
    for stick in plain.frame.sticks:
        one, other = plain.axial(stick.name), asked.axial(stick.name)
        for name, force in one.items():
            assert other[name] == pytest.approx(force, rel=5e-3, abs=20.0)  # what lies on tails is cut finer
    assert asked.used >= plain.used - 1e-9
    assert "Someone on a chord" in dict(truss_loads(asked, Units.IMPERIAL))
    assert "Someone on a chord" not in dict(truss_loads(plain, Units.IMPERIAL))


def test_a_roof_is_made_for_it_where_asked_and_its_walls_carry_no_more():
    plain, asked = derive(trussed()), derive(trussed(trusses=Trusses(man=True)))
    balanced(asked)
    rows = [{name: made for name, made, _ in m.trusses["roof-1"].designs} for m in (plain, asked)]
    commons = [next(made for name, made in row.items() if name == "Trusses") for row in rows]
    assert not standing(commons[0])
    assert standing(commons[1])
    gables = [made for name, made in rows[1].items() if name == "Gable frames"]
    assert gables
    assert not any(standing(made) for made in gables)
    for wall in ("wall-1", "wall-3"):
        assert asked.path.walls[wall].foot.snow == pytest.approx(plain.path.walls[wall].foot.snow, rel=1e-6)
    field = next(f for f in TRUSS_FIELDS if f.key == "trusses__man")
    roof = asked.project.roofs[0]
    assert field.get(asked.project, roof) == "yes"
