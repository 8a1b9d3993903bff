"""The sheets of beams and typical floor details: each different beam with what lies on it, its moments and shears."""

from itertools import pairwise

from balken.derived.model import Model
from balken.documents.beam_diagram import beam_diagram
from balken.documents.display import Drawing
from balken.documents.floor_details import SCALE, draw_detail, floor_details
from balken.documents.paper import flowed_sheets
from balken.documents.schedule import by_number
from balken.documents.sheet import UNSCALED, Sheet
from balken.loads.beam_law import Beamed
from balken.model.naming import beam_name
from balken.standards.checks import used_text

WIDE, LETTERS = 170.0, 2.2
"""Width of an elevation with its diagrams, and height of its capitals, mm."""


def beam_drawings(model: Model) -> list[tuple[str, Drawing]]:
    """Return an elevation with diagrams of each beam that is worked out, by its mark, alike ones once: the one used most."""
    alike: dict[tuple[str, tuple[int, ...]], list[tuple[str, Beamed]]] = {}
    for name, made in model.path.beams.items():
        if made.design.made:
            spans = tuple(round(b.along - a.along) for a, b in pairwise(made.seats))
            alike.setdefault((model.marks[beam_name(name)], spans), []).append((name, made))
    found = []
    for mark, spans in sorted(alike, key=lambda key: (by_number(key[0]), key[1])):
        rows = alike[(mark, spans)]
        name, made = max(rows, key=lambda row: row[1].design.used)
        count = f"{len(rows)} of them, " if len(rows) > 1 else ""
        title = f"{made.design.section.name}, {count}used {used_text(made.design.used)}"
        found.append((mark, Drawing(title, UNSCALED, beam_diagram(model, name, WIDE, LETTERS).items)))
    return found


def beam_sheets(model: Model) -> list[Sheet]:
    """Lay beams and the typical details of floors out on as many sheets as it takes."""
    details = floor_details(model)
    beams = beam_drawings(model)
    drawn = [(str(one.number), draw_detail(model, one, SCALE[model.units])) for one in details]

    def title(shown: list[int]) -> str:
        return "Beams and floor details" if any(i < len(beams) for i in shown) else "Floor details"

    return flowed_sheets(model, [*beams, *drawn], "beams", title)
