"""The simulated switch box and the working with it."""

from __future__ import annotations

import socket
import subprocess
import sys
import threading
import time
from collections.abc import Callable

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from purvel.devices.link import LinkError
from purvel.devices.switch_box import HELLO, Switch, SwitchBox, SwitchServer
from purvel.devices.switch_link import SwitchLink, SwitchState
from purvel.shop import Shop
from purvel.stand_ins import StandInError, serve_switch_box
from tests.devices.serving import serving

SAW = Switch("saw", "fan", ("saw-gate",), 2.0, 10.0)
PLANER = Switch("planer", "fan", ("planer-gate", "main-gate"), 1.0, 20.0)
LATHE = Switch("lathe", "vac", (), 0.0, 5.0)


def box() -> SwitchBox:
    return SwitchBox([SAW, PLANER, LATHE])


def test_the_gate_opens_at_once_the_source_follows_and_runs_on() -> None:
    one = box()
    assert one.on("saw", 100.0) == ["machine saw on", "gate saw-gate open"]
    assert one.tick(101.9) == []
    assert one.tick(102.0) == ["source fan on"]
    assert one.on("saw", 103.0) == []  # it is on
    assert one.off("saw", 172.0) == ["machine saw off", "hours saw 0.020000"]
    assert one.tick(181.9) == []
    # the source ran from 102 to 182
    assert one.tick(185.0) == ["source fan off", f"hours fan {80 / 3600:.6f}", "gate saw-gate shut"]
    assert one.off("saw", 190.0) == [] and one.on("band", 190.0) == ["unknown band"]


def test_a_second_machine_takes_the_source_over() -> None:
    one = box()
    one.on("saw", 0.0)
    one.tick(2.0)
    assert one.on("planer", 5.0) == ["machine planer on", "gate planer-gate open", "gate main-gate open"]
    assert one.off("saw", 6.0) == ["machine saw off", "hours saw 0.001667", "gate saw-gate shut"]
    assert one.tick(1000.0) == []  # the planer keeps it
    one.off("planer", 1000.0)
    # the saw starts again before the fan has run on: it never stopped, and the planer's gates are not needed
    assert one.on("saw", 1010.0) == [
        "machine saw on",
        "gate saw-gate open",
        "gate planer-gate shut",
        "gate main-gate shut",
    ]
    assert one.tick(1100.0) == []


def test_a_machine_that_stops_before_its_source_starts_never_starts_it() -> None:
    one = box()
    one.on("saw", 0.0)
    assert one.off("saw", 1.0) == ["machine saw off", "hours saw 0.000278"]
    assert one.tick(11.0) == ["gate saw-gate shut"]


@settings(max_examples=200)
@given(
    st.lists(
        st.tuples(st.sampled_from(["on", "off", "wait"]), st.sampled_from(["saw", "planer", "lathe"])),
        max_size=30,
    )
)
def test_no_source_with_gates_runs_against_shut_ones(orders: list[tuple[str, str]]) -> None:
    """Whatever is pressed: while a source runs that has gates, one of its ways is open; when all is off for
    long, everything is off and shut; hours of a machine are the time that it was on.
    """
    one, state, now = box(), SwitchState(), 0.0
    since: dict[str, float] = {}
    ran: dict[str, float] = {}
    for order, machine in [*orders, ("off", "saw"), ("off", "planer"), ("off", "lathe"), ("wait", "")]:
        now += 0.7 if order != "wait" else 3.1
        if order == "on":
            since.setdefault(machine, now)
        elif order == "off" and machine in since:
            ran[machine] = ran.get(machine, 0.0) + now - since.pop(machine)
        said = (
            one.on(machine, now)
            if order == "on"
            else one.off(machine, now)
            if order == "off"
            else one.tick(now)
        )
        for line in said:
            assert state.take(line.split())
        assert state.machines == set(since)
        for switch in (SAW, PLANER):
            if switch.machine in since:
                assert set(switch.gates) <= state.gates
        if "fan" in state.sources:
            assert {"saw-gate"} <= state.gates or {"planer-gate", "main-gate"} <= state.gates
    for line in one.tick(now + 1000.0):
        state.take(line.split())
    assert not (state.machines or state.gates or state.sources)
    for machine, seconds in ran.items():
        assert state.hours[machine] == pytest.approx(seconds / 3600, abs=1e-5)


