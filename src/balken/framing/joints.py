"""How bands meet: corners, tees, crossings, walls that go on in line.

At a square corner the wall that ends there runs through and the one that starts there butts
against it, layer by layer (core to core); at a skew corner both are mitred.  At a tee the core of
the wall runs to the core it meets, through the other's lining, and its other layers stop at that
wall's face; at a crossing the wall drawn later gives way.  Where one wall goes on in line where another
ends, both run up to that place.  Layers are cut squarely where they meet something askew, and wedges fill them up to it.
No volume is counted twice.
"""

import itertools
from typing import Literal

from msgspec import structs

from balken.framing.bands import EXACT, Band
from balken.geometry.plane import TOUCH, Point, Ring, add, cross, distance, dot, meet, off_line, sub
from balken.remembered import remembered
from balken.value import Value

Stretches = tuple[tuple[float, float], ...]


class EndJoint(Value, frozen=True):
    """How a wall ends: free, running through or butting at a corner, mitred, or at a tee.

    ``width``: thickness of the core it meets there, mm; ``other``: that wall's id, ``top`` its head.
    """

    kind: Literal["free", "through", "butt", "mitre", "tee"] = "free"
    other: str = ""
    width: float = 0.0
    top: float = 0.0


class Tee(Value, frozen=True):
    """Where another wall (its band's id) joins this one: the middle and thickness of its core along it, its head."""

    wall: str
    at: float
    width: float
    top: float


class Wedge(Value, frozen=True):
    """What fills a layer up to a skew face: a plan outline, and between which heights (None: as high as the wall)."""

    layer: int
    ring: Ring
    heights: tuple[float, float] | None = None


class LayerCut(Value, frozen=True):
    """A layer interrupted from ``low`` to ``high`` along the wall, between two heights, by another wall."""

    layer: int
    low: float
    high: float
    bottom: float
    top: float


class Joints(Value, frozen=True):
    """How one band meets the others: ``spans`` from where to where each layer runs (mm along it).

    ``wedges``: what fills skew ends, and layers interrupted askew.
    """

    spans: Stretches
    ends: tuple[EndJoint, EndJoint] = (EndJoint(), EndJoint())
    wedges: tuple[Wedge, ...] = ()
    cuts: tuple[LayerCut, ...] = ()
    tees: tuple[Tee, ...] = ()
    let_in: Stretches = ()
    """Where it would run if, of two bands that it meets end to end, it stopped at the thinner; empty when the same."""

    @property
    def farthest(self) -> Stretches:
        """From where to where each layer runs, let in between two that it meets."""
        return self.let_in or self.spans


def stretches(bands: list[Band]) -> dict[str, Stretches]:
    """Return for each band, layer by layer, from where to where it runs along its set-out line (mm)."""
    return {band_id: joints.spans for band_id, joints in join(bands).items()}


