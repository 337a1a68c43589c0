"""A distance meter at the window: what it reads goes into the length field in hand, else it is the next
wall.
"""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QApplication, QInputDialog

from purvel.app.device_line import DeviceLine
from purvel.app.signals import Event
from purvel.app.widgets.fields import TextField
from purvel.devices.meter import PORT, Taken
from purvel.devices.meter_link import WORDS, MeterLink


class MeterLine(DeviceLine):
    """One meter at a time. `taken` brings what it reads, `said` what there is to say of it."""

    _taken = Signal(object)

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.taken: Event[Taken] = Event(self._taken)
        self._link: MeterLink | None = None

    def start(self, port: int) -> None:
        """Begins to listen."""
        link = MeterLink(port)
        self.begin(lambda is_over: link.listen(self.taken.emit, is_over))
        self._link = link

    def measure(self, pointed_at: str = "") -> None:
        """Presses it from here."""
        if self._link is not None and self.is_on:
            self._link.ask(pointed_at)

    def stop(self) -> None:
        super().stop()
        self._link = None


def length_in_hand() -> TextField[float] | None:
    """The length field that has the keyboard."""
    held = QApplication.focusWidget()
    field = held.parent() if held is not None else None
    return field if isinstance(field, TextField) and field.takes_lengths else None


def ask_port(say: Callable[[int], None]) -> None:
    """Asks on which port the meter is."""
    port, is_set = QInputDialog.getInt(
        None, "Listen to a distance meter", "Port of this machine on which the meter answers:", PORT, 1, 65535
    )
    if is_set:
        say(port)


def why_words(taken: Taken) -> str:
    """Why there is no length, as a sentence."""
    return f"The meter read nothing: {WORDS.get(taken.why, 'it does not say why')}. Measure again."
