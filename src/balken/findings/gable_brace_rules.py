"""Frames of trusses over gables that nothing braces."""

from collections.abc import Iterable

from balken.derived.finding import Finding
from balken.derived.model import Model
from balken.framing.gable_braces import LEAST_TALL, frame_brace
from balken.model.lookup import wall_label
from balken.model.naming import piece_name
from balken.units import say_length


def frames_unbraced(c: Model) -> Iterable[Finding]:
    """Frames with tall studs beside which no brace finds room."""
    keys = [piece.key for piece in c.of_layouts("truss brace")]
    for plan in c.surfaces:
        made = c.trusses.get(plan.roof.id)
        for make in made.makes if made is not None else ():
            if make.key != "gable" or all(stud.clear < LEAST_TALL for stud in make.studs):
                continue
            for number in make.numbers:
                name = piece_name(plan.roof.id, "brace", f"{frame_brace(number)}.")
                if any(key.startswith(name) for key in keys):
                    continue
                assert made is not None
                place = made.places[number]
                wall = place.gable
                yield Finding(
                    "gable brace",
                    "roof",
                    f"{plan.roof.name}: nothing braces its frame over {wall_label(c.project, wall)}",
                    f"Boards from high on its studs down to the bottom chords inside find no room beside webs and other boards there, or a room is in the "
                    f"way; its studs are up to {say_length(max(stud.clear for stud in make.studs), c.units)} long. Choose other webs, or have it braced.",
                    (plan.roof.id, wall),
                    (*place.at(0.0), plan.bearing),
                    grave=False,
                )


GABLE_BRACE_RULES = (frames_unbraced,)
