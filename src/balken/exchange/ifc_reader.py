"""Reading an architect's IFC (2x3, 4, 4x3): levels, grids, walls with layers and openings, columns, and a report.

What Balken can hold becomes records; other walls, slabs, roofs, stairs and the like become outlines to work against.
What had to be simplified, and what was left out, is told with the reason and the GlobalId.
"""

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any

import msgspec

from balken.collecting import collecting_later
from balken.exchange.file_errors import FileError, Progress, Stopped
from balken.exchange.ifc_corners import meet_at_corners
from balken.exchange.ifc_grids import read_grids
from balken.exchange.ifc_known import KnownFile
from balken.exchange.ifc_references import Columns, References
from balken.exchange.ifc_source import READ_ERRORS, NotHeld, Report, Source, global_id
from balken.exchange.ifc_walls import Walls
from balken.exchange.replacing import read_regular
from balken.geometry.plane import distance
from balken.model.edits import new_project
from balken.model.errors import EditError
from balken.model.kinds.wall import crossing_walls
from balken.model.lookup import by_id, locate, wall_label
from balken.model.records import Project, Reading
from balken.model.rules import check
from balken.units import Units

_SHOWN = {
    "IfcSlab": "",
    "IfcRoof": "",
    "IfcStair": "stairs are not held yet; shown as an outline",
    "IfcStairFlight": "stairs are not held yet; shown as an outline",
    "IfcRamp": "ramps are not held yet; shown as an outline",
    "IfcRampFlight": "ramps are not held yet; shown as an outline",
    "IfcChimney": "chimneys are not held; shown as an outline, to be left out of floors and roofs",
    "IfcCurtainWall": "a curtain wall carries nothing; shown as an outline",
}
"""What is taken as an outline, and why only so."""
_DERIVED = ("IfcBeam", "IfcMember", "IfcFooting", "IfcPlate", "IfcPile")
"""What Balken makes itself."""


def read_ifc(path: Path | str, progress: Progress | None = None) -> tuple[Project, Report]:
    """Return a new project from an IFC file, and the report.

    ``progress`` is told (done, all) and stops the work by returning False.  Raises FileError when it is
    no IFC, Stopped when it was stopped.
    """
    import ifcopenshell

    try:
        data = read_regular(path)
        if not data[:200].lstrip().startswith(b"ISO-10303-21"):
            raise FileError("this is not an IFC file.", path, "Choose a file that ends in .ifc.")
        if b"END-ISO-10303-21" not in data[-400:]:
            raise FileError("the IFC ends too early; part of it is missing.", path, "Export it, or copy it, again.")
        file = ifcopenshell.open(str(path))
        if file is None or not file.schema.upper().startswith(("IFC2X3", "IFC4")):
            raise FileError("its IFC version cannot be read.", path, "Save it as IFC2x3, IFC4 or IFC4x3.")
    except OSError as error:
        raise FileError(
            f"it could not be read ({error.strerror or error}).", path, "Check that you may read it."
        ) from None
    except (ifcopenshell.Error, RuntimeError) as error:
        raise FileError(f"the IFC is damaged ({str(error)[:120]}).", path, "Export it again.") from None
    try:
        with collecting_later():
            return _Reader(KnownFile(file), Path(path).name, progress).read()
    except EditError as error:
        raise FileError(f"what it holds does not make sense: {error}", path, "Mend it where it came from.") from None
    except (Stopped, FileError, MemoryError):
        raise
    except Exception as error:  # damage in what everything else hangs on
        what = f"the IFC is damaged ({type(error).__name__}: {str(error)[:100]})."
        raise FileError(what, path, "Export it again.") from None


