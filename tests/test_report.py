"""The report's JSON recomputed by an outsider who reads nothing but the JSON."""

import re
from collections.abc import Iterator
from dataclasses import replace
from math import pi
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from fluids.friction import friction_factor
from scipy.interpolate import PchipInterpolator

from purvel.demo import NAMES, demo_bytes
from purvel.files import loads
from purvel.report import as_json, as_text
from purvel.review import Answers, Figures, Memory
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.keep import answers as keep_answers
from purvel.review.told import advising
from purvel.shop import Shop
from purvel.shop.edits import change, put
from tests.conftest import block
from tests.told import differences


@pytest.fixture(scope="module", params=NAMES)
def demo(request: pytest.FixtureRequest) -> Iterator[tuple[str, tuple[dict[str, Any], str]]]:
    """The name of a demo and its report, read and printed, as on the day that the told texts are of."""
    with pytest.MonkeyPatch.context() as patch:
        patch.syspath_prepend(Path(__file__).parents[1] / "tools")
        from tell_demos import DAY, report_of

        patch.setattr(keep_answers, "today", lambda: DAY)
        yield request.param, report_of(loads(demo_bytes(request.param)))


@pytest.fixture
def report(demo: tuple[str, tuple[dict[str, Any], str]]) -> dict[str, Any]:
    return demo[1][0]


def test_it_says_what_it_said_when_it_was_read_last(demo: tuple[str, tuple[dict[str, Any], str]]) -> None:
    """Every figure and word of it, and what helps; `tools/tell_demos.py` writes the texts."""
    from tell_demos import TOLD, summed

    name, said = demo
    told = (TOLD / f"{name}-report.txt").read_text("utf-8")
    assert differences(told, summed(*said), within=2e-4) == []


def check_segments(one: dict[str, Any], system: dict[str, Any], air: dict[str, float]) -> None:
    """Mass at every joint; density, speed, friction and loss of every segment."""
    segments, mu = {part["id"]: part for part in system["segments"]}, air["viscosity"]
    flows = {part["id"]: part for part in one["segments"]}
    at_end: dict[str, float] = {}
    for hood in one["hoods"]:
        at_end[hood["path"][0]] = hood["flow"] * one["air_density"]
    for name, part in flows.items():
        upstream = sum(
            flows[other]["flow"] * flows[other]["density"]
            for other, drawn in segments.items()
            if drawn["downstream"] == name
        ) + at_end.get(name, 0.0)
        rho = part["density"]
        middle = part["total_pressure"] + part["pressure_loss"] / 2 - part["velocity_pressure"]
        thin = 1 + middle / air["pressure"] if system["kind"] == "vac" else 1.0
        assert rho == pytest.approx(one["air_density"] * thin, rel=1e-6)
        assert part["flow"] * rho == pytest.approx(upstream, rel=1e-3, abs=1e-9)
        area = pi / 4 * part["diameter"] ** 2
        assert part["speed"] == pytest.approx(part["flow"] / area, rel=1e-9)
        assert part["velocity_pressure"] == pytest.approx(0.5 * rho * part["speed"] ** 2, rel=1e-9)
        reynolds = rho * part["speed"] * part["diameter"] / mu
        if reynolds > 2300:
            assert part["friction_factor"] == pytest.approx(
                friction_factor(reynolds, part["roughness"] / part["diameter"]), rel=5e-3
            )
        friction = part["friction_factor"] * part["length"] * part["friction_multiplier"] / part["diameter"]
        assert part["pressure_loss"] == pytest.approx(
            (friction + part["loss_coefficient"]) * part["velocity_pressure"], rel=1e-6, abs=1e-6
        )
        fittings = sum(each["loss_coefficient"] for each in segments[name]["fittings"])
        assert part["of_which_fittings"] == pytest.approx(fittings, rel=1e-9)


def check_source(
    one: dict[str, Any], system: dict[str, Any], curve: PchipInterpolator, air: dict[str, float]
) -> None:
    """The source on its curve, and what it loses behind the ducts."""
    rho = one["air_density"]
    scale = rho / system["curve"]["density"]
    thin = 1 - one["duct_suction"] / air["pressure"] if system["kind"] == "vac" else 1.0
    assert one["source_pressure"] == pytest.approx(float(curve(one["flow"])) * scale, rel=5e-3)
    filtered = system["filter"] or {"resistance": 0.0, "area": 1.0}
    assert one["filter_loss"] == pytest.approx(filtered["resistance"] * one["flow"] / thin / filtered["area"])
    for said, loss, size in (
        ("discharge_loss", system["discharge_coefficient"], system["outlet_diameter"]),
        (
            "separator_loss",
            (system["separator"] or {"loss_coefficient": 0})["loss_coefficient"],
            (system["separator"] or {"on_diameter": 1})["on_diameter"],
        ),
    ):
        speed = one["flow"] / thin / (pi / 4 * size**2)
        assert one[said] == pytest.approx(loss * 0.5 * rho * thin * speed**2)


