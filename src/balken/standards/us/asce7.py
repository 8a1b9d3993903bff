"""Combinations for allowable stress design: ASCE 7-16, 2.4.1, with load duration factors of NDS 2018, Table 2.3.2."""

from balken.loads.cases import Cases, Combination, Combinations

ASD = Combinations(
    (
        Combination("D", Cases(1.0), 0.9),
        Combination("D + L", Cases(1.0, 1.0), 1.0),
        Combination("D + Lr", Cases(1.0, 0.0, 1.0), 1.25),
        Combination("D + S", Cases(1.0, 0.0, 0.0, 1.0), 1.15),
        Combination("D + 0.75 L + 0.75 Lr", Cases(1.0, 0.75, 0.75), 1.25),
        Combination("D + 0.75 L + 0.75 S", Cases(1.0, 0.75, 0.0, 0.75), 1.15),
        Combination("D + 0.6 W", Cases(1.0, 0.0, 0.0, 0.0, 0.6), 1.6),
        Combination("D + 0.75 L + 0.75 Lr + 0.45 W", Cases(1.0, 0.75, 0.75, 0.0, 0.45), 1.6),
        Combination("D + 0.75 L + 0.75 S + 0.45 W", Cases(1.0, 0.75, 0.0, 0.75, 0.45), 1.6),
        Combination("0.6 D + 0.6 W", Cases(0.6, 0.0, 0.0, 0.0, 0.6), 1.6),
    ),
    (
        Cases(live=1.0),
        Cases(roof_live=1.0),
        Cases(snow=1.0),
        Cases(live=0.75, roof_live=0.75),
        Cases(live=0.75, snow=0.75),
    ),
    Cases._fields.index("wind"),
)
"""Combinations 1 to 7 without earthquake.  Wind is a pressure at strength level, so that 0.6 of it acts; it is always the
shortest load.  For sag: each live load alone, and three quarters of two together."""
