"""Tables on sheets: schedules."""

from collections.abc import Sequence

from msgspec.structs import replace

from balken.documents.display import Item, Path, Text
from balken.documents.lettering import text_width
from balken.geometry.plane import Point, add
from balken.value import Value

ROW = 5.0
LETTERS = 2.2
TITLE = 4.0
BETWEEN = 5.0
"""Room between two columns, mm."""


class PaperTable(Value, frozen=True):
    """A table with its title; its columns are as wide as what stands in them."""

    title: str
    headings: tuple[str, ...]
    rows: Sequence[tuple[str, ...]]

    @property
    def columns(self) -> list[float]:
        """Where columns begin, and the last one ends, mm."""
        at = [0.0]
        for k, heading in enumerate(self.headings):
            widest = max((text_width(row[k], LETTERS) for row in self.rows), default=0.0)
            at.append(at[-1] + max(widest, text_width(heading, LETTERS, True)) + BETWEEN)
        return at

    @property
    def size(self) -> tuple[float, float]:
        """How wide and high it is with its title, paper mm."""
        return max(self.columns[-1], text_width(self.title, TITLE, True)), ROW * (len(self.rows) + 1) + 8.0

    def parts(self, high: float) -> "list[PaperTable]":
        """Return it in tables no higher than this, paper mm; those after the first say so."""
        most = max(int((high - 8.0) / ROW) - 1, 1)
        if len(self.rows) <= most:
            return [self]
        cut = [self.rows[i : i + most] for i in range(0, len(self.rows), most)]
        return [
            replace(self, rows=rows, title=self.title if not k else f"{self.title}, {k + 1}")
            for k, rows in enumerate(cut)
        ]

    def items(self, corner: Point) -> list[Item]:
        """Return it on paper with its top left corner there."""
        columns = self.columns
        found: list[Item] = [Text(add(corner, (0.0, -TITLE / 2.0)), self.title, TITLE, "left", bold=True)]
        for i, row in enumerate((self.headings, *self.rows)):
            x, y = corner[0], corner[1] - 8.0 - ROW * (i + 0.5)
            head = i == 0
            found += [
                Text((x + shift, y), text, LETTERS, "left", bold=head, pen="text" if head else "note")
                for shift, text in zip(columns, row, strict=False)
            ]
            found.append(Path(((x, y - 2.5), (x + columns[-1], y - 2.5)), "outline" if head else "fine"))
        return found
