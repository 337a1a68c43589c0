"""What would bring more air is solved when it is looked at, for the hood that is walked."""

from purvel.review import Figures
from tests.app.conftest import Bench


def test_gains_are_of_the_picked_machine_and_its_choice(bench: Bench) -> None:
    bench.demo("garage", "ducts")
    walk = bench.window.stages["ducts"].walk
    bench.workspace.pick("jointer")
    assert walk.gains._solve is not None  # nothing is solved before it is seen
    walk.panes.choose(3)
    bench.settle()
    walk.gains.grab()
    say = Figures(bench.workspace.shop.units)
    assert walk.gains.heading == f"Jointer: {say.flow(walk.hood().flow)}; it would get more with"
    first = walk.gains.found()[0]
    assert first.flow > 0 and walk.gains._solve is None
    bench.workspace.pick("planer")
    assert walk.gains.heading.startswith("Planer: ")
    assert walk.gains.found()[0] != first
