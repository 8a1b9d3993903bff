"""The decks of a model's roofs, held against what carries them."""

from balken.derived.model import Model
from balken.design.roof_decks import RoofDeck, roof_deck
from balken.model.records import Roof


def roof_deck_of(model: Model, roof: Roof) -> RoofDeck | None:
    """Return a roof's deck over its rafters or trusses; None for one that nothing carries."""
    rafters, trusses = model.designs.get((roof.id, "rafters")), model.trusses.get(roof.id)
    row = trusses.row if trusses is not None else None
    rows = (row.spacing if row is not None else 0.0, rafters.spacing if rafters is not None else 0.0)
    spacing = max(rows) if row is None or model.raftered(roof.id) else rows[0]
    if spacing <= 0.0:
        return None
    return roof_deck(roof, spacing, model.snow.get(roof.id), model.project.loads, model.standard)
