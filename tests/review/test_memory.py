"""Answers are remembered by their arguments: what an edit does not touch is computed not once more."""

import gc
import weakref
from collections import Counter
from collections.abc import Callable, Mapping
from dataclasses import fields, is_dataclass, replace
from importlib import import_module
from pkgutil import walk_packages
from typing import Any

import numpy as np
import pytest

import purvel
from purvel.catalogue import make_thing
from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.review import Answers, Figures, Memory, review
from purvel.review.air.played import over_log
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.reviewing import first_review
from purvel.review.stages import STAGES
from purvel.shop import GateSet, PortRef, Run, Shop, Vertex
from purvel.shop.edits import change, move_thing, put
from purvel.shop.scenes import in_scene

COUNTED = {
    "walk": ("purvel.space.shell", "walk"),
    "shell": ("purvel.review.room.answers", "shell"),
    "layouts": ("purvel.review.ducts.answers", "layouts"),
    "solve": ("purvel.review.ducts.answers", "solve"),
    "newton": ("purvel.airflow.network", "_newton"),
    "aisles": ("purvel.review.place.answers", "aisles"),
    "walks": ("purvel.review.flow.answers", "walks"),
    "overlaps": ("purvel.review.place.answers", "overlaps"),
    "simulate": ("purvel.review.air.answers", "simulate"),
    "met": ("purvel.review.ducts.drawn", "met"),
}


@pytest.fixture
def counted(monkeypatch: pytest.MonkeyPatch) -> Counter[str]:
    """How often each engine was called."""
    calls: Counter[str] = Counter()

    def counting(name: str, engine: Callable[..., Any]) -> Callable[..., Any]:
        def call(*args: Any, **kwargs: Any) -> Any:
            calls[name] += 1
            return engine(*args, **kwargs)

        return call

    for name, (module, attribute) in COUNTED.items():
        monkeypatch.setattr(
            f"{module}.{attribute}", counting(name, getattr(import_module(module), attribute))
        )
    return calls


def two_systems() -> Shop:
    """The garage with a vac on a hose to the bandsaw besides its collector."""
    shop = put(loads(demo_bytes("garage")).shop, make_thing("vac", "vac", 2.2, 4.4))
    hose = Run(
        id="vac-hose",
        name="Vac hose",
        diameter=0.063,
        material="vac-hose",
        source="vac",
        points=(Vertex(x=2.6, y=4.8, z=0.6),),
        port=PortRef(thing="bandsaw", port="lower"),
    )
    return put(shop, hose)


def test_moving_a_thing_without_port_asks_neither_the_walls_nor_the_network(counted: Counter[str]) -> None:
    memory, shop = Memory(), two_systems()
    review(shop, memory)
    assert (
        counted["walk"] == counted["shell"] == 3 and counted["solve"] == 2 + 3
    )  # with doors, with the one open that stops a board, and the walls alone; its filter in three states
    counted.clear()
    moved = move_thing(shop, "workbench", 0.5, 2.6)
    review(moved, memory)
    Answers(moved, memory).of(DuctAnswers).networks  # noqa: B018  # the hand asks the same memory
    assert counted["overlaps"] == 1
    assert {name: counted[name] for name in ("walk", "shell", "layouts", "solve", "simulate", "met")} == {
        "walk": 0,
        "shell": 0,
        "layouts": 0,
        "solve": 0,
        "simulate": 0,
        "met": 0,
    }


def test_what_has_been_reviewed_is_let_go() -> None:
    """Whatever is remembered of it: engines are no methods of what holds a whole shop."""
    memory, shop, past = Memory(), two_systems(), list[weakref.ref[Answers]]()
    for k in range(4):
        moved = move_thing(shop, "workbench", 0.5 + 0.1 * k, 2.6)
        past.append(weakref.ref(first_review(moved, memory).answers))
    gc.collect()
    assert [one() for one in past] == [None] * 4


def test_opening_a_gate_solves_its_system_once_with_all_that_is_known_of_hose(counted: Counter[str]) -> None:
    memory, shop = Memory(), two_systems()
    checked = review(shop, memory)
    counted.clear()
    opened = put(shop, GateSet(id="both", open=("saw-gate", "jointer-gate")))
    again = review(opened, memory)
    # the vac's system has no gate: it is not asked; the collector's is for the three states of its filter too
    assert counted["solve"] == 1 + 3 and counted["newton"] == 1 + 3
    assert all(network.ranges for network in again.answers.of(DuctAnswers).networks)
    assert len(again.answers.of(DuctAnswers).networks[0].sets) == 1 + len(
        checked.answers.of(DuctAnswers).networks[0].sets
    )


def test_a_new_name_solves_nothing(counted: Counter[str]) -> None:
    memory, shop = Memory(), two_systems()
    review(shop, memory)
    counted.clear()
    named = review(change(shop, "jointer", name="Long-bed jointer"), memory)
    assert counted["solve"] == 0
    ducts = named.answers.of(DuctAnswers)
    assert "Long-bed jointer alone" in [ducts.choice_name(one.id) for one in ducts.networks[0].sets]


