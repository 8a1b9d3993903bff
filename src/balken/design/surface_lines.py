"""Hips, valleys, ridge beams and purlins of roofs of planes: what each carries, its board, what comes to its ends.

They are beams under what rafters bring them (``loads.roof_statics``), along their true length.
"""

import math
from collections.abc import Callable, Mapping
from typing import NamedTuple

from msgspec import field
from msgspec.structs import replace

from balken.catalog.section_record import Section
from balken.catalog.sections import RIDGE_BEAMS, section
from balken.framing.line_levels import hip_drop, is_backed, line_drop
from balken.framing.line_posts import POST
from balken.framing.pieces import MadeOf, Snag
from balken.framing.purlins import Purlin, underside
from balken.framing.ridge_seats import bears_on, lowest_drop, under_edges
from balken.framing.roof_layout import RoofMember, line_runs
from balken.framing.surface_edits import line_made
from balken.framing.surface_members import AS_OTHERS, SurfaceMember, deep_enough
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.plane import distance, off_line
from balken.loads.area_loads import Reaction
from balken.loads.cases import Cases, total
from balken.loads.hip_ring import HipRing, hip_ring
from balken.loads.roof_feet import NOTHING, Foot, UnderRoofs
from balken.loads.roof_settling import Settled, settle
from balken.loads.roof_snow import RoofSnow
from balken.loads.roof_statics import LineLoad, Posts, Spread, spread
from balken.loads.roof_wind import PartsWind
from balken.model.records import Loads, MemberEdit
from balken.standards.checks import GirderResult, MemberResult
from balken.standards.demands import GirderCase, Limit
from balken.standards.measures import working
from balken.standards.standard import Standard
from balken.units.system import FOOT, INCH
from balken.value import Value

PLATE = 3.5 * INCH
"""Bearing of a hip or valley on the plates at its foot; of one in its hanger at its head half of that, mm."""
SPARE = 1.75
"""More than a section may carry beyond what its sides tell: plies side by side (NDS 4.3.9: 1.15), shallower ones (CF, 1.5 at most)."""
MUCH = 100.0 * FOOT * FOOT
"""What carries so much of a roof or more is sucked no less than this, mm2."""
APART = 1.0
"""What lies on a line over less than this is left out of its check, mm."""
MOST = Limit(180.0, "IRC R301.7")
ALL_LOAD = Limit(120.0, "NDS 3.5.2")


class HeldLine(NamedTuple):
    """A hip, valley or ridge beam: its board, its checks, what comes to its lower and its upper end at most, N."""

    key: str
    size: str
    result: MemberResult
    foot: float
    head: float


NO_PUSH = Cases()
NO_EDITS: Mapping[str, MemberEdit] = {}


class CarriedLines(Value, frozen=True):
    """The lines of a roof designed, in their order: ``boards`` by name; ``names``: of their boards, by the numbers of the surface's lines.

    ``walls``: what rafters bring to walls; ``settled``: what comes down at the ends of lines; ``undersides``: how high those lie
    over each post that holds one, mm; ``heaps``: what of the snow lies in drifts, N; ``thick``: of lines by their kind and edges, mm.
    """

    lines: tuple[HeldLine, ...]
    names: dict[int, str]
    boards: dict[str, str]
    walls: tuple[Reaction, ...]
    settled: Settled
    undersides: dict[str, float]
    heaps: Cases
    thick: dict[tuple[str, frozenset[int]], float]
    onto: tuple[Foot, ...] = ()
    """What comes down on roofs below."""
    own: Mapping[str, MadeOf] = field(default_factory=dict)
    """What lines are made of that are changed by hand."""
    snags: tuple[Snag, ...] = ()
    ring: HipRing | None = None
    """How hips keep one another in balance whose heads nothing holds."""


Held = tuple[HeldLine, tuple[Cases, ...]]
"""A line held, and what its supports take, N."""


