"""A stand-in on a port of this machine: takes whoever connects, each in a thread of its own."""

from __future__ import annotations

import socket
import threading
from abc import ABC, abstractmethod

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
