"""Plates of framed walls that stand on concrete without a sill plate: bolted down as that would be (IRC R403.1.6)."""

from balken.derived.model import Model
from balken.framing.foundations import FoundationRun
from balken.geometry.plane import dot, sub
from balken.model.kinds.foundation import NO_SILL

Stretch = tuple[float, float]


def bolted_plates(model: Model, run: FoundationRun) -> tuple[tuple[Stretch, ...], float | None]:
    """Return from where to where along a run the bottom plates of the wall on it lie, and at which depth of its sill's band their middle;
    nothing where there is a sill, or no framed wall on the concrete.
    """
    framed = model.framed.get(run.wall)
    if run.foundation.sill_size != NO_SILL or framed is None or not framed.on_concrete:
        return (), None
    line, sill = model.lines[run.wall], run.sill
    middle = sum(line.core) / 2.0
    ends = [
        (sill_along(run, line.band.at(a, middle)), sill_along(run, line.band.at(b, middle)))
        for a, b in framed.bottom_plates
    ]
    depth = dot(sub(line.band.at(0.0, middle), sill.at(0.0, 0.0)), sill.inward)
    return tuple((round(min(pair), 3), round(max(pair), 3)) for pair in ends), round(depth, 3)


def sill_along(run: FoundationRun, point: tuple[float, float]) -> float:
    """Return how far along a run's sill a place is, mm."""
    return dot(sub(point, run.sill.start), run.sill.direction)
