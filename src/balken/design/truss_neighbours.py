"""What the next sections would do in a truss: each group of its sticks one step less deep and one deeper, with what its timber costs."""

from functools import lru_cache

from msgspec.structs import replace

from balken.catalog.beams import beam_section
from balken.catalog.prices import grade_price
from balken.design.beams import cost_per_length
from balken.design.truss_groups import CHORD_SIZES, WEB_SIZES
from balken.design.trusses import TrussDesign, check_truss
from balken.framing.truss_outline import TrussError
from balken.framing.trusses import Sizes
from balken.standards.standard import Standard
from balken.value import Value

GROUPS = {"top": ("top chord", CHORD_SIZES), "bottom": ("bottom chord", CHORD_SIZES), "webs": ("webs", WEB_SIZES)}


class TrussNeighbour(Value, frozen=True):
    """A truss with another section in one group: how far its sticks, seats and sag are used, its timber in dollars, or why it cannot be."""

    group: str
    size: str
    used: float
    dollars: float
    problem: str = ""


@lru_cache(maxsize=32)
def truss_neighbours(made: TrussDesign, standard: Standard) -> tuple[TrussNeighbour, ...]:
    """Return the next sections of each group under the same loads, the outline and the webs as they are; plates are not chosen anew."""
    sizes, job = made.frame.sizes, replace(made.job, pattern=made.shape)
    found = []
    for field, (group, known) in GROUPS.items():
        own = getattr(sizes, field)
        at = known.index(own) if own in known else -1
        near = [*known[max(at - 1, 0) : at], *known[at + 1 : at + 2]] if at >= 0 else []
        for size in near:
            other = replace(sizes, **{field: size})
            try:
                one = check_truss(job, lambda _: made.frame.outline, other, standard)
                found.append(TrussNeighbour(group, size, one.used, timber_cost(one)))
            except TrussError as error:
                found.append(TrussNeighbour(group, size, 0.0, 0.0, str(error)))
    return tuple(found)


def timber_cost(made: TrussDesign) -> float:
    """Return what the timber of one truss costs by the price lists that ship with Balken, dollars."""
    sizes: Sizes = made.frame.sizes
    return sizes.plies * sum(
        made.sawn[stick.name].length
        / 1000.0
        * cost_per_length(beam_section(sizes.of(stick.role)), made.job.wood.species)
        * grade_price(sizes.grade(stick.role, made.job.wood.grade))
        for stick in made.frame.sticks
    )
