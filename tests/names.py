"""Members in tests, found by their number in their layout (as they were once named) rather than by their place."""

from balken.exchange.former_names import former_names


def named(model, former):
    """Return the name of the member that was once called so: ``floor-1/joist/003a`` is the first of the fourth line."""
    return next((name for name, was in former_names(model).items() if was == former), former)


def name_of(entity):
    """Return what Balken calls an element of an IFC file that it wrote."""
    from ifcopenshell.util.element import get_psets

    return get_psets(entity).get("Balken_Names", {}).get("Name", "")
