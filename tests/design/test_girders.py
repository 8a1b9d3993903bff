"""Beams on two supports or more: AISC's tabulated strengths, glulam and veneer lumber by hand, random beams against PyNiteFEA."""

import itertools
import math

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from Pynite import FEModel3D

from balken.catalog.beams import TRIED, beam_section
from balken.design.beams import cheapest, cost_per_length, with_own_weight
from balken.loads.cases import Cases
from balken.standards.demands import GirderCase, Limit
from balken.standards.us.girders import check_girder
from balken.standards.us.standard import US
from balken.standards.us.steel_beams import FY, E, flexural_strength, seat_strength, shear_strength
from balken.units.system import FOOT, INCH, PLF, POUND_FORCE, PSI

KIP = 1000.0 * POUND_FORCE
SAGS = Limit(360.0, "IRC R301.7"), Limit(240.0, "NDS 3.5.2")


def girder(size, supports, length=None, patches=(), points=(), held=0.0, skip=True, repetitive=False, bearing=3.5):
    return GirderCase(
        "beam", size, "DF-L", "No. 2", length or supports[-1], tuple(supports), (bearing * INCH,) * len(supports),
        tuple(patches), tuple(points), held, repetitive, skip, *SAGS,
    )  # fmt: skip


def evenly(length, **load):
    q = Cases(**{k: v * PLF for k, v in load.items()})
    return (0.0, length, q, q)


def named(made, name):
    return next(check for check in made.result.checks if check.name == name)


# Steel ----------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("name", "bending", "shear"), [("W8x18", 42.4, 37.4), ("W12x26", 92.8, 56.1), ("W10x12", 31.2, None)]
)
def test_strengths_that_aisc_tabulates(name, bending, shear):
    """AISC Manual, Tables 3-2 and 3-6, allowable strengths, 50 ksi, from memory; also 50 Zx / 1.67 by first principles."""
    shape = beam_section(name).shape
    strength, _ = flexural_strength(shape, 0.0)
    assert strength / (KIP * FOOT) == pytest.approx(bending, abs=0.05)
    if shear is not None:
        assert shear_strength(shape)[0] / KIP == pytest.approx(shear, abs=0.05)


def test_steel_turns_over_between_braces():
    """W8x18 (AISC Manual, Table 3-2, from memory): Lp 4.34 ft, Lr 13.5 ft; elastic beyond by F2-4, worked out here."""
    shape = beam_section("W8x18").shape
    full = flexural_strength(shape, 0.0)[0]
    assert flexural_strength(shape, 4.3 * FOOT)[0] == pytest.approx(full)
    assert flexural_strength(shape, 4.5 * FOOT)[0] < full
    at_lr = 0.7 * FY * shape.modulus / 1.67
    assert flexural_strength(shape, 13.5 * FOOT)[0] == pytest.approx(at_lr, rel=0.01)
    long = 20.0 * FOOT
    slender = long / shape.rts
    critical = (
        math.pi**2
        * E
        / slender**2
        * math.sqrt(1.0 + 0.078 * shape.torsion / (shape.modulus * shape.between) * slender**2)
    )
    assert flexural_strength(shape, long)[0] == pytest.approx(critical * shape.modulus / 1.67)


def test_seats_of_steel_by_hand():
    """W10x22 on 4 in at its end: yielding 50 x 0.24 (2.5 x 0.66 + 4) / 1.5 = 45.2 kip (J10.2); crippling by J10-5b."""
    shape = beam_section("W10x22").shape
    strength, clause = seat_strength(shape, 4.0 * INCH, inner=False)
    yielding = 50.0 * 0.24 * (2.5 * 0.66 + 4.0) / 1.5
    part = 1.0 + (4.0 * 4.0 / 10.2 - 0.2) * (0.24 / 0.36) ** 1.5
    crippling = 0.40 * 0.24**2 * part * math.sqrt(29_000.0 * 50.0 * 0.36 / 0.24) / 2.0
    assert strength / KIP == pytest.approx(min(yielding, crippling), rel=1e-3)
    assert clause.endswith("J10.2" if yielding < crippling else "J10.3")


