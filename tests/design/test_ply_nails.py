"""Plies nailed together: the nail's value by its yield modes, what goes from ply to ply, rows and spacing."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.design.test_hangers import with_flush_beam

from balken.derive import derive
from balken.design.ply_nailing import nailing_of
from balken.model import edits
from balken.standards.us.ply_nails import CLOSEST, DIAMETER, handed_on, nail_value, ply_nails
from balken.units.system import FOOT, INCH, PLF, POUND_FORCE


@pytest.mark.parametrize(
    ("species", "pounds"), [("Southern Pine", 154), ("DF-L", 141), ("Hem-Fir", 122), ("S-P-F", 120)]
)
def test_a_nail_by_table_12n(species, pounds):
    """16d common, side member 1 1/2 in (NDS Table 12N, from memory), for ten diameters of penetration: 1.5/1.62 of it in a ply."""
    full = nail_value(species, 1.5 * INCH) / min(1.5 * INCH / (10.0 * DIAMETER), 1.0)
    assert full / POUND_FORCE == pytest.approx(pounds, abs=1.0)
    assert nail_value(species, 1.75 * INCH) > nail_value(species, 1.5 * INCH)


@given(a=st.floats(0.0, 50.0), b=st.floats(0.0, 50.0), plies=st.integers(2, 4))
def test_what_goes_from_ply_to_ply(a, b, plies):
    """Every ply takes as much: what enters at one face less what the plies before have taken, walked through one by one."""
    each, flows, carried = (a + b) / plies, [], a
    for _ in range(plies - 1):
        carried -= each
        flows.append(abs(carried))
    assert handed_on((a, b), plies) == pytest.approx(max(flows))
    assert handed_on((a, a), 2) == pytest.approx(0.0, abs=1e-9)
    assert handed_on((a, 0.0), 3) == pytest.approx(2.0 * a / 3.0)


def test_rows_and_spacing_by_hand():
    """Three 2x12 of DF-L with 600 lb/ft on one face: 400 lb/ft go on; 130.6 lb a nail, three rows: 11.75 in, so 11."""
    made = ply_nails("DF-L", 3, 1.5 * INCH, 11.25 * INCH, (600.0 * PLF, 0.0))
    each = nail_value("DF-L", 1.5 * INCH) / POUND_FORCE
    assert made.flow / PLF == pytest.approx(400.0)
    assert made.text.startswith(f'3 rows of 16d common, {int(3 * each / 400.0 * 12.0)}"')
    assert made.works
    heavy = ply_nails("DF-L", 2, 1.5 * INCH, 9.25 * INCH, (3000.0 * PLF, 0.0))
    assert not heavy.works
    assert "bolts" in heavy.text
    assert CLOSEST == 4.0 * INCH
    assert ply_nails("DF-L", 1, 1.5 * INCH, 9.25 * INCH, (3000.0, 0.0)) is None
    assert ply_nails("DF-L", 2, 1.5 * INCH, 9.25 * INCH, (0.0, 0.0)).clause == "IRC Table R602.3(1)"


def test_a_flush_beam_in_a_house():
    """Joists of 10 ft at both faces balance, but for the last ply's half; taken off one side, the plies must hand on half."""
    p = edits.change(with_flush_beam(), "beam-1", made_of="LVL", size="LVL 2-1.75x16")
    model = derive(p)
    made = model.path.beams["beam-1"]
    both = nailing_of(made.line, made.design, model.hangers, model.standard)
    one_side = tuple(h for h in model.hangers if h.at[1] < 10 * FOOT)
    one = nailing_of(made.line, made.design, one_side, model.standard)
    assert both.flow < 0.05 * one.flow
    hung = sum(h.most for h in one_side) / made.line.length
    assert one.flow == pytest.approx(hung / 2.0)
