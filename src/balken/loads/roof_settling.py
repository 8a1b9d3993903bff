"""What comes to the ends of hips, valleys and ridge beams brought down: to walls, posts and roofs below, or along lines that lean."""

import math
from collections.abc import Mapping
from typing import NamedTuple

from balken.framing.line_posts import POST
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.plane import add, distance, to_segment, unit
from balken.geometry.roof_edges import Place
from balken.loads.area_loads import Reaction
from balken.loads.cases import Cases
from balken.loads.roof_feet import LAID, Foot, lower_at, stands_on
from balken.loads.roof_sides import NEAR
from balken.loads.roof_statics import CARRIES, LineLoad, Posts
from balken.value import Value


class Unheld(Value, frozen=True):
    """An end of lines that nothing holds: where, what comes there, N by case, the lines (by their numbers) that end there."""

    at: Place
    force: Cases
    lines: tuple[int, ...]


class Settled(Value, frozen=True):
    """Where ends of lines come down: on walls and posts, at places; and those that nothing holds."""

    points: tuple[Reaction, ...]
    unheld: tuple[Unheld, ...]
    onto: tuple[Foot, ...] = ()


def settle(
    plan: SurfacePlan, names: Mapping[int, str], held: Mapping[int, tuple[LineLoad, tuple[Cases, ...]]], posts: Posts
) -> Settled:
    """Bring what comes to the ends of lines to walls and posts.

    ``held``: by their numbers, lines and what comes to their lower end, to each post between, to their upper end, N; ``names``:
    of their boards.
    """
    nodes = _Nodes(plan, posts)
    points: list[Reaction] = []
    for i, (on, forces) in held.items():
        nodes.put(on.low, i, forces[0])
        nodes.put(on.high, i, forces[-1])
        for (post, along), force in zip(on.between, forces[1:-1], strict=True):
            at = add(on.low[:2], unit(on.low[:2], on.high[:2]), along)
            points.append(Reaction(names[i], post, at, force))
    down = {i: on for i, (on, _) in held.items() if on.line.kind in CARRIES}
    made, unheld = nodes.settle(down, names)
    onto = tuple(Foot(lower_at(plan, r.at), r.at, r.force) for r in made if r.bearer == LAID)
    return Settled((*points, *(r for r in made if r.bearer != LAID)), unheld, onto)


class _Node(NamedTuple):
    at: Place
    brought: list[tuple[int, Cases]]


class _Nodes:
    """Where lines end."""

    def __init__(self, plan: SurfacePlan, posts: Posts) -> None:
        self.plan, self.posts = plan, posts
        self.nodes: list[_Node] = []

    def at(self, place: Place) -> _Node:
        """Return the node at a place."""
        for node in self.nodes:
            if distance(node.at[:2], place[:2]) < NEAR:
                return node
        self.nodes.append(_Node(place, []))
        return self.nodes[-1]

    def put(self, place: Place, line: int, force: Cases) -> None:
        """Bring to a node what comes there."""
        self.at(place).brought.append((line, force))

    def settle(
        self, down: Mapping[int, LineLoad], names: Mapping[int, str]
    ) -> tuple[list[Reaction], tuple[Unheld, ...]]:
        """Go from the highest to the lowest: what nothing holds goes on down along lines."""
        points: list[Reaction] = []
        unheld: list[Unheld] = []
        for node in sorted(self.nodes, key=lambda n: -n.at[2]):
            force = Cases()
            for _, part in node.brought:
                force = force.plus(part)
            bearers = self.bearers(node.at)
            if bearers:
                points += [
                    Reaction(names[i], bearer, node.at[:2], part.scaled(1.0 / len(bearers)))
                    for i, part in node.brought
                    for bearer in bearers
                ]
                continue
            here = tuple(dict.fromkeys(i for i, _ in node.brought))
            if force.all > 1.0:
                unheld.append(Unheld(node.at, force, here))
            ways = [
                on
                for i, on in down.items()
                if distance(on.high[:2], node.at[:2]) < NEAR
                and on.low[2] < node.at[2] - 0.01
                and distance(on.low[:2], node.at[:2]) >= NEAR  # one so short ends where it begins
            ]
            if not ways:
                points += [Reaction(names[i], "", node.at[:2], part) for i, part in node.brought]
                continue
            for on in ways:
                below = self.at(on.low)
                for i, part in node.brought:
                    below.brought.append((i, part.scaled(1.0 / len(ways))))
        return points, tuple(unheld)

    def bearers(self, at: Place) -> tuple[str, ...]:
        """Return what holds a node: a post, else the walls of the outline there."""
        near = [(distance(p, at[:2]), post) for post, p in self.posts]
        off, post = min(near, default=(math.inf, ""))
        if off <= POST:
            return (post,)
        if stands_on(self.plan, at):
            return (LAID,)
        core, walls = self.plan.outline.core, self.plan.outline.walls
        sides = [k for k in range(len(core)) if to_segment(at[:2], core[k], core[(k + 1) % len(core)]) < NEAR]
        return tuple(dict.fromkeys(walls[k] for k in sides))
