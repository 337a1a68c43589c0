"""Names are shown as they are written, in the window and on the sheets, whatever letters they hold."""

import ast
import xml.etree.ElementTree as ET
from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import QByteArray, Qt
from PySide6.QtSvg import QSvgRenderer
from PySide6.QtWidgets import QApplication, QLabel

import purvel.app
from purvel.app.application import make_application
from purvel.app.sheets.binder import binder_text
from purvel.app.sheets.drawing import plan_svg
from purvel.app.widgets.words import Words, plain, set_tip
from purvel.demo import demo_bytes
from purvel.files import loads, saves
from purvel.review import review
from tests.app.conftest import Bench

BOLD = "<b>Saw</b> & <img src=x>"


def test_a_label_shows_a_name_as_it_is_written(bench: Bench) -> None:
    """Every label of a crowded window, the one verdict with a bold figure left out."""
    document = loads(demo_bytes("garage"))
    things = tuple(replace(thing, name=BOLD) for thing in document.shop.things)
    bench.window.keeper.open(replace(document, shop=replace(document.shop, things=things)), None)
    bench.stage("place")
    labels = bench.window.findChildren(QLabel)
    assert any("<b>Saw" in label.text() for label in labels)
    rich = [label for label in labels if label.textFormat() != Qt.TextFormat.PlainText and label.text()]
    assert rich in ([], [label for label in labels if "Breathed over 8 h" in label.text()])


def test_labels_and_tips_are_made_in_one_place() -> None:
    """Qt reads markup in both; `words` is where it does not."""
    folder = Path(purvel.app.__file__).parent
    for path in folder.rglob("*.py"):
        if path.name == "words.py":
            continue
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Call):
                called = (
                    node.func.attr if isinstance(node.func, ast.Attribute) else getattr(node.func, "id", "")
                )
                assert called not in ("QLabel", "setToolTip"), f"{path}:{node.lineno}"


def test_a_tip_shows_the_letters_that_it_was_given(qapp: QApplication) -> None:
    label = Words()
    set_tip(label, "Saw 3 < 4")
    assert plain("Saw & vac") == "Saw & vac"
    assert "&lt; 4" in label.toolTip()


def test_a_name_with_markup_makes_sound_sheets() -> None:
    make_application(["purvel-test"])
    document = loads(demo_bytes("garage"))
    shop = document.shop
    things = tuple(replace(thing, name=BOLD) for thing in shop.things)
    shop = loads(saves(replace(document, shop=replace(shop, name=BOLD, things=things)))).shop
    checked = review(shop)
    drawn = plan_svg(checked)
    words = [text.text for text in ET.fromstring(drawn).iter("{http://www.w3.org/2000/svg}text")]
    assert any(word and word.startswith("<b>") for word in words)
    assert QSvgRenderer(QByteArray(drawn)).isValid()
    assert "<img" not in binder_text(checked) and "<b>Saw" not in binder_text(checked)