def until(holds: Callable[[], bool]) -> None:
    end = time.monotonic() + 20
    while not holds():
        assert time.monotonic() < end
        time.sleep(0.01)


def test_it_is_worked_with_over_the_line() -> None:
    with serving(SwitchServer(box(), 0, 100.0)) as server:
        link, over, ended = SwitchLink(server.port), threading.Event(), list[str]()
        heard: list[SwitchState] = []
        thread = threading.Thread(target=lambda: ended.append(link.listen(heard.append, over.is_set)))
        thread.start()
        until(lambda: bool(heard))
        link.ask("on saw")
        until(lambda: link.state.sources == {"fan"})
        assert link.state.machines == {"saw"} and link.state.gates == {"saw-gate"}
        link.ask("nonsense")
        until(lambda: link.state.unknown == "nonsense")
        with socket.create_connection(("127.0.0.1", server.port), timeout=5) as other:
            text = b""
            while b"source fan on" not in text:
                text += other.recv(4096)  # who comes later is told how things stand
        lines = text.decode().split("\n")
        assert lines[0] == HELLO and "switch saw fan saw-gate 2 10" in lines and "machine saw on" in lines
        assert "switch lathe vac - 0 5" in lines
        link.ask("all off")
        until(lambda: not link.state.sources and "fan" in link.state.hours)
        assert link.state.hours["fan"] > 0 and not link.state.gates
        over.set()
        thread.join(5)
        assert ended == [""]


def test_what_is_no_box_is_said() -> None:
    with socket.create_server(("127.0.0.1", 0)) as nobody:
        port = nobody.getsockname()[1]
    with pytest.raises(LinkError, match=f"No switch box answers on port {port}"):
        SwitchLink(port).listen(lambda _: None, lambda: False)
    with socket.create_server(("127.0.0.1", 0)) as other:

        def greet() -> None:
            line, _ = other.accept()
            with line:
                line.sendall(b"220 mail ready\n")

        thread = threading.Thread(target=greet)
        thread.start()
        with pytest.raises(LinkError, match="is no switch box that speaks “purvel-switchbox 1”"):
            SwitchLink(other.getsockname()[1]).listen(lambda _: None, lambda: False)
        thread.join()


def test_lines_that_say_nothing_are_passed_over() -> None:
    state = SwitchState()
    for line in (
        "",
        "machine saw maybe",
        "hours saw many",
        "hours saw -1",
        "hours saw 1e9",
        "gate g",
        "switch a b c",
    ):
        assert not state.take(line.split())
    assert state == SwitchState()


@pytest.mark.slow
def test_the_stand_in_is_served_from_the_command_line() -> None:
    words = [
        sys.executable,
        "-m",
        "purvel",
        "simulate",
        "switchbox",
        "--demo",
        "garage",
        "--port",
        "0",
        "--speed",
        "100",
    ]
    with subprocess.Popen(words, stdout=subprocess.PIPE, stdin=subprocess.PIPE, text=True) as serving:
        assert serving.stdout is not None and serving.stdin is not None
        first = serving.stdout.readline()
        assert "switch box answers on port" in first and "table-saw" in first
        serving.stdin.write("on table-saw\n")
        serving.stdin.flush()
        said = [serving.stdout.readline().strip() for _ in range(3)]
        assert said == ["machine table-saw on", "gate saw-gate open", "source collector on"]
        serving.terminate()
    with pytest.raises(StandInError, match="nothing to switch"):
        serve_switch_box(Shop(), 0, 1.0, print)
