"""What a truss was designed for, in words: span, loads, wood; the same in the calculation and on the shop drawing."""

from balken.design.trusses import TrussDesign
from balken.framing.trusses import ROLES
from balken.loads.truss_loads import Hung
from balken.units import Units, format_area_load, format_force, format_inches, format_length


def truss_given(made: TrussDesign, units: Units) -> list[tuple[str, str]]:
    """Return what is given of a truss: what it is, how much."""
    return [
        ("Span, heel", f"{format_length(made.frame.outline.span, units)}, {format_inches(made.heel, units)}"),
        *truss_loads(made, units),
        *_made_of(made, units),
    ]


def truss_loads(made: TrussDesign, units: Units) -> list[tuple[str, str]]:
    """Return what lies on a truss."""
    loads = made.job.loads
    top, bottom = loads.top, loads.bottom
    rows = [
        ("Strip of roof / of ceiling", f"{format_inches(loads.spacing, units)} / {format_inches(loads.spacing * loads.below, units)}"),
        ("Top chord, dead on the slope", format_area_load(top.dead, units)),
        ("Top chord, roof live / snow on the plan", f"{format_area_load(top.roof_live, units)} / {format_area_load(top.snow, units)}"),
        ("Bottom chord, dead / live", f"{format_area_load(bottom.dead, units)} / {format_area_load(bottom.live, units)}"),
    ]  # fmt: skip
    if top.wind:
        up = f"{format_area_load(-top.wind, units)} / {format_area_load(-loads.over_wind, units)}"
        rows.insert(3, ("Wind, upward at strength level / overhangs", up))
    rows += [(f"Arrangement: {one.name}", one.clause) for one in loads.uneven]
    if loads.lying:
        most = max(band.more for band in loads.lying)
        rows.append(("Drifts, slides on it beside even snow", f"{format_area_load(most, units)} at most"))
    if loads.hung:
        rows.append(("On it hang", hung_text(loads.hung, units)))
    rested = tuple(one for one in loads.rested if any(one.force))
    if rested:
        rows.append(("On its top chord rest", hung_text(rested, units)))
    if loads.man > 0.0:
        where = (
            f"{format_force(loads.man, units)} at any joint or amid any panel, with dead load (ASCE 7-16, Table 4.3-1)"
        )
        rows.append(("Someone on a chord", where))
    rows.append(("Its own weight", "counted beside these" if loads.own else "within the dead loads"))
    return rows


def hung_text(hung: tuple[Hung, ...], units: Units) -> str:
    """Return what hangs on a truss: from its first end, dead / live on floors or attics / snow or live on roofs of each, alike ones together."""
    alike: dict[str, list[float]] = {}
    for one in hung:
        parts = (one.force.dead, one.force.live, max(one.force.snow, one.force.roof_live))
        alike.setdefault(" / ".join(format_force(max(v, 0.0), units) for v in parts), []).append(one.x)
    said = [f"{text} at {', '.join(format_length(x, units) for x in xs)}" for text, xs in alike.items()]
    return "dead / live / roof: " + "; ".join(said)


def _made_of(made: TrussDesign, units: Units) -> list[tuple[str, str]]:
    wood, sizes = made.job.wood, made.frame.sizes
    top, bottom, webs = (sizes.called(role) for role in ROLES)
    what = wood.species if all(sizes.grades) else f"{wood.species} {wood.grade}"
    return [
        ("Wood", f"{what}; chords {top}, {bottom}, webs {webs}; plies {sizes.plies}"),
        ("Bottom chord held aside", f"every {format_length(made.braced, units)}"),
    ]  # fmt: skip
