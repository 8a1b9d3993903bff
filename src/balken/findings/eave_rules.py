"""Rafters that may turn over where they bear, since nothing holds them aside there."""

from collections.abc import Iterable

from balken.catalog.sections import section
from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.findings.names import all_of
from balken.framing.eave_breaks import LEAST_OVER, SIZES, sprocket_size
from balken.framing.eave_tails import TAILS
from balken.framing.eaves import has_room
from balken.framing.past_heads import around_of
from balken.framing.sprockets import INSIDE, bare_tails
from balken.framing.tapered import why_not_tapered
from balken.geometry.plane import distance
from balken.model.lookup import wall_label
from balken.units import say_length

BESIDE = 100.0
"""A block that ends no farther than this from a rafter's foot holds it, mm."""
MOST = 5.0
"""Deeper than so many times their thickness, by their nominal sides, they are held against turning (IRC R802.8, from memory)."""


def nominal_ratio(size: str, beside: str = "") -> float:
    """Return how many times as deep as thick a rafter is by its nominal sides; with the tie nailed to it (``beside``) they are one."""
    thick, deep = _sides(size)
    return deep / (thick + (_sides(beside)[0] if beside else 0.0))


def _sides(size: str) -> tuple[float, float]:
    """Return the nominal thickness and depth of a sawn section, in."""
    *plies, board = size.split("-")
    thick, deep = board.split("x")
    return float(thick) * (float(plies[0]) if plies else 1.0), float(deep)


def turning(c: Model) -> Iterable[Finding]:
    """Rafters too deep for their thickness, with neither ties nailed to them nor blocks between them."""
    for plan in c.surfaces:
        roof, framing = plan.roof, c.planes.get(plan.roof.id)
        if framing is None:
            continue
        blocks = [at[:2] for p in c.of_layouts("eave block") if p.owner == roof.id for at in (p.start, p.end)]
        tied = {key for tie in framing.ties for key in tie.rafters}
        found = []
        for one in framing.members:
            size = framing.boards.own.get(one.key, framing.boards.rafter)
            if not one.wall or not one.member.at_eave or section(size).kind != "sawn":
                continue
            beside = framing.tied.size if framing.tied is not None and one.key in tied else ""
            held = any(distance(at, one.member.start[:2]) < BESIDE for at in blocks)
            if not held and nominal_ratio(size, beside) > MOST:
                found.append((one, size))
        room = has_room(plan) and not roof.eave_blocks and roof.id not in c.dormers
        if found:
            one, size = found[0]
            yield Finding(
                "turning",
                "roof",
                f"{roof.name}: {len(found)} {'rafters' if len(found) > 1 else 'rafter'} may turn over at the wall",
                f"{size} is more than five times as deep as thick, and neither a tie nailed to it nor a block holds it aside where it bears "
                f"(IRC R802.8). {'Set blocks between them.' if room else 'Make them shallower, or of plies.'}",
                (roof.id, one.key),
                (*one.member.start[:2], plan.bearing + one.member.start[2]),
                fix=Fix("Set blocks at the eaves", "change", (roof.id,), (("eave_blocks", True),)) if room else None,
            )


def without_sprockets(c: Model) -> Iterable[Finding]:
    """Eaves along which sprockets are wanted and cannot be."""
    for plan in c.surfaces:
        roof = plan.roof
        if roof.sprocket_pitch is None or plan.problem:
            continue
        bare = [
            face.edge
            for face in plan.surface.faces
            if plan.edges[face.edge].kind == "eave" and not sprocket_size(plan, face.edge)
        ]
        missed = bare_tails(plan, c.of_layouts(*TAILS, *INSIDE, owner=roof.id))
        for k, count in missed.items():
            yield Finding(
                "no sprockets",
                "roof",
                f"{roof.name}: {count} {'tails' if count > 1 else 'tail'} over {wall_label(c.project, plan.outline.walls[k])} without a sprocket",
                "No side of them is free: other rafters, ties or hips stand there. Nail one on by hand, or let the rafters stand otherwise.",
                (roof.id, plan.outline.walls[k]),
                (*plan.outline.core[k], plan.bearing),
                grave=False,
            )
        if bare:
            walls = [plan.outline.walls[k] for k in bare]
            yield Finding(
                "no sprockets",
                "roof",
                f"{roof.name}: no sprockets along {all_of([wall_label(c.project, w) for w in walls])}",
                f"Their overhang is less than {say_length(LEAST_OVER, c.units)}, or no board up to {SIZES[-1]} reaches from the deck down beside the "
                "tails. Make them steeper, let them begin nearer to the wall, or change the overhang.",
                (roof.id, *walls),
                (*plan.outline.core[bare[0]], plan.bearing),
                grave=False,
            )


def not_tapered(c: Model) -> Iterable[Finding]:
    """Roofs whose rafters are to lie level under tapered strips and cannot."""
    for plan in c.surfaces:
        roof = plan.roof
        if not roof.tapered or plan.tapered or plan.problem or roof.id in c.dormers:
            continue
        why = why_not_tapered(roof, around_of(plan), plan.surface)
        yield Finding(
            "tapered",
            "roof",
            f"{roof.name}: its rafters slope with its deck, without tapered strips",
            f"{why[0].upper()}{why[1:]}." if why else "Level rafters are not made there.",
            (roof.id,),
            (*plan.outline.core[0], plan.bearing),
            grave=False,
            fix=Fix("Let them slope", "change", (roof.id,), (("tapered", False),)),
        )


EAVE_RULES = (turning, without_sprockets, not_tapered)
