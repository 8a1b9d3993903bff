"""What the pieces of a building are: one row a role, read by marks, drawings, lists, quantities and IFC.

A new role is a row here and nothing else.
"""

from typing import Literal

from balken.value import Value

Role = str
"""The name of a role: a key of ``ROLES``."""
DrawnOn = Literal["foundations", "floors", "walls", "roof"]


class RoleOf(Value, frozen=True):
    """One role.

    ``mark``: the letters its marks begin with.  ``layer``, ``pen``, ``fill``: how drawings show it in plan (``fill`` ""
    is that of its material).  ``ifc``: class and predefined type (ISO 16739-1).  ``lumber``: it is cut from boards and
    stands in member table and cut list; ``stick``: it belongs to a framed wall; ``post``: it stands free, made of a shape of
    ``catalog/post_shapes``; ``beam``: it is made of a section of ``catalog/beams``.  ``concrete``: it is cast and counted as
    such; ``dug``: the ground is dug out for it, ``footing``: with working room beside it, as it spreads load to the soil.  ``under``: cut drawings paint what is lower here first.
    """

    noun: str
    plural: str
    mark: str
    layer: DrawnOn
    ifc: tuple[str, str]
    pen: str = "cut"
    fill: str = ""
    lumber: bool = False
    stick: bool = False
    post: bool = False
    beam: bool = False
    concrete: bool = False
    dug: bool = False
    footing: bool = False
    under: int = 9


def _cast(noun: str, plural: str, mark: str, ifc: tuple[str, str], dug: bool = True, under: int = 9) -> RoleOf:
    footing = ifc[0] == "IfcFooting"
    return RoleOf(noun, plural, mark, "foundations", ifc, concrete=True, dug=dug, footing=footing, under=under)


def _lumber(noun: str, plural: str, mark: str, layer: DrawnOn, ifc: tuple[str, str], fill: str = "timber") -> RoleOf:
    return RoleOf(noun, plural, mark, layer, ifc, "timber", fill, lumber=True)


def _stick(noun: str, plural: str, mark: str, ifc: tuple[str, str], fill: str = "timber light") -> RoleOf:
    return RoleOf(noun, plural, mark, "walls", ifc, "timber", fill, lumber=True, stick=True)


