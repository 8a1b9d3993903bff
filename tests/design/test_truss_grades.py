"""Grades of trusses chosen for top chords, bottom chords and webs each: what they cost, that they work, that each stick is checked by its own."""

import msgspec
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.app.conftest import _user
from tests.design.test_trusses import as_pynite, truss
from tests.framing.test_roof_trusses import trussed

from balken.catalog.prices import grade_price
from balken.catalog.species import AUTO_GRADE, MACHINE_RATED
from balken.commands.truss import truss_report
from balken.derive import derive
from balken.design.truss_groups import grown, least_sizes, rung_of, rungs_of
from balken.design.truss_neighbours import timber_cost
from balken.exchange.project_file import load, save
from balken.framing.trusses import ROLES, Sizes
from balken.model import edits
from balken.model.errors import EditError
from balken.model.kinds.trusses import Trusses
from balken.panel.card_content import card
from balken.session.session import Session

HEAVY = "--snow 50psf"


def test_a_wide_truss_is_cheaper_of_better_wood():
    """40 ft under 50 psf: of No. 2 it needs 2x10 chords, of chosen grades shallower ones for less."""
    plain, chosen = (truss("fink", f"{HEAVY} {more}", span=40, pitch="5:12") for more in ("", "--grade auto"))
    assert plain.used <= 1.0
    assert chosen.used <= 1.0
    assert timber_cost(chosen) < timber_cost(plain)
    assert any(grade in MACHINE_RATED for grade in chosen.frame.sizes.grades)
    assert plain.frame.sizes.grades == ("", "", "")
    as_pynite(truss_report(chosen, plates=False))
    rows = {row["role"]: row["grade"] for row in truss_report(chosen, plates=False)["members"]}
    assert rows == {role: chosen.frame.sizes.grade(role, "") for role in ROLES}


def test_each_group_is_checked_by_its_own_grade():
    """With one grade for all, the same as typed; then one group's grade alone changes what its sticks are used, by its values."""
    grade = "2100f-1.8E"
    typed = truss("howe", f"{HEAVY} --grade {grade} --top 2x6 --bottom 2x6 --webs 2x4", span=30)
    job = msgspec.structs.replace(typed.job, wood=msgspec.structs.replace(typed.job.wood, grade="No. 1/No. 2"))
    from balken.design.trusses import check_truss
    from balken.standards.known import USUAL

    sizes = Sizes("2x6", "2x6", "2x4", 1, (grade, grade, grade))
    same = check_truss(job, lambda _: typed.frame.outline, sizes, USUAL)
    assert same.used == pytest.approx(typed.used)
    assert same.e == pytest.approx(typed.e)
    weak = check_truss(
        job, lambda _: typed.frame.outline, msgspec.structs.replace(sizes, grades=(grade, "", grade)), USUAL
    )
    below = [one.name for one in typed.frame.sticks if one.role == "bottom chord"]
    # Tension of S-P-F No. 2 2x6: 450 x 1.3 psi against 1,575 (NDS Supplement 2018, Tables 4A and 4C, from memory).
    assert max(weak.sticks[n][0] for n in below) > 1.5 * max(typed.sticks[n][0] for n in below)
    assert [s.e == t.e for s, t in ((weak, typed),)] == [False]


def test_steps_go_from_cheap_to_dear():
    job = truss("fink", "--grade auto").job
    for role in ROLES:
        rungs = rungs_of(job, role)
        assert len(rungs) == (10 if role == "web" else 25)
        assert rungs[0] == ("2x4", "No. 1/No. 2")
    sizes = least_sizes(job)
    for _ in range(5):
        more = grown(job, sizes, {"top chord": 1.2, "bottom chord": 0.9, "web": 1.1})
        assert rung_of(more, "bottom chord") == rung_of(sizes, "bottom chord")
        assert rungs_of(job, "web").index(rung_of(more, "web")) == rungs_of(job, "web").index(rung_of(sizes, "web")) + 1
        sizes = more
    assert grade_price("2400f-2.0E") > grade_price("1650f-1.5E") > grade_price("No. 2")
    fixed = msgspec.structs.replace(job, top="2x6")
    assert {size for size, _ in rungs_of(fixed, "top chord")} == {"2x6"}


def test_in_a_roof_it_is_chosen_listed_and_saved(qtbot, qapp, tmp_path):
    p = edits.change(trussed(0.5), "roof-1", trusses=Trusses(grade=AUTO_GRADE))
    model = derive(edits.set_loads(p, ground_snow=3.5))
    made = model.trusses["roof-1"].common
    assert made.used <= 1.0
    for piece in model.pieces.values():
        if piece.role.startswith("truss") and piece.role.split(" ", 1)[1] in ROLES:
            assert piece.grade in ("No. 1/No. 2", *MACHINE_RATED)
        assert piece.grade != AUTO_GRADE
    user = _user(qtbot, qapp, tmp_path, trussed(0.5))
    user.stage(4)
    user.window.session.select(["roof-1"])
    user.type_in_card("Grade", "auto: for each group of sticks")
    assert user.project.roofs[0].trusses.grade == AUTO_GRADE
    user.type_in_card("Species", "DF-L")
    assert user.project.roofs[0].trusses.grade == AUTO_GRADE
    file = tmp_path / "house.balken"
    save(user.project, file)
    assert load(file) == user.project
    session = Session(edits.set_loads(p, ground_snow=5.0))
    session.select(["roof-1"])
    assert any(grade in str(card(session, lambda *_: None, lambda *_: None)) for grade in MACHINE_RATED)
    with pytest.raises(EditError):
        edits.change(p, "roof-1", trusses=Trusses(grade="best"))


@given(
    st.sampled_from(["fink", "howe", "scissors", "one-sloped"]),
    st.integers(16, 40),
    st.integers(20, 70),
    st.sampled_from(["S-P-F", "DF-L"]),
)
@settings(max_examples=10, deadline=None)
def test_what_works_in_no_2_works_chosen_too(shape, span, snow, species):
    plain = truss(shape, f"--snow {snow}psf --species {species}", span=span)
    chosen = truss(shape, f"--snow {snow}psf --species {species} --grade auto", span=span)
    if plain.used <= 1.0:
        assert chosen.used <= 1.0 + 1e-6
        assert timber_cost(chosen) <= timber_cost(plain) * 1.12
