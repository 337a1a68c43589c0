"""The greatest length that passes: by halving, with as few searches as that takes."""

import random
from collections.abc import Mapping

import numpy as np
import pytest

from purvel.shop import Opening
from purvel.space import carry_limits
from purvel.space.carry_limits import FINENESS, LONGEST, SHORTEST, longest
from purvel.space.carrying import COARSE, Setting, finely, hopefully, simply
from purvel.space.free_spans import evenly
from purvel.space.ground import ground
from purvel.space.loads import Load
from purvel.space.shell import shell
from purvel.space.traverse import Point
from tests.conftest import block, box_room
from tests.space.test_carrying import DOOR, board, corner

WALLS = shell(box_room(4.0, 3.0))
SOMEWHERE = Setting(DOOR, WALLS, (), ground(WALLS, ()))


@pytest.mark.parametrize("seed", range(6))
def test_of_many_stops_each_gets_its_own_with_few_searches(
    seed: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Stops whose limit is known, between what is sure and what can be hoped for. 106 lengths are halved in
    seven steps; so three kinds of search take no more than that for each stop.
    """
    rng = random.Random(seed)
    stops = {f"s{k}": (float(k), 0.0) for k in range(3)}
    limit = {name: rng.choice((0.0, rng.uniform(0.5, 5.0), 6.0)) for name in stops}
    sure = {name: rng.uniform(0.6, 1.0) * one for name, one in limit.items()}
    hoped = {name: rng.uniform(1.0, 1.5) * one for name, one in limit.items()}
    asked: list[tuple[str, float]] = []

    def passing(kind: str, limits: Mapping[str, float]) -> object:
        def ask(load: Load, _: Setting, some: Mapping[str, Point]) -> dict[str, bool]:
            asked.append((kind, load.length))
            return {name: load.length <= limits[name] for name in some}

        return ask

    for kind, limits in (("hopefully", hoped), ("simply", sure), ("finely", limit)):
        monkeypatch.setattr(carry_limits, kind, passing(kind, limits))
    found = longest(board(1.0, 0.2), SOMEWHERE, stops)
    for name, length in found.items():
        if limit[name] < SHORTEST:
            assert length == 0.0
        elif limit[name] >= LONGEST:
            assert length == pytest.approx(LONGEST)
        else:
            assert length <= limit[name] < length * (1 + 1.1 * FINENESS)
    for kind in ("hopefully", "simply", "finely"):
        assert sum(one == kind for one, _ in asked) <= 1 + 7 * len(stops)
    assert len(asked) == len(set(asked))  # nothing is asked twice


@pytest.mark.parametrize(
    ("gap", "length", "width", "passes"),
    [
        (0.85, 1.2, 0.8, True),
        (0.79, 1.2, 0.8, False),
        (0.85, 0.8, 1.2, True),  # wider than long: it goes through turned
        (1.2, 1.2, 0.8, True),
    ],
)
def test_straight_through_a_gap_a_quick_search_tells_what_a_fine_one_does(
    gap: float, length: float, width: float, passes: bool
) -> None:
    """A sheet between two blocks: turned through half of a coarse span, 3.75 degrees, it takes 1.2 sin 3.75 =
    0.078 m more than its width, and so would not pass a gap of 0.85 m.
    """
    door = Opening(id="door", kind="roll-up", wall="D", offset=0.2, width=2.6, head=2.1)
    deep = (3.0 - gap) / 2
    blocks = tuple(block(name, 3.0, y, 0.5, deep, 2.0) for name, y in (("a", deep / 2), ("b", 3 - deep / 2)))
    walls = shell(box_room(6.0, 3.0, openings=(door,)))
    setting, load, stops = (
        Setting(DOOR, walls, blocks, ground(walls, blocks)),
        board(length, width),
        {"s": (5.0, 1.5)},
    )
    assert simply(load, setting, stops) == finely(load, setting, stops) == {"s": passes}
    assert hopefully(load, setting, stops)["s"] >= passes


@pytest.mark.parametrize("spans", [48, 71, 151, 152, 480])
def test_headings_that_are_looked_at_lie_each_within_its_coarse_span(spans: int) -> None:
    """Some of the numbers of fine spans; a fine span reaches 90 / spans degrees to both sides."""
    numbers = evenly(spans, COARSE)
    assert numbers.dtype.kind == "i" and len(numbers) == COARSE
    middles = 180.0 / COARSE * np.arange(COARSE)
    away = np.abs(180.0 / spans * numbers - middles)
    assert away.max() <= 90.0 / spans + 1e-9 and (away + 90.0 / spans).max() <= 90.0 / COARSE + 1e-9


def test_what_has_to_be_turned_is_left_to_the_fine_search() -> None:
    """A board of 2.75 m round a corner between passages of 1 m, where 2.83 m is the most."""
    walls = shell(corner(1.0, 1.0))
    setting, stops = Setting(DOOR, walls, (), ground(walls, ())), {"s": (7.0, 0.5)}
    assert simply(board(2.75), setting, stops) == {"s": False}
    assert finely(board(2.75), setting, stops) == {"s": True}


@pytest.mark.parametrize("seed", range(12))
def test_a_fine_search_comes_wherever_a_quick_one_does(seed: int) -> None:
    rng = random.Random(seed)
    wide, deep = rng.uniform(4, 6), rng.uniform(3, 5)
    offset, width = rng.uniform(0.1, 0.8), rng.uniform(0.9, 2.2)
    door = Opening(id="door", kind="roll-up", wall=rng.choice("ABCD"), offset=offset, width=width, head=2.1)
    walls = shell(box_room(wide, deep, openings=(door,)))

    def somewhere() -> Point:
        return rng.uniform(0.3, wide - 0.3), rng.uniform(0.3, deep - 0.3)

    things = tuple(
        block(name, *somewhere(), rng.uniform(0.3, 1.4), rng.uniform(0.3, 1.0), 2.0, angle=rng.uniform(0, 90))
        for name in "abcd"
    )
    setting = Setting(DOOR, walls, things, ground(walls, things))
    load = board(rng.uniform(0.6, 2.6), rng.choice((0.15, 0.3, 0.6, 1.22)))
    stops = {name: somewhere() for name in "vwxyz"}
    quick, fine, hoped = (ask(load, setting, stops) for ask in (simply, finely, hopefully))
    assert all(quick[name] <= fine[name] <= hoped[name] for name in stops)
