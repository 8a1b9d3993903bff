"""Orchard Road Bakery: a made-up shop and flat with a bakehouse wing and a cart shed, on falling ground.

Main block 40'-0" x 28'-0", two storeys, partly over a basement; wing 24'-0" x 20'-0" making an L; shed
12'-0" x 20'-0".  Interior bearing walls stand on foundations of their own.
"""

import itertools
import math

from balken.design.beam_posts import girder_on_posts
from balken.design.roof_posts import posts_under_roof
from balken.framing.stepping import step_down
from balken.framing.steps_to_meet import step_to_meet
from balken.geometry.plane import Point
from balken.model import column_edits, edits, grid_edits, split_walls, storey_edits, ties
from balken.model.beam_edits import add_pocket
from balken.model.lookup import by_id, next_id
from balken.model.records import (
    AxisPoint,
    Beam,
    Choice,
    Column,
    Floor,
    FloorOpening,
    Foundation,
    FreePoint,
    Hang,
    Pad,
    Project,
    Roof,
    RoofSide,
    Slab,
    Wall,
)
from balken.model.roof_edits import add_dormer, add_roof_opening, as_planes, hang_weight, set_side
from balken.units.speed import MPH
from balken.units.system import FOOT, INCH, POUND_FORCE, PSF

LONG, WIDE = 40.0 * FOOT, 28.0 * FOOT
CELLAR_FROM = 13.0 * FOOT
"""The basement lies under the part of the main block beyond this; the rest is crawl space."""
WING_FROM, WING_DEEP = 16.0 * FOOT, 20.0 * FOOT
PORCH = 32.75 * FOOT, 41.25 * FOOT
"""Where the cart porch's side beams run."""
TANK = (24.0 * FOOT, 43.0 * FOOT), (27.0 * FOOT, 45.0 * FOOT)
"""Two corners of the bakehouse's water tank, under its trusses."""
AIR = -0.5 * INCH
"""Walls that do not bear end so much below trusses."""
SHED_WIDE, SHED_FROM, SHED_TO = 12.0 * FOOT, 4.0 * FOOT, 24.0 * FOOT


def orchard_road() -> Project:
    """Return the demo project."""
    p = edits.new_project("Orchard Road Bakery")
    p = edits.set_sheet(
        p,
        number="S-1",
        title="Foundation and framing plans",
        drawn_by="M. Example",
        date="2026-11-23",
        place="14 Orchard Road, Exampleton",
    )
    p = _levels(p)
    p = grid_edits.add_grid(p, (13.0 * FOOT, 14.0 * FOOT, 13.0 * FOOT), (14.0 * FOOT, 14.0 * FOOT))
    p = _ground(p)
    p = _lower_storey(p)
    p = _upper_storey(p)
    p = _wing(p)
    p = _shed(p)
    p = _openings(p)
    p = _foundations(p)
    p = _floors(p)
    p = _roofs(p)
    p = _girder(p)
    p = _porch_beams(p)
    p = hang_weight(p, *TANK, name="Water tank", dead=400.0 * POUND_FORCE)
    p = _shafts(p)
    p = _through_the_roof(p)
    p = posts_under_roof(p, "roof-1", (LONG - WIDE / 2.0, WIDE / 2.0, WIDE / 4.0))
    p = edits.set_project(p, stock_length=24.0 * FOOT)
    return edits.set_cut(p, (20.75 * FOOT, -4.0 * FOOT), (20.75 * FOOT, 52.0 * FOOT))


def _levels(p: Project) -> Project:
    storey = 8.0 * FOOT + 1.125 * INCH
    p = edits.change(p, "level-1", name="Floor 1")
    for source, up, name, role in (
        ("level-1", storey, "Plate 1", "plate"),
        ("level-1", -11.5 * INCH, "Top of foundation", "top of foundation"),
        ("level-1", -20.0 * INCH, "Ground", "ground"),
        ("level-3", -3.0 * FOOT - 10.5 * INCH, "Top of footing, crawl space", "top of footing"),
        ("level-2", 10.0 * INCH, "Floor 2", "floor"),
        ("level-6", storey, "Plate 2", "plate"),
        ("level-1", -8.0 * FOOT - 4.0 * INCH, "Basement slab", "slab"),
        ("level-8", -4.0 * INCH, "Top of footing, basement", "top of footing"),
        ("level-1", -10.5 * INCH, "Shed wall foot", "other"),
        ("level-10", 8.0 * FOOT, "Shed plate", "plate"),
        ("level-10", -1.5 * INCH, "Top of shed foundation", "top of foundation"),
        ("level-12", -2.0 * FOOT - 10.0 * INCH, "Top of footing, shed", "top of footing"),
        ("level-7", 8.0 * FOOT, "Ridge", "ridge"),
    ):
        p = edits.add_level(p, source, up, name, role)  # type: ignore[arg-type]
    return p


