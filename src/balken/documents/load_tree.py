"""What presses on a footing, as a tree: from the footing up through walls to the floors and roofs that feed them."""

from dataclasses import dataclass

from balken.derived.model import Model
from balken.loads.cases import Cases, total
from balken.loads.path import LineTotal
from balken.model.lookup import find, numbers, wall_label
from balken.model.naming import footing_of, kind_of, owner_of, parts_of_run


@dataclass(frozen=True, slots=True)
class Branch:
    """One source of load: what it is, the load it brings (N by case), the thing to select, what feeds it."""

    label: str
    load: Cases
    ref: str
    children: tuple["Branch", ...] = ()


def run_tree(model: Model, run_id: str) -> Branch:
    """Return the tree of a foundation run; raises KeyError for one that is not there."""
    line = model.path.runs[run_id]
    foundation, wall = parts_of_run(run_id)
    name = getattr(find(model.project, foundation), "name", foundation)
    label = f"Footing of {name} under {wall_label(model.project, wall)}"
    return Branch(label, line.foot, footing_of(run_id), _feeding(model, run_id, line))


def pad_tree(model: Model, pad_id: str) -> Branch:
    """Return the tree of a pad; raises KeyError for one that is not there."""
    load = model.path.pads[pad_id]
    place = next(p for p in model.pad_places if p.pad.id == pad_id)
    pad = place.pad
    typed = Cases(dead=pad.dead, live=pad.live, snow=pad.snow)
    children = [Branch("typed loads from above", typed, pad_id)] if typed.all else []
    children += [Branch("a column by its weight", Cases(), column) for column in place.columns]
    own = load.dead - typed.dead
    children.append(Branch("own weight of what stands on it", Cases(dead=own), pad_id))
    return Branch(f"Pad {numbers(model.project.pads)[pad_id]}", load, pad_id, tuple(children))


def _feeding(model: Model, bearer: str, line: LineTotal) -> tuple[Branch, ...]:
    found: list[Branch] = []
    groups: dict[tuple[str, str], list[Cases]] = {}
    for r in model.path.reactions:
        if r.bearer == bearer:
            groups.setdefault((owner_of(r.piece), kind_of(r.piece)), []).append(r.force)
    nouns = {"joist": "joists", "rim": "edge joist", "rafter": "rafters", "tie": "ceiling ties", "ceiling": "ceiling"}
    for (owner, kind), forces in groups.items():
        name = getattr(find(model.project, owner), "name", owner)
        count = f"{len(forces)} " if len(forces) > 1 else ""
        found.append(Branch(f"{name}: {count}{nouns.get(kind, kind)}", total(forces), owner))
    for (upper, lower), share in model.path.shares.items():
        if lower == bearer:
            above = model.path.walls[upper]
            part = share.all / above.foot.all if above.foot.all else 1.0
            label = wall_label(model.project, upper) + (f", {part:.0%} of it" if part < 0.995 else "")
            found.append(Branch(label, share, upper, _feeding(model, upper, above)))
    found.append(Branch("own weight", line.own, bearer))
    return tuple(found)


def flat(branch: Branch, depth: int = 0) -> list[tuple[int, Branch]]:
    """Return the tree as rows of (depth, branch), from the footing up."""
    rows = [(depth, branch)]
    for child in branch.children:
        rows += flat(child, depth + 1)
    return rows
