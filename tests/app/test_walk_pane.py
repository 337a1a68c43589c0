"""The suction walk against another: in another choice of gates, or as it was before a change."""

import pytest

from purvel.review.ducts.walks import Row, merged, rows
from purvel.shop.edits import change
from tests.app.conftest import Bench, choose


def test_steps_put_together_lose_nothing() -> None:
    steps = [Row(f"piece {k}", float(k), 2.0 * k if k % 2 else None) for k in range(1, 12)]
    for most in (11, 6, 3):
        rows = merged(steps, most)
        assert len(rows) <= most and sum(one.loss or 0.0 for one in rows) == pytest.approx(66.0)
        assert sum(one.other or 0.0 for one in rows) == pytest.approx(72.0)


def test_a_walk_is_held_against_another_choice_and_against_one_that_was_kept(bench: Bench) -> None:
    bench.demo("garage", "ducts")
    walk = bench.window.stages["ducts"].walk
    walk.choose("alone/jointer/chute")
    bench.workspace.pick("jointer")
    bench.settle()
    pane = walk.walking
    alone = pane.walk.walk
    choose(pane.against, "set-all")
    other = pane.walk.other
    assert other is not None and other.flows.id == "set-all" and other.hood.thing == "jointer"
    assert other.hood.flow < alone.hood.flow
    pane.keep.click()
    assert pane.walk.other == alone  # against itself until something changes
    main = bench.workspace.shop.ducts.runs[0]
    bench.workspace.apply(lambda shop: change(shop, main.id, diameter=0.1), "A smaller main")
    bench.settle()
    assert pane.walk.other == alone and pane.walk.walk.hood.flow < alone.hood.flow
    pipe = next(row for row in rows(pane.walk.walk, alone) if row.what == "Main, pipe")
    was = sum(loss for what, loss in alone.steps() if what == "Main, pipe")
    assert pipe.other == pytest.approx(was) and pipe.loss > pipe.other
