"""Beams of one's own lists: with the figures of those that ship they check alike; chosen among, carried, refused in words."""

import pytest
from msgspec.structs import astuple, replace
from tests.design.test_own_lists import written
from tests.loads.test_beams import with_girder

from balken.catalog import own_beams
from balken.catalog.beams import STEEL, beam_section, glulam, veneer
from balken.derive import derive
from balken.design.beams import with_own_weight
from balken.exchange.file_errors import FileError
from balken.exchange.product_list import read_products
from balken.exchange.project_file import from_bytes, to_bytes
from balken.loads.cases import Cases
from balken.model import edits
from balken.model.errors import EditError
from balken.model.list_edits import take_beams, take_list
from balken.standards.demands import GirderCase, Limit
from balken.standards.us.engineered import GLULAM, VENEER
from balken.standards.us.girders import check_girder, girder_values
from balken.units.system import FOOT, PSI

HEAD = ",".join(own_beams.HEADINGS)
WEAK = "Oak Hill 1.9,LVL,1.75,11.875,2400,2400,280,700,1900000,960000,0.12,4"
STRONG = "Oak Hill 2.1,LVL,1.75,14,3100,3100,290,750,2100000,1070000,0.12,9"
STEEL_HEAD = ",".join(own_beams.STEEL)
SHAPE = "Mill 8x18,8.14,0.230,5.25,0.330,0.630,5.26,61.9,15.2,17.0,1.23,1.43,0.172,18,25"


def case(size, **fields):
    q = Cases(dead=2.0, live=5.0)
    made = GirderCase("beam", size, "DF-L", "No. 2", 6000.0, (0.0, 3500.0, 6000.0), (89.0, 89.0, 89.0),
                      ((0.0, 6000.0, q, q),), ((1200.0, Cases(dead=900.0, live=2500.0)),), 400.0, False, True, Limit(360.0, "-"), Limit(240.0, "-"))  # fmt: skip
    return with_own_weight(replace(made, **fields))


def wooden(name, word, section, values):
    wood = own_beams.WoodValues(values.fb, values.fb_hogging, values.fv, values.fc_perp, values.e, values.e_turning,
                                values.depth_exponent)  # fmt: skip
    own_beams.know(own_beams.OwnBeam(name, word, section.breadth, section.depth, 10.0, wood))


def same(one, other):
    got, known = (check_girder(case(size)) for size in (one, other))
    assert got.used == pytest.approx(known.used, rel=1e-9)
    assert got.moments == pytest.approx(known.moments)
    for a, b in zip(got.result.checks, known.result.checks, strict=True):
        assert (a.name, a.capacity) == (b.name, pytest.approx(b.capacity, rel=1e-9))


def test_with_the_figures_of_those_that_ship_they_check_alike():
    wooden("Same LVL", "LVL", veneer(1, 11.875), VENEER)
    same("2-Same LVL", "LVL 2-1.75x11.875")
    wooden("Same GLB", "GLB", glulam(5.125, 12.0), GLULAM)
    same("Same GLB", "GLB 5.125x12")
    shape = STEEL["W8x18"].shape
    own_beams.know(own_beams.OwnBeam("Same 8x18", "W", shape.width, shape.depth, 10.0, shape=shape))
    same("Same 8x18", "W8x18")


def test_values_and_depth_factor_are_those_of_the_list(tmp_path):
    """Fb of 3,100 psi 14 in deep, exponent 0.12: 3,100 (12/14)^0.12 = 3,043 psi at normal duration, held all along."""
    own_beams.know(read_products(written(tmp_path, HEAD, STRONG))[1][0])
    result = check_girder(case("2-Oak Hill 2.1", held=0.0)).result
    sagging = next(c for c in result.checks if c.name.startswith("bending") and "hogging" not in c.name)
    assert sagging.capacity == pytest.approx(3043.2 * PSI, rel=1e-3)
    assert girder_values(case("2-Oak Hill 2.1"))[0][0] == "list of the project"


