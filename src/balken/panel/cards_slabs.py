"""What a floor's card says of a slab above ground, and of the walls that end under a floor."""

from collections.abc import Callable
from functools import partial

from balken.catalog.joists import TRIED
from balken.design.layouts import LayoutDesign
from balken.design.raised_slabs import RaisedSlab
from balken.documents.slab_schedule import above_text, across_text, slab_bar_text
from balken.model import edits, slab_edits
from balken.model.lookup import label_of, wall_label
from balken.model.records import Floor, Project
from balken.panel.card_parts import Button, Entry, Fact, Part, Rows, used_parts
from balken.session.session import Edit, Session
from balken.standards.checks import used_text


def slab_parts(session: Session, floor: Floor, design: LayoutDesign, slab: RaisedSlab) -> list[Part]:
    """Return what a slab is made of and why."""
    units, model = session.project.units, session.model
    parts: list[Part] = ["Slab", Fact("Thickness", design.size + ("  (chosen)" if design.size_auto else ""))]
    if floor.carries == "both ways":
        return [*parts, Fact("Bars", "not designed: it carries both ways; its loads go to the walls by area")]
    parts += [
        Fact("Bars below, along the span", slab_bar_text(slab.bars, units)),
        Fact("Bars above, over bearings", above_text(slab.bars, units) or "none needed"),
        Fact("Bars across", across_text(slab.bars, units)),
    ]
    for name, bars in list(slab.more.items())[:6]:
        on = model.path.decks.get(floor.id)
        under = {row.source for row in on.joists.get(name, ())} if on is not None else set()
        where = ", ".join(label_of(session.project, s) for s in sorted(under)) or "an opening"
        parts.append(Fact(f"In the strip at {where}", f"{slab_bar_text(bars, units)} below"))
    if slab.results:
        parts += used_parts(slab.results[slab.worst], session)
    rows = [(n.size, used_text(n.used), n.governs) for n in sorted(design.neighbours, key=lambda n: -n.used)]
    return [*parts, "Neighbours", Rows(("Thickness", "Used", "Governs"), rows)]


def under_parts(session: Session, floor: Floor) -> list[Part]:
    """Return which walls end under a floor, and what cuts them to its underside all at once, or leaves one out."""
    p, outline = session.project, session.model.outlines.get(floor.id)
    if outline is None:
        return []
    under = slab_edits.walls_under(p, floor.id, outline.core)
    if not under:
        return []
    cut = {w.id for w in slab_edits.cut_by(p, floor.id)}
    waiting = tuple(w for w in under if w not in cut and w not in floor.uncut)
    parts: list[Part] = ["Walls below", Fact("Cut to its underside", f"{len(cut)} of {len(under)}")]
    if waiting:
        parts.append(
            Button(
                "Cut the walls below to its underside",
                edit=partial(slab_edits.cut_walls, floor_id=floor.id, walls=waiting),
            )
        )
    if cut:
        options = [("", "none"), *((w, wall_label(p, w)) for w in under if w in cut)]
        parts.append(Entry("Leave one out", "", _one(floor.id, slab_edits.leave_out), options))
    if floor.uncut:
        options = [("", "none"), *((w, wall_label(p, w)) for w in floor.uncut)]
        parts.append(Entry("Left out, cut after all", "", _one(floor.id, slab_edits.take_in), options))
    return parts  # fmt: skip


def copy_parts(session: Session, floor: Floor) -> list[Part]:
    """Return what copies a floor to another level."""
    levels = [v for v in session.project.levels if v.id != floor.level and not v.removed]
    if not levels:
        return []
    options = [("", "choose a level"), *((v.id, v.name) for v in sorted(levels, key=lambda v: v.height))]

    def commit(level: str) -> Edit:
        return lambda q: slab_edits.copy_floor(q, floor.id, level) if level else q

    copies: list[Part] = []
    for other in session.project.floors:
        if other.name.startswith(f"{floor.name}, "):
            sizes = [("auto", "auto"), *((size, size) for size in TRIED[other.joists.made_of])]
            copies.append(Entry(other.name, other.joists.size or "auto", _resized(other.id), sizes))
    return [*copies, Entry("Copy to another level", "", commit, options)]


def _resized(floor_id: str) -> Callable[[str], Edit]:
    """Return what gives a copy another thickness, or other joists."""

    def commit(size: str) -> Edit:
        return lambda q: edits.change(q, floor_id, joists__size=None if size == "auto" else size)

    return commit


def _one(floor_id: str, edit: Callable[[Project, str, str], Project]) -> Callable[[str], Edit]:
    def commit(wall: str) -> Edit:
        return lambda q: edit(q, floor_id, wall) if wall else q

    return commit
