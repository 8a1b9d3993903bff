"""Caps and bases of a list that the user read in: they take the place of those that ship with Balken."""

import math
from typing import TYPE_CHECKING

from balken.catalog.post_fittings import FittingRow, Use
from balken.model.base import Record
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind

if TYPE_CHECKING:
    from balken.model.records import Project


class PostFitting(Record, frozen=True, kw_only=True):
    """A cap or base: for posts with a side so wide, caps for beams so wide, mm; what it carries at normal load duration and
    holds down, N; its price, dollars.
    """

    id: str
    name: str
    use: Use
    post: float
    beam: float = 0.0
    down: float
    up: float = 0.0
    price: float = 0.0

    @property
    def row(self) -> FittingRow:
        """Return it as the catalogue holds it."""
        return FittingRow(self.name, self.use, self.post, self.beam, self.down, self.up, self.price)


def check_post_fitting(project: "Project", fitting: PostFitting) -> None:
    """Raise EditError unless a cap or base measures and carries something."""
    figures = (fitting.post, fitting.down, fitting.beam, fitting.up, fitting.price)
    if not fitting.name or not all(math.isfinite(v) and 0.0 <= v < 1e7 for v in figures) or min(figures[:2]) <= 0.0:
        raise EditError(
            "it needs a name, and the width of a post and a strength above zero.", f"Fitting {fitting.name}"
        )
    if fitting.use == "cap" and fitting.beam <= 0.0:
        raise EditError("a cap needs the width of a beam.", f"Fitting {fitting.name}")


KIND = Kind(PostFitting, "post_fittings", "post-fitting", "cap or base", "caps and bases", check_post_fitting)
