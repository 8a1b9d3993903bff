"""What the 3-D view is made of: meshes of pieces, each made once; whether this machine can render them."""

import subprocess
import sys

import numpy as np
from numpy.typing import NDArray

from balken.framing.pieces import Piece
from balken.geometry.solids import Solid
from balken.remembered import remembered
from balken.value import Value

Array = NDArray[np.float32]

_PROBE = (
    "from vtkmodules.vtkRenderingCore import vtkRenderWindow;"
    "import vtkmodules.vtkRenderingOpenGL2;"
    "w=vtkRenderWindow();w.SetOffScreenRendering(1);w.SetSize(8,8);w.Render();print('ok')"
)
_able: bool | None = None


def can_render() -> bool:
    """Try VTK once in a child process."""
    global _able
    if _able is None:
        try:
            done = subprocess.run([sys.executable, "-c", _PROBE], capture_output=True, timeout=60, check=False)
            _able = b"ok" in done.stdout
        except (OSError, subprocess.SubprocessError):
            _able = False
    return _able


class Meshed(Value, frozen=True):
    """Pieces of one fill: triangles (n, 3, 3), edges (m, 2, 3), the name of the piece of each triangle."""

    fill: str
    triangles: Array
    edges: Array
    keys: list[str]


def meshed(fill: str, pieces: tuple[Piece, ...]) -> Meshed:
    """Return pieces as one mesh; each piece is meshed once for as long as it stays the same object."""
    meshes = [_mesh(piece.solid) for piece in pieces]
    keys = [piece.key for piece, (t, _) in zip(pieces, meshes, strict=True) for _ in range(len(t))]
    return Meshed(fill, np.concatenate([t for t, _ in meshes]), np.concatenate([e for _, e in meshes]), keys)


@remembered(40_000)
def _mesh(solid: Solid) -> tuple[Array, Array]:
    triangles, edges = solid.mesh()
    return triangles.astype(np.float32), edges.astype(np.float32)
