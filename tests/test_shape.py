"""The shape of the source: short functions, no circle among modules, results that hold data alone."""

import ast
import types
from pathlib import Path

import balken
from balken.derive import derive
from balken.memo import Memo
from tests.shop import shop

ROOT = Path(balken.__file__).parent
LONGEST = 60
"""Lines of a function at most."""


def trees():
    for file in sorted(ROOT.rglob("*.py")):
        yield file, ast.parse(file.read_text(encoding="utf-8"))


def test_functions_are_short():
    long = [
        f"{file.relative_to(ROOT)}: {node.name}, {node.end_lineno - node.lineno + 1} lines"
        for file, tree in trees()
        for node in ast.walk(tree)
        if isinstance(node, ast.FunctionDef) and node.end_lineno - node.lineno + 1 > LONGEST
    ]
    assert not long


def module_of(file):
    parts = ("balken", *file.relative_to(ROOT).with_suffix("").parts)
    return ".".join(parts[:-1] if parts[-1] == "__init__" else parts)


def imports():
    """Return for each module the modules it imports as it is loaded."""
    known = {module_of(file) for file, _ in trees()}
    found = {}
    for file, tree in trees():
        used = set()
        for node in tree.body:
            if isinstance(node, ast.ImportFrom) and node.module:
                for name in node.names:
                    whole = f"{node.module}.{name.name}"
                    used.add(whole if whole in known else node.module)
            elif isinstance(node, ast.Import):
                used |= {name.name for name in node.names}
        found[module_of(file)] = (used & known) - {module_of(file)}
    return found


def test_no_module_imports_itself_round_a_circle():
    graph, done, way = imports(), set(), []

    def visit(module):
        if module in way:
            raise AssertionError(" -> ".join([*way[way.index(module) :], module]))
        if module in done:
            return
        way.append(module)
        for other in sorted(graph[module]):
            visit(other)
        way.pop()
        done.add(module)

    for module in sorted(graph):
        visit(module)


def functions_in(value, seen, where):
    """Give the places at which something derived holds a function."""
    if id(value) in seen or isinstance(value, (str, int, float, bool, type(None), type)):
        return
    seen[id(value)] = value
    if isinstance(value, (types.FunctionType, types.MethodType, types.BuiltinFunctionType)):
        yield where
        return
    if isinstance(value, dict):
        for key, item in value.items():
            yield from functions_in(item, seen, f"{where}[{key}]")
    elif isinstance(value, (tuple, list, set, frozenset)):
        for i, item in enumerate(value):
            yield from functions_in(item, seen, f"{where}[{i}]")
    for name in getattr(value, "__struct_fields__", ()):
        yield from functions_in(getattr(value, name), seen, f"{where}.{name}")


def test_nothing_derived_holds_a_function():
    memo = Memo()
    model = derive(shop(), memo)
    assert not list(functions_in(model, {}, "model"))
    results = {name: row[1] for name, row in memo.kept.items()}
    assert not list(functions_in(results, {}, "memo"))
