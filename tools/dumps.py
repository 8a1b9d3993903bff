"""Write down everything derived from many houses, or compare two such folders.

    python tools/dumps.py write FOLDER [HOUSES]
    python tools/dumps.py compare BEFORE AFTER

What changes how Balken is built must not change what it says: take dumps before, take them after, compare.  A dump
holds values (solids, checks, loads, footings, findings, quantities, drawings), never ids of members or names of steps.
"""

import random
import re
import sys
from collections.abc import Callable, Iterable, Iterator
from itertools import zip_longest
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent))

from tests.framing.test_steps_of_any_outline import OUTLINES, stepped_house
from tests.houses import house
from tests.shop import shop
from tests.test_robust import EDITS

from balken.demo import orchard_road
from balken.derive import derive
from balken.derived.model import Model
from balken.documents.cross_section import cross_section, effective_cut
from balken.documents.plan import plan
from balken.documents.plan_sheets import framing_plans
from balken.documents.quantities import quantities
from balken.exchange import project_file
from balken.framing.stepping import step_down
from balken.model import column_edits, edits, foundation_edits, storey_edits
from balken.model.errors import EditError
from balken.model.records import Choice, Hang, Project
from balken.units.system import FOOT

MOST_SHOWN = 8
NEAR = 1e-6
"""Figures nearer than this part of themselves are alike."""


def random_house(seed: int) -> Project:
    """Return a made-up house: rectangular or not, one storey or part of a second, with openings, pads and ground."""
    rng = random.Random(seed)
    if seed % 4 == 3:
        ground = tuple(rng.uniform(0.0, 2000.0) for _ in range(4))
        p = stepped_house(
            rng.choice(sorted(OUTLINES)),
            rng.uniform(6e3, 14e3),
            rng.uniform(6e3, 11e3),
            rng.uniform(-20.0, 20.0),
            ground,
        )
        return tried(p, lambda p: step_down(p, "foundation-1", 200.0))
    p = shop() if seed % 4 == 2 else house(
        long=rng.uniform(18, 48) * FOOT,
        wide=rng.uniform(14, 30) * FOOT,
        pitch=rng.uniform(0.1, 1.0),
        middle=rng.random() < 0.5,
        joists=Choice(size=None),
        clockwise=rng.random() < 0.3,
        origin=(rng.uniform(-9e3, 9e3), rng.uniform(-9e3, 9e3)),
        ground_snow=rng.choice((0.0, 1.44, 3.0)),
        wind=rng.uniform(0.5, 2.0),
    )  # fmt: skip
    for _ in range(rng.randrange(5)):
        wall, at = rng.choice(p.walls).id, rng.uniform(0.0, 12.0) * FOOT
        width = rng.uniform(2.0, 9.0) * FOOT
        p = tried(p, edits.add_opening, wall, "window", at, width, 4 * FOOT, 2.5 * FOOT)
    if rng.random() < 0.3:
        walls = tuple(w.id for w in p.walls[: rng.randrange(1, 5)])
        p = tried(p, lambda p: storey_edits.next_storey(p, walls, "level-2", "level-2", inward=0.0))
    if rng.random() < 0.4:
        ends = [(rng.uniform(0, 9e3), rng.uniform(0, 6e3)) for _ in range(2)]
        p = tried(
            p,
            lambda p: foundation_edits.add_pads(
                p, tuple(ends), Hang(level="level-5"), Hang(level="level-3"), 300.0, dead=2e4, live=3e4
            ),
        )
    if rng.random() < 0.4:
        p = tried(p, lambda p: column_edits.add_spot(p, (rng.uniform(0, 9e3), rng.uniform(0, 6e3)), -900.0))
    for _ in range(rng.randrange(4)):
        which, x, y = rng.choice(EDITS), rng.random(), rng.random()
        p = tried(p, which, x, y)
    return p


def tried(p: Project, edit: Callable[..., Project], *args: object) -> Project:
    """Return the project after an edit, or as it was when the edit is refused."""
    try:
        return edit(p, *args)
    except EditError:
        return p


def fig(*values: float) -> str:
    """Return figures as words."""
    return " ".join(f"{0.0 if abs(v) < 1e-6 else v:.9g}" for v in values)


KEY = re.compile(r"\b[a-z]+-?\w*/[\w /.\-]+")


def said(text: str) -> str:
    """Return a text without keys of members."""
    return KEY.sub("(member)", text)


def checks_of(result) -> str:  # type: ignore[no-untyped-def]
    """Return all checks of a member or footing on a line."""
    return "; ".join(
        f"{c.name} [{c.clause}] {fig(c.demand, c.capacity)} {c.quantity} {c.combination}"
        for c in sorted(result.checks, key=lambda c: c.name)
    )


