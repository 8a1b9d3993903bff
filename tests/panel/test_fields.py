"""Fields are found by keys that stay, never by what they are called or where they stand."""

import pytest

from balken.documents.truss_patterns import pattern_diagram
from balken.framing.truss_outline import ridged
from balken.framing.truss_webs import PATTERNS as WEBS
from balken.model.kinds.trusses import PATTERNS as TRUSS_PATTERNS
from balken.model.records import Foundation
from balken.panel import project_fields
from balken.panel.drafts import ASKED
from balken.panel.field_kinds import FieldDef, only
from balken.panel.fields import FIELDS, FRAMING_FIELDS
from balken.panel.roof_fields import RAFTER_FIELDS, TIE_FIELDS, TRUSS_FIELDS

TABLES = {
    **{kind.__name__: fields for kind, fields in FIELDS.items()},
    "framing": FRAMING_FIELDS,
    "rafters": RAFTER_FIELDS,
    "ties": TIE_FIELDS,
    **{name: value for name, value in vars(project_fields).items() if name.endswith("_FIELDS")},
}


@pytest.mark.parametrize("name", sorted(TABLES))
def test_every_field_has_a_key_of_its_own(name):
    keys = [field.key for field in TABLES[name]]
    assert all(keys), [field.label for field in TABLES[name] if not field.key]
    assert len(set(keys)) == len(keys)


@pytest.mark.parametrize("kind", sorted(FIELDS, key=lambda kind: kind.__name__))
def test_keys_are_paths_of_the_record(kind):
    for field in FIELDS[kind]:
        assert field.key.split("__")[0] in kind.__struct_fields__


def test_what_is_asked_is_there():
    for keys in ASKED.values():
        assert len(only(FIELDS[Foundation], *keys)) == len(keys)
    with pytest.raises(KeyError, match="no field colour"):
        only(FIELDS[Foundation], "name", "colour")


def test_fields_keep_their_own_order():
    made = [FieldDef("A", lambda p, r: "", lambda p, r, t: {}, key=k) for k in ("x", "y", "z")]
    assert [field.key for field in only(made, "z", "x")] == ["x", "z"]


def test_every_pattern_of_webs_is_shown_as_a_drawing_of_its_own():
    """Chords and as many webs as the pattern has; no two alike."""
    seen = {}
    for name in TRUSS_PATTERNS[1:]:
        drawn = pattern_diagram(name)
        webs = [item for item in drawn.items if item.pen == "thin"]
        outline = ridged(
            8400.0, 1.0 if name == "room" else 0.5, 150.0, 500.0, 140.0, 0.25 if name == "scissors" else 0.0
        )
        assert len(webs) == len(WEBS[name](outline).webs)
        assert all(
            0.0 <= x <= drawn.width and -drawn.height <= y <= 0.0 for item in drawn.items for x, y in item.points
        )
        assert drawn.items not in seen.values()
        seen[name] = drawn.items
    shown = next(f for f in TRUSS_FIELDS if f.key == "trusses__pattern")
    assert set(shown.pictures) == set(TRUSS_PATTERNS[1:])
