"""Combined footings: statics of the beam in closed form and by its own balance, soil pressed evenly."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.houses import house

from balken.derive import derive
from balken.design.combined_footings import design_combined
from balken.loads.cases import Cases
from balken.model import edits
from balken.model.errors import EditError
from balken.model.records import FreePoint, Hang, Pad
from balken.standards.ground import CombinedCase, FootingError
from balken.standards.us.combined_case import beam
from balken.standards.us.standard import US
from balken.units import Units
from balken.units.system import FOOT, INCH, POUND_FORCE, PSF, PSI

KIP = 1000 * POUND_FORCE


def case(p1, p2, apart=6 * FOOT, bearing=2000 * PSF):
    loads = (Cases(dead=0.5 * p1, live=0.5 * p1), Cases(dead=0.5 * p2, live=0.5 * p2))
    return CombinedCase(loads, (12 * INCH, 12 * INCH), apart, bearing, 3000 * PSI, 60_000 * PSI)


@given(st.floats(5.0, 80.0), st.floats(5.0, 80.0), st.floats(1500.0, 4000.0))
def test_the_beam_balances_and_the_soil_is_pressed_evenly(a, b, apart):
    c = case(a * KIP, b * KIP, apart)
    try:
        made = design_combined(US, c, Units.IMPERIAL)
    except FootingError:
        return
    before, length = made.before, made.length
    _, shear, moment = beam(c, before, length, (a * KIP, b * KIP))
    assert abs(shear[-1]) < 1e-6 * (a + b) * KIP
    middle = before + apart * b / (a + b)
    assert middle == pytest.approx(length / 2.0)
    assert abs(moment[-1]) < 1e-6 * (a + b) * KIP * length
    assert made.design.pressure <= 2000 * PSF * (1 + 1e-9)
    assert np.all(np.isfinite(moment))


def test_equal_columns_in_closed_form():
    """P each at a quarter of L from the ends: w = 2P/L, M at a column's middle = w a^2/2 less its own spread."""
    c = case(40 * KIP, 40 * KIP, 6 * FOOT)
    length = 12 * FOOT
    x, _, moment = beam(c, 3 * FOOT, length, (40 * KIP, 40 * KIP))
    w = 80 * KIP / length
    face = 3 * FOOT - 6 * INCH
    i = int(np.argmin(np.abs(x - face)))
    assert moment[i] == pytest.approx(w * x[i] ** 2 / 2.0, rel=1e-6)
    centre = moment[len(x) // 2]
    assert centre == pytest.approx(w * (length / 2) ** 2 / 2.0 - 40 * KIP * 3 * FOOT, rel=1e-6, abs=1.0)


def test_overlapping_pads_are_made_one_by_the_finding():
    p = edits.add_level(house(), "level-1", -4 * FOOT, "Pads", "top of footing")
    for i, x in ((1, -6000.0), (2, -6900.0)):
        pad = Pad(
            id=f"pad-{i}",
            place=FreePoint(x=x, y=0.0),
            top=Hang(level="level-6"),
            head=Hang(level="level-1"),
            dead=30 * KIP,
            live=i * 30 * KIP,
        )
        p = edits.add(p, pad)
    model = derive(p)
    finding = next(f for f in model.findings if f.code == "pads overlap")
    q = edits.change(p, *finding.fix.args, **dict(finding.fix.fields))
    joined = derive(q)
    assert not any(f.code == "pads overlap" for f in joined.findings)
    (result,) = joined.pads.values()
    assert result.combined
    assert result.design.works
    assert result.design.length > result.design.width or result.design.length > 900.0
    assert sum(v.role == "pad footing" for v in joined.pieces.values()) == 1
    assert sum(v.role == "pier" for v in joined.pieces.values()) == 2
    assert joined.path.arrived.all == pytest.approx(joined.path.applied.all, rel=1e-9)
    piece = next(v for v in joined.pieces.values() if v.role == "pad footing")
    assert piece.volume == pytest.approx(result.design.width * result.design.length * result.design.thickness)
    with pytest.raises(EditError, match="joined"):
        edits.change(q, "pad-1", joined="pad-2" if finding.fix.args[0] == "pad-2" else "pad-1")
    assert all(not v.joined for v in edits.remove(q, "pad-2").pads)
