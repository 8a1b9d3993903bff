"""What the card of a roof says of its trusses: how they are made, how far used, their sticks, bearings and plates."""

from balken.derived.model import Model
from balken.design.roof_trusses import TrussRoof
from balken.design.truss_neighbours import timber_cost, truss_neighbours
from balken.design.truss_plates import Plate
from balken.design.trusses import TrussDesign
from balken.documents.block_texts import block_texts
from balken.documents.truss_drawing import count_of, truss_diagram
from balken.documents.truss_marks import marks_by_number
from balken.documents.truss_tables import cut_text, joined_by, plates_alike
from balken.framing.pieces import Piece
from balken.framing.truss_layout import TrussPlace
from balken.framing.trusses import ROLES, TrussFrame
from balken.geometry.plane import Ring
from balken.loads.typed import ring_of
from balken.model import edits
from balken.model.lookup import label_of
from balken.model.naming import stick_of
from balken.model.records import Roof, TrussLoad
from balken.panel.card_parts import Button, Card, Fact, Part, Picture, Rows, entries
from balken.panel.fields import FIELDS
from balken.panel.roof_fields import TRUSS_FIELDS
from balken.session.session import Session
from balken.standards.checks import used_text
from balken.standards.standard import Standard
from balken.units import Units, format_force, format_inches, format_length

WIDE = 70.0
"""Width of a truss on the card, mm."""


def truss_parts(session: Session, roof: Roof) -> list[Part]:
    """Return what can be typed of a roof's trusses, and what came of it."""
    parts: list[Part] = ["Trusses", *entries(session, [roof], TRUSS_FIELDS)]
    made = session.model.trusses.get(roof.id)
    if made is None:
        return parts
    if made.problem:
        return [*parts, Fact("Not laid", made.problem)]
    for name, one, plates in made.designs:
        parts += _make(session.model, made, name, one, plates)
    return parts


def weight_card(session: Session, load: TrussLoad) -> Card:
    """Return what can be typed of a weight hung from trusses, and which of them carry it."""
    p, made = session.project, session.model.trusses.get(load.roof)
    parts = entries(session, [load], FIELDS[TrussLoad])
    if made is not None and not made.problem:
        marks, rows = marks_by_number(session.model, load.roof), dict[str, tuple[str, str]]()
        near = ring_of(load, p.grids)
        for number, place in enumerate(made.places):
            one = made.of(number)
            if one is not None and any(not h.holds for h in one.job.loads.hung) and _beside(place, near, made):
                rows[marks.get(number, "")] = marks.get(number, ""), used_text(one.used)
        if rows:
            parts += ["Trusses beside it that carry weights", Rows(("Mark", "Used"), list(rows.values()))]
    parts.append(Button("Remove weight", edit=lambda q: edits.remove(q, load.id)))
    return Card(label_of(p, load.id), "hung from bottom chords, beside the ceiling", parts)


def _beside(place: TrussPlace, near: Ring, made: TrussRoof) -> bool:
    """Whether a truss stands no farther from a weight than trusses do from one another."""
    ts = [place.frame.to(p)[1] for p in near]
    apart = made.row.spacing if made.row is not None else 0.0
    return min(ts) - apart < place.t < max(ts) + apart


