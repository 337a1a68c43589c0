"""Stand-ins served for a test."""

import threading
from collections.abc import Iterator
from contextlib import contextmanager
from typing import TypeVar

from purvel.devices.serving import PortServer

S = TypeVar("S", bound=PortServer)


@contextmanager
def serving(server: S) -> Iterator[S]:
    """Within, a server answers."""
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    try:
        yield server
    finally:
        server.stop()
        thread.join(3.0)
