"""The project file: round trip, damage, other versions; the journal."""

import json
import os
import re
import shutil
import signal
import subprocess
import sys
import time
from pathlib import Path

import msgspec
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.houses import house

from balken.catalog.sections import section
from balken.demo.orchard_road import orchard_road
from balken.derive import derive
from balken.exchange import project_file
from balken.exchange.claims import Claim, compare, stamp
from balken.exchange.file_errors import FileError
from balken.exchange.journal import Journal, discard, leftovers
from balken.exchange.migrations import MIGRATIONS, VERSION
from balken.model import edits
from balken.model.kinds.slab import hole_ring
from balken.model.records import Choice
from balken.units import Units
from balken.units.system import FOOT


def near(a, b):
    """Whether two projects are alike but for less than a millionth of a mm, or of a part of themselves."""

    def same(x, y):
        if isinstance(x, float) and isinstance(y, (int, float)):
            return x == pytest.approx(y, abs=1e-6, rel=1e-9)
        if isinstance(x, dict):
            return x.keys() == y.keys() and all(same(x[k], y[k]) for k in x)
        if isinstance(x, (list, tuple)):
            return len(x) == len(y) and all(same(i, j) for i, j in zip(x, y, strict=True))
        return x == y

    return same(msgspec.to_builtins(a), msgspec.to_builtins(b))


@given(
    st.floats(12 * FOOT, 50 * FOOT),
    st.floats(12 * FOOT, 50 * FOOT),
    st.floats(0.1, 2),
    st.sampled_from([None, "2x8"]),
    st.sampled_from(list(Units)),
    st.text(min_size=1, max_size=20).filter(lambda s: s.isprintable()),
)
def test_round_trip(long, wide, pitch, size, units, name):
    p = edits.set_project(house(long, wide, pitch, joists=Choice(size=size)), units=units, name=name)
    data = project_file.to_bytes(p)
    # Written to a millionth of a mm: what is read is written the same again, and differs by no more than that.
    again = project_file.from_bytes(data)
    assert project_file.to_bytes(again) == data
    assert near(again, p)


def test_one_edit_is_a_small_diff(demo):
    a = project_file.to_bytes(demo).decode().splitlines()
    b = project_file.to_bytes(edits.set_level(demo, "level-2", 2600.0)).decode().splitlines()
    assert len(a) == len(b)
    assert sum(x != y for x, y in zip(a, b, strict=True)) == 1


