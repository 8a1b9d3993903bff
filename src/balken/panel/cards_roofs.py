"""The card of a roof: its fields under headings, its deck, what it is framed with."""

from balken.derived.roof_decks import roof_deck_of
from balken.design.heel_joints import heel_joints
from balken.design.layouts import LayoutDesign
from balken.documents.roof_schedule import straps_text
from balken.documents.table_spans import rafter_table_text
from balken.framing.tapered import STEEPEST
from balken.model import edits
from balken.model.records import Roof
from balken.panel.card_parts import Button, Card, Fact, Part, Used, entries
from balken.panel.cards_hand_edits import layout_edits
from balken.panel.cards_layouts import design_parts
from balken.panel.cards_surfaces import surface_parts
from balken.panel.cards_trusses import truss_parts
from balken.panel.fields import FIELDS
from balken.panel.roof_fields import RAFTER_FIELDS, TIE_FIELDS
from balken.session.session import Session
from balken.units import format_area_load

OF_GABLE = ("ridge",)
OF_PLANES = (
    "seat",
    "above_plate",
    "tapered",
    "ledger_size",
    "ridge_made",
    "hips",
    "set_out",
    "full_rafters",
    "jacks",
    "least_gap",
    "level_fascias",
    "collar",
    "tie_raise",
    "purlins_at",
    "purlins_in",
    "purlin_size",
    "purlins_on",
    "struts_apart",
    "framed",
    "fascia",
    "face_board",
    "rake_boards",
    "tails",
    "tail_plumb",
    "eave_blocks",
    "soffit_returns",
    "sprocket_pitch",
    "sprocket_in",
)
OF_RAFTERS = (
    "seat",
    "above_plate",
    "tapered",
    "ridge_made",
    "hips",
    "collar",
    "tie_raise",
    "ridge_size",
    "purlins_at",
    "purlins_in",
    "purlin_size",
    "purlins_on",
    "struts_apart",
    "full_rafters",
    "jacks",
    "least_gap",
    "eave_blocks",
)
OF_HIP_ENDS = ("seat", "above_plate", "hips", "full_rafters", "jacks", "least_gap", "eave_blocks")
"""Those that rafters of hip ends beside trusses have, too."""
ROOF_GROUPS = (
    (
        "Eaves",
        (
            "overhang",
            "seat",
            "above_plate",
            "level_fascias",
            "fascia",
            "face_board",
            "rake_boards",
            "tails",
            "tail_plumb",
            "soffit_returns",
            "sprocket_pitch",
            "sprocket_in",
            "eave_blocks",
        ),
    ),
    ("Setting out", ("set_out", "tapered", "full_rafters", "jacks", "least_gap")),
    (
        "Ridges, ties and purlins",
        (
            "ridge_made",
            "ridge_size",
            "hips",
            "collar",
            "tie_raise",
            "purlins_at",
            "purlins_in",
            "purlin_size",
            "purlins_on",
            "struts_apart",
            "ledger_size",
        ),
    ),
    ("Deck", ("deck",)),
)
"""What is typed of a roof of planes under headings of its own."""


def roof_deck_parts(session: Session, roof: Roof) -> list[Part]:
    """Return what panels a roof's deck is of, how far they are used and nailed."""
    deck, units = roof_deck_of(session.model, roof), session.project.units
    if deck is None or deck.panel is None:
        return []
    clips = "their free edges held by clips or blocks; " if deck.panel.clips else ""
    return [
        Used(
            "Deck",
            deck.used if deck.reaches else 9.99,
            f"panels {deck.panel.rating} under {format_area_load(deck.load, units)}: {deck.panel.clause}",
        ),
        Fact("Its panels", f"{clips}{deck.panel.nails}"),
    ]


