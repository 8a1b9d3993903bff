"""``balken roof``: the surface over an outline, its lines and areas, and the rafters under it."""

from typing import Any

from balken.catalog.sections import section
from balken.commands.parser import CommandError, Parser, print_json
from balken.framing.rafter_stations import RafterSpacing
from balken.framing.roof_layout import lengths, marks, roof_members
from balken.geometry.plane import Point, area
from balken.geometry.roof_edges import RoofEdge, RoofError
from balken.geometry.roof_overhangs import overhung
from balken.geometry.roof_surface import RoofSurface, roof_surface
from balken.units import Units, format_length, format_pitch, parse_length, parse_pitch
from balken.units.system import FOOT, INCH

SCALES = {"ft": FOOT, "in": INCH, "m": 1000.0, "mm": 1.0}
MOST_CORNERS = 500


def roof(words: list[str]) -> int:
    """Run the command; returns the exit code."""
    parser = Parser(prog="balken roof", description="A roof over an outline: planes, lines, areas, rafters.")
    parser.add_argument("--outline", required=True, metavar='"0,0 40,0 40,28 0,28"', help="corners, either way round")
    parser.add_argument("--unit", choices=tuple(SCALES), default="ft", help="of the corners")
    parser.add_argument("--pitch", default="6:12", help="of all eaves: 6:12, 30 deg, 50%%")
    parser.add_argument(
        "--edge",
        action="append",
        default=None,
        metavar="2=gable",
        help="what edge k, from corner k to the next, is: gable, wall or a pitch",
    )
    parser.add_argument("--overhang", default="0in", help="of all eaves and rakes")
    parser.add_argument("--rafters", metavar="2x8@16in", help="lays rafters of a section at a spacing")
    parser.add_argument("--json", action="store_true")
    options = parser.read(words)
    corners = _corners(options.outline, SCALES[options.unit])
    edges = _edges(options.edge or [], len(corners), _pitch(options.pitch))
    over = parse_length(options.overhang, Units.IMPERIAL, "in")
    if not 0.0 <= over <= 3_000.0:
        raise CommandError("--overhang must be 0 to 10 ft (3 m).")
    overhangs = [0.0 if edge.kind == "wall" else over for edge in edges]
    try:
        made = roof_surface(corners, edges)
        whole = overhung(made, corners, edges, overhangs).surface
    except RoofError as error:
        raise CommandError(f"no roof can be made so: {error}. Change an edge, a pitch or the overhang.") from None
    report = roof_report(made, whole, (abs(area(corners)), sum(face.plan_area for face in whole.faces)))
    if options.rafters is not None:
        report["members"] = _members(options.rafters, made, corners, edges, overhangs)
    if options.json:
        return print_json(report)
    _print(made, report)
    return 0


def _corners(text: str, scale: float) -> list[Point]:
    """Return the corners of an outline typed as "x,y x,y ..."."""
    found: list[Point] = []
    for word in text.split():
        x, comma, y = word.partition(",")
        try:
            found.append((float(x) * scale, float(y) * scale))
        except ValueError:
            comma = ""
        if not comma:
            raise CommandError(f"'{word}' is no corner; type x,y such as 40,28.")
    if not 3 <= len(found) <= MOST_CORNERS:
        raise CommandError(f"an outline has 3 to {MOST_CORNERS} corners; {len(found)} are typed.")
    return found


def _pitch(text: str) -> float:
    value = float(parse_pitch(text))
    if value <= 0.0:
        raise CommandError(f"the pitch '{text}' is level; an eave must rise, such as 1/4:12.")
    return value


def _edges(words: list[str], count: int, pitch: float) -> list[RoofEdge]:
    """Return what the roof does at each edge."""
    edges = [RoofEdge("eave", pitch)] * count
    for word in words:
        number, equals, what = word.partition("=")
        if not equals or not number.strip().isdigit() or not 1 <= int(number) <= count:
            raise CommandError(f"--edge '{word}' names no edge; type such as 2=gable, 1 to {count}.")
        what = what.strip().lower()
        k = int(number) - 1
        if what in ("gable", "wall"):
            edges[k] = RoofEdge("gable" if what == "gable" else "wall")
        elif what == "eave":
            edges[k] = RoofEdge("eave", pitch)
        else:
            edges[k] = RoofEdge("eave", _pitch(what))
    return edges


