"""Small made-up houses for tests."""

from typing import Any

from balken.model import edits
from balken.model.records import Choice, Floor, Foundation, Hang, Project, Roof
from balken.units.system import FOOT, INCH


def house(
    long: float = 30 * FOOT,
    wide: float = 20 * FOOT,
    pitch: float = 0.5,
    overhang: float = FOOT,
    middle: bool = False,
    joists: Choice | None = None,
    rafters: Choice | None = None,
    clockwise: bool = False,
    origin: tuple[float, float] = (0.0, 0.0),
    **loads: Any,
) -> Project:
    """Return a rectangular one-storey house on a crawl space, with ids like the demo's."""
    p = edits.new_project("Test house")
    p = edits.add_level(p, "level-1", 8.0 * FOOT, "Plate", "plate")
    p = edits.add_level(p, "level-1", -11.5 * INCH, "Top of foundation", "top of foundation")
    p = edits.add_level(p, "level-1", -24.0 * INCH, "Ground", "ground")
    p = edits.add_level(p, "level-1", -5.0 * FOOT, "Top of footing", "top of footing")
    if loads:
        p = edits.set_loads(p, **loads)
    x, y = origin
    corners = [(x, y), (x + long, y), (x + long, y + wide), (x, y + wide)]
    if clockwise:
        corners.reverse()
    foot, head = Hang(level="level-1"), Hang(level="level-2")
    for i, start in enumerate(corners):
        side = "left" if clockwise else "right"
        p = edits.add_wall(p, start, corners[(i + 1) % 4], "framed-2x6", foot, head, outside=side)
    if middle:
        p = edits.add_wall(
            p, (x, y + wide / 2), (x + long, y + wide / 2), "inside-2x6", foot, head, "centre", role="bearing"
        )
    walls = tuple(w.id for w in p.walls)
    p = edits.add(
        p,
        Foundation(
            id="foundation-1",
            name="Foundation",
            walls=walls,
            foot=Hang(level="level-5"),
            head=Hang(level="level-3"),
            inside_ground=12 * INCH,
        ),
    )
    p = edits.add(
        p, Floor(id="floor-1", name="Floor", level="level-1", walls=walls[:4], joists=joists or Choice(size="2x10"))
    )
    return edits.add(
        p,
        Roof(
            id="roof-1",
            name="Roof",
            walls=walls[:4],
            bearing=head,
            pitch=pitch,
            overhang=overhang,
            rafters=rafters or Choice(),
        ),
    )
