"""Lists of products of one's own: I-joists, caps and bases, read, chosen among, carried with the project."""

import pytest
from tests.houses import house
from tests.loads.test_beams import with_girder

from balken.catalog import own_joists, post_fittings
from balken.catalog.sections import section
from balken.derive import derive
from balken.exchange.file_errors import FileError
from balken.exchange.product_list import read_products
from balken.exchange.project_file import from_bytes, to_bytes
from balken.model import edits
from balken.model.errors import EditError
from balken.model.list_edits import take_fittings, take_joists, take_list
from balken.model.records import Choice
from balken.standards.us import i_joists
from balken.units.system import FOOT, INCH, POUND_FORCE

HEAD = ",".join(own_joists.HEADINGS)
LIGHT = "Test light,9.5,2.5,1.5,0.375,193,2735,1120,900,1080,1800,2160,4.94"
HEAVY = "Test heavy,11.875,2.5,1.5,0.375,396,4900,1420,1000,1400,2000,2800,6.18"


def written(tmp_path, *lines):
    path = tmp_path / "list.csv"
    path.write_text("\n".join(lines), encoding="utf-8")
    return path


def joists_of(tmp_path, *lines):
    return read_products(written(tmp_path, HEAD, *lines))[1]


def test_i_joists_are_read_and_chosen_among(tmp_path):
    noun, rows = read_products(written(tmp_path, "# mine", HEAD, LIGHT, HEAVY))
    assert noun == "I-joists"
    assert rows[0].ei == pytest.approx(193e6 * POUND_FORCE * INCH**2)
    p = take_list(house(long=30 * FOOT, wide=15 * FOOT, joists=Choice(made_of="I-joist")), rows)
    model = derive(p)
    design = model.designs[("floor-1", "joists")]
    assert design.size in ("Test light", "Test heavy")
    assert section("2-Test heavy").breadth == 5.0 * INCH
    assert {piece.section for piece in model.of_layouts("joist")} == {design.size}
    # Given back, those that ship with Balken are chosen among again.
    again = derive(take_joists(p, ()))
    assert again.designs[("floor-1", "joists")].size.startswith("PRI")


def test_in_mm_and_kn(tmp_path):
    line = "Test metric,241.3,63.5,38.1,9.525,553.9,3.708,4.982,4.0,4.8,8.0,9.6,21974"
    (row,) = read_products(written(tmp_path, ",".join(own_joists.METRIC), line))[1]
    assert row.depth == pytest.approx(9.5 * INCH)
    assert row.moment == pytest.approx(2735 * POUND_FORCE * FOOT, rel=1e-3)


def test_web_stiffeners_count_where_they_are_listed_and_needed(tmp_path):
    """An end reaction of 1,000 lb on a joist that bears 900 lb plain and 1,080 lb stiffened: 93 %, and they are asked for."""
    own_joists.know(joists_of(tmp_path, LIGHT)[0])
    values = i_joists.tabulated(section("Test light"))
    assert (values.end, values.end_stiffened) == (pytest.approx(900 * POUND_FORCE), pytest.approx(1080 * POUND_FORCE))
    floor = house(long=30 * FOOT, wide=15 * FOOT, joists=Choice(made_of="I-joist", size="Test light", spacing=16 * INCH),
                  floor_live=0.001, floor_dead=0.001)  # fmt: skip
    plain = derive(take_joists(floor, joists_of(tmp_path, LIGHT))).designs[("floor-1", "joists")].result
    assert not plain.notes
    # 2 x 1,000 lb on a span: what lies on it evenly.
    q = 2000 * POUND_FORCE / (15 * FOOT * 16 * INCH) * 1000.0
    heavy = derive(take_joists(edits.set_loads(floor, floor_live=q), joists_of(tmp_path, LIGHT)))
    result = heavy.designs[("floor-1", "joists")].result
    end = next(c for c in result.checks if c.name == "end reaction")
    assert end.capacity * 1e3 == pytest.approx(1080 * POUND_FORCE)
    assert end.demand * 1e3 > 900 * POUND_FORCE
    assert result.notes == ("web stiffeners at its ends",)


def test_they_go_with_the_project(tmp_path):
    p = take_list(house(joists=Choice(made_of="I-joist", size=None)), joists_of(tmp_path, LIGHT, HEAVY))
    p = edits.change(p, "floor-1", joists__size="Test heavy")
    data = to_bytes(p)
    assert from_bytes(data) == p
    # The same name with other figures, as another file may have it, gets a name of its own.
    other = from_bytes(data.replace(b'"moment": 6', b'"moment": 5'))
    assert {j.name for j in other.own_joists} >= {"Test heavy (2)"} or other.own_joists == p.own_joists
    if other.own_joists != p.own_joists:
        assert other.floors[0].joists.size in ("Test heavy", "Test heavy (2)")
    derive(other)


def test_a_list_that_lacks_what_is_used_is_refused(tmp_path):
    p = take_list(house(joists=Choice(made_of="I-joist")), joists_of(tmp_path, LIGHT, HEAVY))
    p = edits.change(p, "floor-1", joists__size="Test heavy")
    with pytest.raises(EditError, match="not in the list"):
        take_joists(p, joists_of(tmp_path, LIGHT))


@pytest.mark.parametrize(
    ("lines", "says"),
    [
        (("name,color", "a,b"), "names no list"),
        ((HEAD,), "holds no I-joist"),
        ((HEAD, "x,1"), "line 2 must hold"),
        ((HEAD, LIGHT.replace("9.5,", "9.3,", 1)), "no rim board"),
        ((HEAD, LIGHT, LIGHT), "second time"),
        ((HEAD, LIGHT.replace("900,1080", "900,800")), "less with web stiffeners"),
        ((HEAD, LIGHT.replace("Test", "3-Test")), "does not begin"),
        ((HEAD, LIGHT.replace("2735", "nan")), "not above zero"),
        ((",".join(post_fittings.HEADINGS), "X,strap,3,3,1,1,1"), "neither cap nor base"),
        ((",".join(post_fittings.HEADINGS), "X,cap,3,0,1,1,1"), "out of bounds"),
        ((",".join(post_fittings.HEADINGS), "X,cap,3,3,0,1,1"), "strength"),
    ],
)
def test_a_wrong_list_says_what_and_where(tmp_path, lines, says):
    with pytest.raises(FileError, match=says):
        read_products(written(tmp_path, *lines))


def test_caps_and_bases_of_ones_own_take_the_place_of_the_made_up_ones(tmp_path):
    lines = [",".join(post_fittings.HEADINGS)]
    lines += [
        f"Mine {use} {w:g},{use},{w},{b},90000,5000,{3 + w}"
        for use in ("cap", "base")
        for w in (3.5, 4.5, 5.5)
        for b in ((3, 3.5, 4.5, 5.25) if use == "cap" else (0,))
    ]
    lines = [line if k == 0 else line.replace(",", f" {k},", 1) for k, line in enumerate(lines)]
    noun, rows = read_products(written(tmp_path, *lines))
    assert noun == "caps and bases"
    model = derive(take_list(with_girder(), rows))
    chosen = {one.fitting for one in model.fittings if one.fitting}
    assert chosen
    assert all(name.startswith("Mine") for name in chosen)
    again = derive(take_fittings(model.project, ()))
    assert not any(one.fitting.startswith("Mine") for one in again.fittings)
