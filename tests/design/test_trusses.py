"""Roof trusses: every shape as PyNiteFEA solves it, cuts in balance, loads by hand, sticks by NDS worked out again."""

import json
import math

import numpy as np
import pytest
import shapely
from hypothesis import event, given, settings
from hypothesis import strategies as st
from Pynite import FEModel3D

from balken.cli import main
from balken.commands.truss import _parser, designed, truss_report
from balken.design.roof_trusses import stores_things
from balken.design.truss_stacks import used_in_stack
from balken.framing.truss_outline import TrussError
from balken.framing.truss_webs import PATTERNS
from balken.standards.known import USUAL
from balken.standards.us.snow import unbalanced
from balken.units.system import FOOT, INCH, PSF

PITCHES = {"parallel": "1:12", "room": "12:12"}
SPANS = {"room": 32}
LOADS = "--top-dead 10psf --snow 30psf --bottom-dead 10psf --bottom-live 10psf"


def words(shape, more="", span=None, pitch=None):
    span = span or SPANS.get(shape, 24)
    pitch = pitch or PITCHES.get(shape, "6:12")
    return f"--shape {shape} --span {span}ft --pitch {pitch} {LOADS} {more}".split()


def truss(shape, more="", **fields):
    return designed(_parser().read(words(shape, more, **fields)))


def pynite(frame, combination):
    """Solve what the report says was solved."""
    model = FEModel3D()
    nodes = {row["name"]: row for row in frame["nodes"]}
    held = {row["node"]: row for row in frame["supports"]}
    turning = {e["i"] for e in frame["elements"] if not e["hinge_i"]} | {
        e["j"] for e in frame["elements"] if not e["hinge_j"]
    }
    for name, row in nodes.items():
        model.add_node(name, row["x_mm"], row["y_mm"], 0.0)
        on = held.get(name, {"x": False, "y": False})
        model.def_support(name, on["x"], on["y"], True, True, True, name not in turning)
    loads = {row["element"]: row for row in combination["elements"]}
    for e in frame["elements"]:
        model.add_material(e["name"], e["e_mpa"], 5e3, 0.3, 1e-9)
        model.add_section(e["name"], e["a_mm2"], 1e6, e["i_mm4"], 1e6)
        model.add_member(e["name"], e["i"], e["j"], e["name"], e["name"])
        model.def_releases(e["name"], Rzi=e["hinge_i"], Rzj=e["hinge_j"])
        if e["name"] in loads:
            model.add_member_dist_load(e["name"], "FX", loads[e["name"]]["wx"], loads[e["name"]]["wx"])
            model.add_member_dist_load(e["name"], "FY", loads[e["name"]]["wy"], loads[e["name"]]["wy"])
    for row in combination["nodes"]:
        model.add_node_load(row["node"], "FX", row["fx"])
        model.add_node_load(row["node"], "FY", row["fy"])
    model.analyze_linear()
    return model


def as_pynite(report):
    for combination in report["frame"]["combinations"]:
        model = pynite(report["frame"], combination)
        most = max(abs(f["n_kn"]) for f in combination["forces"].values()) * 1e3
        bent = max(max(abs(f["m_i_knm"]), abs(f["m_j_knm"])) for f in combination["forces"].values()) * 1e6
        for name, forces in combination["forces"].items():
            member = model.members[name]
            axial = max((-member.max_axial(), -member.min_axial()), key=abs)
            assert forces["n_kn"] * 1e3 == pytest.approx(axial, rel=1e-3, abs=1e-3 * most)
            ends = [abs(member.moment("Mz", x)) for x in (0.0, member.L())]
            got = [abs(forces["m_i_knm"]) * 1e6, abs(forces["m_j_knm"]) * 1e6]
            assert got == pytest.approx(ends, rel=1e-3, abs=1e-3 * bent)
        for name, row in report["reactions_n"].items():
            assert row[combination["name"]] == pytest.approx(model.nodes[name].RxnFY["Combo 1"], rel=1e-3, abs=1.0)


