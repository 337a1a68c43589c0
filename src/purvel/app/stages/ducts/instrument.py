"""The instrument of the ducts: gate choices, the suction walk along one run, the source's curve with its
working points, all choices in a table.
"""

from __future__ import annotations

from PySide6.QtWidgets import QVBoxLayout, QWidget

from purvel.airflow.flows import GateSetFlow, HoodFlow, NetworkResult
from purvel.app.last import Last
from purvel.app.plan.draw_ducts import set_of
from purvel.app.stages.ducts.choice_table import ChoiceTable
from purvel.app.stages.ducts.curve_chart import CurveChart
from purvel.app.stages.ducts.gains_pane import GainsPane
from purvel.app.stages.ducts.gate_choices import GateChoices
from purvel.app.stages.ducts.hood_pane import HoodPane
from purvel.app.stages.ducts.parts_pane import PartsPane
from purvel.app.stages.ducts.plans_pane import PlansPane
from purvel.app.stages.ducts.routes_pane import RoutesPane
from purvel.app.stages.ducts.sizes_pane import SizesPane
from purvel.app.stages.ducts.suction_walk import WalkPane
from purvel.app.stages.ducts.switch_pane import SwitchPane
from purvel.app.theme import Theme
from purvel.app.view import View
from purvel.app.widgets.panes import Pane, Panes
from purvel.app.widgets.scrolled import scrolled
from purvel.app.widgets.when_seen import WhenSeen
from purvel.app.workspace import Workspace
from purvel.review import Answers, Review
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.walks import Walk


