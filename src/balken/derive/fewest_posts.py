"""The fewest posts with which a beam works: tried one more at a time, each time derived whole."""

from balken.derive import derive
from balken.design.beam_posts import posts_under
from balken.geometry.plane import distance
from balken.memo import Memo
from balken.model.beam_rows import all_beams
from balken.model.errors import EditError
from balken.model.lookup import there
from balken.model.places import locate
from balken.model.records import Project

MOST = 12


def fewest_posts(project: Project, beam_id: str) -> Project:
    """Set as few posts under a beam as it works with, evenly, with what they stand on; raises EditError."""
    beam = there(all_beams(project), beam_id)
    long = distance(locate(beam.start, project.grids), locate(beam.end, project.grids))
    memo = Memo()
    if derive(project, memo).girders[beam_id].works:
        raise EditError("it works as it is.", "Posts", "Type a smaller distance where more are wanted.")
    for count in range(1, MOST + 1):
        try:
            tried = posts_under(project, beam_id, long / (count + 1) + 25.4)
        except EditError:
            continue
        if derive(tried, memo).girders[beam_id].works:
            return tried
    raise EditError(f"no number of posts up to {MOST} makes it work.", "Posts", "Choose a stronger section.")
