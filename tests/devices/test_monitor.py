"""The simulated monitor and the listening to it."""

from __future__ import annotations

import itertools
import socket
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import replace
from datetime import datetime
from math import pi

import numpy as np
import pytest

from purvel.devices.link import LinkError, Recording, listen
from purvel.devices.monitor import BACKGROUND, CHANNELS, Grain, Played, Server, as_line, readings
from purvel.roomair.decays import fit_decay
from purvel.roomair.logs import read_log

GRAINS = (Grain(1.0, 0.7), Grain(2.5, 1.8), Grain(10.0, 6.0), Grain(100.0, 20.0))


def played(minutes: float = 30.0, rate: float = 6.0, starts: tuple[float, ...] = ()) -> Played:
    seconds = np.arange(0, minutes * 60 + 1, 10.0)
    fine = 0.3 * np.exp(-rate * seconds / 3600)
    return Played(seconds, np.stack([fine, fine, 3 * fine, 5 * fine], axis=1), GRAINS, starts)


def never() -> bool:
    return False


@contextmanager
def serving(what: Played, speed: float = 1e9) -> Iterator[int]:
    server = Server(what, 10.0, speed)
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    try:
        yield server.port
    finally:
        server.stop()
        thread.join(3.0)


@contextmanager
def answering(data: bytes, *, stay: bool = False) -> Iterator[int]:
    """A port that says these bytes to whoever comes."""
    listener = socket.create_server(("127.0.0.1", 0))
    over = threading.Event()

    def say() -> None:
        try:
            line, _ = listener.accept()
        except OSError:
            return  # nobody came
        with line:
            line.sendall(data)
            if stay:
                over.wait(5.0)

    thread = threading.Thread(target=say, daemon=True)
    thread.start()
    try:
        yield listener.getsockname()[1]
    finally:
        over.set()
        listener.close()
        thread.join(3.0)


def test_a_perfect_monitor_counts_what_there_is() -> None:
    """By pocket calculator: 0.306 mg/m3 of 0.7 um spheres of water's density is 1.7e9 a cubic metre."""
    found = played().channels()[0]
    counts = [0.3 + BACKGROUND, 0.3]
    each = [1000 * pi / 6 * (d * 1e-6) ** 3 * 1e6 for d in (0.7, 1.8)]  # mg
    above = 3 * 0.3 / (1000 * pi / 6 * (6e-6) ** 3 * 1e6) + 5 * 0.3 / (1000 * pi / 6 * (20e-6) ** 3 * 1e6)
    assert found[0] == pytest.approx((counts[0] / each[0] + counts[1] / each[1] + above) / 1000)
    assert found[1] == pytest.approx(above / 1000)
    assert found[2] == pytest.approx(606.0) and found[3] == pytest.approx(606.0 + 900.0)


def test_readings_have_noise_drop_outs_and_a_puff() -> None:
    calm = list(readings(played(240, rate=0.0), 10.0))
    dropped = sum(values[0] is None for _, values in calm) / len(calm)
    assert 0.002 < dropped < 0.03
    shown = np.array([values[0] for _, values in calm if values[0] is not None])
    assert 0.05 < shown.std() / shown.mean() < 0.12
    puffed = list(readings(played(240, rate=0.0, starts=(3600.0,)), 10.0))
    at = 360
    assert puffed[at][1][0] > 1.8 * shown.mean() and puffed[at - 1][1][0] < 1.4 * shown.mean()
    assert list(readings(played(), 10.0, seed=1)) == list(readings(played(), 10.0, seed=1))
    assert list(readings(played(), 10.0, seed=1)) != list(readings(played(), 10.0, seed=2))


def test_what_is_recorded_is_what_was_played_and_tells_its_decay() -> None:
    heard: list[int] = []
    with serving(played()) as port:
        recording = listen(port, lambda now: heard.append(len(now.rows)), never)
    assert recording.why_ended == "the monitor came to the end"
    assert recording.channels == CHANNELS and heard == list(range(1, 182))
    log = read_log(recording.as_csv())
    assert [one.name for one in log.channels] == list(CHANNELS)
    assert log.minutes == pytest.approx(30.0, abs=0.01) and log.step == pytest.approx(10.0)
    background = BACKGROUND / (1000 * pi / 6 * (0.7e-6) ** 3 * 1e6) / 1000
    found = fit_decay(log.seconds, log.channel().values, background)
    assert found.low <= 6.0 <= found.high


