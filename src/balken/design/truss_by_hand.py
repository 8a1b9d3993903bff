"""Trusses changed one by one: by which name each goes in a hand edit, what such an edit asks of it.

A truss goes by the wall under its first end and how far along that it stands, so that it keeps its edit when others come or go.
"""

from collections.abc import Mapping, Sequence
from typing import NamedTuple

from balken.framing.hand_edits import match
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_layout import TrussPlace
from balken.framing.truss_points import MovedPoint
from balken.geometry.plane import dot, sub, unit
from balken.model.kinds.member_edit import TRUSS, MemberEdit
from balken.model.naming import Places, piece_name, place_at
from balken.value import Value


class OwnWebs(Value, frozen=True):
    """What one truss has of its own: a pattern ("": as the others), plies (1: as the others), points moved."""

    webs: str = ""
    plies: int = 1
    points: tuple[MovedPoint, ...] = ()


class ByHand(NamedTuple):
    """What trusses have of their own by their numbers; edits whose truss is not there, each with the name of the nearest, or ""."""

    own: Mapping[int, OwnWebs]
    lost: tuple[tuple[MemberEdit, str], ...]


NOTHING = ByHand({}, ())


def places_by_name(plan: SurfacePlan, places: Sequence[TrussPlace]) -> dict[str, int]:
    """Return the numbers of a roof's trusses by their places, as parts of names; those over gables and in valleys have none."""
    found, taken, core = dict[str, int](), Places(), plan.outline.core
    for number, place in enumerate(places):
        wall = next((w for w in place.walls if w in plan.outline.walls), "")
        if not wall or place.gable or place.make == "valley":
            continue
        side = plan.outline.walls.index(wall)
        way = unit(core[side], core[(side + 1) % len(core)])
        found[taken.text(TRUSS, place_at(wall, dot(way, sub(place.at(0.0), core[side]))))] = number
    return found


def truss_names(plan: SurfacePlan, places: Sequence[TrussPlace]) -> dict[int, str]:
    """Return the names by which hand edits of a roof's trusses go, by their numbers."""
    return {n: piece_name(plan.roof.id, TRUSS, text) for text, n in places_by_name(plan, places).items()}


def by_hand(plan: SurfacePlan, places: Sequence[TrussPlace], edits: Sequence[MemberEdit]) -> ByHand:
    """Return what hand edits ask of which truss."""
    mine = [edit for edit in edits if edit.sort == TRUSS]
    if not mine:
        return NOTHING
    numbers = places_by_name(plan, places)
    found = match(mine, list(numbers))
    own = {
        numbers[text]: OwnWebs(edit.webs, edit.plies, tuple((p.chord, p.number, p.by) for p in edit.points))
        for text, edit in found.by_place.items()
    }
    lost = tuple((edit, piece_name(plan.roof.id, TRUSS, text) if text else "") for edit, text in found.lost)
    return ByHand(own, lost)
