"""The project file: round trip, damage, other versions; the journal."""

import json
import os
import signal
import subprocess
import sys
import time

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.houses import house

from balken.exchange import project_file
from balken.exchange.errors import FileError
from balken.exchange.journal import Journal, discard, leftovers
from balken.model import edits
from balken.model.records import Choice
from balken.units import Units
from balken.units.system import FOOT


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
    assert project_file.from_bytes(data) == p
    assert project_file.to_bytes(project_file.from_bytes(data)) == data


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
    with pytest.raises(FileError, match="could not be read"):
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