def roof_card(session: Session, roof: Roof) -> Card:
    hidden = OF_GABLE if roof.shape == "planes" else OF_PLANES
    trussed = roof.framed == "trusses" and not getattr(session.model.trusses.get(roof.id), "problem", "")
    raftered = session.model.raftered(roof.id)
    if trussed:
        hidden = (*hidden, *(key for key in OF_RAFTERS if not raftered or key not in OF_HIP_ENDS))
    if roof.purlins_at == 0.0:
        hidden = (*hidden, "purlins_in", "purlin_size", "purlins_on")
    if roof.purlins_at == 0.0 or roof.purlins_on != "struts":
        hidden = (*hidden, "struts_apart")
    if all(side.kind != "wall" for side in roof.sides):
        hidden = (*hidden, "ledger_size")
    if roof.fascia is None:
        hidden = (*hidden, "face_board", "rake_boards")
    if roof.tails not in ("level", "cut back"):
        hidden = (*hidden, "tail_plumb")
    if roof.pitch > STEEPEST + 1e-6 and not roof.tapered:
        hidden = (*hidden, "tapered")
    if roof.sprocket_pitch is None:
        hidden = (*hidden, "sprocket_in")
    rows = [f for f in FIELDS[Roof] if f.key not in hidden]
    grouped = {key for _, keys in ROOF_GROUPS for key in keys} if roof.shape == "planes" else set()
    parts = entries(session, [roof], [f for f in rows if f.key not in grouped])
    for heading, keys in ROOF_GROUPS if grouped else ():
        fields = [f for f in rows if f.key in keys]
        parts += [heading, *entries(session, [roof], fields)] if fields else []
    parts += roof_deck_parts(session, roof)
    if roof.shape == "planes":
        design = session.model.designs.get((roof.id, "rafters"))
        if roof.framed == "trusses":
            parts += truss_parts(session, roof)
        if not trussed or raftered:
            heading = "Rafters of its hip ends" if raftered else "Rafters"
            parts += [heading, *entries(session, [roof], RAFTER_FIELDS)]
        if design is not None:
            parts += design_parts(session, design, "", roof.id, "rafters")
            parts += table_parts(session, design)
        ties = session.model.designs.get((roof.id, "ties"))
        if ties is not None:
            parts.append("Ceiling joists of its hip ends" if raftered else "Ceiling ties")
            parts += entries(session, [roof], TIE_FIELDS)
            parts += design_parts(session, ties, "", roof.id, "ties")
            parts += heel_parts(session, roof, ties)
        parts += collar_parts(session, roof)
        parts += jack_parts(session, roof)
        parts += surface_parts(session, roof)
        parts += layout_edits(session, roof.id)
        parts.append(Button("Remove roof", edit=lambda q: edits.remove(q, roof.id)))
        return Card(roof.name, "roof of planes", parts)
    for noun, name, fields in (("Rafters", "rafters", RAFTER_FIELDS), ("Ceiling ties", "ties", TIE_FIELDS)):
        parts.append(noun)
        parts += entries(session, [roof], fields)
        design = session.model.designs.get((roof.id, name))
        if design is not None:
            parts += design_parts(session, design, "", roof.id, name)
            parts += table_parts(session, design)
            parts += heel_parts(session, roof, design) if name == "ties" else []
    parts += layout_edits(session, roof.id)
    parts.append(Button("Remove roof", edit=lambda q: edits.remove(q, roof.id)))
    return Card(roof.name, "gable roof", parts)


def table_parts(session: Session, design: LayoutDesign) -> list[Part]:
    """Return what span tables say of rafters, for information."""
    said = rafter_table_text(session.model, design)
    return [Fact("By span tables", said)] if said else []


def collar_parts(session: Session, roof: Roof) -> list[Part]:
    """Return how collar ties are nailed to their rafters, and what holds pairs where none stands near."""
    framing, parts = session.model.planes.get(roof.id), list[Part]()
    worst = framing.collared.worst if framing is not None else None
    if worst is not None:
        parts.append(Fact("Collar ties", f"{worst.nails.text} ({worst.nails.clause})"))
    if framing is not None and framing.collared.loose:
        parts.append(Fact("Ridge straps", straps_text(session.model, roof)))
    return parts


def jack_parts(session: Session, roof: Roof) -> list[Part]:
    """Return how jacks are nailed to hips and valleys; those that hang are told with their hangers."""
    framing = session.model.planes.get(roof.id)
    rows = framing.jacks.nailed if framing is not None else ()
    return [Fact(f"Jacks {where}", f"{nails.text} ({nails.clause})") for where, nails in rows]


def heel_parts(session: Session, roof: Roof, ties: LayoutDesign) -> list[Part]:
    """Return how ties are nailed to their rafters, and to one another."""
    model = session.model
    rafters = model.designs[(roof.id, "rafters")]
    rows = heel_joints(roof, rafters, ties, model.planes.get(roof.id), model.standard)
    return [
        Fact(f"Heel joints{', ' if where else ''}{where}", f"{nails.text} ({nails.clause})") for where, nails in rows
    ]
