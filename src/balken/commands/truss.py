"""``balken truss``: one roof truss laid out, solved, checked, its sections and plates chosen."""

import argparse
from typing import Any

from balken.catalog.sections import lumber_section, section
from balken.catalog.species import AUTO_GRADE, grade_name, species_name, usual_grade
from balken.commands.parser import CommandError, Parser, print_json
from balken.design.truss_job import TrussJob, Wood
from balken.design.truss_outlines import Given, outlined
from balken.design.truss_plates import plates_of
from balken.design.trusses import TrussDesign, design_truss
from balken.documents.block_texts import block_texts
from balken.framing.truss_outline import TrussError
from balken.framing.truss_webs import PATTERNS
from balken.framing.trusses import ROLES
from balken.loads.cases import Cases
from balken.loads.truss_loads import MAN, TrussLoads, Uneven, blown
from balken.model.records import Loads
from balken.standards.checks import used_text
from balken.standards.known import USUAL
from balken.units import Units, format_length, parse_area_load, parse_length, parse_pitch
from balken.units.speed import parse_speed
from balken.units.system import FOOT, INCH

SHAPES = (*PATTERNS, "auto")
SIGNS = (
    "Signs: axial force pulls above zero; moments are above zero where they stretch the right side of an element, seen from its first "
    "to its second node (the underside of what runs to the right); reactions are above zero upward."
)


def truss(words: list[str]) -> int:
    """Run the command; returns the exit code."""
    options = _parser().read(words)
    try:
        made = designed(options)
    except KeyError as error:  # an unknown size, species or grade, which says what there is
        raise CommandError(str(error.args[0])) from None
    except TrussError as error:
        raise CommandError(f"no truss can be made so: {error}.") from None
    report = truss_report(made)
    if options.json:
        return print_json(report)
    _print(made, report)
    return 0


def _parser() -> Parser:
    parser = Parser(prog="balken truss", description="Lay out, solve and check a roof truss.", epilog=SIGNS)
    parser.add_argument("--shape", required=True, choices=SHAPES, help="the pattern of its webs; auto: by its span")
    parser.add_argument("--span", required=True, metavar="24ft", help="from outer face to outer face of its bearings")
    parser.add_argument("--pitch", default="", metavar="6:12", help="of the top chord")
    parser.add_argument("--overhang", default="0ft", help="in plan; under one slope at its foot")
    parser.add_argument(
        "--heel", default="", help="from bearing to top edge at the outer face; left out: a butt cut of 1/4 in"
    )
    parser.add_argument("--bearing", default="3.5in", help="length of both bearings")
    parser.add_argument(
        "--bottom-pitch", default="", help="of the bottom chord; left out: level, of scissors half the pitch"
    )
    parser.add_argument("--spacing", default="24in")
    parser.add_argument("--top-dead", default="0psf", help="on the slope")
    parser.add_argument("--snow", default="0psf", help="on the roof, on its plan")
    parser.add_argument("--top-live", default="0psf", help="on its plan")
    parser.add_argument("--bottom-dead", default="0psf")
    parser.add_argument("--bottom-live", default="0psf")
    parser.add_argument("--species", default="S-P-F")
    parser.add_argument("--grade", default="No. 2", help="or auto: chosen for each group of sticks")
    for role in ("top", "bottom", "webs"):
        parser.add_argument(f"--{role}", default="auto", metavar="2x4|auto")
    parser.add_argument("--plies", default="1")
    parser.add_argument("--stock", default="", help="the longest board; left out: 20 ft, 24 ft from 2x8 up")
    parser.add_argument(
        "--bottom-brace", default="", help="how far apart the bottom chord is held aside; left out: chosen"
    )
    parser.add_argument("--own-weight", action="store_true")
    parser.add_argument("--man", action="store_true", help="300 lb anywhere on a chord, with dead load alone")
    parser.add_argument("--unbalanced", action="store_true", help="snow by ASCE 7-16, 7.6.1 too")
    parser.add_argument("--ground-snow", default="", help="for unbalanced snow; left out: snow over 0.7")
    parser.add_argument("--wind", default="", metavar="115mph", help="what lifts, by ASCE 7-16 chapter 28")
    parser.add_argument("--exposure", choices=["B", "C", "D"], default="B")
    parser.add_argument("--height", default="30ft", help="of the middle of the roof over the ground, for wind")
    parser.add_argument("--json", action="store_true")
    return parser