def carry_lines(
    plan: SurfacePlan,
    members: tuple[SurfaceMember, ...],
    size: str,
    loads: Loads,
    snow: RoofSnow,
    posts: Posts,
    standard: Standard,
    over: UnderRoofs = NOTHING,
    laid_purlins: tuple[Purlin, ...] = (),
    edits: Mapping[str, MemberEdit] = NO_EDITS,
    wind: PartsWind | None = None,
) -> CarriedLines:
    """Lay a roof's load on its lines and its purlins, choose a board for each, bring what they carry to walls and posts; ``size``: of
    rafters, ``over``: what lies over the roof; ``edits``: of lines by hand, by their names; ``wind``: on parts of it, which bends them upward.
    """
    steepest = max((plan.edges[m.member.edges[0]].pitch for m in members if m.wall), default=plan.roof.pitch)
    laid = spread(plan, loads, snow, posts, over, laid=laid_purlins)
    worst = _worst(plan, loads, snow, posts, over, laid_purlins, _lifts(plan, wind, standard)) or laid
    by_number = {len(plan.surface.lines) + k: one for k, one in enumerate(laid_purlins)}
    names = _names(plan, members) | {i: one.key for i, one in by_number.items()}
    by_key = {one.key: one.member for one in members}

    def hold(i: int, only: str = "", wood: MadeOf = AS_OTHERS, push: Cases = NO_PUSH) -> Held:
        known = names[i], by_key.get(names[i])
        return _held(plan, known, laid.lines[i], worst.lines[i], size, steepest, standard, only, wood, push)

    made = {i: hold(i) for i in laid.lines}
    made |= _alike({i: made[i] for i in by_number}, hold)
    by_hand, own, snags = _by_hand(plan, laid.lines, made, names, edits, hold)
    made |= by_hand
    boards = {line.key: line.size for line, _ in made.values()}
    thick: dict[tuple[str, frozenset[int]], float] = {
        (line.kind, frozenset(line.edges)): section(boards[names[run.numbers[0]]]).breadth
        for run in line_runs(plan.surface)
        if run.numbers[0] in made
        for line in (plan.surface.lines[n] for n in run.numbers)
    }
    settled = settle(plan, names, {i: (laid.lines[i], forces) for i, (_, forces) in made.items()}, posts)
    ring, pressed = _in_balance(plan, laid, made, settled, snow, (names, own), hold)
    made |= pressed
    boards |= {line.key: line.size for line, _ in pressed.values()}
    under = _undersides(plan, laid.lines, names, members, boards, posts, (by_number, size))
    return CarriedLines(
        tuple(line for line, _ in made.values()),
        names,
        boards,
        laid.walls,
        settled,
        under,
        laid.heaps,
        thick,
        (*laid.onto, *settled.onto),
        own,
        snags,
        ring,
    )


def _worst(
    plan: SurfacePlan,
    loads: Loads,
    snow: RoofSnow,
    posts: Posts,
    over: UnderRoofs,
    purlins: tuple[Purlin, ...],
    up: dict[int, float],
) -> Spread | None:
    """Return a roof's load as lines are chosen for it, where that is another: with the most snow on each plane, overhangs, which lift ridge
    beams and purlins, bare, and with what wind lifts.
    """
    heavier = any(lies.most > lies.laid for lies in snow.planes) or bool(purlins and (snow.bands or over.covered))
    heavier |= bool(up) or ((plan.roof.ridge_made != "board" or bool(purlins)) and max(plan.overhangs) > 0.0)
    return spread(plan, loads, snow, posts, over, most=True, laid=purlins, up=up) if heavier else None


def _lifts(plan: SurfacePlan, wind: PartsWind | None, standard: Standard) -> dict[int, float]:
    """Return what wind lifts of each plane, by its edge, kN/m2 of plan: as along edges, on what carries much (zone 2)."""
    if wind is None:
        return {}
    made = {face.edge: standard.rafter_wind(wind, face.pitch, MUCH) for face in plan.surface.faces}
    return {edge: row.along for edge, row in made.items() if row is not None}


def _in_balance(
    plan: SurfacePlan,
    laid: Spread,
    made: Mapping[int, Held],
    settled: Settled,
    snow: RoofSnow,
    known: tuple[Mapping[int, str], Mapping[str, MadeOf]],
    hold: Callable[[int, str, MadeOf, Cases], Held],
) -> tuple[HipRing | None, dict[int, Held]]:
    """Return how hips keep one another in balance whose heads no post holds, and these made for what presses them; ``known``: names of lines,
    and of what those are that are changed by hand.
    """
    names, own = known
    ends = [end for end in settled.unheld if all(laid.lines[i].line.kind != "purlin" for i in end.lines)]
    ring = hip_ring(plan, ends, laid.lines, snow)
    found = dict[int, Held]()
    for i, push in ring.pushes.items() if ring is not None else ():
        if i not in made:
            continue  # a board between hips, which carries nothing
        on, (line, forces) = laid.lines[i], made[i]
        rise = on.high[2] - on.low[2]
        # At its foot what lies on itself presses along it, too: taken so all along, the safe side.
        whole = push.plus(forces[0].scaled(rise / math.hypot(on.run, rise)))
        wood = own.get(names[i], AS_OTHERS)
        found[i] = hold(i, line.size if names[i] in own else "", wood, _rounded6(whole))
    return ring, found


def _alike(purlins: dict[int, Held], hold: Callable[[int, str], Held]) -> dict[int, Held]:
    """Return purlins that are alike all over a roof: of the section, of those chosen, that is used least."""
    sizes = tuple(dict.fromkeys(line.size for line, _ in purlins.values()))
    if len(sizes) < 2:
        return {}
    tries = [{i: hold(i, one) for i in purlins} for one in sizes]
    return min(tries, key=lambda rows: max(line.result.used for line, _ in rows.values()))