def test_shapes_are_what_their_sides_make():
    """Area and second moments of flanges and web alone come to a little less than the tabulated ones with fillets."""
    for name in TRIED["W"]:
        w = beam_section(name).shape
        web = w.depth - 2.0 * w.flange
        area = 2.0 * w.width * w.flange + web * w.web
        inertia = 2.0 * (w.width * w.flange**3 / 12 + w.width * w.flange * (w.between / 2) ** 2) + w.web * web**3 / 12
        plastic = w.width * w.flange * w.between + w.web * web**2 / 4.0
        weak = 2.0 * w.flange * w.width**3 / 12.0 + web * w.web**3 / 12.0
        torsion = (2.0 * w.width * w.flange**3 + w.between * w.web**3) / 3.0
        rts = math.sqrt(weak * w.between / 2.0 / w.modulus)
        assert 0.94 < area / w.area < 1.015, name
        assert 0.94 < inertia / w.inertia < 1.02, name
        assert 0.94 < plastic / w.plastic < 1.02, name
        assert math.sqrt(weak / w.area) == pytest.approx(w.gyration, rel=0.03), name
        assert 0.70 < torsion / w.torsion < 1.05, name
        assert rts == pytest.approx(w.rts, rel=0.03), name
        assert w.modulus == pytest.approx(2.0 * w.inertia / w.depth, rel=0.012), name
        assert w.mass == pytest.approx(w.area * 7850e-6, rel=0.03), name


# Wood -----------------------------------------------------------------------------------------------


def test_plies_by_hand():
    """3-2x10 DF-L No. 2 over 10 ft, 60 + 340 plf: M = 5,000 lb ft, S = 64.17 in3, fb 935 psi; Fb' = 900 x 1.1 = 990 psi."""
    made = check_girder(girder("3-2x10", (0.0, 10 * FOOT), patches=[evenly(10 * FOOT, dead=60, live=340)]))
    bending = named(made, "bending")
    assert bending.demand / PSI == pytest.approx(5000 * 12 / 64.17, rel=1e-3)
    assert bending.capacity / PSI == pytest.approx(990.0, rel=1e-6)
    # Shear at d from the face: 400 (5 - (9.25 + 1.75) / 12) = 1,633 lb over 41.63 in2.
    shear = named(made, "shear")
    assert shear.demand / PSI == pytest.approx(1.5 * 400 * (5 - 11.0 / 12) / 41.625, rel=1e-3)
    assert shear.capacity / PSI == pytest.approx(180.0)
    # 5 w L^4 / 384 E I, I = 296.8 in4, live 340 plf; all: 1.5 x 60 + 340.
    live = 5 * (340 / 12) * 120**4 / (384 * 1.6e6 * 296.8)
    assert made.sags[0][0] / INCH == pytest.approx(live, rel=1e-3)
    assert made.sags[0][1] / INCH == pytest.approx(live * 430 / 340, rel=1e-3)
    assert named(made, "bearing").demand / PSI == pytest.approx(2000 / (4.5 * 3.5), rel=1e-3)
    assert (
        check_girder(
            girder("3-2x10", (0.0, 10 * FOOT), patches=[evenly(10 * FOOT, dead=60, live=340)], repetitive=True)
        )
        .result.checks[0]
        .used
        < made.result.checks[0].used
    )


def test_a_point_near_a_support_counts_by_x_over_d():
    """NDS 3.4.3.1(a): 5,000 lb at 6 in from the face of its seat, d = 9.25 in: 6/9.25 of its share goes through the wood."""
    at = (1.75 + 6.0) * INCH
    made = check_girder(girder("3-2x10", (0.0, 10 * FOOT), points=[(at, Cases(live=5000 * POUND_FORCE))]))
    reaction = 5000 * (1 - 7.75 / 120)
    # Left of it, the whole reaction less what does not count; right of it the other support's.
    expected = reaction - 5000 * (1 - 6.0 / 9.25)
    assert named(made, "shear").demand / PSI == pytest.approx(1.5 * max(expected, 5000 - reaction) / 41.625, rel=1e-3)


def test_glulam_by_hand():
    """GLB 5.125x18 24F-V4 over 24 ft: CV = (21/24 x 12/18)^0.1 = 0.948; Fb' = 2400 x 0.948; CL by Ey,min = 0.85e6."""
    span = 24 * FOOT
    made = check_girder(girder("GLB 5.125x18", (0.0, span), patches=[evenly(span, dead=200, live=600)]))
    volume = (21 / 24 * 12 / 18) ** 0.1
    assert named(made, "bending").capacity / PSI == pytest.approx(2400 * volume, rel=1e-3)
    free = check_girder(girder("GLB 5.125x18", (0.0, span), patches=[evenly(span, dead=200, live=600)], held=None))
    le = 1.63 * 288 + 3 * 18
    slender = math.sqrt(le * 18 / 5.125**2)
    ratio = 1.2 * 850_000 / slender**2 / 2400
    stable = (1 + ratio) / 1.9 - math.sqrt(((1 + ratio) / 1.9) ** 2 - ratio / 0.95)
    assert named(free, "bending").capacity / PSI == pytest.approx(2400 * min(stable, volume), rel=1e-3)
    # Over an inner support the bottom laminations are in compression: 1850 psi for tension on top.
    two = check_girder(girder("GLB 5.125x18", (0.0, span, 2 * span), patches=[evenly(2 * span, dead=200, live=600)]))
    assert named(two, "bending, hogging").capacity / PSI < 1850.0


