"""One record a stage: a stage planted with a folder in the core, a folder for its window and a line in each
tuple.

Everything else follows: findings, remedies, report, text, finder, digit key, rail, empty state, pictures,
binder.
"""

import json
import os
import re
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

from purvel.files import Document, save
from purvel.shop import Shop

ROOT = Path(__file__).parents[2]

CORE = '''
"""A stage that counts what stands in the shop."""

from purvel.review.finding import Basis, Finding, Grade
from purvel.review.stage import Stage, Table
from purvel.shop.edits import change_shop


def _count(answers, say):
    grade = Grade.GOOD if answers.shop.notes else Grade.WATCH
    things = len(answers.shop.things)
    yield Finding("count", grade, (), f"{things} things stand here.", "Counted.", Basis("geometry", "As drawn."))


def _write(finding, answers, say):
    yield "Write it down", lambda shop: change_shop(shop, notes="counted")


STAGE = Stage(
    key="tenth",
    title="Tenth",
    question="How many are there?",
    applies=lambda answers: bool(answers.shop.things),
    rules=(_count,),
    remedies={"count": _write},
    report=lambda answers: {"tenth": {"things": len(answers.shop.things)}},
    summary=lambda answers, say: [f"Tenth: {len(answers.shop.things)} things."],
    tables=lambda answers, say: [Table("What stands here", ("Thing",), [(one.name,) for one in answers.shop.things])],
)
'''
WINDOW = '''
"""The window of the tenth stage."""

from purvel.app.stages import entry_of
from purvel.app.stages.stage import Stage


class TenthStage(Stage):
    """How many are there?"""

    entry = entry_of("tenth")

    def empty_hint(self):
        return "" if self.workspace.shown.things else "Nothing to count yet: press 2 and place something."

    def commands(self):
        return [("Count again", self.workspace.undo)]
'''
PROBE = """
import json, os, sys, tempfile
os.environ["QT_QPA_PLATFORM"] = "offscreen"
from pathlib import Path
from PySide6.QtCore import QSettings, Qt
from PySide6.QtTest import QTest
from purvel.app import commands
from purvel.app.application import make_application
from purvel.app.window import Window
from purvel.files import load

folder = Path(tempfile.mkdtemp())
application = make_application(["purvel"])
window = Window(folder, QSettings(str(folder / "settings"), QSettings.Format.IniFormat))
window.resize(1024, 700)
window.theme.set_text(24)
window.show()
for _ in range(5):
    application.processEvents()
digit = sys.argv[1]
QTest.keyClicks(window.plan, digit)
empty = window.stage.empty_hint()
window.keeper.open(load(Path(sys.argv[2])), None)
QTest.keyClicks(window.plan, digit)
while window.reviews.is_stale or window.reviews.is_searching:
    application.processEvents()
window.find_anything()
found = [name for name, _ in window.finder._entries]
window.finder.hide()
card = window.findings.cards[0]
window.findings.reveal(card.finding)
while window.findings.is_waiting:
    application.processEvents()
buttons = [button.bottom() for button in (one.geometry() for one in window.rail.buttons)]
print(json.dumps({
    "stage": window.stage.entry.key,
    "empty": empty,
    "rail": [one.text() for one in window.rail.buttons],
    "rail_bottom": max(buttons), "rail_height": window.rail.height(),
    "clipped": [one.text() for one in window.rail.buttons if one.height() < one.sizeHint().height()],
    "finder": [name for name in found if "Tenth" in name or "Count again" in name or "things stand" in name],
    "card": card.finding.sentence,
    "remedies": [one.tried.label for one in window.findings.findChildren(__import__("purvel.app.widgets.cards", fromlist=["x"]).RemedyButton)],
}))
window.close()
"""


