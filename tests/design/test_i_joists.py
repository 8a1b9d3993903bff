"""I-joists and joists of veneer lumber: tabulated values held against mechanics, checks against hand calculation.

The values of APA PRI-400 were written down from memory.  What holds them is a second way: EI, moment and the shear term K
of one series must go with its depth as those of a section of two flanges do.
"""

import pytest
from tests.houses import house

from balken.catalog.joists import TRIED, series_of
from balken.catalog.sections import framed_of, rim_of, section, side_by_side, wood_of
from balken.derive import derive
from balken.exchange.project_file import from_bytes, to_bytes
from balken.framing.floors import FloorPlan
from balken.loads.cases import Cases, total
from balken.model import edits
from balken.model.errors import EditError
from balken.model.kinds.floor_opening import FloorOpening
from balken.model.records import FreePoint
from balken.standards.demands import Limit, MemberCase
from balken.standards.us.i_joists import END_LEAST, check_joist, tabulated
from balken.standards.us.members import check_member, greatest_span
from balken.units.system import FOOT, INCH, POUND_FORCE, PSF

LB_IN2 = POUND_FORCE * INCH**2
LIMIT = Limit(360.0, "IRC R301.7")
I_JOISTS = TRIED["I-joist"]


def flanges(name: str) -> float:
    """Second moment of the flanges alone about the middle, in4, by Steiner."""
    joist = section(name)
    b, d, t = joist.breadth / INCH, joist.depth / INCH, joist.flange / INCH
    return 2.0 * (b * t**3 / 12.0 + b * t * ((d - t) / 2.0) ** 2)


@pytest.mark.parametrize("name", I_JOISTS)
def test_stiffness_goes_with_the_flanges(name):
    """E of the flanges that EI asks for is that of sawn (some 1.6e6 psi) or veneer flanges (1.9e6), whatever the depth."""
    e = tabulated(section(name)).ei / LB_IN2 / flanges(name) / 1e6
    assert {"PRI-40": 1.58, "PRI-60": 1.89, "PRI-80": 1.91, "PRI-90": 2.11}[series_of(section(name))[0]] <= e
    assert e <= {"PRI-40": 1.68, "PRI-60": 2.03, "PRI-80": 1.99, "PRI-90": 2.18}[series_of(section(name))[0]]


def test_moments_go_with_the_lever_between_the_flanges():
    """Flanges pulled and pressed as hard as they bear: M over the distance of their middles is one figure a series, to 0.6 %."""
    for series in ("PRI-40", "PRI-60", "PRI-80", "PRI-90"):
        pulls = [
            tabulated(section(n)).moment / (section(n).depth - section(n).flange)
            for n in I_JOISTS
            if n.startswith(series)
        ]
        assert max(pulls) / min(pulls) < 1.006


@pytest.mark.parametrize("name", I_JOISTS)
def test_shear_stiffness_goes_with_the_depth(name):
    assert tabulated(section(name)).k / POUND_FORCE / 1e6 == pytest.approx(0.52 * section(name).depth / INCH, rel=2e-3)


def case(name: str, clear: float, bearing: float = 3.5 * INCH, spacing: float = 16.0 * INCH, **more) -> MemberCase:
    load = Cases(dead=10.0 * PSF, live=40.0 * PSF)
    return MemberCase("joist", name, "DF-L", "No. 2", clear, spacing, load, LIMIT, bearing, **more)


def test_a_joist_by_hand():
    """PRI-40 of 11 7/8 in at 16 in over 18 ft clear, 40 + 10 psf, 3 1/2 in of bearing; in pounds and inches.

    Span 18 ft + 1.75 in = 217.75 in; w = 50 x 16/144 = 5.5556 lb/in, live 4.4444.
    """
    span, w, live = 217.75, 50.0 * 16.0 / 144.0, 40.0 * 16.0 / 144.0
    found = {c.name: c for c in check_joist(case("PRI-40 11.875", 18.0 * FOOT)).checks}
    assert found["moment"].used == pytest.approx(w * span**2 / 8.0 / 12.0 / 3545.0)
    assert found["shear"].used == pytest.approx(w * span / 2.0 / 1420.0)
    end = 1200.0 + (1420.0 - 1200.0) * (3.5 - 1.75) / (4.0 - 1.75)
    assert found["end reaction"].used == pytest.approx(w * span / 2.0 / end)
    sag = 5.0 * live * span**4 / (384.0 * 330e6) + live * span**2 / 6.18e6
    assert found["deflection L/480"].demand / INCH == pytest.approx(sag)
    assert found["deflection L/480"].used == pytest.approx(sag / (span / 480.0))