def join(bands: list[Band]) -> dict[str, Joints]:
    """Return how every band meets the others.

    Each end and each pair is worked out once and remembered by the bands concerned, so that an edit costs only
    where bands have changed.
    """
    beside = _neighbours(bands)
    corners = _corners(bands)
    in_line = _in_line(bands, beside, corners)
    number = {band.id: i for i, band in enumerate(bands)}
    cuts: dict[str, list[LayerCut]] = {}
    wedges: dict[str, list[Wedge]] = {}
    tees: dict[str, list[Tee]] = {}
    ends: dict[tuple[str, bool], _End] = {}
    for band in bands:
        for at_end in (False, True):
            partner = corners.get((band.id, at_end))
            if partner is not None:
                end = _corner_end(band, _AT[at_end], partner[0], _AT[partner[1]])
            elif (band.id, at_end) in in_line:
                end = _plain_end(band, _AT[at_end])
            else:
                end = _other_end(band, _AT[at_end], *beside[band.id])
            ends[(band.id, at_end)] = end
    known = {band.id: band for band in bands}
    for (band_id, at_end), other_id in _stopping_at_each_other(ends, known):
        ends[(band_id, at_end)] = _through_end(known[band_id], _AT[at_end], known[other_id])
    for end in ends.values():
        for met in end.met:
            tees.setdefault(met.other, []).append(met.tee)
            cuts.setdefault(met.other, []).extend(met.cuts)
            wedges.setdefault(met.other, []).extend(met.wedges)
    for later in bands:
        for earlier in beside[later.id]:
            crossing = _crossing(later, earlier) if number[earlier.id] < number[later.id] else None
            if crossing is not None:
                for band, (cut, filled) in ((later, crossing.later), (earlier, crossing.earlier)):
                    cuts.setdefault(band.id, []).extend(cut)
                    wedges.setdefault(band.id, []).extend(filled)
                tees.setdefault(earlier.id, []).append(crossing.tee)
    return {
        band_id: Joints(
            tuple((min(a, b - 1.0), b) for a, b in zip(start.reached, end.reached, strict=True)),
            (start.joint, end.joint),
            (*start.wedges, *end.wedges, *wedges.get(band_id, ())),
            tuple(cuts.get(band_id, ())),
            tuple(sorted(tees.get(band_id, ()), key=lambda t: t.at)),
            tuple(zip(start.farthest, end.farthest, strict=True)) if start.beyond or end.beyond else (),
        )
        for band_id in known
        for start, end in ((ends[(band_id, False)], ends[(band_id, True)]),)
    }


_AT = {False: "start", True: "end"}


class _Met(Value, frozen=True):
    """What a tee does to a band it meets."""

    other: str
    tee: Tee
    cuts: tuple[LayerCut, ...]
    wedges: tuple[Wedge, ...] = ()


class _End(Value, frozen=True):
    """How far each layer runs at one end, the joint and wedges there; at a tee what it does to those it meets."""

    reached: tuple[float, ...]
    joint: EndJoint = EndJoint()
    wedges: tuple[Wedge, ...] = ()
    met: tuple[_Met, ...] = ()
    beyond: tuple[float, ...] = ()
    """Where it would stop at the thinner of two that it meets, layer by layer; nothing where that is the same."""

    @property
    def farthest(self) -> tuple[float, ...]:
        """How far each layer runs when it stops at the thinner of two that it meets."""
        return self.beyond or self.reached


class _Crossing(Value, frozen=True):
    """Where two bands cross: what is cut out of the later and the earlier one, and the tee on the earlier."""

    later: "_Cuts"
    earlier: "_Cuts"
    tee: Tee


_Cuts = tuple[tuple[LayerCut, ...], tuple[Wedge, ...]]
"""Layers interrupted squarely as far as the widest of a skew cut, and what fills them up to it."""


def _overlap(a: Band, b: Band) -> bool:
    return min(a.top, b.top) - max(a.bottom, b.bottom) > 1.0


def core_faces(band: Band) -> tuple[float, float]:
    """Return the depths of the outer and inner face of the core."""
    return band.layers[band.core[0]][0], band.layers[band.core[1]][1]


Corners = dict[tuple[str, bool], tuple[Band, bool]]
"""For the start (False) or end (True) of a band, the band it makes a corner with and which end of that."""


def _ends_by_place(bands: list[Band]) -> list[list[tuple[Band, bool]]]:
    """Return the ends of bands that lie at one place, with whether each is the band's end or its start."""
    cells: dict[tuple[int, int], list[tuple[Band, bool]]] = {}
    for band in bands:
        for point, at_end in ((band.start, False), (band.end, True)):
            cells.setdefault((round(point[0] / TOUCH), round(point[1] / TOUCH)), []).append((band, at_end))
    return [ends for ends in cells.values() if len(ends) > 1]


