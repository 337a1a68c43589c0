"""Listening to a device on a port of this machine, line by line."""

from __future__ import annotations

import socket
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import datetime, timedelta

from purvel.devices.monitor import HELLO, NONE

SILENCE = 60.0  # s without a line: the device is gone
LONGEST_LINE = 4096  # bytes
MOST, MOST_SECONDS = 1_000_000, 1e9  # readings; and a bound on any figure


class LinkError(ValueError):
    """A device that cannot be listened to; the sentence says why."""


@dataclass
class Recording:
    """What was heard of a monitor: the names of its channels, and its readings as text."""

    begun: datetime = field(default_factory=datetime.now)
    channels: tuple[str, ...] = ()
    rows: list[tuple[str, ...]] = field(default_factory=list)
    why_ended: str = ""

    def as_csv(self) -> bytes:
        """The recording as CSV, by the clock; a reading that was not there is an empty cell."""
        return f"time,{','.join(self.channels)}\n".encode() + self.lines(0)

    def lines(self, first: int) -> bytes:
        """Its lines of CSV from a reading on."""
        lines = []
        for seconds, *cells in self.rows[first:]:
            moment = self.begun + timedelta(seconds=float(seconds) - float(self.rows[0][0]))
            readings = ("" if cell == NONE else cell for cell in cells)
            lines.append(",".join((moment.isoformat(" ", "milliseconds"), *readings)) + "\n")
        return "".join(lines).encode()


def listen(
    port: int,
    heard: Callable[[Recording], None],
    is_over: Callable[[], bool],
    patience: float = SILENCE,
) -> Recording:
    """Records a monitor until it ends, falls silent for `patience` [s], or `is_over`; `heard` is called after
    each reading. Raises LinkError where nobody answers or it is no monitor.
    """
    try:
        line = socket.create_connection(("127.0.0.1", port), timeout=3.0)
    except OSError:
        raise LinkError(f"No monitor answers on port {port} of this machine.") from None
    recording = Recording()
    with line:
        line.settimeout(0.2)
        _record(line, recording, heard, is_over, patience)
    if not recording.channels and not is_over():
        raise LinkError(f"What answers on port {port} is no monitor that speaks “{HELLO}”.")
    return recording


def _record(
    line: socket.socket,
    recording: Recording,
    heard: Callable[[Recording], None],
    is_over: Callable[[], bool],
    patience: float,
) -> None:
    waiting, quiet = b"", 0.0
    greeted = False
    while not is_over():
        try:
            got = line.recv(65536)
        except TimeoutError:
            quiet += 0.2
            if quiet >= patience:
                recording.why_ended = f"the monitor was silent for {patience:.0f} s"
                return
            continue
        except OSError:
            got = b""
        if not got:
            recording.why_ended = "the monitor broke off"
            return
        quiet = 0.0
        *lines, waiting = (waiting + got).split(b"\n")
        if len(waiting) > LONGEST_LINE:
            recording.why_ended = "the monitor sent a line without an end"
            return
        for raw in lines:
            words = raw.decode("ascii", "replace").split()
            if not greeted:
                if " ".join(words) != HELLO:
                    return
                greeted = True
            elif not _take(recording, words, heard):
                return


def _take(recording: Recording, words: list[str], heard: Callable[[Recording], None]) -> bool:
    """One line after the greeting; False where it is the last."""
    if words == ["end"]:
        recording.why_ended = "the monitor came to the end"
        return False
    if not recording.channels:
        if words[:1] != ["seconds"] or not 2 <= len(words) <= 33:
            return False
        recording.channels = tuple(word.replace(",", ".")[:80] for word in words[1:])
        return True
    if len(words) == len(recording.channels) + 1 and words[0] != NONE and all(map(_is_reading, words)):
        recording.rows.append(tuple(words))
        heard(recording)
        if len(recording.rows) >= MOST:
            recording.why_ended = f"{MOST:,} readings are enough"
            return False
    return True


def _is_reading(word: str) -> bool:
    try:
        return word == NONE or abs(float(word)) < MOST_SECONDS
    except ValueError:
        return False