def designed(options: argparse.Namespace) -> TrussDesign:
    """Return the truss for the options of the command; raises CommandError, TrussError, UnitError, KeyError."""
    given = _given(options)
    species = species_name(options.species)
    sizes = {}
    for role in ("top", "bottom", "webs"):
        text = getattr(options, role).strip()
        sizes[role] = "" if text.lower() == "auto" else lumber_section(text).name
        if sizes[role] and section(sizes[role]).breadth > 2.0 * INCH:
            raise CommandError(f"--{role} {text}: trusses are made of lumber 1 1/2 in thick; type plies for more.")
    job = TrussJob(
        options.shape,
        _loads(options, given),
        Wood(species, usual_grade(species), auto=True)
        if options.grade.strip().lower() == AUTO_GRADE
        else Wood(species, grade_name(species, options.grade)),
        sizes["top"],
        sizes["bottom"],
        sizes["webs"],
        plies=_plies(options.plies),
        braced=_length(options.bottom_brace, "--bottom-brace") if options.bottom_brace else None,
        stock=_length(options.stock, "--stock") if options.stock else None,
    )
    return design_truss(job, outlined(given), USUAL)


def _given(options: argparse.Namespace) -> Given:
    span, bearing = _length(options.span, "--span"), _length(options.bearing, "--bearing")
    over = _length(options.overhang, "--overhang")
    if not 0.5 * FOOT <= span <= 120.0 * FOOT:
        raise CommandError("--span must be 6 in to 120 ft (150 mm to 36 m).")
    if not 1.0 * INCH <= bearing <= span / 4.0:
        raise CommandError("--bearing must be 1 in (25 mm) at least, and no more than a quarter of the span.")
    if not 0.0 <= over <= min(8.0 * FOOT, span / 2.0):
        raise CommandError("--overhang must be 0 to 8 ft (2.4 m), and no more than half the span.")
    level = options.shape == "parallel"
    if not options.pitch and not level:
        raise CommandError("--pitch is missing; type the slope of the top chord, such as 6:12.")
    pitch = float(parse_pitch(options.pitch)) if options.pitch else 0.0
    if not (0.0 if level else 0.02) <= pitch <= 3.8:
        raise CommandError("--pitch must be between 1/4:12 and 75 degrees; of parallel chords level too.")
    lower = pitch / 2.0 if options.shape == "scissors" else 0.0
    if options.bottom_pitch:
        lower = float(parse_pitch(options.bottom_pitch))
    if options.shape in ("one-sloped", "parallel", "room") and options.bottom_pitch and lower:
        raise CommandError(f"--bottom-pitch: the bottom chord of {options.shape} cannot be typed.")
    if not 0.0 <= lower < max(pitch, 1e-9):
        raise CommandError("--bottom-pitch must be less than the pitch of the top chord.")
    heel = _length(options.heel, "--heel") if options.heel else None
    return Given(options.shape, span, pitch, over, heel, bearing, lower)


def _loads(options: argparse.Namespace, given: Given) -> TrussLoads:
    def load(name: str) -> float:
        return float(parse_area_load(getattr(options, name.replace("-", "_"))))

    spacing = _length(options.spacing, "--spacing")
    if not 4.0 * INCH <= spacing <= 20.0 * FOOT:
        raise CommandError("--spacing must be 4 in to 20 ft (100 mm to 6 m).")
    snow, wind, over_wind = load("snow"), 0.0, 0.0
    if options.wind:
        height = _length(options.height, "--height")
        speed = parse_speed(options.wind)
        if not 5.0 <= speed <= 120.0:
            raise CommandError("--wind must be 10 to 270 mph (5 to 120 m/s).")
        row = USUAL.roof_wind(Loads(wind_speed=speed, wind_exposure=options.exposure), height, max(given.span, height))
        if row is None:
            raise CommandError("--height: chapter 28 covers roofs up to 60 ft (18 m) over the ground.")
        wind, over_wind = -row.end, -row.end_over
    uneven: tuple[Uneven, ...] = ()
    if options.unbalanced and snow > 0.0 and given.shape not in ("one-sloped", "parallel"):
        ground = float(parse_area_load(options.ground_snow)) if options.ground_snow else snow / 0.7
        uneven = _unbalanced(given, snow, ground)
    return TrussLoads(
        spacing,
        Cases(dead=load("top-dead"), roof_live=load("top-live"), snow=snow, wind=wind),
        Cases(dead=load("bottom-dead"), live=load("bottom-live")),
        uneven,
        over_wind,
        own=options.own_weight,
        man=MAN if options.man else 0.0,
    )