def _corners(bands: list[Band]) -> Corners:
    """Pair the ends that make corners; where three meet, the third is left to stop at the other two: those that share most height,
    else the first, so that no corner stays open under a wall that ends higher up.
    """
    paired: Corners = {}
    for ends in _ends_by_place(bands):
        pairs = [(p, q) for p, q in itertools.combinations(ends, 2) if _makes_corner(p[0], q[0])]
        if len(ends) > 2:
            pairs.sort(key=lambda pair: -round(_shared(pair[0][0], pair[1][0])))
        for (band, at_end), (other, other_end) in pairs:
            if (band.id, at_end) not in paired and (other.id, other_end) not in paired:
                paired[(band.id, at_end)] = (other, other_end)
                paired[(other.id, other_end)] = (band, at_end)
    return paired


def _shared(one: Band, other: Band) -> float:
    """Return how much height two bands share, mm."""
    return min(one.top, other.top) - max(one.bottom, other.bottom)


def _makes_corner(band: Band, other: Band) -> bool:
    square = abs(cross(band.direction, other.direction)) > 0.02
    return other is not band and other.outside == band.outside and _overlap(band, other) and square


def _in_line(bands: list[Band], beside: dict[str, list[Band]], corners: Corners) -> set[tuple[str, bool]]:
    """Return the ends, in no corner, at which one band goes on where another ends, both up to that place.

    What else ends there stops at the two; where a third band runs through, they stop at that one instead.
    """
    found: set[tuple[str, bool]] = set()
    for every in _ends_by_place(bands):
        ends = [(band, at_end) for band, at_end in every if (band.id, at_end) not in corners]
        straight: list[Band] = []
        for i, (band, at_end) in enumerate(ends):
            if (band.id, at_end) in found:
                continue
            for other, other_end in ends[i + 1 :]:
                if (other.id, other_end) in found or not _goes_on(band, at_end, other, other_end):
                    continue
                if any(_overlap(band, known) and not _parallel(band, known) for known in straight):
                    continue
                if any(_runs_through(third, band, at_end) for third in beside[band.id]):
                    continue
                found |= {(band.id, at_end), (other.id, other_end)}
                straight.append(band)
                break
    return found


def _parallel(a: Band, b: Band) -> bool:
    return abs(cross(a.direction, b.direction)) < 0.02


def _stopping_at_each_other(
    ends: dict[tuple[str, bool], _End], known: dict[str, Band]
) -> list[tuple[tuple[str, bool], str]]:
    """Return the ends that must run through, with the band there: of two that would both stop at the other.

    So they would where an inside wall and an outside one end at the same place; the outside one runs through.
    """
    found = []
    for (band_id, at_end), end in ends.items():
        band, other = known[band_id], known.get(end.joint.other)
        if end.joint.kind != "tee" or other is None or (not band.outside, band_id) > (not other.outside, other.id):
            continue
        point = band.end if at_end else band.start
        for there, place in ((False, other.start), (True, other.end)):
            joint = ends[(other.id, there)].joint
            if joint.kind == "tee" and joint.other == band_id and distance(point, place) <= TOUCH:
                found.append(((band_id, at_end), other.id))
    return found


def _one_line(a: Band, b: Band) -> bool:
    return _parallel(a, b) and abs(off_line(a.start, b.start, b.end)[1]) <= TOUCH


def _goes_on(band: Band, at_end: bool, other: Band, other_end: bool) -> bool:
    """Tell whether one band leads away from another's end straight on, with its outside at the same side."""
    away = dot(band.direction, other.direction) * (-1.0 if at_end == other_end else 1.0)
    same_side = dot(band.inward, other.inward) > 0.0
    return _parallel(band, other) and away > 0.0 and same_side and band is not other and _overlap(band, other)


def _runs_through(third: Band, band: Band, at_end: bool) -> bool:
    """Tell whether a band crosses the line of another at its end and runs on beyond on both sides."""
    if _parallel(third, band):
        return False
    point = band.end if at_end else band.start
    along, aside = off_line(point, third.start, third.end)
    clear = band.layers[-1][1] + TOUCH
    return abs(aside) <= third.layers[-1][1] + TOUCH and clear < along < third.length - clear


