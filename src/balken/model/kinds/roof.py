"""Roofs over walls: gables over a rectangle, framed; planes from every eave over any outline."""

from typing import TYPE_CHECKING, Annotated, Literal

from balken.catalog.sections import carrying_section, sawn_section, section
from balken.geometry.roof_edges import EdgeKind
from balken.model.base import Hang, Record, To
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind
from balken.model.rule_parts import (
    hung,
    named,
    walls_there,
)
from balken.units.system import INCH

if TYPE_CHECKING:
    from balken.model.records import Project


from balken.model.kinds.choice import Choice, check_choice
from balken.model.kinds.trusses import Trusses, check_trusses

RoofShape = Literal["gable", "planes"]
"""A pair of rafters from wall to wall; or a plane from each eave, which meet in hips, valleys and ridges."""


RidgeMade = Literal["board", "beam", "under"]
"""A board that rafters lean on in pairs, their thrust in ties; or a beam that carries half of them, held at its ends, between or under
them.
"""


CollarTies = Literal["none", "spaced", "all"]
"""Across no pairs of rafters, across pairs no farther than 4 ft apart, across all."""


TailsCut = Literal["plumb", "square", "level", "cut back"]
"""How tails of rafters end: plumb, square to them, plumb and below that level, or ever shallower from the wall to what is left of their plumb cut."""


FramedWith = Literal["rafters", "trusses"]
"""What carries its planes."""


PlaneFramed = Literal["roof", "rafters"]
"""What carries the plane over a side of a roof under trusses: these, as all of it, or rafters (hip ends alone)."""


Jacks = Literal["set out", "pairs", "staggered"]
"""How jacks of both sides come to a hip or valley: as their eaves are set out, in one place, or half a step apart."""


RafterSetOut = Literal["corner", "end", "middle"]
"""From the first corner of the sides that run alike, or the last; or so that both ends of the first of them are alike."""


FLATTEST = 0.02
"""Roofs of planes slope by 1/4 in a foot at least: water does not pond on them (ASCE 7-16, 8.4, from memory)."""
THICKEST_BOARD = 3.0 * INCH
"""Rafters bear on a beam by 1 1/2 in at least (IRC R502.6), from both sides."""


PurlinsOn = Literal["posts", "struts"]
"""What holds purlins up."""
HipsMade = Literal["dropped", "backed"]
"""So low that their upper edges lie in the planes beside; or as high as these, their upper edges bevelled."""


class RoofSide(Record, frozen=True, kw_only=True):
    """What a roof of planes does over one of its walls; ``pitch``, ``overhang`` None: as the roof; ``raised``: how much higher than the roof
    an eave bears, mm; ``boards``: whether the roof's fascia runs before an eave; ``framed``: of a hip end under trusses, what carries it.
    """

    wall: Annotated[str, To(("walls", "beams"), "with")]
    kind: EdgeKind = "eave"
    pitch: float | None = None
    overhang: float | None = None
    raised: float = 0.0
    boards: bool = True
    framed: PlaneFramed = "roof"


