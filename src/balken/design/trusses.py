"""Roof trusses designed: solved by case, combined, every stick checked; sections chosen by groups, webs braced where they need it."""

import itertools
import math
from collections.abc import Callable
from functools import cached_property

import numpy as np
from msgspec.structs import replace
from numpy.typing import NDArray

from balken.analysis.frames import FrameError, Loaded, Solved, solve_frames
from balken.catalog.sections import section
from balken.design.bearing_blocks import BearingBlocks, bearing_blocks
from balken.design.truss_demands import EVEN, PARTS, held_aside, panels_of, stick_demands
from balken.design.truss_groups import CHORD_SIZES, deeper_chords, grown, least_sizes
from balken.design.truss_job import Combined, TrussJob, Wood
from balken.framing.truss_camber import lifted
from balken.framing.truss_outline import Bearing, TrussError, TrussOutline, height_on
from balken.framing.truss_points import at_bends, on_bearings, with_points
from balken.framing.truss_sticks import Sawn, sawn_sticks
from balken.framing.truss_webs import HIPS, PATTERNS, Pattern, chosen
from balken.framing.trusses import ROLES, Role, Sizes, TrussFrame, truss_frame
from balken.geometry.plane import Point
from balken.loads.cases import COUNT, Cases
from balken.loads.truss_loads import TrussLoads, laid_on
from balken.standards.checks import Check
from balken.standards.demands import Limit
from balken.standards.standard import Standard
from balken.standards.truss_demands import StickDemands, StickUses
from balken.value import Lazy

Array = NDArray[np.float64]
LEAST_ELEMENT = 0.5
"""Joints along a stick lie no nearer to one another, mm: between them nothing can be solved."""
TRIES = 40
"""Steps in which groups grow."""
SOMEONE = 1.25
"""Load duration of someone who works on it: seven days, as for construction (NDS 2.3.2)."""
PANEL = 600.0
"""Nobody is looked for in the middle of a shorter panel, mm."""
BETWEEN = Limit(180.0, "IRC R301.7")
"""Of the sag of top chords between joints: as of rafters."""


