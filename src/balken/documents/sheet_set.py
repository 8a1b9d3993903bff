"""The sheets of a project in order: plans and section, walls, foundations and their elevations, framing of each wall."""

from collections.abc import Callable, Iterator, Sequence
from functools import partial

from balken.derived.model import Model
from balken.documents.beam_sheets import beam_sheets
from balken.documents.deck_plans import deck_plan_sheets
from balken.documents.display import Drawing
from balken.documents.foundation_sheets import foundation_sheets
from balken.documents.framing_sheets import framing_sheets
from balken.documents.paper import bound, number_of
from balken.documents.plan_sheets import plan_sheets
from balken.documents.roof_sheets import roof_sheets
from balken.documents.sheet import Sheet
from balken.documents.wall_plans import wall_sheets
from balken.value import Value


class Page(Value, frozen=True):
    """A sheet by number and title, drawn when ``make`` is called; ``kind``: plans, walls, foundations, elevations, beams, roof, decks, framing."""

    number: str
    title: str
    kind: str
    make: Callable[[], Sheet]


class SheetsOf(Value, frozen=True):
    """A group of sheets: the kinds of sheets in it, what to say where there are none of them, their sheets."""

    kinds: tuple[str, ...]
    none: str
    sheets: Callable[[Model], list[Sheet]]


SHEETS: tuple[SheetsOf, ...] = (
    SheetsOf(("plans",), "There is nothing to draw yet.", plan_sheets),
    SheetsOf(("walls",), "There is no wall yet, so there is no such sheet.", wall_sheets),
    SheetsOf(
        ("foundations", "elevations"), "There is no foundation yet, so there is no such sheet.", foundation_sheets
    ),
    SheetsOf(("beams",), "There is no beam that is worked out yet, so there is no such sheet.", beam_sheets),
    SheetsOf(("roof",), "There is no rafter and no truss yet, so there is no such sheet.", roof_sheets),
    SheetsOf(
        ("decks",), "There is no deck on rafters, trusses or joists yet, so there is no such sheet.", deck_plan_sheets
    ),
    SheetsOf(("framing",), "There is no wall with a core of studs yet, so there is no such sheet.", framing_sheets),
)
"""In the order in which they are bound; a kind of sheet more is a row here and a command that shows it."""
NONE_OF = {kind: group.none for group in SHEETS for kind in group.kinds}


def sheet_set(model: Model) -> tuple[Page, ...]:
    """Return all sheets of a project, numbered in their order; those for which there is nothing to draw are left out."""
    sheets = [made for group in SHEETS for made in group.sheets(model)]
    first = model.project.sheet.number
    numbered = ((number_of(first, k), made) for k, made in enumerate(sheets))
    return tuple(Page(n, made.title, made.kind, partial(bound, model, made, n)) for n, made in numbered)


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
