"""What planes of a roof bring to walls, hips, valleys, ridge beams and posts: closed forms, shapely strip by strip, sums."""

import math
import random

import pytest
import shapely
from hypothesis import example, given, settings
from hypothesis import strategies as st
from tests.framing.test_surface_roofs import roofed
from tests.geometry.test_roof_surface import outline as random_outline
from tests.loads.test_beams import balanced

from balken.derive import derive
from balken.design.roof_posts import posts_under_roof
from balken.documents.load_tree import column_tree
from balken.findings.fixes import FIXES
from balken.framing.roof_layout import line_runs
from balken.geometry.plane import add, distance, dot, left, sub, unit
from balken.geometry.roof_surface import RoofLine
from balken.loads.area_loads import roof_cases
from balken.loads.cases import Cases, total
from balken.loads.roof_settling import settle
from balken.loads.roof_statics import LineLoad, spread
from balken.model import edits
from balken.model.errors import EditError
from balken.model.lookup import height, locate
from balken.model.roof_edits import set_side
from balken.units.system import FOOT

RECTANGLE = [(0, 0), (40, 0), (40, 28), (0, 28)]


def beam(p):
    return edits.change(p, "roof-1", ridge_made="beam")


def line_forces(laid):
    return {i: total(p.force for p in on.patches) for i, on in laid.lines.items()}


def test_a_hip_carries_a_triangle():
    """By hand: jacks of both sides bring half their run, 0 at the corner and 14/2 ft twice at the head; a third of it to the foot."""
    model = derive(roofed(RECTANGLE, overhang=0.0))
    plan, framing = model.surfaces[0], model.planes["roof-1"]
    laid = spread(plan, model.project.loads, framing.snow, ())
    y0, y1 = shapely.Polygon(plan.outline.core).bounds[1::2]
    half, q = (y1 - y0) / 2.0, model.project.loads.roof_live / 1000.0
    hips = [on for on in laid.lines.values() if on.line.kind == "hip"]
    assert len(hips) == len(laid.lines) == 4
    for on in hips:
        assert total(p.force for p in on.patches).roof_live == pytest.approx(q * half**2 / 2.0, rel=1e-6)
    for held in framing.lines:
        down, up = (end.roof_live for end in model.standard.check_girder(held.result.case).reactions)
        assert down == pytest.approx(q * half**2 / 6.0, rel=1e-3)
        assert up == pytest.approx(q * half**2 / 3.0, rel=1e-3)
        true = math.hypot(half * math.sqrt(2.0), half * 0.5)
        # W/3, 2 W/3 and 0.1283 W L (closed form), W all that lies on it.
        case = held.result.case
        made = model.standard.check_girder(case)
        worst, dead_live = made.moments[0], case.load.dead + case.load.roof_live
        assert worst == pytest.approx(0.1283 * max(dead_live, case.load.dead + case.load.snow) * true, rel=0.01)


@pytest.mark.parametrize(("wide", "past"), [(6.0, 3.0), (8.0, 2.0), (14.0, 1.0), (14.0, 0.0)])
def test_an_overhang_comes_to_the_eave_by_the_lever(wide, past):
    """Moments about the head of rafters from an eave's wall to that under a single slope's top: what overhangs lifts them there."""
    p = roofed([(0, 0), (40, 0), (40, wide), (0, wide)], overhang=past * FOOT)
    for wall in ("wall-2", "wall-3", "wall-4"):
        p = set_side(p, "roof-1", wall, kind="gable", overhang=0.0)
    model = derive(edits.change(p, "roof-1", pitch=0.25))
    deep, across = model.surfaces[0].deep[0], wide * FOOT
    even = model.project.loads.roof_live * 40.0 * FOOT / 1000.0
    foot = even * across / 2.0
    foot += even * past * FOOT * (across - deep + past * FOOT / 2.0) / (across - 2.0 * deep)
    at = {w: total(r.force for r in model.path.reactions if r.bearer == w).roof_live for w in ("wall-1", "wall-3")}
    assert at["wall-1"] == pytest.approx(foot, rel=1e-4)
    assert at["wall-3"] == pytest.approx(even * (across + past * FOOT) - foot, rel=1e-3)
    balanced(model)