@remembered(20_000)
def _corner_end(band: Band, end: str, other: Band, other_end: str) -> _End:
    """Return the end of a band that makes a corner with another: through, butting or mitred."""
    at_end = end == "end"
    plain = round(band.length, EXACT) if at_end else 0.0
    width = core_faces(other)[1] - core_faces(other)[0]
    if abs(cross(band.direction, other.direction)) < 0.999:
        # Both outsides lie on the same side of the corner when the walls follow one another round it.
        depths = [_matching(band, other, i) for i in range(len(band.layers))]
        reached, wedges = _cut_askew(band, at_end, other, depths, plain)
        return _End(reached, EndJoint("mitre", other.id, width, other.top), wedges)
    through = at_end if end != other_end else band.id < other.id
    square = []
    for i, layer in enumerate(band.layers):
        near, far = _matching(band, other, i)
        square.append(_reach(band, layer, other, near if through else far, plain))
    return _End(tuple(square), EndJoint("through" if through else "butt", other.id, width, other.top))


@remembered(20_000)
def _plain_end(band: Band, end: str) -> _End:
    """Return the end of a band at which another goes on, or nothing."""
    return _End((round(band.length, EXACT) if end == "end" else 0.0,) * len(band.layers))


@remembered(20_000)
def _other_end(band: Band, end: str, *beside: Band) -> _End:
    """Return the end of a band that makes no corner: at a tee with the first of those beside it, or free.

    Where two of them meet end to end just there, it stops at the thicker one and is let into both.
    """
    tees = [made for other in beside if (made := _tee_end(band, end, other)) is not None]
    if not tees:
        return _plain_end(band, end)
    known = {other.id: other for other in beside}
    first = known[tees[0].joint.other]
    alike = [made for made in tees if _one_line(known[made.joint.other], first)]
    sign = 1.0 if end == "end" else -1.0
    core = band.core[0]
    alike.sort(key=lambda made: sign * made.reached[core])
    met = tuple(met for made in alike for met in made.met)
    return structs.replace(alike[0], met=met, beyond=alike[-1].reached if len(alike) > 1 else ())


@remembered(20_000)
def _through_end(band: Band, end: str, other: Band) -> _End:
    """Return the end of a band that runs on to the far side of another, which stops at it."""
    at_end = end == "end"
    plain, far_point = round(band.length, EXACT) if at_end else 0.0, band.start if at_end else band.end
    inner = _depth(other, far_point) > (other.layers[0][0] + other.layers[-1][1]) / 2.0
    near, far = core_faces(other)
    core, whole = (near, other.layers[0][0]) if inner else (far, other.layers[-1][1])
    depths = [(core if band.core[0] <= i <= band.core[1] else whole,) * 2 for i in range(len(band.layers))]
    reached, wedges = _cut_askew(band, at_end, other, depths, plain)
    return _End(reached, EndJoint("through", other.id, far - near, other.top), wedges)


@remembered(20_000)
def _tee_end(band: Band, end: str, other: Band) -> _End | None:
    """Return the end of a band at a tee with another; None where it does not meet that one."""
    at_end = end == "end"
    plain = round(band.length, EXACT) if at_end else 0.0
    point, far_point = (band.end, band.start) if at_end else (band.start, band.end)
    if not _near(point, other):
        return None
    along, aside = off_line(point, other.start, other.end)
    last = other.layers[-1][1]
    if abs(aside) > last + TOUCH or not -TOUCH <= along <= other.length + TOUCH:
        return None
    if not other.layers[0][0] - TOUCH <= _depth(other, point) <= last + TOUCH or _parallel(band, other):
        return None
    inner = _depth(other, far_point) > (other.layers[0][0] + last) / 2.0
    faces = core_faces(other)
    core, whole = (faces[1], last) if inner else (faces[0], other.layers[0][0])
    depths = [(core if band.core[0] <= i <= band.core[1] else whole,) * 2 for i in range(len(band.layers))]
    reached, wedges = _cut_askew(band, at_end, other, depths, plain)
    own = core_faces(band)
    middle = off_line(add(point, band.inward, (own[0] + own[1]) / 2.0 - band.set_out), other.start, other.end)[0]
    tee = Tee(band.id, round(middle, EXACT), own[1] - own[0], band.top)
    joint = EndJoint("tee", other.id, faces[1] - faces[0], other.top)
    return _End(reached, joint, wedges, (_Met(other.id, tee, *_cuts_for(band, other, inner)),))