_OWN = "USERDEFINED"
ROLES: dict[Role, RoleOf] = {
    "foundation wall": _cast("foundation wall", "foundation walls", "FW", ("IfcWall", "SOLIDWALL"), dug=False, under=1),
    "pier": _cast("pier", "piers", "PR", ("IfcColumn", _OWN), dug=False),
    "pad footing": _cast("pad footing", "pad footings", "PF", ("IfcFooting", "PAD_FOOTING")),
    "strip footing": _cast("strip footing", "strip footings", "F", ("IfcFooting", "STRIP_FOOTING"), under=0),
    "slab": _cast("slab", "slabs", "SL", ("IfcSlab", "BASESLAB")),
    "slab edge": _cast("slab edge", "slab edges", "SE", ("IfcFooting", _OWN)),
    "blinding": _cast("blinding", "blinding", "BG", ("IfcSlab", _OWN)),
    "insulation": RoleOf("insulation", "insulation", "IN", "foundations", ("IfcCovering", "INSULATION"), dug=True),
    "wall lining": RoleOf("wall lining", "wall linings", "LN", "foundations", ("IfcCovering", "INSULATION"), under=2),
    "subbase": RoleOf("subbase", "subbase", "SB", "foundations", ("IfcBuildingElementProxy", _OWN), dug=True),
    "sill plate": _lumber("sill plate", "sill plates", "SP", "foundations", ("IfcMember", "PLATE")),
    "rim board": _lumber("rim board", "rim boards", "RB", "floors", ("IfcBeam", _OWN)),
    "joist": _lumber("joist", "joists", "J", "floors", ("IfcBeam", "JOIST")),
    "beam": RoleOf("beam", "beams", "B", "floors", ("IfcBeam", "BEAM"), "timber", "timber", beam=True),
    "beam plate": _lumber("beam plate", "beam plates", "BT", "floors", ("IfcMember", "PLATE")),
    "floor header": _lumber("floor header", "floor headers", "FH", "floors", ("IfcBeam", _OWN)),
    "stringer": _lumber("stringer", "stringers", "ST", "floors", ("IfcMember", "STRINGER")),
    "squash block": _lumber("squash block", "squash blocks", "SQ", "floors", ("IfcMember", _OWN)),
    "web stiffener": RoleOf("web stiffener", "web stiffeners", "WS", "floors", ("IfcMember", _OWN), fill="deck"),
    "blocking": _lumber("blocking", "blocking", "BL", "floors", ("IfcMember", _OWN)),
    "floor deck": RoleOf("floor deck", "floor decks", "FD", "floors", ("IfcSlab", "FLOOR"), fill="deck", under=4),
    "floor slab": RoleOf("floor slab", "floor slabs", "FS", "floors", ("IfcSlab", "FLOOR"), concrete=True, under=4),
    "wall layer": RoleOf("wall layer", "wall layers", "WL", "walls", ("IfcWall", "SOLIDWALL"), under=2),
    "rafter": _lumber("rafter", "rafters", "R", "roof", ("IfcMember", "RAFTER")),
    "hip rafter": _lumber("hip rafter", "hip rafters", "HR", "roof", ("IfcMember", "RAFTER")),
    "valley rafter": _lumber("valley rafter", "valley rafters", "VR", "roof", ("IfcMember", "RAFTER")),
    "purlin": _lumber("purlin", "purlins", "PN", "roof", ("IfcBeam", _OWN)),
    "strut": _lumber("strut", "struts", "SU", "roof", ("IfcMember", "STRUT")),
    "ridge board": _lumber("ridge board", "ridge boards", "RG", "roof", ("IfcMember", _OWN)),
    "ledger": _lumber("ledger", "ledgers", "LG", "roof", ("IfcMember", _OWN)),
    "ceiling joist": _lumber("ceiling joist", "ceiling joists", "CJ", "roof", ("IfcBeam", "JOIST"), "timber light"),
    "ceiling tie": _lumber("ceiling tie", "ceiling ties", "CT", "roof", ("IfcMember", _OWN), "timber light"),
    "tapered strip": _lumber("tapered strip", "tapered strips", "TS", "roof", ("IfcMember", _OWN), "timber light"),
    "roof deck": RoleOf("roof deck", "roof decks", "RD", "roof", ("IfcSlab", "ROOF"), fill="deck", under=3),
    "roof plane": RoleOf("roof plane", "roof planes", "RP", "roof", ("IfcSlab", "ROOF"), fill="deck", under=3),
    "truss top chord": _lumber("truss top chord", "truss top chords", "TT", "roof", ("IfcMember", "CHORD")),
    "truss bottom chord": _lumber(
        "truss bottom chord", "truss bottom chords", "TB", "roof", ("IfcMember", "CHORD"), "timber light"
    ),
    "truss brace": _lumber("truss brace", "truss braces", "TK", "roof", ("IfcMember", "BRACE"), "timber light"),
    "truss wedge": _lumber("truss wedge", "truss wedges", "TG", "roof", ("IfcMember", _OWN)),
    "truss web": _lumber("truss web", "truss webs", "TW", "roof", ("IfcMember", _OWN), "timber light"),
    "stud": _stick("stud", "studs", "S", ("IfcMember", "STUD")),
    "king stud": _stick("king stud", "king studs", "K", ("IfcMember", "STUD"), "timber"),
    "jack stud": _stick("jack stud", "jack studs", "JS", ("IfcMember", "STUD"), "timber"),
    "post stud": _stick("post stud", "post studs", "PS", ("IfcMember", "STUD"), "timber"),
    "cripple": _stick("cripple", "cripples", "C", ("IfcMember", "STUD")),
    "fly rafter": _lumber("fly rafter", "fly rafters", "FR", "roof", ("IfcMember", "RAFTER")),
    "fascia": _lumber("fascia", "fascias", "FA", "roof", ("IfcMember", _OWN), "timber light"),
    "rake board": _lumber("rake board", "rake boards", "KB", "roof", ("IfcMember", _OWN), "timber light"),
    "sprocket": _lumber("sprocket", "sprockets", "SK", "roof", ("IfcMember", _OWN)),
    "soffit return": _lumber("soffit return", "soffit returns", "SR", "roof", ("IfcMember", _OWN), "timber light"),
    "eave block": _lumber("eave block", "eave blocks", "EB", "roof", ("IfcMember", _OWN)),
    "lookout": _lumber("lookout", "lookouts", "LO", "roof", ("IfcMember", _OWN)),
    "frame packing": _lumber("frame packing", "frame packings", "PK", "roof", ("IfcMember", _OWN)),
    "tail board": _lumber("tail board", "tail boards", "TD", "roof", ("IfcMember", _OWN)),
    "bearing block": _lumber("bearing block", "bearing blocks", "BB", "roof", ("IfcMember", _OWN)),
    "ladder block": _lumber("ladder block", "ladder blocks", "LB", "roof", ("IfcMember", _OWN)),
    "collar tie": _lumber("collar tie", "collar ties", "KT", "roof", ("IfcMember", _OWN), "timber light"),
    "valley board": _lumber("valley board", "valley boards", "VB", "roof", ("IfcMember", _OWN)),
    "dormer stud": _lumber("dormer stud", "dormer studs", "DS", "roof", ("IfcMember", "STUD")),
    "dormer plate": _lumber("dormer plate", "dormer plates", "DP", "roof", ("IfcMember", "PLATE")),
    "dormer header": _lumber("dormer header", "dormer headers", "DH", "roof", ("IfcBeam", "LINTEL")),
    "dormer sheathing": RoleOf(
        "dormer sheathing", "dormer sheathing", "DW", "roof", ("IfcCovering", "CLADDING"), fill="deck", under=3
    ),
    "rafter header": _lumber("rafter header", "rafter headers", "RH", "roof", ("IfcMember", _OWN)),
    "header": _stick("header", "headers", "H", ("IfcBeam", "LINTEL"), "sheathing"),
    "rough sill": _stick("rough sill", "rough sills", "RS", ("IfcMember", "PLATE")),
    "bottom plate": _stick("bottom plate", "bottom plates", "BP", ("IfcMember", "PLATE")),
    "top plate": _stick("top plate", "top plates", "TP", ("IfcMember", "PLATE")),
    "ribbon": _stick("ribbon", "ribbons", "RI", ("IfcMember", _OWN)),
    "column": RoleOf("column", "columns", "P", "walls", ("IfcColumn", "COLUMN"), post=True),
}
STUD_ROLES = tuple(role for role, row in ROLES.items() if row.stick)
"""Roles of what a framed wall is made of."""
CONCRETE_ROLES = tuple(role for role, row in ROLES.items() if row.concrete)
DUG_ROLES = tuple(role for role, row in ROLES.items() if row.dug)
FOOTING_ROLES = tuple(role for role, row in ROLES.items() if row.footing)
