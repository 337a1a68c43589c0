"""A source read with a gauge that answers on a port of this machine: blocked, and open."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QPushButton

from purvel.app.device_line import DeviceLine
from purvel.app.signals import Event
from purvel.app.widgets.fields import ChoiceField, number_field
from purvel.app.widgets.flow import FlowRow
from purvel.app.widgets.words import Words
from purvel.app.workspace import Workspace
from purvel.devices.gauge import PORT
from purvel.devices.gauge_link import Reading, What, read_once
from purvel.review import Answers, Figures
from purvel.shop import Shop
from purvel.shop.edits import put
from purvel.shop.parts import name_of


class GaugeLine(DeviceLine):
    """One reading at a time. `told` brings it."""

    _told = Signal(object)

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.told: Event[Reading] = Event(self._told)

    def read(self, port: int, source: str, what: What) -> None:
        """Asks for a reading."""

        def listen(is_over: Callable[[], bool]) -> str:
            reading = read_once(port, source, what, is_over)
            if reading is not None:
                self.told.emit(reading)
            return ""

        self.begin(listen)


class GaugeRow(FlowRow):
    """Off until it is asked to read."""

    def __init__(self, workspace: Workspace, say: Callable[[str], None]) -> None:
        super().__init__()
        self.workspace, self._say = workspace, say
        self.line = GaugeLine(self)
        self.line.told.connect(self._take)
        self.line.said.connect(say)
        self.number = PORT
        self.port = number_field("Port on which the gauge answers", "", least=1, most=65535, decimals=0)
        self.port.show_value(PORT)
        self.port.entered.connect(self._set_port)
        self.source: ChoiceField[str] = ChoiceField("Source that is read", [("", "no source")], widest=16)
        self.blocked, self.opened = QPushButton("Read it blocked"), QPushButton("Read it open")
        self.blocked.clicked.connect(lambda: self._read("sealed"))
        self.opened.clicked.connect(lambda: self._read("open"))
        for widget in (Words("Gauge on port"), self.port, self.source, self.blocked, self.opened):
            self.row.addWidget(widget)

    def fill(self, answers: Answers) -> None:
        """Offers the sources of a review."""
        sources = [(one.id, name_of(answers.shop, one.id)) for one in answers.shop.things if one.source]
        self.source.show_choices(sources)
        self.setVisible(bool(sources))

    def give_up(self) -> None:
        """Lets the gauge go."""
        self.line.stop()

    def _set_port(self, port: float) -> None:
        self.number = round(port)

    def _read(self, what: What) -> None:
        source = self.source.value
        if source:
            self._say("Reading …")
            self.line.read(self.number, source, what)

    def _take(self, reading: Reading) -> None:
        say, name = Figures(self.workspace.shop.units), name_of(self.workspace.shop, reading.source)
        is_suction = reading.what == "sealed"
        field = "sealed" if is_suction else "open_flow"

        def edit(shop: Shop) -> Shop:
            thing = shop.thing(reading.source)
            if thing is None or thing.source is None:
                return shop
            return put(shop, replace(thing, source=replace(thing.source, **{field: reading.value})))  # type: ignore[arg-type]

        self.workspace.apply(edit, f"Read {name} with a gauge")
        figure = say.pressure(reading.value) if is_suction else say.flow(reading.value)
        how = "with its inlet blocked" if is_suction else "with its inlet open"
        self._say(f"{name} {how}: {figure}. Its curve goes through that now.")
