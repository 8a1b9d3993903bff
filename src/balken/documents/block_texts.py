"""Blocks beside the bearings of trusses, in words."""

from balken.design.trusses import TrussDesign
from balken.units import Units, format_length


def block_texts(made: TrussDesign, units: Units) -> list[str]:
    """Return what blocks a truss has: where, of what, how long, how nailed; those alike together."""
    alike: dict[str, list[str]] = {}
    for one in made.blocks:
        each = "a block" if one.place.count == 1 else "a block on both faces"
        long = format_length(one.place.high - one.place.low, units)
        alike.setdefault(f"{each} {made.frame.sizes.bottom}, {long} long, {one.nails.text}", []).append(one.joint)
    return [f"{' and '.join(joints)}: {text}, tight on the plate" for text, joints in alike.items()]
