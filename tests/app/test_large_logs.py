"""Logs too large to be read at once: the window goes on, and nothing is lost by it."""

from pathlib import Path

import pytest

from tests.app.conftest import Bench
from tests.app.test_logs import csv, stage
from tests.devices.test_monitor import played, serving


def test_a_large_log_is_read_while_the_window_goes_on(bench: Bench, tmp_path: Path) -> None:
    shown = stage(bench)
    path = tmp_path / "large.csv"
    rows = [
        f"2026-05-{1 + k // 43200:02d} {k // 3600 % 12:02d}:{k // 60 % 60:02d}:{k % 60:02d},{k % 50}"
        for k in range(86_000)
    ]
    path.write_text("\n".join(["time,>0.5um per l", *rows]))
    assert path.stat().st_size > 1_000_000
    shown.log_tool.take_file(path)
    assert shown.log_tool.reading.is_on and "Reading large.csv" in shown.log.live
    shown.log_tool.take_file(csv(tmp_path))
    assert "Another log is being read" in bench.window.notice.said.text()
    bench.bot.waitUntil(lambda: not shown.log_tool.reading.is_on, timeout=20_000)
    bench.settle()
    assert bench.workspace.shop.attachments[-1].name == "large.csv" and shown.log.live == ""
    assert shown.log.logs is not None and len(shown.log.logs.logs[shown.log.log or ""].seconds) > 80_000


def test_a_recording_that_ends_while_a_large_log_is_read_is_kept(bench: Bench, tmp_path: Path) -> None:
    shown = stage(bench)
    path = tmp_path / "large.csv"
    path.write_text("\n".join(["time,>0.5um per l", *(f"{k},{k % 50}" for k in range(200_000))]))
    with serving(played(), speed=2000.0) as port:
        shown.log_tool.record(port)
        bench.bot.waitUntil(lambda: shown.log_tool.recorder.passed > 0, timeout=10_000)
        shown.log_tool.take_file(path)
        assert shown.log_tool.reading.is_on
        shown.log_tool.recorder.stop()
        bench.bot.waitUntil(lambda: not shown.log_tool.reading.is_on, timeout=20_000)
    names = [one.name for one in bench.workspace.shop.attachments[-2:]]
    assert names[0] == "large.csv" and names[1].startswith("recording ")


def test_what_goes_wrong_in_reading_is_said(
    bench: Bench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    shown = stage(bench)
    before = bench.workspace.shop

    def breaks(*_: object) -> None:
        raise MemoryError

    monkeypatch.setattr("purvel.app.stages.air.log_tool.read_attached", breaks)
    path = tmp_path / "large.csv"
    path.write_text("\n".join(["time,>0.5um per l", *(f"{k},{k % 50}" for k in range(200_000))]))
    shown.log_tool.take_file(path)
    bench.bot.waitUntil(lambda: not shown.log_tool.reading.is_on, timeout=20_000)
    monkeypatch.undo()
    bench.settle()
    assert "could not be read: MemoryError" in bench.window.notice.said.text()
    assert bench.workspace.shop == before and shown.log.live == ""
