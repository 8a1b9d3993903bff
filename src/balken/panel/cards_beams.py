"""The card of a beam: what it carries, on what it bears, what it is made of and why."""

from collections.abc import Callable

from balken.derive.fewest_posts import fewest_posts
from balken.design.beam_posts import USUAL, posts_under
from balken.design.ply_nailing import nailing_of
from balken.documents.beam_diagram import beam_diagram
from balken.loads.beam_law import Beamed
from balken.model import edits
from balken.model.beam_rows import beams_of, row_of, set_single, turned
from balken.model.edits import change
from balken.model.lookup import bearer_label, label_of
from balken.model.naming import owner_of
from balken.model.records import Beam, BeamRow
from balken.panel.card_parts import Button, Card, Entry, Fact, Part, Picture, Rows, entries, select_action, used_parts
from balken.panel.cards_layouts import hanger_parts, values_parts
from balken.panel.field_kinds import only
from balken.panel.fields import FIELDS, beam_sizes
from balken.session.session import Edit, Session
from balken.standards.checks import used_text
from balken.units import Units, format_force, format_inches, format_length, parse_length

WIDE, LETTERS = 80.0, 2.2
"""Width of the diagrams on a card and height of their capitals, mm of a sheet."""


def beam_card(session: Session, beam: Beam, show: Callable[[str], None] = lambda thing: None) -> Card:
    """Return what can be typed of a beam, its seats, load, checks and the sections near its own."""
    p = session.project
    free = [] if beam.floor else ["top__level", "top__offset"]
    wood = ["species", "grade"] if beam.made_of == "sawn" else []
    flush = ["flush"] if beam.floor else []
    keys = ("floor", *flush, *free, "made_of", "size", *wood, "outdoors", "dead", "live", "snow")
    parts: list[Part] = entries(session, [beam], only(FIELDS[Beam], *keys))
    made = session.model.path.beams.get(beam.id)
    if made is not None:
        parts += _as_made(session, made)
    parts.append(
        Entry(
            "Set posts under it, at most", "", _posts(session, beam.id), hint=f"{format_length(USUAL, p.units)} apart"
        )
    )
    if made is None or not made.design.works:
        parts.append(Button("Set the fewest posts it works with", edit=lambda q: fewest_posts(q, beam.id)))
    if made is not None and made.design.made:
        parts.append(Button("Calculation sheet", action=lambda: show(beam.id)))
    parts.append(Button("Remove beam", edit=lambda q: edits.remove(q, beam.id)))
    said = "its height follows the floor it carries" if beam.floor else "it carries what stands on it or ends at it"
    return Card("Beam", said, parts)


def row_card(session: Session, row: BeamRow) -> Card:
    """Return what can be typed of a row of beams, and how far each of them is used."""
    p = session.project
    free = [] if row.floor else ["top__level", "top__offset"]
    wood = ["species", "grade"] if row.made_of == "sawn" else []
    flush = ["flush"] if row.floor else []
    laid = {"spacing": ["spacing", "begin"], "spacing at most": ["spacing"], "number": ["number"]}[row.by]
    keys = ("floor", *flush, *free, "by", *laid, "angle", "made_of", "size", *wood, "outdoors")
    parts: list[Part] = entries(session, [row], only(FIELDS[BeamRow], *keys))
    parts.append(Button("Let them run the other way", edit=lambda q: turned(q, row.id)))
    made = [m for beam in beams_of(row, p.grids) if (m := session.model.path.beams.get(beam.id)) is not None]
    parts += ["Beams", Rows(("No.", "Length", "Section", "Used"), [_in_row(m, p.units) for m in made])]
    chosen = [m.design.section for m in made]
    if row.size is None and len({section.name for section in chosen}) > 1:
        most = max(chosen, key=lambda section: section.modulus)
        parts.append(Button(f"Make all of them {most.name}", edit=lambda q: change(q, row.id, size=most.name)))
    out = sum(1 for single in row.singles if single.removed)
    if row.singles:
        parts.append(Fact("Changed singly", f"{len(row.singles)}, {out} of them left out"))
        parts.append(Button("All as the row", edit=lambda q: change(q, row.id, singles=())))
    parts.append(Button("Remove row", edit=lambda q: edits.remove(q, row.id)))
    return Card(label_of(p, row.id), f"{len(made)} beams", parts)