def check_hoods(one: dict[str, Any]) -> None:
    """Entry losses, and energy along every path."""
    rho, flows = one["air_density"], {part["id"]: part for part in one["segments"]}
    after = one["separator_loss"] + one["filter_loss"] + one["discharge_loss"]
    for hood in one["hoods"]:
        vp = 0.5 * rho * (hood["flow"] / (pi / 4 * hood["port_diameter"] ** 2)) ** 2
        assert hood["entry_loss"] == pytest.approx(hood["entry_coefficient"] * vp, rel=1e-6)
        assert hood["static_suction"] == pytest.approx((1 + hood["entry_coefficient"]) * vp, rel=1e-6)
        total = hood["entry_loss"] + sum(flows[name]["pressure_loss"] for name in hood["path"]) + after
        assert total == pytest.approx(one["source_pressure"], rel=5e-3)


def test_mass_friction_and_energy(report: dict[str, Any]) -> None:
    assert report["ducts"]
    for system in report["ducts"]:
        curve = PchipInterpolator(*np.array(system["curve"]["points"]).T)
        for one in system["gate_sets"]:
            check_segments(one, system, report["air"])
            check_source(one, system, curve, report["air"])
            check_hoods(one)


def test_the_text_has_what_every_hood_gets_in_every_choice_of_gates(
    demo: tuple[str, tuple[dict[str, Any], str]],
) -> None:
    name, (_, text) = demo
    answers, say = Answers(loads(demo_bytes(name)).shop, Memory()), Figures("metric")
    networks = answers.of(DuctAnswers).networks
    for hood in (hood for network in networks for flows in network.sets for hood in flows.hoods):
        row = f"{say.flow(hood.flow)} +{re.escape(say.pressure(hood.static_suction))}\n"
        assert bool(re.search(row, text)) == hood.is_open
    assert networks


def test_lanes_add_up(report: dict[str, Any]) -> None:
    for one in report["lanes"]:
        shorter, longer = sorted((one["in"]["length"], one["out"]["length"]))
        if one["across"]:
            assert one["hand_room"] == 0 and one["trims"] == longer
            assert one["longest_board"] == pytest.approx(min(longer, 2 * shorter))
        else:
            assert one["longest_board"] == pytest.approx(max(0.0, shorter - one["hand_room"]))
        assert one["high"] > one["low"]


def check_stretch(one: dict[str, Any], day: dict[str, Any], band: str) -> None:
    """What is removed, released and at the tool, from the inputs."""
    e, c = {"low": (0, 2), "central": (1, 1), "high": (2, 0)}[band]
    cut = [w for w in day["work"] if w["id"] in one["spells"]]
    past = [w["emission"][e] * w["cutting"] * (1 - w["capture"][c]) for w in cut]
    exchange = {"low": 30, "central": 8, "high": 6}[band]
    assert one["near"][band] == pytest.approx(max(past, default=0.0) / exchange)
    blown = {w["blows_into"]["source"]: w["blows_into"] for w in cut if w["blows_into"]}
    fine = sum(size["share"] for size in day["sizes"] if size["high"] <= 2.5)
    for index, size in enumerate(day["sizes"]):
        cleaned = sum(3600 * b["flow"] * b["efficiency"][index] for b in blown.values())
        if one["cleaner_on"]:
            cleaned += sum(3600 * c["flow"] * c["efficiency"][index] * c["mixing"] for c in day["cleaners"])
        removed = cleaned / day["volume"] + one["air_changes"] + size["settling"]
        assert one["removal"][index] == pytest.approx(removed)
        back = sum(
            60
            * w["emission"][e]
            * w["cutting"]
            * w["capture"][c]
            * (1 - w["blows_into"]["efficiency"][index])
            for w in cut
            if w["blows_into"]
        )
        expected = (60 * sum(past) + back) * size["share"]
        if size["high"] <= 2.5 and any(w["fine"] for w in cut):
            (w,) = cut
            let = 1 - w["capture"][1]
            if w["blows_into"]:
                let += w["capture"][1] * (1 - w["blows_into"]["efficiency"][index])
            given = w["fine"][("low", "central", "high").index(band)]
            expected = 60 * given * let * size["share"] / fine
        assert one["released"][band][index] == pytest.approx(expected)