def spoil(data: bytes, how: str) -> bytes:
    text = data.decode()
    record = json.loads(text)
    if how == "empty":
        return b""
    if how == "truncated":
        return data[: len(data) // 2]
    if how == "damaged":
        return text.replace('"levels"', '"levels').encode()
    if how == "newer":
        record["version"] = 99
    elif how == "not ours":
        record = {"some": "other file"}
    elif how == "a list":
        record = [1, 2]  # type: ignore[assignment]
    elif how == "wrong type":
        record["project"]["levels"][0]["height"] = "high"
    elif how == "unknown field":
        record["project"]["colour"] = "red"
    elif how == "dangling":
        record["project"]["walls"][0]["buildup"] = "gone"
    elif how == "zero spacing":
        record["project"]["floors"][0]["joists"]["spacing"] = 0
    elif how == "not text":
        return b"\x89PNG\r\n\x1a\n\x00\xff"
    elif how == "bad utf-8":
        return data.replace(b"Orchard", b"\xff\xfe\xff")
    return json.dumps(record).encode()


@pytest.mark.parametrize(
    ("how", "says"),
    [
        ("empty", "empty"),
        ("truncated", "ends too early"),
        ("damaged", "damaged"),
        ("newer", "newer Balken"),
        ("not ours", "not a Balken project"),
        ("a list", "not a Balken project"),
        ("wrong type", r"levels\[0\].height"),
        ("unknown field", "colour"),
        ("dangling", "build-up 'gone'"),
        ("zero spacing", "spacing"),
        ("not text", "not a Balken project"),
        ("bad utf-8", "."),
    ],
)
def test_spoilt_files_say_what_is_wrong(tmp_path, demo, how, says):
    file = tmp_path / "house.balken"
    file.write_bytes(spoil(project_file.to_bytes(demo), how))
    before = file.read_bytes()
    with pytest.raises(FileError, match=says):
        project_file.load(file)
    assert file.read_bytes() == before


@given(st.data())
def test_no_damage_brings_a_traceback(data):
    good = bytearray(project_file.to_bytes(house()))
    for _ in range(data.draw(st.integers(1, 4))):
        good[data.draw(st.integers(0, len(good) - 1))] = data.draw(st.integers(0, 255))
    try:
        project_file.from_bytes(bytes(good))
    except FileError as error:
        assert str(error)  # noqa: PT017


def test_missing_and_unreadable(tmp_path):
    with pytest.raises(FileError, match="no such file"):
        project_file.load(tmp_path / "none.balken")
    with pytest.raises(FileError, match=r"folder|could not be read"):
        project_file.load(tmp_path)


def test_a_save_that_fails_leaves_the_old_file(tmp_path, demo, monkeypatch):
    file = tmp_path / "house.balken"
    project_file.save(demo, file)
    before = file.read_bytes()

    def full(*_):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(os, "replace", full)
    with pytest.raises(FileError, match="No space left"):
        project_file.save(edits.set_level(demo, "level-2", 3000.0), file)
    assert file.read_bytes() == before
    assert [f.name for f in tmp_path.iterdir()] == ["house.balken"]


def test_saving_into_no_folder(tmp_path, demo):
    with pytest.raises(FileError, match="folder is not there"):
        project_file.save(demo, tmp_path / "none" / "house.balken")


def test_the_journal_of_a_running_session_is_not_offered(tmp_path, demo):
    journal = Journal(tmp_path)
    journal.write(demo, "/home/me/house.balken")
    assert leftovers(tmp_path) == []
    journal.clear()
    journal.close()
    assert list(tmp_path.iterdir()) == []


_KILLED = """
import sys, time
from pathlib import Path
from balken.demo import orchard_road
from balken.exchange.journal import Journal
from balken.model import edits
journal = Journal(Path(sys.argv[1])); p = orchard_road()
for i in range(100000):
    p = edits.set_level(p, "level-2", 2500.0 + i)
    journal.write(p, "house.balken")
    print(i, flush=True)
"""


def test_a_kill_loses_at_most_the_last_edit(tmp_path):
    process = subprocess.Popen([sys.executable, "-c", _KILLED, str(tmp_path)], stdout=subprocess.PIPE, text=True)
    assert process.stdout is not None
    for _ in range(25):
        last = int(process.stdout.readline())
    process.send_signal(signal.SIGKILL)
    rest = [int(line) for line in process.stdout.read().split()]
    process.wait()
    last = rest[-1] if rest else last
    time.sleep(0.05)
    left = leftovers(tmp_path)
    assert len(left) == 1
    assert left[0].project.levels[1].height >= 2500.0 + last
    assert left[0].path == "house.balken"
    discard(left[0])
    assert leftovers(tmp_path) == []


def test_a_broken_journal_is_passed_over(tmp_path):
    (tmp_path / "abc.json").write_bytes(b"{ half")
    assert leftovers(tmp_path) == []


DATA = Path(__file__).parent.parent / "data"


@pytest.mark.parametrize("file", sorted(DATA.glob("*.balken")), ids=lambda f: f.stem)
def test_files_of_every_version_open_with_the_loads_they_had(file):
    """A file of each version is kept; what stands on each footing is what it was when it was written."""
    p = project_file.load(file)
    told = json.loads(file.with_suffix(".loads.json").read_text())["reactions"]
    runs = derive(p).path.runs
    assert runs.keys() == told.keys()
    sums = np.array([list(line.foot) for line in runs.values()]).sum(axis=0)
    # Since then siding over gables ends under what carries their overhangs, and roofs end on the sheathing of walls they stand against, whose
    # siding stops round them: some 800 N less of it.
    assert sums == pytest.approx(np.array(list(told.values())).sum(axis=0), rel=1.2e-3)
    # Since version 1 what lies over an opening goes to its sides by the lever, not half and half.
    for name, line in runs.items():
        assert list(line.foot) == pytest.approx(told[name], rel=0.03, abs=50.0)
    assert json.loads(project_file.to_bytes(p))["version"] == VERSION


def test_there_is_a_file_and_a_step_for_every_version():
    assert sorted(MIGRATIONS) == list(range(1, VERSION))
    kept = {json.loads(f.read_text())["version"] for f in DATA.glob("*.balken")}
    assert kept == set(range(1, VERSION + 1))


def test_holes_of_slabs_stay_where_they_were_before_they_were_tied(demo):
    """Version 4 kept them as rings of corners."""
    plain = json.loads(project_file.to_bytes(demo))
    ring = [[1500.0, 900.0], [2500.0, 900.0], [2500.0, 2000.0], [1500.0, 1700.0]]
    plain["version"] = 4
    slab = {"id": "slab-9", "name": "S", "walls": [w["id"] for w in plain["project"]["walls"][:4]], "holes": [ring]}
    plain["project"]["slabs"] = [slab | {"level": plain["project"]["levels"][0]["id"]}]
    p = project_file.from_bytes(json.dumps(plain).encode(), Path("old.balken"))
    (hole,) = p.slabs[0].holes
    assert hole_ring(hole, p.grids) == pytest.approx(np.array(ring))
    assert project_file.from_bytes(project_file.to_bytes(p), Path("new.balken")) == p


def test_lengths_are_written_as_they_are_meant(demo):
    text = project_file.to_bytes(demo).decode()
    assert not re.search(r"\d\.\d{7,}", re.sub(r"(?<![\d.])0\.\d+", "", text))
    assert "999999" not in re.sub(r"(?<![\d.])0\.\d+", "", text)


def test_what_would_not_open_again_is_not_saved(tmp_path, demo):
    file = tmp_path / "house.balken"
    project_file.save(demo, file)
    before = file.read_bytes()
    broken = msgspec.structs.replace(demo, stock_length=float("nan"))
    with pytest.raises(FileError, match="would not"):
        project_file.save(broken, file)
    assert file.read_bytes() == before


def test_links_modes_and_scraps(tmp_path, demo):
    real, link = tmp_path / "real.balken", tmp_path / "link.balken"
    project_file.save(demo, real)
    os.chmod(real, 0o640)
    link.symlink_to(real)
    old = tmp_path / ".real.balken.dead.part"
    old.write_text("scrap")
    os.utime(old, (1.0, 1.0))
    project_file.save(edits.set_level(demo, "level-2", 3000.0), link)
    assert link.is_symlink()
    assert real.stat().st_mode & 0o777 == 0o640
    assert project_file.load(real).levels[1].height == 3000.0
    assert not old.exists()
    assert sorted(f.name for f in tmp_path.iterdir()) == ["link.balken", "real.balken"]


@pytest.mark.parametrize("name", ["/", "/dev/null", "house\0.balken"])
def test_no_file_names_are_refused(demo, name):
    with pytest.raises(FileError):
        project_file.save(demo, name)


def test_devices_and_deep_nests_are_refused(tmp_path):
    with pytest.raises(FileError, match="device"):
        project_file.load("/dev/zero")
    file = tmp_path / "deep.balken"
    file.write_text('{"format": "balken-project", "version": 1, "project": ' + "[" * 20_000 + "]" * 20_000 + "}")
    with pytest.raises(FileError):
        project_file.load(file)


def test_the_journal_is_its_owners_alone_and_comes_back(tmp_path, demo):
    journal = Journal(tmp_path / "journal")
    journal.write(demo, "a.balken")
    assert (tmp_path / "journal").stat().st_mode & 0o777 == 0o700
    assert journal.file.stat().st_mode & 0o077 == 0
    shutil.rmtree(tmp_path / "journal")
    journal.write(demo, "a.balken")
    assert journal.problem == ""
    assert journal.file.is_file()
    blocked = Journal(tmp_path / "journal" / "x.json" / "under")
    (tmp_path / "journal" / "x.json").write_text("a file in the way")
    with pytest.raises(FileError):
        blocked.write(demo, "a.balken")
    assert "not kept" in blocked.problem
    (tmp_path / "journal" / "x.json").unlink()
    blocked.write(demo, "a.balken")
    assert blocked.problem == ""


def test_a_file_open_elsewhere_or_changed_is_noticed(tmp_path, demo):
    file = tmp_path / "house.balken"
    project_file.save(demo, file)
    first, second = Claim(tmp_path / "open", file), Claim(tmp_path / "open", file)
    assert (first.elsewhere, second.elsewhere) == (False, True)
    first.release()
    second.release()
    third = Claim(tmp_path / "open", file)
    assert not third.elsewhere
    third.release()
    was = stamp(file)
    project_file.save(edits.set_level(demo, "level-2", 3000.0), file)
    assert stamp(file) != was
    (row,) = compare(demo, project_file.load(file))
    assert (row.kind, row.here, row.there, row.changed) == ("levels", 0, 0, 1)


def test_a_project_carries_the_entries_it_uses():
    demo = edits.set_choice(orchard_road(), "floor-1", "joists", size="2x10")
    file = json.loads(project_file.to_bytes(demo))
    told = {row["name"]: (row["breadth"], row["depth"]) for row in file["catalogue"]}
    named = set(re.findall(r'"(?:size|sill_size|ridge_size|header)": "([^"]+)"', project_file.to_bytes(demo).decode()))
    assert set(told) == named
    # American Softwood Lumber Standard PS 20: a 2x10 is 1 1/2 in x 9 1/4 in dry.
    assert told["2x10"] == (38.1, 234.95)


def with_entry(project, name, **fields):
    file = json.loads(project_file.to_bytes(project))
    next(row for row in file["catalogue"] if row["name"] == name).update(fields)
    return json.dumps(file).encode()


def test_what_a_file_means_by_a_name_stays_what_it_meant():
    """The catalogue of the day had 2x10 and 6x6 smaller: members are made and checked with the measures of the file."""
    demo = orchard_road()
    p = edits.set_choice(demo, demo.floors[0].id, "joists", size="2x10", spacing=406.4)
    small = project_file.from_bytes(with_entry(p, "2x10", breadth=38.0, depth=220.0))
    name = small.floors[0].joists.size
    assert name == "2x10 of 38 x 220 mm"
    before, after = derive(p), derive(small)
    owner = p.floors[0].id
    joist = next(piece for piece in after.pieces.values() if piece.owner == owner and piece.role == "joist")
    assert joist.section == name
    assert joist.volume == pytest.approx(joist.length * 38.0 * 220.0, rel=1e-6)
    # By hand: the moment is that of the same load, its modulus that of 38 x 220.
    a, b = (next(c for c in m.designs[(owner, "joists")].result.checks if c.name == "bending") for m in (before, after))
    assert b.used / a.used == pytest.approx((38.1 * 234.95**2) / (38.0 * 220.0**2), rel=0.02)
    again = project_file.from_bytes(project_file.to_bytes(small))
    assert again == small
    # Two of it side by side are twice as thick.
    assert section(f"2-{name}").breadth == 76.0
    post = project_file.from_bytes(with_entry(demo, "6x6", breadth=130.0, depth=130.0))
    assert {c.size for c in post.columns} >= {"6x6 of 130 x 130 mm"}
    assert derive(post).posts


def test_an_entry_that_no_catalogue_has_is_refused():
    demo = edits.set_choice(orchard_road(), "floor-1", "joists", size="2x10")
    file = json.loads(project_file.to_bytes(demo))
    file["catalogue"].append({"name": "2x17", "breadth": 38.0, "depth": 400.0})
    with pytest.raises(FileError, match="There is no post '2x17'"):
        project_file.from_bytes(json.dumps(file).encode())
    with pytest.raises(FileError, match="measures nothing"):
        project_file.from_bytes(with_entry(demo, "2x10", depth=0.0))
