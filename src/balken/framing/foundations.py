"""Foundation walls, their sill plates and the strip footings under them."""

from dataclasses import dataclass

from balken.framing.bands import Band, WallLine, stretches
from balken.framing.pieces import Bearer, Piece, split_run
from balken.geometry.plane import Ring
from balken.geometry.prism import Prism, Vec, upright
from balken.model.lookup import height
from balken.model.records import Foundation, Level
from balken.model.sections import section


@dataclass(frozen=True, slots=True)
class FoundationRun:
    """The foundation under one wall: its band, the run of it, and the band of its sill plate."""

    id: str
    foundation: Foundation
    wall: str
    band: Band
    span: tuple[float, float]
    sill: Band
    sill_span: tuple[float, float]

    @property
    def length(self) -> float:
        """Length of the foundation wall, mm."""
        return self.span[1] - self.span[0]

    @property
    def bearer(self) -> Bearer:
        """The sill plate as something joists can bear on."""
        b = self.sill
        near, far = b.layers[0]
        thick = section(self.foundation.sill_size).breadth
        start, end = b.at(self.sill_span[0], 0.0), b.at(self.sill_span[1], 0.0)
        return Bearer(self.id, self.wall, start, end, b.direction, b.inward, near, far, b.bottom + thick)


def foundation_runs(
    foundations: tuple[Foundation, ...], lines: dict[str, WallLine], levels: tuple[Level, ...]
) -> tuple[FoundationRun, ...]:
    """Place a foundation wall under each wall named.

    Under an outside wall its outside face lines up with the outer face of the sheathing; under
    an interior wall it is centred.
    """
    bands: list[tuple[Foundation, WallLine, Band, Band]] = []
    for f in foundations:
        bottom, top = height(f.foot, levels), height(f.head, levels)
        plate = section(f.sill_size)
        for w in f.walls:
            line = lines[w]
            if line.band.outside:
                near = line.sheathing
                sill_near = line.core[0]
            else:
                near = (line.core[0] + line.core[1] - f.thickness) / 2.0
                sill_near = (line.core[0] + line.core[1] - plate.depth) / 2.0
            bands.append(
                (
                    f,
                    line,
                    line.strip(f"@{f.id}", near, near + f.thickness, bottom, top),
                    line.strip(f"@{f.id}", sill_near, sill_near + plate.depth, top, top + plate.breadth),
                )
            )
    runs = stretches([wall for _, _, wall, _ in bands])
    sills = stretches([sill for _, _, _, sill in bands])
    return tuple(
        FoundationRun(f"{f.id}/{line.wall.id}", f, line.wall.id, wall, runs[wall.id][0], sill, sills[sill.id][0])
        for f, line, wall, sill in bands
    )


def foundation_pieces(run: FoundationRun, stock: float) -> tuple[Piece, ...]:
    """Return the foundation wall and its sill plates, in stock lengths."""
    f, band = run.foundation, run.band
    wall = Piece(
        f"{run.id}/wall",
        "foundation wall",
        f.id,
        f.head.level,
        _strip_solid(band, run.span, band.bottom, band.top - band.bottom),
        "concrete",
        *_axis(band, run.span, band.bottom),
        run.length,
        wall=run.wall,
    )
    sill = run.sill
    plate = section(f.sill_size)
    pieces = [wall]
    begin, finish = run.sill_span
    for i, (a, b) in enumerate(split_run(finish - begin, stock)):
        part = (begin + a, begin + b)
        pieces.append(
            Piece(
                f"{run.id}/sill/{i}",
                "sill plate",
                f.id,
                f.head.level,
                _strip_solid(sill, part, sill.bottom, plate.breadth),
                "timber",
                *_axis(sill, part, sill.bottom),
                b - a,
                f.sill_size,
                "Southern Pine",
                "No. 2 treated",
                run.wall,
            )
        )
    return tuple(pieces)


def footing_pieces(runs: tuple[FoundationRun, ...], widths: dict[str, float]) -> tuple[Piece, ...]:
    """Return the strip footings: centred under each wall, below the top-of-footing level.

    ``widths``: mm by run id.
    """
    bands: list[Band] = []
    for run in runs:
        middle = sum(run.band.layers[0]) / 2.0
        half = widths[run.id] / 2.0
        b = run.band
        bands.append(
            Band(
                run.id,
                b.start,
                b.end,
                b.direction,
                b.inward,
                b.set_out,
                ((middle - half, middle + half),),
                b.bottom - run.foundation.footing_depth,
                b.bottom,
                b.outside,
            )
        )
    spans = stretches(bands)
    return tuple(
        Piece(
            f"{run.id}/footing",
            "strip footing",
            run.foundation.id,
            run.foundation.foot.level,
            _strip_solid(band, spans[run.id][0], band.bottom, run.foundation.footing_depth),
            "concrete",
            *_axis(band, spans[run.id][0], band.bottom),
            spans[run.id][0][1] - spans[run.id][0][0],
            wall=run.wall,
        )
        for run, band in zip(runs, bands, strict=True)
    )


def _strip_solid(band: Band, span: tuple[float, float], bottom: float, tall: float) -> Prism:
    near, far = band.layers[0]
    ring: Ring = (
        band.at(span[0], near),
        band.at(span[1], near),
        band.at(span[1], far),
        band.at(span[0], far),
    )
    return upright(ring, bottom, tall)


def _axis(band: Band, span: tuple[float, float], z: float) -> tuple[Vec, Vec]:
    middle = sum(band.layers[0]) / 2.0
    return (*band.at(span[0], middle), z), (*band.at(span[1], middle), z)
