"""A small shop for tests: 40'-0" x 28'-0", one storey on a crawl space, gable roof.

A made-up building.  An interior bearing wall along the middle stands on its own foundation wall
and footing; the joists of both sides and the ceiling ties bear on it.
"""

from balken.model import edits, grid_edits
from balken.model.records import Choice, Floor, Foundation, Hang, Project, Roof
from balken.units.system import FOOT, INCH


def shop() -> Project:
    """Return the shop."""
    p = edits.new_project("Orchard Road Bakery")
    p = edits.set_sheet(
        p,
        number="S-1",
        title="Framing plans and cross-section",
        drawn_by="M. Example",
        date="2026-11-23",
        place="14 Orchard Road, Exampleton",
    )
    p = edits.change(p, "level-1", name="Floor 1")
    p = edits.add_level(p, "level-1", 8.0 * FOOT + 1.125 * INCH, "Plate", "plate")
    p = edits.add_level(p, "level-1", -11.5 * INCH, "Top of foundation", "top of foundation")
    p = edits.add_level(p, "level-1", -20.0 * INCH, "Ground", "ground")
    p = edits.add_level(p, "level-3", -3.0 * FOOT - 4.5 * INCH, "Top of footing", "top of footing")
    p = grid_edits.add_grid(p, (13.0 * FOOT, 14.0 * FOOT, 13.0 * FOOT), (14.0 * FOOT, 14.0 * FOOT))
    p = _walls(p)
    p = edits.add(
        p,
        Foundation(
            id="foundation-1",
            name="House foundation",
            walls=("wall-1", "wall-2", "wall-3", "wall-4", "wall-5"),
            foot=Hang(level="level-5"),
            head=Hang(level="level-3"),
            inside_ground=12.0 * INCH,
        ),
    )
    p = edits.add(
        p,
        Floor(
            id="floor-1",
            name="Shop floor",
            level="level-1",
            walls=("wall-1", "wall-2", "wall-3", "wall-4"),
            joists=Choice(size=None, spacing=16.0 * INCH),
        ),
    )
    p = edits.add(
        p,
        Roof(
            id="roof-1",
            name="Main roof",
            walls=("wall-1", "wall-2", "wall-3", "wall-4"),
            bearing=Hang(level="level-2"),
            rafters=Choice(size=None, spacing=16.0 * INCH),
            ties=Choice(size=None),
        ),
    )
    p = edits.set_project(p, stock_length=20.0 * FOOT)
    return edits.set_cut(p, (16.75 * FOOT, -4.0 * FOOT), (16.75 * FOOT, 32.0 * FOOT))


def _walls(p: Project) -> Project:
    foot, head = Hang(level="level-1"), Hang(level="level-2")
    long, wide = 40.0 * FOOT, 28.0 * FOOT
    corners = ((0.0, 0.0), (long, 0.0), (long, wide), (0.0, wide))
    for i, start in enumerate(corners):
        p = edits.add_wall(p, start, corners[(i + 1) % 4], "framed-2x6", foot, head)
    p = edits.add_wall(
        p, (0.0, wide / 2.0), (long, wide / 2.0), "inside-2x6", foot, head, set_out="centre", role="bearing"
    )
    openings = (
        ("wall-1", "window", 3.0, 6.0, 5.0, 2.0),
        ("wall-1", "door", 12.0, 3.5, 7.0, 0.0),
        ("wall-1", "window", 18.0, 8.0, 5.0, 2.0),
        ("wall-1", "window", 30.0, 6.0, 5.0, 2.0),
        ("wall-2", "window", 4.0, 4.0, 4.0, 3.0),
        ("wall-2", "window", 19.0, 4.0, 4.0, 3.0),
        ("wall-3", "window", 5.0, 4.0, 4.0, 3.0),
        ("wall-3", "door", 17.0, 3.0, 7.0, 0.0),
        ("wall-3", "window", 29.0, 4.0, 4.0, 3.0),
        ("wall-4", "window", 12.0, 4.0, 4.0, 3.0),
        ("wall-5", "plain", 8.0, 5.0, 7.0, 0.0),
        ("wall-5", "door", 26.0, 3.0, 6.75, 0.0),
    )
    for wall, kind, offset, width, tall, sill in openings:
        p = edits.add_opening(p, wall, kind, offset * FOOT, width * FOOT, tall * FOOT, sill * FOOT)
    return p
