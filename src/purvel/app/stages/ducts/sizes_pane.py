"""Sizes for all runs, searched behind the window: how far it is, the best so far, and one button that takes
it.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

from purvel.airflow.flows import NetworkResult
from purvel.airflow.sizing import AIMS, Offer
from purvel.app.widgets.fields import ChoiceField
from purvel.app.widgets.search_pane import SearchPane
from purvel.app.workspace import Workspace
from purvel.review import Answers, Figures
from purvel.review.ducts.sizes import SPEEDS, Result, Speeds, problem, said
from purvel.review.ducts.wider import Wider, taken, widened
from purvel.review.ducts.wider import words as words_of

_HINT = (
    "Looks for the diameters with which every machine gets its flow and every run its speed, in all choices of gates."
    " What hoods are asked for is set above the plan."
)


def speeds_field() -> ChoiceField[Speeds]:
    """The speed that runs are asked for, to choose."""
    return ChoiceField(
        "Speed that runs are asked for",
        [("want", "speeds: as wanted"), ("least", "speeds: at the least")],
        widest=18,
    )


class SizesPane(SearchPane):
    """The search of the system that is looked at."""

    def __init__(self, workspace: Workspace) -> None:
        super().__init__("Find sizes", "Take these sizes", _HINT)
        self.workspace = workspace
        self._network: NetworkResult | None = None
        self.aim = ChoiceField("What is sought", [("cost", "least cost"), ("loss", "least loss")], widest=12)
        self.speeds = speeds_field()
        self.pipes = ChoiceField(
            "What pipe is made of", [(False, "pipe: as drawn"), (True, "pipe: any that holds")], widest=18
        )
        self.movers = ChoiceField(
            "Source", [(False, "source: as it is"), (True, "source: any of its kind")], widest=19
        )
        for widget in (self.aim, self.speeds, self.pipes, self.movers, self.button):
            self.top.row.addWidget(widget)
        self.bottom.row.addWidget(self.take)

    @property
    def offer(self) -> Offer | None:
        """The best sizes so far."""
        return None if self.found is None else self.found.sizing.best

    def show_system(self, answers: Answers, network: NetworkResult | None) -> None:
        """Goes by another review."""
        self._network = network
        self.button.setEnabled(network is not None)
        self.show_answers(answers)

    def posed(self, answers: Answers) -> Callable[[], Iterator[Result]]:
        if self._network is None:
            raise ValueError("No run leads to a machine yet.")
        aim, speeds = AIMS[self.aim.currentIndex()], SPEEDS[self.speeds.currentIndex()]
        network, pipes, movers = self._network, bool(self.pipes.value), bool(self.movers.value)
        problem(answers, network, speeds)  # says why where sizes are not searched for
        return lambda: widened(answers, network, (aim, speeds), pipes=pipes, sources=movers)

    def words(self, result: Result) -> str:
        assert self.of is not None  # it was searched for
        return "\n".join([*words_of(result), *said(self.of, result, Figures(self.of.shop.units))])

    def done(self, result: Result) -> tuple[float, bool]:
        done = result.share if isinstance(result, Wider) else result.sizing.done
        return done, result.is_over

    def is_offered(self, result: Result) -> bool:
        return True

    def take_it(self, result: Result) -> None:
        owner = result.posed.network.layout.source_thing
        self.workspace.apply(lambda shop: taken(shop, result, owner), "Take the sizes that were found")
