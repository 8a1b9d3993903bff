"""Every member checked as it lies, and which of them govern."""

from typing import NamedTuple

from balken.catalog.joists import MADE
from balken.derive.decked import Decked
from balken.derive.free_standing import Standing
from balken.derive.laying import Laid
from balken.design.joists import check_joists
from balken.design.roof_design import check_roof
from balken.design.stud_walls import FramedWall
from balken.framing.pieces import Piece
from balken.framing.roles import ROLES
from balken.framing.studs import StudWall
from balken.loads.path import LoadPath
from balken.loads.roof_snow import snowed
from balken.memo import Memo
from balken.model.naming import beam_name, column_name, kind_of, owner_of
from balken.model.records import Loads
from balken.standards.checks import MemberResult
from balken.standards.standard import Standard

Longest = dict[str, tuple[str, float]]
_FIELD = {"joist": "joists", "rafter": "rafters", "tie": "ties"}
"""The field of a layout's choice, by the sort of its members."""


class Checked(NamedTuple):
    """The checks of each member by its name, and of each layout (id, field) the member that is used most."""

    results: dict[str, MemberResult]
    worst: dict[tuple[str, str], tuple[str, ...]]


def check_all(
    memo: Memo,
    loads: Loads,
    standard: Standard,
    laid: Laid,
    floors: Decked,
    framed: dict[str, FramedWall],
    standing: Standing,
    path: LoadPath,
) -> Checked:
    """Check every joist, rafter and tie with its own span; take over what the others were designed with."""
    loaded, posts = floors.loaded, standing.posts
    results: dict[str, MemberResult] = {}
    worst: dict[tuple[str, str], tuple[str, ...]] = {}
    for plan in laid.floors:
        f = plan.floor.id
        if plan.floor.is_slab:
            made = floors.slabs[f].results
            worst |= {(f, "joists"): (floors.slabs[f].worst,)} if made else {}
            results |= made
            continue
        made = memo.step(
            f"results {f}",
            check_joists,
            plan,
            memo.keep(f"joists {f}", _size(laid, f, "joists")),
            loads,
            standard,
            laid.edited[f].made,
        )
        worst |= memo.step(f"worst {f}", _worst, made)
        results |= made
        if f in loaded:
            results |= loaded[f].results
    ice = standard.ice_at_eaves(loads)
    for roof in laid.roofs:
        r = roof.roof.id
        sizes = memo.keep(f"rafters {r}", (_size(laid, r, "rafters"), _size(laid, r, "ties")))
        own = memo.keep(f"loads on {r}", snowed(loads, laid.snow.get(r)))
        made = memo.step(
            f"results {r}", check_roof, roof, sizes, own, standard, laid.edited[r].made, ice, laid.winds[r]
        )
        worst |= memo.step(f"worst {r}", _worst, made)
        results |= made
    for wall in framed.values():
        results |= wall.results
    results |= {column_name(c): post.result for c, post in posts.items() if post.result is not None}
    results |= {beam_name(b, k): one.result for b, made in path.beams.items() for k, one in enumerate(made.design.made)}
    return Checked(results, worst)


def _size(laid: Laid, layout: str, field: str) -> str:
    return laid.designs[(layout, field)].size


def _worst(results: dict[str, MemberResult]) -> dict[tuple[str, str], tuple[str, ...]]:
    best: dict[tuple[str, str], tuple[float, str]] = {}
    for key, result in results.items():
        layout = owner_of(key), _FIELD[kind_of(key)]
        if layout not in best or result.used > best[layout][0]:
            best[layout] = (result.used, key)
    return {layout: (key,) for layout, (_, key) in best.items()}


def longest(memo: Memo, groups: tuple[tuple[Piece, ...], ...], framed: dict[str, FramedWall]) -> Longest:
    """Return the longest sawn member of each role, its name and length."""
    rows = [memo.step(f"longest {i}", _longest_of, group) for i, group in enumerate(groups)]
    rows += [memo.step(f"longest of {w}", _longest_stick, wall.wall) for w, wall in framed.items()]
    found: Longest = {}
    for row in rows:
        for role, (key, length) in row.items():
            if length > found.get(role, ("", 0.0))[1]:
                found[role] = (key, length)
    return found


def _longest_of(pieces: tuple[Piece, ...]) -> Longest:
    found: Longest = {}
    for piece in pieces:
        if ROLES[piece.role].lumber and piece.length > found.get(piece.role, ("", 0.0))[1] and _is_sawn(piece.section):
            found[piece.role] = (piece.key, piece.length)
    return found


def _is_sawn(name: str) -> bool:
    """Whether it comes in the lengths of sawn boards: what is made comes longer."""
    return name not in MADE


def _longest_stick(wall: StudWall) -> Longest:
    found: Longest = {}
    for stick in wall.sticks:
        if stick.length > found.get(stick.role, ("", 0.0))[1]:
            found[stick.role] = (stick.key(wall.wall), stick.length)
    return found
