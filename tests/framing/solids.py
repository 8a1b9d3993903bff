"""Whether members stand in one another: their solids cut with one another by manifold3d."""

import manifold3d
import numpy as np


def body(solid):
    triangles, _ = solid.mesh()
    places, numbers = np.unique(np.round(triangles.reshape(-1, 3), 4), axis=0, return_inverse=True)
    rows = numbers.reshape(-1, 3)
    rows = rows[(rows[:, 0] != rows[:, 1]) & (rows[:, 1] != rows[:, 2]) & (rows[:, 0] != rows[:, 2])]
    return manifold3d.Manifold(manifold3d.Mesh(places.astype(np.float32), rows.astype(np.uint32)))


def apart(mine, others, most):
    """Assert that none of some pieces shares more than a volume, mm3, with any of others."""
    bodies, others = {}, list(others)
    lows, highs = (np.array([one.solid.extent[k] for one in others]).reshape(-1, 3) for k in (0, 1))
    for one in mine:
        low, high = one.solid.extent
        near = (low <= highs - 1.0).all(axis=1) & (lows <= np.array(high) - 1.0).all(axis=1)
        for other in (others[k] for k in np.flatnonzero(near)):
            if other is one:
                continue
            a, b = (bodies.setdefault(x.key, body(x.solid)) for x in (one, other))
            assert (a ^ b).volume() < most, (one.key, other.key)
