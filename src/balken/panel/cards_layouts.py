"""The cards of foundations, floors, roofs and their pieces: what bears, what is used, and why."""

from collections.abc import Callable
from functools import partial

from balken.catalog.own_joists import own_joist
from balken.catalog.sections import section
from balken.design.guards import guard_of
from balken.design.hangers import Hung
from balken.design.layouts import LayoutDesign
from balken.documents.load_tree import pad_tree
from balken.findings.floor_rules import build_up, ledger_of
from balken.framing.pieces import Piece
from balken.geometry.plane import distance
from balken.loads.cases import Cases, total
from balken.model import edits
from balken.model.floor_edits import bow_side, change_past, reach_past, without_past
from balken.model.foundation_edits import run_apart
from balken.model.lookup import bearer_label, find, label_of, locate, wall_label
from balken.model.naming import run_of, wall_of_run
from balken.model.records import Floor, FloorLoad, Foundation, Pad, Project, Record, Roof, Slab
from balken.panel.card_parts import (
    Button,
    Card,
    Entry,
    Fact,
    Note,
    Part,
    Rows,
    entries,
    record_name,
    select_action,
    used_parts,
)
from balken.panel.cards_foundations import footing_parts, run_parts, tree_parts
from balken.panel.cards_hand_edits import layout_edits, own_parts
from balken.panel.cards_ledgers import ledger_parts
from balken.panel.cards_own_truss import own_truss_parts
from balken.panel.cards_slabs import copy_parts, slab_parts, under_parts
from balken.panel.cards_trusses import stick_parts
from balken.panel.field_kinds import FieldDef, apply_to, only
from balken.panel.fields import FIELDS
from balken.panel.roof_fields import RAFTER_FIELDS, TIE_FIELDS, TRUSS_FIELDS
from balken.session.session import Edit, Session
from balken.standards.checks import used_text
from balken.units import (
    Units,
    format_area_load,
    format_force,
    format_inches,
    format_length,
    format_line_load,
    parse_length,
)

TO_END = "its end"
OF_JOISTS = ("joists__made_of", "joists__size", "joists__spacing", "joists__species", "joists__grade")
OF_WOOD = ("joists__species", "joists__grade")
OF_JOISTS_ALONE = (*OF_WOOD, "joists__spacing", "start", "over", "blocking", "deck", "ceiling")


def floor_fields(floor: Floor) -> list[FieldDef]:
    """Return the fields of a floor; species and grade are those of sawn lumber alone, a slab has no deck and no blocks."""
    hidden = (
        OF_JOISTS_ALONE if floor.is_slab else ("carries",) if floor.joists.made_of == "sawn" else (*OF_WOOD, "carries")
    )
    return [f for f in FIELDS[Floor] if f.key not in hidden]


def floor_card(session: Session, floor: Floor) -> Card:
    parts = entries(session, [floor], floor_fields(floor))
    design = session.model.designs.get((floor.id, "joists"))
    slab = session.model.raised.get(floor.id)
    if design is not None and slab is not None:
        parts += slab_parts(session, floor, design, slab)
    elif design is not None:
        parts += design_parts(session, design, "Joists", floor.id, "joists")
        parts += _ways(session, design)
        parts += _squash_parts(session, floor)
        parts += deck_parts(session, floor)
    parts += past_parts(session, floor)
    parts += arc_parts(session, floor)
    parts += under_parts(session, floor)
    parts += copy_parts(session, floor)
    parts += layout_edits(session, floor.id)
    parts.append(Button("Remove floor", edit=lambda q: edits.remove(q, floor.id)))
    return Card(floor.name, "slab above ground" if floor.is_slab else "joist layout", parts)


def _ways(session: Session, design: LayoutDesign) -> list[Part]:
    """Return which way needs how much timber, where that decided."""
    imperial = session.project.units is Units.IMPERIAL
    rows = []
    for way in design.ways:
        volume = way.volume * 1e-9
        said = f"{volume * 423.776:,.0f} board feet" if imperial else f"{volume:.2f} m\u00b3"
        rows.append((f"{way.angle:.0f}\u00b0 from x", said, "works" if way.works else "does not work"))
    return ["Way with the least timber", Rows(("Joists", "Timber", ""), rows)] if rows else []