def test_a_ridge_beam_is_chosen_as_if_overhangs_lay_bare():
    """What overhangs lifts it, in the load path; snow may lie between the walls alone (ASCE 7-16, 7.5; 4.3.3 for what lives on it)."""
    p = beam(roofed(RECTANGLE, overhang=2.0 * FOOT))
    for wall in ("wall-2", "wall-4"):
        p = set_side(p, "roof-1", wall, kind="gable", overhang=0.0)
    model = derive(p)
    plan, snow = model.surfaces[0], model.snow["roof-1"]
    (laid,), (worst,) = (
        spread(plan, model.project.loads, snow, (), most=most).lines.values() for most in (False, True)
    )
    q, deep = model.project.loads.roof_live / 1000.0, plan.deep[0]
    bare = q * 40.0 * FOOT * 14.0 * FOOT
    lifts = 2.0 * q * 40.0 * FOOT * 2.0 * FOOT * (1.0 * FOOT + deep) / (14.0 * FOOT - deep)
    on = [total(p.force for p in one.patches).roof_live for one in (laid, worst)]
    assert on == pytest.approx([bare - lifts, bare], rel=1e-4)
    (held,) = model.planes["roof-1"].lines
    assert sum(end.roof_live for end in model.standard.check_girder(held.result.case).reactions) == pytest.approx(
        bare, rel=1e-3
    )
    balanced(model)


def test_a_valley_takes_all_of_jacks_that_lean_on_a_ridge_board_and_half_with_a_ridge_beam():
    """A house with a wing: over a valley jacks run from it to a ridge."""
    for made, part in (("board", 1.0), ("beam", 0.5)):
        model = derive(edits.change(roofed(overhang=0.0), "roof-1", ridge_made=made))
        plan = model.surfaces[0]
        laid = spread(plan, model.project.loads, model.snow["roof-1"], ())
        q, jacks = model.project.loads.roof_live / 1000.0, _by_strips(plan, made)[0]
        valleys = {i: on for i, on in laid.lines.items() if on.line.kind == "valley"}
        assert valleys
        for i, on in valleys.items():
            on_it = total(p.force for p in on.patches).roof_live
            assert on_it == pytest.approx(jacks[i] * q, rel=0.01)
            # By hand: with r the run to the wing's ridge and R that to the main one, jacks r - s and R - s long: R r in all.
            half = (
                shapely.Polygon(plan.outline.core[:3]).bounds[3] - shapely.Polygon(plan.outline.core).bounds[1]
            ) / 2.0
            if on.low[0] > 25.0 * FOOT:  # beside the other valley some end at a hip, not at the ridge
                assert on_it == pytest.approx(part * q * half * on.run / math.sqrt(2.0), rel=1e-6)


def _by_strips(plan, made, count=800):
    """Area brought to each line and wall of the outline by strips of each plane: shapely cuts them, the nearest line at an end holds it."""
    core = plan.outline.core
    lines = [shapely.LineString([x.start[:2], x.end[:2]]) for x in plan.surface.lines]
    on_lines, on_walls = {}, 0.0
    first = {n: run.numbers[0] for run in line_runs(plan.surface) for n in run.numbers}
    for face in plan.surface.faces:
        a, b = core[face.edge], core[(face.edge + 1) % len(core)]
        way = unit(a, b)
        inward, polygon = left(way), shapely.Polygon([p[:2] for p in face.ring])
        along = [dot(way, sub(p[:2], a)) for p in face.ring]
        wide = (max(along) - min(along)) / count
        for k in range(count):
            at = add(a, way, min(along) + (k + 0.5) * wide)
            cut = shapely.LineString([add(at, inward, -1e5), add(at, inward, 1e5)]).intersection(polygon)
            for part in getattr(cut, "geoms", [cut]):
                if part.geom_type != "LineString" or part.length < 1.0:
                    continue
                ends = sorted(part.coords, key=lambda p: dot(inward, sub(p, a)))
                held = [_nearest(p, lines, plan, made, face.edge) for p in ends]
                share = 0.5 if all(h is not None for h in held) else 1.0
                for h in held:
                    if isinstance(h, int):
                        on_lines[first[h]] = on_lines.get(first[h], 0.0) + part.length * wide * share
                    elif h is not None:
                        on_walls += part.length * wide * share
    return on_lines, on_walls


