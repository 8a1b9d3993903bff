"""Posts designed: timber by ANSI/AWC NDS 2018 (3.7, built up 15.3), steel by AISC 360-16 (chapter E), allowable stresses.

A post stands free: pinned at head and foot, nothing holds it between them either way, and its load stands in its middle.
What it is not checked for (its cap and base, wind on it, loads off its middle) is named in ``not_checked``.
"""

from functools import cached_property

from balken.catalog.materials import weight
from balken.catalog.post_shapes import TRIED, PostShape, post_shape, typed_shape
from balken.design.layouts import Neighbour
from balken.loads.cases import Cases
from balken.model.records import Column
from balken.standards.checks import MemberResult
from balken.standards.demands import PostCase
from balken.standards.standard import Standard
from balken.value import Lazy


class PostDesign(Lazy, frozen=True):
    """What a column is made of and whether it works; ``result`` is None where Balken has no way to check it.

    ``unchecked``: why it is not checked, or "".  ``others``: the next sizes, each with its case.  ``own``: its weight,
    ``load``: that with what stands on its head, N by case.  ``would_work``: the smallest size that works where the one chosen does not.
    """

    id: str
    shape: PostShape
    material: str
    auto: bool
    own: Cases
    load: Cases
    result: MemberResult | None
    others: tuple[PostCase, ...] = ()
    unchecked: str = ""
    would_work: str = ""
    standard: Standard | None = None

    @property
    def works(self) -> bool:
        """Whether it carries its load, as far as it is checked."""
        return self.result is None or self.result.used <= 1.0

    @cached_property
    def neighbours(self) -> tuple[Neighbour, ...]:
        """The next sizes and how far they would be used."""
        if self.standard is None:
            return ()
        results = [(case.size, self.standard.check_post(case)) for case in self.others]
        return tuple(Neighbour(size, 0.0, r.used, r.governs.name) for size, r in results)


def own_weight(shape: PostShape, material: str, tall: float) -> Cases:
    """Return the weight of a post, N; of steel whose wall nobody knows, nothing."""
    if material == "steel" and shape.kind == "as typed":
        return Cases()
    return Cases(dead=round(weight(material) * shape.area * tall * 1e-6, 3))


def design_post(column: Column, tall: float, head: Cases, plates: tuple[str, str], standard: Standard) -> PostDesign:
    """Choose a column's section (the smallest that works) or take the typed one, and check it.

    ``tall``: from its foot to its head, mm; ``head``: load on its head, N; ``plates``: species of wooden
    plates under its foot and over its head, "" for none.
    """
    try:
        return _chosen(column, tall, head, plates, standard)
    except KeyError as error:  # no values of that grade
        shape = post_shape(column.size) if column.size else typed_shape(column.material, column.width, column.depth)
        own = own_weight(shape, column.material, tall)
        return PostDesign(
            column.id, shape, column.material, False, own, head.plus(own), None, unchecked=str(error.args[0])
        )


def _chosen(column: Column, tall: float, head: Cases, plates: tuple[str, str], standard: Standard) -> PostDesign:
    made_of = column.material

    def case_for(shape: PostShape) -> PostCase:
        axial = _rounded(head.plus(own_weight(shape, made_of, tall)))
        return PostCase("post", shape, column.species, column.grade, round(tall, 1), axial, plates, column.outdoors)

    cases = [case for name in TRIED[made_of] if standard.has_values(case := case_for(post_shape(name)))]
    auto = column.size is None and bool(cases)
    if auto:
        case = next((case for case in cases if standard.check_post(case).used <= 1.0), cases[-1])
        return _designed(column, case, cases, True, standard)
    shape = post_shape(column.size) if column.size else typed_shape(column.material, column.width, column.depth)
    if shape.kind != "as typed":
        return _designed(column, case_for(shape), cases, False, standard)
    own = own_weight(shape, made_of, tall)
    return PostDesign(column.id, shape, made_of, False, own, head.plus(own), None, unchecked=_WHY_NOT[made_of])


_WHY_NOT = {
    "timber": "There are no design values for timber of this section: choose one of the list.",
    "steel": "A section typed by its sides says nothing of its walls: choose one of the list.",
    "concrete": "Columns of concrete are not checked yet.",
}


def _designed(column: Column, case: PostCase, tried: list[PostCase], auto: bool, standard: Standard) -> PostDesign:
    result = standard.check_post(case)
    row = sorted({c.size: c for c in (*tried, case)}.values(), key=lambda c: (c.shape.area, c.size))
    at = [c.size for c in row].index(case.size)
    others = (*row[max(at - 1, 0) : at], *row[at + 1 : at + 2])
    better = "" if result.used <= 1.0 else next((c.size for c in tried if standard.check_post(c).used <= 1.0), "")
    own = own_weight(case.shape, column.material, case.clear)
    return PostDesign(
        column.id, case.shape, column.material, auto, own, case.axial, result, others, "", better, standard
    )


def _rounded(cases: Cases) -> Cases:
    return Cases(*(round(v, 2) for v in cases))
