"""How machines, gates and the source are switched together: set here for each machine, and worked with a
switch box that answers on a port of this machine; a gauge that reads a source does so, too.
"""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from functools import partial
from typing import Any

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from purvel.app.device_line import DeviceLine
from purvel.app.signals import Event
from purvel.app.stages.ducts.gauge_row import GaugeRow
from purvel.app.widgets.fields import ChoiceField, number_field
from purvel.app.widgets.flow import refilling
from purvel.app.widgets.scrolled import scrolled
from purvel.app.widgets.words import Words
from purvel.app.workspace import Workspace
from purvel.devices.switch_box import PORT
from purvel.devices.switch_link import SwitchLink, SwitchState
from purvel.review import Answers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.switching import with_hours
from purvel.shop import Switched
from purvel.shop.edits import put
from purvel.shop.parts import name_of

_HEADS = ("Machine", "Switched", "Source after", "Runs on", "")
_HOWS = (("by itself", "by itself"), ("remote", "by a remote"), ("by hand", "by hand"))


class SwitchLine(DeviceLine):
    """One box at a time. `told` brings how things stand there."""

    _told = Signal(object)

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.told: Event[SwitchState] = Event(self._told)
        self.link: SwitchLink | None = None

    def start(self, port: int) -> None:
        """Begins to listen."""
        link = SwitchLink(port)
        self.begin(lambda is_over: link.listen(self.told.emit, is_over))
        self.link = link

    def ask(self, order: str) -> None:
        """Sends an order."""
        if self.link is not None and self.is_on:
            self.link.ask(order)


class SwitchPane(QWidget):
    """Off until it is asked to connect."""

    def __init__(self, workspace: Workspace) -> None:
        super().__init__()
        self.workspace = workspace
        self.line = SwitchLine(self)
        self.line.told.connect(self._take)
        self.line.said.connect(self._say)
        self._answers: Answers | None = None
        self._state = SwitchState()
        self._kept: dict[str, float] = {}
        self.port = number_field("Port on which the switch box answers", "", least=1, most=65535, decimals=0)
        self.port.show_value(PORT)
        self.number = PORT
        self.port.entered.connect(self._set_port)
        self.connect_button = QPushButton("Connect a switch box")
        self.connect_button.clicked.connect(self._connect)
        self.keep_button = QPushButton("Keep the hours")
        self.keep_button.clicked.connect(self._keep)
        self.status = Words("No switch box is connected.")
        self.status.setWordWrap(True)
        self.inner = QWidget()
        self.box = QVBoxLayout(self.inner)
        self.box.setContentsMargins(8, 0, 8, 0)
        top = QHBoxLayout()
        for widget in (self.connect_button, Words("on port"), self.port, self.keep_button):
            top.addWidget(widget)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(8, 4, 8, 4)
        self.gauge = GaugeRow(workspace, self.status.setText)
        outer.addLayout(top)
        outer.addWidget(self.gauge)
        outer.addWidget(self.status)
        outer.addWidget(scrolled(self.inner), 1)
        self._show_buttons()

    def give_up(self) -> None:
        """Lets box and gauge go."""
        self.line.stop()
        self.gauge.give_up()
        self._show_buttons()

    # ---- what is set

    def fill(self, answers: Answers) -> None:
        """Shows the machines of a review."""
        self._answers = answers
        self.gauge.fill(answers)
        with refilling(self.box):
            rows = QWidget()
            grid = QGridLayout(rows)
            grid.setContentsMargins(0, 0, 0, 0)
            machines = dict.fromkeys(
                one.thing for network in answers.of(DuctAnswers).networks for one in network.sets[0].hoods
            )
            if not machines:
                self.box.addWidget(Words("Machines appear here once ducts lead to them."))
            for column, head in enumerate(_HEADS if machines else ()):
                words = Words(head)
                words.setObjectName("caption")
                grid.addWidget(words, 0, column)
            for row, machine in enumerate(machines, start=1):
                self._machine(grid, row, answers, machine)
            self.box.addWidget(rows)
            self.box.addStretch(1)

    def _machine(self, grid: QGridLayout, row: int, answers: Answers, machine: str) -> None:
        by = self._switched(machine)
        name = name_of(answers.shop, machine)
        how = ChoiceField(f"How {name} is switched", list(_HOWS), widest=9)
        how.show_value(by.how)
        how.entered.connect(lambda value: self._set(machine, how=value))
        delay = number_field(f"Source starts after {name}", "s", least=0, most=60)
        delay.show_value(by.delay)
        delay.entered.connect(lambda value: self._set(machine, delay=value))
        run_on = number_field(f"Source runs on after {name}", "s", least=0, most=600)
        run_on.show_value(by.run_on)
        run_on.entered.connect(lambda value: self._set(machine, run_on=value))
        press = QPushButton("Switch")
        press.setAccessibleName(f"Switch {name} on or off")
        press.setEnabled(self.line.is_on and by.how != "by hand")
        press.clicked.connect(partial(self._press, machine))
        cells = (Words(name), how, delay, run_on, press)
        for column, widget in enumerate(cells):
            grid.addWidget(widget, row, column)

    def _switched(self, machine: str) -> Switched:
        known = (one for one in self.workspace.shop.ducts.switched if one.thing == machine)
        return next(known, Switched(thing=machine))

    def _set(self, machine: str, **changes: Any) -> None:
        changed = replace(self._switched(machine), **changes)
        self.workspace.apply(lambda shop: put(shop, changed), "Set how a machine is switched")

    # ---- the box

    def _set_port(self, port: float) -> None:
        self.number = round(port)

    def _connect(self) -> None:
        if self.line.is_on:
            self.give_up()
            self.status.setText("The switch box was let go.")
        else:
            self._state, self._kept = SwitchState(), {}
            self.line.start(self.number)
            self.status.setText("Connecting …")
        self._refill()

    def _press(self, machine: str, _: bool = False) -> None:
        self.line.ask(f"{'off' if machine in self._state.machines else 'on'} {machine}")

    def _take(self, state: SwitchState) -> None:
        self._state = state
        self.status.setText(self._said(state))
        self._refill()

    def _said(self, state: SwitchState) -> str:
        """How things stand, in a line or two."""
        name = partial(name_of, self.workspace.shop)
        on = [f"{name(one)} on" for one in sorted(state.machines)]
        on += [f"{name(one)} runs" for one in sorted(state.sources)]
        on += [f"{name(one)} open" for one in sorted(state.gates)]
        hours = [f"{name(one)} {60 * count:.1f} min" for one, count in sorted(state.hours.items())]
        said = f"Connected: {', '.join(on) or 'everything is off'}."
        return f"{said} Ran: {', '.join(hours)}." if hours else said

    def _say(self, sentence: str) -> None:
        self.line.stop()
        self.status.setText(sentence)
        self._refill()

    def _keep(self) -> None:
        """Adds what the box counted since it was last kept to the shop's hours of today."""
        fresh = {thing: count - self._kept.get(thing, 0.0) for thing, count in self._state.hours.items()}
        self._kept = dict(self._state.hours)
        self.workspace.apply(
            lambda shop: with_hours(shop, fresh, date.today()), "Keep hours of the switch box"
        )
        self._show_buttons()

    def _refill(self) -> None:
        self._show_buttons()
        if self._answers is not None:
            self.fill(self._answers)

    def _show_buttons(self) -> None:
        self.connect_button.setText("Let it go" if self.line.is_on else "Connect a switch box")
        self.keep_button.setEnabled(self._state.hours != self._kept and bool(self._state.hours))
