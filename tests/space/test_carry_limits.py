"""The greatest length that passes: by halving, with as few searches as that takes."""

import random
from collections.abc import Mapping

import pytest

from purvel.space import carry_limits
from purvel.space.carry_limits import FINENESS, LONGEST, SHORTEST, longest
from purvel.space.carrying import Setting
from purvel.space.ground import ground
from purvel.space.loads import Load
from purvel.space.shell import shell
from purvel.space.traverse import Point
from tests.conftest import box_room
from tests.space.test_carrying import DOOR, board

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

    for kind, limits in (("hopefully", hoped), ("surely", sure), ("finely", limit)):
        monkeypatch.setattr(carry_limits, kind, passing(kind, limits))
    found = longest(board(1.0, 0.2), SOMEWHERE, stops)
    for name, length in found.items():
        if limit[name] < SHORTEST:
            assert length == 0.0
        elif limit[name] >= LONGEST:
            assert length == pytest.approx(LONGEST)
        else:
            assert length <= limit[name] < length * (1 + 1.1 * FINENESS)
    for kind in ("hopefully", "surely", "finely"):
        assert sum(one == kind for one, _ in asked) <= 1 + 7 * len(stops)
    assert len(asked) == len(set(asked))  # nothing is asked twice
