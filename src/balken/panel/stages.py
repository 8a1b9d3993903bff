"""The seven stages of the job: what each shows on the plan, what it lights, and its tools."""

from dataclasses import dataclass

from balken.documents.plan import PlanOf


@dataclass(frozen=True)
class ToolButton:
    """A button of the tool row: a canvas tool or a named action of the window."""

    label: str
    tip: str
    tool: str = ""
    action: str = ""


@dataclass(frozen=True)
class Stage:
    """One stage: name of its findings, title, parts of the plan, lit layers, tools."""

    name: str
    title: str
    parts: frozenset[str]
    below: frozenset[str]
    bright: frozenset[str]
    tools: tuple[ToolButton, ...]


_SELECT = ToolButton("Select", "Select and drag (Esc)", tool="select")
_CUT = ToolButton("Cut line", "Set the cut line of the height strip by two clicks", tool="cut")

STAGES: tuple[Stage, ...] = (
    Stage(
        "set out",
        "Set out",
        frozenset({"grid", "walls", "ground", "references"}),
        frozenset(),
        frozenset({"set out"}),
        (
            _SELECT,
            ToolButton("Add level", "Make a level from another by a typed distance", action="add_level"),
            ToolButton("Lay grid", "Type the spacings both ways, or rays and arcs", action="add_grid"),
            ToolButton("Ground", "Spot heights of the ground outside", tool="ground"),
            ToolButton("Columns", "Columns at the crossings of axes", action="add_columns"),
            ToolButton("Lay drawing", "Lay a DXF drawing under the plan of this storey", action="lay_dxf"),
            _CUT,
        ),
    ),
    Stage(
        "walls",
        "Walls",
        frozenset({"grid", "walls", "outline", "references"}),
        frozenset(),
        frozenset({"walls"}),
        (
            _SELECT,
            ToolButton("Draw walls", "Corner to corner, with typed lengths", tool="walls"),
            ToolButton("Draw rectangle", "Four outside walls from two corners", tool="rectangle"),
            ToolButton("Place opening", "Door, window or plain opening", tool="opening"),
            ToolButton("Framing", "Framing elevations of the walls selected", action="show_framing"),
            ToolButton("Change walls", "Move, copy, turn, mirror, offset, split, join, extend", action="walls_menu"),
            ToolButton("Next storey", "Make the walls of the storey above from these", action="next_storey"),
            ToolButton("Masonry", "Check walls against the masonry module and make them fit", action="masonry"),
            _CUT,
        ),
    ),
    Stage(
        "foundations",
        "Foundations",
        frozenset({"grid", "foundations"}),
        frozenset({"walls"}),
        frozenset({"foundations"}),
        (
            _SELECT,
            ToolButton("Lay foundation", "Walls on footings, basement, slab on ground", action="lay_foundation"),
            ToolButton("Lay slab", "A slab on ground within walls", action="lay_slab"),
            ToolButton("Step", "Step a foundation down along a wall", tool="step"),
            ToolButton("Slope", "A footing whose underside slopes", action="slope_footing"),
            ToolButton("Pads", "Pads at axis crossings or under columns", action="add_pads"),
            ToolButton("One pad", "A pad and its pier by one click", tool="pad"),
            ToolButton("Pocket", "A girder pocket or an opening in a foundation wall", tool="recess"),
            ToolButton("Elevations", "Foundation walls and steps from outside", action="show_framing"),
            ToolButton("Ground and concrete", "Soil, water, frost, strengths", action="show_ground"),
        ),
    ),
    Stage(
        "floors",
        "Floors",
        frozenset({"grid", "floors"}),
        frozenset({"bearings"}),
        frozenset({"floors"}),
        (_SELECT, ToolButton("Lay floor", "Joists, rim boards and deck between walls", action="lay_floor"), _CUT),
    ),
    Stage(
        "roof",
        "Roof",
        frozenset({"grid", "roof"}),
        frozenset({"walls"}),
        frozenset({"roof"}),
        (
            _SELECT,
            ToolButton("Make roof", "A gable roof over outside walls that close a rectangle", action="make_roof"),
            _CUT,
        ),
    ),
    Stage(
        "check",
        "Check",
        frozenset({"grid"}),
        frozenset(),
        frozenset({"foundations", "floors", "roof"}),
        (
            _SELECT,
            ToolButton("Loads and soil", "Type loads, soil bearing value and frost depth", action="show_loads"),
            ToolButton("Show floor", "Joists by how far they are used", action="check_floors"),
            ToolButton("Show roof", "Rafters and ties by how far they are used", action="check_roof"),
            ToolButton("Show foundations", "Line loads and soil pressure", action="check_foundations"),
        ),
    ),
    Stage(
        "sheets",
        "Sheets",
        frozenset(),
        frozenset(),
        frozenset(),
        (
            ToolButton("Plans and section", "The sheet with plans and cross-section", action="sheet_plans"),
            ToolButton("Foundations", "Foundation plan, sections and schedule", action="sheet_foundations"),
            ToolButton("Elevations", "Foundation walls with their steps from outside", action="sheet_elevations"),
            ToolButton("Framing", "The framing elevation of each wall", action="sheet_framing"),
            ToolButton("Title block", "What the title block says", action="show_loads"),
            ToolButton("Write PDF", "All sheets as vector PDF", action="write_pdf"),
            ToolButton("Calculations", "Calculation sheets of footings and walls as PDF", action="write_calculation"),
            ToolButton("Write DXF", "The drawings of all sheets as DXF", action="write_dxf"),
            ToolButton("Write IFC", "The model as IFC4", action="write_ifc"),
            ToolButton("Write cut list", "CSV or XLSX", action="write_cuts"),
        ),
    ),
)


def plan_of(stage: Stage, storey: str, check_part: str) -> PlanOf | None:
    """Return the plan a stage shows; None where it shows none."""
    if stage.name == "sheets":
        return None
    if stage.name == "check":
        below = {"floors": {"bearings"}, "roof": {"walls"}, "foundations": set()}[check_part]
        of = storey if check_part == "floors" else ""
        return PlanOf(stage.title, frozenset({"grid", check_part}), frozenset(below), of, False, True, True)
    of = storey if stage.name in ("walls", "set out", "floors") else ""
    return PlanOf(stage.title, stage.parts, stage.below, of)
