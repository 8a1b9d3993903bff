"""Boards and beams pressed along themselves, by ANSI/AWC NDS 2018, 3.6.3 and 3.7.1: ridges between hips, hips that lean."""

from balken.catalog.beams import BeamSection, cut_section
from balken.loads.cases import Cases
from balken.standards.checks import Check, worst_of
from balken.standards.measures import working
from balken.standards.us.asce7 import ASD
from balken.standards.us.engineered import GLULAM_FC, VENEER_FC, engineered
from balken.standards.us.stability import stability_factor
from balken.standards.us.values import reference_values, size_factors


def pressed(size: str, wood: tuple[str, str], length: float, push: Cases) -> Check:
    """Return fc <= Fc' (NDS 3.6.3, 3.7.1) of a board of a species and grade that buckles over its least side between what holds it."""
    lumber = cut_section(size)
    fc_plain, e_min = pressed_values(lumber, *wood)
    rows = []
    for combo in ASD.true_of(push):
        star = fc_plain * combo.duration
        allowed = (
            star * stability_factor(star, e_min, length, min(lumber.breadth, lumber.depth)) if star > 0.0 else 1e-6
        )
        force = max(combo.of(push), 0.0)
        lines = (
            working(
                "P = {}, le/d = {}",
                (force / 1000.0, "force"),
                (length / min(lumber.breadth, lumber.depth), "slenderness"),
            ),
        )
        rows.append(Check("compression", "NDS 3.6.3, 3.7.1", force / lumber.area, allowed, "stress", combo.name, lines))
    return worst_of(rows)


def pressed_values(lumber: BeamSection, species: str, grade: str, outdoors: bool = False) -> tuple[float, float]:
    """Return Fc before load duration and stability (0: of a list that does not say it), and Emin, N/mm2."""
    if lumber.board is not None:
        values = reference_values(species, grade, lumber.board, outdoors)
        return values.fc * size_factors(species, grade, lumber.board)[2], values.e_min
    known = VENEER_FC if lumber.kind == "laminated veneer" else GLULAM_FC
    return known if lumber.own is None else 0.0, engineered(lumber).e_turning