def _ground(p: Project) -> Project:
    """The ground falls 4 ft along the long side."""
    for x, fall in ((-SHED_WIDE, 0.0), (0.0, 0.0), (LONG, 4.0 * FOOT), (LONG + 6.0 * FOOT, 4.0 * FOOT)):
        for y in (-16.0 * FOOT, WIDE + WING_DEEP + 8.0 * FOOT):
            p = column_edits.add_spot(p, (x, y), -20.0 * INCH - fall)
    return p


def _lower_storey(p: Project) -> Project:
    foot, head = Hang(level="level-1"), Hang(level="level-2")
    corners = (
        (0.0, 0.0),
        (CELLAR_FROM, 0.0),
        (LONG, 0.0),
        (LONG, WIDE),
        (CELLAR_FROM, WIDE),
        (0.0, WIDE),
    )
    for i, start in enumerate(corners):
        p = edits.add_wall(p, start, corners[(i + 1) % 6], "framed-2x6", foot, head)
    middle = WIDE / 2.0
    for start, end in (
        ((0.0, middle), (CELLAR_FROM, middle)),
        ((CELLAR_FROM, middle), (LONG, middle)),
        ((CELLAR_FROM, 0.0), (CELLAR_FROM, WIDE)),
    ):
        p = edits.add_wall(p, start, end, "inside-2x6", foot, head, set_out="centre", role="bearing")
    return p


def _upper_storey(p: Project) -> Project:
    """The flat: the same outline, its cladding and sheathing lowered over the edge of the floor."""
    walls = tuple(f"wall-{i}" for i in range(1, 9))
    return storey_edits.next_storey(p, walls, "level-6", "level-7", cover=10.0 * INCH)


def _wing(p: Project) -> Project:
    foot, head = Hang(level="level-1"), Hang(level="level-2")
    north = WIDE + WING_DEEP
    corners = ((LONG, WIDE), (LONG, north), (WING_FROM, north), (WING_FROM, WIDE))
    for start, end in itertools.pairwise(corners):
        p = edits.add_wall(p, start, end, "framed-2x6", foot, head)
    middle = WIDE + WING_DEEP / 2.0
    p = edits.add_wall(
        p, (WING_FROM, middle), (LONG, middle), "inside-2x6", foot, head, set_out="centre", role="bearing"
    )
    return ties.tie_to_axes(p, tuple(w.id for w in p.walls[-4:]))


def _shed(p: Project) -> Project:
    foot, head = Hang(level="level-10"), Hang(level="level-11")
    corners = ((0.0, SHED_TO), (-SHED_WIDE, SHED_TO), (-SHED_WIDE, SHED_FROM), (0.0, SHED_FROM))
    for start, end in itertools.pairwise(corners):
        p = edits.add_wall(p, start, end, "framed-2x6", foot, head)
    return ties.tie_to_axes(p, tuple(w.id for w in p.walls[-3:]))


