"""``balken beam``: one beam on two supports or more, solved and checked, its section typed or chosen."""

import argparse
import itertools
import math
import re
from collections.abc import Callable
from typing import Any

from balken.catalog.beams import TRIED, beam_section
from balken.catalog.species import grade_name, species_name
from balken.commands.footing import check_row
from balken.commands.parser import CommandError, Parser, print_json
from balken.design.beams import cheapest, with_own_weight
from balken.loads.cases import Cases
from balken.standards.checks import GirderResult, used_text
from balken.standards.demands import GirderCase, Limit, Patch, Spot
from balken.standards.known import USUAL
from balken.units import Units, format_length, parse_length
from balken.units.load import parse_force, parse_line_load

CASES = {"D": "dead", "L": "live", "Lr": "roof_live", "S": "snow", "W": "wind"}
SAG = "IRC R301.7"
LONG_TERM_SAG = "NDS 3.5.2"
MOST_SPANS = 12


def beam(words: list[str]) -> int:
    """Run the command; returns the exit code."""
    options = _parser().read(words)
    try:
        made = designed(options)
    except KeyError as error:  # an unknown size, species or grade, which says what there is
        raise CommandError(str(error.args[0])) from None
    report = beam_report(made)
    if options.json:
        return print_json(report)
    case = made.result.case
    grade = f" {case.species} {case.grade}" if beam_section(case.size).kind == "sawn" else ""
    print(f"{case.size}{grade}: used {used_text(made.used)}, {made.result.governs.name} governs")
    for check in made.result.checks:
        print(f"  {check.name}: used {used_text(check.used)} ({check.clause}, {check.combination})")
    for row in report["reactions"]:
        at = format_length(row["at_mm"])
        print(f"  support at {at}: {row['max_n'] / 1000.0:.2f} kN at most, {row['min_n'] / 1000.0:.2f} kN at least")
        if row["min_n"] < 0.0:
            print(f"    it is lifted there: hold it down against {-row['min_n'] / 1000.0:.2f} kN")
    if made.used > 1.0 + 1e-9:
        print("  not enough; try a deeper section, more plies or another kind")
    if beam_section(case.size).kind == "laminated veneer":
        print("  values of veneer lumber are those its makers commonly publish; take those of the one you buy")
    return 0


def _parser() -> Parser:
    parser = Parser(prog="balken beam", description="Solve and check a beam on two supports or more.")
    parser.add_argument("--spans", required=True, metavar="12ft,10ft", help="from middle to middle of its supports")
    parser.add_argument("--overhang-left", default="0ft")
    parser.add_argument("--overhang-right", default="0ft")
    parser.add_argument("--line", default="", metavar="D=100plf,L=400plf", help="all along it; cases D, L, Lr, S, W")
    parser.add_argument(
        "--patch", action="append", metavar="L=300plf@2ft..8ft", help="S=0plf..210plf@0ft..14ft: rising"
    )
    parser.add_argument("--point", action="append", metavar="D=500lb,L=1500lb@6ft")
    parser.add_argument("--size", required=True, metavar="3-2x10|auto|auto:LVL|auto:GLB|auto:W|LVL 2-1.75x11.875|...")
    parser.add_argument("--species", default="DF-L")
    parser.add_argument("--grade", default="No. 2")
    parser.add_argument("--braced", default="full", metavar="16in|full|none", help="how far apart its top edge is held")
    parser.add_argument("--repetitive", action="store_true", help="one of three or more that share their load (Cr)")
    parser.add_argument("--own-weight", action="store_true")
    parser.add_argument("--skip", choices=["on", "off"], default="on", help="live loads lie on any spans")
    parser.add_argument("--bearing", default="3.5in", help="length of each bearing along the beam")
    parser.add_argument("--limit", default="360", help="n of the limit L/n of sag under what comes and goes")
    parser.add_argument("--total-limit", default="240", help="n of the limit L/n of sag under 1.5 D and that")
    parser.add_argument("--json", action="store_true")
    return parser


def designed(options: argparse.Namespace) -> GirderResult:
    """Return the beam for the options of the command; raises CommandError, UnitError, KeyError."""
    case = _case(options)
    if not _loaded(case):
        raise CommandError("nothing lies on the beam; type --line, --patch or --point.")
    words = options.size.strip()
    if words.lower().startswith("auto"):
        kind = words.partition(":")[2].strip().upper() or "sawn"
        if kind not in TRIED:
            raise CommandError(
                f"--size {options.size}: there is no such kind; type auto, auto:LVL, auto:GLB or auto:W."
            )
        return cheapest(case, kind, USUAL, options.own_weight)
    return USUAL.check_girder(with_own_weight(case) if options.own_weight else case)


def _case(options: argparse.Namespace) -> GirderCase:
    spans = [_length(text, "--spans") for text in options.spans.split(",")]
    if not 1 <= len(spans) <= MOST_SPANS:
        raise CommandError(f"--spans takes 1 to {MOST_SPANS} spans, such as 12ft,10ft.")
    if not all(100.0 <= span <= 60_000.0 for span in spans):
        raise CommandError("each of --spans must be 4 in to 200 ft (100 mm to 60 m).")
    left, right = _length(options.overhang_left, "--overhang-left"), _length(options.overhang_right, "--overhang-right")
    if max(left, right) > 30_000.0:
        raise CommandError("an overhang must be no longer than 100 ft (30 m).")
    supports = tuple(left + at for at in itertools.accumulate(spans, initial=0.0))
    length = supports[-1] + right
    bearing = _length(options.bearing, "--bearing")
    if not 10.0 <= bearing <= 1000.0 or bearing > min(spans):
        raise CommandError("--bearing must be 1/2 in to 3 ft (10 to 1000 mm), and shorter than the spans; type 3.5in.")
    species = species_name(options.species)
    auto = options.size.strip().lower().startswith("auto")
    return GirderCase(
        "beam",
        "2x6" if auto else beam_section(options.size).name,
        species,
        grade_name(species, options.grade),
        length,
        supports,
        (bearing,) * len(supports),
        _patches(options, length),
        tuple(_point(text, length) for text in options.point or ()),
        _braced(options.braced),
        options.repetitive,
        options.skip == "on",
        Limit(_limit(options.limit, "--limit"), SAG),
        Limit(_limit(options.total_limit, "--total-limit"), LONG_TERM_SAG),
    )


