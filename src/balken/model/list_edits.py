"""Edits of the lists of products that a project holds of its own."""

from collections.abc import Iterable, Iterator, Sequence

import msgspec

from balken.catalog import own_beams, own_joists
from balken.catalog.beams import beam_section
from balken.catalog.hangers import HangerRow
from balken.catalog.post_fittings import FittingRow
from balken.model.errors import EditError
from balken.model.hanger_edits import take_hangers
from balken.model.kinds.own_beam import OwnBeam
from balken.model.kinds.own_joist import SCALES, OwnJoist
from balken.model.kinds.post_fitting import PostFitting
from balken.model.records import Project
from balken.model.rules import check

Row = HangerRow | FittingRow | own_joists.OwnJoist | own_beams.OwnBeam


def take_list(project: Project, rows: Sequence[Row]) -> Project:
    """Take a list of products, all of one kind, in place of that which the project has of them; raises EditError."""
    hangers = [row for row in rows if isinstance(row, HangerRow)]
    fittings = [row for row in rows if isinstance(row, FittingRow)]
    joists = [row for row in rows if isinstance(row, own_joists.OwnJoist)]
    beams = [row for row in rows if isinstance(row, own_beams.OwnBeam)]
    if beams:
        return take_beams(project, beams, steel=beams[0].made_of == "W")
    if hangers:
        return take_hangers(project, hangers)
    return take_fittings(project, fittings) if fittings else take_joists(project, joists)


def take_fittings(project: Project, rows: Iterable[FittingRow]) -> Project:
    """Take a list of caps and bases; an empty one gives back that which ships with Balken.  Raises EditError."""
    taken = tuple(PostFitting(id=f"post-fitting-{n}", **row._asdict()) for n, row in enumerate(rows, 1))
    return check(msgspec.structs.replace(project, post_fittings=taken))


def take_joists(project: Project, rows: Iterable[own_joists.OwnJoist]) -> Project:
    """Take a list of I-joists; an empty one gives back those that ship with Balken.

    Raises EditError for what measures or carries nothing, and while joists are of a list that would go.
    """
    taken = []
    for n, row in enumerate(rows, 1):
        if fault := own_joists.fault_of(row):
            raise EditError(f"it {fault}.", f"I-joist {row.name}")
        named = row._replace(name=own_joists.know(row))
        plain = {field: value / SCALES[field] if field in SCALES else value for field, value in named._asdict().items()}
        taken.append(OwnJoist(id=f"own-joist-{n}", **plain))
    names = {own_joists.key_of(joist.name) for joist in taken}
    for floor in project.floors:
        size = floor.joists.size
        listed = own_joists.own_joist(size) if size is not None else None
        if listed is not None and own_joists.key_of(listed[0].name) not in names:
            raise EditError(
                f"its joists are {size}, which is not in the list.", floor.name, "Choose others, or auto, first."
            )
    return check(msgspec.structs.replace(project, own_joists=tuple(taken)))


def take_beams(project: Project, rows: Iterable[own_beams.OwnBeam], steel: bool) -> Project:
    """Take a list of wooden beams, or of W shapes; an empty one gives back those that ship with Balken.

    Raises EditError for what measures or carries nothing, and while beams are of a list that would go.
    """
    taken = []
    for row in rows:
        if fault := own_beams.fault_of(row):
            raise EditError(f"it {fault}.", f"Beam {row.name}")
        taken.append(row._replace(name=own_beams.know(row)))
    kept = [beam.row for beam in project.own_beams if (beam.made_of == "W") != steel]
    listed = kept + taken if steel else taken + kept
    names = {own_beams.key_of(row.name) for row in listed}
    for size, where in _sizes(project):
        own = beam_section(size).own
        if own is not None and own_beams.key_of(own.name) not in names:
            raise EditError(
                f"it is made of {size}, which is not in the list.", where, "Choose another, or auto, first."
            )
    made = tuple(OwnBeam(id=f"own-beam-{n}", **row._asdict()) for n, row in enumerate(listed, 1))
    return check(msgspec.structs.replace(project, own_beams=made))


def _sizes(project: Project) -> Iterator[tuple[str, str]]:
    """Give each section typed for a beam, and where."""
    for beam in project.beams:
        if beam.size is not None:
            yield beam.size, "Beam"
    for row in project.beam_rows:
        for size in (row.size, *(single.size for single in row.singles)):
            if size is not None:
                yield size, "Row of beams"
