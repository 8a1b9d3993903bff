"""Many trusses of one make at once: other loads, other measures, the same joints, sticks and sections; solved and checked as one stack."""

from collections.abc import Sequence

import numpy as np
from msgspec.structs import replace
from numpy.typing import NDArray

from balken.analysis.frames import Loaded, Solved, solve_frames
from balken.catalog.sections import section
from balken.design.truss_demands import stick_demands
from balken.design.trusses import TrussDesign
from balken.framing.trusses import TrussFrame
from balken.loads.cases import COUNT
from balken.loads.truss_loads import TrussLoads, laid_on
from balken.standards.standard import Standard

Array = NDArray[np.float64]


def used_in_stack(
    like: TrussDesign, frames: Sequence[TrussFrame], loads: Sequence[TrussLoads], standard: Standard
) -> Array:
    """Return how far the sticks of trusses are used at most (b): of the make of ``like``, with its braces and combinations.

    ``frames``, ``loads``: of each, with as many arrangements of uneven snow as it has; raises ValueError where they are of another make.
    """
    first = like.frame
    if any(len(f.elements) != len(first.elements) or len(f.joints) != len(first.joints) for f in frames):
        raise ValueError("trusses of a stack have joints and sticks alike")
    return used_of(like, frames, stacked(frames, loads), standard)


def under_each(like: TrussDesign, loads: Sequence[TrussLoads], standard: Standard) -> list[tuple[float, Array]]:
    """Return of a truss under each of several loads how far its sticks are used at most, and what comes to its joints that bear, N upward
    (joints, cases); what is known of its own load is not solved again.
    """
    own = float(like.uses.worst()[0].max()), like.solved.reactions[0, :, 1, :COUNT]
    known = {like.job.loads: own}
    others = [one for one in dict.fromkeys(loads) if one not in known]
    if others:
        frames = [like.frame] * len(others)
        solved = _solved(like, frames, stacked(frames, others))
        used = _used(like, frames, solved, standard).tolist()
        known |= {one: (used[k], solved.reactions[k, :, 1, :COUNT]) for k, one in enumerate(others)}
    return [known[one] for one in loads]


def stacked(frames: Sequence[TrussFrame], loads: Sequence[TrussLoads]) -> Loaded:
    """Return the loads of many trusses as one stack."""
    rows = [laid_on(frame, on) for frame, on in zip(frames, loads, strict=True)]
    return Loaded(np.concatenate([row.nodes for row in rows]), np.concatenate([row.along for row in rows]))


def used_of(like: TrussDesign, frames: Sequence[TrussFrame], loaded: Loaded, standard: Standard) -> Array:
    """Return how far the sticks of trusses that are laid out and loaded are used at most (b)."""
    return _used(like, frames, _solved(like, frames, loaded), standard)


def _solved(like: TrussDesign, frames: Sequence[TrussFrame], loaded: Loaded) -> Solved:
    made, b = like.frame.made(), len(frames)
    roles = {stick.name: stick.role for stick in like.frame.sticks}
    lumber = [section(like.frame.sizes.of(roles[one.stick])) for one in like.frame.elements]
    plies = float(like.frame.sizes.plies)
    nodes = np.array([list(frame.joints.values()) for frame in frames], dtype=float)

    def each(row: list[float] | tuple[float, ...]) -> Array:
        return np.broadcast_to(np.array(row), (b, len(row)))

    return solve_frames(
        made,
        nodes,
        each(like.e),
        each([one.area * plies for one in lumber]),
        each([one.inertia * plies for one in lumber]),
        loaded,
    )


def _used(like: TrussDesign, frames: Sequence[TrussFrame], solved: Solved, standard: Standard) -> Array:
    asked = stick_demands(like.job, like.frame, like.pattern, solved, like.factors, like.combined)
    # Lengths over which sticks buckle go with their own, in each truss.
    times = solved.length / np.array([like.frame.length(one) for one in like.frame.elements])
    held = np.array([one.stick[0] == "B" for one in like.frame.elements])
    aside = np.where(held, like.demands.aside, like.demands.aside * times)
    uses = standard.check_sticks(replace(asked, inside=asked.inside * times, aside=aside))
    found: Array = uses.worst()[0].max(axis=1)
    return found