def _by_hand(
    plan: SurfacePlan,
    lines: Mapping[int, LineLoad],
    made: Mapping[int, Held],
    names: Mapping[int, str],
    edits: Mapping[str, MemberEdit],
    hold: Callable[[int, str, MadeOf], Held],
) -> tuple[dict[int, Held], dict[str, MadeOf], tuple[Snag, ...]]:
    """Return the lines that are made of something else by hand, of what, and what could not be done."""
    found, own, snags = dict[int, Held](), dict[str, MadeOf](), list[Snag]()
    for i, on in lines.items():
        edit = edits.get(names[i])
        if edit is None:
            continue
        layout = made[i][0].size
        wood = line_made(edit, layout)
        if _no_seat(plan, on, wood.sized(layout)):
            at = (*on.low[:2], plan.bearing + on.low[2])
            why = "a ridge beam under rafters stays as thick as those on offer for its roof"
            snags.append(Snag("hand edit", why, plan.roof.id, at))
            continue
        own[names[i]] = wood
        found[i] = hold(i, wood.sized(layout), wood)
    return found, own, tuple(snags)


def _no_seat(plan: SurfacePlan, on: LineLoad, size: str) -> bool:
    """Whether a ridge beam under rafters is thinner or thicker than those by whose seats they are checked."""
    under = on.line.kind == "ridge" and frozenset(on.line.edges) in under_edges(plan)
    wide = [section(name).breadth for name in ((plan.roof.ridge_size,) if plan.roof.ridge_size else RIDGE_BEAMS)]
    return under and not min(wide) - 0.1 <= section(size).breadth <= max(wide) + 0.1


def _names(plan: SurfacePlan, members: tuple[SurfaceMember, ...]) -> dict[int, str]:
    """Return the names of the boards along the lines of the surface, by the number of the first of each."""
    known = {
        (m.role, m.edges, *sorted((m.start, m.end))): one.key for one in members if not one.wall for m in (one.member,)
    }
    runs = (
        (run, (run.line.kind, run.edges, *sorted((run.line.start, run.line.end)))) for run in line_runs(plan.surface)
    )
    return {run.numbers[0]: known[name] for run, name in runs if name in known}


def _held(
    plan: SurfacePlan,
    known: tuple[str, RoofMember | None],
    on: LineLoad,
    worst: LineLoad,
    rafter: str,
    pitch: float,
    standard: Standard,
    only: str = "",
    wood: MadeOf = AS_OTHERS,
    push: Cases = NO_PUSH,
) -> Held:
    """Choose the board of a hip, valley or ridge beam: the first that works of those deep enough (``only``: one), and what its supports
    take, N; ``known``: its name, and itself; ``wood``: of which species and grade where not as the rafters; ``push``: along it.
    """
    slope = (on.high[2] - on.low[2]) / on.run
    level = on.line.kind == "purlin"  # as deep as the rafters that it holds (IRC R802.4.5)
    tried: tuple[str, ...] = (
        *deep_enough(rafter, slope, 0.0 if level else pitch),
        *(n for n in RIDGE_BEAMS if section(n).depth >= section(rafter).depth),
    )
    if level and plan.roof.purlin_size is not None:
        tried = (plan.roof.purlin_size,)
    if on.line.kind == "ridge" and frozenset(on.line.edges) in under_edges(plan):
        tried = RIDGE_BEAMS
    if on.line.kind == "ridge" and plan.roof.ridge_size is not None:
        tried = (plan.roof.ridge_size,)
    made, failed = None, list[tuple[Section, float]]()
    for size in (only,) if only else tried:
        lumber = section(size)
        if lumber.kind == "sawn" and any(_no_better(lumber, was) * SPARE < used for was, used in failed):
            continue
        found = _backed(plan, known[1], lumber, standard.check_girder(_line_case(plan, worst, size, wood, push)))
        found = _at_seat(plan, known[1], size, found, standard, wood)
        if made is None or found.used < made[1].used:
            made = (size, found)
        if found.used <= 1.0:
            break
        if lumber.kind == "sawn":
            failed.append((lumber, found.used))
    assert made is not None
    ends, forces = made[1].extremes, made[1].reactions
    if worst is not on:
        forces = standard.check_girder(_line_case(plan, on, made[0], wood, push)).reactions
    # What its check rounds off, and patches too short for it, come to its lower end: no load is lost.
    missed = total(p.force for p in on.patches).plus(total(forces).scaled(-1.0))
    return HeldLine(known[0], made[0], made[1].result, ends[0][0], ends[-1][0]), (forces[0].plus(missed), *forces[1:])


