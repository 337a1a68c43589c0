"""One reading of a gauge on a port of this machine."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from purvel.devices.gauge import HELLO
from purvel.devices.link import LinkError
from purvel.devices.order_link import OrderLink

What = Literal["sealed", "open"]
LIMITS: dict[What, tuple[str, float, float]] = {
    "sealed": ("suction", 100.0, 50_000.0),  # Pa, as a source may have
    "open": ("flow", 0.005, 5.0),  # m3/s
}


@dataclass(frozen=True, slots=True)
class Reading:
    """What was read of a source: the suction with its inlet blocked [Pa], or the flow with it open [m3/s]."""

    source: str
    what: What
    value: float


def read_once(port: int, source: str, what: What, is_over: Callable[[], bool]) -> Reading | None:
    """Asks for one reading and waits for it; None where `is_over` before. Raises LinkError where nobody
    answers, where it does not know the source, or where what it says is no reading.
    """
    link = OrderLink(port, HELLO, "gauge", "gauge")
    told: list[list[str]] = []
    link.ask(f"{what} {source}")
    word, least, most = LIMITS[what]

    def found() -> list[list[str]]:
        return [line for line in told if line and line[0] in (word, "none")]

    link.listen(told.extend, lambda: bool(found()) or is_over())
    answers = found()
    if not answers:
        if is_over():
            return None
        raise LinkError("The gauge ended before it said anything.")
    line = answers[0]
    if line[0] == "none":
        raise LinkError(f"The gauge knows no {source}.")
    try:
        value = float(line[1])
    except (IndexError, ValueError):
        raise LinkError(f"The gauge says “{' '.join(line)[:40]}”, which is no reading.") from None
    if not least <= value <= most:
        raise LinkError(f"The gauge reads {value:g}, which no source has: look at it again.")
    return Reading(source, what, value)