def marched(
    report: dict[str, Any], size: int, one: dict[str, Any], band: str, now: np.ndarray, steps: int
) -> tuple[np.ndarray, np.ndarray]:
    """One size in all rooms over a stretch by powers of a matrix exponential: levels (steps + 1, rooms), and
    the dose in each.
    """
    from scipy.linalg import expm

    rooms, many = report["rooms"], len(report["rooms"])
    settling = report["session"]["sizes"][size]["settling"]
    volumes = np.array([room["volume"] for room in rooms])
    removal = [one["removal"][size]]
    removal += [room["changes"] + 3600 * room["cleaning"] / room["volume"] + settling for room in rooms[1:]]
    exchanged = np.array(one["exchanged"])
    matrix = exchanged / volumes[:, None] - np.diag(exchanged.sum(axis=1) / volumes + removal)
    whole = np.zeros((2 * many + 1, 2 * many + 1))
    whole[:many, :many], whole[many : 2 * many, :many] = matrix, np.eye(many)
    whole[0, -1] = one["released"][band][size] / volumes[0]
    forward = expm(whole * (one["end"] - one["start"]) / 60 / steps)
    states = [np.concatenate([now, np.zeros(many), [1.0]])]
    for _ in range(steps):
        states.append(forward @ states[-1])
    found = np.array(states)
    return found[:, :many], found[-1, many : 2 * many]


def test_room_air_by_hand(report: dict[str, Any]) -> None:
    """Each size marched from stretch to stretch in all rooms at once; peak at switchings or between them by
    fine steps. What is breathed is the room's dust and what hangs at the tool.
    """
    day, many = report["session"], len(report["rooms"])
    assert day["outdoors"] == 0
    for band, said in day["bands"].items():
        now = np.zeros((len(day["sizes"]), many))
        dose, near, peak = np.zeros(many), 0.0, 0.0
        for one in day["stretches"]:
            check_stretch(one, day, band)
            found = [marched(report, size, one, band, level, 400) for size, level in enumerate(now)]
            now = np.array([levels[-1] for levels, _ in found])
            if one["end"] <= day["session_minutes"] + 1e-9:
                peak = max(peak, sum(levels for levels, _ in found)[:, 0].max())
                near += one["near"][band] * (one["end"] - one["start"]) / 60
                dose += sum(each for _, each in found)
        for room, held in zip(report["rooms"], dose):
            assert room["bands"][band]["average_8h"] == pytest.approx(held / 8, rel=1e-3, abs=1e-9)
        dose = dose[0]
        assert said["peak"] == pytest.approx(peak, rel=1e-3)
        assert said["average_8h"] == pytest.approx(dose / 8, rel=1e-3)
        assert said["personal_8h"] == pytest.approx((dose + near) / 8, rel=1e-3)
        assert said["mean"] == pytest.approx(dose / (day["session_minutes"] / 60), rel=1e-3)
        assert said["share_of_limit"] == pytest.approx((dose + near) / 8 / day["limit"]["value"], rel=1e-3)


def test_room_air_with_pm25_that_was_measured() -> None:
    shop = loads(demo_bytes("garage-mended")).shop
    (first, *_) = shop.air.session.work
    with advising(put(shop, replace(first, fine=(0.5, 1.0, 3.0))), Memory()) as advised:
        measured = as_json(advised)
    (one,) = (work for work in measured["session"]["work"] if work["fine"])
    assert one["id"] == first.id and list(one["fine"]) == [0.5, 1.0, 3.0]
    test_room_air_by_hand(measured)


def test_the_documented_keys_are_the_ones_that_are_there(report: dict[str, Any]) -> None:
    from pathlib import Path

    words = (Path(__file__).parents[1] / "docs" / "report.md").read_text()

    def keys(value: object) -> set[str]:
        if isinstance(value, dict):
            return set(value) | {key for inner in value.values() for key in keys(inner)}
        return {key for inner in value for key in keys(inner)} if isinstance(value, list) else set()

    skipped = {key for finding in report["findings"] for key in finding["figures"]}
    missing = {key for key in keys(report) - skipped if f"`{key}`" not in words}
    assert missing == set()


def test_the_text_says_what_the_findings_say(demo: tuple[str, tuple[dict[str, Any], str]]) -> None:
    name, (report, text) = demo
    assert all(one["sentence"] in text for one in report["findings"])
    if loads(demo_bytes(name)).shop.units == "metric":
        assert "m³/h" in text and "cfm" not in text


def test_where_nothing_small_helps_the_report_says_what_would_have_to_go(small_shop: Shop) -> None:
    shelf = block("shelf", 3.0, 3.6, 2.9, 0.4, 2.0, settled=True)
    shop = put(change(small_shop, "saw", settled=True), shelf)
    with advising(shop, Memory()) as advised:
        found, words = as_json(advised), as_text(advised)
    (lane,) = (one for one in found["findings"] if one["rule"] == "lane")
    assert lane["moves"] == [] and lane["nothing_small"].endswith("shelf would have to go from there.")
    assert lane["nothing_small"] in words
    assert all(one["nothing_small"] is None for one in found["findings"] if one["moves"])