@pytest.mark.parametrize("shape", PATTERNS)
def test_every_shape_as_pynite_solves_it(shape):
    as_pynite(truss_report(truss(shape, "--overhang 1ft --wind 115mph --unbalanced"), plates=False))


@pytest.mark.parametrize("shape", ["king-post", "queen-post", "fink", "fan", "double-fink", "howe", "auto"])
def test_over_a_bottom_chord_that_rises_as_pynite_solves_it(shape):
    """It bends in its middle, where every pattern has a joint then."""
    made = truss(shape, "--bottom-pitch 2:12", pitch="8:12")
    bend = next(
        name
        for name, (x, _) in made.frame.joints.items()
        if name[0] == "B" and abs(x - made.frame.outline.span / 2.0) < 1.0
    )
    assert sum(bend in stick.joints for stick in made.frame.sticks) >= 3
    as_pynite(truss_report(made, plates=False))


@given(
    st.sampled_from([name for name in PATTERNS if name != "room"]),
    st.integers(12, 40),
    st.sampled_from(["3:12", "5:12", "8:12", "10:12"]),
    st.sampled_from(["", "4.5in", "7in", "12in", "18in"]),
    st.sampled_from(["0ft", "8in", "2ft"]),
    st.sampled_from(["3.5in", "5.5in"]),
)
@settings(max_examples=15, deadline=None)
def test_any_measures_as_pynite_solves_them(shape, span, pitch, heel, over, bearing):
    more = f"--overhang {over} --bearing {bearing}" + (f" --heel {heel}" if heel else "")
    options = _parser().read(words(shape, more, span=span, pitch=pitch if shape != "parallel" else "1:12"))
    try:
        made = designed(options)
    except TrussError:
        event("refused")
        return
    report = truss_report(made, plates=False)
    as_pynite(report)
    # All that lies on it comes down: dead loads on slopes, snow on the plan, by hand.
    tips = [made.frame.outline.top[0], made.frame.outline.top[-1]]
    plan = tips[1][0] - tips[0][0]
    slope = sum(math.dist(a, b) for a, b in zip(made.frame.outline.top, made.frame.outline.top[1:], strict=False))
    below = sum(math.dist(a, b) for a, b in zip(made.frame.outline.bottom, made.frame.outline.bottom[1:], strict=False))
    area = 24.0 * INCH * PSF / 1000.0
    for name, by_hand in (
        ("D", (10 * slope + 10 * below) * area), ("D + S", (10 * slope + 30 * plan + 10 * below) * area),
        ("D + L", (10 * slope + 10 * below + 10 * span * FOOT) * area),
    ):  # fmt: skip
        assert sum(row[name] for row in report["reactions_n"].values()) == pytest.approx(by_hand, rel=1e-6)


@pytest.mark.parametrize("shape", ["fink", "howe", "scissors", "parallel", "one-sloped", "double-fink"])
def test_every_upright_cut_is_in_balance(shape):
    """Ritter's method of sections with moments and shears: what lies left of a cut is held by the sticks that it cuts."""
    made = truss(shape, "--overhang 1ft")
    frame, c = made.frame, [one.name for one in made.combined].index("D + S")
    along = made.loaded.along[0] @ made.factors
    number = {name: k for k, name in enumerate(frame.joints)}
    for cut in np.linspace(0.13, 0.87, 8) * frame.outline.span:
        force, moment = np.zeros(2), 0.0
        for name in frame.held:
            x, y = frame.joints[name]
            if x < cut:
                r = made.solved.reactions[0, number[name]] @ made.factors[:, c]
                force += r
                moment += (x - cut) * r[1] - y * r[0]
        for k, one in enumerate(frame.elements):
            a, b = np.array(frame.joints[one.i]), np.array(frame.joints[one.j])
            if a[0] > b[0]:
                continue  # webs that lean back carry no load of their own: looked at from their other end below
            part = np.clip((cut - a[0]) / max(b[0] - a[0], 1e-9), 0.0, 1.0)
            load = along[k, :, c] * frame.length(one) * part
            middle = a + (b - a) * part / 2.0
            force += load
            moment += (middle[0] - cut) * load[1] - middle[1] * load[0]
        for k, one in enumerate(frame.elements):
            a, b = np.array(frame.joints[one.i]), np.array(frame.joints[one.j])
            if not min(a[0], b[0]) < cut < max(a[0], b[0]):
                continue
            part = (cut - a[0]) / (b[0] - a[0])
            way, at = (b - a) / frame.length(one), a + (b - a) * part
            n, v, m = (
                float((f((part,))[0, 0, k] @ made.factors)[c])
                for f in (made.solved.axials, made.solved.shears, made.solved.moments)
            )
            sign = 1.0 if b[0] > a[0] else -1.0
            # What the right side gives to the left one.
            given_ = sign * (n * way - v * np.array([-way[1], way[0]]))
            force += given_
            moment += (at[0] - cut) * given_[1] - at[1] * given_[0] + sign * m
        assert force == pytest.approx([0.0, 0.0], abs=0.5)
        assert moment == pytest.approx(0.0, abs=200.0)


