"""Prices, made up, that ship with Balken: boards by species and size, other products by the piece of measure they go by."""

import csv
from functools import cache
from importlib.resources import files


@cache
def board_prices() -> dict[tuple[str, str], float]:
    """Return dollars per thousand board feet by (species, size)."""
    return {(r["species"], r["size"]): float(r["per_thousand_board_feet"]) for r in _rows("prices.csv")}


def board_price(species: str, size: str) -> float:
    """Return dollars per thousand board feet; of a species or size that the list lacks, the dearest it has."""
    known = board_prices()
    return known.get((species, size)) or max(known.values())


@cache
def _grades() -> dict[str, float]:
    return {r["grade"]: float(r["times"]) for r in _rows("grade-prices.csv")}


def grade_price(grade: str) -> float:
    """Return how many times as much boards of a grade cost as those of No. 2, treated or not; of one that the list lacks, as much."""
    return _grades().get(grade.removesuffix(" treated"), 1.0)


@cache
def _products() -> dict[str, float]:
    return {r["product"]: float(r["dollars"]) for r in _rows("product-prices.csv")}


def price_of(product: str) -> float:
    """Return what a product costs; raises KeyError."""
    return _products()[product]


def _rows(name: str) -> list[dict[str, str]]:
    text = files("balken").joinpath("assets", name).read_text(encoding="utf-8")
    return list(csv.DictReader(line for line in text.splitlines() if not line.startswith("#")))
