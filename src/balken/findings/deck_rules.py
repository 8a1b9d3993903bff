"""Rules that look for faults of what stands on decks, and of walls that end over nothing."""

from collections.abc import Iterable

from balken.catalog.sections import section
from balken.derived.finding import Finding
from balken.derived.model import Model
from balken.design.hangers import Hung
from balken.findings.names import all_of
from balken.framing.bands import WallLine
from balken.model.lookup import label_of
from balken.model.naming import kind_of, owner_of, piece_name
from balken.standards.checks import used_text
from balken.units import format_force, say_length


def over_nothing(c: Model) -> Iterable[Finding]:
    """Stretches of walls with nothing under them, where the rest of the wall stands."""
    for wall_id, spans in c.path.over_nothing.items():
        line = c.lines[wall_id]
        for low, high in spans:
            yield Finding(
                "nothing below",
                "walls",
                f"{label_of(c.project, wall_id)} has nothing under it for {say_length(high - low, c.units)}",
                "No wall, deck or foundation is under that stretch, so that its load has nowhere to go. Put a wall under it, "
                "or end the wall before.",
                (wall_id,),
                (*_along(line, (low + high) / 2.0), line.band.bottom),
            )


def on_decks(c: Model) -> Iterable[Finding]:
    """Walls that carry members and columns, standing on joists; what nobody checks there."""
    for (upper, lower), share in c.path.shares.items():
        if lower not in c.path.decks:
            continue
        floor = label_of(c.project, lower)
        if upper in c.path.columns:
            stand = c.path.columns[upper].stand
            yield Finding(
                "column on deck",
                "floors",
                f"{label_of(c.project, upper)} stands on the joists of {floor}",
                "They are designed for it. Solid blocking under its foot, from joist to joist, is not: put it there.",
                (upper, lower),
                (*stand.at, stand.foot),
                grave=False,
            )
            continue
        line, wall = c.lines[upper], c.path.walls[upper]
        if wall.members.all + wall.walls.all > 1.0 and share.all > 0.0:
            yield Finding(
                "wall on deck",
                "foundations",
                f"{label_of(c.project, upper)} carries and stands on the joists of {floor}",
                "They are designed for what it brings, doubled where they must be. Blocking between joists beside or under "
                "it is not designed. A foundation or a wall under it makes them lighter.",
                (upper, lower),
                (*_along(line, line.band.length / 2.0), line.band.bottom),
                grave=False,
            )


def _along(line: WallLine, at: float) -> tuple[float, float]:
    return line.band.at(at, line.thickness / 2.0)


def singles_over(c: Model) -> Iterable[Finding]:
    """Joists under what stands on them, and members changed by hand, that are used over 100 %."""
    loaded = {name for made in c.loaded.values() for name in made.results}
    for name in sorted(loaded | (c.hand_edited & c.results.keys())):
        result = c.results[name]
        if result.used <= 1.0:
            continue
        piece = c.piece(name)
        check, mark = result.governs, c.marks.get(name, "")
        on = c.path.decks.get(owner_of(name))
        sources = {row.source for row in on.joists.get(name, ())} if on is not None else set()
        under = f" under {all_of([label_of(c.project, s) for s in sorted(sources)])}" if sources else ""
        yield Finding(
            "used",
            "floors" if name in loaded else "check",
            f"{mark}, {piece.role if piece else 'member'} {result.case.size}{under}: used {used_text(result.used)}",
            f"{check.name[0].upper()}{check.name[1:]} governs ({check.clause}, {check.combination or 'any load'}). "
            + ("No more plies are tried: put a wall or foundation under it, or deeper joists." if name in loaded else
               "Give it a stronger section, or take the change back."),
            (name,),
            c.place(name),
        )  # fmt: skip


WIDEST = 150.0
"""No joist is wider, plies together, mm."""
CLEAR = 6.0
"""What reaches less far into a column is shaved off on site, mm (common practice, no source)."""


