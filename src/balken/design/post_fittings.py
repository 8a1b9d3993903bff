"""Caps between posts and beams, and bases of posts on pads: the cheapest of a list that fits and carries what comes.

Of timber alone: cap plates and base plates of steel are not designed.
"""

from collections.abc import Mapping

from balken.catalog.post_fittings import FittingRow, Use, made_up
from balken.catalog.post_shapes import PostShape
from balken.design.hangers import FITS
from balken.design.load_duration import normal_duration
from balken.geometry.prism import Vec
from balken.loads.beam_law import NONE_MORE, Beamed, Extremes
from balken.loads.cases import Cases
from balken.loads.stands import Columned
from balken.model.kinds.post_fitting import PostFitting
from balken.standards.standard import Standard
from balken.value import Value


class Fitted(Value, frozen=True):
    """The cap or base of a post: where, for which sections; what comes to it by case, N.

    ``fitting``: the name of the one chosen, "" where none of the list does, for ``why``; ``used``: how far; ``most``: N at
    normal duration, ``lifts``: N upward.
    """

    column: str
    use: Use
    at: Vec
    post: str
    beam: str
    load: Cases
    fitting: str
    used: float
    most: float
    lifts: float
    price: float = 0.0
    why: str = ""


def fittings_of(
    columns: Mapping[str, Columned],
    beamed: Mapping[str, Beamed],
    below: Mapping[str, tuple[str, ...]],
    pads: frozenset[str],
    extremes: Mapping[str, Extremes],
    standard: Standard,
    own: tuple[PostFitting, ...] = (),
) -> tuple[Fitted, ...]:
    """Choose caps and bases of timber posts; ``below``: what each stands on, ``extremes``: what live load on some spans brings.

    ``own``: the list of the project; without one that which ships with Balken.
    """
    rows = tuple(one.row for one in own) or made_up()
    lying: dict[str, list[tuple[Beamed, int]]] = {}
    for made in beamed.values():
        if made.design.made:
            for k, seat in enumerate(made.seats):
                lying.setdefault(seat.on, []).append((made, k))
    found: list[Fitted] = []
    for name, carried in columns.items():
        shape, stand = carried.post.shape, carried.stand
        if shape.kind not in ("timber", "built-up"):
            continue
        beams = lying.get(name, [])
        for made, k in beams:
            section = made.design.section
            if section.shape is not None:
                continue
            at, load = (*stand.at, stand.head), made.design.reactions[k]
            one = _chosen(
                name, "cap", at, shape, section.breadth, section.name, load, made.design.extremes[k], standard, rows
            )
            found.append(one if len(beams) == 1 else _without(one, "more than one beam lies on it"))
        if any(on in pads for on in below.get(name, ())):
            at = (*stand.at, stand.foot)
            beyond = extremes.get(name, NONE_MORE)
            found.append(_chosen(name, "base", at, shape, 0.0, "", carried.foot, beyond, standard, rows))
    return tuple(found)


def _chosen(
    column: str, use: Use, at: Vec, shape: PostShape, wide: float, beam: str, load: Cases, beyond: Extremes, standard: Standard,
    rows: tuple[FittingRow, ...],
) -> Fitted:  # fmt: skip
    most, lifts = normal_duration(load, beyond, standard)
    fitting = [row for row in rows if row.use == use and _fits(row, shape, wide)]
    strong = min(
        (row for row in fitting if row.down >= most and row.up >= lifts), key=lambda row: row.price, default=None
    )
    if strong is not None:
        used = max(most / strong.down, lifts / strong.up if lifts > 0.0 else 0.0)
        return Fitted(column, use, at, shape.name, beam, load, strong.name, used, most, lifts, strong.price)
    used = most / max((row.down for row in fitting), default=most / 99.0 or 1.0)
    none = f"no {use} of the list {'that fits carries as much' if fitting else 'fits them' if beam else 'fits it'}"
    return Fitted(column, use, at, shape.name, beam, load, "", used, most, lifts, 0.0, none)


def _without(one: Fitted, why: str) -> Fitted:
    return Fitted(
        one.column, one.use, one.at, one.post, one.beam, one.load, "", one.used, one.most, one.lifts, 0.0, why
    )  # fmt: skip


def _fits(row: FittingRow, shape: PostShape, wide: float) -> bool:
    post = any(-0.1 <= row.post - side <= FITS for side in (shape.breadth, shape.depth))
    return post and (row.use == "base" or -0.1 <= row.beam - wide <= FITS)