def test_a_king_post_of_pins_by_hand():
    """Half the load on the ridge: H = P L / (4 h), the post takes what hangs at its foot (chords too slender to bend)."""
    made = truss("king-post", "--stock 60ft --top 2x4 --bottom 2x4 --bottom-live 0psf")
    frame = made.frame
    heel, apex, foot = frame.joints["heel left"], frame.joints["T1"], frame.joints["B1"]
    c = [one.name for one in made.combined].index("D + S")
    k = {one.name: i for i, one in enumerate(frame.elements)}
    cut = {name: float((made.solved.axial(0.5)[0, i] @ made.factors)[c]) for name, i in k.items()}
    r = made.reactions()["bearing left"]["D + S"]
    # Moments of the left half about the peak, all that lies on it beside the reaction (the splice-free bottom chord is cut in its middle).
    along = made.loaded.along[0] @ made.factors
    taken = r * (apex[0] - frame.joints["bearing left"][0])
    for _name, i in k.items():
        one = frame.elements[i]
        x = (frame.joints[one.i][0] + frame.joints[one.j][0]) / 2.0
        if x < apex[0] - 1.0:
            taken += along[i, 1, c] * frame.length(one) * (apex[0] - x)
    bottom = next(n for n, i in k.items() if frame.elements[i].j == "B1" or frame.elements[i].i == "B1")
    moment = float(
        (made.solved.moment(1.0 if frame.elements[k[bottom]].j == "B1" else 0.0)[0, k[bottom]] @ made.factors)[c]
    )
    assert cut[bottom] * (apex[1] - foot[1]) == pytest.approx(taken - moment, rel=1e-6)
    assert heel[1] == pytest.approx(foot[1])


def test_loads_alike_give_forces_alike():
    made = truss("fink", "--overhang 1ft --stock 60ft")
    axial = {stick.name: made.axial(stick.name)["D + S"] for stick in made.frame.sticks}
    assert axial["TC1"] == pytest.approx(axial["TC2"], rel=1e-9)
    for one, other in (("W1", "W4"), ("W2", "W3")):
        assert axial[one] == pytest.approx(axial[other], rel=1e-9)
    ends = made.reactions()
    assert ends["bearing left"]["D + S"] == pytest.approx(ends["bearing right"]["D + S"], rel=1e-9)


def test_sags_as_pynite_has_them():
    made = truss("fink", "--overhang 1ft --bottom-live 0psf")
    report = truss_report(made, plates=False)
    # Snow alone: what the combination with it adds to dead load.
    rows = {c["name"]: c for c in report["frame"]["combinations"]}
    dead, both = (pynite(report["frame"], rows[name]) for name in ("D", "D + S"))
    down = 0.0
    for e in report["frame"]["elements"]:
        if not e["member"].startswith("BC") or "end" in (e["i"][:3], e["j"][:3]):
            continue
        for x in np.linspace(0.0, 1.0, 11):
            deep = [m.members[e["name"]].deflection("dy", x * m.members[e["name"]].L()) for m in (both, dead)]
            down = max(down, deep[1] - deep[0])
    assert made.sag.demand == pytest.approx(down, rel=1e-3)


