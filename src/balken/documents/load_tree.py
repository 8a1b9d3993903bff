"""What presses on a footing, as a tree: from the footing up through walls to the floors and roofs that feed them."""

from balken.derived.model import Model
from balken.loads.cases import Cases, total
from balken.loads.wall_law import LineTotal
from balken.model.lookup import find, label_of, numbers, wall_label
from balken.model.naming import footing_of, kind_of, owner_of, parts_of_run
from balken.value import Value


class Branch(Value, frozen=True):
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
    children += [column_tree(model, column) for column in place.columns]
    pier = load.dead - typed.dead - sum(branch.load.dead for branch in children[1 if typed.all else 0 :])
    if pier > 0.5:
        children.append(Branch("own weight of its pier", Cases(dead=pier), pad_id))
    return Branch(f"Pad {numbers(model.project.pads)[pad_id]}", load, pad_id, tuple(children))


def column_tree(model: Model, column_id: str) -> Branch:
    """Return the tree of a column: what stands on it, and its own weight; without what was typed at its pad."""
    made = model.path.columns[column_id]
    children = [
        _above(model, upper, share) for (upper, lower), share in model.path.shares.items() if lower == column_id
    ]
    children += _members(model, column_id)
    children.append(Branch("its own weight", made.post.own, column_id))
    return Branch(label_of(model.project, column_id), made.foot, column_id, tuple(children))


def _above(model: Model, upper: str, share: Cases) -> Branch:
    """Return what stands on something, with the share of it that comes down there."""
    if upper in model.path.columns:
        tree = column_tree(model, upper)
        return Branch(tree.label, share, upper, tree.children)
    if upper in model.path.beams:
        return Branch(label_of(model.project, upper), share, upper, _on_beam(model, upper))
    above = model.path.walls[upper]
    part = share.all / above.foot.all if above.foot.all else 1.0
    label = wall_label(model.project, upper) + (f", {part:.0%} of it" if part < 0.995 else "")
    return Branch(label, share, upper, _feeding(model, upper, above))


def _on_beam(model: Model, beam: str) -> tuple[Branch, ...]:
    """Return all that lies on a beam, and itself."""
    made = model.path.beams[beam]
    none = Cases()
    return _feeding(model, beam, LineTotal(beam, made.line.length, none, none, made.design.own))


NOUNS = {
    "joist": "joists", "rim": "edge joist", "rafter": "rafters", "truss": "trusses", "tie": "ceiling ties", "end-joist": "ceiling joists", "ceiling": "ceiling", "plane": "rafters", "lookout": "lookouts",
    "plane-hip": "ends of hips", "plane-valley": "ends of valleys", "plane-ridge": "ends of ridge beams", "plane-purlin": "purlins",
}  # fmt: skip


def _members(model: Model, bearer: str) -> list[Branch]:
    """Return what members of layouts bring, by layout and sort."""
    found: list[Branch] = []
    groups: dict[tuple[str, str], list[Cases]] = {}
    through: dict[tuple[str, str], list[Cases]] = {}
    for r in model.path.reactions:
        if r.bearer == bearer:
            rows, kind = (through, r.through) if r.through else (groups, kind_of(r.piece))
            rows.setdefault((owner_of(r.piece), kind), []).append(r.force)
    for (owner, kind), forces in groups.items():
        name = getattr(find(model.project, owner), "name", owner)
        count = f"{len(forces)} " if len(forces) > 1 else ""
        found.append(Branch(f"{name}: {count}{NOUNS.get(kind, kind)}", total(forces), owner))
    for (owner, upper), forces in through.items():
        text = f"{label_of(model.project, upper)}, through the joists of {label_of(model.project, owner)}"
        found.append(Branch(text, total(forces), upper))
    return found


def _feeding(model: Model, bearer: str, line: LineTotal) -> tuple[Branch, ...]:
    found = _members(model, bearer)
    for (upper, lower), share in model.path.shares.items():
        if lower == bearer:
            found.append(_above(model, upper, share))
    found.append(Branch("own weight", line.own, bearer))
    return tuple(found)


def flat(branch: Branch, depth: int = 0) -> list[tuple[int, Branch]]:
    """Return the tree as rows of (depth, branch), from the footing up."""
    rows = [(depth, branch)]
    for child in branch.children:
        rows += flat(child, depth + 1)
    return rows
