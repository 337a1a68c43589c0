"""What is said of two ends that are to be brought together."""

from purvel.airflow.adapters import End
from purvel.catalogue.adapters import sold_adapters, threads
from purvel.review import Figures
from purvel.review.ducts.fitted import between, fitted, generic_set, own_set
from purvel.shop import Shop
from purvel.shop.edits import put


def said(one: End, other: End) -> list[str]:
    return list(fitted(one, other, Figures("metric")))


def test_adapters_of_the_generic_set_are_named_in_order() -> None:
    assert said(End("spigot", 0.1, 0.1), End("socket", 0.1003, 0.1003)) == ["They fit as they are."]
    assert said(End("spigot", 0.1, 0.1), End("socket", 0.0635, 0.0635)) == [
        "1 adapter: Reducer 100 to 63 mm."
    ]
    both = said(End("spigot", 0.1524, 0.1524), End("spigot", 0.1016, 0.1016))
    assert both[0].startswith("3 adapters: Reducer 6 to 5 in, then Reducer 5 to 4 in, then ")


def test_work_is_told_with_its_amount() -> None:
    thin = said(End("socket", 0.0302, 0.0302), End("spigot", 0.0270, 0.0270))
    assert thin[-1] == (
        "Before the other end: wrap 8 layers of tape round what goes in, or a sleeve with a wall of 1.2 mm."
    )
    assert said(End("socket", 0.0246, 0.0246), End("spigot", 0.025, 0.025)) == [
        "Before the other end: sand 0.4 mm off the diameter of what goes in."
    ]
    assert said(End("spigot", 0.02, 0.02), End("socket", 0.4, 0.4))[0].startswith(
        "Nothing of the generic set"
    )


def test_the_set_is_sound() -> None:
    names = [one.name for one in sold_adapters()]
    assert len(set(names)) == len(names) > 25
    for one in generic_set():
        for end in (one.one, one.other):
            assert (end.thread in threads()) if "thread" in end.form else 0.02 < end.least <= end.most < 0.2


def test_threads_go_onto_their_own_and_through_a_bush_onto_others() -> None:
    male = End("male thread", thread="G 2")
    assert said(male, End("female thread", thread="G 2")) == ["They fit as they are."]
    assert said(male, End("socket", 0.0635, 0.0635)) == ["1 adapter: Spigot 63 mm to G 2 female."]
    (line,) = said(End("female thread", thread="G 2"), End("male thread", thread="G 1 1/2"))
    assert line == "1 adapter: Reducing bush G 2 male to G 1 1/2 female."
    assert set(threads()) == {"G 1 1/2", "G 2"}


def test_an_adapter_of_ones_own_is_used_where_it_takes_fewer() -> None:
    start, end, say = End("spigot", 0.1524, 0.1524), End("spigot", 0.1016, 0.1016), Figures("metric")
    own = between(start, end, Shop(), say)
    shop = put(Shop(), own)
    assert own.one.form == own.other.form == "socket" and own.one.least == 0.1524
    assert list(fitted(start, end, say, own_set(shop))) == [f"1 adapter: {own.name}."]
    assert next(iter(fitted(start, end, say))).startswith("3 adapters: ")
    thread = between(End("male thread", thread="G 2"), end, Shop(), say)
    assert (
        thread.one.form == "female thread"
        and thread.one.thread == "G 2"
        and "G 2 female thread" in thread.name
    )