def _nearest(p, lines, plan, made, edge):
    k = min(
        (k for k, x in enumerate(plan.surface.lines) if edge in x.edges),
        key=lambda k: lines[k].distance(shapely.Point(p)),
    )
    kind = plan.surface.lines[k].kind
    if kind in ("hip", "valley") or (kind == "ridge" and made == "beam"):
        return k
    in_air = kind == "rake" and -1 in plan.surface.lines[k].edges
    return None if kind == "ridge" or in_air else "wall"


@given(seed=st.integers(0, 10**6), right=st.booleans(), made=st.sampled_from(["board", "beam"]))
@settings(max_examples=20)
@example(seed=5, right=False, made="board")
@example(seed=63, right=False, made="beam")
def test_lines_and_walls_carry_all_beside_them_uneven_as_it_lies(seed, right, made):
    """Planes narrow and widen along their lines; all that lies on the roof arrives at the outline's walls."""
    rng = random.Random(seed)
    ring = random_outline(rng, rng.randint(1, 3), right)
    if ring is None:
        return
    try:
        p = roofed([(x / FOOT, y / FOOT) for x, y in ring], overhang=0.0)
        for wall in p.walls[::3]:
            p = set_side(p, "roof-1", wall.id, pitch=rng.choice([0.25, 0.5, 1.0]), kind=rng.choice(["eave", "gable"]))
        p = edits.change(p, "roof-1", ridge_made=made)
    except EditError:
        return
    model = derive(p)
    for plan in model.surfaces:
        if plan.problem:
            continue
        laid = spread(plan, p.loads, model.snow["roof-1"], ())
        on_lines, _ = _by_strips(plan, made)
        q = p.loads.roof_live / 1000.0
        for i, force in line_forces(laid).items():
            assert force.roof_live == pytest.approx(on_lines.get(i, 0.0) * q, rel=0.04, abs=60.0)
        whole = total(roof_cases(p.loads, face.pitch).scaled(face.plan_area / 1000.0) for face in plan.surface.faces)
        roof = [r.force for r in laid.walls if not r.piece.endswith("/ceiling")]
        brought = total((*roof, *line_forces(laid).values()))
        assert brought.all == pytest.approx(whole.all, rel=1e-6)
    balanced(model)


def test_what_nothing_holds_is_told_and_comes_down_the_hips():
    model = derive(roofed(RECTANGLE, overhang=0.0))
    framing = model.planes["roof-1"]
    assert len(framing.carried.settled.unheld) == 2
    q, plan = model.project.loads.roof_live / 1000.0, model.surfaces[0]
    y0, y1 = shapely.Polygon(plan.outline.core).bounds[1::2]
    for end in framing.carried.settled.unheld:
        assert end.force.roof_live == pytest.approx(2.0 * q * ((y1 - y0) / 2.0) ** 2 / 3.0, rel=1e-3)
        assert len(end.lines) == 2
    walls = {r.bearer for r in framing.carried.settled.points}
    assert walls == {w.id for w in model.project.walls if w.role == "outside"} or len(walls) == 4
    balanced(model)


def test_settled_sums_whatever_holds_the_ends():
    model = derive(roofed())
    plan, loads = model.surfaces[0], model.project.loads
    for posts in ((), (("post-1", model.planes["roof-1"].carried.settled.unheld[0].at[:2]),)):
        laid = spread(plan, loads, model.snow["roof-1"], posts)
        held = {}
        for i, on in laid.lines.items():
            force = total(p.force for p in on.patches)
            held[i] = on, (force.scaled(0.4), force.scaled(0.6))
        made = settle(plan, {i: f"{i}" for i in held}, held, posts)
        told = total(r.force for r in made.points)
        assert told.all == pytest.approx(total(line_forces(laid).values()).all)
        assert all(r.bearer for r in made.points)
        assert any(r.bearer == "post-1" for r in made.points) == bool(posts)
        assert all(distance(u.at[:2], at) > 1.0 for u in made.unheld for _, at in posts)


