"""A kind of one's own, a strut, added by rows of the tables alone: it carries, is listed, drawn and written to IFC."""

from typing import Annotated

import ifcopenshell
import ifcopenshell.util.element
import pytest

from balken.derive import derive
from balken.derive.free_standing import FREE_STANDING, FreeStanding
from balken.design.posts import design_post
from balken.documents.plan import PlanOf, plan
from balken.exchange.ifc import write_ifc
from balken.framing.pieces import Piece
from balken.framing.roles import ROLES, RoleOf
from balken.geometry.plane import add, distance
from balken.geometry.prism import upright
from balken.loads.stands import Stand
from balken.model import edits
from balken.model.base import Hang, Place, Record, To
from balken.model.errors import EditError
from balken.model.kinds import COLLECTIONS, KIND_OF, KINDS
from balken.model.kinds.kind import Kind
from balken.model.lookup import height, label_of, locate
from balken.model.naming import piece_name
from balken.model.records import Column, FreePoint, Pad, Project
from balken.model.visitor import hanging, referring
from balken.units.system import FOOT, INCH
from tests.houses import house


class Strut(Record, frozen=True, kw_only=True):
    """A slim timber post that props a wall; ``beside``: a wall it goes with."""

    id: str
    place: Place
    foot: Hang
    head: Hang
    beside: Annotated[str, To(("walls",), "clear")] = ""


def check_strut(project, strut):
    if height(strut.head, project.levels) <= height(strut.foot, project.levels):
        raise EditError("its head is not above its foot.", "Strut", "Choose a higher head.")


class PropProject(Project, frozen=True, kw_only=True):
    """A project that may hold struts."""

    struts: tuple[Strut, ...] = ()


SIDE = 5.5 * INCH
HOUSE = house()
"""Made while there are no struts."""


def strut_stands(struts, grids, levels):
    heights = [(height(s.foot, levels), height(s.head, levels)) for s in struts]
    return tuple(
        Stand("struts", s, locate(s.place, grids), *ends, SIDE) for s, ends in zip(struts, heights, strict=True)
    )


def design_strut(strut, tall, head, plates, standard):
    """A strut is designed as a timber column is, of one size."""
    column = Column(id=strut.id, place=strut.place, foot=strut.foot, head=strut.head, size="6x6")
    return design_post(column, tall, head, plates, standard)


def strut_pieces(struts, grids, levels, shapes):
    made = []
    for s in struts:
        at, bottom, top = locate(s.place, grids), height(s.foot, levels), height(s.head, levels)
        shape = shapes[s.id]
        ring = tuple(add(at, corner) for corner in shape.rings[0])
        made.append(
            Piece(
                piece_name(s.id, "strut"),
                "strut",
                s.id,
                s.foot.level,
                upright(ring, bottom, top - bottom),
                "timber",
                (*at, bottom),
                (*at, top),
                top - bottom,
                shape.name,
                "DF-L",
                "No. 2",
            )
        )
    return tuple(made)


@pytest.fixture
def struts():
    """Enter the kind, its role and how it stands; take them out again."""
    kind = Kind(Strut, "struts", "strut", "strut", "struts", check_strut)
    KINDS.append(kind)
    KIND_OF[Strut], COLLECTIONS[Strut] = kind, kind.collection
    ROLES["strut"] = RoleOf(
        "strut", "struts", "ST", "walls", ("IfcColumn", "USERDEFINED"), "timber", "timber", lumber=True, post=True
    )
    row = FreeStanding("struts", strut_stands, design_strut, strut_pieces)
    FREE_STANDING.append(row)
    yield
    FREE_STANDING.remove(row)
    del ROLES["strut"], KIND_OF[Strut], COLLECTIONS[Strut]
    KINDS.remove(kind)


