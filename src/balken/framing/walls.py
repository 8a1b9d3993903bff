"""Wall layers as solids, cut by openings and run up under gables."""

from dataclasses import dataclass

import shapely

from balken.framing.bands import Stretches, WallLine
from balken.framing.pieces import Piece
from balken.geometry.plane import Point, Ring
from balken.geometry.prism import Prism
from balken.model.records import Opening


@dataclass(frozen=True, slots=True)
class GableTop:
    """The raking top of a gable wall: the roof over it as seen along its set-out line.

    ``eaves`` are where (along, mm) the two outer core faces of the eave walls stand; ``under`` and
    ``over`` the heights of the rafters' underside and top there; ``rise`` mm a mm toward ``peak``.
    """

    eaves: tuple[float, float]
    peak: float
    under: float
    over: float
    rise: float
    bearing: float

    def height(self, along: float, over: bool) -> float:
        """Return the height of the roof's underside (or top) above a point of the wall."""
        run = min(abs(along - self.eaves[0]), abs(along - self.eaves[1]))
        if not min(self.eaves) <= along <= max(self.eaves):
            run = -run
        if over:
            return self.over + run * self.rise
        return max(self.bearing, self.under + run * self.rise)


def wall_pieces(
    line: WallLine, spans: Stretches, openings: tuple[Opening, ...], gable: GableTop | None
) -> tuple[Piece, ...]:
    """Return one piece a layer (several where openings cut it through)."""
    band = line.band
    right_hand = line.wall.outside == "right"
    pieces: list[Piece] = []
    for i, (layer, (near, far), (a, b)) in enumerate(zip(line.buildup.layers, band.layers, spans, strict=True)):
        over = gable is not None and layer.function in ("cladding", "sheathing")
        profile = _profile(a, b, band.top - band.bottom, gable, over, band.bottom)
        x, y = band.at(0.0, far if right_hand else near)
        for j, rings in enumerate(_cut(profile, openings)):
            pieces.append(
                Piece(
                    f"{line.wall.id}/layer/{i}" + (f".{j}" if j else ""),
                    "wall layer",
                    line.wall.id,
                    line.wall.foot.level,
                    Prism((x, y, band.bottom), (*band.direction, 0.0), (0.0, 0.0, 1.0), rings, far - near),
                    layer.material,
                    (*band.at(a, (near + far) / 2.0), band.bottom),
                    (*band.at(b, (near + far) / 2.0), band.bottom),
                    b - a,
                    wall=line.wall.id,
                )
            )
    return tuple(pieces)


def _profile(a: float, b: float, height: float, gable: GableTop | None, over: bool, bottom: float) -> Ring:
    top: list[Point] = [(b, height), (a, height)]
    if gable is not None:
        stations = {a, b, gable.peak}
        if not over and gable.rise > 0.0:
            seat = (gable.bearing - gable.under) / gable.rise
            low, high = min(gable.eaves), max(gable.eaves)
            stations |= {low + seat, high - seat}
        top = [
            (s, max(height, gable.height(s, over) - bottom))
            for s in sorted((s for s in stations if a <= s <= b), reverse=True)
        ]
    return ((a, 0.0), (b, 0.0), *top)


def _cut(profile: Ring, openings: tuple[Opening, ...]) -> list[tuple[Ring, ...]]:
    if not openings:
        return [(profile,)]
    whole = shapely.Polygon(profile)
    for o in openings:
        low = o.sill if o.sill > 0.0 else -1.0
        whole = whole.difference(shapely.box(o.offset, low, o.offset + o.width, o.sill + o.height))
    parts = whole.geoms if isinstance(whole, shapely.MultiPolygon) else [whole]
    return [
        (tuple(p.exterior.coords[:-1][::-1]), *(tuple(hole.coords[:-1]) for hole in p.interiors))
        if not p.exterior.is_ccw
        else (tuple(p.exterior.coords[:-1]), *(tuple(hole.coords[:-1]) for hole in p.interiors))
        for p in (shapely.Polygon(part) for part in parts if isinstance(part, shapely.Polygon) and part.area > 1.0)
    ]