def _openings(p: Project) -> Project:
    """Openings: wall, kind, distance from its start corner, width, height, sill, all in feet."""
    for wall, kind, offset, width, tall, sill in (
        ("wall-1", "window", 3.0, 6.0, 5.0, 2.0),
        ("wall-2", "door", 2.0, 3.5, 6.75, 0.0),
        ("wall-2", "window", 8.0, 8.0, 4.75, 2.0),
        ("wall-2", "window", 19.0, 6.0, 5.0, 2.0),
        ("wall-3", "window", 5.0, 4.0, 4.0, 3.0),
        ("wall-3", "window", 19.0, 4.0, 4.0, 3.0),
        ("wall-4", "door", 8.0, 3.0, 6.75, 0.0),
        ("wall-5", "window", 5.0, 4.0, 4.0, 3.0),
        ("wall-6", "door", 8.0, 3.0, 6.75, 0.0),
        ("wall-7", "plain", 4.5, 4.0, 6.75, 0.0),
        ("wall-8", "plain", 3.0, 5.0, 6.75, 0.0),
        ("wall-8", "door", 18.0, 3.0, 6.75, 0.0),
        ("wall-9", "door", 4.0, 3.0, 6.75, 0.0),
        ("wall-9", "plain", 18.0, 5.0, 6.75, 0.0),
        ("wall-10", "window", 4.0, 4.0, 4.5, 2.5),
        ("wall-10", "window", 14.0, 4.0, 4.5, 2.5),
        ("wall-10", "window", 24.0, 4.0, 4.5, 2.5),
        ("wall-10", "window", 33.0, 4.0, 4.5, 2.5),
        ("wall-11", "window", 4.5, 4.0, 4.0, 3.0),
        ("wall-11", "window", 19.5, 4.0, 4.0, 3.0),
        ("wall-12", "window", 3.0, 3.0, 3.5, 3.5),
        ("wall-12", "window", 30.0, 4.0, 4.0, 3.0),
        ("wall-13", "window", 12.0, 4.0, 4.0, 3.0),
        ("wall-14", "door", 9.0, 2.75, 6.75, 0.0),
        ("wall-14", "door", 27.0, 2.75, 6.75, 0.0),
        ("wall-15", "door", 7.0, 4.0, 6.75, 0.0),
        ("wall-15", "window", 14.0, 3.0, 3.5, 3.5),
        ("wall-16", "window", 4.0, 5.0, 4.0, 3.0),
        ("wall-16", "window", 15.0, 5.0, 4.0, 3.0),
        ("wall-17", "window", 8.0, 4.0, 4.0, 3.0),
        ("wall-18", "plain", 10.0, 5.0, 6.75, 0.0),
        ("wall-20", "plain", 5.0, 10.0, 6.5, 0.0),
        ("wall-19", "window", 4.0, 3.0, 2.5, 3.5),
    ):
        p = edits.add_opening(p, wall, kind, offset * FOOT, width * FOOT, tall * FOOT, sill * FOOT)
    return p


def _foundations(p: Project) -> Project:
    """Basement, crawl space, wing and shed each go as deep as their ground asks for; the wing steps with it."""
    for name, kind, walls, foot, head, thickness in (
        ("Basement walls", "basement", (2, 3, 4, 9), "level-9", "level-3", 10.0),
        ("Crawl space walls", "wall on footing", (1, 5, 6, 7), "level-5", "level-3", 8.0),
        ("Wing foundation", "wall on footing", (15, 16, 17, 18), "level-5", "level-3", 8.0),
        ("Shed foundation", "slab on ground", (19, 20, 21), "level-13", "level-12", 6.0),
    ):
        number = len(p.foundations) + 1
        p = edits.add(
            p,
            Foundation(
                id=f"foundation-{number}",
                name=name,
                kind=kind,  # type: ignore[arg-type]
                walls=tuple(f"wall-{i}" for i in walls),
                foot=Hang(level=foot),
                # I-joists are a quarter of an inch deeper than the shop's sawn ones.
                head=Hang(level=head, offset=-0.25 * INCH if number == 3 else 0.0),
                thickness=thickness * INCH,
                footing_depth=None,
                sill_size="2x4" if number == 4 else "2x6",
                # The basement's floor takes the push of its walls through the sill.
                bolt_spacing=(20.0 if kind == "basement" else 72.0) * INCH,
                # Crawl spaces are filled inside to 16 in below the ground beside them.
                inside_ground=16.0 * INCH if kind == "wall on footing" else None,
            ),
        )
    p = step_down(p, "foundation-3", 8.0 * INCH)
    # Where a wall meets a deeper one it steps down to it: foundation, wall, at its end?, edge of the lower
    # footing along it, how much higher it lies.
    for number, wall, at_end, edge, high in (
        (2, 1, True, 149.0, 46.0),
        (2, 5, False, 7.0, 46.0),
        (2, 7, True, 149.0, 46.0),
        (3, 15, False, 0.5, 14.0),
        (3, 17, True, 233.5, 38.0),
        (3, 18, True, 277.5, 32.0),
        (3, 18, False, 9.5, 8.0),
        (4, 19, False, 2.5, 12.0),
        (4, 21, True, 141.5, 12.0),
    ):
        p = step_to_meet(p, f"foundation-{number}", f"wall-{wall}", at_end, edge * INCH, high * INCH)
    slab = Slab(id="slab-1", name="Basement slab", walls=("wall-2", "wall-3", "wall-4", "wall-9"), level="level-8")
    p = edits.add(p, slab)
    p = edits.add(
        p,
        Slab(
            id="slab-2",
            name="Shed slab",
            walls=("wall-19", "wall-20", "wall-21", "wall-6"),
            level="level-12",
            thickness=5.0 * INCH,
        ),
    )
    return _canopy(p)