class Roof(Record, frozen=True, kw_only=True):
    """A roof over walls, one of planes over beams too (among ``walls``); ``pitch`` is rise over run, ``ridge`` the direction of a gable's (None = the longer way).

    ``sides``, ``ridge_made``, ``set_out``: of a roof of planes, what it does over single walls, what its ridges are (``hips``: how those lie), from where
    its rafters are set out, its collar ties.  ``full_rafters``: whether a common rafter stands on each plane where a hip meets the ridge;
    ``jacks``: how they meet at hips and valleys; ``least_gap``: how near rafters may come to those that are fixed, on centre, mm.
    ``seat``: how long those of their bird's mouths are, ``above_plate``: or how high, plumb, their upper edges lie over the plates at the outer faces
    of the walls, mm (None: as long as 3 1/2 in and a quarter of the rafter allow).
    ``level_fascias``: steeper eaves reach out less, so that all fascias run at one height;
    ``tie_raise``: how high the undersides of its ceiling ties lie over the plates, mm.  ``framed``: with rafters or with ``trusses``.
    ``fascia``: the section of boards before its tails (None: none), ``face_board``: of boards before those, ``rake_boards``: whether both run up its rakes
    too; ``eave_blocks``: whether blocks stand between its rafters over the walls, ``blocks_square``: to the rafters, not upright.
    ``tails``: how those of its rafters are cut; ``tail_plumb``: how deep their plumb cut is left where they are level below it or cut back, mm;
    ``soffit_returns``: whether level boards beside them run back to the wall; ``sprocket_pitch``: how steep the deck runs out over
    sprockets at its eaves (None: there are none), which begin ``sprocket_in`` mm in of the bearing line.
    ``purlins_at``: how far in of the bearing line purlins lie under its rafters, in plan, mm (0: none), ``purlins_in``: how deep they are
    let into these, square to them; ``tapered``: whether rafters of a flat single slope lie level, under tapered strips; ``purlins_on``: posts that are set, or struts to bearing walls, no farther than ``struts_apart`` apart.  ``ledger_size``: of boards on taller walls, on which rafters or trusses hang (None: chosen by Balken).
    """

    id: str
    name: str
    walls: tuple[Annotated[str, To(("walls", "beams"), "drop")], ...]
    bearing: Hang
    pitch: float = 0.5
    overhang: float = 12.0 * INCH
    seat: float | None = None
    above_plate: float | None = None
    ridge: float | None = None
    rafters: Choice = Choice()
    ties: Choice = Choice()
    ridge_size: str | None = None
    ridge_made: RidgeMade = "board"
    hips: HipsMade = "dropped"
    set_out: RafterSetOut = "corner"
    full_rafters: bool = False
    jacks: Jacks = "set out"
    least_gap: float = 0.0
    level_fascias: bool = False
    collar: CollarTies = "spaced"
    tie_raise: float = 0.0
    purlins_at: float = 0.0
    purlins_in: float = 0.0
    purlin_size: str | None = None
    purlins_on: PurlinsOn = "posts"
    struts_apart: float = 48.0 * INCH
    ledger_size: str | None = None
    fascia: str | None = None
    face_board: str | None = None
    rake_boards: bool = False
    eave_blocks: bool = False
    blocks_square: bool = False
    tails: TailsCut = "plumb"
    tail_plumb: float = 5.5 * INCH
    soffit_returns: bool = False
    sprocket_pitch: float | None = None
    sprocket_in: float = 12.0 * INCH
    framed: FramedWith = "rafters"
    tapered: bool = False
    trusses: Trusses = Trusses()
    deck: float = 0.625 * INCH
    shape: RoofShape = "gable"
    sides: tuple[RoofSide, ...] = ()

    @property
    def ridge_beams(self) -> bool:
        """Whether its ridges are beams that carry its rafters."""
        return self.ridge_made != "board"


LEAST_SEAT = 1.5 * INCH


def check_roof(project: "Project", roof: Roof) -> None:
    """Raise EditError unless a roof's walls are there, its pitch and overhang are within bounds."""
    beams = {beam.id for beam in project.beams}
    walls_there(project, (w for w in roof.walls if w not in beams), roof.name)
    if roof.shape == "gable" and beams & set(roof.walls):
        raise EditError("it cannot lie on beams as it is.", roof.name, "Make it a roof of planes.")
    hung(project, roof.bearing, roof.name)
    check_choice(roof.rafters, roof.name)
    check_choice(roof.ties, roof.name)
    check_trusses(roof.trusses, roof.name)
    if roof.rafters.made_of != "sawn" or roof.ties.made_of != "sawn":
        raise EditError("its rafters and ties are sawn lumber.", roof.name, "Choose a section such as 2x8.")
    if roof.ridge_size is not None:
        beam = roof.shape == "planes" and roof.ridge_beams
        named(carrying_section if beam else sawn_section, roof.ridge_size, roof.name)
        if roof.ridge_made == "under" and section(roof.ridge_size).breadth < THICKEST_BOARD:
            raise EditError(
                "a ridge beam under rafters is 3 in (76 mm) thick at least, so that both bear on it.",
                roof.name,
                "Choose such as 2-2x10, or leave its size to be chosen.",
            )
    flattest, told = (FLATTEST, "1/4:12") if roof.shape == "planes" else (0.05, "1:12")
    if not flattest <= roof.pitch <= 3.8:
        raise EditError(f"a roof needs a pitch between {told} and 75 degrees.", roof.name, "Type one such as 6:12.")
    _check_seat(roof)
    if not 0.0 <= roof.least_gap <= 1000.0:
        raise EditError("rafters stay clear of others by 0 to 3 ft (1 m).", roof.name, "Type half a spacing at most.")
    if not 600.0 <= roof.struts_apart <= 3000.0:
        raise EditError("struts stand 2 to 10 ft (0.6 to 3 m) apart.", roof.name, "Type such as 4 ft.")
    if not 0.0 <= roof.overhang <= 3000.0:
        raise EditError("the overhang must be 0 to 10 ft (3 m).", roof.name)
    if not 1.5 * INCH <= roof.tail_plumb <= 1000.0:
        raise EditError(
            "of the plumb cut of tails 1 1/2 in to 3 ft (38 to 1000 mm) are left.", roof.name, 'Type such as 5 1/2".'
        )
    if roof.sprocket_pitch is not None:
        _check_sprockets(roof, roof.sprocket_pitch)
    if roof.soffit_returns and roof.tails in ("square", "cut back"):
        raise EditError(
            "soffit returns lie beside tails that end plumb.",
            roof.name,
            "Cut tails plumb, or level below, or leave out the returns.",
        )
    for board in (roof.fascia, roof.face_board):
        if board is not None:
            named(sawn_section, board, roof.name)
    if roof.face_board is not None and roof.fascia is None:
        raise EditError("a face board is nailed to a fascia behind it.", roof.name, "Choose that first, such as 2x6.")
    if roof.rake_boards and roof.fascia is None:
        raise EditError("boards along rakes are those of its fascia.", roof.name, "Choose that first, such as 2x6.")
    for side in roof.sides:
        _check_side(roof, side)
    if len({side.wall for side in roof.sides}) < len(roof.sides):
        raise EditError("two of its sides are over one wall.", roof.name)
    if not 0.0 <= roof.tie_raise <= 5000.0:
        raise EditError("ceiling ties lie 0 to 16 ft (5 m) over the plates.", roof.name)
    _check_purlins(roof)
    if not 0.0 <= roof.deck <= 500.0:
        raise EditError("the roof deck must be 0 to 20 in (500 mm) thick.", roof.name)


