"""Rules of layouts: floors and roofs, and what they may be made of."""

from balken.model.errors import EditError
from balken.model.records import Choice, Floor, Hang, Project, Roof
from balken.model.rule_parts import check_spacing, graded, hung, named, walls_there
from balken.model.sections import section


def _choice(choice: Choice, where: str) -> None:
    if choice.size is not None:
        named(section, choice.size, where)
        if section(choice.size).nominal[0] < 2 or section(choice.size).plies > 1:
            raise EditError(f"{choice.size} is not a size for it.", where, "Choose one such as 2x8.")
    graded(choice.species, choice.grade, where)
    check_spacing(choice.spacing, where)


def check_floor(project: Project, floor: Floor) -> None:
    """Raise EditError unless a floor's walls are there and its choice can be made."""
    walls_there(project, floor.walls, floor.name)
    hung(project, Hang(level=floor.level), floor.name)
    _choice(floor.joists, floor.name)
    if not 0.0 <= floor.deck <= 500.0:
        raise EditError("the deck must be 0 to 20 in (500 mm) thick.", floor.name)


def check_roof(project: Project, roof: Roof) -> None:
    """Raise EditError unless a roof's walls are there, its pitch and overhang are within bounds."""
    walls_there(project, roof.walls, roof.name)
    hung(project, roof.bearing, roof.name)
    _choice(roof.rafters, roof.name)
    _choice(roof.ties, roof.name)
    if roof.ridge_size is not None:
        named(section, roof.ridge_size, roof.name)
    if not 0.05 <= roof.pitch <= 3.8:
        raise EditError("a gable roof needs a pitch between 1:12 and 75 degrees.", roof.name, "Type one such as 6:12.")
    if not 0.0 <= roof.overhang <= 3000.0:
        raise EditError("the overhang must be 0 to 10 ft (3 m).", roof.name)
    if not 0.0 <= roof.deck <= 500.0:
        raise EditError("the roof deck must be 0 to 20 in (500 mm) thick.", roof.name)
