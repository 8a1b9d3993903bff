"""Wall layers as solids, cut by openings and run up under gables."""

import bisect
from collections.abc import Sequence

import numpy as np
import shapely
from msgspec.structs import replace

from balken.framing.bands import WallLine
from balken.framing.joints import Joints, LayerCut
from balken.framing.pieces import Piece
from balken.geometry.plane import Point, Ring, anticlockwise, rings_of
from balken.geometry.prism import UP, Prism, upright
from balken.model.naming import piece_name
from balken.model.records import Opening
from balken.value import Value

BELOW = -1.0
"""Doors are cut from a little below the foot, mm, so that nothing thin is left."""


BESIDE = 1e-5
"""Right behind a place, mm."""
STEP = 1.0
"""Slopes that end at one place less apart than this go on in one another, mm."""


class GableTop(Value, frozen=True):
    """The raking top of a gable wall, or of one that runs up to a raised eave: the roof over it as seen along its set-out line.

    ``eaves``: where (along, mm) the roof begins and ends; ``slopes``: from the left to the first of ``breaks``, from there to the next, and so
    on to the right, each as (rise a mm along, height of the rafters' top at 0, of their underside at 0).  ``bearing``: what the roof bears on,
    ``floors``: below each slope, where those differ.  ``shell``: a frame of trusses stands on the wall's plates, and only what lies outside of
    its core runs up.  ``pockets``: from where to where along, and from which height up, ridges run through it, and how wide one is along the wall (less, where
    it runs through askew).
    """

    eaves: tuple[float, float]
    breaks: tuple[float, ...]
    slopes: tuple[tuple[float, float, float], ...]
    bearing: float
    shell: bool = False
    floors: tuple[float, ...] = ()
    pockets: tuple[tuple[float, float, float, float], ...] = ()
    shells: tuple[bool, ...] = ()
    """Under which slopes so, where that differs."""

    @property
    def of_core(self) -> "GableTop | None":
        """The same for what is framed: None where that ends at its plates."""
        if self.shell or not any(self.shells):
            return None if self.shell else self
        floors = self.floors or (self.bearing,) * len(self.slopes)
        rows = zip(self.slopes, floors, self.shells, strict=True)
        return replace(self, slopes=tuple((0.0, z, z) if level else slope for slope, z, level in rows), shells=())

    def beyond(self, along: float, over: bool) -> float:
        """Return the height right behind a place, as ``height`` does."""
        return self.height(along + BESIDE, over)

    def slope(self, along: float) -> tuple[float, float, float]:
        """Return the slope over a point of the wall."""
        return self.slopes[bisect.bisect_left(self.breaks, along)]

    def floor(self, along: float) -> float:
        """Return the height of what the roof bears on below a point of it."""
        return self.floors[bisect.bisect_left(self.breaks, along)] if self.floors else self.bearing

    def height(self, along: float, over: bool) -> float:
        """Return the height of the roof's underside (or top) above a point of the wall; no lower than what it bears on."""
        rise, top, under = self.slope(along)
        return top + rise * along if over else max(self.floor(along), under + rise * along)

    def underside(self, along: float) -> float:
        """Return the height of the rafters' underside above a point, even where that lies below what they bear on."""
        rise, _, under = self.slope(along)
        return under + rise * along

    @property
    def highest(self) -> float:
        """Where along the wall its roof is highest: beside a step on its higher side."""
        return max((*self.eaves, *self.breaks, *(x + BESIDE for x in self.steps)), key=self.underside)

    @property
    def steps(self) -> tuple[float, ...]:
        """Where along it roofs beside one another end at unlike heights."""
        rows = zip(self.breaks, self.slopes, self.slopes[1:], strict=False)
        return tuple(x for x, (r, _, z), (s, _, y) in rows if abs(z + r * x - y - s * x) > STEP)


def gable_under(eaves: tuple[float, float], under: float, over: float, rise: float, bearing: float) -> GableTop:
    """Return the top of a gable alike on both sides: heights of the rafters at the eaves, ``rise`` a mm toward the middle."""
    low, high = min(eaves), max(eaves)
    left = (rise, over - rise * low, under - rise * low)
    right = (-rise, over + rise * high, under + rise * high)
    return GableTop(eaves, ((low + high) / 2.0,), (left, right), bearing)


Profiles = tuple[tuple[tuple[Ring, ...], ...], ...]
"""For each layer what it is made of: outlines with holes, x along the wall, z above its foot."""


class LetOut(Value, frozen=True):
    """What is let out of the layers of a wall that lie between two depths: an outline along the wall and up from its foot, mm."""

    near: float
    far: float
    ring: Ring


def layer_profiles(
    line: WallLine,
    joints: Joints,
    openings: tuple[Opening, ...],
    gable: GableTop | None,
    out: tuple[LetOut, ...] = (),
) -> Profiles:
    """Return the layers of a wall in its own plane; it does not look at where the wall stands.  ``out``: what is let out of some."""
    band = line.band
    found = []
    for i, (layer, (a, b)) in enumerate(zip(line.buildup.layers, joints.spans, strict=True)):
        outer = layer.function in ("cladding", "sheathing")
        over = gable if gable is None or outer else gable.of_core
        profile = _profile(a, b, band.top - band.bottom, over, over is not None and outer, band.bottom, _drop(line, i))
        cuts = tuple(cut for cut in joints.cuts if cut.layer == i)
        near, far = band.layers[i]
        gone = [one.ring for one in out if one.near - 0.1 < near and far < one.far + 0.1]
        found.append(tuple(_cut(profile, openings, cuts, band.bottom, gone)))
    return tuple(found)


