"""Choosing what geometry follows from: studs of walls, tried from the smallest up as the whole building then stands."""

from balken.derive import derive
from balken.design.stud_walls import STUD_SIZES, FramedWall
from balken.memo import Memo
from balken.model.errors import EditError
from balken.model.lookup import wall_label
from balken.model.records import Project
from balken.model.stud_edits import take_studs


def choose_studs(project: Project, wall_ids: tuple[str, ...]) -> Project:
    """Make walls of the smallest studs with which all of their framing holds, each by itself; spacing and grade stay as they are.

    Raises EditError for walls that are not framed of studs, and where none are enough.
    """
    memo = Memo()
    for wall in wall_ids:
        for size in STUD_SIZES:
            tried = take_studs(project, (wall,), size)
            framed = derive(tried, memo).framed.get(wall)
            if framed is not None and most_used(framed) <= 1.0:
                project = tried
                break
        else:
            raise EditError(
                f"no studs up to {STUD_SIZES[-1]} hold what lies on it.",
                wall_label(project, wall),
                "Set them closer, take a better grade, or bring its loads down another way.",
            )
    return project


def most_used(framed: FramedWall) -> float:
    """Return how far the worst of a wall's framing is used: studs, what stands beside and over its openings, posts in it."""
    return max(
        framed.design.result.used,
        *(header.used for header in framed.headers.values()),
        *(result.used for result in framed.results.values()),
    )
