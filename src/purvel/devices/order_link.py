"""A line to a device on a port of this machine that greets, takes orders and tells, line by line."""

from __future__ import annotations

import socket
from collections.abc import Callable
from dataclasses import dataclass, field
from queue import Empty, SimpleQueue

from purvel.devices.link import LONGEST_LINE, LinkError

_PAUSE = 0.1  # s between looks whether something is asked or it is over
GREETS_WITHIN = 3.0  # s: what says nothing that long is something else


@dataclass
class OrderLink:
    """What is called `device`, `short` for short, and greets with `hello`. `ask` may be called from any
    thread.
    """

    port: int
    hello: str
    device: str
    short: str
    _asked: SimpleQueue[str] = field(default_factory=SimpleQueue)

    def ask(self, order: str) -> None:
        """Sends an order."""
        self._asked.put(order)

    def listen(self, take: Callable[[list[list[str]]], None], is_over: Callable[[], bool]) -> str:
        """Hears what it says, in words by line, until it ends or `is_over`; returns why it ended. What comes
        with the greeting is taken even where it is nothing. Raises LinkError where nobody answers, or what
        answers is something else.
        """
        try:
            line = socket.create_connection(("127.0.0.1", self.port), timeout=3.0)
        except OSError:
            raise LinkError(f"No {self.device} answers on port {self.port} of this machine.") from None
        with line:
            line.settimeout(_PAUSE)
            return self._hear(line, take, is_over)

    def _hear(
        self, line: socket.socket, take: Callable[[list[list[str]]], None], is_over: Callable[[], bool]
    ) -> str:
        waiting, greeted, quiet = b"", False, 0.0
        while not is_over():
            try:
                self._pass_on(line)
                got = line.recv(4096)
            except TimeoutError:
                quiet += _PAUSE
                if not greeted and quiet > GREETS_WITHIN:
                    raise LinkError(self._something_else()) from None
                continue
            except OSError:
                got = b""
            if not got:
                if not greeted:
                    raise LinkError(self._something_else())
                return f"the {self.short} broke off"
            *lines, waiting = (waiting + got).split(b"\n")
            if len(waiting) > LONGEST_LINE:
                return f"the {self.short} sent a line without an end"
            words = [raw.decode("ascii", "replace").split() for raw in lines]
            if words and not greeted:
                if " ".join(words.pop(0)) != self.hello:
                    raise LinkError(self._something_else())
                greeted = True
            if lines:
                take(words)
        return ""

    def _pass_on(self, line: socket.socket) -> None:
        try:
            while True:
                line.sendall(f"{self._asked.get_nowait()}\n".encode())
        except Empty:
            pass

    def _something_else(self) -> str:
        return f"What answers on port {self.port} is no {self.device} that speaks “{self.hello}”."
