"""Foundation walls with their ledges and steps, where their sill plates lie, and the strip footings under them."""

import itertools

from msgspec.structs import replace

from balken.framing.bands import Band, WallLine
from balken.framing.joints import join, stretches
from balken.framing.pieces import Bearer, Piece
from balken.framing.uprights import Upright, without
from balken.geometry.plane import Point, Ring, anticlockwise, cross, dot, sub
from balken.geometry.prism import Prism, Vec, upright
from balken.model.lookup import height
from balken.model.naming import piece_name, run_name
from balken.model.records import Foundation, Level, Recess
from balken.remembered import remembered
from balken.value import Value


class Segment(Value, frozen=True):
    """A stretch of a run between steps: from where to where (mm along the wall), how far below the foot."""

    low: float
    high: float
    drop: float


class FoundationRun(Value, frozen=True):
    """The foundation under one wall: its band (ledge, wall, inner part), the run of it, its sill plate, its steps.

    ``spans``: from where to where each layer of the band runs; ``segments`` cover the run of the wall itself.
    """

    id: str
    foundation: Foundation
    wall: str
    band: Band
    spans: tuple[tuple[float, float], ...]
    sill: Band
    sill_span: tuple[float, float]
    segments: tuple[Segment, ...]
    let_in: tuple[tuple[float, float], ...] = ()
    """Where its layers run when it is let in between two walls that it meets end to end, as far as the thinner one."""
    sill_gaps: tuple[tuple[float, float], ...] = ()
    """Where the sill plate is left out for beams as high as it, mm along the wall, in order."""

    @property
    def span(self) -> tuple[float, float]:
        """From where to where the wall runs, mm along its line."""
        return self.spans[self.band.core[0]]

    @property
    def length(self) -> float:
        """Length of the foundation wall, mm."""
        return self.span[1] - self.span[0]

    @property
    def lowest(self) -> float:
        """Height of the foot of its lowest stretch, mm."""
        return self.band.bottom - max(s.drop for s in self.segments)

    @property
    def faces(self) -> tuple[float, float]:
        """Depths of the outer and inner face of the whole wall."""
        return self.band.layers[0][0], self.band.layers[-1][1]

    @property
    def footing(self) -> bool:
        """Whether a strip footing lies under it; a thickened edge is its own."""
        return self.foundation.kind != "thickened edge"

    @property
    def boundary(self) -> int:
        """The face beyond which its footing must not go: -1 the outside one, +1 the inside one, 0 none.

        A footing left to Balken whose middle is typed beyond the wall's face is one at a boundary, too.
        """
        f = self.foundation
        if f.boundary != "none":
            return -1 if f.boundary == "outside" else 1
        if f.footing_width is None and abs(f.footing_offset) > f.thickness / 2.0:
            return 1 if f.footing_offset > 0.0 else -1
        return 0

    def footing_off(self, width: float) -> float:
        """Return how far the middle of a footing of a width lies outward of the wall's, mm."""
        if not self.boundary:
            return self.foundation.footing_offset
        near, far = self.faces
        return self.boundary * max((width - (far - near)) / 2.0, 0.0)

    def along(self, point: Point) -> float:
        """Return how far along the wall's line a plan point is, mm."""
        return dot(sub(point, self.band.start), self.band.direction)

    def footing_ring(self, low: float, high: float, width: float) -> Ring:
        """Return the plan outline of a strip footing ``width`` mm wide between two places along the wall."""
        middle = sum(self.faces) / 2.0 - self.footing_off(width)
        near, far = middle - width / 2.0, middle + width / 2.0
        b = self.band
        return (b.at(low, near), b.at(high, near), b.at(high, far), b.at(low, far))

    def recesses_among(self, recesses: tuple[Recess, ...]) -> tuple[Recess, ...]:
        """Return the openings and pockets that are in this run."""
        return tuple(r for r in recesses if r.foundation == self.foundation.id and r.wall == self.wall)

    def drop_at(self, along: float) -> float:
        """How far below the foundation's foot it stands at a place along the wall."""
        for s in self.segments:
            if along <= s.high + 1e-6:
                return s.drop
        return self.segments[-1].drop

    def by_itself(self) -> "FoundationRun":
        """Return the run as it would be at the origin along x; one that only moves stays equal in this."""
        return _by_itself(self)

    @property
    def bearer(self) -> Bearer:
        """The sill plate as something joists can bear on."""
        b = self.sill
        near, far = b.layers[0]
        thick = self.foundation.plate[0]
        start, end = b.at(self.sill_span[0], 0.0), b.at(self.sill_span[1], 0.0)
        return Bearer(self.id, self.wall, start, end, b.direction, b.inward, near, far, b.bottom + thick)