class TrussDesign(Lazy, frozen=True, eq=False):
    """A truss designed.  ``combined``: its combinations; ``braces``: of each web that needs them, how many braces hold it aside;
    ``braced``: how far apart those of the bottom chord stand, mm."""

    job: TrussJob
    shape: str
    pattern: Pattern
    frame: TrussFrame
    sawn: dict[str, Sawn]
    e: tuple[float, ...]
    loaded: Loaded
    solved: Solved
    combined: tuple[Combined, ...]
    demands: StickDemands
    uses: StickUses
    braces: dict[str, int]
    braced: float
    bearing: tuple[Check, ...]
    sag: Check
    between: Check
    """The sag of its top chord between joints."""
    cut: dict[str, Sawn]
    """Its sticks as they are cut: those of the truss built up, where it is."""
    blocks: tuple[BearingBlocks, ...] = ()
    """At bearings on which its bottom chord alone would be crushed."""

    @property
    def camber(self) -> float:
        """How much it is built up in its middle, mm: nothing where it cannot be."""
        return self.job.camber if self.cut is not self.sawn else 0.0

    @property
    def dead_sag(self) -> float:
        """How far its bottom chord sags at its joints under what always lies on it, mm."""
        names = {name for one in self.frame.sticks if one.role == "bottom chord" for name in one.joints}
        at = [k for k, name in enumerate(self.frame.joints) if name in names]
        return float(max(-self.solved.moves[0, at, 1, Cases._fields.index("dead")].min(), 0.0))

    @cached_property
    def factors(self) -> Array:
        """Factors of combinations on columns (columns, combinations)."""
        return np.array([one.factors for one in self.combined]).T

    @cached_property
    def at_ends(self) -> tuple[Array, Array]:
        """Axial forces and shears at both ends of each element in each combination (2, elements, combinations)."""
        axial, shear = (
            row[:, 0] @ self.factors for row in (self.solved.axials((0.0, 1.0)), self.solved.shears((0.0, 1.0)))
        )
        return axial, shear

    @cached_property
    def sticks(self) -> dict[str, tuple[float, str, str, str]]:
        """Of each stick how far it is used, the check that governs, its clause, the combination."""
        every = np.stack([row[0] for _, _, row in self.uses.rows])
        found = {}
        for stick in self.frame.sticks:
            at = [k for k, one in enumerate(self.frame.elements) if one.stick == stick.name]
            part = every[:, at]
            which, _, combo = np.unravel_index(part.argmax(), part.shape)
            name, clause, _ = self.uses.rows[int(which)]
            found[stick.name] = (float(part.max()), name, clause, self.combined[int(combo)].name)
        return found

    @property
    def others(self) -> tuple[Check, ...]:
        """What is checked beside its sticks: seats, sags."""
        return (*self.bearing, self.sag, self.between)

    @property
    def heel(self) -> float:
        """From its first bearing to its top edge at the outer face, mm."""
        outline = self.frame.outline
        return height_on(outline.top, outline.heels[0]) - outline.bearings[0].level

    @property
    def used(self) -> float:
        """How far it is used: its sticks, seats and sag; plates are chosen so that they hold."""
        return max([*(row[0] for row in self.sticks.values()), *(check.used for check in self.others)])

    def axial(self, stick: str) -> dict[str, float]:
        """Return the greatest axial force along a stick in each combination, N, pulling above zero."""
        at = [k for k, one in enumerate(self.frame.elements) if one.stick == stick]
        rows = np.concatenate([(self.solved.axial(part)[0, at] @ self.factors) for part in (0.0, 1.0)])
        which = np.abs(rows).argmax(axis=0)
        return {c.name: float(rows[which[k], k]) for k, c in enumerate(self.combined)}

    def reactions(self) -> dict[str, dict[str, float]]:
        """Return what each bearing carries in each combination, N, upward above zero."""
        found = {}
        for k, name in enumerate(self.frame.joints):
            if name in self.frame.held:
                row = self.solved.reactions[0, k, 1] @ self.factors
                found[name] = {c.name: float(v) for c, v in zip(self.combined, row, strict=True)}
        return found

    @property
    def on_bearings(self) -> tuple[float, float]:
        """What one of its bearings carries at most and at least in any combination, N, lifted below zero."""
        seats = seats_of(self.frame, self.pattern) or self.frame.held
        every = [v for name, row in self.reactions().items() if name in seats for v in row.values()]
        return max(every), min(every)

    @property
    def spread(self) -> float:
        """How far its free bearing is pushed out at most, mm."""
        names = list(self.frame.joints)
        rows = [
            self.solved.moves[0, names.index(name), 0] @ self.factors
            for name, fast in self.frame.held.items()
            if not fast
        ]
        return max((float(row.max()) for row in rows), default=0.0)


def combined(frame: TrussFrame, loads: TrussLoads, loaded: Loaded, standard: Standard) -> tuple[Combined, ...]:
    """Return combinations of what lies on a truss: of those with snow or roof live load one more for each uneven arrangement of it; and of its dead load
    with someone on each joint and in the middle of each panel of its chords.
    """
    stood = frame.walked if loads.man > 0.0 else ()
    nobody = [0.0] * len(stood)
    there = np.abs(loaded.along[0]).sum(axis=(0, 1)) + np.abs(loaded.nodes[0]).sum(axis=(0, 1))
    present = Cases(*(float(v) for v in there[:COUNT]))
    found = []
    for combo in standard.combinations.true_of(present):
        even = [*combo.factors, *([0.0] * len(loads.uneven)), *nobody]
        found.append(Combined(combo.name, tuple(even), combo.duration))
        for k, uneven in enumerate(loads.uneven):
            factor = combo.factors[uneven.column]
            if factor:
                row = list(even)
                row[uneven.column], row[COUNT + k] = 0.0, factor
                found.append(Combined(f"{combo.name}, {uneven.name}", tuple(row), combo.duration))
    count = dict.fromkeys(("top", "bottom"), 0)
    for k, (_, chord) in enumerate(stood):
        count[chord] += 1
        row = [0.0] * len(loaded.nodes[0, 0, 0])
        row[Cases._fields.index("dead")] = row[COUNT + len(loads.uneven) + k] = 1.0
        found.append(Combined(f"D + someone on the {chord} chord, place {count[chord]}", tuple(row), SOMEONE))
    return tuple(found)