def _canopy(p: Project) -> Project:
    """A cart porch over the loading door: two posts, piers and pads east of the wing."""
    for number, y in ((1, 33.25), (2, 40.75)):
        place = _by_axes(p, (46.0 * FOOT, y * FOOT))
        foot, plate = Hang(level="level-4", offset=-3.0 * FOOT - 4.0 * INCH), Hang(level="level-2")
        p = edits.add(p, Column(id=f"column-{number}", place=place, foot=foot, head=plate, size="6x6"))
        top = Hang(level="level-9", offset=10.0 * INCH)
        pad = Pad(id=f"pad-{number}", place=place, top=top, head=foot, pier=10.0 * INCH)
        p = edits.add(p, pad)
    return p


def _by_axes(p: Project, place: Point) -> AxisPoint:
    """Return a place tied to the nearest axes, so that it follows them."""
    found = ties.tied_off(p, place)
    assert found is not None
    return found


def _porch_beams(p: Project) -> Project:
    """The cart porch's front beam on its posts, and two that hang on it and run back to the wing's wall; the wing's roof runs on over
    them.  Under the porch that wall bears none of it: a girder truss does, and the door stands in a wall with air over it.
    """
    front, back, (low, high) = 46.0 * FOOT, LONG - 2.75 * INCH, PORCH
    past = 6.0 * INCH
    for start, end in (
        ((front, low - past), (front, high + past)),
        ((front, low), (back, low)),
        ((front, high), (back, high)),
    ):
        ends = (_by_axes(p, place) for place in (start, end))
        beam = Beam(
            id=next_id(p, Beam),
            start=next(ends),
            end=next(ends),
            top=Hang(level="level-2"),
            size="2-2x8",
            outdoors=True,
        )
        p = edits.add(p, beam)
    beams = tuple(beam.id for beam in p.beams[-3:])
    p = edits.change(p, beams[0], made_of="GLB", size="GLB 3.5x9")
    below = ""
    for y in reversed(PORCH):
        below = next_id(p, Wall)
        p = split_walls.split_wall(p, "wall-15", y - WIDE)
    p = ties.tie_to_axes(p, (below,))
    p = edits.set_wall_head(p, below, "level-2", AIR)
    roof = by_id(p.roofs)["roof-2"]
    sides = (*roof.sides, RoofSide(wall=beams[0], kind="gable"))
    return edits.change(p, "roof-2", walls=(*(w for w in roof.walls if w != below), *beams), sides=sides)


def _floors(p: Project) -> Project:
    auto, made = (
        Choice(size=None, spacing=16.0 * INCH),
        Choice(made_of="I-joist", size="PRI-40 9.5", spacing=24.0 * INCH),
    )
    for name, level, walls, joists in (
        ("Shop floor", "level-1", (1, 2, 3, 4, 5, 6), auto),
        ("Flat floor", "level-6", (1, 2, 3, 4, 5, 6), auto),
        ("Bakehouse floor", "level-1", (15, 16, 17, 4), made),
    ):
        number = len(p.floors) + 1
        ids = tuple(f"wall-{i}" for i in walls)
        p = edits.add(p, Floor(id=f"floor-{number}", name=name, level=level, walls=ids, joists=joists))
    return p


