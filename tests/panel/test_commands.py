"""One table of commands serves menus, keys and the tool row; every one of them is run by something."""

from collections import Counter

from balken.demo.orchard_road import orchard_road
from balken.derive import derive
from balken.model import edits
from balken.panel.commands import BY_NAME, COMMANDS, MENUS
from balken.panel.stages import STAGES


def test_names_keys_and_places():
    assert len(BY_NAME) == len(COMMANDS)
    keys = Counter(c.keys for c in COMMANDS if c.keys)
    assert all(count == 1 for count in keys.values())
    for command in COMMANDS:
        assert bool(command.menu or command.row) != (command.edit is not None), command.name
        assert not command.menu or command.menu in MENUS
        assert bool(command.label) == bool(command.menu)
        assert bool(command.tip) == bool(command.row)


def test_every_fix_is_a_command():
    p = orchard_road()
    broken = edits.remove(edits.change(p, p.roofs[0].id, pitch=0.15), p.foundations[0].id)
    found = [f.fix.command for f in derive(broken).findings if f.fix is not None]
    assert found
    assert all(BY_NAME[name].edit is not None for name in found)


def test_menus_are_named_before_what_is_in_them():
    for i, place in enumerate(MENUS):
        above = place.rpartition(" > ")[0]
        assert not above or above in MENUS[:i]


def test_every_tool_row_is_made_of_commands_with_a_button():
    rows = [name for stage in STAGES for name in stage.tools]
    assert all(BY_NAME[name].row for name in rows)
    for stage in STAGES:
        labels = [BY_NAME[name].row for name in stage.tools]
        assert len(set(labels)) == len(labels)
    # A command with a button stands in some row.
    assert {c.name for c in COMMANDS if c.row} == set(rows)