def stiffnesses(frame: TrussFrame, wood: Wood, standard: Standard) -> tuple[float, ...]:
    """Return E of each element, N/mm2."""
    by_role = {
        stick.name: standard.stiffness(
            section(frame.sizes.of(stick.role)), wood.species, frame.sizes.grade(stick.role, wood.grade)
        )
        for stick in frame.sticks
    }
    return tuple(by_role[one.stick] for one in frame.elements)


def solve(frame: TrussFrame, loads: TrussLoads, e: tuple[float, ...]) -> tuple[Loaded, Solved]:
    """Solve a truss by case; ``e``: of its elements, N/mm2.  Raises TrussError where it moves."""
    if any(frame.length(one) < LEAST_ELEMENT for one in frame.elements):
        raise TrussError("joints of it lie in one place: take other webs, another set-back or longer stock")
    loaded = laid_on(frame, loads)
    roles = {stick.name: stick.role for stick in frame.sticks}
    lumber = [section(frame.sizes.of(roles[one.stick])) for one in frame.elements]
    plies = float(frame.sizes.plies)
    points = np.array([list(frame.joints.values())], dtype=float)
    try:
        solved = solve_frames(
            frame.made(), points, np.array([e]), np.array([[one.area * plies for one in lumber]]),
            np.array([[one.inertia * plies for one in lumber]]), loaded,
        )  # fmt: skip
    except FrameError as error:
        raise TrussError(
            f"{error}, or splices lie too close between its joints; take longer stock or other webs"
        ) from None
    return loaded, solved


def design_truss(job: TrussJob, outline: Callable[[Sizes], TrussOutline], standard: Standard) -> TrussDesign:
    """Design a truss whose outline may follow its sections: each group that is not typed grows until it works or nothing deeper is there.

    Raises TrussError for what cannot be laid out, KeyError for unknown sizes, species or grades.
    """
    made = _first(job, outline, least_sizes(job), standard)
    best, sizes = made, made.frame.sizes
    for _ in range(TRIES):
        worst = dict.fromkeys(ROLES, 0.0)
        for stick in made.frame.sticks:
            worst[stick.role] = max(worst[stick.role], made.sticks[stick.name][0])
        worst["bottom chord"] = max(worst["bottom chord"], made.sag.used)
        worst["top chord"] = max(worst["top chord"], made.between.used)
        more = grown(job, sizes, worst)
        if more == sizes:
            break
        try:
            made, sizes = check_truss(job, outline, more, standard), more
        except TrussError:
            break  # nothing deeper finds room
        best = min(best, made, key=lambda one: one.used)
    return made if made.used <= best.used + EVEN else best


def _first(job: TrussJob, outline: Callable[[Sizes], TrussOutline], sizes: Sizes, standard: Standard) -> TrussDesign:
    """Lay out a truss with the least sections with which it can be, those with which its chords meet at heels where such are on offer:
    deeper boards are bought longer.
    """
    problem: TrussError | None = None
    parted: TrussDesign | None = None
    for _ in CHORD_SIZES:
        try:
            made = check_truss(job, outline, sizes, standard)
            if not made.frame.parted:
                return made
            parted = parted or made
        except TrussError as error:
            problem = problem or error  # what is said of the least sections is what is to be known
        more = deeper_chords(job, sizes)
        if more == sizes:
            break
        sizes = more
    if parted is not None:
        return parted
    assert problem is not None
    raise problem


