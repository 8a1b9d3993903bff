"""The seven stages of the job: what each shows on the plan, what it lights, and its tools."""

from balken.documents.plan import PlanOf
from balken.value import Value


class Stage(Value, frozen=True):
    """One stage: name of its findings, title, parts of the plan, lit layers, the commands of its tool row by name."""

    name: str
    title: str
    parts: frozenset[str]
    below: frozenset[str]
    bright: frozenset[str]
    tools: tuple[str, ...]


_SELECT, _CUT = "tool select", "tool cut"

STAGES: tuple[Stage, ...] = (
    Stage(
        "set out",
        "Set out",
        frozenset({"grid", "walls", "ground", "references"}),
        frozenset(),
        frozenset({"set out"}),
        (
            _SELECT,
            "add_level",
            "add_grid",
            "tool ground",
            "add_columns",
            "lay_dxf",
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
            "tool walls",
            "tool rectangle",
            "tool opening",
            "framing",
            "walls_menu",
            "next_storey",
            "masonry",
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
            "lay_foundation",
            "lay_slab",
            "tool step",
            "slope_footing",
            "add_pads",
            "tool pad",
            "tool recess",
            "elevations",
            "show_ground",
        ),
    ),
    Stage(
        "floors",
        "Floors",
        frozenset({"grid", "floors", "references"}),
        frozenset({"bearings"}),
        frozenset({"floors"}),
        (
            _SELECT,
            "lay_floor",
            "tool draw floor",
            "tool floor opening",
            "tool past wall",
            "tool beam",
            "tool fill bay",
            "tool floor load",
            "add_columns",
            "add_pads",
            _CUT,
        ),
    ),
    Stage(
        "roof",
        "Roof",
        frozenset({"grid", "roof"}),
        frozenset({"walls"}),
        frozenset({"roof"}),
        (
            _SELECT,
            "make_roof",
            "tool draw roof",
            "tool roof edge",
            "tool roof opening",
            "tool dormer",
            "tool gablet",
            "tool hang weight",
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
            "show_loads",
            "check_floors",
            "check_roof",
            "check_foundations",
            "check_loads",
        ),
    ),
    Stage(
        "sheets",
        "Sheets",
        frozenset(),
        frozenset(),
        frozenset(),
        (
            "sheet_plans",
            "sheet_walls",
            "sheet_foundations",
            "sheet_elevations",
            "sheet_beams",
            "sheet_roof",
            "sheet_decks",
            "sheet_framing",
            "title_block",
            "pdf",
            "calculation",
            "dxf",
            "ifc",
            "xlsx",
        ),
    ),
)


def plan_of(stage: Stage, storey: str, check_part: str) -> PlanOf | None:
    """Return the plan a stage shows; None where it shows none."""
    if stage.name == "sheets":
        return None
    if stage.name == "check":
        below = {"floors": {"bearings"}, "roof": {"walls"}, "foundations": set(), "loads": {"bearings"}}[check_part]
        of = storey if check_part in ("floors", "loads") else ""
        if check_part == "loads":
            parts = frozenset({"grid", "floors", "load path"})
            return PlanOf(stage.title, parts, frozenset(below), of, False, False)
        return PlanOf(stage.title, frozenset({"grid", check_part}), frozenset(below), of, False, True, True)
    of = storey if stage.name in ("walls", "set out", "floors") else ""
    return PlanOf(stage.title, stage.parts, stage.below, of)