class DuctInstrument(QWidget):
    """Everything in it is of one review: names, gates, flows and curve always belong together."""

    def __init__(self, workspace: Workspace, theme: Theme) -> None:
        super().__init__()
        self.workspace, self.theme = workspace, theme
        self.view = workspace.view.now
        self.answers: Answers | None = None
        self.source: str | None = None  # of the system that is looked at
        self._looked_at: str | None = None  # the choice that was shown last
        self.choices = GateChoices(workspace)
        self.walking = WalkPane(theme)
        self.walk = self.walking.walk
        self.chart = CurveChart(theme)
        self.gains = GainsPane(theme)
        self.table = ChoiceTable(workspace, theme)
        self._table = WhenSeen(self.table, self.table.fill)
        self.routes = RoutesPane(workspace)
        self.sizes = SizesPane(workspace)
        self.parts = PartsPane(workspace)
        self._parts = WhenSeen(self.parts, self.parts.fill)
        self.switch = SwitchPane(workspace)
        self._switch = WhenSeen(self.switch, self.switch.fill)
        self.hood_sheet = HoodPane(workspace)
        self.plans = PlansPane()
        self._plans = WhenSeen(self.plans, self.plans.fill)
        panes = [
            Pane("Gates", scrolled(self.choices), 14.0, 7),
            Pane("Walk", self.walking, 14.0, 10),
            Pane("Curve", self.chart, 11.0, 7),
            Pane("Gains", self.gains, 24.0, 8),
            Pane("Table", self._table, 34.0, 12),
            Pane("Sizes", self.sizes, 34.0, 12),
            Pane("Parts", self._parts, 34.0, 12),
            Pane("Switch", self._switch, 34.0, 12),
            Pane("Hood", self.hood_sheet, 34.0, 12),
            Pane("Routes", self.routes, 34.0, 12),
            Pane("Plans", self._plans, 50.0, 12),
        ]
        self.panes = Panes(theme, panes, chosen=1)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.addWidget(self.panes)
        self._shown: tuple[object, ...] = ()
        self._asked = Last()

    def show_system(self, review: Review, view: View, *, is_stale: bool) -> None:
        """Shows the system and the choice that are looked at, as the review has them."""
        if self._asked.is_same(review, view, is_stale, self.theme.pixels, self.theme.palette):
            return  # the hand went on, and no review came
        self.answers, self.view = review.answers, view
        network, flows = self.network, self.flow()
        self._looked_at = flows.id if flows is not None else None
        filled = (
            id(review.answers),
            network and network.layout.source_thing,
            self._looked_at,
            self._source_in_hand(),
            self.theme.pixels,
        )
        if filled != self._shown:
            self._shown = filled
            self.choices.show_choices(review.answers, network, flows, self.theme.pixels)
            self._table.show_these(review.answers, network, self._looked_at)
            self.sizes.show_system(review.answers, network)
            self.routes.show_source(review.answers, self._source_in_hand())
            self._parts.show_these(review.answers)
            self._switch.show_these(review.answers)
        hood = self.hood()
        way = None
        if network is not None and flows is not None and hood is not None:
            way = Walk(review.answers.shop, network.layout, flows, hood)
        self.walking.show_walk(review.answers, network, way)
        self.gains.show_hood(review.answers, network, flows, hood)
        self.hood_sheet.show_hood(review.answers, hood)
        self._plans.show_these(review.answers, hood)
        self.chart.show_points(review.answers, network, flows, is_stale=is_stale)

    @property
    def networks(self) -> tuple[NetworkResult, ...]:
        """All systems of the review that is shown."""
        return () if self.answers is None else self.answers.of(DuctAnswers).networks

    @property
    def network(self) -> NetworkResult | None:
        """The system that is looked at: that of the picked run or source, else the one that was."""
        picked = self.view.picked
        for network in self.networks:
            runs = {segment.run for segment in network.layout.segments}
            if picked is not None and (network.layout.source_thing == picked or picked in runs):
                self.source = network.layout.source_thing
        here = (network for network in self.networks if network.layout.source_thing == self.source)
        return next(here, self.networks[0] if self.networks else None)

    def _source_in_hand(self) -> str | None:
        """The source that pipe is led from: the picked one, that of the system looked at, or the first."""
        sources = [] if self.answers is None else [one.id for one in self.answers.shop.things if one.source]
        if self.view.picked in sources:
            return self.view.picked
        network = self.network
        return network.layout.source_thing if network is not None else next(iter(sources), None)

    def flow(self) -> GateSetFlow | None:
        """The choice that is looked at; while it is not reviewed yet, the one that was; else the first."""
        network = self.network
        if network is None:
            return None
        known, wanted = {flows.id for flows in network.sets}, self.view.gate_set
        if wanted is not None and wanted not in known:
            wanted = self._looked_at
        return set_of(network, wanted)

    def hood(self) -> HoodFlow | None:
        """The hood whose way is walked: that of the picked machine or run, else the open one with least for
        its need.
        """
        network, flows = self.network, self.flow()
        if network is None or flows is None or not flows.hoods:
            return None
        for hood in flows.hoods:
            if self.view.picked in (hood.thing, network.layout.segments[hood.segment].run):
                return hood
        opened = [hood for hood in flows.hoods if hood.at_work] or list(flows.hoods)
        return min(opened, key=lambda hood: hood.flow)

    def choose(self, choice: str) -> None:
        """Looks at another choice of gates, on plan, walk and chart."""
        self.workspace.view.look_at(gate_set=choice)

    def name_of(self, flows: GateSetFlow) -> str:
        """What a choice of gates is called."""
        return flows.id if self.answers is None else self.answers.of(DuctAnswers).choice_name(flows.id)

    def flip(self, gate: str) -> None:
        """Opens a shut gate of the choice that is looked at and shuts an open one."""
        for network in self.networks:
            if any(gate in segment.gates for segment in network.layout.segments):
                self.source = network.layout.source_thing
        flows = self.flow()
        if flows is not None:
            self.toggle(gate, gate not in flows.open_gates)

    def toggle(self, gate: str, on: bool) -> None:
        """Opens or shuts a gate in the choice that is looked at."""
        flows = self.flow()
        if flows is not None:
            self.choices.toggle(flows, gate, on)