def _squash_parts(session: Session, floor: Floor) -> list[Part]:
    """Return what takes walls that stand over the bearings of I-joists through the floor."""
    p = session.project
    rows = [
        (
            wall_label(p, one.wall),
            bearer_label(p, one.bearer),
            f"{one.blocks} pairs of blocks" if one.blocks else "its boards",
            used_text(one.used),
        )
        for one in session.model.squashed
        if one.floor == floor.id
    ]
    return ["Under walls above", Rows(("Wall", "On", "Through", "Used"), rows)] if rows else []


def deck_parts(session: Session, floor: Floor) -> list[Part]:
    """Return what the panels of the deck span and how they are nailed, and what the floor weighs."""
    units, design = session.project.units, session.model.designs.get((floor.id, "joists"))
    standard = session.model.standard
    panel = standard.deck_boards(floor.deck) if floor.outdoors else standard.deck_panel(floor.deck)
    if design is None:
        return []
    parts: list[Part] = ["Deck"]
    if panel is not None:
        parts += [
            Fact("Span rating", f"{panel.rating}: {format_inches(panel.span, units)} at most"),
            Fact("Nails", panel.nails),
            Fact("By", panel.clause),
        ]
    plan = next((plan for plan in session.model.floors if plan.floor.id == floor.id), None)
    ledger = ledger_of(session.model, plan) if plan is not None else None
    if ledger is not None:
        parts += [
            Fact("Ledger", f"{ledger.text} ({ledger.clause})"),
            Fact("Ties", f"{ledger.ties} ({ledger.ties_clause})"),
        ]
    guard = guard_of(plan, design.size, standard.guard_rules) if plan is not None else None
    if guard is not None:
        parts += [
            Fact("Guard posts", f"{guard.posts}, 6 ft apart at most, on {format_length(guard.length, units)} of edge"),
            Fact(
                "Upper bolt of each",
                f"pulled by {format_force(guard.pull, units)} ({standard.guard_rules.load_clause})",
            ),
        ]
    weighs = format_area_load(build_up(floor, design.size, design.spacing), units)
    return [*parts, Fact("Deck, joists, ceiling weigh", weighs)]


def load_card(session: Session, load: FloorLoad) -> Card:
    """Return what can be typed of a load on a floor, and which joists carry it."""
    p, model = session.project, session.model
    parts = entries(session, [load], FIELDS[FloorLoad])
    on = model.path.decks.get(load.floor)
    if on is not None:
        rows = [
            (model.marks.get(name, ""), format_force(sum(r.force.all for r in mine), p.units),
             used_text(model.results[name].used) if name in model.results else "")
            for name, every in on.joists.items()
            if (mine := [r for r in every if r.source == load.id])
        ]  # fmt: skip
        if rows:
            parts += ["Carried by", Rows(("Joist", "Of it", "Used"), rows)]
    parts.append(Button("Remove load", edit=lambda q: edits.remove(q, load.id)))
    return Card(label_of(p, load.id), "in one place, beside the floor's own load", parts)


