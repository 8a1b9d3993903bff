"""Deriving: from a project to all that follows from it, stage by stage.

Each step is remembered with the objects it read; when they are the same objects as last time, its result is taken
again.  A step that gives an equal result keeps the old object, so that what reads it is not made again either.
"""

from collections.abc import Mapping
from typing import Any

from msgspec.structs import replace

from balken.derive.checking import longest
from balken.derive.engine import run
from balken.derive.laying import Laid
from balken.derive.stages import STAGES
from balken.derived.model import Model
from balken.findings.all_rules import all_findings
from balken.loads.area_loads import own_weight
from balken.loads.cases import total
from balken.memo import Memo
from balken.model.records import Project
from balken.standards.checks import MemberResult


def derive(project: Project, memo: Memo | None = None) -> Model:
    """Derive a project; with a memo from last time only what changed is made again."""
    memo = memo if memo is not None else Memo()
    memo.begin()
    model = _model(memo, project, run(STAGES, memo, project=project))
    memo.finish()
    return replace(model, findings=all_findings(model))


def _of_planes(laid: Laid) -> dict[str, MemberResult]:
    """Return the checks of the members of roofs of planes; lines beside it may leave nothing of a short jack, and no check of it."""
    made = {piece.key for group in laid.groups for piece in group}
    rows = (row for framing in laid.planes.values() for row in framing.results.items())
    over = (row for trusses in laid.trusses.values() for row in trusses.lookouts.results.items())
    found = {name: result for name, result in (*rows, *over) if name in made}
    for name, dormer in laid.dormers.items():
        if dormer.result is not None:
            headers = (p.key for group in laid.groups for p in group if p.owner == name and p.role == "dormer header")
            found |= dict.fromkeys(headers, dormer.result)
    return found


def _worst_of_planes(laid: Laid) -> dict[tuple[str, str], tuple[str, ...]]:
    found: dict[tuple[str, str], tuple[str, ...]] = {}
    checked = _of_planes(laid)
    for roof, framing in laid.planes.items():
        rafters = {one.key: checked[one.key].used for one in framing.members if one.wall and one.key in checked}
        if rafters:
            found[(roof, "rafters")] = (max(rafters, key=lambda name: rafters[name]),)
        if framing.ties:
            worst = max(framing.ties, key=lambda tie: framing.results[tie.key].used)
            found[(roof, "ties")] = (worst.key,)
    return found


def _model(memo: Memo, p: Project, of: Mapping[str, Any]) -> Model:
    """Return the derived model of what the stages gave."""
    laid, built, works, path, floors = of["laid"], of["built"], of["works"], of["path"], of["floors"]
    under, checked, standing, framed = of["under"], of["checked"], of["standing"], of["framed"]
    foundations = (*under.grounds, *works.concrete.values())
    stairs, blocks = of["stairs"], of["joist blocks"]
    layouts = (
        *floors.groups,
        *blocks.groups,
        *((stairs.pieces,) if stairs.pieces else ()),
        *laid.groups,
        *of["pressed"].blocking,
        of["girders"],
    )
    footings = [piece for group in under.grounds for piece in group if piece.role in ("strip footing", "pad footing")]
    return Model(
        project=p,
        lines=laid.lines,
        joints=built.joints,
        gables={wall: top for wall, top in built.gables.items() if top is not None},
        runs=of["works"].runs,
        outlines=of["closed"].outlines,
        troubles=of["closed"].troubles,
        floors=laid.floors,
        roofs=laid.roofs,
        surfaces=laid.surfaces,
        slabs=works.slabs,
        ground=works.earth,
        pad_places=works.places,
        path=path,
        soil=path.arrived.plus(total(own_weight(piece) for piece in footings)),
        designs=laid.designs,
        framed=framed,
        footings=under.footings,
        pads=under.pads,
        earth_walls=under.earth_walls,
        posts=standing.posts,
        loaded=floors.loaded,
        raised=floors.slabs,
        flights=stairs.designs,
        squashed=blocks.squashed,
        results=checked.results | of["stairs"].results | _of_planes(laid),
        worst_pieces=checked.worst | _worst_of_planes(laid),
        planes=laid.planes,
        trusses=laid.trusses,
        dormers=laid.dormers,
        uplift=of["uplift"],
        snow=laid.snow,
        longest=longest(memo, (*foundations, *layouts, *built.layers.values(), standing.pieces), framed),
        foundations=foundations,
        layouts=layouts,
        layers=built.layers,
        columns=standing.pieces,
        edited=laid.edited,
        hangers=of["hangers"],
        ledgers=of["ledgers"],
        fittings=of["fittings"],
    )
