"""The card of a dormer."""

from balken.framing.roof_layout import lengths
from balken.loads.cases import Cases, total
from balken.model import edits
from balken.model.lookup import wall_label
from balken.model.records import Dormer
from balken.panel.card_parts import Button, Card, Fact, Part, entries
from balken.panel.cards_layouts import design_parts
from balken.panel.cards_roofs import collar_parts, heel_parts
from balken.panel.cards_surfaces import NAMES
from balken.panel.field_kinds import only
from balken.panel.fields import FIELDS
from balken.panel.roof_fields import RAFTER_FIELDS, TIE_FIELDS
from balken.session.session import Session
from balken.standards.checks import used_text
from balken.units import format_force, format_length

GABLET = ("name", "shape", "front", "overhang", "studs", "weight")
"""What is typed of a gablet; the rest follows from the roof."""
SIDES = ("left", "right")


def dormer_card(session: Session, dormer: Dormer) -> Card:
    """Return what can be typed of a dormer, what its roof and walls are made of, and what it brings to the roof below."""
    model, p, units = session.model, session.project, session.project.units
    gablet = dormer.shape == "gablet"
    fields = only(FIELDS[Dormer], *GABLET) if gablet else FIELDS[Dormer]
    parts: list[Part] = entries(session, [dormer], fields)
    made = model.dormers.get(dormer.id)
    if made is None:
        parts.append(Fact("Not made", "its roof has no planes"))
    elif made.plan is None or made.framing is None:
        parts.append(Fact("Not made", made.problem))
    else:
        parts += _made_of(session, dormer)
        parts += ["Its roof and walls"]
        if made.problem:
            parts.append(Fact("Not as asked", made.problem))
        (near, far), (first, last) = made.place.t, made.place.s
        if gablet:
            parts.append(Fact("Width over its face", format_length(last - first, units)))
        else:
            parts.append(Fact("Dies into the roof", f"{format_length(far - near, units)} behind its face"))
            parts.append(Fact("Plates at", format_length(made.place.bearing, units)))
        parts += [
            Fact(NAMES[kind], format_length(long, units)) for kind, long in lengths(made.plan.whole.lines).items()
        ]
        if made.result is not None:
            parts.append(Fact("Header over the window", f"{made.header}, used {used_text(made.result.used)}"))
        comes = session.model.standard.combinations.worst(total((Cases(), *(foot.force for foot in made.feet))))[0]
        parts.append(Fact("Brings to the roof below", format_force(comes, units)))
        host = model.planes.get(dormer.roof)
        for key, side in (
            (f"{dormer.roof}/dormer-trimmer/{dormer.id}/{end}", s) for end, s in zip("ab", SIDES, strict=True)
        ):
            if host is not None and key in host.results:
                size = host.boards.own.get(key, host.boards.rafter)
                parts.append(Fact(f"Trimmer, {side}", f"{size}, used {used_text(host.results[key].used)} each ply"))
    parts.append(Button(f"Remove {'gablet' if gablet else 'dormer'}", edit=lambda q: edits.remove(q, dormer.id)))
    return Card(dormer.name, f"on the roof over {wall_label(p, dormer.wall)}", parts)


def _made_of(session: Session, dormer: Dormer) -> list[Part]:
    """Return what a dormer's rafters and ties are made of."""
    parts, plan = list[Part](), next((s for s in session.model.surfaces if s.roof.id == dormer.id), None)
    for noun, name, fields in (("Rafters", "rafters", RAFTER_FIELDS), ("Ceiling ties", "ties", TIE_FIELDS)):
        design = session.model.designs.get((dormer.id, name))
        if design is None:
            continue
        parts.append(noun)
        parts += entries(session, [dormer], fields)
        parts += design_parts(session, design, "", dormer.id, name)
        parts += heel_parts(session, plan.roof, design) if name == "ties" and plan is not None else []
    return [*parts, *(collar_parts(session, plan.roof) if plan is not None else ())]