def check_truss(
    job: TrussJob, outline: Callable[[Sizes], TrussOutline], sizes: Sizes, standard: Standard
) -> TrussDesign:
    """Lay out, solve and check a truss of given sections."""
    around = outline(sizes)
    name = chosen(around) if job.pattern == "auto" else job.pattern
    pattern = (PATTERNS | HIPS)[name](around)
    pattern = pattern if name == "valley" else on_bearings(at_bends(pattern, around), around)
    pattern = with_points(pattern, around, job.points)._replace(
        hung=tuple(one.x for one in job.loads.hung), rested=tuple(one.x for one in job.loads.rested)
    )
    frame = truss_frame(around, pattern, sizes, job.stock)
    if job.loads.man > 0.0:
        pattern = pattern._replace(stood=_middles(frame))
        frame = truss_frame(around, pattern, sizes, job.stock)
    sawn = sawn_sticks(frame)
    built = lifted(frame, job.camber) if job.camber > 0.0 else None
    e = stiffnesses(frame, job.wood, standard)
    loaded, solved = solve(frame, job.loads, e)
    combos = combined(frame, job.loads, loaded, standard)
    if not loaded.along.any() and not loaded.nodes.any():
        raise TrussError("nothing lies on it")
    factors = np.array([one.factors for one in combos]).T
    demands = stick_demands(job, frame, pattern, solved, factors, combos)
    braced, demands, uses, braces = held_aside(job, frame, demands, standard)
    moves, (seats, blocks) = solved.sags(PARTS)[:, 0], _seats(job, frame, pattern, solved, factors, combos, standard)
    return TrussDesign(
        job, name, pattern, frame, sawn, e, loaded, solved, combos, demands, uses, braces, braced, seats,
        _sag(job, frame, pattern, solved, moves, standard), _sag_between(job, frame, pattern, solved, moves, standard),
        sawn_sticks(built) if built is not None else sawn, blocks,
    )  # fmt: skip


def _middles(frame: TrussFrame) -> tuple[tuple[str, float], ...]:
    """Return the middles of the panels of a truss's chords where there is room for a joint."""
    found = []
    for one in frame.elements:
        if one.lies is not None and frame.length(one) > PANEL:
            x = (frame.joints[one.i][0] + frame.joints[one.j][0]) / 2.0
            found.append(("top" if one.stick[0] == "T" else "bottom", round(x, 1)))
    return tuple(found)


def seats_of(frame: TrussFrame, pattern: Pattern) -> dict[str, Bearing]:
    """Return the joints of a truss that bear on walls, each with its bearing; of one that stands on something all along those at
    its ends.
    """
    bearings = frame.outline.bearings
    some = [name for name in frame.held if name.startswith("bearing") or pattern.on_walls]
    return {name: min(bearings, key=lambda b: abs(b.middle - frame.joints[name][0])) for name in some}


def _seats(
    job: TrussJob,
    frame: TrussFrame,
    pattern: Pattern,
    solved: Solved,
    factors: Array,
    combos: tuple[Combined, ...],
    standard: Standard,
) -> tuple[tuple[Check, ...], tuple[BearingBlocks, ...]]:
    """Check the seats of the chord that bears, with blocks where it alone would be crushed."""
    found, blocks, seats = list[Check](), list[BearingBlocks](), seats_of(frame, pattern)
    bears: Role = "top chord" if frame.outline.on_top else "bottom chord"
    for k, name in enumerate(frame.joints):
        if name not in seats:
            continue
        row = solved.reactions[0, k, 1] @ factors
        which, bearing = int(row.argmax()), seats[name]
        check = standard.check_seat(
            frame.sizes.of(bears), job.wood.species, frame.sizes.grade(bears, job.wood.grade), float(row[which]) / frame.sizes.plies,
            bearing.high - bearing.low, combos[which].name,
        )  # fmt: skip
        wider = None
        if check.used > 1.0 + EVEN and not pattern.all_along:
            wider = bearing_blocks(job, frame, name, bearing, row.tolist(), combos, standard)
        found.append(check if wider is None else wider.check)
        blocks += [wider] if wider is not None else []
    return tuple(found), tuple(blocks)


def _sag(job: TrussJob, frame: TrussFrame, pattern: Pattern, solved: Solved, bent: Array, standard: Standard) -> Check:
    """Return the sag of the bottom chord under what comes and goes where it is most of what is allowed; ``bent``: moves to the left at ``PARTS`` of elements."""
    factors = _coming(job, solved, standard)
    at = [
        k for k, one in enumerate(frame.elements) if one.stick[0] == "B" and one.i[:3] != "end" and one.j[:3] != "end"
    ]
    number, limit_of = {name: k for k, name in enumerate(frame.joints)}, _sag_limits(job, frame, pattern)
    worst = (0.0, 0.0, limit_of((frame.outline.start + frame.outline.end) / 2.0))
    ends = np.array([[number[frame.elements[k].i], number[frame.elements[k].j]] for k in at])
    places = np.array(list(frame.joints.values()))[ends]
    way = places[:, 1] - places[:, 0]
    way /= np.hypot(way[:, 0], way[:, 1])[:, None]
    along = (solved.moves[0][ends] * way[:, None, :, None]).sum(axis=2)
    parts = np.array(PARTS)[:, None, None]
    y = bent[:, at] * way[:, 0, None] + (along[:, 0] * (1.0 - parts) + along[:, 1] * parts) * way[:, 1, None]
    sags = (-(y @ factors)).max(axis=(0, 2))
    for down, x in zip(sags.tolist(), places[:, :, 0].mean(axis=1).tolist(), strict=True):
        limit = limit_of(x)
        worst = max(worst, (down / limit, down, limit))
    return Check(f"deflection L/{job.limit.n:g}", job.limit.clause, worst[1], worst[2], "length", "live part alone")