def test_veneer_lumber_by_hand():
    """LVL 2-1.75x11.875 over 14 ft: Fb = 2600 (12/11.875)^(1/9) = 2,603 psi, Fv 285, E 2.0e6; Cr 1.04 where asked."""
    span = 14 * FOOT
    load = [evenly(span, dead=100, snow=300)]
    made = check_girder(girder("LVL 2-1.75x11.875", (0.0, span), patches=load))
    bending = named(made, "bending")
    assert bending.capacity / PSI == pytest.approx(2600 * (12 / 11.875) ** (1 / 9) * 1.15, rel=1e-4)
    assert bending.combination == "D + S"
    assert bending.demand / PSI == pytest.approx(400 * 14**2 / 8 * 12 / (3.5 * 11.875**2 / 6), rel=1e-3)
    more = check_girder(girder("LVL 2-1.75x11.875", (0.0, span), patches=load, repetitive=True))
    assert named(more, "bending").capacity == pytest.approx(1.04 * bending.capacity)


def test_two_and_three_equal_spans():
    """Any handbook: 3/8, 10/8, 3/8 w L and w L2/8; three: 0.4, 1.1, 1.1, 0.4 and 0.1 w L2 (all spans loaded)."""
    span, w = 12 * FOOT, 400 * PLF
    two = check_girder(girder("3-2x12", (0, span, 2 * span), patches=[evenly(2 * span, live=400)], skip=False))
    assert [r.live / (w * span) for r in two.reactions] == pytest.approx([0.375, 1.25, 0.375], rel=1e-6)
    assert two.moments[1] == pytest.approx(-w * span**2 / 8, rel=1e-6)
    three = check_girder(
        girder("3-2x12", tuple(span * k for k in range(4)), patches=[evenly(3 * span, live=400)], skip=False)
    )
    assert [r.live / (w * span) for r in three.reactions] == pytest.approx([0.4, 1.1, 1.1, 0.4], rel=1e-6)
    assert three.moments[1] == pytest.approx(-0.1 * w * span**2, rel=1e-6)
    # Live on any spans: two equal ones, each alone: 0.4375 w L at its end, 0.0957 w L2 in it (handbook coefficients).
    skipped = check_girder(girder("3-2x12", (0, span, 2 * span), patches=[evenly(2 * span, live=400)]))
    assert skipped.extremes[0][0] == pytest.approx(0.4375 * w * span, rel=1e-6)
    assert skipped.extremes[0][1] == pytest.approx(-0.0625 * w * span, rel=1e-6)
    assert skipped.moments[0] == pytest.approx(0.4375**2 / 2 * w * span**2, rel=1e-4)


@st.composite
def beams_(draw):
    spans = draw(st.lists(st.floats(1200.0, 6000.0), min_size=1, max_size=4))
    left, right = draw(st.sampled_from([0.0, 700.0])), draw(st.sampled_from([0.0, 900.0]))
    supports = [left + s for s in itertools.accumulate(spans, initial=0.0)]
    length = supports[-1] + right
    q = st.floats(0.0, 6.0)
    a, b = sorted((draw(st.floats(0.0, 1.0)) * length, draw(st.floats(0.0, 1.0)) * length))
    patches = [(0.0, length, Cases(dead=1.0, live=draw(q)), Cases(dead=1.0, live=draw(q)))]
    if b - a > 50.0:
        patches.append((a, b, Cases(snow=draw(q)), Cases(snow=draw(q))))
    points = [(draw(st.floats(0.0, 1.0)) * length, Cases(dead=draw(st.floats(0.0, 9000.0))))]
    return girder("3-2x12", supports, length, patches, points, skip=False)


