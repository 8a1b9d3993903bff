"""What is bought for the ground works, as lists: quantities one below the other, and the bars by marks with their bends and laps."""

from balken.derived.model import Model
from balken.documents.deck_plans import deck_text
from balken.documents.deck_sheets import deck_layouts
from balken.documents.lists import Column, ListOf, text_column
from balken.documents.paper_table import PaperTable
from balken.documents.quantities import BarRow, bar_rows, quantities
from balken.units import Units, format_inches, format_length
from balken.value import Value

CUBIC, SQUARE, MASS, COUNT = "m\u00b3", "m\u00b2", "kg", "pieces"
_IMPERIAL = {
    CUBIC: (1.307951, "yd\u00b3", 1),
    SQUARE: (10.76391, "ft\u00b2", 0),
    MASS: (2.204623, "lb", 0),
}
"""How units of measure are read in feet and inches: times, name, places."""
LEAST = 0.05
"""Less formwork is none, m2."""
_METRIC = {CUBIC: 2, SQUARE: 1, MASS: 0}


class QuantityRow(Value, frozen=True):
    """A quantity: of what, more of it in words, how many pieces ("" of none), how much in its unit of measure."""

    item: str
    what: str
    count: str
    amount: float
    unit: str


def amount_text(row: QuantityRow, units: Units) -> str:
    """Return how much it is, as it is read in feet and inches or in metres."""
    if row.unit == COUNT:
        return f"{row.amount:,.0f}"
    if units is Units.IMPERIAL:
        times, name, places = _IMPERIAL[row.unit]
        return f"{row.amount * times:,.{places}f} {name}"
    return f"{row.amount:,.{_METRIC[row.unit]}f} {row.unit}"


def quantity_rows(model: Model) -> list[QuantityRow]:
    """Return all quantities: concrete by element, formwork, bars by size, blocks, grout, decks by their panels, excavation, bolts."""
    q, units = quantities(model), model.project.units
    rows = [QuantityRow("Concrete", r.role, str(r.count), r.volume, CUBIC) for r in q.concrete]
    rows += [QuantityRow("Formwork", r.role, "", r.formwork, SQUARE) for r in q.concrete if r.formwork > LEAST]
    for size in sorted({r.size for r in q.bars}, key=lambda size: int(size[1:])):
        mine = [r for r in q.bars if r.size == size]
        rows.append(
            QuantityRow("Bars, laps included", size, str(sum(r.count for r in mine)), sum(r.mass for r in mine), MASS)
        )
    for b in q.blocks:
        for kind in ("whole", "half", "cut"):
            rows.append(QuantityRow("Blocks", f"{b.name}, {kind}", "", float(getattr(b, kind)), COUNT))
        if b.grout > 0.0:
            rows.append(QuantityRow("Grout in cells", b.name, "", b.grout, CUBIC))
    for lining in q.linings:
        said = f"{format_inches(lining.thickness, units)} inside, notched round {lining.notches} beams"
        rows.append(QuantityRow("Insulation", said, "", lining.area, SQUARE))
    for deck in deck_layouts(model):
        rows.append(
            QuantityRow("Decks", f"{deck.name}: {deck_text(deck, units)}", str(deck.panels), deck.area * 1e-6, SQUARE)
        )
    if q.excavation > 0.0:
        rows.append(QuantityRow("Excavation", "straight-sided, with working room", "", q.excavation, CUBIC))
    if q.bolts:
        rows.append(QuantityRow("Anchor bolts", "of sill plates", "", float(q.bolts), COUNT))
    return rows


class MarkedBars(Value, frozen=True):
    """Bars cut and bent alike: their mark, one of them, where they lie, how many."""

    mark: str
    one: BarRow
    where: tuple[str, ...]
    count: int
    refs: tuple[str, ...]

    @property
    def bends(self) -> str:
        """How they are bent, in words."""
        return {0: "straight", 1: "hook at one end", 2: "hooks at both ends"}[self.one.hooks]

    @property
    def mass(self) -> float:
        """Of all, kg."""
        return self.one.mass / self.one.count * self.count


