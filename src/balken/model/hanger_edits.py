"""Edits of the list of hangers that a project holds of its own."""

from collections.abc import Iterable

import msgspec

from balken.catalog.hangers import HangerRow
from balken.model.kinds.hanger import Hanger
from balken.model.records import Project
from balken.model.rules import check


def take_hangers(project: Project, rows: Iterable[HangerRow]) -> Project:
    """Take a list of hangers in place of the one there is; an empty one gives back that which ships with Balken.

    Raises EditError for what measures or carries nothing.
    """
    taken = tuple(Hanger(id=f"hanger-{n}", **row._asdict()) for n, row in enumerate(rows, 1))
    return check(msgspec.structs.replace(project, hangers=taken))
