"""Members are named by their place: what comes, goes or moves elsewhere renames nobody else."""

from collections import Counter

from hypothesis import given
from hypothesis import strategies as st
from tests.houses import house
from tests.shop import shop

from balken.derive import derive
from balken.exchange.former_names import former_names
from balken.model import edits, wall_edits
from balken.model.errors import EditError
from balken.model.naming import MemberPlace, Places, piece_name, place_at, place_in
from balken.units.system import FOOT, INCH


def sticks(model, wall, *roles):
    """Return the middles of a wall's sticks by name."""
    pieces = model.framed[wall].pieces
    return {p.key: tuple(round(c, 3) for c in p.start) for p in pieces if not roles or p.role in roles}


@given(
    st.text("ab-1<>^_", min_size=1, max_size=8),
    st.integers(-900, 90_000),
    st.lists(st.sampled_from(["wall-1", "foundation-1/wall-2", ""]), max_size=2),
    st.integers(0, 12),
)
def test_a_place_is_read_back_from_a_name(datum, at, between, which):
    place = MemberPlace(datum, at, tuple(between) if any(between) else (), which)
    assert place_in(piece_name("floor-1", "joist", place.text)) == place


def test_names_of_old_hold_no_place():
    assert place_in("foundation-1/wall-1/footing") is None
    assert place_in("floor-1") is None


@given(st.integers(0, 4000), st.floats(-1e-4, 1e-4))
def test_sixteenths_and_millimetres_never_fall_between_two_places(n, off):
    """What is worked out a hair more or less has the same name."""
    for exact in (n * INCH / 16.0, float(n), n * 2.5 * INCH):
        assert place_at("start", exact + off) == place_at("start", exact)


def test_several_at_one_place_differ():
    places = Places()
    texts = [places.text("stud", place_at("start", 400.0)) for _ in range(3)]
    assert len(set(texts)) == 3
    assert texts[0] == place_at("start", 400.0).text


@given(st.floats(1.0, 12.0), st.floats(2.0, 5.0))
def test_a_window_more_renames_no_other_stud(at, width):
    p = house()
    before = sticks(derive(p), "wall-1")
    try:
        q = edits.add_opening(p, "wall-1", "window", at * FOOT, width * FOOT, 4 * FOOT, 2.5 * FOOT)
    except EditError:
        return
    after = sticks(derive(q), "wall-1")
    # A stud that stands where it stood is called what it was called; only plates may be cut otherwise.
    was = {where: name for name, where in before.items() if "plate" not in name}
    now = {where: name for name, where in after.items() if "plate" not in name}
    stayed = was.keys() & now.keys()
    assert all(was[where] == now[where] for where in stayed if "stud" in was[where] and "/stud/" in now[where])
    assert sum("/stud/" in was[where] for where in stayed) > 5


def test_a_wall_made_longer_keeps_its_studs():
    p = house()
    model = derive(p)
    longer = derive(wall_edits.drag_walls(p, ("wall-2",), 4 * FOOT, 0.0))
    for wall in ("wall-1", "wall-4"):
        a, b = sticks(model, wall, "stud"), sticks(longer, wall, "stud")
        moved_end = {name for name in a if "/end+" in name or "tee" in name}
        assert set(a) - moved_end <= set(b)


def test_a_floor_made_longer_keeps_its_joists():
    p = shop()
    names = {line.place for line in derive(p).floors[0].lines}
    longer = wall_edits.drag_walls(p, ("wall-2",), 4 * FOOT, 0.0)
    after = {line.place for line in derive(longer).floors[0].lines}
    last = max(place_in(f"f/joist/{name}").at for name in names)
    kept = {name for name in names if place_in(f"f/joist/{name}").at < last - 10}
    assert kept <= after


def test_all_names_differ(demo_model):
    names = [piece.key for group in demo_model.groups for piece in group]
    names += [piece.key for wall in demo_model.framed.values() for piece in wall.pieces]
    assert [name for name, n in Counter(names).items() if n > 1] == []
    former = former_names(demo_model)
    assert len(set(former.values())) == len(former)
    assert former.keys() <= demo_model.pieces.keys()