def _unbalanced(given: Given, snow: float, ground: float) -> tuple[Uneven, ...]:
    middle, tip = given.span / 2.0, given.over
    row = USUAL.unbalanced(ground, given.pitch, middle + tip)
    if row is None:
        return ()
    part, more, reach = row
    ends, less = (-tip, middle, given.span + tip), snow * (part - 1.0)
    return blown(*ends, True, (less, 0.0), more, reach), blown(*ends, False, (0.0, less), more, reach)


def _length(text: str, option: str) -> float:
    try:
        return float(
            parse_length(text.strip(), Units.IMPERIAL, "in" if option in ("--heel", "--bearing", "--spacing") else "ft")
        )
    except ValueError as error:
        raise CommandError(f"{option}: {error}") from None


def _plies(text: str) -> int:
    if not text.strip().isdigit() or not 1 <= int(text) <= 4:
        raise CommandError("--plies must be 1 to 4.")
    return int(text)


def truss_report(made: TrussDesign, plates: bool = True) -> dict[str, Any]:
    """Return a truss as plain data; ``plates``: whether they are chosen too."""
    frame, sawn = made.frame, made.sawn
    chosen = plates_of(made, USUAL) if plates else ()
    members = []
    for stick in frame.sticks:
        used, governs, clause, combination = made.sticks[stick.name]
        row = sawn[stick.name]
        members.append(
            {
                "name": stick.name,
                "role": stick.role,
                "start": _place(frame.joints[stick.joints[0]]),
                "end": _place(frame.joints[stick.joints[-1]]),
                "length_mm": round(row.length, 2),
                "section": frame.sizes.of(stick.role),
                "grade": frame.sizes.grade(stick.role, made.job.wood.grade),
                "used": round(used, 4),
                "governs": governs,
                "clause": clause,
                "combination": combination,
                "braces": made.braces.get(stick.name, 0),
                "cuts_deg": [list(row.cuts[0]), list(row.cuts[1])],
                "axial_kn": {name: round(v / 1000.0, 5) for name, v in made.axial(stick.name).items()},
            }
        )
    return {
        "used": round(max([made.used, *(one.used for one in chosen)]), 4),
        "shape": made.shape,
        "heel_mm": round(made.heel, 3),
        "bottom_brace_mm": round(made.braced, 3),
        "members": members,
        "checks": [
            {"name": c.name, "clause": c.clause, "used": round(c.used, 4), "combination": c.combination}
            for c in made.others
        ],
        "reactions_n": {name: {c: round(v, 3) for c, v in row.items()} for name, row in made.reactions().items()},
        "bearing_blocks": _blocks(made),
        "deflection_mm": round(made.sag.demand, 4),
        "spread_mm": round(made.spread, 4),
        "plates": [
            {
                "joint": one.joint,
                "width_mm": round(one.width, 2),
                "length_mm": round(one.length, 2),
                "used": round(one.used, 4),
                "governs": one.governs,
                "at": _place(one.at),
                "angle_deg": round(one.angle, 3),
            }
            for one in chosen
        ],
        "frame": frame_report(made),
    }


def _blocks(made: TrussDesign) -> list[dict[str, Any]]:
    return [
        {
            "joint": one.joint,
            "from_mm": round(one.place.low, 2),
            "to_mm": round(one.place.high, 2),
            "count": one.place.count,
            "nails_each": one.nails.number,
        }
        for one in made.blocks
    ]