def past_parts(session: Session, floor: Floor) -> list[Part]:
    """Return where a floor reaches past its walls, and what lets it do so past another."""
    p = session.project
    parts: list[Part] = ["Reaches past walls"]

    def sets(number: int, name: str) -> Callable[[str], Edit]:
        def commit(typed: str) -> Edit:
            to_end = name == "end" and typed.strip().lower() in ("", TO_END)
            value = None if to_end else parse_length(typed, p.units)
            return lambda q: change_past(q, floor.id, number, **{name: value})

        return commit

    for n, edge in enumerate(floor.past):
        last = TO_END if edge.end is None else format_length(edge.end, p.units)
        wall = wall_label(p, edge.wall)
        again = f" ({n + 1})" if any(other.wall == edge.wall for other in floor.past[:n]) else ""
        parts += [
            Entry(f"{wall}{again} by", format_length(edge.by, p.units), sets(n, "by")),
            Entry(f"{wall}{again} from", format_length(edge.start, p.units), sets(n, "start"), hint="its start corner"),
            Entry(f"{wall}{again} to", last, sets(n, "end"), hint=TO_END),
            Button(f"Not past {wall}{again}", edit=partial(without_past, floor_id=floor.id, number=n)),
        ]
    free = [
        w.id for w in p.walls if w.id in floor.walls and w.role == "outside" and all(e.wall != w.id for e in floor.past)
    ]
    if free:
        options = [("", "none"), *((w, wall_label(p, w)) for w in free)]
        parts.append(Entry("Past one more wall", "", _one_more(floor), options))
    return parts


def arc_parts(session: Session, floor: Floor) -> list[Part]:
    """Return which sides of a drawn outline are arcs, and what makes another one so."""
    p, count = session.project, len(floor.corners)
    if not count:
        return []
    known = {arc.side: arc.rise for arc in floor.arcs}
    ring = [locate(c, p.grids) for c in floor.corners]
    names = {
        k: f"side {k + 1}, {format_length(distance(ring[k], ring[(k + 1) % count]), p.units)}" for k in range(count)
    }

    def sets(side: int) -> Callable[[str], Edit]:
        def commit(typed: str) -> Edit:
            rise = parse_length(typed, p.units)
            return lambda q: bow_side(q, floor.id, side, rise)

        return commit

    def bows(typed: str) -> Edit:
        return lambda q: (
            bow_side(q, floor.id, int(typed), distance(ring[int(typed)], ring[(int(typed) + 1) % count]) / 8.0)
            if typed
            else q
        )

    parts: list[Part] = ["Sides that are arcs"]
    for side, rise in sorted(known.items()):
        hint = "at its middle; below 0: inward, 0: straight"
        parts.append(
            Entry(f"{names[side].capitalize()}: bows out by", format_length(rise, p.units), sets(side), hint=hint)
        )
    options = [("", "none"), *((str(k), name) for k, name in names.items() if k not in known)]
    return [*parts, Entry("Bow another side", "", bows, options)]


def _one_more(floor: Floor) -> Callable[[str], Edit]:
    def commit(wall: str) -> Edit:
        return lambda q: reach_past(q, floor.id, wall) if wall else q

    return commit


def design_parts(session: Session, design: LayoutDesign, heading: str, layout: str, name: str) -> list[Part]:
    """Return what was chosen, why, and the neighbours."""
    units = session.project.units
    parts: list[Part] = [heading] if heading else []
    how = [w for w, auto in (("section", design.size_auto), ("spacing", design.spacing_auto)) if auto]
    chosen = f"{design.size} @ {format_inches(design.spacing, units)}"
    if how:
        chosen += f"  ({' and '.join(how)} chosen)"
    parts.append(Fact("Made of", chosen))
    parts += values_parts(design.size)
    parts.append(Fact("Clear span", format_length(design.result.case.clear, units)))
    parts += used_parts(design.result, session)
    rows = [
        (n.size, format_inches(n.spacing, units), used_text(n.used), n.governs)
        for n in sorted(design.neighbours, key=lambda n: -n.used)
    ]
    parts.append("Neighbours")
    parts.append(Rows(("Section", "Spacing", "Used", "Governs"), rows))
    return parts


def values_parts(size: str) -> list[Part]:
    """Return what is to be known about the values of what is not sawn."""
    if own_joist(size) is not None:
        return [Fact("Values", "of the project's own list")]
    said = {
        "I-joist": "APA PRI-400 as remembered; compare with the list of the maker you buy from",
        "laminated veneer": "as makers of veneer lumber publish them; take those of the one you buy",
    }.get(section(size).kind, "")
    return [Fact("Values", said)] if said else []


MADE_OF = {"laminated veneer": "laminated veneer lumber", "glulam": "glued laminated timber"}


