"""What stands free and carries: columns.  A kind more is one row here (and its own modules)."""

from collections.abc import Callable, Iterator, Mapping
from typing import Any, NamedTuple

from balken.design.posts import design_post
from balken.framing.columns import column_pieces, cut_under
from balken.framing.pieces import Piece
from balken.loads.path import LoadPath
from balken.loads.stands import Maker, Stand, column_stands
from balken.memo import Memo
from balken.model.records import Grid, Level, Project
from balken.value import Value


class FreeStanding(Value, frozen=True):
    """A kind that stands free: its collection, where each stands, what designs one, what makes their solids.

    ``pieces`` is given the records, grids, levels and, by id, the shape that each was given by its design.
    """

    collection: str
    stands: Callable[[tuple[Any, ...], tuple[Grid, ...], tuple[Level, ...]], tuple[Stand, ...]]
    make: Maker
    pieces: Callable[[tuple[Any, ...], tuple[Grid, ...], tuple[Level, ...], dict[str, Any]], tuple[Piece, ...]]


FREE_STANDING: list[FreeStanding] = [FreeStanding("columns", column_stands, design_post, column_pieces)]


def all_stands(memo: Memo, p: Project) -> tuple[Stand, ...]:
    """Return all that stands free."""
    found = [
        memo.step(f"stands of {kind.collection}", kind.stands, getattr(p, kind.collection), p.grids, p.levels)
        for kind in FREE_STANDING
    ]
    return memo.keep("stands", tuple(stand for group in found for stand in group))


class Makers(Mapping[str, Maker]):
    """What designs those of each kind, read from the table: one object, so that the memo finds it the same."""

    def __getitem__(self, kind: str) -> Maker:
        """Return what designs those of a collection."""
        return next(row.make for row in FREE_STANDING if row.collection == kind)

    def __iter__(self) -> Iterator[str]:
        """Go through the collections."""
        return (row.collection for row in FREE_STANDING)

    def __len__(self) -> int:
        """Count the kinds."""
        return len(FREE_STANDING)


MAKERS = Makers()


class Standing(NamedTuple):
    """What stands free: its solids, as made for what it carries, and the designs by id."""

    pieces: tuple[Piece, ...]
    posts: dict[str, Any]


def as_made(memo: Memo, p: Project, path: LoadPath) -> Standing:
    """Return the solids of all that stands free, as it was made for what it carries, and the designs by id."""
    posts = {name: made.post for name, made in path.columns.items()}
    found: list[Piece] = []
    for kind in FREE_STANDING:
        records = getattr(p, kind.collection)
        shapes = memo.keep(f"shapes of {kind.collection}", {r.id: posts[r.id].shape for r in records})
        found += memo.step(kind.collection, kind.pieces, records, p.grids, p.levels, shapes)
    heads = memo.keep("heads", {name: made.stand.head for name, made in path.columns.items()})
    standing = memo.step("free standing cut", cut_under, memo.keep("free standing", tuple(found)), heads)
    return Standing(memo.keep("standing", standing), posts)