def _loaded(case: GirderCase) -> bool:
    rows = [*(v for _, _, a, b in case.patches for v in (*a, *b)), *(v for _, force in case.points for v in force)]
    return any(rows)


def _length(text: str, option: str) -> float:
    try:
        value = parse_length(text.strip(), Units.IMPERIAL, "ft")
    except ValueError as error:
        raise CommandError(f"{option}: {error}") from None
    if value < 0.0 or not math.isfinite(value):
        raise CommandError(f"{option} '{text}' is below zero; type such as 12ft.")
    return value


def _braced(text: str) -> float | None:
    words = text.strip().lower()
    if words in ("full", "none"):
        return 0.0 if words == "full" else None
    value = parse_length(text, Units.IMPERIAL, "in")
    if not 0.0 <= value <= 60_000.0:
        raise CommandError("--braced must be zero or more; type 16in, full or none.")
    return value


def _limit(text: str, option: str) -> float:
    try:
        value = float(text)
    except ValueError:
        raise CommandError(f"{option} '{text}' is no number; type 360 for L/360.") from None
    if not 50.0 <= value <= 5000.0:
        raise CommandError(f"{option} {text} is out of bounds; type 50 to 5000, such as 360 for L/360.")
    return value


# Loads ----------------------------------------------------------------------------------------------


def _signed(read: Callable[[str], float]) -> Callable[[str], float]:
    def with_sign(text: str) -> float:
        plain = text.strip().replace("\u2212", "-")
        return -read(plain[1:]) if plain.startswith("-") else read(plain.removeprefix("+"))

    return with_sign


LINE, FORCE = _signed(parse_line_load), _signed(parse_force)


def _by_case(text: str, option: str, like: str) -> dict[str, str]:
    found: dict[str, str] = {}
    for part in text.split(","):
        match = re.fullmatch(r"\s*(D|Lr|L|S|W)\s*=\s*(.+?)\s*", part)
        if match is None:
            raise CommandError(f"{option} '{part.strip()}' is no load; type such as {like} (cases D, L, Lr, S, W).")
        if CASES[match[1]] in found:
            raise CommandError(f"{option} names {match[1]} twice.")
        found[CASES[match[1]]] = match[2]
    return found


def _patches(options: argparse.Namespace, length: float) -> tuple[Patch, ...]:
    found: list[Patch] = []
    if options.line.strip():
        load = Cases(**{case: LINE(v) for case, v in _by_case(options.line, "--line", "D=100plf,L=400plf").items()})
        found.append((0.0, length, load, load))
    return (*found, *(_patch(text, length) for text in options.patch or ()))


def _patch(text: str, length: float) -> Patch:
    like = "L=300plf@2ft..8ft or S=0plf..210plf@0ft..14ft"
    loads, at, where = text.partition("@")
    low, dots, high = where.partition("..")
    if not at or not dots:
        raise CommandError(f"--patch '{text}' does not say from where to where; type such as {like}.")
    begin, end = _length(low, "--patch"), _length(high, "--patch")
    if not begin < end or end > length + 1.0:
        raise CommandError(
            f"--patch '{text}' does not lie on the beam, which is {format_length(length)} long; type such as {like}."
        )
    ends: tuple[dict[str, float], dict[str, float]] = {}, {}
    for case, value in _by_case(loads, "--patch", like).items():
        first, rising, last = value.partition("..")
        ends[0][case] = LINE(first)
        ends[1][case] = LINE(last) if rising else ends[0][case]
    return begin, min(end, length), Cases(**ends[0]), Cases(**ends[1])


def _point(text: str, length: float) -> Spot:
    like = "D=500lb,L=1500lb@6ft"
    loads, at, where = text.partition("@")
    if not at:
        raise CommandError(f"--point '{text}' does not say where; type such as {like}.")
    place = _length(where, "--point")
    if place > length + 1.0:
        raise CommandError(f"--point '{text}' lies beyond the beam, which is {format_length(length)} long.")
    force = Cases(**{case: FORCE(value) for case, value in _by_case(loads, "--point", like).items()})
    return min(place, length), force


# What comes out -------------------------------------------------------------------------------------


def beam_report(made: GirderResult) -> dict[str, Any]:
    """Return a beam as plain data."""
    case = made.result.case
    assert isinstance(case, GirderCase)
    letters = {field: letter for letter, field in CASES.items()}
    return {
        "size": case.size,
        "used": round(made.used, 4),
        "governs": made.result.governs.name,
        "checks": [check_row(check) for check in made.result.checks],
        "reactions": [
            {
                "at_mm": round(at, 2),
                **{letters[field]: round(value, 2) for field, value in force._asdict().items()},
                "max_n": round(most, 2),
                "min_n": round(least, 2),
            }
            for at, force, (most, least) in zip(case.supports, made.reactions, made.extremes, strict=True)
        ],
        "moment_max_knm": round(made.moments[0] * 1e-6, 5),
        "moment_min_knm": round(made.moments[1] * 1e-6, 5),
        "shear_max_kn": round(made.shear / 1000.0, 5),
        "sags": [{"live_mm": round(live, 4), "total_mm": round(whole, 4)} for live, whole in made.sags],
    }
