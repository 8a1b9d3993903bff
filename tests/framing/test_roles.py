"""The table of roles is whole: whatever is framed has a noun, a mark, a layer, a pen, an IFC class."""

from collections import Counter

import ifcopenshell
import pytest

from balken.documents.style import FILLS, PENS
from balken.exchange.ifc import _QUANTITIES
from balken.framing.roles import ROLES

SCHEMA = ifcopenshell.schema_by_name("IFC4")


@pytest.mark.parametrize("role", ROLES)
def test_a_role_has_every_entry(role):
    row = ROLES[role]
    assert row.noun == role
    assert row.plural
    assert row.mark.isupper()
    assert row.pen in PENS
    assert not row.fill or row.fill in FILLS
    assert not (row.stick and not row.lumber)
    assert not (row.footing and not row.dug)
    kind, predefined = row.ifc
    entity = SCHEMA.declaration_by_name(kind).as_entity()
    types = next(a for a in entity.all_attributes() if a.name() == "PredefinedType")
    assert predefined in types.type_of_attribute().declared_type().enumeration_items()
    assert kind in _QUANTITIES


def test_marks_of_roles_differ():
    assert [m for m, n in Counter(row.mark for row in ROLES.values()).items() if n > 1] == []


def test_whatever_the_demo_has_stands_in_the_table(demo_model):
    roles = {piece.role for piece in demo_model.pieces.values()}
    assert roles <= ROLES.keys()
    assert len(roles) >= 20
