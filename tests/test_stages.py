"""The stages of the derivation say what they read, and read nothing else."""

import inspect

import pytest

from balken.derive import derive
from balken.derive.engine import Stage, run
from balken.derive.stages import STAGES
from balken.memo import Memo
from tests.houses import house


def test_each_reads_what_those_before_it_give():
    known = {"project"}
    for stage in STAGES:
        assert set(stage.reads) <= known, stage.gives
        assert stage.gives not in known
        known.add(stage.gives)
        # One parameter each, beside the memo.
        assert len(inspect.signature(stage.make).parameters) == len(stage.reads) + 1, stage.gives


def test_what_nothing_gives_is_an_error():
    with pytest.raises(KeyError, match="moon"):
        run((Stage("tide", ("moon",), lambda memo, moon: moon),), Memo(), project=house())


def test_steps_of_what_is_gone_are_forgotten():
    from balken.model import edits

    memo, p = Memo(), house()
    derive(p, memo)
    assert any("roof-1" in name for name in memo.kept)
    derive(edits.remove(p, "roof-1"), memo)
    assert not any("roof-1" in name for name in memo.kept)