def frame_report(made: TrussDesign) -> dict[str, Any]:
    """Return what was solved, so that anyone can solve it again."""
    frame, along, nodes = made.frame, made.loaded.along[0] @ made.factors, made.loaded.nodes[0] @ made.factors
    roles = {stick.name: stick.role for stick in frame.sticks}
    lumber = [section(frame.sizes.of(roles[one.stick])) for one in frame.elements]
    axial = [made.solved.axial(part)[0] @ made.factors for part in (0.0, 1.0)]
    moment = [made.solved.moment(part)[0] @ made.factors for part in (0.0, 1.0)]
    combinations = []
    for c, combo in enumerate(made.combined):
        forces = {}
        for k, one in enumerate(frame.elements):
            ends = float(axial[0][k, c]), float(axial[1][k, c])
            forces[one.name] = {
                "n_kn": round(max(ends, key=abs) / 1e3, 6),
                "m_i_knm": round(float(moment[0][k, c]) / 1e6, 7),
                "m_j_knm": round(float(moment[1][k, c]) / 1e6, 7),
            }
        combinations.append(
            {
                "name": combo.name,
                "nodes": [
                    {"node": name, "fx": round(float(nodes[k, 0, c]), 6), "fy": round(float(nodes[k, 1, c]), 6)}
                    for k, name in enumerate(frame.joints)
                    if nodes[k, :, c].any()
                ],
                "elements": [
                    {"element": one.name, "wx": round(float(along[k, 0, c]), 9), "wy": round(float(along[k, 1, c]), 9)}
                    for k, one in enumerate(frame.elements)
                    if along[k, :, c].any()
                ],
                "forces": forces,
            }
        )
    return {
        "nodes": [{"name": name, "x_mm": round(x, 6), "y_mm": round(y, 6)} for name, (x, y) in frame.joints.items()],
        "elements": [
            {
                "name": one.name,
                "member": one.stick,
                "i": one.i,
                "j": one.j,
                "e_mpa": made.e[k],
                "a_mm2": round(wood.area * frame.sizes.plies, 6),
                "i_mm4": round(wood.inertia * frame.sizes.plies, 6),
                "hinge_i": one.hinge_i,
                "hinge_j": one.hinge_j,
            }
            for k, (one, wood) in enumerate(zip(frame.elements, lumber, strict=True))
        ],
        "supports": [{"node": name, "x": held, "y": True} for name, held in frame.held.items()],
        "combinations": combinations,
    }


def _place(at: tuple[float, float]) -> list[float]:
    return [round(at[0], 3), round(at[1], 3)]


def _print(made: TrussDesign, report: dict[str, Any]) -> None:
    frame = made.frame
    top, bottom, webs = (frame.sizes.called(role) for role in ROLES)
    sizes = f"top chord {top}, bottom chord {bottom}, webs {webs}"
    plies = f", {frame.sizes.plies} plies" if frame.sizes.plies > 1 else ""
    print(f"{made.shape}: {sizes}{plies}, {made.job.wood.species} {made.job.wood.grade}: used {used_text(made.used)}")
    for row in report["members"]:
        braces = {0: "", 1: ", one brace", 2: ", two braces"}[row["braces"]]
        print(
            f"  {row['name']} {row['role']} {row['section']}, {format_length(row['length_mm'])}: used {used_text(row['used'])}, "
            f"{row['governs']} ({row['clause']}, {row['combination']}){braces}"
        )
    for check in made.others:
        print(f"  {check.name}: used {used_text(check.used)} ({check.clause}, {check.combination})")
    for text in block_texts(made, Units.IMPERIAL):
        print(f"  at the {text}")
    if made.spread > 1.0:
        print(f"  its free bearing is pushed out by {format_length(made.spread)} at most")
    for name, forces in report["reactions_n"].items():
        print(f"  {name}: {max(forces.values()) / 1e3:.2f} kN at most, {min(forces.values()) / 1e3:.2f} kN at least")
    if made.used > 1.0 + 1e-9:
        print("  not enough; try deeper sections, a better grade, more plies, a closer spacing or other webs")
