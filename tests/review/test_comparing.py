"""Scenes next to each other."""

from purvel.review.comparing import compared, holds_in_every
from purvel.review.finding import Basis, Finding, Grade

BASIS = Basis("geometry", "")


def said(rule: str, grade: Grade, *about: str) -> Finding:
    return Finding(rule, grade, about, rule, "", BASIS)


def test_what_is_worse_in_either_and_what_is_alike() -> None:
    first = [
        said("lane", Grade.WATCH, "saw"),
        said("lane", Grade.STOP, "planer"),
        said("aisle", Grade.MEND),
        said("sides", Grade.GOOD, "b"),
    ]
    second = [said("lane", Grade.STOP, "saw"), said("aisle", Grade.MEND), said("car", Grade.GOOD)]
    found = compared(first, second)
    assert [one.about for one in found.first] == [("planer",)]
    assert [one.about for one in found.second] == [("saw",)]
    assert found.alike == 1  # the aisle; what only one of them asks is not alike


def test_the_worst_of_several_is_told_once_and_first() -> None:
    first = [said("aisle", Grade.WATCH), said("aisle", Grade.STOP), said("lane", Grade.MEND, "a")]
    found = compared(first, [])
    assert [one.grade for one in found.first] == [Grade.STOP, Grade.MEND] and found.second == ()


def test_what_holds_in_every_scene() -> None:
    good, bad = said("lane", Grade.GOOD, "saw"), said("lane", Grade.WATCH, "saw")
    other = said("sides", Grade.GOOD, "bench")
    assert holds_in_every([[good, other], [good]]) == (2, 2)
    assert holds_in_every([[good, other], [bad]]) == (1, 2)
    assert holds_in_every([]) == (0, 0)
