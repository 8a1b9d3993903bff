"""The sheets of rafter templates."""

from balken.derived.model import Model
from balken.documents.paper import flowed_sheets
from balken.documents.rafter_templates import SCALE, draw_template, rafter_templates
from balken.documents.sheet import Sheet


def roof_sheets(model: Model) -> list[Sheet]:
    """Lay the templates of all rafters, hips and valleys out on as many sheets as it takes."""
    found = rafter_templates(model)
    rows = [(one.mark, draw_template(model, one, SCALE[model.units])) for one in found]
    return flowed_sheets(model, rows, "R", "roof", lambda _: "Rafter templates")
