"""What lifts at a bearing: no hold-down is designed, so that it is named, never taken as held."""

from balken.standards.checks import Check


def uplift_check(force: float, combination: str) -> Check:
    """Return the check of what lifts at a bearing (N): nothing is designed yet that holds it down."""
    return Check(
        "uplift at the bearing", "statics: no hold-down is designed", force / 1000.0, 0.0, "force", combination
    )