def _made_of(piece: Piece) -> str:
    """Return what a piece of lumber is made of; species and grade say nothing of what is not sawn."""
    try:
        kind = section(piece.section).kind
    except KeyError:  # steel
        kind = "sawn"
    return f"{piece.species} {piece.grade}" if kind == "sawn" else MADE_OF.get(kind, kind)


def _called(session: Session, piece: Piece) -> str:
    """Return what a piece is called: a ridge that carries is a beam."""
    roof = find(session.project, piece.owner)
    if piece.role == "ridge board" and isinstance(roof, Roof) and roof.ridge_beams:
        return "ridge beam"
    return piece.role


def piece_card(session: Session, piece: Piece, show: Callable[[str], None] = lambda thing: None) -> Card:
    p, model = session.project, session.model
    title = f"{piece.section} {_called(session, piece)}".strip()
    title = title[0].upper() + title[1:]
    parts: list[Part] = [Fact("Length", format_length(piece.length, p.units))]
    if piece.section:
        parts.append(Fact("Made of", _made_of(piece)))
    else:
        parts.append(Fact("Material", piece.material))
    parts.append(
        Fact(
            "Volume",
            f"{piece.volume * 1e-9 * 35.3147:.1f} ft\u00b3"
            if p.units.value == "ft-in"
            else f"{piece.volume * 1e-9:.3f} m\u00b3",
        )
    )
    on = model.path.decks.get(piece.owner)
    handed = [(r.bearer, r.force) for r in model.path.reactions if r.piece == piece.key]
    if on is not None:
        handed += [(name, row.force) for name, rows in on.headers.items() for row in rows if row.joist == piece.key]
    if handed:
        parts.append("Bears on")
        for bearer in dict.fromkeys(name for name, _ in handed):
            load, combo = model.standard.combinations.worst(total(force for name, force in handed if name == bearer))
            parts.append(Fact(bearer_label(p, bearer), f"{format_force(load, p.units)} ({combo.name})"))
    parts += hanger_parts(session, lambda one: one.member == piece.key)
    parts += ledger_parts(session, piece)
    if on is not None and piece.key in on.joists:
        parts.append("Under what stands on the deck")
        for source in dict.fromkeys(row.source for row in on.joists[piece.key]):
            load, combo = model.standard.combinations.worst(
                total(row.force for row in on.joists[piece.key] if row.source == source)
            )
            parts.append(Fact(label_of(p, source), f"{format_force(load, p.units)} ({combo.name})"))
    result = model.results.get(piece.key)
    if result is not None:
        parts.append("Load")
        line, combo = model.standard.combinations.worst(result.case.line)
        parts.append(Fact(f"Line load ({combo.name})", format_line_load(line, p.units)))
        parts.append(Fact("Clear span", format_length(result.case.clear, p.units)))
        parts += used_parts(result, session)
    parts += stick_parts(model, piece)
    parts += own_truss_parts(session, piece)
    run_id = run_of(piece.key)
    if run_id in model.footings and piece.role in ("foundation wall", "strip footing"):
        parts += run_parts(session, run_id, show)
    pad = model.pads.get(piece.owner)
    if pad is not None:
        parts += footing_parts(session, pad.design)
        parts += tree_parts(session, pad_tree(model, piece.owner))
        parts.append(Button("Calculation sheet", action=lambda: show(piece.owner)))
    parts += own_parts(session, piece)
    owner = find(p, piece.owner)
    if owner is not None:
        parts.append(f"Layout: {record_name(p, piece.owner)}")
        parts += _layout_entries(session, piece, owner)
        parts.append(Button(f"Select {record_name(p, piece.owner)}", action=select_action(session, piece.owner)))
    return Card(title, _belongs(session, piece), parts)


