"""Trusses in IFC: an assembly of its sticks and plates each, made in a shop."""

from typing import Any, NamedTuple

from balken.derived.model import Model
from balken.design.truss_plates import Plate
from balken.design.trusses import TrussDesign
from balken.documents.truss_drawing import marked
from balken.exchange.ifc_entities import Entities
from balken.framing.truss_layout import BOARD, TrussPlace
from balken.geometry.prism import Prism
from balken.model.naming import piece_name
from balken.units.system import INCH


class Standing(NamedTuple):
    """A truss where it stands: its mark, its place, as designed, its plates, at which height it bears, mm."""

    mark: str
    place: TrussPlace
    made: TrussDesign
    plates: tuple[Plate, ...]
    bearing: float


def plate_solids(truss: Standing, plate: Plate) -> list[Prism]:
    """Return a pair of plates of each ply as solids."""
    place, plies, found = truss.place, truss.made.frame.sizes.plies, []
    for ply in range(plies):
        middle = truss.place.t + BOARD * (ply + 0.5 - plies / 2.0)
        for t in (middle + BOARD / 2.0 + plate.thick, middle - BOARD / 2.0):
            x, y = place.frame.back(place.start, t)
            at = (x, y, truss.bearing)
            found.append(Prism(at, (*place.frame.s, 0.0), (0.0, 0.0, 1.0), (plate.ring,), plate.thick))
    return found


def trusses_of(model: Model) -> dict[str, Standing]:
    """Return trusses by their names."""
    found = {}
    bearings = {plan.roof.id: plan.bearing for plan in model.surfaces}
    marks = {(roof, id(made)): mark for mark, roof, made, _ in marked(model)}
    for roof, trusses in model.trusses.items():
        for number, make in trusses.made_at.items():
            mark, place = marks[(roof, id(make.design))], trusses.places[number]
            name = piece_name(roof, "truss", number)
            found[name] = Standing(mark, place, make.design, make.plates, bearings[roof] + place.lift)
    return found


def write_assembly(into: Entities, name: str, mark: str, place: Any) -> Any:
    """Write a truss as an assembly at a placement; its parts are added by ``IfcRelAggregates``."""
    return into.new(
        "IfcElementAssembly", into.gid(name), None, f"{mark} truss", None, None, place, None, mark, "FACTORY", "TRUSS"
    )


def write_plates(into: Entities, name: str, truss: Standing, parent: Any, base: float) -> list[Any]:
    """Write the plates of a truss; ``base``: height of its storey, mm."""
    found = []
    for plate in truss.plates:
        noun, kind = ("gusset", "PLYWOOD GUSSET") if plate.joined == "gussets" else ("plate", "TOOTHED PLATE")
        size = f"{plate.width / INCH:g}x{plate.length / INCH:g}"
        for k, solid in enumerate(plate_solids(truss, plate)):
            swept = solid.swept()
            x, y, z = swept.origin
            at = into.placement(parent, (x, y, z - base), swept.w, swept.u)
            shape = into.new("IfcProductDefinitionShape", None, None, [into.body_of(swept, None)])
            guid, label = into.gid(name, "plate", plate.joint, str(k)), f"{truss.mark} {noun} {size}"
            found.append(into.new("IfcPlate", guid, None, label, None, kind, at, shape, None, "USERDEFINED"))
    return found