@pytest.fixture(scope="module")
def house(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The house with stages added until there are ten; the last does something."""
    folder = tmp_path_factory.mktemp("house")
    shutil.copytree(ROOT / "src", folder / "src", ignore=shutil.ignore_patterns("__pycache__"))
    shutil.copytree(ROOT / "tools", folder / "tools")
    package = folder / "src" / "purvel"
    order, entries = package / "review" / "stages.py", package / "app" / "stages" / "__init__.py"
    there = len(re.findall(r'^    "\w+",$', order.read_text(), re.M))
    planted = [f"filler{number}" for number in range(there + 1, 10)] + ["tenth"]
    for key in planted:
        name = key.capitalize()
        core, window = package / "review" / key, package / "app" / "stages" / key
        for place in (core, window):
            place.mkdir()
        source = (
            CORE
            if key == "tenth"
            else 'from purvel.review.stage import Stage\n\nSTAGE = Stage("%s", "%s", "What?")\n'
        )
        (core / "__init__.py").write_text(source if key == "tenth" else source % (key, name))
        (window / "__init__.py").write_text("")
        (window / "stage.py").write_text(WINDOW.replace("tenth", key).replace("Tenth", name))
        order.write_text(order.read_text().replace("\n)\nSTAGES", f'\n    "{key}",\n)\nSTAGES'))
        entries.write_text(
            entries.read_text().replace(
                "\n)\n\n\ndef entry_of", f'\n    Entry("{key}", "{name}Stage"),\n)\n\n\ndef entry_of'
            )
        )
    return folder


def run(house: Path, *words: str) -> str:
    environment = os.environ | {"PYTHONPATH": str(house / "src"), "QT_QPA_PLATFORM": "offscreen"}
    done = subprocess.run(
        [sys.executable, *words],
        cwd=house,
        env=environment,
        capture_output=True,
        text=True,
        check=False,
        timeout=300,
    )
    assert done.returncode == 0, done.stderr
    return done.stdout


@pytest.fixture
def shop_file(tmp_path: Path, small_shop: Shop) -> Path:
    """A shop with two things, of which a report is soon made."""
    path = tmp_path / "small.purvel"
    save(Document(small_shop), path)
    return path


def test_report_and_text_have_it(house: Path, shop_file: Path) -> None:
    said = json.loads(run(house, "-m", "purvel", "report", str(shop_file), "--json"))
    assert said["tenth"] == {"things": 2}
    (finding,) = [one for one in said["findings"] if one["stage"] == "tenth"]
    assert finding["grade"] == "watch" and [one["label"] for one in finding["moves"]] == ["Write it down"]
    text = run(house, "-m", "purvel", "report", str(shop_file))
    for line in ("Tenth: 2 things.", "What stands here", "\nTenth\n", "Would help: Write it down."):
        assert line in text


def test_the_window_has_it_in_a_small_window_at_the_largest_text(house: Path, shop_file: Path) -> None:
    seen = json.loads(run(house, "-c", PROBE, "0", str(shop_file)).splitlines()[-1])
    assert seen["stage"] == "tenth" and "press 2" in seen["empty"]
    assert seen["rail"][9] == "0 Tenth" and len(seen["rail"]) == 10
    assert seen["rail_bottom"] <= seen["rail_height"] and seen["clipped"] == []
    assert {"Go to Tenth", "Count again", "Watch: 2 things stand here."} <= set(seen["finder"])
    assert seen["card"] == "2 things stand here." and seen["remedies"] == ["Write it down"]


def test_pictures_and_binder_have_it(house: Path, tmp_path: Path, shop_file: Path) -> None:
    run(house, "tools/take_shots.py", "--shots", str(tmp_path), "--only", "tenth")
    assert (tmp_path / "tenth.png").stat().st_size > 10_000
    binder = tmp_path / "binder.html"
    code = (
        "import sys; from pathlib import Path; from purvel.app.sheets.binder import binder_text;"
        "from purvel.files import load; from purvel.review import review;"
        "print(binder_text(review(load(Path(sys.argv[1])).shop)))"
    )
    binder.write_text(run(house, "-c", code, str(shop_file)))
    assert "<h1>What stands here</h1>" in binder.read_text() and "<h2>Tenth</h2>" in binder.read_text()
