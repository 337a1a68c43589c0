"""The simulated gauge: what it reads of a source, and the line that it speaks."""

from __future__ import annotations

import socket

import numpy as np
import pytest

from purvel.devices.gauge import FLOW_NOISE, HELLO, SUCTION_NOISE, Gauge, GaugeServer
from purvel.devices.gauge_link import read_once
from purvel.devices.link import LinkError
from purvel.shop import Shop
from purvel.stand_ins import StandInError, serve_gauge
from tests.devices.serving import serving

ENDS = {"fan": (2600.0, 0.5), "vac": (15000.0, 0.05)}


def test_a_source_is_off_its_curve_by_luck_that_stays() -> None:
    one = Gauge(ENDS, 1)
    suctions = np.array([float(one.read("sealed fan")[0].split()[1]) for _ in range(400)])
    flows = np.array([float(one.read("open fan")[0].split()[1]) for _ in range(400)])
    assert suctions.std() / suctions.mean() == pytest.approx(SUCTION_NOISE, rel=0.2)
    assert flows.std() / flows.mean() == pytest.approx(FLOW_NOISE, rel=0.2)
    assert abs(suctions.mean() / 2600.0 - 1) < 0.35 and abs(suctions.mean() / 2600.0 - 1) > 1e-3
    others = [float(Gauge(ENDS, seed).read("sealed fan")[0].split()[1]) for seed in range(200)]
    assert np.std(others) / 2600.0 == pytest.approx(0.1, rel=0.2)  # from one machine to the next


def test_what_it_does_not_know_it_says() -> None:
    one = Gauge(ENDS, 1)
    assert one.read("sealed lathe") == ["none lathe"] and one.read("hello") == ["none hello"]
    assert one.read("") == [] and one.read("sealed fan vac") == ["none vac"]


def test_it_answers_over_the_line() -> None:
    with (
        serving(GaugeServer(Gauge(ENDS, 1))) as server,
        socket.create_connection(("127.0.0.1", server.port), timeout=5) as line,
    ):
        line.sendall(b"sealed vac\nopen vac\nlathe\n")
        text = b""
        while text.count(b"\n") < 4:
            text += line.recv(4096)
    first, suction, flow, none = text.decode().splitlines()
    assert (
        first == HELLO
        and suction.startswith("suction ")
        and flow.startswith("flow 0.0")
        and none == "none lathe"
    )
    with pytest.raises(StandInError, match="no vac or collector"):
        serve_gauge(Shop(), 0, 1, print)


def never() -> bool:
    return False


def test_a_reading_is_asked_for_and_taken() -> None:
    with serving(GaugeServer(Gauge(ENDS, 1))) as server:
        sealed = read_once(server.port, "fan", "sealed", never)
        assert sealed is not None and (sealed.source, sealed.what) == ("fan", "sealed")
        assert sealed.value == pytest.approx(2600.0, rel=0.4)
        opened = read_once(server.port, "vac", "open", never)
        assert opened is not None and opened.value == pytest.approx(0.05, rel=0.4)
        with pytest.raises(LinkError, match="The gauge knows no lathe"):
            read_once(server.port, "lathe", "open", never)
    with pytest.raises(LinkError, match="No gauge answers on port"):
        read_once(server.port, "fan", "sealed", never)


class Odd(GaugeServer):
    """Says what it is told to."""

    def __init__(self, says: str) -> None:
        super().__init__(Gauge(ENDS, 1))
        self.says = says

    def answer(self, order: str) -> list[str]:
        return [self.says]


@pytest.mark.parametrize(
    ("says", "why"),
    [
        ("suction lots", "“suction lots”, which is no reading"),
        ("suction", "“suction”, which is no reading"),
        ("suction 9e9", "which no source has"),
        ("suction nan", "which no source has"),
        ("suction -4", "which no source has"),
    ],
)
def test_what_is_no_reading_is_refused(says: str, why: str) -> None:
    with serving(Odd(says)) as server, pytest.raises(LinkError, match=why):
        read_once(server.port, "fan", "sealed", never)
