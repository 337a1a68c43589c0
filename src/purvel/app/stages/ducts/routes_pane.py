"""Routes for pipe, proposed behind the window: what each is made of and costs; one is drawn in one edit."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace

from purvel.app.stages.ducts.sizes_pane import speeds_field
from purvel.app.widgets.fields import ChoiceField
from purvel.app.widgets.search_pane import SearchPane
from purvel.app.workspace import Workspace
from purvel.review import Answers, Figures
from purvel.review.ducts.route_words import said
from purvel.review.ducts.routes import Routing, routings
from purvel.review.ducts.sizes import SPEEDS
from purvel.shop.parts import without_lost

_HINT = (
    "Leads pipe from the collector, cyclone or vac to its machines and to those without a duct: under the ceiling, clear of"
    " doors, openings, lights, panel and heads, with sizes. What is drawn for that source is put in its place; nothing else changes."
)


class RoutesPane(SearchPane):
    """The search of the source that is picked, or of the only one."""

    def __init__(self, workspace: Workspace) -> None:
        super().__init__("Propose routes", "Draw this one", _HINT)
        self.workspace = workspace
        self._source: str | None = None
        self.speeds = speeds_field()
        self.top.row.addWidget(self.speeds)
        self.top.row.addWidget(self.button)
        self.which: ChoiceField[int] = ChoiceField(
            "Which of the proposals", [(0, "1. Straight under the ceiling")], widest=30
        )
        self.bottom.row.addWidget(self.which)
        self.bottom.row.addWidget(self.take)

    def show_source(self, answers: Answers, source: str | None) -> None:
        """Goes by another review and source."""
        self._source = source
        self.show_answers(answers)

    def posed(self, answers: Answers) -> Callable[[], Iterator[Routing]]:
        if self._source is None:
            raise ValueError("Set a collector, cyclone or vac down first (press 2, then “Place”).")
        source, speeds = self._source, SPEEDS[self.speeds.currentIndex()]
        return lambda: routings(answers, source, speeds)

    def words(self, result: Routing) -> str:
        assert self.of is not None  # it was searched for
        return "\n".join(said(result, Figures(self.of.shop.units)))

    def done(self, result: Routing) -> tuple[float, bool]:
        return result.done, result.done >= 1.0

    def is_offered(self, result: Routing) -> bool:
        self.which.show_choices([(n, f"{n + 1}. {one.name}") for n, one in enumerate(result.routes)])
        return bool(result.routes)

    def take_it(self, result: Routing) -> None:
        route = result.routes[max(0, self.which.currentIndex())]
        ducts = route.shop.ducts
        self.workspace.apply(
            lambda shop: without_lost(replace(shop, ducts=ducts)), f"Draw the route “{route.name}”"
        )