def test_the_end_of_a_recording_is_said() -> None:
    hello = b"purvel-monitor 1\nseconds a b\n"
    with answering(hello + b"0 1 2\n10 3 -\nrubbish\n20 1\n30 nan 4\n- 4 5\n") as port:
        recording = listen(port, lambda _: None, never)
    assert recording.rows == [("0", "1", "2"), ("10", "3", "-")]
    assert recording.why_ended == "the monitor broke off"
    assert recording.as_csv().splitlines()[0] == b"time,a,b"
    assert recording.as_csv().splitlines()[2].endswith(b",3,")
    with answering(hello + b"0 1 2\n", stay=True) as port:
        silent = listen(port, lambda _: None, never, patience=0.5)
    assert silent.rows == [("0", "1", "2")] and "silent" in silent.why_ended
    with answering(hello + b"0 1 2\n", stay=True) as port:
        stopped = listen(port, lambda _: None, lambda: True)
    assert stopped.rows == [] or stopped.why_ended == ""


@pytest.mark.parametrize(
    "said",
    [
        b"HTTP/1.0 200 OK\r\n\r\n",
        b"",
        b"purvel-monitor 2\nseconds a\n0 1\n",
        b"x" * 9000,
        b"purvel-monitor 1\nminutes a\nseconds a\n0 1\n",
    ],
)
def test_what_is_no_monitor_is_refused(said: bytes) -> None:
    with answering(said) as port, pytest.raises(LinkError, match="no monitor"):
        listen(port, lambda _: None, never)


def test_where_nobody_answers() -> None:
    with socket.create_server(("127.0.0.1", 0)) as free:
        port = free.getsockname()[1]
    with pytest.raises(LinkError, match=f"port {port}"):
        listen(port, lambda _: None, never)


def test_a_line_of_the_protocol() -> None:
    assert as_line(12.0, [1234.5678, None]) == "12.0 1235 -"
    assert Recording().as_csv() == b"time,\n"


def test_a_monitor_that_is_odd_does_what_it_is_told_to() -> None:
    plain = list(readings(played(), 10.0, seed=3))
    jumped = list(readings(played(), 10.0, seed=3, odd=("jump",)))
    late = [b[0] - a[0] for a, b in zip(plain, jumped)]
    assert late[0] == 0.0 and late[-1] == -3600.0 and set(late) == {0.0, -3600.0}
    assert [one[1] for one in plain] == [one[1] for one in jumped]
    assert late.index(-3600.0) == pytest.approx(len(late) / 2, abs=1)
    begun = replace(played(), seconds=played().seconds + 7200.0)  # on a clock that was running
    assert list(readings(begun, 10.0, seed=3, odd=("jump",))) == [(at + 7200.0, row) for at, row in jumped]
    stuck = [one[1][2] for one in readings(played(), 10.0, seed=3, odd=("stuck",)) if one[1][2] is not None]
    longest = max(sum(1 for _ in group) for _, group in itertools.groupby(stuck))
    assert longest > 0.2 * len(stuck)
    damp = [one[1] for one in readings(played(), 10.0, seed=3, odd=("humid",))]
    third = len(damp) * 3 // 4
    wet = [row[-1] for row in damp[third:] if row[-1] is not None]
    dry = [row[-1] for row in damp[: len(damp) // 3] if row[-1] is not None]
    assert min(wet) > 80 > max(dry)
    more = [b[1][0] / a[1][0] for a, b in zip(plain[third:], zip_rows(damp[third:])) if a[1][0] and b[1][0]]
    assert np.median(more) == pytest.approx(1.8, rel=0.01)


def zip_rows(rows):
    return [(0.0, row) for row in rows]


def test_a_recording_with_a_clock_that_was_set_back_is_one_log() -> None:
    heard = Recording(datetime(2026, 3, 1, 9), CHANNELS)
    heard.rows = [tuple(as_line(*one).split()) for one in readings(played(), 10.0, odd=("jump",))]
    log = read_log(heard.as_csv())
    assert log.set_back == 1 and np.allclose(np.diff(log.seconds), 10.0)
