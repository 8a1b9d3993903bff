"""The lists of a project: members, cut list, load path.  Their columns stand here once, for window, CSV and workbook."""

from collections.abc import Callable
from typing import Any

from balken.derived.model import Model
from balken.documents.schedule import CutRow, MemberRow, by_number, cut_list, member_rows
from balken.loads.cases import Cases, total
from balken.loads.wall_law import LineTotal
from balken.model.lookup import label_of, wall_label
from balken.model.naming import beam_name, footing_of, wall_of
from balken.standards.checks import used_text
from balken.units import Units, format_force, format_length, format_line_load
from balken.value import Value

Cell = str | float | int


class Column(Value, frozen=True):
    """One column.

    ``text``: what is read, in the project's units; ``sort``: what the window sorts by (the text when None); ``plain``:
    what is written to files (the text when None), under ``filed``, its heading there ("" when it is left out);
    ``shown``: its heading in the window, "" when it is left out there.
    """

    shown: str
    filed: str
    text: Callable[[Any, Units], str]
    sort: Callable[[Any], Any] | None = None
    plain: Callable[[Any], Cell] | None = None

    def cell(self, row: Any, units: Units) -> Any:
        """Return the cell for the window: a text, or what it is sorted by with its text."""
        return self.text(row, units) if self.sort is None else (self.sort(row), self.text(row, units))

    def value(self, row: Any, units: Units) -> Cell:
        """Return the cell for a file."""
        return self.text(row, units) if self.plain is None else self.plain(row)


class ListOf(Value, frozen=True):
    """One list: its title, its columns, which one takes the room left over, its rows, and what a row stands for."""

    title: str
    columns: tuple[Column, ...]
    widest: str
    rows: Callable[[Model], list[Any]]
    refs: Callable[[Any], tuple[str, ...]]

    @property
    def shown(self) -> tuple[Column, ...]:
        """The columns in the window."""
        return tuple(c for c in self.columns if c.shown)

    @property
    def filed(self) -> tuple[Column, ...]:
        """The columns in files."""
        return tuple(c for c in self.columns if c.filed)

    def table(self, model: Model) -> list[tuple[Cell, ...]]:
        """Return the rows as files hold them."""
        units = model.project.units
        return [tuple(c.value(row, units) for c in self.filed) for row in self.rows(model)]

    @property
    def headings(self) -> tuple[str, ...]:
        """The headings in files."""
        return tuple(c.filed for c in self.filed)


def text_column(title: str, name: str) -> Column:
    """Return a column that reads a field as it stands."""
    return Column(title, title, lambda r, u: str(getattr(r, name)))


def _sorted_mark(row: MemberRow | CutRow) -> str:
    letters, number = by_number(row.mark)
    return f"{letters}{number:06d}"


_MARK = Column("Mark", "Mark", lambda r, u: str(r.mark), _sorted_mark)
_MADE = (
    text_column("Storey", "storey"),
    text_column("Role", "role"),
    text_column("Section", "section"),
    text_column("Species and grade", "grade"),
)
_LENGTH = (
    Column("Length", "Length", lambda r, u: format_length(r.length, u, 4), lambda r: r.length),
    Column("", "Length mm", lambda r, u: f"{r.length:.1f}", None, lambda r: round(r.length, 1)),
)


def _used(row: MemberRow) -> float:
    return row.used if row.used is not None else -1.0


MEMBERS = ListOf(
    "Members",
    (
        _MARK,
        *_MADE,
        *_LENGTH,
        Column(
            "Used",
            "Used %",
            lambda r, u: used_text(r.used) if r.used is not None else "",
            _used,
            lambda r: round(r.used * 100.0, 1) if r.used is not None else "",
        ),
        text_column("Governs", "governs"),
    ),
    "Governs",
    member_rows,
    lambda r: (r.key,),
)
CUTS = ListOf(
    "Cut list",
    (
        *_MADE,
        *_LENGTH,
        Column("Count", "Count", lambda r, u: str(r.count), lambda r: r.count, lambda r: r.count),
        Column(
            "Board feet",
            "Board feet",
            lambda r, u: f"{r.board_feet:,.1f}",
            lambda r: r.board_feet,
            lambda r: round(r.board_feet, 2),
        ),
        Column(
            "Cost $",
            "Cost $",
            lambda r, u: f"{r.cost:,.2f}" if r.cost is not None else "no price",
            lambda r: r.cost or 0.0,
            lambda r: round(r.cost, 2) if r.cost is not None else "",
        ),
        _MARK,
    ),
    "Species and grade",
    cut_list,
    lambda r: r.keys,
)


class PathRow(Value, frozen=True):
    """What a wall, column or foundation carries: its name, what to select, its loads, the worst line load (N/mm)."""

    name: str
    refs: tuple[str, ...]
    line: LineTotal
    worst: float
    combination: str


def path_rows(model: Model) -> list[PathRow]:
    """Return the load path from walls over foundations to columns and beams."""
    p, path, combos = model.project, model.path, model.standard.combinations
    lines: list[tuple[str, tuple[str, ...], LineTotal]]
    lines = [(wall_label(p, w), (w,), line) for w, line in path.walls.items()]
    for run in model.runs:
        refs: tuple[str, ...] = (wall_of(run.id), footing_of(run.id))
        lines.append((f"{run.foundation.name}, under {wall_label(p, run.wall)}", refs, path.runs[run.id]))
    for name, made in path.columns.items():
        lines.append((label_of(p, name), (name,), LineTotal("", 0.0, Cases(), made.head, made.post.own)))
    for name, beam in path.beams.items():
        on = total(r.force for r in path.reactions if r.bearer == name)
        stands = beam.laid.sum.plus(on.scaled(-1.0))
        lines.append(
            (label_of(p, name), (beam_name(name),), LineTotal("", beam.line.length, on, stands, beam.design.own))
        )
    rows = []
    for name, things, line in lines:
        worst, combo = combos.worst(line.per_length)
        rows.append(PathRow(name, things, line, worst, combo.name))
    return rows


def _force(title: str, of: Callable[[LineTotal], Cases]) -> Column:
    return Column(
        title,
        f"{title}, N",
        lambda r, u: format_force(of(r.line).all, u),
        lambda r: of(r.line).all,
        lambda r: round(of(r.line).all, 1),
    )


LOAD_PATH = ListOf(
    "Load path",
    (
        text_column("What", "name"),
        _force("From members", lambda line: line.members),
        _force("From walls", lambda line: line.walls),
        _force("Own weight", lambda line: line.own),
        _force("At its foot, all cases", lambda line: line.foot),
        Column(
            "Line load",
            "Line load, N/mm",
            lambda r, u: format_line_load(r.worst, u),
            lambda r: r.worst,
            lambda r: round(r.worst, 3),
        ),
        text_column("Combination", "combination"),
    ),
    "Combination",
    path_rows,
    lambda r: r.refs,
)
LISTS = (MEMBERS, CUTS, LOAD_PATH)