def _neighbours(bands: list[Band]) -> dict[str, list[Band]]:
    """Return for each band those that may meet it, in their order: their boxes touch and heights overlap."""
    boxes = []
    for i, band in enumerate(bands):
        reach = _half_box(band)
        (x0, y0), (x1, y1) = band.start, band.end
        (x0, x1), (y0, y1) = (x0, x1) if x0 < x1 else (x1, x0), (y0, y1) if y0 < y1 else (y1, y0)
        boxes.append((x0 - reach, x1 + reach, y0 - reach, y1 + reach, band.bottom, band.top, i))
    boxes.sort()
    found: list[list[int]] = [[] for _ in bands]
    for k, (_, right, low, high, bottom, top, i) in enumerate(boxes):
        for x0, _, y0, y1, z0, z1, j in boxes[k + 1 :]:
            if x0 > right:
                break
            if y0 <= high and y1 >= low and z1 - bottom > 1.0 and top - z0 > 1.0:
                found[i].append(j)
                found[j].append(i)
    return {band.id: [bands[j] for j in sorted(rows)] for band, rows in zip(bands, found, strict=True)}


def _half_box(band: Band) -> float:
    """Return how far beside its set-out line a band may reach, mm."""
    return max(abs(band.layers[0][0]), abs(band.layers[-1][1])) + 2.0 * TOUCH


def _near(point: Point, band: Band) -> bool:
    """Tell whether a point may lie on a band: a quick look before the exact one."""
    reach = _half_box(band)
    (x0, y0), (x1, y1), (x, y) = band.start, band.end, point
    if not (x0 if x0 < x1 else x1) - reach <= x <= (x1 if x1 > x0 else x0) + reach:
        return False
    return (y0 if y0 < y1 else y1) - reach <= y <= (y1 if y1 > y0 else y0) + reach


def _cuts_for(band: Band, other: Band, inner: bool) -> _Cuts:
    """Return the cuts in the layers of ``other`` that the core of ``band`` passes on its way to the core."""
    passed = range(other.core[1] + 1, len(other.layers)) if inner else range(other.core[0])
    return _across(other, {i: core_faces(band) for i in passed}, band)


def _across(band: Band, depths: dict[int, tuple[float, float]], other: Band) -> _Cuts:
    """Return what ``other`` takes out of layers of ``band``: for each, what lies between two depths of ``other``."""
    cuts: list[LayerCut] = []
    wedges: list[Wedge] = []
    heights = (max(band.bottom, other.bottom), min(band.top, other.top))
    for i, between in depths.items():
        near, far = band.layers[i]
        sides = [tuple(_meets(band, depth, other, o_depth) for depth in (near, far)) for o_depth in between]
        places = [(a, b) for a, b in sides if a is not None and b is not None]
        if len(places) < 2:
            continue
        low, high = sorted(places, key=sum)
        cuts.append(LayerCut(i, round(min(low), EXACT), round(max(high), EXACT), *heights))
        wedges += _wedge(band, i, *low, True, heights) + _wedge(band, i, *high, False, heights)
    return tuple(cuts), tuple(wedges)


def _meets(band: Band, depth: float, other: Band, o_depth: float) -> float | None:
    """Return where along a band a line at one of its depths meets one at a depth of another; None when they are parallel."""
    origin = band.at(0.0, depth)
    point = meet(origin, band.direction, other.at(0.0, o_depth), other.direction)
    return None if point is None else dot(sub(point, origin), band.direction)


