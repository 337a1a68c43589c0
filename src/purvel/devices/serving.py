"""A stand-in on a port of this machine: takes whoever connects, each in a thread of its own."""

from __future__ import annotations

import socket
import threading
from abc import ABC, abstractmethod
from collections.abc import Sequence

LONGEST_ORDER = 4096  # bytes
PAUSE = 0.2  # s between looks whether it is over


class PortServer(ABC):
    """Serves on a port; 0 takes a free one. Raises OSError where the port cannot be had."""

    def __init__(self, port: int) -> None:
        self._over = threading.Event()
        self._socket = socket.create_server(("127.0.0.1", port))
        self._socket.settimeout(PAUSE)
        self.port: int = self._socket.getsockname()[1]

    @abstractmethod
    def serve(self, line: socket.socket) -> None:
        """Speaks with one who has connected, until either ends it."""

    def run(self) -> None:
        """Serves until `stop`."""
        with self._socket:
            while not self._over.is_set():
                try:
                    line, _ = self._socket.accept()
                except TimeoutError:
                    continue
                threading.Thread(target=self.serve, args=(line,), daemon=True).start()

    def stop(self) -> None:
        """Ends serving."""
        self._over.set()


class OrderServer(PortServer):
    """A device that greets who connects, and answers orders line by line; it may tell all of them, too."""

    def __init__(self, port: int) -> None:
        super().__init__(port)
        self._lock = threading.Lock()
        self._lines: list[socket.socket] = []

    @abstractmethod
    def hello(self) -> list[str]:
        """What it says first."""

    @abstractmethod
    def answer(self, order: str) -> list[str]:
        """What it says to an order, to who sent it."""

    def tell(self, said: Sequence[str]) -> None:
        """Says something to all who are connected."""
        for line in list(self._lines):
            _send(line, said)

    def serve(self, line: socket.socket) -> None:
        line.settimeout(PAUSE)
        waiting = b""
        with line:
            with self._lock:
                _send(line, self.hello())
                self._lines.append(line)
            try:
                while not self._over.is_set():
                    try:
                        got = line.recv(4096)
                    except TimeoutError:
                        continue
                    if not got:
                        break
                    *orders, waiting = (waiting + got).split(b"\n")
                    for raw in orders:
                        _send(line, self.answer(raw.decode("ascii", "replace").strip()))
                    waiting = waiting[-LONGEST_ORDER:]
            except OSError:
                pass  # who listened went away
            finally:
                with self._lock:
                    self._lines.remove(line)


def _send(line: socket.socket, said: Sequence[str]) -> None:
    try:
        line.sendall("".join(f"{text}\n" for text in said).encode())
    except OSError:
        pass  # who listened went away