def propped(*xs):
    """A wall 10 ft long in the air beside a house, on struts at these places along it, with a pad under the first."""
    p = PropProject(**{name: getattr(HOUSE, name) for name in HOUSE.__struct_fields__})
    y = -20 * FOOT
    p = edits.add_level(p, "level-2", 8 * FOOT, "Upper plate", "plate")
    p = edits.add_wall(
        p, (0.0, y), (10 * FOOT, y), "framed-2x6", Hang(level="level-2"), Hang(level=p.levels[-1].id), "centre"
    )
    wall = p.walls[-1].id
    for i, x in enumerate(xs, 1):
        foot, head = Hang(level="level-1"), Hang(level="level-2")
        p = edits.add(p, Strut(id=f"strut-{i}", place=FreePoint(x=x, y=y), foot=foot, head=head, beside=wall))
    top = Hang(level="level-1", offset=-3 * FOOT)
    return edits.add(
        p,
        Pad(id="pad-1", place=FreePoint(x=xs[0], y=y), top=top, head=Hang(level="level-1"), pier=12 * INCH),
    )


@pytest.mark.usefixtures("struts")
def test_it_carries_and_its_pad_takes_what_it_brings():
    model = derive(propped(1 * FOOT, 5 * FOOT))
    wall = model.project.walls[-1].id
    assert set(model.path.below[wall]) == {"strut-1", "strut-2"}
    whole = model.path.walls[wall].foot.dead
    assert model.path.columns["strut-1"].head.dead == pytest.approx(0.3 * whole, rel=0.01)
    assert model.path.columns["strut-2"].head.dead == pytest.approx(0.7 * whole, rel=0.01)
    assert model.path.below["strut-1"] == ("pad-1",)
    assert model.path.pads["pad-1"].dead > model.path.columns["strut-1"].foot.dead > 0.3 * whole
    assert model.posts["strut-1"].result.used > 0.0
    nowhere = [f for f in model.findings if f.code == "column on nothing"]
    assert [f.things for f in nowhere] == [("strut-2",)]
    assert nowhere[0].what.startswith("Strut 2 stands on nothing")


@pytest.mark.usefixtures("struts")
def test_it_is_marked_listed_and_drawn():
    model = derive(propped(1 * FOOT, 5 * FOOT))
    made = [piece for piece in model.members() if piece.role == "strut"]
    assert [piece.length for piece in made] == pytest.approx([8 * FOOT] * 2)
    assert {model.marks[piece.key] for piece in made} == {"ST1"}
    drawn = plan(model, PlanOf("Plan", frozenset({"walls"}), storey=""), 50.0)
    assert {"strut-1", "strut-2"} <= {getattr(item, "ref", "") for item in drawn.items}


@pytest.mark.usefixtures("struts")
def test_it_follows_the_rules_and_the_references():
    p = propped(1 * FOOT)
    with pytest.raises(EditError, match="head is not above its foot"):
        edits.change(p, "strut-1", head=Hang(level="level-1"))
    assert label_of(p, "strut-1") == "Strut 1"
    assert any(r.id == "strut-1" for r in hanging(p, "level-2"))
    wall = p.walls[-1].id
    assert [r.id for r in referring(p, wall)] == ["strut-1"]
    assert edits.remove(p, wall).struts[0].beside == ""
    assert distance(locate(p.struts[0].place, p.grids), (1 * FOOT, -20 * FOOT)) < 1e-9


@pytest.mark.usefixtures("struts")
def test_it_is_written_to_ifc(tmp_path):
    model = derive(propped(1 * FOOT, 5 * FOOT))
    path = tmp_path / "props.ifc"
    write_ifc(model, path)
    file = ifcopenshell.open(str(path))
    written = [c for c in file.by_type("IfcColumn") if c.ObjectType == "STRUT"]
    assert len(written) == 2
    assert {c.Tag for c in written} == {"ST1"}
    names = {ifcopenshell.util.element.get_pset(c, "Balken_Names", "Name") for c in written}
    assert names == {piece.key for piece in model.members() if piece.role == "strut"}