def marked_bars(model: Model) -> list[MarkedBars]:
    """Return the bars of a project, those cut and bent alike under one mark: by size, then from the longest on."""
    alike: dict[tuple[str, int, int, int], list[BarRow]] = {}
    for row in bar_rows(model):
        alike.setdefault((row.size, round(row.length), row.hooks, round(row.lap)), []).append(row)
    order = sorted(alike.items(), key=lambda item: (int(item[0][0][1:]), -item[0][1], item[0][2], item[0][3]))
    return [
        MarkedBars(
            f"R{n}", rows[0], tuple(dict.fromkeys(r.where if r.where.endswith(r.use) else f"{r.where}, {r.use}" for r in rows)), sum(r.count for r in rows),
            tuple(dict.fromkeys(r.ref for r in rows)),
        )
        for n, (_, rows) in enumerate(order, 1)
    ]  # fmt: skip


def _long(value: float, units: Units) -> str:
    return format_length(value, units, 4) if value > 0.0 else ""


def _mass(kg: float, units: Units) -> str:
    return f"{kg * 2.204623:,.0f} lb" if units is Units.IMPERIAL else f"{kg:,.1f} kg"


def where_text(row: MarkedBars) -> str:
    """Return where bars lie, of many places the first."""
    more = len(row.where) - 1
    return row.where[0] if not more else f"{row.where[0]} and {more} more"


QUANTITIES = ListOf(
    "Quantities",
    (
        text_column("Item", "item"),
        text_column("What", "what"),
        text_column("Pieces", "count"),
        Column("Amount", "Amount", amount_text, lambda r: r.amount, lambda r: round(r.amount, 3)),
        Column("", "Unit", lambda r, u: r.unit, None, lambda r: r.unit),
    ),
    "What",
    quantity_rows,
    lambda r: (),
)
BAR_LIST = ListOf(
    "Bars",
    (
        Column("Mark", "Mark", lambda r, u: r.mark, lambda r: int(r.mark[1:])),
        Column("Size", "Size", lambda r, u: r.one.size),
        Column("Number", "Number", lambda r, u: str(r.count), lambda r: r.count, lambda r: r.count),
        Column("Cut length", "Cut length", lambda r, u: _long(r.one.length, u), lambda r: r.one.length),
        Column("", "Cut length mm", lambda r, u: "", None, lambda r: round(r.one.length, 1)),
        Column("Bends", "Bends", lambda r, u: r.bends),
        Column("Leg", "Leg", lambda r, u: _long(r.one.leg, u), lambda r: r.one.leg),
        Column("Between hooks", "Between hooks", lambda r, u: _long(r.one.straight, u), lambda r: r.one.straight),
        Column("Lap", "Lap", lambda r, u: _long(r.one.lap, u), lambda r: r.one.lap),
        Column("Mass", "Mass kg", lambda r, u: _mass(r.mass, u), lambda r: r.mass, lambda r: round(r.mass, 2)),
        Column("Where", "Where", lambda r, u: where_text(r), None, lambda r: "; ".join(r.where)),
    ),
    "Where",
    marked_bars,
    lambda r: r.refs,
)
GROUND_LISTS = (QUANTITIES, BAR_LIST)


def ground_tables(model: Model) -> list[PaperTable]:
    """Return both as tables of a sheet; those with rows."""
    units = model.project.units
    titles = {
        "Quantities": "Quantities of ground works and decks",
        "Bars": "Bar list (ASTM A615; hooks by ACI 318-19, 25.3.1; laps class B)",
    }
    made = [
        PaperTable(
            titles[what.title], tuple(c.shown for c in what.shown), [tuple(c.text(row, units) for c in what.shown) for row in what.rows(model)]
        )
        for what in GROUND_LISTS
    ]  # fmt: skip
    return [table for table in made if table.rows]
