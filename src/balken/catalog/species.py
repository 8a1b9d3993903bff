"""The species groups and grades of sawn lumber that a choice can name."""

from functools import lru_cache

_GRADES = ("Select Structural", "No. 1", "No. 2", "No. 3")

MACHINE_RATED = ("1650f-1.5E", "1800f-1.6E", "2100f-1.8E", "2400f-2.0E")
"""Grades of machine stress-rated lumber, named by their bending value and stiffness."""

SPECIES: dict[str, tuple[str, ...]] = {
    "DF-L": (*_GRADES, "Stud", *MACHINE_RATED),
    "Hem-Fir": (*_GRADES, "Stud", *MACHINE_RATED),
    "S-P-F": ("Select Structural", "No. 1/No. 2", "No. 3", "Stud", *MACHINE_RATED),
    "Southern Pine": (*_GRADES, *MACHINE_RATED),
}


AUTO_GRADE = "auto"
"""Of trusses: grades are chosen for each group of sticks."""


def usual_grade(species: str) -> str:
    """Return the grade that is bought where none is named."""
    return next(grade for grade in SPECIES[species] if "No. 2" in grade)


def truss_grades(species: str) -> tuple[str, ...]:
    """Return the grades tried of trusses where they are chosen: the usual one, and machine-rated ones."""
    return usual_grade(species), *MACHINE_RATED


@lru_cache(maxsize=200)
def species_name(text: str) -> str:
    """Return the species as spelled here, whatever the case; raises KeyError with the names there are."""
    for name in SPECIES:
        if name.lower() == text.strip().lower():
            return name
    raise KeyError(f"There is no species '{text}'; species are {', '.join(SPECIES)}.")


@lru_cache(maxsize=500)
def grade_name(species: str, text: str) -> str:
    """Return the grade as spelled here; 'No. 1' and 'No. 2' both find 'No. 1/No. 2'.

    Raises KeyError with the grades the species has.
    """
    grades = SPECIES[species_name(species)]

    def plain(grade: str) -> str:
        return grade.lower().replace(" ", "").replace(".", "")

    for grade in grades:
        if plain(text) == plain(grade) or plain(text) in plain(grade).split("/"):
            return grade
    raise KeyError(f"{species} has no grade '{text}'; grades are {', '.join(grades)}.")
