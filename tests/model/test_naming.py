"""Names are put together and taken apart in one module, and nowhere else."""

import ast
from pathlib import Path

from hypothesis import given
from hypothesis import strategies as st

from balken.model import naming

SOURCES = Path(naming.__file__).parent.parent
ids = st.from_regex(r"\A[a-z]+-[0-9]{1,4}\Z")


@given(ids, ids)
def test_runs_and_axes_come_apart_as_they_were_put_together(a, b):
    run = naming.run_name(a, b)
    assert naming.parts_of_run(run) == (a, b)
    assert naming.run_of(naming.footing_of(run)) == naming.run_of(naming.wall_of(run)) == naming.run_of(run) == run
    assert naming.owner_of(run) == a
    assert naming.grid_and_axis(naming.axis_name(a, b)) == (a, b)


@given(ids, st.integers(0, 999))
def test_parts_with_numbers(a, n):
    assert naming.numbered_part(naming.step_name(a, n)) == (a, "step", n)
    assert naming.numbered_part(naming.slope_name(a, n)) == (a, "slope", n)
    assert naming.numbered_part(naming.piece_name(a, "joist", n)) is None
    footing = naming.footing_of(a)
    assert naming.slopes_with(naming.sloping(footing, n)) == (footing, True)
    assert naming.slopes_with(naming.piece_name(footing, n)) == (footing, False)


def test_a_records_id_is_its_own_owner():
    assert naming.owner_of("wall-3") == "wall-3"
    assert not naming.is_made("wall-3")
    assert naming.kind_of("floor-1/joist/012a") == "joist"


def test_nothing_else_takes_names_apart():
    """No call of split, partition and their like at a slash, but in naming (and where text is read: units, species)."""
    apart = {"split", "rsplit", "partition", "rpartition", "startswith", "endswith"}
    found = []
    for file in SOURCES.rglob("*.py"):
        if file.name in ("naming.py", "length.py", "species.py"):
            continue
        for node in ast.walk(ast.parse(file.read_text(encoding="utf-8"))):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute) and node.func.attr in apart:
                first = node.args[0] if node.args else None
                if isinstance(first, ast.Constant) and isinstance(first.value, str) and first.value.startswith("/"):
                    found.append(f"{file.relative_to(SOURCES)}:{node.lineno}")
    assert not found
