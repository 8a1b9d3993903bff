"""Rules that look for faults of columns: what they stand on, whether they carry, what nobody checks."""

from collections.abc import Iterable

from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.design.wall_posts import over_opening
from balken.model.lookup import label_of, labels_of
from balken.standards.checks import used_text
from balken.units import format_force


def columns(c: Model) -> Iterable[Finding]:
    """Columns that stand on nothing, that are too weak, and those with a load that are not checked."""
    for made in c.path.columns.values():
        column, (x, y), post = made.stand.record, made.stand.at, made.post
        foot, head = made.stand.foot, made.stand.head
        label, at = label_of(c.project, column.id), (x, y, foot)
        if not c.path.below.get(column.id):
            yield Finding(
                "column on nothing",
                "foundations",
                f"{label} stands on nothing",
                "There is no pad, pier, wall or column under its foot, so that what it carries does not come down to the soil.",
                (column.id,),
                at,
                fix=Fix("Put a pad and a pier under it", "pad_under", (column.id,)),
            )
        middle = (x, y, (foot + head) / 2.0)
        if not post.works and post.result is not None:
            check, better = post.result.governs, post.would_work
            yield Finding(
                "column",
                "check",
                f"{label}: used {used_text(post.result.used)}",
                f"{check.name[0].upper()}{check.name[1:]} governs ({check.clause}, {check.combination or 'any load'})."
                + (
                    ""
                    if better
                    else " No section of the list is enough: put columns closer, or hold it between its ends."
                ),
                (column.id,),
                middle,
                fix=Fix(f"Make it {better}", "change", (column.id,), (("size", better),)) if better else None,
            )
        elif post.unchecked and any(made.head):
            yield Finding(
                "column not checked",
                "check",
                f"{label} is not checked",
                post.unchecked,
                (column.id,),
                middle,
                grave=False,
            )


def posts_in_walls(c: Model) -> Iterable[Finding]:
    """Built-up posts under columns that are too weak, and columns over openings, whose headers carry them."""
    for wall_id, framed in c.framed.items():
        line = c.lines[wall_id]
        for post in framed.posts:
            if post.result.used > 1.0:
                check = post.result.governs
                wider = " Only studs under the ridge count: a ridge of more plies covers more." if post.narrow else ""
                yield Finding(
                    "post in wall",
                    "walls",
                    f"{label_of(c.project, wall_id)}: {post.result.case.size} post under "
                    f"{labels_of(c.project, post.sources)} used {used_text(post.result.used)}",
                    f"{check.name[0].upper()}{check.name[1:]} governs ({check.clause}, {check.combination}). Use deeper "
                    f"studs, or let the column run down through the wall.{wider}",
                    (*dict.fromkeys(_standing(source) for source in post.sources), wall_id),
                    (*line.band.at(post.at, 0.0), line.band.top),
                )
        mine = tuple(o for o in c.project.openings if o.wall == wall_id)
        for point in c.path.heads[wall_id].points:
            over = over_opening(point, mine)
            if over is not None:
                yield Finding(
                    "over opening",
                    "walls",
                    f"{label_of(c.project, point.source)} stands over a {over.kind} of {label_of(c.project, wall_id)}",
                    "The header is designed for it. Beside the opening a post would go straight down.",
                    (_standing(point.source), over.id),
                    (*line.band.at((point.low + point.high) / 2.0, 0.0), line.band.top),
                    grave=False,
                )


def _standing(source: str) -> str:
    """Return the record that what stands on a wall belongs to: of the end of a hip or valley its roof."""
    return source.partition(".")[0] if source.startswith("roof") else source


def without_fitting(c: Model) -> Iterable[Finding]:
    """Posts for which the list has no cap or base."""
    for one in c.fittings:
        if not one.fitting:
            lifts = f", {format_force(one.lifts, c.units)} lift it" if one.lifts > 1.0 else ""
            beam = f" under {one.beam}" if one.beam else ""
            yield Finding(
                "post fitting",
                "check",
                f"{label_of(c.project, one.column)}, {one.post}{beam}: {one.why}",
                f"{format_force(one.most, c.units)} come to its {one.use} at normal load duration{lifts}. Take another section, or "
                "have one made.",
                (one.column,),
                one.at,
                grave=False,
            )


POST_RULES = (columns, posts_in_walls, without_fitting)
