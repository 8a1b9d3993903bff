"""All rules that look for findings, run in one order."""

from balken.derived.finding import Finding
from balken.derived.model import Model
from balken.findings.beam_rules import BEAM_RULES
from balken.findings.break_rules import BREAK_RULES
from balken.findings.buildup_rules import BUILDUP_RULES
from balken.findings.cut_rules import CUT_RULES
from balken.findings.deck_rules import DECK_RULES
from balken.findings.dormer_rules import DORMER_RULES
from balken.findings.eave_rules import EAVE_RULES
from balken.findings.edit_rules import EDIT_RULES
from balken.findings.floor_rules import FLOOR_RULES
from balken.findings.foundation_rules import FOUNDATION_RULES
from balken.findings.frame_rules import FRAME_RULES
from balken.findings.gable_brace_rules import GABLE_BRACE_RULES
from balken.findings.ledger_rules import LEDGER_RULES
from balken.findings.masonry_rules import MASONRY_RULES
from balken.findings.overhang_rules import OVERHANG_RULES
from balken.findings.post_rules import POST_RULES
from balken.findings.raftered_end_rules import RAFTERED_END_RULES
from balken.findings.roof_rules import ROOF_RULES
from balken.findings.seat_rules import SEAT_RULES
from balken.findings.slab_rules import SLAB_RULES
from balken.findings.stair_rules import STAIR_RULES
from balken.findings.truss_rules import TRUSS_RULES
from balken.findings.veneer_rules import VENEER_RULES
from balken.findings.wind_rules import WIND_RULES


def all_findings(c: Model) -> tuple[Finding, ...]:
    """Run every rule; graver findings first, then in the order of the work."""
    order = ("set out", "walls", "foundations", "floors", "roof", "check", "sheets")
    found = [
        finding
        for rule in (
            *FRAME_RULES,
            *WIND_RULES,
            *BUILDUP_RULES,
            *VENEER_RULES,
            *MASONRY_RULES,
            *FOUNDATION_RULES,
            *DECK_RULES,
            *FLOOR_RULES,
            *ROOF_RULES,
            *DORMER_RULES,
            *OVERHANG_RULES,
            *GABLE_BRACE_RULES,
            *RAFTERED_END_RULES,
            *LEDGER_RULES,
            *EAVE_RULES,
            *SEAT_RULES,
            *BREAK_RULES,
            *TRUSS_RULES,
            *SLAB_RULES,
            *STAIR_RULES,
            *CUT_RULES,
            *POST_RULES,
            *BEAM_RULES,
            *EDIT_RULES,
        )
        for finding in rule(c)
    ]
    return tuple(sorted(found, key=lambda f: (not f.grave, order.index(f.stage))))
