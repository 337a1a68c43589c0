"""The choices of gates: which one is looked at, which gates it opens, what it is called."""

from __future__ import annotations

from dataclasses import replace
from functools import partial

from PySide6.QtWidgets import QPushButton, QSizePolicy, QVBoxLayout, QWidget

from purvel.airflow.flows import GateSetFlow, NetworkResult
from purvel.app.widgets.fields import ChoiceField, length_field, number_field, text_field
from purvel.app.widgets.flow import beside, refilling
from purvel.app.widgets.names import NameBox
from purvel.app.widgets.words import Words
from purvel.app.workspace import Workspace
from purvel.review import Answers
from purvel.review.ducts.answers import DuctAnswers
from purvel.shop import Gate, GateSet, PartOpen
from purvel.shop.edits import change_ducts, fresh_id, put, remove


class GateChoices(QWidget):
    """The list beside the suction walk. All that it shows is of one review."""

    def __init__(self, workspace: Workspace) -> None:
        super().__init__()
        self.workspace = workspace
        self.box = QVBoxLayout(self)
        self.box.setContentsMargins(8, 4, 8, 4)
        self.box.setSpacing(3)
        # all that was to be shown when it was filled; nothing once a hand has changed what it shows
        self._about: tuple[object, ...] = ()

    def show_choices(
        self, answers: Answers, network: NetworkResult | None, flows: GateSetFlow | None, pixels: int
    ) -> None:
        """Shows the choices of one system, one of them looked at; filled anew only where another review says
        something else of them.
        """
        names = answers.of(DuctAnswers).choice_name
        about: tuple[object, ...] = (network is None, answers.shop.units, pixels)
        if network is not None and flows is not None:
            named = tuple((one.id, names(one.id)) for one in network.sets)
            choice = flows.id, flows.open_gates, flows.part_open, self._gate_set(flows)
            leaks = answers.shop.ducts.gate_gap, answers.shop.ducts.joint_leak
            about = (*about, named, choice, leaks, self._gates_of(answers, network))
        if about != self._about:
            self._about = about
            self.fill(answers, network, flows)

    def fill(self, answers: Answers, network: NetworkResult | None, flows: GateSetFlow | None) -> None:
        """Fills it anew."""
        with refilling(self.box):
            if network is None or flows is None:
                self._caption("Gate choices appear here once a run is drawn.")
            else:
                self._choice(answers, network, flows)
                self._gates(answers, network, flows)
                self._own(answers, network, flows)
                self._leaks(answers)
            self.box.addStretch(1)

    def _caption(self, text: str) -> None:
        label = Words(text)
        label.setObjectName("caption")
        label.setWordWrap(True)
        self.box.addWidget(label)

    def _choice(self, answers: Answers, network: NetworkResult, flows: GateSetFlow) -> None:
        self._caption("Gate choice on the plan")
        name_of = answers.of(DuctAnswers).choice_name
        pick = ChoiceField("Gate choice", [(one.id, name_of(one.id)) for one in network.sets], widest=9)
        pick.show_value(flows.id)
        pick.entered.connect(self._look_at)
        self.box.addWidget(pick)

    def _gates(self, answers: Answers, network: NetworkResult, flows: GateSetFlow) -> None:
        gates = self._gates_of(answers, network)
        if not gates:
            self._caption("No gates: everything is open at once. Use “Set a gate”.")
        for gate in gates:
            check = NameBox(gate.name or gate.id)
            check.setChecked(gate.id in flows.open_gates)
            check.toggled.connect(partial(self._toggled, answers, network, flows, gate.id))
            cells: list[QWidget] = [check]
            if gate.id in flows.open_gates:
                drawn = number_field(
                    f"How far {gate.name or gate.id} is open", "%", least=2, most=100, decimals=0
                )
                drawn.line.setFixedWidth(check.fontMetrics().horizontalAdvance("100 % 0"))
                # the name has the rest
                drawn.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Preferred)
                drawn.float_refusal()
                drawn.show_value(100 * dict(flows.part_open).get(gate.id, 1.0))
                drawn.entered.connect(partial(self._draw_out, flows, gate.id))
                cells.append(drawn)
            self.box.addWidget(beside(*cells))

    def _gates_of(self, answers: Answers, network: NetworkResult) -> list[Gate]:
        here = {segment.run for segment in network.layout.segments}
        return [gate for run in answers.shop.ducts.runs if run.id in here for gate in run.gates]

    def _own(self, answers: Answers, network: NetworkResult, flows: GateSetFlow) -> None:
        """Name and end of a choice that is the user's own."""
        own = self._gate_set(flows)
        if own is None:
            return
        name_of = answers.of(DuctAnswers).choice_name
        self._caption("Name of this choice")
        others = {name_of(one.id) for one in network.sets if one.id != flows.id}
        name = text_field("Name of this gate choice", needed=True, taken=others)
        name.show_value(name_of(flows.id))
        name.entered.connect(partial(self._rename, own))
        self.box.addWidget(name)
        drop = QPushButton("Forget this choice")
        drop.clicked.connect(partial(self._forget, own.id))
        self.box.addWidget(drop)

    def _leaks(self, answers: Answers) -> None:
        """What shut gates and joints let in."""
        ducts, system = answers.shop.ducts, answers.shop.units
        self._caption("Gap round a shut gate; 0 seals")
        gap = length_field("Gap round a shut gate", system, least=0.0, most=0.005)
        gap.show_value(ducts.gate_gap)
        gap.entered.connect(lambda value: self._set_leak(gate_gap=value))
        self.box.addWidget(gap)
        self._caption("Each joint leaks through; 0 is sealed")
        joint = number_field("Opening of each joint", "mm²", least=0, most=1000, decimals=0)
        joint.show_value(ducts.joint_leak * 1e6)
        joint.entered.connect(lambda value: self._set_leak(joint_leak=value * 1e-6))
        self.box.addWidget(joint)

    def _look_at(self, choice: str) -> None:
        self._about = ()
        self.workspace.view.look_at(gate_set=choice)

    def _set_leak(self, **changes: float) -> None:
        self._about = ()
        self.workspace.apply(lambda shop: change_ducts(shop, **changes), "Set what leaks")

    def _gate_set(self, flows: GateSetFlow) -> GateSet | None:
        return next((own for own in self.workspace.shop.ducts.gate_sets if own.id == flows.id), None)

    def _rename(self, own: GateSet, name: str) -> None:
        self._about = ()
        self.workspace.apply(lambda shop: put(shop, replace(own, name=name)), "Name a gate choice")

    def _forget(self, choice: str, _: bool = False) -> None:
        self.workspace.apply(lambda shop: remove(shop, choice), "Forget a gate choice")

    def _toggled(
        self, answers: Answers, network: NetworkResult, flows: GateSetFlow, gate: str, on: bool
    ) -> None:
        self._about = ()
        if not self.toggle(flows, gate, on):
            self.fill(answers, network, flows)  # the tick goes back

    def toggle(self, flows: GateSetFlow, gate: str, on: bool) -> bool:
        """Opens or shuts a gate in a choice; one that the program made becomes the user's own.

        Whether it could be done.
        """
        shop = self.workspace.shop
        opened = tuple(sorted({*flows.open_gates, gate} if on else {*flows.open_gates} - {gate}))
        if not opened:
            self.workspace.said.emit(
                "With every gate shut nothing flows; keep at least one open in a choice."
            )
            return False
        own = self._gate_set(flows)
        if own is None:
            own = GateSet(id=fresh_id(shop, "set"), open=opened)  # it goes by the gates that it opens
        part = tuple(one for one in own.part if one.gate in opened)
        self._choose(replace(own, open=opened, part=part), "Open gates" if on else "Shut gates")
        return True

    def _draw_out(self, flows: GateSetFlow, gate: str, percent: float) -> None:
        """Draws an open gate out by a share of its duct's diameter; all the way is open."""
        self._about = ()
        shop = self.workspace.shop
        own = self._gate_set(flows) or GateSet(id=fresh_id(shop, "set"), open=flows.open_gates)
        part = tuple(one for one in own.part if one.gate != gate)
        if percent < 98.0:
            part = (*part, PartOpen(gate=gate, share=percent / 100))
        self._choose(replace(own, part=part), "Open a gate in part")

    def _choose(self, changed: GateSet, label: str) -> None:
        self.workspace.view.look_at(gate_set=changed.id)
        self.workspace.apply(lambda before: put(before, changed), label)
