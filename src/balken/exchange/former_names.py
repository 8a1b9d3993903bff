"""What members were called before they were named by their place: by their number in their layout.

Written with each member to IFC, so that who noted a former name (in the Tag, or through the GlobalId made of it) finds the
member again.
"""

import itertools
from collections import Counter

from balken.derived.model import Model
from balken.model.naming import piece_name


def former_names(model: Model) -> dict[str, str]:
    """Return the former name of each joist, rim board, rafter, tie and stick by its name of today."""
    found: dict[str, str] = {}
    for plan in model.floors:
        floor = plan.floor.id
        for k, (_, group) in enumerate(itertools.groupby(plan.lines, key=lambda line: line.t)):
            for i, line in enumerate(group):
                found[piece_name(floor, "joist", line.place)] = piece_name(floor, "joist", f"{k:03d}{_letter(i)}")
    for roof in model.roofs:
        owner = roof.roof.id
        for k, station in enumerate(roof.stations):
            for side in (0, 1):
                name = piece_name(owner, "rafter", roof.rafter_place(station, side))
                found[name] = piece_name(owner, "rafter", f"{k:03d}{'ab'[side]}")
        for k, (_, group) in enumerate(itertools.groupby(roof.ties, key=lambda tie: tie.t), 1):
            for i, tie in enumerate(group):
                found[piece_name(owner, "tie", tie.place)] = piece_name(owner, "tie", f"{k:03d}{_letter(i)}")
    for wall, framed in model.framed.items():
        count: Counter[str] = Counter()
        for stick in framed.wall.sticks:
            former = piece_name(wall, stick.role.replace(" ", "-"), f"{count[stick.role]:03d}")
            found[stick.key(wall)] = former
            count[stick.role] += 1
    return found


def _letter(i: int) -> str:
    return chr(ord("a") + i) if i < 26 else str(i)
