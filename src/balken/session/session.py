"""One open project: its history, what is derived from it, what is selected, and its file."""

import os
import traceback
from collections.abc import Callable, Iterable
from pathlib import Path

from balken.derive.roof_sketch import RoofSketch
from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.exchange import project_file
from balken.exchange.claims import Claim, Stamp, stamp
from balken.exchange.file_errors import FileError
from balken.exchange.journal import Journal
from balken.mending import mend_alike, run_fix
from balken.model.beam_rows import beams_of
from balken.model.edits import new_project
from balken.model.errors import EditError
from balken.model.lookup import by_id, foundation_part, listed
from balken.model.naming import grid_and_axis, on_foundation, owner_of, parts_of_run, run_of
from balken.model.records import Project
from balken.session.news import News
from balken.session.recent import Recent
from balken.units import UnitError

Edit = Callable[[Project], Project]
DEEPEST_HISTORY = 500


class Session:
    """Runs every edit, keeps undo and redo, and tells the views."""

    def __init__(self, project: Project | None = None, journal: Journal | None = None) -> None:
        self.changed, self.selection_changed, self.hidden_changed = News(), News(), News()
        self.storey_changed, self.trial_changed, self.file_changed, self.kept_changed = News(), News(), News(), News()
        self.message = News()
        """A text for the status line; True when it is an error."""
        self._recent = Recent()
        self.journal = journal
        self.path: Path | None = None
        self.selection: tuple[str, ...] = ()
        self.hidden: frozenset[str] = frozenset()
        self.trial: Model | None = None
        self.sketch: RoofSketch | None = None
        """What a drag shows of a roof before it is derived."""
        self._claim: Claim | None = None
        self._stamp: Stamp = None
        self.project = project or new_project()
        self.model: Model = self._recent.model(self.project)
        self._recent.stand(self.model)
        self._saved = self.project
        self._undo: list[tuple[str, Project]] = []
        self._redo: list[tuple[str, Project]] = []
        self.storey = self._first_storey()

    # Edits -------------------------------------------------------------------------------------

    def apply(self, label: str, edit: Edit) -> bool:
        """Run an edit as one step of undo; on EditError nothing changes and the reason is told."""
        try:
            after = edit(self.project)
        except EditError as error:
            self.message.emit(str(error), True)
            return False
        except UnitError:  # what was typed is no such quantity: said where it was typed
            raise
        except Exception as error:  # a fault of Balken's own changes nothing
            traceback.print_exc()
            self.message.emit(f"Balken could not do this ({type(error).__name__}); nothing was changed.", True)
            return False
        if after is self.project or after == self.project:
            return True
        before = self.project
        if not self._show(after):
            return False
        self._undo.append((label, before))
        del self._undo[:-DEEPEST_HISTORY]
        self._redo.clear()
        self.changed.emit()
        self.message.emit(label, False)
        return True

    def run_fix(self, fix: Fix) -> bool:
        """Apply a finding's fix."""
        return self.apply(fix.label, lambda p: run_fix(p, fix))

    def mend_alike(self, finding: Finding) -> bool:
        """Apply the fixes of all findings of the same kind, as one step of undo."""
        label = finding.fix.label if finding.fix is not None else finding.what
        return self.apply(f"{label}, and all alike", lambda p: mend_alike(p, finding.code))

    def undo(self) -> None:
        """Take the last edit back."""
        if self._undo:
            label, before = self._undo.pop()
            self._redo.append((label, self.project))
            self._show(before)
            self.changed.emit()
            self.message.emit(f"Undone: {label}", False)

    def redo(self) -> None:
        """Do the edit taken back last again."""
        if self._redo:
            label, after = self._redo.pop()
            self._undo.append((label, self.project))
            self._show(after)
            self.changed.emit()
            self.message.emit(f"Done again: {label}", False)

    @property
    def undo_label(self) -> str:
        """What undo would take back, or ""."""
        return self._undo[-1][0] if self._undo else ""

    @property
    def redo_label(self) -> str:
        """What redo would do again, or ""."""
        return self._redo[-1][0] if self._redo else ""

    def _show(self, project: Project) -> bool:
        """Go over to a project; when Balken itself fails to derive it, keep the old one and say so."""
        try:
            model = self._recent.model(project)
        except Exception as error:
            traceback.print_exc()
            self.message.emit(
                f"Balken could not work this out ({type(error).__name__}: {error}); nothing was changed.", True
            )
            return False
        self._recent.stand(model)
        self.project, self.model = model.project, model
        self.trial = self.sketch = None
        self._write_journal()
        levels = by_id(project.levels)
        if self.storey not in levels or levels[self.storey].removed:
            self.storey = self._first_storey()
        self.select([now for ref in self.selection if (now := ref if self.exists(ref) else self._moved(ref))])
        return True

    def _write_journal(self) -> None:
        if self.journal is None:
            return
        if not self.dirty:
            self.journal.clear()
            return
        try:
            self.journal.write(self.project, os.fspath(self.path or "").encode("utf-8", "backslashreplace").decode())
        except Exception as error:  # the edit stands, and the window says that it is not kept
            if not isinstance(error, FileError):
                traceback.print_exc()
                self.journal.problem = f"Unsaved work is not kept ({type(error).__name__}). Save often."
            self.message.emit(str(error), True)
        self.kept_changed.emit()

    @property
    def kept(self) -> bool:
        """Whether the unsaved work stands in the journal as it is now."""
        return self.journal is not None and not self.journal.problem and self.journal.file is not None

    @property
    def not_kept(self) -> str:
        """Why unsaved work would be lost if the program were killed now, or ""."""
        return self.journal.problem if self.journal is not None else ""

    # Trial: what a tool is about to make ----------------------------------------------------------

    def try_out(self, edit: Edit | None) -> str:
        """Derive what an edit would make, for previews; returns why it cannot be made, or ""."""
        if edit is None:
            if self.trial is not None:
                self.trial = None
                self.trial_changed.emit()
            return ""
        try:
            self.trial = self._recent.model(edit(self.project))
        except EditError as error:
            self.trial = None
            self.trial_changed.emit()
            return str(error)
        except Exception as error:  # a preview must never stop the hand that draws
            traceback.print_exc()
            self.trial = None
            self.trial_changed.emit()
            return f"Balken could not work this out ({type(error).__name__})."
        self.trial_changed.emit()
        return ""

    def show_sketch(self, sketch: RoofSketch | None) -> None:
        """Show a roof as a drag would leave it; nothing for None."""
        if sketch is not self.sketch:
            self.sketch = sketch
            self.trial_changed.emit()

    @property
    def took(self) -> int:
        """How long the last derivation took, ms: what waits for a pause before a trial waits as long."""
        return self._recent.took

    def foretold(self) -> str:
        """Say which findings what is tried out would bring and settle; "" for none."""
        if self.trial is None:
            return ""
        before, after = ({(f.code, f.things): f for f in m.findings} for m in (self.model, self.trial))
        new = [f for key, f in after.items() if key not in before]
        settled = sum(1 for key in before if key not in after)
        told = []
        if new:
            more = f" and {len(new) - 1} more" if len(new) > 1 else ""
            told.append(f"This would bring: {new[0].what}{more}.")
        if settled:
            told.append(f"It would settle {settled} finding{'s' * (settled > 1)}.")
        return " ".join(told)

    # Selection and storey ------------------------------------------------------------------------

    def _moved(self, ref: str) -> str:
        """Return the same part under the same wall of another foundation, where a run was given one of its own; "" where there is none."""
        wall = parts_of_run(run_of(ref))[1]
        runs = (f.id for f in self.project.foundations if wall and wall in f.walls)
        return next((found for f in runs if self.exists(found := on_foundation(ref, f))), "")

    def select(self, refs: Iterable[str]) -> None:
        """Select things by id or piece key, in every view."""
        chosen = tuple(dict.fromkeys(refs))
        if chosen != self.selection:
            self.selection = chosen
            self.selection_changed.emit()

    @property
    def lit(self) -> frozenset[str]:
        """What views show as selected: what is, and the beams of rows that are."""
        rows = by_id(self.project.beam_rows)
        beams = [b.id for ref in self.selection if ref in rows for b in beams_of(rows[ref], self.project.grids)]
        return frozenset((*self.selection, *beams))

    def hide(self, refs: Iterable[str]) -> None:
        """Hide things in plan, height strip and 3-D, on top of those hidden."""
        self._set_hidden(self.hidden | set(refs))

    def show_alone(self, refs: Iterable[str]) -> None:
        """Hide everything but these things."""
        keep = set(refs)
        every = set(self.model.pieces) | set(self.model.lines)
        shown = {key for key in every if key in keep or self._owner(key) in keep}
        self._set_hidden(frozenset(every - shown))

    def show_all(self) -> None:
        """Show what was hidden."""
        self._set_hidden(frozenset())

    def _owner(self, key: str) -> str:
        piece = self.model.piece(key)
        return piece.owner if piece is not None else key

    def _set_hidden(self, hidden: frozenset[str]) -> None:
        if hidden != self.hidden:
            self.hidden = hidden
            self.hidden_changed.emit()

    def is_hidden(self, ref: str) -> bool:
        """Tell whether a thing, or what it belongs to, is hidden."""
        return bool(self.hidden) and (ref in self.hidden or owner_of(ref) in self.hidden)

    def exists(self, ref: str) -> bool:
        """Tell whether a selected thing is still there."""
        from balken.model.lookup import find

        if ref == "cut" or find(self.project, ref) is not None or foundation_part(self.project, ref) is not None:
            return True
        grid, axis = grid_and_axis(ref)
        found = by_id(self.project.grids).get(grid)
        if found is not None and any(a.id == axis for a in (*found.x_axes, *found.y_axes)):
            return True
        return self.model.piece(ref) is not None or ref in self.model.path.beams

    def set_storey(self, level_id: str) -> None:
        """Work on the storey standing on a level."""
        if level_id != self.storey and level_id in by_id(self.project.levels):
            self.storey = level_id
            self.storey_changed.emit()

    def _first_storey(self) -> str:
        floors = [v for v in self.project.levels if v.role == "floor" and not v.removed] or listed(self.project.levels)
        return floors[0].id if floors else ""

    # File ----------------------------------------------------------------------------------------

    @property
    def dirty(self) -> bool:
        """Whether there is unsaved work."""
        return self.project is not self._saved and self.project != self._saved

    def took_file(self, path: Path | None) -> None:
        """Work on a file from now on: remember how it stands on disk, and that it is open here."""
        if self._claim is not None:
            self._claim.release()
            self._claim = None
        self.path, self._stamp = path, stamp(path)
        if path is not None and self.journal is not None:
            self._claim = Claim(self.journal.folder.parent / "open", path)
            if self._claim.elsewhere:
                self.message.emit(f"{path.name} is open in another window, too; what is saved last would win.", True)

    def in_the_way(self, path: Path) -> str:
        """Return why saving to a file could undo another's work, or ""."""
        if path != self.path:
            return ""
        if self._stamp is not None and stamp(path) != self._stamp:
            return f"{path.name} was changed on disk since it was opened here."
        if self._claim is not None and self._claim.elsewhere:
            return f"{path.name} is open in another window."
        return ""

    def on_disk(self) -> Project | None:
        """Return the project as its file has it now, None when it cannot be read."""
        try:
            return project_file.load(self.path) if self.path is not None else None
        except FileError:
            return None

    def take_over(self) -> bool:
        """Go over to what the file has now, as a step that undo takes back."""
        there = self.on_disk()
        if there is None or self.path is None:
            return False
        path, done = self.path, self.apply("Take over what is on disk", lambda p: there)
        if done:
            self.took_file(path)
            self._saved = self.project
            self._write_journal()
            self.file_changed.emit()
        return done

    def save(self, path: Path, over: bool = False) -> bool:
        """Save to a file; on failure tell why and change nothing.

        A file that changed on disk since it was opened, or is open elsewhere, is replaced only when ``over``.
        """
        reason = "" if over else self.in_the_way(path)
        if reason:
            self.message.emit(reason, True)
            return False
        try:
            project_file.save(self.project, path)
        except FileError as error:
            self.message.emit(str(error), True)
            return False
        self._saved = self.project
        if path != self.path:
            self.took_file(path)
        self._stamp = stamp(path)
        if self.journal is not None:
            self.journal.clear()
        self.message.emit(f"Saved {path.name}", False)
        self.file_changed.emit()
        return True

    def save_copy(self, path: Path) -> bool:
        """Write a copy elsewhere and go on with this file."""
        try:
            project_file.save(self.project, path)
        except FileError as error:
            self.message.emit(str(error), True)
            return False
        self.message.emit(f"Saved a copy as {path.name}", False)
        return True

    def open(self, path: Path) -> bool:
        """Open a project; on failure tell why and keep what is open."""
        try:
            project = project_file.load(path)
        except FileError as error:
            self.message.emit(str(error), True)
            return False
        self.replace(project, path)
        return True

    def replace(self, project: Project, path: Path | None, saved: bool = True) -> None:
        """Go over to another project with an empty history."""
        self._undo.clear()
        self._redo.clear()
        self.took_file(path)
        self._saved = project if saved else new_project("")
        self.selection = ()
        self.hidden = frozenset()
        self._recent = Recent()
        self._show(project)
        self.storey = self._first_storey()
        self.changed.emit()
        self.selection_changed.emit()
        self.file_changed.emit()
