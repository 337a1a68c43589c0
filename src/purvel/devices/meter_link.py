"""Listening to a distance meter on a port of this machine, line by line."""

from __future__ import annotations

import socket
from collections.abc import Callable
from dataclasses import dataclass, field
from queue import Empty, SimpleQueue

from purvel.devices.link import LONGEST_LINE, LinkError
from purvel.devices.meter import HELLO, NO_SIGNAL, OUT_OF_RANGE, Taken

_PAUSE = 0.1  # s between looks whether something is asked or it is over
GREETS_WITHIN = 3.0  # s: what says nothing that long is no meter
WORDS = {OUT_OF_RANGE: "it is out of range", NO_SIGNAL: "it saw nothing there"}


@dataclass
class MeterLink:
    """A meter that is listened to. `ask` may be called from any thread."""

    port: int
    _asked: SimpleQueue[str] = field(default_factory=SimpleQueue)

    def ask(self, pointed_at: str = "") -> None:
        """Presses it from here; the words are what it is pointed at, which a stand-in goes by."""
        self._asked.put(f"measure {pointed_at}".strip())

    def listen(self, heard: Callable[[Taken], None], is_over: Callable[[], bool]) -> str:
        """Hears what it says until it ends or `is_over`; returns why it ended. Raises LinkError where nobody
        answers, or what answers is no meter.
        """
        try:
            line = socket.create_connection(("127.0.0.1", self.port), timeout=3.0)
        except OSError:
            raise LinkError(f"No distance meter answers on port {self.port} of this machine.") from None
        with line:
            line.settimeout(_PAUSE)
            return self._hear(line, heard, is_over)

    def _hear(self, line: socket.socket, heard: Callable[[Taken], None], is_over: Callable[[], bool]) -> str:
        waiting, greeted, quiet = b"", False, 0.0
        while not is_over():
            try:
                self._pass_on(line)
                got = line.recv(4096)
            except TimeoutError:
                quiet += _PAUSE
                if not greeted and quiet > GREETS_WITHIN:
                    raise LinkError(self._no_meter()) from None
                continue
            except OSError:
                got = b""
            if not got:
                if not greeted:
                    raise LinkError(self._no_meter())
                return "the meter broke off"
            *lines, waiting = (waiting + got).split(b"\n")
            if len(waiting) > LONGEST_LINE:
                return "the meter sent a line without an end"
            for raw in lines:
                words = raw.decode("ascii", "replace").split()
                if not greeted:
                    if " ".join(words) != HELLO:
                        raise LinkError(self._no_meter())
                    greeted = True
                elif (taken := taken_of(words)) is not None:
                    heard(taken)
        return ""

    def _pass_on(self, line: socket.socket) -> None:
        try:
            while True:
                line.sendall(f"{self._asked.get_nowait()}\n".encode())
        except Empty:
            pass

    def _no_meter(self) -> str:
        return f"What answers on port {self.port} is no distance meter that speaks “{HELLO}”."


def taken_of(words: list[str]) -> Taken | None:
    """What a line says; None for one that says nothing of a length."""
    if words[:1] == ["none"]:
        return Taken(None, words[1] if len(words) > 1 else NO_SIGNAL)
    if len(words) != 2 or words[0] != "length":
        return None
    try:
        length = float(words[1])
    except ValueError:
        return None
    return Taken(length) if 0 < length < 1000 else Taken(None, OUT_OF_RANGE)