@pytest.mark.parametrize("shape", ["king-post", "queen-post", "fink", "double-fink"])
def test_top_chords_sag_between_joints_as_pynite_has_them(shape):
    """Square to the line from joint to joint of webs, of snow alone, over L/180 of that line."""
    made = truss(shape, "--bottom-live 0psf --top 2x6 --stock 40ft")
    report = truss_report(made, plates=False)
    frame, rows = report["frame"], {c["name"]: c for c in report["frame"]["combinations"]}
    dead, both = (pynite(frame, rows[name]) for name in ("D", "D + S"))
    most = 0.0
    for e in frame["elements"]:
        if not e["member"].startswith("TC") or "tip" in e["i"] + e["j"]:
            continue
        off = []
        for x in np.linspace(0.0, 1.0, 11):
            moved = [m.members[e["name"]].deflection("dy", x * m.members[e["name"]].L()) for m in (both, dead)]
            off.append(moved[0] - moved[1])
        bow = [v - off[0] - (off[-1] - off[0]) * k / 10.0 for k, v in enumerate(off)]
        most = max(
            most,
            max(map(abs, bow))
            / (made.frame.length(next(x for x in made.frame.elements if x.i == e["i"] and x.j == e["j"])) / 180.0),
        )
    assert made.between.used == pytest.approx(most, rel=2e-3)


def test_a_chord_by_nds_worked_out_again():
    """S-P-F No. 2: 875, 450, 135, 1150 psi, Emin 510,000 psi (NDS Supplement Table 4A, from memory); 2x4: CF 1.5, 1.5, 1.15."""
    made = truss("fink", "--top 2x4 --bottom 2x4 --webs 2x4 --bottom-live 0psf")
    psi, c = 0.00689475729, [one.name for one in made.combined].index("D + S")
    area, modulus = 1.5 * 3.5 * INCH**2, 1.5 * 3.5**2 / 6 * INCH**3
    k = next(i for i, one in enumerate(made.frame.elements) if (one.i, one.j) == ("T1", "T2"))
    panel = math.dist(made.frame.joints["T1"], made.frame.joints["T2"])
    n = -min(float((made.solved.axial(x)[0, k] @ made.factors)[c]) for x in (0.0, 1.0))
    fc_star, fce = 1150 * psi * 1.15 * 1.15, 0.822 * 510_000 * psi / (panel / (3.5 * INCH)) ** 2
    a = (1 + fce / fc_star) / 1.6
    fc_all = fc_star * (a - math.sqrt(a**2 - fce / fc_star / 0.8))
    fb_all = 875 * psi * 1.15 * 1.5 * 1.15
    worst = 0.0
    for x in np.linspace(0.0, 1.0, 2001):
        m = abs(float((made.solved.moment(x)[0, k] @ made.factors)[c]))
        swell = 1 + (1 / (1 - n / area / fce) - 1) * math.sin(math.pi * x)
        worst = max(worst, m * swell)
    by_hand = (n / area / fc_all) ** 2 + worst / modulus / fb_all
    rows = {name: row for name, _, row in made.uses.rows}
    assert rows["compression and bending"][0, k, c] == pytest.approx(by_hand, rel=0.01)
    assert rows["compression"][0, k, c] == pytest.approx(n / area / fc_all, rel=1e-9)
    web = next(i for i, one in enumerate(made.frame.elements) if (one.i, one.j) == ("T2", "B1"))
    pull = float((made.solved.axial(0.5)[0, web] @ made.factors)[c])
    assert rows["tension and bending"][0, web, c] == pytest.approx(pull / area / (450 * psi * 1.15 * 1.5), rel=1e-9)
    seat = made.bearing[0]
    assert seat.demand == pytest.approx(max(made.reactions()["bearing left"].values()) / (1.5 * 3.5 * INCH**2))
    assert seat.capacity == pytest.approx(425 * psi)


