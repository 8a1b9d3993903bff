"""What a layout is made of."""

from typing import Literal

from balken.catalog.joists import WORDS, JoistWord
from balken.catalog.sections import section
from balken.model.base import Record
from balken.model.errors import EditError
from balken.model.rule_parts import (
    check_spacing,
    graded,
    named,
)
from balken.units.system import INCH

Start = Literal["one side", "the other side", "the middle", "both ends alike"]
"""From where members are set out across a layout."""


class Choice(Record, frozen=True, kw_only=True):
    """What a layout is made of; ``size`` or ``spacing`` None means Balken chooses ("auto"), of its ``made_of``.

    ``species``, ``grade``: of sawn lumber.
    """

    made_of: JoistWord = "sawn"
    size: str | None = None
    species: str = "DF-L"
    grade: str = "No. 2"
    spacing: float | None = 16.0 * INCH


def check_choice(choice: Choice, where: str) -> None:
    if choice.size is not None:
        named(section, choice.size, where)
        if section(choice.size).nominal[0] < 2 or section(choice.size).plies > 1:
            raise EditError(f"{choice.size} is not a size for it.", where, "Choose one such as 2x8.")
        if WORDS.get(section(choice.size).kind) != choice.made_of:
            raise EditError(f"{choice.size} is no {choice.made_of} lumber.", where, "Choose what it is made of first.")
    graded(choice.species, choice.grade, where)
    check_spacing(choice.spacing, where)
