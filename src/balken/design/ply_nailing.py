"""How the plies of beams and girder trusses are nailed together, by what hangs on each of their faces."""

from balken.catalog.sections import section
from balken.design.girders import GirderDesign
from balken.design.hangers import Hung
from balken.design.roof_trusses import TrussMake
from balken.framing.beams import BeamLine
from balken.geometry.plane import off_line
from balken.model.naming import piece_name
from balken.standards.demands import PlyNails
from balken.standards.standard import Standard


def girder_nailing(roof: str, make: TrussMake, hangers: tuple[Hung, ...], standard: Standard) -> PlyNails | None:
    """Return how the plies of a truss's bottom chord are nailed: by what hangs on its face, all on one, taken as even along it."""
    frame = make.design.frame
    if frame.sizes.plies < 2:
        return None
    names = [piece_name(roof, "truss", number) for number in make.numbers]
    most = max(sum(max(one.most, 0.0) for one in hangers if one.on == name) for name in names)
    lumber = section(frame.sizes.bottom)
    species = make.design.job.wood.species
    return standard.ply_nails(
        species, frame.sizes.plies, lumber.breadth, lumber.depth, (most / frame.outline.span, 0.0)
    )


def nailing_of(line: BeamLine, design: GirderDesign, hangers: tuple[Hung, ...], standard: Standard) -> PlyNails | None:
    """Return how a beam's plies are nailed; what hangs on a face is taken as even along it.  None for one in one piece."""
    section = design.section
    if section.plies < 2 or section.shape is not None:
        return None
    sides = [0.0, 0.0]
    for one in hangers:
        if one.on == line.id:
            aside = off_line(one.at[:2], line.start, line.end)[1]
            sides[0 if aside > 0.0 else 1] += max(one.most, 0.0) / line.length
    ply = section.breadth / section.plies
    return standard.ply_nails(line.beam.species, section.plies, ply, section.depth, (sides[0], sides[1]))