def test_long_webs_get_braces_and_bottom_chords_closer_ones_where_they_lift():
    made = truss("double-fink", "--overhang 1ft --webs 2x4", span=46, pitch="8:12")
    pressed = [
        stick.name
        for stick in made.frame.sticks
        if stick.role == "web" and min(made.axial(stick.name).values()) < -1000.0
    ]
    assert set(made.braces) & set(pressed)
    # Those that are pulled alone are braced where they are more than 80 times as long as thick (ANSI/TPI 1, 6.3).
    frame = made.frame
    for name in set(made.braces) - set(pressed):
        a, b = (frame.joints[joint] for joint in frame.stick(name).joints)
        assert math.dist(a, b) > 80.0 * 1.5 * INCH
    assert all(made.sticks[name][0] <= 1.0 for name in made.braces)
    lifted = truss("fink", "--wind 150mph --exposure D --top-dead 7psf --bottom-dead 3psf")
    assert lifted.braced < 10.0 * FOOT
    assert truss("fink").braced == pytest.approx(10.0 * FOOT)


def test_unbalanced_snow_by_hand():
    """ASCE 7-16, Figure 7.6-2: 0.3 on one side; hd gamma / sqrt(S) over 8 hd sqrt(S) / 3 on the other, pg 30 psf, W 24 ft, 6:12."""
    hd = 0.43 * 24 ** (1 / 3) * (30 + 10) ** 0.25 - 1.5
    gamma = 0.13 * 30 + 14
    part, more, reach = unbalanced(30 * PSF, 0.5, 24 * FOOT)
    assert part == pytest.approx(0.3)
    assert more == pytest.approx(hd * gamma / math.sqrt(2) * PSF, rel=1e-9)
    assert reach == pytest.approx(8 / 3 * hd * math.sqrt(2) * FOOT, rel=1e-9)
    assert unbalanced(30 * PSF, 8 / 12, 24 * FOOT) is None
    made = truss("fink", "--unbalanced --ground-snow 30psf --snow 21psf", span=48)
    rows = {c.name: c for c in made.combined}
    assert "D + S, snow blown to the right" in rows
    left, right = (made.reactions()[f"bearing {side}"]["D + S, snow blown to the right"] for side in ("left", "right"))
    dead = made.reactions()["bearing left"]["D"]
    by_hand = (0.3 * 21 * 24 + 21 * 24 + hd * gamma / math.sqrt(2) * 8 / 3 * hd * math.sqrt(2)) * 2.0 * 4.4482216
    assert left + right - 2 * dead == pytest.approx(by_hand, rel=1e-6)
    assert right > left


def test_own_weight_is_what_the_sticks_weigh():
    bare, own = truss("fink", "--top 2x4 --bottom 2x4"), truss("fink", "--top 2x4 --bottom 2x4 --own-weight")
    more = sum(r["D"] for r in own.reactions().values()) - sum(r["D"] for r in bare.reactions().values())
    long = sum(own.frame.length(one) for one in own.frame.elements)
    assert 0.3 < more / (long * 1.5 * 3.5 * INCH**2) * 1e9 / 9810 < 0.6  # density of dry softwood, kg/m3 / 1000


def test_more_plies_carry_more():
    one, two = (truss("fink", f"--top 2x4 --bottom 2x4 --plies {n}") for n in (1, 2))
    assert two.used == pytest.approx(one.used / 2.0, rel=0.4)
    assert two.reactions() == {k: pytest.approx(v) for k, v in one.reactions().items()}


@pytest.mark.parametrize(("more", "said"), [
    ("--span 0ft", "--span"), ("--heel 2in", "heel"), ("--pitch 0:12", "--pitch"), ("--bearing 20ft", "--bearing"),
    ("--plies 9", "--plies"), ("--top 4x6", "1 1/2 in thick"), ("--species oak", "oak"), ("--overhang 30ft", "--overhang"),
    ("--spacing 1in", "--spacing"), ("--bottom-pitch 9:12", "--bottom-pitch"), ("--stock 3ft", "stock"), ("--grade best", "best"),
    ("--snow 0psf --top-dead 0psf --bottom-dead 0psf --bottom-live 0psf", "nothing lies"),
])  # fmt: skip
def test_what_cannot_be_is_said(more, said, capsys):
    assert main(["truss", *words("fink", more)]) != 0
    out = capsys.readouterr()
    assert said in out.err + out.out
    assert "Traceback" not in out.err


