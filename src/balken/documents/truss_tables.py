"""Tables of a truss for its shop drawing and calculation: what it is designed for, sticks, bearings, plates."""

from collections.abc import Sequence

from balken.design.truss_plates import Plate
from balken.design.trusses import TrussDesign
from balken.documents.lettering import MINUS
from balken.documents.truss_given import truss_loads
from balken.loads.cases import COUNT, Cases
from balken.standards.checks import used_text
from balken.units import Units, format_force, format_inches, format_length

Table = tuple[tuple[str, ...], list[tuple[str, ...]]]
"""Headings and rows."""
LONGEST_LINE = 64
"""Letters."""
CALLED = {"dead": "Dead", "live": "Live", "roof_live": "Roof live", "snow": "Snow", "wind": "Wind"}
"""How load cases are called at the head of a table."""


def stick_table(made: TrussDesign, units: Units) -> Table:
    """Return the sticks: what they are, lengths from long point to long point, saw angles of both ends, how far used."""
    alike: dict[tuple[object, ...], list[str]] = {}
    for stick in made.frame.sticks:
        one = made.cut[stick.name]
        ends = tuple(sorted((one.cuts, one.cuts[::-1]))[0])
        alike.setdefault((stick.role, round(one.length), ends), []).append(stick.name)
    rows = list[tuple[str, ...]]()
    for names in alike.values():
        first, role = made.cut[names[0]], made.frame.stick(names[0]).role
        used, by, _, _ = max((made.sticks[name] for name in names), key=lambda found: found[0])
        cuts = (cut_text(cut) for cut in first.cuts)
        long = format_length(first.length, units)
        given = (listed(names), role, made.frame.sizes.called(role), long, *cuts)
        rows.append((*given, *_pulls(made, names, units), used_text(used), by))
    headings = ("Stick", "", "Section", "Length", "Cuts at one end", "at the other", "Pulled", "Pressed", "Used", "by")
    return headings, rows


def _pulls(made: TrussDesign, names: list[str], units: Units) -> tuple[str, str]:
    """Return how much sticks are pulled and pressed at most."""
    every = [force for name in names for force in made.axial(name).values()]
    most, least = max(every), min(every)
    return (
        format_force(most, units) if most > 1.0 else "-",
        format_force(-least, units) if least < -1.0 else "-",
    )


def load_table(made: TrussDesign, units: Units) -> Table:
    """Return what the truss is designed for; what is long on several lines, so that the table stays as narrow as its truss."""
    rows = list[tuple[str, ...]]()
    for what, much in truss_loads(made, units):
        lines = [""]
        for part in much.split("; "):
            if lines[-1] and len(lines[-1]) + len(part) > LONGEST_LINE:
                lines.append("")
            lines[-1] += f"; {part}" if lines[-1] else part
        rows += [(what if k == 0 else "", line) for k, line in enumerate(lines)]
    return ("Designed for", ""), rows


def bearing_table(made: TrussDesign, units: Units) -> Table:
    """Return what each bearing carries: of each load case that is there, at most and at least of all combinations, upward above zero.

    A frame that stands on its wall all along has none.
    """
    if made.shape == "gable-end":
        return ("",), []
    joints = list(made.frame.joints)
    by_case = {name: made.solved.reactions[0, joints.index(name), 1] for name in made.frame.held}
    there = [k for k in range(COUNT) if any(abs(row[k]) > 1.0 for row in by_case.values())]
    rows = list[tuple[str, ...]]()
    for name, row in made.reactions().items():
        most, least = (pick(row, key=lambda combo: row[combo]) for pick in (max, min))
        cases = (_signed(by_case[name][k], units) for k in there)
        rows.append(
            (name, *cases, f"{_signed(row[most], units)}  ({most})", f"{_signed(row[least], units)}  ({least})")
        )
    called = tuple(CALLED[Cases._fields[k]] for k in there)
    return ("It bears on", *called, "At most", "At least, lifted below zero"), rows


def _signed(force: float, units: Units) -> str:
    return (MINUS if force < -0.5 else "") + format_force(abs(force), units)


def cut_text(cuts: tuple[float, ...]) -> str:
    """Return the saw angles at an end of a stick in words."""
    return ", ".join(f"{cut:.1f}\u00b0" for cut in sorted(cuts, key=abs)) or "0.0\u00b0"


def listed(names: list[str]) -> str:
    """Return names as a list, of many the first and the last."""
    return ", ".join(names) if len(names) < 5 else f"{names[0]} ... {names[-1]} ({len(names)})"


def joined_by(made: TrussDesign) -> str:
    """Return by what a truss's sticks are joined, at the head of a table."""
    return made.job.joined.capitalize()


def plates_alike(plates: Sequence[Plate], units: Units) -> list[tuple[str, list[Plate]]]:
    """Return plates by their size in words, the narrowest first."""
    alike: dict[tuple[float, float], list[Plate]] = {}
    for plate in plates:
        alike.setdefault((plate.width, plate.length), []).append(plate)
    return [
        (f"{format_inches(width, units)} x {format_inches(length, units)}", some)
        for (width, length), some in sorted(alike.items())
    ]


def plate_table(made: TrussDesign, plates: Sequence[Plate], units: Units) -> Table:
    """Return plates alike: how many pairs, size, at which joints, how far used; gussets one by one, with the nails into each stick."""
    if made.job.joined == "gussets":
        rows = [
            (
                plates_alike([one], units)[0][0],
                "a pair",
                one.joint,
                used_text(one.used),
                one.governs,
                ", ".join(f"{stick} {count}" for stick, count in one.nailed),
            )
            for one in plates
        ]
        return (joined_by(made), "", "At", "Used", "by", "Nails through each into"), list(rows)
    alike: list[tuple[str, ...]] = [
        (
            size,
            f"{len(some)} pairs" if len(some) > 1 else "a pair",
            listed([p.joint for p in some]),
            used_text(max(p.used for p in some)),
            max(some, key=lambda p: p.used).governs,
        )
        for size, some in plates_alike(plates, units)
    ]
    return (joined_by(made), "", "At", "Used", "by"), alike
