"""The simulated day and the logs as CSV."""

import csv
import io

import pytest

from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.lists import air_csv, logs_csv
from purvel.review import Answers, Memory
from purvel.review.air.answers import AirAnswers
from purvel.review.air.log_answers import LogAnswers
from purvel.shop import Shop
from purvel.shop.air import LogEvent
from purvel.shop.edits import put


def rows(text: str) -> list[dict[str, str]]:
    return list(csv.DictReader(io.StringIO(text)))


def test_the_day_minute_by_minute_is_the_day() -> None:
    shop = loads(demo_bytes("spare-room")).shop
    day = Answers(shop, Memory()).of(AirAnswers).day
    assert day is not None
    found = rows(air_csv(shop))
    assert [row["minute"] for row in found[:3]] == ["0", "1", "2"] and len(found) >= day.session_minutes
    central = day.courses["central"]
    peak = found[round(central.peak_at)]
    assert float(peak["all dust"]) == pytest.approx(central.peak, rel=1e-3)
    sizes = [float(peak[size.name]) for size in day.sizes]
    assert sum(sizes) == pytest.approx(float(peak["all dust"]), rel=1e-3)
    assert float(peak["all dust low"]) < float(peak["all dust"]) < float(peak["all dust high"])
    assert float(peak["at the tool"]) >= float(peak["all dust"])
    assert max(float(row["the flat"]) for row in found) == pytest.approx(
        day.rooms["flat"]["central"].peak, rel=1e-3
    )
    assert rows(air_csv(Shop())) == [] and air_csv(Shop()).startswith("minute,")


def test_the_logs_reading_by_reading_with_what_was_noted() -> None:
    document = loads(demo_bytes("garage-mended"))
    shop = document.shop
    log = next(one for one in shop.attachments if one.kind == "log")
    shop = put(shop, LogEvent(id="cut", log=log.id, at=600.0, name="first cut"))
    found = rows(logs_csv(shop, document.blobs))
    logs = Answers(shop, Memory(attachments=document.blobs)).of(LogAnswers)
    channels = logs.logs[log.id].channels
    first = [row for row in found if row["column"] == channels[0].name]
    assert len(first) == int(sum(channels[0].values == channels[0].values))
    assert float(first[0]["value"]) == pytest.approx(channels[0].values[0], rel=1e-5)
    assert {row["unit"] for row in found} == {"1/L", "µg/m³", "%"}
    assert {row["time"] for row in found if row["event"] == "first cut"} == {"2026-10-17 18:40:00.000"}
    assert any(row["stretch"] == "Before work" for row in found)
    assert rows(logs_csv(Shop(), {})) == []