@remembered(4_000)
def _by_itself(run: FoundationRun) -> FoundationRun:
    def brought(band: Band) -> Band:
        inward = (0.0, 1.0 if cross(band.direction, band.inward) > 0.0 else -1.0)
        end = (round(band.length, 6), 0.0)
        return replace(band, start=(0.0, 0.0), end=end, direction=(1.0, 0.0), inward=inward)

    spans = tuple([(round(a, 6), round(b, 6)) for a, b in run.spans])
    sill_span = (round(run.sill_span[0], 6), round(run.sill_span[1], 6))
    segments = tuple([replace(s, low=round(s.low, 6), high=round(s.high, 6)) for s in run.segments])
    return replace(
        run, band=brought(run.band), sill=brought(run.sill), spans=spans, sill_span=sill_span, segments=segments
    )


def foundation_runs(
    foundations: tuple[Foundation, ...], lines: dict[str, WallLine], levels: tuple[Level, ...]
) -> tuple[FoundationRun, ...]:
    """Place a foundation wall under each wall named.

    Under an outside wall its outside face lines up with the outer face of the sheathing (set in by the
    foundation's inset); under an interior wall it is centred.
    """
    bands: list[tuple[Foundation, WallLine, Band, Band]] = []
    for f in foundations:
        bands += [(f, lines[w], *_bands(f, lines[w], height(f.foot, levels), height(f.head, levels))) for w in f.walls]
    runs = join([wall for _, _, wall, _ in bands])
    sills = stretches([sill for _, _, _, sill in bands])
    made = []
    for f, line, wall, sill in bands:
        spans = runs[wall.id].spans
        bottom = height(f.foot, levels)
        band = Band(
            wall.id, wall.start, wall.end, wall.direction, wall.inward, wall.set_out, wall.layers, bottom, wall.top,
            wall.outside, wall.core,
        )  # fmt: skip
        segments = _segments(f, line.wall.id, spans[wall.core[0]])
        run_id, sill_span = run_name(f.id, line.wall.id), sills[sill.id][0]
        let_in = runs[wall.id].let_in
        made.append(FoundationRun(run_id, f, line.wall.id, band, spans, sill, sill_span, segments, let_in))
    return tuple(made)


@remembered(10_000)
def _bands(f: Foundation, line: WallLine, bottom: float, top: float) -> tuple[Band, Band]:
    """Return the bands of the foundation wall down to its lowest stretch and of its sill plate."""
    (plate_thick, plate_wide), b = f.plate, line.band
    if b.outside:
        near, sill_near = line.sheathing + f.inset, line.core[0]
    else:
        near = (line.core[0] + line.core[1] - f.thickness) / 2.0
        sill_near = (line.core[0] + line.core[1] - plate_wide) / 2.0
    layers, core = _layers(f, near)
    name = f"{line.wall.id}@{f.id}"
    lowest = bottom - max((s.drop for s in _segments(f, line.wall.id, (0.0, b.length))), default=0.0)
    wall = Band(name, b.start, b.end, b.direction, b.inward, b.set_out, layers, lowest, top, b.outside, (core, core))
    return wall, line.strip(f"@{f.id}", sill_near, sill_near + plate_wide, top, top + plate_thick)


@remembered(10_000)
def _footing_band(run: FoundationRun, width: float, depth: float) -> Band:
    """Return the band of a strip footing, down to its lowest underside."""
    middle = sum(run.faces) / 2.0 - run.footing_off(width)
    b = run.band
    layers = ((middle - width / 2.0, middle + width / 2.0),)
    return Band(
        run.id, b.start, b.end, b.direction, b.inward, b.set_out, layers, run.lowest - depth, b.bottom, b.outside
    )


def _layers(f: Foundation, near: float) -> tuple[tuple[tuple[float, float], ...], int]:
    """Return the depths of ledge, wall and inner part, outside to inside, and the number of the wall itself."""
    outer = near - f.ledge
    far = outer + f.thickness
    layers: list[tuple[float, float]] = [(outer, near)] if f.ledge > 0.0 else []
    if f.upper_height > 0.0 and near + f.upper_thickness < far - 1.0:
        layers += [(near, near + f.upper_thickness), (near + f.upper_thickness, far)]
    else:
        layers.append((near, far))
    return tuple(layers), 1 if f.ledge > 0.0 else 0


BEGINS = 0.5
"""A step this near the start of its wall says how the run begins, mm."""