@remembered(50_000)
def _crossing(later: Band, earlier: Band) -> _Crossing | None:
    """Where two bands cross, the later one is interrupted and the linings of the earlier one are cut."""
    if abs(cross(later.direction, earlier.direction)) < 0.02:
        return None
    point = meet(later.start, later.direction, earlier.start, earlier.direction)
    if point is None or not (_near(point, later) and _near(point, earlier)):
        return None
    a, _ = off_line(point, later.start, later.end)
    b, _ = off_line(point, earlier.start, earlier.end)
    clear_a, clear_b = earlier.layers[-1][1] + TOUCH, later.layers[-1][1] + TOUCH
    if not (clear_a < a < later.length - clear_a and clear_b < b < earlier.length - clear_b):
        return None
    full, core, own = (earlier.layers[0][0], earlier.layers[-1][1]), core_faces(earlier), core_faces(later)
    in_later = {i: core if later.core[0] <= i <= later.core[1] else full for i in range(len(later.layers))}
    in_earlier = {i: own for i in range(len(earlier.layers)) if not earlier.core[0] <= i <= earlier.core[1]}
    cut = _across(later, in_later, earlier), _across(earlier, in_earlier, later)
    return _Crossing(*cut, Tee(later.id, round(b, EXACT), own[1] - own[0], later.top))


def _depth(band: Band, point: Point) -> float:
    r = sub(point, band.start)
    return r[0] * band.inward[0] + r[1] * band.inward[1] + band.set_out


def _matching(band: Band, other: Band, index: int) -> tuple[float, float]:
    """Return the depths of what continues layer ``index`` of ``band`` in ``other``: core to core, outward, inward."""
    first, last = band.core
    o_first, o_last = other.core
    if first <= index <= last:
        return core_faces(other)
    if index < first:
        k = o_first - (first - index)
        return other.layers[k] if k >= 0 else (other.layers[0][0],) * 2
    k = o_last + (index - last)
    return other.layers[k] if k < len(other.layers) else (other.layers[-1][1],) * 2


def _cut_askew(
    band: Band, at_end: bool, other: Band, depths: list[tuple[float, float]], plain: float
) -> tuple[tuple[float, ...], tuple[Wedge, ...]]:
    """Return where each layer's square body ends, and the wedges from there to a skew face.

    ``depths``: for each layer, at which depth of the other band its own two faces end.
    """
    reached: list[float] = []
    wedges: list[Wedge] = []
    for i, ((near, far), (o_near, o_far)) in enumerate(zip(band.layers, depths, strict=True)):
        a = _reach(band, (near, near), other, o_near, plain)
        b = _reach(band, (far, far), other, o_far, plain)
        reached.append(min(a, b) if at_end else max(a, b))
        wedges += _wedge(band, i, a, b, at_end)
    return tuple(reached), tuple(wedges)


def _wedge(
    band: Band, layer: int, a: float, b: float, at_end: bool, heights: tuple[float, float] | None = None
) -> tuple[Wedge, ...]:
    """Return what fills a layer from where its square body stops to a face at ``a`` on its near and ``b`` on its far side."""
    near, far = band.layers[layer]
    body, tip = (min(a, b), max(a, b)) if at_end else (max(a, b), min(a, b))
    if abs(tip - body) <= 0.1:
        return ()
    depth = near if tip == a else far
    return (Wedge(layer, (band.at(body, near), band.at(tip, depth), band.at(body, far)), heights),)


def _reach(band: Band, layer: tuple[float, float], other: Band, depth: float, plain: float) -> float:
    middle = band.at(0.0, (layer[0] + layer[1]) / 2.0)
    point = meet(middle, band.direction, other.at(0.0, depth), other.direction)
    if point is None:
        return plain
    along = (point[0] - middle[0]) * band.direction[0] + (point[1] - middle[1]) * band.direction[1]
    return round(along, EXACT) if abs(along - plain) < 3000.0 else plain
