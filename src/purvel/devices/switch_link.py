"""Working with a switch box on a port of this machine, line by line."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

from purvel.devices.order_link import OrderLink
from purvel.devices.switch_box import HELLO

MOST_HOURS = 1000.0  # of one run: more is no figure


@dataclass
class SwitchState:
    """What a box has told: what is on, which gates are open, hours by machine and source, and what it did not
    know.
    """

    machines: set[str] = field(default_factory=set)
    gates: set[str] = field(default_factory=set)
    sources: set[str] = field(default_factory=set)
    hours: dict[str, float] = field(default_factory=dict)
    unknown: str = ""

    def take(self, words: list[str]) -> bool:
        """Takes a line; whether it said anything."""
        if len(words) == 3 and words[0] in ("machine", "gate", "source") and words[2] in _STATES:
            held = {"machine": self.machines, "gate": self.gates, "source": self.sources}[words[0]]
            (held.add if _STATES[words[2]] else held.discard)(words[1])
            return True
        if len(words) == 3 and words[0] == "hours":
            try:
                hours = float(words[2])
            except ValueError:
                return False
            if not 0.0 <= hours <= MOST_HOURS:
                return False
            self.hours[words[1]] = self.hours.get(words[1], 0.0) + hours
            return True
        if len(words) == 2 and words[0] == "unknown":
            self.unknown = words[1]
            return True
        return False


_STATES = {"on": True, "open": True, "off": False, "shut": False}


class SwitchLink:
    """A box that is worked with. `ask` may be called from any thread."""

    def __init__(self, port: int) -> None:
        self.state = SwitchState()
        self._link = OrderLink(port, HELLO, "switch box", "switch box")

    def ask(self, order: str) -> None:
        """Sends an order: `on MACHINE`, `off MACHINE`, `all off`."""
        self._link.ask(order)

    def listen(self, heard: Callable[[SwitchState], None], is_over: Callable[[], bool]) -> str:
        """Hears what it says until it ends or `is_over`; returns why it ended. Raises LinkError where nobody
        answers, or what answers is no switch box.
        """

        def take(lines: list[list[str]]) -> None:
            for words in lines:
                self.state.take(words)
            heard(self.state)

        return self._link.listen(take, is_over)
