"""How the plies of beams are nailed together, by what hangs on each of their faces."""

from balken.design.girders import GirderDesign
from balken.design.hangers import Hung
from balken.framing.beams import BeamLine
from balken.geometry.plane import off_line
from balken.standards.demands import PlyNails
from balken.standards.standard import Standard


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
