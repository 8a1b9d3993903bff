"""Older project files brought to today's format, one function a version.

Each takes the plain data of a file of its version and returns that of the next.  What a file said then it says still:
the same walls, the same loads.  A new field that changes nothing where it is left out needs no function of its own, but
the version goes up with it, so that an older Balken says that it cannot read the file rather than what it stumbled on.
"""

from collections.abc import Callable
from typing import Any

Plain = dict[str, Any]


def _from_1(project: Plain) -> Plain:
    """Version 2 knows footings at a boundary, earth filled inside, pads cast with strips; none was said before."""
    for foundation in project.get("foundations") or ():
        foundation.setdefault("boundary", "none")
        foundation.setdefault("inside_ground", None)
    for pad in project.get("pads") or ():
        pad.setdefault("with_strip", False)
    return project


def _from_2(project: Plain) -> Plain:
    """Version 3 knows what columns are made of (before, they were rectangles as typed); drawings under the plan are
    called base drawings."""
    project["base_drawings"] = project.pop("underlays", None) or []
    for column in project.get("columns") or ():
        column.setdefault("size", "")
    return project


def _from_3(project: Plain) -> Plain:
    """Version 4 carries the catalogue entries it uses; before, names meant what the catalogue of that day had."""
    return project


def _from_4(project: Plain) -> Plain:
    """Version 5 ties holes of slabs to axes; before, they were rings of corners that lay where they were."""
    for slab in project.get("slabs") or ():
        slab["holes"] = [
            {
                "place": {"type": "free", "x": ring[0][0], "y": ring[0][1]},
                "outline": [[x - ring[0][0], y - ring[0][1]] for x, y in ring],
            }
            for ring in slab.get("holes") or ()
            if ring
        ]
    return project


MIGRATIONS: dict[int, Callable[[Plain], Plain]] = {1: _from_1, 2: _from_2, 3: _from_3, 4: _from_4}
"""By the version that they start from."""
VERSION = max(MIGRATIONS) + 1
"""What is written today."""


def migrated(project: Plain, version: int) -> Plain:
    """Return the data of a project of some version as it is written today."""
    for number in range(version, VERSION):
        project = MIGRATIONS[number](project)
    return project