def roof_report(made: RoofSurface, whole: RoofSurface, plans: tuple[float, float]) -> dict[str, Any]:
    """Return a roof as plain data; ``whole``: with its overhangs, ``plans``: the areas of both outlines, mm2."""
    return {
        "planes": [
            {
                "edge": face.edge + 1,
                "pitch": round(face.pitch, 6),
                "ring": [[round(v, 3) for v in corner] for corner in face.ring],
                "area_m2": round(face.area * 1e-6, 6),
            }
            for face in made.faces
        ],
        "area_m2": round(sum(face.area for face in made.faces) * 1e-6, 6),
        "plan_area_m2": round(plans[0] * 1e-6, 6),
        "with_overhang": {
            "area_m2": round(sum(face.area for face in whole.faces) * 1e-6, 6),
            "plan_area_m2": round(plans[1] * 1e-6, 6),
        },
        "ridge_height_mm": round(made.top, 3),
        "lines": [
            {
                "kind": line.kind,
                "start": [round(v, 3) for v in line.start],
                "end": [round(v, 3) for v in line.end],
                "length_mm": round(line.length, 3),
            }
            for line in made.lines
        ],
    }


def _members(
    text: str, made: RoofSurface, corners: list[Point], edges: list[RoofEdge], overhangs: list[float]
) -> list[dict[str, Any]]:
    """Return the rafters of a roof as plain data."""
    size, at, spacing = text.partition("@")
    try:
        section(size)
    except KeyError as error:
        raise CommandError(str(error.args[0])) from None
    apart = parse_length(spacing, Units.IMPERIAL, "in") if at else 16.0 * INCH
    if not 50.0 <= apart <= 3_000.0:
        raise CommandError("rafters must lie 2 in to 10 ft (50 mm to 3 m) apart; type such as 2x8@16in.")
    members = roof_members(made, corners, edges, overhangs, RafterSpacing(apart))
    return [
        {
            "role": m.role,
            "mark": mark,
            "start": [round(v, 3) for v in m.start],
            "end": [round(v, 3) for v in m.end],
            "theoretical_mm": round(m.theoretical, 3),
            "length_mm": round(m.length, 3),
            "slope_deg": round(m.slope, 4),
            "bevel_deg": round(m.bevel, 4),
            "top_edge_deg": round(m.top_edge, 4),
        }
        for m, mark in zip(members, marks(members), strict=True)
    ]


def _print(made: RoofSurface, report: dict[str, Any]) -> None:
    square = FOOT**2 * 1e-6
    print(
        f"{len(made.faces)} planes, {report['area_m2'] / square:,.1f} ft2 on the slope over {report['plan_area_m2'] / square:,.1f} ft2,"
    )
    over = report["with_overhang"]
    print(f"  with overhangs {over['area_m2'] / square:,.1f} ft2 over {over['plan_area_m2'] / square:,.1f} ft2")
    print(f"  highest {format_length(made.top)} over the bearing line")
    for face in made.faces:
        print(f"  edge {face.edge + 1}: {format_pitch(face.pitch)}, {face.area * 1e-6 / square:,.1f} ft2")
    for kind, long in lengths(made.lines).items():
        print(f"  {kind}: {format_length(long)}")
    counts: dict[tuple[str, str], list[dict[str, Any]]] = {}
    for member in report.get("members", ()):
        counts.setdefault((member["role"], member["mark"]), []).append(member)
    for (role, mark), rows in sorted(counts.items()):
        one = rows[0]
        bevel = (
            f", bevel {one['bevel_deg']:.1f}\u00b0, {one['top_edge_deg']:.1f}\u00b0 across the top edge"
            if one["bevel_deg"] > 0.01
            else ""
        )
        print(
            f"  {mark}: {len(rows)} x {role}, {format_length(one['length_mm'])} long, {one['slope_deg']:.2f}\u00b0{bevel}"
        )