def hanger_parts(session: Session, of: Callable[[Hung], bool]) -> list[Part]:
    """Return the hangers at the ends of what is shown."""
    p, found = session.project, list[Part]()
    for one in session.model.hangers:
        if of(one):
            said = f"{one.called}, used {used_text(one.used)}" if one.hanger else one.why
            found.append(Fact(f"Hanger at {bearer_label(p, one.on)}", said))
    if not found:
        return []
    return ["Hangers", *found, *([] if p.hangers else [Fact("List", "made up")])]


def _belongs(session: Session, piece: Piece) -> str:
    """Return the mark of a piece, and to what it belongs."""
    mark = session.model.marks.get(piece.key, "")
    whose = record_name(session.project, piece.owner)
    under = f", {wall_label(session.project, piece.wall)}" if piece.wall and piece.wall != piece.owner else ""
    return f"{mark}, {whose}{under}" if mark else f"{whose}{under}"


OF_SILL = ("sill_size", "bolt_spacing", "head__level")
OF_RUN = (
    "made_of",
    "thickness",
    "head__level",
    "head__offset",
    "foot__level",
    "foot__offset",
    "footing_width",
    "footing_depth",
    "footing_offset",
)
OF_PAD = ("width", "thickness", "top__level", "top__offset", "pier", "head__level", "head__offset")
"""What the card of a sill plate, of concrete or of a pad lets one type of its layout, by the keys of the fields."""


def _layout_entries(session: Session, piece: Piece, owner: Record) -> list[Part]:
    fields: list[FieldDef] = []
    field_name = ""
    if isinstance(owner, Floor):
        fields, field_name = [f for f in floor_fields(owner) if f.key in OF_JOISTS], "joists"
    elif isinstance(owner, Roof):
        fields, field_name = (
            (TIE_FIELDS, "ties") if piece.role in ("ceiling tie", "ceiling joist") else (RAFTER_FIELDS, "rafters")
        )
        if piece.role.startswith("truss"):
            fields, field_name = TRUSS_FIELDS, "trusses"
    elif isinstance(owner, Foundation):
        fields = only(FIELDS[Foundation], *(OF_SILL if piece.role == "sill plate" else OF_RUN))
    elif isinstance(owner, Pad):
        fields = only(FIELDS[Pad], *OF_PAD)
    elif isinstance(owner, Slab):
        fields = only(FIELDS[Slab], "name", "level", "thickness", "edge", "seat")
    wall = wall_of_run(run_of(piece.key)) if isinstance(owner, Foundation) else ""
    if isinstance(owner, Foundation) and wall in owner.walls and len(owner.walls) > 1:
        return _of_run_alone(session, owner, wall, fields)
    parts = entries(session, [owner], fields)
    design = session.model.designs.get((piece.owner, field_name))
    if design is not None and piece.key in session.model.results:
        units = session.project.units
        rows = [
            (n.size, format_inches(n.spacing, units), used_text(n.used), n.governs)
            for n in sorted(design.neighbours, key=lambda n: -n.used)
        ]
        parts += ["Neighbours", Rows(("Section", "Spacing", "Used", "Governs"), rows)]
    return parts


def _of_run_alone(session: Session, foundation: Foundation, wall: str, fields: list[FieldDef]) -> list[Part]:
    """Return entries that change what stands under one wall of a foundation alone: it gets one of its own, made as it was."""

    def put(p: Project, definition: FieldDef, typed: str) -> Project:
        apart, own = run_apart(p, foundation.id, wall)
        return apply_to(apart, (own,), definition, typed)

    label = wall_label(session.project, wall)
    others = len(foundation.walls) - 1
    noun = "walls" if others > 1 else "wall"
    return [
        Note(
            f"Changes here are for {label} alone; the other {others} {noun} on {foundation.name} stay as they are. Select it below to change all."
        ),
        *entries(session, [foundation], fields, put),
    ]


def line_parts(foot: Cases, per_length: Cases, session: Session) -> list[Part]:
    units = session.project.units
    load, combo = session.model.standard.combinations.worst(per_length)
    return [
        Fact("At its foot, all cases", format_force(foot.all, units)),
        Fact(f"Line load ({combo.name})", format_line_load(load, units)),
    ]
