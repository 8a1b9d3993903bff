"""Member tables, the cut list with board feet and cost, and totals."""

from collections import defaultdict

from balken.catalog.beams import cut_section
from balken.catalog.prices import board_prices, grade_price
from balken.derived.model import Model
from balken.design.beams import cost_per_length
from balken.framing.pieces import Piece, cut_length
from balken.model.lookup import by_id
from balken.model.records import Project
from balken.units.system import FOOT
from balken.value import Value


class MemberRow(Value, frozen=True):
    """One member for the member table; ``used`` None where nothing is checked."""

    key: str
    mark: str
    storey: str
    role: str
    section: str
    grade: str
    length: float
    used: float | None
    governs: str


class CutRow(Value, frozen=True):
    """Members cut alike: length in mm rounded up to the quarter inch (or mm), count, board feet, cost."""

    storey: str
    role: str
    section: str
    grade: str
    length: float
    count: int
    board_feet: float
    cost: float | None
    keys: tuple[str, ...]
    mark: str


def storey_name(project: Project, level_id: str) -> str:
    """Return the name of a level."""
    level = by_id(project.levels).get(level_id)
    return level.name if level else level_id


def member_rows(model: Model) -> list[MemberRow]:
    """Return all lumber members, by storey, role and mark, in their order in the layout."""
    rows, marks = [], model.marks
    for piece in model.members():
        result = model.results.get(piece.key)
        rows.append(
            MemberRow(
                piece.key,
                marks[piece.key],
                storey_name(model.project, piece.level),
                piece.role,
                piece.section,
                f"{piece.species} {piece.grade}".strip() or piece.material,
                piece.length,
                result.used if result else None,
                f"{result.governs.name} ({result.governs.clause})" if result else "",
            )
        )
    heights = {storey_name(model.project, v.id): v.height for v in model.project.levels}
    return sorted(rows, key=lambda r: (heights.get(r.storey, 0.0), r.role, by_number(r.mark)))


def by_number(mark: str) -> tuple[str, int]:
    """Return what marks are sorted by: J2 before J10."""
    plain = mark.rstrip("*")
    letters = plain.rstrip("0123456789")
    return letters, int(plain[len(letters) :] or 0)


def board_feet(name: str, length: float) -> float:
    """Return board feet: nominal inches x nominal inches x feet / 12; none of what is not sawn."""
    lumber = cut_section(name).board
    if lumber is None:
        return 0.0
    thick, deep = lumber.nominal
    return lumber.plies * thick * deep * (length / FOOT) / 12.0


def cost(piece: Piece, feet: float, count: int) -> float | None:
    """Return what so many pieces alike cost in dollars, by their board feet or else by the list of products.

    None when the price file does not have it.
    """
    made_of = cut_section(piece.section)
    if made_of.board is None:
        return cost_per_length(made_of, piece.species) * piece.length * count / 1000.0
    board = piece.section.partition("-")[2] or piece.section
    price = board_prices().get((piece.species, board))
    return feet * price / 1000.0 * grade_price(piece.grade) if price is not None else None


def cut_list(model: Model) -> list[CutRow]:
    """Return the cut list: longest first within a section, so that the saw is set once a row."""
    groups: dict[tuple[str, str, str, str, float], list[Piece]] = defaultdict(list)
    for piece in model.members():
        length = cut_length(piece.length, model.project.units)
        storey = storey_name(model.project, piece.level)
        groups[
            (
                storey,
                piece.role,
                piece.section,
                f"{piece.species} {piece.grade}".strip() or piece.material,
                round(length, 4),
            )
        ].append(piece)
    heights = {v.name: v.height for v in model.project.levels}
    rows = []
    for (storey, role, size, grade, length), pieces in groups.items():
        feet = board_feet(size, length) * len(pieces)
        rows.append(
            CutRow(
                storey,
                role,
                size,
                grade,
                length,
                len(pieces),
                feet,
                cost(pieces[0], feet, len(pieces)),
                tuple(p.key for p in pieces),
                model.marks[pieces[0].key],
            )
        )
    return sorted(
        rows, key=lambda r: (heights.get(r.storey, 0.0), cut_section(r.section).depth, r.section, r.role, -r.length)
    )


class Totals(Value, frozen=True):
    """Sums for the foot of the cut list and the build report: m3, board feet, dollars."""

    timber: float
    concrete: float
    board_feet: float
    cost: float


def totals(model: Model) -> Totals:
    """Return volumes, board feet and cost of the whole model."""
    rows = cut_list(model)
    return Totals(
        sum(p.volume for p in model.members() if p.material == "timber") * 1e-9,
        sum(p.volume for p in model.pieces.values() if p.material == "concrete") * 1e-9,
        sum(r.board_feet for r in rows),
        sum(r.cost or 0.0 for r in rows),
    )
