"""The ring of plates that holds the feet of hips together: plates in tension, nails where they lap at corners and at splices."""

from collections.abc import Mapping

from balken.catalog.sections import section
from balken.design.load_duration import normal_duration
from balken.design.surface_lines import CarriedLines
from balken.framing.bands import WallLine
from balken.framing.rafter_stations import THICK
from balken.framing.surface_roofs import SurfacePlan
from balken.loads.beam_law import NONE_MORE
from balken.loads.cases import Cases
from balken.model.buildups import stud_size
from balken.standards.checks import Check, MemberResult
from balken.standards.demands import NOT_LIMITED, HeelNails, MemberCase
from balken.standards.standard import Standard
from balken.units.system import INCH
from balken.value import Value


class PlateRing(Value, frozen=True):
    """A ring of plates designed: by wall how far one of its two plates is used in tension, and the nails that hold it at corners and on each
    side of a splice; how far ridges are used that are pressed between hips; or why there is none.
    """

    plates: Mapping[str, MemberResult] = {}
    nails: Mapping[str, HeelNails] = {}
    ridge: Check | None = None
    problem: str = ""

    @property
    def works(self) -> bool:
        """Whether plates, nails and ridges hold."""
        held = all(row.used <= 1.0 for row in self.plates.values()) and all(one.fits for one in self.nails.values())
        return not self.problem and bool(self.plates) and held and (self.ridge is None or self.ridge.used <= 1.0)


def design_ring(
    plan: SurfacePlan,
    carried: CarriedLines,
    ridge: str,
    spacing: float,
    lines: Mapping[str, WallLine],
    standard: Standard,
) -> PlateRing | None:
    """Design the ring of plates of a roof; None where it has none to design; ``ridge``: its ridge board, held by rafters ``spacing`` mm apart."""
    ring = carried.ring
    if ring is None:
        return None
    if ring.problem:
        return PlateRing(problem=ring.problem)
    plates, nails = dict[str, MemberResult](), dict[str, HeelNails]()
    for side, pull in ring.pulls.items():
        wall = plan.outline.walls[side]
        line = lines.get(wall)
        size = stud_size(line.buildup) if line is not None and not line.is_beam else None
        if line is None or size is None:
            return PlateRing(problem="not all of its walls have plates on studs")
        wood = line.wall.framing
        case = MemberCase(
            "ceiling tie", size, wood.species, wood.grade, 12.0 * INCH, 12.0 * INCH, Cases(), NOT_LIMITED, tension=pull, nailed=True,
        )  # fmt: skip
        made = standard.check_member(case)
        if wall not in plates or made.used > plates[wall].used:
            plates[wall] = made
            force = normal_duration(pull, NONE_MORE, standard)[0]
            nails[wall] = standard.lap_nails(wood.species, THICK, section(size).depth, force)
    roof = plan.roof.rafters
    boards = [push for k, push in ring.pushes.items() if carried.names.get(k) not in carried.boards]
    checks = [standard.pressed(ridge, (roof.species, roof.grade), spacing, push) for push in boards]
    return PlateRing(plates, nails, max(checks, key=lambda one: one.used, default=None))