def _in_row(made: Beamed, units: Units) -> tuple[str, str, str, str]:
    """Return what a row's card says of one of its beams."""
    used = used_text(made.design.used) if made.design.made else "not checked"
    number = made.line.id.rpartition(".")[2]
    return number, format_length(made.line.length, units), made.design.section.name, used


def row_beam_card(session: Session, beam_id: str, show: Callable[[str], None] = lambda thing: None) -> Card | None:
    """Return the card of one beam of a row: what is other about it, its seats, load and checks; None for any other."""
    p, row = session.project, row_of(session.project, beam_id)
    made = session.model.path.beams.get(beam_id)
    if row is None or made is None:
        return None

    def resize(size: str) -> Edit:
        return lambda q: set_single(q, beam_id, size=size or None)

    own = made.line.beam.size if made.line.beam.size != row.size else ""
    options = [("", "as its row"), *((size, size) for size in beam_sizes(p, row.made_of))]
    parts: list[Part] = [
        "Only this one",
        Entry("Own section", own or "", resize, options),
        Button("Leave it out", edit=lambda q: set_single(q, beam_id, removed=True)),
        *_as_made(session, made),
        Entry(
            "Set posts under it, at most", "", _posts(session, beam_id), hint=f"{format_length(USUAL, p.units)} apart"
        ),
    ]
    if made.design.made:
        parts.append(Button("Calculation sheet", action=lambda: show(beam_id)))
    parts.append(Button("Select its row", action=select_action(session, row.id)))
    return Card("Beam", label_of(p, beam_id), parts)


def _posts(session: Session, beam_id: str) -> Callable[[str], Edit]:
    units = session.project.units

    def commit(typed: str) -> Edit:
        most = parse_length(typed, units) if typed.strip() else USUAL
        return lambda q: posts_under(q, beam_id, most)

    return commit


def _as_made(session: Session, made: Beamed) -> list[Part]:
    p, design = session.project, made.design
    load, combination = session.model.standard.combinations.worst(made.load)
    parts: list[Part] = [
        Fact("Length", format_length(made.line.length, p.units)),
        Fact(f"Load on it ({combination.name})", format_force(load, p.units)),
    ]
    if not design.made:
        return [*parts, Fact("Not checked", design.unchecked)]
    pieces = f", in {len(design.parts)} pieces spliced over posts" if len(design.parts) > 1 else ""
    parts.append(Fact("Made of", f"{design.section.name}{'  (section chosen)' if design.auto else ''}{pieces}"))
    parts += used_parts(design.result, session)
    nails = nailing_of(made.line, design, session.model.hangers, session.model.standard)
    if nails is not None:
        parts.append(Fact("Plies", f"{nails.text} ({nails.clause})"))
    parts += ["Bears on", _seats(session, made)]
    parts += hanger_parts(session, lambda one: owner_of(one.member) == made.line.id)
    parts += ["Load, moment and shear", Picture(beam_diagram(session.model, made.line.id, WIDE, LETTERS))]
    rows = [(n.size, used_text(n.used), n.governs) for n in design.neighbours]
    if rows:
        parts += ["Neighbours, by cost", Rows(("Section", "Used", "Governs"), rows)]
    if design.section.own is not None:
        return [*parts, Fact("Values", "of the project's own list")]
    return parts + (values_parts(design.section.name) if design.section.kind == "laminated veneer" else [])


def _seats(session: Session, made: Beamed) -> Rows:
    p, combos = session.project, session.model.standard.combinations
    rows = []
    for seat, whole, beyond in zip(made.seats, made.design.reactions, made.design.extremes, strict=True):
        most = combos.worst(whole.plus(beyond.more))[0]
        rows.append((bearer_label(p, seat.on), format_inches(seat.bearing, p.units), format_force(most, p.units)))
    return Rows(("On", "Bears", "At most"), rows)
