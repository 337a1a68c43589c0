"""Tiles and cut-outs as they are written."""

import re
from pathlib import Path

import pytest
from PySide6.QtWidgets import QApplication

from purvel.app.sheets import ExportError, write
from purvel.demo import demo_bytes
from purvel.files import loads


def pages_of(path: Path) -> tuple[int, tuple[float, float]]:
    """How many pages a PDF has, and how large they are [mm]."""
    data = path.read_bytes()
    count = len(re.findall(rb"/Type /Page\b", data))
    box = re.search(rb"/MediaBox \[0 0 ([\d.]+) ([\d.]+)\]", data)
    assert box is not None
    return count, (float(box.group(1)) / 72 * 25.4, float(box.group(2)) / 72 * 25.4)


def test_the_sheets_are_written_by_their_names(qapp: QApplication, tmp_path: Path) -> None:
    # 3.3 x 6.6 m, 0.8 m round it: 245 x 410 mm at 1:20; at 1:2 14 x 17 sheets of 180 x 255 mm
    document = loads(demo_bytes("single-garage"))
    for name, count, size in (
        ("tiles.pdf", 4, (210, 297)),
        ("tiles-letter.pdf", 4, (215.9, 279.4)),
        ("tiles-1to50.pdf", 1, (210, 297)),
        ("cut-outs.pdf", 1, (210, 297)),
    ):
        write(document, tmp_path / name)
        pages, (wide, high) = pages_of(tmp_path / name)
        assert pages == count, name
        assert (wide, high) == (pytest.approx(size[0], abs=0.5), pytest.approx(size[1], abs=0.5)), name
    for name, says in (
        ("tiles-1to1.pdf", "no scale"),
        ("tiles-1to2.pdf", "takes 238 sheets"),
        ("cutouts-1to2.pdf", "larger than the paper"),
    ):
        with pytest.raises(ExportError, match=says):
            write(document, tmp_path / name)
        assert not (tmp_path / name).exists()


def test_the_svg_states_its_scale(qapp: QApplication, tmp_path: Path) -> None:
    """49 x 82 dm at 1:20."""
    write(loads(demo_bytes("single-garage")), tmp_path / "plan.svg")
    text = (tmp_path / "plan.svg").read_text()
    assert 'width="245.000mm" height="410.000mm"' in text
    assert "<desc>Scale 1:20 at 245.000mm by 410.000mm; 100 units to the metre.</desc>" in text
