"""Listening to a distance meter on a port of this machine, line by line."""

from __future__ import annotations

from collections.abc import Callable

from purvel.devices.meter import HELLO, NO_SIGNAL, OUT_OF_RANGE, Taken
from purvel.devices.order_link import OrderLink

WORDS = {OUT_OF_RANGE: "it is out of range", NO_SIGNAL: "it saw nothing there"}


class MeterLink:
    """A meter that is listened to. `ask` may be called from any thread."""

    def __init__(self, port: int) -> None:
        self._link = OrderLink(port, HELLO, "distance meter", "meter")

    def ask(self, pointed_at: str = "") -> None:
        """Presses it from here; the words are what it is pointed at, which a stand-in goes by."""
        self._link.ask(f"measure {pointed_at}".strip())

    def listen(self, heard: Callable[[Taken], None], is_over: Callable[[], bool]) -> str:
        """Hears what it says until it ends or `is_over`; returns why it ended. Raises LinkError where nobody
        answers, or what answers is no meter.
        """

        def take(lines: list[list[str]]) -> None:
            for words in lines:
                if (taken := taken_of(words)) is not None:
                    heard(taken)

        return self._link.listen(take, is_over)


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