def test_greatest_span_by_hand():
    """The sag governs: 5 w L4/(384 EI) + w L2/K = L/480 solved here by another way, a fixed point."""
    live, length = 40.0 * 16.0 / 144.0, 200.0
    for _ in range(200):
        length = ((length / 480.0 - live * length**2 / 6.18e6) * 384.0 * 330e6 / (5.0 * live)) ** 0.25
    span = greatest_span(case("PRI-40 11.875", 1.0))
    assert span.length / INCH == pytest.approx(length, abs=0.01)
    assert span.governs == "deflection L/480"


def test_sag_from_shear_under_a_load_in_the_middle():
    """K = 8 G A of the web: an even load gives w L2/8GA = w L2/K, a point P L/4GA = 2 P L/K (statics of a shear beam)."""
    k = tabulated(section("PRI-60 14")).k
    shear_beam, w, p, length = k / 8.0, 2.0, 4000.0, 6000.0
    assert w * length**2 / 8.0 / shear_beam == pytest.approx(w * length**2 / k)
    assert p * length / 4.0 / shear_beam == pytest.approx(2.0 * p * length / k)


def test_bearing():
    """Nothing bears on less than 1 3/4 in; from 4 in on the reaction is the shear; over 1,550 lb web stiffeners are said."""
    v = tabulated(section("PRI-80 16"))
    assert v.end_reaction(1.5 * INCH) == 0.0
    assert v.end_reaction(END_LEAST) / POUND_FORCE == pytest.approx(1280.0)
    assert v.end_reaction(4.0 * INCH) == v.end_reaction(6.0 * INCH) == v.shear
    short = check_joist(case("PRI-80 16", 10.0 * FOOT, bearing=1.5 * INCH))
    assert short.governs.name == "length of bearing"
    assert short.used > 1.0
    light, heavy = (
        check_joist(case("PRI-80 16", c * FOOT, bearing=4.0 * INCH, spacing=24.0 * INCH)) for c in (12.0, 36.0)
    )
    assert not light.notes
    assert heavy.notes == ("web stiffeners at its ends",)


def test_several_side_by_side_and_duration():
    one, two = (check_joist(case(n, 18.0 * FOOT)) for n in ("PRI-60 14", "2-PRI-60 14"))
    for a in one.checks:
        b = next(c for c in two.checks if c.name == a.name)
        assert b.used == pytest.approx(a.used / 2.0)
    snow = MemberCase(
        "joist", "PRI-60 14", "DF-L", "No. 2", 6000.0, 400.0, Cases(dead=0.5, snow=4.0), LIMIT, 3.5 * INCH
    )
    moment = next(c for c in check_joist(snow).checks if c.name == "moment")
    assert moment.capacity == pytest.approx(1.15 * 5895.0 * POUND_FORCE * FOOT * 1e-6)


def test_veneer_joists_by_hand():
    """LVL 1 3/4 x 11 7/8 at 16 in over 18 ft: Fb 2600 (12/11.875)^(1/9) x 1.04, S = 41.13 in3, E 2.0e6, I = 244.2 in4."""
    found = {c.name: c for c in check_member(case("LVL 1.75x11.875", 18.0 * FOOT, tables=True)).checks}
    w, live, span = 50.0 * 16.0 / 144.0, 40.0 * 16.0 / 144.0, 216.0
    fb = 2600.0 * (12.0 / 11.875) ** (1.0 / 9.0) * 1.04
    assert found["bending"].used == pytest.approx(w * span**2 / 8.0 / (1.75 * 11.875**2 / 6.0) / fb)
    sag = 5.0 * live * span**4 / (384.0 * 2.0e6 * 1.75 * 11.875**3 / 12.0)
    assert found["deflection L/360"].used == pytest.approx(sag / (span / 360.0))


