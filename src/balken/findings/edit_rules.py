"""Rules that look at hand edits: those whose member is gone, and joists of another depth than their layout."""

from collections.abc import Iterable

from balken.catalog.sections import section
from balken.derived.finding import Finding, Fix, Stage
from balken.derived.model import Model
from balken.framing.pieces import Snag
from balken.model.kinds.member_edit import NOUNS, OF_PLANES, TRUSS, MemberEdit
from balken.model.naming import kind_of

STAGE: dict[str, Stage] = {
    "joist": "floors",
    "rim": "floors",
    "rafter": "roof",
    "stud": "walls",
    **dict.fromkeys((*OF_PLANES, TRUSS), "roof"),
}


def lost_edits(c: Model) -> Iterable[Finding]:
    """Hand edits that no member has any more: they are kept, and offered to the nearest one."""
    for edit, nearest in c.lost_edits:
        mark = c.marks.get(nearest, "")
        onto = f"{mark}, the nearest" if mark else f"the nearest {NOUNS.get(edit.sort, edit.sort)}"
        fix = (
            Fix(f"Give it to {onto}", "hang_edit_on", (edit.id, nearest))
            if nearest and nearest not in c.hand_edited
            else Fix("Remove the hand edit", "remove", (edit.id,))
        )
        yield Finding(
            "hand edit lost",
            STAGE[edit.sort],
            f"A {NOUNS.get(edit.sort, edit.sort)} with a hand edit is not there any more",
            f"It was {_said(edit)}. Give the edit to another member, or remove it.",
            (edit.owner,),
            c.place(nearest) if nearest else (0.0, 0.0, 0.0),
            grave=False,
            fix=fix,
        )


GABLE = frozenset({"rafter", "tie"})
FRAMED = (
    (GABLE, "to be a gable of common rafters again"),
    (OF_PLANES, "to be framed with rafters under its planes again"),
    (frozenset({TRUSS}), "to have trusses again"),
)
"""Sorts of members that a roof has, framed in one way or another."""


def waiting(c: Model) -> Iterable[Finding]:
    """Hand edits of a roof's members from before it was framed another way: they are kept."""
    trussed = {roof for roof, made in c.trusses.items() if not made.problem}
    for roof in c.project.roofs:
        has: frozenset[str] = GABLE if roof.shape != "planes" else OF_PLANES
        if roof.id in trussed:
            has = frozenset({TRUSS}) | (OF_PLANES if c.raftered(roof.id) else frozenset())
        left = [e for e in c.project.member_edits if e.owner == roof.id and e.sort not in has]
        for sorts, until in FRAMED:
            some = [edit for edit in left if edit.sort in sorts]
            left = [edit for edit in left if edit not in some]
            if some:
                count = f"{len(some)} changes by hand wait" if len(some) > 1 else "A change by hand waits"
                yield Finding(
                    "hand edit",
                    "roof",
                    f"{count} for {roof.name} {until}",
                    "As it is framed now its members have other places; the changes are kept.",
                    (roof.id,),
                    (0.0, 0.0, 0.0),
                    grave=False,
                )


def _said(edit: MemberEdit) -> str:
    """Return what an edit says."""
    parts = [
        "taken out" if edit.removed else "",
        f"of {edit.size}" if edit.size else "",
        f"of {edit.plies} plies" if edit.plies > 1 else "",
        " ".join(x for x in (edit.species, edit.grade) if x),
        "moved" if edit.moved else "",
        "cut longer or shorter" if edit.longer else "",
        f"given {edit.more} more beside it" if edit.more else "",
        f"given webs as {edit.webs}" if edit.webs else "",
        "given panel points" if edit.points else "",
    ]
    return ", ".join(part for part in parts if part) or "changed"


def other_depths(c: Model) -> Iterable[Finding]:
    """Joists that are deeper or shallower than their layout: they do not lie on the same bearings."""
    for layout, edited in c.edited.items():
        design = c.designs.get((layout, "joists"))
        if design is None:
            continue
        for name, own in edited.made.items():
            if kind_of(name) != "joist" or not own.size:
                continue
            mine, others = section(own.size).depth, section(design.size).depth
            if abs(mine - others) > 1.0 and c.piece(name) is not None:
                yield Finding(
                    "hand edit depth",
                    "floors",
                    f"{c.marks.get(name, 'A joist')}: {own.size} among {design.size}",
                    "It is not as deep as the others: at its bearings it would hang free or stand too high. Give it more "
                    "plies instead, or change the layout.",
                    (name,),
                    c.place(name),
                    fix=Fix("Back to the layout", "back_to_layout", (name,)),
                )


SNAGS = {
    "hand edit": ("hand edit room", False, "It stays where its layout has it. Move it less far, or move the next one first."),
    "no rim": (
        "no rim", False,
        "Joists must be held against turning at their bearings by a rim board or blocking (IRC R502.7). Lay blocking there.",
    ),
    "no tie": (
        "no tie", True,
        "Nothing holds the thrust of those rafters at the eaves (IRC R802.5.2). Give them a tie, or a ridge beam that carries "
        "them (not designed here).",
    ),
    "no bearing": ("cut short", True, "It bears on nothing there. Cut it less short."),
}  # fmt: skip
"""What hand edits lead to: code of the finding, whether it is grave, what to do."""


def troubles_made(c: Model) -> Iterable[Finding]:
    """What hand edits could not do, or what they leave undone."""
    of_floors = [("floors", p.floor.name, s) for p in c.floors for s in p.snags if s.kind in ("hand edit", "no rim")]
    of_roofs = [("roof", p.roof.name, s) for p in c.roofs for s in p.snags]
    rows: list[tuple[Stage, str, Snag]] = [*of_floors, *of_roofs]  # type: ignore[list-item]
    for stage, name, snag in rows:
        code, grave, what = SNAGS[snag.kind]
        yield Finding(code, stage, f"{name}: {snag.text}", what, (snag.owner,), snag.at, grave=grave)


EDIT_RULES = (lost_edits, waiting, other_depths, troubles_made)