def _check_seat(roof: Roof) -> None:
    if roof.seat is not None and roof.above_plate is not None:
        raise EditError(
            "a bird's mouth follows from its seat or from the height above the plate.",
            roof.name,
            "Type one of the two.",
        )
    if roof.seat is not None and not LEAST_SEAT <= roof.seat <= 400.0:
        raise EditError(
            "rafters bear on 1 1/2 in (38 mm, IRC R802.6) to 16 in (400 mm).",
            roof.name,
            'Type such as 3 1/2", or auto.',
        )
    if roof.above_plate is not None and not 25.0 <= roof.above_plate <= 600.0:
        raise EditError(
            "the upper edges of rafters lie 1 to 24 in (25 to 600 mm) above the plates.",
            roof.name,
            'Type such as 5 1/2", or auto.',
        )


def _check_purlins(roof: Roof) -> None:
    if roof.ledger_size is not None:
        named(sawn_section, roof.ledger_size, roof.name)
    if roof.purlin_size is not None:
        named(carrying_section, roof.purlin_size, roof.name)
    if not 0.0 <= roof.purlins_in <= 75.0:
        raise EditError(
            "purlins are let into rafters by 0 to 3 in (75 mm).", roof.name, "Type 0 to lay them under these."
        )
    if roof.purlins_at == 0.0:
        return
    if not 300.0 <= roof.purlins_at <= 10_000.0:
        raise EditError("purlins lie 1 to 33 ft (0.3 to 10 m) in of the walls.", roof.name, "Type 0 for none.")
    if roof.tie_raise > 0.0:
        raise EditError(
            "rafters that raised ties pull at are not worked out over purlins.",
            roof.name,
            "Lay the ties on the plates.",
        )


def _check_sprockets(roof: Roof, flat: float) -> None:
    """Raise EditError unless sprockets can run along all eaves of a roof."""
    if roof.shape != "planes":
        raise EditError("sprockets are made along the eaves of a roof of planes.", roof.name, "Make it one first.")
    if not FLATTEST <= flat < roof.pitch - 0.01:
        raise EditError(
            "sprockets are flatter than the roof, and 1/4:12 at least.", roof.name, "Type a pitch such as 3:12."
        )
    if not 0.0 <= roof.sprocket_in <= 1500.0:
        raise EditError("sprockets begin 0 to 5 ft (1.5 m) in of the walls.", roof.name)
    if roof.tails == "cut back":
        raise EditError(
            "sprockets lie beside tails that keep their depth.", roof.name, "Cut tails plumb, square or level below."
        )
    if roof.rake_boards:
        raise EditError(
            "boards along rakes do not bend with the deck over sprockets.", roof.name, "Leave out one or the other."
        )
    others = [
        side
        for side in roof.sides
        if side.kind == "eave"
        and (side.raised or (side.pitch or roof.pitch) != roof.pitch or side.overhang is not None)
    ]
    if others or any(side.kind == "roof" for side in roof.sides):
        raise EditError(
            "sprockets run round a roof whose eaves are alike, and that runs on over no other.",
            roof.name,
            "Give all eaves one pitch, height and overhang.",
        )


def _check_side(roof: Roof, side: RoofSide) -> None:
    if side.wall not in roof.walls:
        raise EditError("a side lies over a wall that is none of the roof's.", roof.name)
    if side.pitch is not None and not FLATTEST <= side.pitch <= 3.8:
        raise EditError("an eave needs a pitch between 1/4:12 and 75 degrees.", roof.name, "Type one such as 6:12.")
    if not 0.0 <= side.raised <= 10_000.0:
        raise EditError(
            "an eave bears 0 to 33 ft (10 m) higher than its roof.", roof.name, "Let the roof bear on its lowest eave."
        )
    if side.overhang is not None and not 0.0 <= side.overhang <= 3000.0:
        raise EditError("an overhang must be 0 to 10 ft (3 m).", roof.name)


KIND = Kind(Roof, "roofs", "roof", "roof", "roofs", check_roof)