def _drop(line: WallLine, i: int) -> float:
    """Return how far a layer reaches down below the wall's foot, mm."""
    outer = line.buildup.layers[i].function in ("cladding", "sheathing")
    return line.wall.cover if outer and i < line.band.core[0] else 0.0


def wall_pieces(line: WallLine, joints: Joints, profiles: Profiles) -> tuple[Piece, ...]:
    """Return one piece a layer (several where openings cut it through or its end is mitred)."""
    band = line.band
    right_hand = line.wall.outside == "right"
    along = (*band.direction, 0.0)
    pieces: list[Piece] = []
    for i, (layer, (near, far), (a, b)) in enumerate(zip(line.buildup.layers, band.layers, joints.spans, strict=True)):
        origin = (*band.at(0.0, far if right_hand else near), band.bottom)
        start = (*band.at(a, (near + far) / 2.0), band.bottom)
        end = (*band.at(b, (near + far) / 2.0), band.bottom)
        solids = [Prism(origin, along, UP, rings, far - near) for rings in profiles[i]]
        for wedge in joints.wedges:
            if wedge.layer == i:
                low, high = wedge.heights or (band.bottom - _drop(line, i), band.top)
                solids.append(upright(wedge.ring, low, high - low))
        for j, solid in enumerate(solids):
            pieces.append(
                Piece(
                    piece_name(line.wall.id, "layer", f"{i}" + (f".{j}" if j else "")),
                    "wall layer",
                    line.wall.id,
                    line.wall.foot.level,
                    solid,
                    layer.material,
                    start,
                    end,
                    b - a,
                    wall=line.wall.id,
                )
            )
    return tuple(pieces)


def _profile(
    a: float, b: float, height: float, gable: GableTop | None, over: bool, bottom: float, drop: float = 0.0
) -> Ring:
    top: list[Point] = [(b, height), (a, height)]
    if gable is not None:
        stations = {a, b, *gable.breaks}
        if not over:
            floors = gable.floors or [gable.bearing] * len(gable.slopes)
            seats = [
                (floor - under) / rise
                for (rise, _, under), floor in zip(gable.slopes, floors, strict=True)
                if rise != 0.0
            ]
            stations |= {s for s in seats if abs(gable.underside(s) - gable.floor(s)) < 0.01}
        else:  # where it comes down to the wall's own top
            level = [(bottom + height - top) / rise for rise, top, _ in gable.slopes if rise != 0.0]
            stations |= {s for s in level if abs(gable.height(s, over) - bottom - height) < 0.01}
        steps, top = set(gable.steps), []
        for s in sorted((s for s in stations if a <= s <= b), reverse=True):
            here, behind = (max(height, find(s, over) - bottom) for find in (gable.height, gable.beyond))
            if s in steps and s < b and (abs(here - behind) > 0.5 or s == a):
                top.append((s, behind))
            if s not in steps or s > a:
                top.append((s, here))
    return ((a, -drop), (b, -drop), *top)


def _with_openings(profile: Ring, openings: tuple[Opening, ...]) -> tuple[Ring, ...] | None:
    """Return a profile with openings clear of one another, of its ends and of its top; None when some are not."""
    (a, low), (b, _), *heads = profile
    high = min(z for _, z in heads)
    sole: list[Point] = []
    holes: list[Ring] = []
    reached = a
    for o in sorted(openings, key=lambda o: o.offset):
        p, q, bottom, top = o.offset, o.offset + o.width, o.sill if o.sill > 0.0 else BELOW, o.sill + o.height
        if p < reached + 1.0 or q > b - 1.0 or top > high - 1.0 or top < low + 1.0:
            return None
        if bottom <= low:
            sole += [(p, low), (p, top), (q, top), (q, low)]
        elif bottom < low + 1.0:
            return None
        else:
            holes.append(((p, bottom), (p, top), (q, top), (q, bottom)))
        reached = q
    return ((a, low), *sole, (b, low), *heads), *holes


def _cut(
    profile: Ring,
    openings: tuple[Opening, ...],
    cuts: tuple[LayerCut, ...],
    bottom: float,
    gone: Sequence[Ring] = (),
) -> list[tuple[Ring, ...]]:
    if not openings and not cuts and not gone:
        return [(profile,)]
    if not cuts and not gone and (plain := _with_openings(profile, openings)) is not None:
        return [plain]
    taken = [(o.offset, o.sill if o.sill > 0.0 else BELOW, o.offset + o.width, o.sill + o.height) for o in openings]
    taken += [(cut.low, cut.bottom - bottom, cut.high, cut.top - bottom) for cut in cuts]
    boxes = [*(shapely.box(*np.array(taken).T) if taken else ()), *map(shapely.Polygon, gone)]
    whole = shapely.Polygon(profile).difference(shapely.union_all(boxes) if len(boxes) > 1 else boxes[0])
    return [(anticlockwise(outer), *holes) for outer, *holes in rings_of(whole, 1.0)]
