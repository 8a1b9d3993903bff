"""What the drawing tools will make next: kept while the program runs, shown in the card."""

from msgspec import Struct

from balken.model.lookup import listed
from balken.model.records import Hang, Project, SetOut, WallRole
from balken.model.unit_defaults import metric
from balken.units import Units
from balken.units.system import FOOT

FITTED = {"width", "height", "sill", "drop"}
"""Settings that are lengths."""


class WallSettings(Struct):
    """The next walls: build-up, set-out line, role, foot and head."""

    buildup: str = "framed-2x6"
    set_out: SetOut = "core outside"
    role: WallRole = "outside"
    foot: Hang | None = None
    head: Hang | None = None

    def heights(self, project: Project, storey: str) -> tuple[Hang, Hang]:
        """Return foot and head: as chosen, or the storey's level and the plate or next level above."""
        foot = self.foot or Hang(level=storey)
        if self.head is not None:
            return foot, self.head
        base = next((v.height for v in project.levels if v.id == foot.level), 0.0)
        above = sorted(
            (v for v in listed(project.levels) if v.height > base + 1000.0 and v.role in ("plate", "floor", "other")),
            key=lambda v: v.height,
        )
        if above:
            return foot, Hang(level=above[0].id)
        return foot, Hang(level=foot.level, offset=8.0 * FOOT if project.steps is Units.IMPERIAL else 2400.0)


class OpeningSettings(Struct):
    """The next opening."""

    kind: str = "window"
    width: float = 4.0 * FOOT
    height: float = 4.0 * FOOT
    sill: float = 3.0 * FOOT


class Settings(Struct):
    """All tool settings."""

    wall: WallSettings
    opening: OpeningSettings
    box_inside: bool = False
    """Whether a box takes only what lies wholly inside it."""
    ground: float = 0.0
    """The height given to the last spot of the ground."""
    drop: float = 1.0 * FOOT
    """The drop of the last step."""
    placing: str = ""
    """The grid or base drawing being placed by two points."""

    def fit(self, steps: Units) -> None:
        """Take round figures of a project's units where they are still those of the other ones."""
        for kept, fresh in ((self.opening, OpeningSettings()), (self, Settings.fresh())):
            for name in FITTED & set(fresh.__struct_fields__):
                feet = getattr(fresh, name)
                here, there = (feet, metric(feet)) if steps is Units.METRIC else (metric(feet), feet)
                if getattr(kept, name) == here:
                    setattr(kept, name, there)

    @staticmethod
    def fresh() -> "Settings":
        """Return defaults."""
        return Settings(WallSettings(), OpeningSettings())
