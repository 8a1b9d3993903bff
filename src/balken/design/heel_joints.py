"""Heel joints: the nails of a rafter and its ceiling tie, and of the laps of ties over inside walls, that hold the rafters' push."""

import math

from balken.catalog.sections import section
from balken.design.layouts import LayoutDesign
from balken.design.load_duration import normal_duration
from balken.design.surface_design import SurfaceDesign
from balken.loads.beam_law import NONE_MORE
from balken.loads.cases import Cases
from balken.model.records import Roof
from balken.standards.demands import HeelNails, MemberCase
from balken.standards.standard import Standard


def heel_joints(
    roof: Roof, rafters: LayoutDesign, ties: LayoutDesign, framing: SurfaceDesign | None, standard: Standard
) -> tuple[tuple[str, HeelNails], ...]:
    """Return the nails of the heel joints of a roof, and of the laps of its ties: at all ("") and at doubled rafters, beside openings and under other roofs.

    ``framing``: of a roof of planes; each for the tie that is pulled most.
    """
    pulls: dict[str, list[Cases]] = {"": [], "at doubled rafters": []}
    if framing is None:
        pulls[""].append(_pull(ties.result.case))
    for tie in framing.ties if framing is not None else ():
        beside = any(key in framing.boards.own for key in tie.rafters) if framing is not None else False
        pulls["at doubled rafters" if beside else ""].append(_pull(framing.results[tie.key].case))  # type: ignore[union-attr]
    thin = min(section(ties.size).breadth, section(rafters.size).breadth)
    found = []
    for where, cases in pulls.items():
        force = max((normal_duration(case, NONE_MORE, standard)[0] for case in cases), default=0.0)
        if force > 0.0:
            found.append((where, standard.heel_nails((roof.rafters.species, roof.ties.species), thin, force)))
    return tuple(found)


def _pull(case: object) -> Cases:
    assert isinstance(case, MemberCase)
    if not case.nailed:
        return case.tension
    # The nails of a raised tie hold the ceiling on it too: the two forces square to one another, both at their greatest.
    return Cases(*(math.hypot(a, b) for a, b in zip(case.tension, case.bears, strict=True)))
