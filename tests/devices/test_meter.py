"""The simulated distance meter and the listening to it."""

from __future__ import annotations

import re
import socket
import subprocess
import sys
import threading

import numpy as np
import pytest

from purvel.devices.link import LinkError
from purvel.devices.meter import FARTHEST, FOOT, NOISE, Meter, MeterServer, Taken
from purvel.devices.meter_link import MeterLink, taken_of
from purvel.review.room.meter import meter_in
from purvel.shop import Room
from tests.conftest import box_room
from tests.devices.serving import serving


def box(seed: int = 1) -> Meter:
    meter = meter_in(box_room(6.0, 5.0), seed)
    assert meter is not None and meter_in(Room()) is None
    return meter


def test_it_reads_wall_after_wall_with_noise_and_now_and_then_a_foot_off() -> None:
    meter, off, nothing = box(), list[float](), 0
    for number in range(4000):
        taken, true = meter.take(), (6.0, 5.0)[number % 2]
        if taken.length is None:
            nothing += 1
            assert taken.why == "no-signal"
        else:
            off.append(taken.length - true)
    near = np.array([one for one in off if abs(one) < FOOT / 2])
    slips = np.array([one for one in off if abs(one) >= FOOT / 2])
    assert near.std() == pytest.approx(NOISE, rel=0.05) and abs(near.mean()) < 2e-4
    assert np.abs(slips) == pytest.approx(FOOT, abs=0.01) and 0.3 < (slips > 0).mean() < 0.7
    assert 0.02 < len(slips) / 4000 < 0.04 and 0.02 < nothing / 4000 < 0.04


def test_it_goes_by_what_it_is_pointed_at() -> None:
    def typical(what: str) -> float:
        meter = box()
        return float(
            np.median([one.length for _ in range(50) if (one := meter.take(what)).length is not None])
        )

    assert typical("B") == pytest.approx(5.0, abs=0.002)
    assert typical("A C") == typical("C A") == pytest.approx(np.hypot(6.0, 5.0), abs=0.002)
    assert box().take("Z") == box().take("A Z") == Taken(None, "no-signal")
    far = Meter({"A": FARTHEST + 1.0}, {}, 1)
    assert {far.take().why for _ in range(20)} <= {"out-of-range", "no-signal"}
    assert Meter({}, {}, 1).take() == Taken(None, "no-signal")


def test_what_is_asked_and_what_is_pressed_comes_to_who_listens() -> None:
    heard, over = list[Taken](), threading.Event()
    come = threading.Semaphore(0)

    def take(taken: Taken) -> None:
        heard.append(taken)
        come.release()

    with serving(MeterServer(box(3))) as server:
        link = MeterLink(server.port)
        link.ask("A C")
        thread = threading.Thread(target=link.listen, args=(take, over.is_set), daemon=True)
        thread.start()
        assert come.acquire(timeout=5.0)
        pressed = server.press()
        assert come.acquire(timeout=5.0)
        over.set()
        thread.join(3.0)
    assert heard[0].length == pytest.approx(7.810, abs=0.4) and heard[1] == pressed
    assert not thread.is_alive()


def test_it_says_why_it_ended() -> None:
    with serving(MeterServer(box())) as server:
        why: list[str] = []
        link = MeterLink(server.port)
        thread = threading.Thread(
            target=lambda: why.append(link.listen(lambda _: None, lambda: False)), daemon=True
        )
        thread.start()
        while not server._lines:
            pass
        server.stop()
        thread.join(5.0)
    assert why == ["the meter broke off"]


def test_nobody_there_and_somebody_else() -> None:
    with socket.create_server(("127.0.0.1", 0)) as other:
        port = other.getsockname()[1]
    with pytest.raises(LinkError, match="No distance meter answers"):
        MeterLink(port).listen(print, lambda: False)
    for says in (b"purvel-monitor 1\n", b""):
        listener = socket.create_server(("127.0.0.1", 0))

        def say(listener: socket.socket = listener, says: bytes = says) -> None:
            line, _ = listener.accept()
            with line:
                line.sendall(says)

        thread = threading.Thread(target=say, daemon=True)
        thread.start()
        with pytest.raises(LinkError, match="no distance meter that speaks"):
            MeterLink(listener.getsockname()[1]).listen(print, lambda: False)
        thread.join(3.0)
        listener.close()


@pytest.mark.parametrize(
    ("line", "taken"),
    [
        ("length 4.123", Taken(4.123)),
        ("none out-of-range", Taken(None, "out-of-range")),
        ("none", Taken(None, "no-signal")),
        ("length 0", Taken(None, "out-of-range")),
        ("length nan", Taken(None, "out-of-range")),
        ("length 1e9", Taken(None, "out-of-range")),
        ("length four", None),
        ("length 4 m", None),
        ("battery low", None),
        ("", None),
    ],
)
def test_lines_are_read_or_passed_over(line: str, taken: Taken | None) -> None:
    assert taken_of(line.split()) == taken
    if taken is not None and taken.length is not None:
        assert taken_of(taken.line().split()) == taken


def test_the_command_measures_at_each_enter() -> None:
    command = [
        sys.executable,
        "-m",
        "purvel",
        "simulate",
        "meter",
        "--demo",
        "spare-room",
        "--port",
        "0",
        "--seed",
        "5",
    ]
    with subprocess.Popen(command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True) as device:
        assert device.stdin is not None and device.stdout is not None
        port = re.search(r"port (\d+)", device.stdout.readline())
        assert port is not None
        device.stdin.write("\n\n")
        device.stdin.flush()
        lines = [device.stdout.readline() for _ in range(2)]
        assert all(re.fullmatch(r"(length \d\.\d{3}|none [a-z-]+)\n", line) for line in lines), lines
        with socket.create_connection(("127.0.0.1", int(port[1])), timeout=5.0) as line:
            assert line.recv(100) == b"purvel-meter 1\n"
        device.kill()