def dump(m: Model) -> Iterator[str]:
    """Give everything a model says, line by line."""
    for key, piece in m.pieces.items():
        corners = sorted((round(x, 3), round(y, 3), round(z, 3)) for x, y, z in piece.solid.corners())
        row = f"piece {piece.role} {piece.owner} {piece.material} {piece.section} {piece.species} {piece.grade}"
        yield f"{row} {fig(piece.length, piece.volume)} at {fig(*(v for c in corners for v in c))}"
        if key in m.results:
            yield f"check {piece.role} {piece.owner} at {fig(*corners[0])}: {checks_of(m.results[key])}"
    for (owner, field), d in m.designs.items():
        near = "; ".join(f"{n.size} {fig(n.spacing, n.used)} {n.governs}" for n in d.neighbours)
        yield f"design {owner} {field} {d.size} {fig(d.spacing)} {d.works} {d.would_work} | {near}"
    for wall, f in m.framed.items():
        yield f"studs {wall} {f.design.size} {fig(f.design.spacing)} {f.design.works} {checks_of(f.design.result)}"
        for o, h in f.headers.items():
            yield f"header {wall} {o} {h.size} {h.jacks} {h.kings} | " + " | ".join(
                map(checks_of, (h.header, h.jack, h.king))
            )
    for name, line in (*m.path.walls.items(), *m.path.runs.items()):
        yield f"line {name} {fig(line.length)} members {fig(*line.members)} walls {fig(*line.walls)} own {fig(*line.own)}"
        yield f"along {name} {fig(*(v for row in m.path.along[name].cases for v in row))}"
    for (above, under), load in m.path.shares.items():
        yield f"share {above} {under} {fig(*load)}"
    for reaction in m.path.lost:
        yield f"lost {fig(*reaction.force)}"
    for run, f in m.footings.items():
        yield f"footing {run} {fig(f.width, f.depth, f.load, f.at)} {f.problem} {fig(*f.line)} {checks_of(f.design)}"
    for pad, r in m.pads.items():
        yield f"pad {pad} {fig(r.design.width, r.design.length or 0.0, r.design.thickness)} {checks_of(r.design)}"
    for run, e in m.earth_walls.items():
        yield f"earth wall {run} {checks_of(e)}"
    yield f"soil {fig(*m.soil)}"
    for x in m.findings:
        yield f"finding {x.code} {x.stage} {x.grave} {said(x.what)} | {said(x.why)} | {x.fix.label if x.fix else ''}"
    q = quantities(m)
    for row in (*q.concrete, *q.bars, *q.blocks):
        yield f"quantity {said(repr(row))}"
    yield f"quantity {fig(q.excavation)} {q.bolts}"
    for what in framing_plans(m):
        for item in plan(m, what, 1 / 50).items:
            yield f"plan {' '.join(sorted(what.parts))} {drawn(item)}"
    cut = effective_cut(m)
    for item in cross_section(m, cut, 1 / 50).items:
        yield f"section {drawn(item)}"


def drawn(item: object) -> str:
    """Return an item of a drawing as words, without what it stands for."""
    fields = {name: getattr(item, name) for name in item.__struct_fields__ if name != "ref"}  # type: ignore[attr-defined]
    return type(item).__name__ + repr(fields)


def houses(count: int) -> Iterator[tuple[str, Project]]:
    """Give the demo, old files and so many random houses, each with its name."""
    yield "demo", orchard_road()
    for path in sorted(Path("tests/data").glob("*.balken")):
        yield path.stem, project_file.load(path)
    for seed in range(count):
        yield f"house-{seed:03d}", random_house(seed)


def write(folder: Path, count: int) -> None:
    folder.mkdir(parents=True, exist_ok=True)
    for name, p in houses(count):
        lines = sorted(dump(derive(p)))
        (folder / f"{name}.txt").write_text("\n".join(lines) + "\n", encoding="utf-8")


NUMBER = re.compile(r"-?\d+\.?\d*(?:e[-+]?\d+)?")


def alike(a: str, b: str) -> bool:
    """Return whether two lines say the same, figures to a millionth."""
    if a == b:
        return True
    if NUMBER.sub("#", a) != NUMBER.sub("#", b):
        return False
    pairs = zip(map(float, NUMBER.findall(a)), map(float, NUMBER.findall(b)), strict=True)
    return all(abs(x - y) <= NEAR * max(1.0, abs(x), abs(y)) for x, y in pairs)


def compare(before: Path, after: Path) -> int:
    """Print what differs; return how many houses do."""
    bad = 0
    names = sorted({p.name for f in (before, after) for p in f.glob("*.txt")})
    for name in names:
        a, b = (lines_of(f / name) for f in (before, after))
        apart = [] if a == b else differing(a, b)
        bad += bool(apart)
        if apart and bad <= MOST_SHOWN:
            print(f"{name}: {len(apart)} lines differ")
            for line in apart[:4]:
                print("   ", line[:240])
    print(f"{len(names)} houses, {bad} differ")
    return bad


def differing(a: list[str], b: list[str]) -> list[str]:
    """Return lines that only one of both has, but for figures a millionth apart."""
    only_a, only_b = sorted(set(a) - set(b)), sorted(set(b) - set(a))
    if len(only_a) == len(only_b) and all(alike(x, y) for x, y in zip(only_a, only_b, strict=True)):
        return [] if len(a) == len(b) else ["as many lines are not there twice"]
    return [
        text for pair in zip_longest((f"- {x}" for x in only_a), (f"+ {x}" for x in only_b)) for text in pair if text
    ]


def lines_of(path: Path) -> list[str]:
    return path.read_text(encoding="utf-8").splitlines() if path.exists() else []


def main(words: Iterable[str]) -> int:
    match list(words):
        case ["write", folder, *rest]:
            write(Path(folder), int(rest[0]) if rest else 200)
            return 0
        case ["compare", before, after]:
            return 1 if compare(Path(before), Path(after)) else 0
    print(__doc__)
    return 2


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
