"""Ties of rafters to walls against uplift: a made-up list that ships with Balken."""

from typing import NamedTuple

from balken.units.system import POUND_FORCE


class StrapRow(NamedTuple):
    """A tie of a rafter, hip or beam to the plates and studs below: what it holds down under wind, N; its price, dollars."""

    name: str
    up: float
    price: float


MADE_UP = tuple(
    StrapRow(name, up * POUND_FORCE, price)
    for name, up, price in (
        ("BT 350", 350.0, 0.95), ("BT 550", 550.0, 1.40), ("BT 900", 900.0, 2.60), ("BT 1400", 1400.0, 4.80), ("BT 2400", 2400.0, 9.90)
    )
)  # fmt: skip
