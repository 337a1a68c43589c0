"""Chains of dimensions along the walls, as they are drawn in the window."""

import pytest
from PySide6.QtCore import QPointF
from PySide6.QtGui import QImage, QPainter
from PySide6.QtWidgets import QApplication

from purvel.app.plan import draw_room
from purvel.app.plan.draw_set_out import opening_chains
from purvel.app.plan.label_layout import Label
from purvel.app.plan.sheet import Sheet
from purvel.app.theme import LIGHT
from purvel.shop import Opening
from purvel.space.shell import Shell, shell
from tests.conftest import box_room

DOOR = Opening(id="door", kind="swing", wall="A", offset=0.2, width=0.9, head=2.0)
PANE = Opening(id="pane", kind="window", wall="C", offset=2.0, width=1.0, head=2.0, sill=1.0)


def drawn(qapp: QApplication, monkeypatch: pytest.MonkeyPatch, room: Shell, scale: float) -> list[Label]:
    image, letters = QImage(800, 800, QImage.Format.Format_RGB32), list[Label]()
    painter = QPainter(image)
    sheet = Sheet(painter, LIGHT, scale, QPointF(100, 700), 15)
    monkeypatch.setattr(Sheet, "label", lambda self, label: letters.append(label))
    opening_chains(sheet, room, "metric", draw_room.outside(sheet, 0))
    painter.end()
    return letters


def test_each_opening_has_its_distances_outside_its_wall(
    qapp: QApplication, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Walls A (below) and C (above) of 6 m; 5 m of depth at 100 px/m."""
    letters = drawn(qapp, monkeypatch, shell(box_room(6, 5, openings=(DOOR, PANE))), 100.0)
    below = [one for one in letters if one.spots[0].middle.y() > 700]
    above = [one for one in letters if one.spots[0].middle.y() < 200]
    assert [one.texts for one in below] == [("900 mm",), ("4900 mm",)]  # 200 mm have no room for a figure
    assert [one.spots[0].middle.x() for one in below] == pytest.approx([100 + 65, 100 + 355])
    assert [one.texts for one in above] == [("2000 mm",), ("1000 mm",), ("3000 mm",)]
    assert len(letters) == len(below) + len(above)  # the others have no openings


def test_a_figure_comes_with_the_room_for_it(qapp: QApplication, monkeypatch: pytest.MonkeyPatch) -> None:
    room = shell(box_room(6, 5, openings=(DOOR,)))
    texts = [
        [label.texts[0] for label in drawn(qapp, monkeypatch, room, scale)] for scale in (20.0, 100.0, 400.0)
    ]
    assert texts == [["4900 mm"], ["900 mm", "4900 mm"], ["200 mm", "900 mm", "4900 mm"]]


def test_rows_outside_the_walls_are_apart_in_lettering_at_every_scale(qapp: QApplication) -> None:
    image = QImage(10, 10, QImage.Format.Format_RGB32)
    painter = QPainter(image)
    for scale in (30.0, 300.0):
        sheet = Sheet(painter, LIGHT, scale, QPointF(0, 0), 15)
        apart = draw_room.outside(sheet, 1) - draw_room.outside(sheet, 0)
        assert apart * scale == pytest.approx(1.3 * 15)
    painter.end()