def test_the_cheapest_of_the_list_that_works_is_taken(tmp_path):
    noun, rows = read_products(written(tmp_path, "# mine", HEAD, WEAK, STRONG))
    assert noun == "beams"
    p = edits.change(with_girder(), "beam-1", made_of="LVL", size=None)
    model = derive(take_list(p, rows))
    made = model.girders["beam-1"]
    assert made.section.own is not None
    assert made.works
    prices = {4.0: "Oak Hill 1.9", 9.0: "Oak Hill 2.1"}
    assert made.section.own.name in prices.values()
    # None cheaper works: each tried by itself.
    costs = {
        name: price * n / FOOT * 1000.0 for price, one in prices.items() for n in (2, 3, 4) for name in [f"{n}-{one}"]
    }
    for name, cost in costs.items():
        if cost < costs[made.section.name] - 1e-9:
            assert not derive(edits.change(take_list(p, rows), "beam-1", size=name)).girders["beam-1"].works, name
    # Given back, those that ship are chosen among again.
    again = derive(take_beams(take_list(p, rows), (), steel=False)).girders["beam-1"]
    assert again.section.own is None


def test_in_mm_and_steel(tmp_path):
    b = read_products(written(tmp_path, HEAD, STRONG))[1][0]
    w = b.wood
    line = ("Oak Hill 2.1,LVL", b.breadth, b.depth, *astuple(w), b.price)
    metric = read_products(written(tmp_path, ",".join(own_beams.METRIC), ",".join(map(str, line))))[1][0]
    assert metric.figures == pytest.approx(b.figures)
    noun, (shape,) = read_products(written(tmp_path, STEEL_HEAD, SHAPE))
    assert noun == "W shapes"
    assert astuple(shape.shape) == pytest.approx(astuple(STEEL["W8x18"].shape))


def test_they_go_with_the_project_and_both_lists_stand_side_by_side(tmp_path):
    p = take_list(with_girder(), read_products(written(tmp_path, HEAD, WEAK, STRONG))[1])
    p = take_list(p, read_products(written(tmp_path, STEEL_HEAD, SHAPE))[1])
    assert [beam.made_of for beam in p.own_beams] == ["LVL", "LVL", "W"]
    p = edits.change(p, "beam-1", made_of="LVL", size="3-Oak Hill 2.1")
    assert from_bytes(to_bytes(p)) == p
    # The same name with other figures, as another file may have it, gets a name of its own, and the beam keeps to it.
    other = from_bytes(to_bytes(p).replace(b'"depth_exponent": 0.12', b'"depth_exponent": 0.11'))
    assert other.beams[0].size == "3-Oak Hill 2.1 (2)"
    assert beam_section(other.beams[0].size).own.wood.depth_exponent == 0.11
    derive(other)
    with pytest.raises(EditError, match="not in the list"):
        take_list(p, read_products(written(tmp_path, HEAD, WEAK))[1])
    # A list of steel leaves the wood alone.
    assert [b.made_of for b in take_beams(p, (), steel=True).own_beams] == ["LVL", "LVL"]


@pytest.mark.parametrize(
    ("lines", "says"),
    [
        ((HEAD,), "no beam"),
        ((HEAD, "x,LVL,1"), "line 2 must hold"),
        ((HEAD, WEAK.replace("LVL", "PSL")), "must be LVL or GLB"),
        ((HEAD, WEAK, WEAK), "second time"),
        ((HEAD, WEAK.replace("2400,2400", "2400,2600")), "hogging above sagging"),
        ((HEAD, WEAK.replace("1900000,960000", "1900,960")), "Fb above E/100"),
        ((HEAD, WEAK.replace("Oak Hill 1.9", "LVL 1.9E")), "maker's before it"),
        ((HEAD, WEAK.replace("Oak", "2-Oak")), "does not begin"),
        ((HEAD, WEAK.replace("0.12", "nan")), "exponent"),
        ((STEEL_HEAD, SHAPE.replace("61.9", "6190")), "half its depth"),
        ((STEEL_HEAD, SHAPE.replace("5.26", "52.6")), "do not go with its sides"),
    ],
)
def test_a_wrong_list_says_what_and_where(tmp_path, lines, says):
    with pytest.raises(FileError, match=says):
        read_products(written(tmp_path, *lines))