def _sag_limits(job: TrussJob, frame: TrussFrame, pattern: Pattern) -> Callable[[float], float]:
    """Return what tells how far a bottom chord may sag at a place along it: by the span that lies in, of one on inside walls; past its outermost
    bearing by twice how far it stands out.
    """
    clear = frame.outline.bearings[-1].middle - frame.outline.bearings[0].middle
    if len(frame.held) > 2:
        clear = max(b - a for a, b in _spans(frame))

    def limit(x: float) -> float:
        if not pattern.on_walls:
            return clear / job.limit.n
        low, high = _spans(frame)[0][0], _spans(frame)[-1][1]
        if not low <= x <= high:
            end = frame.outline.start if x < low else frame.outline.end
            return 2.0 * abs(end - (low if x < low else high)) / job.limit.n
        return next(b - a for a, b in _spans(frame) if x <= b) / job.limit.n

    return limit


def _coming(job: TrussJob, solved: Solved, standard: Standard) -> Array:
    """Return factors on the columns of a truss's loads of all that comes and goes, even and uneven."""
    wide = solved.moves.shape[-1]
    rows = []
    for live in standard.combinations.live:
        rows.append([*live, *([0.0] * (wide - COUNT))])
        for k, uneven in enumerate(job.loads.uneven):
            if live[uneven.column]:
                other = [*live, *([0.0] * (wide - COUNT))]
                other[COUNT + k], other[uneven.column] = live[uneven.column], 0.0
                rows.append(other)
    return np.array(rows).T


def _sag_between(
    job: TrussJob, frame: TrussFrame, pattern: Pattern, solved: Solved, bent: Array, standard: Standard
) -> Check:
    """Return the sag of the top chord between the joints that hold it, square to the line from one to the next, where it is most of what is
    allowed.
    """
    factors, panels = _coming(job, solved, standard), panels_of(frame, pattern)
    groups: dict[tuple[Point, Point], list[int]] = {}
    for k, (one, panel) in enumerate(zip(frame.elements, panels, strict=True)):
        if one.stick[0] == "T" and one.lies is not None:
            groups.setdefault(panel, []).append(k)
    moves = bent @ factors
    worst = Check(f"sag between joints L/{BETWEEN.n:g}", BETWEEN.clause, 0.0, 1.0, "length", "live part alone")
    for (p, q), some in groups.items():
        some.sort(key=lambda k: frame.joints[frame.elements[k].i][0])
        ends = [
            [(frame.joints[name][0] - p[0]) / (q[0] - p[0]) for name in (e.i, e.j)]
            for e in map(frame.elements.__getitem__, some)
        ]
        if abs(ends[0][0]) > EVEN or abs(ends[-1][1] - 1.0) > EVEN:
            continue  # its joints lie on other chords: a heel
        first, last = moves[0, some[0]], moves[-1, some[-1]]
        t = np.array([[a + (b - a) * part for a, b in ends] for part in PARTS])
        off = moves[:, some] - first - (last - first) * t[:, :, None]
        demand, limit = float(np.abs(off).max()), math.dist(p, q) / BETWEEN.n
        if demand / limit > worst.used:
            worst = replace(worst, demand=demand, capacity=limit)
    return worst


def _spans(frame: TrussFrame) -> list[tuple[float, float]]:
    at = sorted(frame.joints[name][0] for name in frame.held)
    return list(itertools.pairwise(at))