def test_posts_hold_the_ends_and_carry_them_to_the_ground():
    p = beam(roofed())
    model = derive(p)
    (hip, *_) = [f for f in model.findings if f.code == "end of hip"]
    before = model.planes["roof-1"].carried.settled
    q = FIXES[hip.fix.command](p, *hip.fix.args)
    after = derive(q)
    assert len(after.planes["roof-1"].carried.settled.unheld) == len(before.unheld) - 1
    (post,) = q.columns
    brought = next(u.force for u in before.unheld if distance(u.at[:2], locate(post.place, q.grids)) < 1.0)
    assert after.path.columns[post.id].head.all == pytest.approx(brought.all, rel=1e-6)
    # Its head is cut to the underside of the lowest of what it holds.
    top = after.path.columns[post.id].stand.head
    ends = [
        after.piece(after.planes["roof-1"].carried.names[i])
        for u in before.unheld
        if u.force is brought
        for i in u.lines
    ]
    assert top < min(max(z for _, _, z in piece.solid.corners()) for piece in ends)
    balanced(after)
    while end := next((f for f in derive(q).findings if f.code == "end of hip"), None):
        q = FIXES[end.fix.command](q, *end.fix.args)
    whole = derive(q)
    assert not [f for f in whole.findings if f.stage == "roof"]
    balanced(whole)
    tree = column_tree(whole, q.columns[0].id)
    assert {"Roof: 2 ends of hips", "Roof: ends of ridge beams"} <= {b.label for b in tree.children}
    assert total(b.load for b in tree.children).all == pytest.approx(tree.load.all)


def test_a_post_in_the_middle_makes_a_line_bear_there():
    p = beam(roofed(RECTANGLE, overhang=0.0))
    model = derive(p)
    plan = model.surfaces[0]
    (ridge,) = [on for on in spread(plan, p.loads, model.snow["roof-1"], ()).lines.values() if on.line.kind == "ridge"]
    middle = ((ridge.low[0] + ridge.high[0]) / 2.0 - 700.0, ridge.low[1])
    q = posts_under_roof(p, "roof-1", (*middle, ridge.low[2]))
    held = derive(q)
    (carried,) = held.path.columns.values()
    whole = total(p.force for p in ridge.patches)
    assert 0.5 * whole.all < carried.head.all < 0.75 * whole.all  # 5/8 on the middle one of three alike
    was, now = (next(x for x in m.planes["roof-1"].lines if "plane-ridge" in x.key) for m in (model, held))
    assert len(now.result.case.supports) == 3
    assert now.result.used < was.result.used or now.size != was.size
    balanced(held)


def test_a_post_under_a_roof_stands_on_the_wall_below():
    p = roofed(RECTANGLE, overhang=0.0)
    core = derive(p).surfaces[0].outline.core
    x = sum(a for a, _ in core) / 4.0
    p = edits.add_wall(
        p, (x, core[0][1]), (x, core[2][1]), p.walls[0].buildup, p.walls[0].foot, p.walls[0].head, role="bearing"
    )
    q = posts_under_roof(p, "roof-1", (x, 4_000.0, 1_500.0))
    wall = derive(q).lines[q.walls[-1].id]
    assert height(q.columns[-1].foot, q.levels) == pytest.approx(wall.band.top)


def test_a_line_shorter_than_a_node_settles_on_its_place_and_not_on_itself():
    """Both ends of a hip of less than a mm lie at one place: what comes there goes on as it came, once."""
    plan = derive(roofed([(0, 0), (40, 0), (40, 28), (0, 28)])).surfaces[0]
    low, high = (3000.0, 3000.0, 500.0), (3000.3, 3000.0, 500.5)
    longer = RoofLine("valley", high, (6000.0, 6000.0, 2000.0), (1, 2))
    lies = {
        k: (LineLoad(line, line.start, line.end, (), ()), (Cases(snow=100.0), Cases(snow=300.0)))
        for k, line in enumerate((longer, RoofLine("hip", low, high, (0, 1))))
    }
    made = settle(plan, {0: "valley", 1: "hip"}, lies, ())
    assert sum(r.force.snow for r in made.points) == pytest.approx(800.0)
