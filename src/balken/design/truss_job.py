"""What is asked of a truss, and combinations of what lies on it."""

from balken.framing.truss_points import MovedPoint
from balken.loads.truss_loads import TrussLoads
from balken.standards.demands import Limit
from balken.standards.truss_demands import Joined
from balken.value import Value


class Wood(Value, frozen=True):
    """Of what a truss is made; ``auto``: grades are chosen for each group of its sticks, ``grade`` is that of all else."""

    species: str = "S-P-F"
    grade: str = "No. 1/No. 2"
    auto: bool = False


class TrussJob(Value, frozen=True):
    """A truss to be designed: its pattern ("auto": by its span), sections typed ("": chosen), what lies on it, how it is held.

    ``braced``: how far apart the bottom chord is held aside, mm (None: as far as works, 10 ft at most); ``stock``: the longest board, mm; ``shares``: it is one of several alike, as close as ``loads`` say, that help one another.
    """

    pattern: str
    loads: TrussLoads
    wood: Wood = Wood()
    top: str = ""
    bottom: str = ""
    webs: str = ""
    plies: int = 1
    braced: float | None = None
    stock: float | None = None
    shares: bool = True
    points: tuple[MovedPoint, ...] = ()
    """Panel points moved by hand."""
    joined: Joined = "plates"
    grades: tuple[str, str, str] | None = None
    """Of its top chords, bottom chords and webs, where they are given ("": that of its wood)."""
    camber: float = 0.0
    """How much it is to be built up in its middle, mm."""
    limit: Limit = Limit(240.0, "common practice, no source")


class Combined(Value, frozen=True):
    """A combination of load cases as it lies on a truss: its name, factors on the columns of its loads, load duration factor."""

    name: str
    factors: tuple[float, ...]
    duration: float
