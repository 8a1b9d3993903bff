"""Edits of single members: set what is other about one, go back to the layout, hang a lost one on another member."""

from collections.abc import Sequence
from typing import Any, get_args

import msgspec

from balken.model.edits import add, change, remove
from balken.model.errors import EditError
from balken.model.kinds.member_edit import MemberEdit, Sort
from balken.model.lookup import next_id
from balken.model.naming import kind_of, owner_of, place_in
from balken.model.records import Project
from balken.model.rules import check


def edit_of(project: Project, name: str) -> MemberEdit | None:
    """Return the hand edit of a member by its name, if there is one."""
    place, owner, sort = place_in(name), owner_of(name), kind_of(name)
    rows = (e for e in project.member_edits if e.owner == owner and e.sort == sort and e.place == place)
    return next(rows, None)


def can_edit(name: str) -> bool:
    """Whether a member of this name can have a hand edit."""
    return kind_of(name) in get_args(Sort) and place_in(name) is not None


def set_member(project: Project, name: str, **fields: Any) -> Project:
    """Set what is other about one member; where nothing is left of it, the hand edit goes.

    Raises EditError for a member that cannot be edited alone, and for what no rule allows.
    """
    place = place_in(name)
    if place is None or not can_edit(name):
        raise EditError("it cannot be changed alone.", do="Change its layout.")
    known = edit_of(project, name)
    if known is None:
        made = MemberEdit(
            id=next_id(project, MemberEdit), owner=owner_of(name), sort=kind_of(name),  # type: ignore[arg-type]
            datum=place.datum, at=place.at,
            between=place.between, which=place.which, **fields,
        )  # fmt: skip
        return project if made.changes_nothing else add(project, made)
    if msgspec.structs.replace(known, **fields).changes_nothing:
        return remove(project, known.id)
    return change(project, known.id, **fields)


def set_members(project: Project, names: Sequence[str], **fields: Any) -> Project:
    """Set what is other about several members at once; raises EditError as for one."""
    for name in names:
        project = set_member(project, name, **fields)
    return project


def back_to_layout(project: Project, name: str) -> Project:
    """Undo the hand edit of a member."""
    known = edit_of(project, name)
    return project if known is None else remove(project, known.id)


def hang_edit_on(project: Project, edit_id: str, name: str) -> Project:
    """Give a lost hand edit to another member; raises EditError when that one has one."""
    place = place_in(name)
    if place is None:
        raise EditError("there is no such member any more.", "Hand edit")
    if edit_of(project, name) is not None:
        raise EditError("that member has a hand edit of its own.", "Hand edit", "Remove one of them.")
    return check(change(project, edit_id, datum=place.datum, at=place.at, between=place.between, which=place.which))