def _segments(f: Foundation, wall: str, span: tuple[float, float]) -> tuple[Segment, ...]:
    steps = sorted((s for s in f.steps if s.wall == wall), key=lambda s: s.at)
    # At a corner that looks inward a run begins before its wall's start; what is said of the start holds from there.
    first = max(span[0], BEGINS)
    drop = sum(s.drop for s in steps if s.at <= first)
    found: list[Segment] = []
    low = span[0]
    for s in steps:
        if s.at <= first:
            continue
        if s.at >= span[1]:
            break
        found.append(Segment(low, s.at, drop))
        low, drop = s.at, drop + s.drop
    found.append(Segment(low, span[1], drop))
    return tuple(found)


# Walls ------------------------------------------------------------------------------------------------


WALL_MATERIALS = {"concrete": "concrete", "hollow block": "concrete block", "grouted block": "grouted block"}


def foundation_pieces(
    run: FoundationRun, recesses: tuple[Recess, ...] = (), seats: tuple[Upright, ...] = ()
) -> tuple[Piece, ...]:
    """Return the foundation wall, stretch by stretch.

    ``recesses``: openings and pockets of this run; ``seats``: slabs that lie on the wall.
    """
    f = run.foundation
    voids = [*(_void(run, r) for r in recesses), *seats]
    solids: list[Upright] = []
    names = _layer_names(run)
    for k, name in enumerate(names):
        top = _layer_top(run, name)
        begin, finish = run.spans[k]
        for i, s in enumerate(run.segments):
            low = begin if i == 0 else s.low
            high = finish if i == len(run.segments) - 1 else s.high
            bottom = run.band.bottom - s.drop
            if high - low > 1.0 and top - bottom > 1.0:
                solids += without(Upright(_ring(run.band, (low, high), k), bottom, top), voids)
    pieces = [
        Piece(
            piece_name(run.id, "wall", *([i] if i else [])),
            "foundation wall",
            f.id,
            f.head.level,
            solid.prism,
            WALL_MATERIALS[f.made_of],
            *solid.middle,
            run.length if not i else solid.long,
            wall=run.wall,
        )
        for i, solid in enumerate(solids)
    ]
    return tuple(pieces)


def let_in_solids(run: FoundationRun) -> list[Upright]:
    """Return how a concrete wall goes on between two that it meets end to end, before they take their part of it."""
    f = run.foundation
    if not run.let_in or f.made_of != "concrete":
        return []
    solids = []
    for k, name in enumerate(_layer_names(run)):
        top = _layer_top(run, name)
        (begin, finish), (first, last) = run.spans[k], run.let_in[k]
        for low, high, drop in ((first, begin, run.segments[0].drop), (finish, last, run.segments[-1].drop)):
            if high - low > 1.0 and top - (run.band.bottom - drop) > 1.0:
                solids.append(Upright(_ring(run.band, (low, high), k), run.band.bottom - drop, top))
    return solids


def let_in_pieces(run: FoundationRun, solids: tuple[Upright, ...]) -> list[Piece]:
    """Return what is left of those solids as pieces of the wall."""
    f = run.foundation
    return [
        Piece(
            piece_name(run.id, "wall", "let in" + (f" {i}" if i else "")), "foundation wall", f.id, f.head.level, solid.prism,
            WALL_MATERIALS[f.made_of], *solid.middle, solid.long, wall=run.wall,
        )
        for i, solid in enumerate(solids)
    ]  # fmt: skip


def _layer_names(run: FoundationRun) -> list[str]:
    names = ["ledge"] if run.foundation.ledge > 0.0 else []
    names.append("wall")
    return [*names, "inner"] if len(run.band.layers) > len(names) else names


def _layer_top(run: FoundationRun, name: str) -> float:
    lower = {"ledge": run.foundation.ledge_drop, "inner": run.foundation.upper_height}
    return run.band.top - lower.get(name, 0.0)


def _ring(band: Band, span: tuple[float, float], layer: int) -> Ring:
    near, far = band.layers[layer]
    ring = (band.at(span[0], near), band.at(span[1], near), band.at(span[1], far), band.at(span[0], far))
    return anticlockwise(ring)


def _void(run: FoundationRun, r: Recess) -> Upright:
    near, far = run.faces
    low, high = (far - r.depth, far + 10.0) if r.kind == "pocket" else (near - 10.0, far + 10.0)
    b = run.band
    ring = (b.at(r.offset, low), b.at(r.offset + r.width, low), b.at(r.offset + r.width, high), b.at(r.offset, high))
    top = b.top - r.top
    return Upright(anticlockwise(ring), top - r.height, top + (1.0 if r.top <= 0.0 else 0.0))