def test_ways_are_looked_for_again_only_where_something_stands_elsewhere(counted: Counter[str]) -> None:
    memory, shop = Memory(), two_systems()
    first_review(shop, memory)
    open_by_day = in_scene(shop, "day")
    assert open_by_day.room != shop.room
    for same in (
        open_by_day,
        change(shop, "bandsaw", outlet="outlet-1"),
        change(shop, "jointer", height=1.1),
    ):
        counted.clear()
        first_review(same, memory)
        assert counted["aisles"] == counted["walks"] == 0
    for other in (
        change(shop, "jointer", z=2.0),  # one walks under it
        move_thing(shop, "jointer", 3.0, 3.1),
        change(shop, "house-door", offset=shop.room.openings[0].offset + 0.1),
    ):
        counted.clear()
        first_review(other, memory)
        assert counted["aisles"] == counted["walks"] == 1


def test_the_last_eight_calls_are_remembered_for_each_engine_and_item() -> None:
    memory, calls = Memory(), Counter[object]()

    def double(number: int) -> int:
        calls[number] += 1
        return 2 * number

    for number in range(8):
        memory.answer(double, number)
    assert memory.answer(double, 0) == 0 and calls[0] == 1  # used last, so it outlives the next
    memory.answer(double, 8)
    assert [memory.answer(double, number) for number in (8, 0, 7)] == [16, 0, 14]
    assert calls == dict.fromkeys(range(9), 1)
    memory.answer(double, 1)
    assert calls[1] == 2  # pushed out by the ninth

    def of_item(item: GateSet, number: int) -> int:
        calls[item.id] += 1
        return number

    for name in "abcdefghij":
        memory.answer(of_item, GateSet(id=name), 1)
    for name in "abcdefghij":
        memory.answer(of_item, GateSet(id=name), 1)
        assert calls[name] == 1  # items do not push each other out


def test_equal_arguments_are_the_same_call_and_none_is_an_answer() -> None:
    memory, calls = Memory(), []

    def engine(things: tuple[object, ...], scale: float = 1.0) -> None:
        calls.append((things, scale))

    shop = loads(demo_bytes("garage")).shop
    copies = tuple(replace(thing) for thing in shop.things)
    assert copies[0] is not shop.things[0]
    memory.answer(engine, shop.things)
    memory.answer(engine, copies)
    assert len(calls) == 1
    memory.answer(engine, copies, scale=2.0)
    assert len(calls) == 2


def test_what_is_tried_is_forgotten_and_what_is_known_is_used() -> None:
    memory, calls = Memory(), Counter[int]()

    def engine(number: int) -> int:
        calls[number] += 1
        return number

    memory.answer(engine, 1)
    scratch = memory.scratch()
    for number in range(1, 20):
        scratch.answer(engine, number)
    assert calls[1] == 1
    memory.answer(engine, 1)
    assert calls[1] == 1  # nineteen trials did not push it out
    memory.answer(engine, 19)
    assert calls[19] == 2


def test_what_holds_arrays_is_compared_by_identity() -> None:
    """`==` on arrays gives arrays, and a record that holds one could not be looked up."""
    for module in walk_packages(purvel.__path__, "purvel."):
        if module.name.startswith(("purvel.app", "purvel.__main__")):
            continue
        for found in vars(import_module(module.name)).values():
            if isinstance(found, type) and is_dataclass(found) and found.__module__ == module.name:
                holds = any("Array" in str(field.type) for field in fields(found))
                assert not holds or "__eq__" not in vars(found), found


def test_arrays_do_not_stand_in_the_way_of_a_look_up() -> None:
    shop = loads(demo_bytes("garage")).shop
    memory = Memory()
    first = review(shop, memory)
    assert review(replace(shop, notes="the same but for this"), memory).findings == first.findings


class _Listing(Memory):
    """A memory that lists the engines asked with a plain array: two of these cannot be told apart by `==`."""

    def __init__(self, attachments: Mapping[str, bytes]) -> None:
        super().__init__(attachments=attachments)
        self.asked, self.with_arrays = 0, set[str]()

    def answer(self, engine: Callable[..., Any], *args: Any, **kwargs: Any) -> Any:
        given = (*args, *kwargs.values())
        inside = (one for each in given if isinstance(each, tuple) for one in each)
        if any(isinstance(one, np.ndarray) for one in (*given, *inside)):
            self.with_arrays.add(engine.__name__)
        self.asked += 1
        return super().answer(engine, *args, **kwargs)


@pytest.mark.parametrize("name", ["garage-mended", "single-garage-mended"])
def test_no_engine_is_asked_with_a_plain_array(name: str) -> None:
    document = loads(demo_bytes(name))
    memory = _Listing(document.blobs)
    found = review(document.shop, memory)
    for stage in STAGES:
        list(stage.tables(found.answers, Figures("metric")))
        stage.report(found.answers)
    for one in document.shop.attachments:
        over_log(found.answers, one.id)
    assert memory.with_arrays == set() and memory.asked > 100
    memory.answer(np.sum, np.ones(2))
    assert memory.with_arrays == {"sum"}
