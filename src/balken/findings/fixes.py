"""Edits that fixes run by name: of the model, and those that look at the ground and what is framed.

Each is a row of the table of commands (``panel/commands``), too.
"""

from collections.abc import Callable

from balken.design.beam_posts import girder_on_posts, posts_under
from balken.design.roof_posts import posts_under_purlins, posts_under_roof
from balken.design.two_pitches import meet_slopes
from balken.framing.stepping import step_down
from balken.framing.steps_to_meet import step_to_meet
from balken.model import edits
from balken.model.beam_edits import add_pocket
from balken.model.foundation_edits import pad_under, steps_on_courses
from balken.model.member_edits import back_to_layout, hang_edit_on
from balken.model.records import Project
from balken.model.roof_edits import as_planes, set_side
from balken.model.stud_edits import take_studs
from balken.model.wall_edits import square_wall

FIXES: dict[str, Callable[..., Project]] = {
    "change": edits.change,
    "remove": edits.remove,
    "replace_level": edits.replace_level,
    "set_choice": edits.set_choice,
    "set_level": edits.set_level,
    "set_loads": edits.set_loads,
    "set_project": edits.set_project,
    "set_side": set_side,
    "set_wall_head": edits.set_wall_head,
    "as_planes": as_planes,
    "back_to_layout": back_to_layout,
    "hang_edit_on": hang_edit_on,
    "pad_under": pad_under,
    "add_pocket": add_pocket,
    "girder_on_posts": girder_on_posts,
    "posts_under": posts_under,
    "posts_under_roof": posts_under_roof,
    "posts_under_purlins": posts_under_purlins,
    "meet_slopes": meet_slopes,
    "step_down": step_down,
    "step_to_meet": step_to_meet,
    "take_studs": take_studs,
    "square_wall": square_wall,
    "steps_on_courses": steps_on_courses,
}
