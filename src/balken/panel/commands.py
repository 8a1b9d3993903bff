"""Every command, once: menus, keys, the tool row and the fixes of findings are made from this table.

A command is run by the name that it has here; what runs it is said by the window (``app/window``), and a test holds that
every one of them is.
"""

from collections.abc import Callable

from balken.findings.fixes import FIXES
from balken.model.records import Project
from balken.value import Value


class Command(Value, frozen=True):
    """One command.

    ``menu``: where it stands ("" in none), ``label``: what it is called there, ``keys``: its shortcut, or the name of a
    standard one in angle brackets; ``row``: what its button in the tool row says, ``tip``: what that explains; ``tool``:
    the canvas tool that it takes up; ``edit``: what it makes of a project with the arguments of a fix.
    """

    name: str
    menu: str = ""
    label: str = ""
    keys: str = ""
    row: str = ""
    tip: str = ""
    tool: str = ""
    edit: Callable[..., Project] | None = None


FILE, EDIT, SELECT, WALLS, VIEW = "&File", "&Edit", "&Edit > &Select", "&Edit > &Walls selected", "&View"
MENUS = (FILE, EDIT, WALLS, SELECT, VIEW)


def _tool(name: str, row: str, tip: str) -> Command:
    return Command(f"tool {name}", row=row, tip=tip, tool=name)


