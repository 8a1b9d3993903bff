"""What the window does with what is selected: edits of walls, hiding, and selecting more by likeness or kind."""

from functools import partial

from balken.app.shell import Deeds, Shell
from balken.app.wall_dialogs import DIALOGS, join_selected, reach_selected
from balken.documents.plan import storey_walls
from balken.model import ties, wall_edits
from balken.model.errors import EditError
from balken.panel.commands import COMMANDS, WALLS


class Selecting:
    """What the window does with what is selected."""

    def __init__(self, shell: Shell) -> None:
        self.shell, self.session = shell, shell.session

    def change_walls(self, name: str) -> None:
        """Run one of the edits of the walls selected; those with fields open their dialog."""
        chosen = tuple(r for r in self.session.selection if r in self.session.model.lines)
        if name == "next_storey" and self.session.project.walls:
            DIALOGS[name](self.shell.itself, self.session).exec()
        elif not chosen:
            self.shell.say("Select one or more walls first.", True)
        elif name in DIALOGS:
            DIALOGS[name](self.shell.itself, self.session).exec()
        elif name == "join_walls":
            self.session.apply("Join walls", lambda p: join_selected(p, chosen))
        elif name == "tie_walls":
            self.session.apply("Tie walls to axes", lambda p: ties.tie_to_axes(p, chosen))
        elif name == "let_go":
            self.session.apply("Free walls of axes", lambda p: ties.let_go_of_axes(p, chosen))
        else:
            try:
                edit = reach_selected(self.session, shorter=name == "reach_wall_shorter")
            except EditError as error:
                self.shell.say(str(error), True)
                return
            self.session.apply("Extend or trim wall", edit)

    def hide_selected(self) -> None:
        """Hide what is selected in plan, height strip and 3-D."""
        chosen = self.session.selection
        if not chosen:
            self.shell.say("Select what to hide first.", True)
            return
        self.session.hide(chosen)
        self.session.select([])
        self.shell.say(f"{len(chosen)} hidden; Shift+F3 shows all again.", False)

    def show_selected_alone(self) -> None:
        """Hide everything but what is selected."""
        if self.session.selection:
            self.session.show_alone(self.session.selection)
            self.shell.say("The rest is hidden; Shift+F3 shows all again.", False)

    def select_alike(self) -> None:
        """Select every member of the same role and section, or record of the same kind."""
        model, chosen = self.session.model, self.session.selection
        like = {(p.role, p.section) for p in (model.piece(r) for r in chosen) if p is not None}
        found = [key for key, p in model.pieces.items() if (p.role, p.section) in like]
        buildups = {model.lines[r].wall.buildup for r in chosen if r in model.lines}
        found += [w for w, line in model.lines.items() if line.wall.buildup in buildups]
        if found:
            self.session.select(found)

    def select_chain(self) -> None:
        """Select the walls that hang together end to end with those selected."""
        chosen = [r for r in self.session.selection if r in self.session.model.lines]
        if not chosen:
            self.shell.say("Select a wall first.", True)
            return
        self.session.select([w for r in chosen for w in wall_edits.chain(self.session.project, r)])

    def select_storey(self) -> None:
        """Select all walls of the storey at work."""
        self.session.select(storey_walls(self.session.model, self.session.storey))

    def select_role(self) -> None:
        """Select all walls of the roles of those selected."""
        lines = self.session.model.lines
        roles = {lines[r].wall.role for r in self.session.selection if r in lines}
        if not roles:
            self.shell.say("Select a wall first.", True)
            return
        self.session.select([w for w, line in lines.items() if line.wall.role in roles])

    def select_kind(self, kind: str) -> None:
        """Select all records of a collection; openings of this storey alone."""
        p = self.session.project
        if kind == "openings":
            walls = set(storey_walls(self.session.model, self.session.storey))
            self.session.select([o.id for o in p.openings if o.wall in walls])
            return
        self.session.select([record.id for record in getattr(p, kind)])

    def deeds(self) -> Deeds:
        """Return what runs the commands for what is selected."""
        found: Deeds = {
            "all": self.select_alike,
            "chain": self.select_chain,
            "storey_walls": self.select_storey,
            "same_role": self.select_role,
            "hide": self.hide_selected,
            "alone": self.show_selected_alone,
            "show": self.session.show_all,
            "show_loads": lambda: self.session.select([]),
            "title_block": lambda: self.session.select([]),
        }
        found |= {kind: partial(self.select_kind, kind) for kind in ("columns", "openings", "spots")}
        return found | {c.name: partial(self.change_walls, c.name) for c in COMMANDS if c.menu == WALLS}
