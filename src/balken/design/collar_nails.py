"""Collar ties: what wind pulls at them where it would part rafters at their ridge board, and the nails that hold that.

Gravity presses rafters together there, and no pull is counted on for what hangs below.  A pair of rafters is a frame with hinges at its feet
and at its ridge that opens when wind lifts it; the tie alone holds it together.
"""

import math
from collections.abc import Mapping
from typing import NamedTuple

from balken.catalog.sections import section
from balken.design.load_duration import normal_duration
from balken.design.rafter_checks import lifts_at
from balken.framing.collar_ties import CollarTies, Pair
from balken.framing.pieces import Piece
from balken.framing.roof_layout import RoofMember
from balken.framing.surface_members import Boards
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.plane import distance
from balken.loads.area_loads import roof_cases
from balken.loads.beam_law import NONE_MORE
from balken.loads.cases import Cases, total
from balken.loads.roof_wind import PartsWind
from balken.model.records import Loads
from balken.standards.demands import HeelNails
from balken.standards.standard import Standard
from balken.value import Value


class HeldCollar(NamedTuple):
    """A collar tie, and its nails at each of its rafters."""

    key: str
    nails: HeelNails


class HeldCollars(Value, frozen=True):
    """The collar ties of a roof; of pairs that none stands near how many there are, and what pulls at the ridge at the worst of those, N."""

    rows: tuple[HeldCollar, ...] = ()
    loose: int = 0
    strap: float = 0.0

    @property
    def worst(self) -> HeldCollar | None:
        """The one with most nails."""
        return max(self.rows, key=lambda one: (one.nails.number, one.nails.force), default=None)


NO_COLLARS = HeldCollars()


def held_collars(
    plan: SurfacePlan,
    collars: CollarTies,
    boards: Boards,
    widths: Mapping[str, float],
    loads: Loads,
    wind: PartsWind | None,
    standard: Standard,
) -> HeldCollars:
    """Return the nails of each collar tie; ``widths``: of the strips that rafters carry, by their names, mm."""
    pieces, found, base = {piece.key: piece for piece in collars.pieces}, [], plan.bearing + plan.plate_to_top
    for key, held in collars.holds.items():
        piece, wide = pieces[key], _together(held, widths)
        level = piece.start[2] - base + section(piece.section).depth / 2.0
        pull = total(_pull(pair, level, wide, widths, loads, wind, standard).scaled(part) for pair, part in held)
        found.append(HeldCollar(key, _nails(plan, piece, held[0][0], boards, _at_normal(pull, standard), standard)))
    straps = [
        _at_most(
            _pull(pair, pair[0].member.end[2], _together(((pair, 1.0),), widths), widths, loads, wind, standard),
            standard,
        )
        for pair in collars.loose
    ]
    return HeldCollars(tuple(found), len(straps), max(straps, default=0.0))


def _together(held: tuple[tuple[Pair, float], ...], widths: Mapping[str, float]) -> float:
    """Return how wide a strip of roof a tie holds, mm."""
    return sum(part * (widths[one.key] + widths[other.key]) / 2.0 for (one, other), part in held)


def _at_normal(pull: Cases, standard: Standard) -> float:
    return max(normal_duration(pull, NONE_MORE, standard)[0], 0.0)


def _at_most(pull: Cases, standard: Standard) -> float:
    """Return the most that pulls, as it is: straps are of steel, which holds no more for a short time."""
    return normal_duration(pull.scaled(-1.0), NONE_MORE, standard)[1]


def _pull(
    pair: Pair,
    level: float,
    wide: float,
    widths: Mapping[str, float],
    loads: Loads,
    wind: PartsWind | None,
    standard: Standard,
) -> Cases:
    """Return what pulls at a tie so high over the rafters' upper edges at their bearing lines, N: wind that opens the frame, less what of it
    dead load closes; ``wide``: by which strip of roof wind is taken.

    Each rafter turns about its foot: M1 + V r1 = T y1, M2 - V r2 = T y2, with V what they give one another at the ridge, so that
    T = (M1 / r1 + M2 / r2) / (y1 / r1 + y2 / r2).  What wind lifts of the overhangs would close it, and is left out.
    """
    opens, arm = list[Cases](), 0.0
    for one in pair:
        run = distance(*one.member.ends)
        opens.append(_opening(one.member, run, wide, widths[one.key], loads, wind, standard).scaled(1.0 / run))
        arm += (level - one.member.start[2]) / run
    return total(opens).scaled(1.0 / arm)


def _opening(
    m: RoofMember, run: float, wide: float, width: float, loads: Loads, wind: PartsWind | None, standard: Standard
) -> Cases:
    """Return by what a rafter is turned upward about its foot, N mm."""
    pitch = math.tan(math.radians(m.slope))
    up, long = lifts_at(wind, pitch, run, wide, standard), run * math.hypot(1.0, pitch)
    far = min(up.far * long / run, long / 2.0)
    # More at both its ends: half as far from the foot as it is long, in the mean.
    lifted = up.along * long**2 / 2.0 + (up.ends - up.along) * far * long
    dead = roof_cases(loads, pitch, 0.0).dead * run**2 / 2.0
    return Cases(dead=-dead * width / 1000.0, wind=lifted * width / 1000.0)


def _nails(plan: SurfacePlan, piece: Piece, pair: Pair, boards: Boards, force: float, standard: Standard) -> HeelNails:
    rafters, tie = [section(boards.own.get(one.key, boards.rafter)) for one in pair], section(piece.section)
    thin = min(tie.breadth, *(one.breadth for one in rafters))
    lap = tie.depth * min(one.depth for one in rafters)  # as if they crossed square to one another, the safe side
    return standard.collar_nails((plan.roof.rafters.species, piece.species), thin, lap, force)
