"""Stand-ins for outside devices, served until they are interrupted: a distance meter, a particle monitor."""

from __future__ import annotations

import sys
import threading
from collections.abc import Callable

from purvel.devices import meter, monitor
from purvel.review.air.played import played_day
from purvel.review.room.meter import meter_in
from purvel.shop import Shop

Say = Callable[[str], object]
DEVICES = ("meter", "monitor")


class StandInError(Exception):
    """A stand-in that cannot be served; the sentence says why."""


def serve_monitor(shop: Shop, port: int | None, how: tuple[float, float, int], say: Say) -> None:
    """A monitor that plays the shop's day: its step [s], how many times as fast as the clock, its seed.
    Raises StandInError.
    """
    played = played_day(shop)
    if played is None:
        raise StandInError("The shop has no day to play: it needs a room and work in its session.")
    step, speed, seed = how
    port = monitor.PORT if port is None else port
    try:
        server = monitor.Server(played, step, speed, port, seed)
    except OSError as exc:
        raise _taken(port, exc) from None
    say(f"A simulated monitor plays on port {server.port} of this machine; Ctrl+C ends it.")
    server.run()


def serve_meter(shop: Shop, port: int | None, seed: int, say: Say) -> None:
    """A distance meter in the shop's room; each line of the standard input presses it. Raises
    StandInError.
    """
    known = meter_in(shop.room, seed)
    if known is None:
        raise StandInError("The shop has no room to measure: its walls do not meet.")
    port = meter.PORT if port is None else port
    try:
        server = meter.MeterServer(known, port)
    except OSError as exc:
        raise _taken(port, exc) from None
    say(
        f"A simulated distance meter answers on port {server.port} of this machine. Enter measures the next wall;"
        " Ctrl+C ends it."
    )
    threading.Thread(target=server.run, daemon=True).start()
    for _ in sys.stdin:
        say(server.press().line())
    threading.Event().wait()  # no keyboard: it measures when it is asked to


def _taken(port: int, exc: OSError) -> StandInError:
    return StandInError(f"Port {port} cannot be had: {(exc.strerror or str(exc)).lower()}.")