def _shafts(p: Project) -> Project:
    """A stair up to the flat, and a chimney, through both floors."""
    for kind, x, y, width, depth in (("stair", 32.0, 16.125, 3.5, 9.875), ("chimney", 18.0, 5.0, 2.5, 2.5)):
        opening = FloorOpening(
            id=next_id(p, FloorOpening),
            floors=("floor-1", "floor-2"),
            place=FreePoint(x=x * FOOT, y=y * FOOT),
            kind=kind,  # type: ignore[arg-type]
            width=width * FOOT,
            depth=depth * FOOT,
            lands="at its far end" if kind == "stair" else "nothing",
            flight="stringers" if kind == "stair" else "load alone",
        )
        p = edits.add(p, opening)
    return p


def _through_the_roof(p: Project) -> Project:
    """The chimney goes on through the roof; a window lights the flat's stair from the yard side, a dormer the attic over it."""
    steep = math.hypot(1.0, 0.5)
    p = add_roof_opening(
        p,
        "roof-1",
        "wall-10",
        19.25 * FOOT,
        4.9 * FOOT * steep,
        width=2.75 * FOOT,
        length=2.75 * FOOT * steep,
        kind="chimney",
    )
    p = add_roof_opening(p, "roof-1", "wall-12", 30.0 * FOOT, 5.0 * FOOT)
    return add_dormer(
        p,
        "roof-1",
        "wall-12",
        18.0 * FOOT,
        2.0 * FOOT,
        width=6.0 * FOOT,
        height=3.75 * FOOT,
        window_width=3.0 * FOOT,
        window_height=2.0 * FOOT,
    )


def _girder(p: Project) -> Project:
    """The basement has no wall in its middle: a girder on posts and pads carries the shop's joists and the wall over it."""
    y = WIDE / 2.0
    ends = (CELLAR_FROM + 1.0 * INCH, y), (LONG - 4.0 * INCH, y)
    p = girder_on_posts(p, "floor-1", *ends)
    start = AxisPoint(grid="grid-1", x_axis="x2", y_axis="y2", dx=1.0 * INCH)
    end = AxisPoint(grid="grid-1", x_axis="x4", y_axis="y2", dx=-4.0 * INCH)
    p = edits.change(p, "beam-1", made_of="LVL", size="LVL 3-1.75x7.25", start=start, end=end)
    for wall, depth in (("wall-9", 4.5 * INCH), ("wall-3", 6.0 * INCH)):
        p = add_pocket(p, "foundation-1", wall, 13.0 * FOOT + 8.5 * INCH, 7.0 * INCH, 5.75 * INCH, 0.0, depth)
    return p


def _roofs(p: Project) -> Project:
    """A hip at the street end of the main roof, its heads on a post; gables else, those against the house without overhang; trusses
    over the bakehouse."""
    rafters = Choice(size=None, spacing=16.0 * INCH)
    for name, walls, bearing, pitch, gables, against in (
        ("Main roof", (10, 11, 12, 13), "level-7", 6.0 / 12.0, (13,), ()),
        ("Wing roof", (15, 16, 17, 4), "level-2", 5.0 / 12.0, (16, 4), (4,)),
        ("Shed roof", (19, 20, 21, 6), "level-11", 4.0 / 12.0, (20, 6), (6,)),
    ):
        number = len(p.roofs) + 1
        p = edits.add(
            p,
            Roof(
                id=f"roof-{number}",
                name=name,
                walls=tuple(f"wall-{i}" for i in walls),
                bearing=Hang(level=bearing),
                pitch=pitch,
                rafters=rafters,
                ties=Choice(size=None),
            ),
        )
        p = as_planes(p, f"roof-{number}", tuple(f"wall-{i}" for i in gables), tuple(f"wall-{i}" for i in against))
    # Its gable toward the shed overhangs on lookouts.
    p = set_side(p, "roof-1", "wall-13", overhang=18.0 * INCH)
    # The bakehouse is roofed with trusses, the shop with rafters.
    # Their eaves are closed: fascias, soffits under the rafters' tails, blocks over the walls.
    for number in (1, 3):
        p = edits.change(p, f"roof-{number}", tails="level", eave_blocks=number == 1)
    for number in (1, 2, 3):
        p = edits.change(p, f"roof-{number}", fascia="2x6", rake_boards=True)
    p = edits.change(p, "roof-2", framed="trusses")
    p = edits.set_wall_head(p, "wall-18", "level-2", AIR)  # air between an inside wall and their bottom chords
    return edits.set_loads(p, snow_by="roof", wind_speed=115.0 * MPH, wind=30.0 * PSF)