def through_joists(c: Model) -> Iterable[Finding]:
    """Columns that pass through a floor where a joist runs."""
    for made in c.path.columns.values():
        stand = made.stand
        for plan in c.floors:
            top = c.level_height(plan.floor.level)
            if plan.floor.is_slab:
                continue
            under = top - plan.floor.deck - section(c.designs[(plan.floor.id, "joists")].size).depth
            if not (stand.foot < under - 1.0 and stand.head > top + 1.0):
                continue
            s, t = plan.frame.to(stand.at)
            names = []
            for line in plan.lines:
                if abs(line.t - t) > stand.side + WIDEST:
                    continue
                name = piece_name(plan.floor.id, "joist", line.place)
                piece = c.piece(name)
                wide = section(piece.section).breadth if piece is not None else 0.0
                near = abs(line.t - t) < (wide + stand.side) / 2.0 - CLEAR
                if near and line.low - stand.side / 2.0 < s < line.high + stand.side / 2.0:
                    names.append(name)
            if names:
                label = label_of(c.project, stand.id)
                yield Finding(
                    "through joists",
                    "floors",
                    f"{label} passes through {plan.floor.name} where {'a joist runs' if len(names) == 1 else 'joists run'}",
                    "Move the joist in its card (only this one), or the column, until they stand beside each other.",
                    (stand.id, *names),
                    (*stand.at, top),
                    grave=False,
                )


def circles(c: Model) -> Iterable[Finding]:
    """Things that would stand on themselves by way of others."""
    for names in c.path.circles:
        called = all_of([label_of(c.project, name) for name in names])
        yield Finding(
            "circle",
            "foundations",
            f"{called} stand on one another",
            "Each would carry the other, so that nothing comes down to the soil. Change the heights of one of them.",
            tuple(names),
            (0.0, 0.0, 0.0),
        )


SNAGS = {
    "opening": (
        "floor opening",
        "Headers and trimmers frame an opening whose sides run along the joists, clear of edges, bearings and other "
        "openings. Move it, make it smaller, or turn the joists.",
    ),
    "cantilever": (
        "cantilever",
        "Turn the joists so that they run across that wall, or lay a beam under the edge.",
    ),
}
"""What is said of a kind of snag that laying a floor meets: its code, and what to do."""


def snags(c: Model) -> Iterable[Finding]:
    """Openings that cannot be framed, parts that reach past a wall and cannot be carried there."""
    for kind, (code, why) in SNAGS.items():
        for plan in c.floors:
            for snag in plan.snags:
                if snag.kind == kind:
                    yield Finding(code, "floors", f"{plan.floor.name}: {snag.text}", why, (plan.floor.id,), snag.at)


def without_hanger(c: Model) -> Iterable[Finding]:
    """Joists, headers, beams and trusses that hang where no hanger of the list fits and carries what comes; those alike together."""
    alike: dict[tuple[str, str, str], list[Hung]] = {}
    for one in c.hangers:
        if not one.hanger:
            alike.setdefault((owner_of(one.member), one.size, one.why), []).append(one)
    for (_, size, why), hung in alike.items():
        worst = max(hung, key=lambda one: (one.used, one.most))
        whose = c.marks.get(worst.member, "") or label_of(c.project, owner_of(worst.member))
        many = f"{len(hung)} ends of {size}" if len(hung) > 1 else f"{whose}, {size}"
        lifts = f", and {format_force(worst.lifts, c.units)} lift it" if worst.lifts > 1.0 else ""
        yield Finding(
            "hanger",
            "roof" if kind_of(worst.member) in ("truss", "plane-rafter", "roof-header", "end-joist") else "floors",
            f"{many}: {why}",
            f"{format_force(worst.most, c.units)} come to the hardest used at normal load duration{lifts}. Take another section or "
            "more plies, or read a list of hangers that has one.",
            tuple(dict.fromkeys(one.member for one in hung)),
            worst.at,
        )


DECK_RULES = (without_hanger, snags, over_nothing, on_decks, through_joists, singles_over, circles)
