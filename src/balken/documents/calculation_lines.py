"""Lines of which calculation sheets are made."""

from typing import Literal

from balken.documents.display import Diagram
from balken.loads.cases import Cases
from balken.standards.checks import Check
from balken.standards.measures import quantity_text
from balken.units import Units, format_force, format_line_load
from balken.value import Value

Kind = Literal["title", "heading", "text", "formula", "check", "result", "drawing"]


class Line(Value, frozen=True):
    """One line of a calculation; ``used`` of a check is shown as a bar; ``drawn``: what a drawing shows."""

    kind: Kind
    text: str
    right: str = ""
    indent: int = 0
    used: float | None = None
    drawn: Diagram | None = None


def case_texts(c: Cases, units: Units, per_length: bool = False) -> str:
    """Return a force, or a line load, case by case."""
    names = (("D", c.dead), ("L", c.live), ("Lr", c.roof_live), ("S", c.snow), ("W", c.wind))
    show = format_line_load if per_length else format_force
    return "   ".join(f"{n} {show(v, units)}" for n, v in names if abs(v) > 1e-9)


def check_value(check: Check, value: float, units: Units) -> str:
    """Return a demand or capacity with its unit."""
    return quantity_text(value, check.quantity, units)


def check_lines(check: Check, units: Units) -> list[Line]:
    """Return a check with its working."""
    demand, capacity = check_value(check, check.demand, units), check_value(check, check.capacity, units)
    combo = f", {check.combination}" if check.combination else ""
    head = Line(
        "check",
        f"{check.name[0].upper()}{check.name[1:]}  ({check.clause}{combo})",
        f"{demand} / {capacity}",
        used=check.used,
    )
    return [head, *(Line("formula", line.shown(units), indent=1) for line in check.working)]