def _make(model: Model, made: TrussRoof, name: str, one: TrussDesign, plates: tuple[Plate, ...]) -> list[Part]:
    units, frame = model.units, one.frame
    assert made.row is not None
    count = count_of(made, one)
    parts: list[Part] = [
        f"{name}: {count}",
        Fact("Pattern of webs", one.shape),
        Fact("Apart", format_inches(made.row.spacing, units)),
        Fact("Made of", made_of(frame)),
        Fact("Heel", format_inches(one.heel, units)),
        Fact("Used", used_text(max([one.used, *(p.used for p in plates)]))),
    ]
    if one.shape != "gable-end":
        parts.append(Picture(truss_diagram(one, plates, WIDE)))
    rows = [
        (stick.name, frame.sizes.called(stick.role), used_text(one.sticks[stick.name][0]), one.sticks[stick.name][1])
        for stick in frame.sticks
        if one.shape != "gable-end" or stick.role != "web"
    ]
    parts.append(Rows(("Stick", "Section", "Used", "Governs"), rows))
    parts += [
        Fact(f"{check.name[0].upper()}{check.name[1:]}", f"{used_text(check.used)} ({check.clause})")
        for check in (*one.bearing[:1], one.sag, one.between)
    ]
    parts += [Fact("Blocks", text) for text in block_texts(one, units)]
    if one.shape != "gable-end":
        most, least = one.on_bearings
        parts.append(Fact("On each bearing", f"{format_force(most, units)} at most"))
        if least < 0.0:
            parts.append(Fact("Lifted there", format_force(-least, units)))
    parts += bracing(one, units)
    parts.append(Rows((joined_by(one), "Pairs", "Used"), plate_rows(plates, units)))
    if one.shape != "gable-end":
        parts += ["Neighbours", Rows(("Stick", "Section", "Used", "Timber"), neighbour_rows(one, model.standard))]
    return parts


def neighbour_rows(one: TrussDesign, standard: Standard) -> list[tuple[str, str, str, str]]:
    """Return the next sections of a truss as rows: of what, which, how far used, what its timber costs (a made-up list)."""
    sizes = one.frame.sizes
    own = ("as it is", f"{sizes.top}, {sizes.bottom}, {sizes.webs}", used_text(one.used), f"$ {timber_cost(one):,.2f}")
    rows = [
        (row.group, row.size, "cannot be", "")
        if row.problem
        else (row.group, row.size, used_text(row.used), f"$ {row.dollars:,.2f}")
        for row in truss_neighbours(one, standard)
    ]
    return [own, *rows]


def stick_parts(model: Model, piece: Piece) -> list[Part]:
    """Return how far a stick of a truss is used, with what force; of anything else nothing."""
    trusses, (number, name) = model.trusses.get(piece.owner), stick_of(piece.key)
    if trusses is None or trusses.row is None or not name:
        return []
    made = trusses.of(number)
    if made is None:
        return []
    used, check, clause, combo = made.sticks[name]
    force = made.axial(name)[combo]
    said = f"{'pulled' if force > 0.0 else 'pressed'} with {format_force(abs(force), model.units)} ({combo})"
    one = made.cut[name]
    cuts = " and ".join(cut_text(end) if end else "square" for end in one.cuts)
    return [
        "In its truss",
        Fact("Stick", name),
        Fact("Used", f"{used_text(used)}, {check} ({clause})"),
        Fact("Along it", said),
        Fact("Ends sawn at", cuts),
    ]


def made_of(frame: TrussFrame) -> str:
    """Return the sections of a truss in words."""
    sizes = frame.sizes
    plies = f", {sizes.plies} plies" if sizes.plies > 1 else ""
    top, bottom, webs = (sizes.called(role) for role in ROLES)
    return f"chords {top} above, {bottom} below, webs {webs}{plies}"


def bracing(one: TrussDesign, units: Units) -> list[Part]:
    """Return what holds a truss aside."""
    parts: list[Part] = [Fact("Bottom chord held aside", f"{format_length(one.braced, units)} apart at most")]
    if one.braces:
        said = ", ".join(f"{web}: {'one brace' if n == 1 else 'two braces'}" for web, n in one.braces.items())
        parts.append(Fact("Webs held aside", said))
    return parts


def plate_rows(plates: tuple[Plate, ...], units: Units) -> list[tuple[str, str, str]]:
    """Return plates alike as rows: size, how many pairs, how far used."""
    return [(size, str(len(some)), used_text(max(p.used for p in some))) for size, some in plates_alike(plates, units)]
