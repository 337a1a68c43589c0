"""A simulated switch box: told that a machine is on or off, it opens gates, starts the source, lets it run
on, shuts the gates again, and counts hours.

It speaks the line protocol of docs/devices.md.
"""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from math import inf
from time import monotonic

from purvel.devices.serving import OrderServer

HELLO = "purvel-switchbox 1"
PORT = 4712  # of this machine, where none is named


@dataclass(frozen=True, slots=True)
class Switch:
    """What belongs to a machine: the gates on its way, its source, how long after the machine the source is
    started, and how long both run on after it [s].
    """

    machine: str
    source: str
    gates: tuple[str, ...]
    delay: float
    run_on: float

    def line(self) -> str:
        """It as a line of the protocol."""
        gates = ",".join(self.gates) or "-"
        return f"switch {self.machine} {self.source} {gates} {self.delay:g} {self.run_on:g}"


class SwitchBox:
    """The box itself, by a clock that its owner reads [s]. Every call says what came of it, in lines.

    A gate is never shut while the source runs and no other gate of that source is open: gates of machines
    that are on are open, those of the last one stay open until the source has stopped.
    """

    def __init__(self, switches: Sequence[Switch]) -> None:
        self.switches = {one.machine: one for one in switches}
        self._on: dict[str, float] = {}  # machines that are on, since when
        self._start: dict[str, float] = {}  # sources that are to start, when
        self._stop: dict[str, float] = {}  # sources that are to stop, when
        self._running: dict[str, float] = {}  # sources that run, since when
        self._open: dict[str, str] = {}  # open gates, by the source that they lead to

    def hello(self) -> list[str]:
        """What it says to who connects: the greeting, what it switches, and what is on now."""
        return [
            HELLO,
            *(one.line() for one in self.switches.values()),
            *(f"machine {machine} on" for machine in self._on),
            *(f"gate {gate} open" for gate in self._open),
            *(f"source {source} on" for source in self._running),
        ]

    def on(self, machine: str, now: float) -> list[str]:
        """A machine is switched on."""
        switch = self.switches.get(machine)
        if switch is None:
            return [f"unknown {machine}"]
        if machine in self._on:
            return []
        self._on[machine] = now
        said = [f"machine {machine} on"]
        for gate in switch.gates:
            if gate not in self._open:
                self._open[gate] = switch.source
                said.append(f"gate {gate} open")
        self._stop.pop(switch.source, None)
        if switch.source not in self._running:
            self._start[switch.source] = min(self._start.get(switch.source, inf), now + switch.delay)
        return said + self._shut_others(switch.source) + self.tick(now)

    def off(self, machine: str, now: float) -> list[str]:
        """A machine is switched off."""
        since = self._on.pop(machine, None)
        switch = self.switches.get(machine)
        if switch is None:
            return [f"unknown {machine}"]
        if since is None:
            return []
        said = [f"machine {machine} off", f"hours {machine} {(now - since) / 3600:.6f}"]
        if not self._users(switch.source):
            self._start.pop(switch.source, None)
            self._stop[switch.source] = now + switch.run_on
        return said + self._shut_others(switch.source) + self.tick(now)

    def all_off(self, now: float) -> list[str]:
        """Everything that is on is switched off."""
        return [line for machine in list(self._on) for line in self.off(machine, now)]

    def tick(self, now: float) -> list[str]:
        """What is due by now."""
        said = []
        for source in [one for one, when in self._start.items() if when <= now + 1e-9]:
            self._running[source] = self._start.pop(source)
            said.append(f"source {source} on")
        for source in [one for one, when in self._stop.items() if when <= now + 1e-9]:
            when, since = self._stop.pop(source), self._running.pop(source, None)
            if since is not None:
                said += [f"source {source} off", f"hours {source} {(when - since) / 3600:.6f}"]
            said += self._shut([gate for gate, of in self._open.items() if of == source])
        return said

    def _users(self, source: str) -> list[Switch]:
        """What is on at a source."""
        return [self.switches[machine] for machine in self._on if self.switches[machine].source == source]

    def _shut_others(self, source: str) -> list[str]:
        """Shuts the gates of machines that are off, where others are on at that source."""
        users = self._users(source)
        if not users:
            return []
        needed = {gate for one in users for gate in one.gates}
        return self._shut([gate for gate, of in self._open.items() if of == source and gate not in needed])

    def _shut(self, gates: Iterable[str]) -> list[str]:
        said = []
        for gate in list(gates):
            del self._open[gate]
            said.append(f"gate {gate} shut")
        return said


class SwitchServer(OrderServer):
    """A box on a port of this machine, by the clock times `speed`. All who are connected hear everything."""

    def __init__(
        self, box: SwitchBox, port: int = 0, speed: float = 1.0, heard: Callable[[str], object] | None = None
    ) -> None:
        super().__init__(port)
        self._box, self._speed, self._began = box, speed, monotonic()
        self._heard = heard

    def hello(self) -> list[str]:
        return self._box.hello()

    def answer(self, order: str) -> list[str]:
        self.do(order)
        return []

    def do(self, order: str) -> None:
        """Does what a line asks for: `on MACHINE`, `off MACHINE`, `all off`; other lines are answered so."""
        words = order.split()
        with self._lock:
            now = self._now()
            if words[:1] == ["on"] and len(words) == 2:
                said = self._box.on(words[1], now)
            elif words[:1] == ["off"] and len(words) == 2:
                said = self._box.off(words[1], now)
            elif words == ["all", "off"]:
                said = self._box.all_off(now)
            else:
                said = [f"unknown {words[0][:64]}"] if words else []
            self._say(said)

    def run(self) -> None:
        clock = threading.Thread(target=self._tick, daemon=True)
        clock.start()
        super().run()

    def _now(self) -> float:
        return (monotonic() - self._began) * self._speed

    def _tick(self) -> None:
        while not self._over.wait(0.05):
            with self._lock:
                self._say(self._box.tick(self._now()))

    def _say(self, said: Sequence[str]) -> None:
        if self._heard is not None:
            for text in said:
                self._heard(text)
        if said:
            self.tell(said)
