"""The sheets of rafter templates and of trusses."""

from balken.derived.model import Model
from balken.documents.paper import flowed_sheets
from balken.documents.rafter_templates import SCALE, draw_template, rafter_templates
from balken.documents.sheet import Sheet
from balken.documents.truss_drawing import truss_drawings


def roof_sheets(model: Model) -> list[Sheet]:
    """Lay the templates of all rafters, hips and valleys, and the shop drawings of trusses, out on as many sheets as it takes."""
    found = rafter_templates(model)
    rows = [(one.mark, draw_template(model, one, SCALE[model.units])) for one in found]
    trusses = flowed_sheets(model, truss_drawings(model), "roof", lambda _: "Trusses")
    return [*flowed_sheets(model, rows, "roof", lambda _: "Rafter templates"), *trusses]