def _backed(plan: SurfacePlan, m: RoofMember | None, lumber: Section, found: GirderResult) -> GirderResult:
    """Return the checks of a hip as those of one no deeper than its bevelled edges leave it: less by the cube of its depth, the safe side."""
    if m is None or not is_backed(plan, m, lumber):
        return found
    gone = hip_drop(plan, m, lumber.breadth) * math.cos(math.radians(m.slope))
    left = (max(lumber.depth - gone, 1.0) / lumber.depth) ** 3
    note = working("times ({} / {})^3: backed", (lumber.depth - gone, "length"), (lumber.depth, "length"))
    checks = tuple(
        replace(one, capacity=one.capacity * left, working=(*one.working, note)) for one in found.result.checks
    )
    return replace(found, result=replace(found.result, checks=checks))


def _at_seat(
    plan: SurfacePlan, m: RoofMember | None, size: str, found: GirderResult, standard: Standard, own: MadeOf
) -> GirderResult:
    """Return the checks of a hip or valley with those of where it is cut out: for the plates it stands on, for a ridge beam under its head."""
    if m is None or m.role == "ridge":
        return found
    lumber, steep, wood = section(size), 1.0 / math.cos(math.radians(m.slope)), plan.roof.rafters
    drop, lefts = line_drop(plan, m, lumber), list[tuple[float, float]]()
    if any(abs(m.start[2] - plan.edges[e].start) <= 1.0 for e in m.edges if e >= 0):
        lefts.append((plan.plate_to_top - drop, found.extremes[0][0]))
    ridge = bears_on(plan, m)
    if ridge:
        lefts.append((lowest_drop(plan, ridge) - drop, found.extremes[-1][0]))
    made = own.species or wood.species, own.grade or wood.grade
    more = [
        standard.seat_shear(size, *made, left / steep, force) for left, force in lefts if left / steep < lumber.depth
    ]
    if not more:
        return found
    checks = tuple(sorted((*found.result.checks, max(more, key=lambda one: one.used)), key=lambda one: -one.used))
    return replace(found, result=replace(found.result, checks=checks))


def _no_better(one: Section, than: Section) -> float:
    """Return how many times what another section carries one may: nothing grows faster than with its breadth and the cube of its depth."""
    return one.breadth / than.breadth * max(one.depth / than.depth, 1.0) ** 3


def _line_case(
    plan: SurfacePlan, on: LineLoad, size: str, wood: MadeOf = AS_OTHERS, push: Cases = NO_PUSH
) -> GirderCase:
    """Return the case of a hip, valley or ridge beam."""
    true = math.dist(on.low, on.high)
    # By its true length: what lies on a mm in plan lies on more of it.
    more = true / on.run
    patches = tuple(
        (
            round(p.start * more, 3),
            round(p.end * more, 3),
            _rounded6(p.first.scaled(1.0 / more)),
            _rounded6(p.last.scaled(1.0 / more)),
        )
        for p in on.patches
        if p.end - p.start > APART
    )
    roof = plan.roof
    between = tuple(round(along * more, 3) for _, along in on.between)
    seats = (PLATE, *(PLATE for _ in between), PLATE / 2.0)
    return GirderCase(
        "beam", size, wood.species or roof.rafters.species, wood.grade or roof.rafters.grade, round(true, 3), (0.0, *between, round(true, 3)), seats,
        patches, (), 16.0 * INCH, False, bool(between), MOST, ALL_LOAD, push=push,
    )  # fmt: skip


def _rounded6(cases: Cases) -> Cases:
    return Cases(*(round(v, 6) for v in cases))


def _undersides(
    plan: SurfacePlan,
    lines: dict[int, LineLoad],
    names: dict[int, str],
    members: tuple[SurfaceMember, ...],
    boards: dict[str, str],
    posts: Posts,
    purlins: tuple[dict[int, Purlin], str],
) -> dict[str, float]:
    """Return how high the lowest of the lines that each post holds is there, mm; ``purlins``: by their numbers, and the rafters' section."""
    by_key, found = {one.key: one.member for one in members}, dict[str, float]()
    for i, on in lines.items():
        lumber, m = section(boards[names[i]]), by_key.get(names[i])
        slope = (on.high[2] - on.low[2]) / on.run
        if m is not None:
            drop = line_drop(plan, m, lumber) + lumber.depth * math.hypot(1.0, slope)
        else:
            lowest = underside(plan, purlins[0][i], boards[names[i]], purlins[1])
            drop = plan.bearing + plan.plate_to_top + on.low[2] - lowest
        for post, at in posts:
            along = off_line(at, on.low[:2], on.high[:2])[0]
            at_end = min(distance(at, on.low[:2]), distance(at, on.high[:2])) <= POST
            if at_end or any(name == post for name, _ in on.between):
                z = plan.bearing + plan.plate_to_top + on.low[2] + slope * min(max(along, 0.0), on.run) - drop
                found[post] = min(z, found.get(post, z))
    return found
