"""The trusses of a roof as they are built: makes, places, what they bring to walls and to one another."""

from typing import NamedTuple

from balken.design.frame_lookouts import LoweredFrame
from balken.design.lookouts import GableLookouts
from balken.design.truss_by_hand import NOTHING, ByHand
from balken.design.trusses import TrussDesign
from balken.framing.truss_layout import TrussPlace, TrussRow
from balken.geometry.plane import Point
from balken.loads.area_loads import Reaction
from balken.loads.cases import Cases
from balken.loads.roof_feet import Foot
from balken.value import Value

NAMES = {
    "common": "Trusses", "flat": "Flat-topped trusses", "carrier": "Girders", "girder": "Hip girders", "corner": "Corner girders",
    "jack": "Jacks", "valley": "Valley trusses", "gable": "Gable frames",
}  # fmt: skip
"""How makes are called, in the order in which they are listed."""


class HangingTruss(Value, frozen=True):
    """A truss that hangs on another: numbers of both, where in plan, what comes to its hanger by case, N; plies of both."""

    number: int
    on: int
    at: Point
    force: Cases
    plies: tuple[int, int]


class BuiltTrusses(NamedTuple):
    """The trusses of a roof: ``rows``: those square to the eaves, of each of its parts, first among ``places``; ``makes``: key, name, as
    designed, numbers of places; ``sides``: of each row, which sides of the roof's outline lie along its part's own.
    """

    rows: tuple[TrussRow, ...]
    places: tuple[TrussPlace, ...]
    makes: tuple[tuple[str, str, TrussDesign, tuple[int, ...]], ...]
    reactions: tuple[Reaction, ...]
    heaps: Cases
    hung: tuple[HangingTruss, ...]
    sides: tuple[tuple[tuple[int, ...], ...], ...] = ()
    onto: tuple[Foot, ...] = ()
    """What its valley trusses bring down on another roof."""
    hand: ByHand = NOTHING
    refused: dict[int, str] = {}  # noqa: RUF012 (never written on)
    """Those changed by hand that cannot be so, and why: they are made as the others."""
    lookouts: GableLookouts = GableLookouts()
    low: tuple[LoweredFrame, ...] = ()
    """Frames over gables that are set lower for them."""


class TooWeak(Exception):
    """A make of trusses that is used by more than all it has, where others are to be tried; how far; whether more plies could help it."""

    def __init__(self, used: float, girders: bool) -> None:
        super().__init__(used)
        self.used, self.girders = used, girders