# Footings ---------------------------------------------------------------------------------------------

Sizes = dict[str, tuple[float, float]]
"""Width and thickness of the strip footings by run id, mm."""


def footing_solids(runs: tuple[FoundationRun, ...], sizes: Sizes) -> list[tuple[str, Upright]]:
    """Return the strip footings as (run id, solid): centred under each wall (or off by its offset), stepped.

    At a step the lower footing runs on under the upper one by the lap, and an upright piece as thick as the
    footing joins the two.
    """
    used = [run for run in runs if run.footing]
    bands = [_footing_band(run, *sizes[run.id]) for run in used]
    joints = join(bands)
    solids: list[tuple[str, Upright]] = []
    for run, band in zip(used, bands, strict=True):
        # As far as the thinner of two that it meets: what they fill is taken out when all is counted once.
        begin, finish = joints[run.id].farthest[0]
        solids += [(run.id, solid) for solid in _footing_of(run, band, begin, finish, sizes[run.id][1])]
    return solids


@remembered(10_000)
def _footing_of(run: FoundationRun, band: Band, begin: float, finish: float, depth: float) -> tuple[Upright, ...]:
    return tuple(
        Upright(_ring(band, (low, high), 0), bottom, top)
        for low, high, bottom, top in _strips(run, begin, finish, depth)
        if high - low > 1.0
    )


def blinding_solids(footings: list[tuple[str, Upright]], runs: tuple[FoundationRun, ...]) -> list[tuple[str, Upright]]:
    """Return the lean concrete under the strip footings as (run id, solid); under each step it lies lower."""
    thick = {run.id: run.foundation.blinding for run in runs}
    return [
        (run_id, Upright(solid.outline, solid.bottom - thick[run_id], solid.bottom))
        for run_id, solid in footings
        if thick[run_id] > 0.0
    ]


def _strips(run: FoundationRun, begin: float, finish: float, depth: float) -> list[tuple[float, float, float, float]]:
    """Return (low, high, bottom, top) of the footings and upright pieces of a run; lower ones reach under higher."""
    ends = [begin, *(s.high for s in run.segments[:-1]), finish]
    reach = max(depth, run.foundation.lap)
    found: list[tuple[float, float, float, float]] = []
    for i, s in enumerate(run.segments):
        low, high = ends[i], ends[i + 1]
        if i > 0 and s.drop > run.segments[i - 1].drop:
            low = max(low - reach, ends[i - 1])
        if i + 1 < len(run.segments) and s.drop > run.segments[i + 1].drop:
            high = min(high + reach, ends[i + 2])
        top = run.band.bottom - s.drop
        found.append((low, high, top - depth, top))
    for i, (a, b) in enumerate(itertools.pairwise(run.segments)):
        at = ends[i + 1]
        upper, lower = min(a.drop, b.drop), max(a.drop, b.drop)
        top, bottom = run.band.bottom - upper - depth, run.band.bottom - lower
        if top - bottom > 1.0:
            # The upright piece stands under the end of the upper footing.
            found.append((at - depth, at, bottom, top) if b.drop > a.drop else (at, at + depth, bottom, top))
    return found


def footing_pieces(runs: tuple[FoundationRun, ...], left: dict[str, tuple[Upright, ...]]) -> tuple[Piece, ...]:
    """Return the strip footings as pieces, from their solids cut where they meet others."""
    pieces: list[Piece] = []
    for run in runs:
        pieces += [_footing_piece(run, str(i), solid) for i, solid in enumerate(left.get(run.id, ()))]
    return tuple(pieces)


@remembered(20_000)
def _footing_piece(run: FoundationRun, number: str, solid: Upright) -> Piece:
    return Piece(
        piece_name(run.id, "footing", *([number] if number != "0" else [])),
        "strip footing",
        run.foundation.id,
        run.foundation.foot.level,
        solid.prism,
        "concrete",
        *solid.middle,
        solid.long,
        wall=run.wall,
    )


def strip_solid(band: Band, span: tuple[float, float], bottom: float, tall: float) -> Prism:
    near, far = band.layers[0]
    ring: Ring = (
        band.at(span[0], near),
        band.at(span[1], near),
        band.at(span[1], far),
        band.at(span[0], far),
    )
    return upright(ring, bottom, tall)


def axis_of(band: Band, span: tuple[float, float], z: float) -> tuple[Vec, Vec]:
    middle = sum(band.layers[0]) / 2.0
    return (*band.at(span[0], middle), z), (*band.at(span[1], middle), z)
