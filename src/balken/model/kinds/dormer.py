"""Dormers: small roofs on a plane of another, on cheeks and a face that stand on its rafters."""

from typing import TYPE_CHECKING, Annotated, Literal

from balken.catalog.sections import sawn_section
from balken.model.base import Record, To
from balken.model.errors import EditError
from balken.model.kinds.choice import Choice, check_choice
from balken.model.kinds.kind import Kind
from balken.model.places import by_id
from balken.model.rule_parts import named
from balken.units.system import FOOT, INCH, PSF

if TYPE_CHECKING:
    from balken.model.records import Project

DormerShape = Literal["gable", "lean-to", "gablet"]
"""Two slopes on the cheeks, a gable over the face; one slope on the face that falls towards it; or a small gable on a hip, in the
planes beside that.
"""
NARROWEST, WIDEST = 600.0, 9_000.0
LOWEST, HIGHEST = 500.0, 4_000.0
FLATTEST_GABLE = 3.0 / 12.0
"""IRC R802.4.4: below 3 in 12 a ridge must be a beam."""
STUDS = ("2x4", "2x6")


class Dormer(Record, frozen=True, kw_only=True):
    """A dormer on the plane over a wall: ``along`` that from its corner to the dormer's middle, ``front`` in of the bearing line to the
    outside of its face, in plan; ``width`` over its cheeks; ``height`` of its plates over the roof's deck at the face, mm.

    ``pitch``: rise over run; ``studs``: of what its walls are framed; ``weight``: of those walls, kN/m2; ``window_width``,
    ``window_height``: rough opening in its face, none where the width is 0.  Of a gablet ``along``, ``width``, ``height`` and ``pitch``
    follow from the roof, and it has no window.
    """

    id: str
    name: str
    roof: Annotated[str, To(("roofs",), "with")]
    wall: Annotated[str, To(("walls", "beams"), "with")]
    along: float
    front: float
    width: float = 8.0 * FOOT
    height: float = 5.0 * FOOT
    shape: DormerShape = "gable"
    pitch: float = 0.5
    overhang: float = 8.0 * INCH
    rafters: Choice = Choice()
    ties: Choice = Choice()
    studs: str = "2x4"
    weight: float = 11.0 * PSF
    window_width: float = 4.0 * FOOT
    window_height: float = 3.0 * FOOT


def check_dormer(project: "Project", dormer: Dormer) -> None:
    """Raise EditError unless a dormer stands over a wall of its roof and is of a size that can be framed."""
    where = dormer.name
    roof = by_id(project.roofs).get(dormer.roof)
    if roof is None:
        raise EditError("its roof is not there.", where)
    if dormer.wall not in roof.walls:
        raise EditError(
            "it stands over a wall that is none of its roof's.", where, "Place it over an eave of that roof."
        )
    if not NARROWEST <= dormer.width <= WIDEST:
        raise EditError("its width must be 2 to 29 ft (600 mm to 9 m).", where, "Type such as 8'.")
    if not LOWEST <= dormer.height <= HIGHEST:
        raise EditError(
            "its plates lie 20 in to 13 ft (0.5 to 4 m) over the roof at its face.", where, "Type such as 5'."
        )
    if not (-1e5 < dormer.along < 1e6 and 0.0 <= dormer.front < 1e5):
        raise EditError("it lies far off its roof, or before its eave.", where, "Type a distance in plan such as 3'.")
    if not 0.05 <= dormer.pitch <= 3.8:
        raise EditError("a roof needs a pitch between 1:12 and 75 degrees.", where, "Type one such as 6:12.")
    if dormer.shape == "gable" and dormer.pitch < FLATTEST_GABLE - 1e-9:
        raise EditError(
            "its ridge is a board, for which a gable of less than 3:12 is too flat.", where, "Type 3:12 or more."
        )
    if not 0.0 <= dormer.overhang <= 1500.0:
        raise EditError("the overhang must be 0 to 5 ft (1.5 m).", where)
    if not 0.0 <= dormer.weight <= 5.0:
        raise EditError("its walls weigh 0 to 100 psf (5 kN/m2).", where, "Type such as 11 psf.")
    if dormer.window_width < 0.0 or dormer.window_height < 0.0:
        raise EditError("its window is no less than nothing wide and high.", where, "Type 0 for none.")
    for choice in (dormer.rafters, dormer.ties):
        check_choice(choice, where)
        if choice.made_of != "sawn":
            raise EditError("its rafters and ties are sawn lumber.", where, "Choose a section such as 2x6.")
    named(sawn_section, dormer.studs, where)
    if dormer.studs not in STUDS:
        raise EditError(f"its walls are framed of {' or '.join(STUDS)}.", where)


KIND = Kind(Dormer, "dormers", "dormer", "dormer", "dormers", check_dormer)