@settings(max_examples=30)
@given(beams_())
@example(  # bent like an S by its overhang: a flat top between the places looked at
    girder("3-2x12", (0.0, 1200.0, 2995.0), 3895.0,
           [(0.0, 3895.0, Cases(dead=1.0, live=1.0), Cases(dead=1.0, live=3.0))], [(0.0, Cases())], skip=False)
)  # fmt: skip
def test_random_beams_against_pynite(case):
    made = check_girder(case)
    e, section = 11_031.6117, case.section
    nodes = sorted({0.0, case.length, *case.supports})
    for field in ("dead", "live", "snow"):
        model = FEModel3D()
        model.add_material("wood", e, e / 16, 0.3, 0.0)
        model.add_section("s", 1e5, 1e7, section.inertia, 1e8)
        for i, x in enumerate(nodes):
            model.add_node(f"N{i}", x, 0, 0)
            model.def_support(f"N{i}", i == 0, x in case.supports, True, True, True, False)
        for i in range(len(nodes) - 1):
            model.add_member(f"M{i}", f"N{i}", f"N{i + 1}", "wood", "s")
        for a, b, qa, qb in case.patches:
            first, last = getattr(qa, field), getattr(qb, field)
            for i in range(len(nodes) - 1):
                low, high = max(a, nodes[i]), min(b, nodes[i + 1])
                if high - low > 1e-6:
                    at = [first + (last - first) * (x - a) / (b - a) for x in (low, high)]
                    model.add_member_dist_load(f"M{i}", "FY", -at[0], -at[1], low - nodes[i], high - nodes[i])
        for x, force in case.points:
            i = max(k for k in range(len(nodes) - 1) if nodes[k] <= x)
            model.add_member_pt_load(f"M{i}", "FY", -getattr(force, field), x - nodes[i])
        model.analyze(check_statics=False)
        whole = abs(getattr(case.load, field)) + 1.0
        for x, reaction in zip(case.supports, made.reactions, strict=True):
            told = model.nodes[f"N{nodes.index(x)}"].RxnFY["Combo 1"]
            assert getattr(reaction, field) == pytest.approx(told, abs=1e-3 * whole)
        if field in ("live", "snow"):
            sags = [
                max(abs(model.members[f"M{i}"].deflection("dy", x)) for x in [k * (b - a) / 40 for k in range(41)])
                for i, (a, b) in enumerate(itertools.pairwise(nodes))
            ]
            assert all(live >= sag * 0.999 - 1e-6 for (live, _), sag in zip(made.sags, sags, strict=True))
    # Loads in = reactions out.
    for field in Cases._fields:
        out = sum(getattr(r, field) for r in made.reactions)
        assert out == pytest.approx(getattr(case.load, field), rel=1e-6, abs=1e-3)


# Choosing -------------------------------------------------------------------------------------------


@pytest.mark.parametrize("kind", ["sawn", "LVL", "GLB", "W"])
def test_the_cheapest_that_works(kind):
    case = girder("2x6", (0.0, 11 * FOOT), patches=[evenly(11 * FOOT, dead=100, live=300)])
    made = cheapest(case, kind, US, own_weight=True)
    assert made.used <= 1.0
    price = cost_per_length(beam_section(made.result.case.size), "DF-L")
    for name in TRIED[kind]:
        if cost_per_length(beam_section(name), "DF-L") < price - 1e-6:
            assert US.check_girder(with_own_weight(replace(case, size=name))).used > 1.0


@pytest.mark.parametrize("name", ["W9x99", "LVL 2x11.875", "LVL 5-1.75x9.5", "GLB 4x12", "1x4", "3-2x11", "LVL"])
def test_what_there_is_not_is_said(name):
    with pytest.raises(KeyError, match=r"no |widths|board"):
        beam_section(name)


def test_shear_where_joists_hang_at_its_sides():
    """NDS 3.4.3.3 by hand: 3-2x10, nails up to 1 1/2 in below its top: de = 7.75 in of 9.25; V at the seat counts in full,
    against 2/3 Fv b de (de/d)2 near an end.
    """
    psi, plf = POUND_FORCE / INCH**2, POUND_FORCE / FOOT
    q = Cases(dead=100 * plf, live=400 * plf)
    case = GirderCase(
        "beam", "3-2x10", "DF-L", "No. 2", 10 * FOOT, (0.0, 10 * FOOT), (3 * INCH, 3 * INCH), ((0.0, 10 * FOOT, q, q),), (), 0.0,
        False, False, Limit(360.0, ""), Limit(240.0, ""), nailed=1.5 * INCH,
    )  # fmt: skip
    check = next(c for c in check_girder(case).result.checks if c.name == "shear at hangers")
    cap = 2.0 / 3.0 * 180.0 * psi * 4.5 * INCH * 7.75 * INCH * (7.75 / 9.25) ** 2
    assert check.capacity * 1000.0 == pytest.approx(cap, rel=1e-6)
    assert check.demand * 1000.0 == pytest.approx(500 * plf * 5 * FOOT, rel=1e-3)
    plain = check_girder(replace(case, nailed=None))
    assert all(c.name != "shear at hangers" for c in plain.result.checks)