def test_a_room_that_does_not_fit_is_said(capsys):
    assert main(["truss", *words("room", span=20, pitch="4:12")]) != 0
    assert "7 ft" in capsys.readouterr().err


def test_the_command_prints_and_gives_json(capsys):
    assert main(["truss", *words("auto", "--overhang 1ft")]) == 0
    assert "bearing left" in capsys.readouterr().out
    assert main(["truss", *words("auto", "--overhang 1ft --json")]) == 0
    report = json.loads(capsys.readouterr().out)
    assert {"used", "members", "reactions_n", "deflection_mm", "plates", "frame"} <= set(report)
    assert {"name", "role", "start", "end", "length_mm", "section", "used", "governs", "clause", "axial_kn"} <= set(
        report["members"][0]
    )
    names = {row["name"] for row in report["members"]}
    assert {e["member"] for e in report["frame"]["elements"]} <= names
    assert all(row["used"] <= 1.0 for row in report["plates"])


def test_stacked_as_one_by_one():
    """Fifteen of one make, with other spans and loads, against each checked by itself (with the same sections and braces)."""
    like = truss("fink", "--overhang 1ft --top 2x6 --bottom 2x6 --stock 60ft --bottom-brace 6ft")
    ones = [
        truss(
            "fink",
            f"--overhang 1ft --top 2x6 --bottom 2x6 --stock 60ft --bottom-brace 6ft --snow {20 + 2 * k}psf",
            span=20 + k % 4,
        )
        for k in range(8)
    ]
    used = used_in_stack(like, [one.frame for one in ones], [one.job.loads for one in ones], USUAL)
    assert used == pytest.approx([float(one.uses.worst()[0].max()) for one in ones], rel=1e-9)
    with pytest.raises(ValueError, match="alike"):
        used_in_stack(like, [truss("howe").frame], [like.job.loads], USUAL)


@pytest.mark.parametrize(
    ("shape", "span", "pitch", "lower", "stores"),
    [
        ("scissors", 40, "9:12", "1:12", True),
        ("scissors", 26, "12:12", "4:12", True),
        ("fink", 26, "9:12", "0.5:12", True),
        ("howe", 32, "12:12", "4:12", True),
        ("scissors", 24, "8:12", "4:12", False),
        ("fink", 20, "4:12", "1:12", False),
    ],
)
def test_a_box_stands_on_sloped_bottom_chords_too(shape, span, pitch, lower, stores):
    """IRC Table R301.5, note b: the box is moved along by quarters of an inch and set down on the chord by dropping it, once by once."""
    made = truss(shape, f"--bottom-pitch {lower} --heel 12in", span=span, pitch=pitch)
    bodies = shapely.union_all([shapely.Polygon(one.ring) for one in made.sawn.values()])
    chords = [shapely.Polygon(one.ring) for name, one in made.sawn.items() if name[0] == "B"]
    wide, high, outline = 24 * INCH, 42 * INCH, made.frame.outline
    under = shapely.Polygon([*outline.top, (outline.end, -2 * FOOT), (outline.start, -2 * FOOT)])
    fits = False
    for x in np.arange(outline.start, outline.end - wide, 0.25 * INCH):
        strip = shapely.box(x, -10 * FOOT, x + wide, 50 * FOOT)
        heights = [chord.intersection(strip).bounds[3] for chord in chords if chord.intersects(strip)]
        if not heights:
            continue
        low = max(heights) + 0.05
        box = shapely.box(x, low, x + wide, low + high)
        fits = fits or (under.covers(box) and not bodies.intersects(box))
    assert fits == stores
    assert stores_things(made) == stores