COMMANDS: tuple[Command, ...] = (
    Command("new", FILE, "&New", "<New>"),
    Command("open", FILE, "&Open...", "<Open>"),
    Command("read_ifc", FILE, "&Read an IFC file..."),
    Command("read_again", FILE, "Read the architect's file a&gain..."),
    Command(
        "lay_dxf",
        FILE,
        "Lay a D&XF drawing under the plan...",
        row="Lay drawing",
        tip="Lay a DXF drawing under the plan of this storey",
    ),
    Command("read_products", FILE, "Read a list of p&roducts..."),
    Command("demo", FILE, "Open the &demo project"),
    Command("save", FILE, "&Save", "<Save>"),
    Command("save_as", FILE, "Save &as...", "<SaveAs>"),
    Command("copy", FILE, "Save a &copy..."),
    Command("pdf", FILE, "Write &PDF...", row="Write PDF", tip="All sheets as vector PDF"),
    Command("framing_pdf", FILE, "Write &framing elevations..."),
    Command(
        "calculation",
        FILE,
        "Write &calculation sheets...",
        row="Calculations",
        tip="Calculation sheets of footings and walls as PDF",
    ),
    Command("dxf", FILE, "Write D&XF...", row="Write DXF", tip="The drawings of all sheets as DXF"),
    Command("ifc", FILE, "Write &IFC...", row="Write IFC", tip="The model as IFC4"),
    Command("csv", FILE, "Write cut list as CS&V..."),
    Command("quantities", FILE, "Write quantities as CSV..."),
    Command("bars", FILE, "Write bar list as CSV..."),
    Command("xlsx", FILE, "Write cut list as &workbook...", row="Cut list", tip="The cut list as a workbook"),
    Command("quit", FILE, "&Quit", "<Quit>"),
    Command("undo", EDIT, "&Undo", "<Undo>"),
    Command("redo", EDIT, "&Redo", "Ctrl+Shift+Z"),
    Command("delete", EDIT, "&Delete"),
    Command("all", EDIT, "Select everything &like this", "Ctrl+L"),
    Command("region", SELECT, "What lies in a &region..."),
    Command("chain", SELECT, "The &chain of walls"),
    Command("storey_walls", SELECT, "All &walls of this storey"),
    Command("same_role", SELECT, "All walls of the same r&ole"),
    Command("columns", SELECT, "All co&lumns"),
    Command("openings", SELECT, "All o&penings of this storey"),
    Command("spots", SELECT, "All spot &heights"),
    Command("copy_to_level", WALLS, "&Copy to another storey..."),
    Command(
        "next_storey",
        WALLS,
        "&Next storey...",
        row="Next storey",
        tip="Make the walls of the storey above from these",
    ),
    Command("move_walls", WALLS, "&Move or copy..."),
    Command("turn_walls", WALLS, "&Turn..."),
    Command("mirror_walls", WALLS, "M&irror..."),
    Command("offset_wall", WALLS, "&Offset..."),
    Command("split_wall", WALLS, "&Split..."),
    Command("join_walls", WALLS, "&Join the two selected"),
    Command("reach_wall", WALLS, "&Extend or trim to the second"),
    Command("reach_wall_shorter", WALLS, "Trim to the second, &keeping the shorter part"),
    Command("tie_walls", WALLS, "T&ie to the nearest axes"),
    Command("let_go", WALLS, "Let &go of the axes"),
    Command("hide", VIEW, "&Hide what is selected", "F3"),
    Command("alone", VIEW, "Show it al&one", "F4"),
    Command("show", VIEW, "Show all &again", "Shift+F3"),
    Command("plan", VIEW, "&Plan", "F6"),
    Command("both", VIEW, "Plan &and 3-D", "F7"),
    Command("space", VIEW, "&3-D", "F8"),
    Command(
        "framing",
        VIEW,
        "&Framing elevations",
        "Shift+F8",
        row="Framing",
        tip="Framing elevations of the walls selected",
    ),
    Command("all_framing", VIEW, "Framing of all walls"),
    Command("fit", VIEW, "&Whole building", "F9"),
    _tool("select", "Select", "Select and drag (Esc)"),
    _tool("cut", "Cut line", "Set the cut line of the height strip by two clicks"),
    _tool("ground", "Ground", "Spot heights of the ground outside"),
    _tool("walls", "Draw walls", "Corner to corner, with typed lengths"),
    _tool("rectangle", "Draw rectangle", "Four outside walls from two corners"),
    _tool("opening", "Place opening", "Door, window or plain opening"),
    _tool("step", "Step", "Step a foundation down along a wall"),
    _tool("pad", "One pad", "A pad and its pier by one click"),
    _tool("recess", "Pocket", "A girder pocket or an opening in a foundation wall"),
    _tool("beam", "Draw beam", "A beam or girder from point to point, under the floor of this storey"),
    _tool("floor opening", "Opening", "An opening for a stair, chimney or shaft, from corner to corner"),
    _tool(
        "draw roof", "Draw roof", "A roof by its corners: on walls and beams along its sides, else on beams on posts"
    ),
    _tool("roof edge", "Switch edge", "An edge of a roof: eave, gable, or against a wall"),
    _tool(
        "roof opening", "Roof window", "A window, chimney or shaft in a plane of a roof, framed by headers and trimmers"
    ),
    _tool("dormer", "Dormer", "A dormer on a plane of a roof: its own roof, cheeks and face, framed and carried"),
    _tool("gablet", "Gablet", "A small gable on a hip: the planes beside it run on to its face"),
    _tool("fill bay", "Fill bay", "Parallel beams over a bay between axes, walls or beams"),
    _tool("hang weight", "Hang weight", "A weight on the bottom chords of trusses: a furnace, a water tank"),
    _tool("floor load", "Load", "A load in one place on the floor: a bath, a safe, a partition"),
    _tool("draw floor", "Draw floor", "A floor by its corners, or in a room by one click with Ctrl"),
    _tool(
        "past wall", "Cantilever", "Let the floor reach past a wall: where it begins on the wall, then its far corner"
    ),
    Command("add_level", row="Add level", tip="Make a level from another by a typed distance"),
    Command("add_grid", row="Lay grid", tip="Type the spacings both ways, or rays and arcs"),
    Command("add_columns", row="Columns", tip="Columns at the crossings of axes"),
    Command("walls_menu", row="Change walls", tip="Move, copy, turn, mirror, offset, split, join, extend"),
    Command("masonry", row="Masonry", tip="Check walls against the masonry module and make them fit"),
    Command("lay_foundation", row="Lay foundation", tip="Walls on footings, basement, slab on ground"),
    Command("lay_slab", row="Lay slab", tip="A slab on ground within walls"),
    Command("slope_footing", row="Slope", tip="A footing whose underside slopes"),
    Command("add_pads", row="Pads", tip="Pads at axis crossings or under columns"),
    Command("elevations", row="Elevations", tip="Foundation walls and steps from outside"),
    Command("show_ground", row="Ground and concrete", tip="Soil, water, frost, strengths"),
    Command("lay_floor", row="Lay floor", tip="Joists, rim boards and deck between walls"),
    Command(
        "make_roof",
        row="Make roof",
        tip="A roof over outside walls that close an outline, or over the walls and beams selected",
    ),
    Command("show_loads", row="Loads and soil", tip="Type loads, soil bearing value and frost depth"),
    Command("check_floors", row="Show floor", tip="Joists by how far they are used"),
    Command("check_roof", row="Show roof", tip="Rafters and ties by how far they are used"),
    Command("check_loads", row="Show load path", tip="Arrows and figures from areas of floor to beams, posts and pads"),
    Command("check_foundations", row="Show foundations", tip="Line loads and soil pressure"),
    Command("sheet_plans", row="Plans", tip="Framing plans, cross-sections and schedules"),
    Command("sheet_decks", row="Decks", tip="The panels of roof and floor decks as they are laid"),
    Command("sheet_walls", row="Wall plans", tip="The walls of each storey with their names and dimensions"),
    Command("sheet_foundations", row="Foundations", tip="Foundation plan, sections and schedule"),
    Command("sheet_elevations", row="Elevations", tip="Foundation walls with their steps from outside"),
    Command("sheet_beams", row="Beams", tip="Each beam with its load, moments and shears"),
    Command("sheet_roof", row="Rafters", tip="Each different rafter, hip and valley with its lengths and angles"),
    Command("sheet_framing", row="Framing", tip="The framing elevation of each wall"),
    Command("title_block", row="Title block", tip="What the title block says"),
    *(Command(name, edit=edit) for name, edit in FIXES.items()),
)
BY_NAME: dict[str, Command] = {command.name: command for command in COMMANDS}
