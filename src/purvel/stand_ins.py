"""Stand-ins for outside devices, served until they are interrupted: a distance meter, a particle monitor, a
switch box, a gauge.
"""

from __future__ import annotations

import sys
import threading
from collections.abc import Callable, Collection, Iterable
from typing import TypeVar

from purvel.airflow.sources import SourceCurve
from purvel.devices import gauge, meter, monitor, switch_box
from purvel.devices.serving import PortServer
from purvel.review import Answers, Memory
from purvel.review.air.played import played_day
from purvel.review.ducts.switching import switches
from purvel.review.room.meter import meter_in
from purvel.shop import Shop

T = TypeVar("T")
Say = Callable[[str], object]
DEVICES = ("meter", "monitor", "switchbox", "gauge")


class StandInError(Exception):
    """A stand-in that cannot be served; the sentence says why."""


def serve_monitor(
    shop: Shop, port: int | None, how: tuple[float, float, int], odd: Collection[str], say: Say
) -> None:
    """A monitor that plays the shop's day: its step [s], how many times as fast as the clock, its seed, and
    what else it does. Raises StandInError.
    """
    unknown = [one for one in odd if one not in monitor.ODD]
    if unknown:
        raise StandInError(
            f"A monitor can be made to {', '.join(monitor.ODD)}; “{unknown[0]}” is none of that."
        )
    strange = tuple(one for one in monitor.ODD if one in odd)
    played = played_day(shop)
    if played is None:
        raise StandInError("The shop has no day to play: it needs a room and work in its session.")
    step, speed, seed = how
    server = _on(port, monitor.PORT, lambda at: monitor.Server(played, step, speed, at, seed, strange))
    say(f"A simulated monitor plays on port {server.port} of this machine; Ctrl+C ends it.")
    server.run()


def serve_meter(shop: Shop, port: int | None, seed: int, say: Say) -> None:
    """A distance meter in the shop's room; each line of the standard input presses it. Raises
    StandInError.
    """
    known = meter_in(shop.room, seed)
    if known is None:
        raise StandInError("The shop has no room to measure: its walls do not meet.")
    server = _on(port, meter.PORT, lambda at: meter.MeterServer(known, at))
    say(
        f"A simulated distance meter answers on port {server.port} of this machine. Enter measures the next wall;"
        " Ctrl+C ends it."
    )
    _work(server, lambda _: [server.press().line()], say)


def serve_switch_box(shop: Shop, port: int | None, speed: float, say: Say) -> None:
    """A switch box for the shop's machines; lines of the standard input are orders to it: “on saw”. Raises
    StandInError.
    """
    known = switches(Answers(shop, Memory()))
    if not known:
        raise StandInError("The shop has no ducts that lead to a machine: there is nothing to switch.")
    server = _on(
        port, switch_box.PORT, lambda at: switch_box.SwitchServer(switch_box.SwitchBox(known), at, speed, say)
    )
    machines = ", ".join(one.machine for one in known)
    say(
        f"A simulated switch box answers on port {server.port} of this machine. Type “on” or “off” and one of"
        f" {machines}; Ctrl+C ends it."
    )
    _work(server, server.answer, say)


def serve_gauge(shop: Shop, port: int | None, seed: int, say: Say) -> None:
    """A gauge among the shop's sources; lines of the standard input are orders to it: “sealed collector”.
    Raises StandInError.
    """
    curves = {thing.id: SourceCurve(thing.source) for thing in shop.things if thing.source is not None}
    if not curves:
        raise StandInError("The shop has no vac or collector to read.")
    known = gauge.Gauge({source: (one.shut_off, one.free_flow) for source, one in curves.items()}, seed)
    server = _on(port, gauge.PORT, lambda at: gauge.GaugeServer(known, at))
    say(
        f"A simulated gauge answers on port {server.port} of this machine. Type “sealed” or “open” and one of"
        f" {', '.join(curves)}; Ctrl+C ends it."
    )
    _work(server, server.answer, say)


def _on(port: int | None, usual: int, make: Callable[[int], T]) -> T:
    """A server on a port, on its usual one where none is named. Raises StandInError."""
    at = usual if port is None else port
    try:
        return make(at)
    except OSError as exc:
        raise StandInError(f"Port {at} cannot be had: {(exc.strerror or str(exc)).lower()}.") from None


def _work(server: PortServer, answer: Callable[[str], Iterable[str]], say: Say) -> None:
    """Serves, and answers lines of the standard input besides, until it is interrupted."""
    threading.Thread(target=server.run, daemon=True).start()
    for order in sys.stdin:
        for line in answer(order.strip()):
            say(line)
    threading.Event().wait()  # no keyboard: it does what those who connect ask for
