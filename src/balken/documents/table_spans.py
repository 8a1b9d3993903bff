"""What span tables say of rafters beside what is worked out: for information, since they know neither drifts nor what stands on a roof."""

from balken.derived.model import Model
from balken.design.layouts import LayoutDesign
from balken.standards.demands import MemberCase
from balken.units import format_area_load, format_inches, format_length


def rafter_table_text(model: Model, design: LayoutDesign) -> str:
    """Return how far the rafters of a layout reach by tables, and how far the governing one does; "" where they have no row for it."""
    case, loads, units = design.result.case, model.project.loads, model.units
    if not isinstance(case, MemberCase) or case.kind != "rafter":
        return ""
    made = model.standard.rafter_table(case, design.spacing, loads.roof_dead, loads.roof_live, loads.ground_snow)
    if made is None:
        return "no row for it"
    snow = f"ground snow {format_area_load(made.snow, units)}" if made.snow else "roof live load alone"
    tie = f", times {made.factor:.2f} for the raised tie" if made.factor < 1.0 else ""
    return (
        f"{format_length(made.length, units, step=1)} at {format_inches(made.spacing, units)} by {made.table} ({snow}, dead "
        f"{format_area_load(made.dead, units)}, L/{made.limit:.0f}{tie}); here {format_length(case.clear, units, step=1)}"
    )