class _Reader:
    """One file being read into a project."""

    def __init__(self, file: Any, name: str, progress: Progress | None) -> None:
        self.file, self.name, self.progress = file, name, progress
        self.source = Source(file)
        self.report = self.source.report
        projects = file.by_type("IfcProject")
        title = (projects[0].Name if projects else None) or "From IFC"
        imperial = any(abs(self.source.scale - s) < 1e-6 for s in (304.8, 25.4))
        base = new_project(title, Units.IMPERIAL if imperial else Units.METRIC)
        base = msgspec.structs.replace(base, levels=self.source.levels() or base.levels)
        self.base = check(msgspec.structs.replace(base, grids=read_grids(self.source, base)))
        """Levels, grids and build-ups: what a wall is checked against."""
        self.walls = Walls(self.source, self.base)
        self.columns = Columns(self.source, self.base)
        self.references = References(self.source)

    def read(self) -> tuple[Project, Report]:
        """Build the project."""
        work: list[tuple[Callable[[Any], None], Any]] = [(self._wall, w) for w in self.file.by_type("IfcWall")]
        work += [(self._column, c) for c in self.file.by_type("IfcColumn")]
        for kind, why in _SHOWN.items():
            work += [(partial(self._outline, why), thing) for thing in self._of(kind)]
        slabs = [s for kind in ("IfcSlab", "IfcRoof") for s in self.file.by_type(kind) if not self.source.derived(s)]
        work += [(self._hole, r.RelatedOpeningElement) for s in slabs for r in s.HasOpenings or ()]
        seen = {thing.id() for _, thing in work}
        for i, (take, thing) in enumerate(work):
            if self.progress is not None and i % 10 == 0 and not self.progress(i, len(work)):
                raise Stopped
            try:
                take(thing)
            except NotHeld as why:
                self.source.leave(thing, str(why))
            except Exception as error:
                reason = f"what the file says of it could not be read ({type(error).__name__}: {str(error)[:100]})"
                self.source.leave(thing, reason)
        self._tell_the_rest(seen | self.references.parts)
        project = msgspec.structs.replace(
            self.base,
            buildups=tuple(self.walls.buildups),
            walls=tuple(self.walls.walls),
            openings=tuple(self.walls.openings),
            columns=tuple(self.columns.columns),
            references=tuple(self.references.references),
        )
        before = project
        project = meet_at_corners(project, dict.fromkeys([*self.walls.loose, *_crossing(project)]))
        self._tell_moved(before, project)
        project = check(self._without_crossings(project))
        for what in ("walls", "openings", "columns", "references"):
            self.report.took(what, len(getattr(project, what)))
        self.report.ids = {
            "levels": [global_id(s) for s in self.file.by_type("IfcBuildingStorey") if s.id() in self.source.storeys],
            "axes": [global_id(g) for g in self.file.by_type("IfcGrid")],
            "walls": [w.source for w in project.walls],
            "openings": [o.source for o in project.openings],
            "columns": [c.source for c in project.columns],
            "references": [r.source for r in project.references],
        }
        return msgspec.structs.replace(project, reading=reading_of(project, self.name)), self.report

    def _of(self, kind: str) -> list[Any]:
        """Return the things of a kind; older schemas have none of some."""
        try:
            return list(self.file.by_type(kind))
        except RuntimeError:
            return []

    def _tell_moved(self, before: Project, after: Project) -> None:
        """Report walls whose ends were brought to their corners."""
        was = by_id(before.walls)
        for wall in after.walls:
            old = was[wall.id]
            if old is wall:
                continue
            moved = max(
                distance(locate(getattr(wall, end), after.grids), locate(getattr(old, end), before.grids))
                for end in ("start", "end")
            )
            if moved > 1.0:
                why = f"an end was moved by {moved:.0f} mm to the corner there"
                self.report.approximated.append((wall.source, "IfcWall", wall_label(after, wall.id), why))

    def _wall(self, made: Any) -> None:
        if made.is_a() == "IfcWall" and self.source.derived(made):
            raise NotHeld("a foundation wall; Balken derives these from a foundation")
        try:
            self.walls.take(made)
        except NotHeld as why:
            for relation in made.HasOpenings or ():
                self.source.leave(relation.RelatedOpeningElement, "its wall was not taken over as a wall")
            self._shown_instead(made, str(why))

    def _column(self, made: Any) -> None:
        if self.source.derived(made):
            raise NotHeld("Balken derives these itself")
        try:
            self.columns.take(made)
        except NotHeld as why:
            self._shown_instead(made, str(why))

    def _shown_instead(self, made: Any, why: str) -> None:
        """Take what no record can hold as an outline; what has no shape either is left out for the first reason."""
        try:
            self.references.take(made, f"{why}; shown as an outline")
        except (NotHeld, *READ_ERRORS):
            raise NotHeld(why) from None

    def _outline(self, why: str, made: Any) -> None:
        if self.source.derived(made):
            raise NotHeld("Balken derives these itself")
        if made.id() not in self.references.parts:
            self.references.take(made, why)

    def _hole(self, made: Any) -> None:
        """Take an opening in a slab or roof as an outline, which floors and roofs can leave out."""
        windows = any(r.RelatedBuildingElement.is_a("IfcWindow") for r in made.HasFillings or ())
        self.references.take(made, "an opening in a slab; shown as an outline, to be left out of floors and roofs")
        if windows:
            self.references.call_last("window")

    def _tell_the_rest(self, seen: set[int]) -> None:
        """Report all other parts of the building as left out."""
        kind = "IfcBuiltElement" if self.file.schema.upper().startswith("IFC4X3") else "IfcBuildingElement"
        for thing in self.file.by_type(kind):
            if thing.id() in seen:
                continue
            if thing.is_a("IfcDoor") or thing.is_a("IfcWindow"):
                if not thing.FillsVoids:
                    self.source.leave(thing, "it fills no opening of a wall")
                continue
            derived = any(thing.is_a(known) for known in _DERIVED)
            self.source.leave(thing, "Balken derives these itself" if derived else "Balken does not hold such things")

    def _without_crossings(self, project: Project) -> Project:
        """Leave out outside walls that cross others, which no building has."""
        gone: set[str] = set()
        for first, second in crossing_walls(project):
            if first in gone or second in gone:
                continue
            wall = by_id(project.walls)[first]
            gone.add(first)
            other = by_id(project.walls)[second]
            self.report.left_out.append(
                (
                    wall.source,
                    "IfcWall",
                    wall_label(project, first),
                    f"it crosses another outside wall ({other.source})",
                )
            )
        return msgspec.structs.replace(
            project,
            walls=tuple(w for w in project.walls if w.id not in gone),
            openings=tuple(o for o in project.openings if o.wall not in gone),
        )


def _crossing(project: Project) -> list[str]:
    """Return the walls that cross others: most do so at corners, by half their thickness."""
    return [wall for pair in crossing_walls(project) for wall in pair]


def reading_of(project: Project, name: str) -> Reading:
    """Return what was read, to compare the next reading of the same file with."""
    return Reading(
        file=name,
        levels=project.levels,
        grids=project.grids,
        buildups=project.buildups,
        walls=project.walls,
        openings=project.openings,
        columns=project.columns,
        references=project.references,
    )
