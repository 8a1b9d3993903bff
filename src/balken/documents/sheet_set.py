"""The sheets of a project in order: plans and section, foundations and their elevations, framing of each wall."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from functools import partial

from balken.derived.model import Model
from balken.documents.beam_sheets import beam_sheets
from balken.documents.display import Drawing
from balken.documents.elevation import elevation_number, elevation_sheet, framed_walls
from balken.documents.foundation_sheets import foundation_sheets
from balken.documents.plan_sheets import plan_sheets
from balken.documents.roof_sheets import roof_sheets
from balken.documents.sheet import Sheet
from balken.model.lookup import wall_label


@dataclass(frozen=True, slots=True)
class Page:
    """A sheet by number and title, drawn when ``make`` is called; ``kind``: plans, foundations, elevations, beams, roof, framing."""

    number: str
    title: str
    kind: str
    make: Callable[[], Sheet]


@dataclass(frozen=True)
class SheetsOf:
    """A group of sheets: the kinds of sheets in it, what to say where there are none of them, their pages."""

    kinds: tuple[str, ...]
    none: str
    pages: Callable[[Model], list[Page]]


def _plans(model: Model) -> list[Page]:
    # How many there are of plans and foundations shows only when they are laid out.
    return [_ready(made) for made in plan_sheets(model)]


def _foundations(model: Model) -> list[Page]:
    return [_ready(made) for made in foundation_sheets(model)] if model.runs or model.pads or model.slabs else []


def _beams(model: Model) -> list[Page]:
    return [_ready(made) for made in beam_sheets(model)]


def _roofs(model: Model) -> list[Page]:
    return [_ready(made) for made in roof_sheets(model)]


def _framing(model: Model) -> list[Page]:
    return [
        Page(
            elevation_number(model, wall),
            f"{wall_label(model.project, wall)}, framing from outside",
            "framing",
            partial(elevation_sheet, model, wall),
        )
        for wall in framed_walls(model)
    ]


SHEETS: tuple[SheetsOf, ...] = (
    SheetsOf(("plans",), "There is nothing to draw yet.", _plans),
    SheetsOf(("foundations", "elevations"), "There is no foundation yet, so there is no such sheet.", _foundations),
    SheetsOf(("beams",), "There is no beam that is worked out yet, so there is no such sheet.", _beams),
    SheetsOf(("roof",), "There is no rafter and no truss yet, so there is no such sheet.", _roofs),
    SheetsOf(("framing",), "There is no wall with a core of studs yet, so there is no such sheet.", _framing),
)
"""In the order in which they are bound; a kind of sheet more is a row here and a command that shows it."""
NONE_OF = {kind: group.none for group in SHEETS for kind in group.kinds}


def sheet_set(model: Model) -> tuple[Page, ...]:
    """Return all sheets of a project; those for which there is nothing to draw are left out."""
    return tuple(page for group in SHEETS for page in group.pages(model))


def _ready(made: Sheet) -> Page:
    return Page(made.number, made.title, made.kind, lambda: made)


Watch = Callable[[int, int], None]
"""Told (done, all) before each sheet; what it raises stops the drawing."""


def drawn(pages: Sequence[Page], watch: Watch | None = None) -> Iterator[Sheet]:
    """Draw sheets one after the other."""
    for done, page in enumerate(pages):
        if watch is not None:
            watch(done, len(pages))
        yield page.make()


def drawings_in_rows(model: Model, watch: Watch | None = None) -> list[tuple[Drawing, ...]]:
    """Return the drawings of all sheets, those of one kind of sheet in a row."""
    pages = sheet_set(model)
    rows: dict[str, list[Drawing]] = {}
    for page, made in zip(pages, drawn(pages, watch), strict=True):
        rows.setdefault(page.kind, []).extend(made.drawings)
    return [tuple(row) for row in rows.values()]