def test_names_and_sections():
    assert side_by_side("2x10", 2) == "2-2x10"
    assert side_by_side("LVL 1.75x11.875", 3) == "LVL 3-1.75x11.875"
    assert side_by_side("PRI-40 11.875", 2) == "2-PRI-40 11.875"
    assert side_by_side("2-PRI-40 11.875", 3) == "2-PRI-40 11.875"
    assert rim_of("2x10") == framed_of("2x10") == "2x10"
    assert rim_of("PRI-40 11.875") == "LSL 1.5x11.875"
    assert framed_of("PRI-40 11.875") == "LVL 1.75x11.875"
    assert wood_of("PRI-40 11.875", "DF-L", "No. 2") == ("APA", "I-joist")
    for n in (1, 2, 3):
        for name in (*TRIED["I-joist"], *TRIED["LVL"], rim_of("PRI-40 9.5")):
            made = section(side_by_side(name, n))
            assert made.plies == n
            assert made.breadth == pytest.approx(n * section(name).breadth)
    joist = section("PRI-40 11.875")
    assert joist.area / INCH**2 == pytest.approx(2 * 2.5 * 1.5 + 0.375 * 8.875)


def floored(made_of: str, size: str | None = None):
    """A house whose floors are of such joists, with a stair in one of them."""
    p = house()
    for floor in p.floors:
        p = edits.change(p, floor.id, joists__made_of=made_of, joists__size=size)
    floor = derive(p).floors[0]
    x0, y0 = (min(c[i] for c in floor.outline.core) for i in (0, 1))
    hole = FloorOpening(
        id="floor-opening-1", floors=(floor.floor.id,), kind="stair", place=FreePoint(x=x0 + 1500.0, y=y0 + 1200.0),
        width=1000.0, depth=2400.0,
    )  # fmt: skip
    return edits.add(p, hole)


@pytest.mark.parametrize(("made_of", "size"), [("I-joist", None), ("I-joist", "PRI-60 14"), ("LVL", None)])
def test_a_floor_of_them(made_of, size):
    """All its load goes down; joists are as their section says, rims and framing of the opening are boards as deep."""
    p = floored(made_of, size)
    model = derive(p)
    for plan in model.floors:
        assert isinstance(plan, FloorPlan)
        design = model.designs[(plan.floor.id, "joists")]
        assert design.works
        assert design.size in TRIED[made_of]
        mine = [m for m in model.pieces.values() if m.owner == plan.floor.id and m.section]
        deep = section(design.size).depth
        assert {section(m.section).depth for m in mine} == {deep}
        for m in mine:
            assert m.volume == pytest.approx(section(m.section).area * m.length)
            assert (m.species, m.grade) == wood_of(m.section, "", "")
        assert {m.section for m in mine if m.role == "rim board"} == {rim_of(design.size)}
        headers = [m for m in mine if m.role == "floor header"]
        assert all(section(m.section).kind == "laminated veneer" for m in headers)
        assert bool(headers) == (plan == model.floors[0])
        if headers:
            trimmers = [model.piece(n) for n in model.path.decks[plan.floor.id].joists]
            assert sum(section(t.section).kind == "laminated veneer" for t in trimmers if t is not None) >= 2
        area = total(r.force for r in model.path.reactions if r.piece.startswith(plan.floor.id)).live
        assert area > 0.0
    assert from_bytes(to_bytes(p)) == p


def test_kind_and_section_go_together():
    p = house()
    f = p.floors[0].id
    with pytest.raises(EditError, match="no sawn"):
        edits.change(p, f, joists__size="PRI-40 11.875")
    with pytest.raises(EditError, match="is not a size"):
        edits.change(p, f, joists__made_of="I-joist", joists__size="2-PRI-40 11.875")
    with pytest.raises(EditError, match="no I-joist"):
        edits.change(p, f, joists__made_of="I-joist", joists__size="2x10")
    with pytest.raises(EditError, match="sawn lumber"):
        edits.change(p, p.roofs[0].id, rafters__made_of="LVL")
