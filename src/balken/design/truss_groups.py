"""Of what the sticks of each group of a truss are made where that is chosen: sections and grades from the cheapest on, one step at a time."""

from functools import lru_cache

from balken.catalog.beams import beam_section
from balken.catalog.prices import grade_price
from balken.catalog.sections import section
from balken.catalog.species import truss_grades
from balken.design.beams import cost_per_length
from balken.design.truss_demands import EVEN
from balken.design.truss_job import TrussJob
from balken.framing.trusses import ROLES, Role, Sizes

CHORD_SIZES = ("2x4", "2x6", "2x8", "2x10", "2x12")
WEB_SIZES = ("2x4", "2x6")
Rung = tuple[str, str]
"""A section and its grade ("": that of the job)."""


@lru_cache(maxsize=500)
def _rungs(species: str, sizes: tuple[str, ...], grades: tuple[str, ...]) -> tuple[Rung, ...]:
    """Return sections in their grades by what they cost along a stick (made-up lists), the cheapest first."""

    def cost(rung: Rung) -> tuple[float, float]:
        times = grade_price(rung[1]) if rung[1] else 1.0
        return cost_per_length(beam_section(rung[0]), species) * times, section(rung[0]).depth

    return tuple(sorted(((size, grade) for size in sizes for grade in grades), key=cost))


def rungs_of(job: TrussJob, role: Role) -> tuple[Rung, ...]:
    """Return what the sticks of a role may be made of, the cheapest first: one alone where section and grade are typed."""
    k = ROLES.index(role)
    typed = (job.top, job.bottom, job.webs)[k]
    known = WEB_SIZES if role == "web" else CHORD_SIZES
    grades = (job.grades[k],) if job.grades is not None else truss_grades(job.wood.species) if job.wood.auto else ("",)
    return _rungs(job.wood.species, (typed,) if typed else known, grades)


def least_sizes(job: TrussJob) -> Sizes:
    """Return the cheapest of every group."""
    return _sizes([rungs_of(job, role)[0] for role in ROLES], job.plies)


def grown(job: TrussJob, sizes: Sizes, worst: dict[Role, float]) -> Sizes:
    """Return sizes one step dearer for groups that do not work and are not typed; the same where none can grow."""
    found = []
    for role in ROLES:
        own, rungs = rung_of(sizes, role), rungs_of(job, role)
        at = rungs.index(own) if own in rungs else len(rungs) - 1
        found.append(rungs[at + 1] if worst[role] > 1.0 + EVEN and at + 1 < len(rungs) else own)
    return _sizes(found, sizes.plies)


def deeper_chords(job: TrussJob, sizes: Sizes) -> Sizes:
    """Return sizes with the next deeper chords; the same where there are none."""
    found = []
    for role in ROLES:
        own = rung_of(sizes, role)
        deep = section(own[0]).depth
        more = (rung for rung in rungs_of(job, role) if role != "web" and section(rung[0]).depth > deep)
        found.append(min(more, key=lambda rung: section(rung[0]).depth, default=own))
    return _sizes(found, sizes.plies)


def most_of(job: TrussJob, some: list[Sizes]) -> Sizes:
    """Return the dearest of every group of some."""
    found = []
    for role in ROLES:
        rungs = rungs_of(job, role)
        found.append(max((rung_of(s, role) for s in some), key=lambda rung: rungs.index(rung) if rung in rungs else -1))
    return _sizes(found, some[0].plies)


def rung_of(sizes: Sizes, role: Role) -> Rung:
    """Return of what the sticks of a role are made."""
    return sizes.of(role), sizes.grades[ROLES.index(role)]


def _sizes(rungs: list[Rung], plies: int) -> Sizes:
    (top, first), (bottom, second), (webs, third) = rungs
    return Sizes(top, bottom, webs, plies, (first, second, third))
